"""What can happen to a tool: each kind of event declared once, with its words, its consequence and what ends it.

To add an event: a member of ``store.terms.EventKind`` and a row in ``EVENTS``; standing, lists and history follow.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum, auto

from reckoner.core.translation import tr
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
    is not recorded by hand. ``button_words`` name what is done with it. ``asks``: it wants a reason."""

    words: str
    begins: Consequence | None = None
    ends: Consequence | None = None
    harms: bool = False
    typed: tuple[str, ...] = ()
    verb: str = ""
    button_words: str = ""
    asks: bool = False

    @property
    def by_hand(self) -> bool:
        return bool(self.typed or self.verb)


def _harm(words: str, *typed: str) -> EventFacts:
    return EventFacts(words, harms=True, typed=(words.casefold(), *typed))


EVENTS: dict[EventKind, EventFacts] = {
    EventKind.FELL: _harm(tr("Fell"), "dropped", "fell down"),
    EventKind.OVERLOADED: _harm(tr("Overloaded"), "over-pulled", "over-torqued"),
    EventKind.NO_SIGNAL: _harm(tr("Does not signal"), tr("no signal"), tr("no click"), tr("does not click")),
    EventKind.FELT_WRONG: _harm(tr("Felt wrong"), tr("feels wrong")),
    EventKind.USED_TO_LOOSEN: _harm(tr("Used to loosen"), tr("used to break loose"), tr("loosened with")),
    EventKind.STORED_WOUND_UP: _harm(tr("Stored wound up"), tr("not wound back"), tr("wound up")),
    EventKind.LOCK_LOOSE: _harm(tr("Lock found loose"), tr("lock loose"), tr("loose lock")),
    EventKind.REPAIRED: _harm(tr("Repaired")),
    EventKind.LENT_OUTSIDE: _harm(tr("Lent outside")),
    EventKind.SEAL_BROKEN: _harm(tr("Seal broken"), tr("broken seal")),
    EventKind.HELD: EventFacts(tr("Held"), begins=Consequence.HOLD, verb="hold", button_words=tr("Hold it"), asks=True),
    EventKind.RELEASED: EventFacts(
        tr("Released"), ends=Consequence.HOLD, verb="release", button_words=tr("Release it"), asks=True
    ),
    EventKind.KEPT: EventFacts(
        tr("Kept as evidence"),
        begins=Consequence.EVIDENCE,
        verb="keep",
        button_words=tr("Keep it as evidence"),
        asks=True,
    ),
    EventKind.KEPT_NO_MORE: EventFacts(
        tr("No longer evidence"),
        ends=Consequence.EVIDENCE,
        verb="free",
        button_words=tr("No longer evidence"),
        asks=True,
    ),
    EventKind.RETIRED: EventFacts(
        tr("Retired"), begins=Consequence.RETIREMENT, verb="retire", button_words=tr("Retire it"), asks=True
    ),
    EventKind.BACK_IN_SERVICE: EventFacts(
        tr("Back in service"),
        ends=Consequence.RETIREMENT,
        verb="restore",
        button_words=tr("Back into service"),
        asks=True,
    ),
    EventKind.CORRECTED: EventFacts(tr("Used with correction"), begins=Consequence.CORRECTION),
    EventKind.CORRECTED_NO_MORE: EventFacts(
        tr("No longer with correction"),
        ends=Consequence.CORRECTION,
        verb="uncorrect",
        button_words=tr("No more with correction"),
        asks=True,
    ),
    EventKind.COUNTED: EventFacts(
        tr("Cycles counted"),
        begins=Consequence.CYCLES,
        verb="count",
        typed=("used",),
        button_words=tr("Count its cycles"),
        asks=True,
    ),
    EventKind.NOTED: EventFacts(tr("Noted"), verb="note", button_words=tr("Write a note"), asks=True),
    EventKind.ADJUSTED: EventFacts(tr("Adjusted")),
    EventKind.LENT: EventFacts(tr("Lent"), begins=Consequence.LOAN),
    EventKind.RETURNED: EventFacts(tr("Came back"), ends=Consequence.LOAN),
    EventKind.SENT_AWAY: EventFacts(tr("Sent away"), begins=Consequence.AWAY),
    EventKind.CAME_BACK: EventFacts(tr("Back from the laboratory"), ends=Consequence.AWAY),
    EventKind.RESTRICTED: EventFacts(tr("Restricted"), begins=Consequence.RESTRICTION),
    EventKind.UNRESTRICTED: EventFacts(tr("No longer restricted"), ends=Consequence.RESTRICTION),
    EventKind.BROUGHT_IN: EventFacts(tr("Brought in"), begins=Consequence.DUE_DATE),
    EventKind.BROUGHT_FORWARD: EventFacts(tr("Due date brought forward"), begins=Consequence.EARLIER),
    EventKind.MISTAKEN: EventFacts(tr("What was recorded last was a mistake")),
}
