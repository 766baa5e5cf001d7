"""How a signed run is amended: a copy that replaces it when it is signed; the signed version stays as it is."""

from __future__ import annotations

from sqlalchemy import func, inspect, select
from sqlalchemy.orm import Session

from reckoner.core.days import day_words
from reckoner.core.translation import tr
from reckoner.shop.acts import Act, ShopRefused, note
from reckoner.shop.changes import ChangeKind, changed
from reckoner.shop.runs.loading import load
from reckoner.shop.runs.opening import enter, open_run_of, reload
from reckoner.shop.runs.state import RunState
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
    Signature,
    Strike,
    Trace,
    ZeroCheck,
)
from reckoner.store.schema.runs import KeptReading


def amend(session: Session, run_id: int, reason: str, act: Act) -> RunState:
    """Open a copy of a signed run that replaces it when it is signed; the signed version stays as it is.

    Raises ShopRefused for a run that is not signed, was amended already, without a reason, or while the tool is in
    another run.
    """
    old = load(session, run_id)
    if not old.signed:
        raise ShopRefused(tr("Only a signed run is amended; this one can still be changed."))
    newest = session.scalar(select(func.max(Signature.run_id)).join(Run).where(Run.tool_id == old.tool.id))
    if old.amended or newest != run_id:
        raise ShopRefused(tr("Only the newest signed run of a tool is amended; later results stand on the older ones."))
    if not reason.strip():
        raise ShopRefused(tr("Say why the signed run is amended."))
    under_way = open_run_of(session, old.tool.id)
    if under_way is not None:
        amends = session.get_one(Run, under_way).amends_id == run_id
        raise ShopRefused(
            tr("An amendment of this run is open already.")
            if amends
            else tr("{number} is in another run; sign it or give it up first.", number=old.tool.number)
        )
    source = session.get_one(Run, run_id)
    copy = Run(
        tool_id=source.tool_id,
        kind=source.kind,
        rule_set=source.rule_set,
        opened_at=act.at,
        person_id=act.person_id,
        rule=source.rule,
        mode=source.mode,
        adapter=source.adapter,
        plan_note=tr("amends the run signed {at}: {strip}", at=day_words(source.signature.at), strip=reason.strip())
        if source.signature
        else "",
        amends_id=source.id,
        event_id=source.event_id,
    )
    copy.facts = [FactsDocument(**_values(source.facts[-1]))]
    copy.inspections = [InspectionLine(**_values(i)) for i in source.inspections]
    copy.room = [RoomReading(**_values(r)) for r in source.room]
    copy.set_ups = [SetUp(**_values(s)) for s in source.set_ups]
    copy.exercises = [ExercisePull(**_values(e)) for e in source.exercises]
    if source.sides is not None:
        copy.sides = RunSides(document=source.sides.document)
    copy.adjustments = [Adjustment(**_values(a)) for a in source.adjustments]
    enter(session, copy, old.tool.number)
    ids: dict[int | None, int | None] = {None: None}
    for series in source.series:
        made = Series(**(_values(series) | {"run_id": copy.id}))
        made.observations = [_copied(o) for o in series.observations]
        session.add(made)
        session.flush()
        ids[series.id] = made.id
    for check in source.zero_checks:
        session.add(ZeroCheck(**(_values(check) | {"run_id": copy.id, "series_id": ids[check.series_id]})))
    changed(session, ChangeKind.STANDINGS, old.tool.id, act.person_id)
    note(session, act, tr("amended a signed run"), old.tool.number, run=run_id, copy=copy.id, reason=reason.strip())
    return reload(session, copy.id, act)


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
