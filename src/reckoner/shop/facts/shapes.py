"""The kinds of tools as people know them, by their look: what each means to ISO 6789, and the ranges they usually have.

To add a kind: a member of ``Shape``, a row in ``SHAPES``, and its picture in the window.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from reckoner.core.requirements.tooltypes import Mechanism, ToolType
from reckoner.core.translation import mark, tr


class Shape(StrEnum):
    """What a tool looks like."""

    CLICK_WRENCH = mark("click wrench")
    BREAK_OVER_WRENCH = mark("break-over wrench")
    SLIP_WRENCH = mark("slip wrench")
    PRESET_WRENCH = mark("preset wrench")
    BEAM_WRENCH = mark("beam wrench")
    DIAL_WRENCH = mark("dial wrench")
    ELECTRONIC_WRENCH = mark("electronic wrench")
    SCREWDRIVER = mark("adjustable screwdriver")
    PRESET_SCREWDRIVER = mark("preset screwdriver")
    DIAL_SCREWDRIVER = mark("dial screwdriver")
    ELECTRONIC_SCREWDRIVER = mark("electronic screwdriver")


@dataclass(frozen=True)
class ShapeFacts:
    """What a shape implies. ``look`` tells it from the others."""

    mechanism: Mechanism
    type: ToolType
    class_: str
    look: str

    @property
    def fixed(self) -> bool:
        """It has one torque only."""
        return self.mechanism is Mechanism.PRESET


SHAPES: dict[Shape, ShapeFacts] = {
    Shape.CLICK_WRENCH: ShapeFacts(Mechanism.CLICK, ToolType.SETTING, "A", tr("a scale on the grip; it clicks")),
    Shape.BREAK_OVER_WRENCH: ShapeFacts(
        Mechanism.BREAK_OVER, ToolType.SETTING, "A", tr("the head breaks away visibly")
    ),
    Shape.SLIP_WRENCH: ShapeFacts(
        Mechanism.SLIP, ToolType.SETTING, "A", tr("it slips through, and cannot be over-pulled")
    ),
    Shape.PRESET_WRENCH: ShapeFacts(Mechanism.PRESET, ToolType.SETTING, "B", tr("one torque, no scale")),
    Shape.BEAM_WRENCH: ShapeFacts(
        Mechanism.BEAM, ToolType.INDICATING, "A", tr("a bar that bends, a pointer over a scale")
    ),
    Shape.DIAL_WRENCH: ShapeFacts(Mechanism.DIAL, ToolType.INDICATING, "B", tr("a round dial with a needle")),
    Shape.ELECTRONIC_WRENCH: ShapeFacts(Mechanism.ELECTRONIC, ToolType.INDICATING, "C", tr("a display")),
    Shape.SCREWDRIVER: ShapeFacts(Mechanism.SLIP, ToolType.SETTING, "D", tr("a scale; it slips")),
    Shape.PRESET_SCREWDRIVER: ShapeFacts(Mechanism.PRESET, ToolType.SETTING, "E", tr("one torque, no scale")),
    Shape.DIAL_SCREWDRIVER: ShapeFacts(Mechanism.DIAL, ToolType.INDICATING, "D", tr("a dial with a needle")),
    Shape.ELECTRONIC_SCREWDRIVER: ShapeFacts(Mechanism.ELECTRONIC, ToolType.INDICATING, "E", tr("a display")),
}

SCREWDRIVERS = (
    Shape.SCREWDRIVER,
    Shape.PRESET_SCREWDRIVER,
    Shape.DIAL_SCREWDRIVER,
    Shape.ELECTRONIC_SCREWDRIVER,
)

USUAL_UNITS: dict[bool, tuple[str, ...]] = {
    False: ("N.m", "lbf.ft", "lbf.in", "kgf.m"),
    True: ("N.m", "cN.m", "lbf.in", "ozf.in"),
}
"""Whether it is a screwdriver → the units that its scale usually has."""

USUAL_RANGES: dict[tuple[bool, str], tuple[tuple[float, float], ...]] = {
    (False, "N.m"): ((5, 25), (10, 50), (20, 100), (40, 200), (60, 300), (100, 500), (200, 800)),
    (False, "lbf.ft"): ((5, 25), (10, 75), (20, 100), (30, 150), (50, 250), (100, 600)),
    (False, "lbf.in"): ((20, 100), (30, 200), (50, 250), (150, 1000)),
    (False, "kgf.m"): ((1, 5), (2, 10), (4, 20), (10, 50)),
    (True, "N.m"): ((0.1, 0.6), (0.4, 2), (1, 5), (2, 10)),
    (True, "cN.m"): ((4, 20), (10, 60), (40, 200), (100, 500)),
    (True, "lbf.in"): ((1, 6), (2, 20), (5, 40), (10, 80)),
    (True, "ozf.in"): ((5, 40), (10, 80), (20, 160)),
}
"""Screwdriver or not, unit → ranges to choose from, in that unit; any other is typed."""


def usual_ranges(shape: Shape, unit: str) -> tuple[tuple[float, float], ...]:
    """Ranges to choose from in ``unit``; (x, x) for tools of one torque."""
    ranges = USUAL_RANGES.get((shape in SCREWDRIVERS, unit), ())
    if not SHAPES[shape].fixed:
        return ranges
    return tuple((value, value) for value in dict.fromkeys(v for ends in ranges for v in ends))


def described(shape: Shape, reach: str, drive: str) -> str:
    """What a model is called that nobody gave a name, by its range in words.

    >>> described(Shape.CLICK_WRENCH, "40–200 N·m", "½ in"), is_described("D-200", "40–200 N·m", "½ in")
    ('click wrench, 40–200 N·m, ½ in', False)
    """
    return ", ".join(filter(None, (shape, reach, drive)))


def is_described(name: str, reach: str, drive: str) -> bool:
    """Whether a model's name is one that was made of what it is, its drive said then or added later."""
    return any(name in (described(shape, reach, drive), described(shape, reach, "")) for shape in Shape)
