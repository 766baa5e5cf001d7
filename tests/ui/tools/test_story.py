"""What happened to a tool, on its sheet: as many widgets for ten lines as for a thousand, read on as it is looked through,
and opened with the mouse and with the keyboard."""

import importlib.util
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QWidget

from reckoner.ui.places import PlaceId
from tests.support.hands import ENTER, WAIT, click, go, press, settle
from tests.support.runs import tool_id

MADE = Path(__file__).parents[3] / "tools" / "long_history.py"
RUNS, EVENTS = 120, 900


@pytest.fixture(scope="module")
def lengthen():
    spec = importlib.util.spec_from_file_location("long_history", MADE)
    made = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(made)
    return made.lengthen


def shown(qtbot, window, demo, number):
    go(window, "tools", tool=tool_id(demo, number))
    sheet = window.current.sheet
    qtbot.waitUntil(lambda: sheet.number.text() == number, timeout=WAIT)
    settle(qtbot, window)
    return sheet


def test_tab_goes_through_the_sheet_as_it_is_read(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    sheet = shown(qtbot, window, demo, "HC-0422")
    sheet.happened.setFocus(Qt.FocusReason.TabFocusReason)
    for widget in (*sheet.fences.values(), sheet.story):
        press(window, Qt.Key.Key_Tab)
        assert widget.hasFocus()
    assert story_line(sheet) is not None


def story_line(sheet):
    return sheet.story.currentIndex().data(Qt.ItemDataRole.UserRole)


def test_a_long_history_makes_no_more_widgets_and_is_read_on_to_its_beginning(
    qtbot, open_window, demo_folder, demo, lengthen
):
    window = open_window(demo_folder)
    before = len(shown(qtbot, window, demo, "HC-0422").findChildren(QWidget))
    short = len(window.current.sheet.story.story.lines)
    lengthen(demo_folder, "HC-0422", RUNS, EVENTS)
    shown(qtbot, window, demo, "HC-0417")
    sheet = shown(qtbot, window, demo, "HC-0422")
    assert len(sheet.findChildren(QWidget)) == before
    story, bar = sheet.story.story, sheet._results.verticalScrollBar()
    assert 0 < len(story.lines) < RUNS

    def scrolled():
        bar.setValue(bar.maximum())
        return len(story.lines) >= RUNS + EVENTS + short

    qtbot.waitUntil(scrolled, timeout=WAIT)
    settle(qtbot, window)
    assert [one.sequence for one in story.lines] == sorted({one.sequence for one in story.lines}, reverse=True)
    bar.setValue(bar.maximum())
    settle(qtbot, window)
    assert len(story.lines) == RUNS + EVENTS + short


def test_a_story_shown_again_keeps_its_line_and_its_place_and_is_paged_by_ten(
    qtbot, open_window, demo_folder, demo, lengthen
):
    window = open_window(demo_folder)
    lengthen(demo_folder, "HC-0422", RUNS, EVENTS)
    sheet = shown(qtbot, window, demo, "HC-0422")
    sheet.story.setFocus(Qt.FocusReason.TabFocusReason)
    for key, row in ((Qt.Key.Key_PageDown, 10), (Qt.Key.Key_PageDown, 20), (Qt.Key.Key_PageUp, 10)):
        press(window, key)
        assert sheet.story.currentIndex().row() == row
    chosen, bar = story_line(sheet), sheet._results.verticalScrollBar()
    bar.setValue(0)
    lengthen(demo_folder, "HC-0422", 0, 1)
    window.current.refresh()
    qtbot.waitUntil(lambda: sheet.story.currentIndex().row() == 11, timeout=WAIT)
    assert story_line(sheet).sequence == chosen.sequence
    assert bar.value() == 0


@pytest.mark.parametrize("by_key", [True, False])
def test_a_run_of_the_story_is_opened_and_another_line_is_not(qtbot, open_window, demo_folder, demo, by_key):
    window = open_window(demo_folder)
    sheet = shown(qtbot, window, demo, "HC-0422")
    story = sheet.story
    events = [row for row, line in enumerate(story.story.lines) if line.run_id is None]
    runs = [row for row, line in enumerate(story.story.lines) if line.run_id is not None]
    assert events
    assert len(runs) == 4

    def choose(row):
        where = story.visualRect(story.story.index(row)).center()
        if not by_key:
            sheet._results.ensureVisible(0, story.y() + where.y(), 0, 40)
            click(story.viewport(), where)
            return
        for _ in range(30):
            if story.hasFocus():
                break
            press(window, Qt.Key.Key_Tab)
        while story.currentIndex().row() != row:
            press(window, Qt.Key.Key_Down if story.currentIndex().row() < row else Qt.Key.Key_Up)
        assert sheet._results.widget().visibleRegion().contains(story.mapTo(sheet._results.widget(), where))
        press(window, ENTER)

    choose(events[-1])
    settle(qtbot, window)
    assert window.current is window.place(PlaceId("tools"))
    choose(runs[-1])
    bench = window.place(PlaceId("bench"))
    qtbot.waitUntil(lambda: bench.run is not None and bench.run.signed, timeout=WAIT)
    assert bench.run.id == story.story.lines[runs[-1]].run_id
