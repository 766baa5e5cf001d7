"""Taking over what another shop handed on as an exchange file; ``importing`` takes tables.

What is here already stays as it is, with its history; the rest comes whole or not at all.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.decision.states import State
from reckoner.core.errors import InputRefused
from reckoner.core.requirements.tooltypes import Direction
from reckoner.core.translation import tr, tr_count
from reckoner.shop.events.projection import together, update_projection
from reckoner.shop.events.recording import take_place
from reckoner.shop.people.authorship import Act, ShopRefused, note
from reckoner.shop.people.rights import command
from reckoner.shop.register.intake import take_in
from reckoner.shop.register.registerfile import GEAR, SECTIONS, Register, named, validate
from reckoner.shop.register.rows import KINDS
from reckoner.shop.using.cards import keep
from reckoner.store.schema import (
    Gear,
    JobCardRow,
    LoanSetting,
    OutsidePoint,
    OutsideResult,
    Person,
    Tool,
    ToolEvent,
    Trip,
)
from reckoner.store.terms import EventKind, term

if TYPE_CHECKING:
    from reckoner.formats.exchange import ExchangeFile, HistoryEntry


@dataclass(frozen=True)
class TakenOver:
    """How much came, and how much was ``here`` already."""

    tools: int = 0
    entries: int = 0
    cards: int = 0
    others: int = 0
    here: int = 0

    @property
    def words(self) -> str:
        """In a sentence."""
        said = [
            (self.tools, tr_count("{n} tool", "{n} tools", self.tools)),
            (self.entries, tr_count("{n} line of their histories", "{n} lines of their histories", self.entries)),
            (self.cards, tr_count("{n} job card", "{n} job cards", self.cards)),
            (
                self.others,
                tr_count("{n} model, person, meter or adapter", "{n} models, people, meters and adapters", self.others),
            ),
        ]
        here = tr(" {here} were here already, and stay as they are.", here=self.here) if self.here else ""
        return tr(
            "Brought in: {list}.{here}", list=", ".join(words for n, words in said if n) or tr("nothing"), here=here
        )


@command
def take_over(session: Session, file: ExchangeFile, act: Act, source: str) -> TakenOver:
    """Take over an exchange file. Raises ShopRefused, RegisterRefused, TermUnknown. Changes: standings, the register."""
    register, here = _new_ones(session, validate(file.register_, source))
    new = {tool.number for tool in register.tools}
    with together(session):
        taken = take_in(session, register, act.at, act, source)
        entries = _histories(session, file, new, act)
    cards = 0
    for card in file.cards:
        if session.scalar(select(JobCardRow.id).where(JobCardRow.number == card.number)) is not None:
            here += 1
            continue
        from reckoner.formats.jobcard import card_of  # only when it is wanted

        try:
            keep(session, card_of(card), act)
        except InputRefused as refusal:
            raise ShopRefused(
                tr("The job card {number}: {refusal}. Nothing was brought in.", number=card.number, refusal=refusal)
            ) from None
        cards += 1
    others = taken.people + taken.models + taken.references + taken.gear
    found = TakenOver(taken.tools, entries, cards, others, here)
    note(session, act, tr("took over an exchange file"), source, tools=found.tools, entries=entries, cards=cards)
    return found


def _histories(session: Session, file: ExchangeFile, new: set[str], act: Act) -> int:
    """The histories of the tools that are new here, each line of them once however often it is told; returns how many lines
    they have."""
    people = {p.initials: p.id for p in session.scalars(select(Person))}
    told: dict[str, dict[HistoryEntry, None]] = {}
    for history in file.histories:
        if history.tool in new:
            told.setdefault(history.tool, {}).update(dict.fromkeys(history.entries))
    for tool, lines in told.items():
        tool_id = session.scalar(select(Tool.id).where(Tool.number == tool))
        if tool_id is None:
            raise ShopRefused(tr("The history of {tool} has no tool in the file; nothing was brought in.", tool=tool))
        for entry in lines:
            _enter(session, tool_id, entry, people)
        update_projection(session, tool_id, act.person_id)
    return sum(len(lines) for lines in told.values())


def _new_ones(session: Session, register: Register) -> tuple[Register, int]:
    """The rows that are not here yet, and how many are."""
    kept, here = {}, 0
    for section, kind in SECTIONS.items():
        table = Gear if section in GEAR else KINDS[kind].table
        there = {named(kind, row).casefold() for row in session.scalars(select(table))}
        rows = getattr(register, section)
        kept[section] = [row for row in rows if named(kind, row).casefold() not in there]
        here += len(rows) - len(kept[section])
    return register.model_copy(update=kept), here


def _enter(session: Session, tool_id: int, entry: HistoryEntry, people: dict[str, int]) -> None:
    """An event or a result, as it was kept elsewhere."""
    who, sequence = people.get(entry.by), take_place(session, tool_id)
    if entry.points or entry.number:
        session.add(
            OutsideResult(
                tool_id=tool_id,
                sequence=sequence,
                at=entry.at,
                person_id=who,
                number=entry.number,
                laboratory=entry.laboratory or tr("another shop"),
                issued=entry.issued or entry.at.date(),
                due=entry.due,
                state=term(State, entry.state),
                coverage_factor=entry.coverage_factor,
                note=entry.note,
                points=[
                    OutsidePoint(
                        as_left=p.as_left,
                        direction=Direction(p.direction),
                        target=p.target,
                        deviation=p.deviation,
                        expanded_uncertainty=p.expanded_uncertainty,
                        limit=p.limit,
                    )
                    for p in entry.points
                ],
            )
        )
        session.flush()
        return
    event = ToolEvent(
        tool_id=tool_id,
        sequence=sequence,
        at=entry.at,
        person_id=who,
        kind=term(EventKind, entry.kind),
        note=entry.note,
        due_back=entry.due_back,
        low=entry.low,
        high=entry.high,
        cycles=entry.cycles,
    )
    session.add(event)
    session.flush()
    session.add_all(
        LoanSetting(
            event_id=event.id, job=s.job, joint=s.joint, torque_set=s.set, factor=s.factor, adapter=s.adapter, low=s.low,
            high=s.high,
        )
        for s in entry.settings
    )  # fmt: skip
    if entry.fee is not None or entry.freight is not None or entry.kind == EventKind.SENT_AWAY.value:
        session.add(Trip(event_id=event.id, fee=entry.fee, freight=entry.freight, check_run_id=None))
    session.flush()
