"""What the hand does next, in words, and what is left: shared by the bench and the far-away view."""

from __future__ import annotations

from reckoner.core.requirements.tooltypes import MeterMode
from reckoner.core.translation import tr
from reckoner.shop.runs.needs import Need
from reckoner.shop.runs.records import READING_STEPS, AdjustingState, SeriesState, Step
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.steps import wants
from reckoner.shop.words.comparisons import side_name
from reckoner.shop.words.effects import place_words
from reckoner.shop.words.results import component_words, settable

ALL_TAKEN = tr("All readings are taken. Let the meter rest and look at its zero again.")

CLOSING = {
    Need.ROOM_AGAIN: tr("Look at the room again: the readings took a while."),
    Need.POINTER_AFTER: tr("Look at the tool's own pointer again, with nothing on it."),
}
"""What is looked at after the readings, beside the meter's zero."""


def instruct(run: RunState) -> str:
    """The one thing to do now."""
    if run.step is Step.EXERCISE:
        return _exercise(run)
    if run.step is Step.ADJUST and run.adjusting is not None:
        return _adjust(run, run.adjusting)
    if run.step is Step.AS_IT_CAME and run.current is not None:
        return _as_it_came(run, run.current)
    series = run.current
    if series is None:
        wanted = wants(run, run.step)
        return CLOSING.get(wanted[0].need, ALL_TAKEN) if wanted else ALL_TAKEN
    where = ""
    if run.sides is not None and series.place is not None:
        where = f"{side_name(run, series.place)}. "
        if run.sides.places[series.place].adapter is not None:
            where += tr("A second hand holds the adapter's head. ")
    if series.effect is not None and series.place is not None:
        where = f"{component_words(series.effect)}, {place_words(series.effect, series.place)}. "
    return where + _turned_over(run, series) + _pull(run, series)


def _exercise(run: RunState) -> str:
    tool = run.tool
    now = run.exercising
    turn = f", {now.direction.words}" if now and len(tool.directions) > 1 else ""
    aim = settable(tool.kind, run.exercise_target, tool.unit)
    apart = ""
    if run.reference is not None and run.exercise_apart:
        number = run.reference.number
        on_a_stub = tr("With nothing hung, on a stub or a nut that holds. ")
        apart = on_a_stub if run.reference.by_hand else tr("On a stub: {number} cannot bear it. ", number=number)
    if not tool.kind.is_setting:
        return apart + tr(
            "{pulls} once to full scale, {aim}{turn}, and ease off to zero.", pulls=_pulls(run), aim=aim, turn=turn
        )
    verb = tr("Set") if tool.kind.has_scale else tr("Exercise at")
    return apart + tr(
        "{verb} {aim}{turn} and {lower} until {until}.",
        verb=verb,
        aim=aim,
        turn=turn,
        lower=_pulls(run).lower(),
        until=tool.implies.until,
    )


def _adjust(run: RunState, adjusting: AdjustingState) -> str:
    tool = run.tool
    aim = settable(tool.kind, adjusting.target, tool.unit)
    if len(adjusting.steps) == 1:
        return tr("Adjusting at {aim}: turn the screw, then read.", aim=aim)
    if adjusting.steps[-1].pairs:
        return tr("Adjusting at {aim}: turn on, read again, or end it.", aim=aim)
    if not run.procedure.one_pull_tells:
        return tr("Adjusting at {aim}: find where it trips now.", aim=aim)
    return tr(
        "Set {aim} {approach} and {lower} until {until}.",
        aim=aim,
        approach=tool.approach,
        lower=_pulls(run).lower(),
        until=tool.implies.until,
    )


def _as_it_came(run: RunState, series: SeriesState) -> str:
    tool = run.tool
    aim = settable(tool.kind, series.target, tool.unit)
    first = tr("before anything else, as the joints got it")
    if tool.kind.is_setting and tool.kind.has_scale:
        return tr(
            "As it came: set {aim} {approach} and {lower}, {first}.",
            aim=aim,
            approach=tool.approach,
            lower=_pulls(run).lower(),
            first=first,
        )
    return tr("As it came: {lower} to {aim}, {first}.", lower=_pulls(run).lower(), aim=aim, first=first)


def _turned_over(run: RunState, series: SeriesState) -> str:
    """In a tool that works both ways, which way it turns at the first pull of a series."""
    if len({s.direction for s in run.series}) < 2 or series.pairs or series.awaiting is not None:
        return ""
    first = next(s for s in run.series if s.direction is series.direction) is series
    over = tr("Turn it over: ") if first and series is not run.series[0] else ""
    words = f"{over}{series.direction.words}"
    return f"{words[:1].upper()}{words[1:]}. "


def _pulls(run: RunState) -> str:
    """What the hand does: a wrench is pulled, a screwdriver is turned."""
    return tr("Turn") if run.tool.kind.is_screwdriver else tr("Pull")


def _smoothly(run: RunState) -> str:
    """A screwdriver has no mark for the hand."""
    return (
        tr("Turn smoothly, in line with the drive,")
        if run.tool.kind.is_screwdriver
        else tr("Pull smoothly at the mark")
    )


def _pull(run: RunState, series: SeriesState) -> str:
    tool = run.tool
    aim = settable(tool.kind, series.target, tool.unit)
    if run.awaiting is not None:
        return tr("Type what the tool's display showed of that pull.")
    if run.paired:
        return tr(
            "{pulls} slowly to about {aim}, ease off, and read what the tool's display kept.",
            pulls=_pulls(run),
            aim=aim,
        )
    if run.meter_mode is MeterMode.HOLD:
        return tr("Bring it to {aim} and hold it there for a second, then ease off.", aim=aim)
    if tool.kind.is_fixed:
        return tr(
            "{smoothly} until {until}; it should be {aim}.", smoothly=_smoothly(run), until=tool.implies.until, aim=aim
        )
    if tool.kind.is_setting and not tool.kind.has_scale:
        return tr(
            "It has no scale: bring it to {aim} as its maker says. {smoothly} until {until}.",
            aim=aim,
            smoothly=_smoothly(run),
            until=tool.implies.until,
        )
    if tool.kind.is_setting:
        return tr(
            "Set {aim} {approach}. {smoothly} until {until}.",
            aim=aim,
            approach=tool.approach,
            smoothly=_smoothly(run),
            until=tool.implies.until,
        )
    return tr(
        "Bring it to {aim}: {lower} slowly until {until}, then ease off.",
        aim=aim,
        lower=_pulls(run).lower(),
        until=tool.implies.until,
    )


def remaining(run: RunState) -> str:
    """What is left of the step, in words."""
    if run.step is Step.EXERCISE:
        now = run.exercising
        left = now.wanted - now.done if now else 0
        return tr("Exercise, {left} to go. These are not readings.", left=left)
    series = run.current
    if run.step is Step.AS_IT_CAME and series is not None:
        return tr(
            "Pull {count} of {wanted}. Kept apart: they never enter the verdict.",
            count=len(series.pairs) + 1,
            wanted=series.wanted,
        )
    if series is None:
        taking = run.step in READING_STEPS and run.zeros.after is None
        return tr("Take everything off the meter first.") if taking else ""
    if run.step is Step.ADJUST:
        return tr("{count} read after this turn; one is enough, three tell the scatter.", count=len(series.pairs))
    number = len(series.pairs) + 1
    turn = f"{series.direction.words}, " if len({s.direction for s in run.series}) > 1 else ""
    phase = tr("As left") if run.left else tr("As found") if run.policy.judges else run.policy.words
    whole = sum(s.missing for s in run.series)
    return tr(
        "{phase}, {turn}reading {number} of {wanted}; {whole} to go in all",
        phase=phase,
        turn=turn,
        number=number,
        wanted=series.wanted,
        whole=whole,
    )
