"""Lent and taken back: each in one unit of work, with the settings that a loan is for.

A tool that may not be used is refused with its reason; ``choosing`` then names a stand-in.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.quantities.days import day_words, short_day
from reckoner.core.quantities.printing import quantity
from reckoner.core.tightening.setting import Band
from reckoner.core.translation import tr
from reckoner.shop.events.recording import own_and_newest, record_event, report
from reckoner.shop.events.standing import kept
from reckoner.shop.people.authorship import Act, ShopRefused, note
from reckoner.shop.people.rights import command
from reckoner.shop.register.cards import ToolCard, card
from reckoner.shop.using.fitness import unfit
from reckoner.store.reader import Reader, reader_of
from reckoner.store.schema import LoanSetting, Tool, ToolEvent, ToolStanding
from reckoner.store.terms import EventKind


@dataclass(frozen=True)
class WantedSetting:
    """A setting that a loan is for: the torque ``set`` on the tool in N·m, the ``factor`` of its adapter with the adapter's
    words, and the joint's band (None: not known)."""

    set: float
    job: str = ""
    joint: str = ""
    factor: float = 1.0
    adapter: str = ""
    band: Band | None = None


@dataclass(frozen=True)
class LoanResult:
    """A loan that was recorded. Taken back like a report: by saying that it was a mistake."""

    words: str
    tool_ids: tuple[int, ...]
    event_ids: tuple[int, ...]

    def take_back(self, session: Session, act: Act) -> NeverLent:
        """Say that it was a mistake. Raises ShopRefused when something happened to one of the tools since."""

        for event_id in self.event_ids:
            own_and_newest(session, event_id, act)
        for tool_id in self.tool_ids:
            record_event(session, tool_id, EventKind.MISTAKEN, tr("“{words}” was a mistake", words=self.words), act)
            note(session, act, tr("took a loan back"), session.get_one(Tool, tool_id).number)
        return NeverLent(self.words, self)


@dataclass(frozen=True)
class NeverLent:
    """A loan that was a mistake; it is lent anew by hand."""

    words: str
    was: LoanResult

    def take_back(self, session: Session, act: Act) -> LoanResult:
        """Raises ShopRefused: what it was for has to be said again."""
        raise ShopRefused(tr("Lend it again at the desk: until when, and for which settings, has to be said anew."))


LONGEST = 200


@command
def lend(
    session: Session, tool_ids: Sequence[int], to: str, due_back: date | None, wanted: Sequence[WantedSetting], act: Act
) -> LoanResult:
    """Lend tools to a person, a crew or a job, until a day. Raises ShopRefused for a tool that may not be lent, that is out
    of its range for a setting, and for a day that has gone. Changes: standings."""
    to = " ".join(to.split())
    if not to:
        raise ShopRefused(tr("Say to whom, or for which job."))
    if len(to) > LONGEST:
        raise ShopRefused(tr("“{to}…” is too long for a name; {longest} letters at most.", to=to[:40], longest=LONGEST))
    if not tool_ids:
        raise ShopRefused(tr("Scan or choose a tool first."))
    today = act.at.date()
    if due_back is not None and due_back < today:
        raise ShopRefused(tr("{due_back} has gone already; a loan ends today or later.", due_back=day_words(due_back)))
    events, numbers = [], []
    for tool_id in dict.fromkeys(tool_ids):
        found = card(reader_of(session), tool_id)
        if why := why_not_lent(reader_of(session), found, today, wanted):
            raise ShopRefused(why)
        event = record_event(session, tool_id, EventKind.LENT, to, act, due_back=due_back)
        session.flush()
        for one in wanted:
            session.add(_setting(event, one))
        until = day_words(due_back) if due_back is not None else ""
        note(session, act, tr("lent"), found.tool.number, to=to, until=until, settings=len(wanted))
        events.append(event.id)
        numbers.append(found.tool.number)
    until = tr(" until {due_back}", due_back=short_day(due_back)) if due_back is not None else ""
    return LoanResult(
        tr("{list} lent to {to}{until}", list=", ".join(numbers), to=to, until=until),
        tuple(dict.fromkeys(tool_ids)),
        tuple(events),
    )


def _setting(event: ToolEvent, one: WantedSetting) -> LoanSetting:
    band = one.band
    return LoanSetting(
        event_id=event.id,
        job=one.job,
        joint=one.joint,
        torque_set=one.set,
        factor=one.factor,
        adapter=one.adapter,
        low=band.low if band is not None else None,
        high=band.high if band is not None else None,
    )


def why_not_lent(reader: Reader, found: ToolCard, today: date, wanted: Sequence[WantedSetting] = ()) -> str:
    """Why a tool may not be lent, as a sentence; empty when it may."""
    number, standing = found.tool.number, found.standing
    if reason := unfit(found, today):
        return tr("{reason} It is not lent.", reason=reason)
    if standing.loan is not None:
        return tr(
            "{number} is lent to {to} since {since}; take it back first.",
            number=number,
            to=standing.loan.to,
            since=day_words(standing.loan.since),
        )
    if words := on_the_bench(reader, found):
        return words
    for one in wanted:
        if why := out_of_range(found, one.set):
            return tr("{why} It is not lent.", why=why)
    return ""


def on_the_bench(reader: Reader, found: ToolCard) -> str:
    """That a tool is in a run, and cannot go anywhere; empty when it is not."""
    if reader.value("SELECT id FROM open_run WHERE tool_id = :tool", tool=found.tool.id) is None:
        return ""
    return tr("{number} is on the bench; sign the run or give it up first.", number=found.tool.number)


def out_of_range(found: ToolCard, torque: float) -> str:
    """Why a tool cannot be set to a torque; empty when it can."""
    tool, part = found.tool, found.restricted
    words = quantity(torque, tool.unit)
    low = tool.kind.maximum if tool.kind.is_fixed else tool.kind.minimum or 0.0
    if not low * (1 - 1e-9) <= torque <= tool.kind.maximum * (1 + 1e-9):
        return tr(
            "{number} cannot be set to {words}: it goes from {range_text}.",
            number=tool.number,
            words=words,
            range_text=tool.range_text,
        )
    if part is not None and not part[0] <= torque <= part[1]:
        return tr(
            "{number} may not be set to {words}: it is restricted, {range_words}.",
            number=tool.number,
            words=words,
            range_words=found.range_words,
        )
    return ""


@dataclass(frozen=True)
class ReturnResult:
    """What came of a return: ``words`` for the foot of the window. It cannot be taken back: what was asked was answered."""

    words: str


WOUND_HERE = tr("came back wound up, and was wound back at the desk")
"""What is noted of a tool that was not wound back, where that was just now."""


@command
def take_back(
    session: Session,
    tool_id: int,
    act: Act,
    happened: EventKind | None = None,
    wound_back: bool = True,
    words: str = "",
) -> ReturnResult:
    """Take a lent tool back. ``happened`` to it meanwhile is recorded as its own event, and holds it; one that was not wound
    back is noted. Raises ShopRefused for a tool that is not lent. Changes: standings.
    Right beside: allow, edit."""
    tool = session.get_one(Tool, tool_id)
    row = session.scalar(select(ToolStanding).where(ToolStanding.tool_id == tool_id))
    loan = kept(row).loan if row is not None else None
    if loan is None:
        raise ShopRefused(tr("{number} is not lent; there is nothing to take back.", number=tool.number))
    record_event(session, tool_id, EventKind.RETURNED, tr("from {to}", to=loan.to), act)
    note(session, act, tr("took back"), tool.number, **{"from": loan.to})
    said = tr("{number} is back from {to}.", number=tool.number, to=loan.to)
    if not wound_back:
        record_event(session, tool_id, EventKind.NOTED, WOUND_HERE, act)
    if happened is not None:
        said = f"{said} {report(session, tool_id, happened, ' '.join(words.split()), act).told}"
    elif words.strip():
        record_event(session, tool_id, EventKind.NOTED, " ".join(words.split()), act)
    return ReturnResult(said)
