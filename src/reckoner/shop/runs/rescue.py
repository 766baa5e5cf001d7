"""What a run has read, when its database is gone: lines for a file elsewhere."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import datetime

from reckoner.formats.tables import ReadingLine
from reckoner.shop.runs.records import SeriesState
from reckoner.shop.runs.state import RunState
from reckoner.shop.words.results import phase_words


@dataclass(frozen=True)
class NotKept:
    """A reading in N·m, taken ``at`` a time for a series, that the database did not take any more."""

    at: datetime
    series: SeriesState
    torque: float


def lines(run: RunState, not_kept: Iterable[NotKept] = ()) -> Iterator[ReadingLine]:
    """Every reading of ``run`` in the order of its series, then those that were ``not_kept``."""
    for series in run.all_series:
        for one in series.observations:
            if one.torque is not None:
                yield _line(run, series, one.torque, one.at, one.struck, kept=True)
    for reading in not_kept:
        yield _line(run, reading.series, reading.torque, reading.at, "", kept=False)


def _line(run: RunState, series: SeriesState, torque: float, at: datetime, struck: str, *, kept: bool) -> ReadingLine:
    unit = run.tool.unit
    target, reading = (f"{unit.from_si(t):.9g}" for t in (series.target, torque))
    return ReadingLine(
        tool=run.tool.number,
        serial=run.tool.serial,
        reference=run.reference.number if run.reference else "",
        phase=phase_words(series.phase),
        direction=series.direction.value,
        target=target,
        reading=reading,
        unit=unit.symbol,
        taken=at,
        struck=struck,
        kept=kept,
    )
