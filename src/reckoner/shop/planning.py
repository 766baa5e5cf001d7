"""What a run will do, before it is begun: the proposal, what may be changed in it, and where a change misleads."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import date, datetime, time

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.errors import InputRefused
from reckoner.core.kinds import MeterMode
from reckoner.core.printing import quantity
from reckoner.core.rules import Rule, RuleSet
from reckoner.formats.rulesets import SHIPPED, shipped
from reckoner.shop.acts import Act, ShopRefused
from reckoner.shop.facts import ToolFacts, tool_facts
from reckoner.shop.run import AS_FOUND, RunKind
from reckoner.shop.runload import earlier_series, rule_set_text, rules_from
from reckoner.store.schema import Run, Signature, Tool, ToolEvent

HARMFUL = ("fell", "overloaded", "lock loose", "repaired", "seal broken", "used to loosen", "stored wound up")
"""Kinds of events after which a tool is checked before it is used again."""

EFFECTS = {
    "reproducibility": ("remounted", 4),
    "output_drive": ("drive at", 4),
    "interface": ("adapter at", 4),
    "loading_point": ("hand", 2),
}
"""The effects of a characterisation: how a place is named, and how many places there are."""


SAME = 1e-9
"""Points are the same within this fraction of them."""


@dataclass(frozen=True)
class Plan:
    """What a run is to do: torques in N·m. Empty ``rule`` and ``mode``: what rule set and mechanism say. ``note`` is the
    reason where a rule is set aside; ``effects`` are what a characterisation measures."""

    kind: RunKind
    rule_set: str
    points: tuple[float, ...]
    directions: tuple[str, ...]
    readings: int
    rule: str = ""
    mode: str = ""
    adapter: str = ""
    note: str = ""
    event_id: int | None = None
    effects: tuple[str, ...] = ()


@dataclass(frozen=True)
class Lacking:
    """A fact that the register lacks and the run needs: the model's ``field``, its name, and why it matters."""

    field: str
    name: str
    why: str


@dataclass(frozen=True)
class Proposal:
    """What Reckoner proposes for a tool; ``reason`` says why this kind of run. ``rule_sets`` are those that fit it."""

    tool: ToolFacts
    plan: Plan
    reason: str
    rules: RuleSet
    rule_sets: tuple[tuple[str, str], ...]
    lacking: tuple[Lacking, ...]
    event: str = ""
    restricted: tuple[float, float] | None = None


def propose(
    session: Session, tool_id: int, today: date, kind: RunKind | None = None, rule_set: str | None = None
) -> Proposal:
    """The proposal for a tool, for a ``kind`` of run and ``rule_set`` where the person has chosen them. Raises ShopRefused
    when the rule set cannot test it."""
    tool = tool_facts(session.get_one(Tool, tool_id))
    event = _open_event(session, tool_id)
    reason = "Its kind of run was chosen."
    if kind is None:
        kind, reason = _fitting_kind(event, today)
    name = rule_set or (tool.rule_set if kind in (RunKind.FULL, RunKind.CHARACTERISE) else "quick-check")
    rules = rules_from(rule_set_text(name, tool), name)
    directions = tool.directions
    points = _points(tool, rules, kind)
    readings = rules.readings_for(tool.kind)
    if kind is RunKind.EVENT:
        before = earlier_series(session, tool_id, _end_of(today))
        known = tuple(sorted({e.target for e in before}))
        points = (min(known, key=lambda t: abs(t - points[0])),) if known else points
        directions = tuple(d for d in directions if any(e.direction == d for e in before)) or directions
        readings = 5
    effects: tuple[str, ...] = ()
    if kind is RunKind.CHARACTERISE:
        points, directions, readings = (points[0],), directions[:1], 5
        effects = tuple(e for e in EFFECTS if e != "loading_point" or not tool.kind.is_screwdriver)
    plan = Plan(kind, name, points, directions, readings, event_id=event.id if event else None, effects=effects)
    low_high = restriction(session, tool_id)
    if low_high is not None:
        kept = tuple(p for p in plan.points if low_high[0] <= p <= low_high[1])
        plan = replace(plan, points=kept or plan.points)
    short = kind in (RunKind.CHECK, RunKind.EVENT)
    fitting = tuple((n, shipped(n).title) for n in SHIPPED if short or shipped(n).renews_due_date)
    return Proposal(tool, plan, reason, rules, fitting, lacking(tool), event.note if event else "", low_high)


def _fitting_kind(event: ToolEvent | None, today: date) -> tuple[RunKind, str]:
    if event is not None:
        what = event.note or event.kind
        return RunKind.EVENT, f"Something happened to it on {event.at:%-d %b %Y}: {what}."
    return RunKind.FULL, "A full run renews its due date."


def _points(tool: ToolFacts, rules: RuleSet, kind: RunKind) -> tuple[float, ...]:
    try:
        rules.limit(tool.kind)
        return rules.points(tool.kind)
    except InputRefused as refusal:
        if rules.owner_points:
            return (tool.kind.nearest_setting(0.6 * tool.kind.maximum),)
        raise ShopRefused(f"{tool.number} cannot be tested by {rules.title}: {refusal.reason}.") from None


def _open_event(session: Session, tool_id: int) -> ToolEvent | None:
    """The newest harmful event that no signed run has answered yet."""
    event = session.scalars(
        select(ToolEvent)
        .where(ToolEvent.tool_id == tool_id, ToolEvent.kind.in_(HARMFUL))
        .order_by(ToolEvent.at.desc())
        .limit(1)
    ).first()
    if event is None:
        return None
    answered = session.scalar(
        select(Signature.id).join(Run).where(Run.tool_id == tool_id, Signature.at > event.at).limit(1)
    )
    return None if answered else event


def restriction(session: Session, tool_id: int) -> tuple[float, float] | None:
    """The part of its range (N·m) to which the tool is restricted; None when it is not."""
    newest = session.scalars(
        select(ToolEvent)
        .where(ToolEvent.tool_id == tool_id, ToolEvent.kind.in_(("restricted", "unrestricted")))
        .order_by(ToolEvent.id.desc())
        .limit(1)
    ).first()
    if newest is None or newest.kind != "restricted" or newest.low is None or newest.high is None:
        return None
    return newest.low, newest.high


def lacking(tool: ToolFacts) -> tuple[Lacking, ...]:
    """What the register lacks of the tool and a run needs."""
    found = []
    if not tool.kind.resolution and not tool.kind.is_fixed and not _without_scale(tool):
        found.append(Lacking("resolution", "Readable fraction of its graduation", "it counts in every budget"))
    if tool.lever is None and not tool.kind.is_screwdriver:
        found.append(Lacking("lever_length", "Lever, drive centre to grip mark", "adapters and weights need it"))
    if not tool.drive:
        found.append(Lacking("drive", "Its drive, such as ½ in", "the adapter on the meter follows from it"))
    return tuple(found)


def _without_scale(tool: ToolFacts) -> bool:
    return tool.kind.tool in (("II", "C"), ("II", "F"))


def warnings(proposal: Proposal, plan: Plan) -> tuple[str, ...]:
    """Where a changed plan misleads, a sentence each; each wants the plan's note."""
    tool, rules = proposal.tool, rules_from(rule_set_text(plan.rule_set, proposal.tool), plan.rule_set)
    said = []
    if plan.kind is RunKind.FULL and plan.rule_set != tool.rule_set:
        said.append(f"The register has {tool.number} judged by {shipped(tool.rule_set).title}, not by {rules.title}.")
    if plan.kind is RunKind.FULL and not rules.owner_points:
        low, high = proposal.restricted or (0.0, math.inf)
        own = {p for p in _points(tool, rules, plan.kind) if low <= p <= high}
        left_out = sorted(own - set(as_known(plan.points, own)))
        if left_out:
            words = ", ".join(quantity(p, tool.unit) for p in left_out)
            said.append(f"{rules.title} asks for {words} too; the record will say that it was left out.")
    if plan.kind is RunKind.FULL and plan.readings < rules.readings_for(tool.kind):
        said.append(f"{rules.title} asks for {rules.readings_for(tool.kind)} readings at each point.")
    if plan.kind is RunKind.FULL and set(plan.directions) < set(tool.directions):
        said.append("The tool is used in both directions; only one will be covered.")
    if plan.rule and Rule(plan.rule) is not rules.decision.rule:
        said.append("The decision rule is not the one that the rule set names.")
    implied = tool.implies.mode
    if plan.mode and MeterMode(plan.mode) is not implied:
        said.append(mode_warning(implied, MeterMode(plan.mode)))
    return tuple(said)


def mode_warning(implied: MeterMode, chosen: MeterMode) -> str:
    """What goes wrong when the meter catches something else than the mechanism gives."""
    if implied is MeterMode.FIRST_PEAK:
        return (
            f"In {chosen} mode the meter records how far the hand travelled past the signal, often 20 to 40 % more than "
            "the tool's own torque."
        )
    return f"A tool that is brought to a mark and held has no {chosen}; its plateau is the reading."


def check(plan: Plan, tool: ToolFacts) -> None:
    """Refuse a plan that cannot be carried out. Raises ShopRefused."""
    unit = tool.unit
    if not plan.points:
        raise ShopRefused("Name at least one point.")
    if len(set(plan.points)) < len(plan.points):
        raise ShopRefused("Two points are the same; name each once.")
    if plan.kind is RunKind.CHARACTERISE and not plan.effects:
        raise ShopRefused("Choose at least one effect to measure.")
    if not 2 <= plan.readings <= 50:
        raise ShopRefused(f"{plan.readings} readings at each point cannot be judged; take 2 to 50.")
    if not plan.directions:
        raise ShopRefused("Choose at least one direction.")
    for point in plan.points:
        if not 0 < point <= tool.kind.maximum * (1 + 1e-9):
            raise ShopRefused(f"{quantity(point, unit)} is outside the tool's range of {tool.range_text}.")
        if abs(tool.kind.nearest_setting(point) - point) > 1e-6 * point and not tool.kind.is_fixed:
            near = quantity(tool.kind.nearest_setting(point), unit)
            raise ShopRefused(f"The tool cannot be set to {quantity(point, unit)}; the nearest graduation is {near}.")


def as_known(points: Iterable[float], known: Iterable[float]) -> tuple[float, ...]:
    """``points``, each that is one of ``known`` but for rounding replaced by it: 1.2 N·m is typed again in another last bit,
    and results are held against earlier ones by their point."""
    known = tuple(known)
    return tuple(next((k for k in known if math.isclose(k, p, rel_tol=SAME)), p) for p in points)


def settled_points(session: Session, plan: Plan, tool: ToolFacts, act: Act) -> Plan:
    """The plan with its points as the tool's newest results or its rule set have them."""
    earlier = [e.target for e in earlier_series(session, tool.id, act.at)]
    rules = rules_from(rule_set_text(plan.rule_set, tool), plan.rule_set)
    return replace(plan, points=as_known(plan.points, (*earlier, *_points(tool, rules, plan.kind))))


def planned_series(plan: Plan) -> tuple[tuple[str, str, float, int, str], ...]:
    """(phase, direction, target, readings, place) of each series, in the order they are taken."""
    if plan.kind is RunKind.CHARACTERISE:
        return tuple(
            (effect, plan.directions[0], plan.points[0], plan.readings, place)
            for effect in plan.effects
            for place in places(effect)
        )
    return tuple(
        (AS_FOUND, direction, target, plan.readings, "") for direction in plan.directions for target in plan.points
    )


def places(effect: str) -> tuple[str, ...]:
    """The places at which an effect is measured, in words."""
    words, count = EFFECTS[effect]
    if effect == "reproducibility":
        return tuple(f"{words}, {i + 1} of {count}" for i in range(count))
    if effect == "loading_point":
        return (f"{words} 10 mm nearer", f"{words} 10 mm further out")
    return tuple(f"{words} {i * 90}°" for i in range(count))


def _end_of(day: date) -> datetime:
    return datetime.combine(day, time.max).astimezone()
