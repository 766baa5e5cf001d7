"""A clock that has gone back is said once, and nothing is blocked by it."""

from datetime import UTC, date, datetime, timedelta

import pytest

from reckoner.__main__ import opening_of
from reckoner.cli.options import WindowOptions
from reckoner.shop.records import checking
from reckoner.ui.app import make_window
from reckoner.ui.window.watching import ClockWatch
from tests.support.clock import here, in_zone
from tests.support.hands import WAIT, settle
from tests.support.runs import prepared, tool_id

NOON = here(2026, 11, 24, 12)


@pytest.mark.parametrize(
    ("minutes", "times"),
    [((0, 5, 60), 0), ((60, 59), 0), ((60, 0, 1, 2), 1), ((60, 0, 30, 0), 2), ((60, 58, 57, 58), 1)],
)
def test_each_going_back_is_said_once(minutes, times):
    said, moments = [], iter(NOON + timedelta(minutes=m) for m in minutes)
    clock = ClockWatch(lambda: next(moments), said.append)
    for _ in minutes:
        clock()
    assert len(said) == times


@pytest.mark.parametrize(("day", "words"), [(date(2026, 11, 1), "The clock has gone back"), (date(2026, 12, 24), "")])
def test_a_window_whose_clock_is_behind_the_newest_record_says_so(
    qtbot, theme, demo_folder, demo, act, tmp_path, day, words
):
    with demo.session() as session:
        prepared(session, tool_id(demo, "HC-0417"), act)
    options = WindowOptions(demo_folder, demo=True, today=day, dark=False, station=tmp_path / "station.json")
    window = make_window(opening_of(options, lambda reference, link: ""), theme)
    window.frame.show()
    window.around.work.start()
    qtbot.waitUntil(lambda: window.around.person is not None, timeout=WAIT)
    settle(qtbot, window)
    assert window.foot.words[:23] == words
    window.frame.close()
    window.frame.deleteLater()


def test_readings_stay_in_their_order_over_the_hour_that_comes_twice_and_over_a_clock_that_jumps(qtbot, at, demo, act):
    """The night in which summer time ends, and a clock that is put right by days, in the middle of a series."""
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    window, bench = at(run)
    twice = datetime(2026, 10, 25, 0, 30, tzinfo=UTC)  # 2:30, and an hour later 2:30 again
    moments = [twice, twice + timedelta(hours=1), twice + timedelta(days=400), twice + timedelta(days=30)]
    values = [40.1, 40.3, 39.9, 40.2]
    for moment, value in zip(moments, values, strict=True):
        window.around.now._now = lambda moment=moment: in_zone(moment)
        bench.presenter.taker.valued(value)
        settle(qtbot, window)
    assert [round(seen.torque, 1) for seen in bench.run.series[0].counted] == values
    assert "gone back" in window.foot.words
    with demo.session() as session:
        assert [f for f in checking.walk(session) if isinstance(f, checking.CheckFinding)] == []
