"""The knee of a signal and the shape of a fall, on falls built from formulas."""

import numpy as np
import pytest

from reckoner.core.pullshape import Fall, knee, shape_of_fall

RATE = 1000.0


def fall(*, of=0.1, within=0.02, then=0.0, seconds=0.1, peak=100.0):
    """A straight fall by ``of`` of the peak ``within`` seconds, and the slope afterwards as a fraction a second."""
    at = np.arange(round(seconds * RATE)) / RATE
    return peak * (1 - of * np.minimum(at / within, 1) + then * np.maximum(0, at - within))


@pytest.mark.parametrize("bend", [0.0, 60.0, -60.0])
def test_the_knee_of_a_curved_rise_is_where_the_curve_was_left(bend):
    up = np.arange(-300, 1) / RATE  # the rise's last sample is its knee
    rise = 100 + 50 * up + bend * up * up
    raw = np.concatenate([rise, fall()[1:]])
    value, at, noise = knee(raw, 300, 320, 4, RATE)
    assert value == pytest.approx(100, rel=2e-4)
    assert abs(at - 300) <= 1
    assert noise == pytest.approx(0, abs=1e-3)


def test_a_tool_bears_again_and_a_hand_does_not():
    assert shape_of_fall(fall(), RATE, 1.0) is Fall.SIGNAL
    assert shape_of_fall(fall(of=1.0, within=0.3, seconds=0.3), RATE, 1.0) is Fall.LET_GO
    assert shape_of_fall(fall(of=0.05, within=0.2), RATE, 1.0) is Fall.OPEN


def test_noise_on_a_slow_fall_is_no_shoulder():
    """What slows a fall by less than its own noise tells nothing; the same fall without noise does."""
    slowed = np.concatenate([fall(of=0.04, within=0.03, seconds=0.03), 96 - 0.5 * np.arange(1, 40) / 40])
    assert shape_of_fall(slowed, RATE, 1.0, 0.0) is Fall.SIGNAL
    assert shape_of_fall(slowed, RATE, 1.0, 1.0) is Fall.OPEN


@pytest.mark.parametrize(("of", "expected"), [(0.45, Fall.SIGNAL), (0.55, Fall.LET_GO)])
def test_a_slow_fall_is_a_signal_when_the_tool_bears_above_half_of_the_peak(of, expected):
    assert shape_of_fall(fall(of=of, within=0.2, seconds=0.4), RATE, 1.0) is expected


def test_the_knee_of_a_rise_too_short_to_fit_is_its_largest_sample():
    raw = np.array([90.0, 94.0, 98.0, 99.0, 97.0, 92.0, 90.0])
    assert knee(raw, 3, 6, 1, RATE) == (99.0, 3, 0.0)
