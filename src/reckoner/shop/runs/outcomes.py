"""How a complete run can be concluded: what may follow for its tool, the advised first.

To add an outcome: a member of ``store.terms.Outcome``, a way to it here, and what it does in ``signing``.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date

from reckoner.core.comparison import Change
from reckoner.core.due import due_date
from reckoner.core.printing import span
from reckoner.core.states import State
from reckoner.core.verdict import Verdict
from reckoner.shop.runs.judging import comparisons, judged
from reckoner.shop.runs.state import RunState
from reckoner.store.terms import Outcome, RunKind


@dataclass(frozen=True)
class Choice:
    """One way to conclude, in words; the first of several is what Reckoner advises."""

    outcome: Outcome
    words: str
    why: str


RELEASE_CHECKED = Choice(Outcome.RELEASED, "Release it", "A quick check does not renew its due date.")
RELEASE_UNCHANGED = Choice(Outcome.RELEASED, "Release it", "It has not changed by an amount that matters.")
KEEP_HOLDING = Choice(Outcome.KEEP_HOLDING, "Keep holding it", "It is not used.")
ASK_FULL = Choice(Outcome.FULL_RUN, "Ask for a full run", "It is held until one accepts it.")
HOLD = Choice(Outcome.HELD, "Hold it", "It is locked away until a run accepts it.")
RETIRE = Choice(Outcome.RETIRED, "Retire it", "It leaves service for good; its history stays.")
KEEP_VALUES = Choice(Outcome.CHARACTERISED, "Keep these values", "Budgets use them from now on.")


ONLY_COMPARED = Choice(
    Outcome.COMPARED,
    "Keep it as a shop check",
    "Nothing is decided: where the tool stands and when it is due stay as they are.",
)


def choices(run: RunState, today: date) -> tuple[Choice, ...]:
    """The ways in which a complete run can be concluded, the advised one first."""
    found = judged(run).verdict
    if found is None:
        return ()
    if found.state is State.COMPARED and run.policy.judges:
        return (ONLY_COMPARED, HOLD)
    return _CONCLUSIONS[run.kind](run, found, today)


def _after_full(run: RunState, found: Verdict, today: date) -> tuple[Choice, ...]:
    if found.accepted is True:
        if not run.rules.renews_due_date:
            return (Choice(Outcome.RELEASED, "Release it", "This rule set does not renew its due date."),)
        due, months = next_due(run, today), run.tool.interval_months or run.rules.months
        return (Choice(Outcome.RELEASED, "Release it", f"Due again on {due:%-d %b %Y}, {months} months from today."),)
    part = good_part(found)
    if found.accepted is False and part is not None:
        words = span(*part, run.tool.unit)
        why = f"Its tag shows {words}; it is not used outside."
        return (HOLD, Choice(Outcome.RESTRICTED, f"Restrict it to {words}", why), RETIRE)
    return (HOLD, RETIRE)


def _after_check(_run: RunState, found: Verdict, _today: date) -> tuple[Choice, ...]:
    if found.accepted is True and found.state is State.INSIDE:
        return (RELEASE_CHECKED, ASK_FULL)
    if found.accepted is True:
        return (ASK_FULL, RELEASE_CHECKED, KEEP_HOLDING)
    return (KEEP_HOLDING, ASK_FULL)


def _after_event(run: RunState, found: Verdict, _today: date) -> tuple[Choice, ...]:
    if found.accepted is not True:
        return (KEEP_HOLDING, ASK_FULL)
    if {c.change for _, _, c in comparisons(run)} == {Change.UNCHANGED}:
        return (RELEASE_UNCHANGED, ASK_FULL)
    return (ASK_FULL, KEEP_HOLDING)


def _after_measuring(_run: RunState, _found: Verdict, _today: date) -> tuple[Choice, ...]:
    return (KEEP_VALUES,)


_CONCLUSIONS: dict[RunKind, Callable[[RunState, Verdict, date], tuple[Choice, ...]]] = {
    RunKind.FULL: _after_full,
    RunKind.CHECK: _after_check,
    RunKind.EVENT: _after_event,
    RunKind.CHARACTERISE: _after_measuring,
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


def next_due(run: RunState, today: date) -> date:
    """The due date that signing ``today`` sets, or for an amendment that of the day it amends: the tool's own interval,
    else the rule set's."""
    counted = run.as_of or today
    return due_date(counted, today=counted, months=run.tool.interval_months or run.rules.months).on
