"""Recording that something happened to a tool.

What people report of a tool: that it fell, that it is to be held, kept as evidence, retired; and what follows from it,
told before it is done.

What was reported by mistake is taken back by saying so: the record stays, and the tool stands as before.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from sqlalchemy import func, select
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from reckoner.core.translation import tr
from reckoner.shop.events.consequences import HOW_MANY, consequence, cycles_in, why_not
from reckoner.shop.events.kinds import EVENTS
from reckoner.shop.events.projection import update_projection
from reckoner.shop.events.standing import Standing, kept
from reckoner.shop.people.authorship import Act, ShopRefused, note
from reckoner.shop.people.rights import command, require, require_own
from reckoner.shop.register import listing
from reckoner.store.schema import HistoryPlace, OpenRun, Tool, ToolEvent, ToolStanding
from reckoner.store.terms import EventKind, Right


def newest_place(session: Session, tool_id: int) -> int:
    """The place of the newest event, signature or outside result in the tool's own order; 0 before the first."""
    return session.scalar(select(func.max(HistoryPlace.sequence)).where(HistoryPlace.tool_id == tool_id)) or 0


def take_place(session: Session, tool_id: int) -> int:
    """Take the place of the next event, signature or outside result in the tool's own order. Raises ShopRefused where
    somebody else took it at this very moment."""
    place = newest_place(session, tool_id) + 1
    session.add(HistoryPlace(tool_id=tool_id, sequence=place))
    try:
        session.flush()
    except IntegrityError:
        raise ShopRefused(
            tr(
                "Something else happened to the tool at this very moment. Nothing was kept; look again, and "
                "repeat it if it still holds."
            )
        ) from None
    return place


def record_event(
    session: Session,
    tool_id: int,
    kind: EventKind,
    words: str,
    act: Act,
    *,
    part: tuple[float, float] | None = None,
    due_back: date | None = None,
    cycles: int | None = None,
) -> ToolEvent:
    """Record that something happened to a tool, and let its standing follow. ``part`` in N·m is what a restriction leaves,
    ``cycles`` how often it was used since it was counted last; a tool that comes back brings those of its days at work.
    Raises ShopRefused. Changes: standings. Right: none."""
    low, high = part or (None, None)
    if kind is EventKind.RETURNED and cycles is None:
        cycles = cycles_of_loan(session, tool_id, act.at.date())
    if cycles:
        due_back = used_up_on(session, tool_id, cycles, act.at.date())
    event = ToolEvent(
        tool_id=tool_id,
        sequence=take_place(session, tool_id),
        at=act.at,
        person_id=act.person_id,
        kind=kind,
        note=words,
        due_back=due_back,
        low=low,
        high=high,
        cycles=cycles,
    )
    session.add(event)
    update_projection(session, tool_id, act.person_id)
    return event


@dataclass(frozen=True)
class BroughtEvent:
    """Something of earlier days that happened to a tool, as it is brought in."""

    tool_id: int
    kind: EventKind
    words: str
    at: datetime
    due_back: date | None = None


def record_brought(session: Session, events: Sequence[BroughtEvent], act: Act) -> None:
    """Record what happened to tools that nobody else knows yet, in this order, many by few statements; only within
    ``projection.together``. Changes: standings. Right: none."""
    tools = list(dict.fromkeys(event.tool_id for event in events))
    places: dict[int, int] = {}
    for ids in listing.in_parts(tools):
        newest = select(HistoryPlace.tool_id, func.max(HistoryPlace.sequence)).where(HistoryPlace.tool_id.in_(ids))
        rows = session.execute(newest.group_by(HistoryPlace.tool_id))
        places.update((tool, place) for tool, place in rows)
    for event in events:
        place = places[event.tool_id] = places.get(event.tool_id, 0) + 1
        session.add(HistoryPlace(tool_id=event.tool_id, sequence=place))
        session.add(
            ToolEvent(
                tool_id=event.tool_id,
                sequence=place,
                at=event.at,
                person_id=act.person_id,
                kind=event.kind,
                note=event.words,
                due_back=event.due_back,
            )
        )
        update_projection(session, event.tool_id, act.person_id)
    session.flush()


LEAST_DAYS = 30
"""Days from which a count says how fast cycles are used."""


def cycles_of_loan(session: Session, tool_id: int, today: date) -> int | None:
    """The cycles of a loan that ends ``today``, at what a day at work is taken for; None where that is not known."""
    tool = session.get_one(Tool, tool_id)
    row = session.scalar(select(ToolStanding).where(ToolStanding.tool_id == tool_id))
    if row is None or row.lent_on is None or not tool.cycles_per_lent_day:
        return None
    return tool.cycles_per_lent_day * max(1, (today - row.lent_on).days)


def used_up_on(session: Session, tool_id: int, more: int, today: date) -> date | None:
    """The day on which the cycles that a tool's rule set allows run out, once ``more`` are counted: today where they have,
    else as fast as they were used since its last full run; None where that cannot be told yet."""
    from reckoner.formats.rulesets import shipped  # loads pydantic

    row = session.scalar(select(ToolStanding).where(ToolStanding.tool_id == tool_id))
    if row is None:
        return None
    allowed = shipped(session.get_one(Tool, tool_id).rule_set).cycles
    used, since = row.cycles + more, row.last_run
    if not allowed:
        return None
    if used >= allowed:
        return today
    if since is None or (today - since).days < LEAST_DAYS:
        return None
    days = (allowed - used) * (today - since).days / used
    return today + timedelta(days=int(days)) if days < FAR else None


FAR = 20 * 365
"""Days beyond which nobody asks when cycles run out."""


@dataclass(frozen=True)
class ReportedEvent:
    """An event that was reported: ``words`` name it, ``told`` says how the tool stands now. Taken back like a change of the
    register."""

    words: str
    told: str
    tool_id: int
    event_id: int
    kind: EventKind
    note: str

    def take_back(self, session: Session, act: Act) -> Withdrawn:
        """Say that it was a mistake. Raises ShopRefused when something happened to the tool since."""
        return withdraw(session, self, act)


@dataclass(frozen=True)
class Withdrawn:
    """A report that was a mistake; taken back, it is reported again."""

    words: str
    was: ReportedEvent

    def take_back(self, session: Session, act: Act) -> ReportedEvent:
        """Report it again."""
        return report(session, self.was.tool_id, self.was.kind, self.was.note, act)


@command
def report(session: Session, tool_id: int, kind: EventKind, reason: str, act: Act) -> ReportedEvent:
    """Record that something happened to a tool. Raises ShopRefused for what cannot be, without the reason that it wants, and
    without the right to release or to retire. Changes: standings.
    Right beside: allow, edit."""
    tool = session.get_one(Tool, tool_id)
    row = session.scalar(select(ToolStanding).where(ToolStanding.tool_id == tool_id))
    now = kept(row) if row is not None else Standing()
    facts, reason = EVENTS[kind], " ".join(reason.split())
    why = why_not(now, kind)
    if why:
        raise ShopRefused(f"{tool.number}: {why}")
    cycles = None
    if kind is EventKind.COUNTED:
        cycles = cycles_in(reason)
        if cycles is None:
            raise ShopRefused(HOW_MANY)
    if facts.asks and not reason:
        raise ShopRefused(tr("Say why in a few words; whoever finds it later asks just that."))
    if kind in (EventKind.RELEASED, EventKind.KEPT_NO_MORE):
        require(session, act, Right.ALLOW)
    if kind in (EventKind.RETIRED, EventKind.BACK_IN_SERVICE):
        require(session, act, Right.EDIT)
    open_run = session.scalar(select(OpenRun.run_id).where(OpenRun.tool_id == tool_id))
    if open_run is not None and kind in (EventKind.RETIRED, EventKind.KEPT):
        raise ShopRefused(tr("{number} is on the bench. Sign the run or give it up first.", number=tool.number))
    told = consequence(tool.number, now, kind, reason)
    event = record_event(session, tool_id, kind, reason, act, cycles=cycles)
    session.flush()
    note(session, act, tr("reported: {kind}", kind=EVENTS[kind].words.lower()), tool.number, note=reason)
    words = f"{tool.number} {facts.words.lower()}" + (f", {reason}" if reason else "")
    return ReportedEvent(words, told, tool_id, event.id, kind, reason)


def own_and_newest(session: Session, event_id: int, act: Act) -> ToolEvent:
    """The event, if the person who acts reported it and nothing happened to its tool since. Raises ShopRefused."""
    event = session.get_one(ToolEvent, event_id)
    require_own(session, act, event.person_id)
    if newest_place(session, event.tool_id) != event.sequence:
        raise ShopRefused(tr("Something happened to the tool since; that cannot be taken back any more."))
    return event


@command
def withdraw(session: Session, reported: ReportedEvent, act: Act) -> Withdrawn:
    """Say that a report was a mistake. Raises ShopRefused when something happened to the tool since, or somebody
    else reported it. Changes: standings."""
    event = own_and_newest(session, reported.event_id, act)
    record_event(session, event.tool_id, EventKind.MISTAKEN, tr("“{words}” was a mistake", words=reported.words), act)
    note(session, act, tr("took a report back"), session.get_one(Tool, event.tool_id).number, event=event.id)
    return Withdrawn(reported.words, reported)
