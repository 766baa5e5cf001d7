"""What a tool is and why: worked out by one function from what happened to it, and kept as a projection beside it.

``standing_of``  the function: events and results in, a standing out; pure
``kept``         the standing as the projection has it: what every list reads
``CONDITIONS``   each condition as the database asks for it in the projection

``projection`` keeps and rebuilds it.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import date
from enum import StrEnum
from typing import Any

from reckoner.core.decision.states import State
from reckoner.core.history.due import Due, DueReason
from reckoner.core.translation import mark
from reckoner.shop.events.kinds import EVENTS, Consequence
from reckoner.store.terms import EventKind, Outcome, term
from reckoner.store.times import day_of


class Condition(StrEnum):
    """What a tool is; several may hold at once. The first of them in this order is said first."""

    RETIRED = mark("retired")
    EVIDENCE = mark("kept as evidence")
    HELD = mark("held")
    AWAY = mark("away")
    LENT = mark("lent")
    NEW = mark("new")
    OVERDUE = mark("overdue")
    DUE = mark("due")
    RESTRICTED = mark("restricted")
    IN_DATE = mark("in date")


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
    part that it may be used in, ``check_event_id`` the harmful event that no signed run has answered yet. ``cycles`` were
    counted since the last run that set a due date; ``interval_ends`` is that date, apart from them. ``corrected_until``:
    although it is held, its owner lets it be used with correction until that day."""

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
    cycles: int = 0
    interval_ends: date | None = None
    corrected_until: date | None = None

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

    @property
    def barred(self) -> bool:
        """Whether the bench does not wait for it, whatever its date: held, kept, away or retired."""
        return bool(self.held or self.kept or self.retired or self.away is not None)

    def corrected(self, today: date) -> bool:
        """Whether it may be used with correction on ``today``, although it is held."""
        return self.corrected_until is not None and today <= self.corrected_until and not (self.kept or self.retired)

    def usable(self, today: date) -> bool:
        """Whether it may be used on ``today``, within its part where it is restricted."""
        return not self.barred and self.due is not None and self.due.days_left(today) >= 0


@dataclass(frozen=True)
class StandingEvent:
    """An event as the standing sees it."""

    sequence: int
    kind: EventKind
    note: str
    on: date
    id: int = 0
    due_back: date | None = None
    part: tuple[float, float] | None = None
    cycles: int = 0


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


def standing_of(happened: Iterable[StandingEvent | Result]) -> Standing:
    """What a tool is after all that ``happened`` to it, in the order of its own sequence."""
    now, harmed = Standing(), False
    before: tuple[Standing, bool] | None = None  # as it was before the event that was recorded last
    for one in sorted(happened, key=lambda h: h.sequence):
        if isinstance(one, Result):
            now, harmed = _after_result(now, harmed, one)
            before = None
            continue
        if one.kind is EventKind.MISTAKEN:
            (now, harmed), before = before or (now, harmed), None
            continue
        before = (now, harmed)
        now, harmed = _after_event(now, harmed, one)
    return now


def standing_of_more(now: Standing, event: StandingEvent) -> Standing:
    """How a tool that stands so would stand after one more ``event``."""
    return _after_event(now, False, event)[0]


def _after_event(now: Standing, harmed: bool, event: StandingEvent) -> tuple[Standing, bool]:
    facts = EVENTS[event.kind]
    if facts.harms:
        harmed = harmed or not now.held
        held = now.held or event.note or facts.words.lower()
        now = replace(now, held=held, check_event_id=event.id, corrected_until=None)
    if facts.begins is not None:
        harmed = harmed and facts.begins is not Consequence.HOLD
        now = _begun(now, facts.begins, event)
    if facts.ends is not None:
        harmed = harmed and facts.ends is not Consequence.HOLD
        now = _ended(now, facts.ends)
    if event.cycles:
        now = _used(now, event)
    return now, harmed


def _used(now: Standing, event: StandingEvent) -> Standing:
    """More cycles; ``event.due_back`` is the day on which those that are allowed run out, as far as can be told."""
    now = replace(now, cycles=now.cycles + event.cycles)
    if now.due is None:
        return now
    base = now.due
    if base.reason is DueReason.CYCLES and now.interval_ends is not None:  # an earlier count's; this one knows more
        base = Due(now.interval_ends, DueReason.CALENDAR)
    if event.due_back is not None and event.due_back < base.on:
        base = Due(event.due_back, DueReason.CYCLES)
    return replace(now, due=base)


def _after_result(now: Standing, harmed: bool, result: Result) -> tuple[Standing, bool]:
    """A judged run answers the event that asked for it, and ends the hold that came with the event if it releases."""
    if not result.judged:
        return now, harmed
    if result.state is State.COMPARED:  # a shop check answers nothing, and hides no result that was decided
        return replace(now, state=now.state or State.COMPARED, last_run=now.last_run or result.on), harmed
    now = replace(now, state=result.state, last_run=result.on, check_event_id=None, corrected_until=None)
    if result.due is not None:
        now = replace(now, due=result.due, interval_ends=result.due.on, cycles=0)
    released = result.outcome in (Outcome.RELEASED, Outcome.RESTRICTED)
    if harmed and (released or (result.outcome is None and result.accepted)):
        return replace(now, held=""), False
    return now, harmed


def _begun(now: Standing, begins: Consequence, event: StandingEvent) -> Standing:
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
        case Consequence.CORRECTION:
            return replace(now, corrected_until=event.due_back)
        case Consequence.DUE_DATE:  # of earlier years; what a run here has set stays
            due = Due(event.due_back, DueReason.BROUGHT_IN) if event.due_back is not None else None
            return replace(now, due=now.due or due, last_run=now.last_run or event.on)
        case Consequence.CYCLES:  # counted below, whatever event brings them
            return now
        case Consequence.EARLIER:
            if event.due_back is None or now.due is None or now.due.on <= event.due_back:
                return now
            return replace(now, due=Due(event.due_back, DueReason.BROUGHT_FORWARD))


def _ended(now: Standing, ends: Consequence) -> Standing:
    match ends:
        case Consequence.HOLD:
            return replace(now, held="", corrected_until=None)
        case Consequence.CORRECTION:
            return replace(now, corrected_until=None)
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
        case Consequence.DUE_DATE | Consequence.EARLIER | Consequence.CYCLES:
            return now


def kept(row: Any) -> Standing:
    """The standing that a row of the projection says, as the typed model or read by columns. Raises TermUnknown,
    ValueUnreadable."""
    restricted = None
    if row.restricted_low is not None and row.restricted_high is not None:
        restricted = (row.restricted_low, row.restricted_high)
    due, lent, away = day_of(row.due_on), day_of(row.lent_on), day_of(row.away_since)
    return Standing(
        state=term(State, row.state) if row.state is not None else None,
        last_run=day_of(row.last_run),
        due=Due(due, term(DueReason, row.due_reason or DueReason.CALENDAR)) if due is not None else None,
        held=row.held,
        check_event_id=row.check_event_id,
        restricted=restricted,
        loan=Loan(row.lent_to, lent, day_of(row.back_by)) if lent is not None else None,
        away=Loan(row.away_at, away, day_of(row.away_until)) if away is not None else None,
        kept=row.kept,
        retired=bool(row.retired),
        cycles=row.cycles,
        interval_ends=day_of(row.interval_ends),
        corrected_until=day_of(row.corrected_until),
    )


CONDITIONS: dict[Condition, str] = {
    Condition.RETIRED: "s.retired",
    Condition.EVIDENCE: "s.kept > ''",
    Condition.HELD: "s.held > ''",
    Condition.AWAY: "s.away_since IS NOT NULL",
    Condition.LENT: "s.lent_on IS NOT NULL",
    Condition.NEW: "s.due_on IS NULL",
    Condition.OVERDUE: "s.due_on < :today",
    Condition.DUE: "s.due_on BETWEEN :today AND :soon",
    Condition.RESTRICTED: "s.restricted_low IS NOT NULL",
    Condition.IN_DATE: "s.due_on > :soon",
}
"""Each condition as the database asks for it of a row ``s`` of the projection; ``soon`` is DUE_WITHIN days after today."""
