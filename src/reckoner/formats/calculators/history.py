"""Calculators of drift, intervals, before and after, and impact."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Any, Literal

from pydantic import BeforeValidator, Field

from reckoner.core.errors import InputRefused
from reckoner.core.history.comparison import compare as compared
from reckoner.core.history.drift import DatedDeviation, pooled_drift
from reckoner.core.history.drift import drift as fitted
from reckoner.core.history.impact import JobLoan, KnownDeviation, review
from reckoner.core.history.interval import IntervalOutcome, reliability, staircase
from reckoner.core.translation import tr
from reckoner.formats.calculators.fields import (
    Answer,
    NotEmpty,
    Number,
    Percent,
    Ratio,
    Request,
    Torque,
    TorqueRequest,
)


def _date(value: Any) -> date:
    try:
        return date.fromisoformat(value)
    except (TypeError, ValueError):
        raise ValueError(f"{value!r} is not a date; write it as 2026-11-24") from None


Day = Annotated[date, BeforeValidator(_date)]


class _Result(Request):
    date: Day
    deviation_percent: Percent


class DriftRequest(Request):
    limit_percent: Percent
    results: list[_Result]
    on: Day | None = None
    others: list[list[_Result]] = Field(default_factory=list)


def drift(request: DriftRequest) -> Answer:
    """The drift of one point since the last adjustment, and when it reaches the limit."""
    results = _dated(request.results)
    pooled = bool(request.others) and len(results) < 3
    found = pooled_drift(results, [_dated(o) for o in request.others]) if pooled else fitted(results)
    line, band = (reaches(request.limit_percent) for reaches in (found.line_reaches, found.band_reaches))
    return {
        "per_year_percent": found.per_year * 100,
        "start_percent": found.at_start * 100,
        "predicted_percent": None if request.on is None else found.predicted(request.on) * 100,
        "line_reaches_limit": None if line is None else line.isoformat(),
        "band_reaches_limit": None if band is None else band.isoformat(),
        "pooled_from_other_tools": found.other_tools,
    }


def _dated(results: list[_Result]) -> list[DatedDeviation]:
    return [DatedDeviation(r.date, r.deviation_percent) for r in results]


class _Outcome(Request):
    months: Number
    inside: bool


class IntervalRequest(Request):
    method: Literal["staircase", "reliability"]
    months: Number | None = None
    deviation_percent: Percent | None = None
    limit_percent: Percent | None = None
    outcomes: list[_Outcome] | None = None
    target: Ratio | None = None
    confidence: Ratio | None = None


_NEEDS = {"staircase": ("months", "deviation_percent", "limit_percent"), "reliability": ("outcomes", "target")}


def interval(request: IntervalRequest) -> Answer:
    """The next interval, by the staircase or by a reliability target."""
    r = request
    for method, fields in _NEEDS.items():
        for field in fields:
            if (getattr(r, field) is None) == (method == r.method):
                what = (
                    tr("is missing")
                    if method == r.method
                    else tr("does not belong to the {method} method", method=r.method)
                )
                raise InputRefused(field, None, what)
    if r.method == "staircase":
        if r.confidence is not None:
            raise InputRefused("confidence", r.confidence, tr("does not belong to the staircase method"))
        return {"months": staircase(r.months or 0.0, r.deviation_percent or 0.0, r.limit_percent or 0.0)}
    outcomes = [IntervalOutcome(o.months, o.inside) for o in r.outcomes or []]
    found = reliability(outcomes, r.target or 0.0, 0.9 if r.confidence is None else r.confidence)
    return {
        "months": found.months,
        "rate_per_month": found.rate_per_month,
        "low_months": found.low_months,
        "high_months": found.high_months,
        "results": found.results,
    }


class CompareRequest(Request):
    before: list[Torque]
    after: list[Torque]
    margin_percent: Percent
    power: Ratio = 0.8


def compare(request: CompareRequest) -> Answer:
    """Whether a tool has changed by an amount that matters."""
    found = compared(request.before, request.after, request.margin_percent, request.power)
    return {
        "difference_percent": found.difference * 100,
        "low_95_percent": found.low_95 * 100,
        "high_95_percent": found.high_95 * 100,
        "verdict": found.change.value,
        "readings_needed": found.readings_needed,
    }


class _Known(Request):
    setting: Torque
    deviation_percent: Percent


class _GivenLoan(Request):
    id: str
    setting: Torque
    low: Torque
    high: Torque
    factor: Number = 1.0


class ImpactRequest(TorqueRequest):
    results: Annotated[list[_Known], NotEmpty]
    loans: Annotated[list[_GivenLoan], NotEmpty]


def impact(request: ImpactRequest) -> Answer:
    """What each loan's setting delivered, against its job's band."""
    r = request
    known = [KnownDeviation(k.setting, k.deviation_percent) for k in r.results]
    found = review(known, [JobLoan(loan.id, loan.setting, loan.low, loan.high, loan.factor) for loan in r.loans])
    return {
        "loans": [
            {
                "id": f.id,
                "delivered": None if f.delivered is None else r.out(f.delivered),
                "state": f.effect.value,
            }
            for f in found
        ]
    }
