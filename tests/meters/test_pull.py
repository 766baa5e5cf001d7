"""One pull from samples to a reading, without a window: the mode, the id that travels, the rest before."""

import numpy as np
import pytest

from reckoner.core.requirements.tooltypes import Direction, Mechanism, MeterMode
from reckoner.core.trace.event import Fault
from reckoner.core.trace.stream import PullOver, StreamSignal
from reckoner.meters.pull import Pull, PullAim, Signalled, Watch, still
from tests.support.traces import PEAK, click

RATE = 1000


def fed(watch, samples, block=20):
    return [news for start in range(0, len(samples), block) for news in watch.feed(samples[start : start + block])]


def held(level=PEAK, rate=RATE):
    """Brought to a mark, held there for a second, eased off."""
    up, stay, down = np.linspace(0, level, rate), np.full(rate, level), np.linspace(level, 0, rate // 2)
    rest = np.zeros(rate)
    return np.concatenate([rest, up, stay, down, rest]) + np.random.default_rng(1).normal(0, 0.02, 4 * rate + rate // 2)


@pytest.mark.parametrize(
    ("mode", "mechanism", "samples", "expected", "announced"),
    [
        (MeterMode.FIRST_PEAK, Mechanism.CLICK, click(RATE, noise=0.001)[1], PEAK, True),
        (MeterMode.PEAK, Mechanism.ELECTRONIC, click(RATE, noise=0.001)[1], PEAK * 1.0499, False),
        (MeterMode.HOLD, Mechanism.DIAL, held(), PEAK, False),
    ],
)
def test_the_mode_decides_what_of_a_pull_is_the_reading(mode, mechanism, samples, expected, announced):
    found = fed(Watch(PullAim(120.0, mode, mechanism), RATE, signed=True), -samples)
    pull = found[-1]
    assert isinstance(pull, Pull)
    assert pull.readings == pytest.approx((expected,), rel=0.002)
    assert pull.turned is Direction.CCW
    assert [isinstance(f, Signalled) for f in found] == ([True, False] if announced else [False])
    if announced:
        assert pull.announced == (found[0].torque,) == pytest.approx(pull.readings, rel=0.002)
        assert (found[0].id, found[0].turned) == (pull.id, Direction.CCW)
        assert 0 < found[0].ago < 0.2


def test_each_pull_has_an_id_of_its_own_and_its_own_trace():
    watch = Watch(PullAim(120.0), RATE, signed=False)
    one = click(RATE)[1]
    found = [f for f in fed(watch, np.concatenate([one, one * 0.5, one])) if isinstance(f, Pull)]
    assert len({pull.id for pull in found}) == 3
    assert [pull.samples.max() for pull in found] == pytest.approx([1.05 * PEAK, 0.525 * PEAK, 1.05 * PEAK], rel=0.01)
    assert found[0].turned is None


def test_a_meter_that_still_comes_back_from_the_pull_before_does_not_rest():
    quiet = np.random.default_rng(2).normal(0, 0.02, 600)
    creeping = quiet + 1.5 * np.exp(-np.arange(600) / 300)
    assert still(quiet, 0.05)
    assert not still(creeping, 0.05)
    assert not still(quiet[:1], 0.05)
    for before, rests in ((quiet, True), (creeping, False)):
        pull = fed(
            Watch(PullAim(120.0), RATE, signed=False),
            np.concatenate([before, click(RATE, rest=0.01)[1], np.zeros(500)]),
        )[-1]
        assert (pull.rest_before is not None) is rests


def test_a_touch_gives_no_reading_and_a_target_changes_between_pulls_only():
    watch = Watch(PullAim(120.0), RATE, signed=False)
    touch = np.concatenate([np.zeros(500), 50 * np.sin(np.linspace(0, np.pi, 800)), np.zeros(500)])
    (pull,) = fed(watch, touch)
    assert (pull.readings, Fault.NO_SIGNAL in pull.faults) == ((), True)
    fed(watch, click(RATE)[1][:1500])
    assert not watch.idle
    fed(watch, click(RATE)[1][1500:])
    assert watch.idle
    watch.aim(PullAim(12.0))
    assert [f.readings for f in fed(watch, click(RATE)[1] / 10) if isinstance(f, Pull)] == [
        pytest.approx((PEAK / 10,), rel=0.002)
    ]


def test_what_is_kept_is_what_the_whole_trace_says_whatever_was_told_before(caplog):
    """A fall through to nothing on a stiff meter: told as a signal while it went on, and let go after all."""
    watch = Watch(PullAim(120.0), RATE, signed=False)
    watch._watch._signals = []
    one = click(RATE)[1]
    found = fed(watch, one)
    assert isinstance(found[0], Signalled)
    wrong = StreamSignal(found[0].torque * 1.01, 2.5)
    told = watch._over(PullOver(found[1].events, (wrong,), found[1].samples, 1.0))
    assert told.readings == found[1].readings
    assert told.announced == (wrong.torque,)


@pytest.mark.parametrize("dip", [0.04, 0.08, 0.15])
@pytest.mark.parametrize("rise", [1.0, 2.0, 3.5])
def test_the_live_watch_and_the_whole_trace_find_the_same_signal(dip, rise):
    """What is announced while it is pulled is what the analysis of the whole trace finds."""
    for seed in range(5):
        times, torque = click(RATE, rise=rise, dip=dip, noise=0.001, seed=seed)
        announced, pull = fed(Watch(PullAim(120.0), RATE, signed=False), torque)
        assert announced.torque == pytest.approx(pull.event.first_peak, rel=0.002)
        assert len(times) == len(torque)
