"""The units of lengths, masses, forces and temperatures in which somebody works: as they are typed, and as they are told.

A rule in inches is read in sixteenths, so a length that lies on one is told as a fraction.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from reckoner.core.quantities.printing import THIN, fixed, number, quantity
from reckoner.core.quantities.units import KILOGRAM, MILLIMETRE, N_M, NEWTON, Kind, Unit, unit_named

INCH, POUND, POUND_FORCE = (
    unit_named("in", Kind.LENGTH),
    unit_named("lb", Kind.MASS),
    unit_named("lbf", Kind.FORCE),
)
_IMPERIAL_TORQUES = ("lbf.ft", "lbf.in", "ozf.in")
_SIXTEENTH = 16
LBF_FT = unit_named("lbf.ft", Kind.TORQUE)


class UnitSystem(StrEnum):
    """What somebody measures with beside torques."""

    METRIC = "metric"
    INCH = "inch"

    @staticmethod
    def beside(torque: Unit) -> UnitSystem:
        """What goes with a unit of torque."""
        return UnitSystem.INCH if torque.name in _IMPERIAL_TORQUES else UnitSystem.METRIC


@dataclass(frozen=True)
class OwnUnits:
    """The units that a bare value is in and that values are told in: that of torques, and what goes beside them."""

    torque: Unit = N_M
    system: UnitSystem = UnitSystem.METRIC

    @property
    def _inch(self) -> bool:
        return self.system is UnitSystem.INCH

    @property
    def length(self) -> Unit:
        return INCH if self._inch else MILLIMETRE

    @property
    def mass(self) -> Unit:
        return POUND if self._inch else KILOGRAM

    @property
    def force(self) -> Unit:
        return POUND_FORCE if self._inch else NEWTON

    @property
    def fahrenheit(self) -> bool:
        """Whether temperatures are told in °F, and a bare one is meant so."""
        return self._inch

    @property
    def step(self) -> float:
        """What a rule or tape is read to, and hooks are placed by, in m."""
        return INCH.size / _SIXTEENTH if self._inch else MILLIMETRE.size

    def of(self, kind: Kind) -> Unit | None:
        """The unit of a kind; None where it is the same for everyone."""
        own = {Kind.TORQUE: self.torque, Kind.LENGTH: self.length, Kind.MASS: self.mass, Kind.FORCE: self.force}
        return own.get(kind)

    def words(self, kind: Kind, si: float) -> str:
        """A value of a kind that has units of one's own."""
        return self.length_words(si) if kind is Kind.LENGTH else quantity(si, self.of(kind) or N_M)

    def example(self, kind: Kind, si: float) -> str:
        """A value near ``si`` as somebody would have measured it."""
        if not self._inch:
            return self.words(kind, si)
        return (
            self.length_words(round(INCH.from_si(si) * 2) / 2 * INCH.size)
            if kind is Kind.LENGTH
            else quantity(si, self.of(kind) or N_M, 1)
        )

    def length_words(self, metres: float) -> str:
        """A length.

        >>> inches = OwnUnits(system=UnitSystem.INCH)
        >>> inches.length_words(0.4445), inches.length_words(0.4)
        ('17 1/2\u202fin', '15.748\u202fin')
        >>> OwnUnits().length_words(0.4445)
        '444.5\u202fmm'
        """
        sixteenths = INCH.from_si(metres) * _SIXTEENTH
        if self._inch and metres > 0 and abs(sixteenths - round(sixteenths)) < 1e-6:
            whole, part = divmod(Fraction(round(sixteenths), _SIXTEENTH), 1)
            words = " ".join(str(one) for one in (whole, part) if one)
            return f"{words}{THIN}{INCH.symbol}"
        return quantity(metres, self.length)

    def mass_words(self, kilograms: float) -> str:
        """A mass."""
        return quantity(kilograms, self.mass)

    def force_words(self, newtons: float, decimals: int | None = None) -> str:
        """A force."""
        return quantity(newtons, self.force, decimals)

    def temperature_words(self, celsius: float) -> str:
        """A temperature."""
        if self.fahrenheit:
            return f"{number(round(celsius * 9 / 5 + 32, 1))}{THIN}°F"
        return f"{number(celsius)}{THIN}°C"

    def degrees_words(self, kelvins: float, decimals: int | None = None) -> str:
        """A difference of temperatures."""
        degrees = kelvins * 9 / 5 if self.fahrenheit else kelvins
        shown = fixed(degrees, decimals) if decimals is not None else number(round(degrees, 1))
        return f"{shown}{THIN}{'°F' if self.fahrenheit else '°C'}"

    def on_rule(self, metres: float) -> float:
        """The nearest length that the rule shows."""
        return round(metres / self.step) * self.step


METRIC = OwnUnits()


def torque_both_ways(torque: float, unit: Unit) -> str:
    """A torque (N·m) in a unit, and in the one of the other system. Refuses nothing.

    >>> torque_both_ways(80.0, N_M).replace(THIN, " "), torque_both_ways(80.0, LBF_FT).replace(THIN, " ")
    ('80 N·m, 59.005 lbf·ft', '59.005 lbf·ft, 80 N·m')
    """
    other = N_M if unit.name in _IMPERIAL_TORQUES else LBF_FT
    return f"{quantity(torque, unit)}, {quantity(torque, other)}"
