"""What to turn next: least squares of the readings on the cumulative turns of the adjusting screw.

The whole scale at once: what one turn of the screw does to every point, and the turn that leaves the worst least.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.arrays import Values, positive_array
from reckoner.core.quantities.checks import at_most, between, finite, not_negative, positive
from reckoner.core.requirements.tooltypes import ErrorKind
from reckoner.core.translation import tr

MOST = 1.0
"""Never advise more than this many turns at once."""

RATE_VARIES = 0.3
"""How far the rate of one tool may lie from its model's: a standard deviation, as a fraction."""

USUAL_SCATTER, WORTH = 0.004, 2
"""The scatter of readings, as a fraction, that is taken to be usual, and the degrees of freedom it counts for beside that
seen."""

BARELY_ANSWERS = 0.02
"""The part of a model's rate below which turning has changed nothing."""

CONCLUSIVE = 3.0
"""Standard uncertainties from zero from which a rate is more than a guess."""

REVERSED = 3.0
"""Standard uncertainties by which the screw must have worked the other way before its model is not believed."""


@dataclass(frozen=True)
class AdjustStep:
    """``turn`` signed from the previous step, and the readings (N·m) after it."""

    turn: float
    readings: tuple[float, ...]


@dataclass(frozen=True)
class Advice:
    """Rate in N·m a turn, known to ± ``rate_uncertainty``; turns are signed. ``eighth_below`` and ``eighth_above`` are the
    eighths of a turn around the exact one, with the readings (N·m) expected there. ``inconclusive``: what was turned so far
    is lost in the scatter, and the rate little more than a guess. ``turns_left`` is what the model's limit of turns still
    allows; None without one."""

    rate_per_turn: float
    rate_uncertainty: float
    next_turn: float
    eighth_below: float
    eighth_above: float
    reading_at_eighth_below: float
    reading_at_eighth_above: float
    reversed: bool
    settled: bool
    inconclusive: bool
    turns_left: float | None = None

    @property
    def caution(self) -> float:
        """The part of a change divided by the rate that is turned: b²/(b² + σ²)."""
        return caution(self.rate_per_turn, self.rate_uncertainty)


def caution(rate: float, rate_uncertainty: float) -> float:
    """The part of Δ/b that leaves the least expected squared error where the rate is known as b ± σ: b²/(b² + σ²). Refuses
    nothing. Source: the expected squared error of b·x, least where x = Δ·b/(b² + σ²).

    >>> caution(8.0, 0.0), caution(8.0, 4.0), caution(1.0, 4.0) < 0.1
    (1.0, 0.8, True)
    """
    return rate * rate / (rate * rate + rate_uncertainty * rate_uncertainty)


def advise(
    target: float,
    steps: Sequence[AdjustStep],
    prior_rate: float | None = None,
    most_turns: float | None = None,
    *,
    rate_uncertainty: float | None = None,
    largest_turn: float = MOST,
) -> Advice:
    """The next turn towards ``target`` (N·m): Δ·b/(b² + σ²), Δ = target − last mean, at most ``largest_turn`` and one turn.

    The rate b is the least-squares slope of all readings on cumulative turns, ± σ by the scatter of the readings (0 where no
    step has two readings and no ``rate_uncertainty`` is given). With a
    ``prior_rate`` (N·m a turn), the model's, the two are weighed by their uncertainties, the prior's being
    ``rate_uncertainty`` or, once something was turned, three tenths of it: a first step that is lost in the scatter does not
    reverse the screw, one that stands out of it does, and then the model is not believed. While nothing was turned the prior
    alone counts. ``settled`` when what is left is below the scatter of the readings. ``most_turns`` is the model's limit on
    the turns made in all, either way. Raises InputRefused without steps, without a rate to go by, or when turning changed
    nothing. Source: ordinary least squares; weighted mean, JCGM 100:2008, H.3 and Bayes' rule for two normal distributions;
    least expected squared error under that posterior.

    >>> found = advise(60, [AdjustStep(0, (52.1,)), AdjustStep(0.5, (55.9,)), AdjustStep(0.375, (58.6,))])
    >>> round(found.rate_per_turn, 3), round(found.next_turn, 3), found.eighth_below, found.eighth_above
    (7.438, 0.188, 0.125, 0.25)
    """
    positive("target", target)
    if not steps:
        raise InputRefused("steps", (), tr("needs at least one step with readings"))
    groups = [positive_array(f"steps[{i}].readings", s.readings) for i, s in enumerate(steps)]
    turns = np.cumsum([finite(f"steps[{i}].turn", s.turn) for i, s in enumerate(steps)])
    given = None if rate_uncertainty is None else not_negative("rate_uncertainty", rate_uncertainty)
    rate, doubt, reversed_ = _rate(turns, groups, prior_rate, given)
    if abs(rate) <= BARELY_ANSWERS * abs(prior_rate or 0.0):
        raise InputRefused("steps", rate, tr("turning the screw changed nothing; check that this is the right screw"))
    last = float(groups[-1].mean())
    exact = (target - last) / rate * caution(rate, doubt)
    left = (
        None
        if most_turns is None
        else max(0.0, positive("most_turns", most_turns) - float(np.abs(np.diff(turns)).sum()))
    )
    most = min(MOST, positive("largest_turn", largest_turn), math.inf if left is None else left)
    capped = max(-most, min(most, exact))
    below, above = math.floor(capped * 8) / 8, math.ceil(capped * 8) / 8
    return Advice(
        rate_per_turn=rate,
        rate_uncertainty=doubt,
        next_turn=capped,
        eighth_below=below,
        eighth_above=above,
        reading_at_eighth_below=last + rate * below,
        reading_at_eighth_above=last + rate * above,
        reversed=reversed_,
        settled=abs(target - last) <= _scatter(groups),
        inconclusive=abs(rate) < CONCLUSIVE * doubt,
        turns_left=left,
    )


def _rate(
    turns: np.ndarray, groups: list[np.ndarray], prior_rate: float | None, given: float | None
) -> tuple[float, float, bool]:
    """N·m a turn, its standard uncertainty, and whether the screw works the other way than its model's."""
    prior = None if prior_rate is None else finite("prior_rate", prior_rate)
    slope = _slope(turns, groups)
    if slope is None:
        if prior is None:
            raise InputRefused(
                "prior_rate", None, tr("nothing was turned yet and the model's rate is not known; give it")
            )
        return prior, given or 0.0, False
    doubt = _doubt(turns, groups)
    if not prior:
        if slope == 0:
            raise InputRefused(
                "steps", slope, tr("turning the screw changed nothing; check that this is the right screw")
            )
        seen = any(len(g) > 1 for g in groups)
        return slope, (doubt if seen else 0.0) if given is None else given, False
    return _weighed(slope, doubt, prior, RATE_VARIES * abs(prior) if given is None else given)


def slope_uncertainty(steps: Sequence[AdjustStep]) -> float | None:
    """The standard uncertainty (N·m a turn) with which turned ``steps`` tell the rate: by the scatter within them, and what
    is usual; None while nothing was turned. Refuses nothing. Source: least squares through the origin; JCGM 100:2008, H.3.

    >>> round(slope_uncertainty([AdjustStep(0, (60.0,)), AdjustStep(0.125, (61.0,))]), 2)
    2.74
    """
    turns = np.cumsum([s.turn for s in steps])
    return _doubt(turns, [np.array(s.readings) for s in steps]) if float(np.ptp(turns)) > 0 else None


def _slope(turns: np.ndarray, groups: list[np.ndarray]) -> float | None:
    """N·m a turn, every reading counted; None when all were taken at one position."""
    x = np.repeat(turns, [len(g) for g in groups])
    y = np.concatenate(groups)
    spread = float(((x - x.mean()) ** 2).sum())
    return None if spread == 0 else float(((x - x.mean()) * (y - y.mean())).sum() / spread)


def _weighed(rate: float, doubt: float, prior: float, varies: float) -> tuple[float, float, bool]:
    """The rate with its model's, known to ± ``varies``, weighed in, its uncertainty, and whether the screw works the other
    way."""
    if rate * prior < 0 and abs(rate) > REVERSED * doubt:
        return rate, doubt, True
    weight = varies**2 / (varies**2 + doubt**2)
    weighed = weight * rate + (1 - weight) * prior
    return (weighed, math.sqrt(weight) * doubt, False) if weighed * prior > 0 else (prior, varies, False)


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


@dataclass(frozen=True)
class PointSeries:
    """A point's target and readings, N·m, and its limit where it has one of its own (a fraction)."""

    target: float
    readings: tuple[float, ...]
    limit: float | None = None


@dataclass(frozen=True)
class PointAfter:
    """A point's deviation ``now`` and ``then``, after the turn; fractions."""

    target: float
    now: float
    then: float


@dataclass(frozen=True)
class WholeScale:
    """``turn`` leaves the worst |deviation| least (None where the rate is not known), and ``worst`` is that; ``curable``
    when it lies within the limit, else this screw cannot cure it. ``change`` is what the turn adds: N·m for an offset, a
    fraction for a gain. Where points have limits of their own, ``worst`` is of the point that is worst in its limit."""

    turn: float | None
    change: float
    worst: float
    points: tuple[PointAfter, ...]
    curable: bool


def best_turn(points: Sequence[PointSeries], limit: float, kind: ErrorKind, rate: float | None = None) -> WholeScale:
    """The turn that makes the worst |deviation| of ``points`` smallest, held against ±``limit`` (fraction) or each one's own.

    ``rate`` a turn: N·m for an offset, a fraction for a gain. An offset adds the same torque to every reading, a gain
    multiplies them; every deviation falls as the readings grow, so the worst is least where the highest and the lowest are
    opposite and equal. Raises InputRefused without points, for a reading that is not above zero, or a rate of zero. Source:
    minimax; the mean of (X_a − X_r)/X_r of ISO 6789-1:2017, 6.2.5.

    >>> low = [PointSeries(40, (38.4,)), PointSeries(120, (118.0,)), PointSeries(200, (197.0,))]
    >>> found = best_turn(low, 0.04, ErrorKind.OFFSET, 7.5)
    >>> round(found.turn, 4), round(found.worst, 4), found.curable
    (0.2447, 0.0059, True)
    """
    targets, groups, limits = _checked(points, limit)
    if rate is not None and finite("rate", rate) == 0:
        raise InputRefused("rate", rate, tr("a screw that changes nothing cures nothing; give what a turn changes"))
    change = _least_worst(targets, groups, limits, kind)
    after = _after(targets, groups, kind, change)
    worst = max(zip(after, limits, strict=True), key=lambda pair: abs(pair[0].then) / pair[1])
    curable = at_most(abs(worst[0].then), worst[1])
    return WholeScale(None if rate is None else change / rate, change, abs(worst[0].then), after, curable)


def after_change(points: Sequence[PointSeries], kind: ErrorKind, change: float) -> tuple[PointAfter, ...]:
    """Every point's deviation now and once its readings are changed: by N·m for an offset, by a fraction for a gain.

    Raises InputRefused as ``best_turn`` does, and for a change that leaves nothing of a reading.

    >>> [round(p.then, 4) for p in after_change([PointSeries(40, (38.4,))], ErrorKind.OFFSET, 1.6)]
    [0.0]
    """
    targets, groups, _limits = _checked(points, 1.0)
    finite("change", change)
    moved = [_moved(group, kind, change) for group in groups]
    if any(float(group.min()) <= 0 for group in moved):
        raise InputRefused("change", change, tr("takes more off than there is"))
    return _after(targets, groups, kind, change)


def taught(before: Sequence[PointSeries], after: Sequence[PointSeries]) -> ErrorKind | None:
    """What a screw changes, learnt from the same two or more points before and after it was turned: whether one torque, or
    one fraction, added to all readings fits better. None where nothing changed, or one point tells nothing.

    Raises InputRefused as ``best_turn`` does. Source: least squares of the changes relative to their readings.

    >>> before = [PointSeries(40, (38.0,)), PointSeries(200, (190.0,))]
    >>> str(taught(before, [PointSeries(40, (40.0,)), PointSeries(200, (200.0,))]))
    'gain'
    """
    old = {p.target: float(g.mean()) for p, g in zip(before, _checked(before, 1.0)[1], strict=True)}
    new = {p.target: float(g.mean()) for p, g in zip(after, _checked(after, 1.0)[1], strict=True)}
    both = [(old[t], new[t] - old[t]) for t in old if t in new]
    if len(both) < 2 or all(abs(moved) < BARELY_MOVED * reading for reading, moved in both):
        return None
    inverse = [1 / reading for reading, _ in both]
    relative = [moved / reading for reading, moved in both]
    shift = sum(q * r for q, r in zip(inverse, relative, strict=True)) / sum(q * q for q in inverse)
    gain = sum(relative) / len(relative)
    by_offset = sum((r - shift * q) ** 2 for q, r in zip(inverse, relative, strict=True))
    by_gain = sum((r - gain) ** 2 for r in relative)
    return ErrorKind.OFFSET if by_offset < by_gain else ErrorKind.GAIN


BARELY_MOVED = 0.002
"""A change smaller than this fraction of a reading is lost in its scatter."""


def _checked(points: Sequence[PointSeries], limit: float) -> tuple[list[float], list[Values], list[float]]:
    between("limit_percent", limit * 100, 0.01, 100, "%")
    if not points:
        raise InputRefused("points", (), tr("needs at least one point with readings"))
    targets = [positive(f"points[{i}].target", p.target) for i, p in enumerate(points)]
    groups = [positive_array(f"points[{i}].readings", p.readings) for i, p in enumerate(points)]
    limits = [between(f"points[{i}].limit", p.limit or limit, 1e-4, 1.0, "") for i, p in enumerate(points)]
    return targets, groups, limits


def _moved(group: Values, kind: ErrorKind, change: float) -> Values:
    return group + change if kind is ErrorKind.OFFSET else group * (1 + change)


def _after(targets: list[float], groups: list[Values], kind: ErrorKind, change: float) -> tuple[PointAfter, ...]:
    return tuple(
        PointAfter(target, _deviation(target, group), _deviation(target, _moved(group, kind, change)))
        for target, group in zip(targets, groups, strict=True)
    )


def _deviation(target: float, readings: Values) -> float:
    return float((target / readings).mean()) - 1


def _least_worst(targets: list[float], groups: list[Values], limits: list[float], kind: ErrorKind) -> float:
    if kind is ErrorKind.GAIN and len(set(limits)) == 1:
        quotients = [_deviation(target, group) + 1 for target, group in zip(targets, groups, strict=True)]
        return (max(quotients) + min(quotients)) / 2 - 1

    def balance(change: float) -> float:
        """Above zero while the lowest readings outweigh the highest; falls as the change grows."""
        deviations = [
            _deviation(target, _moved(group, kind, change)) / limit
            for target, group, limit in zip(targets, groups, limits, strict=True)
        ]
        return max(deviations) + min(deviations)

    if kind is ErrorKind.GAIN:
        return _root(balance, -1 + 1e-9, 1.0)
    lowest = min(float(group.min()) for group in groups)
    return _root(balance, -lowest * (1 - 1e-9), max(targets) + lowest)


def _root(falling: Callable[[float], float], low: float, high: float) -> float:
    while falling(high) > 0:
        high *= 2
    for _ in range(200):
        middle = (low + high) / 2
        low, high = (middle, high) if falling(middle) > 0 else (low, middle)
        if math.nextafter(low, high) >= high:
            break
    return (low + high) / 2
