"""The first sum of everyone: from a wanted torque to what to hang, where; or what a gauge must show."""

from __future__ import annotations

import math
from dataclasses import dataclass

from reckoner.core.checks import between, not_negative, positive
from reckoner.core.errors import InputRefused
from reckoner.core.pin import NO_PIN, Pin
from reckoner.core.translation import tr
from reckoner.core.weights import NO_OWN_WEIGHT, STANDARD_GRAVITY, OwnWeight, own_at_grip


@dataclass(frozen=True)
class HangingPlace:
    """Where a torque is to be made: the tool's ``own`` weight and ``pin``, a hook of ``hanger`` kg, ``tilt_rad`` from level,
    ``gravity`` in m/s²; a gauge pulls at ``angle_rad`` to the lever."""

    own: OwnWeight = NO_OWN_WEIGHT
    pin: Pin = NO_PIN
    hanger: float = 0.0
    tilt_rad: float = 0.0
    gravity: float = STANDARD_GRAVITY
    angle_rad: float = math.pi / 2

    def __post_init__(self) -> None:
        not_negative("hanger_mass", self.hanger)
        between("incline", math.degrees(self.tilt_rad), -60, 60, "deg")
        between("gravity", self.gravity, 1.0, 30.0, "m/s²")
        between("angle", math.degrees(self.angle_rad), 1, 179, "deg")
        own_at_grip(self.own, self.pin)

    @property
    def own_at_grip(self) -> float:
        """What the tool's own weight adds to the torque at the grip mark, in N·m."""
        return own_at_grip(self.own, self.pin, self.gravity, self.tilt_rad)

    @property
    def newtons_a_kilogram(self) -> float:
        """The pull square to the lever of each kilogram hung on it."""
        return self.gravity * math.cos(self.tilt_rad)


def _left(torque: float, place: HangingPlace) -> float:
    """What is left to be made at the grip mark beside the tool's own weight, in N·m."""
    positive("torque", torque)
    own = place.own_at_grip
    if own >= torque:
        raise InputRefused("torque", torque, tr("the tool's own weight alone makes {own:.4g} N·m already", own=own))
    return torque - own


def force_at(torque: float, length: float, place: HangingPlace) -> float:
    """The force in N that a gauge must show at ``length`` m from the drive for ``torque`` N·m at the grip mark.

    Raises InputRefused where the own weight makes the torque already, or the hook does not lie beyond the pivot. Source:
    moments about the pin.

    >>> round(force_at(60, 0.42, HangingPlace(OwnWeight(1.35, 0.19))), 3)
    136.868
    """
    return _left(torque, place) / (_arm(length, place.pin) * math.sin(place.angle_rad))


def mass_at(torque: float, length: float, place: HangingPlace) -> float:
    """The mass in kg, beside the hanger, to hang at ``length`` m for ``torque`` N·m at the grip mark. Errors as
    ``force_at``, and where the hanger alone is too heavy.

    >>> round(mass_at(51.91598, 0.42, HangingPlace(OwnWeight(1.35, 0.19), gravity=9.801936)), 3)
    12.0
    """
    whole = _left(torque, place) / (_arm(length, place.pin) * place.newtons_a_kilogram)
    if whole <= place.hanger:
        raise InputRefused("hanger_mass", place.hanger, tr("the hanger alone is heavier than what is to hang there"))
    return whole - place.hanger


def length_for(torque: float, pull: float, place: HangingPlace) -> float:
    """The distance in m from the drive at which a ``pull`` of so many N, square to the lever, makes ``torque`` N·m at the
    grip mark. Errors as ``force_at``."""
    positive("force", pull)
    return _left(torque, place) / (pull * place.pin.lean) + place.pin.offset


def pull_of_mass(mass: float, place: HangingPlace) -> float:
    """The pull in N, square to the lever, of ``mass`` kg and the hanger. Raises InputRefused unless above zero."""
    return (positive("mass", mass) + place.hanger) * place.newtons_a_kilogram


def pull_of_force(force: float, place: HangingPlace) -> float:
    """The pull in N, square to the lever, of a gauge that shows ``force`` N. Raises InputRefused unless above zero."""
    return positive("force", force) * math.sin(place.angle_rad)


def _arm(length: float, pin: Pin) -> float:
    """The arm at the grip mark of a pull at ``length`` m from the drive: (d − p)·L/(L − p)."""
    positive("length", length)
    if length <= pin.offset:
        raise InputRefused("length", length, tr("must lie beyond the pivot"))
    return (length - pin.offset) * pin.lean
