"""What people report of a tool: that it fell, that it is to be held, kept as evidence, retired; and what follows from it,
told before it is done.

What was reported by mistake is taken back by saying so: the record stays, and the tool stands as before.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from datetime import date

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.shop.acts import Act, ShopRefused, note
from reckoner.shop.events import EVENTS
from reckoner.shop.happening import happen, next_sequence
from reckoner.shop.rights import Right, require
from reckoner.shop.standing import Happened, Standing, kept, standing_of_more
from reckoner.store.schema import OpenRun, Tool, ToolEvent, ToolStanding
from reckoner.store.terms import EventKind

REPORTED: tuple[EventKind, ...] = tuple(kind for kind, facts in EVENTS.items() if facts.by_hand)
"""What can be reported by hand."""


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


HOW_MANY = "Say how many since it was counted last, a whole number, such as 120."
MOST_CYCLES = 10**6


def cycles_in(text: str) -> int | None:
    """The number that a count begins with, such as "120" or "1 200 in the tower job"; None when there is none.

    >>> cycles_in("120"), cycles_in("1 200 in the tower job"), cycles_in("many"), cycles_in("0")
    (120, 1200, None, None)
    """
    match = re.match(r"(\d{1,3}(?:[ '\u202f\u00a0]\d{3})+|\d{1,7})(?![\d.,])", text.strip())
    found = int(re.sub(r"\D", "", match[1])) if match else 0
    return found if 0 < found <= MOST_CYCLES else None


def why_not(now: Standing, kind: EventKind) -> str:
    """Why an event cannot be reported of a tool that stands so; empty when it can."""
    match kind:
        case EventKind.RELEASED if not now.held:
            return "It is not held."
        case EventKind.KEPT if now.kept:
            return "It is kept as evidence already."
        case EventKind.KEPT_NO_MORE if not now.kept:
            return "It is not kept as evidence."
        case EventKind.RETIRED if now.retired:
            return "It is retired already."
        case EventKind.RETIRED if now.loan is not None:
            return f"It is lent to {now.loan.to}; take it back first."
        case EventKind.COUNTED if not now.last_run:
            return "It was never tested here; its cycles count from its first full run."
        case EventKind.BACK_IN_SERVICE if not now.retired:
            return "It is not retired."
        case _:
            return ""


def offered(now: Standing) -> tuple[EventKind, ...]:
    """What can be reported of a tool that stands so."""
    return tuple(kind for kind in REPORTED if not why_not(now, kind))


def consequence(number: str, now: Standing, kind: EventKind, reason: str = "") -> str:
    """What follows for the tool, in a sentence, before it is done."""
    then = standing_of_more(now, Happened(0, kind, reason, now.last_run or date.min))
    facts = EVENTS[kind]
    if facts.harms:
        held = "is held already; it stays so" if now.held else "will be held"
        return f"{number} {held} until a check has answered it."
    match kind:
        case EventKind.HELD:
            return f"{number} will be held until somebody releases it or a run accepts it."
        case EventKind.RELEASED:
            asked = " The check after its event is still asked for." if then.check_event_id is not None else ""
            return f"{number} may be used again.{asked}"
        case EventKind.KEPT:
            return f"{number} will be kept as it is: no exercise, no test, no adjusting, until it is free."
        case EventKind.KEPT_NO_MORE:
            return f"{number} is no longer kept as evidence" + ("; it stays held." if then.held else ".")
        case EventKind.RETIRED:
            return f"{number} will leave service; its history stays."
        case EventKind.BACK_IN_SERVICE:
            return f"{number} comes back into service" + (
                "." if then.due is None else f"; due {then.due.on:%-d %b %Y}."
            )
        case EventKind.COUNTED:
            cycles = cycles_in(reason)
            if cycles is None:
                return f"{now.cycles} cycles of {number} were counted since its last full run."
            return (
                f"{number} was used {now.cycles + cycles} times since its last full run; it is due earlier where its cycles "
                "run out before."
            )
        case _:
            return f"A note in the history of {number}; nothing else changes."


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
        raise ShopRefused("Say why in a few words; whoever finds it later asks just that.")
    if kind in (EventKind.RELEASED, EventKind.KEPT_NO_MORE):
        require(session, act, Right.ALLOW)
    if kind in (EventKind.RETIRED, EventKind.BACK_IN_SERVICE):
        require(session, act, Right.EDIT)
    open_run = session.scalar(select(OpenRun.run_id).where(OpenRun.tool_id == tool_id))
    if open_run is not None and kind in (EventKind.RETIRED, EventKind.KEPT):
        raise ShopRefused(f"{tool.number} is on the bench. Sign the run or give it up first.")
    told = consequence(tool.number, now, kind, reason)
    event = happen(session, tool_id, kind, reason, act, cycles=cycles)
    session.flush()
    note(session, act, f"reported: {kind}", tool.number, note=reason)
    words = f"{tool.number} {facts.words.lower()}" + (f", {reason}" if reason else "")
    return Reported(words, told, tool_id, event.id, kind, reason)


def withdraw(session: Session, reported: Reported, act: Act) -> Withdrawn:
    """Say that a report was a mistake. Raises ShopRefused when something happened to the tool since."""
    event = session.get_one(ToolEvent, reported.event_id)
    if next_sequence(session, event.tool_id) != event.sequence + 1:
        raise ShopRefused("Something happened to the tool since; that cannot be taken back any more.")
    happen(session, event.tool_id, EventKind.MISTAKEN, f"“{reported.words}” was a mistake", act)
    note(session, act, "took a report back", session.get_one(Tool, event.tool_id).number, event=event.id)
    return Withdrawn(reported.words, reported)
