"""The knee of a signal, on rises and falls built from formulas."""

import numpy as np
import pytest

from reckoner.core.trace.knee import hiss, knee

RATE = 1000.0
PEAK = 100.0


def fall(of=0.1, within=0.02, seconds=0.1):
    """A straight fall by ``of`` of the peak ``within`` seconds, then flat."""
    at = np.arange(round(seconds * RATE)) / RATE
    return PEAK * (1 - of * np.minimum(at / within, 1))


@pytest.mark.parametrize("bend", [0.0, 60.0, -60.0])
def test_the_knee_of_a_curved_rise_is_where_the_curve_was_left(bend):
    up = np.arange(-300, 1) / RATE  # the rise's last sample is its knee
    rise = PEAK + 50 * up + bend * up * up
    value, at = knee(np.concatenate([rise, fall()[1:]]), 300, 320, 4, RATE)
    assert value == pytest.approx(PEAK, rel=2e-4)
    assert abs(at - 300) <= 1


def test_the_knee_of_a_rise_too_short_to_fit_is_its_largest_sample():
    assert knee(np.array([90.0, 94.0, 98.0, 99.0, 97.0, 92.0, 90.0]), 3, 6, 1, RATE) == (99.0, 3)


@pytest.mark.parametrize("hertz", [4.0, 8.0, 12.0])
def test_a_trembling_hand_is_followed_over_hundredths_of_a_second_and_a_steady_one_over_tenths(hertz):
    """A line through 0.3 s of tremor misses its end by up to half a percent; a noisy steady rise needs those 0.3 s."""
    up = np.arange(-300, 1) / RATE
    off = []
    for seed in range(30):
        rng = np.random.default_rng(seed)
        shaking = 1 + 0.006 * np.sin(2 * np.pi * hertz * up) * (up < 0)  # trips on its way up
        raw = np.concatenate([(PEAK + 20 * up) * shaking, fall()[1:]]) + rng.normal(0, 0.1, 400)
        off.append(knee(raw, 300, 320, 6, RATE)[0] / PEAK - 1)
    assert abs(np.mean(off)) < 0.001
    assert np.quantile(np.abs(off), 0.95) < 0.0025
    noisy = [
        knee(
            np.concatenate([PEAK + 20 * up, fall()[1:]]) + np.random.default_rng(seed).normal(0, 1, 400),
            300,
            320,
            6,
            RATE,
        )[0]
        for seed in range(60)
    ]
    assert np.std(noisy) < 0.3  # of a hundredth of a second's mean it would be 0.6


def test_hiss_is_what_changes_from_sample_to_sample_and_not_the_tremor():
    at = np.arange(2000) / RATE
    trembling = PEAK + 20 * at + 0.6 * np.sin(2 * np.pi * 12 * at)
    assert hiss(trembling + np.random.default_rng(1).normal(0, 0.2, 2000)) == pytest.approx(0.2, rel=0.1)
    assert hiss(trembling) < 0.001
