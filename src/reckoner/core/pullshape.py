"""The shape of a fall: a tool's signal, or a hand that let go; and the torque at the knee of a signal.

A tool that clicks, breaks or slips gives way within some hundredths of a second, and then bears again: the fall stops in a
shoulder, or turns. A hand lets go slowly, and down to nothing. The live watch
(``stream``) and the whole-trace analysis (``trace``) share what stands here.
"""

from __future__ import annotations

import math
from enum import Enum, auto

import numpy as np
import numpy.typing as npt

from reckoner.core.arrays import Values

THRESHOLD = 0.10
"""The fraction of the target above which a pull has begun; below half of it the pull has ended."""

DROP = 0.01
"""The fall, as a fraction of the peak, that makes it a signal; four times the noise where that is more."""

FLOOR = 0.6
"""A reversal below this fraction of the target is a jerk, not the signal, when a signal follows."""

SHOULDER = 0.35
"""The fall has stopped when it is slower than this fraction of its steepest."""

FALL = 0.06
"""Seconds within which a tool's fall at its signal is over."""

LEAST_SPEED = 1.0
"""A signal falls at least this fast, as a fraction of its peak a second."""

BEARING = 0.5
"""The fraction of the peak above which a shoulder must stand."""

QUICKER_THAN_A_HAND = 0.04
"""Seconds from 95 % to 50 % of the peak; no hand lets go faster."""

_SLOPE_OVER = 0.012
"""Seconds over which a slope is taken."""


class Fall(Enum):
    SIGNAL = auto()
    LET_GO = auto()
    OPEN = auto()


def shape_of_fall(after: Values, rate: float, drop: float, noise: float = 0.0) -> Fall:
    """What a fall is, from the smoothed torque ``after`` its peak (N·m, the peak first) at ``rate`` samples a second.

    ``drop`` in N·m is what makes it a fall at all, ``noise`` in N·m the standard deviation left in ``after``. OPEN while
    the samples do not tell yet.
    """
    peak = float(after[0])
    below = np.flatnonzero(after < BEARING * peak)
    bearing = after[: int(below[0])] if len(below) else after
    if _has_shoulder(bearing, rate, drop, noise):
        return Fall.SIGNAL
    if not len(below):
        return Fall.OPEN
    begun = np.flatnonzero(after[: int(below[0])] >= 0.95 * peak)
    took = (int(below[0]) - (int(begun[-1]) if len(begun) else 0)) / rate
    return Fall.SIGNAL if took < QUICKER_THAN_A_HAND else Fall.LET_GO


def _has_shoulder(after: Values, rate: float, drop: float, noise: float) -> bool:
    step = max(1, round(_SLOPE_OVER * rate))
    if len(after) <= step + 1:
        return False
    slope = (after[step:] - after[:-step]) * (rate / step)
    unsure = noise * np.sqrt(2.0) * rate / step
    steepest = np.minimum.accumulate(slope) + 3 * unsure
    fallen = after[step:] < after[0] - drop
    stopped = (slope - 2 * unsure > SHOULDER * steepest) & fallen & (steepest < -LEAST_SPEED * after[0])
    return bool(stopped.any())


def steepest_fall(after: Values, rate: float) -> float:
    """The steepest fall in ``after`` in N·m a second; 0 when it does not fall."""
    step = max(1, round(_SLOPE_OVER * rate))
    if len(after) <= step:
        return max(0.0, float(after[0] - after[-1]) * rate / step)
    return max(0.0, -float((after[step:] - after[:-step]).min()) * rate / step)


def knee(raw: Values, peak: int, stop: int, spread: int, rate: float) -> tuple[float, int, float]:
    """The torque (N·m) at the knee near index ``peak``, its index, and the noise of ``raw`` (N·m, standard deviation).

    ``raw`` is the rise and what follows it; most of the fall is done at ``stop``, and ``spread`` samples are what smoothing
    may have moved the peak by. A line or
    parabola through the rise is followed to where the samples leave it downwards (the most likely change point), so the
    noise of hundreds of samples averages out and no smoothing lowers the value. Source: Page's cumulative sum; Draper &
    Smith, 1.4. The knee itself stands between two samples, half a sample after the last of the rise.
    """
    begin, safe = max(0, peak - round(0.3 * rate)), max(0, peak - spread)
    fallen, stop = stop, min(len(raw), max(stop, peak + 2 * spread + 2))
    if safe - begin < 6:
        at = begin + int(np.argmax(raw[begin:stop]))
        return float(raw[at]), at, 0.0
    rise, noise = _rise(raw, begin, safe)
    at = safe
    for _ in range(2):
        off = raw[safe:stop] - rise(np.arange(safe, stop))
        step = max(4 * noise, 2e-4 * abs(float(raw[peak])))
        at = safe + int(np.argmax(np.cumsum(off + step / 2)))
        rise, noise = _rise(raw, begin, max(safe, at))
        begin = max(begin, at - _window(noise / abs(float(raw[peak])), rate))
    fallen = max(fallen, at + 3)
    between = _crossing(raw[at:fallen] - rise(np.arange(at, min(fallen, len(raw)))), noise)
    place = at + (0.5 if between is None else between)
    if between is not None:
        rise, noise = _rise(raw, begin, max(begin + 6, min(at, int(place))))
    at = max(begin, round(place))
    width = int(np.clip(np.ceil((noise / (0.002 * abs(float(raw[peak])))) ** 2), 1, max(1, round(0.02 * rate))))
    near = np.convolve(raw[max(begin, at - 2 * spread - width) : stop], np.ones(width) / width, mode="valid")
    value, before = rise(np.array([place, place - 1.0]))
    highest = float(near.max()) + 2 * noise / float(np.sqrt(width)) + max(0.0, float(value - before))
    return min(float(value), highest), at, noise


def _window(noise: float, rate: float) -> int:
    """Samples of rise that make the value at its end good to 0.06 % (a parabola's end has three times the noise of a
    mean), no shorter than 20 ms: where the meter is quiet, the nearest part of the rise tells most."""
    return round(max(12.0, 0.02 * rate, (3 * noise / 0.0006) ** 2))


def _crossing(off: Values, noise: float) -> float | None:
    """Where the line through the middle of a fall, given as what it lacks to the rise, crosses the rise; in samples.

    None where too few samples fall, or the crossing lies beyond them.
    """
    bottom = int(np.argmin(off))
    depth = -float(off[bottom])
    inside = np.flatnonzero((off[: bottom + 1] < -0.15 * depth) & (off[: bottom + 1] > -0.8 * depth))
    if len(inside) < 2 or depth < 6 * noise:
        return None
    x: Values = inside.astype(np.float64)
    y = off[inside]
    spread = float(((x - x.mean()) ** 2).sum())
    slope = float(((x - x.mean()) * (y - y.mean())).sum()) / spread
    if slope >= 0:
        return None
    crossing = float(x.mean() - y.mean() / slope)
    return crossing if -float(len(inside)) - 1 <= crossing <= float(x[0]) else None


class _Curve:
    """``level`` + ``slope``·u + ``bend``·(u² − ``mean_square``) through the rise, u in samples from ``centre``."""

    def __init__(self, centre: float, level: float, slope: float, bend: float, mean_square: float) -> None:
        self._centre, self._slope, self._bend = centre, slope, bend
        self._level = level - bend * mean_square

    def __call__(self, index: npt.NDArray[np.float64] | npt.NDArray[np.intp]) -> Values:
        u: Values = np.asarray(index, dtype=np.float64) - self._centre
        return (self._bend * u + self._slope) * u + self._level


def _rise(raw: Values, begin: int, end: int) -> tuple[_Curve, float]:
    """A line through ``raw[begin:end]``, or a parabola where the line does not do; and the residual deviation in N·m.

    Samples at even steps make 1, u and u² − (n² − 1)/12 orthogonal, so each coefficient stands for itself and nothing has
    to be solved. Source: Draper & Smith, 22.2 (orthogonal polynomials).
    """
    n = end - begin
    level = float(raw[begin:end].mean())
    y = raw[begin:end] - level
    u: Values = np.arange(n, dtype=np.float64) - (n - 1) / 2
    moment = float(u @ y)
    mean_square = (n * n - 1) / 12
    slope = moment / (n * mean_square)
    left = max(0.0, float(y @ y) - slope * moment)
    line = left / max(1, n - 2)
    u *= u
    second = float(u @ y)  # y has no mean, so the constant in the second polynomial adds nothing
    bend = second / (n * mean_square * (n * n - 4) / 15)
    parabola = max(0.0, left - bend * second) / max(1, n - 3)
    centre = begin + (n - 1) / 2
    if parabola < line * (1 - 8 / n):
        return _Curve(centre, level, slope, bend, mean_square), math.sqrt(parabola)
    return _Curve(centre, level, slope, 0.0, mean_square), math.sqrt(line)
