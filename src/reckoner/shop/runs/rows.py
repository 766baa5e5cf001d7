"""A run's rows as the database holds them: a statement for each table, made once, asking for no more than its state is made
of.

A hand waits at the bench while a run is loaded, at each thing that is done: rows as they are cost a quarter of what mapped
objects do.

What a run's records amount to, in one statement: whether a run that is at hand is still what the database holds.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cache
from typing import Any, NamedTuple

from sqlalchemy import BindParameter, FromClause, Row, Select, bindparam, func, select
from sqlalchemy.orm import Session

from reckoner.store.schema import (
    Abandonment,
    Adjustment,
    CertificateNumber,
    ExercisePull,
    FactsDocument,
    InspectionLine,
    Observation,
    OpenRun,
    Person,
    Reference,
    RoomReading,
    Run,
    RunSides,
    Series,
    SetUp,
    Signature,
    Strike,
    ToolEvent,
    Trace,
    ZeroCheck,
)
from reckoner.store.schema.base import Base
from reckoner.store.schema.runs import KeptReading

Rows = Sequence[Row[Any]]
RUN: BindParameter[int] = bindparam("run")


@dataclass(frozen=True)
class RunRows:
    """``run`` has the columns of its table, and beside them ``opened_by`` (initials), ``event`` (its note), and of its
    signature ``signed_at``, ``judged_on`` and ``sequence``; ``abandoned_at`` where it was given up. ``facts`` is the newest
    document. A row of ``set_ups`` has the ``link`` of its reference, one of an observation its strike's ``reason``, ``why``
    and ``whose`` it was kept, and of its trace ``faults`` and ``over_travel``."""

    run: Row[Any]
    facts: str
    sides: str | None
    inspections: Rows
    room: Rows
    set_ups: Rows
    exercises: Rows
    zero_checks: Rows
    adjustments: Rows
    series: Rows
    observations: dict[int, list[Row[Any]]]
    """By the id of their series."""


def head_of(session: Session, run_id: int) -> Row[Any] | None:
    """What ``RunRows.run`` holds; None when there is no such run."""
    return session.connection().execute(_head(), {"run": run_id}).first()


def amended_by(session: Session, head: Row[Any]) -> Iterator[Row[Any]]:
    """The run, the one that it amends, the one that that amends, … down to the first, each as ``RunRows.run``."""
    yield head
    while head.amends_id is not None:
        head = session.connection().execute(_head(), {"run": head.amends_id}).one()
        yield head


def rows_of(session: Session, head: Row[Any]) -> RunRows:
    """The rows of the run whose own row is ``head``."""
    run_id, connection = head.id, session.connection()

    def of(statement: Select[Any]) -> Rows:
        return connection.execute(statement, {"run": run_id}).all()

    observations: dict[int, list[Row[Any]]] = defaultdict(list)
    for row in of(_observations()):
        observations[row.series_id].append(row)
    return RunRows(
        run=head,
        facts=of(_facts())[0].document,
        sides=next((row.document for row in of(_of(RunSides))), None),
        inspections=of(_of(InspectionLine)),
        room=of(_of(RoomReading)),
        set_ups=of(_set_ups()),
        exercises=of(_of(ExercisePull)),
        zero_checks=of(_of(ZeroCheck)),
        adjustments=of(_of(Adjustment)),
        series=of(_of(Series)),
        observations=observations,
    )


def signature_of(session: Session, run_id: int) -> Row[Any] | None:
    """When it was signed ``at`` and ``by`` whom, who stood ``beside`` (initials), when it is ``due``, its ``outcome``, the
    ``note`` to it and its certificate's ``number``; None while it is not."""
    return session.connection().execute(_signature(), {"run": run_id}).first()


@cache
def _of(kind: type[Base]) -> Select[Any]:
    table = kind.__table__
    return select(table).where(table.c.run_id == RUN).order_by(table.c.id)


@cache
def _head() -> Select[Any]:
    run, person, event, signature, abandonment = map(_table, (Run, Person, ToolEvent, Signature, Abandonment))
    return (
        select(
            run,
            person.c.initials.label("opened_by"),
            event.c.note.label("event"),
            signature.c.at.label("signed_at"),
            signature.c.judged_on,
            signature.c.sequence,
            abandonment.c.at.label("abandoned_at"),
        )
        .join(person, person.c.id == run.c.person_id)
        .outerjoin(event, event.c.id == run.c.event_id)
        .outerjoin(signature, signature.c.run_id == run.c.id)
        .outerjoin(abandonment, abandonment.c.run_id == run.c.id)
        .where(run.c.id == RUN)
    )


@cache
def _facts() -> Select[Any]:
    facts = _table(FactsDocument)
    return select(facts.c.document).where(facts.c.run_id == RUN).order_by(facts.c.id.desc()).limit(1)


@cache
def _set_ups() -> Select[Any]:
    set_up, reference = _table(SetUp), _table(Reference)
    joined = select(set_up, reference.c.link).join(reference, reference.c.id == set_up.c.reference_id)
    return joined.where(set_up.c.run_id == RUN).order_by(set_up.c.id)


@cache
def _observations() -> Select[Any]:
    taken, series, strike, kept, trace = map(_table, (Observation, Series, Strike, KeptReading, Trace))
    return (
        select(taken, strike.c.reason, kept.c.why, kept.c.whose, trace.c.faults, trace.c.over_travel)
        .join(series, series.c.id == taken.c.series_id)
        .outerjoin(strike, strike.c.observation_id == taken.c.id)
        .outerjoin(kept, kept.c.observation_id == taken.c.id)
        .outerjoin(trace, trace.c.observation_id == taken.c.id)
        .where(series.c.run_id == RUN)
        .order_by(taken.c.id)
    )


@cache
def _signature() -> Select[Any]:
    signature, person, numbered = _table(Signature), _table(Person), _table(CertificateNumber)
    second = person.alias("second_person")
    return (
        select(
            signature.c.at,
            person.c.initials.label("by"),
            second.c.initials.label("beside"),
            signature.c.due,
            signature.c.outcome,
            signature.c.note,
            numbered.c.number,
        )
        .join(person, person.c.id == signature.c.person_id)
        .outerjoin(second, second.c.id == signature.c.second_person_id)
        .outerjoin(numbered, numbered.c.signature_id == signature.c.id)
        .where(signature.c.run_id == RUN)
    )


def _table(kind: type[Base]) -> FromClause:
    return kind.__table__


class Stamp(NamedTuple):
    """How many observations, strikes, kept readings and traces an open run has, and the newest of its other records:
    records only come, so that the same stamp means the same run."""

    observations: int
    strikes: int
    kept: int
    traces: int
    newest: tuple[int, ...]

    def after(self, kind: type[Base], row_id: int) -> Stamp:
        """The stamp once a record of one of the other kinds has come."""
        place = _NEWEST.index(kind)
        return self._replace(newest=(*self.newest[:place], row_id, *self.newest[place + 1 :]))


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
