"""Units as data, on top of pint: their sizes, their spellings, and which one a text names.

Sizes are exact definitions (the international pound and inch, g_n = 9.80665 m/s²) given to pint as a registry
of our own, so that none of pint's thousand other units can be typed by mistake; it loads when first used.

To add a unit: a row in ``UNITS`` with every spelling that technicians use.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import StrEnum
from functools import cache

from reckoner.core.errors import InputRefused


class Kind(StrEnum):
    """What a quantity measures; the value is the word used in sentences."""

    TORQUE = "torque"
    LENGTH = "length"
    MASS = "mass"
    FORCE = "force"
    ANGLE = "angle"
    TIME = "time"
    ACCELERATION = "acceleration"
    DENSITY = "density"
    RATIO = "percentage"


_DEFINITIONS = """
metre = [length]
kilogram = [mass]
second = [time]
radian = []
newton = kilogram * metre / second ** 2
g_n = 9.80665 * metre / second ** 2
gram = kilogram / 1000
pound = 0.45359237 * kilogram
ounce = pound / 16
inch = 0.0254 * metre
foot = 12 * inch
kilogram_force = kilogram * g_n
gram_force = gram * g_n
pound_force = pound * g_n
ounce_force = ounce * g_n
degree = 0.017453292519943295 * radian
percent = 0.01 * radian
per_mille = 0.001 * radian
minute = 60 * second
""".strip().splitlines()


@dataclass(frozen=True)
class Unit:
    """One unit: ``name`` as typed in files, ``symbol`` as shown, its size in SI as a pint expression."""

    name: str
    symbol: str
    kind: Kind
    expression: str
    spellings: tuple[str, ...] = ()

    @property
    def size(self) -> float:
        """How many SI units (N·m, m, kg, N, rad, s, m/s², kg/m³, 1) one of this unit is."""
        return _size(self.expression)

    def to_si(self, value: float) -> float:
        return value * self.size

    def from_si(self, value: float) -> float:
        return value / self.size


def _torque(name: str, symbol: str, expression: str, *spellings: str) -> Unit:
    return Unit(name, symbol, Kind.TORQUE, expression, spellings)


UNITS: tuple[Unit, ...] = (
    _torque("N.m", "N·m", "newton * metre", "Nm", "newton metre", "newton metres", "newton meter", "newton meters"),
    _torque("cN.m", "cN·m", "newton * metre / 100", "cNm"),
    _torque("dN.m", "dN·m", "newton * metre / 10", "dNm"),
    _torque("mN.m", "mN·m", "newton * metre / 1000", "mNm"),
    _torque("kN.m", "kN·m", "newton * metre * 1000", "kNm"),
    _torque(
        "lbf.ft",
        "lbf·ft",
        "pound_force * foot",
        "ft.lbf",
        "ft.lb",
        "lb.ft",
        "ft.lbs",
        "lbs.ft",
        "foot pound",
        "foot pounds",
        "pound foot",
        "pound feet",
    ),
    _torque(
        "lbf.in",
        "lbf·in",
        "pound_force * inch",
        "in.lbf",
        "in.lb",
        "lb.in",
        "in.lbs",
        "lbs.in",
        "inch pound",
        "inch pounds",
        "pound inch",
        "pound inches",
    ),
    _torque("ozf.in", "ozf·in", "ounce_force * inch", "in.ozf", "oz.in", "in.oz", "inch ounce", "inch ounces"),
    _torque("kgf.m", "kgf·m", "kilogram_force * metre", "m.kgf", "kp.m"),
    _torque("kgf.cm", "kgf·cm", "kilogram_force * metre / 100", "cm.kgf", "kp.cm"),
    _torque("gf.cm", "gf·cm", "gram_force * metre / 100", "cm.gf"),
    Unit("m", "m", Kind.LENGTH, "metre", ("metre", "metres", "meter", "meters")),
    Unit("mm", "mm", Kind.LENGTH, "metre / 1000", ("millimetre", "millimetres", "millimeter", "millimeters")),
    Unit("cm", "cm", Kind.LENGTH, "metre / 100", ("centimetre", "centimetres", "centimeter", "centimeters")),
    Unit("in", "in", Kind.LENGTH, "inch", ("inch", "inches", '"')),
    Unit("ft", "ft", Kind.LENGTH, "foot", ("foot", "feet", "'")),
    Unit("kg", "kg", Kind.MASS, "kilogram", ("kilogram", "kilograms", "kilo", "kilos")),
    Unit("g", "g", Kind.MASS, "gram", ("gram", "grams")),
    Unit("lb", "lb", Kind.MASS, "pound", ("lbs", "pound", "pounds", "lbm")),
    Unit("oz", "oz", Kind.MASS, "ounce", ("ounce", "ounces")),
    Unit("N", "N", Kind.FORCE, "newton", ("newton", "newtons")),
    Unit("kN", "kN", Kind.FORCE, "newton * 1000", ("kilonewton", "kilonewtons")),
    Unit("kgf", "kgf", Kind.FORCE, "kilogram_force", ("kp", "kilopond")),
    Unit("lbf", "lbf", Kind.FORCE, "pound_force"),
    Unit("ozf", "ozf", Kind.FORCE, "ounce_force"),
    Unit("deg", "°", Kind.ANGLE, "degree", ("°", "degree", "degrees")),
    Unit("rad", "rad", Kind.ANGLE, "radian", ("radian", "radians")),
    Unit("s", "s", Kind.TIME, "second", ("sec", "second", "seconds")),
    Unit("ms", "ms", Kind.TIME, "second / 1000", ("millisecond", "milliseconds")),
    Unit("min", "min", Kind.TIME, "minute", ("minute", "minutes")),
    Unit("m/s^2", "m/s²", Kind.ACCELERATION, "metre / second ** 2", ("m/s2", "m/s/s", "N/kg")),
    Unit("kg/m^3", "kg/m³", Kind.DENSITY, "kilogram / metre ** 3", ("kg/m3",)),
    Unit("g/cm^3", "g/cm³", Kind.DENSITY, "gram / (metre / 100) ** 3", ("g/cm3",)),
    Unit("%", "%", Kind.RATIO, "percent", ("percent", "per cent", "pct")),
    Unit("‰", "‰", Kind.RATIO, "per_mille", ("per mille",)),
)

LIMITS: dict[Kind, float] = {
    Kind.TORQUE: 1e5,
    Kind.LENGTH: 1e4,
    Kind.MASS: 1e5,
    Kind.FORCE: 1e6,
    Kind.ANGLE: 1e3,
    Kind.TIME: 1e9,
    Kind.ACCELERATION: 100.0,
    Kind.DENSITY: 1e5,
    Kind.RATIO: 1e4,
}
"""The largest magnitude of each kind, in SI, that anything on a bench can have; beyond it the entry is a slip."""


@cache
def _size(expression: str) -> float:
    return float(_registry().parse_expression(expression).to_base_units().magnitude)


@cache
def _registry():  # type: ignore[no-untyped-def]  # pint's registry class is built at run time
    import pint

    registry: pint.UnitRegistry[float] = pint.UnitRegistry(None)
    for line in _DEFINITIONS:
        registry.define(line)
    return registry


def _folded(spelling: str) -> str:
    """The spelling without what people vary: spaces, dots, hyphens."""
    return re.sub(r"[\s.\-*·⋅∙]", "", spelling)


@cache
def _exact() -> dict[str, tuple[Unit, ...]]:
    table: dict[str, tuple[Unit, ...]] = {}
    for unit in UNITS:
        for spelling in {_folded(s) for s in (unit.name, unit.symbol, *unit.spellings)}:
            table[spelling] = (*table.get(spelling, ()), unit)
    return table


@cache
def _any_case() -> dict[str, tuple[Unit, ...]]:
    table: dict[str, tuple[Unit, ...]] = {}
    for spelling, units in _exact().items():
        known = table.get(spelling.casefold(), ())
        table[spelling.casefold()] = known + tuple(u for u in units if u not in known)
    return table


def unit_named(spelling: str, kind: Kind | None = None, field: str = "unit") -> Unit:
    """The unit that ``spelling`` names, of ``kind`` where one is given.

    Case is free where no confusion is possible. Raises InputRefused when the spelling is unknown, names a unit of
    another kind, or is the mega-/milli- trap.

    >>> unit_named("ft-lb").name
    'lbf.ft'
    >>> unit_named("NM").symbol
    'N·m'
    """
    folded = _folded(spelling)
    if folded.startswith("MN"):
        raise InputRefused(
            field,
            spelling,
            f'"{spelling}" is a meganewton metre, out of any hand tool\'s range; write mN.m for millinewton metres',
        )
    found = _exact().get(folded) or _any_case().get(folded.casefold(), ())
    fitting = tuple(u for u in found if kind in (None, u.kind))
    if len(fitting) == 1:
        return fitting[0]
    if found and not fitting:
        hint = " (kilograms are a mass: write kgf for a force)" if kind is Kind.FORCE and found[0].name == "kg" else ""
        raise InputRefused(field, spelling, f'"{spelling}" is a unit of {found[0].kind}, not of {kind}{hint}')
    known = ", ".join(u.name for u in UNITS if kind in (None, u.kind))
    what = "unit" if kind is None else f"unit of {kind}"
    raise InputRefused(field, spelling, f'"{spelling}" is not a {what} known here; use one of {known}')


N_M = unit_named("N.m")
"""The default unit of torque."""
