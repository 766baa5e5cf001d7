"""What people report of a tool: that it fell, that it is to be held, kept as evidence, retired; and what follows from it,
told before it is done.

What was reported by mistake is taken back by saying so: the record stays, and the tool stands as before.
"""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.translation import tr
from reckoner.shop.acts import Act, ShopRefused, note
from reckoner.shop.consequences import HOW_MANY, consequence, cycles_in, why_not
from reckoner.shop.events import EVENTS
from reckoner.shop.happening import newest_place, record_event
from reckoner.shop.rights import Right, require
from reckoner.shop.standing import Standing, kept
from reckoner.store.schema import OpenRun, Tool, ToolEvent, ToolStanding
from reckoner.store.terms import EventKind


@dataclass(frozen=True)
class Reported:
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
    was: Reported

    def take_back(self, session: Session, act: Act) -> Reported:
        """Report it again."""
        return report(session, self.was.tool_id, self.was.kind, self.was.note, act)


def report(session: Session, tool_id: int, kind: EventKind, reason: str, act: Act) -> Reported:
    """Record that something happened to a tool. Raises ShopRefused for what cannot be, without the reason that it wants, and
    without the right to release or to retire."""
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
    return Reported(words, told, tool_id, event.id, kind, reason)


def refuse_if_newer(session: Session, event_id: int) -> ToolEvent:
    """The event, if nothing happened to its tool since. Raises ShopRefused."""
    event = session.get_one(ToolEvent, event_id)
    if newest_place(session, event.tool_id) != event.sequence:
        raise ShopRefused(tr("Something happened to the tool since; that cannot be taken back any more."))
    return event


def withdraw(session: Session, reported: Reported, act: Act) -> Withdrawn:
    """Say that a report was a mistake. Raises ShopRefused when something happened to the tool since."""
    event = refuse_if_newer(session, reported.event_id)
    record_event(session, event.tool_id, EventKind.MISTAKEN, tr("“{words}” was a mistake", words=reported.words), act)
    note(session, act, tr("took a report back"), session.get_one(Tool, event.tool_id).number, event=event.id)
    return Withdrawn(reported.words, reported)
