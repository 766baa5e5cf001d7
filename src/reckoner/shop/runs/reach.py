"""The points of a run that the shop's own meters can judge, where none judges all that its rule set asks for; and what its
weights make where no meter judges."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from typing import TYPE_CHECKING

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from reckoner.core.quantities.printing import quantity, span
from reckoner.core.requirements.rules import RuleSet
from reckoner.core.translation import tr
from reckoner.shop.facts.judged import ReferenceFacts
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.procedures import PROCEDURES
from reckoner.shop.procedures.choosing import references
from reckoner.shop.procedures.meter import least_judged
from reckoner.shop.setups.equipment import gravity, weights
from reckoner.shop.setups.plan import BoxTorque, box_on, nearest_made
from reckoner.store.reader import reader_of
from reckoner.store.schema import Weight

if TYPE_CHECKING:
    from reckoner.shop.runs.planning import RunPlan


def within_reach(session: Session, tool: ToolFacts, rules: RuleSet, plan: RunPlan, today: date) -> RunPlan:
    """The ``plan``, as it is where a meter of the shop judges all its points, where it has weights as well, or where nothing
    can be judged; else at the points nearest to them that one meter judges, the widest part of the tool's range, with the
    reason in its note."""
    if session.scalar(select(func.count()).select_from(Weight).where(Weight.removed.is_(False))):
        return plan
    meters = [known.facts for known in references(session, today)]

    def suits(meter: ReferenceFacts, points: tuple[float, ...]) -> bool:
        return PROCEDURES[meter.kind].weigh(meter, tool, rules, today, points).suits

    if any(suits(meter, plan.points) for meter in meters):
        return plan
    reached = [(meter, _nearest(tool, rules, meter, plan.points)) for meter in meters]
    able = [(meter, points) for meter, points in reached if points and suits(meter, points)]
    if not able:
        return plan
    meter, points = max(able, key=lambda found: (found[0].proven, found[1][-1] - found[1][0], found[0].number))
    left_out = ", ".join(quantity(p, tool.unit) for p in plan.points if p not in points)
    judges = span(least_judged(meter, rules), meter.maximum, tool.unit)
    note = tr("{number} judges {judges}: {left_out} is left out", number=meter.number, judges=judges, left_out=left_out)
    return replace(plan, points=points, note=note)


def by_weights(
    session: Session, tool: ToolFacts, rules: RuleSet, plan: RunPlan, today: date, hanger: float = 0.0
) -> tuple[BoxTorque, ...]:
    """What the shop's weights make on the tool, hook and rope (the ``hanger`` in kg) with them, where no meter of the shop
    judges what is planned."""
    reader = reader_of(session)
    box = box_on(tool, weights(reader), gravity(reader), hanger)
    meters = [known.facts for known in references(session, today)] if box else []
    judged_by = (PROCEDURES[m.kind].weigh(m, tool, rules, today, plan.points).suits for m in meters)
    return () if any(judged_by) else box


def makeable_at(tool: ToolFacts, plan: RunPlan, box: tuple[BoxTorque, ...]) -> RunPlan:
    """The ``plan`` of a short check at a point that the ``box`` makes: its own where that can be made, else the nearest."""
    wanted = plan.points[0]
    if not box or any(one.makes(wanted) for one in box):
        return plan
    found = nearest_made(box, wanted)
    return plan if found is None else replace(plan, points=(tool.kind.nearest_setting(found[1]),))


def _nearest(tool: ToolFacts, rules: RuleSet, meter: ReferenceFacts, points: tuple[float, ...]) -> tuple[float, ...]:
    low, high = least_judged(meter, rules), meter.maximum
    found = {tool.kind.nearest_setting(min(max(point, low), high)) for point in points}
    step = tool.kind.resolution
    inside = {point if point >= low * (1 - 1e-9) else tool.kind.nearest_setting(point + step) for point in found}
    return tuple(sorted(point for point in inside if low * (1 - 1e-9) <= point <= high * (1 + 1e-9)))
