"""References held against others: each check kept, and how it stands to those before it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.history.crosschecks import Checked, Control, control_chart
from reckoner.core.quantities.days import day_words
from reckoner.core.translation import tr
from reckoner.shop.changes import ChangeKind, changed
from reckoner.shop.facts.judged import ReferenceFacts, newest_certificate, reference_facts
from reckoner.shop.people.authorship import Act, FieldRefused, ShopRefused, note
from reckoner.shop.people.rights import command
from reckoner.store.schema import CrossCheck, Person, Reference


@dataclass(frozen=True)
class CheckLine:
    """One cross-check: what both indicated (N·m), and how it stands to those before it."""

    on: date
    by: str
    against: str
    indicated: float
    actual: float
    note: str
    checked: Checked


def checks_of(session: Session, row: Reference, facts: ReferenceFacts) -> tuple[CheckLine, ...]:
    """Every cross-check of a reference, oldest first."""
    rows = session.execute(
        select(CrossCheck, Person.initials)
        .join(Person, Person.id == CrossCheck.person_id)
        .where(CrossCheck.reference_id == row.id)
        .order_by(CrossCheck.id)
    ).all()
    chart = control_chart([c.indicated / c.actual - 1 for c, _ in rows], own_limit(facts), facts.worst_uncertainty)
    return tuple(
        CheckLine(c.at.date(), by, c.against, c.indicated, c.actual, c.note, found)
        for (c, by), found in zip(rows, chart, strict=True)
    )


def facts_on(session: Session, row: Reference, day: date | None = None) -> ReferenceFacts:
    """A reference with its newest certificate, or that of a ``day``, and whether its last cross-check stops it."""
    facts = reference_facts(row, newest_certificate(row, day))
    checks = checks_of(session, row, facts)
    if not checks or checks[-1].checked.control is not Control.STOP:
        return facts
    return replace(facts, stopped=f"its cross-check of {day_words(checks[-1].on)} stands too far off")


def own_limit(facts: ReferenceFacts) -> float | None:
    """How far a reference may be off by itself: the quarter of a ±4 % tool's limit that it has to keep to; None for one
    that nobody has certified."""
    return 0.01 + max((abs(p.error) for p in facts.points), default=0.0) if facts.proven else None


@command
def cross_check(
    session: Session, reference_id: int, shown: float, true: float, against: str, remark: str, act: Act
) -> CheckLine:
    """Keep what a reference ``shown`` (N·m) while another one, or weights, said ``true``. Raises FieldRefused,
    ShopRefused. Changes: references."""
    row = session.get_one(Reference, reference_id)
    against = " ".join(against.split())
    if not against:
        raise FieldRefused("against", tr("Say what it was compared with, such as the number of the other meter."))
    if against.casefold() == row.number.casefold():
        raise ShopRefused(tr("A reference cannot be checked against itself."))
    if true <= 0 or not 0.5 < shown / true < 1.5:
        raise FieldRefused("shown", tr("These two cannot be of the same torque; check the numbers and their units."))
    session.add(
        CrossCheck(
            reference_id=reference_id, at=act.at, person_id=act.person_id, against=against, indicated=shown,
            actual=true,             note=" ".join(remark.split()),
        )
    )  # fmt: skip
    session.flush()
    changed(session, ChangeKind.REFERENCES, reference_id, act.person_id)
    note(session, act, tr("cross-checked the reference"), row.number, against=against, shown=shown, true=true)
    return checks_of(session, row, reference_facts(row, newest_certificate(row, act.at.date())))[-1]


CONTROL_WORDS = {
    Control.TOO_FEW: tr("too few checks before it to judge it by"),
    Control.STEADY: tr("steady"),
    Control.WARN: tr("over 2 standard deviations off its mean: look again soon"),
    Control.STOP: tr("stop: find out why before it decides anything"),
}
"""What is said of each check."""
