"""All that was kept with one run, copied into another: an amendment of it, or the full run that a short one became."""

from __future__ import annotations

import json

from sqlalchemy import inspect
from sqlalchemy.orm import Session

from reckoner.shop.runs.opening import enter
from reckoner.shop.runs.records import OF
from reckoner.store.schema import (
    Adjustment,
    ExercisePull,
    FactsDocument,
    InspectionLine,
    Observation,
    RoomReading,
    Run,
    RunSides,
    Series,
    SetUp,
    Strike,
    Trace,
    ZeroCheck,
)
from reckoner.store.schema.runs import KeptReading
from reckoner.store.terms import PhaseKind


def copy_records(session: Session, source: Run, copy: Run, number: str, readings: int = 0) -> None:
    """Give the new run ``copy`` what ``source`` holds, and mark the tool ``number`` as being in it; as found wants at least
    so many ``readings`` at each point. Raises ShopRefused where the tool is in another run by now."""
    copy.facts = [FactsDocument(**_values(source.facts[-1]))]
    copy.inspections = [InspectionLine(**_values(i)) for i in source.inspections]
    copy.room = [RoomReading(**_values(r)) for r in source.room]
    copy.set_ups = [SetUp(**_values(s)) for s in source.set_ups]
    copy.exercises = [ExercisePull(**_values(e)) for e in source.exercises]
    if source.sides is not None:
        copy.sides = RunSides(document=source.sides.document)
    copy.adjustments = [Adjustment(**_values(a)) for a in source.adjustments]
    enter(session, copy, number)
    ids: dict[int | None, int | None] = {None: None}
    for series in source.series:
        wanted = max(series.wanted, readings) if series.phase is PhaseKind.FOUND else series.wanted
        made = Series(**(_values(series) | {"run_id": copy.id, "wanted": wanted}))
        session.add(made)
        session.flush()
        ids[series.id] = made.id
        _copy_observations(session, series, made)
    for check in source.zero_checks:
        session.add(ZeroCheck(**(_values(check) | {"run_id": copy.id, "series_id": ids[check.series_id]})))


def _copy_observations(session: Session, source: Series, made: Series) -> None:
    """One after the other, for what a display showed names the pull that it belongs to."""
    ids: dict[int, int] = {}
    for one in source.observations:
        copy = _copied(one)
        detail = json.loads(copy.detail)
        if detail.get(OF) in ids:
            copy.detail = json.dumps(detail | {OF: ids[detail[OF]]})
        copy.series_id = made.id
        session.add(copy)
        session.flush()
        ids[one.id] = copy.id


def _copied(source: Observation) -> Observation:
    made = Observation(**(_values(source) | {"series_id": None}))
    made.pull = None  # the pull was kept with what it gave first
    if source.strike is not None:
        made.strike = Strike(**(_values(source.strike) | {"observation_id": None}))
    if source.kept is not None:
        made.kept = KeptReading(**(_values(source.kept) | {"observation_id": None}))
    if source.trace is not None:
        made.trace = Trace(**(_values(source.trace) | {"observation_id": None}))
    return made


def _values(row: object) -> dict[str, object]:
    """A row's columns without its identity and its run."""
    mapper = inspect(type(row))
    return {a.key: getattr(row, a.key) for a in mapper.column_attrs if a.key not in ("id", "run_id")}
