"""The pin about which a click mechanism trips, and what of everything hung counts at the grip mark.

What trips the tool is the moment about its pin of everything on the swinging part, the handle side; its scale means that
moment as a pull at the grip mark makes it. A hook, a weight or a hand away from the mark changes the answer unless the
torque is sensed at the drive.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from reckoner.core.checks import not_negative, positive
from reckoner.core.errors import InputRefused
from reckoner.core.translation import tr

HEAD_SHARE = 1 / 3
"""The most of a tool's mass that its head can be, which sits at the drive and does not swing."""


@dataclass(frozen=True)
class Pin:
    """``offset`` p in m from the drive's centre to the pin, 0 where the torque is sensed at the drive; ``grip`` L in m from
    the drive to the grip mark, needed with an offset; ``head`` in kg is what of the tool's mass does not swing, None where
    it was not weighed. Raises InputRefused unless 0 ≤ p < L."""

    offset: float = 0.0
    grip: float | None = None
    head: float | None = None

    def __post_init__(self) -> None:
        not_negative("pivot", self.offset)
        if self.head is not None:
            not_negative("head_mass", self.head)
        if self.grip is not None:
            positive("grip", self.grip)
            if self.offset >= self.grip:
                raise InputRefused("pivot", self.offset, tr("the pivot must lie nearer the drive than the grip mark"))
        elif self.offset > 0:
            raise InputRefused("grip", None, tr("is missing; a pivot needs the length from the drive to the grip mark"))

    @property
    def lean(self) -> float:
        """L/(L − p)."""
        return 1.0 if self.offset == 0 or self.grip is None else self.grip / (self.grip - self.offset)

    def at_grip(self, torque: float, pull: float) -> float:
        """The torque at the grip mark that trips as ``torque`` N·m about the drive does, made by forces of ``pull`` N in all,
        square to the lever and on the swinging part: (T − p·ΣF)·L/(L − p). Source: moments about the pin.

        >>> round(Pin(0.03, 0.42).at_grip(12 * 9.80665 * 0.305, 12 * 9.80665) / (12 * 9.80665 * 0.305) - 1, 3)
        -0.029
        """
        return (torque - self.offset * pull) * self.lean

    def swinging(self, mass: float) -> float:
        """What of a tool of ``mass`` kg swings: all of it where the head was not weighed. Raises InputRefused for a head as
        heavy as the tool."""
        head = self.head or 0.0
        if head and head >= mass:
            raise InputRefused("head_mass", head, tr("the head cannot be as heavy as the whole tool"))
        return mass - head

    def doubt(self, weight: float) -> float:
        """The standard uncertainty in N·m at the grip mark that an unweighed head leaves, for a tool that weighs ``weight``
        N: the sum is made as if all of it swung, and the head can be anything up to a third. Source: JCGM 100:2008, 4.3.7.

        >>> round(Pin(0.03, 0.42).doubt(1.35 * 9.80665), 4), Pin(0.03, 0.42, head=0.3).doubt(1.35 * 9.80665)
        (0.0823, 0.0)
        """
        if self.head is not None or self.offset == 0:
            return 0.0
        return HEAD_SHARE * weight * self.offset * self.lean / math.sqrt(3.0)


NO_PIN = Pin()
"""A tool that senses its torque at the drive."""
