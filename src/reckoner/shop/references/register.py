"""The references of a shop: as a list, and each with its certificates and its cross-checks.

Which certificates of references count, as the database asks for it: those that nobody took back.

The same of rows in memory: ``facts.newest_certificate``.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from reckoner.core.history.crosschecks import Control
from reckoner.core.quantities import printing
from reckoner.core.quantities.days import day_words
from reckoner.core.quantities.printing import percent, span
from reckoner.core.quantities.units import Kind, Unit, unit_named
from reckoner.core.reference.certificate import adequate_spans
from reckoner.core.translation import tr
from reckoner.shop.facts.judged import ReferenceFacts, by_issue, newest_certificate, reference_facts
from reckoner.shop.references.crosschecks import CheckLine, checks_of
from reckoner.shop.register.adding import judged_by
from reckoner.shop.register.shelves import ShelfLine
from reckoner.store.reader import Reader
from reckoner.store.schema import Reference, SetUp
from reckoner.store.times import day_of

COUNTS = "c.id NOT IN (SELECT certificate_id FROM certificate_withdrawal)"
"""Of a certificate ``c``."""

CERTIFIED_UNTIL = f"(SELECT max(c.due) FROM certificate c WHERE c.reference_id = r.id AND {COUNTS})"
"""The last day of a reference ``r``; NULL where nobody has certified it."""


LEAST_OF_RANGE = 0.2
"""Below this part of its range a reference decides nothing, as the shipped rule sets say."""

DUE_SOON = 30
"""Days before the end of a certificate from which it is called near."""


@dataclass(frozen=True)
class CertificateLine:
    """One certificate as a list shows it; ``counts`` for the one that does, ``judged`` signed runs went by it, ``withdrawn``
    is why it counts no more."""

    id: int
    number: str
    laboratory: str
    issued: date | None
    due: date
    points: int
    counts: bool
    judged: int
    withdrawn: str


@dataclass(frozen=True)
class ReferenceSheet:
    """A reference with all that is known of its worth."""

    facts: ReferenceFacts
    unit: Unit
    link: str
    certificates: tuple[CertificateLine, ...]
    checks: tuple[CheckLine, ...]
    runs: int
    last_used: date | None

    def spans(self, limit: float) -> tuple[tuple[float, float], ...]:
        """Where it is good enough for tools of a limit, in N·m."""
        left = bool(self.facts.error_left)
        return adequate_spans(self.facts.points, limit, left=left, least=LEAST_OF_RANGE * self.facts.maximum)

    def sentence(self, today: date) -> str:
        """What it may do, first of all."""
        facts = self.facts
        if not facts.proven or facts.due is None:
            return tr("Unproven: what it shows is compared, and decides nothing. Have it certified, and it decides.")
        left = (facts.due - today).days
        if left < 0:
            return tr(
                "Its certificate ended on {due}: it decides nothing until it has a new one.", due=day_words(facts.due)
            )
        near = tr(", which is near; send it in time") if left <= DUE_SOON else ""
        worth = tr("±{worst_uncertainty} at worst", worst_uncertainty=percent(facts.worst_uncertainty, 2))
        stopped = self.checks and self.checks[-1].checked.control is Control.STOP
        if stopped:
            return tr("Its last cross-check stands too far off: find out why before it decides anything.")
        return tr(
            "Decides until {due}{near}; {worst_words}, {worth}.",
            due=day_words(facts.due),
            near=near,
            worst_words=worst_words(self),
            worth=worth,
        )


def worst_words(sheet: ReferenceSheet) -> str:
    """For which tools it is good enough, in words."""
    said = []
    for limit in (0.04, 0.06):
        spans = sheet.spans(limit)
        if spans:
            where = printing.enumerated([span(low, high, sheet.unit) for low, high in spans])
            said.append(tr("{limit} tools at {where}", limit=printing.limit(limit, 0), where=where))
    return tr("good enough for ") + ", ".join(said) if said else tr("not good enough for ±6 % tools anywhere")


def reference_lines(reader: Reader) -> tuple[ShelfLine, ...]:
    """Every reference by number, what it reaches and until when it decides."""
    rows = reader.rows(
        "SELECT r.id, r.number, r.minimum, r.maximum, r.unit, "
        f"{CERTIFIED_UNTIL} AS due "
        "FROM reference r WHERE NOT r.removed AND r.kind = 'meter' ORDER BY r.number"
    )
    lines = []
    for r in rows:
        due = day_of(r.due)
        until = tr("certificate to {due}", due=day_words(due)) if due is not None else tr("unproven")
        reach = span(r.minimum, r.maximum, unit_named(r.unit, Kind.TORQUE))
        lines.append(ShelfLine(r.id, r.number, f"{reach} · {until}"))
    return tuple(lines)


def reference_sheet(session: Session, reference_id: int, today: date) -> ReferenceSheet:
    """A reference's sheet."""
    row = session.get_one(Reference, reference_id)
    counts = newest_certificate(row, today)
    facts = reference_facts(row, counts)
    used = select(func.count(func.distinct(SetUp.run_id)), func.max(SetUp.at)).where(SetUp.reference_id == reference_id)
    runs, last = session.execute(used).one()
    certificates = tuple(
        CertificateLine(
            c.id,
            c.number,
            c.laboratory,
            c.issued,
            c.due,
            len(c.points),
            c is counts,
            judged_by(session, c.id),
            c.withdrawal.reason if c.withdrawal is not None else "",
        )
        for c in reversed(by_issue(row.certificates))
    )
    unit = unit_named(row.unit, Kind.TORQUE)
    checks = checks_of(session, row, facts)
    return ReferenceSheet(facts, unit, row.link, certificates, checks, runs, last.date() if last is not None else None)
