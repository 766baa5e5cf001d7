"""Two sides held against each other, and the first against itself."""

import statistics

import numpy as np
import pytest

from reckoner.core.errors import InputRefused
from reckoner.core.history.comparison import ComparedChange, half_width, hold_sides


def drawn(rng, mean, spread, count=4):
    return rng.normal(mean, spread, count)


def test_the_ratio_s_interval_holds_the_truth_as_often_as_it_says_also_for_few_and_unlike_scatters():
    rng = np.random.default_rng(5)
    held = drifted = 0
    for _ in range(2000):
        found = hold_sides(drawn(rng, 60, 0.6), drawn(rng, 68.4, 1.5), drawn(rng, 60, 0.6), margin=0.01, expected=1.14)
        held += found.low_95 <= 1.14 <= found.high_95
        drifted += found.drifted
    assert 0.935 < held / 2000 < 0.965
    assert 0.03 < drifted / 2000 < 0.065


def test_what_moved_meanwhile_is_told_and_pulled_into_the_first_side():
    bare, with_it, again = [60.0, 60.1, 59.9], [66.0, 66.1, 65.9], [60.6, 60.7, 60.5]
    found = hold_sides(bare, with_it, again, margin=0.01, expected=1.1)
    assert found.drifted
    assert found.drift.difference == pytest.approx(0.01, abs=1e-9)
    assert found.ratio == pytest.approx(66.0 / 60.3)
    assert not hold_sides(bare, with_it, bare, margin=0.01, expected=1.1).drifted
    assert hold_sides(bare, with_it, margin=0.01).drift is None


def test_it_is_held_against_what_it_should_be():
    bare, with_it = [60.0, 60.1, 59.9, 60.05], [66.0, 66.1, 65.9, 66.05]
    assert hold_sides(bare, with_it, margin=0.01, expected=1.1).change is ComparedChange.UNCHANGED
    assert hold_sides(bare, with_it, margin=0.01, expected=1.14).change is ComparedChange.CHANGED
    unsure = hold_sides([60.0, 61.0], [66.0, 67.5], margin=0.01, expected=1.1)
    assert (unsure.change, unsure.readings_needed > 2) == (ComparedChange.CANNOT_TELL, True)
    assert hold_sides(bare, bare, margin=0.01).difference == 0
    spreads = [statistics.stdev(side) / statistics.mean(side) for side in (bare, with_it)]
    assert hold_sides(bare, with_it, margin=0.01).spreads == pytest.approx(spreads)


def test_what_cannot_be_told_is_refused():
    with pytest.raises(InputRefused, match="no ratio to them can be told"):
        hold_sides([1.0, 100.0], [50.0, 51.0], margin=0.01)
    with pytest.raises(InputRefused):
        hold_sides([60.0], [50.0, 51.0], margin=0.01)
    with pytest.raises(InputRefused):
        hold_sides([60.0, 61.0], [50.0], margin=0.01)
    assert half_width([60.0]) == 0
    assert hold_sides([60.0, 60.0], [66.0, 66.0], margin=0.01).high_95 == pytest.approx(1.1)


def test_the_interval_s_ends_are_where_the_difference_is_just_t_of_its_spread():
    from scipy.stats import t as student

    one, two = np.array([60.0, 63.0, 57.0, 61.0]), np.array([66.0, 60.0, 71.0, 64.0])
    found = hold_sides(one, two, margin=0.01)
    va, vb = (side.var(ddof=1) / 4 for side in (one, two))
    parts = (vb, found.ratio**2 * va)
    freedom = sum(parts) ** 2 / sum(p**2 / 3 for p in parts)
    for end in (found.low_95, found.high_95):  # Fieller's own statement
        spread = (vb + end**2 * va) ** 0.5
        assert abs(two.mean() - end * one.mean()) == pytest.approx(student.ppf(0.975, freedom) * spread)
