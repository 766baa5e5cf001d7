"""From a budget to a verdict: four states, four rules (ISO 6789-1; ILAC-G8:09/2019; JCGM 106:2012).

Deviation of a reading (ISO 6789-1:2017, 6.2.5; domain term: positive means the tool under-delivers).

One-sided evidence: silent up to a torque, or a signal at one. It can prove a tool outside, never inside.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum
from typing import NamedTuple

from reckoner.core.decision.states import State
from reckoner.core.errors import UnreachableError
from reckoner.core.quantities.checks import SLACK, at_least, at_most, between, positive
from reckoner.core.requirements.rules import Decision, Rule
from reckoner.core.uncertainty.budget import Budget

_EVERY_READING, _INSIDE, _INSIDE_NEAR = Rule.EVERY_READING, State.INSIDE, State.INSIDE_NEAR  # looked up once, for speed


class PointDecision(NamedTuple):
    """One point judged: the state, and whether the chosen rule accepts (None: it leaves the matter open).

    ``looked_at`` is the magnitude judged, ``near_zone`` the width g·W + |b_ep| and ``limit`` the fence, all fractions.
    """

    rule: Rule
    state: State
    accepted: bool | None
    looked_at: float
    near_zone: float
    limit: float
    budget: Budget

    @property
    def probability(self) -> float:
        """The probability of conformity, whatever the rule (JCGM 106:2012, 7.2)."""
        return self.budget.probability_of_conformity(self.limit)


def judge(
    budget: Budget,
    limit: float,
    decision: Decision,
    *,
    reference_adequate: bool = True,
    otherwise: State = State.UNDECIDED,
) -> PointDecision:
    """Judge one point's ``budget`` against ±``limit`` (fraction) by ``decision``; the state is ``otherwise`` where the
    reference decides nothing.

    State: of the worst |a_j| for the every-reading rule, of |ā| for the others, against a near zone g·W + |b_ep| on
    both sides of the limit. An inadequate reference decides nothing. Raises InputRefused for a limit not above zero.
    Source: ISO 6789-1:2017, 6.2.6; ILAC-G8:09/2019, 4.2; JCGM 106:2012, 8.3.
    """
    if not 0.0 < limit < math.inf:
        positive("limit", limit)
    rule = decision.rule
    near = decision.guard_factor * budget.coverage_factor * budget.standard_uncertainty + abs(budget.reference.left)
    looked_at = budget.worst if rule is _EVERY_READING else abs(budget.deviation)
    if not reference_adequate:
        return PointDecision(rule, otherwise, None, looked_at, near, limit, budget)
    state = state_of(looked_at, limit, near)
    accepted: bool | None
    if rule is _EVERY_READING or rule is Rule.MEAN:
        accepted = state is _INSIDE or state is _INSIDE_NEAR
    elif rule is Rule.GUARDED:
        accepted = True if at_most(looked_at + near, limit) else None if at_most(looked_at - near, limit) else False
    elif rule is Rule.PROBABILITY:
        accepted = budget.probability_of_conformity(limit) >= decision.level
    else:
        raise UnreachableError(rule)
    return PointDecision(rule, state, accepted, looked_at, near, limit, budget)


def state_of(magnitude: float, limit: float, near: float) -> State:
    """The state of a ``magnitude`` under ``limit`` with a near zone of ``near`` on both sides; fractions. Refuses nothing.
    Source: ISO 6789-1:2017, 6.2.6."""
    slack = SLACK * limit
    if magnitude <= limit + slack:
        return _INSIDE if magnitude <= limit - near + slack else _INSIDE_NEAR
    return State.OUTSIDE_NEAR if magnitude <= limit + near + slack else State.OUTSIDE


def worst_state(states: tuple[State, ...]) -> State:
    """The verdict of a run is that of its worst point; undecided outranks all. Refuses nothing. Source: ISO 6789-1:2017,
    6.2.6: every point must conform."""
    return max(states, key=lambda state: state.severity, default=State.UNDECIDED)


def all_accepted(answers: tuple[bool | None, ...]) -> bool | None:
    """False if any point is refused, else None if any is open, else True. Refuses nothing. Source: ISO 6789-1:2017, 6.2.6:
    every point must conform."""
    if any(a is False for a in answers):
        return False
    return None if not answers or any(a is None for a in answers) else True


def deviation(target: float, reading: float) -> float:
    """a = (X_a − X_r)/X_r, a fraction; both torques in N·m and above zero.

    Positive: the tool delivers less than it says. Raises InputRefused for a value that is not above zero.
    Source: ISO 6789-1:2017, 6.2.5.

    >>> f"{deviation(60, 57.5):+.5f} {deviation(60, 62.5):+.5f}"
    '+0.04348 -0.04000'
    """
    positive("target", target)
    positive("reading", reading)
    return (target - reading) / reading


def shown_error(target: float, reading: float) -> float:
    """(X_r − X_a)/X_a, the fraction for the plain sentence "4.2 % below its setting". Same errors as ``deviation``. Source:
    VIM 2.16, relative to the setting.

    >>> round(shown_error(60, 57.5), 5)
    -0.04167
    """
    positive("target", target)
    positive("reading", reading)
    return (reading - target) / target


class OneSidedProof(StrEnum):
    OUTSIDE = "outside"
    OPEN = "open"


@dataclass(frozen=True)
class Evidence:
    """What one observation proves; ``bound`` on the deviation, a fraction: it lies below it for a silent tool, at it or
    above for one that signalled."""

    proof: OneSidedProof
    bound: float


def silent_at(setting: float, torque: float, limit: float) -> Evidence:
    """A tool set to ``setting`` that did not signal at ``torque`` (N·m): it trips at more, so a < X_a/T − 1.

    Outside ±``limit`` (a fraction below 1) when T > X_a/(1 − limit); just there it is open. Raises InputRefused. Source:
    the definition of the deviation, ISO 6789-1:2017, 6.2.5.

    >>> found = silent_at(120, 126, 0.04)
    >>> str(found.proof), round(found.bound, 5)
    ('outside', -0.04762)
    """
    bound = _bound(setting, torque, limit)
    return Evidence(OneSidedProof.OPEN if at_least(bound, -limit) else OneSidedProof.OUTSIDE, bound)


def signal_at(setting: float, torque: float, limit: float) -> Evidence:
    """A tool set to ``setting`` that signalled at ``torque`` (N·m), who knows how far below: it trips at no more, so a ≥
    X_a/T − 1. Raises InputRefused. Source: a click proves that the tool trips at no more.

    Outside when T < X_a/(1 + limit). Errors and source as ``silent_at``.

    >>> found = signal_at(60, 9, 0.04)
    >>> str(found.proof), round(found.bound, 3)
    ('outside', 5.667)
    """
    bound = _bound(setting, torque, limit)
    return Evidence(OneSidedProof.OPEN if at_most(bound, limit) else OneSidedProof.OUTSIDE, bound)


def _bound(setting: float, torque: float, limit: float) -> float:
    between("limit_percent", limit * 100, 0.01, 99, "%")
    return positive("set", setting) / positive("torque", torque) - 1
