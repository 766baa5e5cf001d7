"""A key counts for what the eye has seen, and finds its way wherever the focus is."""

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from reckoner.__main__ import opening_of
from reckoner.cli.options import WindowOptions
from reckoner.shop.runs.steps import Step
from reckoner.ui.app import make_window
from reckoner.ui.places import PlaceId
from tests.support.hands import ENTER, WAIT, focused, go, look, opened, press, settle, taken, to_first_pull
from tests.support.runs import prepared, tool_id


def strike_key(window, key):
    """A key at once, seen or not."""
    QTest.keyClick(focused(window), key)


def test_an_enter_that_comes_before_the_proposal_was_painted_accepts_nothing(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    go(window, "tools", tool=tool_id(demo, "HC-0417"))
    settle(qtbot, window)
    look(window)
    window.setUpdatesEnabled(False)  # a display that is slow to paint
    strike_key(window, ENTER)  # puts it on the bench
    bench = window.current
    assert bench is window.place(PlaceId.BENCH)
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
            assert (
                button.mapTo(window, button.rect().bottomLeft()).y()
                <= window.foot.mapTo(window, window.foot.rect().topLeft()).y()
            )


def test_the_window_comes_back_in_its_size_and_its_light(qtbot, open_window, demo_folder):
    window = open_window(demo_folder)
    window.frame.resize(1400, 900)
    press(window, Qt.Key.Key_D, Qt.KeyboardModifier.ControlModifier)
    window.frame.close()
    again = open_window(demo_folder)
    assert (again.frame.width(), again.frame.height()) == (1400, 900)
    assert again.around.theme.dark
    again.around.theme.set_dark(False)
