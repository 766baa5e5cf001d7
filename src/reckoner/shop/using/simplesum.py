"""What do I have? The torque of a weight on a lever, as half of all practitioners begin: "20 lb at 12 in", "10 kg at 20 cm".

The tool's own weight is counted where the register knows it, and shown as a range where it does not.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.checks import positive
from reckoner.core.quantities.entry import Quantity, read
from reckoner.core.quantities.printing import number, quantity
from reckoner.core.quantities.units import N_M, Kind, Unit, unit_named
from reckoner.core.reference.plan import HEAVIEST
from reckoner.core.reference.weights import STANDARD_GRAVITY, Hanging, OwnWeight, Pin, dead_weight
from reckoner.core.translation import tr
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.register.cards import ToolCard, card, tool_called
from reckoner.store.reader import Reader

KILOGRAMS_A_METRE = (1.5, 5.0)
BALANCES_AT = (1 / 3, 1 / 2)
"""What a tool of which nothing is known is taken to weigh for each metre of its lever, and where along it to balance: as far
as wrenches with a tube for a handle go. Only ever shown as a range, never counted."""

LBF_FT = unit_named("lbf.ft", Kind.TORQUE)

_HUNG = re.compile(
    r"^\s*(?P<mass>.+?)\s*(?:\bat\b|@|×|\bx\b|\bon\b)\s*(?P<length>.+?)(?:\s+(?:with|on)\s+(?P<tool>\S+))?\s*$",
    re.IGNORECASE,
)
_ALONE = re.compile(r"^\s*\d[\d.,/ ]*\s*(kg|g|lb|lbs|oz)\s*$", re.IGNORECASE)


@dataclass(frozen=True)
class HungSum:
    """A mass at a length from the drive, on a tool or on none: the torque that trips it, at the least and at the most, in
    N·m; ``setting`` is the graduation nearest to it, None where it cannot be set so."""

    mass: Quantity
    length: Quantity
    card: ToolCard | None
    least: float
    most: float
    setting: float | None = None
    why_not: str = ""

    @property
    def sure(self) -> bool:
        """Whether the tool's own weight is in it."""
        return self.least == self.most

    @property
    def torque(self) -> float:
        """The middle of what it may be."""
        return (self.least + self.most) / 2

    @property
    def _unit(self) -> Unit:
        if self.card is not None:
            return self.card.tool.unit
        return LBF_FT if self.length.unit.name in ("in", "ft") else N_M

    def _both(self, torque: float) -> str:
        other = N_M if self._unit is not N_M else LBF_FT
        return f"{quantity(torque, self._unit)}, {quantity(torque, other)}"

    @property
    def words(self) -> tuple[str, ...]:
        """A line for each thing to know."""
        hung = tr(
            "{mass} at {length}",
            mass=quantity(self.mass.si, self.mass.unit),
            length=quantity(self.length.si, self.length.unit),
        )
        if self.why_not:
            return (f"{hung}: {self.why_not}",)
        said = []
        if self.sure and self.card is not None:
            torque = self._both(self.least)
            said.append(
                tr(
                    "{hung} on {number}: {torque}, its own weight in it",
                    hung=hung,
                    number=self.card.tool.number,
                    torque=torque,
                )
            )
        else:
            weights = dead_weight(Hanging(self.mass.si, self.length.si)).of_weights
            said.append(tr("{hung}: {torque}, the tool's own weight not in it", hung=hung, torque=self._both(weights)))
            light, heavy = (number(mass) for mass in KILOGRAMS_A_METRE)
            least, most = (quantity(torque, self._unit, 1) for torque in (self.least, self.most))
            said.append(
                tr(
                    "with it {least} to {most}, at {light} to {heavy} kg a metre",
                    least=least,
                    most=most,
                    light=light,
                    heavy=heavy,
                )
            )
        said += self._what_next()
        return tuple(said)

    def _what_next(self) -> list[str]:
        said = []
        if self.mass.si > HEAVIEST:
            said.append(tr("more than {heaviest} kg: hang it in parts, one after the other", heaviest=round(HEAVIEST)))
        if self.card is not None and self.setting is None:
            reach = self.card.tool.range_text
            said.append(
                tr("{number} goes over {reach}: it cannot be set so", number=self.card.tool.number, reach=reach)
            )
        elif self.card is not None and self.setting is not None:
            set_to = quantity(self.setting, self._unit)
            said.append(tr("begin with it: {number} set to {set_to}", number=self.card.tool.number, set_to=set_to))
        else:
            said.append(tr("what to set for it"))
        return said


def hung_sum(reader: Reader | None, text: str, tool_id: int | None = None) -> HungSum | None:
    """What ``text`` hangs on the tool that it names, else on ``tool_id``, a mass alone at that tool's grip mark; None for
    what is no such thing. Without a ``reader`` no tool is known.

    >>> hung_sum(None, "20 lb at 12 in").words[0].replace("\u202f", " ")
    "20 lb at 12 in: 20 lbf·ft, 27.116 N·m, the tool's own weight not in it"
    >>> hung_sum(None, "80 N.m") is None
    True
    """
    match = _HUNG.match(text)
    if match is None and not (tool_id is not None and _ALONE.match(text)):
        return None
    named = match["tool"] if match is not None else None
    on = None
    if reader is not None:
        on = tool_called(reader, named) if named else card(reader, tool_id) if tool_id is not None else None
    if named and on is None:
        return None
    grip = on.tool.lever if on is not None else None
    try:
        mass = read(match["mass"] if match is not None else text, Kind.MASS)
        length = read(match["length"] if match is not None else f"{grip} m", Kind.LENGTH)
    except InputRefused:  # it is something else that is typed
        return None
    tool = on.tool if on is not None else None
    try:
        least, most = _range(positive("mass", mass.si), length.si, tool)
    except InputRefused as refusal:
        return HungSum(mass, length, on, 0.0, 0.0, why_not=refusal.reason)
    return HungSum(mass, length, on, least, most, _setting(tool, (least + most) / 2) if tool is not None else None)


def _range(mass: float, length: float, tool: ToolFacts | None) -> tuple[float, float]:
    """The least and the most torque at the grip mark, in N·m. Raises InputRefused."""
    pin = Pin(tool.pivot, tool.lever) if tool is not None and tool.pivot and tool.lever else Pin()
    if tool is not None and tool.own_mass and tool.own_centre:
        made = dead_weight(Hanging(mass, length, own=OwnWeight(tool.own_mass, tool.own_centre), pin=pin)).at_grip
        return made, made
    made = dead_weight(Hanging(mass, length, pin=pin)).at_grip
    lever = (tool.lever if tool is not None else None) or length
    light, heavy = (
        per_metre * lever * STANDARD_GRAVITY * share * lever
        for per_metre, share in zip(KILOGRAMS_A_METRE, BALANCES_AT, strict=True)
    )
    return made + light, made + heavy


def _setting(tool: ToolFacts, torque: float) -> float | None:
    kind = tool.kind
    inside = (kind.minimum or kind.maximum) * 0.999 <= torque <= kind.maximum * 1.001
    return kind.nearest_setting(torque) if inside else None
