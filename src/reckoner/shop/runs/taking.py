"""Exercise and observations: taken, struck, and their traces kept. Each is committed before it is shown.

Stored values taken as the readings of a run: in their order, into its series in theirs, all of them or none.

The pulls of a run as they were kept: their traces, read when somebody looks at them.
"""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.quantities.arrays import Values
from reckoner.core.quantities.printing import number
from reckoner.core.requirements.tooltypes import Direction
from reckoner.core.trace.event import Fault
from reckoner.core.translation import tr
from reckoner.formats.refusals import FileRefused
from reckoner.meters.pull import Pull
from reckoner.shop.changes import ChangeKind, changed
from reckoner.shop.people.authorship import Act, ShopRefused, note
from reckoner.shop.people.rights import command
from reckoner.shop.procedure import NewObservation
from reckoner.shop.runs.loading import with_observation
from reckoner.shop.runs.opening import is_current, open_run_of, opened, opened_as, reload
from reckoner.shop.runs.records import CAME, Step, shown_of
from reckoner.shop.runs.setting_up import note_rest
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.steps import open_series, wants
from reckoner.shop.words.results import want_words
from reckoner.store.archive import FOLDER, samples_in
from reckoner.store.reader import Reader
from reckoner.store.schema import ExercisePull, Observation, Strike, Trace
from reckoner.store.schema.base import unfolded
from reckoner.store.schema.runs import KeptReading
from reckoner.store.terms import ObservationKind, ReadingOwner, Source, term

EXERCISE_LEVEL = 0.8
"""An exercise release below this fraction of full scale does not count."""


@command
def record_exercise(
    session: Session, run_id: int, torque: float | None, act: Act, turned: Direction | None = None
) -> RunState:
    """Count one exercise release, with the torque (N·m) where the meter saw it, and which way it ``turned``.

    Raises ShopRefused when none is wanted, when it turned the other way, or went nowhere near full scale. Changes: runs."""
    state = opened(session, run_id)
    exercising = state.exercising
    if exercising is None:
        raise ShopRefused(tr("The exercise is complete."))
    if missing := wants(state, Step.AS_IT_CAME):
        raise ShopRefused(
            tr("First: as it came, {want_words}; exercise would destroy it.", want_words=want_words(missing))
        )
    _right_way(state, turned)
    if torque is not None and abs(torque) < EXERCISE_LEVEL * state.exercise_target:
        got, full = (number(state.tool.unit.from_si(t)) for t in (abs(torque), state.exercise_target))
        raise ShopRefused(
            tr(
                "That release was at {got} {symbol}; exercise at full scale, {full}. Set it and pull again.",
                got=got,
                symbol=state.tool.unit.symbol,
                full=full,
            )
        )
    session.add(ExercisePull(run_id=run_id, at=act.at, direction=exercising.direction, torque=torque))
    return reload(session, run_id, act)


@command
def count_rest_of_exercise(session: Session, run_id: int, act: Act) -> RunState:
    """Count by hand the releases that are still wanted in the direction at hand, all made. Raises ShopRefused as
    ``record_exercise`` does. Changes: runs."""
    exercising = opened(session, run_id).exercising
    left = exercising.wanted - exercising.done if exercising is not None else 1
    for _ in range(left - 1):
        record_exercise(session, run_id, None, act)
    return record_exercise(session, run_id, None, act)


def typed(torque: float) -> NewObservation:
    """A value that a person typed, in N·m."""
    return NewObservation(ObservationKind.VALUE, torque, Source.TYPED)


def shown(value: float, source: Source = Source.TYPED) -> NewObservation:
    """What the tool's own display showed of the pull that waits for it, in N·m."""
    return NewObservation(ObservationKind.SHOWN, None, source, tool_value=value)


@command
def observe(session: Session, run_id: int, seen: NewObservation, act: Act, known: RunState | None = None) -> RunState:
    """Add an observation to the series that is next. The run as it is ``known`` is gone by when it still is what the database
    holds, and asked for otherwise.

    Raises ShopRefused when none is wanted now, it was pulled the wrong way, or the procedure does not admit it. Changes:
    runs."""
    state = opened_as(session, run_id, known)
    series = state.current
    _right_way(state, seen.turned)
    if state.adjusting is not None and series is None:
        raise ShopRefused(tr("Turn the screw first, then read."))
    came = series is not None and series.phase == CAME
    for step in (Step.LOOK_OVER, Step.SET_UP, *(() if came else (Step.EXERCISE,))):
        if missing := wants(state, step):
            raise ShopRefused(tr("First: {value}, {want_words}.", value=tr(step.value), want_words=want_words(missing)))
    if series is None:
        raise ShopRefused(tr("All readings of this run are taken. Strike one to take it anew."))
    kept = state.procedure.admit(state, series, seen)
    made = Observation(
        series_id=series.id,
        at=act.at,
        person_id=act.person_id,
        kind=kept.kind,
        torque=kept.torque,
        tool_value=kept.tool_value,
        source=kept.source,
        pull=kept.pull,
        detail=kept.detail,
        strike=None,
        trace=None,
    )
    session.add(made)
    session.flush()
    value = kept.torque if kept.torque is not None else kept.tool_value
    note(session, act, tr("took a reading"), state.tool.number, observation=made.id, torque=value, source=kept.source)
    changed(session, ChangeKind.RUNS, run_id, act.person_id)
    return with_observation(state, series.id, made)


def observe_pull(session: Session, run: RunState, seen: NewObservation, pull: Pull | None, act: Act) -> RunState:
    """Add an observation to the series that is next, and where the ``pull`` that gave it is over, keep its trace with it,
    and what the meter showed at rest before it as the zeros of the series around it. Raises ShopRefused as ``observe``
    does. Changes: runs. Right: none."""
    taken = observe(session, run.id, seen, act, run)
    kept = keep_trace(session, run.id, pull, act) if pull is not None else None
    if pull is None or kept is None:
        return taken
    if pull.rest_before is None or kept.adjusting is not None:
        return kept
    return note_rest(session, run.id, pull.rest_before, act, over=False)


@command
def keep_trace(session: Session, run_id: int, pull: Pull, act: Act) -> RunState | None:
    """Keep the trace of a pull with the observation that came from it, and the faults found in it; None when none did, or its
    run is over by now.

    The observation itself was kept at its signal, before the pull was over. Raises ShopRefused. Changes: runs."""
    observation = session.scalar(select(Observation).where(Observation.pull == pull.id))
    if (
        observation is None
        or observation.trace is not None
        or open_run_of(session, observation.series.run.tool_id) != run_id
    ):
        return None
    session.add(
        Trace(
            observation_id=observation.id,
            rate=pull.rate,
            samples=np.asarray(pull.samples, dtype="<f4").tobytes(),
            faults=json.dumps([f.value for f in pull.faults]),
            over_travel=pull.over_travel,
            time_80_to_100=pull.time_80_to_100,
        )
    )
    return reload(session, run_id, act)


@command
def strike(session: Session, run_id: int, observation_ids: Sequence[int], reason: str, act: Act) -> RunState:
    """Strike observations out; they stay visible. With a pull goes what the tool's display showed of it; what it showed
    alone leaves the pull waiting. Raises ShopRefused without a reason, or when one is struck already or belongs to a phase
    that is over. Changes: runs."""
    state = opened(session, run_id)
    if not reason.strip():
        raise ShopRefused(tr("Say why the reading is struck, such as “pulled too fast”."))
    there = {o.id for s in open_series(state) for o in s.observations if o.counts}
    if not observation_ids or not there.issuperset(observation_ids):
        raise ShopRefused(tr("That reading is not there or is struck already."))
    shown_too = [
        o.id
        for s in open_series(state)
        for o in s.counted
        if o.kind is ObservationKind.SHOWN and shown_of(o.detail) in observation_ids and o.id not in observation_ids
    ]
    for observation_id in (*observation_ids, *shown_too):
        session.add(Strike(observation_id=observation_id, at=act.at, person_id=act.person_id, reason=reason.strip()))
        note(session, act, tr("struck a reading"), state.tool.number, observation=observation_id, reason=reason.strip())
    return reload(session, run_id, act)


@command
def keep(session: Session, run_id: int, observation_ids: Sequence[int], whose: ReadingOwner, act: Act) -> RunState:
    """Let readings count that are asked about. Raises ShopRefused for one that is not. Changes: runs."""
    state = opened(session, run_id)
    asked = {i: one.why for one in state.asked for i in one.ids}
    if not observation_ids or not asked.keys() >= set(observation_ids):
        raise ShopRefused(tr("Nothing is asked about that reading any more."))
    for observation_id in observation_ids:
        why = asked[observation_id]
        session.add(
            KeptReading(observation_id=observation_id, at=act.at, person_id=act.person_id, why=why, whose=whose)
        )
        note(session, act, tr("kept a reading"), state.tool.number, observation=observation_id, why=why, whose=whose)
    return reload(session, run_id, act)


def _right_way(state: RunState, turned: Direction | None) -> None:
    """Raises ShopRefused for a pull that ``turned`` the other way; None where the meter does not tell."""
    if turned is not None and turned is not state.direction:
        raise ShopRefused(
            tr(
                "That was pulled {words}; this series is {words_2}. Nothing was taken.",
                words=turned.words,
                words_2=state.direction.words,
            )
        )


@command
def take(
    session: Session, run: RunState, meter: Sequence[tuple[int, float]], tool: Sequence[tuple[int, float]], act: Act
) -> RunState:
    """Take what the meter has stored, and where each pull is two numbers what the tool has: (line in its file, N·m).

    What is over once all series are full is left. Raises ShopRefused with the line for a value that is refused; nothing of
    the file is kept then. So it is where the run is not as it was looked at. Changes: runs."""
    if not is_current(session, run, run.id):  # a second press comes before the first is shown
        raise ShopRefused(tr("The run went on meanwhile. Look at what is there now, and take the rest then."))
    if run.paired and len(tool) != len(meter):
        raise ShopRefused(
            tr(
                "The meter's column has {count} values and the tool's {count_2}; each pull is one of both.",
                count=len(meter),
                count_2=len(tool),
            )
        )
    for i, (line, torque) in enumerate(meter):
        if run.current is None:
            break
        try:
            run = observe(session, run.id, NewObservation(ObservationKind.VALUE, torque, Source.STORED), act, run)
            if run.paired:
                run = observe(session, run.id, shown(tool[i][1], Source.STORED), act, run)
        except ShopRefused as refusal:
            raise ShopRefused(
                tr("Line {line}: {refusal} Nothing of the file was taken.", line=line, refusal=refusal)
            ) from None
    return run


def fills(run: RunState, count: int) -> tuple[tuple[float, int], ...]:
    """How ``count`` values would fill the run's series: (target in N·m, how many) of each that gets some."""
    told = []
    for series in (*run.came, *run.series):
        part = min(count, series.missing)
        if part:
            told.append((series.target, part))
        count -= part
    return tuple(told)


NEAR = 0.999
"""The signal is drawn where the curve first comes as near as this to the reading."""


@dataclass(frozen=True)
class KeptPull:
    """One pull: torques in N·m at ``rate`` samples a second, the ``reading`` that was taken from it, and ``at``, the sample
    where it stands. ``gone`` says where a trace went that is not here any more. ``struck`` is why it does not count;
    ``over_travel`` a fraction, ``time_80_to_100`` in s."""

    observation: int
    samples: Values
    rate: float
    reading: float
    at: int
    struck: str
    faults: tuple[Fault, ...]
    over_travel: float | None
    time_80_to_100: float | None
    by: str
    gone: str = ""


_PULLS = """
SELECT o.id, o.torque, t.id AS trace, t.rate, t.samples, t.archived, t.faults, t.over_travel, t.time_80_to_100, p.initials,
  COALESCE(k.reason, '') AS struck
FROM observation o JOIN trace t ON t.observation_id = o.id JOIN person p ON p.id = o.person_id
  LEFT JOIN strike k ON k.observation_id = o.id
WHERE o.series_id = :series AND o.torque IS NOT NULL ORDER BY o.id
"""


def kept_pulls(reader: Reader, series_id: int) -> tuple[KeptPull, ...]:
    """The pulls of a series that have a trace, in their order. Raises ValueUnreadable, TermUnknown."""
    rows = tuple(reader.rows(_PULLS, series=series_id))
    archived = {row.trace: row.archived for row in rows if row.archived}
    samples, gone = _from_archives(reader.folder, archived) if archived else ({}, "")
    return tuple(
        _pull(row, row.samples)
        if not row.archived
        else _pull(row, samples[row.trace])
        if row.trace in samples
        else _pull(row, b"", gone)
        for row in rows
    )


def _from_archives(folder: Path, wanted: dict[int, str]) -> tuple[dict[int, bytes], str]:
    """What the archives have, and what is said of a trace that they have not."""
    from reckoner.formats.apart import apart  # only when it is wanted

    gone = tr(
        "The trace of this pull was archived, and is in none of the archives in {folder}. Put the "
        "archive back there to see it; its reading is kept here.",
        folder=folder / FOLDER,
    )
    try:
        return apart(samples_in, folder, wanted), gone
    except FileRefused as refusal:
        return {}, tr("The trace of this pull was archived and cannot be shown. {why}", why=refusal)


def with_pulls(reader: Reader, series_ids: Sequence[int]) -> tuple[int, ...]:
    """Which of some series have pulls with a trace."""
    return tuple(
        series
        for series in series_ids
        if reader.value(
            "SELECT 1 FROM observation o JOIN trace t ON t.observation_id = o.id WHERE o.series_id = :series LIMIT 1",
            series=series,
        )
    )


def _pull(row: Any, kept: bytes, gone: str = "") -> KeptPull:
    samples = np.abs(np.frombuffer(kept, dtype="<f4").astype(np.float64))
    reached = np.flatnonzero(samples >= NEAR * abs(row.torque))
    return KeptPull(
        observation=row.id,
        samples=samples,
        rate=row.rate,
        reading=abs(row.torque),
        at=int(reached[0]) if len(reached) else int(np.argmax(samples)) if len(samples) else 0,
        struck=row.struck,
        faults=tuple(term(Fault, word) for word in unfolded(row.faults)),
        over_travel=row.over_travel,
        time_80_to_100=row.time_80_to_100,
        by=row.initials,
        gone=gone,
    )
