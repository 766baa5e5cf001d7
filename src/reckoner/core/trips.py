"""Finding where a tool trips under known weights: bracket, walk and match. One-sided observations prove nothing here."""

from __future__ import annotations

import math
from dataclasses import dataclass

from reckoner.core.checks import not_negative, positive
from reckoner.core.errors import InputRefused
from reckoner.core.weights import STANDARD_GRAVITY, OwnWeight


@dataclass(frozen=True)
class Bracketed:
    """A trip between two observations: its value, half the gap and u = half/√3, in the unit of what was varied."""

    value: float
    half_width: float

    @property
    def standard_uncertainty(self) -> float:
        return self.half_width / math.sqrt(3.0)


def between_observations(clicks_at: float, silent_at: float, field: str = "clicks_at") -> Bracketed:
    """The middle between where it clicks and where it is silent. Raises InputRefused when they are the same.

    Source: a rectangular distribution over the gap, JCGM 100:2008, 4.3.7.
    """
    positive("clicks_at", clicks_at)
    positive("silent_at", silent_at)
    if clicks_at == silent_at:
        raise InputRefused(field, clicks_at, "it cannot click and be silent at the same value; vary it and try again")
    return Bracketed((clicks_at + silent_at) / 2, abs(clicks_at - silent_at) / 2)


@dataclass(frozen=True)
class Bracket:
    """The setting (N·m) at which a fixed torque trips the tool, and its deviation as a fraction."""

    setting: Bracketed
    torque: float

    @property
    def deviation(self) -> float:
        return (self.setting.value - self.torque) / self.torque


def bracket(torque: float, clicks_at: float, silent_at: float) -> Bracket:
    """The weight stays (``torque`` in N·m), the setting moves: clicks at S₁, silent at S₂ above it.

    Raises InputRefused unless S₂ > S₁: a higher setting needs more torque.

    >>> found = bracket(51.916, 48, 50)
    >>> found.setting.value, round(found.deviation, 4)
    (49.0, -0.0562)
    """
    positive("torque", torque)
    found = between_observations(clicks_at, silent_at)
    if silent_at < clicks_at:
        raise InputRefused("silent_at", silent_at, "it must be silent at a higher setting than it clicks at")
    return Bracket(found, torque)


def next_setting(clicks_at: float, silent_at: float, graduation: float) -> float | None:
    """The setting to try next, halfway, on a graduation; None when they are neighbours. Torques in N·m."""
    positive("graduation", graduation)
    middle = math.floor((clicks_at + silent_at) / 2 / graduation + 0.5) * graduation
    low, high = sorted((clicks_at, silent_at))
    return middle if low + graduation * 1e-6 < middle < high - graduation * 1e-6 else None


@dataclass(frozen=True)
class Walk:
    """The torque at which a fixed setting trips: at the drive as hung, and as the same trip needs it at the grip mark.

    Torques in N·m, deviations as fractions; ``factor`` is S over the torque at the grip mark.
    """

    setting: float
    distance: Bracketed
    at_drive: float
    at_grip: float
    standard_uncertainty: float

    @property
    def deviation_at_drive(self) -> float:
        return (self.setting - self.at_drive) / self.at_drive

    @property
    def deviation(self) -> float:
        return (self.setting - self.at_grip) / self.at_grip

    @property
    def factor(self) -> float:
        return self.setting / self.at_grip


def walk(
    setting: float,
    mass: float,
    clicks_at: float,
    silent_at: float,
    *,
    gravity: float = STANDARD_GRAVITY,
    own: OwnWeight | None = None,
    pivot: float = 0.0,
    grip: float | None = None,
) -> Walk:
    """The setting stays, the weight moves outwards: clicks at d₁, silent at d₂ nearer the drive; m, kg, N·m.

    With the pivot offset p, T_L = [m·g·(d − p) + m_own·g·(x_own − p)]·L/(L − p) is what is compared with S. Raises
    InputRefused when a distance does not lie beyond the pivot, or a pivot is given without the grip mark L.
    Source: moments about the pivot.

    >>> found = walk(48, 12, 0.431, 0.430999, gravity=9.801936, own=OwnWeight(1.35, 0.19), pivot=0.03, grip=0.42)
    >>> round(found.at_grip, 2), round(found.deviation, 3)
    (53.08, -0.096)
    """
    positive("set", setting)
    positive("mass", mass)
    not_negative("pivot", pivot)
    distance = between_observations(clicks_at, silent_at)
    if silent_at > clicks_at:
        raise InputRefused("silent_at", silent_at, "it must be silent nearer the drive than it clicks at")
    if pivot > 0 and grip is None:
        raise InputRefused("length", grip, "a pivot needs the length to the grip mark")
    for field, value in (("silent_at", silent_at), ("length", grip if grip is not None else math.inf)):
        if value <= pivot:
            raise InputRefused(field, value, "must lie beyond the pivot")
    own = own or OwnWeight()
    lean = 1.0 if pivot == 0 or grip is None else grip / (grip - pivot)
    own_at_drive = own.torque if own.torque is not None else own.mass * gravity * own.centre
    own_at_pivot = own_at_drive - own.mass * gravity * pivot
    at_drive = mass * gravity * distance.value + own_at_drive
    at_grip = (mass * gravity * (distance.value - pivot) + own_at_pivot) * lean
    return Walk(setting, distance, at_drive, at_grip, mass * gravity * lean * distance.standard_uncertainty)
