"""The changes a run goes through. Each writes records, an audit line, and returns the run as it then stands.

The caller commits (``Database.session`` does) before anything is shown.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.checks import Values, between, finite
from reckoner.core.errors import InputRefused, UnreachableError
from reckoner.core.kinds import MeterMode
from reckoner.core.printing import number, percent
from reckoner.shop.acts import Act, ShopRefused, note
from reckoner.shop.facts import newest_certificate, reference_facts, tool_facts
from reckoner.shop.inspection import inspection_lines
from reckoner.shop.planning import Plan, check, planned_series, propose, settled_points, warnings
from reckoner.shop.references import weigh
from reckoner.shop.register import open_runs
from reckoner.shop.run import RunKind, RunState, Step
from reckoner.shop.runload import load, room_fits, rule_set_text, rules_from, with_new_reading
from reckoner.shop.wording import DIRECTIONS
from reckoner.store.schema import (
    Abandonment,
    ExercisePull,
    InspectionLine,
    Reading,
    Reference,
    RoomReading,
    Run,
    Series,
    SetUp,
    Strike,
    Tool,
    Trace,
    ZeroCheck,
)

EXERCISE_LEVEL = 0.8
"""An exercise release below this fraction of full scale does not count."""

MISTYPED = 0.5
"""A reading further than this fraction from its target is refused as a slip of the hand or the wrong unit."""


@dataclass(frozen=True)
class Pull:
    """A pull that is over: the torque (N·m) of the reading it gave, its trace at ``rate`` samples a second, and what the
    trace shows of the hand. ``over_travel`` a fraction, times in s."""

    torque: float
    samples: Values
    rate: float
    faults: tuple[str, ...] = ()
    over_travel: float | None = None
    time_80_to_100: float | None = None


def open_run(session: Session, tool_id: int, act: Act, plan: Plan | None = None) -> RunState:
    """Put a tool on the bench, or go on with the run it is already in. Without a ``plan`` the proposal for a full run holds.

    Raises ShopRefused when the tool is retired, its rule set cannot test it, or a changed plan lacks its reason.
    """
    begun = open_runs(session).get(tool_id)
    if begun is not None:
        return load(session, begun)
    tool = session.get_one(Tool, tool_id)
    facts = tool_facts(tool)
    if any(e.kind == "retired" for e in tool.events):
        raise ShopRefused(f"{facts.number} is retired. It is not tested any more.")
    proposal = propose(session, tool_id, act.at.date(), None if plan else RunKind.FULL)
    plan = settled_points(session, plan or proposal.plan, facts, act)
    check(plan, facts)
    misleads = warnings(proposal, plan)
    if misleads and not plan.note.strip():
        raise ShopRefused(f"{misleads[0]} Give the reason, or keep what is proposed.")
    text = rule_set_text(plan.rule_set, facts)
    rules = rules_from(text, plan.rule_set)
    run = Run(
        tool=tool,
        kind=plan.kind.value,
        rule_set=rules.name,
        rule_set_text=text,
        opened_at=act.at,
        person_id=act.person_id,
        rule=plan.rule,
        mode=plan.mode,
        adapter=plan.adapter,
        plan_note=plan.note.strip(),
        event_id=plan.event_id,
    )
    for position, (phase, direction, target, count, place) in enumerate(planned_series(plan)):
        run.series.append(
            Series(phase=phase, direction=direction, position=position, target=target, wanted=count, place=place)
        )
    session.add(run)
    session.flush()
    note(session, act, "put on the bench", facts.number, run=run.id, kind=run.kind, rule_set=rules.name, why=plan.note)
    return reload(session, run.id)


def look_over(session: Session, run_id: int, line: str, fine: bool, reason: str, act: Act) -> RunState:
    """Answer one line of the look-over; not fine needs a ``reason`` to go on. Raises ShopRefused."""
    state = opened(session, run_id)
    if line not in inspection_lines(state.tool.mechanism):
        raise ShopRefused(f'There is no line "{line}" in the look-over of this tool.')
    session.add(InspectionLine(run_id=run_id, at=act.at, line=line, fine=fine, note=reason.strip()))
    note(session, act, "looked over", state.tool.number, line=line, fine=fine, note=reason.strip())
    return reload(session, run_id)


def record_room(
    session: Session, run_id: int, temperature: float, humidity: float, reason: str, act: Act, source: str = "typed"
) -> RunState:
    """Record °C and relative humidity (fraction). Raises ShopRefused when outside the rule set's room, or drifted further
    than it allows since the run began, and no reason is given."""
    state = opened(session, run_id)
    try:
        between("temperature", temperature, -20, 60, "°C")
        between("humidity", humidity * 100, 0, 100, "%")
    except InputRefused as refusal:
        raise ShopRefused(f"The {refusal.field} {refusal.reason}.") from None
    room = state.rules.room
    if not room_fits(temperature, humidity, state.rules) and not reason.strip():
        raise ShopRefused(
            f"{state.rules.title} wants {room.coldest:g} to {room.warmest:g} °C and at most "
            f"{percent(room.humidity, 0)}. Wait until the room is fit, or give the reason to go on."
        )
    if state.room is not None and not reason.strip() and source == "typed":  # "again", at the end, is told instead
        drift = max(state.room.drift, abs(temperature - state.room.temperature))
        if drift > room.drift * (1 + 1e-9):
            raise ShopRefused(
                f"The room has drifted by {drift:.1f} °C; {state.rules.title} allows {room.drift:g} °C during a run. "
                "Give the reason to keep the readings, or take them anew."
            )
    session.add(
        RoomReading(
            run_id=run_id, at=act.at, temperature=temperature, humidity=humidity, note=reason.strip(), source=source
        )
    )  # fmt: skip
    note(session, act, "recorded the room", state.tool.number, temperature=temperature, humidity=humidity)
    return reload(session, run_id)


def choose_reference(
    session: Session, run_id: int, reference_id: int, reason: str, act: Act, mode: MeterMode | None = None
) -> RunState:
    """Choose the meter. One that does not suit needs a ``reason``. Raises ShopRefused, also once readings exist."""
    state = opened(session, run_id)
    if any(s.readings for s in state.all_series):
        raise ShopRefused("This run has readings from its reference. Give the run up and begin anew to change it.")
    reference = session.get_one(Reference, reference_id)
    certificate = newest_certificate(reference)
    facts = reference_facts(reference, certificate)
    if certificate is None or not facts.points:
        raise ShopRefused(f"{facts.number} has no certificate, so it cannot judge a tool.")
    for series in state.found:
        try:
            facts.at(series.target)
        except InputRefused as refusal:
            raise ShopRefused(f"{facts.number} cannot be used: {refusal.reason}.") from None
    points = tuple(sorted({s.target for s in state.found}))
    against = weigh(facts, state.tool, state.rules, act.at.date(), points).against
    if against and not reason.strip():
        raise ShopRefused(f"{facts.number} does not suit: {'; '.join(against)}. Take another, or give the reason.")
    chosen = mode or state.meter_mode
    session.add(
        SetUp(
            run_id=run_id, at=act.at, reference_id=reference_id, certificate_id=certificate.id, mode=chosen.value,
            override=reason.strip(),
        )
    )  # fmt: skip
    note(session, act, "chose the reference", state.tool.number, reference=facts.number, reason=reason.strip())
    return reload(session, run_id)


def record_zero(
    session: Session, run_id: int, when: str, torque: float, act: Act, series_id: int | None = None
) -> RunState:
    """What the meter shows with nothing on it, in N·m, ``when`` "before" or "after" the readings, or one series of them;
    "pointer before" and "pointer after" are what the tool's own pointer shows.

    Raises ShopRefused before it when the zero is beyond the meter's tolerance: it has to be zeroed first.
    """
    state = opened(session, run_id)
    if when.startswith("pointer"):
        return _record_pointer(session, state, when, torque, act)
    if state.set_up is None:
        raise ShopRefused("Choose the reference first.")
    allowed = state.set_up.reference.zero_tolerance
    if when == "before" and abs(torque) > allowed * (1 + 1e-12):
        shown = f"{number(torque)} N·m with nothing on it; {number(allowed)} N·m is allowed"
        raise ShopRefused(f"{state.set_up.reference.number} shows {shown}. Zero it and look again.")
    session.add(ZeroCheck(run_id=run_id, at=act.at, when=when, torque=torque, allowed=allowed, series_id=series_id))
    note(session, act, f"checked the zero {when}", state.tool.number, torque=torque, series=series_id)
    return reload(session, run_id)


def note_rest(session: Session, run_id: int, torque: float, act: Act, *, over: bool) -> RunState:
    """The meter rested at ``torque`` (N·m), before the pull that gave the newest reading, or after it when that is ``over``.

    It is the zero before the series begun last, and after every complete one that lies behind it.
    """
    state = opened(session, run_id)
    begun = [s for s in state.series if s.readings]
    newest = max(begun, key=lambda s: s.readings[-1].id, default=None)
    for series in begun:
        when = ""
        if series is newest and not over:
            when = "before" if series.zero_before is None else ""
        elif not series.missing and series.zero_after is None:
            when = "after"
        if when and state.set_up is not None:
            allowed = state.set_up.reference.zero_tolerance
            check = ZeroCheck(run_id=run_id, at=act.at, when=when, torque=torque, allowed=allowed, series_id=series.id)
            session.add(check)
    return reload(session, run_id)


def _record_pointer(session: Session, state: RunState, when: str, torque: float, act: Act) -> RunState:
    allowed = state.tool.kind.resolution
    if when == "pointer before" and abs(torque) > allowed * (1 + 1e-9):
        raise ShopRefused(
            f"The pointer stands {number(state.tool.unit.from_si(torque))} {state.tool.unit.symbol} off zero. Set it to "
            "zero as the maker says, or strike the look-over's line and hold the tool."
        )
    session.add(ZeroCheck(run_id=state.id, at=act.at, when=when, torque=torque, allowed=allowed))
    note(session, act, f"looked at the {when}", state.tool.number, torque=torque)
    return reload(session, state.id)


def record_exercise(
    session: Session, run_id: int, torque: float | None, act: Act, turned: str | None = None
) -> RunState:
    """Count one exercise release, with the torque (N·m) where the meter saw it, and which way it ``turned``.

    Raises ShopRefused when none is wanted, when it turned the other way, or went nowhere near full scale.
    """
    state = opened(session, run_id)
    exercising = state.exercising
    if exercising is None:
        raise ShopRefused("The exercise is complete.")
    _right_way(state, turned)
    if torque is not None and abs(torque) < EXERCISE_LEVEL * state.exercise_target:
        got, full = (number(state.tool.unit.from_si(t)) for t in (abs(torque), state.exercise_target))
        raise ShopRefused(
            f"That release was at {got} {state.tool.unit.symbol}; exercise at full scale, {full}. Set it and pull again."
        )
    session.add(ExercisePull(run_id=run_id, at=act.at, direction=exercising.direction, torque=torque))
    return reload(session, run_id)


def record_reading(
    session: Session,
    run_id: int,
    torque: float,
    source: str,
    act: Act,
    turned: str | None = None,
) -> RunState:
    """Add a reading in N·m to the series that is next.

    Raises ShopRefused when no reading is wanted now or the value cannot be one of this target's.
    """
    row = session.get(Run, run_id)  # held, so that what is loaded once stays loaded: a hand waits for this
    state = opened(session, run_id)
    if row is None:
        raise UnreachableError(run_id)
    series = state.current
    _right_way(state, turned)
    if state.adjusting is not None and series is None:
        raise ShopRefused("Turn the screw first, then read.")
    if state.wants(Step.LOOK_OVER) or state.wants(Step.SET_UP) or state.wants(Step.EXERCISE):
        raise ShopRefused(f"First: {state.step}, {state.wants(state.step)}.")
    if series is None:
        raise ShopRefused("All readings of this run are taken. Strike one to take it anew.")
    value = finite("reading", torque)
    if not series.target * (1 - MISTYPED) < value < series.target * (1 + MISTYPED):
        shown, aim = number(state.tool.unit.from_si(value)), number(state.tool.unit.from_si(series.target))
        raise ShopRefused(
            f"{shown} {state.tool.unit.symbol} cannot be a reading at {aim} {state.tool.unit.symbol}. "
            "Check the value and its unit, and that the tool is set right."
        )
    reading = Reading(
        at=act.at, person_id=act.person_id, torque=value, source=source, strike=None, trace=None
    )  # fmt: skip
    next(s for s in row.series if s.id == series.id).readings.append(reading)
    session.flush()
    note(session, act, "took a reading", state.tool.number, reading=reading.id, torque=value, source=source)
    return with_new_reading(state, row)


def keep_trace(session: Session, run_id: int, pull: Pull) -> RunState | None:
    """Keep the trace of the pull that gave the newest reading, with the faults found in it; None when there is none
    without one.

    The reading itself was kept at its signal, before the pull was over.
    """
    newest = session.scalars(
        select(Reading).join(Series).where(Series.run_id == run_id).order_by(Reading.id.desc()).limit(1)
    ).first()
    if newest is None or newest.torque != abs(pull.torque) or newest.trace is not None:
        return None
    session.add(
        Trace(
            reading_id=newest.id,
            rate=pull.rate,
            samples=np.asarray(pull.samples, dtype="<f4").tobytes(),
            faults=", ".join(pull.faults),
            over_travel=pull.over_travel,
            time_80_to_100=pull.time_80_to_100,
        )
    )
    return reload(session, run_id)


def strike_reading(session: Session, run_id: int, reading_id: int, reason: str, act: Act) -> RunState:
    """Strike a reading out; it stays visible. Raises ShopRefused without a reason or when it is struck already."""
    state = opened(session, run_id)
    if not reason.strip():
        raise ShopRefused("Say why the reading is struck, such as “pulled too fast”.")
    open_now = (*state.series, *(state.adjusting.steps[1:] if state.adjusting else ()))
    if state.adjusting or (state.left and not any(r.id == reading_id for s in state.left for r in s.readings)):
        open_now = state.adjusting.steps[1:] if state.adjusting else ()
    reading = next((r for s in open_now for r in s.readings if r.id == reading_id), None)
    if reading is None or reading.struck:
        raise ShopRefused("That reading is not there or is struck already.")
    session.add(Strike(reading_id=reading_id, at=act.at, person_id=act.person_id, reason=reason.strip()))
    note(session, act, "struck a reading", state.tool.number, reading=reading_id, reason=reason.strip())
    return reload(session, run_id)


def give_up(session: Session, run_id: int, reason: str, act: Act) -> RunState:
    """End a run without a result; its readings stay. Raises ShopRefused without a reason."""
    state = opened(session, run_id)
    if not reason.strip():
        raise ShopRefused("Say why the run is given up.")
    session.add(Abandonment(run_id=run_id, at=act.at, person_id=act.person_id, reason=reason.strip()))
    note(session, act, "gave the run up", state.tool.number, run=run_id, reason=reason.strip())
    return reload(session, run_id)


def _right_way(state: RunState, turned: str | None) -> None:
    """Raises ShopRefused for a pull that ``turned`` the other way; None where the meter does not tell."""
    if turned is not None and turned != state.direction:
        raise ShopRefused(
            f"That was pulled {DIRECTIONS[turned]}; this series is {DIRECTIONS[state.direction]}. Nothing was taken."
        )


def opened(session: Session, run_id: int) -> RunState:
    """A run that can still be changed. Raises ShopRefused for one that is signed or given up."""
    state = load(session, run_id)
    if state.signed:
        raise ShopRefused("This run is signed. What is signed is never changed.")
    if state.abandoned:
        raise ShopRefused("This run was given up. Put the tool on the bench again.")
    return state


def reload(session: Session, run_id: int) -> RunState:
    """The run as its records now stand, read anew."""
    session.flush()
    session.expire_all()
    return load(session, run_id)
