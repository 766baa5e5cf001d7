"""Before and after an event: has the tool changed by an amount that matters?"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from reckoner.core.arrays import positive_array
from reckoner.core.checks import positive

MOST_READINGS = 1000


class Change(StrEnum):
    UNCHANGED = "unchanged"
    CHANGED = "changed"
    CANNOT_TELL = "cannot-tell"


@dataclass(frozen=True)
class Comparison:
    """Difference of the means, after less before, relative to before's mean; fractions, with its 95 % interval.

    ``readings_needed`` in each group to tell, 0 when it can be told.
    """

    difference: float
    low_95: float
    high_95: float
    change: Change
    readings_needed: int


def compare(before: Sequence[float], after: Sequence[float], margin: float) -> Comparison:
    """Welch's interval for the difference of two means of readings (N·m), held against ±``margin`` (fraction).

    Unchanged only when the whole interval lies inside the margin (two one-sided tests); changed when it excludes zero and
    does not; else more readings are needed. Raises InputRefused with fewer than two readings on a side.
    Source: Welch (1947); Schuirmann (1987).

    >>> found = compare([59.1, 59.3, 59.0, 59.2, 59.1], [59.2, 59.3, 59.1, 59.2, 59.4], 0.01)
    >>> str(found.change), round(found.difference * 100, 3)
    ('unchanged', 0.169)
    """
    positive("margin_percent", margin)
    one, two = positive_array("before", before, at_least=2), positive_array("after", after, at_least=2)
    mean = float(one.mean())
    difference = float(two.mean()) - mean
    parts = [float(g.var(ddof=1)) / len(g) for g in (one, two)]
    error = math.sqrt(sum(parts))
    half = 0.0
    if error > 0:
        freedom = sum(parts) ** 2 / sum(p**2 / (len(g) - 1) for p, g in zip(parts, (one, two), strict=True))
        half = _t95(freedom) * error
    low, high, relative = (difference - half) / mean, (difference + half) / mean, difference / mean
    if -margin <= low and high <= margin:
        return Comparison(relative, low, high, Change.UNCHANGED, 0)
    if low > 0 or high < 0:
        return Comparison(relative, low, high, Change.CHANGED, 0)
    spread = math.sqrt((float(one.var(ddof=1)) + float(two.var(ddof=1))) / 2) / mean
    return Comparison(relative, low, high, Change.CANNOT_TELL, _needed(spread, abs(relative), margin))


def _t95(freedom: float) -> float:
    from scipy.special import stdtrit  # loads slowly

    return float(stdtrit(freedom, 0.975))


def _needed(spread: float, difference: float, margin: float) -> int:
    """Readings in each group after which an interval of the same spread and centre would tell."""
    room = max(margin - difference, difference)
    for n in range(3, MOST_READINGS):
        if _t95(2 * n - 2) * spread * math.sqrt(2 / n) <= room:
            return n
    return MOST_READINGS
