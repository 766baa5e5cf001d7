"""A force gauge or hanging scale on the lever: its force, the torques of a series, and what it is worth as a reference."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from reckoner.core.arrays import Values, positive_array
from reckoner.core.checks import between, not_negative, positive
from reckoner.core.reference import ReferenceAtPoint
from reckoner.core.weights import STANDARD_GRAVITY, pulled


class Shows(StrEnum):
    """What a gauge that reads kilograms was set with."""

    FORCE = "force"
    MASS_HERE = "mass here"


def force_shown(kilograms: float, shows: Shows, gravity: float = STANDARD_GRAVITY) -> float:
    """The force in N behind a reading in kg: kg·9.80665 where the gauge was calibrated in force, kg·g where it was set
    with a mass at the place of use (``gravity`` in m/s²). Raises InputRefused.

    >>> round(force_shown(33, Shows.FORCE), 3), round(force_shown(33, Shows.MASS_HERE, 9.801936), 3)
    (323.619, 323.464)
    """
    positive("force", kilograms)
    between("gravity", gravity, 1.0, 30.0, "m/s²")
    return kilograms * (STANDARD_GRAVITY if shows is Shows.FORCE else gravity)


@dataclass(frozen=True)
class GaugeOnLever:
    """A gauge pulling at ``lever`` m from the drive at ``angle_rad`` to it; ``own_torque`` in N·m is the tool's own weight.

    ``expanded_uncertainty`` W, ``coverage_factor`` and ``error`` are its certificate's, relative to the force;
    ``resolution`` in N. ``lever_uncertainty`` (m) and ``angle_uncertainty_rad`` are standard uncertainties.
    """

    lever: float
    expanded_uncertainty: float
    angle_rad: float = math.pi / 2
    own_torque: float = 0.0
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

    def torques(self, forces: Sequence[float]) -> Values:
        """The torques in N·m of ``forces`` in N, one reading each. Raises InputRefused."""
        given = positive_array("forces", forces)
        given *= self.lever * math.sin(self.angle_rad)
        return positive_array("torques", (given + self.own_torque).tolist())

    def as_reference(self, force: float) -> ReferenceAtPoint:
        """What the gauge is worth as a reference for a torque made by ``force`` N: W of the torque at the gauge's own k.

        w² = (w_F² + (u_L/L)² + (u_φ·cot φ)²)·(share of the force in the torque)². Raises InputRefused.
        Source: JCGM 100:2008, 5.1.6.

        >>> found = GaugeOnLever(0.42, 0.004, lever_uncertainty=0.0005).as_reference(320)
        >>> round(found.expanded_uncertainty, 6)
        0.004655
        """
        torque = pulled(force, self.lever, self.angle_rad, self.own_torque)
        share = (torque - self.own_torque) / positive("torque", torque)
        w = math.hypot(
            self.expanded_uncertainty / self.coverage_factor,
            self.lever_uncertainty / self.lever,
            self.angle_uncertainty_rad / math.tan(self.angle_rad),
        )
        resolution = self.resolution * self.lever * math.sin(self.angle_rad)
        return ReferenceAtPoint(w * share * self.coverage_factor, self.coverage_factor, self.error * share, resolution)


def weights_as_reference(torque: float, standard_uncertainty: float) -> ReferenceAtPoint:
    """Known weights as the reference of a verdict: W = 2·u/T, no error, no resolution; N·m. Raises InputRefused."""
    return ReferenceAtPoint(2 * not_negative("standard_uncertainty", standard_uncertainty) / positive("torque", torque))
