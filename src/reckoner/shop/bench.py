"""The changes a run goes through. Each writes records, an audit line, and returns the run as it then stands.

The caller commits (``Database.session`` does) before anything is shown.
"""

from __future__ import annotations

from datetime import date

import numpy as np
from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.checks import Values, between, finite
from reckoner.core.due import DueReason, due_date
from reckoner.core.errors import InputRefused
from reckoner.core.kinds import MeterMode
from reckoner.core.printing import number, percent
from reckoner.shop.acts import Act, ShopRefused, note
from reckoner.shop.facts import newest_certificate, reference_facts, tool_facts
from reckoner.shop.references import weigh
from reckoner.shop.register import open_runs
from reckoner.shop.run import RunState, Step, inspection_lines, load, plan, room_fits, rule_set_text, rules_from
from reckoner.shop.wording import run_sentence
from reckoner.store.schema import (
    Abandonment,
    ExercisePull,
    InspectionLine,
    PointResult,
    Reading,
    Reference,
    RoomReading,
    Run,
    Series,
    SetUp,
    Signature,
    Strike,
    Tool,
    ToolEvent,
    Trace,
    ZeroCheck,
)

MISTYPED = 0.5
"""A reading further than this fraction from its target is refused as a slip of the hand or the wrong unit."""


def open_run(session: Session, tool_id: int, act: Act, *, kind: str = "full") -> RunState:
    """Put a tool on the bench, or go on with the run it is already in.

    Raises ShopRefused when the tool is lent out or its rule set cannot test it.
    """
    begun = open_runs(session).get(tool_id)
    if begun is not None:
        return load(session, begun)
    tool = session.get_one(Tool, tool_id)
    facts = tool_facts(tool)
    text = rule_set_text(facts.rule_set)
    rules = rules_from(text, facts.rule_set)
    wanted = plan(facts, rules)
    run = Run(
        tool=tool,
        kind=kind,
        rule_set=rules.name,
        rule_set_text=text,
        opened_at=act.at,
        person_id=act.person_id,
    )
    for position, (direction, target, count) in enumerate(wanted):
        run.series.append(Series(phase="as found", direction=direction, position=position, target=target, wanted=count))
    session.add(run)
    session.flush()
    note(session, act, "put on the bench", facts.number, run=run.id, rule_set=rules.name)
    return _reload(session, run.id)


def look_over(session: Session, run_id: int, line: str, fine: bool, reason: str, act: Act) -> RunState:
    """Answer one line of the look-over; not fine needs a ``reason`` to go on. Raises ShopRefused."""
    state = _open(session, run_id)
    if line not in inspection_lines(state.tool.mechanism):
        raise ShopRefused(f'There is no line "{line}" in the look-over of this tool.')
    session.add(InspectionLine(run_id=run_id, at=act.at, line=line, fine=fine, note=reason.strip()))
    note(session, act, "looked over", state.tool.number, line=line, fine=fine, note=reason.strip())
    return _reload(session, run_id)


def record_room(session: Session, run_id: int, temperature: float, humidity: float, reason: str, act: Act) -> RunState:
    """Record °C and relative humidity (fraction). Raises ShopRefused when outside the rule set's room and no reason is
    given."""
    state = _open(session, run_id)
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
    session.add(RoomReading(run_id=run_id, at=act.at, temperature=temperature, humidity=humidity, note=reason.strip()))
    note(session, act, "recorded the room", state.tool.number, temperature=temperature, humidity=humidity)
    return _reload(session, run_id)


def choose_reference(
    session: Session, run_id: int, reference_id: int, reason: str, act: Act, mode: MeterMode | None = None
) -> RunState:
    """Choose the meter. One that does not suit needs a ``reason``. Raises ShopRefused, also once readings exist."""
    state = _open(session, run_id)
    if any(s.readings for s in state.series):
        raise ShopRefused("This run has readings from its reference. Give the run up and begin anew to change it.")
    reference = session.get_one(Reference, reference_id)
    certificate = newest_certificate(reference)
    facts = reference_facts(reference, certificate)
    if certificate is None or not facts.points:
        raise ShopRefused(f"{facts.number} has no certificate, so it cannot judge a tool.")
    for series in state.series:
        try:
            facts.at(series.target)
        except InputRefused as refusal:
            raise ShopRefused(f"{facts.number} cannot be used: {refusal.reason}.") from None
    against = weigh(facts, state.tool, state.rules, act.at.date()).against
    if against and not reason.strip():
        raise ShopRefused(f"{facts.number} does not suit: {'; '.join(against)}. Take another, or give the reason.")
    chosen = mode or state.tool.implies.mode
    session.add(
        SetUp(
            run_id=run_id, at=act.at, reference_id=reference_id, certificate_id=certificate.id, mode=chosen.value,
            override=reason.strip(),
        )
    )  # fmt: skip
    note(session, act, "chose the reference", state.tool.number, reference=facts.number, reason=reason.strip())
    return _reload(session, run_id)


def record_zero(session: Session, run_id: int, when: str, torque: float, act: Act) -> RunState:
    """What the meter shows with nothing on it, in N·m, ``when`` "before" or "after" the series.

    Raises ShopRefused before it when the zero is beyond the meter's tolerance: it has to be zeroed first.
    """
    state = _open(session, run_id)
    if state.set_up is None:
        raise ShopRefused("Choose the reference first.")
    allowed = state.set_up.reference.zero_tolerance
    if when == "before" and abs(torque) > allowed * (1 + 1e-12):
        shown = f"{number(torque)} N·m with nothing on it; {number(allowed)} N·m is allowed"
        raise ShopRefused(f"{state.set_up.reference.number} shows {shown}. Zero it and look again.")
    session.add(ZeroCheck(run_id=run_id, at=act.at, when=when, torque=torque, allowed=allowed))
    note(session, act, f"checked the zero {when}", state.tool.number, torque=torque)
    return _reload(session, run_id)


def record_exercise(session: Session, run_id: int, torque: float | None, act: Act) -> RunState:
    """Count one exercise release, with the torque (N·m) where the meter saw it. Raises ShopRefused when none is wanted."""
    state = _open(session, run_id)
    exercising = state.exercising
    if exercising is None:
        raise ShopRefused("The exercise is complete.")
    session.add(ExercisePull(run_id=run_id, at=act.at, direction=exercising.direction, torque=torque))
    return _reload(session, run_id)


def record_reading(
    session: Session,
    run_id: int,
    torque: float,
    source: str,
    act: Act,
) -> RunState:
    """Add a reading in N·m to the series that is next.

    Raises ShopRefused when no reading is wanted now or the value cannot be one of this target's.
    """
    state = _open(session, run_id)
    series = state.current
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
    reading = Reading(series_id=series.id, at=act.at, person_id=act.person_id, torque=value, source=source)
    session.add(reading)
    session.flush()
    note(session, act, "took a reading", state.tool.number, reading=reading.id, torque=value, source=source)
    return _reload(session, run_id)


def keep_trace(session: Session, run_id: int, torque: float, samples: Values, rate: float) -> bool:
    """Keep the trace of the pull that gave the newest reading of ``torque``; False when there is none without one.

    The reading itself was kept at its signal, before the pull was over. ``samples`` in N·m, ``rate`` a second.
    """
    newest = session.scalars(
        select(Reading).join(Series).where(Series.run_id == run_id).order_by(Reading.id.desc()).limit(1)
    ).first()
    if newest is None or newest.torque != torque or newest.trace is not None:
        return False
    session.add(Trace(reading_id=newest.id, rate=rate, samples=np.asarray(samples, dtype="<f4").tobytes()))
    return True


def strike_reading(session: Session, run_id: int, reading_id: int, reason: str, act: Act) -> RunState:
    """Strike a reading out; it stays visible. Raises ShopRefused without a reason or when it is struck already."""
    state = _open(session, run_id)
    if not reason.strip():
        raise ShopRefused("Say why the reading is struck, such as “pulled too fast”.")
    reading = next((r for s in state.series for r in s.readings if r.id == reading_id), None)
    if reading is None or reading.struck:
        raise ShopRefused("That reading is not there or is struck already.")
    session.add(Strike(reading_id=reading_id, at=act.at, person_id=act.person_id, reason=reason.strip()))
    note(session, act, "struck a reading", state.tool.number, reading=reading_id, reason=reason.strip())
    return _reload(session, run_id)


def sign(session: Session, run_id: int, act: Act) -> RunState:
    """Sign the run: keep its results, set the due date or hold the tool. Raises ShopRefused while a step is open."""
    conclude(session, _open(session, run_id), act)
    return _reload(session, run_id)


def conclude(session: Session, state: RunState, act: Act) -> None:
    """What ``sign`` writes, for a run that is loaded already. Raises ShopRefused while a step is open."""
    for step in (Step.LOOK_OVER, Step.SET_UP, Step.EXERCISE, Step.AS_FOUND):
        if state.wants(step):
            raise ShopRefused(f"It cannot be signed yet: {step}, {state.wants(step)}.")
    today = act.at.date()
    found = state.verdict(today)
    if found is None:
        raise ShopRefused("It cannot be signed yet: there are too few readings.")
    sentence = run_sentence(state.tool, found)
    renews = found.accepted is True and state.rules.renews_due_date
    signature = Signature(
        run_id=state.id,
        at=act.at,
        person_id=act.person_id,
        state=found.state.value,
        accepted=found.accepted,
        sentence=sentence,
        rule=found.decision.rule.value,
        limit=found.limit,
        due=next_due(state, today) if renews else None,
        due_reason=DueReason.CALENDAR.value if renews else "",
    )
    for series, point in zip(state.series, found.points, strict=True):
        signature.results.append(
            PointResult(
                series_id=series.id,
                target=point.target,
                direction=series.direction,
                deviation=point.budget.deviation,
                worst=point.budget.worst,
                expanded_uncertainty=point.budget.expanded_uncertainty,
                reference_error=point.budget.reference_error,
                probability=point.decision.probability,
                state=point.decision.state.value,
            )
        )
    session.add(signature)
    _hold_or_release(session, state, found.accepted, sentence, act)
    note(session, act, "signed the run", state.tool.number, run=state.id, state=found.state.value, sentence=sentence)


def next_due(state: RunState, today: date) -> date:
    """The due date that signing ``today`` sets: the tool's own interval, else the rule set's."""
    return due_date(today, today=today, months=state.tool.interval_months or state.rules.months).on


def _hold_or_release(session: Session, state: RunState, accepted: bool | None, sentence: str, act: Act) -> None:
    newest = session.scalar(
        select(ToolEvent)
        .where(ToolEvent.tool_id == state.tool.id, ToolEvent.kind.in_(("held", "released")))
        .order_by(ToolEvent.id.desc())
        .limit(1)
    )
    held = newest is not None and newest.kind == "held"
    if accepted is False:
        kind, words = "held", f"as found: {sentence}"
    elif accepted is True and held:
        kind, words = "released", "a full run accepted it"
    else:
        return
    session.add(ToolEvent(tool_id=state.tool.id, at=act.at, person_id=act.person_id, kind=kind, note=words))


def give_up(session: Session, run_id: int, reason: str, act: Act) -> RunState:
    """End a run without a result; its readings stay. Raises ShopRefused without a reason."""
    state = _open(session, run_id)
    if not reason.strip():
        raise ShopRefused("Say why the run is given up.")
    session.add(Abandonment(run_id=run_id, at=act.at, person_id=act.person_id, reason=reason.strip()))
    note(session, act, "gave the run up", state.tool.number, run=run_id, reason=reason.strip())
    return _reload(session, run_id)


def _open(session: Session, run_id: int) -> RunState:
    state = load(session, run_id)
    if state.signed:
        raise ShopRefused("This run is signed. What is signed is never changed.")
    if state.abandoned:
        raise ShopRefused("This run was given up. Put the tool on the bench again.")
    return state


def _reload(session: Session, run_id: int) -> RunState:
    session.flush()
    session.expire_all()
    return load(session, run_id)
