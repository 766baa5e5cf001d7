"""Types, classes and mechanisms of hand torque tools (ISO 6789-1:2017, clause 4), and what each implies.

To add a mechanism: a member of ``Mechanism`` and a row in ``MECHANISMS``; the bench asks nothing else.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum
from functools import cached_property

from reckoner.core.checks import not_negative, positive
from reckoner.core.errors import InputRefused
from reckoner.core.graduation import nearest_graduation
from reckoner.core.limits import StatedLimit


class ToolType(StrEnum):
    """I shows the torque and is watched; II is set to a torque and signals it."""

    INDICATING = "I"
    SETTING = "II"


CLASSES: dict[ToolType, dict[str, str]] = {
    ToolType.INDICATING: {
        "A": "wrench with torsion or bending bar",
        "B": "rigid wrench with scale, dial or display",
        "C": "rigid wrench with electronic measurement",
        "D": "screwdriver with scale, dial or display",
        "E": "screwdriver with electronic measurement",
    },
    ToolType.SETTING: {
        "A": "adjustable graduated wrench",
        "B": "fixed wrench",
        "C": "adjustable wrench without scale",
        "D": "adjustable graduated screwdriver",
        "E": "fixed screwdriver",
        "F": "adjustable screwdriver without scale",
        "G": "graduated adjustable wrench with bending bar",
    },
}

_SCREWDRIVERS = {("I", "D"), ("I", "E"), ("II", "D"), ("II", "E"), ("II", "F")}
_FIXED = {("II", "B"), ("II", "E")}
_SCALELESS = {("II", "C"), ("II", "F")}


class Direction(StrEnum):
    """Which way a tool turns, seen from the handle's side."""

    CW = "cw"
    CCW = "ccw"

    @property
    def words(self) -> str:
        return "clockwise" if self is Direction.CW else "counter-clockwise"

    @property
    def other(self) -> Direction:
        return Direction.CCW if self is Direction.CW else Direction.CW


class Approach(StrEnum):
    """From which side a setting is approached; never both in one series."""

    FROM_BELOW = "from below"
    FROM_ABOVE = "from above"


class MeterMode(StrEnum):
    """What the torque meter is asked to catch."""

    FIRST_PEAK = "first peak"
    PEAK = "peak"
    HOLD = "hold"


class ErrorKind(StrEnum):
    """What a screw changes: the same torque at every setting, or the same part of it."""

    OFFSET = "offset"
    GAIN = "gain"


class Mechanism(StrEnum):
    CLICK = "click"
    BREAK_OVER = "break-over"
    SLIP = "slip"
    BEAM = "beam"
    DIAL = "dial"
    ELECTRONIC = "electronic"
    PRESET = "preset"


@dataclass(frozen=True)
class MechanismFacts:
    """What follows from a mechanism: the meter's mode, until when it is pulled and how it is stored. ``keeps_value``: its
    display keeps what it reached, so that each pull is two numbers, the tool's own and the reference's."""

    mode: MeterMode
    until: str
    storage: str
    keeps_value: bool = False


MECHANISMS: dict[Mechanism, MechanismFacts] = {
    Mechanism.CLICK: MechanismFacts(MeterMode.FIRST_PEAK, "it clicks", "Wind it back to its lowest mark, not below."),
    Mechanism.BREAK_OVER: MechanismFacts(
        MeterMode.FIRST_PEAK, "it breaks over", "Wind it back to its lowest mark, not below."
    ),
    Mechanism.SLIP: MechanismFacts(MeterMode.FIRST_PEAK, "it slips", "Wind it back to its lowest mark, not below."),
    Mechanism.PRESET: MechanismFacts(MeterMode.FIRST_PEAK, "it clicks", "Leave its setting alone."),
    Mechanism.BEAM: MechanismFacts(MeterMode.HOLD, "the pointer is on the mark", "Hang it so that the bar is free."),
    Mechanism.DIAL: MechanismFacts(MeterMode.HOLD, "the pointer is on the mark", "Keep it dry and in its case."),
    Mechanism.ELECTRONIC: MechanismFacts(
        MeterMode.PEAK,
        "the display shows it",
        "Switch it off; keep it dry and in its case.",
        keeps_value=True,
    ),
}

_ELECTRONIC_AT_ITS_TARGET = MechanismFacts(MeterMode.PEAK, "it signals", MECHANISMS[Mechanism.ELECTRONIC].storage)
"""Set to a torque, it lights, buzzes or beeps there: the hand stops at the peak."""


def implied(mechanism: Mechanism, type_: ToolType) -> MechanismFacts:
    """What a mechanism implies for a tool that is set to its torque, or that shows it."""
    at_target = mechanism is Mechanism.ELECTRONIC and type_ is ToolType.SETTING
    return _ELECTRONIC_AT_ITS_TARGET if at_target else MECHANISMS[mechanism]


@dataclass(frozen=True)
class ToolKind:
    """The metrological facts of a tool: torques in N·m, ratios as fractions.

    ``minimum`` is None when the maker states none; ``resolution`` is the readable fraction of the graduation;
    ``limits`` are the maker's and the owner's own, which count where they are tighter than the rule set's.
    """

    type: ToolType
    class_: str
    maximum: float
    minimum: float | None = None
    resolution: float = 0.0
    limits: tuple[StatedLimit, ...] = ()

    def __post_init__(self) -> None:
        if self.class_ not in CLASSES[self.type]:
            known = ", ".join(CLASSES[self.type])
            raise InputRefused("class", self.class_, f'Type {self.type} has classes {known}, not "{self.class_}"')
        positive("max", self.maximum)
        not_negative("resolution", self.resolution)
        if self.minimum is not None:
            positive("min", self.minimum)
            if self.minimum > self.maximum:
                raise InputRefused("min", self.minimum, "the minimum is above the maximum")

    @cached_property
    def tool(self) -> tuple[str, str]:
        """Type and class, as rule sets name them: ("II", "A")."""
        return self.type.value, self.class_

    @cached_property
    def is_setting(self) -> bool:
        return self.type is ToolType.SETTING

    @cached_property
    def is_screwdriver(self) -> bool:
        return self.tool in _SCREWDRIVERS

    @cached_property
    def resolution_square(self) -> float:
        """m·r² in N²·m²: the resolution counts once for a setting tool (m = 1), for zero and value for an indicating one (2).

        Source: ISO 6789-2:2017, 6.2.
        """
        return (1 if self.is_setting else 2) * self.resolution**2

    @cached_property
    def is_fixed(self) -> bool:
        """Preset: has one value and cannot be set."""
        return self.tool in _FIXED

    @cached_property
    def has_scale(self) -> bool:
        """Whether a value can be read off it, or set on it."""
        return self.tool not in _SCALELESS and not self.is_fixed

    def nearest_setting(self, torque: float) -> float:
        """The nearest graduation the tool can be set to, inside its range. ``torque`` in N·m."""
        if self.is_fixed or self.resolution == 0:
            return torque
        step = self.resolution
        rounded = nearest_graduation(torque, step)
        low = math.ceil((self.minimum or 0.0) / step - 1e-9) * step
        if rounded > self.maximum * (1 + 1e-9):  # of a second scale, the end of the range is seldom a graduation
            rounded = math.floor(self.maximum / step + 1e-9) * step
        return float(min(max(rounded, low or step), self.maximum))
