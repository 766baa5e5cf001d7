"""The course of one pull, made ready for looking at: even, less the mains, less knocks, less the zero, and smoothed.

A ``Course`` is the pull with what surrounds it, on two clocks: the samples as they came, from which values are taken, and
means of them, at most a thousand a second, on which events are looked for. The live watch and the whole trace make it in
the same way.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from reckoner.core.arrays import Values, block_means
from reckoner.core.gaps import Gap, gaps_within
from reckoner.core.mains import Ripple, find_ripple, ripple_at
from reckoner.core.smoothing import choose_corner, low_pass

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
    """The course of the pull ``samples[begin:end]`` (N·m by magnitude, ``rate`` a second) with what surrounds it.

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
