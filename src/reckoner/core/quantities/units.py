"""Units as data: their sizes, their spellings, and which one a text names.

Sizes follow from exact definitions (the pound of 0.45359237 kg, the inch of 25.4 mm, g_n = 9.80665 m/s²) and stand here as
numbers, for a window opens before a units library is loaded; a test works each out anew with one, in fractions.

To add a unit: a row in ``UNITS`` with every spelling that technicians use.
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from enum import StrEnum
from functools import cache

from reckoner.core.errors import InputRefused
from reckoner.core.translation import mark, tr


class Kind(StrEnum):
    """What a quantity measures; the value is the word used in sentences."""

    TORQUE = mark("torque")
    LENGTH = mark("length")
    MASS = mark("mass")
    FORCE = mark("force")
    ANGLE = mark("angle")
    TIME = mark("time")
    ACCELERATION = mark("acceleration")
    DENSITY = mark("density")
    RATIO = mark("percentage")


@dataclass(frozen=True)
class Unit:
    """One unit: ``name`` as typed in files, ``symbol`` as shown, ``size`` in SI (N·m, m, kg, N, rad, s, m/s², kg/m³, 1)."""

    name: str
    symbol: str
    kind: Kind
    size: float
    spellings: tuple[str, ...] = ()

    def to_si(self, value: float) -> float:
        return value * self.size

    def from_si(self, value: float) -> float:
        return value / self.size


def _torque(name: str, symbol: str, size: float, *spellings: str) -> Unit:
    return Unit(name, symbol, Kind.TORQUE, size, spellings)


KILOGRAM_METRES = ("kg.m", "m.kg", "kgm")
KILOGRAM_CENTIMETRES = ("kg.cm", "cm.kg", "kgcm")
"""Torques that are written with a mass; they are meant, and read, as kilogram-force, and that is said."""

UNITS: tuple[Unit, ...] = (
    _torque("N.m", "N·m", 1.0, "Nm", "newton metre", "newton metres", "newton meter", "newton meters"),
    _torque("cN.m", "cN·m", 0.01, "cNm"),
    _torque("dN.m", "dN·m", 0.1, "dNm"),
    _torque("mN.m", "mN·m", 0.001, "mNm"),
    _torque("kN.m", "kN·m", 1000.0, "kNm"),
    _torque("daN.m", "daN·m", 10.0, "daNm"),
    _torque("N.cm", "N·cm", 0.01, "Ncm"),
    _torque("N.mm", "N·mm", 0.001, "Nmm"),
    _torque(
        "lbf.ft",
        "lbf·ft",
        1.3558179483314003,
        "ft.lbf",
        "ft.lb",
        "lb.ft",
        "ft.lbs",
        "lbs.ft",
        "foot pound",
        "foot pounds",
        "foot lb",
        "foot lbs",
        "ft pound",
        "ft pounds",
        "pound foot",
        "pound feet",
    ),
    _torque(
        "lbf.in",
        "lbf·in",
        0.1129848290276167,
        "in.lbf",
        "in.lb",
        "lb.in",
        "in.lbs",
        "lbs.in",
        "inch pound",
        "inch pounds",
        "inch lb",
        "inch lbs",
        "in pound",
        "in pounds",
        "pound inch",
        "pound inches",
    ),
    _torque("ozf.in", "ozf·in", 0.0070615518142260435, "in.ozf", "oz.in", "in.oz", "inch ounce", "inch ounces"),
    _torque("kgf.m", "kgf·m", 9.80665, "m.kgf", "kp.m", *KILOGRAM_METRES),
    _torque("kgf.cm", "kgf·cm", 0.0980665, "cm.kgf", "kp.cm", *KILOGRAM_CENTIMETRES),
    _torque("gf.cm", "gf·cm", 9.80665e-05, "cm.gf"),
    Unit("m", "m", Kind.LENGTH, 1.0, ("metre", "metres", "meter", "meters")),
    Unit("mm", "mm", Kind.LENGTH, 0.001, ("millimetre", "millimetres", "millimeter", "millimeters")),
    Unit("cm", "cm", Kind.LENGTH, 0.01, ("centimetre", "centimetres", "centimeter", "centimeters")),
    Unit("in", "in", Kind.LENGTH, 0.0254, ("inch", "inches", '"')),
    Unit("ft", "ft", Kind.LENGTH, 0.3048, ("foot", "feet", "'")),
    Unit("kg", "kg", Kind.MASS, 1.0, ("kilogram", "kilograms", "kilo", "kilos")),
    Unit("g", "g", Kind.MASS, 0.001, ("gram", "grams")),
    Unit("lb", "lb", Kind.MASS, 0.45359237, ("lbs", "pound", "pounds", "lbm")),
    Unit("oz", "oz", Kind.MASS, 0.028349523125, ("ounce", "ounces")),
    Unit("N", "N", Kind.FORCE, 1.0, ("newton", "newtons")),
    Unit("kN", "kN", Kind.FORCE, 1000.0, ("kilonewton", "kilonewtons")),
    Unit("kgf", "kgf", Kind.FORCE, 9.80665, ("kp", "kilopond")),
    Unit("lbf", "lbf", Kind.FORCE, 4.4482216152605),
    Unit("ozf", "ozf", Kind.FORCE, 0.2780138509537812),
    Unit("deg", "°", Kind.ANGLE, math.pi / 180, ("°", "degree", "degrees")),
    Unit("arcmin", "′", Kind.ANGLE, math.pi / 10800, ("'",)),
    Unit("arcsec", "″", Kind.ANGLE, math.pi / 648000, ('"',)),
    Unit("rad", "rad", Kind.ANGLE, 1.0, ("radian", "radians")),
    Unit("s", "s", Kind.TIME, 1.0, ("sec", "second", "seconds")),
    Unit("ms", "ms", Kind.TIME, 0.001, ("millisecond", "milliseconds")),
    Unit("min", "min", Kind.TIME, 60.0, ("minute", "minutes")),
    Unit("m/s^2", "m/s²", Kind.ACCELERATION, 1.0, ("m/s2", "m/s/s", "N/kg")),
    Unit("kg/m^3", "kg/m³", Kind.DENSITY, 1.0, ("kg/m3",)),
    Unit("g/cm^3", "g/cm³", Kind.DENSITY, 1000.0, ("g/cm3",)),
    Unit("%", "%", Kind.RATIO, 0.01, ("percent", "per cent", "pct")),
    Unit("‰", "‰", Kind.RATIO, 0.001, ("per mille",)),
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


def _folded(spelling: str) -> str:
    """The spelling without what people vary: spaces, dots, hyphens."""
    return re.sub(r"[\s.\-*·⋅∙•‧]", "", spelling)


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
    if folded[:1] == "M" and folded[1:2] in ("N", "n"):
        raise InputRefused(
            field,
            spelling,
            tr(
                '"{spelling}" is a meganewton metre, out of any hand tool\'s range; write mN.m for millinewton metres',
                spelling=spelling,
            ),
        )
    found = _exact().get(folded) or _any_case().get(folded.casefold(), ())
    fitting = tuple(u for u in found if kind in (None, u.kind))
    if len(fitting) == 1:
        return fitting[0]
    if found and not fitting:
        hint = (
            tr(" (kilograms are a mass: write kgf for a force)") if kind is Kind.FORCE and found[0].name == "kg" else ""
        )
        raise InputRefused(
            field,
            spelling,
            tr(
                '"{spelling}" is a unit of {kind}, not of {kind_2}{hint}',
                spelling=spelling,
                kind=tr(found[0].kind),
                kind_2=tr(kind or "unit"),
                hint=hint,
            ),
        )
    known = ", ".join(u.name for u in UNITS if kind in (None, u.kind))
    what = tr("unit") if kind is None else tr("unit of {kind}", kind=tr(kind))
    raise InputRefused(
        field,
        spelling,
        tr('"{spelling}" is not a {what} known here; use one of {known}', spelling=spelling, what=what, known=known),
    )


def read_as(spelling: str, unit: Unit) -> str:
    """What is to be said of how ``spelling`` was read as ``unit``; empty where there is nothing. Refuses nothing.

    >>> read_as("kg m", unit_named("kg m"))
    'kg·m is read as kgf·m: kilogram-force, not mass'
    """
    folded = _folded(spelling).casefold()
    if folded not in {_folded(s).casefold() for s in (*KILOGRAM_METRES, *KILOGRAM_CENTIMETRES)}:
        return ""
    return f"{unit.symbol.replace('kgf', 'kg')} is read as {unit.symbol}: kilogram-force, not mass"


N_M = unit_named("N.m")
"""The default unit of torque."""

MILLIMETRE, KILOGRAM = unit_named("mm", Kind.LENGTH), unit_named("kg", Kind.MASS)
NEWTON, DEGREE, PERCENT = unit_named("N", Kind.FORCE), unit_named("deg", Kind.ANGLE), unit_named("%", Kind.RATIO)
"""What lengths, masses, forces, angles and ratios are told in."""
