"""From a budget to a verdict: four states, four rules (ISO 6789-1; ILAC-G8:09/2019; JCGM 106:2012)."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from reckoner.core.budget import Budget
from reckoner.core.checks import positive
from reckoner.core.errors import UnreachableError
from reckoner.core.rules import Decision, Rule
from reckoner.core.states import State

ROUNDING = 1e-12
"""Relative slack for binary rounding, so that a reading exactly on its limit lies inside."""


@dataclass(frozen=True)
class PointDecision:
    """One point judged: the state, and whether the chosen rule accepts (None: it leaves the matter open).

    ``looked_at`` is the magnitude judged and ``near_zone`` the width g·W + |b_ep|, both fractions.
    """

    rule: Rule
    state: State
    accepted: bool | None
    looked_at: float
    near_zone: float
    probability: float


def judge(budget: Budget, limit: float, decision: Decision, *, reference_adequate: bool = True) -> PointDecision:
    """Judge one point's ``budget`` against ±``limit`` (fraction) by ``decision``.

    State: of the worst |a_j| for the every-reading rule, of |ā| for the others, against a near zone g·W + |b_ep| on
    both sides of the limit. An inadequate reference decides nothing. Raises InputRefused for a limit not above zero.
    Source: ISO 6789-1:2017, 6.2.6; ILAC-G8:09/2019, 4.2; JCGM 106:2012, 8.3.
    """
    positive("limit", limit)
    near = decision.guard_factor * budget.expanded_uncertainty + abs(budget.reference_error)
    mean = abs(budget.deviation)
    worst = float(np.abs(budget.deviations).max())
    looked_at = worst if decision.rule is Rule.EVERY_READING else mean
    probability = budget.probability_of_conformity(limit)
    if not reference_adequate:
        return PointDecision(decision.rule, State.UNDECIDED, None, looked_at, near, probability)
    accepted: bool | None
    match decision.rule:
        case Rule.EVERY_READING | Rule.MEAN:
            accepted = _at_most(looked_at, limit)
        case Rule.GUARDED:
            accepted = True if _at_most(mean + near, limit) else False if mean - near > limit else None
        case Rule.PROBABILITY:
            accepted = probability >= decision.level
        case other:
            raise UnreachableError(other)
    return PointDecision(decision.rule, state_of(looked_at, limit, near), accepted, looked_at, near, probability)


def state_of(magnitude: float, limit: float, near: float) -> State:
    """The state of a ``magnitude`` under ``limit`` with a near zone of ``near`` on both sides; fractions."""
    if _at_most(magnitude, limit):
        return State.INSIDE if _at_most(magnitude, limit - near) else State.INSIDE_NEAR
    return State.OUTSIDE_NEAR if _at_most(magnitude, limit + near) else State.OUTSIDE


def worst_state(states: tuple[State, ...]) -> State:
    """The verdict of a run is that of its worst point; undecided outranks all."""
    return max(states, key=lambda state: state.severity, default=State.UNDECIDED)


def all_accepted(answers: tuple[bool | None, ...]) -> bool | None:
    """False if any point is refused, else None if any is open, else True."""
    if any(a is False for a in answers):
        return False
    return None if not answers or any(a is None for a in answers) else True


def _at_most(value: float, bound: float) -> bool:
    return value <= bound + ROUNDING * max(abs(bound), abs(value))
