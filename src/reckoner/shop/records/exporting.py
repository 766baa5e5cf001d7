"""Handing the shop's records on: register, histories, loans and job cards as one exchange file, or as tables.

Tools, loans, jobs and results as tables for a spreadsheet, a row each. Loans and results are read again (``importing``),
tools as any spreadsheet of tools is.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Iterable, Mapping
from datetime import datetime
from functools import partial
from pathlib import Path
from typing import Any

from sqlalchemy.orm import Session

from reckoner.core.decision.states import State
from reckoner.core.quantities.ownunits import torque_both_ways
from reckoner.core.quantities.printing import THIN, number
from reckoner.core.quantities.units import Kind, Unit, unit_named
from reckoner.core.translation import tr
from reckoner.shop.numbering import own_number
from reckoner.shop.references.register import COUNTS
from reckoner.shop.register.cards import ToolCard, cards
from reckoner.shop.register.rows import KINDS
from reckoner.store.reader import Reader, reader_of
from reckoner.store.schema import Gear
from reckoner.store.terms import RegisterKind
from reckoner.store.times import day_at, moment


def exchange(reader: Reader, now: datetime) -> dict[str, Any]:
    """Everything, as the exchange file holds it."""
    from reckoner.formats.exchange import FORMAT, VERSION  # loads pydantic

    shop = reader.value("SELECT name FROM shop ORDER BY id LIMIT 1") or ""
    cards = reader.rows("SELECT document FROM job_card WHERE NOT removed ORDER BY number")
    return {
        "format": FORMAT,
        "version": VERSION,
        "made": now.isoformat(timespec="seconds"),
        "shop": shop,
        "register": register(reader),
        "histories": [history(reader, row.id, row.number, str(shop)) for row in the_tools(reader)],
        "cards": [json.loads(row.document) for row in cards],
    }


def exchange_file(session: Session, now: datetime, path: Path) -> Callable[[], int]:
    """Gathers register, histories, loans and cards, to be written as one file; how many tools comes of it. What is returned
    raises FileNotWritten."""
    from reckoner.formats.exchange import write  # loads pydantic

    content = exchange(reader_of(session), now)

    def made() -> int:
        write(path, content)
        return len(content["histories"])

    return made


def the_tools(reader: Reader) -> list[Any]:
    """Id and number of every tool, by number."""
    return reader.rows("SELECT id, number FROM tool WHERE NOT removed ORDER BY number")


def register(reader: Reader) -> dict[str, Any]:
    """The register as its file holds it."""
    from reckoner.shop.register.registerfile import SECTIONS, written  # loads pydantic

    found = {section: reader.rows(_rows_of(kind)) for section, kind in SECTIONS.items()}
    made = {section: [written(SECTIONS[section], vars(row)) for row in rows] for section, rows in found.items()}
    for row, tool in zip(found["tools"], made["tools"], strict=True):
        tool["model"] = f"{row.maker} {row.model}"
    for row, reference in zip(found["references"], made["references"], strict=True):
        reference["certificates"] = _certificates(reader, row.id)
    return made


def _rows_of(kind: RegisterKind) -> str:
    from reckoner.shop.register.registerfile import columns  # loads pydantic

    table = KINDS[kind].table
    if kind is RegisterKind.TOOL:
        return f"""SELECT {columns(kind, "t")}, m.maker, m.name AS model FROM tool t JOIN tool_model m ON m.id = t.model_id
            WHERE NOT t.removed ORDER BY t.number"""
    which = "NOT removed"
    if kind is RegisterKind.REFERENCE:
        which += " AND kind = 'meter'"
    if issubclass(table, Gear):
        which += f" AND kind = '{table.__mapper__.polymorphic_identity!s}'"
    return f"SELECT id, {columns(kind)} FROM {table.__table__.name} WHERE {which} ORDER BY id"


_CERTIFICATES = f"""
SELECT id, number, laboratory, issued, due, coverage_factor FROM certificate c WHERE reference_id = :id
  AND {COUNTS} ORDER BY issued, id
"""


def _certificates(reader: Reader, reference_id: int) -> list[dict[str, Any]]:
    from reckoner.shop.register.registerfile import in_full  # loads pydantic

    made = []
    for one in reader.rows(_CERTIFICATES, id=reference_id):
        points = reader.rows(
            "SELECT torque, error, expanded_uncertainty FROM certificate_point WHERE certificate_id = :id ORDER BY torque",
            id=one.id,
        )
        told = [
            {
                "torque": in_full(p.torque, Kind.TORQUE),
                "error": in_full(p.error, Kind.RATIO),
                "uncertainty": in_full(p.expanded_uncertainty, Kind.RATIO),
            }
            for p in points
        ]
        kept = vars(one)
        made.append({name: kept[name] for name in ("number", "laboratory", "issued", "due", "coverage_factor")})
        made[-1]["points"] = told
    return made


# Histories

_EVENTS = """
SELECT e.id, e.sequence, e.at, e.kind, e.note, e.due_back, e.low, e.high, e.cycles, p.initials, t.fee, t.freight
FROM tool_event e LEFT JOIN person p ON p.id = e.person_id LEFT JOIN trip t ON t.event_id = e.id
WHERE e.tool_id = :tool ORDER BY e.sequence
"""

_SETTINGS = """
SELECT l.event_id, l.job, l.joint, l.torque_set, l.factor, l.adapter, l.low, l.high FROM loan_setting l
JOIN tool_event e ON e.id = l.event_id WHERE e.tool_id = :tool ORDER BY l.id
"""

_SIGNED = """
SELECT g.id, g.run_id, g.sequence, g.at, g.state, g.due, c.number AS certificate, g.sentence, p.initials FROM signature g
JOIN run r ON r.id = g.run_id JOIN person p ON p.id = g.person_id
LEFT JOIN certificate_number c ON c.signature_id = g.id
WHERE r.tool_id = :tool AND r.kind IN ('full', 'check', 'event') AND g.state <> 'compared'
  AND NOT EXISTS (SELECT 1 FROM run a JOIN signature b ON b.run_id = a.id WHERE a.amends_id = r.id)
ORDER BY g.sequence
"""

_SIGNED_POINTS = """
SELECT p.signature_id, s.phase, p.direction, p.target, p.deviation, p.expanded_uncertainty,
  COALESCE(p."limit", g."limit") AS allowed
FROM point_result p JOIN series s ON s.id = p.series_id JOIN signature g ON g.id = p.signature_id
JOIN run r ON r.id = g.run_id WHERE r.tool_id = :tool AND s.phase IN ('found', 'left') ORDER BY p.id
"""

_OUTSIDE = """
SELECT o.id, o.sequence, o.at, o.number, o.laboratory, o.issued, o.due, o.state, o.coverage_factor, o.note, p.initials
FROM outside_result o LEFT JOIN person p ON p.id = o.person_id WHERE o.tool_id = :tool ORDER BY o.sequence
"""

_OUTSIDE_POINTS = """
SELECT q.outside_result_id, q.as_left, q.direction, q.target, q.deviation, q.expanded_uncertainty, q."limit" AS allowed
FROM outside_point q JOIN outside_result o ON o.id = q.outside_result_id WHERE o.tool_id = :tool ORDER BY q.id
"""


def history(reader: Reader, tool_id: int, tool: str, shop: str) -> dict[str, Any]:
    """What happened to a tool and what was found of it, in its own order; a run here becomes a result of this ``shop``."""
    found: list[tuple[int, dict[str, Any]]] = []
    settings: dict[int, list[dict[str, Any]]] = {}
    for row in reader.rows(_SETTINGS, tool=tool_id):
        said = {"job": row.job, "joint": row.joint, "set": row.torque_set, "factor": row.factor, "adapter": row.adapter}
        settings.setdefault(row.event_id, []).append(_said(said | {"low": row.low, "high": row.high}))
    for row in reader.rows(_EVENTS, tool=tool_id):
        said = {
            "at": _time(row.at), "by": row.initials or "", "kind": row.kind, "note": row.note, "due_back": row.due_back,
            "low": row.low, "high": row.high, "cycles": row.cycles, "settings": settings.get(row.id, []), "fee": row.fee,
            "freight": row.freight,
        }  # fmt: skip
        found.append((row.sequence, _said(said)))
    points: dict[int, list[dict[str, Any]]] = {}
    for row in reader.rows(_SIGNED_POINTS, tool=tool_id):
        points.setdefault(row.signature_id, []).append(_point(row, left=row.phase == "left"))
    for row in reader.rows(_SIGNED, tool=tool_id):
        on = day_at(row.at)
        found.append((row.sequence, _result(row, row.certificate or own_number(row.run_id), shop or tr("this shop"),
                                            on.isoformat(), row.sentence, points.get(row.id, []))))  # fmt: skip
    outside: dict[int, list[dict[str, Any]]] = {}
    for row in reader.rows(_OUTSIDE_POINTS, tool=tool_id):
        outside.setdefault(row.outside_result_id, []).append(_point(row, left=bool(row.as_left)))
    for row in reader.rows(_OUTSIDE, tool=tool_id):
        said = _result(row, row.number, row.laboratory, row.issued, row.note, outside.get(row.id, []))
        found.append((row.sequence, said | _said({"coverage_factor": row.coverage_factor})))
    return {"tool": tool, "entries": [said for _, said in sorted(found, key=lambda one: one[0])]}


def _result(
    row: Any, numbered: str, laboratory: str, issued: str, note: str, points: list[dict[str, Any]]
) -> dict[str, Any]:
    return _said(
        {
            "at": _time(row.at),
            "by": row.initials or "",
            "note": note,
            "number": numbered,
            "laboratory": laboratory,
            "issued": issued,
            "due": row.due,
            "state": row.state,
            "coverage_factor": 2.0,
            "points": points,
        }
    )


def _point(row: Any, *, left: bool) -> dict[str, Any]:
    return {
        "as_left": left, "direction": row.direction, "target": row.target, "deviation": row.deviation,
        "expanded_uncertainty": row.expanded_uncertainty, "limit": row.allowed,
    }  # fmt: skip


def _said(values: Mapping[str, Any]) -> dict[str, Any]:
    """Without what says nothing."""
    return {name: value for name, value in values.items() if value is not None and value not in ("", [])}


def _time(at: str) -> str:
    return moment(at).isoformat()


TOOLS = (
    "number", "kind", "maker", "model", "serial", "drive", "min", "max", "unit", "graduation", "place", "owner",
    "interval months", "last tested", "last result", "due", "full scale both ways",
)  # fmt: skip
LOANS = (
    "tool",
    "to",
    "from",
    "until",
    "back",
    "set",
    "unit",
    "job",
    "joint",
    "adapter",
    "factor",
    "low",
    "high",
    "set both ways",
)
JOBS = (
    "card",
    "title",
    "begun",
    "by",
    "fastener",
    "pass",
    "entered",
    "value N.m",
    "at",
    "counts",
    "ended",
    "value both ways",
)
RESULTS = (
    "tool", "number", "laboratory", "issued", "due", "state", "phase", "direction", "torque", "unit", "deviation %", "W %",
    "limit %", "torque both ways",
)  # fmt: skip

PAGE = 500
"""Tools that are read at once."""

_LOANS = """
SELECT t.number, m.unit, e.id, e.tool_id, e.sequence, e.at, e.note, e.due_back, l.job, l.joint, l.torque_set, l.factor,
  l.adapter, l.low, l.high FROM tool_event e JOIN tool t ON t.id = e.tool_id JOIN tool_model m ON m.id = t.model_id
LEFT JOIN loan_setting l ON l.event_id = e.id WHERE e.kind = 'lent' ORDER BY e.at, e.id, l.id
"""


def _both(torque: float | None, unit: Unit) -> str:
    """A torque in a tool's unit and in that of the other system, for whoever reads the table with another."""
    return "" if torque is None else torque_both_ways(torque, unit).replace(THIN, " ")


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
        _both(tool.kind.maximum, unit),
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
             row.joint or "", row.adapter or "", factor, torques[1], torques[2], _both(row.torque_set, unit))
        )  # fmt: skip
    return made


def job_rows(reader: Reader) -> list[tuple[str, ...]]:
    """Every entry of every job, a row each."""
    from reckoner.shop.using.works import read_work  # only when it is wanted

    made: list[tuple[str, ...]] = []
    for row in reader.rows("SELECT id FROM job_work ORDER BY id"):
        work = read_work(reader, row.id)
        counts = {entry.id for entry in work.stand.counted}
        for one in work.entries:
            entry = one.entry
            value = number(entry.value) if entry.value is not None else ""
            made.append(
                (work.number, work.title, f"{work.begun:%Y-%m-%d}", work.by, work.name(entry.fastener), str(entry.step + 1),
                 entry.kind.value, value, f"{one.at:%Y-%m-%d %H:%M:%S}", "yes" if entry.id in counts else "no", work.closed,
                 _both(entry.value, work.card.unit))
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
                    *parts, _both(p["target"], unit),
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
    from reckoner.formats.tables import write_table  # loads pydantic

    columns, rows_of = TABLES[what]
    return partial(write_table, path, columns, list(rows_of(reader_of(session))))
