"""A key counts for what the eye has seen, and finds its way wherever the focus is."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractButton, QApplication

from reckoner.__main__ import opening_of
from reckoner.cli.options import WindowOptions
from reckoner.shop.runs.loading import load
from reckoner.shop.runs.records import Step
from reckoner.ui.app import make_window
from reckoner.ui.places import PlaceId
from reckoner.ui.widgets.buttons import PrimaryButton
from tests.support.hands import (
    ENTER,
    WAIT,
    click,
    focused,
    go,
    look,
    opened,
    press,
    pull,
    settle,
    taken,
    to_first_pull,
    type_in,
)
from tests.support.runs import prepared, tool_id


def strike_key(window, key):
    """A key at once, seen or not."""
    QTest.keyClick(focused(window), key)


def key_at(window, at, written):
    """A key as a display tells it, pressed at ``at`` ms."""
    key = ENTER if written == "\r" else Qt.Key(ord(written))
    event = QKeyEvent(QKeyEvent.Type.KeyPress, key, Qt.KeyboardModifier.NoModifier, written)
    window.keys.pressed_at = lambda _event: at
    QApplication.sendEvent(focused(window), event)


def test_an_enter_that_comes_before_the_proposal_was_painted_accepts_nothing(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    go(window, "tools", tool=tool_id(demo, "HC-0417"))
    settle(qtbot, window)
    look(window)
    window.setUpdatesEnabled(False)  # a display that is slow to paint
    strike_key(window, ENTER)  # puts it on the bench
    bench = window.place(PlaceId.BENCH)
    qtbot.waitUntil(lambda: window.current is bench, timeout=WAIT)
    for _ in range(3):  # a person who does not see anything yet
        strike_key(window, ENTER)
        strike_key(window, Qt.Key.Key_Backspace)
    qtbot.waitUntil(lambda: bench.button.text() == "Put it on the bench", timeout=WAIT)
    strike_key(window, ENTER)  # the proposal stands but was not painted yet
    settle(qtbot, window)
    assert bench.run is None
    window.setUpdatesEnabled(True)
    look(window)
    repeated = QKeyEvent(QKeyEvent.Type.KeyPress, ENTER, Qt.KeyboardModifier.NoModifier, "\r", True, 1)
    QApplication.sendEvent(focused(window), repeated)
    settle(qtbot, window)
    assert bench.run is None
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run is not None, timeout=WAIT)
    assert bench.run.step is Step.LOOK_OVER
    assert sum(line.settled for line in bench.run.inspection) == 0


def test_what_a_key_held_down_repeats_is_not_typed_outside_of_a_field(qtbot, open_window, demo_folder):
    window = open_window(demo_folder)
    go(window, "today")
    settle(qtbot, window)
    look(window)
    for repeats in (True, False):
        key = QKeyEvent(QKeyEvent.Type.KeyPress, Qt.Key.Key_3, Qt.KeyboardModifier.NoModifier, "3", repeats)
        QApplication.sendEvent(focused(window), key)
        assert window.top_line.text() == ("" if repeats else "3")


def test_one_press_answers_one_line_however_quickly_they_come(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    bench = opened(qtbot, window, "HC-0417", demo)
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run is not None, timeout=WAIT)
    look(window)
    strike_key(window, ENTER)
    strike_key(window, ENTER)  # while the first is being committed
    settle(qtbot, window)
    assert sum(line.settled for line in bench.run.inspection) == 1


def by_top_line(qtbot, window, tool):
    press(window, Qt.Key.Key_J)
    type_in(window, "0417")
    press(window, ENTER)
    qtbot.waitUntil(lambda: window.current is window.place(PlaceId.TOOLS), timeout=WAIT)
    settle(qtbot, window)
    press(window, ENTER)


def by_typing(qtbot, window, tool):
    """As a scanner does, with no field in focus."""
    window.current.setFocus()
    type_in(window, "HC-0417")
    assert focused(window) is window.top_line
    press(window, ENTER)
    qtbot.waitUntil(lambda: window.current is window.place(PlaceId.TOOLS), timeout=WAIT)
    settle(qtbot, window)
    press(window, ENTER)


def by_sheet(qtbot, window, tool):
    go(window, "tools", tool=tool)
    settle(qtbot, window)
    qtbot.waitUntil(lambda: window.current.sheet.findChild(PrimaryButton).isEnabled(), timeout=WAIT)
    click(window.current.sheet.findChild(PrimaryButton))


def by_rail(qtbot, window, tool):
    click(window.rail.findChildren(QAbstractButton)[1])


def by_the_last_thing_on_it(qtbot, window, tool):
    """From the reading over the whole screen."""
    go(window, "bench", tool=tool)
    settle(qtbot, window)
    press(window, Qt.Key.Key_F11)
    QTest.keyClick(window.current.far, Qt.Key.Key_F11)
    window.top_line.begin()
    QTest.keyClick(window.top_line, Qt.Key.Key_Escape)


WAYS = (by_top_line, by_typing, by_sheet, by_rail, by_the_last_thing_on_it)


@pytest.mark.parametrize("again", [False, True], ids=["come back", "restarted"])
@pytest.mark.parametrize("way", WAYS)
def test_digits_are_a_reading_by_whatever_way_the_run_came_in_front(
    qtbot, open_window, demo_folder, demo, act, way, again
):
    tool = tool_id(demo, "HC-0417")
    with demo.session() as session:
        prepared(session, tool, act)
    window = open_window(demo_folder)
    if not again or way is by_rail:
        go(window, "bench", tool=tool)
        bench = window.current
        qtbot.waitUntil(lambda: bench.run is not None, timeout=WAIT)
        settle(qtbot, window)
        press(window, Qt.Key.Key_1, Qt.KeyboardModifier.AltModifier)
        settle(qtbot, window)
    way(qtbot, window, tool)
    bench = window.place(PlaceId.BENCH)
    qtbot.waitUntil(lambda: window.current is bench and bench.run is not None, timeout=WAIT)
    settle(qtbot, window)
    look(window)
    type_in(window, "39,8")
    press(window, ENTER)
    settle(qtbot, window)
    assert [o.torque for o in bench.run.series[0].counted] == [39.8]
    bench.setFocus()  # no field has the focus
    type_in(window, "39")
    assert bench.panels.pulls.typed.text == "39"


@pytest.mark.parametrize("where", ["nowhere", "in the field of the reading"])
def test_a_scan_at_the_bench_brings_that_tool_to_it(qtbot, at, demo, act, where):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    window, bench = at(run)
    look(window)
    typed = bench.panels.pulls.typed
    if where != "nowhere":
        typed.setFocus()
    type_in(window, "HC-0341")
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.button.text() == "Put it on the bench", timeout=WAIT)
    settle(qtbot, window)
    assert bench.panels.start.title.text() == "HC-0341 comes to the bench"
    assert (typed.text, window.top_line.text()) == ("", "")
    with demo.session() as session:  # the run that was in front waits as it was
        assert load(session, run.id).series[0].observations == ()


def test_what_is_no_number_and_no_tool_stays_in_the_field_with_its_reason(qtbot, at, demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    window, bench = at(run)
    typed = bench.panels.pulls.typed
    typed.setFocus()
    type_in(window, "39o")
    press(window, ENTER)
    settle(qtbot, window)
    assert (typed.text, bench.run.id, typed.line.property("class")) == ("39o", run.id, "refused")


def test_one_tool_that_is_found_is_offered_for_both_places(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    for place, goal in (("today", PlaceId.BENCH), ("bench", PlaceId.TOOLS)):
        go(window, place)
        settle(qtbot, window)
        look(window)
        type_in(window, "HC-0341")
        matches = window.top_line.matches
        qtbot.waitUntil(lambda matches=matches: matches.isVisible() and matches.count() == 2, timeout=WAIT)
        press(window, Qt.Key.Key_Down)
        press(window, Qt.Key.Key_Down)
        press(window, ENTER)
        qtbot.waitUntil(lambda goal=goal: window.current is window.place(goal), timeout=WAIT)
        settle(qtbot, window)


def test_what_is_typed_while_a_place_is_loaded_is_dropped_whole(qtbot, open_window, demo_folder, demo, act):
    tool = tool_id(demo, "HC-0417")
    with demo.session() as session:
        prepared(session, tool, act)
    window = open_window(demo_folder)
    go(window, "bench", tool=tool)
    bench = window.current
    assert not bench.stands
    key_at(window, 1000, "3")
    qtbot.waitUntil(lambda: bench.run is not None, timeout=WAIT)
    settle(qtbot, window)
    look(window)
    for after, written in enumerate(("9", ".", "8", "\r")):  # the rest of it
        key_at(window, 1100 + 100 * after, written)
    settle(qtbot, window)
    assert (bench.panels.pulls.typed.text, bench.run.series[0].observations) == ("", ())
    for after, written in enumerate(("3", "9", ".", "8")):
        key_at(window, 2100 + 100 * after, written)
    press(window, ENTER)
    settle(qtbot, window)
    assert [o.torque for o in bench.run.series[0].counted] == [39.8]


def test_space_that_comes_before_the_meter_does_is_not_typed(qtbot, open_window, demo_folder, demo, act):
    with demo.session() as session:
        prepared(session, tool_id(demo, "HC-0417"), act)
    window = open_window(demo_folder)
    go(window, "bench", tool=tool_id(demo, "HC-0417"))
    bench = window.current
    qtbot.waitUntil(lambda: bench.run is not None, timeout=WAIT)
    settle(qtbot, window)
    bench.meter.hang_up()
    look(window)
    for _ in range(3):
        press(window, Qt.Key.Key_Space)
    assert bench.panels.pulls.typed.text == ""
    bench.presenter.connect_again()
    qtbot.waitUntil(lambda: bench.meter.linked, timeout=WAIT)
    pull(qtbot, window, bench)


def test_space_pulls_in_the_view_over_the_whole_screen(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    bench = opened(qtbot, window, "HC-0417", demo)
    to_first_pull(qtbot, window, bench)
    press(window, Qt.Key.Key_F11)
    qtbot.waitUntil(bench.far.isVisible, timeout=WAIT)
    look(window)
    QTest.keyPress(bench.far, Qt.Key.Key_Space)
    assert bench.meter.pulling
    qtbot.waitUntil(lambda: "Let go" in bench.far.words()[2], timeout=WAIT)
    QTest.keyRelease(bench.far, Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: taken(bench.run) == 1 and not bench.meter.pulling, timeout=WAIT)
    assert "Let go" not in bench.far.words()[2]
    QTest.keyClick(bench.far, Qt.Key.Key_F11)
    assert not bench.far.isVisible()


def test_a_number_typed_before_the_register_is_open_is_found_once_it_is(qtbot, theme, demo_folder, tmp_path):
    options = WindowOptions(demo_folder, True, None, False, tmp_path / "station.json")
    for typed, lands in (("0417", PlaceId.TOOLS), ("HC-0998", PlaceId.BENCH)):
        window = make_window(opening_of(options, lambda reference, link: ""), theme)
        window.frame.show()
        window.top_line.begin()
        QTest.keyClicks(window.top_line, typed)
        QTest.keyClick(window.top_line, ENTER)
        window.around.work.start()
        qtbot.waitUntil(lambda window=window: window.who.known, timeout=WAIT)
        qtbot.waitUntil(lambda window=window, lands=lands: window.current is window.place(lands), timeout=WAIT)
        settle(qtbot, window)
        assert "choose who" not in window.foot.words.lower()
        if lands is PlaceId.TOOLS:
            qtbot.waitUntil(lambda window=window: window.current.sheet.number.text() == "HC-0417", timeout=WAIT)
        else:
            assert window.current.panels.new_tool.title.text().startswith("HC-0998 is not in the register")
        window.frame.close()
        window.frame.deleteLater()


def test_a_notice_at_the_foot_stays_on_the_screen_and_the_primary_button_too(
    qtbot, open_window, demo_folder, demo, act
):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    window = open_window(demo_folder)
    window.frame.resize(1024, 700)
    for place, what in (("bench", {"run": run.id}), ("tools", {}), ("today", {})):
        go(window, place, **what)
        settle(qtbot, window)
        window.say("Something that takes its line at the foot, such as why it could not be done. " * 2)
        qtbot.wait(30)
        assert window.frame.height() == 700
        low = window.foot.mapTo(window, window.foot.rect().bottomLeft()).y()
        assert low <= 700
        button = getattr(window.current, "button", None)
        if button is not None and button.isVisible():

            def stands_above(button=button):
                lower = button.mapTo(window, button.rect().bottomLeft()).y()
                return lower <= window.foot.mapTo(window, window.foot.rect().topLeft()).y()

            qtbot.waitUntil(stands_above, timeout=WAIT)


def test_the_window_comes_back_in_its_size_and_its_light(qtbot, open_window, demo_folder):
    window = open_window(demo_folder)
    window.frame.resize(1400, 900)
    press(window, Qt.Key.Key_D, Qt.KeyboardModifier.ControlModifier)
    window.frame.close()
    again = open_window(demo_folder)
    assert (again.frame.width(), again.frame.height()) == (1400, 900)
    assert again.around.theme.dark
    again.around.theme.set_dark(False)


def test_a_place_that_there_is_not_types_nothing(qtbot, open_window, demo_folder):
    window = open_window(demo_folder)
    go(window, "setting")
    settle(qtbot, window)
    field = focused(window)
    type_in(window, "4")
    QTest.keyClick(field, Qt.Key.Key_7, Qt.KeyboardModifier.AltModifier)
    QTest.keyClick(field, Qt.Key.Key_6, Qt.KeyboardModifier.AltModifier)
    assert field.text() == "4"
    qtbot.waitUntil(lambda: window.current is window.place(PlaceId.DESK), timeout=WAIT)
