"""A certificate's points as they are pasted: by names in several languages, by what was indicated, never zero by mistake."""

import pytest

from reckoner.core.quantities.units import Kind, unit_named
from reckoner.formats.points import parse_points

N_M = unit_named("N.m", Kind.TORQUE)
LBF_FT = unit_named("lbf.ft", Kind.TORQUE).size


@pytest.mark.parametrize(
    ("text", "torque", "error", "uncertainty"),
    [
        ("100 0.2 0.3", 100, 0.002, 0.003),
        ("100; -0,2; 0,3", 100, -0.002, 0.003),
        ("Sollwert;Istwert;U\n100;100,5;0,3", 100, 0.005, 0.003),
        ("Applied;Indicated;U\n100;99.5;0.3", 100, -0.005, 0.003),
        ("Moment;Abw.;U\n100;0,4;0,3", 100, 0.004, 0.003),
        ("Applied (lbf·ft)\tIndicated (lbf·ft)\tU (k=2) [%]\n100\t100.2\t0.3", 100 * LBF_FT, 0.002, 0.003),
        ("Soll-Drehmoment;Messabweichung;Messunsicherheit\nN·m;N·m;%\n50;0,1;0,4", 50, 0.002, 0.004),
        ("U;error;torque\n0.3;0.2;100", 100, 0.002, 0.003),
    ],
)
def test_columns_are_known_by_their_names_and_units(text, torque, error, uncertainty):
    (point,) = parse_points(text, N_M)
    assert point.fault == ""
    assert (point.torque, point.error, point.uncertainty) == pytest.approx((torque, error, uncertainty))


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("Sollwert;Bemerkung;U\n100;gut;0.3", "named as the error, or as what was indicated"),
        ("Nominal;U\n100;0.3", "named as the error, or as what was indicated"),
        ("Torque;Error\n100;0.3", "named as the uncertainty"),
        ("Spalte;Error;U\n100;0.3;0.3", "named as the torque"),
        ("Torque (furlong);Error;U\n100;0.3;0.3", 'the unit "furlong" over a column is not known'),
        ("100;100.2;0.2;0.3", "no words over them say which is what"),
        ("Torque;Error;U\n100;;0.3", "the error is missing"),
        ("Applied;Indicated;U\n100;;0.3", "value that was indicated is missing"),
    ],
)
def test_what_was_not_understood_is_said_and_never_zero(text, words):
    (point,) = parse_points(text, N_M)
    assert words in point.fault
