"""The top line finds whatever has a name, does errands, asks about slips of the keys."""

import pytest
from PyQt6.QtCore import Qt

from reckoner.store.schema import Tool
from reckoner.ui.places import PlaceId
from tests.support.hands import ENTER, WAIT, click, press, settle, type_in

FOUND = {
    "PM-5": ("PM-5   meter", PlaceId.REFERENCES),
    "JC-2": ("JC-2   job card", PlaceId.SETTING),
    "kestrow": ("R. K.   works here", PlaceId.TOOLS),
    "backup": ("Backups", PlaceId.RECORDS),
    "test 0417": ("Put HC-0417 on the bench", PlaceId.BENCH),
    "print label 0417": ("The label of HC-0417", PlaceId.RECORDS),
    "sheet 0417": ("The sheet of HC-0417", PlaceId.TOOLS),
}


@pytest.mark.parametrize("typed", list(FOUND))
def test_the_top_line_finds_whatever_has_a_name_and_does_errands(qtbot, open_window, demo_folder, typed):
    window = open_window(demo_folder)
    words, place = FOUND[typed]
    line = window.top_line
    press(window, Qt.Key.Key_J)
    type_in(window, typed)
    qtbot.waitUntil(lambda: line.matches.isVisible(), timeout=WAIT)
    shown = [line.matches.item(i).text() for i in range(line.matches.count())]
    at = next(i for i, one in enumerate(shown) if one.startswith(words))
    while line.matches.currentRow() < at:
        press(window, Qt.Key.Key_Down)
    press(window, ENTER)
    qtbot.waitUntil(lambda: window.current is window.place(place), timeout=WAIT)
    settle(qtbot, window)


def test_a_slip_of_the_keys_is_asked_about_and_a_torque_finds_what_can_be_set_to_it(
    qtbot, open_window, demo_folder, demo
):
    window = open_window(demo_folder)
    line = window.top_line
    press(window, Qt.Key.Key_J)
    type_in(window, "Skerivane")
    qtbot.waitUntil(lambda: line.matches.isVisible(), timeout=WAIT)
    assert [line.matches.item(0).text(), line.matches.count()] == ["Did you mean “Skerrivane”?", 1]
    click(line.matches.viewport(), line.matches.visualItemRect(line.matches.item(0)).center())
    qtbot.waitUntil(lambda: line.matches.count() > 1, timeout=WAIT)
    assert line.text() == "Skerrivane"
    line.setText("")
    type_in(window, "700 N.m")
    qtbot.waitUntil(lambda: line.matches.isVisible() and line.matches.count() < 8, timeout=WAIT)
    found = [line.matches.item(i).text() for i in range(line.matches.count())]
    with demo.session() as session:
        able = {t.number for t in session.query(Tool) if (t.model.minimum or t.model.maximum) <= 700 <= t.model.maximum}
    assert {words.split()[0] for words in found if "N·m" in words} == able
