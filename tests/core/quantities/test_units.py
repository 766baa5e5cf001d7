"""The size of every unit, worked out anew from definitions by a units library, in fractions."""

from fractions import Fraction

import pint
import pytest

from reckoner.core.quantities.units import UNITS

DEFINITIONS = """
metre = [length]
kilogram = [mass]
second = [time]
radian = []
newton = kilogram * metre / second ** 2
g_n = 9.80665 * metre / second ** 2
pound = 0.45359237 * kilogram
ounce = pound / 16
inch = 0.0254 * metre
foot = 12 * inch
kgf = kilogram * g_n
lbf = pound * g_n
ozf = ounce * g_n
degree = 0.017453292519943295 * radian
arcmin = degree / 60
arcsec = degree / 3600
"""

SIZES = {
    "N.cm": "newton * metre / 100", "N.mm": "newton * metre / 1000", "daN.m": "newton * metre * 10",
    "arcmin": "arcmin", "arcsec": "arcsec", "N.m": "newton * metre", "cN.m": "newton * metre / 100",
    "dN.m": "newton * metre / 10",
    "mN.m": "newton * metre / 1000", "kN.m": "newton * metre * 1000", "lbf.ft": "lbf * foot", "lbf.in": "lbf * inch",
    "ozf.in": "ozf * inch", "kgf.m": "kgf * metre", "kgf.cm": "kgf * metre / 100", "gf.cm": "kgf * metre / 100000",
    "m": "metre", "mm": "metre / 1000", "cm": "metre / 100", "in": "inch", "ft": "foot",
    "kg": "kilogram", "g": "kilogram / 1000", "lb": "pound", "oz": "ounce",
    "N": "newton", "kN": "newton * 1000", "kgf": "kgf", "lbf": "lbf", "ozf": "ozf",
    "deg": "degree", "rad": "radian", "s": "second", "ms": "second / 1000", "min": "second * 60",
    "m/s^2": "metre / second ** 2", "kg/m^3": "kilogram / metre ** 3", "g/cm^3": "kilogram / 1000 / (metre / 100) ** 3",
    "%": "radian / 100", "‰": "radian / 1000",
}  # fmt: skip


@pytest.fixture(scope="module")
def registry():
    made = pint.UnitRegistry(None, non_int_type=Fraction)
    for definition in DEFINITIONS.strip().splitlines():
        made.define(definition)
    return made


@pytest.mark.parametrize("unit", UNITS, ids=lambda unit: unit.name)
def test_a_unit_has_the_size_that_its_definition_gives(registry, unit):
    exact = float(registry.parse_expression(SIZES[unit.name]).to_base_units().magnitude)
    assert abs(unit.size - exact) <= 2.3e-16 * exact
