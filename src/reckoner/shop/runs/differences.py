"""What an amendment says otherwise than the run that it amends."""

from __future__ import annotations

from collections import Counter

from reckoner.core.printing import percent, quantity
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.records import SeriesState
from reckoner.shop.runs.state import RunState
from reckoner.shop.wording import at_target, phase_words


def differences(before: RunState, after: RunState) -> tuple[str, ...]:
    """A clause for each thing that is otherwise; empty where everything that is judged is the same."""
    said = []
    for what, was, now in (
        ("the reference", _reference(before), _reference(after)),
        ("the fitting", before.plan.adapter, after.plan.adapter),
        ("the temperature", _room(before), _room(after)),
    ):
        if was != now:
            said.append(f"{what} is {now or 'not told'} instead of {was or 'not told'}")
    earlier = {(s.phase, s.direction, s.target): s for s in before.all_series}
    for series in after.all_series:
        was_series = earlier.get((series.phase, series.direction, series.target))
        where = f"{phase_words(series.phase)} at {at_target(series.target, after.tool.unit)}"
        said += _readings(after, where, was_series, series)
    told = judged(before).verdict, judged(after).verdict
    if told[0] is not None and told[1] is not None and told[0].state is not told[1].state:
        said.append(f"the result is {told[1].state.words} instead of {told[0].state.words}")
    return tuple(said)


def _readings(run: RunState, where: str, before: SeriesState | None, after: SeriesState) -> list[str]:
    if before is None:
        return [f"{where} was added"] if after.pairs else []
    unit = run.tool.unit
    was, now = (Counter(p.reference for p in series.pairs) for series in (before, after))
    said = [f"{where} {quantity(torque, unit)} was struck" for torque in (was - now).elements()]
    said += [f"{where} {quantity(torque, unit)} was added" for torque in (now - was).elements()]
    if said and was and now:
        means = [sum(p.deviation for p in series.pairs) / len(series.pairs) for series in (before, after)]
        said.append(
            f"{where} the mean deviation is {percent(means[1], 2, sign=True)} instead of {percent(means[0], 2, sign=True)}"
        )
    return said


def _reference(run: RunState) -> str:
    return run.reference.number if run.reference is not None else ""


def _room(run: RunState) -> str:
    return f"{run.room.temperature:g} °C" if run.room is not None else ""
