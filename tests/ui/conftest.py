"""What the window's tests share."""

import pytest

from reckoner.ui.places import PlaceId
from tests.support.hands import WAIT, go, settle


@pytest.fixture
def at(qtbot, open_window, demo_folder):
    """The bench with a run in front."""

    def stand(run):
        window = open_window(demo_folder)
        go(window, "bench", tool=run.tool.id)
        bench = window.place(PlaceId.BENCH)
        qtbot.waitUntil(lambda: bench.run is not None and bench.run.id == run.id, timeout=WAIT)
        settle(qtbot, window)
        return window, bench

    return stand
