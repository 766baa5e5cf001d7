"""What the detector must reach, on some pulls of each condition; `make bench ONLY=detector` shows the whole table.

The pulls are made from formulas (``meters.made``); what is true of each is known because it was made so.
"""

import numpy as np
import pytest

from reckoner.core.errors import InputRefused
from reckoner.core.requirements.tooltypes import Mechanism, MeterMode
from reckoner.core.trace.analysis import analyse
from reckoner.core.trace.event import Fault
from reckoner.core.trace.mains import find_ripple, ripple_at
from reckoner.meters.indicator import Indicator, MeterFaults
from reckoner.meters.made import CONDITIONS, gave_up, hold, pull, slips
from reckoner.meters.movements import between, let_go, ramp
from reckoner.meters.pull import Pull, PullAim, Watch

PULLS = 24
FEW = 1 / PULLS
"""One pull of so few is more than what a condition may miss of many."""


def whole(condition, made):
    times, there = np.arange(len(made.samples)) / made.rate, made.arrived
    events = analyse(times[there], made.samples[there], target=made.target, mechanism=condition.mechanism).events
    return [e.first_peak for e in events if e.first_peak is not None], {f for e in events for f in e.faults}


def live(condition, made):
    watch = Watch(PullAim(made.target, condition.mode, condition.mechanism), made.rate, signed=True)
    told, past, missed = [], 0, 0
    for first, over in (*sorted(made.lost), (len(made.samples), len(made.samples))):
        if first > past:
            told += watch.feed(made.samples[past:first], missed)
            missed = 0
        missed, past = missed + max(0, over - max(past, first)), max(past, over)
    pulls = [news for news in told if isinstance(news, Pull)]
    return [torque for p in pulls for torque in p.readings], {fault for p in pulls for fault in p.faults}


@pytest.mark.parametrize("way", [whole, live])
@pytest.mark.parametrize("condition", CONDITIONS, ids=lambda condition: condition.name)
def test_each_condition_reaches_what_it_must(condition, way):
    errors, right, said, wrong = [], 0, 0, 0
    for number in range(PULLS):
        made = condition.make(np.random.default_rng([5, number]))
        readings, faults = way(condition, made)
        said += (made.fault is None or made.fault in faults) and not set(made.no_faults) & faults
        wrong += len(readings) > len(made.readings)
        right += condition.never_worse and not readings
        if len(readings) == len(made.readings):
            right += 1
            errors += [reading / truth - 1 for reading, truth in zip(readings, made.readings, strict=True)]
    assert right / PULLS >= condition.found - FEW
    assert said / PULLS >= condition.found - FEW
    if condition.error is not None:
        assert np.quantile(np.abs(errors), 1.0 if condition.never_worse else 0.9) <= condition.error
    assert condition.wrong is None or not wrong


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


def test_lost_samples_are_told_by_their_numbers_or_by_the_clock_and_what_may_hide_the_signal_gives_no_reading():
    made = pull(rng(4), careful=1.0)
    times, everything = np.arange(len(made.samples)) / 1000, np.arange(len(made.samples))
    trip = int(np.flatnonzero(made.samples >= made.readings[0] - 0.2)[0])
    for (begin, past), hides in (
        ((trip - 30, trip + 60), True),
        ((trip + 100, trip + 150), True),  # what looked like a signal before may have been the hand's
        ((trip - 1300, trip - 1250), False),
        ((trip - 1300, trip - 200), True),  # it begins far below, and ends near
        ((trip - 40, trip - 38), False),  # nothing hides in two thousandths of a second
    ):
        there = (everything < begin) | (everything >= past)
        even = np.arange(there.sum()) / 1000 * len(made.samples) / there.sum()
        for clock, numbers in ((times[there], None), (even, everything[there])):
            (event,) = analyse(clock, made.samples[there], target=120, numbers=numbers).events
            assert Fault.SAMPLES_LOST in event.faults
            assert (event.first_peak is None) == hides
    with pytest.raises(InputRefused, match="not higher than the one before"):
        analyse(times[:30], made.samples[:30], numbers=[*range(29), 28])


def test_a_peak_that_may_have_been_lost_is_no_reading():
    made = pull(rng(4), careful=1.0)
    top = int(np.argmax(made.samples))
    watch = Watch(PullAim(120.0, MeterMode.PEAK), 1000.0, signed=True)
    for begin, past, missed in ((0, top - 40, 0), (top + 40, len(made.samples), 80)):
        news = watch.feed(made.samples[begin:past], missed)
    (over,) = [n for n in news if isinstance(n, Pull)]
    assert over.readings == ()
    assert Fault.SAMPLES_LOST in over.faults


def test_a_flat_top_is_the_meters_end_where_it_says_so_and_a_hand_that_holds_is_not():
    still, up = np.zeros(600), ramp(rng(3), 100.0, 1000.0, 0.5)
    held = np.concatenate([still, up, np.full(300, 100.0), let_go(rng(3), 100.0, 1000.0), still])
    held = held + rng(3).normal(0, 0.1, len(held))
    times = np.arange(len(held)) / 1000
    for overload, clipped in ((None, False), (150.0, False), (101.0, True)):
        (event,) = analyse(times, held, target=120, overload=overload).events
        assert (event.first_peak, Fault.CLIPPED in event.faults) == (None, clipped)
    slowing = np.concatenate(
        [still, np.linspace(0, 99.4, 1400), np.linspace(99.4, 100.0, 60), let_go(rng(3), 100.0, 1000.0), still]
    )
    (event,) = analyse(np.arange(len(slowing)) / 1000, slowing, target=120, overload=100.0).events
    assert Fault.CLIPPED not in event.faults  # it went on rising, if slower


def told_live(made, begin, past, mechanism=Mechanism.CLICK):
    watch = Watch(PullAim(made.target, mechanism=mechanism), made.rate, signed=True)
    return watch.feed(made.samples[:begin]) + watch.feed(made.samples[past:], past - begin)


def test_a_gap_over_the_signal_is_neither_told_live_nor_is_any_slip_of_a_pull_with_one():
    made = pull(rng(4), careful=1.0)
    trip = int(np.flatnonzero(made.samples >= made.readings[0] - 0.2)[0])
    (over,) = told_live(made, trip - 30, trip + 60)
    assert (over.readings, over.announced) == ((), ())
    for seed in range(60):  # without its signal a twitch of the hand would be told
        made = pull(rng(seed), noise=0.005)
        trip = int(np.flatnonzero(made.samples >= made.readings[0] - 1.0)[0])
        told = told_live(made, trip - 60, trip + 80)
        assert [t.announced for t in told if isinstance(t, Pull) and trip < len(t.samples)] == [()] * len(told)
    slipping = slips(rng(2), times=3)
    first = int(np.argmax(slipping.samples >= 0.995 * slipping.readings[0]))
    (*_, over) = told_live(slipping, first - 30, first + 60, Mechanism.SLIP)
    assert over.readings == ()


def test_half_a_hold_that_was_lost_is_no_plateau():
    held = hold(rng(3))
    level = np.flatnonzero(np.abs(held.samples - held.readings[0]) < 0.01 * held.readings[0])
    middle, half = int(np.median(level)), len(level) // 4
    there = np.ones(len(held.samples), dtype=bool)
    for lost, read_at_all in ((half, False), (10, True)):
        there[:] = True
        there[middle : middle + lost] = False
        numbers = np.flatnonzero(there)
        (event,) = analyse(
            numbers / 1000, held.samples[there], target=60, mechanism=Mechanism.DIAL, numbers=numbers
        ).events
        assert (event.first_peak is not None) == read_at_all


def test_a_twitch_in_a_hold_is_no_swing():
    still, level = np.zeros(600), 60.0
    held = np.full(2000, level)
    held[800:1050] *= 1.012
    torque = np.concatenate([still, ramp(rng(3), level, 1000.0, 1.0), held, let_go(rng(3), level, 1000.0), still])
    torque = torque + rng(3).normal(0, 0.03, len(torque))
    (event,) = analyse(np.arange(len(torque)) / 1000, torque, target=60, mechanism=Mechanism.DIAL).events
    assert event.first_peak == pytest.approx(level, rel=0.0004)


def test_a_hand_that_trembles_on_a_slow_meter_and_lets_go_has_not_signalled():
    for seed in range(60):
        events = read(gave_up(rng(seed), rate=100.0, noise=0.003))
        assert [e.first_peak for e in events if e.first_peak is not None] == []


def test_a_coarse_meter_that_shows_one_value_is_not_at_its_end_and_neither_is_a_slow_hand():
    still = np.zeros(600)
    held = np.concatenate([still, np.linspace(0, 100, 900), np.full(200, 100.0), let_go(rng(3), 100.0, 1000.0), still])
    coarse = Indicator(rng(3), 1000.0, MeterFaults(resolution=0.5)).shows(held)
    (event,) = analyse(np.arange(len(coarse)) / 1000, coarse, target=120).events
    assert Fault.CLIPPED not in event.faults
    rough = Indicator(rng(3), 1000.0, MeterFaults(noise=0.3, resolution=0.1, clips_at=95.0)).shows(held)
    (event,) = analyse(np.arange(len(rough)) / 1000, rough, target=120).events
    assert Fault.CLIPPED in event.faults  # its steps are coarse, but its noise is coarser
    slow = np.concatenate([still, np.linspace(0, 99.9, 900), np.linspace(99.9, 100, 400), np.full(100, 100.0), still])
    slow = slow + rng(3).normal(0, 0.05, len(slow))
    (event,) = analyse(np.arange(len(slow)) / 1000, slow, target=120, overload=100.0).events
    assert Fault.CLIPPED not in event.faults


def test_the_mains_of_any_generator_are_found_to_a_hundredth_of_a_hertz_and_taken_out_to_a_hundredth():
    seconds = np.arange(12_000) / 1000
    for hertz in (45.3, 49.71, 52.37, 60.3, 64.8):
        ripple = np.cos(2 * np.pi * hertz * seconds + 1.0) + 0.3 * np.cos(4 * np.pi * hertz * seconds)
        found = find_ripple(ripple + rng(3).normal(0, 0.05, len(seconds)) + 10 * seconds, 1000.0)
        assert found[0].frequency == pytest.approx(hertz, abs=0.002)
        assert float(np.abs(ripple - ripple_at(found, seconds)).max()) < 0.02
    assert find_ripple(rng(3).normal(0, 0.05, len(seconds)), 1000.0) == ()
