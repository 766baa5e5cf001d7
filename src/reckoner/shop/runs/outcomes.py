"""How a complete run can be concluded: what may follow for its tool, the advised first.

To add an outcome: a member of ``store.terms.Outcome``, a way to it here, and what it does in ``signing``.

What a short run says of its tool in a word: fine, leave it alone, adjust, or hold; and why.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import date
from enum import StrEnum

from reckoner.core.decision.states import State
from reckoner.core.decision.verdict import Verdict
from reckoner.core.history.comparison import ComparedChange
from reckoner.core.history.due import Due, DueReason, due_date
from reckoner.core.history.interval import School
from reckoner.core.quantities.checks import at_most
from reckoner.core.quantities.days import day_words
from reckoner.core.quantities.printing import limit, percent, span
from reckoner.core.translation import mark, tr
from reckoner.shop.intervals import Interval, IntervalBasis, proposed
from reckoner.shop.runs.adjusting import comfortable
from reckoner.shop.runs.diary import harmed
from reckoner.shop.runs.judging import comparisons, judged
from reckoner.shop.runs.state import RunState
from reckoner.store.terms import Outcome, RunKind

DAYS_A_YEAR = 365.25


@dataclass(frozen=True)
class OutcomeChoice:
    """One way to conclude, in words; the first of several is what Reckoner advises."""

    outcome: Outcome
    words: str
    why: str


RELEASE_CHECKED = OutcomeChoice(Outcome.RELEASED, tr("Release it"), tr("A quick check does not renew its due date."))
RELEASE_UNCHANGED = OutcomeChoice(
    Outcome.RELEASED, tr("Release it"), tr("It has not changed by an amount that matters.")
)
KEEP_HOLDING = OutcomeChoice(Outcome.KEEP_HOLDING, tr("Hold it"), tr("It is not used until a run accepts it."))
ASK_FULL = OutcomeChoice(Outcome.FULL_RUN, tr("Ask for a full run"), tr("It is held until one accepts it."))
HOLD = OutcomeChoice(Outcome.HELD, tr("Hold it"), tr("It is locked away until a run accepts it."))
RETIRE = OutcomeChoice(Outcome.RETIRED, tr("Retire it"), tr("It leaves service for good; its history stays."))
KEEP_COMPARISON = OutcomeChoice(
    Outcome.COMPARISON, tr("Keep this comparison"), tr("Where the tool stands and when it is due stay as they are.")
)
HOLD_ABUSED = OutcomeChoice(
    Outcome.HELD, tr("Hold it"), tr("It was abused on purpose: it is not used until a full run accepts it.")
)
KEEP_VALUES = OutcomeChoice(Outcome.CHARACTERISED, tr("Keep these values"), tr("Budgets use them from now on."))


ONLY_COMPARED = OutcomeChoice(
    Outcome.COMPARED,
    tr("Keep it as a shop check"),
    tr("Nothing is decided: where the tool stands and when it is due stay as they are."),
)


RELEASE_BY_OWNER = OutcomeChoice(
    Outcome.RELEASED,
    tr("Release it, by its owner's decision"),
    tr("Nothing was decided; say in the remark why it may be used. It has no due date from this."),
)


def by_owner(run: RunState, found: Verdict) -> bool:
    """Whether its owner released the tool of a signed run, of which nothing was decided."""
    signature = run.signature
    return signature is not None and signature.outcome is Outcome.RELEASED and found.state is State.COMPARED


def choices(run: RunState, today: date) -> tuple[OutcomeChoice, ...]:
    """The ways in which a complete run can be concluded, the advised one first."""
    found = judged(run).verdict
    if found is None:
        return ()
    if found.state is State.COMPARED and run.policy.judges:
        return _after_shop_check(found)
    return _CONCLUSIONS[run.kind](run, found, today)


def _after_shop_check(found: Verdict) -> tuple[OutcomeChoice, ...]:
    """Nothing is decided against what nobody has proven; but a tool read past its limit is not handed out on that doubt."""
    worst = found.worst.decision
    if at_most(worst.looked_at, worst.limit):
        return (ONLY_COMPARED, HOLD, RELEASE_BY_OWNER)
    off = tr(
        "It was read {looked_at:.1f} % off, and its limit is {limit}",
        looked_at=100 * worst.looked_at,
        limit=limit(worst.limit),
    )
    return (replace(HOLD, why=f"{off}: it waits for a reference that can decide."), ONLY_COMPARED)


def _after_full(run: RunState, found: Verdict, today: date) -> tuple[OutcomeChoice, ...]:
    if found.accepted is True:
        if not run.rules.renews_due_date:
            return (
                OutcomeChoice(Outcome.RELEASED, tr("Release it"), tr("This rule set does not renew its due date.")),
            )
        return (OutcomeChoice(Outcome.RELEASED, tr("Release it"), f"{_due_words(run, today)}."),)
    part = good_part(found)
    if found.accepted is False and part is not None:
        words = span(*part, run.tool.unit)
        why = tr("Its tag shows {words}; it is not used outside.", words=words)
        return (HOLD, OutcomeChoice(Outcome.RESTRICTED, tr("Restrict it to {words}", words=words), why), RETIRE)
    return (HOLD, RETIRE)


def _after_check(_run: RunState, found: Verdict, _today: date) -> tuple[OutcomeChoice, ...]:
    if found.accepted is True and found.state is State.INSIDE:
        return (RELEASE_CHECKED, ASK_FULL)
    if found.accepted is True:
        return (ASK_FULL, RELEASE_CHECKED, KEEP_HOLDING)
    return (KEEP_HOLDING, ASK_FULL)


def _after_event(run: RunState, found: Verdict, _today: date) -> tuple[OutcomeChoice, ...]:
    if found.accepted is not True:
        return (KEEP_HOLDING, ASK_FULL)
    if {c.change for _, _, c in comparisons(run)} == {ComparedChange.UNCHANGED}:
        return (RELEASE_UNCHANGED, ASK_FULL)
    return (ASK_FULL, KEEP_HOLDING)


def _after_measuring(_run: RunState, _found: Verdict, _today: date) -> tuple[OutcomeChoice, ...]:
    return (KEEP_VALUES,)


def _after_comparing(_run: RunState, _found: Verdict, _today: date) -> tuple[OutcomeChoice, ...]:
    return (KEEP_COMPARISON,)


def _after_diary(run: RunState, _found: Verdict, _today: date) -> tuple[OutcomeChoice, ...]:
    return (HOLD_ABUSED, RETIRE) if harmed(run) else (KEEP_COMPARISON,)


_CONCLUSIONS: dict[RunKind, Callable[[RunState, Verdict, date], tuple[OutcomeChoice, ...]]] = {
    RunKind.FULL: _after_full,
    RunKind.CHECK: _after_check,
    RunKind.EVENT: _after_event,
    RunKind.CHARACTERISE: _after_measuring,
    RunKind.COMPARE: _after_comparing,
    RunKind.DIARY: _after_diary,
}


def good_part(found: Verdict) -> tuple[float, float] | None:
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


def next_interval(run: RunState) -> Interval:
    """The interval that follows this run, by its tool's school and how the tool was found."""
    months = run.tool.interval_months or run.rules.months
    found = judged(run).found
    used = None
    if found is not None and found.accepted is not None:
        used = found.worst.decision.looked_at / found.worst.decision.limit
    return proposed(run.facts.interval or IntervalBasis(School.FIXED, months, months), used)


def next_due(run: RunState, today: date) -> Due:
    """The due date that signing ``today`` sets, or for an amendment that of the day it amends: the tool's interval, or the
    day on which the cycles that its rule set allows run out, at so many a year."""
    counted = run.as_of or today
    return due_date(
        counted,
        today=counted,
        months=next_interval(run).months,
        cycles=run.rules.cycles,
        cycles_per_day=run.tool.cycles_per_year / DAYS_A_YEAR,
    )


def _due_words(run: RunState, today: date) -> str:
    due, interval = next_due(run, today), next_interval(run)
    if due.reason is DueReason.CYCLES:
        return tr(
            "Due again on {on}, when its {cycles} cycles will be used up", on=day_words(due.on), cycles=run.rules.cycles
        )
    why = f": {interval.why}" if interval.why else ""
    return tr(
        "Due again on {on}, {months} months from today{why}", on=day_words(due.on), months=interval.months, why=why
    )


class ConclusionWord(StrEnum):
    """The word."""

    FINE = mark("Fine")
    LEAVE = mark("Leave it alone")
    ADJUST = mark("Adjust")
    HOLD = mark("Hold")


@dataclass(frozen=True)
class Conclusion:
    """What is said, and ``why``, which completes a sentence."""

    says: ConclusionWord
    why: str


def conclude(run: RunState) -> Conclusion | None:
    """The word for a run whose readings are complete; None for one that decides nothing by its kind, or a shop check."""
    found = judged(run).verdict
    if found is None or not run.policy.judges or found.state is State.COMPARED:
        return None
    worst = found.worst.decision
    spare = percent(abs(worst.limit - worst.looked_at), 1)
    adjustable = run.tool.adjustment is not None
    if found.accepted is None:
        return Conclusion(
            ConclusionWord.HOLD, tr("nothing was decided with this reference; test it against a better one")
        )
    if found.accepted and comfortable(run):
        return Conclusion(ConclusionWord.FINE, tr("{spare} to spare, more than half of its limit", spare=spare))
    if found.accepted and found.state is State.INSIDE:
        return Conclusion(
            ConclusionWord.LEAVE,
            tr("inside with {spare} to spare, and a turn would not make it better for sure", spare=spare),
        )
    how = (
        tr("{spare} too much", spare=spare)
        if worst.looked_at > worst.limit
        else tr("only {spare} to spare", spare=spare)
    )
    if adjustable:
        return Conclusion(
            ConclusionWord.ADJUST, tr("{how}; go on with it as a full run, with as found and as left", how=how)
        )
    if found.accepted:
        return Conclusion(
            ConclusionWord.LEAVE, tr("{how}, and nobody here adjusts this model; have it tested in full soon", how=how)
        )
    return Conclusion(
        ConclusionWord.HOLD, tr("{how}, and nobody here adjusts this model; send it to a laboratory", how=how)
    )
