"""The hint that the first releases are high: seldom wrong, however few the readings are."""

import numpy as np
import pytest

from reckoner.core.decision.suspect import first_releases


@pytest.mark.parametrize("count", [4, 5, 10])
@pytest.mark.parametrize("scatter", [0.002, 0.01, 0.02])
def test_an_ordinary_series_gives_a_false_alarm_less_than_once_in_a_hundred(count, scatter):
    rng = np.random.default_rng(1)
    series = 120 * (1 + scatter * rng.standard_normal((2000, count)))
    assert sum(first_releases(readings) is not None for readings in series) <= 20


def test_first_releases_that_are_high_are_seen_and_low_ones_are_no_rest_s_doing():
    rng = np.random.default_rng(2)
    high = np.r_[0.045, 0.02, np.zeros(8)]
    series = 120 * (1 + 0.004 * rng.standard_normal((200, 10)) + high)
    assert sum(first_releases(readings) is not None for readings in series) > 190
    assert first_releases([115.0, 119.1, 119.0, 119.2, 119.1]) is None
