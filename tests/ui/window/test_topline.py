"""The top line finds whatever has a name, does errands, asks about slips of the keys."""

import pytest
from PyQt6.QtCore import Qt

from reckoner.shop.register.elsewhere import probably_meant
from reckoner.store.schema import Tool
from reckoner.store.terms import RunKind
from reckoner.ui.places import PlaceId
from tests.support.hands import ENTER, WAIT, click, go, look, press, settle, type_in
from tests.support.runs import tool_id

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
    with demo.reading() as reader:
        assert probably_meant(reader, "xqzw") == ""  # unlike anything: nobody is asked about it
    line.setText("")
    type_in(window, "700 N.m")
    qtbot.waitUntil(lambda: line.matches.isVisible() and line.matches.count() < 8, timeout=WAIT)
    found = [line.matches.item(i).text() for i in range(line.matches.count())]
    with demo.session() as session:
        able = {t.number for t in session.query(Tool) if (t.model.minimum or t.model.maximum) <= 700 <= t.model.maximum}
    assert {words.split()[0] for words in found if "N·m" in words} == able


def test_a_weight_on_a_lever_is_answered_at_once_and_begun_with(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    line = window.top_line
    press(window, Qt.Key.Key_J)
    type_in(window, "20 lb at 12 in")
    qtbot.waitUntil(lambda: line.matches.isVisible() and "lbf·ft" in line.matches.item(0).text(), timeout=WAIT)
    press(window, ENTER)
    setting = window.place(PlaceId.SETTING)
    qtbot.waitUntil(lambda: window.current is setting, timeout=WAIT)
    settle(qtbot, window)
    assert setting.sheet.asked.torque.text.endswith("N·m")
    setting.sheet.converting.typed.line.setText("10 kg at 20 cm")
    assert setting.sheet.converting.told.text().startswith("10\u202fkg at 20\u202fcm: 19.613\u202fN·m")
    go(window, "tools", tool=tool_id(demo, "HC-0125"))  # the register knows its lever and its own weight
    qtbot.waitUntil(lambda: window.current.sheet.number.text() == "HC-0125", timeout=WAIT)
    settle(qtbot, window)
    look(window)
    line.begin()
    type_in(window, "5 kg")
    qtbot.waitUntil(lambda: line.matches.isVisible() and "on HC-0125" in line.matches.item(0).text(), timeout=WAIT)
    press(window, ENTER)
    bench = window.place(PlaceId.BENCH)
    qtbot.waitUntil(lambda: window.current is bench and bench.button.text() == "Put it on the bench", timeout=WAIT)
    settle(qtbot, window)
    form = bench.panels.start.form
    assert form.proposal.plan.kind is RunKind.CHECK
    assert (form.points.text, form.proposal.plan.points) == ("12.25 N·m", (12.25,))
    go(window, "today")
    settle(qtbot, window)
    look(window)
    line.begin()
    type_in(window, "0 kg at 12 in")
    press(window, ENTER)
    settle(qtbot, window)
    assert window.foot.words.startswith("0\u202fkg at 12\u202fin: ")
