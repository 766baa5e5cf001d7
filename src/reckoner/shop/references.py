"""Which meter suits a tool, and why another does not (ISO 6789-2:2017, 5; the certificate's own range)."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from sqlalchemy import select
from sqlalchemy.orm import Session, selectinload

from reckoner.core.errors import InputRefused
from reckoner.core.printing import percent, quantity, span
from reckoner.core.rules import RuleSet
from reckoner.shop.facts import ReferenceFacts, ToolFacts, newest_certificate, reference_facts
from reckoner.store.schema import Certificate, Reference


@dataclass(frozen=True)
class Candidate:
    """A meter weighed for a tool. ``against`` holds a sentence for each reason not to take it; empty: it suits."""

    reference: ReferenceFacts
    against: tuple[str, ...]
    worst_uncertainty: float

    @property
    def suits(self) -> bool:
        return not self.against


def candidates(
    session: Session, tool: ToolFacts, rules: RuleSet, today: date, points: tuple[float, ...] | None = None
) -> tuple[Candidate, ...]:
    """Every meter, the most suitable first, for ``points`` in N·m or those of the rule set."""
    rows = session.scalars(
        select(Reference).options(selectinload(Reference.certificates).selectinload(Certificate.points))
    )
    weighed = [weigh(reference_facts(r, newest_certificate(r)), tool, rules, today, points) for r in rows]
    return tuple(sorted(weighed, key=lambda c: (len(c.against), c.worst_uncertainty, c.reference.number)))


def weigh(
    reference: ReferenceFacts, tool: ToolFacts, rules: RuleSet, today: date, points: tuple[float, ...] | None = None
) -> Candidate:
    """Hold one meter against the tool's ``points`` (N·m), or those of the rule set. Raises InputRefused when it has none."""
    points = points or rules.points(tool.kind)
    allowed = rules.reference_limit(rules.limit(tool.kind))
    against = list(_date_and_range(reference, tool, rules, points, today))
    worst, out_of_reach = 0.0, bool(against)
    for point in points:
        try:
            w = reference.at(point).expanded_uncertainty
        except InputRefused:
            if reference.points and not out_of_reach:
                against.append(f"its certificate does not cover {quantity(point, tool.unit)}")
                break
            continue
        worst = max(worst, w)
    if reference.points and worst > allowed * (1 + 1e-12):
        against.append(f"its uncertainty {percent(worst, 2)} is above the {percent(allowed, 2)} this tool needs")
    return Candidate(reference, tuple(against), worst or 1.0)


def _date_and_range(
    reference: ReferenceFacts, tool: ToolFacts, rules: RuleSet, points: tuple[float, ...], today: date
) -> list[str]:
    said = []
    if reference.due is None or not reference.points:
        said.append("it has no certificate")
    elif reference.due < today:
        said.append(f"its certificate ended on {reference.due:%-d %b %Y}")
    reach = span(reference.minimum, reference.maximum, tool.unit)
    if not reference.bears(max(points)):
        said.append(f"it reaches {reach}, the tool {quantity(max(points), tool.unit)}")
    elif min(points) < max(reference.minimum, rules.least_of_range * reference.maximum) * (1 - 1e-9):
        low = quantity(max(reference.minimum, rules.least_of_range * reference.maximum), tool.unit)
        said.append(f"it judges from {low}, the tool from {quantity(min(points), tool.unit)}")
    if rules.exercise and reference.bears(max(points)) and not reference.bears(tool.kind.maximum):
        said.append(
            f"it ends at {quantity(reference.maximum, tool.unit)}; exercise goes to {quantity(tool.kind.maximum, tool.unit)}"
        )
    return said
