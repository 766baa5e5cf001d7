"""Where a run stands: its steps in the technician's order and what each still wants. Pure, from the run and its procedure."""

from __future__ import annotations

from datetime import timedelta

from reckoner.core.quantities.checks import at_most
from reckoner.shop.runs.needs import Need, Want
from reckoner.shop.runs.records import ObservationState, SeriesState, Step
from reckoner.shop.runs.state import RunState
from reckoner.store.terms import ObservationKind

ROOM_HOLDS = timedelta(minutes=30)
"""After this the room is looked at again before the run is decided."""

JUMP = timedelta(days=300)
"""No run lasts that long: the clock was set in the middle of it."""


ALONE = (ObservationKind.VALUE, ObservationKind.NO_SIGNAL)
"""Observations that stand for themselves."""


def step_of(run: RunState) -> Step:
    """The first step that still wants something."""
    if run.signed or run.abandoned:
        return Step.SIGNED
    return next((step for step in Step if wants(run, step)), Step.DECIDE)


def wants(run: RunState, step: Step) -> tuple[Want, ...]:
    """What ``step`` still wants; empty when it is complete."""
    match step:
        case Step.LOOK_OVER:
            return _counted(Need.LINES, sum(not line.settled for line in run.inspection), len(run.inspection))
        case Step.SET_UP:
            return run.procedure.set_up_wants(run)
        case Step.AS_IT_CAME:
            missing = _counted(Need.READINGS, sum(s.missing for s in run.came), sum(s.wanted for s in run.came))
            return (*_answers(run, run.came), *missing)
        case Step.EXERCISE:
            left = sum(max(0, e.wanted - e.done) for e in run.exercise)
            return _counted(Need.RELEASES, left, sum(e.wanted for e in run.exercise))
        case Step.AS_FOUND:
            return () if run.left or run.adjusting else _series(run, run.found)
        case Step.ADJUST:
            return (*_answers(run, run.adjusting.steps), Want(Need.TURN)) if run.adjusting else ()
        case Step.AS_LEFT:
            return _series(run, run.left) if run.left and not run.adjusting else ()
        case Step.DECIDE:
            return () if run.signed else (Want(Need.SIGNATURE),)
        case Step.SIGNED:
            return ()


def wants_now(run: RunState, need: Need) -> bool:
    """Whether the step in which the run stands wants ``need`` next."""
    found = wants(run, run.step)
    return bool(found) and found[0].need is need


def open_series(run: RunState) -> tuple[SeriesState, ...]:
    """The series whose observations can still be struck: those after each turn while adjusting, else those that count."""
    if run.step is Step.AS_IT_CAME or not any(e.done for e in run.exercise):
        return (*run.came, *run.series)
    return run.adjusting.steps[1:] if run.adjusting else run.series


def strikable(run: RunState) -> tuple[tuple[SeriesState, ObservationState], ...]:
    """The observations of the open series that can be struck, the newest first, each with its series: every one that counts,
    but of answers that make a pair together the last, and of a pull and what the display showed of it the pull."""
    found = sorted(((s, o) for s in open_series(run) for o in s.counted), key=lambda f: f[1].id, reverse=True)
    return tuple(f for i, f in enumerate(found) if i == 0 or f[1].kind in ALONE or f[0].ends_pair(f[1]))


def newest(run: RunState) -> tuple[SeriesState, ObservationState] | None:
    """The newest observation that counts among the open series, and its series."""
    return next(iter(strikable(run)), None)


def room_is_old(run: RunState) -> bool:
    """The room was looked at longer before the last reading than ``ROOM_HOLDS``: it may have drifted since."""
    last = max((o.at for s in run.series for o in s.observations), default=None)
    seen = run.room.at if run.room is not None and run.amends is None else None
    return last is not None and seen is not None and ROOM_HOLDS < last - seen < JUMP


def room_drifted(run: RunState) -> bool:
    """The room drifted further during the run than the rule set allows."""
    return run.room is not None and not at_most(run.room.drift, run.rules.room.drift)


def needs_pointer(run: RunState) -> bool:
    """The tool has a pointer whose zero is looked at before and after."""
    return not run.tool.kind.is_setting and run.policy.judges


def _counted(need: Need, left: int, of: int) -> tuple[Want, ...]:
    return (Want(need, left, of),) if left else ()


def _answers(run: RunState, series: tuple[SeriesState, ...]) -> tuple[Want, ...]:
    """What a person has to say of readings of these series."""
    return (Want(Need.ANSWER),) if any(run.asks_about(s) for s in series) else ()


def _series(run: RunState, series: tuple[SeriesState, ...]) -> tuple[Want, ...]:
    asked, left = _answers(run, series), sum(s.missing for s in series)
    if asked or left:
        return (*asked, *_counted(Need.READINGS, left, sum(s.wanted for s in series)))
    closing = run.procedure.closing_wants(run)
    return closing or ((Want(Need.ROOM_AGAIN),) if room_is_old(run) else ())
