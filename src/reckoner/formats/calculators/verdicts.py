"""The calculator of verdicts: from readings to a decision, with the whole budget."""

from __future__ import annotations

import math
from dataclasses import replace
from pathlib import Path
from typing import Annotated, Any

from pydantic import Field, model_validator

from reckoner.core.decision.conformity import signal_at, silent_at
from reckoner.core.decision.suspect import suspects
from reckoner.core.decision.verdict import PointInput, PointResult
from reckoner.core.decision.verdict import verdict as judged
from reckoner.core.errors import InputRefused
from reckoner.core.reference.certificate import CertificatePoint, KnownError, ReferenceAtPoint, at_torque
from reckoner.core.requirements.limits import of_reading
from reckoner.core.requirements.rules import Coverage, Decision, Rule, RuleSet
from reckoner.core.requirements.tooltypes import ToolKind, ToolType
from reckoner.core.translation import tr
from reckoner.core.uncertainty.budget import (
    COMPONENT_NAMES,
    EFFECT_NAMES,
    FEW_DEGREES,
    Effect,
    Effects,
    EffectWidth,
    Observations,
)
from reckoner.core.uncertainty.characterisation import freedom_of, width_of_difference, width_of_range
from reckoner.core.uncertainty.simulation import DEFAULT_SEED, simulate_budget
from reckoner.formats.apart import apart
from reckoner.formats.calculators.fields import (
    Answer,
    Count,
    NotEmpty,
    Number,
    Percent,
    Ratio,
    Relative,
    Request,
    Torque,
    TorqueRequest,
    or_a_torque,
    simulated,
)
from reckoner.formats.refusals import FileRefused
from reckoner.formats.rulesets import SHIPPED, load, shipped


class _Tool(Request):
    type: ToolType
    class_: str = Field(alias="class")
    max: Torque
    min: Torque | None = None
    resolution: Torque = 0.0
    tolerance_percent: Percent | None = None


class _GivenReference(Request):
    expanded_uncertainty: Relative
    coverage_factor: Number = 2.0
    error: Relative = 0.0
    resolution: Torque = 0.0
    correct: bool = True


class _Point(Request):
    target: Torque | None = None
    readings: list[Torque] | None = None
    indications: list[Torque] | None = None
    reference_torque: Torque | None = None

    @model_validator(mode="after")
    def _one_way(self) -> _Point:
        readings = self.target is not None and self.readings is not None
        indications = self.indications is not None and self.reference_torque is not None
        if readings == indications or (
            readings and (self.indications is not None or self.reference_torque is not None)
        ):
            raise ValueError("give target and readings, or indications and reference_torque")
        if indications and self.readings is not None:
            raise ValueError("give target and readings, or indications and reference_torque")
        return self

    @property
    def observations(self) -> Observations:
        if self.readings is not None:
            return Observations.of_readings(self.target or 0.0, self.readings)
        return Observations.of_indications(self.indications or [], self.reference_torque or 0.0)

    @property
    def aim(self) -> float:
        """The target in N·m; the fixed torque where none is given."""
        return self.target if self.target is not None else self.reference_torque or 0.0


class _Effect(Request):
    """A b value: the range of so many means, each of so many readings; or, where ``of`` is not given, an assumed one."""

    value: Torque
    of: Count | None = None
    readings: Count | None = None
    reliability: Relative | None = None

    @model_validator(mode="before")
    @classmethod
    def _or_a_torque(cls, given: Any) -> Any:
        """A bare torque is an assumed value; what is wrong with it is said of the field that has it."""
        return or_a_torque(given, "value")

    @model_validator(mode="after")
    def _of_one_kind(self) -> _Effect:
        if self.of is None and self.readings is not None:
            raise ValueError("readings are those of the means whose number stands in of")
        if self.of is not None and self.reliability is not None:
            raise ValueError("give of, or reliability: a range says itself how well it is known")
        return self

    def width(self, name: str, scatter: float, reliability: float | None) -> EffectWidth:
        """What a budget takes for it, where readings scatter by ``scatter`` (N·m). Raises InputRefused."""
        if self.of is None:
            trusted = self.reliability if self.reliability is not None else reliability
            return EffectWidth(self.value, math.inf if trusted is None else freedom_of(trusted))
        scatters = scatter if self.readings is not None else 0.0
        if name == Effect.LOADING_POINT:
            if self.of != 2:
                raise InputRefused(
                    "of", self.of, tr("is the difference of 2 means, with the hand nearer and further out")
                )
            return width_of_difference(self.value, scatters, self.readings or 1)
        if self.of not in range(2, MOST_MEANS + 1):
            raise InputRefused(
                "of", self.of, tr("must lie between 2 and {most_means}, not {of}", most_means=MOST_MEANS, of=self.of)
            )
        return width_of_range(self.value, self.of, scatters, self.readings or 1)


MOST_MEANS = 5
"""Means of which a range is taken at the most."""


class _Effects(Request):
    reproducibility: _Effect | None = None
    output_drive: _Effect | None = None
    interface: _Effect | None = None
    loading_point: _Effect | None = None
    reliability: Relative | None = None

    def at(self, scatter: float, reliability: float | None) -> Effects:
        """The effects at a point whose readings scatter by ``scatter`` (N·m). Raises InputRefused."""
        found: dict[str, EffectWidth] = {}
        for name in EFFECT_NAMES:
            given: _Effect | None = getattr(self, name)
            if given is not None:
                try:
                    trusted = self.reliability if self.reliability is not None else reliability
                    found[name] = given.width(name, scatter, trusted)
                except InputRefused as refusal:
                    raise refusal.within(f"effects.{name}") from None
        return Effects(**found)


class _CertificateLine(Request):
    torque: Torque
    error: Relative = 0.0
    expanded_uncertainty: Relative


class CertificateRequest(Request):
    points: Annotated[list[_CertificateLine], NotEmpty]
    torque: Torque


def certificate(request: CertificateRequest) -> Answer:
    """A reference's error and expanded uncertainty at a torque between the points of its certificate."""
    points = [CertificatePoint(p.torque, p.error, p.expanded_uncertainty) for p in request.points]
    found = at_torque(points, request.torque)
    return {"error_percent": found.error * 100, "expanded_uncertainty_percent": found.expanded_uncertainty * 100}


class EvidenceRequest(Request):
    set: Torque
    silent_at: Torque | None = None
    signal_at: Torque | None = None
    limit_percent: Percent


def evidence(request: EvidenceRequest) -> Answer:
    """What a tool that stayed silent, or that signalled too early, proves: outside, or nothing yet."""
    r = request
    if (r.silent_at is None) == (r.signal_at is None):
        raise InputRefused("silent_at", r.silent_at, tr("give silent_at or signal_at"))
    if r.silent_at is not None:
        found = silent_at(r.set, r.silent_at, r.limit_percent)
    else:
        found = signal_at(r.set, r.signal_at or 0.0, r.limit_percent)
    return {"state": found.proof.value, "bound_percent": found.bound * 100}


class QuestionRequest(TorqueRequest):
    target: Torque
    readings: Annotated[list[Torque], NotEmpty]
    limit_percent: Percent
    other_targets: list[Torque] = Field(default_factory=list)


def question(request: QuestionRequest) -> Answer:
    """Which readings of a series are asked about before they count, and why."""
    r = request
    found = suspects(r.target, r.readings, r.limit_percent, r.other_targets)
    return {
        "asked": [{"index": s.index, "why": s.why.value, "of": None if s.of is None else r.out(s.of)} for s in found]
    }


class VerdictRequest(TorqueRequest):
    tool: _Tool
    reference: _GivenReference
    points: Annotated[list[_Point], NotEmpty]
    effects: _Effects = Field(default_factory=_Effects)
    reliability: Relative | None = None
    rule_set: str = "iso-6789-2017"
    rule: Rule | None = None
    guard_factor: Number | None = None
    level: Ratio | None = None
    coverage: Coverage | None = None
    trials: Count = 0
    seed: Count = DEFAULT_SEED


def verdict(request: VerdictRequest) -> Answer:
    """The verdict on a run: limit, reference adequacy, every point's budget and decision."""
    r = request
    rules = _rules(r.rule_set)
    own = r.tool.tolerance_percent
    try:
        limits = (of_reading(own),) if own is not None else ()
        kind = ToolKind(r.tool.type, r.tool.class_, r.tool.max, r.tool.min, r.tool.resolution, limits)
    except InputRefused as refusal:
        raise refusal.within("tool") from None
    try:
        f = r.reference
        reference = ReferenceAtPoint(
            f.expanded_uncertainty,
            f.coverage_factor,
            f.error,
            f.resolution,
            KnownError.CORRECTED if f.correct else KnownError.COUNTED,
        )
    except InputRefused as refusal:
        raise refusal.within("reference") from None
    points = []
    for i, point in enumerate(r.points):
        try:
            points.append(PointInput(point.aim, point.observations, reference))
        except InputRefused as refusal:
            raise refusal.within(f"points[{i}]") from None
    effects = [r.effects.at(p.observations.scatter, r.reliability) for p in points]
    found = judged(kind, rules, points, effects=effects, decision=_decision(rules.decision, r), whole=True)
    return {
        "limit_percent": found.points[0].decision.limit * 100,
        "reference_adequate": found.reference_adequate,
        "verdict": found.state.value,
        "accepted": found.accepted,
        "points": [_point(p, r) for p in found.points],
    }


def _rules(name: str) -> RuleSet:
    if name.endswith(".toml"):
        try:
            return apart(load, Path(name))
        except FileRefused as refusal:
            raise InputRefused("rule_set", name, "; ".join(refusal.mistakes)) from None
    if name not in SHIPPED:
        raise InputRefused(
            "rule_set", name, tr('there is no rule set "{name}"; there are {list}', name=name, list=", ".join(SHIPPED))
        )
    return shipped(name)


def _decision(decision: Decision, r: VerdictRequest) -> Decision:
    if r.guard_factor is not None and not 0 <= r.guard_factor <= 10:
        raise InputRefused(
            "guard_factor",
            r.guard_factor,
            tr("must lie between 0 and 10, not {guard_factor:g}", guard_factor=r.guard_factor),
        )
    if r.level is not None and not 0.5 < r.level < 1:
        raise InputRefused("level", r.level, tr("must lie between 0.5 and 1, not {level:g}", level=r.level))
    given = {name: getattr(r, name) for name in ("rule", "guard_factor", "level", "coverage")}
    return replace(decision, **{name: value for name, value in given.items() if value is not None})


def _point(point: PointResult, r: VerdictRequest) -> Answer:
    budget = point.budget
    freedom = budget.degrees_of_freedom
    freedoms = {c.name: None if math.isinf(c.degrees_of_freedom) else c.degrees_of_freedom for c in budget.components}
    return {
        "target": r.out(point.target),
        "mean_reading": r.out(budget.mean_reading),
        "deviations_percent": [a * 100 for a in budget.deviations],
        "deviation_percent": budget.deviation * 100,
        "standard_deviation": r.out(budget.standard_deviation),
        "components_percent": {name: budget.component(name).value * 100 for name in COMPONENT_NAMES},
        "standard_uncertainty_percent": budget.standard_uncertainty * 100,
        "degrees_of_freedom": None if math.isinf(freedom) else freedom,
        "degrees_of_freedom_of": freedoms,
        "coverage_factor": budget.coverage_factor,
        "expanded_uncertainty_percent": budget.expanded_uncertainty * 100,
        "student_expanded_uncertainty_percent": budget.student[1] * 100 if freedom < FEW_DEGREES else None,
        "uncertainty_interval_percent": budget.uncertainty_interval * 100,
        "probability_of_conformity": point.decision.probability,
        "verdict": point.decision.state.value,
        "accepted": point.decision.accepted,
        "simulated": simulated(simulate_budget(budget, r.trials, r.seed), 100.0, "_percent") if r.trials else None,
    }
