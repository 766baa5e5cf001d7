"""The first releases of a series: a tool that has rested reads high at first, and settles."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from reckoner.core.arrays import positive_array

LEAST = 0.01
"""A first release less than this fraction off is not worth a word."""

FALSE_ALARM = 0.004
"""How often at most each of the two questions (the first, the first two) is answered wrongly in an ordinary series."""


@dataclass(frozen=True)
class FirstReleases:
    """The first ``count`` readings of a series are above the settled ones by ``excess`` on average, a fraction."""

    count: int
    excess: float


def first_releases(readings: Sequence[float]) -> FirstReleases | None:
    """Whether the first one or two of at least four ``readings`` (N·m) stand above those that follow.

    They count when each is high by more than 1 %, and their mean by more than the scatter of the rest explains: by more
    than Student's t for it, so that an ordinary series is mistaken for one with high first releases less than once in a
    hundred, however few its readings are. None where nothing stands apart. Raises InputRefused for a value not above zero.
    Source: shop practice: a tool that was stored for months may give a first reading 3 to 5 % high; a prediction interval
    for the mean of some more observations (Hahn & Meeker, 4.6).

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
        if float(off.min()) <= LEAST:
            continue
        expected = scatter / settled * math.sqrt(1 / count + 1 / len(rest))
        if float(off.mean()) > _student(len(rest) - 1) * expected:
            return FirstReleases(count, float(off.mean()))
    return None


def _student(freedom: int) -> float:
    from scipy.special import stdtrit  # loads slowly; only a series that begins high needs it

    return float(stdtrit(freedom, 1 - FALSE_ALARM))
