"""A simulated tool under weights answers by its truth."""

import numpy as np
import pytest

from reckoner.meters.wrench import SimulatedTries, Truth


def test_it_clicks_from_where_it_trips_and_shows_what_it_is_off():
    tools = {"W": Truth(gain=1.02, offset=0.5, scatter=0.0, first_high=0.0, bent=1.0)}
    tries = SimulatedTries(lambda: tools, np.random.default_rng(1))
    assert tries.knows("W")
    assert not tries.knows("X")
    trip = 1.02 * 50 + 0.5
    assert [tries.clicks("W", 50.0, trip + d) for d in (-0.01, 0.01)] == [False, True]
    assert tries.shows("W", trip, 0.0) == pytest.approx(51.0)
    assert tries.shows("W", trip, 2.0) == 52.0


def test_it_scatters_as_it_is_said_to():
    tries = SimulatedTries(lambda: {"W": Truth(scatter=0.01, first_high=0.0)}, np.random.default_rng(2))
    assert 0.4 < np.mean([tries.clicks("W", 50.0, 50.0) for _ in range(400)]) < 0.6
    assert np.mean([tries.clicks("W", 50.0, 51.5) for _ in range(400)]) > 0.99
