"""What is to be done today, and why: the Today place. Reads standings, and the newest link.

How far a shop of one's own has been set up: what its first opening still asks for.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import date
from enum import Enum, auto

from reckoner.core.decision.states import State
from reckoner.core.quantities.days import day_words, days_from_now, short_day
from reckoner.core.translation import tr, tr_count
from reckoner.shop.register.cards import ToolCard, cards_at, cards_of, count
from reckoner.shop.register.finding import days_of
from reckoner.store.chainlink import newest_link
from reckoner.store.reader import Reader

PAGE = 24
"""Tools that are read at once of a list."""

MANY = 24
"""Overdue tools from which a plan is made of them."""


@dataclass(frozen=True)
class AgendaItem:
    """A tool to see to, with the reason in words."""

    card: ToolCard
    why: str
    waiting: DayList | None = None


class DayList(Enum):
    """The lists of the day, in the order in which they should be taken."""

    UNFINISHED = auto()
    OVERDUE = auto()
    DUE_SOON = auto()
    HELD = auto()
    LATE_LOANS = auto()
    LATE_TRIPS = auto()
    REVIEWS = auto()


@dataclass(frozen=True)
class _Part:
    """Which tools are in a part of a list, as the database asks for it of a row ``l`` of tool_listing, and their order; a
    list is its parts one after the other."""

    where: str
    order: str = "l.number"
    source: str = "tool_listing l LEFT JOIN open_run r ON r.tool_id = l.tool_id"


_FREE = "l.waits = TRUE AND r.run_id IS NULL"

_LISTS: dict[DayList, tuple[_Part, ...]] = {
    DayList.UNFINISHED: (_Part("l.tool_id = r.tool_id", source="open_run r CROSS JOIN tool_listing l"),),
    DayList.OVERDUE: (
        _Part(f"{_FREE} AND l.due_on < :today", "l.due_on, l.number"),
        _Part(f"{_FREE} AND l.due_on IS NULL"),
    ),
    DayList.DUE_SOON: (_Part(f"{_FREE} AND l.due_on BETWEEN :today AND :soon", "l.due_on, l.number"),),
    DayList.HELD: (_Part("l.held_back = TRUE", source="tool_listing l"),),
    DayList.LATE_LOANS: (_Part("l.back_by < :today", "l.back_by, l.number", "tool_listing l"),),
    DayList.LATE_TRIPS: (
        _Part(
            "s.away_until < :today", "l.number", "tool_standing s CROSS JOIN tool_listing l ON l.tool_id = s.tool_id"
        ),
    ),
    DayList.REVIEWS: (
        _Part(
            "l.tool_id IN (SELECT v.tool_id FROM review v "
            "WHERE NOT EXISTS (SELECT 1 FROM review_close c WHERE c.review_id = v.id))",
            source="tool_listing l",
        ),
    ),
}
"""Those never tested come after those that are overdue. CROSS JOIN: engines begin with the few open runs, and do not walk
through the whole register in the order of its numbers."""


@dataclass(frozen=True)
class Agenda:
    """Today's work: how long each list is, its beginning, what to do next, and the newest ``link`` of the records' chain.
    ``planned``: so many are overdue that the list shows those that are planned for today only."""

    counts: dict[DayList, int] = field(default_factory=dict)
    begins: dict[DayList, tuple[AgendaItem, ...]] = field(default_factory=dict)
    first: AgendaItem | None = None
    tools: int = 0
    link: str = ""
    planned: bool = False

    def shown(self, waiting: DayList) -> int:
        """How many tags of a list stand there: of very many that are overdue, those that are planned for today."""
        if waiting is DayList.OVERDUE and self.planned:
            return len(self.of(waiting))
        return self.counts.get(waiting, 0)

    def of(self, waiting: DayList) -> tuple[AgendaItem, ...]:
        """The beginning of a list, PAGE tools at most."""
        return self.begins.get(waiting, ())


def agenda(reader: Reader, today: date) -> Agenda:
    """Everything that waits on ``today``; a lent tool is listed under late loans when it is past its date."""
    begins = {waiting: items(reader, waiting, today, 0) for waiting in DayList}
    counts = {w: len(found) if len(found) < PAGE else _count(reader, w, today) for w, found in begins.items()}
    link = newest_link(reader)
    words, first, planned = link.words if link is not None else "", first_of(reader, today), False
    if counts[DayList.OVERDUE] > MANY:
        planned = True
        begins[DayList.OVERDUE] = _planned_today(reader, today)
        if first is not None and first.card.run_id is None and begins[DayList.OVERDUE]:
            first = begins[DayList.OVERDUE][0]
    return Agenda(counts, begins, first, count(reader), words, planned)


def _planned_today(reader: Reader, today: date) -> tuple[AgendaItem, ...]:
    """The tools of the plan's first day."""
    from reckoner.shop.planning.workload import first_day  # most days want no plan

    day = first_day(reader, today)
    ids = [tool.id for tool in day.tools[:PAGE]] if day is not None else []
    cards = {card.tool.id: card for card in cards_at(reader, ids)}
    return tuple(
        AgendaItem(cards[i], _why(cards[i], DayList.OVERDUE, today), DayList.OVERDUE) for i in ids if i in cards
    )


def items(reader: Reader, waiting: DayList, today: date, start: int, size: int = PAGE) -> tuple[AgendaItem, ...]:
    """A page of a list."""
    found: tuple[AgendaItem, ...] = ()
    for i, part in enumerate(_LISTS[waiting]):
        found += _items(reader, waiting, part, today, start, size - len(found))
        if len(found) == size or i == len(_LISTS[waiting]) - 1:
            break
        start = 0 if found else start - _count_of(reader, part, today)
    return found


def first_of(reader: Reader, today: date) -> AgendaItem | None:
    """What to do next: what was begun, then what is overdue, then what is due; tools that are lent out last."""
    lists = (DayList.UNFINISHED, DayList.OVERDUE, DayList.DUE_SOON)
    for also in (" AND NOT l.lent", ""):
        for waiting in lists:
            for part in _LISTS[waiting]:
                found = _items(reader, waiting, part, today, 0, 1, also)
                if found:
                    return found[0]
    return None


def _count(reader: Reader, waiting: DayList, today: date) -> int:
    return sum(_count_of(reader, part, today) for part in _LISTS[waiting])


def _count_of(reader: Reader, part: _Part, today: date) -> int:
    return int(reader.value(f"SELECT count(*) FROM {part.source} WHERE {part.where}", **days_of(today)))


def _items(
    reader: Reader, waiting: DayList, part: _Part, today: date, start: int, size: int, also: str = ""
) -> tuple[AgendaItem, ...]:
    page = f"""SELECT l.tool_id, l.number, l.due_on, l.back_by FROM {part.source} WHERE {part.where}{also}
        ORDER BY {part.order} LIMIT :size OFFSET :start"""
    order = part.order.replace("l.", "p.")
    found = cards_of(reader, page, order, size=size, start=start, **days_of(today))
    return tuple(AgendaItem(card, _why(card, waiting, today), waiting) for card in found)


def _why(card: ToolCard, waiting: DayList, today: date) -> str:
    match waiting:
        case DayList.UNFINISHED:
            return tr("begun, not signed")
        case DayList.HELD:
            return card.held
        case DayList.LATE_LOANS if card.loan is not None and card.loan.due_back is not None:
            return tr("lent to {to}, back on {due_back}", to=card.loan.to, due_back=short_day(card.loan.due_back))
        case DayList.LATE_TRIPS if card.standing.away is not None and card.standing.away.due_back is not None:
            return tr(
                "at {to}, expected on {due_back}",
                to=card.standing.away.to,
                due_back=short_day(card.standing.away.due_back),
            )
        case DayList.REVIEWS:
            return tr("what it may have spoiled is not settled")
        case _:
            return _due(card, today)


def _due(card: ToolCard, today: date) -> str:
    if card.standing.due is None:
        return tr("compared in the shop, never decided") if card.state is State.COMPARED else tr("never tested")
    left = card.days_left(today)
    day = day_words(card.standing.due.on)
    return tr("due {day}, {which}", day=day, which=days_from_now(left))


class OpeningStage(Enum):
    """What is asked next."""

    WHO = auto()
    WITH_WHAT = auto()
    FIRST_TOOL = auto()
    READY = auto()


@dataclass(frozen=True)
class Beginning:
    """The stage, and what was given so far, in words."""

    stage: OpeningStage
    person: str = ""
    reference: str = ""


def beginning(reader: Reader) -> Beginning:
    """Where a shop stands, from what is in its register: an opening that was interrupted goes on there."""
    if reader.value("SELECT 1 FROM tool WHERE NOT removed LIMIT 1") is not None:
        return Beginning(OpeningStage.READY)
    person = reader.value("SELECT initials FROM person WHERE NOT removed AND left_on IS NULL ORDER BY id LIMIT 1")
    if person is None:
        return Beginning(OpeningStage.WHO)
    reference = reader.value("SELECT number FROM reference WHERE NOT removed ORDER BY id LIMIT 1")
    weights = reader.value("SELECT count(*) FROM gear WHERE kind = 'weight' AND NOT removed")
    if not reference and weights:
        reference = tr_count("1 weight", "{n} weights", weights)
    reference = reference or reader.value("SELECT number FROM gear WHERE kind = 'force gauge' AND NOT removed LIMIT 1")
    return Beginning(
        OpeningStage.FIRST_TOOL if reference else OpeningStage.WITH_WHAT, str(person), str(reference or "")
    )
