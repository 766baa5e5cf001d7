"""Readings that are asked about before they count: the tool was not set again, or one stands apart from its series.

What a reading is stays a person's decision; here is only when to ask. The scatter is the median absolute deviation, which
one reading that stands apart does not widen (as s would be).

The first releases of a series: a tool that has rested reads high at first, and settles.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from statistics import median

from reckoner.core.decision.conformity import deviation
from reckoner.core.quantities.arrays import positive_array
from reckoner.core.quantities.checks import at_most, positive

LIMITS_OFF = 3.0
"""Limits of its own by which a reading is off that lies at another point."""

SCATTERS_OFF = 6.0
"""Times the series' scatter by which a reading stands apart, or ``LEAST_OFF`` of the limit where that is more."""

LEAST_OFF = 0.5

MAD_TO_SIGMA = 1.4826
"""A normal distribution's s over its median absolute deviation."""

LEAST_READINGS = 3

FAR = 0.5


class Suspicion(StrEnum):
    """Why a reading is asked about."""

    NOT_SET_AGAIN = "not-set-again"
    STANDS_APART = "stands-apart"
    FAR_OFF = "far-off"


@dataclass(frozen=True)
class Suspect:
    """The reading at ``index`` is asked about; ``of`` is the target (N·m) at which it would lie."""

    index: int
    why: Suspicion
    of: float | None = None


def suspects(
    target: float, readings: Sequence[float], limit: float, other_targets: Sequence[float] = ()
) -> tuple[Suspect, ...]:
    """The readings of a series that are asked about, in their order; torques in N·m, the limit a fraction. What lies at
    another point is not asked about as standing apart too. Raises InputRefused for what is not above zero. Source: shop
    practice; docs/calculations.md, Was it set again?

    >>> [(s.index, s.why.value, s.of) for s in suspects(100, [59.8, 100.2], 0.04, [60, 20])]
    [(0, 'not-set-again', 60)]
    """
    apart = standing_apart(target, readings, limit)
    made = []
    for index, reading in enumerate(readings):
        other = lies_at(target, reading, limit, other_targets)
        if other is not None:
            made.append(Suspect(index, Suspicion.NOT_SET_AGAIN, other))
        elif index in apart:
            made.append(Suspect(index, Suspicion.STANDS_APART))
    return tuple(made)


def lies_at(target: float, reading: float, limit: float, other_targets: Sequence[float]) -> float | None:
    """The other target inside whose limit a reading lies while it is more than three limits off its own: the tool was
    hardly set again. None for any other reading. Raises InputRefused for what is not above zero."""
    positive("limit", limit)
    if at_most(abs(deviation(target, reading)), LIMITS_OFF * limit):
        return None
    near = [t for t in other_targets if t != target and at_most(abs(deviation(t, reading)), limit)]
    return min(near, key=lambda t: abs(deviation(t, reading)), default=None)


def standing_apart(target: float, readings: Sequence[float], limit: float) -> frozenset[int]:
    """The indices of readings that lie further from their series' median than the larger of half the limit and six times
    its scatter; none among fewer than three. Raises InputRefused for what is not above zero.

    >>> standing_apart(200, [115, 193, 193.5], 0.04)
    frozenset({0})
    """
    positive("target", target)
    positive("limit", limit)
    if len(readings) < LEAST_READINGS:
        return frozenset()
    middle = median(readings)
    scatter = MAD_TO_SIGMA * median(abs(r - middle) for r in readings)
    bound = max(LEAST_OFF * limit * target, SCATTERS_OFF * scatter)
    return frozenset(i for i, r in enumerate(readings) if not at_most(abs(r - middle), bound))


def is_far_off(target: float, reading: float) -> bool:
    """Whether a reading (N·m) is so far off that a slip of the hand, another unit or the tool itself must be its cause.
    Refuses nothing. Source: shop practice."""
    return not target * (1 - FAR) < reading < target * (1 + FAR)


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
