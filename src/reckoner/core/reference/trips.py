"""Finding where a tool trips under known weights: bracket, walk and match. One-sided observations prove nothing here."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.checks import between, not_negative, positive
from reckoner.core.quantities.graduation import nearest_graduation
from reckoner.core.reference.weights import (
    STANDARD_GRAVITY,
    Hanging,
    OwnWeight,
    Pin,
    WeightUncertainty,
    dead_weight,
    own_at_grip,
)
from reckoner.core.translation import tr

OTHER_WAY = tr("the tool's own weight pulls the other way harder than the weights")


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
        raise InputRefused(
            field, clicks_at, tr("it cannot click and be silent at the same value; vary it and try again")
        )
    return Bracketed((clicks_at + silent_at) / 2, abs(clicks_at - silent_at) / 2)


@dataclass(frozen=True)
class Bracket:
    """The setting (N·m) at which a fixed torque trips the tool, and its deviation as a fraction.

    ``torque_uncertainty`` is the torque's own standard uncertainty in N·m.
    """

    setting: Bracketed
    torque: float
    torque_uncertainty: float = 0.0

    @property
    def deviation(self) -> float:
        return (self.setting.value - self.torque) / self.torque


def bracket(torque: float, clicks_at: float, silent_at: float, torque_uncertainty: float = 0.0) -> Bracket:
    """The weight stays (``torque`` in N·m), the setting moves: clicks at S₁, silent at S₂ above it.

    Raises InputRefused unless S₂ > S₁: a higher setting needs more torque. Source: JCGM 100:2008, 4.3.7 and 5.1.2.

    >>> found = bracket(51.916, 48, 50)
    >>> found.setting.value, round(found.deviation, 4)
    (49.0, -0.0562)
    """
    positive("torque", torque)
    not_negative("torque_uncertainty", torque_uncertainty)
    found = between_observations(clicks_at, silent_at)
    if silent_at < clicks_at:
        raise InputRefused("silent_at", silent_at, tr("it must be silent at a higher setting than it clicks at"))
    return Bracket(found, torque, torque_uncertainty)


@dataclass(frozen=True)
class Match:
    """The torque in N·m that trips a fixed setting, between the last two masses hung at one place.

    ``mass`` in kg is bracketed by the heaviest that stayed silent and the lightest that tripped it. ``torque`` is that
    about the drive, ``at_grip`` what the same trip needs at the grip mark, with its ``standard_uncertainty``.
    """

    setting: float
    mass: Bracketed
    torque: float
    at_grip: float
    standard_uncertainty: float

    @property
    def deviation(self) -> float:
        return (self.setting - self.at_grip) / self.at_grip


def match(
    setting: float,
    clicks_with: float,
    silent_with: float,
    hanging: Hanging,
    uncertainty: WeightUncertainty | None = None,
) -> Match:
    """Weights are added at one place until it trips: clicks with m₁ kg, silent with m₂ below it.

    ``hanging`` tells the lever, the hanger, the own weight, the pin and the rest; its mass is not used. The gap of the
    masses and ``uncertainty`` combine at first order. Raises InputRefused unless m₁ > m₂. Source: statics; JCGM 100:2008,
    4.3.7.

    >>> found = match(48, 12.0, 11.5, Hanging(12, 0.42, own=OwnWeight(1.35, 0.19)))
    >>> found.mass.value, round(found.torque, 3), round(found.deviation, 4)
    (11.75, 50.911, -0.0572)
    """
    positive("set", setting)
    found = between_observations(clicks_with, silent_with, "clicks_with")
    if silent_with > clicks_with:
        raise InputRefused("silent_with", silent_with, tr("it must be silent with less weight than it clicks with"))
    middle = dead_weight(replace(hanging, mass=found.value), uncertainty or WeightUncertainty())
    if middle.at_grip <= 0:
        raise InputRefused("own_centre", hanging.own.centre, OTHER_WAY)
    pin = hanging.pin
    arm = (hanging.lever - pin.offset) * pin.lean / hanging.lever
    by_gap = middle.of_weights * arm / (found.value + hanging.hanger) * found.standard_uncertainty
    unsure = math.hypot(by_gap, middle.standard_uncertainty_at_grip)
    return Match(setting, found, middle.torque, middle.at_grip, unsure)


def next_setting(clicks_at: float, silent_at: float, graduation: float) -> float | None:
    """The setting to try next, halfway, on a graduation; None when they are neighbours. Torques in N·m. Raises
    InputRefused. Source: bisection."""
    positive("graduation", graduation)
    middle = nearest_graduation((clicks_at + silent_at) / 2, graduation)
    low, high = sorted((clicks_at, silent_at))
    return middle if low + graduation * 1e-6 < middle < high - graduation * 1e-6 else None


@dataclass(frozen=True)
class Walk:
    """The torque at which a fixed setting trips: at the drive as hung, and as the same trip needs it at the grip mark.

    Torques in N·m, deviations as fractions; ``factor`` is S over the torque at the grip mark.
    """

    setting: float
    mass: float
    distance: Bracketed
    gravity: float
    own: OwnWeight
    pin: Pin
    uncertainty: WeightUncertainty

    @property
    def at_drive(self) -> float:
        """m·g·d and the tool's own weight, about the drive."""
        return self.mass * self.gravity * self.distance.value + self._own_at_drive

    @property
    def at_grip(self) -> float:
        """[m·g·(d − p) + m_own·g·x_own − m_swinging·g·p]·L/(L − p)."""
        pull = (self.mass + self.pin.swinging(self.own.mass)) * self.gravity
        return self.pin.at_grip(self.at_drive, pull)

    @property
    def _own_at_drive(self) -> float:
        own = self.own
        return own.torque if own.torque is not None else own.mass * self.gravity * own.centre

    @property
    def standard_uncertainty(self) -> float:
        """Of the torque at the grip mark in N·m, first order: the gap, and what the weighing and measuring leave."""
        weight, u = self.mass * self.gravity, self.uncertainty
        lean, arm = self.pin.lean, self.distance.value - self.pin.offset
        by_gravity = self.at_grip - (self.own.torque or 0.0) * lean
        shares = (
            weight * self.distance.standard_uncertainty * lean,
            weight * u.lever * lean,
            self.gravity * arm * u.mass * lean,
            by_gravity / self.gravity * u.gravity,
            u.own_torque * lean,
            self.pin.doubt(self.own.mass * self.gravity),
        )
        return math.hypot(*shares)

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
    pin: Pin | None = None,
    uncertainty: WeightUncertainty | None = None,
) -> Walk:
    """The setting stays, the weight moves outwards: clicks at d₁, silent at d₂ nearer the drive; m, kg, N·m.

    With the pivot offset p, T_L = [m·g·(d − p) + m_own·g·(x_own − p)]·L/(L − p) is what is compared with S. Raises
    InputRefused when a distance does not lie beyond the pivot. Source: moments about the pivot.

    >>> found = walk(48, 12, 0.431, 0.430999, gravity=9.801936, own=OwnWeight(1.35, 0.19), pin=Pin(0.03, 0.42))
    >>> round(found.at_grip, 2), round(found.deviation, 3)
    (53.08, -0.096)
    """
    positive("set", setting)
    positive("mass", mass)
    pin = pin or Pin()
    between("gravity", gravity, 1.0, 30.0, "m/s²")
    distance = between_observations(clicks_at, silent_at)
    if silent_at > clicks_at:
        raise InputRefused("silent_at", silent_at, tr("it must be silent nearer the drive than it clicks at"))
    if silent_at <= pin.offset:
        raise InputRefused("silent_at", silent_at, tr("must lie beyond the pivot"))
    own = own or OwnWeight()
    own_at_grip(own, pin)
    found = Walk(setting, mass, distance, gravity, own, pin, uncertainty or WeightUncertainty())
    if found.at_grip <= 0:
        raise InputRefused("own_centre", own.centre, OTHER_WAY)
    return found


@dataclass(frozen=True)
class HookTrip:
    """All that hung (kg) and the hook (m from the drive) at which it tripped the tool, with their standard uncertainties."""

    mass: float
    hook: float
    mass_uncertainty: float = 0.0
    hook_uncertainty: float = 0.0


@dataclass(frozen=True)
class FoundPin:
    """Where the pin lies, in m from the drive's centre, and the standard uncertainty of that."""

    offset: float
    standard_uncertainty: float


LEAST_APART = 0.1
"""Of the heavier: two weights nearer than that say little of a pin, and two hooks of the longer arm likewise."""


def pin_of_two(one: HookTrip, other: HookTrip) -> FoundPin:
    """The pin from the same setting tripped by two weights at two hooks: p = (m₁d₁ − m₂d₂)/(m₁ − m₂); the tool's own weight
    is the same in both, and gravity too, so neither counts. Raises InputRefused for weights or hooks that are hardly apart.
    Source: moments about the pin; JCGM 100:2008, 5.1.2.

    >>> found = pin_of_two(HookTrip(12.0, 0.24, 0.005, 0.0005), HookTrip(6.0, 0.45, 0.005, 0.0005))
    >>> round(found.offset, 4), round(found.standard_uncertainty, 4)
    (0.03, 0.0012)
    """
    for name, value in (
        ("heavy", one.mass),
        ("light", other.mass),
        ("heavy_hook", one.hook),
        ("light_hook", other.hook),
    ):
        positive(name, value)
    apart = one.mass - other.mass
    if abs(apart) < LEAST_APART * max(one.mass, other.mass):
        raise InputRefused("light", other.mass, tr("the two weights are hardly apart: take one half as heavy"))
    if abs(one.hook - other.hook) < LEAST_APART * max(one.hook, other.hook):
        raise InputRefused(
            "light_hook", other.hook, tr("the two hooks are at one place: two weights trip it at two places")
        )
    offset = (one.mass * one.hook - other.mass * other.hook) / apart
    shares = (
        (one.hook - offset) * one.mass_uncertainty / apart,
        (other.hook - offset) * other.mass_uncertainty / apart,
        one.mass * one.hook_uncertainty / apart,
        other.mass * other.hook_uncertainty / apart,
    )
    return FoundPin(offset, math.hypot(*shares))
