"""How often to test: the staircase and the reliability target (ILAC-G24 / OIML D 10, methods 1 and 4)."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from reckoner.core.checks import between, finite, positive
from reckoner.core.errors import InputRefused

SHORTEST, LONGEST = 3.0, 24.0
"""Bounds of the staircase in months."""


def staircase(months: float, deviation: float, limit: float) -> float:
    """The next interval in months: ×1.25 within half the limit, ×1 within it, ×0.5 outside, between 3 and 24.

    ``deviation`` and ``limit`` as fractions. Raises InputRefused. Source: ILAC-G24:2022, method 1.

    >>> staircase(12, 0.015, 0.04), staircase(12, -0.03, 0.04), staircase(12, 0.05, 0.04)
    (15.0, 12.0, 6.0)
    """
    between("months", months, 0.5, 120)
    finite("deviation_percent", deviation)
    positive("limit_percent", limit)
    magnitude = abs(deviation)
    step = 1.25 if magnitude <= limit / 2 else 1.0 if magnitude <= limit else 0.5
    return min(LONGEST, max(SHORTEST, months * step))


@dataclass(frozen=True)
class Outcome:
    """A tool found inside or not, ``months`` after its last test."""

    months: float
    inside: bool


@dataclass(frozen=True)
class Reliability:
    """The fitted failure rate a month, and the months after which the target share is still inside."""

    rate_per_month: float
    months: float


def reliability(outcomes: Sequence[Outcome], target: float) -> Reliability:
    """Fit R(t) = e^(−λt) to pass and fail by maximum likelihood; the interval is −ln(target)/λ.

    ``target`` as a fraction between 0.5 and 1. Raises InputRefused when all are inside (λ would be zero) or none is.
    Source: ILAC-G24:2022, method 4.

    >>> seen = [(6, True)] * 14 + [(12, True)] * 21 + [(12, False)] * 2 + [(18, True)] * 5 + [(18, False)] * 2 + [(24, False)]
    >>> found = reliability([Outcome(m, i) for m, i in seen], 0.95)
    >>> round(found.rate_per_month, 6), round(found.months, 1)
    (0.010715, 4.8)
    """
    between("target", target, 0.5, 0.9999)
    for i, outcome in enumerate(outcomes):
        between(f"outcomes[{i}].months", outcome.months, 0.01, 1200)
    failed = [o.months for o in outcomes if not o.inside]
    passed = math.fsum(o.months for o in outcomes if o.inside)
    if not failed:
        raise InputRefused("outcomes", len(outcomes), "no tool was found outside yet, so no rate can be fitted")
    if passed == 0:
        raise InputRefused(
            "outcomes", len(outcomes), "every tool was found outside; shorten the interval and look anew"
        )

    def slope(rate: float) -> float:
        """d log L / dλ = Σ_fail t·e^(−λt)/(1 − e^(−λt)) − Σ_pass t, falling in λ."""
        return math.fsum(t / math.expm1(rate * t) for t in failed) - passed

    low, high = 1e-12, 1.0
    while slope(high) > 0:
        high *= 2
    for _ in range(200):
        middle = (low + high) / 2
        low, high = (middle, high) if slope(middle) > 0 else (low, middle)
    rate = (low + high) / 2
    return Reliability(rate, -math.log(target) / rate)
