"""The first peak in a stream: found once, whatever the rate, the noise and how the samples are cut into blocks."""

import numpy as np
import pytest

from reckoner.core.errors import InputRefused
from reckoner.core.stream import FirstPeakWatch, PullEnded, Signal


def click(rate, peak=118.0, noise=0.0, drift=0.0, seed=1):
    """A pull that rises in 1.5 s to a click at ``peak``, dips 9 %, travels 5 % over, and is let go."""
    rest, rise, over, fall = (np.arange(round(s * rate)) / rate for s in (0.5, 1.5, 0.4, 0.2))
    after = (
        1
        - 0.09 * np.minimum(over / 0.018, 1) * np.exp(-np.maximum(0, over - 0.018) / 0.05)
        + 0.05 * (over > 0.1) * (1 - np.exp(-np.maximum(0, over - 0.1) / 0.05))
    )
    torque = np.concatenate([rest * 0, peak * rise / 1.5, peak * after, peak * 1.05 * (1 - fall / 0.2) ** 2, rest * 0])
    torque += drift * np.arange(len(torque)) / rate
    return torque + np.random.default_rng(seed).normal(0, noise * peak, len(torque))


def watched(samples, rate, block=50, target=120.0):
    watch = FirstPeakWatch(target, rate)
    found = []
    for start in range(0, len(samples), block):
        found += watch.feed(samples[start : start + block])
    return found


@pytest.mark.parametrize("rate", [500, 1000, 2000, 5000])
@pytest.mark.parametrize("noise", [0.0, 0.002])
def test_the_first_peak_and_not_the_over_travel_is_taken(rate, noise):
    found = watched(click(rate, noise=noise), rate)
    assert [type(f) for f in found] == [Signal, PullEnded]
    assert found[0].first_peak == pytest.approx(118, rel=0.004)
    assert found[0].at == pytest.approx(2.0, abs=0.02)
    assert found[0].time_80_to_100 == pytest.approx(0.3, abs=0.02)
    assert found[1].over_travel == pytest.approx(0.05, abs=0.012)


@pytest.mark.parametrize("block", [1, 7, 333, 10_000])
def test_how_the_stream_is_cut_does_not_matter(block):
    samples = click(1000, noise=0.001)
    assert watched(samples, 1000, block)[0].first_peak == pytest.approx(watched(samples, 1000)[0].first_peak, rel=1e-4)


def test_counter_clockwise_counts_by_magnitude_and_a_drifting_zero_is_no_pull():
    assert watched(-click(1000), 1000)[0].first_peak == pytest.approx(118, rel=0.004)
    assert watched(np.linspace(0, 5, 20_000), 1000) == []
    assert watched(click(1000, drift=0.05), 1000)[0].first_peak == pytest.approx(118, rel=0.004)


def test_each_of_several_pulls_is_found_once():
    samples = np.concatenate([click(1000, peak, seed=i) for i, peak in enumerate((117.0, 119.0, 118.0))])
    signals = [f.first_peak for f in watched(samples, 1000) if isinstance(f, Signal)]
    assert signals == pytest.approx([117, 119, 118], rel=0.004)


def test_a_touch_below_the_threshold_is_nothing_and_nonsense_is_refused():
    assert watched(click(1000, peak=10), 1000) == []
    assert FirstPeakWatch(120, 1000).feed(np.empty(0)) == []
    for target, rate in ((0, 1000), (120, 0), (float("nan"), 1000)):
        with pytest.raises(InputRefused):
            FirstPeakWatch(target, rate)
