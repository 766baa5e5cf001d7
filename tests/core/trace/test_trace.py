"""Whole traces: clicks, slips and holds found at their true torque, whatever the rate, the noise and the mains do."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from reckoner.core.errors import InputRefused
from reckoner.core.requirements.rules import PullRule
from reckoner.core.requirements.tooltypes import Mechanism
from reckoner.core.trace.analysis import analyse
from reckoner.core.trace.course import OF_RATE, choose_corner
from reckoner.core.trace.event import Fault
from tests.support.traces import PEAK, click


def errors(rate, count, **disturbed):
    """Relative errors of the first peak over ``count`` pulls of various speed; each trace must give one event."""
    found = []
    for seed in range(count):
        rise = np.random.default_rng(seed).uniform(1.5, 4)
        times, torque = click(rate, rise=rise, seed=seed, **disturbed)
        (event,) = analyse(times, torque, target=120).events
        truth = PEAK + disturbed.get("drift", 0.0) * (0.5 + rise)
        found.append(event.first_peak / truth - 1)
    return np.array(found)


@pytest.mark.parametrize(("rate", "within"), [(1000, 0.002), (2000, 0.002), (5000, 0.002)])
def test_with_half_a_percent_of_noise_the_first_peak_is_within_two_parts_in_a_thousand(rate, within):
    off = errors(rate, 60, noise=0.005)
    assert np.mean(np.abs(off) <= within) >= 0.95
    assert abs(off.mean()) < 0.0005
    assert np.sqrt(np.mean(off**2)) < within / 2


@pytest.mark.parametrize(
    ("rate", "disturbed", "rms"),
    [
        (100, {}, 0.004),
        (200, {"noise": 0.002}, 0.003),
        (500, {"ripple": 0.01}, 0.001),
        (1000, {"noise": 0.01}, 0.004),
        (1000, {"ripple": 0.01, "hertz": 60.1}, 0.001),
        (2000, {"noise": 0.002, "ripple": 0.005, "hertz": 49.9}, 0.001),
        (5000, {"noise": 0.01, "drift": 0.05}, 0.004),
    ],
)
def test_noise_mains_and_a_drifting_zero_do_not_move_it_far(rate, disturbed, rms):
    assert np.sqrt(np.mean(errors(rate, 25, **disturbed) ** 2)) < rms


def test_the_noise_left_after_a_corner_is_that_of_the_filter_over_what_was_there():
    """Over noise of one density below 200 Hz and none above, the filter leaves that density times the integral of its gain
    squared."""
    rate, count, density = 4000.0, 80_000, 1e-4
    spectrum = np.fft.rfft(np.random.default_rng(3).normal(0, np.sqrt(density * rate / 2), count))
    spectrum[np.fft.rfftfreq(count, 1 / rate) > 200] = 0
    corner, noise = choose_corner(100 + np.fft.irfft(spectrum), rate, np.inf)
    frequency = np.linspace(0, 200, 20_001)
    left = np.trapezoid(1 / (1 + (frequency / corner) ** 4) ** 2, frequency)
    assert noise == pytest.approx(np.sqrt(density * left), rel=0.15)


def test_a_slow_meter_is_smoothed_at_a_fraction_of_its_rate():
    corner, _ = choose_corner(100 + np.random.default_rng(1).normal(0, 1, 400), 20.0, 0.0)
    assert corner == pytest.approx(OF_RATE * 20)


def test_the_corner_and_its_cost_are_told_and_the_reading_does_not_pay_it():
    found = analyse(*click(1000, noise=0.002), target=120)
    assert found.corner in (100, 60, 35)
    assert 0 < found.smoothing_cost < 0.02
    assert found.events[0].first_peak == pytest.approx(PEAK, rel=0.002)
    assert found.events[0].over_travel == pytest.approx(0.05, abs=0.01)
    assert found.events[0].time_80_to_100 == pytest.approx(0.4, abs=0.02)
    assert found.events[0].slope == pytest.approx(PEAK / 2, rel=0.1)


@pytest.mark.parametrize(
    ("changed", "fault"),
    [
        ({"rise": 1.0}, Fault.TOO_FAST),
        ({"rise": 25.0}, Fault.TOO_SLOW),
        ({"drift": 0.6}, Fault.OFF_ZERO_AFTER),
    ],
)
def test_a_bad_pull_is_told_by_its_fault(changed, fault):
    (event,) = analyse(*click(1000, **changed), target=120).events
    assert fault in event.faults
    assert event.first_peak is not None


def test_a_good_pull_has_no_fault_and_the_permitted_ramp_is_the_rule_sets():
    trace = click(1000, rise=4.0)
    assert analyse(*trace, target=120).events[0].faults == ()
    assert analyse(*trace, target=120, pull=PullRule(0.8, 1.0, 4.0)).events[0].faults == (Fault.TOO_FAST,)


def test_a_trace_that_ends_while_the_hand_lets_go_is_not_off_zero():
    times, torque = click(1000, rise=4.0)
    ends = int(np.flatnonzero(torque > 0.05 * PEAK)[-1]) + 30
    (event,) = analyse(times[:ends], torque[:ends], target=120).events
    assert event.faults == ()


def test_a_jerk_a_second_pull_a_let_go_a_clipped_and_an_off_zero_trace_are_named():
    times, torque = click(1000, rise=4.0)
    jerked = torque - 6 * np.exp(-(((times - 3.0) / 0.06) ** 2))
    assert Fault.JERK in analyse(times, jerked, target=120).events[0].faults
    twice = np.concatenate([torque[:-400], torque[600:]])
    second = analyse(np.arange(len(twice)) / 1000, twice, target=120).events
    assert [Fault.SECOND_PULL in e.faults for e in second] == [False, True]
    still = np.zeros(500)
    let_go = np.concatenate([still, np.linspace(0, 110, 3000), 110 * np.linspace(1, 0, 700) ** 2, still])
    (event,) = analyse(np.arange(len(let_go)) / 1000, let_go, target=120).events
    assert (event.first_peak, event.over_travel) == (None, None)
    assert Fault.NO_SIGNAL in event.faults
    assert Fault.CLIPPED in analyse(times, np.minimum(torque, 90.0), target=120).events[0].faults
    assert Fault.OFF_ZERO_BEFORE in analyse(times, torque + 2.0, target=120).events[0].faults


def test_each_slip_is_one_reading_and_a_hold_is_its_plateau():
    saw = np.concatenate(
        [np.linspace(0, 10, 900), *[np.concatenate([np.linspace(10, 6, 30), np.linspace(6, 10, 400)])] * 3]
    )
    slips = np.concatenate([np.zeros(300), saw, np.linspace(10, 0, 40), np.zeros(300)])
    found = analyse(np.arange(len(slips)) / 1000, slips, target=10, mechanism=Mechanism.SLIP)
    assert [e.first_peak for e in found.events] == pytest.approx([10.0] * len(found.events), rel=0.005)
    assert len(found.events) >= 3
    rng = np.random.default_rng(4)
    held = np.concatenate(
        [np.zeros(300), np.linspace(0, 60, 1500), np.full(1500, 60.0), np.linspace(60, 0, 300), np.zeros(300)]
    )
    held += rng.normal(0, 0.05, len(held))
    (event,) = analyse(np.arange(len(held)) / 1000, held, target=60, mechanism=Mechanism.DIAL).events
    assert event.first_peak == pytest.approx(60, abs=0.05)
    assert event.spread == pytest.approx(0.05, rel=0.3)


@settings(max_examples=30)
@given(st.floats(0.01, 50), st.booleans())
def test_the_size_and_the_sign_of_the_torque_do_not_matter(scale, turned):
    times, torque = click(500, noise=0.002)
    one = analyse(times, torque, target=120).events[0]
    other = analyse(times, torque * scale * (-1 if turned else 1), target=120 * scale).events[0]
    assert other.first_peak == pytest.approx(one.first_peak * scale, rel=1e-6)
    assert other.faults == one.faults


@pytest.mark.parametrize(
    ("times", "torques", "words"),
    [
        ([0, 1], [0, 1], "at least 20 samples"),
        (range(30), [0.0] * 29, "one time for each torque"),
        ([*(i / 100 for i in range(29)), 0.1], [1.0] * 30, r"samples\[29\]: its time is not later"),
        ([i / 100 for i in range(30)], [*[1.0] * 29, float("nan")], r"samples\[29\]: its torque is not a finite"),
        (range(30), [1.0] * 30, "samples a second"),
    ],
)
def test_traces_that_cannot_be_are_refused_by_name(times, torques, words):
    with pytest.raises(InputRefused, match=words):
        analyse(list(times), torques)


@pytest.mark.parametrize(("rate", "taken"), [(50.0, True), (49.9, False), (20_000.0, True), (20_010.0, False)])
def test_a_trace_has_50_to_20000_samples_a_second(rate, taken):
    at = np.arange(200) / rate
    ramp = np.minimum(np.arange(200), 150) / 150.0 * 100
    if taken:
        analyse(at, ramp, target=100)
    else:
        with pytest.raises(InputRefused, match="a trace needs 50 to 20000"):
            analyse(at, ramp, target=100)
