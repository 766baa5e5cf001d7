"""Which readings are asked about before they count."""

import pytest

from reckoner.core.decision.suspect import Suspicion, suspects
from reckoner.core.errors import InputRefused

NOT_SET, APART = Suspicion.NOT_SET_AGAIN, Suspicion.STANDS_APART


@pytest.mark.parametrize(
    ("target", "readings", "others", "found"),
    [
        (100, [59.8], [60, 20], [(0, NOT_SET, 60)]),
        (100, [100.1, 59.8, 60.2], [20, 60, 100], [(0, APART, None), (1, NOT_SET, 60), (2, NOT_SET, 60)]),
        (100, [57.6], [60], []),  # 4.17 % off 60: not inside its limit
        (62, [60], [60], []),  # its own point, within three limits
        (100, [59.8], [61, 60], [(0, NOT_SET, 60)]),  # both would do; the nearer is named
        (200, [115, 193, 193.5], [40], [(0, APART, None)]),
        (200, [115, 193], [40], []),  # two do not tell which
        (200, [193, 115, 193.5], [120], [(1, APART, None)]),  # 115 is 4.3 % off 120
        (100, [100, 100, 102.01], [], [(2, APART, None)]),  # half the limit is 2
        (100, [100, 100, 102.0], [], []),
        (100, [100, 101, 99, 100.5, 104.9], [], []),  # six scatters: 6 · 1.4826 · 0.5 = 4.4, from a median of 100.5
        (100, [100, 101, 99, 100.5, 105.0], [], [(4, APART, None)]),
        (100, [60, 60, 60, 100], [60], [(0, NOT_SET, 60), (1, NOT_SET, 60), (2, NOT_SET, 60), (3, APART, None)]),
    ],
)
def test_a_reading_is_asked_about_when_it_lies_elsewhere_or_apart(target, readings, others, found):
    assert [(s.index, s.why, s.of) for s in suspects(target, readings, 0.04, others)] == found


@pytest.mark.parametrize(("target", "readings", "limit"), [(0, [1], 0.04), (100, [1, 2, 3], 0), (100, [0], 0.04)])
def test_what_is_not_above_zero_is_refused(target, readings, limit):
    with pytest.raises(InputRefused):
        suspects(target, readings, limit)
