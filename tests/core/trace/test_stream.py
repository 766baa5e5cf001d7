"""Pulls in a stream: told while they go on, analysed when they are over, however the stream is cut."""

import numpy as np
import pytest

from reckoner.core.errors import InputRefused
from reckoner.core.requirements.tooltypes import Mechanism
from reckoner.core.trace.cutting import CutMoment, Cutter
from reckoner.core.trace.event import Fault
from reckoner.core.trace.stream import PullOver, PullWatch, StreamSignal
from tests.support.traces import PEAK, click


def watched(samples, rate=1000, block=50, target=120.0, **watch):
    watching = PullWatch(target, rate, **watch)
    return [news for start in range(0, len(samples), block) for news in watching.feed(samples[start : start + block])]


@pytest.mark.parametrize("rate", [100, 500, 1000, 2000, 5000])
def test_the_first_peak_is_told_while_it_is_pulled_and_once(rate):
    signal, over = watched(click(rate, noise=0.001)[1], rate)
    assert isinstance(signal, StreamSignal)
    assert isinstance(over, PullOver)
    assert over.signals == (signal,)
    assert signal.torque == pytest.approx(PEAK, rel=0.004)
    assert signal.at == pytest.approx(2.5, abs=0.02)
    (event,) = over.events
    assert (event.first_peak, event.faults) == (pytest.approx(PEAK, rel=0.004), (Fault.TOO_FAST,))


@pytest.mark.parametrize("block", [1, 7, 333, 10_000])
def test_how_the_stream_is_cut_changes_nothing(block):
    """To the last bit: a signal, the samples that are kept, and what the analysis says of them."""
    samples = np.concatenate([click(1000, noise=0.003, seed=seed)[1] for seed in range(2)])
    ones, others = watched(samples, block=block), watched(samples)
    assert [type(n) for n in ones] == [StreamSignal, PullOver] * 2
    for one, other in zip(ones, others, strict=True):
        if isinstance(one, PullOver):
            assert (one.events, one.signals, one.sign) == (other.events, other.signals, other.sign)
            assert np.array_equal(one.samples, other.samples)
        else:
            assert one == other


def test_counter_clockwise_counts_by_magnitude_and_a_drifting_zero_is_no_pull():
    signal, over = watched(-click(1000)[1])
    assert signal.torque == over.events[0].first_peak == pytest.approx(PEAK, rel=0.002)
    assert (over.sign, over.samples.min()) == (-1.0, pytest.approx(-1.05 * PEAK, rel=0.01))
    assert watched(np.linspace(0, 11, 20_000)) == []


def test_a_meter_that_rests_far_from_zero_begins_its_pulls_from_there():
    _, over = watched(click(1000)[1] + 11.0)
    assert over.events[0].first_peak == pytest.approx(PEAK, rel=0.002)
    assert over.events[0].zero == pytest.approx(11.0, abs=0.05)


def test_a_knock_at_rest_begins_no_pull_and_one_on_the_ramp_ends_none():
    rest = np.zeros(1500)
    rest[700:706] = 24.0
    assert watched(rest) == []
    times, torque = click(1000, rise=4)
    torque[900:906] -= 24.0  # at a tenth of the target, where the pull has only begun
    assert sum(isinstance(news, PullOver) for news in watched(torque)) == 1
    assert len(times) == len(torque)


def test_a_jerk_as_quick_as_a_click_far_below_the_target_is_neither_told_nor_kept():
    torque = click(1000, rise=4, noise=0.001)[1]
    begun = int(np.argmax(torque > 50))
    torque[begun : begun + 20] -= np.linspace(0, 12, 20)
    torque[begun + 20 :] -= 12 * np.exp(-np.arange(len(torque) - begun - 20) / 80)
    signal, over = watched(torque)
    assert [signal.torque, over.events[0].first_peak] == pytest.approx([PEAK, PEAK], rel=0.005)


def test_a_hand_that_eases_in_a_tenth_of_a_second_is_no_click_when_one_follows():
    """Its fall begins as abruptly and is as steep, but takes longer than the click's."""
    torque = click(1000, dip=0.06, noise=0.001)[1]
    begun = 500 + 1400  # at seven tenths
    eased = torque[begun] * (1 - 0.08 * np.sin(np.linspace(0, np.pi, 100)))
    over = watched(np.concatenate([torque[:begun], eased, torque[begun:]]))[-1]
    assert over.events[0].first_peak == pytest.approx(PEAK, rel=0.005)


def test_a_touch_below_the_threshold_is_nothing_and_nonsense_is_refused():
    assert watched(click(1000)[1] / 12) == []
    assert PullWatch(120, 1000).feed(np.empty(0)) == []
    for target, rate in ((0, 1000), (120, 0), (float("nan"), 1000)):
        with pytest.raises(InputRefused):
            PullWatch(target, rate)


def test_what_was_pulled_when_the_stream_ended_is_not_lost():
    """Once it had signalled: the analysis of what is there; a pull that had not yet gives nothing."""
    samples = click(1000, rise=4)[1]
    watching = PullWatch(120.0, 1000)
    watching.feed(samples[:4000])
    assert watching.flush() == []
    (signal,) = watching.feed(samples[4000:4700])
    (over,) = watching.flush()
    assert over.signals == (signal,)
    assert over.events[0].first_peak == pytest.approx(PEAK, rel=0.002)
    assert watching.flush() == []
    ended = PullWatch(120.0, 1000)
    assert not any(isinstance(news, PullOver) for news in ended.feed(samples[:5250]))  # the meter has not come to rest
    assert [type(news) for news in ended.flush()] == [PullOver]


def test_a_pull_longer_than_what_is_kept_still_ends_in_its_reading():
    times, torque = click(1000, rise=60)
    signal, over = watched(torque)
    assert signal.torque == pytest.approx(PEAK, rel=0.002)
    assert len(over.samples) < 22_000 < len(times)
    assert over.events[0].first_peak == pytest.approx(PEAK, rel=0.002)


def test_slips_are_told_one_by_one():
    saw = np.concatenate([np.linspace(0, 20, 900), *[np.r_[np.linspace(20, 16, 20), np.linspace(16, 20, 300)]] * 2])
    samples = np.concatenate(
        [
            np.zeros(500),
            saw,
            np.linspace(20, 18.8, 20),
            np.linspace(18.8, 19.3, 100),
            np.linspace(19, 0, 200),
            np.zeros(500),
        ]
    )
    *signals, over = watched(samples, target=20.0, mechanism=Mechanism.SLIP)
    assert [s.torque for s in signals] == pytest.approx([20.0] * 3, rel=0.004)
    assert [e.first_peak for e in over.events] == pytest.approx([20.0] * 3, rel=0.004)
    assert np.all(np.diff([s.at for s in signals]) > 0.25)


def test_the_zero_follows_a_meter_that_rests_and_not_a_hand_that_begins_slowly():
    cutter = Cutter(100.0)
    assert cutter.rest is None
    assert cutter.walk([0.3] * 100) == []
    assert cutter.rest == pytest.approx(0.3)
    assert cutter.walk([0.3 + 0.02 * step for step in range(480)]) == []  # two percent a second
    assert cutter.rest == pytest.approx(0.3, abs=0.1)
    (begun,) = cutter.walk([9.9 + 0.02 * step for step in range(400)])
    assert begun == (CutMoment.BEGUN, pytest.approx(20, abs=5))
    assert cutter.walk([6.0, 5.1, 8.0, 5.0, 0.3, 5.0]) == [(CutMoment.OVER, 3)]
