"""One tool's sheet: its card, its judged runs, and everything that happened to it.

Results that were found elsewhere, as a tool's sheet shows them beside its own runs.

How often a tool is tested, as its sheet says it: what each school would give, and which one holds.

What was characterised of a tool or of its model, and when, as their sheets say it.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import Any

from reckoner.core.decision.conformity import state_of
from reckoner.core.decision.states import State
from reckoner.core.history.interval import School
from reckoner.core.quantities.days import day_words
from reckoner.core.quantities.printing import percent, quantity, uncertainty_decimals
from reckoner.core.quantities.units import Kind, Unit, unit_named
from reckoner.core.requirements.tooltypes import Direction
from reckoner.core.translation import tr
from reckoner.core.uncertainty.budget import Effect
from reckoner.formats.rulesets import shipped
from reckoner.shop.events.kinds import EVENTS
from reckoner.shop.intervals import SHORT_WORDS, Interval, basis, proposed, whose_school
from reckoner.shop.register.cards import ToolCard, card
from reckoner.shop.register.histories import PointHistory, RunHistory
from reckoner.shop.runs.kinds import POLICIES
from reckoner.shop.words.effects import EFFECT_WORDS, freedom_words
from reckoner.store.errors import ValueUnreadable
from reckoner.store.reader import Reader
from reckoner.store.terms import EventKind, PhaseKind, RunKind, term
from reckoner.store.times import day_of, time_of

MOST_RUNS = 60
"""Judged runs that a sheet draws, the newest: more would not be told apart in its fences."""

STORY_PAGE = 60
"""Lines of "What happened to it" that are read at a time."""

_LAST, _ALL = 2**62, 1_000_000

_OUTSIDE_RESULTS = """
SELECT o.id, o.sequence, o.number, o.laboratory, o.issued, o.due, o.state, o.note, p.initials FROM outside_result o
LEFT JOIN person p ON p.id = o.person_id WHERE o.tool_id = :tool AND o.sequence < :before
ORDER BY o.sequence DESC LIMIT :most
"""

_POINTS = """
SELECT p.outside_result_id, p.as_left, p.direction, p.target, p.deviation, p.expanded_uncertainty, p."limit" AS allowed
FROM outside_point p JOIN outside_result o ON o.id = p.outside_result_id WHERE o.tool_id = :tool ORDER BY p.id
"""


def _outside_runs(reader: Reader, tool_id: int, unit: Unit, before: int, most: int) -> list[RunHistory]:
    """They have no run here (``run_id`` 0), and name their laboratory as the reference."""
    rows = reader.rows(_OUTSIDE_RESULTS, tool=tool_id, before=before, most=most)
    points: dict[int, list[PointHistory]] = {}
    for row in reader.rows(_POINTS, tool=tool_id) if rows else ():
        points.setdefault(row.outside_result_id, []).append(_outside_point(row))
    return [_outside_run(row, tuple(points.get(row.id, ())), unit) for row in rows]


def _outside_run(row: Any, points: tuple[PointHistory, ...], unit: Unit) -> RunHistory:
    state, issued = term(State, row.state), day_of(row.issued)
    if issued is None:
        raise ValueUnreadable("date", row.issued)
    last = [p for p in points if p.as_left] or list(points)
    worst = max(last, key=lambda p: abs(p.deviation) / p.limit, default=None)
    told = (
        tr(
            "{deviation} at {target}; ",
            deviation=percent(worst.deviation, 1, sign=True),
            target=quantity(worst.target, unit),
        )
        if worst is not None
        else ""
    )
    return RunHistory(
        run_id=0,
        sequence=row.sequence,
        on=issued,
        kind=RunKind.FULL,
        state=state,
        accepted=state in (State.INSIDE, State.INSIDE_NEAR),
        sentence=f"{row.laboratory} {row.number}: {told}{state.words}",
        by=row.initials or "",
        due=day_of(row.due),
        due_note=tr("by the certificate {number}", number=row.number),
        reference=row.laboratory,
        points=points,
        note=row.note or "",
    )


def _outside_point(row: Any) -> PointHistory:
    w = row.expanded_uncertainty
    return PointHistory(
        row.target,
        term(Direction, row.direction),
        row.deviation,
        row.deviation,
        w,
        0.0,
        w,
        row.allowed,
        state_of(abs(row.deviation), row.allowed, w),
        bool(row.as_left),
    )


@dataclass(frozen=True)
class HistoryLine:
    """One line of "What happened to it"; ``run_id`` where a run can be opened."""

    sequence: int
    on: date
    what: str
    detail: str
    state: State | None = None
    run_id: int | None = None


@dataclass(frozen=True)
class ToolSheet:
    """One tool: its card, its newest judged runs (oldest first; ``whole``: there are no others), the newest that found a due
    date, and the first page of everything that happened to it, newest first; ``more`` of it stands further back."""

    card: ToolCard
    runs: tuple[RunHistory, ...]
    whole: bool
    dated: RunHistory | None
    happenings: tuple[HistoryLine, ...]
    more: bool


_KEYS = """
SELECT g.id FROM signature g JOIN run u ON u.id = g.run_id
WHERE u.tool_id = :tool AND g.sequence < :before{also} AND u.id NOT IN (
  SELECT a.amends_id FROM run a JOIN signature b ON b.run_id = a.id WHERE a.tool_id = :tool AND a.amends_id IS NOT NULL)
ORDER BY g.sequence DESC LIMIT :most
"""
"""The signatures of a tool, but for those of runs that a signed amendment has replaced."""

_SIGNED = """
SELECT g.id, g.run_id, g.sequence, g.at, g.state, g.accepted, g.sentence, g.due, g.due_note, g.note, u.kind, p.initials,
  (SELECT f.number FROM set_up s JOIN reference f ON f.id = s.reference_id WHERE s.run_id = u.id ORDER BY s.id DESC LIMIT 1)
  AS reference
FROM signature g JOIN run u ON u.id = g.run_id JOIN person p ON p.id = g.person_id
WHERE g.id IN ({keys}) ORDER BY g.sequence DESC
"""

_RESULTS = """
SELECT r.*, COALESCE(r."limit", g."limit") AS allowed, s.phase
FROM point_result r JOIN signature g ON g.id = r.signature_id JOIN series s ON s.id = r.series_id
WHERE r.signature_id IN ({keys}) ORDER BY r.id
"""

_EVENTS = """
SELECT sequence, at, kind, note FROM tool_event WHERE tool_id = :tool AND sequence < :before
ORDER BY sequence DESC LIMIT :most
"""


def sheet(reader: Reader, tool_id: int) -> ToolSheet:
    """One tool's sheet."""
    of = card(reader, tool_id)
    runs = _newest_runs(reader, tool_id, of.tool.unit, _LAST, MOST_RUNS)
    judged = tuple(r for r in reversed(runs) if r.points)
    dated = next((run for run in runs if run.due is not None), None) or _newest_dated(reader, tool_id, of.tool.unit)
    lines = _story(reader, tool_id, runs, _LAST)
    return ToolSheet(of, judged, len(runs) < MOST_RUNS, dated, lines, len(lines) == STORY_PAGE)


def judged_runs(reader: Reader, tool_id: int, unit: Unit) -> tuple[RunHistory, ...]:
    """All judged runs of a tool, oldest first."""
    return tuple(r for r in reversed(_newest_runs(reader, tool_id, unit, _LAST, _ALL)) if r.points)


def story(reader: Reader, tool_id: int, unit: Unit, before: int) -> tuple[HistoryLine, ...]:
    """The next page of what happened to a tool, newest first: what has its place in its history ``before`` that one."""
    return _story(reader, tool_id, _newest_runs(reader, tool_id, unit, before, STORY_PAGE), before)


def _story(reader: Reader, tool_id: int, runs: list[RunHistory], before: int) -> tuple[HistoryLine, ...]:
    lines = [
        HistoryLine(r.sequence, r.on, POLICIES[r.kind].words, r.sentence, r.state if r.points else None, r.run_id)
        if r.run_id
        else HistoryLine(r.sequence, r.on, tr("Laboratory certificate"), r.sentence, r.state)
        for r in runs
    ]
    lines += [
        HistoryLine(e.sequence, day_written(e.at), EVENTS[term(EventKind, e.kind)].words, e.note)
        for e in reader.rows(_EVENTS, tool=tool_id, before=before, most=STORY_PAGE)
    ]
    return tuple(sorted(lines, key=lambda line: line.sequence, reverse=True)[:STORY_PAGE])


def _newest_runs(reader: Reader, tool_id: int, unit: Unit, before: int, most: int) -> list[RunHistory]:
    """The newest ``most`` results, signed here or found elsewhere, the newest first."""
    found = [*_own_runs(reader, tool_id, before, most), *_outside_runs(reader, tool_id, unit, before, most)]
    found.sort(key=lambda run: run.sequence, reverse=True)
    return found[:most]


def _newest_dated(reader: Reader, tool_id: int, unit: Unit) -> RunHistory | None:
    found = [
        *_own_runs(reader, tool_id, _LAST, 1, " AND g.due IS NOT NULL"),
        *_outside_runs(reader, tool_id, unit, _LAST, _ALL),
    ]
    return max((run for run in found if run.due is not None), key=lambda run: run.sequence, default=None)


def _own_runs(reader: Reader, tool_id: int, before: int, most: int, also: str = "") -> list[RunHistory]:
    found = reader.rows(_KEYS.format(also=also), tool=tool_id, before=before, most=most)
    keys = ", ".join(str(int(row.id)) for row in found)
    points: dict[int, list[PointHistory]] = {}
    for row in reader.rows(_RESULTS.format(keys=keys)):
        points.setdefault(row.signature_id, []).append(_point(row))
    return [_run(row, tuple(points.get(row.id, ()))) for row in reader.rows(_SIGNED.format(keys=keys))]


def since(found: ToolSheet) -> tuple[HistoryLine, ...]:
    """What happened since the last judged run, newest first, as far as it stands on the first page; all where there is
    none."""
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


@dataclass(frozen=True)
class HowOften:
    """``holds`` is the school in force and ``whose`` it is; ``each`` is what each school would give after another result
    like the last one; ``cycles`` were counted since the last full run, of those that the rule set ``allows``."""

    holds: School
    whose: str
    each: tuple[Interval, ...]
    cycles: int
    allows: int

    @property
    def words(self) -> str:
        """Such as "Fixed months, as the shop does. 340 cycles counted since its last full run, of 5000."."""
        counted = (
            tr(" {cycles} cycles counted since its last full run, of {allows}.", cycles=self.cycles, allows=self.allows)
            if self.cycles
            else ""
        )
        return f"{SHORT_WORDS[self.holds]}, {self.whose}.{counted}"


def how_often(reader: Reader, sheet: ToolSheet) -> HowOften:
    """The schools held against a tool's last full run, as it was found."""
    tool, rules = sheet.card.tool, shipped(sheet.card.tool.rule_set)
    months = tool.interval_months or rules.months
    school, whose = whose_school(reader, tool.id)
    found = sheet.dated
    used = max((p.worst / p.limit for p in found.points if not p.as_left), default=None) if found else None
    each = tuple(proposed(basis(reader, tool.id, months, school=one), used) for one in School)
    return HowOften(school, whose, each, sheet.card.standing.cycles, rules.cycles)


_NEWEST = """
SELECT c.*, t.number, m.unit
FROM characterisation c JOIN run u ON u.id = c.run_id JOIN tool t ON t.id = u.tool_id JOIN tool_model m ON m.id = t.model_id
WHERE {which} ORDER BY c.tool_id IS NULL, c.id DESC LIMIT 1
"""

NOTHING = tr(
    "Not characterised: budgets take remounting, drive, adapter and hand as nothing, and say so. "
    "A characterisation on the Bench measures them, for one tool or for its model."
)


def of_tool(reader: Reader, tool_id: int, model_id: int) -> str:
    """What counts for a tool: its own newest characterisation, else its model's."""
    which = "c.tool_id = :tool OR c.model_id = :model"
    return _words(reader.row(_NEWEST.format(which=which), tool=tool_id, model=model_id))


def of_model(reader: Reader, model_id: int) -> str:
    """What counts for all tools of a model that have none of their own."""
    return _words(reader.row(_NEWEST.format(which="c.model_id = :model"), model=model_id))


def _words(row: Any | None) -> str:
    """Such as "Characterised on 3 Mar 2026 with HC-0417, for its model: remounting 0.42 N·m at 120 N·m."."""
    if row is None:
        return NOTHING
    unit = unit_named(row.unit, Kind.TORQUE)
    measured = [
        f"{EFFECT_WORDS[effect].lower()} {_amount(getattr(row, effect.value), getattr(row, f'{effect}_freedom'), unit)}"
        for effect in Effect
        if getattr(row, effect.value) is not None
    ]
    whose = tr("with {number}, for its model", number=row.number) if row.model_id is not None else tr("itself")
    day = day_words(day_written(row.at))
    return tr(
        "Characterised on {day} {whose}: {list} at {target}.",
        day=day,
        whose=whose,
        list=", ".join(measured),
        target=quantity(row.target, unit),
    )


def _amount(b: float, freedom: float | None, unit: Unit) -> str:
    known = f" (ν {freedom_words(freedom)})" if freedom is not None else ""
    return f"{quantity(b, unit, uncertainty_decimals(unit.from_si(b)))}{known}"
