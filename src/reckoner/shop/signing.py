"""The end of a run: what follows for the tool, who answers for it, and how a signed run is amended."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from enum import StrEnum

from sqlalchemy import func, inspect, select
from sqlalchemy.orm import Session

from reckoner.core.budget import Effects
from reckoner.core.comparison import Change
from reckoner.core.due import DueReason, due_date
from reckoner.core.errors import UnreachableError
from reckoner.core.printing import quantity, span, uncertainty_decimals
from reckoner.core.states import State
from reckoner.core.verdict import PointResult as JudgedPoint
from reckoner.core.verdict import Verdict
from reckoner.shop.acts import Act, PersonFacts, ShopRefused, note
from reckoner.shop.bench import opened, reload
from reckoner.shop.planning import EFFECTS, as_known
from reckoner.shop.run import RunKind, RunState, SeriesState, Step
from reckoner.shop.runload import load
from reckoner.shop.wording import comparison_sentence, run_sentence
from reckoner.store.schema import (
    Adjustment,
    Characterisation,
    ExercisePull,
    InspectionLine,
    PointResult,
    Reading,
    RoomReading,
    Run,
    Series,
    SetUp,
    Signature,
    Strike,
    ToolEvent,
    Trace,
    ZeroCheck,
)


class Outcome(StrEnum):
    """What signing does to the tool."""

    RELEASED = "released"
    HELD = "held"
    RESTRICTED = "restricted"
    RETIRED = "retired"
    KEEP_HOLDING = "keep holding"
    FULL_RUN = "full run"
    CHARACTERISED = "characterised"


@dataclass(frozen=True)
class Choice:
    """One way to conclude, in words; the first of several is what Reckoner advises."""

    outcome: Outcome
    words: str
    why: str


def choices(state: RunState, today: date) -> tuple[Choice, ...]:
    """The ways in which a complete run can be concluded, the advised one first."""
    found = state.verdict(today)
    if found is None:
        return ()
    match state.kind:
        case RunKind.FULL:
            return _after_full(state, found, today)
        case RunKind.CHECK:
            return _after_check(found)
        case RunKind.EVENT:
            return _after_event(state, found)
        case RunKind.CHARACTERISE:
            return (Choice(Outcome.CHARACTERISED, "Keep these values", "Budgets use them from now on."),)
        case other:
            raise UnreachableError(other)


def _after_full(state: RunState, found: Verdict, today: date) -> tuple[Choice, ...]:
    hold = Choice(Outcome.HELD, "Hold it", "It is locked away until a run accepts it.")
    retire = Choice(Outcome.RETIRED, "Retire it", "It leaves service for good; its history stays.")
    if found.accepted is True:
        due = next_due(state, today)
        months = state.tool.interval_months or state.rules.months
        if not state.rules.renews_due_date:
            return (Choice(Outcome.RELEASED, "Release it", "This rule set does not renew its due date."),)
        return (Choice(Outcome.RELEASED, "Release it", f"Due again on {due:%-d %b %Y}, {months} months from today."),)
    part = good_part(state, found)
    if found.accepted is False and part is not None:
        words = span(*part, state.tool.unit)
        restrict = Choice(
            Outcome.RESTRICTED, f"Restrict it to {words}", f"Its tag shows {words}; it is not used outside."
        )
        return (hold, restrict, retire)
    return (hold, retire)


def _after_check(found: Verdict) -> tuple[Choice, ...]:
    release = Choice(Outcome.RELEASED, "Release it", "A quick check does not renew its due date.")
    hold = Choice(Outcome.KEEP_HOLDING, "Keep holding it", "It is not used.")
    full = Choice(Outcome.FULL_RUN, "Ask for a full run", "It is held until one accepts it.")
    if found.accepted is True and found.state is State.INSIDE:
        return (release, full)
    if found.accepted is True:
        return (full, release, hold)
    return (hold, full)


def _after_event(state: RunState, found: Verdict) -> tuple[Choice, ...]:
    changes = {c.change for _, _, c in state.comparisons()}
    release = Choice(Outcome.RELEASED, "Release it", "It has not changed by an amount that matters.")
    hold = Choice(Outcome.KEEP_HOLDING, "Keep holding it", "It is not used.")
    full = Choice(Outcome.FULL_RUN, "Ask for a full run", "It is held until one accepts it.")
    if found.accepted is not True:
        return (hold, full)
    if changes == {Change.UNCHANGED}:
        return (release, full)
    return (full, hold)


def good_part(state: RunState, found: Verdict) -> tuple[float, float] | None:
    """The widest stretch of neighbouring points (N·m) that are inside in every direction; None for fewer than two."""
    inside: dict[float, bool] = {}
    for point in found.points:
        inside[point.target] = inside.get(point.target, True) and point.decision.accepted is True
    best: list[float] = []
    now: list[float] = []
    for target in sorted(inside):
        now = [*now, target] if inside[target] else []
        best = max(best, now, key=len)
    return (best[0], best[-1]) if len(best) >= 2 else None


def next_due(state: RunState, today: date) -> date:
    """The due date that signing ``today`` sets, or for an amendment that of the day it amends: the tool's own interval,
    else the rule set's."""
    counted = state.as_of or today
    return due_date(counted, today=counted, months=state.tool.interval_months or state.rules.months).on


def sign(
    session: Session,
    run_id: int,
    act: Act,
    outcome: Outcome | None = None,
    remark: str = "",
    second_person_id: int | None = None,
    *,
    of_model: bool = False,
) -> RunState:
    """Sign the run: keep its results, and let ``outcome`` (the advised one by default) follow for the tool.

    ``of_model`` keeps a characterisation for all tools of the model. Raises ShopRefused while a step is open, for an
    outcome that this run cannot have, or without the second person that the rule set asks for.
    """
    conclude(session, opened(session, run_id), act, outcome, remark, second_person_id, of_model=of_model)
    return reload(session, run_id)


def conclude(
    session: Session,
    state: RunState,
    act: Act,
    outcome: Outcome | None = None,
    remark: str = "",
    second_person_id: int | None = None,
    *,
    of_model: bool = False,
) -> None:
    """What ``sign`` writes, for a run that is loaded already. Raises ShopRefused as it does."""
    for step in Step:
        if step not in (Step.DECIDE, Step.SIGNED) and state.wants(step):
            raise ShopRefused(f"It cannot be signed yet: {step}, {state.wants(step)}.")
    today = state.as_of or act.at.date()
    found = state.verdict(today)
    if found is None:
        raise ShopRefused("It cannot be signed yet: there are too few readings.")
    chosen = _choice(state, today, outcome)
    if state.rules.second_person and second_person_id is None:
        raise ShopRefused(f"{state.rules.title} asks for a second person: choose whose initials stand beside yours.")
    if second_person_id == act.person_id:
        raise ShopRefused("The second person must be someone else.")
    sentence = _sentence(state, found)
    renews = chosen in (Outcome.RELEASED, Outcome.RESTRICTED) and state.kind is RunKind.FULL
    renews = renews and state.rules.renews_due_date and found.accepted is not None
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
        outcome=chosen.value,
        note=remark.strip(),
        second_person_id=second_person_id,
    )
    if state.kind is not RunKind.CHARACTERISE:
        for series, judged in judged_phases(state, today):
            for one, point in zip(series, judged.points, strict=True):
                signature.results.append(_result(one, point))
    session.add(signature)
    if state.kind is RunKind.CHARACTERISE:
        _keep_characterisation(session, state, act, of_model=of_model)
    _follow(session, state, found, chosen, sentence, act)
    note(session, act, "signed the run", state.tool.number, run=state.id, outcome=chosen.value, sentence=sentence)


def _choice(state: RunState, today: date, outcome: Outcome | None) -> Outcome:
    possible = choices(state, today)
    if outcome is None:
        return possible[0].outcome
    if outcome not in {c.outcome for c in possible}:
        words = ", ".join(c.words.lower() for c in possible)
        raise ShopRefused(f"After this result the tool cannot be {outcome}; what can be done: {words}.")
    return outcome


def _sentence(state: RunState, found: Verdict) -> str:
    if state.kind is RunKind.CHARACTERISE:
        return characterised_sentence(state)
    sentence = run_sentence(state.tool, found)
    if state.kind is RunKind.EVENT:
        told = state.comparisons()
        if told:
            return f"{comparison_sentence(told[0][2], told[0][1].on)}; {sentence}"
    return sentence


def judged_phases(state: RunState, today: date) -> list[tuple[tuple[SeriesState, ...], Verdict]]:
    """As found, and as left where there is one, each with its verdict."""
    made = []
    for series, judged in ((state.found, state.found_verdict(today)), (state.left, state.verdict(today))):
        if series and judged is not None:
            made.append((series, judged))
    return made


def _result(series: SeriesState, point: JudgedPoint) -> PointResult:
    return PointResult(
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


def _follow(session: Session, state: RunState, found: Verdict, outcome: Outcome, sentence: str, act: Act) -> None:
    """What the outcome does to the tool: hold, release, restrict, retire; an adjustment is told too."""
    if state.adjusted and state.left:
        _event(session, state, act, "adjusted", f"by {state.opened_by}")
    held = is_held(session, state.tool.id)
    restricted = is_restricted(session, state.tool.id)
    match outcome:
        case Outcome.HELD | Outcome.FULL_RUN | Outcome.KEEP_HOLDING:
            if found.accepted is None and outcome is Outcome.HELD and not held:
                return
            why = (
                "a full run is asked for"
                if outcome is Outcome.FULL_RUN
                else f"{'as left' if state.left else 'as found'}"
            )
            _event(session, state, act, "held", f"{why}: {sentence}")
        case Outcome.RELEASED:
            points = state.rules.points(state.tool.kind)
            whole = set(as_known({s.target for s in state.series}, points)) >= set(points)
            if restricted and whole and state.kind is RunKind.FULL and found.accepted:
                _event(session, state, act, "unrestricted", "a full run accepted its whole range")
            if held:
                _event(session, state, act, "released", _RELEASED_BY[state.kind])
        case Outcome.RESTRICTED:
            part = good_part(state, found)
            if part is None:
                raise UnreachableError(outcome)
            words = f"to {span(*part, state.tool.unit)}: {sentence}"
            _event(session, state, act, "restricted", words, *part)
            if held:
                _event(session, state, act, "released", "restricted to the part that is good")
        case Outcome.RETIRED:
            _event(session, state, act, "retired", sentence)
        case Outcome.CHARACTERISED:
            pass
        case other:
            raise UnreachableError(other)


_RELEASED_BY = {
    RunKind.FULL: "a full run accepted it",
    RunKind.CHECK: "a quick check released it",
    RunKind.EVENT: "the check after the event released it",
    RunKind.CHARACTERISE: "",
}


def _event(
    session: Session,
    state: RunState,
    act: Act,
    kind: str,
    words: str,
    low: float | None = None,
    high: float | None = None,
) -> None:
    session.add(
        ToolEvent(tool_id=state.tool.id, at=act.at, person_id=act.person_id, kind=kind, note=words, low=low, high=high)
    )
    session.flush()


def is_held(session: Session, tool_id: int) -> bool:
    return _newest(session, tool_id, ("held", "released")) == "held"


def is_restricted(session: Session, tool_id: int) -> bool:
    return _newest(session, tool_id, ("restricted", "unrestricted")) == "restricted"


def _newest(session: Session, tool_id: int, kinds: tuple[str, ...]) -> str:
    return (
        session.scalar(
            select(ToolEvent.kind)
            .where(ToolEvent.tool_id == tool_id, ToolEvent.kind.in_(kinds))
            .order_by(ToolEvent.id.desc())
            .limit(1)
        )
        or ""
    )


def measured_effects(state: RunState) -> Effects:
    """The b values (N·m) of a characterisation: the range of the means over an effect's places."""
    found: dict[str, float] = {}
    for effect in EFFECTS:
        means = [s.mean for s in state.all_series if s.phase == effect and s.counted]
        if len(means) >= 2:
            found[effect] = max(means) - min(means)
    return Effects(**found)


def characterised_sentence(state: RunState) -> str:
    """Such as "Reproducibility 0.42 N·m, drive positions 0.31 N·m at 40 N·m"."""
    names = {
        "reproducibility": "reproducibility",
        "output_drive": "drive positions",
        "interface": "adapter positions",
        "loading_point": "loading point",
    }
    effects = measured_effects(state)
    unit = state.tool.unit
    said = [
        f"{names[n]} {quantity(b, unit, uncertainty_decimals(unit.from_si(b)))}"
        for n in names
        if (b := getattr(effects, n)) is not None
    ]
    words = ", ".join(said)
    return f"{words[:1].upper()}{words[1:]} at {quantity(state.all_series[0].target, state.tool.unit)}"


def _keep_characterisation(session: Session, state: RunState, act: Act, *, of_model: bool) -> None:
    effects = measured_effects(state)
    session.add(
        Characterisation(
            run_id=state.id,
            tool_id=None if of_model else state.tool.id,
            model_id=state.tool.model_id if of_model else None,
            at=act.at,
            target=state.all_series[0].target,
            reproducibility=effects.reproducibility,
            output_drive=effects.output_drive,
            interface=effects.interface,
            loading_point=effects.loading_point,
        )
    )


def second_people(everyone: tuple[PersonFacts, ...], signer: int) -> tuple[PersonFacts, ...]:
    """Who may stand beside the signer."""
    return tuple(p for p in everyone if p.id != signer)


def amend(session: Session, run_id: int, reason: str, act: Act) -> RunState:
    """Open a copy of a signed run that replaces it when it is signed; the signed version stays as it is.

    Raises ShopRefused for a run that is not signed, was amended already, without a reason, or while the tool is in
    another run.
    """
    old = load(session, run_id)
    if not old.signed:
        raise ShopRefused("Only a signed run is amended; this one can still be changed.")
    newest = session.scalar(select(func.max(Signature.run_id)).join(Run).where(Run.tool_id == old.tool.id))
    if old.amended or newest != run_id:
        raise ShopRefused("Only the newest signed run of a tool is amended; later results stand on the older ones.")
    if not reason.strip():
        raise ShopRefused("Say why the signed run is amended.")
    if session.scalar(
        select(Run.id).outerjoin(Signature).where(Run.amends_id == run_id, Signature.id.is_(None)).limit(1)
    ):
        raise ShopRefused("An amendment of this run is open already.")
    source = session.get_one(Run, run_id)
    copy = Run(
        tool_id=source.tool_id,
        kind=source.kind,
        rule_set=source.rule_set,
        rule_set_text=source.rule_set_text,
        opened_at=act.at,
        person_id=act.person_id,
        rule=source.rule,
        mode=source.mode,
        adapter=source.adapter,
        plan_note=f"amends the run signed {source.signature.at:%-d %b %Y}: {reason.strip()}"
        if source.signature
        else "",
        amends_id=source.id,
        event_id=source.event_id,
    )
    copy.inspections = [InspectionLine(**_values(i)) for i in source.inspections]
    copy.room = [RoomReading(**_values(r)) for r in source.room]
    copy.set_ups = [SetUp(**_values(s)) for s in source.set_ups]
    copy.exercises = [ExercisePull(**_values(e)) for e in source.exercises]
    copy.adjustments = [Adjustment(**_values(a)) for a in source.adjustments]
    session.add(copy)
    session.flush()
    ids: dict[int | None, int | None] = {None: None}
    for series in source.series:
        made = Series(**(_values(series) | {"run_id": copy.id}))
        made.readings = [_copied(r) for r in series.readings]
        session.add(made)
        session.flush()
        ids[series.id] = made.id
    for check in source.zero_checks:
        session.add(ZeroCheck(**(_values(check) | {"run_id": copy.id, "series_id": ids[check.series_id]})))
    note(session, act, "amended a signed run", old.tool.number, run=run_id, copy=copy.id, reason=reason.strip())
    return reload(session, copy.id)


def _copied(reading: Reading) -> Reading:
    made = Reading(**(_values(reading) | {"series_id": None}))
    if reading.strike is not None:
        made.strike = Strike(**(_values(reading.strike) | {"reading_id": None}))
    if reading.trace is not None:
        made.trace = Trace(**(_values(reading.trace) | {"reading_id": None}))
    return made


def _values(row: object) -> dict[str, object]:
    """A row's columns without its identity and its run."""
    mapper = inspect(type(row))
    return {a.key: getattr(row, a.key) for a in mapper.column_attrs if a.key not in ("id", "run_id")}
