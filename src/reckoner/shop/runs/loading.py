"""A run's state from its records."""

from __future__ import annotations

import math
from dataclasses import replace
from datetime import date, datetime
from typing import Any

from sqlalchemy import Row, or_, select
from sqlalchemy.orm import Session

from reckoner.core.requirements.rules import RuleSet
from reckoner.core.requirements.tooltypes import Direction
from reckoner.core.trace.event import Fault
from reckoner.core.translation import tr
from reckoner.core.uncertainty.budget import Effect, Effects, EffectWidth
from reckoner.formats import rulesets
from reckoner.shop.facts.judged import MeasuredEffects, RunFacts
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.procedures import PROCEDURES
from reckoner.shop.runs import document
from reckoner.shop.runs.asking import asked
from reckoner.shop.runs.inspection import asked_of
from reckoner.shop.runs.kinds import POLICIES
from reckoner.shop.runs.records import (
    FOUND,
    NOTHING,
    AdjustingState,
    EarlierSeries,
    ExerciseState,
    InspectedLine,
    KeptAnswer,
    ObservationState,
    Phase,
    PlanRecord,
    RoomState,
    SeriesState,
    SetUpState,
    SignedState,
    Zeros,
)
from reckoner.shop.runs.rows import RunRows, amended_by, head_of, rows_of, signature_of, stamp_of
from reckoner.shop.runs.sides import from_document
from reckoner.shop.runs.state import Procedure, RunState
from reckoner.shop.runs.steps import step_of
from reckoner.store.chain import link_of
from reckoner.store.errors import TermUnknown
from reckoner.store.schema import Characterisation, FactsDocument, InspectionLine, Observation, Run, Signature
from reckoner.store.schema.base import unfolded
from reckoner.store.terms import LinkKind, PhaseKind, ReferenceKind, RunKind, ZeroMoment, ZeroOf


def load(session: Session, run_id: int) -> RunState:
    """The run as the records say it stands. Raises ShopRefused when there is no such run."""
    session.flush()
    head = head_of(session, run_id)
    if head is None:
        raise ShopRefused(tr("There is no such run."))
    stamp = stamp_of(session, run_id)
    kept = rows_of(session, head)
    facts = document.read(kept.facts)
    procedure = PROCEDURES[facts.kind]
    series = tuple(_series(s, kept, procedure, facts) for s in kept.series)
    chain = tuple(amended_by(session, head))
    compares = POLICIES[head.kind].compares
    return at_its_step(
        RunState(
            id=run_id,
            kind=head.kind,
            facts=facts,
            procedure=procedure,
            plan=PlanRecord(head.rule, head.mode, head.adapter, head.plan_note),
            opened=head.opened_at,
            opened_by=head.opened_by,
            inspection=_inspection(kept, facts.tool),
            room=_room(kept, facts.rules),
            room_said=bool(kept.room),
            set_up=_set_up(kept),
            exercise=_exercise(kept, facts.tool, facts.rules),
            zeros=_zeros(kept),
            all_series=series,
            adjusting=_adjusting(kept, series),
            signature=_signed(session, run_id) if head.signed_at is not None else None,
            abandoned=head.abandoned_at is not None,
            earlier=earlier_series(session, head.tool_id, chain[-1].sequence) if compares else (),
            event=head.event or "",
            amends=head.amends_id,
            as_of=chain[-1].signed_at.date() if len(chain) > 1 and chain[-1].signed_at is not None else None,
            day=_day(kept, chain),
            stamp=stamp,
            amended=stamp is None and _amended(session, run_id),
            sides=from_document(kept.sides) if kept.sides is not None else None,
        )
    )


def as_signed(session: Session, run: RunState) -> RunState:
    """``run`` once its signature was kept: nothing else of it is another, so nothing else is read."""
    return at_its_step(replace(run, signature=_signed(session, run.id), stamp=None))


def at_its_step(run: RunState) -> RunState:
    """``run`` with what is asked about it, and the step at which it stands."""
    run = replace(run, asked=asked(run))
    return replace(run, step=step_of(run))


def with_observation(state: RunState, series_id: int, row: Observation) -> RunState:
    """``state`` after the observation ``row`` was added to one of its series; nothing is asked for, for a hand waits."""
    made = ObservationState(
        id=row.id,
        at=row.at,
        kind=row.kind,
        torque=row.torque,
        source=row.source,
        tool_value=row.tool_value,
        pull=row.pull,
        detail=row.detail,
    )

    def added(series: SeriesState) -> SeriesState:
        if series.id != series_id:
            return series
        observations = (*series.observations, made)
        detail = state.set_up.detail if state.set_up else NOTHING
        correction = state.correction(series.target)
        pairs = state.procedure.pairs(series.target, tuple(o for o in observations if o.counts), detail, correction)
        return replace(series, observations=observations, pairs=pairs)

    phase = next(s.phase.kind for s in state.all_series if s.id == series_id)
    adjusting, stamp = state.adjusting, state.stamp
    return at_its_step(
        replace(
            state,
            all_series=tuple(added(s) for s in state.all_series),
            adjusting=replace(adjusting, steps=tuple(added(s) for s in adjusting.steps)) if adjusting else None,
            zeros=state.zeros if phase is PhaseKind.ADJUST else replace(state.zeros, after=None, pointer_after=None),
            stamp=stamp._replace(observations=stamp.observations + 1) if stamp else None,
        )
    )


def with_inspection(state: RunState, row: InspectionLine) -> RunState:
    """``state`` after the answer ``row`` to a line of the look-over was added; nothing is asked for."""
    lines = tuple(
        replace(line, fine=row.fine, note=row.note) if line.line == row.line else line for line in state.inspection
    )
    stamp = state.stamp.after(InspectionLine, row.id) if state.stamp else None
    return at_its_step(replace(state, inspection=lines, stamp=stamp))


def keep_facts(session: Session, run_id: int, facts: RunFacts, at: datetime) -> None:
    """Write what the run is judged by from now on."""
    session.add(FactsDocument(run_id=run_id, at=at, document=document.write(facts)))
    session.flush()


def _signed(session: Session, run_id: int) -> SignedState | None:
    row = signature_of(session, run_id)
    if row is None:
        return None
    link = link_of(session.connection(), LinkKind.RUN, run_id)
    return SignedState(
        on=row.at.date(),
        by=row.by,
        beside=row.beside or "",
        due=row.due,
        outcome=row.outcome,
        link=link.words if link else "",
        certificate=row.number or "",
        note=row.note,
    )


def _amended(session: Session, run_id: int) -> bool:
    """Whether a signed amendment has replaced it."""
    return bool(session.scalar(select(Run.id).join(Signature).where(Run.amends_id == run_id).limit(1)))


def _day(kept: RunRows, chain: tuple[Row[Any], ...]) -> date:
    """The day whose certificates count."""
    for one in chain:
        if one.signed_at is not None and (one.judged_on is not None or one.amends_id is None):
            judged: date = one.judged_on or one.signed_at.date()
            return judged
    begun: datetime = kept.set_ups[-1].at if kept.set_ups else kept.run.opened_at
    return begun.date()


def _inspection(run: RunRows, tool: ToolFacts) -> tuple[InspectedLine, ...]:
    """What is asked for; of a signed run what was recorded, whatever is asked for by now."""
    newest = {line.line: line for line in run.inspections}
    asked = asked_of(tool)
    lines = []
    for name, fine_means in ({n: asked.get(n, "") for n in newest} if run.run.signed_at is not None else asked).items():
        seen = newest.get(name)
        lines.append(InspectedLine(name, fine_means, seen.fine if seen else None, seen.note if seen else ""))
    return tuple(lines)


def _room(run: RunRows, rules: RuleSet) -> RoomState | None:
    measured = [
        (r, r.temperature, r.humidity) for r in run.room if r.temperature is not None and r.humidity is not None
    ]
    if not measured:
        return None
    newest, temperature, humidity = measured[-1]
    temperatures = [degrees for _, degrees, _ in measured]
    return RoomState(
        temperature,
        humidity,
        room_fits(temperature, humidity, rules),
        newest.note,
        max(temperatures) - min(temperatures),
        newest.at,
    )


def room_fits(temperature: float, humidity: float, rules: RuleSet) -> bool:
    """Whether a room is inside the rule set's bounds (ISO 6789-1:2017, 6.1)."""
    return rules.room.coldest <= temperature <= rules.room.warmest and humidity <= rules.room.humidity


def _set_up(run: RunRows) -> SetUpState | None:
    if not run.set_ups:
        return None
    newest = run.set_ups[-1]
    return SetUpState(newest.mode, newest.override, newest.link, newest.detail)


def _exercise(run: RunRows, tool: ToolFacts, rules: RuleSet) -> tuple[ExerciseState, ...]:
    wanted = rules.exercise if tool.kind.is_setting else 1
    counting = [s for s in run.series if s.phase in (PhaseKind.FOUND, PhaseKind.MEASURE)]
    read = {s.direction for s in counting if run.observations[s.id]}
    turned = dict.fromkeys(s.direction for s in counting)

    def exercised(direction: Direction) -> ExerciseState:
        done = sum(pull.direction == direction for pull in run.exercises)
        return ExerciseState(direction, done, min(wanted, done) if direction in read else wanted)

    return tuple(exercised(direction) for direction in turned)


def _zeros(run: RunRows) -> Zeros:
    def newest(of: ZeroOf) -> float | None:
        looks = [
            z.torque for z in run.zero_checks if z.of is of and z.moment is ZeroMoment.BEFORE and z.series_id is None
        ]
        return looks[-1] if looks else None

    return Zeros(
        before=newest(ZeroOf.REFERENCE),
        after=_after_readings(run, ZeroOf.REFERENCE),
        pointer_before=newest(ZeroOf.POINTER),
        pointer_after=_after_readings(run, ZeroOf.POINTER),
    )


def _after_readings(run: RunRows, of: ZeroOf) -> float | None:
    """A look after the readings counts only when it is newer than the last one that was taken in the phase that counts."""
    checks = [z for z in run.zero_checks if z.of is of and z.moment is ZeroMoment.AFTER and z.series_id is None]
    left = [s for s in run.series if s.phase is PhaseKind.LEFT]
    newest = max((s.round for s in left), default=0)
    left = [s for s in left if s.round == newest]
    counting = left or [s for s in run.series if s.phase in (PhaseKind.FOUND, PhaseKind.MEASURE)]
    last = max((o for s in counting for o in run.observations[s.id]), key=lambda o: o.id, default=None)
    if not checks or (last is not None and _taken_since(run, checks[-1], last)):
        return None
    if left and last is None:
        return None
    torque: float = checks[-1].torque
    return torque


def _taken_since(run: RunRows, check: Row[Any], last: Row[Any]) -> bool:
    """Whether the observation ``last`` came after ``check``, by the order in which they were kept."""
    if check.observed is None:
        return bool(check.at < last.at)
    return bool(sum(o.id <= last.id for taken in run.observations.values() for o in taken) > check.observed)


def _series(series: Row[Any], run: RunRows, procedure: Procedure, facts: RunFacts) -> SeriesState:
    zeros = {z.moment: z.torque for z in run.zero_checks if z.series_id == series.id}
    observations = tuple(_observation(o) for o in run.observations[series.id])
    detail, correction = _detail(run), facts.correction(series.target)
    return SeriesState(
        id=series.id,
        phase=Phase(series.phase, series.round),
        direction=series.direction,
        target=series.target,
        wanted=series.wanted,
        observations=observations,
        pairs=procedure.pairs(series.target, tuple(o for o in observations if o.counts), detail, correction),
        struck_pairs=procedure.pairs(series.target, tuple(o for o in observations if not o.counts), detail, correction),
        effect=series.effect,
        place=series.place,
        turn=series.turn,
        zero_before=zeros.get(ZeroMoment.BEFORE),
        zero_after=zeros.get(ZeroMoment.AFTER),
        abuse=series.abuse,
        abuse_note=series.abuse_note,
    )


def _detail(run: RunRows) -> str:
    """What the procedure has learnt at set up."""
    return run.set_ups[-1].detail if run.set_ups else NOTHING


def _observation(row: Row[Any]) -> ObservationState:
    return ObservationState(
        id=row.id,
        at=row.at,
        kind=row.kind,
        torque=row.torque,
        source=row.source,
        struck=row.reason or "",
        tool_value=row.tool_value,
        pull=row.pull,
        faults=tuple(_fault(f) for f in unfolded(row.faults)) if row.faults is not None else (),
        over_travel=row.over_travel,
        detail=row.detail,
        kept=KeptAnswer(row.why, row.whose) if row.why is not None else None,
    )


def _fault(word: str) -> Fault:
    try:
        return Fault(word)
    except ValueError:
        raise TermUnknown(tr("fault of a pull"), str(word)) from None


def _adjusting(run: RunRows, series: tuple[SeriesState, ...]) -> AdjustingState | None:
    """The adjustment under way; None when each that was begun is finished."""
    begun = [a for a in run.adjustments if a.begun]
    number = len(begun)
    if number <= len(run.adjustments) - number:
        return None
    at = begun[-1]
    before = max((s.phase for s in series if s.phase.kind is PhaseKind.LEFT), default=FOUND)
    first = next(s for s in series if s.phase == before and s.target == at.target and s.direction == at.direction)
    turned = (s for s in series if s.phase == Phase(PhaseKind.ADJUST, number))
    return AdjustingState(number, at.target, at.direction, (first, *turned))


def measured_effects(session: Session, tool: ToolFacts) -> MeasuredEffects:
    """The newest characterisation, of the tool or else of its model."""
    found = session.scalars(
        select(Characterisation)
        .where(or_(Characterisation.tool_id == tool.id, Characterisation.model_id == tool.model_id))
        .order_by(Characterisation.tool_id.is_(None), Characterisation.id.desc())
        .limit(1)
    ).first()
    if found is None:
        return MeasuredEffects(Effects())
    kept = {e.value: (getattr(found, e.value), getattr(found, f"{e.value}_freedom")) for e in Effect}
    effects = Effects(**{n: EffectWidth(b, nu or math.inf) for n, (b, nu) in kept.items() if b is not None})
    return MeasuredEffects(effects, found.tool_id is None, found.at.date())


def earlier_series(session: Session, tool_id: int, before: int | None = None) -> tuple[EarlierSeries, ...]:
    """The series that counted in the tool's newest signed full run, or the newest from before the place ``before`` in the
    tool's own order."""
    signed = select(Signature).join(Run, Run.id == Signature.run_id)
    signed = signed.where(Run.tool_id == tool_id, Run.kind == RunKind.FULL)
    if before is not None:
        signed = signed.where(Signature.sequence < before)
    newest = session.scalars(signed.order_by(Signature.sequence.desc()).limit(1)).first()
    head = head_of(session, newest.run_id) if newest is not None else None
    if newest is None or head is None:
        return ()
    run = rows_of(session, head)
    counted = {r.series_id for r in newest.results}
    series = [s for s in run.series if s.id in counted]
    last = max(((s.phase is PhaseKind.LEFT, s.round) for s in series), default=(False, 0))
    facts = document.read(run.facts)
    reference = facts.reference
    procedure = PROCEDURES[reference.kind if reference else ReferenceKind.METER]
    return tuple(
        EarlierSeries(
            s.target,
            s.direction,
            newest.at.date(),
            tuple(
                s.target * p.reference / p.tool
                for p in procedure.pairs(
                    s.target,
                    tuple(o for o in map(_observation, run.observations[s.id]) if o.counts),
                    _detail(run),
                    facts.correction(s.target, anyway=True),
                )
            ),
        )
        for s in series
        if (s.phase is PhaseKind.LEFT, s.round) == last
    )


def rule_set_text(name: str, tool: ToolFacts) -> str:
    """The text of a rule set as a run of ``tool`` keeps it. Raises ShopRefused when there is none of that name."""
    try:
        return rulesets.whole_text(name, tool.rule_set)
    except rulesets.RuleSetRefused as refusal:
        raise ShopRefused(str(refusal)) from None
