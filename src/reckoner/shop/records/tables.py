"""Tools, loans, jobs and results as tables for a spreadsheet, a row each. Loans and results are read again (``taking_over``),
tools as any spreadsheet of tools is."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import partial
from pathlib import Path

from sqlalchemy.orm import Session

from reckoner.core.printing import number
from reckoner.core.states import State
from reckoner.core.units import Kind, unit_named
from reckoner.shop.records.handing import history, the_tools
from reckoner.shop.register.cards import ToolCard, cards
from reckoner.store.reader import Reader, reader_of
from reckoner.store.times import day_at

TOOLS = (
    "number", "kind", "maker", "model", "serial", "drive", "min", "max", "unit", "graduation", "place", "owner",
    "interval months", "last tested", "last result", "due",
)  # fmt: skip
LOANS = ("tool", "to", "from", "until", "back", "set", "unit", "job", "joint", "adapter", "factor", "low", "high")
JOBS = ("card", "title", "begun", "by", "fastener", "pass", "entered", "value N.m", "at", "counts", "ended")
RESULTS = (
    "tool", "number", "laboratory", "issued", "due", "state", "phase", "direction", "torque", "unit", "deviation %", "W %",
    "limit %",
)  # fmt: skip

PAGE = 500
"""Tools that are read at once."""

_LOANS = """
SELECT t.number, m.unit, e.id, e.tool_id, e.sequence, e.at, e.note, e.due_back, l.job, l.joint, l.torque_set, l.factor,
  l.adapter, l.low, l.high FROM tool_event e JOIN tool t ON t.id = e.tool_id JOIN tool_model m ON m.id = t.model_id
LEFT JOIN loan_setting l ON l.event_id = e.id WHERE e.kind = 'lent' ORDER BY e.at, e.id, l.id
"""


def tool_rows(reader: Reader) -> Iterable[tuple[str, ...]]:
    """Every tool that is not retired, a row each; torques in the tool's unit."""
    start = 0
    while page := cards(reader, start, PAGE):
        yield from (_tool_row(card) for card in page if not card.retired)
        start += PAGE


def _tool_row(card: ToolCard) -> tuple[str, ...]:
    tool, standing, unit = card.tool, card.standing, card.tool.unit
    low = tool.kind.maximum if tool.kind.is_fixed else tool.kind.minimum
    torques = [number(unit.from_si(t)) if t else "" for t in (low, tool.kind.maximum, tool.kind.resolution)]
    due = standing.due.on if standing.due is not None else None
    if due is not None and standing.last_run is not None and due < standing.last_run:
        due = None  # a test that failed since set no other
    known = standing.state not in (None, State.COMPARED, State.UNDECIDED)
    return (
        tool.number, f"{tool.mechanism} {'screwdriver' if tool.kind.is_screwdriver else 'wrench'}", tool.maker, tool.model,
        tool.serial, tool.drive, torques[0], torques[1], unit.name, torques[2], tool.place, tool.owner,
        str(tool.interval_months or ""), f"{standing.last_run or ''}",
        ("pass" if standing.state in (State.INSIDE, State.INSIDE_NEAR) else "fail") if known else "", f"{due or ''}",
    )  # fmt: skip


def loan_rows(reader: Reader) -> list[tuple[str, ...]]:
    """Every loan, a row for each setting that it was for; torques in the tool's unit."""
    returns: dict[int, list[tuple[int, str]]] = {}
    for row in reader.rows("SELECT tool_id, sequence, at FROM tool_event WHERE kind = 'returned' ORDER BY sequence"):
        returns.setdefault(row.tool_id, []).append((row.sequence, f"{day_at(row.at)}"))
    made: list[tuple[str, ...]] = []
    for row in reader.rows(_LOANS):
        unit = unit_named(row.unit, Kind.TORQUE)
        back = next((on for sequence, on in returns.get(row.tool_id, []) if sequence > row.sequence), "")
        torques = [number(unit.from_si(t)) if t is not None else "" for t in (row.torque_set, row.low, row.high)]
        factor = number(row.factor) if row.factor not in (None, 1.0) else ""
        made.append(
            (row.number, row.note, f"{day_at(row.at)}", row.due_back or "", back, torques[0], unit.name, row.job or "",
             row.joint or "", row.adapter or "", factor, torques[1], torques[2])
        )  # fmt: skip
    return made


def job_rows(reader: Reader) -> list[tuple[str, ...]]:
    """Every entry of every job, a row each."""
    from reckoner.shop.using.works import read_work

    made: list[tuple[str, ...]] = []
    for row in reader.rows("SELECT id FROM job_work ORDER BY id"):
        work = read_work(reader, row.id)
        counts = {entry.id for entry in work.stand.counted}
        for one in work.entries:
            entry = one.entry
            value = number(entry.value) if entry.value is not None else ""
            made.append(
                (work.number, work.title, f"{work.begun:%Y-%m-%d}", work.by, work.name(entry.fastener), str(entry.step + 1),
                 entry.kind.value, value, f"{one.at:%Y-%m-%d %H:%M:%S}", "yes" if entry.id in counts else "no", work.closed)
            )  # fmt: skip
    return made


def result_rows(reader: Reader) -> Iterable[tuple[str, ...]]:
    """Every result of every tool, a row for each point; torques in the tool's unit."""
    shop = str(reader.value("SELECT name FROM shop ORDER BY id LIMIT 1") or "")
    units = {
        r.number: unit_named(r.unit, Kind.TORQUE)
        for r in reader.rows("SELECT t.number, m.unit FROM tool t JOIN tool_model m ON m.id = t.model_id")
    }
    for tool in the_tools(reader):
        unit = units[tool.number]
        for entry in history(reader, tool.id, tool.number, shop)["entries"]:
            for p in entry.get("points", ()):
                parts = [number(p[key] * 100) for key in ("deviation", "expanded_uncertainty", "limit")]
                yield (
                    tool.number, entry["number"], entry["laboratory"], entry["issued"], entry.get("due", ""), entry["state"],
                    "as left" if p["as_left"] else "as found", p["direction"], number(unit.from_si(p["target"])), unit.name,
                    *parts,
                )  # fmt: skip


TABLES: dict[str, tuple[tuple[str, ...], Callable[[Reader], Iterable[tuple[str, ...]]]]] = {
    "tools": (TOOLS, tool_rows),
    "loans": (LOANS, loan_rows),
    "jobs": (JOBS, job_rows),
    "results": (RESULTS, result_rows),
}
"""What can be handed on as a table → its columns and rows."""


def table_file(session: Session, what: str, path: Path) -> Callable[[], int]:
    """Gathers one of TABLES, to be written; how many lines comes of it. What is returned raises TableRefused."""
    from reckoner.formats.tables import write_table

    columns, rows_of = TABLES[what]
    return partial(write_table, path, columns, list(rows_of(reader_of(session))))
