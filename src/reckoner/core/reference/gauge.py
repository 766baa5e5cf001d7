"""A force gauge or hanging scale on the lever: its force, the torques of a series, and what it is worth as a reference."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.arrays import Values, positive_array
from reckoner.core.quantities.checks import between, not_negative, positive
from reckoner.core.reference.certificate import ReferenceAtPoint
from reckoner.core.reference.weights import NO_OWN_WEIGHT, NO_PIN, STANDARD_GRAVITY, OwnWeight, Pin, own_at_grip
from reckoner.core.translation import tr


class KilogramBasis(StrEnum):
    """What a gauge that reads kilograms was set with."""

    FORCE = "force"
    MASS_HERE = "mass here"


def force_shown(kilograms: float, shows: KilogramBasis, gravity: float = STANDARD_GRAVITY) -> float:
    """The force in N behind a reading in kg: kg·9.80665 where the gauge was calibrated in force, kg·g where it was set
    with a mass at the place of use (``gravity`` in m/s²). Raises InputRefused. Source: F = m·g; 9.80665 m/s², CGPM 1901.

    >>> round(force_shown(33, KilogramBasis.FORCE), 3), round(force_shown(33, KilogramBasis.MASS_HERE, 9.801936), 3)
    (323.619, 323.464)
    """
    positive("force", kilograms)
    between("gravity", gravity, 1.0, 30.0, "m/s²")
    return kilograms * (STANDARD_GRAVITY if shows is KilogramBasis.FORCE else gravity)


@dataclass(frozen=True)
class GaugeOnLever:
    """A gauge pulling at ``lever`` m from the drive at ``angle_rad`` to it, on a level tool with its ``own`` weight and
    ``pin``.

    ``expanded_uncertainty`` W, ``coverage_factor`` and ``error`` are its certificate's, relative to the force;
    ``resolution`` in N. ``lever_uncertainty`` (m) and ``angle_uncertainty_rad`` are standard uncertainties.
    """

    lever: float
    expanded_uncertainty: float
    angle_rad: float = math.pi / 2
    own: OwnWeight = NO_OWN_WEIGHT
    pin: Pin = NO_PIN
    gravity: float = STANDARD_GRAVITY
    coverage_factor: float = 2.0
    error: float = 0.0
    resolution: float = 0.0
    lever_uncertainty: float = 0.0
    angle_uncertainty_rad: float = 0.0

    def __post_init__(self) -> None:
        positive("length", self.lever)
        between("angle", math.degrees(self.angle_rad), 1, 179, "deg")
        for name in ("resolution", "lever_uncertainty", "angle_uncertainty_rad"):
            not_negative(name, getattr(self, name))
        own_at_grip(self.own, self.pin)
        if self.lever <= self.pin.offset:
            raise InputRefused("length", self.lever, tr("must lie beyond the pivot"))

    @property
    def arm(self) -> float:
        """The arm in m of a force along the gauge, at the grip mark: (d − p)·sin φ·L/(L − p)."""
        return (self.lever - self.pin.offset) * math.sin(self.angle_rad) * self.pin.lean

    @property
    def by_own_weight(self) -> float:
        """What the tool's own weight adds at the grip mark, in N·m."""
        return own_at_grip(self.own, self.pin, self.gravity)

    def torques(self, forces: Sequence[float]) -> Values:
        """The torques in N·m at the grip mark of ``forces`` in N, one reading each. Raises InputRefused."""
        given = positive_array("forces", forces)
        return positive_array("torques", (given * self.arm + self.by_own_weight).tolist())

    def as_reference(self, force: float) -> ReferenceAtPoint:
        """What the gauge is worth as a reference for a torque made by ``force`` N: W of the torque at the gauge's own k.

        w² = (w_F² + (u_d/(d − p))² + (u_φ·cot φ)²)·(share of the force in the torque)², and a head that was not weighed.
        Raises InputRefused. Source: JCGM 100:2008, 5.1.6.

        >>> found = GaugeOnLever(0.42, 0.004, lever_uncertainty=0.0005).as_reference(320)
        >>> round(found.expanded_uncertainty, 6)
        0.004655
        """
        by_own = self.by_own_weight
        torque = positive("torque", positive("force", force) * self.arm + by_own)
        share = (torque - by_own) / torque
        w = math.hypot(
            self.expanded_uncertainty / self.coverage_factor,
            self.lever_uncertainty / (self.lever - self.pin.offset),
            self.angle_uncertainty_rad / math.tan(self.angle_rad),
        )
        whole = math.hypot(w * share, self.pin.doubt(self.own.mass * self.gravity) / torque)
        resolution = self.resolution * self.arm
        return ReferenceAtPoint(whole * self.coverage_factor, self.coverage_factor, self.error * share, resolution)
