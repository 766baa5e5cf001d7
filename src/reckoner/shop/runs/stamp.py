"""What a run's records amount to, in one statement: whether a run that is at hand is still what the database holds."""

from __future__ import annotations

from typing import Any, NamedTuple

from sqlalchemy import ScalarSelect, func, select
from sqlalchemy.orm import Session

from reckoner.store.schema import (
    Adjustment,
    ExercisePull,
    FactsDocument,
    InspectionLine,
    Observation,
    OpenRun,
    RoomReading,
    Series,
    SetUp,
    Strike,
    Trace,
    ZeroCheck,
)
from reckoner.store.schema.runs import KeptReading


class Stamp(NamedTuple):
    """How many observations, strikes, kept readings and traces an open run has, and the newest of its other records:
    records only come, so that the same stamp means the same run."""

    observations: int
    strikes: int
    kept: int
    traces: int
    newest: tuple[int, ...]


_NEWEST = (Series, FactsDocument, InspectionLine, RoomReading, SetUp, ExercisePull, ZeroCheck, Adjustment)


def stamp_of(session: Session, run_id: int) -> Stamp | None:
    """The stamp of a run; None when it is over."""
    taken = [
        _count(Observation, run_id),
        *(
            _count(kind, run_id, Observation, kind.observation_id == Observation.id)
            for kind in (Strike, KeptReading, Trace)
        ),
    ]
    newest = [
        select(func.coalesce(func.max(kind.id), 0)).where(kind.run_id == run_id).scalar_subquery() for kind in _NEWEST
    ]
    row = session.execute(select(*taken, *newest).select_from(OpenRun).where(OpenRun.run_id == run_id)).first()
    return None if row is None else Stamp(row[0], row[1], row[2], row[3], tuple(row[4:]))


def _count(kind: Any, run_id: int, *through: Any) -> ScalarSelect[int]:
    found = select(func.count(kind.id)).select_from(kind)
    if through:
        found = found.join(*through)
    return found.join(Series, Series.id == Observation.series_id).where(Series.run_id == run_id).scalar_subquery()
