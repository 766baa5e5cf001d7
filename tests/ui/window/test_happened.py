"""Something happened to a tool: from the top line, a tag, its sheet; told before it is done, taken back by a key."""

from PyQt6.QtCore import Qt

from reckoner.shop.register.cards import card
from reckoner.shop.runs.records import Step
from reckoner.store.reader import reader_of
from reckoner.store.terms import EventKind
from tests.support.hands import ENTER, WAIT, click, focused, go, opened, press, settle, type_in
from tests.support.runs import tool_id

CTRL = Qt.KeyboardModifier.ControlModifier


def standing(demo, number):
    with demo.session() as session:
        return card(reader_of(session), tool_id(demo, number)).standing


def test_a_fall_is_recorded_in_two_words_and_taken_back_with_a_key(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    before = standing(demo, "HC-0417")
    press(window, Qt.Key.Key_J)
    type_in(window, "0417 fell from the platform")
    line = window.top_line
    qtbot.waitUntil(lambda: line.matches.isVisible() and line.matches.count() == 2, timeout=WAIT)
    assert line.matches.item(0).text() == "Record: HC-0417 fell: from the platform"
    assert "will be held until a check has answered it" in line.matches.item(1).text()
    press(window, ENTER)
    qtbot.waitUntil(lambda: window.foot.words.startswith("Kept: HC-0417 fell, from the platform."), timeout=WAIT)
    assert standing(demo, "HC-0417").held == "from the platform"
    press(window, Qt.Key.Key_Z, CTRL)
    qtbot.waitUntil(lambda: window.foot.words.startswith("Taken back: HC-0417 fell"), timeout=WAIT)
    assert standing(demo, "HC-0417") == before


def test_an_enter_before_the_meaning_was_shown_shows_it_and_does_nothing(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    before = standing(demo, "HC-0417")
    line = window.top_line
    line.setText("0417 fell")  # as a scanner or a paste brings it: nothing was listed yet
    line.setFocus()
    qtbot.keyClick(line, ENTER)
    qtbot.waitUntil(lambda: line.matches.isVisible(), timeout=WAIT)
    assert standing(demo, "HC-0417") == before
    qtbot.keyClick(line, ENTER)
    qtbot.waitUntil(lambda: standing(demo, "HC-0417").held == "fell", timeout=WAIT)


def test_a_phrase_that_lacks_its_reason_says_so(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    press(window, Qt.Key.Key_J)
    type_in(window, "hold 0417")
    qtbot.waitUntil(lambda: window.top_line.matches.isVisible(), timeout=WAIT)
    press(window, ENTER)
    qtbot.waitUntil(lambda: "Type why as well" in window.foot.words, timeout=WAIT)
    assert standing(demo, "HC-0417").held == ""


def test_a_key_on_a_tag_opens_what_can_be_recorded_of_it(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    press(window, Qt.Key.Key_E, CTRL)
    assert window.foot.words.startswith("Choose a tool first")
    today = window.current
    today.lists.setFocus()
    number = today.lists.current.card.tool.number
    press(window, Qt.Key.Key_E, CTRL)
    qtbot.waitUntil(lambda: window.drawer.in_front is not today, timeout=WAIT)
    drawer = window.drawer.in_front
    assert drawer.title.text() == number
    press(window, Qt.Key.Key_Escape)
    assert window.drawer.in_front is today
    go(window, "tools", tool=tool_id(demo, "HC-0417"))
    settle(qtbot, window)
    click(window.current.sheet.happened)
    qtbot.waitUntil(lambda: window.drawer.in_front is drawer and drawer.title.text() == "HC-0417", timeout=WAIT)
    assert not drawer.button.isEnabled()
    assert EventKind.RELEASED.value not in drawer.others.chips
    click(drawer.others.chips[EventKind.HELD.value])
    assert "Say why" in drawer.told.text()
    assert focused(window) is drawer.reason.line
    type_in(window, "handle slack")
    press(window, ENTER)
    qtbot.waitUntil(lambda: standing(demo, "HC-0417").held == "handle slack", timeout=WAIT)
    settle(qtbot, window)
    assert not drawer.isVisible()
    assert "Held: handle slack" in window.current.sheet.status.text()


def test_what_the_look_over_finds_can_end_the_run_and_hold_the_tool(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    bench = opened(qtbot, window, "HC-0417", demo)
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run is not None and bench.run.step is Step.LOOK_OVER, timeout=WAIT)
    panel = bench.panels.look_over
    click(panel._not_fine)
    click(panel.hold)
    assert "Say what is wrong" in panel._reason.hint.text()
    type_in(window, "cracked")
    line = panel._title.text()
    click(panel.hold)
    qtbot.waitUntil(lambda: bench.run is None, timeout=WAIT)
    assert standing(demo, "HC-0417").held == f"{line}: cracked"
