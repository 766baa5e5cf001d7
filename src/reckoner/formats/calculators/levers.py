"""Calculators of adapters and the hand, and of the adjusting screw.

Calculators of tightening sequences and of a beam's scale.
"""

from __future__ import annotations

import math
from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from reckoner.core.adjusting.beamscale import Mark, fit
from reckoner.core.adjusting.screw import MOST, AdjustStep, PointSeries, advise, best_turn
from reckoner.core.errors import InputRefused
from reckoner.core.quantities.checks import at_least, at_most, positive
from reckoner.core.quantities.graduation import graduation_inside, nearest_graduation
from reckoner.core.requirements.tooltypes import ErrorKind
from reckoner.core.tightening.adapters import Adapter, Lever, delivered_by, factor, setting_for, square_window
from reckoner.core.tightening.sequence import circle, passes, rows
from reckoner.core.tightening.setting import Band, BandAim
from reckoner.core.translation import tr
from reckoner.formats.calculators.fields import (
    Angle,
    Answer,
    Count,
    Length,
    NotEmpty,
    Percent,
    Relative,
    Request,
    Torque,
    TorqueRequest,
    Turn,
    or_a_torque,
)


class _Adapter(Request):
    length: Length
    angle: Angle


class _Wanted(Request):
    """One torque, or the joint's band and where in it the torque is aimed at."""

    low: Torque
    high: Torque
    aim: Literal["low", "middle", "high"] | None = None

    @model_validator(mode="before")
    @classmethod
    def _or_a_torque(cls, given: Any) -> Any:
        """A bare torque is both ends."""
        return or_a_torque(given, "low", "high")

    @property
    def band(self) -> Band:
        """Raises InputRefused for one that is upside down."""
        try:
            return Band(self.low, self.high)
        except InputRefused as refusal:
            raise InputRefused("want", refusal.value, refusal.reason) from None


AIMS = {"low": BandAim.LOW, "middle": BandAim.MIDDLE, "high": BandAim.HIGH}


class LeverRequest(TorqueRequest):
    length: Length
    adapters: list[_Adapter] = Field(default_factory=list)
    hand: Length | None = None
    pivot: Length = 0.0
    want: _Wanted | None = None
    aim: Literal["low", "middle", "high"] | None = None
    set: Torque | None = None
    graduation: Torque | None = None
    deviation_percent: Percent = 0.0


def lever(request: LeverRequest) -> Answer:
    """The factor of a chain of adapters, and the setting for a torque or the torque of a setting."""
    r = request
    if r.want is not None and r.set is not None:
        raise InputRefused("set", r.set, tr("give want or set, not both"))
    adapters = []
    for i, a in enumerate(r.adapters):
        try:
            adapters.append(Adapter(a.length, a.angle))
        except InputRefused as refusal:
            field = refusal.field.replace("adapters", f"adapters[{i}]")
            raise InputRefused(field, refusal.value, refusal.reason) from None
    f = factor(Lever(r.length, r.pivot, r.hand), adapters)
    answer: Answer = {"factor": f, "uncorrected_error_percent": (f - 1) * 100}
    if r.want is not None:
        answer |= _wanted(r, r.want.band, f)
    elif r.set is not None:
        answer["delivered"] = r.out(delivered_by(r.set, f, r.deviation_percent))
    return answer


def _wanted(r: LeverRequest, band: Band, f: float) -> Answer:
    """The setting for what is wanted, and what its graduation makes of it."""
    said = r.aim or (r.want.aim if r.want is not None else None) or "middle"
    wanted = band.aimed(AIMS[said])
    ends = [setting_for(torque, f, r.deviation_percent) for torque in (band.low, band.high)]
    setting = setting_for(wanted, f, r.deviation_percent)
    answer: Answer = {"setting": r.out(setting)}
    if r.graduation is None:
        return answer
    step = positive("graduation", r.graduation)
    rounded = nearest_graduation(setting, step) if band.is_one else graduation_inside(setting, step, *ends)
    if rounded == 0:
        raise InputRefused("graduation", step, tr("is so coarse that the setting rounds to zero"))
    delivered = delivered_by(rounded, f, r.deviation_percent)
    answer["rounded_setting"] = r.out(rounded)
    answer["delivered_at_rounded"] = r.out(delivered)
    answer["rounding_error_percent"] = (delivered / wanted - 1) * 100
    if not band.is_one:
        answer["inside"] = at_least(delivered, band.low) and at_most(delivered, band.high)
    return answer


class LeverAngles(Request):
    length: Length
    adapter: Length
    within: Relative


def lever_angles(request: LeverAngles) -> Answer:
    """How far from square an adapter may stand for a permitted error."""
    window = square_window(request.length, request.adapter, request.within)
    return {"from_deg": math.degrees(window.low_rad), "to_deg": math.degrees(window.high_rad)}


class _Series(Request):
    target: Torque
    readings: Annotated[list[Torque], NotEmpty]


class AdjustAll(TorqueRequest):
    points: Annotated[list[_Series], NotEmpty]
    limit_percent: Percent
    kind: ErrorKind = ErrorKind.OFFSET
    rate: Torque | None = None
    rate_percent: Percent | None = None


def adjust_all(request: AdjustAll) -> Answer:
    """The turn that makes the worst deviation of all points smallest, and what each point becomes."""
    r = request
    of_kind, other = ("rate", "rate_percent") if r.kind is ErrorKind.OFFSET else ("rate_percent", "rate")
    if getattr(r, other) is not None:
        raise InputRefused(
            other,
            getattr(r, other),
            tr("does not belong to an error of the kind {kind}; give {of_kind}", kind=r.kind, of_kind=of_kind),
        )
    series = [PointSeries(p.target, tuple(p.readings)) for p in r.points]
    try:
        found = best_turn(series, r.limit_percent, r.kind, getattr(r, of_kind))
    except InputRefused as refusal:
        field = of_kind if refusal.field == "rate" else refusal.field
        raise InputRefused(field, refusal.value, refusal.reason) from None
    return {
        "best_turn": found.turn,
        "worst_percent": found.worst * 100,
        "points": [
            {"target": r.out(p.target), "now_percent": p.now * 100, "then_percent": p.then * 100} for p in found.points
        ],
        "curable": found.curable,
    }


class _Step(Request):
    turn: Turn
    readings: list[Torque]


class Adjust(TorqueRequest):
    target: Torque
    steps: list[_Step]
    prior_rate: Torque | None = None
    rate_uncertainty: Torque | None = None
    largest_turn: Turn = MOST


def adjust(request: Adjust) -> Answer:
    """The next turn of the adjusting screw."""
    r = request
    found = advise(
        r.target,
        [AdjustStep(s.turn, tuple(s.readings)) for s in r.steps],
        r.prior_rate,
        rate_uncertainty=r.rate_uncertainty,
        largest_turn=r.largest_turn,
    )
    return {
        "rate_per_turn": r.out(found.rate_per_turn),
        "rate_uncertainty": r.out(found.rate_uncertainty),
        "next_turn": found.next_turn,
        "eighth_below": found.eighth_below,
        "eighth_above": found.eighth_above,
        "reading_at_eighth_below": r.out(found.reading_at_eighth_below),
        "reading_at_eighth_above": r.out(found.reading_at_eighth_above),
        "reversed": found.reversed,
        "settled": found.settled,
        "inconclusive": found.inconclusive,
    }


class SequenceRequest(TorqueRequest):
    pattern: Literal["circle", "rows"]
    fasteners: Count | None = None
    rows: Count | None = None
    columns: Count | None = None
    stages: Annotated[list[Relative], NotEmpty]
    aim: Torque


def sequence(request: SequenceRequest) -> Answer:
    """The passes over a pattern of fasteners, with a last check pass."""
    r = request
    needed = ("fasteners",) if r.pattern == "circle" else ("rows", "columns")
    for field in ("fasteners", "rows", "columns"):
        if (getattr(r, field) is None) == (field in needed):
            what = (
                tr("is missing")
                if field in needed
                else tr("does not belong to the pattern {pattern}", pattern=r.pattern)
            )
            raise InputRefused(field, None, what)
    order = circle(r.fasteners or 0) if r.pattern == "circle" else rows(r.rows or 0, r.columns or 0)
    found = passes(order, r.stages, r.aim)
    return {"passes": [{"stage": p.stage, "torque": r.out(p.torque), "order": list(p.order)} for p in found]}


class _Mark(Request):
    torque: Torque
    deflection: Length


class ScaleRequest(TorqueRequest):
    marks: list[_Mark]
    every: Torque | None = None


def scale(request: ScaleRequest) -> Answer:
    """The straight line of a beam's scale: slope in m per unit of torque, intercept and residuals in m."""
    r = request
    found = fit([Mark(m.torque, m.deflection) for m in r.marks])
    graduations = [] if r.every is None else found.graduations(r.every)
    return {
        "slope": found.slope * r.unit.to_si(1.0),
        "intercept": found.intercept,
        "residuals": list(found.residuals),
        "worst_residual_percent": None if found.worst_residual is None else found.worst_residual * 100,
        "graduations": [{"torque": r.out(g.torque), "deflection": g.deflection} for g in graduations],
    }
