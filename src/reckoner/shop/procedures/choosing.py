"""Which reference suits a tool: every one in the register, weighed by its own procedure."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import date

from sqlalchemy import select
from sqlalchemy.orm import Session, selectinload

from reckoner.core.requirements.rules import RuleSet
from reckoner.shop.facts.judged import ReferenceFacts
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.procedure import ReferenceCandidate
from reckoner.shop.procedures import PROCEDURES
from reckoner.shop.references.crosschecks import facts_on
from reckoner.store.schema import Certificate, Reference
from reckoner.store.terms import ReferenceKind


@dataclass(frozen=True)
class LinkedReference:
    """A reference of the register, and how the shop reaches it."""

    facts: ReferenceFacts
    link: str


def references(session: Session, day: date | None = None) -> tuple[LinkedReference, ...]:
    """Every meter with its newest certificate, or the newest that was issued by ``day``."""
    rows = session.scalars(
        select(Reference)
        .where(Reference.removed.is_(False), Reference.kind == ReferenceKind.METER)
        .options(selectinload(Reference.certificates).selectinload(Certificate.points))
    )
    return tuple(LinkedReference(facts_on(session, row, day), row.link) for row in rows)


def candidates(
    session: Session, tool: ToolFacts, rules: RuleSet, today: date, points: tuple[float, ...] | None = None
) -> tuple[ReferenceCandidate, ...]:
    """Every reference, the most suitable first, for ``points`` in N·m or those of the rule set."""
    return weighed(references(session, today), tool, rules, today, points)


def weighed(
    known: Iterable[LinkedReference],
    tool: ToolFacts,
    rules: RuleSet,
    today: date,
    points: tuple[float, ...] | None = None,
) -> tuple[ReferenceCandidate, ...]:
    """The same for references at hand."""
    found = [replace(PROCEDURES[k.facts.kind].weigh(k.facts, tool, rules, today, points), link=k.link) for k in known]
    return tuple(sorted(found, key=lambda c: (len(c.against), not c.proven, c.worst_uncertainty, c.reference.number)))
