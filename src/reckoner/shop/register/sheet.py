"""One tool's sheet: its card, its judged runs, and everything that happened to it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import Any

from reckoner.core.kinds import Direction
from reckoner.core.states import State
from reckoner.core.translation import tr
from reckoner.shop.events import EVENTS
from reckoner.shop.register.cards import ToolCard, card
from reckoner.shop.register.elsewhere import outside_runs
from reckoner.shop.register.histories import PointHistory, RunHistory
from reckoner.shop.runs.kinds import POLICIES
from reckoner.store.errors import ValueUnreadable
from reckoner.store.reader import Reader
from reckoner.store.terms import EventKind, PhaseKind, RunKind, term
from reckoner.store.times import day_of, time_of


@dataclass(frozen=True)
class Happening:
    """One line of "What happened to it"; ``run_id`` where a run can be opened."""

    sequence: int
    on: date
    what: str
    detail: str
    state: State | None = None
    run_id: int | None = None


@dataclass(frozen=True)
class ToolSheet:
    """One tool: its card, its judged runs (oldest first) and everything that happened to it, newest first."""

    card: ToolCard
    runs: tuple[RunHistory, ...]
    happenings: tuple[Happening, ...]


_SIGNED = """
SELECT g.id, g.run_id, g.sequence, g.at, g.state, g.accepted, g.sentence, g.due, g.due_note, g.note, u.kind, p.initials,
  (SELECT f.number FROM set_up s JOIN reference f ON f.id = s.reference_id WHERE s.run_id = u.id ORDER BY s.id DESC LIMIT 1)
  AS reference
FROM signature g JOIN run u ON u.id = g.run_id JOIN person p ON p.id = g.person_id
WHERE u.tool_id = :tool AND u.id NOT IN (
  SELECT a.amends_id FROM run a JOIN signature b ON b.run_id = a.id WHERE a.tool_id = :tool AND a.amends_id IS NOT NULL)
ORDER BY g.sequence
"""
"""The signed runs of a tool, but for those that a signed amendment has replaced."""

_RESULTS = """
SELECT r.*, COALESCE(r."limit", g."limit") AS allowed, s.phase
FROM run u JOIN signature g ON g.run_id = u.id JOIN point_result r ON r.signature_id = g.id
JOIN series s ON s.id = r.series_id WHERE u.tool_id = :tool ORDER BY r.id
"""


def sheet(reader: Reader, tool_id: int) -> ToolSheet:
    """One tool's sheet."""
    points: dict[int, list[PointHistory]] = {}
    for row in reader.rows(_RESULTS, tool=tool_id):
        points.setdefault(row.signature_id, []).append(_point(row))
    signed = reader.rows(_SIGNED, tool=tool_id)
    of = card(reader, tool_id)
    own = [_run(row, tuple(points.get(row.id, ()))) for row in signed]
    elsewhere = outside_runs(reader, tool_id, of.tool.unit)
    runs = tuple(sorted([*own, *elsewhere], key=lambda run: run.sequence))
    events = reader.rows("SELECT sequence, at, kind, note FROM tool_event WHERE tool_id = :tool", tool=tool_id)
    happenings = [
        Happening(r.sequence, r.on, POLICIES[r.kind].words, r.sentence, r.state if r.points else None, r.run_id)
        if r.run_id
        else Happening(r.sequence, r.on, tr("Laboratory certificate"), r.sentence, r.state)
        for r in runs
    ]
    happenings += [
        Happening(e.sequence, day_written(e.at), EVENTS[term(EventKind, e.kind)].words, e.note) for e in events
    ]
    happenings.sort(key=lambda h: h.sequence, reverse=True)
    judged = tuple(r for r in runs if r.points)
    return ToolSheet(of, judged, tuple(happenings))


def since(found: ToolSheet) -> tuple[Happening, ...]:
    """What happened since the last judged run, newest first; all of it where there is none."""
    last = found.runs[-1].sequence if found.runs else 0
    return tuple(h for h in found.happenings if h.sequence > last)


def day_written(at: str) -> date:
    """The day on which something was written, where it was written."""
    time = time_of(at)
    if time is None:
        raise ValueUnreadable("time", at)
    return time.date()


def _run(row: Any, points: tuple[PointHistory, ...]) -> RunHistory:
    return RunHistory(
        run_id=row.run_id,
        sequence=row.sequence,
        on=day_written(row.at),
        kind=term(RunKind, row.kind),
        state=term(State, row.state),
        accepted=None if row.accepted is None else bool(row.accepted),
        sentence=row.sentence,
        by=row.initials,
        due=day_of(row.due),
        due_note=row.due_note,
        reference=row.reference or "",
        points=points,
        note=row.note or "",
    )


def _point(row: Any) -> PointHistory:
    return PointHistory(
        row.target,
        term(Direction, row.direction),
        row.deviation,
        row.worst,
        row.expanded_uncertainty,
        row.reference_error,
        row.near_zone,
        row.allowed,
        term(State, row.state),
        term(PhaseKind, row.phase) is PhaseKind.LEFT,
    )
