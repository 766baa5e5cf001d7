"""Numbers as text: rounding, signs, spaces, decimals, ranges."""

import pytest

from reckoner.core.quantities import printing
from reckoner.core.quantities.units import N_M, unit_named


@pytest.mark.parametrize(
    ("value", "decimals", "text"),
    [
        (0.125, 2, "0.13"),
        (-0.125, 2, "−0.13"),
        (-0.001, 2, "0.00"),
        (2.5, 0, "3"),
        (1e-9, 3, "0.000"),
        (1234.5, 1, "1234.5"),
    ],
)
def test_halves_go_away_from_zero_and_zero_has_no_sign(value, decimals, text):
    assert printing.fixed(value, decimals) == text


@pytest.mark.parametrize(
    ("value", "text"), [(120.0, "120"), (118.54, "118.54"), (0.02, "0.02"), (123456.7, "123457"), (0, "0")]
)
def test_numbers_show_five_figures_and_no_idle_zeros(value, text):
    assert printing.number(value) == text


@pytest.mark.parametrize(("step", "decimals"), [(1, 0), (0.25, 2), (0.05, 2), (0.02, 2), (5, 0), (0.001, 3), (2.5, 1)])
def test_a_resolution_tells_its_decimals(step, decimals):
    assert printing.decimals_for(step) == decimals


def test_quantities_carry_a_narrow_space_and_their_unit():
    assert printing.quantity(120, N_M) == "120\u202fN·m"
    assert printing.quantity(1.3558179483314003, unit_named("lbf.ft"), 2) == "1.00\u202flbf·ft"
    assert printing.percent(-0.0426, 1) == "−4.3\u202f%"
    assert printing.percent(0.0426, 2, sign=True) == "+4.26\u202f%"
    assert printing.span(40, 200, N_M) == "40–200\u202fN·m"
    assert printing.span(65, 65, N_M) == "65\u202fN·m"


@pytest.mark.parametrize(("uncertainty", "decimals"), [(0.0123, 3), (1.2, 1), (12, 0), (123, 0), (0, 2)])
def test_an_uncertainty_deserves_two_figures(uncertainty, decimals):
    assert printing.uncertainty_decimals(uncertainty) == decimals
