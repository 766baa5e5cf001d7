"""What the set-ups on the tool's own lever have in common: its lengths, what they are measured with, and the drawing.

The tool's own weight, in any of three ways: weighed and balanced, by a scale under its handle, or as a meter shows it.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum
from typing import Any, TypeVar

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.ownunits import METRIC, OwnUnits
from reckoner.core.quantities.printing import number, quantity, uncertainty_decimals
from reckoner.core.quantities.units import KILOGRAM, N_M, Kind
from reckoner.core.reference.weights import OwnWeightRange
from reckoner.core.translation import tr
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.runs.state import RunState
from reckoner.shop.setups.equipment import Equipment, Instrument
from reckoner.ui.drawings.lever import LeverDrawing
from reckoner.ui.drawings.levershape import LeverPart
from reckoner.ui.layout import column, row
from reckoner.ui.theme import Theme, Type
from reckoner.ui.widgets.chips import named
from reckoner.ui.widgets.entry import EntryField, torque_reader
from reckoner.ui.widgets.form import Form
from reckoner.ui.widgets.text import label

S = TypeVar("S")

ONLY_AT_THE_MARK = tr("Where its pin is was never said: it is right at the grip mark alone.")


class LeverSheet(Form[S]):
    """``lacks`` says what it still wants, empty when nothing."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self._run: RunState | None = None
        self._means = Equipment()
        self._mend = ""
        self.drawing = LeverDrawing(theme)
        self.drawing.moved.connect(self._moved)
        self.own_units = METRIC
        self.grip = self.length_or_mass(0.412, "grip", tr("From the drive's centre to the grip mark"))
        self.rule = self.choice("rule", tr("Lengths are measured with"))
        self.worth = label(theme, "", Type.LEAD, wrap=True)
        self.lacking = label(theme, "", Type.STRONG, wrap=True)
        self.changed.connect(self._tell_lacking)

    def _cannot(self, field: EntryField[Any], sentence: str) -> None:
        """What stands there cannot be: said there, and why nothing can be hung yet."""
        field.refuse(sentence)
        self._mend = sentence

    def start(self, run: RunState, means: Equipment) -> None:
        """A run, with nothing said yet."""
        self._run, self._means = run, means
        self.own_units = run.tool.own_units
        self.measure_in(self.own_units)
        self.grip.clear()
        self.grip.setVisible(run.tool.lever is None)
        choices = means.rule_choices(self.own_units)
        self.rule.offer(choices, [choices[0][0]])

    @property
    def lacks(self) -> str:
        raise NotImplementedError

    def _tell_lacking(self) -> None:
        """Above all that is asked, so that a button that cannot be pressed yet has its reason in sight."""
        self.lacking.setText(self.lacks)
        self.lacking.setVisible(bool(self.lacks))

    @property
    def targets(self) -> list[float]:
        """The points of the run, the least first, in N·m."""
        return sorted({s.target for s in self._run.found}) if self._run is not None else []

    @property
    def length_uncertainty(self) -> float:
        """U of a length, in m."""
        return self._means.rule_uncertainty(self.rule.one)

    def _number(self, field: EntryField[float]) -> float | None:
        """What is typed, in SI; None where nothing is, or nothing that can be read: then that is what has to be mended."""
        field.refresh()
        try:
            return field.value_or_none()
        except InputRefused as refusal:
            self._mend = f"{field.line.accessibleName()}: {refusal.reason}."
            return None

    def _grip(self) -> float | None:
        """From the drive to the grip mark, in m: as the register says, else as typed."""
        return (self._run.tool.lever if self._run is not None else None) or self._number(self.grip)

    def _moved(self, part: LeverPart, metres: float) -> None:
        """A part of the drawing was dragged or stepped."""
        raise NotImplementedError


NO_SCALE = 0.020
"""U of a mass of which nobody said on what it was weighed, in kg."""

BY_METER = 0.02
"""U of a meter's reading of the tool's own weight, as a fraction: it is small for the meter."""


class OwnWay(StrEnum):
    """How it was found."""

    BALANCED = "balanced"
    SCALE = "scale"
    METER = "meter"
    WEIGHED = "weighed"
    UNKNOWN = "unknown"


OWN_WORDS = {
    OwnWay.BALANCED: tr("weighed and balanced"),
    OwnWay.SCALE: tr("a scale under its handle"),
    OwnWay.METER: tr("a meter, with nothing hung"),
    OwnWay.WEIGHED: tr("weighed, not balanced"),
    OwnWay.UNKNOWN: tr("not known"),
}


@dataclass(frozen=True)
class OwnGiven:
    """What was found, SI, uncertainties expanded: ``mass`` balanced at ``centre``, or the ``torque`` it makes about the
    drive; not ``known``: nobody weighed it, or knows where it balances."""

    mass: float
    centre: float
    mass_uncertainty: float
    centre_uncertainty: float
    torque: float | None = None
    torque_uncertainty: float = 0.0
    known: bool = True


class OwnWeightForm(Form[None]):
    """With a pin the tool's mass is needed in each way: what of it swings counts, not its moment
    about the drive alone."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self._tool: ToolFacts | None = None
        self._scales: tuple[Instrument, ...] = ()
        self.way = self.choice("own_way", tr("Its own weight was found by"))
        self.mass = self.length_or_mass(1.35, "own_mass", tr("The tool weighs"), Kind.MASS)
        self.centre = self.length_or_mass(0.19, "own_centre", tr("It balances at, from the drive"))
        self.shows = self.length_or_mass(None, "shows", tr("The scale shows"), Kind.MASS, tr("level, nothing hung"))
        self.under = self.length_or_mass(0.38, "under", tr("It stands, from the drive"))
        self.meter = self.field(
            "own_torque", tr("The meter shows"), torque_reader(N_M), tr("the tool level in it, nothing hung")
        )
        self.weighed_on = self.choice("weighed_on", tr("Weighed on"))
        self.shown(
            lambda: (
                self.way.one in (OwnWay.BALANCED, OwnWay.WEIGHED) or (self._pinned and self.way.one != OwnWay.UNKNOWN)
            ),
            self.mass,
        )
        self.shown(lambda: self.way.one == OwnWay.BALANCED, self.centre)
        self.shown(lambda: self.way.one == OwnWay.SCALE, self.shows, self.under)
        self.shown(lambda: self.way.one == OwnWay.METER, self.meter)
        self.setLayout(
            column(
                named(theme, tr("Own weight"), self.way),
                row(self.mass, self.centre, gap=2),
                row(self.shows, self.under, gap=2),
                self.meter,
                named(theme, tr("Weighed on"), self.weighed_on),
                gap=1,
            )
        )

    def show_tool(self, tool: ToolFacts, scales: tuple[Instrument, ...]) -> None:
        """A tool, with what the register knows of it."""
        with self.filling():
            self._tool, self._scales = tool, scales
            self.measure_in(tool.own_units)
            self.mass.line.setText(tool.own_units.mass_words(tool.own_mass) if tool.own_mass else "")
            self.centre.line.setText(tool.own_units.length_words(tool.own_centre) if tool.own_centre else "")
            for field in (self.shows, self.under, self.meter):
                field.clear()
            self.meter.read_with(torque_reader(tool.unit))
            self.way.offer([(one.value, words) for one, words in OWN_WORDS.items()], [OwnWay.BALANCED.value])
            own = tool.own_units
            known = [(str(i), f"{s.number}, ±{_fine(s.uncertainty, own)}") for i, s in enumerate(scales)]
            self.weighed_on.offer([*known, ("", tr("not said, to {fine}", fine=_fine(NO_SCALE, own)))], [""])

    @property
    def wants(self) -> str:
        """What it takes to know it, in the way that is chosen."""
        pin = self._pinned
        and_mass = tr(", and what the tool weighs") if pin else ""
        return {
            OwnWay.BALANCED: tr("what the tool weighs, and where it balances"),
            OwnWay.SCALE: tr("what the scale under its handle shows, and where it stands{and_mass}", and_mass=and_mass),
            OwnWay.METER: tr("what the meter shows with the tool level in it{and_mass}", and_mass=and_mass),
            OwnWay.WEIGHED: tr("what the tool weighs, and how long it is"),
            OwnWay.UNKNOWN: tr("how long the tool is"),
        }[OwnWay(self.way.one)]

    @property
    def scale_uncertainty(self) -> float:
        """U of what was weighed, in kg."""
        return self._scales[int(self.weighed_on.one)].uncertainty if self.weighed_on.one else NO_SCALE

    @property
    def _pinned(self) -> bool:
        return self._tool is not None and self._tool.pivot > 0

    def found(
        self, read: Callable[[EntryField[float]], float | None], gravity: float, length: float, grip: float | None
    ) -> OwnGiven | None:
        """What stands there, as far as it is whole; ``read`` a field, ``length`` the U of a length in m. Where it is not
        known it is what a tool with its ``grip`` mark so far out may weigh."""
        if self.way.one == OwnWay.UNKNOWN:
            if grip is None:
                return None
            may_be = OwnWeightRange(grip)
            return OwnGiven(may_be.mass, may_be.centre, may_be.mass_uncertainty, may_be.centre_uncertainty, known=False)
        way, unsure = OwnWay(self.way.one), self.scale_uncertainty
        if way is OwnWay.WEIGHED:
            mass = read(self.mass)
            if mass is None or grip is None:
                return None
            may_be = OwnWeightRange(grip)
            return OwnGiven(mass, may_be.centre, unsure, may_be.centre_uncertainty, known=False)
        pin = self._pinned
        mass = read(self.mass) if self.mass.isVisibleTo(self) else 0.0
        if way is OwnWay.BALANCED:
            centre = read(self.centre)
            return None if mass is None or centre is None else OwnGiven(mass, centre, unsure, max(length, CENTRE))
        if way is OwnWay.SCALE:
            shows, under = read(self.shows), read(self.under)
            if shows is None or under is None:
                return None
            torque = shows * gravity * under
            doubt = gravity * math.hypot(unsure * under, shows * length)
        else:
            found = read(self.meter)
            if found is None:
                return None
            torque, doubt = found, BY_METER * found
        if not pin:
            return OwnGiven(0.0, 0.0, 0.0, 0.0, torque, doubt)
        if not mass:
            return None
        return OwnGiven(mass, torque / (mass * gravity), unsure, doubt / (mass * gravity))


def _fine(kilograms: float, own: OwnUnits) -> str:
    """How well a mass is known."""
    if own.mass is KILOGRAM:
        return f"{number(kilograms * 1000)}\u202fg"
    return quantity(kilograms, own.mass, uncertainty_decimals(own.mass.from_si(kilograms)))


CENTRE = 0.005
"""U of a balance point found on an edge, in m."""
