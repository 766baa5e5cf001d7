"""Lengths, masses and temperatures in one's own units: told as they are read again."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from reckoner.core.quantities.entry import read, read_temperature
from reckoner.core.quantities.ownunits import METRIC, OwnUnits, UnitSystem
from reckoner.core.quantities.units import N_M, Kind, unit_named

INCHES = OwnUnits(unit_named("lbf.ft"), UnitSystem.INCH)


@pytest.mark.parametrize("own", [METRIC, INCHES])
@given(value=st.floats(0.001, 90.0))
def test_what_is_told_is_read_again(own, value):
    for kind in (Kind.LENGTH, Kind.MASS, Kind.FORCE):
        assert read(own.words(kind, value), kind).si == pytest.approx(value, rel=1e-4)
        assert read(own.example(kind, value + 0.05), kind).unit is own.of(kind)
    celsius = value - 19.0
    if celsius < 60:
        told = own.temperature_words(round(celsius, 1))
        assert read_temperature(told)[0] == pytest.approx(celsius, abs=0.12)
        bare = told.split("\u202f")[0]
        assert read_temperature(bare, fahrenheit=own.fahrenheit)[0] == pytest.approx(celsius, abs=0.12)


@given(sixteenths=st.integers(1, 1600))
def test_what_lies_on_the_rule_is_told_as_it_is_read_there(sixteenths):
    metres = sixteenths * 0.0254 / 16
    told = INCHES.length_words(metres)
    assert "." not in told
    assert read(told, Kind.LENGTH).si == pytest.approx(metres, rel=1e-9)
    assert INCHES.on_rule(metres + 0.0003) == pytest.approx(metres)


def test_what_goes_beside_a_torque():
    for name in ("lbf.ft", "lbf.in", "ozf.in"):
        assert UnitSystem.beside(unit_named(name)) is UnitSystem.INCH
    for name in ("N.m", "cN.m", "kgf.m"):
        assert UnitSystem.beside(unit_named(name)) is UnitSystem.METRIC
    assert OwnUnits(N_M, UnitSystem.INCH).torque is N_M
    assert INCHES.degrees_words(1.0) == "1.8\u202f°F"
