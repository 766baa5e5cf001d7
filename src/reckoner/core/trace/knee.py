"""The torque at the knee of a signal, on the samples as they came: no smoothing lowers it.

A line or parabola through the rise is followed to where the samples leave it downwards, so that the noise of many samples
averages out. How far back the rise is followed is chosen by the samples themselves: as far as what is found so agrees with
what the nearest samples alone say. A quiet meter and a hand that trembles are followed over some hundredths of a second, a
noisy meter and a steady hand over three tenths.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import numpy.typing as npt

from reckoner.core.quantities.arrays import Values

LONGEST = 0.3
"""Seconds of rise that count at most."""

_GUARD = 0.0004
_SHORTEST = 0.010
_FEWEST = 6
_HISS = 250
_GROWTH = 1.4
_FALL_BEGINS = 0.003
"""Seconds over which the beginning of a fall is averaged."""

_AGREES = 2.2
"""Standard uncertainties within which two windows agree."""


def knee(raw: Values, peak: int, stop: int, spread: int, rate: float) -> tuple[float, int]:
    """The torque (N·m) at the knee near index ``peak`` of ``raw``, and its index. Refuses nothing.

    ``raw`` is the rise and what follows it, at ``rate`` samples a second; most of the fall is done at ``stop``, and
    ``spread`` samples are what smoothing may have moved the peak by. The knee itself stands between two samples, half a
    sample after the last of the rise, or where the falling line crosses the rise. Source: Page's cumulative sum for the
    place; intersection of confidence intervals (Goldenshluger & Nemirovski, 1997) for the length of the rise.
    """
    begin, safe = max(0, peak - round(LONGEST * rate)), max(0, peak - spread)
    fallen, stop = stop, min(len(raw), max(stop, peak + 2 * spread + 2))
    if safe - begin < _FEWEST:
        at = begin + int(np.argmax(raw[begin:stop]))
        return float(raw[at]), at
    noise = hiss(raw[max(begin, safe - _HISS) : safe])
    step = max(4 * noise / math.sqrt(max(1.0, _FALL_BEGINS * rate)), 2e-4 * abs(float(raw[peak])))
    guard, far = round(_GUARD * rate), round(LONGEST * rate)

    def rise_before(end: int, ahead: int = 0) -> _Curve:
        back = max(0, end - far)
        return _rise(raw[back:end], back, noise, rate, ahead)

    rise = rise_before(safe, peak - safe)
    at = safe + int(np.argmax(np.cumsum(raw[safe:stop] - rise(np.arange(safe, stop)) + step / 2)))
    upto = max(safe, at - guard)
    rise = rise_before(upto)
    fallen = max(fallen, at + 3)
    between = _crossing(raw[at:fallen] - rise(np.arange(at, min(fallen, len(raw)))), noise)
    place = at + (0.5 if between is None else between)
    nearer = max(begin + _FEWEST, min(at, int(place)) - guard)
    if between is not None and abs(nearer - upto) > guard:
        rise = rise_before(nearer)
    at = max(begin, round(place))
    width = int(np.clip(np.ceil((noise / (0.002 * abs(float(raw[peak])))) ** 2), 1, max(1, round(0.02 * rate))))
    near = np.convolve(raw[max(begin, at - 2 * spread - width) : stop], np.ones(width) / width, mode="valid")
    value, earlier = rise(np.array([place, place - 1.0]))
    margin = (0.5 if width <= 2 else 1.8) * noise / math.sqrt(width)
    highest = float(near.max()) + margin + max(0.0, float(value - earlier))
    return min(float(value), highest), at


def hiss(raw: Values) -> float:
    """The standard deviation (N·m) of what changes from one sample to the next, whatever slower does: from third
    differences. Refuses nothing. Source: the detector, docs/calculations.md, Traces."""
    if len(raw) < 8:
        return 0.0
    return 1.4826 * float(np.median(np.abs(np.diff(raw, n=3)))) / math.sqrt(20.0)


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


@dataclass(frozen=True)
class _Curve:
    """A line or parabola: ``weights`` on 1, v, v² with v = (index − ``end``)/``span``."""

    weights: tuple[float, ...]
    end: float
    span: float

    def __call__(self, index: npt.NDArray[np.float64] | npt.NDArray[np.intp]) -> Values:
        v: Values = (np.asarray(index, dtype=np.float64) - self.end) / self.span
        found: Values = np.full(len(v), self.weights[-1])
        for weight in self.weights[-2::-1]:
            found = found * v + weight
        return found


@dataclass(frozen=True)
class _Fits:
    """Least-squares polynomials of one degree over the last ``counts`` samples: ``solve`` turns the sums of v^k·y over each
    of them into its weights, ``asked`` into the value that is asked for, and ``unsure`` is the standard uncertainty of
    that, for noise of 1."""

    counts: npt.NDArray[np.intp]
    solve: npt.NDArray[np.float64]
    asked: npt.NDArray[np.float64]
    unsure: tuple[float, ...]


@lru_cache(64)
def _powers(length: int, highest: int = 2) -> npt.NDArray[np.float64]:
    """1, v, v² … of the samples from the last one back."""
    v = np.arange(-1, -length - 1, -1, dtype=np.float64) / length
    return np.stack([v**k for k in range(highest + 1)])


@lru_cache(256)
def _fits(length: int, shortest: int, degree: int, ahead: int) -> _Fits:
    counts = [min(length, shortest)]
    while counts[-1] < length:
        counts.append(min(length, math.ceil(counts[-1] * _GROWTH)))
    powers = np.cumsum(_powers(length, 2 * degree), axis=1)
    order = np.add.outer(np.arange(degree + 1), np.arange(degree + 1))
    solve = np.stack([np.linalg.inv(powers[order, count - 1]) for count in counts])
    there = (ahead / length) ** np.arange(degree + 1)
    asked = solve @ there  # the inverse is symmetric
    return _Fits(np.array(counts), solve, asked, tuple(np.sqrt(asked @ there).tolist()))


def _rise(raw: Values, begin: int, noise: float, rate: float, ahead: int = 0) -> _Curve:
    """The curve through the end of ``raw``, whose first sample has index ``begin``, that says best what follows ``ahead``
    samples later: over the longest stretch, straight or bent, that agrees with the shorter ones."""
    length, last = len(raw), float(raw[-1])
    noise = max(noise, 1e-5 * abs(last))
    shortest = max(_FEWEST, round(_SHORTEST * rate))
    sums = np.cumsum(_powers(length) * (raw[::-1] - last), axis=1)
    best: tuple[float, tuple[float, ...]] = (math.inf, (0.0,))
    for degree in (1, 2):
        fits = _fits(length, shortest, degree, ahead)
        moments = sums[: degree + 1, fits.counts - 1]
        low, high, agreed = -math.inf, math.inf, 0
        for number, value in enumerate((fits.asked * moments.T).sum(axis=1).tolist()):
            doubt = _AGREES * fits.unsure[number] * noise
            if value - doubt > high or value + doubt < low:
                agreed = max(0, agreed - 1)  # the last that agreed was on the way to disagreeing
                break
            low, high, agreed = max(low, value - doubt), min(high, value + doubt), number
        if fits.unsure[agreed] < best[0]:
            best = (fits.unsure[agreed], tuple((fits.solve[agreed] @ moments[:, agreed]).tolist()))
    return _Curve((best[1][0] + last, *best[1][1:]), float(begin + length), float(length))
