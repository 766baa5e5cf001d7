"""Drift, intervals, before and after, impact: worked numbers, edges, coverage by simulation."""

import math
from datetime import date, timedelta

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.special import stdtrit

from reckoner.core.errors import InputRefused
from reckoner.core.history.comparison import ComparedChange, compare
from reckoner.core.history.drift import DatedDeviation, drift, pooled_drift
from reckoner.core.history.impact import JobLoan, KnownDeviation, deviation_at, review
from reckoner.core.history.interval import IntervalOutcome, reliability, staircase
from reckoner.core.tightening.choosing import PassedOver, ToolCandidate, rank
from reckoner.core.tightening.setting import BandPlace

START = date(2023, 3, 6)


def yearly(*deviations):
    return [DatedDeviation(START + timedelta(days=365 * i), a) for i, a in enumerate(deviations)]


def test_a_steady_tool_never_reaches_its_limit_and_a_bad_one_is_there_already():
    steady = drift(yearly(0.001, 0.001, 0.001))
    assert steady.line_reaches(0.04) is None
    assert steady.band_reaches(0.04) is None
    assert steady.half_band(START) == 0
    bad = drift(yearly(0.03, 0.04, 0.05))
    assert bad.line_reaches(0.04) == bad.last
    down = drift(yearly(-0.01, -0.02, -0.029))
    assert down.line_reaches(0.04) > down.last
    assert down.band_reaches(0.04) <= down.line_reaches(0.04)


@given(st.lists(st.floats(-0.03, 0.03), min_size=3, max_size=8))
def test_the_line_is_the_one_that_numpy_fits(deviations):
    results = yearly(*deviations)
    found = drift(results)
    x = [(r.on - START).days / 365.25 for r in results]
    slope, start = np.polyfit(x, deviations, 1)
    assert found.per_year == pytest.approx(slope, abs=1e-12)
    assert found.predicted(START) == pytest.approx(start, abs=1e-12)


def test_the_prediction_band_covers_the_next_result_95_times_in_100():
    rng = np.random.default_rng(3)
    inside = 0
    for _ in range(12000):
        noise = rng.normal(0, 0.003, 6)
        found = drift(yearly(*(0.004 * i + noise[i] for i in range(5))))
        next_on = START + timedelta(days=365 * 5)
        inside += abs(0.004 * 5 + noise[5] - found.predicted(next_on)) <= found.half_band(next_on)
    assert 0.94 <= inside / 12000 <= 0.96


@pytest.mark.parametrize(
    ("results", "words"),
    [
        (yearly(0.01, 0.02), "at least three"),
        ([*yearly(0.01, 0.02), DatedDeviation(START, 0.03)], "must be later"),
        ([DatedDeviation(START, 0.01)] * 3, "must be later"),
        (yearly(0.01, float("nan"), 0.02), "not a finite number"),
    ],
)
def test_histories_that_cannot_be_fitted_are_refused(results, words):
    with pytest.raises(InputRefused, match=words):
        drift(results)


def test_the_staircase_stays_between_three_and_twenty_four_months():
    assert staircase(22, 0.01, 0.04) == 24
    assert staircase(4, 0.05, 0.04) == 3
    assert staircase(12, 0.02, 0.04) == 15
    assert staircase(12, 0.04, 0.04) == 12


def test_reliability_finds_the_rate_that_made_the_outcomes():
    rng = np.random.default_rng(5)
    ages = rng.uniform(3, 24, 4000)
    outcomes = [IntervalOutcome(float(t), bool(rng.random() < np.exp(-0.02 * t))) for t in ages]
    assert reliability(outcomes, 0.95).rate_per_month == pytest.approx(0.02, rel=0.06)
    with pytest.raises(InputRefused, match="no tool was found outside"):
        reliability([IntervalOutcome(12, True)], 0.95)
    with pytest.raises(InputRefused, match="every tool was found outside"):
        reliability([IntervalOutcome(12, False)], 0.95)


def test_a_change_is_told_only_when_the_readings_can_tell_it():
    before = [59.1, 59.3, 59.0, 59.2, 59.1]
    shifted = [x * 1.03 for x in before]
    assert compare(before, shifted, 0.01).change is ComparedChange.CHANGED
    wild = compare(before, [57.0, 61.5, 58.2, 60.9, 59.0], 0.01)
    assert wild.change is ComparedChange.CANNOT_TELL
    assert wild.readings_needed > 5
    same = compare([59.1, 59.1], [59.1, 59.1], 0.01)
    assert (same.change, same.low_95, same.high_95) == (ComparedChange.UNCHANGED, 0, 0)
    with pytest.raises(InputRefused, match="after: needs at least 2"):
        compare(before, [59.1], 0.01)


def test_the_interval_of_a_difference_covers_it_95_times_in_100():
    rng = np.random.default_rng(11)
    covered = 0
    for _ in range(3000):
        found = compare(rng.normal(100, 0.3, 5), rng.normal(100.5, 0.6, 7), 0.01)
        covered += found.low_95 <= 0.005 <= found.high_95
    assert 0.94 <= covered / 3000 <= 0.965


def test_a_failure_never_lengthens_the_interval():
    for months in (0.5, 1, 2, 3, 5, 24, 60):
        assert staircase(months, 0.05, 0.04) <= months


def test_the_bounds_of_a_reliability_hold_the_truth_as_often_as_they_say_and_narrow_with_results():
    rng = np.random.default_rng(3)

    def seen(count):
        ages = rng.choice([6.0, 12.0, 18.0], count)
        return [IntervalOutcome(age, bool(rng.random() < math.exp(-0.02 * age))) for age in ages]

    truth = -math.log(0.95) / 0.02
    found = [reliability(seen(80), 0.95) for _ in range(300)]
    inside = sum(f.low_months <= truth <= f.high_months for f in found) / 300
    assert inside == pytest.approx(0.9, abs=0.05)
    few, many = reliability(seen(50), 0.95), reliability(seen(1000), 0.95)
    assert few.high_months / few.low_months > 2 > many.high_months / many.low_months
    assert (few.proposal, many.proposal) == (few.low_months, many.months)


def test_a_failure_after_sixty_years_is_still_a_number():
    found = reliability([IntervalOutcome(720, False), IntervalOutcome(12, True)], 0.95)
    assert 0 < found.low_months < found.months < found.high_months


@pytest.mark.parametrize("deviation", [-1.0, -1.5])
def test_a_deviation_of_minus_a_hundred_percent_is_refused_where_it_would_divide(deviation):
    with pytest.raises(InputRefused, match="above −100 %"):
        review([KnownDeviation(40, 0.0), KnownDeviation(60, deviation)], [JobLoan("a", 50, 40, 60)])


def test_impact_interpolates_between_tested_settings_and_never_beyond():
    results = [KnownDeviation(40, 0.02), KnownDeviation(120, 0.06), KnownDeviation(200, 0.05)]
    assert deviation_at(results, 80) == pytest.approx(0.04)
    loans = [
        JobLoan("inside its own limit, outside the job's", 80, 78, 82),
        JobLoan("wide enough", 80, 70, 90),
        JobLoan("beyond", 210, 200, 220),
        JobLoan("with an adapter", 80, 86, 90, factor=1.140625),
    ]
    assert [e.effect for e in review(results, loans)] == [
        BandPlace.OUTSIDE, BandPlace.INSIDE, BandPlace.CANNOT_TELL, BandPlace.INSIDE,
    ]  # fmt: skip
    with pytest.raises(InputRefused, match="same setting"):
        review([KnownDeviation(40, 0.02)] * 2, loans)
    with pytest.raises(InputRefused, match=r"loans\[0\].high"):
        review(results, [JobLoan("x", 80, 90, 70)])


def test_a_tool_with_two_results_drifts_like_the_others_of_its_model():
    others = [yearly(0.002, 0.006, 0.011, 0.014), yearly(-0.004, 0.001, 0.004)]
    found = pooled_drift(yearly(0.010, 0.013), others)
    x = np.concatenate([np.arange(n) * 365 / 365.25 for n in (2, 4, 3)])
    y = np.array([0.010, 0.013, 0.002, 0.006, 0.011, 0.014, -0.004, 0.001, 0.004])
    own_level = np.eye(3)[[0, 0, 1, 1, 1, 1, 2, 2, 2]]
    design = np.column_stack([x, own_level])
    solved, *_ = np.linalg.lstsq(design, y)
    assert found.per_year == pytest.approx(solved[0])
    assert found.at_start == pytest.approx(solved[1])
    lines = [np.polyfit(x[own_level[:, i] > 0], y[own_level[:, i] > 0], 1, full=True) for i in range(3)]
    assert found.spread == pytest.approx(np.sqrt(sum(float(r[1].sum()) for r in lines) / 3))
    assert found.slopes_differ > np.std([r[0][0] for r in lines]) / 2
    assert found.other_tools == 2
    assert found.band_reaches(0.04) < found.line_reaches(0.04)
    slopes, weights = (
        np.array([r[0][0] for r in lines]),
        np.array([((q - q.mean()) ** 2).sum() for q in (x[own_level[:, i] > 0] for i in range(3))]),
    )
    p = weights / weights.sum()
    between = (p * (slopes - p @ slopes) ** 2).sum() / (1 - (p**2).sum())
    assert found.slopes_differ == pytest.approx(np.sqrt(between * (1 + (p**2).sum())))
    assert found.t95_slopes == pytest.approx(stdtrit(1 / (p**2).sum() - 1, 0.975))
    alone = pooled_drift(
        yearly(0.010), [yearly(0.002, 0.006, 0.011, 0.014)]
    )  # one other tells nothing of how they differ
    assert alone.slopes_differ > alone.per_year
    assert alone.t95_slopes == alone.t95
    pairs = pooled_drift(yearly(0.0), [yearly(0.0, 0.004), yearly(0.0, 0.008), yearly(0.0, 0.006)])
    assert pairs.spread == pytest.approx(
        np.sqrt(2 * 0.002**2 / 2 / 2)
    )  # about the common slope, two degrees of freedom
    for results, histories in (([], others), (yearly(0.01), []), (yearly(0.01, 0.02), [])):
        with pytest.raises(InputRefused, match="results"):
            pooled_drift(results, histories)


@pytest.mark.parametrize(("tools", "own"), [(2, 1), (4, 2), (10, 1)])
def test_the_pooled_band_covers_tools_that_drift_each_in_its_own_way(tools, own):
    random, inside = np.random.default_rng([5, tools]), 0
    for _ in range(300):
        histories = []
        for count in (own + 1, *random.integers(3, 6, tools)):
            slope, level = random.normal(0.004, 0.004), random.normal(0, 0.01)
            deviations = (level + slope * np.arange(count) + random.normal(0, 0.003, count)).tolist()
            histories.append(yearly(*deviations))
        *seen, then = histories[0]
        found = pooled_drift(seen, histories[1:])
        inside += abs(then.deviation - found.predicted(then.on)) <= found.half_band(then.on)
    assert inside >= 0.925 * 300  # 95 %, less two standard deviations of such a count


def test_the_tool_for_a_job_is_in_date_in_range_and_the_best_on_its_scale():
    tools = [
        ToolCandidate("held", 20, 100, True, True, 0.01),
        ToolCandidate("overdue", 20, 100, False, False, 0.01),
        ToolCandidate("small", 10, 50, True, False, 0.01),
        ToolCandidate("high on its scale", 20, 70, True, False, 0.005),
        ToolCandidate("rough", 20, 100, True, False, 0.03),
        ToolCandidate("good", 20, 110, True, False, 0.02),
        ToolCandidate("large", 30, 400, True, False, 0.01),
        ToolCandidate("unknown", 20, 100, True, False, None),
    ]
    found = rank(tools, 62)
    assert [r.id for r in found if r.passed is None] == ["good", "rough", "high on its scale"]
    assert [r.passed for r in found[3:]] == [
        PassedOver.HELD, PassedOver.OVERDUE, PassedOver.OUT_OF_RANGE, PassedOver.TOO_LOW, PassedOver.UNTESTED,
    ]  # fmt: skip
    assert rank([ToolCandidate("crow-foot", 20, 100, True, False, 0.01, factor=1.25)], 75)[0].setting == 60
