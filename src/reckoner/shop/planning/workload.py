"""The work of the next twelve months, week by week, and bringing tools forward where it heaps up.

Many tools overdue: a plan, day by day, rather than a wall of them.

Each working day takes as many as the shop tests in a day, the longest overdue first, and stays with one meter as long as
there are tools for it: setting up is what takes the time.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.quantities.days import day_words
from reckoner.core.requirements.rules import RuleSet
from reckoner.core.translation import tr
from reckoner.shop.events.recording import ReportedEvent, Withdrawn, record_event, withdraw
from reckoner.shop.events.standing import kept
from reckoner.shop.people.authorship import Act, ShopRefused, note
from reckoner.shop.people.rights import command
from reckoner.shop.references.register import COUNTS
from reckoner.shop.register.cards import ToolCard, cards_of
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
    reports: tuple[ReportedEvent, ...]

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


@command
def bring_forward(session: Session, tool_ids: Sequence[int], to: date, act: Act) -> BroughtForward:
    """Let tools be due on an earlier day. Raises ShopRefused for a day that is past, or not earlier. Changes: standings."""
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
        made.append(ReportedEvent(words, "", tool_id, event.id, EventKind.BROUGHT_FORWARD, event.note))
    one = made[0].words if len(made) == 1 else tr("{count} tools due by {to}", count=len(made), to=day_words(to))
    return BroughtForward(one, tuple(made))


def _forward(session: Session, was: ReportedEvent, act: Act) -> ReportedEvent:
    due = session.get_one(ToolEvent, was.event_id).due_back
    event = record_event(session, was.tool_id, was.kind, was.note, act, due_back=due)
    session.flush()
    return ReportedEvent(was.words, was.told, was.tool_id, event.id, was.kind, was.note)


USUAL = 8
"""Tools a day, where it is not known from the last weeks."""

LEAST, MOST = 2, 40
LOOKED_BACK = 90
ENOUGH_DAYS = 10
NEWEST = 1000
"""Signatures that are looked at: of a shop that signs more in ninety days, the last weeks."""
PLANNED = 3000
"""Tools that are planned for at most: what lies further ahead is planned when it comes nearer."""

LOOKED_AHEAD = 240
"""Tools among which those of the first day are looked for."""

LEAST_OF_RANGE = RuleSet.least_of_range
"""The fraction of a meter's range below which it does not judge."""


@dataclass(frozen=True)
class OverdueTool:
    """A tool that is overdue, or was never tested (``due`` None): what it needs of a meter, in N·m."""

    id: int
    number: str
    due: date | None
    smallest: float
    full_scale: float


@dataclass(frozen=True)
class Meter:
    """A meter whose certificate holds: where it judges, in N·m."""

    number: str
    low: float
    high: float

    def fits(self, tool: OverdueTool) -> bool:
        """Whether it judges the whole range of a tool."""
        return tool.full_scale <= self.high * (1 + 1e-9) and tool.smallest >= self.low * (1 - 1e-9)


@dataclass(frozen=True)
class MeterBatch:
    """Tools of one day on one meter; ``meter`` is empty for those that none here judges."""

    meter: str
    tools: tuple[OverdueTool, ...]


@dataclass(frozen=True)
class PlannedDay:
    """A working day and its batches."""

    on: date
    batches: tuple[MeterBatch, ...]

    @property
    def tools(self) -> tuple[OverdueTool, ...]:
        return tuple(tool for batch in self.batches for tool in batch.tools)


@dataclass(frozen=True)
class CatchingUp:
    """The plan: how many are ``late`` in all, of which ``lent`` are not here; ``a_day`` so many are tested."""

    late: int
    lent: int
    a_day: int
    days: tuple[PlannedDay, ...]

    @property
    def ends(self) -> date | None:
        """The last day of it; None where there is nothing to plan, or more than is planned ahead."""
        planned = sum(len(day.tools) for day in self.days)
        return self.days[-1].on if self.days and planned == self.late - self.lent else None


_FREE = "FROM tool_listing l LEFT JOIN open_run r ON r.tool_id = l.tool_id WHERE l.waits = TRUE AND r.run_id IS NULL"
_PARTS = ("l.due_on < :today", "l.due_on IS NULL")
"""Those never tested come after those that are overdue."""


def catching_up(reader: Reader, today: date, a_day: int | None = None) -> CatchingUp:
    """The plan for what is overdue on ``today``, ``a_day`` tools each working day (None: as many as usual)."""
    late, lent = (
        sum(int(reader.value(f"SELECT count(*) {_FREE} AND {part}{also}", today=today)) for part in _PARTS)
        for also in ("", " AND l.lent = TRUE")
    )
    count = a_day or usual_a_day(reader, today)
    return CatchingUp(late, lent, count, planned(_late(reader, today, PLANNED), _meters(reader, today), today, count))


def first_day(reader: Reader, today: date) -> PlannedDay | None:
    """The plan's first day alone, found among the longest overdue: Today shows it, however long the whole is."""
    days = planned(_late(reader, today, LOOKED_AHEAD), _meters(reader, today), today, usual_a_day(reader, today))
    return days[0] if days else None


def _late(reader: Reader, today: date, most: int) -> tuple[OverdueTool, ...]:
    """The tools that are overdue and here, the longest first."""
    found: list[OverdueTool] = []
    for part in _PARTS:
        rows = reader.rows(
            f"SELECT l.tool_id, l.number, l.due_on, l.smallest, l.full_scale {_FREE} AND {part} AND NOT l.lent "
            "ORDER BY l.due_on, l.number LIMIT :most",
            today=today, most=most - len(found),
        )  # fmt: skip
        found += [OverdueTool(r.tool_id, r.number, day_of(r.due_on), r.smallest, r.full_scale) for r in rows]
    return tuple(found)


def planned(tools: Sequence[OverdueTool], meters: Sequence[Meter], today: date, a_day: int) -> tuple[PlannedDay, ...]:
    """Day by day: the longest overdue first, and with them what fits the same meter; ``tools`` in the order of their date.
    Those that no meter judges come last."""
    waiting: dict[str, list[OverdueTool]] = {}
    for tool in tools:
        waiting.setdefault(_meter_of(tool, meters), []).append(tool)
    order = {tool.id: place for place, tool in enumerate(tools)}
    days, on, batches, room = [], _working(today), list[MeterBatch](), a_day
    while any(waiting.values()):
        meter = min((m for m in waiting if waiting[m]), key=lambda m: (not m, order[waiting[m][0].id]))
        taken, waiting[meter] = waiting[meter][:room], waiting[meter][room:]
        batches.append(MeterBatch(meter, tuple(taken)))
        room -= len(taken)
        if not room:
            days.append(PlannedDay(on, tuple(batches)))
            on, batches, room = _working(on + timedelta(days=1)), [], a_day
    return (*days, PlannedDay(on, tuple(batches))) if batches else tuple(days)


def usual_a_day(reader: Reader, today: date) -> int:
    """How many the shop tests on a day on which it tests: the middle of the last weeks."""
    rows = reader.rows(
        "SELECT count(*) AS runs FROM (SELECT run_id, at FROM signature ORDER BY id DESC LIMIT :newest) g "
        "JOIN run u ON u.id = g.run_id WHERE u.kind = 'full' AND g.at >= :since GROUP BY substr(g.at, 1, 10)",
        newest=NEWEST, since=today - timedelta(days=LOOKED_BACK),
    )  # fmt: skip
    found = sorted(row.runs for row in rows)
    return min(MOST, max(LEAST, found[len(found) // 2])) if len(found) >= ENOUGH_DAYS else USUAL


def _meters(reader: Reader, today: date) -> tuple[Meter, ...]:
    """The meters whose certificate holds, the smallest first."""
    rows = reader.rows(
        "SELECT f.number, f.minimum, f.maximum FROM reference f WHERE NOT f.removed AND EXISTS "
        "(SELECT 1 FROM certificate c WHERE c.reference_id = f.id AND c.due >= :today "
        f"AND {COUNTS}) ORDER BY f.maximum, f.number",
        today=today,
    )
    return tuple(Meter(r.number, max(r.minimum, LEAST_OF_RANGE * r.maximum), r.maximum) for r in rows)


def _meter_of(tool: OverdueTool, meters: Sequence[Meter]) -> str:
    return next((meter.number for meter in meters if meter.fits(tool)), "")


def _working(day: date) -> date:
    """The day itself, or the Monday after it."""
    return day + timedelta(days=max(0, 7 - day.weekday()) if day.weekday() > 4 else 0)
