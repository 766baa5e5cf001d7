"""Before and after an event: has the tool changed by an amount that matters?

Two sides of an experiment held against each other, A and B, and A once more: with and without an adapter, two people.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.arrays import positive_array
from reckoner.core.quantities.checks import between, positive
from reckoner.core.translation import tr

MOST_READINGS = 1000


class ComparedChange(StrEnum):
    UNCHANGED = "unchanged"
    CHANGED = "changed"
    CANNOT_TELL = "cannot-tell"


@dataclass(frozen=True)
class Comparison:
    """Difference of the means, after less before, relative to before's mean; fractions, with its 95 % interval.

    ``readings_needed`` in each group to tell with the power that was asked for, 0 when it can be told.
    """

    difference: float
    low_95: float
    high_95: float
    change: ComparedChange
    readings_needed: int


def compare(before: Sequence[float], after: Sequence[float], margin: float, power: float = 0.8) -> Comparison:
    """Welch's interval for the difference of two means of readings (N·m), held against ±``margin`` (fraction).

    Unchanged only when the whole interval lies inside the margin (two one-sided tests); changed when it excludes zero and
    does not; else more readings are needed: so many, and more than were taken, that with the difference and the scatter
    seen here a verdict is reached with ``power`` (a probability). Raises InputRefused with fewer than two readings on a
    side. Source: Welch (1947); Schuirmann (1987); noncentral t for the power.

    >>> found = compare([59.1, 59.3, 59.0, 59.2, 59.1], [59.2, 59.3, 59.1, 59.2, 59.4], 0.01)
    >>> str(found.change), round(found.difference * 100, 3)
    ('unchanged', 0.169)
    """
    positive("margin_percent", margin)
    between("power", power, 0.5, 0.999)
    one, two = positive_array("before", before, at_least=2), positive_array("after", after, at_least=2)
    mean = float(one.mean())
    difference = float(two.mean()) - mean
    parts = [float(g.var(ddof=1)) / len(g) for g in (one, two)]
    error = math.sqrt(sum(parts))
    half = 0.0
    if error > 0:
        freedom = sum(parts) ** 2 / sum(p**2 / (len(g) - 1) for p, g in zip(parts, (one, two), strict=True))
        half = t95(freedom) * error
    low, high, relative = (difference - half) / mean, (difference + half) / mean, difference / mean
    if -margin <= low and high <= margin:
        return Comparison(relative, low, high, ComparedChange.UNCHANGED, 0)
    if low > 0 or high < 0:
        return Comparison(relative, low, high, ComparedChange.CHANGED, 0)
    spread = math.sqrt((float(one.var(ddof=1)) + float(two.var(ddof=1))) / 2) / mean
    taken = max(len(one), len(two))
    needed = readings_needed(spread, abs(relative), margin, power, taken)
    return Comparison(relative, low, high, ComparedChange.CANNOT_TELL, needed)


def t95(freedom: float) -> float:
    """Student's t that 95 % lie within, of both signs. Refuses nothing. Source: Student (1908); JCGM 100:2008, table G.2."""
    from scipy.special import stdtrit  # loads slowly

    return float(stdtrit(freedom, 0.975))


def readings_needed(spread: float, difference: float, margin: float, power: float, taken: int) -> int:
    """Readings in each group of a relative ``spread`` (standard deviation), more than were ``taken``, with which the chance
    of a verdict reaches ``power``: MOST_READINGS where no number of them does, as where the difference is just the
    margin's. Refuses nothing."""
    low, high = taken + 1, MOST_READINGS
    while low < high:
        middle = (low + high) // 2
        low, high = (low, middle) if _chance(middle, spread, difference, margin) >= power else (middle + 1, high)
    return low


def _chance(count: int, spread: float, difference: float, margin: float) -> float:
    """The probability that ``count`` readings in each group show the tool unchanged or changed.

    Unchanged when both one-sided tests succeed, changed when the interval leaves out zero and reaches past the margin.
    """
    from scipy.special import nctdtr  # loads slowly

    freedom, error = 2 * count - 2, spread * math.sqrt(2 / count)
    t = t95(freedom)
    above, below = ((margin + side) / error for side in (-difference, difference))
    unchanged = max(0.0, 1 - float(nctdtr(freedom, above, t)) - float(nctdtr(freedom, below, t)))
    changed = 1 - float(nctdtr(freedom, difference / error, t))
    return max(unchanged, changed)


@dataclass(frozen=True)
class Sides:
    """B's mean over A's, the ``ratio``, with its 95 % interval, beside the ``expected`` one (1 where both should be alike).

    ``drift`` is A again from A, None where it was not taken again; ``drifted``: the two series of A differ beyond their
    scatter, and nothing is concluded. ``change`` is of ratio/expected from 1; ``readings_needed`` on each side to tell, 0
    when it can be told. ``spreads`` are the relative standard deviations of A and of B.
    """

    ratio: float
    low_95: float
    high_95: float
    expected: float
    change: ComparedChange
    readings_needed: int
    drift: Comparison | None
    drifted: bool
    spreads: tuple[float, float]

    @property
    def difference(self) -> float:
        """How far the ratio is from the expected one, as a fraction of that."""
        return self.ratio / self.expected - 1


def hold_sides(
    first: Sequence[float],
    second: Sequence[float],
    again: Sequence[float] = (),
    *,
    margin: float,
    expected: float = 1.0,
    power: float = 0.8,
) -> Sides:
    """Readings (N·m) of A, of B and of A ``again`` held against each other, and the ratio against the ``expected`` one.

    The interval of the ratio is Fieller's, with Welch's degrees of freedom. It is unchanged (as expected) when the whole
    interval of ratio/expected lies within ±``margin`` (fraction) of 1, changed when it leaves 1 out and reaches past the
    margin. Raises InputRefused with fewer than two readings on a side, and where A's mean is not known from zero.
    Source: Fieller (1954); Welch (1947); Schuirmann (1987).

    >>> found = hold_sides([60.1, 60.3, 60.2], [68.6, 68.8, 68.7], [60.2, 60.2, 60.3], margin=0.01, expected=1.140625)
    >>> round(found.ratio, 4), str(found.change), found.drifted
    (1.1409, 'unchanged', False)
    """
    positive("margin_percent", margin)
    positive("expected", expected)
    between("power", power, 0.5, 0.999)
    one = positive_array("first", [*first, *again], at_least=2)
    two = positive_array("second", second, at_least=2)
    drift = compare(first, again, margin, power) if len(first) >= 2 and len(again) >= 2 else None
    drifted = drift is not None and not drift.low_95 <= 0 <= drift.high_95
    a, b = float(one.mean()), float(two.mean())
    ratio = b / a
    va, vb = (float(g.var(ddof=1)) / len(g) for g in (one, two))
    low, high = _fieller(a, ratio, va, vb, len(one), len(two))
    low_off, high_off = low / expected - 1, high / expected - 1
    spreads = math.sqrt(va * len(one)) / a, math.sqrt(vb * len(two)) / b
    needed = 0
    if -margin <= low_off and high_off <= margin:
        change = ComparedChange.UNCHANGED
    elif low_off > 0 or high_off < 0:
        change = ComparedChange.CHANGED
    else:
        change = ComparedChange.CANNOT_TELL
        spread = math.sqrt((spreads[0] ** 2 + spreads[1] ** 2) / 2)
        needed = readings_needed(spread, abs(ratio / expected - 1), margin, power, max(len(one), len(two)))
    return Sides(ratio, low, high, expected, change, needed, drift, drifted, spreads)


def half_width(readings: Sequence[float]) -> float:
    """How far the mean of ``readings`` is unsure by their own scatter, 95 %, as a fraction of it: t·s/√n/x̄; 0 for fewer than
    two. Source: JCGM 100:2008, G.3. Raises InputRefused.

    >>> round(half_width([100.0, 101.0, 99.0]), 4)
    0.0248
    """
    if len(readings) < 2:
        return 0.0
    values = positive_array("readings", readings)
    n = len(values)
    return t95(n - 1) * float(values.std(ddof=1)) / math.sqrt(n) / float(values.mean())


def _fieller(a: float, ratio: float, va: float, vb: float, n_a: int, n_b: int) -> tuple[float, float]:
    """The 95 % interval of a ratio of two means with the variances ``va`` and ``vb`` of the means."""
    spread = vb + ratio**2 * va
    if spread == 0:
        return ratio, ratio
    parts = (vb, ratio**2 * va)
    freedom = spread**2 / sum(p**2 / (n - 1) for p, n in zip(parts, (n_b, n_a), strict=True))
    t = t95(freedom)
    g = t**2 * va / a**2
    if g >= 1:
        raise InputRefused("first", a, tr("the readings scatter so far that no ratio to them can be told"))
    half = t / a * math.sqrt(spread - g * vb)
    return (ratio - half) / (1 - g), (ratio + half) / (1 - g)
