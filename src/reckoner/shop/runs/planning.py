"""What a run will do, before it is begun: the proposal, what may be changed in it, and where a change misleads."""

from __future__ import annotations

import math
from collections.abc import Iterable
from contextlib import suppress
from dataclasses import dataclass, replace
from datetime import date

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.days import day_words
from reckoner.core.quantities.printing import quantity
from reckoner.core.requirements.rules import Rule, RuleSet
from reckoner.core.requirements.tooltypes import Direction, MeterMode
from reckoner.core.translation import tr
from reckoner.core.uncertainty.budget import Effect
from reckoner.formats.rulesets import SHIPPED, shipped
from reckoner.shop.events.kinds import EVENTS
from reckoner.shop.events.standing import Standing, kept
from reckoner.shop.facts.judged import on_second_scale
from reckoner.shop.facts.tool import ToolFacts, tool_facts
from reckoner.shop.people.authorship import Act, ShopRefused
from reckoner.shop.register.completing import ModelFact
from reckoner.shop.runs.document import rules_from
from reckoner.shop.runs.kinds import POLICIES
from reckoner.shop.runs.loading import earlier_series, rule_set_text
from reckoner.shop.runs.reach import by_weights, makeable_at, within_reach
from reckoner.shop.runs.records import CAME, FOUND, MEASURE, Phase
from reckoner.shop.runs.sides import SidesPlan
from reckoner.shop.setups.plan import BoxTorque
from reckoner.store.schema import Tool, ToolEvent, ToolStanding
from reckoner.store.terms import Contrast, RunKind

PLACES: dict[Effect, int] = {
    Effect.REPRODUCIBILITY: 4,
    Effect.OUTPUT_DRIVE: 4,
    Effect.INTERFACE: 4,
    Effect.LOADING_POINT: 2,
}
"""At how many places each effect of a characterisation is measured."""

AS_IT_CAME, MOST_AS_IT_CAME = 2, 3
"""Pulls before any exercise after something happened to a tool, and at most: they show what the joints got."""

SAME = 1e-9
"""Points are the same within this fraction of them."""


@dataclass(frozen=True)
class RunPlan:
    """What a run is to do: torques in N·m. ``rule`` and ``mode`` None: what rule set and mechanism say. ``note`` is the
    reason where a rule is set aside; ``effects`` are what a characterisation measures, ``sides`` what a comparison holds
    against each other; ``came`` how many pulls are taken as it came, before anything else. ``second_scale``: it is set by
    that; ``head`` (m) is the exchangeable head that is on it (None: the one that it was made for)."""

    kind: RunKind
    rule_set: str
    points: tuple[float, ...]
    directions: tuple[Direction, ...]
    readings: int
    rule: Rule | None = None
    mode: MeterMode | None = None
    adapter: str = ""
    note: str = ""
    event_id: int | None = None
    effects: tuple[Effect, ...] = ()
    came: int = 0
    sides: SidesPlan | None = None
    second_scale: bool = False
    head: float | None = None


@dataclass(frozen=True)
class PlannedSeries:
    """One series of a plan; ``effect`` and ``place`` where one is measured."""

    phase: Phase
    direction: Direction
    target: float
    wanted: int
    effect: Effect | None = None
    place: int | None = None


@dataclass(frozen=True)
class Lacking:
    """A fact that the register lacks and the run needs: which of the model's, its name, and why it matters."""

    fact: ModelFact
    name: str
    why: str


@dataclass(frozen=True)
class Proposal:
    """What Reckoner proposes for a tool; ``reason`` says why this kind of run. ``rule_sets`` are those that fit it,
    ``box`` what the shop's weights make on it where no meter judges it."""

    tool: ToolFacts
    plan: RunPlan
    reason: str
    rules: RuleSet
    rule_sets: tuple[tuple[str, str], ...]
    lacking: tuple[Lacking, ...]
    event: str = ""
    restricted: tuple[float, float] | None = None
    box: tuple[BoxTorque, ...] = ()


def propose(
    session: Session,
    tool_id: int,
    today: date,
    kind: RunKind | None = None,
    rule_set: str | None = None,
    *,
    second_scale: bool = False,
    at: float | None = None,
    hanger: float = 0.0,
) -> Proposal:
    """The proposal for a tool, for a ``kind`` of run and ``rule_set`` where the person has chosen them, set by its
    ``second_scale`` where that is, and at the graduation nearest to the torque ``at`` (N·m) where one is asked for. With
    weights hook and rope, the ``hanger`` in kg, hang too. Raises ShopRefused when the rule set cannot test it."""
    tool = tool_facts(session.get_one(Tool, tool_id))
    if second_scale:
        tool = on_second_scale(tool)
    row = session.scalar(select(ToolStanding).where(ToolStanding.tool_id == tool_id))
    now = kept(row) if row is not None else Standing()
    event = session.get(ToolEvent, now.check_event_id) if now.check_event_id is not None else None
    reason = tr("Its kind of run was chosen.")
    if kind is None:
        kind, reason = _fitting_kind(event)
    policy = POLICIES[kind]
    name = rule_set or policy.rule_set or tool.rule_set
    rules = rules_from(rule_set_text(name, tool), name)
    directions = tool.directions
    points = _points(tool, rules)
    if policy.compares:
        before = earlier_series(session, tool_id)
        known = tuple(sorted({e.target for e in before}))
        points = (min(known, key=lambda t: abs(t - points[0])),) if known else points
        directions = tuple(d for d in directions if any(e.direction == d for e in before)) or directions
    if policy.contrasts or policy.diary:
        points = (min(points, key=lambda p: abs(p - MIDDLE * tool.kind.maximum)),)
    if policy.one_point:
        points, directions = points[:1], directions[:1]
    effects: tuple[Effect, ...] = ()
    if policy.measures:
        effects = tuple(e for e in Effect if e is not Effect.LOADING_POINT or not tool.kind.is_screwdriver)
    plan = RunPlan(
        kind,
        name,
        points,
        directions,
        policy.readings or rules.readings_for(tool.kind),
        event_id=event.id if event else None,
        effects=effects,
        sides=SidesPlan.of(Contrast.ADAPTER) if policy.contrasts else None,
        came=AS_IT_CAME if policy.diary or (event is not None and policy.judges) else 0,
        second_scale=second_scale,
    )
    if now.restricted is not None:
        low, high = now.restricted
        inside = tuple(p for p in plan.points if low <= p <= high)
        plan = replace(plan, points=inside or plan.points)
    elif policy.judges and not policy.compares and not tool.kind.is_fixed:
        plan = within_reach(session, tool, rules, plan, today)
    box = by_weights(session, tool, rules, plan, today, hanger) if policy.judges and not tool.kind.is_fixed else ()
    if policy.glance and policy.judges and not policy.compares:
        plan = makeable_at(tool, plan, box)
    if at is not None:
        plan = replace(plan, points=(tool.kind.nearest_setting(at),), note="")
    short = bool(policy.rule_set)
    fitting = tuple((n, shipped(n).title) for n in SHIPPED if short or shipped(n).renews_due_date)
    return Proposal(tool, plan, reason, rules, fitting, lacking(tool), event.note if event else "", now.restricted, box)


def read_ahead(session: Session, today: date) -> None:
    """Read what a proposal reads, of any tool: the first time takes twenty times as long, for statements are compiled and
    rule sets read."""
    tool_id = session.scalar(select(Tool.id).where(Tool.removed.is_(False)).order_by(Tool.id).limit(1))
    if tool_id is not None:
        with suppress(ShopRefused):
            propose(session, tool_id, today)


def _fitting_kind(event: ToolEvent | None) -> tuple[RunKind, str]:
    if event is not None:
        what = event.note or EVENTS[event.kind].words.lower()
        return RunKind.EVENT, tr("Something happened to it on {at}: {what}.", at=day_words(event.at), what=what)
    return RunKind.FULL, tr("A full run renews its due date.")


def _points(tool: ToolFacts, rules: RuleSet) -> tuple[float, ...]:
    try:
        rules.table_limit(tool.kind)
        return rules.points(tool.kind)
    except InputRefused as refusal:
        if rules.owner_points:
            return (tool.kind.nearest_setting(0.6 * tool.kind.maximum),)
        raise ShopRefused(
            tr(
                "{number} cannot be tested by {title}: {reason}.",
                number=tool.number,
                title=rules.title,
                reason=refusal.reason,
            )
        ) from None


def lacking(tool: ToolFacts) -> tuple[Lacking, ...]:
    """What the register lacks of the tool and a run needs."""
    found = []
    if not tool.kind.resolution and not tool.kind.is_fixed and not _without_scale(tool):
        found.append(
            Lacking(ModelFact.RESOLUTION, tr("Readable fraction of its graduation"), tr("it counts in every budget"))
        )
    if tool.lever is None and not tool.kind.is_screwdriver:
        found.append(
            Lacking(ModelFact.LEVER_LENGTH, tr("Lever, drive centre to grip mark"), tr("adapters and weights need it"))
        )
    if tool.second is not None and tool.second.resolution is None:
        name = tr("Readable fraction on its scale in {symbol}", symbol=tool.second.unit.symbol)
        found.append(Lacking(ModelFact.SECOND_RESOLUTION, name, tr("it can then be tested by that scale")))
    if not tool.drive:
        found.append(
            Lacking(ModelFact.DRIVE, tr("Its drive, such as ½ in"), tr("the adapter on the meter follows from it"))
        )
    return tuple(found)


def _without_scale(tool: ToolFacts) -> bool:
    return tool.kind.tool in (("II", "C"), ("II", "F"))


def warnings(proposal: Proposal, plan: RunPlan) -> tuple[str, ...]:
    """Where a changed plan misleads, a sentence each; each wants the plan's note."""
    tool, rules = proposal.tool, rules_from(rule_set_text(plan.rule_set, proposal.tool), plan.rule_set)
    said = _departures(proposal, plan, rules) if POLICIES[plan.kind].binds else []
    if plan.rule is not None and plan.rule is not rules.decision.rule:
        said.append(tr("The decision rule is not the one that the rule set names."))
    if plan.mode is not None and plan.mode is not tool.implies.mode and not tool.implies.keeps_value:
        said.append(mode_warning(tool.implies.mode, plan.mode))
    return tuple(said)


def _departures(proposal: Proposal, plan: RunPlan, rules: RuleSet) -> list[str]:
    """Where the plan of a run that binds departs from its rule set."""
    tool, said = proposal.tool, []
    if plan.rule_set != tool.rule_set:
        said.append(
            tr(
                "The register has {number} judged by {title}, not by {title_2}.",
                number=tool.number,
                title=shipped(tool.rule_set).title,
                title_2=rules.title,
            )
        )
    if not rules.owner_points:
        low, high = proposal.restricted or (0.0, math.inf)
        own = {p for p in _points(tool, rules) if low <= p <= high}
        left_out = sorted(own - set(as_known(plan.points, own)))
        if left_out:
            words = ", ".join(quantity(p, tool.unit) for p in left_out)
            said.append(
                tr(
                    "{title} asks for {words} too; the record will say that it was left out.",
                    title=rules.title,
                    words=words,
                )
            )
    if plan.readings < rules.readings_for(tool.kind):
        said.append(
            tr(
                "{title} asks for {readings_for} readings at each point.",
                title=rules.title,
                readings_for=rules.readings_for(tool.kind),
            )
        )
    if set(plan.directions) < set(tool.directions):
        said.append(tr("The tool is used in both directions; only one will be covered."))
    return said


def mode_warning(implied: MeterMode, chosen: MeterMode) -> str:
    """What goes wrong when the meter catches something else than the mechanism gives."""
    if implied is MeterMode.FIRST_PEAK:
        return tr(
            "In {chosen} mode the meter records how far the hand travelled past the signal, often 20 to "
            "40 % more than the tool's own torque.",
            chosen=chosen,
        )
    return tr("A tool that is brought to a mark and held has no {chosen}; its plateau is the reading.", chosen=chosen)


def check(plan: RunPlan, tool: ToolFacts) -> None:
    """Refuse a plan that cannot be carried out. Raises ShopRefused."""
    unit = tool.unit
    if not plan.points:
        raise ShopRefused(tr("Name at least one point."))
    if len(set(plan.points)) < len(plan.points):
        raise ShopRefused(tr("Two points are the same; name each once."))
    if POLICIES[plan.kind].measures and not plan.effects:
        raise ShopRefused(tr("Choose at least one effect to measure."))
    if POLICIES[plan.kind].contrasts:
        if plan.sides is None or len(plan.points) > 1 or len(plan.directions) > 1:
            raise ShopRefused(tr("A comparison is made at one point, in one direction, and says what it compares."))
        plan.sides.check(tool)
    if not 2 <= plan.readings <= 50:
        raise ShopRefused(
            tr("{readings} readings at each point cannot be judged; take 2 to 50.", readings=plan.readings)
        )
    if not 0 <= plan.came <= MOST_AS_IT_CAME:
        raise ShopRefused(
            tr(
                "As it came is one to {most_as_it_came} pulls; more of them are exercise.",
                most_as_it_came=MOST_AS_IT_CAME,
            )
        )
    if not plan.directions:
        raise ShopRefused(tr("Choose at least one direction."))
    for point in plan.points:
        if not 0 < point <= tool.kind.maximum * (1 + 1e-9):
            raise ShopRefused(
                tr(
                    "{point} is outside the tool's range of {range_text}.",
                    point=quantity(point, unit),
                    range_text=tool.range_text,
                )
            )
        if abs(tool.kind.nearest_setting(point) - point) > 1e-6 * point and not tool.kind.is_fixed:
            near = quantity(tool.kind.nearest_setting(point), unit)
            raise ShopRefused(
                tr(
                    "The tool cannot be set to {point}; the nearest graduation is {near}.",
                    point=quantity(point, unit),
                    near=near,
                )
            )


def as_known(points: Iterable[float], known: Iterable[float]) -> tuple[float, ...]:
    """``points``, each that is one of ``known`` but for rounding replaced by it: 1.2 N·m is typed again in another last bit,
    and results are held against earlier ones by their point."""
    known = tuple(known)
    return tuple(next((k for k in known if math.isclose(k, p, rel_tol=SAME)), p) for p in points)


def settled_points(session: Session, plan: RunPlan, tool: ToolFacts, act: Act) -> RunPlan:
    """The plan with its points as the tool's newest results or its rule set have them."""
    earlier = [e.target for e in earlier_series(session, tool.id)]
    rules = rules_from(rule_set_text(plan.rule_set, tool), plan.rule_set)
    return replace(plan, points=as_known(plan.points, (*earlier, *_points(tool, rules))))


def planned_series(plan: RunPlan) -> tuple[PlannedSeries, ...]:
    """Each series, in the order they are taken."""
    if POLICIES[plan.kind].measures:
        return tuple(
            PlannedSeries(MEASURE, plan.directions[0], plan.points[0], plan.readings, effect, place)
            for effect in plan.effects
            for place in range(PLACES[effect])
        )
    if plan.sides is not None:
        return tuple(
            PlannedSeries(MEASURE, plan.directions[0], plan.points[0], plan.readings, place=place)
            for place in range(len(plan.sides.places))
        )
    found = tuple(PlannedSeries(FOUND, d, target, plan.readings) for d in plan.directions for target in plan.points)
    if POLICIES[plan.kind].diary:
        found = (replace(found[0], phase=MEASURE, place=0),)
    if not plan.came:
        return found
    usual = min(plan.points, key=lambda p: abs(p - MIDDLE * max(plan.points)))
    return (PlannedSeries(CAME, plan.directions[0], usual, plan.came), *found)


MIDDLE = 0.6
"""Of the highest point: where it is pulled as it came."""
