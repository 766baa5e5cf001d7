"""What an amendment says otherwise than the run that it amends."""

from __future__ import annotations

from collections import Counter

from reckoner.core.printing import percent, quantity
from reckoner.formats.languages import say
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.records import SeriesState
from reckoner.shop.runs.state import RunState
from reckoner.shop.wording import phase_words, state_words


def differences(before: RunState, after: RunState) -> tuple[str, ...]:
    """A clause for each thing that is otherwise; empty where everything that is judged is the same."""
    said = []
    for what, was, now in (
        ("reference", _reference(before), _reference(after)),
        ("fitting", before.plan.adapter, after.plan.adapter),
        ("temperature", _room(before), _room(after)),
    ):
        if was != now:
            untold = say("change.untold")
            said.append(say(f"change.{what}", now=now or untold, was=was or untold))
    earlier = {(s.phase, s.direction, s.target): s for s in before.all_series}
    for series in after.all_series:
        was_series = earlier.get((series.phase, series.direction, series.target))
        aim = quantity(series.target, after.tool.unit)
        where = say("change.where", phase=phase_words(series.phase), target=aim)
        said += _readings(after, where, was_series, series)
    told = judged(before).verdict, judged(after).verdict
    if told[0] is not None and told[1] is not None and told[0].state is not told[1].state:
        said.append(say("change.result", now=state_words(told[1].state), was=state_words(told[0].state)))
    return tuple(said)


def _readings(run: RunState, where: str, before: SeriesState | None, after: SeriesState) -> list[str]:
    if before is None:
        return [say("change.point_added", where=where)] if after.pairs else []
    unit = run.tool.unit
    was, now = (Counter(p.reference for p in series.pairs) for series in (before, after))
    said = [say("change.struck", where=where, reading=quantity(t, unit)) for t in (was - now).elements()]
    said += [say("change.added", where=where, reading=quantity(t, unit)) for t in (now - was).elements()]
    if said and was and now:
        means = [sum(p.deviation for p in series.pairs) / len(series.pairs) for series in (before, after)]
        earlier, later = (percent(mean, 2, sign=True) for mean in means)
        said.append(say("change.mean", where=where, now=later, was=earlier))
    return said


def _reference(run: RunState) -> str:
    return run.reference.number if run.reference is not None else ""


def _room(run: RunState) -> str:
    return f"{run.room.temperature:g} °C" if run.room is not None else ""
