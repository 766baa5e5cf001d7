"""The next twelve months in the window: a week chosen, tools brought forward, a calendar file that is kept current."""

import pytest
from icalendar import Calendar
from PyQt6.QtCore import Qt

from tests.support.hands import WAIT, click, press, settle, type_in

CTRL = Qt.KeyboardModifier.ControlModifier


@pytest.fixture
def year(qtbot, open_window, demo_folder):
    window = open_window(demo_folder)
    today = window.current
    click(today.pages.chips["year"])
    settle(qtbot, window)
    return window, today.year


def test_a_busy_week_is_levelled_with_one_button_and_one_key_takes_it_back(qtbot, year):
    window, page = year
    assert page.sentence.text().startswith("39 tools are due in the next twelve months")
    busy = max(range(53), key=lambda i: page._work.weeks[i].count)
    before = page._work.weeks[busy].count
    page.weeks.setFocus()
    while page.weeks.at < busy:
        press(window, Qt.Key.Key_Right)
    settle(qtbot, window)
    assert page.forward.isVisible()
    assert page.forward.text() == "Bring 1 forward into the week of 30 Aug"
    click(page.forward)
    qtbot.waitUntil(lambda: page._work.weeks[busy].count == before - 1, timeout=WAIT)
    press(window, Qt.Key.Key_Z, CTRL)
    qtbot.waitUntil(lambda: page._work.weeks[busy].count == before, timeout=WAIT)


def test_a_calendar_file_follows_the_register(qtbot, year, tmp_path):
    window, page = year

    def summaries():
        file = tmp_path / "due.ics"
        if not file.exists():
            return []
        return [str(e["summary"]) for e in Calendar.from_ical(file.read_bytes()).walk("VEVENT")]

    page.keep_current(tmp_path / "due.ics")
    qtbot.waitUntil(lambda: "HC-0417 is due to be tested" in summaries(), timeout=WAIT)
    press(window, Qt.Key.Key_J)
    type_in(window, "hold 0417 handle slack")
    qtbot.waitUntil(lambda: window.top_line.matches.isVisible(), timeout=WAIT)
    press(window, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: "HC-0417 is due to be tested" not in summaries(), timeout=WAIT)
    page.save(tmp_path / "no such folder" / "due.ics")
    qtbot.waitUntil(lambda: "could not be written" in window.foot.words, timeout=WAIT)
