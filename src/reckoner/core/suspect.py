"""Readings that are asked about before they count: the tool was not set again, or one stands apart from its series.

What a reading is stays a person's decision; here is only when to ask. The scatter is the median absolute deviation, which
one reading that stands apart does not widen (as s would be).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from statistics import median

from reckoner.core.checks import at_most, positive
from reckoner.core.deviation import deviation

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
    another point is not asked about as standing apart too. Raises InputRefused for what is not above zero.

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
    """Whether a reading (N·m) is so far off that a slip of the hand, another unit or the tool itself must be its cause."""
    return not target * (1 - FAR) < reading < target * (1 + FAR)
