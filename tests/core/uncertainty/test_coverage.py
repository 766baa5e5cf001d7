"""What W holds and what the rules accept when only a few readings are taken: runs whose truth is known, drawn by the
thousand."""

import pytest

from reckoner.core.reference.certificate import KnownError
from reckoner.core.requirements.rules import Coverage, Rule
from tests.support.coverage import MOUNTING, REFERENCE, SCATTER, shares

RUNS = 1000
CHANCE = 0.025
"""Four standard deviations of a share of a fortieth, and more, in so many runs."""

TREATED = ((KnownError.CORRECTED, 0.005), (KnownError.COUNTED, 0.005), (KnownError.COUNTED, -0.005))


@pytest.mark.parametrize(("count", "covered"), [(2, 0.70), (3, 0.82), (5, 0.88), (10, 0.92)])
def test_k_2_covers_less_than_it_says_where_a_few_readings_scatter_and_student_does_not(count, covered):
    assert shares(count, SCATTER, Coverage.K2, KnownError.CORRECTED, runs=RUNS).covered == pytest.approx(
        covered, abs=0.03
    )
    student = shares(count, SCATTER, Coverage.STUDENT, KnownError.CORRECTED, runs=RUNS).covered
    assert student >= (0.89 if count == 2 else 0.9545 - CHANCE)


@pytest.mark.parametrize("count", [2, 3, 5, 10])
def test_where_the_reference_dominates_both_cover_alike(count):
    for coverage in Coverage:
        found = shares(count, REFERENCE, coverage, KnownError.CORRECTED, 0.005, runs=RUNS)
        assert found.covered == pytest.approx(0.944, abs=CHANCE)  # at 4 % off, w is 4 % more than to first order


@pytest.mark.parametrize("count", [3, 5, 10])
def test_where_a_range_of_four_means_dominates_student_knows_how_little_that_is(count):
    assert shares(count, MOUNTING, Coverage.K2, KnownError.CORRECTED, runs=RUNS).covered < 0.90
    student = shares(count, MOUNTING, Coverage.STUDENT, KnownError.CORRECTED, runs=RUNS).covered
    assert student == pytest.approx(0.96, abs=CHANCE)


@pytest.mark.parametrize("dominates", [SCATTER, REFERENCE, MOUNTING])
@pytest.mark.parametrize(("known", "error"), TREATED)
@pytest.mark.parametrize("count", [3, 5, 10])
def test_with_student_the_guarded_and_the_probability_rule_keep_what_they_promise(count, known, error, dominates):
    """A tool that is off by just its limit: accepted at most 2.5 % and 5 % of the time, whatever became of the known
    error."""
    accepted = shares(count, dominates, Coverage.STUDENT, known, error, runs=RUNS).accepted
    assert accepted[Rule.GUARDED] <= 0.025 + CHANCE
    assert accepted[Rule.PROBABILITY] == pytest.approx(0.05, abs=CHANCE)


def test_the_mean_rule_shares_the_risk_and_every_reading_gives_it_to_the_tool_the_more_the_more_are_taken():
    few, many = (shares(n, SCATTER, Coverage.K2, KnownError.CORRECTED, 0.005, runs=RUNS).accepted for n in (2, 10))
    assert few[Rule.MEAN] == pytest.approx(0.5, abs=0.05)
    assert few[Rule.EVERY_READING] == pytest.approx(0.25, abs=0.05)
    assert many[Rule.EVERY_READING] < 0.01


def test_an_error_that_is_left_in_shifts_the_risk_of_the_rules_that_do_not_count_it():
    low, high = (shares(5, REFERENCE, Coverage.K2, KnownError.COUNTED, e, runs=RUNS).accepted for e in (-0.005, 0.005))
    assert low[Rule.MEAN] < 0.2 < 0.8 < high[Rule.MEAN]
    assert max(low[Rule.GUARDED], high[Rule.GUARDED]) <= 0.025 + CHANCE
