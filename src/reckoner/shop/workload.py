"""The work of the next twelve months, week by week, and bringing tools forward where it heaps up."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.days import day_words
from reckoner.core.translation import tr
from reckoner.shop.acts import Act, ShopRefused, note
from reckoner.shop.happening import record_event
from reckoner.shop.register.cards import ToolCard, cards_of
from reckoner.shop.reporting import Reported, Withdrawn, withdraw
from reckoner.shop.rights import Right, require
from reckoner.shop.standing import kept
from reckoner.store.reader import Reader
from reckoner.store.schema import Tool, ToolEvent, ToolStanding
from reckoner.store.terms import EventKind
from reckoner.store.times import day_of

WEEKS = 53

EARLIER = 8
"""Weeks that a tool is brought forward at most: an interval is not cut short without need."""


@dataclass(frozen=True)
class Week:
    """A week by its Monday, and how many tools are due in it."""

    begins: date
    count: int

    @property
    def ends(self) -> date:
        return self.begins + timedelta(days=6)


@dataclass(frozen=True)
class Workload:
    """What is late already or was never tested, and the weeks from this one on."""

    late: int
    weeks: tuple[Week, ...]

    @property
    def even(self) -> int:
        """How many a week it would be, spread evenly; at least one."""
        return max(1, -(-sum(w.count for w in self.weeks) // len(self.weeks)))


@dataclass(frozen=True)
class Levelling:
    """What would level a week: so many of its tools brought forward into an earlier one."""

    count: int
    into: Week


def workload(reader: Reader, today: date) -> Workload:
    """The work that the due dates ask for; tools that are held, away or retired do not wait."""
    first = today - timedelta(days=today.weekday())
    last = first + timedelta(weeks=WEEKS) - timedelta(days=1)
    late = reader.value(
        "SELECT count(*) FROM tool_listing l WHERE l.waits AND (l.due_on IS NULL OR l.due_on < :today)", today=today
    )
    rows = reader.rows(
        "SELECT l.due_on, count(*) AS tools FROM tool_listing l "
        "WHERE l.waits AND l.due_on BETWEEN :first AND :last GROUP BY l.due_on",
        first=today, last=last,
    )  # fmt: skip
    counts = [0] * WEEKS
    for row in rows:
        day = day_of(row.due_on)
        if day is not None:
            counts[(day - first).days // 7] += row.tools
    weeks = tuple(Week(first + timedelta(weeks=i), count) for i, count in enumerate(counts))
    return Workload(int(late), weeks)


def due_in(reader: Reader, week: Week, today: date, most: int = 60) -> tuple[ToolCard, ...]:
    """The tools that are due in a week, by their date."""
    page = """SELECT l.tool_id, l.number, l.due_on FROM tool_listing l WHERE l.waits AND l.due_on BETWEEN :first AND :last
        ORDER BY l.due_on, l.number LIMIT :most"""
    first = max(week.begins, today)
    return cards_of(reader, page, "p.due_on, p.number", first=first, last=week.ends, most=most)


def levelling(work: Workload, week: Week) -> Levelling | None:
    """How a week that holds more than an even share can be levelled: into the quietest of the weeks before it. None where
    it cannot, or need not."""
    place = next((i for i, w in enumerate(work.weeks) if w.begins == week.begins), 0)
    before = work.weeks[max(0, place - EARLIER) : place]
    over = work.weeks[place].count - work.even
    if not before or over <= 0:
        return None
    quietest = min(before, key=lambda w: (w.count, -w.begins.toordinal()))
    count = min(over, work.even - quietest.count)
    return Levelling(count, quietest) if count > 0 else None


@dataclass(frozen=True)
class BroughtForward:
    """Tools whose dates were brought forward; taken back together."""

    words: str
    reports: tuple[Reported, ...]

    def take_back(self, session: Session, act: Act) -> TakenBack:
        """Give them their dates again. Raises ShopRefused when something happened to one of them since."""
        return TakenBack(self.words, tuple(withdraw(session, r, act) for r in reversed(self.reports)))


@dataclass(frozen=True)
class TakenBack:
    """The dates as they were; taken back, they are brought forward again."""

    words: str
    was: tuple[Withdrawn, ...]

    def take_back(self, session: Session, act: Act) -> BroughtForward:
        """Bring them forward again."""
        return BroughtForward(self.words, tuple(_forward(session, w.was, act) for w in self.was))


def bring_forward(session: Session, tool_ids: Sequence[int], to: date, act: Act) -> BroughtForward:
    """Let tools be due on an earlier day. Raises ShopRefused for a day that is past, or not earlier."""
    require(session, act, Right.EDIT)
    if to < act.at.date():
        raise ShopRefused(tr("That day is past; choose one to come."))
    made = []
    for tool_id in tool_ids:
        tool = session.get_one(Tool, tool_id)
        row = session.scalar(select(ToolStanding).where(ToolStanding.tool_id == tool_id))
        due = kept(row).due if row is not None else None
        if due is None or due.on <= to:
            raise ShopRefused(
                tr(
                    "{number} is not due after {to}; it cannot be brought forward to it.",
                    number=tool.number,
                    to=day_words(to),
                )
            )
        words = tr("{number} due {to}, not {on}", number=tool.number, to=day_words(to), on=day_words(due.on))
        event = record_event(
            session, tool_id, EventKind.BROUGHT_FORWARD, tr("from {on}", on=day_words(due.on)), act, due_back=to
        )
        session.flush()
        note(session, act, tr("brought the due date forward"), tool.number, to=str(to))
        made.append(Reported(words, "", tool_id, event.id, EventKind.BROUGHT_FORWARD, event.note))
    one = made[0].words if len(made) == 1 else tr("{count} tools due by {to}", count=len(made), to=day_words(to))
    return BroughtForward(one, tuple(made))


def _forward(session: Session, was: Reported, act: Act) -> Reported:
    due = session.get_one(ToolEvent, was.event_id).due_back
    event = record_event(session, was.tool_id, was.kind, was.note, act, due_back=due)
    session.flush()
    return Reported(was.words, was.told, was.tool_id, event.id, was.kind, was.note)
