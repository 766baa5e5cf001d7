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
    DUE_DATE = auto()
    EARLIER = auto()
    CYCLES = auto()
    CORRECTION = auto()


@dataclass(frozen=True)
class EventFacts:
    """``words`` name it in a history. ``harms``: the tool is held and a check is wanted until a signed run has answered.
    ``typed`` are the words that people type for it after a tool's number, ``verb`` the one before it; an event with neither
    is not recorded by hand. ``deed`` names what is done with it. ``asks``: it wants a reason."""

    words: str
    begins: Consequence | None = None
    ends: Consequence | None = None
    harms: bool = False
    typed: tuple[str, ...] = ()
    verb: str = ""
    deed: str = ""
    asks: bool = False

    @property
    def by_hand(self) -> bool:
        return bool(self.typed or self.verb)


def _harm(words: str, *typed: str) -> EventFacts:
    return EventFacts(words, harms=True, typed=(words.casefold(), *typed))


EVENTS: dict[EventKind, EventFacts] = {
    EventKind.FELL: _harm("Fell", "dropped", "fell down"),
    EventKind.OVERLOADED: _harm("Overloaded", "over-pulled", "over-torqued"),
    EventKind.NO_SIGNAL: _harm("Does not signal", "no signal", "no click", "does not click"),
    EventKind.FELT_WRONG: _harm("Felt wrong", "feels wrong"),
    EventKind.USED_TO_LOOSEN: _harm("Used to loosen", "used to break loose", "loosened with"),
    EventKind.STORED_WOUND_UP: _harm("Stored wound up", "not wound back", "wound up"),
    EventKind.LOCK_LOOSE: _harm("Lock found loose", "lock loose", "loose lock"),
    EventKind.REPAIRED: _harm("Repaired"),
    EventKind.LENT_OUTSIDE: _harm("Lent outside"),
    EventKind.SEAL_BROKEN: _harm("Seal broken", "broken seal"),
    EventKind.HELD: EventFacts("Held", begins=Consequence.HOLD, verb="hold", deed="Hold it", asks=True),
    EventKind.RELEASED: EventFacts("Released", ends=Consequence.HOLD, verb="release", deed="Release it", asks=True),
    EventKind.KEPT: EventFacts(
        "Kept as evidence", begins=Consequence.EVIDENCE, verb="keep", deed="Keep it as evidence", asks=True
    ),
    EventKind.KEPT_NO_MORE: EventFacts(
        "No longer evidence", ends=Consequence.EVIDENCE, verb="free", deed="No longer evidence", asks=True
    ),
    EventKind.RETIRED: EventFacts("Retired", begins=Consequence.RETIREMENT, verb="retire", deed="Retire it", asks=True),
    EventKind.BACK_IN_SERVICE: EventFacts(
        "Back in service", ends=Consequence.RETIREMENT, verb="restore", deed="Back into service", asks=True
    ),
    EventKind.CORRECTED: EventFacts("Used with correction", begins=Consequence.CORRECTION),
    EventKind.CORRECTED_NO_MORE: EventFacts(
        "No longer with correction",
        ends=Consequence.CORRECTION,
        verb="uncorrect",
        deed="No more with correction",
        asks=True,
    ),
    EventKind.COUNTED: EventFacts(
        "Cycles counted", begins=Consequence.CYCLES, verb="count", typed=("used",), deed="Count its cycles", asks=True
    ),
    EventKind.NOTED: EventFacts("Noted", verb="note", deed="Write a note", asks=True),
    EventKind.ADJUSTED: EventFacts("Adjusted"),
    EventKind.LENT: EventFacts("Lent", begins=Consequence.LOAN),
    EventKind.RETURNED: EventFacts("Came back", ends=Consequence.LOAN),
    EventKind.SENT_AWAY: EventFacts("Sent away", begins=Consequence.AWAY),
    EventKind.CAME_BACK: EventFacts("Back from the laboratory", ends=Consequence.AWAY),
    EventKind.RESTRICTED: EventFacts("Restricted", begins=Consequence.RESTRICTION),
    EventKind.UNRESTRICTED: EventFacts("No longer restricted", ends=Consequence.RESTRICTION),
    EventKind.BROUGHT_IN: EventFacts("Brought in", begins=Consequence.DUE_DATE),
    EventKind.BROUGHT_FORWARD: EventFacts("Due date brought forward", begins=Consequence.EARLIER),
    EventKind.MISTAKEN: EventFacts("What was recorded last was a mistake"),
}
