"""The first releases of a series: a tool that has rested reads high at first, and settles."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from reckoner.core.arrays import positive_array

LEAST = 0.01
"""A first release less than this fraction off is not worth a word."""

SCATTERS = 3.0
"""How many standard deviations of the settled readings the first must be off."""


@dataclass(frozen=True)
class FirstReleases:
    """The first ``count`` readings of a series are off from the settled ones by ``excess`` on average, a fraction."""

    count: int
    excess: float


def first_releases(readings: Sequence[float]) -> FirstReleases | None:
    """Whether the first one or two of at least four ``readings`` (N·m) stand apart from those that follow, on one side.

    They count when each is off by more than 1 % and by more than three standard deviations of the rest, or the first is
    and the second on the way. None where nothing stands apart. Raises InputRefused for a value not above zero. Source:
    shop practice: a tool that was stored for months may give a first reading 3 to 5 % high.

    >>> found = first_releases([123.9, 122.6, 119.1, 119.0, 119.2])
    >>> found.count, round(found.excess, 3)
    (2, 0.035)
    >>> first_releases([119.2, 119.0, 119.1, 118.9, 119.3]) is None
    True
    """
    values = positive_array("readings", readings)
    for count in (2, 1):
        rest = values[count:]
        if len(rest) < 3:
            continue
        settled, scatter = float(rest.mean()), float(rest.std(ddof=1))
        off = values[:count] / settled - 1
        apart = max(LEAST, SCATTERS * scatter / settled)
        same_side = abs(float(off.sum())) == math.fsum(abs(float(o)) for o in off)
        if same_side and all(abs(float(o)) > apart for o in off):
            return FirstReleases(count, float(off.mean()))
    return None
