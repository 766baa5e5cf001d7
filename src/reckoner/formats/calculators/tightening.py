"""Calculators of tightening sequences and of a beam's scale."""

from __future__ import annotations

from typing import Annotated, Literal

from reckoner.core.beamscale import Mark, fit
from reckoner.core.errors import InputRefused
from reckoner.core.sequence import circle, passes, rows
from reckoner.core.translation import tr
from reckoner.formats.calculators.fields import (
    Answer,
    Count,
    Length,
    NotEmpty,
    Relative,
    Request,
    Torque,
    TorqueRequest,
)


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
