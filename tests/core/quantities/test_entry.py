"""What a person types is understood, or refused with a sentence."""

import math
from contextlib import suppress
from datetime import date

import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.days import read_coming, read_day
from reckoner.core.quantities.entry import read, read_list, read_plain, read_range, read_temperature, read_turn
from reckoner.core.quantities.units import N_M, UNITS, Kind, unit_named
from reckoner.core.requirements.limits import read_limit
from reckoner.core.tightening.setting import read_band

LBF_FT = 0.3048 * 0.45359237 * 9.80665


@pytest.mark.parametrize(
    ("text", "kind", "si"),
    [
        ("120 N.m", Kind.TORQUE, 120),
        ("49,4 N·m", Kind.TORQUE, 49.4),
        ("60 Nm", Kind.TORQUE, 60),
        ("1 ft-lb", Kind.TORQUE, LBF_FT),
        ("1 FT LB", Kind.TORQUE, LBF_FT),
        ("12 in-lbs", Kind.TORQUE, LBF_FT),
        ("16 ozf.in", Kind.TORQUE, LBF_FT / 12),
        ("2 kgf·cm", Kind.TORQUE, 0.196133),
        ("5 mn.m", Kind.TORQUE, 0.005),
        ("18 in", Kind.LENGTH, 0.4572),
        ("1 ft 5 1/2 in", Kind.LENGTH, 0.4445),
        ("5½ in", Kind.LENGTH, 0.1397),
        ("3′ 2″", Kind.LENGTH, 0.9652),
        ("8 lb", Kind.MASS, 3.62873896),
        ("33 kgf", Kind.FORCE, 323.61945),
        ("0.6 %", Kind.RATIO, 0.006),
        ("−5 °", Kind.ANGLE, -math.radians(5)),
        ("9.81 m/s²", Kind.ACCELERATION, 9.81),
        ("1e3 g", Kind.MASS, 1),
        ("10 foot lbs", Kind.TORQUE, 10 * LBF_FT),
        ("10 ft pounds", Kind.TORQUE, 10 * LBF_FT),
        ("12 inch lbs", Kind.TORQUE, LBF_FT),
        ("12 in. lb.", Kind.TORQUE, LBF_FT),
        ("192 inch ounces", Kind.TORQUE, LBF_FT),
        ("1 N•m", Kind.TORQUE, 1),
        ("1 N·cm", Kind.TORQUE, 0.01),
        ("1 N·mm", Kind.TORQUE, 0.001),
        ("1 daN·m", Kind.TORQUE, 10),
        ("1 kg·m", Kind.TORQUE, 9.80665),
        ("1 Kg cm", Kind.TORQUE, 0.0980665),
        ("1 kgm", Kind.TORQUE, 9.80665),
        ("1 234,5 N.m", Kind.TORQUE, 1234.5),
        ("1\u202f234 567 mm", Kind.LENGTH, 1234.567),
        ("46°36′", Kind.ANGLE, math.radians(46.6)),
        ("46° 36′ 36″", Kind.ANGLE, math.radians(46.61)),
        ("18-½ in", Kind.LENGTH, 0.4699),
        ("11/2 in", Kind.LENGTH, 0.1397),
    ],
)
def test_spellings_are_understood(text, kind, si):
    assert read(text, kind).si == pytest.approx(si, rel=1e-12)


@pytest.mark.parametrize(
    ("text", "kind", "words"),
    [
        ("", Kind.TORQUE, "is empty"),
        ("abc", Kind.TORQUE, '"abc" is not a torque'),
        ("120", Kind.TORQUE, "has no unit"),
        ("1,234 N.m", Kind.TORQUE, "can be read two ways; write 1.234 or 1234"),
        ("1.234,5 N.m", Kind.TORQUE, "more than one decimal mark"),
        ("5 MN.m", Kind.TORQUE, "meganewton metre, out of any hand tool's range"),
        ("12 kg", Kind.FORCE, "write kgf for a force"),
        ("12 kg", Kind.TORQUE, "is a unit of mass, not of torque"),
        ("5 furlong", Kind.LENGTH, "is not a unit of length known here"),
        ("1e9 N.m", Kind.TORQUE, "out of reason"),
        ("1e999 N.m", Kind.TORQUE, "out of reason"),
        ("nan N.m", Kind.TORQUE, "is not a torque"),
        ("1/0 in", Kind.LENGTH, "divides by zero"),
        ("5 in 1 ft", Kind.LENGTH, "do not get smaller"),
        ("1 Mn.m", Kind.TORQUE, "meganewton metre"),
        ("1 MNM", Kind.TORQUE, "meganewton metre"),
        ("5 11/2 in", Kind.LENGTH, "11/2 is no part of a whole"),
        ("5-½-½ in", Kind.LENGTH, "has no unit"),
        ("12 34 N.m", Kind.TORQUE, "has no unit"),
        ("1 2345 N.m", Kind.TORQUE, "has no unit"),
    ],
)
def test_what_cannot_be_understood_is_named(text, kind, words):
    with pytest.raises(InputRefused) as refusal:
        read(text, kind, field="target")
    assert words in str(refusal.value)
    assert str(refusal.value).startswith("target: ")


@given(st.sampled_from(UNITS), st.floats(0.001, 90))
def test_units_round_trip(unit, value):
    text = f"{value!r} {unit.name}"
    assert read(text, unit.kind).in_unit(unit) == pytest.approx(value, rel=1e-12)
    assert unit_named(unit.symbol, unit.kind) is unit


def test_a_mass_times_a_length_is_read_as_a_torque_and_that_is_said():
    assert "kilogram-force, not mass" in read("3 kg·m", Kind.TORQUE).note
    assert read("3 kgf·m", Kind.TORQUE).note == read("3 N.m", Kind.TORQUE).note == ""
    with pytest.raises(InputRefused, match="not of mass"):
        read("3 kg·m", Kind.MASS)


def test_a_bare_number_takes_the_default_unit_and_plain_numbers_their_bounds():
    assert read("88,5", Kind.TORQUE, default=unit_named("lbf.ft")).si == pytest.approx(88.5 * LBF_FT)
    assert read_plain("21,4 °C", -20, 60, "°C") == 21.4
    with pytest.raises(InputRefused, match="must lie between -20 and 60 °C, not 214"):
        read_plain("214", -20, 60, "°C")


READERS = {
    "quantity": lambda text: read(text, Kind.TORQUE, default=N_M),
    "number": lambda text: read_plain(text, 0, 100, "°C"),
    "range": lambda text: read_range(text, default=N_M),
    "list": lambda text: read_list(text, Kind.TORQUE, default=N_M),
    "turn": read_turn,
    "limit": read_limit,
    "day": read_day,
    "coming": lambda text: read_coming(text, date(2026, 11, 24)),
    "band": lambda text: read_band(text, N_M),
}


@pytest.mark.parametrize("name", READERS)
@given(st.text("0123456789.,-+−/ ½⅛'\"°%eE²N·mftin⁄×^\t", max_size=8))
@example("-")
@example("+ ")
def test_whatever_is_typed_is_understood_or_refused(name, text):
    with suppress(InputRefused):
        READERS[name](text)


@pytest.mark.parametrize(
    ("text", "celsius"), [("21,4", 21.4), ("70F", 190 / 9), ("70 °F", 190 / 9), ("-4 ºF", -20.0), ("294.15 K", 21.0)]
)
def test_a_temperature_is_read_in_the_scale_that_it_names(text, celsius):
    assert read_temperature(text)[0] == pytest.approx(celsius)


@pytest.mark.parametrize("text", ["70", "-5 °F", "", "warm", "21 °R"])
def test_a_temperature_that_no_room_has_is_refused(text):
    with pytest.raises(InputRefused):
        read_temperature(text)
