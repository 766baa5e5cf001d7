"""What can happen to a tool: each kind of event declared once, with its words, its consequence and what ends it.

To add an event: a member of ``store.terms.EventKind`` and a row in ``EVENTS``; standing, lists and history follow.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum, auto

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
