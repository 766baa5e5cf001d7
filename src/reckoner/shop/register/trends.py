"""How a tool's points drift since it was adjusted last, and when they reach the limit."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, timedelta

from reckoner.core.decision.states import State
from reckoner.core.errors import InputRefused
from reckoner.core.history.drift import DatedDeviation, Drift, drift, pooled_drift
from reckoner.core.quantities import printing
from reckoner.core.quantities.days import day_words
from reckoner.core.quantities.printing import percent
from reckoner.core.requirements.tooltypes import Direction
from reckoner.core.translation import tr, tr_count
from reckoner.shop.register.histories import RunHistory
from reckoner.shop.register.sheet import ToolSheet, day_written, judged_runs
from reckoner.store.reader import Reader
from reckoner.store.terms import PhaseKind, term

Point = tuple[Direction, float]
"""A point of a tool: direction and target in N·m."""

ENOUGH = 3
"""Results from which a tool's own drift is told."""

SHOWN_YEARS = 3.0
"""How far beyond today a drift is drawn."""

STEPS = 24


@dataclass(frozen=True)
class Trend:
    """A point's drift, the ``limit`` it runs towards, and the days on which its line and its band reach it."""

    drift: Drift
    limit: float
    line_reaches: date | None
    band_reaches: date | None

    @property
    def words(self) -> str:
        """Such as "Drifts by +0.59 % a year (4 results); …"."""
        whose = tr_count("{n} result", "{n} results", self.drift.count)
        if self.drift.other_tools:
            whose = tr(
                "as {other_tools} others of its model do; it has {own} itself",
                other_tools=self.drift.other_tools,
                own=whose,
            )
        said = tr(
            "Drifts by {per_year} a year ({whose})", per_year=percent(self.drift.per_year, 2, sign=True), whose=whose
        )
        limit = printing.limit(self.limit)
        if self.line_reaches is None:
            return tr("{said}; the line does not reach {limit} within fifty years.", said=said, limit=limit)
        line = tr("the line reaches {limit} on {line_reaches}", limit=limit, line_reaches=day_words(self.line_reaches))
        band = ""
        if self.band_reaches is not None and self.band_reaches <= self.drift.last:
            band = tr(", but its 95 % band is beyond that already: too few results to tell")
        elif self.band_reaches is not None:
            band = tr(", its 95 % band on {band_reaches}", band_reaches=day_words(self.band_reaches))
        return f"{said}; {line}{band}."

    def drawn(self, today: date) -> tuple[tuple[date, float, float], ...]:
        """The line and half its band at some days, from the first result to a while after today."""
        end = today + timedelta(days=round(SHOWN_YEARS * 365.25))
        if self.band_reaches is not None:
            end = min(end, max(self.band_reaches, today) + timedelta(days=60))
        span = (end - self.drift.first).days
        days = [self.drift.first + timedelta(days=round(span * i / STEPS)) for i in range(STEPS + 1)]
        return tuple((day, self.drift.predicted(day), self.drift.half_band(day)) for day in days)


_OTHERS = """
SELECT u.tool_id, g.at, r.deviation, s.phase FROM point_result r
JOIN series s ON s.id = r.series_id JOIN signature g ON g.id = r.signature_id JOIN run u ON u.id = g.run_id
JOIN tool t ON t.id = u.tool_id
WHERE t.model_id = :model AND u.tool_id <> :tool AND r.target = :target AND r.direction = :direction
  AND r.state NOT IN ('undecided', 'compared')
ORDER BY u.tool_id, g.sequence, r.id
"""


def trends(reader: Reader, sheet: ToolSheet) -> dict[Point, Trend]:
    """The drift of each point of a tool, with at least three results of its own since it was adjusted, else as the others of
    its model drift; points without any are left out."""
    points = {(p.direction, p.target): p.limit for run in sheet.runs[-1:] for p in run.points}
    tool = sheet.card.tool
    runs = sheet.runs if sheet.whole else judged_runs(reader, tool.id, tool.unit)
    found = {}
    for point, limit in points.items():
        own = own_results(runs, point)
        try:
            if len(own) >= ENOUGH:
                fitted = drift(own)
            else:
                fitted = pooled_drift(own, _others(reader, tool.model_id, tool.id, point))
        except InputRefused:
            continue
        found[point] = Trend(fitted, limit, fitted.line_reaches(limit), fitted.band_reaches(limit))
    return found


def own_results(runs: Iterable[RunHistory], point: Point) -> tuple[DatedDeviation, ...]:
    """The results of a point since it was adjusted last; what decided nothing is left out."""
    kept: list[DatedDeviation] = []
    for run in runs:
        for p in run.points:
            if (p.direction, p.target) != point or p.state in (State.UNDECIDED, State.COMPARED):
                continue
            if p.as_left:
                kept = []
            _add(kept, run.on, p.deviation)
    return tuple(kept)


def _others(reader: Reader, model: int, tool: int, point: Point) -> list[tuple[DatedDeviation, ...]]:
    """The histories of the other tools of a model at a point, each broken where the tool was adjusted."""
    histories: list[list[DatedDeviation]] = []
    now = None
    rows = reader.rows(_OTHERS, model=model, tool=tool, target=point[1], direction=point[0].value)
    for row in rows:
        left = term(PhaseKind, row.phase) is PhaseKind.LEFT
        if row.tool_id != now or left:
            histories.append([])
            now = row.tool_id
        _add(histories[-1], day_written(row.at), row.deviation)
    return [tuple(h) for h in histories]


def _add(kept: list[DatedDeviation], on: date, deviation: float) -> None:
    """One more result; of several on a day the last counts."""
    if kept and kept[-1].on >= on:
        kept.pop()
    kept.append(DatedDeviation(on, deviation))
