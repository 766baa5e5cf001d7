"""The course of one pull, made ready for looking at: even, less the mains, less knocks, less the zero, and smoothed.

A ``Course`` is the pull with what surrounds it, on two clocks: the samples as they came, from which values are taken, and
means of them, at most a thousand a second, on which events are looked for. The live watch and the whole trace make it in
the same way.

The zero-phase low-pass behind the analysis of traces, and the choice of its corner.

The filter is a second-order Butterworth run forwards and backwards: its squared magnitude 1/(1 + (f/f_c)⁴) is applied in
the frequency domain, which needs no start-up transients to be guessed and spares the slow import of SciPy's filters.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import numpy.typing as npt

from reckoner.core.quantities.arrays import Values, block_means
from reckoner.core.quantities.checks import positive
from reckoner.core.trace.gaps import Gap, gaps_within
from reckoner.core.trace.mains import Ripple, find_ripple, ripple_at

CORNERS = (100.0, 60.0, 35.0, 20.0, 12.0)
"""Corners to choose from, in Hz; the highest that leaves little enough noise."""

OF_RATE = 0.2
"""No corner above this fraction of the sampling rate."""

HAND = 25.0
"""Hz up to which a hand may tremble: what is slower than this is not noise."""

_WINDOW = 0.2
"""Length in s of the stretches from which the noise is taken."""

_WINDOWS = 12
_MEDIAN_OF_CHI2 = 0.6931471805599453
"""Median over mean of a periodogram's values (exponential distribution)."""


def low_pass(values: Values, rate: float, corner: float) -> Values:
    """``values`` at ``rate`` samples a second, smoothed at ``corner`` Hz without shifting them in time.

    The ends are continued by point reflection. Raises InputRefused for a rate or corner not above zero.
    Source: Oppenheim & Schafer, forward-backward filtering.
    """
    from scipy.fft import irfft, next_fast_len, rfft  # loads in a tenth of a second; only traces need it

    positive("rate", rate)
    pad = min(len(values) - 1, int(1.5 * rate / positive("corner", corner)))
    if pad < 1:
        return values.copy()
    before = 2 * values[0] - values[pad:0:-1]
    after = 2 * values[-1] - values[-2 : -pad - 2 : -1]
    whole = np.concatenate([before, values, after])
    size = next_fast_len(len(whole), real=True)
    ramp = np.linspace(whole[-1], whole[0], size - len(whole) + 2)[1:-1]
    spectrum = rfft(np.concatenate([whole, ramp]))
    frequency = np.arange(len(spectrum)) * (rate / size / corner)
    frequency *= frequency
    frequency *= frequency
    frequency += 1
    spectrum /= frequency
    smooth: Values = irfft(spectrum, size)[pad : pad + len(values)]
    return smooth


def choose_corner(values: Values, rate: float, allowed: float) -> tuple[float, float]:
    """The highest of ``CORNERS`` after which four times the noise is at most ``allowed`` (N·m), and that noise (N·m).
    Refuses nothing. Source: the detector, docs/calculations.md, Traces.

    The noise is a median periodogram over short stretches of the upper part of the trace, so that a click, which only a few
    stretches hold, does not count; nor does a hand's tremor, which is slower than ``HAND``. The lowest corner when
    none is quiet enough.
    """
    power, step = _noise_power(values, rate)
    corners, gains = _corners(len(power), step, rate)
    noises = np.sqrt(gains @ power).tolist()
    quiet = (pair for pair in zip(corners, noises, strict=True) if 4 * pair[1] <= allowed)
    return next(quiet, (corners[-1], noises[-1]))


@lru_cache(16)
def _corners(bins: int, step: float, rate: float) -> tuple[tuple[float, ...], npt.NDArray[np.float64]]:
    """The corners for a rate, and the part of the noise in each bin of ``step`` Hz that each leaves."""
    corners = tuple(c for c in CORNERS if c <= OF_RATE * rate) or (OF_RATE * rate,)
    frequency = np.arange(bins) * step
    return corners, np.stack([1 / (1 + (frequency / corner) ** 4) ** 2 for corner in corners])


def _noise_power(values: Values, rate: float) -> tuple[Values, float]:
    """Variance in each frequency bin (N·m²) of the trace less its slow course, and the bins' width in Hz."""
    length = max(8, int(_WINDOW * rate))
    if len(values) < length:
        return np.zeros(1), 1.0
    starts = np.arange(0, len(values) - length + 1, max(1, length // 2))
    starts = starts[values[starts + length // 2] >= 0.3 * max(float(values.max()), -float(values.min()))]
    if not len(starts):
        return np.zeros(1), 1.0
    starts = starts[:: max(1, len(starts) // _WINDOWS)]
    slow, taper = _window_of(length)
    stretches = values[starts[:, None] + np.arange(length)]
    stretches = stretches - (stretches @ slow) @ slow.T
    spectrum = np.abs(np.fft.rfft(stretches * taper, axis=1)) ** 2
    spectrum.sort(axis=0)
    middle = (spectrum[len(spectrum) // 2] + spectrum[(len(spectrum) - 1) // 2]) / 2
    scale = 2 / (length * float(taper @ taper)) / (_MEDIAN_OF_CHI2 if len(starts) > 2 else 1.0)
    typical: Values = scale * middle
    hand = int(HAND * length / rate) + 1  # a hand that trembles is no noise: below, the noise is what it is just above
    above = typical[hand : 3 * hand]
    typical[:hand] = float(np.median(above)) if len(above) else 0.0
    return typical, rate / length


@lru_cache(16)
def _window_of(length: int) -> tuple[Values, Values]:
    """The slow courses that are taken out of a stretch, and its taper."""
    x = np.linspace(-1, 1, length)
    slow, _ = np.linalg.qr(np.stack([np.ones(length), x, x**2], axis=1))
    return slow, np.hanning(length)


COARSE = 1000.0
"""Samples a second, at least, on which events are looked for; faster traces are averaged down to it for that."""

QUIET = 0.015
"""The corner is the highest that leaves four times the noise below this fraction of the target: lower ones would smooth
the short dip of a click away."""

OFF_ZERO = 0.005
"""What a rest may lie from zero, as a fraction of the target."""

NEAR = 1.0
"""Seconds beside a pull in which its zero is looked for."""

LEAST_REST = 0.3
"""Seconds after a pull without which nothing is said of the zero there."""

KNOCK_SECONDS = 0.009
"""A knock is over within this time."""

_LEAST_LEAD = 0.1
_SHORTH = 250
_KNOCK_RATE = 400.0
_KNOCK = 0.025
_KNOCK_EDGE = 0.002
_KNOCK_SIDE = 0.008


@dataclass(frozen=True)
class Rest:
    """What the meter showed at rest: ``level`` and ``slope`` (N·m, N·m a second) around index ``at``; ``doubt`` is the
    standard uncertainty of the slope, tripled because neighbours on a smoothed curve are not independent."""

    level: float
    slope: float
    doubt: float
    at: float


@dataclass(frozen=True)
class Course:
    """One pull: ``begin`` and ``end`` on the coarse clock, on which it has ``rate`` samples a second. Magnitudes in N·m.

    ``smooth`` is less the zero, as ``zero`` (one value for each coarse sample, all 0 where the meter rested on zero) says it.
    ``before`` and ``after`` are what the meter showed at rest; None where it did not rest. ``gaps`` are coarse; ``overload``
    (N·m) is where the meter says that it ends, None where nobody knows.
    """

    samples: Values
    blocks: int
    coarse: Values
    smooth: Values
    rate: float
    begin: int
    end: int
    scale: float
    corner: float
    noise: float
    ripple: Ripple
    knocks: tuple[tuple[int, int], ...]
    zero: Values
    before: Rest | None
    after: Rest | None
    gaps: tuple[Gap, ...] = ()
    overload: float | None = None

    def seconds(self, samples: float) -> float:
        return samples / self.rate

    def count(self, seconds: float) -> int:
        """Coarse samples in ``seconds``; at least one."""
        return max(1, round(seconds * self.rate))

    @property
    def spread(self) -> int:
        """Coarse samples by which smoothing can move or round a knee."""
        return max(2, round(0.6 * self.rate / self.corner))

    @property
    def fine_rate(self) -> float:
        return self.rate * self.blocks

    def off(self, rest: Rest | None) -> bool:
        """Whether a rest lies too far from zero."""
        return rest is not None and abs(rest.level) > OFF_ZERO * self.scale

    def fine(self, begin: int, end: int) -> Values:
        """The samples behind the coarse ones from ``begin`` to before ``end``, less the mains, the knocks and the zero."""
        first, last = begin * self.blocks, min(end * self.blocks, len(self.samples))
        found = self.samples[first:last] - ripple_at(self.ripple, np.arange(first, last) / self.fine_rate)
        for knocked, over in self.knocks:
            if begin <= over and knocked < end:
                inside = slice(max(0, knocked * self.blocks - first), max(0, over * self.blocks - first))
                at = np.arange(len(found))[inside]
                found[inside] = np.interp(
                    at + first, [knocked * self.blocks, over * self.blocks], self._beside(knocked, over)
                )
        return found - np.repeat(self.zero[begin:end], self.blocks)[: len(found)]

    def _beside(self, knocked: int, over: int) -> tuple[float, float]:
        last = len(self.coarse) - 1
        return float(self.coarse[max(0, knocked - 1)]), float(self.coarse[min(over, last)])


def condition(
    samples: Values,
    rate: float,
    begin: int,
    end: int,
    scale: float,
    *,
    gaps: tuple[Gap, ...] = (),
    overload: float | None = None,
) -> Course:
    """The course of the pull ``samples[begin:end]`` (N·m by magnitude, ``rate`` a second) with what surrounds it. Raises
    InputRefused. Source: the detector, docs/calculations.md, Traces.

    ``scale`` in N·m is the target, or what stands for it; ``gaps`` are those of ``samples``.
    """
    blocks = max(1, int(rate / COARSE))
    coarse = block_means(samples, blocks)
    coarse_rate = rate / blocks
    middle = (blocks - 1) / 2 / rate
    ripple = find_ripple(coarse, coarse_rate, middle)
    if ripple:
        coarse = coarse - ripple_at(ripple, middle + np.arange(len(coarse)) / coarse_rate)
    begin, end = begin // blocks, min(-(-end // blocks), len(coarse))
    knocks = find_knocks(coarse, coarse_rate, scale)
    if knocks:
        coarse = _without(coarse, knocks)
    corner, noise = choose_corner(coarse, coarse_rate, QUIET * scale)
    smooth = low_pass(coarse, coarse_rate, corner)
    near = round(NEAR * coarse_rate)
    lead, tail = max(0, begin - near), smooth[end : end + near]
    before = (
        _rest(smooth[lead:begin], lead, coarse_rate, scale, noise)
        if begin - lead >= _LEAST_LEAD * coarse_rate
        else None
    )
    after = _rest(tail, end, coarse_rate, scale, noise) if len(tail) >= LEAST_REST * coarse_rate else None
    zero = _zero(before, after, len(coarse), coarse_rate, OFF_ZERO * scale)
    return Course(
        samples, blocks, coarse, smooth - zero, coarse_rate, begin, end, scale, corner, noise, ripple, knocks, zero,
        before, after, gaps_within(gaps, 0, len(samples), blocks), overload,
    )  # fmt: skip


def _rest(beside: Values, first: int, rate: float, scale: float, noise: float) -> Rest | None:
    """Where the torque rests in ``beside``, whose first sample has index ``first``: the third of it that lies closest
    together.

    None where that third does not lie close. Source: the shorth (Andrews et al., 1972).
    """
    order = np.sort(beside[:: max(1, len(beside) // _SHORTH)])
    third = len(order) // 3
    widths = order[third:] - order[: len(order) - third]
    narrowest = int(np.argmin(widths))
    if widths[narrowest] > max(0.01 * scale, 3 * noise):
        return None
    level = (float(order[narrowest]) + float(order[narrowest + third])) / 2
    close = np.flatnonzero(np.abs(beside - level) <= max(float(widths[narrowest]), 2 * noise))
    level = float(beside[close].mean())
    seconds = (close - close.mean()) / rate
    moment = float(seconds @ seconds)
    slope = float(seconds @ beside[close]) / moment if moment > 0 else 0.0
    left = beside[close] - level - slope * seconds
    doubt = 3 * float(left.std()) / moment**0.5 if moment > 0 else 0.0
    return Rest(level, slope, doubt, first + float(close.mean()))


def _zero(before: Rest | None, after: Rest | None, count: int, rate: float, tolerance: float) -> Values:
    """The zero at each coarse sample, where a rest is further from zero than ``tolerance`` (N·m).

    A zero that drifts is followed from the rest before to the one after. Only a drift that one of the two shows itself is
    one: else the hand that stays on the handle after a pull would be taken off the reading.
    """
    known = [rest for rest in (before, after) if rest is not None]
    since = (np.arange(count, dtype=np.float64) - known[0].at) / rate if known else np.zeros(count)
    if before is not None and after is None and abs(before.slope) > 4 * before.doubt:  # followed while the pull goes on
        drifting = before.level + since * before.slope
        if max(abs(before.level), abs(float(drifting[-1]))) > tolerance:
            return drifting
    if not known or max(abs(rest.level) for rest in known) <= tolerance:
        return np.zeros(count)
    if before is not None and after is not None:
        chord = (after.level - before.level) / (after.at - before.at) * rate
        if chord and any(abs(rest.slope) > 2 * rest.doubt and 0.4 < rest.slope / chord < 2.5 for rest in known):
            return before.level + since * chord
    return np.full(count, (before or known[0]).level if abs((before or known[0]).level) > tolerance else 0.0)


def find_knocks(coarse: Values, rate: float, scale: float) -> tuple[tuple[int, int], ...]:
    """Where the torque leaves its line abruptly and is back on it within ``KNOCK_SECONDS``: (first, past the last) of each.
    Refuses nothing. Source: the detector, docs/calculations.md, Traces.

    On a meter of fewer than 400 samples a second a knock cannot be told from a click, and none is found.
    """
    if rate < _KNOCK_RATE:
        return ()
    edge = max(1, round(_KNOCK_EDGE * rate))
    jumps = np.abs(coarse[edge:] - coarse[:-edge])
    steep = np.flatnonzero(jumps > max(_KNOCK * scale, 12 * float(np.median(jumps[:: max(1, len(jumps) // 400)]))))
    longest, side = round(KNOCK_SECONDS * rate), max(3, round(_KNOCK_SIDE * rate))
    found: list[tuple[int, int]] = []
    past = 0
    for first in steep.tolist():
        if first < past or first < side:
            continue
        near = steep[(steep >= first) & (steep <= first + longest)]
        last = int(near[-1]) + edge
        before, after = coarse[first - side : first], coarse[last + 1 : last + 1 + side]
        if len(after) < side or last - first > longest + 2 * edge:
            continue
        ends = float(before[-3:].mean()), float(after[:3].mean())
        size = float(np.abs(coarse[first : last + 1] - np.linspace(*ends, last + 1 - first)).max())
        shift = ends[1] - ends[0]
        ragged = float(np.ptp(after)) if len(after) else 0.0
        if abs(shift) < 0.25 * size and ragged < 0.5 * size and size > _KNOCK * scale:
            found.append((max(0, first - 1), last + 2))
            past = last + 2
    return tuple(found)


def _without(coarse: Values, knocks: tuple[tuple[int, int], ...]) -> Values:
    """``coarse`` with a straight line in place of each knock."""
    cut = coarse.copy()
    for first, over in knocks:
        ends = [max(0, first - 1), min(over, len(cut) - 1)]
        cut[first:over] = np.interp(np.arange(first, min(over, len(cut))), ends, coarse[ends])
    return cut
