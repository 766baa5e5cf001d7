"""How often to test: the staircase and the reliability target (ILAC-G24 / OIML D 10, methods 1 and 4)."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from enum import StrEnum

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.checks import between, finite, positive
from reckoner.core.translation import tr

ENOUGH = 100
"""Results from which the fitted interval itself is proposed; 45 can mean anything from 2 to 25 months."""

_VANISHES = 700.0
"""Where e^x is beyond a float, t/(e^x − 1) is nothing."""


class School(StrEnum):
    """How an interval is found: always the same, by the last result, or by how many of a group are still inside."""

    FIXED = "fixed"
    STAIRCASE = "staircase"
    RELIABILITY = "reliability"


SHORTEST, LONGEST = 3.0, 24.0
"""Bounds of the staircase in months."""


def staircase(months: float, deviation: float, limit: float) -> float:
    """The next interval in months: ×1.25 within half the limit, ×1 within it, ×0.5 outside, between 3 and 24; never longer
    after a failure.

    ``deviation`` and ``limit`` as fractions. Raises InputRefused. Source: ILAC-G24:2022, method 1.

    >>> staircase(12, 0.015, 0.04), staircase(12, -0.03, 0.04), staircase(12, 0.05, 0.04)
    (15.0, 12.0, 6.0)
    """
    between("months", months, 0.5, 120)
    finite("deviation_percent", deviation)
    positive("limit_percent", limit)
    magnitude = abs(deviation)
    if magnitude > limit:
        return min(months, LONGEST, max(SHORTEST, months / 2))
    return min(LONGEST, max(SHORTEST, months * (1.25 if magnitude <= limit / 2 else 1.0)))


@dataclass(frozen=True)
class IntervalOutcome:
    """A tool found inside or not, ``months`` after its last test; ``count`` such tools."""

    months: float
    inside: bool
    count: int = 1


@dataclass(frozen=True)
class Reliability:
    """The fitted failure rate a month, and the months after which the target share is still inside, with what ``results``
    so many leave open: ``low_months`` and ``high_months`` are its bounds by the likelihood (infinite where nothing bounds
    it)."""

    rate_per_month: float
    months: float
    low_months: float
    high_months: float
    results: int

    @property
    def proposal(self) -> float:
        """The months to propose: the lower bound until there are ``ENOUGH`` results."""
        return self.months if self.results >= ENOUGH else self.low_months


def reliability(outcomes: Sequence[IntervalOutcome], target: float, confidence: float = 0.9) -> Reliability:
    """Fit R(t) = e^(−λt) to pass and fail by maximum likelihood; the interval is −ln(target)/λ.

    ``target`` and the ``confidence`` of the bounds as fractions between 0.5 and 1; the bounds are the rates whose
    likelihood is no less than the greatest by more than the χ² of that confidence allows, 2·(ℓ(λ̂) − ℓ(λ)) ≤ χ²₁. Raises
    InputRefused when all are inside (λ would be zero) or none is. Source: ILAC-G24:2022, method 4; likelihood ratio (Wilks
    1938).

    >>> seen = [(6, True)] * 14 + [(12, True)] * 21 + [(12, False)] * 2 + [(18, True)] * 5 + [(18, False)] * 2 + [(24, False)]
    >>> found = reliability([IntervalOutcome(m, i) for m, i in seen], 0.95)
    >>> round(found.rate_per_month, 6), round(found.months, 1), found.results
    (0.010715, 4.8, 45)
    >>> round(found.low_months, 1), round(found.high_months, 1), found.proposal == found.low_months
    (2.5, 11.1, True)
    """
    between("target", target, 0.5, 0.9999)
    between("confidence", confidence, 0.5, 0.9999)
    for i, outcome in enumerate(outcomes):
        between(f"outcomes[{i}].months", outcome.months, 0.01, 1200)
    failed = [(o.months, o.count) for o in outcomes if not o.inside]
    passed = math.fsum(o.months * o.count for o in outcomes if o.inside)
    if not failed:
        raise InputRefused("outcomes", len(outcomes), tr("no tool was found outside yet, so no rate can be fitted"))
    if passed == 0:
        raise InputRefused(
            "outcomes", len(outcomes), tr("every tool was found outside; shorten the interval and look anew")
        )

    def slope(rate: float) -> float:
        """d log L / dλ = Σ_fail t·e^(−λt)/(1 − e^(−λt)) − Σ_pass t, falling in λ."""
        return math.fsum(n * t / math.expm1(rate * t) for t, n in failed if rate * t < _VANISHES) - passed

    def likelihood(rate: float) -> float:
        return math.fsum(n * math.log(-math.expm1(-rate * t)) for t, n in failed) - rate * passed

    from scipy.special import chdtri  # loads slowly

    rate = _root(slope, 1e-12)
    least = likelihood(rate) - float(chdtri(1, 1 - confidence)) / 2
    slowest = _root(lambda r: least - likelihood(r), 0.0, rate)
    fastest = _root(lambda r: likelihood(r) - least, rate)
    months = -math.log(target)
    return Reliability(rate, months / rate, months / fastest, months / slowest, sum(o.count for o in outcomes))


def _root(falling: Callable[[float], float], low: float, high: float | None = None) -> float:
    """Where ``falling`` goes through zero above ``low``, and below ``high`` where that is given."""
    if high is None:
        high = max(1.0, 2 * low)
        while falling(high) > 0:
            high *= 2
    for _ in range(200):
        middle = (low + high) / 2
        low, high = (middle, high) if falling(middle) > 0 else (low, middle)
    return (low + high) / 2
