"""The whole scale at once: what one turn of the screw does to every point, and the turn that leaves the worst least."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from reckoner.core.arrays import Values, positive_array
from reckoner.core.checks import at_most, between, finite, positive
from reckoner.core.errors import InputRefused
from reckoner.core.kinds import ErrorKind
from reckoner.core.translation import tr


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
