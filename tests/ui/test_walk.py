"""Every page of every place, walked with keys: where Tab goes, what Enter does to the focus, and what a message moves."""

from itertools import pairwise

import pytest
from PyQt6.QtCore import QPoint, QRect, Qt
from PyQt6.QtPrintSupport import QPrintDialog
from PyQt6.QtWidgets import QAbstractButton, QAbstractSpinBox, QApplication, QFileDialog, QLabel, QLineEdit, QPushButton

from reckoner.shop.register import registerfile
from reckoner.shop.register.intake import take_in
from reckoner.store.database import Database
from reckoner.ui.places import PlaceId
from reckoner.ui.shelves import ShelvedPlace
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.window.reporting import ReportPanel
from tests.support.clock import NOW
from tests.support.hands import ENTER, WAIT, click, focused, go, press, settle, type_in
from tests.support.runs import REGISTER, tool_id


@pytest.fixture
def window(open_window, demo_folder, monkeypatch):
    """The window on the demo, in which every dialog is called off."""
    for asked in ("getOpenFileName", "getSaveFileName"):
        monkeypatch.setattr(QFileDialog, asked, lambda *_told, **_more: ("", ""))
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *_told, **_more: "")
    monkeypatch.setattr(QPrintDialog, "exec", lambda _self: 0)
    window = open_window(demo_folder)
    window.frame.resize(1280, 800)
    return window


def heads(window):
    """The chips that turn the place's pages."""
    place = window.current
    if isinstance(place, ShelvedPlace):
        return place.heads
    return next((chips for chips in place.findChildren(Chips) if chips.isVisible()), None)


def turn(qtbot, window, place, page):
    """A page as it is come to."""
    go(window, place)
    settle(qtbot, window)
    if page:
        click(heads(window).chips[page])
        settle(qtbot, window)


def pages(qtbot, window, place):
    turn(qtbot, window, place, "")
    chips = heads(window) if PlaceId(place) in TURNED else None
    return list(chips.chips) if chips is not None else [""]


TURNED = (PlaceId.TOOLS, PlaceId.REFERENCES, PlaceId.SETTING, PlaceId.DESK, PlaceId.RECORDS)


def around_the_page(window):
    """What Tab stops at, until it has come round, with where each stood when it had the focus."""
    found = []
    while True:
        press(window, Qt.Key.Key_Tab)
        stop = focused(window)
        if any(stop is other for other, _seen in found):
            return found
        found.append((stop, not stop.visibleRegion().isEmpty()))


def framing(window, stop):
    """It belongs to the window and not to the place."""
    return not window.current.isAncestorOf(stop)


def on_rail(window, widget):
    return widget is not None and window.rail.isAncestorOf(widget)


@pytest.mark.parametrize("place", list(PlaceId))
def test_tab_goes_through_every_page_as_it_is_read(qtbot, window, place):
    for page in pages(qtbot, window, place):
        turn(qtbot, window, place, page)
        assert not on_rail(window, QApplication.focusWidget())
        stops = around_the_page(window)
        inside = [stop for stop, _seen in stops if not framing(window, stop)]
        assert [stop for stop, seen in stops if not seen] == []
        assert not any(isinstance(stop, QAbstractSpinBox) for stop in inside)
        typed = [w for w in window.current.findChildren(QLineEdit) if w.isVisible() and w.isEnabled()]
        assert [one.accessibleName() for one in typed if one not in inside] == []
        for one, other in pairwise(inside):  # within what they lie in together, never back up
            if one.parentWidget() is other.parentWidget():
                assert other.geometry().bottom() >= one.geometry().top() or stops[0][0] is other, (page, one, other)


@pytest.mark.parametrize("place", list(PlaceId))
def test_enter_wherever_the_focus_is_leaves_it_in_the_page(qtbot, window, place):
    for n, page in enumerate(pages(qtbot, window, place)):
        turn(qtbot, window, place, page)
        for at in range(n % 2, len(around_the_page(window)) + 1, 2):  # every other one: each is its own visit
            turn(qtbot, window, place, page)
            for _ in range(at):
                press(window, Qt.Key.Key_Tab)
            stop = focused(window)
            if framing(window, stop) and stop is not window.frame:
                continue
            press(window, ENTER)
            settle(qtbot, window)
            now = QApplication.focusWidget()
            assert now is not None, (page, stop)
            assert not on_rail(window, now), (page, stop)


def stand(qtbot, window, buttons):
    """Where each of the buttons stands, once the page is laid out whole."""
    before = None
    while True:
        QApplication.processEvents()
        settle(qtbot, window)
        now = {b: QRect(b.mapTo(window.frame, QPoint(0, 0)), b.size()) for b in buttons}
        if now == before:
            return now
        before = now


@pytest.mark.parametrize("place", list(PlaceId))
def test_no_button_moves_when_something_is_said_at_the_foot(qtbot, window, place):
    for page in pages(qtbot, window, place):
        turn(qtbot, window, place, page)
        buttons = [b for b in window.current.findChildren(QAbstractButton) if b.isVisible()]
        before = stand(qtbot, window, buttons)
        for words in ("Kept: something.", "Something longer that was refused, with what to do. " * 8):
            window.say(words)
            now = stand(qtbot, window, buttons)
            assert (page, [b.text() for b in buttons if now[b] != before[b]]) == (page, [])


TAKEN_WHEN_LEFT = {"Adapter: length, and how it stands"}
"""Fields whose value is put elsewhere on the page when they are left."""


@pytest.mark.parametrize("place", list(PlaceId))
def test_what_is_typed_into_a_field_stands_there_when_it_is_left(qtbot, window, place):
    for page in pages(qtbot, window, place):
        turn(qtbot, window, place, page)
        for line in [w for w in window.current.findChildren(QLineEdit) if w.isVisible() and w.isEnabled()]:
            if line.accessibleName() in TAKEN_WHEN_LEFT:
                continue
            before = line.text()
            line.setFocus()
            line.selectAll()
            type_in(window, "12")
            press(window, Qt.Key.Key_Tab)
            settle(qtbot, window)
            assert (line.accessibleName(), line.text()) == (line.accessibleName(), "12")
            line.setText(before)
            settle(qtbot, window)


def greys(window):
    """Buttons that cannot be pressed and beside which nothing says why."""
    found = []
    for button in [b for b in window.frame.findChildren(QPushButton) if b.isVisible() and not b.isEnabled()]:
        near, around = button.geometry().adjusted(-NEAR, -NEAR, NEAR, NEAR), button.parentWidget()
        said = [
            label.text()
            for label in around.findChildren(QLabel)
            if label.text().strip() and not label.visibleRegion().isEmpty()
            and near.intersects(QRect(label.mapTo(around, QPoint(0, 0)), label.size()))
        ]  # fmt: skip
        if not said:
            found.append(button.text())
    return found


@pytest.mark.parametrize("place", list(PlaceId))
@pytest.mark.parametrize("shop", ["demo", "own"])
def test_beside_a_button_that_is_grey_stands_why(qtbot, open_window, demo_folder, tmp_path, shop, place):
    folder = demo_folder
    if shop == "own":
        folder = tmp_path / "own"
        database = Database(folder)
        with database.session() as session:
            take_in(session, registerfile.parse(REGISTER), NOW)
        database.close()
    window = open_window(folder)
    window.frame.resize(1280, 800)
    for page in pages(qtbot, window, place):
        turn(qtbot, window, place, page)
        assert (page, greys(window)) == (page, [])


def test_beside_recording_what_happened_stands_what_is_to_be_chosen_and_to_be_said(qtbot, window, demo):
    go(window, "tools", tool=tool_id(demo, "HC-0417"))
    settle(qtbot, window)
    window.around.report(tool_id(demo, "HC-0417"))
    qtbot.waitUntil(lambda: window.frame.findChild(ReportPanel) is not None, timeout=WAIT)
    drawer = window.frame.findChild(ReportPanel)
    qtbot.waitUntil(drawer.isVisible, timeout=WAIT)
    assert drawer.told.text().startswith("Choose what happened")
    assert greys(window) == []
    click(drawer.harms.chips["fell"])
    assert drawer.button.isEnabled()


NEAR = 24
"""Pixels within which something stands beside a button."""


def test_what_goes_away_under_the_focus_gives_it_to_the_place(window):
    go(window, PlaceId.SETTING)
    place = window.current
    button = next(b for b in place.findChildren(QAbstractButton) if b.isVisible() and b.isEnabled())
    for gone in (button.hide, lambda: button.setEnabled(False)):
        button.show()
        button.setFocus()
        gone()
        assert window.current.isAncestorOf(QApplication.focusWidget()) or QApplication.focusWidget() is place
        press(window, Qt.Key.Key_Tab)
        assert place.isAncestorOf(QApplication.focusWidget())
