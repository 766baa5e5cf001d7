"""Adapters and the hand: the torque at the fastener over the torque set or shown."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.checks import between, finite, not_negative, positive
from reckoner.core.translation import tr


@dataclass(frozen=True)
class Adapter:
    """``length`` in m from drive centre to fastener centre; ``angle_rad`` from the handle's axis, 0 in line and away."""

    length: float
    angle_rad: float = 0.0

    def __post_init__(self) -> None:
        not_negative("adapters.length", self.length)
        between("adapters.angle", math.degrees(self.angle_rad), -360, 360, "deg")

    @property
    def reach(self) -> float:
        """e·cos φ: how much further from the hand the fastener is, in m. Exactly 0 when square."""
        return 0.0 if abs(math.cos(self.angle_rad)) < 1e-15 else self.length * math.cos(self.angle_rad)


@dataclass(frozen=True)
class Lever:
    """The tool: ``length`` L to the grip mark, ``pivot`` offset p, where the ``hand`` pulls (None: at the mark); m."""

    length: float
    pivot: float = 0.0
    hand: float | None = None

    def __post_init__(self) -> None:
        positive("length", self.length)
        not_negative("pivot", self.pivot)
        if self.pivot >= self.length:
            raise InputRefused("pivot", self.pivot, tr("the pivot must lie nearer the drive than the grip mark"))
        if self.hand is not None:
            positive("hand", self.hand)
            if self.hand <= self.pivot:
                raise InputRefused("hand", self.hand, tr("the hand must pull beyond the pivot"))


def factor(lever: Lever, adapters: Sequence[Adapter] = ()) -> float:
    """f = (L − p)/L · (h + E)/(h − p), E = Σ e_i cos φ_i: torque at the fastener over torque set.

    1 without adapters and with the hand at the mark. Raises InputRefused when the adapters fold the fastener back to the
    hand. Source: moments about the pivot and about the fastener.

    >>> tool = Lever(0.320)
    >>> [round(factor(tool, [Adapter(0.045, math.radians(d))]), 6) for d in (0, 45, 90, 180)]
    [1.140625, 1.099437, 1.0, 0.859375]
    >>> round(factor(Lever(0.320, pivot=0.03, hand=0.30)), 5)
    1.00694
    """
    hand = lever.length if lever.hand is None else lever.hand
    reach = math.fsum(a.reach for a in adapters)
    if hand + reach <= 0:
        raise InputRefused("adapters", reach, tr("the adapters fold the fastener back to the hand or beyond it"))
    return (lever.length - lever.pivot) / lever.length * (hand + reach) / (hand - lever.pivot)


def setting_for(wanted: float, f: float, deviation: float = 0.0) -> float:
    """X = T/f·(1 + a): what to set, in N·m, for a wanted torque, with the tool's known deviation (fraction). Raises
    InputRefused. Source: ISO 6789-1:2017, 6.2.5 solved for X_a; moments about the pivot."""
    positive("want", wanted)
    positive("factor", f)
    return wanted / f * (1 + between("deviation_percent", deviation * 100, -50, 50, "%") / 100)


def delivered_by(setting: float, f: float, deviation: float = 0.0) -> float:
    """X·f/(1 + a): what a setting delivers at the fastener, in N·m. The inverse of ``setting_for``. Raises InputRefused.
    Source: ISO 6789-1:2017, 6.2.5 solved for X_r; moments about the pivot."""
    positive("set", setting)
    positive("factor", f)
    return setting * f / (1 + between("deviation_percent", deviation * 100, -50, 50, "%") / 100)


@dataclass(frozen=True)
class AngleWindow:
    """Angles in rad about 90° within which a factor stays within an error."""

    low_rad: float
    high_rad: float


def square_window(length: float, adapter: float, within: float) -> AngleWindow:
    """How far from 90° an adapter of ``adapter`` m may stand on a tool of ``length`` m for an error of ±``within``.

    The whole half turn when the adapter is so short that it does not matter. Raises InputRefused.
    Source: cos φ = ±within·L/e, the inverse of ``factor``.

    >>> [round(math.degrees(a), 2) for a in (square_window(0.32, 0.045, 0.01).low_rad, 0)]
    [85.92, 0.0]
    """
    positive("length", length)
    positive("adapter", adapter)
    positive("within", finite("within", within))
    bound = math.acos(min(1.0, within * length / adapter))
    return AngleWindow(bound, math.pi - bound)
