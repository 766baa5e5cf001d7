"""The few words of the top line that act: what they mean is shown before anything is done.

"0417 fell", "0417 no click since Monday": a tool, what happened, and more words as its note.
"hold 0422 handle slack", "release 0422 spring renewed": what is to be done, a tool, and why.
"lend 0417 Tower crew Friday", "0417 back": a loan, to whom and until when, and its end at the Desk.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.days import day_words, long_day, read_coming
from reckoner.core.translation import tr
from reckoner.shop.events.consequences import HOW_MANY, consequence, cycles_in, why_not
from reckoner.shop.events.kinds import EVENTS
from reckoner.shop.register.cards import tool_called
from reckoner.shop.using.fitness import unfit
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
    due_back: date | None = None

    @property
    def words(self) -> str:
        """Such as "HC-0417 fell"."""
        if self.kind is EventKind.LENT:
            until = tr(" until {due_back}", due_back=day_words(self.due_back)) if self.due_back is not None else ""
            return tr("{number} lent to {note}{until}", number=self.number, note=self.note or "…", until=until)
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
    if words[0].casefold() in LEND:
        return _loan(reader, words[1], words[2:], today)
    rest = " ".join(words[1:])
    if rest.casefold() in BACK:
        return _return(reader, words[0])
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
        why = HOW_MANY if kind is EventKind.COUNTED else tr("Type why as well, in a few words.")
    if not why and kind is EventKind.COUNTED and cycles_in(note) is None:
        why = HOW_MANY
    return Phrase(card.tool.id, number, kind, note, consequence(number, now, kind, note), why)


LEND, BACK = (tr("lend"), tr("loan")), (tr("back"), tr("returned"), tr("is back"))
MOST_DAY_WORDS = 3
"""Words at the end of a loan that may say until when."""


def _loan(reader: Reader, named: str, rest: list[str], today: date) -> Phrase | None:
    """A loan: to whom, and until when where the last words say a day."""
    card = tool_called(reader, named)
    if card is None:
        return None
    to, until = " ".join(rest), None
    for count in range(min(MOST_DAY_WORDS, len(rest) - 1), 0, -1):
        try:
            until = read_coming(" ".join(rest[-count:]), today)
        except InputRefused:
            continue
        to = " ".join(rest[:-count]).removesuffix(" until").removesuffix(" till")
        break
    number, why = card.tool.number, unfit(card, today)
    if card.loan is not None:
        why = tr("It is lent to {to}; take it back first.", to=card.loan.to)
    elif not why and not to:
        why = tr("Type to whom as well, and until when.")
    when = tr(" until {until}", until=long_day(until)) if until is not None else ""
    told = tr("{number} will be lent{when}; its settings can be kept at the Desk.", number=number, when=when)
    return Phrase(card.tool.id, number, EventKind.LENT, to, told, why, until)


def _return(reader: Reader, named: str) -> Phrase | None:
    """A tool that is back; the Desk asks its two questions."""
    card = tool_called(reader, named)
    if card is None:
        return None
    why = "" if card.loan is not None else tr("It is not lent.")
    told = tr("The Desk asks whether anything happened to {number}, and takes it back.", number=card.tool.number)
    return Phrase(card.tool.id, card.tool.number, EventKind.RETURNED, "", told, why)
