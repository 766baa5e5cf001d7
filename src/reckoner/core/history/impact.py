"""What a bad tool may have spoiled: the torque that each loan's setting really delivered, against the job's band."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.checks import finite, not_negative, positive
from reckoner.core.tightening.setting import BandPlace
from reckoner.core.translation import tr


@dataclass(frozen=True)
class KnownDeviation:
    """The as-found deviation (fraction) at a setting in N·m."""

    setting: float
    deviation: float


@dataclass(frozen=True)
class JobLoan:
    """A loan's job: the setting used, its band in N·m, and the adapter's factor."""

    id: str
    setting: float
    low: float
    high: float
    factor: float = 1.0


@dataclass(frozen=True)
class LoanEffect:
    """What the loan's setting delivered in N·m (None when it cannot be told) and what that means for the job."""

    id: str
    delivered: float | None
    effect: BandPlace


def deviation_at(results: Sequence[KnownDeviation], setting: float) -> float | None:
    """The deviation interpolated between tested settings; None outside them: nothing is extrapolated. Source: linear
    interpolation between the points of a result.

    Raises InputRefused without results, with two at the same setting, or for a deviation of −100 % and below.
    """
    if not results:
        raise InputRefused("results", (), tr("needs at least one tested setting"))
    for i, known in enumerate(results):
        if finite(f"results[{i}].deviation_percent", known.deviation) <= -1:
            reason = tr(
                "must be above −100 %, not {deviation:g} %: no tool delivers more than any torque",
                deviation=known.deviation * 100,
            )
            raise InputRefused(f"results[{i}].deviation_percent", known.deviation, reason)
    ordered = sorted(results, key=lambda r: positive("results.setting", r.setting))
    settings = [r.setting for r in ordered]
    if len(set(settings)) < len(settings):
        raise InputRefused("results", settings, tr("two results stand at the same setting; give one for each"))
    if not settings[0] <= setting <= settings[-1]:
        return None
    return float(np.interp(setting, settings, [r.deviation for r in ordered]))


def review(results: Sequence[KnownDeviation], loans: Sequence[JobLoan]) -> tuple[LoanEffect, ...]:
    """X/(1 + a(X))·f for each loan against its band. Raises InputRefused for a band upside down.

    >>> found = review([KnownDeviation(40, 0.06), KnownDeviation(200, 0.06)], [JobLoan("a", 120, 115, 125)])
    >>> round(found[0].delivered, 2), str(found[0].effect)
    (113.21, 'outside')
    """
    return tuple(_effect(results, loan, i) for i, loan in enumerate(loans))


def _effect(results: Sequence[KnownDeviation], loan: JobLoan, index: int) -> LoanEffect:
    positive(f"loans[{index}].setting", loan.setting)
    positive(f"loans[{index}].factor", loan.factor)
    not_negative(f"loans[{index}].low", loan.low)
    if finite(f"loans[{index}].high", loan.high) < loan.low:
        raise InputRefused(f"loans[{index}].high", loan.high, tr("the band's high end is below its low end"))
    known = deviation_at(results, loan.setting)
    if known is None:
        return LoanEffect(loan.id, None, BandPlace.CANNOT_TELL)
    delivered = loan.setting / (1 + known) * loan.factor
    inside = loan.low <= delivered <= loan.high
    return LoanEffect(loan.id, delivered, BandPlace.INSIDE if inside else BandPlace.OUTSIDE)
