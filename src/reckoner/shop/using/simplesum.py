"""What do I have? The torque of a weight on a lever, as half of all practitioners begin: "20 lb at 12 in", "10 kg at 20 cm";
or of a pull, "10 lbf at 1 ft".

The tool's own weight is counted where the register knows it, and shown as a range where it does not.
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.entry import Quantity, read
from reckoner.core.quantities.ownunits import INCH, LBF_FT, OwnUnits, UnitSystem, torque_both_ways
from reckoner.core.quantities.printing import percent, quantity
from reckoner.core.quantities.units import N_M, Kind, Unit
from reckoner.core.reference.plan import LONGEST_LEVER, MOST_HUNG, NEAR_THE_MARK, ONE_LIFT, HungWish
from reckoner.core.reference.weights import (
    KILOGRAMS_A_METRE,
    MOST_PIN,
    STANDARD_GRAVITY,
    Hanging,
    OwnWeight,
    OwnWeightRange,
    Pin,
    dead_weight,
)
from reckoner.core.translation import tr
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.register.cards import ToolCard, card, is_called, tool_called
from reckoner.store.reader import Reader

_HUNG = re.compile(
    r"^\s*(?P<mass>.+?)\s*(?:\bat\b|@|×|\bx\b|\bon\b)\s*(?P<length>.+?)(?:\s+(?:with|on)\s+(?P<tool>\S+))?\s*$",
    re.IGNORECASE,
)
_ALONE = re.compile(r"^\s*\d[\d.,/ ]*\s*(kg|g|lb|lbs|oz)\s*$", re.IGNORECASE)


@dataclass(frozen=True)
class HungSum:
    """A mass, or a force that pulls, at a length from the drive, on a tool or on none: the torque that trips it, at the least
    and at the most, in N·m; ``setting`` is the graduation nearest to it, None where it cannot be set so. ``unknown`` is the
    number of a tool that is not in the register."""

    mass: Quantity
    length: Quantity
    card: ToolCard | None
    least: float
    most: float
    setting: float | None = None
    why_not: str = ""
    unknown: str = ""

    @property
    def pulls(self) -> bool:
        """Whether it is a force, and nothing hangs: the tool swings level, and its own weight does not count."""
        return self.mass.kind is Kind.FORCE

    @property
    def wish(self) -> HungWish | None:
        """What to hang to begin with it; None where it cannot."""
        if self.pulls or self.mass.si > MOST_HUNG or self._beyond:
            return None
        if not self.unknown and (self.card is None or self.setting is None):
            return None
        return HungWish(self.mass.si, self.length.si, quantity(self.mass.si, self.mass.unit))

    @property
    def sure(self) -> bool:
        """Whether the tool's own weight is in it."""
        return self.least == self.most

    @property
    def torque(self) -> float:
        """The middle of what it may be."""
        return (self.least + self.most) / 2

    @property
    def _beyond(self) -> bool:
        """Whether the tool's handle ends before that."""
        lever = self.card.tool.lever if self.card is not None else None
        return lever is not None and self.length.si > lever * (1 + NEAR_THE_MARK)

    @property
    def own_units(self) -> OwnUnits:
        """What lengths and masses are told in: as the length was typed."""
        inch = self.length.unit.name in ("in", "ft")
        return OwnUnits(self._unit, UnitSystem.INCH if inch else UnitSystem.METRIC)

    @property
    def _unit(self) -> Unit:
        if self.card is not None:
            return self.card.tool.unit
        return LBF_FT if self.length.unit.name in ("in", "ft") else N_M

    def _both(self, torque: float) -> str:
        return torque_both_ways(torque, self._unit)

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
        return (*self._makes(hung), *self._what_next())

    def _makes(self, hung: str) -> tuple[str, ...]:
        if self.pulls:
            return (tr("{hung}, square to the lever: {torque}", hung=hung, torque=self._both(self.least)),)
        if self.sure and self.card is not None:
            number, torque = self.card.tool.number, self._both(self.least)
            if self.card.tool.kind.is_screwdriver:
                return (tr("{hung} from a disc on {number}: {torque}", hung=hung, number=number, torque=torque),)
            return (tr("{hung} on {number}: {torque}, its own weight in it", hung=hung, number=number, torque=torque),)
        weights, own = dead_weight(Hanging(self.mass.si, self.length.si)).of_weights, self.own_units
        length = FOOT if own.length is INCH else 1.0
        light, heavy = (quantity(mass * length, own.mass, 1) for mass in KILOGRAMS_A_METRE)
        least, most = (quantity(torque, self._unit, 1) for torque in (self.least, self.most))
        each = tr("foot") if own.length is INCH else tr("metre")
        return (
            tr("{hung}: {torque}, the tool's own weight not in it", hung=hung, torque=self._both(weights)),
            tr(
                "with it {least} to {most}, at {light} to {heavy} a {each}",
                least=least,
                most=most,
                light=light,
                heavy=heavy,
                each=each,
            ),
        )

    def _what_next(self) -> list[str]:
        said = []
        if not self.pulls and self.mass.si > MOST_HUNG:
            most = self.own_units.mass_words(MOST_HUNG)
            said.append(tr("more than {most}: too much for a lever in a vice", most=most))
        elif not self.pulls and self.mass.si > ONE_LIFT:
            most = self.own_units.mass_words(ONE_LIFT)
            said.append(tr("more than {most}: hang it in parts, one after the other", most=most))
        if self.unknown and self.wish is not None:
            return [*said, tr("{number} is not in the register: add it, and begin with it", number=self.unknown)]
        if self.card is None:
            return [*said, tr("what to set for it")]
        tool = self.card.tool
        if self._beyond and tool.lever:
            mark = tool.own_units.length_words(tool.lever)
            said.append(tr("its grip mark is at {mark}: nothing hangs further out", mark=mark))
        elif tool.pin_unknown and tool.lever and not math.isclose(self.length.si, tool.lever, rel_tol=NEAR_THE_MARK):
            said.append(self._off_the_mark(tool, tool.lever))
        if self.setting is None:
            said.append(
                tr("{number} goes over {reach}: it cannot be set so", number=tool.number, reach=tool.range_text)
            )
        elif self.wish is None:
            said.append(tr("what to set for it"))
        else:
            set_to = quantity(self.setting, self._unit)
            said.append(tr("begin with it: {number} set to {set_to}", number=tool.number, set_to=set_to))
        return said

    def _off_the_mark(self, tool: ToolFacts, lever: float) -> str:
        """How far off it may be where nobody knows the pin."""
        force = self.mass.si * (1.0 if self.pulls else STANDARD_GRAVITY)
        plain = force * self.length.si
        off = Pin(MOST_PIN * lever, lever).at_grip(plain, force) / plain - 1
        return tr(
            "where its pin is nobody knows: off the grip mark, {lever}, it may be {off} off",
            lever=tool.own_units.length_words(lever),
            off=percent(abs(off), 0),
        )


FOOT = 0.3048
"""m, exactly."""


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
    unknown = ""
    if named and on is None:
        if reader is None or not any(c.isdigit() for c in named) or is_called(reader, named):
            return None
        unknown = named
    tool = on.tool if on is not None else None
    if match is None and (tool is None or not tool.lever):
        return None
    try:
        mass = _mass_or_force(match["mass"] if match is not None else text)
        if match is not None:
            length = read(match["length"], Kind.LENGTH)
        elif tool is not None and tool.lever:
            length = Quantity(tool.lever, tool.own_units.length)
    except InputRefused:  # it is something else that is typed
        return None
    try:
        least, most = _range(mass, _lever_long(length), tool)
    except InputRefused as refusal:
        return HungSum(mass, length, on, 0.0, 0.0, why_not=refusal.reason)
    setting = _setting(tool, (least + most) / 2) if tool is not None else None
    return HungSum(mass, length, on, least, most, setting, unknown=unknown)


def _mass_or_force(text: str) -> Quantity:
    """What hangs or pulls. Raises InputRefused."""
    try:
        return read(text, Kind.MASS)
    except InputRefused:
        return read(text, Kind.FORCE)


def _lever_long(length: Quantity) -> float:
    """A length that a lever can have, in m. Raises InputRefused."""
    if length.si <= 0:
        raise InputRefused(
            "length", length.si, tr("a hook lies beyond the drive's centre: give a length above nothing")
        )
    if length.si > LONGEST_LEVER:
        longest = quantity(LONGEST_LEVER, length.unit)
        raise InputRefused(
            "length", length.si, tr("no lever is longer than {longest}: check the length and its unit", longest=longest)
        )
    return length.si


def _range(mass: Quantity, length: float, tool: ToolFacts | None) -> tuple[float, float]:
    """The least and the most torque at the grip mark, in N·m. Raises InputRefused."""
    if mass.si <= 0:
        raise InputRefused("mass", mass.si, tr("nothing hangs there: give a weight above nothing"))
    pin = Pin(tool.pivot, tool.lever) if tool is not None and tool.pivot and tool.lever else Pin()
    if mass.kind is Kind.FORCE:
        if length <= pin.offset:
            raise InputRefused("length", length, tr("must lie beyond the pivot"))
        made = pin.at_grip(mass.si * length, mass.si)
        return made, made
    if tool is not None and tool.kind.is_screwdriver:  # on a disc on its drive, held level: nothing of it pulls
        made = dead_weight(Hanging(mass.si, length)).at_grip
        return made, made
    if tool is not None and tool.own_mass and tool.own_centre:
        made = dead_weight(Hanging(mass.si, length, own=OwnWeight(tool.own_mass, tool.own_centre), pin=pin)).at_grip
        return made, made
    made = dead_weight(Hanging(mass.si, length, pin=pin)).at_grip
    light, heavy = OwnWeightRange((tool.lever if tool is not None else None) or length).torques
    return made + light, made + heavy


def _setting(tool: ToolFacts, torque: float) -> float | None:
    kind = tool.kind
    inside = (kind.minimum or kind.maximum) * 0.999 <= torque <= kind.maximum * 1.001
    return kind.nearest_setting(torque) if inside else None
