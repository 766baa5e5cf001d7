"""What a run's records amount to, in one statement: whether a run that is at hand is still what the database holds."""

from __future__ import annotations

from functools import cache
from typing import Any, NamedTuple

from sqlalchemy import BindParameter, Select, bindparam, func, select
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
    session.flush()
    row = session.connection().execute(_statement(), {"run": run_id}).first()
    return None if row is None else Stamp(row[0], row[1], row[2], row[3], tuple(row[4:]))


@cache
def _statement() -> Select[Any]:
    """Made once: it is asked at each reading, while a hand waits."""
    run: BindParameter[int] = bindparam("run")
    series_of, taken, open_run = Series.__table__, Observation.__table__, OpenRun.__table__
    series = select(series_of.c.id).where(series_of.c.run_id == run)
    observations = select(taken.c.id).where(taken.c.series_id.in_(series))
    counted = [
        select(func.count(taken.c.id)).where(taken.c.series_id.in_(series)),
        *(
            select(func.count(of.c.id)).where(of.c.observation_id.in_(observations))
            for of in (kind.__table__ for kind in (Strike, KeptReading, Trace))
        ),
    ]
    newest = [
        select(func.coalesce(func.max(of.c.id), 0)).where(of.c.run_id == run)
        for of in (kind.__table__ for kind in _NEWEST)
    ]
    columns = [one.scalar_subquery() for one in (*counted, *newest)]
    return select(*columns).select_from(open_run).where(open_run.c.run_id == run)
