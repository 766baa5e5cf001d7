"""What is to be done today, and why: the Today place. Reads standings, and the newest link."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import date
from enum import Enum, auto

from reckoner.shop.register.cards import ToolCard, cards_of, count
from reckoner.shop.register.finding import days_of
from reckoner.shop.standing import CONDITIONS, Condition
from reckoner.store.chainlink import newest_link
from reckoner.store.reader import Reader

PAGE = 60
"""Tools that are read at once of a list."""


@dataclass(frozen=True)
class Item:
    """A tool to see to, with the reason in words."""

    card: ToolCard
    why: str


class Waiting(Enum):
    """The lists of the day, in the order in which they should be taken."""

    UNFINISHED = auto()
    OVERDUE = auto()
    DUE_SOON = auto()
    HELD = auto()
    LATE_LOANS = auto()


BARRED = (Condition.HELD, Condition.EVIDENCE, Condition.RETIRED, Condition.AWAY)
"""What keeps a tool from being waited for at the bench."""

_FREE = f"r.run_id IS NULL AND NOT ({' OR '.join(CONDITIONS[c] for c in BARRED)})"

_BY_DATE = "COALESCE(s.due_on, :today), l.number"

_LISTS: dict[Waiting, tuple[str, str]] = {
    Waiting.UNFINISHED: ("r.run_id IS NOT NULL", "l.number"),
    Waiting.OVERDUE: (f"({CONDITIONS[Condition.OVERDUE]} OR {CONDITIONS[Condition.NEW]}) AND {_FREE}", _BY_DATE),
    Waiting.DUE_SOON: (f"{CONDITIONS[Condition.DUE]} AND {_FREE}", _BY_DATE),
    Waiting.HELD: (
        f"({CONDITIONS[Condition.HELD]} OR {CONDITIONS[Condition.EVIDENCE]}) AND NOT {CONDITIONS[Condition.RETIRED]}",
        "l.number",
    ),
    Waiting.LATE_LOANS: (f"{CONDITIONS[Condition.LENT]} AND s.back_by < :today", "l.number"),
}
"""Which tools are in a list, and their order."""

_FROM = """
FROM tool_standing s JOIN tool_listing l ON l.tool_id = s.tool_id LEFT JOIN open_run r ON r.tool_id = s.tool_id
"""


@dataclass(frozen=True)
class Agenda:
    """Today's work: how long each list is, its beginning, what to do next, and the newest ``link`` of the records' chain."""

    counts: dict[Waiting, int] = field(default_factory=dict)
    begins: dict[Waiting, tuple[Item, ...]] = field(default_factory=dict)
    first: Item | None = None
    tools: int = 0
    link: str = ""

    def of(self, waiting: Waiting) -> tuple[Item, ...]:
        """The beginning of a list, PAGE tools at most."""
        return self.begins.get(waiting, ())


def agenda(reader: Reader, today: date) -> Agenda:
    """Everything that waits on ``today``; a lent tool is listed under late loans when it is past its date."""
    begins = {waiting: items(reader, waiting, today, 0) for waiting in Waiting}
    counts = {w: len(found) if len(found) < PAGE else _count(reader, w, today) for w, found in begins.items()}
    link = newest_link(reader)
    return Agenda(counts, begins, first_of(reader, today), count(reader), link.words if link is not None else "")


def items(reader: Reader, waiting: Waiting, today: date, start: int, size: int = PAGE) -> tuple[Item, ...]:
    """A page of a list."""
    return _items(reader, waiting, today, start, size)


def first_of(reader: Reader, today: date) -> Item | None:
    """What to do next: what was begun, then what is overdue, then what is due; tools that are lent out last."""
    lists = (Waiting.UNFINISHED, Waiting.OVERDUE, Waiting.DUE_SOON)
    for also in (" AND s.lent_on IS NULL", ""):
        for waiting in lists:
            found = _items(reader, waiting, today, 0, 1, also)
            if found:
                return found[0]
    return None


def _count(reader: Reader, waiting: Waiting, today: date) -> int:
    return int(reader.value(f"SELECT count(*) {_FROM} WHERE {_LISTS[waiting][0]}", **days_of(today)))


def _items(reader: Reader, waiting: Waiting, today: date, start: int, size: int, also: str = "") -> tuple[Item, ...]:
    where, order = _LISTS[waiting]
    page = f"""SELECT l.tool_id, l.number, COALESCE(s.due_on, :today) AS due {_FROM} WHERE {where}{also}
        ORDER BY {order} LIMIT :size OFFSET :start"""
    order = "p.due, p.number" if order is _BY_DATE else "p.number"
    found = cards_of(reader, page, order, size=size, start=start, **days_of(today))
    return tuple(Item(card, _why(card, waiting, today)) for card in found)


def _why(card: ToolCard, waiting: Waiting, today: date) -> str:
    match waiting:
        case Waiting.UNFINISHED:
            return "begun, not signed"
        case Waiting.HELD:
            return card.held
        case Waiting.LATE_LOANS if card.loan is not None and card.loan.due_back is not None:
            return f"lent to {card.loan.to}, back on {card.loan.due_back:%-d %b}"
        case _:
            return _due(card, today)


def _due(card: ToolCard, today: date) -> str:
    if card.standing.due is None:
        return "never tested"
    left = card.days_left(today)
    day = f"{card.standing.due.on:%-d %b %Y}"
    if left < 0:
        return f"due {day}, {-left} days ago"
    return f"due {day}, {'today' if left == 0 else f'in {left} days'}"
