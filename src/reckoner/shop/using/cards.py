"""Job cards that are kept: listed, made, edited as a whole, and read from and written to their open files.

A card's row is one of the register's: each change is a version of it, taken back by its inverse.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from sqlalchemy.orm import Session

from reckoner.core.quantities.printing import percent, quantity, span
from reckoner.core.tightening.jobcard import JobCard
from reckoner.core.tightening.jobs import Layout, Pattern
from reckoner.core.tightening.setting import BandAim
from reckoner.core.translation import tr, tr_count
from reckoner.shop.people.authorship import Act, FieldRefused
from reckoner.shop.people.rights import command
from reckoner.shop.register import editing, rows
from reckoner.shop.register.editing import Command, EditStep
from reckoner.store.reader import Reader
from reckoner.store.schema import JobCardRow
from reckoner.store.terms import RegisterKind

if TYPE_CHECKING:
    from reckoner.core.tightening.jobs import Fasteners


@dataclass(frozen=True)
class CardLine:
    """A card in a list; ``card`` is None where it cannot be read."""

    id: int
    version: int
    number: str
    title: str
    place: str
    card: JobCard | None

    @property
    def detail(self) -> str:
        """What it is about, in a line."""
        if self.card is None:
            return tr("it cannot be read; put back a backup")
        words = (self.title, self.place, fasteners_words(self.card.plan.fasteners), torque_words(self.card))
        return " · ".join(word for word in words if word)


def fasteners_words(fasteners: Fasteners) -> str:
    """Such as "12 in a circle"."""
    match fasteners.layout:
        case Layout.CIRCLE:
            return tr("{count} in a circle", count=fasteners.count)
        case Layout.ROWS:
            return tr("{rows} rows of {columns}", rows=fasteners.rows, columns=fasteners.columns)
        case Layout.LIST:
            return tr_count("1 fastener", "{n} by name", fasteners.count)


def torque_words(card: JobCard) -> str:
    """Such as "76–84 N·m, aimed at the middle"."""
    band = card.plan.band
    words = span(band.low, band.high, card.unit)
    return words if band.is_one else tr("{words}, aimed at the {value}", words=words, value=tr(card.plan.aim))


def stage_words(card: JobCard, share: float) -> str:
    """Such as "30 % · 24 N·m"."""
    return f"{percent(share, 0)} · {quantity(card.plan.wanted * share, card.unit)}"


def card_lines(reader: Reader) -> tuple[CardLine, ...]:
    """Every card, by number."""
    found = reader.rows(
        "SELECT id, version, number, title, place, document FROM job_card WHERE NOT removed ORDER BY number"
    )
    return tuple(CardLine(r.id, r.version, r.number, r.title, r.place, _read(r.document)) for r in found)


def card_line(reader: Reader, card_id: int) -> CardLine | None:
    """One card; None where it is not there any more."""
    r = reader.row("SELECT id, version, number, title, place, document FROM job_card WHERE id = :id", id=card_id)
    return None if r is None else CardLine(r.id, r.version, r.number, r.title, r.place, _read(r.document))


def _read(document: str) -> JobCard | None:
    from reckoner.formats.jobcard import parse  # loads pydantic
    from reckoner.formats.refusals import FileRefused

    try:
        return parse(document)
    except FileRefused:
        return None


@command
def keep(
    session: Session, card: JobCard, act: Act, card_id: int | None = None, base: int | None = None
) -> tuple[int, Command]:
    """Keep a card: a new one, or another state of ``card_id`` that was at version ``base``. Raises FieldRefused,
    EditOutdated, ShopRefused. Changes: standings, the register."""
    from reckoner.formats.jobcard import written  # loads pydantic

    if not card.number.strip():
        raise FieldRefused("number", tr("Give the card a number or a name, such as JC-12."))
    columns = {"number": card.number, "title": card.title, "place": card.place, "document": written(card)}
    if card_id is None:
        row = JobCardRow(**columns)
        command = editing.add(session, RegisterKind.JOB_CARD, row, act, act.at)
        return row.id, command
    editing.refuse_same_name(session, RegisterKind.JOB_CARD, card_id, columns)
    version = rows.edit(session, RegisterKind.JOB_CARD, card_id, columns, act, base)
    return card_id, Command(
        tr("the job card {number}", number=card.number), (EditStep(RegisterKind.JOB_CARD, card_id, version),)
    )


@command
def remove(session: Session, card_id: int, act: Act) -> Command:
    """Take a card out of sight; work that was begun from it goes on. Raises ShopRefused. Changes: the register."""
    return editing.remove(session, RegisterKind.JOB_CARD, card_id, act)


PATTERN_WORDS = {
    Pattern.CROSS: tr("crosswise"),
    Pattern.OUTWARDS: tr("from the middle"),
    Pattern.GIVEN: tr("as numbered"),
}
AIM_WORDS = {BandAim.LOW: tr("the low end"), BandAim.MIDDLE: tr("the middle"), BandAim.HIGH: tr("the high end")}
