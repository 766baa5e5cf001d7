"""What the detector must reach, on some pulls of each condition; `make bench ONLY=detector` shows the whole table.

The pulls are made from formulas (``meters.made``); what is true of each is known because it was made so.
"""

import numpy as np
import pytest

from reckoner.core.kinds import Mechanism
from reckoner.core.trace import Fault, analyse
from reckoner.meters.indicator import Indicator, MeterFaults
from reckoner.meters.made import CONDITIONS, between, hold, let_go, pull, ramp, slips
from reckoner.meters.pull import Aim, Pull, Watch

PULLS = 24
FEW = 1 / PULLS
"""One pull of so few is more than what a condition may miss of many."""


def whole(condition, made):
    times = np.arange(len(made.samples)) / made.rate
    events = analyse(times, made.samples, target=made.target, mechanism=condition.mechanism).events
    return [e.first_peak for e in events if e.first_peak is not None], {f for e in events for f in e.faults}


def live(condition, made):
    watch = Watch(Aim(made.target, condition.mode, condition.mechanism), made.rate, signed=True)
    pulls = [news for news in watch.feed(made.samples) if isinstance(news, Pull)]
    return [torque for p in pulls for torque in p.readings], {fault for p in pulls for fault in p.faults}


@pytest.mark.parametrize("way", [whole, live])
@pytest.mark.parametrize("condition", CONDITIONS, ids=lambda condition: condition.name)
def test_each_condition_reaches_what_it_must(condition, way):
    errors, right, said = [], 0, 0
    for number in range(PULLS):
        made = condition.make(np.random.default_rng([5, number]))
        readings, faults = way(condition, made)
        said += made.fault is None or made.fault in faults
        if len(readings) == len(made.readings):
            right += 1
            errors += [reading / truth - 1 for reading, truth in zip(readings, made.readings, strict=True)]
    assert right / PULLS >= condition.found - FEW
    assert said / PULLS >= condition.found - FEW
    if condition.error is not None:
        assert np.quantile(np.abs(errors), 0.9) <= condition.error


def read(made, mechanism=Mechanism.CLICK):
    return analyse(
        np.arange(len(made.samples)) / made.rate, made.samples, target=made.target, mechanism=mechanism
    ).events


def rng(seed):
    return np.random.default_rng([11, seed])


def test_an_off_zero_is_taken_off_and_both_numbers_are_there():
    for zero in (0.02, -0.02):
        (event,) = read(pull(rng(1), zero=zero, careful=1.0))
        assert event.zero == event.zero_before == pytest.approx(zero * 120, abs=0.1)
        assert {Fault.OFF_ZERO_BEFORE, Fault.OFF_ZERO_AFTER} <= set(event.faults)
    (event,) = read(pull(rng(1), zero=0.004, careful=1.0))
    assert (event.zero, event.faults) == (0.0, ())


def test_a_hand_that_stays_on_the_handle_is_not_taken_off_the_reading():
    """After the pull the meter does not come back: the zero before counts, and that it is off after is said."""
    made = pull(rng(2), careful=1.0)
    at = len(made.samples) - 580
    rested = made.samples + np.where(np.arange(len(made.samples)) > at, 2.4, 0.0)
    (event,) = analyse(np.arange(len(rested)) / 1000, rested, target=120).events
    assert (event.zero, event.faults) == (0.0, (Fault.OFF_ZERO_AFTER,))
    assert event.first_peak == pytest.approx(made.readings[0], rel=0.001)


def test_a_tremor_is_no_jerk_and_no_signal_and_easing_off_is_one_and_not_the_other():
    for seed in range(20):
        trembling = read(pull(rng(seed), tremor=0.006, careful=1.0))
        assert [Fault.JERK in event.faults for event in trembling] == [False]
        (event,) = read(pull(rng(seed), eased=0.1, careful=1.0))
        assert Fault.JERK in event.faults


def test_a_quantised_hold_is_not_clipped_and_a_hold_at_the_meters_top_is():
    for seed in range(10):
        steady = hold(rng(seed), tremor=0.0)
        steps = Indicator(rng(seed), 1000.0, MeterFaults(resolution=0.3)).shows(steady.samples)
        (event,) = analyse(np.arange(len(steps)) / 1000, steps, target=60, mechanism=Mechanism.DIAL).events
        assert Fault.CLIPPED not in event.faults
        assert event.first_peak == pytest.approx(steady.readings[0], rel=0.003)
        cut = np.minimum(hold(rng(seed)).samples, 50.0)
        (event,) = analyse(np.arange(len(cut)) / 1000, cut, target=60, mechanism=Mechanism.DIAL).events
        assert (event.first_peak, Fault.CLIPPED in event.faults) == (None, True)


def test_what_the_meter_cuts_off_after_the_signal_costs_no_reading():
    """Only the over-travel goes past what it can show."""
    for seed in range(40):
        made = pull(rng(seed), careful=0.8, clips_at=1.02)
        (event,) = read(made)
        assert event.first_peak is not None


def test_a_steady_ramp_has_no_plateau_and_neither_has_a_click_pulled_through():
    for seconds in (4, 10, 30):
        up = np.linspace(0, 60, seconds * 1000)
        torque = np.concatenate([np.zeros(600), up, let_go(rng(1), 60.0, 1000.0), np.zeros(600)])
        torque += rng(seconds).normal(0, 0.06, len(torque))
        (event,) = analyse(np.arange(len(torque)) / 1000, torque, target=60, mechanism=Mechanism.DIAL).events
        assert (event.first_peak, event.faults) == (None, (Fault.NO_SIGNAL,))


def test_the_plateau_nearest_the_target_counts_and_not_the_longest():
    rise, longer = ramp(rng(3), 40.0, 1000.0, 1.0), np.full(4000, 40.0)
    torque = np.concatenate(
        [np.zeros(600), rise, longer, np.linspace(40, 59, 800), np.full(500, 59.0), np.linspace(59, 0, 200)]
    )
    torque = np.append(torque, np.zeros(600)) + rng(3).normal(0, 0.05, len(torque) + 600)
    (event,) = analyse(np.arange(len(torque)) / 1000, torque, target=60, mechanism=Mechanism.DIAL).events
    assert event.first_peak == pytest.approx(59.0, rel=0.001)


def test_a_break_over_is_slower_than_a_click_and_a_hand_slower_than_both():
    for seed in range(10):
        slow = pull(rng(seed), fall=0.1, dip=between(rng(seed), 0.08, 0.2), careful=1.0)
        (event,) = read(slow, Mechanism.BREAK_OVER)
        assert event.first_peak == pytest.approx(slow.readings[0], rel=0.005)


def test_slips_of_five_percent_are_counted_one_by_one():
    for seed in range(10):
        made = slips(rng(seed), times=4)
        assert len(read(made, Mechanism.SLIP)) == 4
