"""Types, classes and mechanisms of hand torque tools (ISO 6789-1:2017, clause 4), and what each implies.

To add a mechanism: a member of ``Mechanism`` and a row in ``MECHANISMS``; the bench asks nothing else.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum
from functools import cached_property

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.checks import not_negative, positive
from reckoner.core.quantities.graduation import nearest_graduation
from reckoner.core.requirements.limits import StatedLimit
from reckoner.core.translation import mark, tr


class ToolType(StrEnum):
    """I shows the torque and is watched; II is set to a torque and signals it."""

    INDICATING = "I"
    SETTING = "II"


CLASSES: dict[ToolType, dict[str, str]] = {
    ToolType.INDICATING: {
        "A": tr("wrench with torsion or bending bar"),
        "B": tr("rigid wrench with scale, dial or display"),
        "C": tr("rigid wrench with electronic measurement"),
        "D": tr("screwdriver with scale, dial or display"),
        "E": tr("screwdriver with electronic measurement"),
    },
    ToolType.SETTING: {
        "A": tr("adjustable graduated wrench"),
        "B": tr("fixed wrench"),
        "C": tr("adjustable wrench without scale"),
        "D": tr("adjustable graduated screwdriver"),
        "E": tr("fixed screwdriver"),
        "F": tr("adjustable screwdriver without scale"),
        "G": tr("graduated adjustable wrench with bending bar"),
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
        return tr("clockwise") if self is Direction.CW else tr("counter-clockwise")

    @property
    def other(self) -> Direction:
        return Direction.CCW if self is Direction.CW else Direction.CW


class Approach(StrEnum):
    """From which side a setting is approached; never both in one series."""

    FROM_BELOW = mark("from below")
    FROM_ABOVE = mark("from above")


class MeterMode(StrEnum):
    """What the torque meter is asked to catch."""

    FIRST_PEAK = mark("first peak")
    PEAK = mark("peak")
    HOLD = mark("hold")


class ErrorKind(StrEnum):
    """What a screw changes: the same torque at every setting, or the same part of it."""

    OFFSET = "offset"
    GAIN = "gain"


class Mechanism(StrEnum):
    CLICK = mark("click")
    BREAK_OVER = mark("break-over")
    SLIP = mark("slip")
    BEAM = mark("beam")
    DIAL = mark("dial")
    ELECTRONIC = mark("electronic")
    PRESET = mark("preset")


@dataclass(frozen=True)
class MechanismFacts:
    """What follows from a mechanism: the meter's mode, until when it is pulled and how it is stored. ``keeps_value``: its
    display keeps what it reached, so that each pull is two numbers, the tool's own and the reference's."""

    mode: MeterMode
    until: str
    storage: str
    keeps_value: bool = False


MECHANISMS: dict[Mechanism, MechanismFacts] = {
    Mechanism.CLICK: MechanismFacts(
        MeterMode.FIRST_PEAK, tr("it clicks"), tr("Wind it back to its lowest mark, not below.")
    ),
    Mechanism.BREAK_OVER: MechanismFacts(
        MeterMode.FIRST_PEAK, tr("it breaks over"), tr("Wind it back to its lowest mark, not below.")
    ),
    Mechanism.SLIP: MechanismFacts(
        MeterMode.FIRST_PEAK, tr("it slips"), tr("Wind it back to its lowest mark, not below.")
    ),
    Mechanism.PRESET: MechanismFacts(MeterMode.FIRST_PEAK, tr("it clicks"), tr("Leave its setting alone.")),
    Mechanism.BEAM: MechanismFacts(
        MeterMode.HOLD, tr("the pointer is on the mark"), tr("Hang it so that the bar is free.")
    ),
    Mechanism.DIAL: MechanismFacts(
        MeterMode.HOLD, tr("the pointer is on the mark"), tr("Keep it dry and in its case.")
    ),
    Mechanism.ELECTRONIC: MechanismFacts(
        MeterMode.PEAK,
        tr("the display shows it"),
        tr("Switch it off; keep it dry and in its case."),
        keeps_value=True,
    ),
}

_ELECTRONIC_AT_ITS_TARGET = MechanismFacts(MeterMode.PEAK, tr("it signals"), MECHANISMS[Mechanism.ELECTRONIC].storage)
"""Set to a torque, it lights, buzzes or beeps there: the hand stops at the peak."""


def implied(mechanism: Mechanism, type_: ToolType) -> MechanismFacts:
    """What a mechanism implies for a tool that is set to its torque, or that shows it. Refuses nothing. Source: ISO
    6789-1:2017, clause 4."""
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
            raise InputRefused(
                "class",
                self.class_,
                tr('Type {type} has classes {known}, not "{class_}"', type=self.type, known=known, class_=self.class_),
            )
        positive("max", self.maximum)
        not_negative("resolution", self.resolution)
        if self.minimum is not None:
            positive("min", self.minimum)
            if self.minimum > self.maximum:
                raise InputRefused("min", self.minimum, tr("the minimum is above the maximum"))

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
