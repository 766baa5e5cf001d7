"""The whole scale at once: what one turn of the screw does to every point, and the turn that leaves the worst least."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from enum import StrEnum

from reckoner.core.arrays import Values, positive_array
from reckoner.core.checks import between, finite, positive
from reckoner.core.errors import InputRefused


class ErrorKind(StrEnum):
    """What a screw changes: the same torque at every setting, or the same part of it."""

    OFFSET = "offset"
    GAIN = "gain"


@dataclass(frozen=True)
class PointSeries:
    """A point's target and readings, N·m."""

    target: float
    readings: tuple[float, ...]


@dataclass(frozen=True)
class PointAfter:
    """A point's deviation ``now`` and ``then``, after the best turn; fractions."""

    target: float
    now: float
    then: float


@dataclass(frozen=True)
class WholeScale:
    """``turn`` leaves the worst |deviation| least (None where the rate is not known), and ``worst`` is that; ``curable``
    when it lies within the limit, else this screw cannot cure it. ``change`` is what the turn adds: N·m for an offset, a
    fraction for a gain."""

    turn: float | None
    change: float
    worst: float
    points: tuple[PointAfter, ...]
    curable: bool


def best_turn(points: Sequence[PointSeries], limit: float, kind: ErrorKind, rate: float | None = None) -> WholeScale:
    """The turn that makes the worst |deviation| of ``points`` smallest, held against ±``limit`` (fraction).

    ``rate`` a turn: N·m for an offset, a fraction for a gain. An offset adds the same torque to every reading, a gain
    multiplies them; every deviation falls as the readings grow, so the worst is least where the highest and the lowest are
    opposite and equal. Raises InputRefused without points, for a reading that is not above zero, or a rate of zero. Source:
    minimax; the mean of (X_a − X_r)/X_r of ISO 6789-1:2017, 6.2.5.

    >>> low = [PointSeries(40, (38.4,)), PointSeries(120, (118.0,)), PointSeries(200, (197.0,))]
    >>> found = best_turn(low, 0.04, ErrorKind.OFFSET, 7.5)
    >>> round(found.turn, 4), round(found.worst, 4), found.curable
    (0.2447, 0.0059, True)
    """
    between("limit_percent", limit * 100, 0.01, 99, "%")
    if not points:
        raise InputRefused("points", (), "needs at least one point with readings")
    targets = [positive(f"points[{i}].target", p.target) for i, p in enumerate(points)]
    groups = [positive_array(f"points[{i}].readings", p.readings) for i, p in enumerate(points)]
    if rate is not None and finite("rate", rate) == 0:
        raise InputRefused("rate", rate, "a screw that changes nothing cures nothing; give what a turn changes")
    change = _offset(targets, groups) if kind is ErrorKind.OFFSET else _gain(targets, groups)
    moved = [group + change if kind is ErrorKind.OFFSET else group * (1 + change) for group in groups]
    after = tuple(
        PointAfter(target, _deviation(target, now), _deviation(target, then))
        for target, now, then in zip(targets, groups, moved, strict=True)
    )
    worst = max(abs(point.then) for point in after)
    return WholeScale(None if rate is None else change / rate, change, worst, after, worst <= limit * (1 + 1e-12))


def _deviation(target: float, readings: Values) -> float:
    return float((target / readings).mean()) - 1


def _gain(targets: list[float], groups: list[Values]) -> float:
    quotients = [_deviation(target, group) + 1 for target, group in zip(targets, groups, strict=True)]
    return (max(quotients) + min(quotients)) / 2 - 1


def _offset(targets: list[float], groups: list[Values]) -> float:
    def balance(shift: float) -> float:
        """Above zero while the lowest readings outweigh the highest; falls as the shift grows."""
        deviations = [_deviation(target, group + shift) for target, group in zip(targets, groups, strict=True)]
        return max(deviations) + min(deviations)

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
