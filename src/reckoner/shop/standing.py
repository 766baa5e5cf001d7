"""What a tool is and why: worked out by one function from what happened to it, and kept as a projection beside it.

``standing_of``  the function: events and results in, a standing out; pure
``follow``       a tool's projection brought up to date, in the unit of work that changed it
``rebuild``      every projection anew from the records
``kept``         the standing as the projection has it: what every list reads
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, fields, replace
from datetime import date, datetime
from enum import StrEnum

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from reckoner.core.due import Due, DueReason
from reckoner.core.states import State
from reckoner.shop.changes import ChangeKind, changed
from reckoner.shop.events import EVENTS, Consequence
from reckoner.shop.runs.kinds import POLICIES
from reckoner.store.database import Database
from reckoner.store.schema import Run, Signature, Tool, ToolEvent, ToolStanding
from reckoner.store.terms import EventKind, Outcome


class Condition(StrEnum):
    """What a tool is; several may hold at once. The first of them in this order is said first."""

    RETIRED = "retired"
    EVIDENCE = "kept as evidence"
    HELD = "held"
    AWAY = "away"
    LENT = "lent"
    NEW = "new"
    OVERDUE = "overdue"
    DUE = "due"
    RESTRICTED = "restricted"
    IN_DATE = "in date"


DUE_WITHIN = 30
"""Days before its due date from which a tool is called due."""


@dataclass(frozen=True)
class Loan:
    """Who or what place has the tool, since when, and when it is expected back."""

    to: str
    since: date
    due_back: date | None


@dataclass(frozen=True)
class Standing:
    """What a tool is, apart from the day: ``held`` and ``kept`` are reasons (empty: it is not), ``restricted`` in N·m the
    part that it may be used in, ``check_event_id`` the harmful event that no signed run has answered yet."""

    state: State | None = None
    last_run: date | None = None
    due: Due | None = None
    held: str = ""
    check_event_id: int | None = None
    restricted: tuple[float, float] | None = None
    loan: Loan | None = None
    away: Loan | None = None
    kept: str = ""
    retired: bool = False

    def conditions(self, today: date) -> tuple[Condition, ...]:
        """All that holds on ``today``, what is said first in front."""
        left = self.due.days_left(today) if self.due is not None else None
        true = {
            Condition.RETIRED: self.retired,
            Condition.EVIDENCE: bool(self.kept),
            Condition.HELD: bool(self.held),
            Condition.AWAY: self.away is not None,
            Condition.LENT: self.loan is not None,
            Condition.NEW: left is None,
            Condition.OVERDUE: left is not None and left < 0,
            Condition.DUE: left is not None and 0 <= left <= DUE_WITHIN,
            Condition.RESTRICTED: self.restricted is not None,
            Condition.IN_DATE: left is not None and left > DUE_WITHIN,
        }
        return tuple(c for c in Condition if true[c])

    def usable(self, today: date) -> bool:
        """Whether it may be used on ``today``, within its part where it is restricted."""
        barred = {
            Condition.RETIRED,
            Condition.EVIDENCE,
            Condition.HELD,
            Condition.AWAY,
            Condition.NEW,
            Condition.OVERDUE,
        }
        return not barred & set(self.conditions(today))


@dataclass(frozen=True)
class Happened:
    """An event as the standing sees it."""

    sequence: int
    kind: EventKind
    note: str
    on: date
    id: int = 0
    due_back: date | None = None
    part: tuple[float, float] | None = None


@dataclass(frozen=True)
class Result:
    """A signed run as the standing sees it; ``judged`` when it says something of the tool's deviation."""

    sequence: int
    on: date
    judged: bool
    state: State
    outcome: Outcome | None
    accepted: bool | None
    due: Due | None


def standing_of(happened: Iterable[Happened | Result]) -> Standing:
    """What a tool is after all that ``happened`` to it, in the order of its own sequence."""
    now, harmed = Standing(), False
    for one in sorted(happened, key=lambda h: h.sequence):
        if isinstance(one, Result):
            now, harmed = _after_result(now, harmed, one)
            continue
        facts = EVENTS[one.kind]
        if facts.harms:
            harmed = harmed or not now.held
            now = replace(now, held=now.held or one.note or facts.words.lower(), check_event_id=one.id)
        if facts.begins is not None:
            harmed = harmed and facts.begins is not Consequence.HOLD
            now = _begun(now, facts.begins, one)
        if facts.ends is not None:
            harmed = harmed and facts.ends is not Consequence.HOLD
            now = _ended(now, facts.ends)
    return now


def _after_result(now: Standing, harmed: bool, result: Result) -> tuple[Standing, bool]:
    """A judged run answers the event that asked for it, and ends the hold that came with the event if it releases."""
    if not result.judged:
        return now, harmed
    now = replace(now, state=result.state, last_run=result.on, check_event_id=None, due=result.due or now.due)
    released = result.outcome in (Outcome.RELEASED, Outcome.RESTRICTED)
    if harmed and (released or (result.outcome is None and result.accepted)):
        return replace(now, held=""), False
    return now, harmed


def _begun(now: Standing, begins: Consequence, event: Happened) -> Standing:
    words = event.note or EVENTS[event.kind].words.lower()
    match begins:
        case Consequence.HOLD:
            return replace(now, held=words)
        case Consequence.RESTRICTION:
            return replace(now, restricted=event.part)
        case Consequence.LOAN:
            return replace(now, loan=Loan(event.note, event.on, event.due_back))
        case Consequence.AWAY:
            return replace(now, away=Loan(event.note, event.on, event.due_back))
        case Consequence.EVIDENCE:
            return replace(now, kept=words)
        case Consequence.RETIREMENT:
            return replace(now, retired=True)


def _ended(now: Standing, ends: Consequence) -> Standing:
    match ends:
        case Consequence.HOLD:
            return replace(now, held="")
        case Consequence.RESTRICTION:
            return replace(now, restricted=None)
        case Consequence.LOAN:
            return replace(now, loan=None)
        case Consequence.AWAY:
            return replace(now, away=None)
        case Consequence.EVIDENCE:
            return replace(now, kept="")
        case Consequence.RETIREMENT:
            return replace(now, retired=False)


# The projection


def follow(session: Session, tool_id: int, who: int | None) -> Standing:
    """Bring a tool's projection up to date with its records, in the same unit of work."""
    session.flush()
    found = worked_out(session, tool_id)
    row = session.scalar(select(ToolStanding).where(ToolStanding.tool_id == tool_id))
    if row is None:
        row = ToolStanding(tool_id=tool_id)
        session.add(row)
    _write(row, found)
    session.flush()
    changed(session, ChangeKind.STANDINGS, tool_id, who)
    return found


def worked_out(session: Session, tool_id: int) -> Standing:
    """A tool's standing from its records; the projection is not looked at."""
    return standing_of(_records(session, tool_id))


def rebuild(session: Session) -> int:
    """Every projection anew from the records; returns how many differed from what was kept."""
    differed = 0
    for tool_id in session.scalars(select(Tool.id).order_by(Tool.id)).all():
        row = session.scalar(select(ToolStanding).where(ToolStanding.tool_id == tool_id))
        before = kept(row) if row is not None else None
        differed += follow(session, tool_id, None) != before
    return differed


def ensure(database: Database) -> None:
    """Make the projection where an upgrade left tools without one."""
    with database.session() as session:
        tools, rows = (session.scalar(select(func.count()).select_from(t)) for t in (Tool, ToolStanding))
        if tools != rows:
            rebuild(session)


def kept(row: ToolStanding) -> Standing:
    """The standing that a projection row says."""
    restricted = None
    if row.restricted_low is not None and row.restricted_high is not None:
        restricted = (row.restricted_low, row.restricted_high)
    return Standing(
        state=row.state,
        last_run=row.last_run,
        due=Due(row.due_on, row.due_reason or DueReason.CALENDAR) if row.due_on is not None else None,
        held=row.held,
        check_event_id=row.check_event_id,
        restricted=restricted,
        loan=Loan(row.lent_to, row.lent_on, row.back_by) if row.lent_on is not None else None,
        away=Loan(row.away_at, row.away_since, row.away_until) if row.away_since is not None else None,
        kept=row.kept,
        retired=row.retired,
    )


def _write(row: ToolStanding, now: Standing) -> None:
    row.state, row.last_run = now.state, now.last_run
    row.due_on, row.due_reason = (now.due.on, now.due.reason) if now.due else (None, None)
    row.held, row.kept, row.retired = now.held, now.kept, now.retired
    row.check_event_id = now.check_event_id
    row.restricted_low, row.restricted_high = now.restricted or (None, None)
    row.lent_to, row.lent_on, row.back_by = _loan(now.loan)
    row.away_at, row.away_since, row.away_until = _loan(now.away)


def _loan(loan: Loan | None) -> tuple[str, date | None, date | None]:
    return (loan.to, loan.since, loan.due_back) if loan else ("", None, None)


def _records(session: Session, tool_id: int) -> list[Happened | Result]:
    events = session.scalars(select(ToolEvent).where(ToolEvent.tool_id == tool_id))
    signed = session.execute(
        select(Signature, Run.kind).join(Run, Run.id == Signature.run_id).where(Run.tool_id == tool_id)
    )
    found: list[Happened | Result] = [
        Happened(e.sequence, e.kind, e.note, _day(e.at), e.id, e.due_back, _part(e)) for e in events
    ]
    found += [
        Result(
            s.sequence,
            _day(s.at),
            POLICIES[kind].judges,
            s.state,
            s.outcome,
            s.accepted,
            Due(s.due, s.due_reason or DueReason.CALENDAR) if s.due is not None else None,
        )
        for s, kind in signed
    ]
    return found


def _part(event: ToolEvent) -> tuple[float, float] | None:
    return (event.low, event.high) if event.low is not None and event.high is not None else None


def _day(at: datetime) -> date:
    return at.date()


FIELDS = tuple(f.name for f in fields(Standing))
"""What a standing holds, for those who compare."""
