"""The few words of the top line that act: what they mean is shown before anything is done.

"0417 fell", "0417 no click since Monday": a tool, what happened, and more words as its note.
"hold 0422 handle slack", "release 0422 spring renewed": what is to be done, a tool, and why.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from reckoner.shop.consequences import HOW_MANY, consequence, cycles_in, why_not
from reckoner.shop.events import EVENTS
from reckoner.shop.register.naming import tool_called
from reckoner.store.reader import Reader
from reckoner.store.terms import EventKind


@dataclass(frozen=True)
class Phrase:
    """What a text means: of which tool, what happened, and the note. ``told`` is what will follow; ``why_not`` says why it
    cannot be done, empty when it can."""

    tool_id: int
    number: str
    kind: EventKind
    note: str
    told: str
    why_not: str = ""

    @property
    def words(self) -> str:
        """Such as "HC-0417 fell"."""
        more = f": {self.note}" if self.note else ""
        return f"{self.number} {EVENTS[self.kind].words.lower()}{more}"


def understood(reader: Reader, text: str, today: date) -> Phrase | None:
    """What ``text`` means; None when it is no such phrase, or means no tool or several."""
    words = text.split()
    if len(words) < 2:
        return None
    verb = next((k for k, f in EVENTS.items() if f.verb and f.verb == words[0].casefold()), None)
    if verb is not None:
        return _phrase(reader, words[1], verb, " ".join(words[2:]))
    rest = " ".join(words[1:])
    for said, kind in _TYPED:
        if rest.casefold() == said or rest.casefold().startswith((f"{said} ", f"{said}:", f"{said},")):
            return _phrase(reader, words[0], kind, rest[len(said) :].strip(" ,:"))
    return None


_TYPED: tuple[tuple[str, EventKind], ...] = tuple(
    sorted(
        ((said, kind) for kind, facts in EVENTS.items() for said in facts.typed),
        key=lambda pair: -len(pair[0]),
    )
)
"""What is typed for each event, the longest first."""


def _phrase(reader: Reader, named: str, kind: EventKind, note: str) -> Phrase | None:
    card = tool_called(reader, named)
    if card is None:
        return None
    number, now = card.tool.number, card.standing
    why = why_not(now, kind)
    if not why and EVENTS[kind].asks and not note:
        why = HOW_MANY if kind is EventKind.COUNTED else "Type why as well, in a few words."
    if not why and kind is EventKind.COUNTED and cycles_in(note) is None:
        why = HOW_MANY
    return Phrase(card.tool.id, number, kind, note, consequence(number, now, kind, note), why)
