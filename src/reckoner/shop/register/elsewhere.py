"""Results that were found elsewhere, as a tool's sheet shows them beside its own runs."""

from __future__ import annotations

from typing import Any

from reckoner.core.kinds import Direction
from reckoner.core.printing import percent, quantity
from reckoner.core.states import State
from reckoner.core.translation import tr
from reckoner.core.units import Unit
from reckoner.shop.register.histories import PointHistory, RunHistory
from reckoner.store.errors import ValueUnreadable
from reckoner.store.reader import Reader
from reckoner.store.terms import RunKind, term
from reckoner.store.times import day_of

_OUTSIDE_RESULTS = """
SELECT o.id, o.sequence, o.number, o.laboratory, o.issued, o.due, o.state, o.note, p.initials FROM outside_result o
LEFT JOIN person p ON p.id = o.person_id WHERE o.tool_id = :tool ORDER BY o.sequence
"""

_POINTS = """
SELECT p.outside_result_id, p.as_left, p.direction, p.target, p.deviation, p.expanded_uncertainty, p."limit" AS allowed
FROM outside_point p JOIN outside_result o ON o.id = p.outside_result_id WHERE o.tool_id = :tool ORDER BY p.id
"""


def outside_runs(reader: Reader, tool_id: int, unit: Unit) -> tuple[RunHistory, ...]:
    """They have no run here (``run_id`` 0), and name their laboratory as the reference."""
    points: dict[int, list[PointHistory]] = {}
    for row in reader.rows(_POINTS, tool=tool_id):
        points.setdefault(row.outside_result_id, []).append(_outside_point(row))
    return tuple(_outside_run(row, tuple(points.get(row.id, ())), unit) for row in reader.rows(_OUTSIDE_RESULTS, tool=tool_id))


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
    from reckoner.core.decision import state_of  # loads what the sheet does not need without any

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
