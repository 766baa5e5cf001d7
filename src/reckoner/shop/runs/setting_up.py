"""Look over and set up: each answer, the room, the reference and the zeros, committed before they are shown."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.checks import at_most, between
from reckoner.core.quantities.entry import ROOM
from reckoner.core.quantities.printing import number, percent
from reckoner.core.requirements.tooltypes import MeterMode
from reckoner.core.translation import tr
from reckoner.shop.changes import ChangeKind, changed
from reckoner.shop.facts.judged import ReferenceFacts, newest_certificate, reference_facts, standing_in_line
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.people.authorship import Act, ShopRefused, note
from reckoner.shop.people.rights import command, require
from reckoner.shop.procedures import PROCEDURES
from reckoner.shop.procedures.tries import TripFinding
from reckoner.shop.procedures.weights import detail_of, possible, wants_a_step, with_step
from reckoner.shop.references.crosschecks import facts_on
from reckoner.shop.register import rows
from reckoner.shop.runs.inspection import asked_of
from reckoner.shop.runs.loading import keep_facts, room_fits, with_inspection
from reckoner.shop.runs.needs import Need
from reckoner.shop.runs.opening import opened, opened_as, reload
from reckoner.shop.runs.records import NOTHING
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.steps import wants_now
from reckoner.shop.setups.gauging import PullFacts, check_pull
from reckoner.shop.setups.hanging import LeverFacts, check_lever, hung_words
from reckoner.shop.setups.inline import InLineFacts, check_in_line, in_line
from reckoner.store.schema import InspectionLine, Reference, RoomReading, SetUp, ZeroCheck
from reckoner.store.terms import ReferenceKind, RegisterKind, Right, RoomSource, ZeroMoment, ZeroOf


@command
def look_over(
    session: Session, run_id: int, line: str, fine: bool, reason: str, act: Act, known: RunState | None = None
) -> RunState:
    """Answer one line of the look-over; not fine needs a ``reason`` to go on. The run as it is ``known`` is gone by when it
    still is what the database holds. Raises ShopRefused. Changes: runs.
    Right beside: allow."""
    state = opened_as(session, run_id, known)
    if line not in asked_of(state.tool):
        raise ShopRefused(tr('There is no line "{line}" in the look-over of this tool.', line=line))
    if not fine and reason.strip():
        require(session, act, Right.ALLOW)
    answered = InspectionLine(run_id=run_id, at=act.at, line=line, fine=fine, note=reason.strip())
    session.add(answered)
    session.flush()
    note(session, act, tr("looked over"), state.tool.number, line=line, fine=fine, note=reason.strip())
    changed(session, ChangeKind.RUNS, run_id, act.person_id)
    return with_inspection(state, answered)


@command
def look_over_all(session: Session, run_id: int, act: Act) -> RunState:
    """Nothing is wrong at a glance: every line that was not looked at yet is fine. Raises ShopRefused. Changes: runs."""
    state = opened(session, run_id)
    for line in state.inspection:
        if line.fine is None:
            session.add(InspectionLine(run_id=run_id, at=act.at, line=line.line, fine=True, note=""))
    note(session, act, tr("looked over at a glance"), state.tool.number)
    return reload(session, run_id, act)


ROOM_HOLDS = timedelta(hours=1)
"""A room that was looked at for another run no longer ago is taken for a check."""


def take_earlier_room(session: Session, state: RunState, act: Act) -> RunState:
    """For a run that asks for what is not known alone: the room as it was looked at within the last hour, where it is fit.
    Raises ShopRefused. Changes: runs. Right: none."""
    if not state.policy.glance or state.room_said:
        return state
    newest = session.scalar(
        select(RoomReading).where(
            RoomReading.at >= act.at - ROOM_HOLDS, RoomReading.at <= act.at, RoomReading.temperature.is_not(None)
        )
        .order_by(RoomReading.at.desc(), RoomReading.id.desc()).limit(1)
    )  # fmt: skip
    if newest is None or newest.temperature is None or newest.humidity is None:
        return state
    if not room_fits(newest.temperature, newest.humidity, state.rules):
        return state
    ago = round((act.at - newest.at).total_seconds() / 60)
    session.add(
        RoomReading(
            run_id=state.id, at=act.at, temperature=newest.temperature, humidity=newest.humidity,
            note=tr("as it was {ago} minutes before", ago=ago), source=RoomSource.EARLIER,
        )
    )  # fmt: skip
    note(session, act, tr("took the room of before"), state.tool.number, minutes=ago)
    return reload(session, state.id, act)


@command
def record_room(
    session: Session,
    run_id: int,
    temperature: float,
    humidity: float,
    reason: str,
    act: Act,
    source: RoomSource = RoomSource.TYPED,
) -> RunState:
    """Record °C and relative humidity (fraction). Raises ShopRefused when outside the rule set's room, or drifted further
    than it allows since the run began, and no reason is given; a drift found at the end of the readings is told instead.
    Changes: runs."""
    state = opened(session, run_id)
    try:
        between("temperature", temperature, *ROOM, "°C")
        between("humidity", humidity * 100, 0, 100, "%")
    except InputRefused as refusal:
        raise ShopRefused(tr("The {field} {reason}.", field=refusal.field, reason=refusal.reason)) from None
    room, own = state.rules.room, state.tool.own_units
    if not room_fits(temperature, humidity, state.rules) and not reason.strip():
        raise ShopRefused(
            tr(
                "{title} wants {coldest} to {warmest} and at most {humidity}. Wait until the room is "
                "fit, or give the reason to go on.",
                title=state.rules.title,
                coldest=own.temperature_words(room.coldest),
                warmest=own.temperature_words(room.warmest),
                humidity=percent(room.humidity, 0),
            )
        )
    at_the_end = wants_now(state, Need.ROOM_AGAIN)
    if state.room is not None and not reason.strip() and source is RoomSource.TYPED and not at_the_end:
        drift = max(state.room.drift, abs(temperature - state.room.temperature))
        if not at_most(drift, room.drift):
            raise ShopRefused(
                tr(
                    "The room has drifted by {drift}; {title} allows {drift_2} during a run. Give the "
                    "reason to keep the readings, or take them anew.",
                    drift=own.degrees_words(drift, 1),
                    title=state.rules.title,
                    drift_2=own.degrees_words(room.drift),
                )
            )
    session.add(
        RoomReading(
            run_id=run_id, at=act.at, temperature=temperature, humidity=humidity, note=reason.strip(), source=source
        )
    )  # fmt: skip
    note(session, act, tr("recorded the room"), state.tool.number, temperature=temperature, humidity=humidity)
    return reload(session, run_id, act)


@command
def record_room_not_measured(session: Session, run_id: int, act: Act) -> RunState:
    """Record that nobody measured the room: a full run then decides nothing by its rule set, a quick check loses nothing.
    Raises ShopRefused where it was measured. Changes: runs."""
    state = opened(session, run_id)
    if state.room is not None:
        raise ShopRefused(tr("The room was measured in this run already; what was measured stays."))
    session.add(RoomReading(run_id=run_id, at=act.at, source=RoomSource.TYPED))
    note(session, act, tr("recorded that the room was not measured"), state.tool.number)
    return reload(session, run_id, act)


@command
def choose_reference(
    session: Session,
    run_id: int,
    reference_id: int,
    reason: str,
    act: Act,
    mode: MeterMode | None = None,
    line: InLineFacts | None = None,
) -> RunState:
    """Choose the reference, which may stand in ``line`` with another; what it is now is kept with the run. One that does
    not suit needs a ``reason``; with one that is not proven the run is a shop check. Raises ShopRefused, also once readings
    exist. Changes: runs.
    Right beside: allow."""
    state = opened(session, run_id)
    if any(s.observations for s in state.all_series):
        raise ShopRefused(tr("This run has readings from its reference. Give the run up and begin anew to change it."))
    row = session.get_one(Reference, reference_id)
    certificate = newest_certificate(row, act.at.date())
    facts = facts_on(session, row, act.at.date())
    if line is not None:
        facts = standing_in_line(facts, line)
    procedure = PROCEDURES[facts.kind]
    for series in state.found:
        try:
            procedure.at(facts, series.target, NOTHING)
        except InputRefused as refusal:
            raise ShopRefused(
                tr("{number} cannot be used: {reason}.", number=facts.number, reason=refusal.reason)
            ) from None
    points = tuple(sorted({s.target for s in state.found}))
    against = procedure.weigh(facts, state.tool, state.rules, act.at.date(), points).against
    if against and not reason.strip():
        raise ShopRefused(
            tr(
                "{number} does not suit: {list}. Take another, or give the reason.",
                number=facts.number,
                list="; ".join(against),
            )
        )
    if against:
        require(session, act, Right.ALLOW)
    session.add(
        SetUp(
            run_id=run_id, at=act.at, reference_id=reference_id,
            certificate_id=certificate.id if certificate is not None else None,
            mode=mode or state.meter_mode, override=reason.strip(),
        )
    )  # fmt: skip
    keep_facts(session, run_id, replace(state.facts, reference=facts), act.at)
    note(session, act, tr("chose the reference"), state.tool.number, reference=facts.number, reason=reason.strip())
    return take_earlier_room(session, reload(session, run_id, act), act)


WEIGHTS, GAUGE = tr("Weights"), tr("Force gauge")
"""What the shop's weights, and its gauges, are called as a reference."""

MOST_TORQUE = 2000.0
"""No hand tool goes further, in N·m."""


@command
def hang(
    session: Session, run_id: int, lever: LeverFacts, act: Act, finding: TripFinding | None = None, step: float = 0.0
) -> RunState:
    """Set the run up with known weights: what hangs where is kept with it, and how the trip is found (``finding``; the usual
    way for the tool unless it is said). ``step`` in N·m is one of the tool's scale, where the register does not know it. A
    stamp alone makes it a shop check. Raises ShopRefused for what cannot hang so, for a way that does not serve the tool,
    also once readings exist. Changes: runs, the register."""
    state = _without_readings(session, run_id)
    tool = with_step(state.tool, step) if step and wants_a_step(state.tool) else state.tool
    if lever.pivot and tool.pin_unknown:
        tool = replace(tool, pivot=lever.pivot)  # found with two hooks while it was set up
    check_lever(lever, tool, tuple(s.target for s in state.found))
    serve = possible(tool)
    finding = finding or serve[0]
    if finding not in serve:
        raise ShopRefused(CANNOT_FIND[finding])
    if finding is TripFinding.WEIGHTS and not all(at.rungs for at in lever.points):
        raise ShopRefused(TOO_FEW_WEIGHTS)
    facts = replace(_lever_reference(session, ReferenceKind.WEIGHTS, WEIGHTS, act), set_up=lever)
    note(
        session,
        act,
        tr("hung weights"),
        state.tool.number,
        what="; ".join(hung_words(at, tool.own_units) for at in lever.points),
    )
    return _set_up(session, state, facts, detail_of(tool, finding), act, tool)


CANNOT_FIND = {
    TripFinding.SETTING: tr("It has no scale to be set by: move the hook or add weights instead."),
    TripFinding.HOOK: tr("Where its pin is was never said, so it hangs at the grip mark alone: add weights instead."),
    TripFinding.WEIGHTS: tr("An indicating tool is read while the weight hangs."),
}
TOO_FEW_WEIGHTS = tr(
    "There are too few small weights to find it by adding them: add some to the register, or move the hook."
)


@command
def pull_with(session: Session, run_id: int, pull: PullFacts, act: Act) -> RunState:
    """Set the run up with a force gauge or hanging scale that pulls on the lever. One that was not looked at with a known
    weight, or of unknown worth, makes it a shop check. Raises ShopRefused as ``hang`` does. Changes: runs, the register."""
    state = _without_readings(session, run_id)
    check_pull(pull, state.tool, tuple(s.target for s in state.found))
    facts = replace(_lever_reference(session, ReferenceKind.GAUGE, GAUGE, act), set_up=pull, number=pull.gauge.number)
    note(session, act, tr("pulls with a gauge"), state.tool.number, gauge=pull.gauge.number, hook=pull.hook)
    return _set_up(session, state, facts, NOTHING, act)


@command
def set_in_line(
    session: Session,
    run_id: int,
    reference_id: int,
    other_id: int | None,
    act: Act,
    *,
    between: bool = True,
    recoupling: float | None = None,
    shown: tuple[float, float] | None = None,
    reason: str = "",
) -> RunState:
    """Set the run up with a meter that stands in line with a stub, or with a second meter (``other_id``): ``between`` the
    tool and it, or under it. ``recoupling`` and ``shown`` are as ``inline.in_line`` takes them. Raises ShopRefused as
    ``choose_reference`` does, and where the two differ by more than both may be wrong; InputRefused. Changes: runs.
    Right beside: allow."""
    state = opened(session, run_id)
    found = facts_on(session, session.get_one(Reference, reference_id), act.at.date())
    other = None if other_id is None else facts_on(session, session.get_one(Reference, other_id), act.at.date())
    line = in_line(found, other, between_them=between, recoupling=recoupling, shown=shown)
    check_in_line(found, other, line, state.tool, tuple(s.target for s in state.found))
    return choose_reference(session, run_id, reference_id, reason, act, line=line)


def _without_readings(session: Session, run_id: int) -> RunState:
    state = opened(session, run_id)
    if any(s.observations for s in state.all_series):
        raise ShopRefused(tr("This run has readings. Give the run up and begin anew to set it up otherwise."))
    return state


def _lever_reference(session: Session, kind: ReferenceKind, name: str, act: Act) -> ReferenceFacts:
    """The row that stands for all of a kind as a reference, made when it is first used."""
    row = session.scalar(select(Reference).where(Reference.kind == kind))
    if row is None:
        row = Reference(
            number=name, kind=kind, serial="", minimum=0.0, maximum=MOST_TORQUE, resolution=0.0, zero_tolerance=0.0
        )
        rows.add(session, RegisterKind.REFERENCE, row, act.at, act.person_id)
    return reference_facts(row, None)


def _set_up(
    session: Session, state: RunState, facts: ReferenceFacts, detail: str, act: Act, tool: ToolFacts | None = None
) -> RunState:
    session.add(SetUp(run_id=state.id, at=act.at, reference_id=facts.id, mode=state.meter_mode, detail=detail))
    keep_facts(session, state.id, replace(state.facts, reference=facts, tool=tool or state.tool), act.at)
    return take_earlier_room(session, reload(session, state.id, act), act)


@command
def record_zero(
    session: Session, run_id: int, moment: ZeroMoment, torque: float, act: Act, series_id: int | None = None
) -> RunState:
    """What the reference shows with nothing on it, in N·m, before or after the readings, or one series of them.

    Raises ShopRefused before it when the zero is beyond the reference's tolerance: it has to be zeroed first. Changes:
    runs."""
    state = opened(session, run_id)
    reference = state.reference
    if reference is None:
        raise ShopRefused(tr("Choose the reference first."))
    allowed = reference.zero_tolerance
    if moment is ZeroMoment.BEFORE and not at_most(abs(torque), allowed):
        shown = tr(
            "{torque} N·m with nothing on it; {allowed} N·m is allowed", torque=number(torque), allowed=number(allowed)
        )
        raise ShopRefused(tr("{number} shows {shown}. Zero it and look again.", number=reference.number, shown=shown))
    session.add(
        ZeroCheck(
            run_id=run_id, at=act.at, moment=moment, torque=torque, allowed=allowed, series_id=series_id,
            observed=_observed(state),
        )
    )  # fmt: skip
    note(
        session,
        act,
        tr("checked the zero {moment}", moment=tr(moment)),
        state.tool.number,
        torque=torque,
        series=series_id,
    )
    return reload(session, run_id, act)


@command
def record_pointer(session: Session, run_id: int, moment: ZeroMoment, torque: float, act: Act) -> RunState:
    """What the tool's own pointer shows with nothing on it, in N·m, before or after the readings. Raises ShopRefused before
    them when it is off by more than it can be read. Changes: runs."""
    state = opened(session, run_id)
    allowed = state.tool.kind.resolution
    if moment is ZeroMoment.BEFORE and not at_most(abs(torque), allowed):
        raise ShopRefused(
            tr(
                "The pointer stands {from_si} {symbol} off zero. Set it to zero as the maker says, or strike "
                "the look-over's line and hold the tool.",
                from_si=number(state.tool.unit.from_si(torque)),
                symbol=state.tool.unit.symbol,
            )
        )
    session.add(
        ZeroCheck(
            run_id=run_id, at=act.at, moment=moment, of=ZeroOf.POINTER, torque=torque, allowed=allowed,
            observed=_observed(state),
        )
    )  # fmt: skip
    note(session, act, tr("looked at the pointer {moment}", moment=tr(moment)), state.tool.number, torque=torque)
    return reload(session, run_id, act)


def _observed(state: RunState) -> int:
    """How many observations the run has by now: it tells what came before a look at the zero, whatever the clock says."""
    return sum(len(s.observations) for s in state.all_series)


@command
def record_zero_after(session: Session, run_id: int, shown: float, act: Act) -> RunState:
    """The zero after all readings, which is that of the last series too. Raises ShopRefused as ``record_zero`` does.
    Changes: runs."""
    note_rest(session, run_id, shown, act, over=True)
    return record_zero(session, run_id, ZeroMoment.AFTER, shown, act)


@command
def note_rest(session: Session, run_id: int, torque: float, act: Act, *, over: bool) -> RunState:
    """The reference rested at ``torque`` (N·m), before the pull that gave the newest reading, or after it when that is
    ``over``.

    It is the zero before the series begun last, and after every complete one that lies behind it. Raises ShopRefused.
    Changes: runs."""
    state = opened(session, run_id)
    reference = state.reference
    begun = [s for s in state.series if s.observations]
    newest = max(begun, key=lambda s: s.observations[-1].id, default=None)
    for series in begun:
        moment = None
        if series is newest and not over:
            moment = ZeroMoment.BEFORE if series.zero_before is None else None
        elif not series.missing and series.zero_after is None:
            moment = ZeroMoment.AFTER
        if moment is not None and reference is not None:
            session.add(
                ZeroCheck(
                    run_id=run_id, at=act.at, moment=moment, torque=torque, allowed=reference.zero_tolerance,
                    series_id=series.id, observed=_observed(state),
                )
            )  # fmt: skip
    return reload(session, run_id, act)
