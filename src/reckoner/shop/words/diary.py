"""What a diary of abuse says: in a sentence, and of each step."""

from __future__ import annotations

from reckoner.core.history.comparison import ComparedChange, Comparison
from reckoner.core.quantities.printing import percent
from reckoner.core.translation import tr, tr_count
from reckoner.shop.runs.diary import LEAST_BASELINE, DiaryStep, diary_of
from reckoner.shop.runs.state import RunState


def diary_sentence(run: RunState) -> str:
    """The step that is furthest from the baseline, such as "Thrown: reads 3.1 % lower than the baseline (−3.6 % to −2.6 %),
    changed; the furthest of 4 steps"."""
    steps = diary_of(run)
    told = [(step, step.beside_baseline) for step in steps if step.beside_baseline is not None]
    if not told:
        return tr("The baseline is read. Say what is done to the tool, and it is read again")
    step, found = max(told, key=lambda one: abs(one[1].difference))
    count = len(steps) - 1
    tail = tr_count("", "; the furthest of {n} steps", count)
    return f"{step.name}: {comparison_words(found, tr('the baseline'))}{tail}"


def comparison_words(found: Comparison, beside: str) -> str:
    """Such as "reads 3.1 % lower than the baseline (−3.6 % to −2.6 %), changed"."""
    interval = tr("{low} to {high}", low=percent(found.low_95, 1, sign=True), high=percent(found.high_95, 1, sign=True))
    verdict = change_words(found)
    if round(abs(found.difference), 3) == 0:
        return tr("reads as {beside} ({interval}), {verdict}", beside=beside, interval=interval, verdict=verdict)
    way = tr("higher") if found.difference > 0 else tr("lower")
    return tr(
        "reads {difference} {way} than {beside} ({interval}), {verdict}",
        difference=percent(abs(found.difference), 1),
        way=way,
        beside=beside,
        interval=interval,
        verdict=verdict,
    )


def change_words(found: Comparison) -> str:
    """Whether it has changed by what matters."""
    match found.change:
        case ComparedChange.UNCHANGED:
            return tr("no change that matters")
        case ComparedChange.CHANGED:
            return tr("changed")
        case ComparedChange.CANNOT_TELL:
            return tr("cannot tell: {needed} readings a step would", needed=found.readings_needed)


def step_words(step: DiaryStep) -> str:
    """What a step says beside the baseline and beside the one before."""
    if step.before is None:
        count = len(step.series.pairs)
        few = tr("; {least} to 12 are a baseline", least=LEAST_BASELINE) if count < LEAST_BASELINE else ""
        return tr_count("1 reading", "{n} readings", count) + few
    said = [comparison_words(step.beside_baseline, tr("the baseline"))] if step.beside_baseline is not None else []
    if step.beside_last is not None and step.beside_last is not step.beside_baseline:
        said.append(comparison_words(step.beside_last, tr("the step before")))
    return "; ".join(said) or tr("not read yet")
