"""A run's state from its records."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, date, datetime
from functools import cache

from sqlalchemy import or_, select
from sqlalchemy.orm import Session

from reckoner.core.adjusting import AdjustStep, Advice, advise
from reckoner.core.budget import Effects
from reckoner.core.errors import InputRefused
from reckoner.core.kinds import MeterMode
from reckoner.core.rules import RuleSet
from reckoner.formats import rulesets
from reckoner.shop.acts import ShopRefused
from reckoner.shop.facts import ToolFacts, reference_facts, tool_facts
from reckoner.shop.inspection import inspection_lines
from reckoner.shop.run import (
    AS_FOUND,
    AdjustingState,
    EarlierSeries,
    ExerciseState,
    InspectedLine,
    ReadingState,
    RoomState,
    RunKind,
    RunState,
    SeriesState,
    SetUpState,
    newest_as_left,
)
from reckoner.store.schema import Characterisation, Reading, Run, Series, Signature, ToolEvent


@cache
def rules_from(text: str, name: str) -> RuleSet:
    """The rule set kept with a run, read once for each different text."""
    return rulesets.parse(text, name)


def load(session: Session, run_id: int) -> RunState:
    """The run as the records say it stands. Raises ShopRefused when there is no such run."""
    run = session.get(Run, run_id)
    if run is None:
        raise ShopRefused("There is no such run.")
    tool = tool_facts(run.tool)
    rules = rules_from(run.rule_set_text, run.rule_set)
    series = tuple(_series(s, run) for s in run.series)
    begun, finished = (sum(a.begun is state for a in run.adjustments) for state in (True, False))
    effects, effects_from = _effects(session, run, tool)
    kind = RunKind(run.kind)
    event = session.get(ToolEvent, run.event_id) if run.event_id else None
    signature = run.signature
    return RunState(
        id=run.id,
        tool=tool,
        kind=kind,
        rules=rules,
        opened=run.opened_at,
        opened_by=run.opened_by.initials,
        inspection=_inspection(run, tool),
        room=_room(run, rules),
        set_up=_set_up(run),
        exercise=_exercise(run, tool, rules),
        zero_before=_newest_zero(run, "before"),
        zero_after=_after_readings(run, "after"),
        all_series=series,
        signed_on=signature.at.date() if signature else None,
        signed_by=signature.person.initials if signature else "",
        signed_due=signature.due if signature else None,
        abandoned=run.abandoned is not None,
        signed_with=signature.second_person.initials if signature and signature.second_person else "",
        outcome=signature.outcome if signature else "",
        rule=run.rule,
        mode=run.mode,
        adapter=run.adapter,
        plan_note=run.plan_note,
        pointer_before=_newest_zero(run, "pointer before"),
        pointer_after=_after_readings(run, "pointer after"),
        adjusting=_adjusting(run, tool, series, begun) if begun > finished else None,
        effects=effects,
        effects_from=effects_from,
        earlier=earlier_series(session, run.tool_id, run.opened_at) if kind is RunKind.EVENT else (),
        event=event.note if event else "",
        amends=run.amends_id,
        as_of=_as_of(session, run),
        amended=bool(session.scalar(select(Run.id).join(Signature).where(Run.amends_id == run.id).limit(1))),
    )


def with_new_reading(state: RunState, run: Run) -> RunState:
    """``state`` of ``run`` after a reading was added to it: what a reading can change is made anew from the rows at hand,
    the rest is not asked for again, for a hand waits for this."""
    series = tuple(_series(s, run) for s in run.series)
    begun = sum(a.begun for a in run.adjustments)
    return replace(
        state,
        all_series=series,
        zero_after=_after_readings(run, "after"),
        pointer_after=_after_readings(run, "pointer after"),
        adjusting=_adjusting(run, state.tool, series, begun) if state.adjusting else None,
    )


def _as_of(session: Session, run: Run) -> date | None:
    """The day on which the run that this one amends was first signed."""
    day = None
    while run.amends_id is not None:
        run = session.get_one(Run, run.amends_id)
        day = run.signature.at.date() if run.signature else day
    return day


def _inspection(run: Run, tool: ToolFacts) -> tuple[InspectedLine, ...]:
    newest = {line.line: line for line in run.inspections}
    lines = []
    for name, fine_means in inspection_lines(tool.mechanism).items():
        seen = newest.get(name)
        lines.append(InspectedLine(name, fine_means, seen.fine if seen else None, seen.note if seen else ""))
    return tuple(lines)


def _room(run: Run, rules: RuleSet) -> RoomState | None:
    if not run.room:
        return None
    newest = run.room[-1]
    temperatures = [r.temperature for r in run.room]
    return RoomState(
        newest.temperature,
        newest.humidity,
        room_fits(newest.temperature, newest.humidity, rules),
        newest.note,
        max(temperatures) - min(temperatures),
        newest.at,
    )


def room_fits(temperature: float, humidity: float, rules: RuleSet) -> bool:
    """Whether a room is inside the rule set's bounds (ISO 6789-1:2017, 6.1)."""
    return rules.room.coldest <= temperature <= rules.room.warmest and humidity <= rules.room.humidity


def _set_up(run: Run) -> SetUpState | None:
    if not run.set_ups:
        return None
    newest = run.set_ups[-1]
    return SetUpState(reference_facts(newest.reference, newest.certificate), MeterMode(newest.mode), newest.override)


def _exercise(run: Run, tool: ToolFacts, rules: RuleSet) -> tuple[ExerciseState, ...]:
    wanted = rules.exercise if tool.kind.is_setting else 1
    turned = dict.fromkeys(s.direction for s in run.series if s.phase.startswith(AS_FOUND) or s.place)
    return tuple(ExerciseState(d, sum(pull.direction == d for pull in run.exercises), wanted) for d in turned)


def _newest_zero(run: Run, when: str) -> float | None:
    found = [z.torque for z in run.zero_checks if z.when == when and z.series_id is None]
    return found[-1] if found else None


def _after_readings(run: Run, when: str) -> float | None:
    """A look after the readings counts only when it is newer than the last one that was taken in the phase that counts."""
    checks = [z for z in run.zero_checks if z.when == when and z.series_id is None]
    phase = newest_as_left(s.phase for s in run.series)
    left = [s for s in run.series if s.phase == phase]
    counting = left or [s for s in run.series if not s.phase.startswith(("adjust", "as left"))]
    last = max((r.at for s in counting for r in s.readings), default=None)
    if not checks or (last is not None and checks[-1].at < last):
        return None
    if left and last is None:
        return None
    return checks[-1].torque


def _series(series: Series, run: Run) -> SeriesState:
    zeros = {z.when: z.torque for z in run.zero_checks if z.series_id == series.id}
    return SeriesState(
        id=series.id,
        phase=series.phase,
        direction=series.direction,
        target=series.target,
        wanted=series.wanted,
        readings=tuple(_reading(r) for r in series.readings),
        place=series.place,
        turn=series.turn,
        zero_before=zeros.get("before"),
        zero_after=zeros.get("after"),
    )


def _reading(reading: Reading) -> ReadingState:
    trace = reading.trace
    return ReadingState(
        id=reading.id,
        torque=reading.torque,
        at=reading.at,
        source=reading.source,
        struck=reading.strike.reason if reading.strike else "",
        faults=trace.faults if trace else "",
        over_travel=trace.over_travel if trace else None,
    )


def _adjusting(run: Run, tool: ToolFacts, series: tuple[SeriesState, ...], number: int) -> AdjustingState:
    begun = [a for a in run.adjustments if a.begun][-1]
    before = newest_as_left(s.phase for s in series) or AS_FOUND
    first = next(s for s in series if s.phase == before and s.target == begun.target and s.direction == begun.direction)
    steps = (first, *(s for s in series if s.phase == f"adjust {number}"))
    advice, why_not = advice_for(tool, begun.target, steps)
    return AdjustingState(number, begun.target, begun.direction, steps, advice, why_not)


def advice_for(tool: ToolFacts, target: float, steps: tuple[SeriesState, ...]) -> tuple[Advice | None, str]:
    """The advice that the readings so far give, or why there is none."""
    read = [AdjustStep(s.turn or 0.0, s.torques) for s in steps if s.torques]
    if len(read) < len(steps):
        return None, "Read after the turn first."
    facts = tool.adjustment
    try:
        prior = facts.prior_rate if facts else None
        return advise(target, read, prior, facts.most_turns if facts else None), ""
    except InputRefused as refusal:
        if refusal.field == "prior_rate":
            return None, "How much a turn changes is not known for this model: turn an eighth, then read."
        return None, f"{refusal.reason[0].upper()}{refusal.reason[1:]}."


def _effects(session: Session, run: Run, tool: ToolFacts) -> tuple[Effects, str]:
    """The newest characterisation from before the run, of the tool or else of its model, and where it comes from."""
    found = session.scalars(
        select(Characterisation)
        .where(
            or_(Characterisation.tool_id == tool.id, Characterisation.model_id == tool.model_id),
            Characterisation.at <= run.opened_at,
        )
        .order_by(Characterisation.tool_id.is_(None), Characterisation.at.desc())
        .limit(1)
    ).first()
    if found is None:
        return Effects(), ""
    of = "this tool" if found.tool_id else "its model"
    words = f"characterisation of {of}, {found.at:%-d %b %Y}"
    return Effects(found.reproducibility, found.output_drive, found.interface, found.loading_point), words


def earlier_series(session: Session, tool_id: int, before: datetime) -> tuple[EarlierSeries, ...]:
    """The series that counted in the tool's newest signed full run from before ``before``."""
    newest = session.scalars(
        select(Signature)
        .join(Run, Run.id == Signature.run_id)
        .where(Run.tool_id == tool_id, Run.kind == RunKind.FULL.value, Signature.at < before.astimezone(UTC))
        .order_by(Signature.at.desc())
        .limit(1)
    ).first()
    if newest is None:
        return ()
    counted = {r.series_id for r in newest.results}
    series = [s for s in newest.run.series if s.id in counted]
    last = max((s.phase for s in series), default=AS_FOUND, key=lambda phase: (phase.startswith("as left"), phase))
    return tuple(
        EarlierSeries(s.target, s.direction, newest.at.date(), tuple(r.torque for r in s.readings if r.strike is None))
        for s in series
        if s.phase == last
    )


def rule_set_text(name: str, tool: ToolFacts) -> str:
    """The text of a rule set as a run of ``tool`` keeps it. Raises ShopRefused when there is none of that name."""
    try:
        return rulesets.whole_text(name, tool.rule_set)
    except rulesets.RuleSetRefused as refusal:
        raise ShopRefused(str(refusal)) from None
