"""A force gauge or hanging scale that pulls on the tool's lever: what a reading of it means, and what it is worth.

The drive stands upright and the tool is pulled level, square to its lever, so that its own weight does not count.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.entry import read
from reckoner.core.quantities.ownunits import OwnUnits
from reckoner.core.quantities.printing import percent, quantity
from reckoner.core.quantities.units import Kind, Unit
from reckoner.core.reference.certificate import ReferenceAtPoint
from reckoner.core.reference.gauge import GaugeOnLever, KilogramBasis, force_shown
from reckoner.core.reference.weights import STANDARD_GRAVITY, Pin
from reckoner.core.translation import tr
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.people.authorship import ShopRefused
from reckoner.store.reader import Reader


class SquareCheck(StrEnum):
    """How it was seen that the pull is square to the lever."""

    SQUARE = "square"
    EYE = "eye"
    MEASURED = "measured"


SQUARED: dict[SquareCheck, float] = {
    SquareCheck.SQUARE: math.radians(1.0),
    SquareCheck.EYE: math.radians(5.0),
    SquareCheck.MEASURED: math.radians(1.0),
}
"""The most that the pull is off square, or off the angle that was measured, in rad."""

LEAST_ANGLE = math.radians(45.0)
"""Between the pull and the lever: nearer in line, a degree counts too much."""

CHECK_WITHIN = 0.01
"""How far a gauge may be off at a known weight beside its own uncertainty: both have to be read."""

LEAST_CHECK = 0.1
"""Of the greatest pull that the known weight has to make: a gauge that is right at nothing may be wrong where it is used."""


@dataclass(frozen=True)
class Gauge:
    """A gauge of the register: ``uncertainty`` W (k = 2; None: not known), ``step`` in N, ``reads_kg`` and what it was set
    with."""

    number: str
    reaches: float
    uncertainty: float | None
    step: float
    reads_kg: bool
    shows: KilogramBasis

    def shown_words(self, force: float, own: OwnUnits, gravity: float = STANDARD_GRAVITY) -> str:
        """What it shows at a ``force`` in N: a mass where it reads one, else the force."""
        if not self.reads_kg:
            return own.force_words(force)
        return own.mass_words(force / (STANDARD_GRAVITY if self.shows is KilogramBasis.FORCE else gravity))


@dataclass(frozen=True)
class PullFacts:
    """A set-up with a gauge: SI, uncertainties expanded, k = 2. ``hook`` and ``grip`` from the drive's centre; ``check`` is a
    known weight in kg that was hung on it, and what it showed, in kg; ``angle`` between the pull and the lever, in rad."""

    gauge: Gauge
    hook: float
    grip: float
    pivot: float = 0.0
    length: float = 0.001
    gravity: float = 9.80665
    squared: SquareCheck = SquareCheck.EYE
    check: tuple[float, float] | None = None
    angle: float = math.pi / 2

    @property
    def on_lever(self) -> GaugeOnLever:
        return GaugeOnLever(
            self.hook,
            self.gauge.uncertainty or 0.0,
            angle_rad=self.angle,
            pin=Pin(self.pivot, self.grip) if self.pivot else Pin(),
            gravity=self.gravity,
            resolution=self.gauge.step,
            lever_uncertainty=self.length / 2,
            angle_uncertainty_rad=0.0
            if self.squared is not SquareCheck.MEASURED
            else SQUARED[self.squared] / math.sqrt(3.0),
        )

    @property
    def off(self) -> float | None:
        """By what part it was off at the known weight; None where it was not hung."""
        return None if self.check is None else self.check[1] / self.check[0] - 1

    @property
    def proven(self) -> bool:
        """Whether it may decide: its uncertainty is known, and it was looked at with a known weight first."""
        return self.gauge.uncertainty is not None and self.check is not None

    def torque(self, force: float) -> float:
        """The torque at the grip mark in N·m that a ``force`` in N makes. Raises InputRefused."""
        return float(self.on_lever.torques([force])[0])

    def force_for(self, torque: float) -> float:
        """The force in N that makes a torque in N·m."""
        return torque / self.on_lever.arm

    def reference_at(self, torque: float) -> ReferenceAtPoint:
        """What it is worth at a torque; a pull off square by up to φ loses 1 − cos φ, the half-width of a rectangle."""
        found = self.on_lever.as_reference(self.force_for(torque))
        sideways = 2 * (1 - math.cos(SQUARED[self.squared])) / math.sqrt(3.0)
        return ReferenceAtPoint(math.hypot(found.expanded_uncertainty, sideways), resolution=found.resolution)

    def shown_words(self, force: float, own: OwnUnits) -> str:
        """What the gauge shows at a ``force`` in N."""
        return self.gauge.shown_words(force, own, self.gravity)

    @property
    def sends(self) -> Kind:
        """A force, or a mass as one."""
        return Kind.FORCE

    def read(self, text: str, own: OwnUnits) -> tuple[float, str]:
        """The torque in N·m behind what the gauge shows, and the words for it: "33.2 kg", "320 N", "72 lb"; a bare number is
        in one's ``own`` unit of what it reads. Raises InputRefused."""
        default = own.mass if self.gauge.reads_kg else own.force
        try:
            found = read(text, Kind.MASS if self.gauge.reads_kg else Kind.FORCE, default=default, field="force")
        except InputRefused:
            other = Kind.FORCE if self.gauge.reads_kg else Kind.MASS
            found = read(text, other, field="force")
        torque = self.torque_of(found.si, found.unit)
        pulls = own.force_words(self.force_of(found.si, found.unit))
        return torque, tr(
            "understood: {si}, a pull of {pulls}: {torque}",
            si=quantity(found.si, found.unit),
            pulls=pulls,
            torque=quantity(torque, own.torque),
        )

    def force_of(self, shown: float, unit: Unit) -> float:
        """The force in N behind what the gauge shows: N, or kg in a unit of mass. Raises InputRefused."""
        return force_shown(shown, self.gauge.shows, self.gravity) if unit.kind is Kind.MASS else shown

    def torque_of(self, shown: float, unit: Unit) -> float:
        """The torque in N·m that it makes, likewise."""
        return self.torque(self.force_of(shown, unit))


def gauges(reader: Reader) -> tuple[Gauge, ...]:
    """The force gauges and hanging scales of the register, the surest first."""
    rows = reader.rows(
        "SELECT number, reaches, force_uncertainty, gauge_step, shows_mass FROM gear "
        "WHERE kind = 'force gauge' AND NOT removed AND reaches > 0 ORDER BY force_uncertainty IS NULL, force_uncertainty"
    )
    return tuple(
        Gauge(
            r.number,
            r.reaches,
            r.force_uncertainty,
            r.gauge_step or 0.0,
            r.shows_mass is not None,
            KilogramBasis.FORCE if r.shows_mass is not None and not r.shows_mass else KilogramBasis.MASS_HERE,
        )
        for r in rows
    )


def check_pull(pull: PullFacts, tool: ToolFacts, targets: tuple[float, ...]) -> None:
    """Raises ShopRefused with what cannot be pulled so, and what to do."""
    own = tool.own_units
    if pull.hook <= pull.pivot + 0.01:
        raise ShopRefused(
            tr(
                "The hook has to pull beyond the pin, which is {pivot} from the drive.",
                pivot=own.length_words(pull.pivot),
            )
        )
    if pull.hook > pull.grip * (1 + 1e-9):
        raise ShopRefused(tr("The hook cannot pull beyond the grip mark at {grip}.", grip=own.length_words(pull.grip)))
    if not LEAST_ANGLE <= pull.angle <= math.pi - LEAST_ANGLE:
        raise ShopRefused(tr("Pull nearer to square: within 45° of it, or a degree that is off counts too much."))
    most = max(targets)
    force = pull.force_for(most)
    if force > pull.gauge.reaches * (1 + 1e-9):
        raise ShopRefused(
            tr(
                "{most} wants {force} there; {number} ends at {reaches}. Pull further out, or leave the point out.",
                most=quantity(most, tool.unit),
                force=pull.shown_words(force, own),
                number=pull.gauge.number,
                reaches=pull.shown_words(pull.gauge.reaches, own),
            )
        )
    least = math.ceil(2 * LEAST_CHECK * force / pull.gravity) / 2
    if pull.check is not None and (pull.check[0] < least or pull.check[1] <= 0):
        raise ShopRefused(
            tr(
                "{number} pulls {force}: hang at least {least} on it first, and type what it shows.",
                number=pull.gauge.number,
                force=pull.shown_words(force, own),
                least=own.mass_words(least),
            )
        )
    if pull.check is not None and pull.check[0] * pull.gravity > pull.gauge.reaches * (1 + 1e-9):
        raise ShopRefused(
            tr(
                "{number} does not bear {check}; hang less on it.",
                number=pull.gauge.number,
                check=own.mass_words(pull.check[0]),
            )
        )
    off = pull.off
    if off is not None and abs(off) > CHECK_WITHIN + (pull.gauge.uncertainty or 0.0):
        raise ShopRefused(
            tr(
                "{number} is {off} off at that weight: weigh the weight, or do not use the gauge.",
                number=pull.gauge.number,
                off=percent(abs(off), 1),
            )
        )
