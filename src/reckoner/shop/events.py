"""What can happen to a tool: each kind of event declared once, with its words, its consequence and what ends it.

To add an event: a member of ``store.terms.EventKind`` and a row in ``EVENTS``; standing, lists and history follow.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from enum import Enum, auto

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from reckoner.shop.acts import Act
from reckoner.store.schema import Run, Signature, ToolEvent
from reckoner.store.terms import EventKind


class Consequence(Enum):
    """What an event begins or ends for its tool."""

    HOLD = auto()
    RESTRICTION = auto()
    LOAN = auto()
    AWAY = auto()
    EVIDENCE = auto()
    RETIREMENT = auto()


@dataclass(frozen=True)
class EventFacts:
    """``words`` name it in a history. ``harms``: the tool is held and a check is wanted until a signed run has answered."""

    words: str
    begins: Consequence | None = None
    ends: Consequence | None = None
    harms: bool = False


EVENTS: dict[EventKind, EventFacts] = {
    EventKind.HELD: EventFacts("Held", begins=Consequence.HOLD),
    EventKind.RELEASED: EventFacts("Released", ends=Consequence.HOLD),
    EventKind.FELL: EventFacts("Fell", harms=True),
    EventKind.OVERLOADED: EventFacts("Overloaded", harms=True),
    EventKind.NO_SIGNAL: EventFacts("Does not signal", harms=True),
    EventKind.FELT_WRONG: EventFacts("Felt wrong", harms=True),
    EventKind.USED_TO_LOOSEN: EventFacts("Used to loosen", harms=True),
    EventKind.STORED_WOUND_UP: EventFacts("Stored wound up", harms=True),
    EventKind.LOCK_LOOSE: EventFacts("Lock found loose", harms=True),
    EventKind.REPAIRED: EventFacts("Repaired", harms=True),
    EventKind.LENT_OUTSIDE: EventFacts("Lent outside", harms=True),
    EventKind.SEAL_BROKEN: EventFacts("Seal broken", harms=True),
    EventKind.ADJUSTED: EventFacts("Adjusted"),
    EventKind.LENT: EventFacts("Lent", begins=Consequence.LOAN),
    EventKind.RETURNED: EventFacts("Came back", ends=Consequence.LOAN),
    EventKind.SENT_AWAY: EventFacts("Sent away", begins=Consequence.AWAY),
    EventKind.CAME_BACK: EventFacts("Back from the laboratory", ends=Consequence.AWAY),
    EventKind.RESTRICTED: EventFacts("Restricted", begins=Consequence.RESTRICTION),
    EventKind.UNRESTRICTED: EventFacts("No longer restricted", ends=Consequence.RESTRICTION),
    EventKind.KEPT: EventFacts("Kept as evidence", begins=Consequence.EVIDENCE),
    EventKind.KEPT_NO_MORE: EventFacts("No longer evidence", ends=Consequence.EVIDENCE),
    EventKind.RETIRED: EventFacts("Retired", begins=Consequence.RETIREMENT),
    EventKind.BACK_IN_SERVICE: EventFacts("Back in service", ends=Consequence.RETIREMENT),
    EventKind.NOTED: EventFacts("Noted"),
}


def next_sequence(session: Session, tool_id: int) -> int:
    """The place of the next event or signature in the tool's own order."""
    event = session.scalar(select(func.max(ToolEvent.sequence)).where(ToolEvent.tool_id == tool_id))
    signature = session.scalar(
        select(func.max(Signature.sequence)).join(Run, Run.id == Signature.run_id).where(Run.tool_id == tool_id)
    )
    return 1 + max(event or 0, signature or 0)


def happen(
    session: Session,
    tool_id: int,
    kind: EventKind,
    words: str,
    act: Act,
    *,
    part: tuple[float, float] | None = None,
    due_back: date | None = None,
) -> ToolEvent:
    """Record that something happened to a tool, and let its standing follow. ``part`` in N·m is what a restriction leaves."""
    from reckoner.shop.standing import follow

    low, high = part or (None, None)
    event = ToolEvent(
        tool_id=tool_id,
        sequence=next_sequence(session, tool_id),
        at=act.at,
        person_id=act.person_id,
        kind=kind,
        note=words,
        due_back=due_back,
        low=low,
        high=high,
    )
    session.add(event)
    follow(session, tool_id, act.person_id)
    return event
