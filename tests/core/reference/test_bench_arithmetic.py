"""Weights, levers, trips, screws: worked numbers, closed forms and what must always hold."""

import math
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reckoner.core.adjusting.beamscale import Mark, fit
from reckoner.core.adjusting.screw import AdjustStep, advise, slope_uncertainty
from reckoner.core.errors import InputRefused
from reckoner.core.reference.trips import bracket, next_setting, walk
from reckoner.core.reference.weights import (
    Buoyancy,
    Hanging,
    OwnWeight,
    Pin,
    WeightUncertainty,
    dead_weight,
    local_gravity,
    pulled,
)
from reckoner.core.tightening.adapters import Adapter, Lever, delivered_by, factor, setting_for, square_window
from reckoner.core.tightening.sequence import circle, passes, rows

LENGTH = st.floats(0.05, 2)
ANGLE = st.floats(-180, 180)


@given(LENGTH, LENGTH)
def test_a_square_adapter_changes_nothing(length, adapter):
    assert factor(Lever(length), [Adapter(adapter, math.radians(90))]) == pytest.approx(1, abs=1e-12)


@given(LENGTH, st.floats(0.01, 0.2), ANGLE, st.floats(1, 500), st.floats(-0.2, 0.2))
def test_what_was_set_for_a_torque_delivers_it(length, adapter, angle, torque, deviation):
    if length + adapter * math.cos(math.radians(angle)) <= 0.001:
        return
    f = factor(Lever(length), [Adapter(adapter, math.radians(angle))])
    assert delivered_by(setting_for(torque, f, deviation), f, deviation) == pytest.approx(torque, rel=1e-12)


@pytest.mark.parametrize(("angle", "setting"), [(0, 70.14), (90, 80.00), (180, 93.09)])
def test_the_setting_for_80_newton_metres_with_a_45_mm_adapter(angle, setting):
    f = factor(Lever(0.320), [Adapter(0.045, math.radians(angle))])
    assert setting_for(80, f) == pytest.approx(setting, abs=0.005)


def test_chains_of_adapters_add_their_reach_and_the_window_is_the_inverse():
    pair = [Adapter(0.03, 0.0), Adapter(0.02, math.radians(60))]
    assert factor(Lever(0.4), pair) == pytest.approx(1 + 0.04 / 0.4)
    window = square_window(0.32, 0.045, 0.01)
    assert [math.degrees(a) for a in (window.low_rad, window.high_rad)] == pytest.approx([85.92, 94.08], abs=0.01)
    assert factor(Lever(0.32), [Adapter(0.045, window.low_rad)]) == pytest.approx(1.01)
    assert square_window(0.32, 0.001, 0.01).low_rad == 0
    with pytest.raises(InputRefused, match="fold the fastener back"):
        factor(Lever(0.1), [Adapter(0.2, math.pi)])
    with pytest.raises(InputRefused, match="pivot: the pivot must lie nearer"):
        Lever(0.3, pivot=0.3)


def test_gravity_at_the_equator_the_pole_and_out_of_reason():
    assert local_gravity(0, 0) == pytest.approx(9.7803253359)
    assert local_gravity(math.pi / 2, 0) == pytest.approx(9.8321849, abs=1e-6)
    for latitude, elevation in ((2, 0), (0, 1e5), (math.nan, 0)):
        with pytest.raises(InputRefused):
            local_gravity(latitude, elevation)


def test_a_lever_five_degrees_off_level_loses_0_38_percent():
    level, tilted = dead_weight(Hanging(12, 0.42)), dead_weight(Hanging(12, 0.42, tilt_rad=math.radians(5)))
    assert tilted.torque / level.torque - 1 == pytest.approx(-0.0038, abs=1e-5)
    assert pulled(12 * 9.80665, 0.42, math.radians(85)) == pytest.approx(tilted.torque)


def test_first_order_agrees_with_a_simulation_of_the_same_lever():
    rng = np.random.default_rng(7)
    given_ = Hanging(12, 0.42, 0.5, math.radians(4), 9.8019, OwnWeight(1.35, 0.19), Buoyancy(1.2, 7850))
    unsure = WeightUncertainty(0.02, 0.0008, 1e-3, math.radians(0.3))
    n = 200_000
    m, x = rng.normal(12, 0.02, n), rng.normal(0.42, 0.0008, n)
    g, tilt = rng.normal(9.8019, 1e-3, n), rng.normal(math.radians(4), math.radians(0.3), n)
    torque = ((m + 0.5) * (1 - 1.2 / 7850) * x + 1.35 * 0.19) * g * np.cos(tilt)
    found = dead_weight(given_, unsure)
    assert found.torque == pytest.approx(torque.mean(), rel=1e-4)
    assert found.standard_uncertainty == pytest.approx(torque.std(), rel=0.01)


def test_own_torque_stands_for_mass_and_centre_but_not_beside_them():
    by_torque = dead_weight(Hanging(12, 0.42, own=OwnWeight(torque=2.5142)))
    assert by_torque.of_own_weight == 2.5142
    with pytest.raises(InputRefused, match="not both"):
        OwnWeight(1.35, 0.19, 2.5)
    with pytest.raises(InputRefused, match="nothing hangs"):
        Hanging(0, 0.42)
    with pytest.raises(InputRefused, match="denser"):
        dead_weight(Hanging(12, 0.42, buoyancy=Buoyancy(8000, 7850)))


def test_bisection_goes_down_to_the_graduation_and_a_one_sided_trip_is_refused():
    assert next_setting(48, 56, 1) == 52
    assert next_setting(48, 49, 1) is None
    found = bracket(50, 48, 50)
    assert (found.setting.half_width, found.setting.standard_uncertainty) == (1, pytest.approx(1 / math.sqrt(3)))
    for clicks, silent in ((48, 48), (50, 48)):
        with pytest.raises(InputRefused, match="silent"):
            bracket(50, clicks, silent)


@given(st.floats(5, 20), st.floats(0.2, 0.6))
def test_without_a_pivot_the_grip_and_the_drive_tell_the_same(mass, distance):
    found = walk(48, mass, distance + 0.001, distance, own=OwnWeight(1.35, 0.19), pin=Pin(0, 0.42))
    assert found.at_grip == pytest.approx(found.at_drive)
    assert found.factor == pytest.approx(1 + found.deviation)


@pytest.mark.parametrize(
    ("options", "words"),
    [
        ({"pin": Pin(0.5, 0.6)}, "must lie beyond the pivot"),
        ({"pin": Pin(0.03, 0.42), "own": OwnWeight(torque=2.5)}, "needs own_mass"),
        ({"silent_at": 0.5}, "silent nearer the drive"),
    ],
)
def test_a_walk_that_cannot_be_is_refused(options, words):
    values = {"setting": 48, "mass": 12, "clicks_at": 0.43, "silent_at": 0.42} | options
    with pytest.raises(InputRefused, match=words):
        walk(**values)


def test_a_first_step_within_the_scatter_does_not_reverse_the_screw_and_many_steps_outweigh_the_model():
    lost = advise(60, [AdjustStep(0, (52.1, 52.3, 51.9)), AdjustStep(0.125, (52.0, 52.2, 51.8))], prior_rate=7.5)
    assert not lost.reversed
    assert lost.next_turn > 0
    steps = [AdjustStep(0, (52.0, 52.1)), *(AdjustStep(0.25, (52.0 + i, 52.1 + i)) for i in range(1, 6))]
    assert advise(60, steps, prior_rate=8.0).rate_per_turn == pytest.approx(4.0, abs=0.1)
    assert advise(60, [AdjustStep(0, (52.0,)), AdjustStep(0.25, (52.1,))]).rate_per_turn == pytest.approx(
        0.4
    )  # no model


def test_the_screw_is_advised_at_most_one_turn_and_the_other_way_is_noticed():
    far = advise(100, [AdjustStep(0, (52.1,))], prior_rate=7.5)
    assert (far.next_turn, far.eighth_below, far.eighth_above) == (1, 1, 1)
    other = advise(60, [AdjustStep(0, (52, 52.2)), AdjustStep(0.5, (48.2, 48.4))], prior_rate=7.5)
    assert other.reversed
    assert other.next_turn == pytest.approx(-1)
    close = advise(60, [AdjustStep(0, (52, 52.2)), AdjustStep(1, (59.8, 60.2, 60.1))])
    assert close.settled
    assert close.eighth_below <= close.next_turn <= close.eighth_above
    for steps, words in (([], "at least one step"), ([AdjustStep(0, (52,))], "rate is not known")):
        with pytest.raises(InputRefused, match=words):
            advise(60, steps)
    with pytest.raises(InputRefused, match="changed nothing"):
        advise(60, [AdjustStep(0, (52,)), AdjustStep(1, (52,))])
    spent = advise(100, [AdjustStep(0, (52,)), AdjustStep(0.75, (60,)), AdjustStep(-0.5, (54.7,))], most_turns=1.5)
    assert (spent.turns_left, spent.next_turn) == (0.25, 0.25)


@given(st.integers(1, 60))
def test_a_circle_takes_each_fastener_once_and_crosses_over(n):
    order = circle(n)
    assert sorted(order) == list(range(1, n + 1))
    if n > 4:
        far = n // 2 if n % 2 else 2  # a star goes as far across as it can
        assert all(min((a - b) % n, (b - a) % n) >= far for a, b in pairwise(order))


@given(st.integers(1, 6), st.integers(1, 8))
def test_rows_begin_in_the_middle_and_take_each_once(count, columns):
    order = rows(count, columns)
    assert sorted(order) == list(range(1, count * columns + 1))
    middle = ((count - 1) / 2, (columns - 1) / 2)
    reach = [math.dist(divmod(k - 1, columns), middle) for k in order]
    assert reach == sorted(reach)


@pytest.mark.parametrize("stages", [(), (0.3, 0.3, 1), (0.3, 0.7), (0.0, 1.0), (0.5, 1.2)])
def test_stages_that_do_not_rise_to_the_aim_are_refused(stages):
    with pytest.raises(InputRefused, match="stages"):
        passes(circle(4), stages, 80)


def test_a_scale_is_the_line_that_numpy_fits():
    marks = [Mark(0, 0.0001), Mark(20, 0.0125), Mark(40, 0.0251), Mark(60, 0.0374)]
    found = fit(marks)
    slope, intercept = np.polyfit([m.torque for m in marks], [m.deflection for m in marks], 1)
    assert (found.slope, found.intercept) == (pytest.approx(slope), pytest.approx(intercept))
    assert math.fsum(found.residuals) == pytest.approx(0, abs=1e-15)
    worst = max(abs(m.deflection - slope * m.torque - intercept) for m in marks)
    assert found.worst_residual == pytest.approx(worst / (slope * 60))
    graduations = found.graduations(5)
    assert [m.torque for m in graduations] == [5 * i for i in range(13)]
    two = fit(marks[1:3])  # as few as two, and then nothing is told of how straight it is
    assert (two.worst_residual, two.torque_at(0.0125)) == (None, pytest.approx(20))
    for bad, words in ((marks[:1], "two marks"), ([Mark(5, d) for d in (0, 1, 2)], "one torque")):
        with pytest.raises(InputRefused, match=words):
            fit(bad)
    with pytest.raises(InputRefused, match="choose a step"):
        found.graduations(0.001)


@pytest.mark.parametrize("readings", [1, 3])
def test_few_adjustments_go_past_the_other_limit_although_nobody_knew_what_a_turn_does(readings):
    random, past = np.random.default_rng([7, readings]), 0
    for _ in range(300):
        rate = random.choice([-1, 1]) * random.uniform(5, 20)
        first = 100 * (1 + random.choice([-1, 1]) * random.uniform(0.04, 0.09))
        at, turn, steps, worst = 0.0, 0.0, [], 0.0
        for number in range(8):
            true = first + rate * at
            worst = max(worst, abs(true / 100 - 1))
            steps.append(AdjustStep(turn, tuple((true * (1 + random.normal(0, 0.006, readings))).tolist())))
            if number:
                found = advise(100, steps, rate_uncertainty=slope_uncertainty(steps))
                largest = 2 * max(abs(s.turn) for s in steps) if found.inconclusive else 1.0
                turn = max(-largest, min(largest, found.next_turn))
                if found.settled or abs(turn) < 1 / 16:
                    break
            else:
                turn = random.choice([-1, 1]) / 8
            at += turn
        past += worst > 0.12
    assert past <= 0.03 * 300


def test_an_uncertain_rate_is_gone_by_with_care_and_no_turn_is_larger_than_allowed():
    steps = [AdjustStep(0, (50.0,)), AdjustStep(0.5, (54.0,))]
    sure, unsure = advise(60, steps), advise(60, steps, rate_uncertainty=8.0)
    assert (sure.next_turn, unsure.next_turn) == (0.75, pytest.approx(6 * 8 / (64 + 64)))
    assert (sure.inconclusive, unsure.inconclusive) == (False, True)
    assert advise(60, steps, largest_turn=0.25).next_turn == 0.25
    both = advise(60, steps, 8.0, rate_uncertainty=3.0)
    doubt = slope_uncertainty(steps)
    assert both.rate_uncertainty == pytest.approx(3 * doubt / (3**2 + doubt**2) ** 0.5)
    assert advise(90, [AdjustStep(0, (50.0,))], 8.0, rate_uncertainty=4.0, largest_turn=1.0).next_turn == 1.0
    with pytest.raises(InputRefused, match="rate_uncertainty"):
        advise(60, steps, rate_uncertainty=-1.0)
