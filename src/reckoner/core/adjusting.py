"""What to turn next: least squares of the readings on the cumulative turns of the adjusting screw."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from reckoner.core.arrays import positive_array
from reckoner.core.checks import finite, positive
from reckoner.core.errors import InputRefused

MOST = 1.0
"""Never advise more than this many turns at once."""

RATE_VARIES = 0.3
"""How far the rate of one tool may lie from its model's: a standard deviation, as a fraction."""

USUAL_SCATTER, WORTH = 0.004, 2
"""The scatter of readings, as a fraction, that is taken to be usual, and the degrees of freedom it counts for beside that
seen."""

NOTHING = 0.02
"""The part of a model's rate below which turning has changed nothing."""

REVERSED = 3.0
"""Standard uncertainties by which the screw must have worked the other way before its model is not believed."""


@dataclass(frozen=True)
class AdjustStep:
    """``turn`` signed from the previous step, and the readings (N·m) after it."""

    turn: float
    readings: tuple[float, ...]


@dataclass(frozen=True)
class Advice:
    """Rate in N·m a turn; turns are signed. ``eighth_below`` and ``eighth_above`` are the eighths of a turn around the
    exact one, with the readings (N·m) expected there. ``turns_left`` is what the model's limit of turns still allows; None
    without one."""

    rate_per_turn: float
    next_turn: float
    eighth_below: float
    eighth_above: float
    reading_at_eighth_below: float
    reading_at_eighth_above: float
    reversed: bool
    settled: bool
    turns_left: float | None = None


def advise(
    target: float, steps: Sequence[AdjustStep], prior_rate: float | None = None, most_turns: float | None = None
) -> Advice:
    """The next turn towards ``target`` (N·m): (target − last mean)/rate, at most one turn.

    The rate is the least-squares slope of all readings on cumulative turns. With a ``prior_rate`` (N·m a turn), the
    model's, the two are weighed by their uncertainties: a first step that is lost in the scatter does not reverse the
    screw, one that stands out of it does, and then the model is not believed. While nothing was turned the prior alone
    counts. ``settled`` when what is left is below the scatter of the readings. ``most_turns`` is the model's limit on the
    turns made in all, either way. Raises InputRefused without steps, without a rate to go by, or when turning changed
    nothing. Source: ordinary least squares; weighted mean, JCGM 100:2008, H.3 and Bayes' rule for two normal distributions.

    >>> found = advise(60, [AdjustStep(0, (52.1,)), AdjustStep(0.5, (55.9,)), AdjustStep(0.375, (58.6,))])
    >>> round(found.rate_per_turn, 3), round(found.next_turn, 3), found.eighth_below, found.eighth_above
    (7.438, 0.188, 0.125, 0.25)
    """
    positive("target", target)
    if not steps:
        raise InputRefused("steps", (), "needs at least one step with readings")
    groups = [positive_array(f"steps[{i}].readings", s.readings) for i, s in enumerate(steps)]
    turns = np.cumsum([finite(f"steps[{i}].turn", s.turn) for i, s in enumerate(steps)])
    rate = _slope(turns, groups)
    reversed_ = False
    if rate is None:
        if prior_rate is None:
            raise InputRefused("prior_rate", None, "nothing was turned yet and the model's rate is not known; give it")
        rate = finite("prior_rate", prior_rate)
    elif prior_rate is not None and finite("prior_rate", prior_rate) != 0:
        rate, reversed_ = _weighed(rate, _doubt(turns, groups), prior_rate)
    if abs(rate) <= NOTHING * abs(prior_rate or 0.0):
        raise InputRefused("steps", rate, "turning the screw changed nothing; check that this is the right screw")
    last = float(groups[-1].mean())
    exact = (target - last) / rate
    left = (
        None
        if most_turns is None
        else max(0.0, positive("most_turns", most_turns) - float(np.abs(np.diff(turns)).sum()))
    )
    most = MOST if left is None else min(MOST, left)
    capped = max(-most, min(most, exact))
    below, above = math.floor(capped * 8) / 8, math.ceil(capped * 8) / 8
    return Advice(
        rate_per_turn=rate,
        next_turn=capped,
        eighth_below=below,
        eighth_above=above,
        reading_at_eighth_below=last + rate * below,
        reading_at_eighth_above=last + rate * above,
        reversed=reversed_,
        settled=abs(target - last) <= _scatter(groups),
        turns_left=left,
    )


def series_agree(earlier: Sequence[float], later: Sequence[float]) -> bool:
    """Whether two settled series (N·m) agree within their scatter: means no further apart than twice √(s₁²/n₁ + s₂²/n₂).

    Raises InputRefused with fewer than two readings in either. Source: shop practice after adjusting.

    >>> series_agree([60.1, 60.2, 60.0], [60.1, 60.3, 60.2]), series_agree([60.1, 60.2, 60.0], [61.1, 61.3, 61.2])
    (True, False)
    """
    one, two = positive_array("earlier", earlier, at_least=2), positive_array("later", later, at_least=2)
    error = math.hypot(*(float(g.std(ddof=1)) / math.sqrt(len(g)) for g in (one, two)))
    return abs(float(one.mean() - two.mean())) <= 2 * error


def _slope(turns: np.ndarray, groups: list[np.ndarray]) -> float | None:
    """N·m a turn, every reading counted; None when all were taken at one position."""
    x = np.repeat(turns, [len(g) for g in groups])
    y = np.concatenate(groups)
    spread = float(((x - x.mean()) ** 2).sum())
    return None if spread == 0 else float(((x - x.mean()) * (y - y.mean())).sum() / spread)


def _weighed(rate: float, doubt: float, prior: float) -> tuple[float, bool]:
    """The rate with its model's weighed in, and whether the screw works the other way."""
    if rate * prior < 0 and abs(rate) > REVERSED * doubt:
        return rate, True
    varies = RATE_VARIES * abs(prior)
    weight = varies**2 / (varies**2 + doubt**2)
    weighed = weight * rate + (1 - weight) * prior
    return (weighed, False) if weighed * prior > 0 else (prior, False)


def _doubt(turns: np.ndarray, groups: list[np.ndarray]) -> float:
    """The standard uncertainty of the slope in N·m a turn, from the scatter within the steps and what is usual."""
    x = np.repeat(turns, [len(g) for g in groups])
    usual = USUAL_SCATTER * float(np.concatenate(groups).mean())
    freedom = sum(len(g) - 1 for g in groups)
    square = (freedom * _scatter(groups) ** 2 + WORTH * usual**2) / (freedom + WORTH)
    return math.sqrt(square / float(((x - x.mean()) ** 2).sum()))


def _scatter(groups: list[np.ndarray]) -> float:
    """Pooled standard deviation within the steps, in N·m; 0 when no step has two readings."""
    freedom = sum(len(g) - 1 for g in groups)
    return math.sqrt(sum(float(((g - g.mean()) ** 2).sum()) for g in groups) / freedom) if freedom else 0.0
