"""Many tools overdue: a plan, day by day, rather than a wall of them.

Each working day takes as many as the shop tests in a day, the longest overdue first, and stays with one meter as long as
there are tools for it: setting up is what takes the time.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from reckoner.core.rules import RuleSet
from reckoner.shop.certified import COUNTS
from reckoner.store.reader import Reader
from reckoner.store.times import day_of

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
class Late:
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

    def fits(self, tool: Late) -> bool:
        """Whether it judges the whole range of a tool."""
        return tool.full_scale <= self.high * (1 + 1e-9) and tool.smallest >= self.low * (1 - 1e-9)


@dataclass(frozen=True)
class MeterBatch:
    """Tools of one day on one meter; ``meter`` is empty for those that none here judges."""

    meter: str
    tools: tuple[Late, ...]


@dataclass(frozen=True)
class PlannedDay:
    """A working day and its batches."""

    on: date
    batches: tuple[MeterBatch, ...]

    @property
    def tools(self) -> tuple[Late, ...]:
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


def _late(reader: Reader, today: date, most: int) -> tuple[Late, ...]:
    """The tools that are overdue and here, the longest first."""
    found: list[Late] = []
    for part in _PARTS:
        rows = reader.rows(
            f"SELECT l.tool_id, l.number, l.due_on, l.smallest, l.full_scale {_FREE} AND {part} AND NOT l.lent "
            "ORDER BY l.due_on, l.number LIMIT :most",
            today=today, most=most - len(found),
        )  # fmt: skip
        found += [Late(r.tool_id, r.number, day_of(r.due_on), r.smallest, r.full_scale) for r in rows]
    return tuple(found)


def planned(tools: Sequence[Late], meters: Sequence[Meter], today: date, a_day: int) -> tuple[PlannedDay, ...]:
    """Day by day: the longest overdue first, and with them what fits the same meter; ``tools`` in the order of their date.
    Those that no meter judges come last."""
    waiting: dict[str, list[Late]] = {}
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


def _meter_of(tool: Late, meters: Sequence[Meter]) -> str:
    return next((meter.number for meter in meters if meter.fits(tool)), "")


def _working(day: date) -> date:
    """The day itself, or the Monday after it."""
    return day + timedelta(days=max(0, 7 - day.weekday()) if day.weekday() > 4 else 0)
