"""The verdict on a whole run: every point's budget and decision, and the run's own."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from reckoner.core.decision.conformity import PointDecision, all_accepted, judge, worst_state
from reckoner.core.decision.states import State
from reckoner.core.errors import InputRefused
from reckoner.core.quantities.checks import at_least, at_most
from reckoner.core.reference.certificate import ReferenceAtPoint
from reckoner.core.requirements.rules import Decision, RuleSet
from reckoner.core.requirements.tooltypes import ToolKind
from reckoner.core.translation import tr
from reckoner.core.uncertainty.budget import Budget, Effects, Observations, budget


class PointResult(NamedTuple):
    """One point in one direction: its target (N·m), what was seen, and the judgement."""

    target: float
    budget: Budget
    decision: PointDecision
    reference_adequate: bool


class Verdict(NamedTuple):
    """A run judged: the worst point's state, and whether the chosen rule accepts the whole (None: open)."""

    rule_set: str
    decision: Decision
    points: tuple[PointResult, ...]

    @property
    def reference_adequate(self) -> bool:
        return all(p.reference_adequate for p in self.points)

    @property
    def state(self) -> State:
        return worst_state(tuple(p.decision.state for p in self.points))

    @property
    def accepted(self) -> bool | None:
        return all_accepted(tuple(p.decision.accepted for p in self.points))

    @property
    def worst(self) -> PointResult:
        """The point that decides: the worst state, and among those the one that takes up most of its limit."""
        return max(self.points, key=lambda p: (p.decision.state.severity, p.decision.looked_at / p.decision.limit))

    @property
    def limits(self) -> tuple[tuple[float, float], ...]:
        """The permissible deviation (a fraction) at each target (N·m), rising."""
        return tuple(sorted({(p.target, p.decision.limit) for p in self.points}))

    def by_rule(self, decision: Decision) -> Verdict:
        """The same readings judged by another rule (the budget is kept)."""
        points = tuple(
            p._replace(
                decision=judge(
                    p.budget,
                    p.decision.limit,
                    decision,
                    reference_adequate=p.reference_adequate,
                    otherwise=State.COMPARED if p.decision.state is State.COMPARED else State.UNDECIDED,
                )
            )
            for p in self.points
        )
        return self._replace(decision=decision, points=points)


class PointInput(NamedTuple):
    """What goes into one point: its target (N·m), the observations, and the reference there."""

    target: float
    observations: Observations
    reference: ReferenceAtPoint


def verdict(
    kind: ToolKind,
    rules: RuleSet,
    points: Sequence[PointInput],
    *,
    effects: Effects | Sequence[Effects] | None = None,
    decision: Decision | None = None,
    reference_trusted: bool = True,
    whole: bool = False,
    unproven: bool = False,
) -> Verdict:
    """Judge ``points`` of a tool of ``kind`` under ``rules``; ``decision`` overrides the rule set's own. ``effects`` are
    the same at each point, or one for each.

    A reference not to be trusted (out of date, off zero), or whose W, and counted error, exceed what the rule set allows,
    decides nothing; an ``unproven`` one compares. ``whole``: the points are all that there will be, so fewer readings than
    the rule set asks for decide nothing under its name, and a point outside the tool's range is refused. Raises
    InputRefused also when there is no point or a point has fewer than two readings. Source: ISO 6789-1:2017, 6.2; ISO
    6789-2:2017, 6.
    """
    if not points:
        raise InputRefused("points", (), tr("needs at least one point with readings"))
    decision = decision or rules.decision
    one_limit = rules.table_limit(kind) if not kind.limits else None  # the same at each point
    short = _too_few(kind, rules, points) if whole else ()
    results = []
    for i, (target, observations, reference) in enumerate(points):
        limit = one_limit or rules.limit(kind, target)
        adequate = reference_trusted and at_most(reference.doubt, rules.reference_limit(limit))
        try:
            there = effects if effects is None or isinstance(effects, Effects) else effects[i]
            found = budget(observations, kind, reference, there, decision.coverage)
        except InputRefused as refusal:
            raise refusal.within(f"points[{i}]") from None
        decides = adequate if not short else adequate and i not in short
        decides, state = (False, State.COMPARED) if unproven else (decides, State.UNDECIDED)
        judged = judge(found, limit, decision, reference_adequate=decides, otherwise=state)
        results.append(PointResult(target, found, judged, adequate and not unproven))
    return Verdict(rules.name, decision, tuple(results))


BESIDE = 0.05
"""How far a fixed torque, such as that of weights, may lie beside the tool's range, as a fraction."""


def _too_few(kind: ToolKind, rules: RuleSet, points: Sequence[PointInput]) -> tuple[int, ...]:
    """The places of the points with fewer readings than ``rules`` ask for. Raises InputRefused for one outside the tool's
    range."""
    for i, (target, observations, _) in enumerate(points):
        fixed_by_the_tool = bool(observations.tool) and target == observations.tool[0]
        _in_range(kind, target, f"points[{i}].target", 0.0 if fixed_by_the_tool else BESIDE)
    wanted = rules.readings_for(kind)
    return tuple(i for i, point in enumerate(points) if len(point.observations.reference) < wanted)


def _in_range(kind: ToolKind, target: float, field: str, beside: float) -> None:
    """Raises InputRefused for a point that the tool cannot be set to, by more than ``beside``, a fraction."""
    low, high = (kind.minimum or 0.0) * (1 - beside), kind.maximum * (1 + beside)
    if not (at_least(target, low) and at_most(target, high)):
        reach = (
            tr("up to {maximum:g}", maximum=kind.maximum)
            if kind.minimum is None
            else tr("from {minimum:g} to {maximum:g}", minimum=kind.minimum, maximum=kind.maximum)
        )
        raise InputRefused(
            field,
            target,
            tr(
                "{target:g} N·m lies outside the tool's range, {reach} N·m; nothing is decided there",
                target=target,
                reach=reach,
            ),
        )
