"""Before and after an event: has the tool changed by an amount that matters?"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from reckoner.core.arrays import positive_array
from reckoner.core.checks import between, positive

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
    """Student's t that 95 % lie within, of both signs."""
    from scipy.special import stdtrit  # loads slowly

    return float(stdtrit(freedom, 0.975))


def readings_needed(spread: float, difference: float, margin: float, power: float, taken: int) -> int:
    """Readings in each group of a relative ``spread`` (standard deviation), more than were ``taken``, with which the chance
    of a verdict reaches ``power``: MOST_READINGS where no number of them does, as where the difference is just the
    margin's."""
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
