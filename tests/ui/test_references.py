"""The References place: a certificate pasted, a check kept, a link tried out with a real plain meter, a meter added."""

import os
import pty
import threading
import tty

import pytest
from openpyxl import Workbook
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QPushButton

from reckoner.store.terms import RegisterKind
from reckoner.ui.register.newmeter import NewMeter
from reckoner.ui.widgets.chips import Chips
from tests.support.hands import ENTER, WAIT, click, focused, go, press, settle, type_in

TRUSTED = (40, 90, 150)
"""Torques in N·m over the range of PM-9, which nobody has certified."""


@pytest.fixture
def place(qtbot, open_window, demo_folder):
    window = open_window(demo_folder)
    go(window, "references")
    settle(qtbot, window)
    place = window.current
    qtbot.waitUntil(lambda: place.sheet.found is not None, timeout=WAIT)
    return place


def shown(qtbot, place, number):
    """The sheet of a reference."""
    row = next(line for line in place.shelf.list.rows.rows if line.name == number)
    place.shelf.list.choose(row.id)
    qtbot.waitUntil(lambda: place.sheet.found.facts.number == number, timeout=WAIT)
    return place.sheet


def test_a_certificate_is_pasted_or_read_and_counts_from_then_on(qtbot, place, tmp_path):
    sheet = shown(qtbot, place, "PM-9")
    assert sheet.sentence.text().startswith("Unproven")
    assert not sheet.worth.isVisible()
    click(sheet.new)
    form = sheet.certify
    form.number.line.setText("FL-3000")
    form.points.setPlainText("Torque [N.m]\tError [%]\tW [%]\n15\t0.1\t0.5\nxx\t0\t0.5\n150\t-0.1\t0.6")
    click(form.keep)
    assert "“xx\t0\t0.5”" in form.fault.text()
    book = Workbook()
    for line in ((15, 0.1, 0.5), (150, -0.1, 0.6)):
        book.active.append(line)
    book.save(tmp_path / "points.xlsx")
    form.read_file(tmp_path / "points.xlsx")
    qtbot.waitUntil(lambda: form.points.toPlainText() == "15\t0.1\t0.5\n150\t-0.1\t0.6", timeout=WAIT)
    form.issued.line.setText("24 Nov 2027")
    click(form.keep)
    qtbot.waitUntil(lambda: "after today" in form.issued.hint.text(), timeout=WAIT)
    form.issued.line.setText("20 Nov 2026")
    click(form.keep)
    qtbot.waitUntil(lambda: sheet.sentence.text().startswith("Decides until 20 Nov 2027"), timeout=WAIT)
    assert not form.isVisible()
    assert sheet.worth.isVisible()
    assert "15.0 N·m" not in sheet.worth.accessibleDescription()
    assert "15 N·m: +0.10" in sheet.worth.accessibleDescription()


def test_a_check_is_kept_and_its_stop_is_said_with_a_shape(qtbot, place):
    sheet = shown(qtbot, place, "PM-5")
    before = len(sheet.found.checks)
    sheet.checking.shown.line.setText("81")
    sheet.checking.true.line.setText("80 N.m")
    click(sheet.checking.keep)
    qtbot.waitUntil(lambda: "what it was compared with" in sheet.checking.against.hint.text(), timeout=WAIT)
    sheet.checking.against.line.setText("PM-4")
    click(sheet.checking.keep)
    qtbot.waitUntil(lambda: len(sheet.found.checks) == before + 1, timeout=WAIT)
    assert "too far off" in sheet.sentence.text()
    assert sheet.checking.chart.accessibleDescription().endswith("stop")


def test_a_link_is_tried_out_with_the_line_that_came_and_what_it_means(qtbot, place):
    """A meter that writes a line a second, at a pseudo-terminal."""
    ours, theirs = pty.openpty()
    tty.setraw(theirs)
    sheet = shown(qtbot, place, "PM-5")
    trying = sheet.trying
    place.around.station.set_link("PM-5", f"plain:{os.ttyname(theirs)}")
    sheet.refresh()
    qtbot.waitUntil(lambda: trying._link.startswith("plain:"), timeout=WAIT)
    click(trying.button)
    assert trying.button.text() == "Stop listening"
    done = threading.Event()

    def write():
        while not done.wait(0.2):
            os.write(ours, b"ST,+ 12.35 N.m OK\r\n")

    writer = threading.Thread(target=write)
    writer.start()
    try:
        qtbot.waitUntil(lambda: trying.line.whole() == "ST,+ 12.35 N.m OK", timeout=WAIT)
    finally:
        done.set()
        writer.join()
    qtbot.waitUntil(lambda: trying.means.text().startswith("This line means 12.35\u202fN·m"), timeout=WAIT)
    place.hide()
    assert trying._watch is None  # the bench may want the meter
    os.close(ours)
    os.close(theirs)


def test_a_meter_is_added_and_taken_back(qtbot, place):
    shelf = place.shelf
    count = len(shelf.list.rows.rows)
    click(shelf.adding)
    form = shelf.adder.form
    click(shelf.adder.button)
    assert form.range.hint.text() == "Choose its range, or type it."
    assert focused(place.window().centralWidget()) is form.range.line
    form.range.line.setText("60 to 600 lbf.ft")
    form.number.line.setText("PM-5")
    click(form.proofs.chips["unproven"])
    click(shelf.adder.button)
    qtbot.waitUntil(lambda: "already a reference PM-5" in form.number.hint.text(), timeout=WAIT)
    form.number.line.setText("PM-20")
    click(shelf.adder.button)
    qtbot.waitUntil(lambda: place.sheet.found.facts.number == "PM-20", timeout=WAIT)
    window = place.window().centralWidget()
    press(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    qtbot.waitUntil(lambda: len(shelf.list.rows.rows) == count, timeout=WAIT)


def test_a_meter_is_held_against_known_weights_on_an_arm_over_its_range(qtbot, place):
    sheet = shown(qtbot, place, "PM-5")
    before = len(sheet.found.checks)
    check = sheet.checking
    click(check.by_range)
    start = check.start
    qtbot.waitUntil(lambda: bool(start.against.chips), timeout=WAIT)
    assert "how far the arm reaches" in start.lacking.text()
    assert not start.begin.isEnabled()
    start.torques.line.setText("40; 80 N.m")
    arm = start.arm.line
    for wrong, why in (
        ("50 m", "an arm's length"),
        ("half", "is not a length"),
        ("60 mm", "cannot be made with these"),
    ):
        arm.setText(wrong)
        assert why in start.lacking.text()
        assert not start.begin.isEnabled()
    arm.setText("600 mm")
    assert start.lacking.text() == ""
    assert start.plan.text().count("W 0.") == 2
    assert start.cautions.isVisible()  # what hangs could hurt
    click(start.begin)
    crossing = check.crossing
    qtbot.waitUntil(lambda: crossing.state is not None, timeout=WAIT)
    window = place.window().centralWidget()
    for target in (40, 80):
        made = crossing.state.other.lever.torque(crossing.state.other.hung(target))
        for i in range(3):
            count = len(crossing.state.readings)
            crossing.indicated.setFocus()
            type_in(window, f"{made * 1.001 * (1 + 1e-4 * i):.4f} N.m")
            press(window, ENTER)
            qtbot.waitUntil(lambda c=count: len(crossing.state.readings) == c + 1, timeout=WAIT)
    assert crossing.now.text() == "Each torque has been read. Keep the check."
    assert "agree within what both claim" in crossing.found.text()
    click(crossing.strike)
    crossing.why.setFocus()
    type_in(window, "not at rest")
    press(window, ENTER)
    qtbot.waitUntil(lambda: crossing.state.next == 80, timeout=WAIT)
    place.sheet.show_row(0)
    sheet = shown(qtbot, place, "PM-5")  # left and opened again: it stands where it stood
    qtbot.waitUntil(lambda: check.crossing.isVisible(), timeout=WAIT)
    assert [r.struck for r in crossing.state.readings] == [""] * 5 + ["not at rest"]
    click(crossing.keep)
    qtbot.waitUntil(lambda: len(sheet.found.checks) == before + 1, timeout=WAIT)
    newest = sheet.found.checks[-1]
    assert newest.against == "weights on an arm, at 2 torques"
    assert newest.checked.difference == pytest.approx(0.0011, abs=2e-4)
    click(crossing.done)
    assert check.by_range.isVisible()


def test_an_unproven_meter_is_told_what_it_takes_to_trust_it_and_then_trusted(qtbot, place):
    sheet = shown(qtbot, place, "PM-9")
    check, window = sheet.checking, place.window().centralWidget()
    click(check.by_range)
    start = check.start
    qtbot.waitUntil(lambda: "PM-5" in start.against.chips, timeout=WAIT)
    click(start.against.chips["PM-5"])
    start.torques.line.setText("16 N.m")
    click(start.begin)
    qtbot.waitUntil(lambda: "known from" in start.torques.hint.text(), timeout=WAIT)  # PM-5 does not reach that
    start.torques.line.setText(", ".join(str(t) for t in TRUSTED) + " N.m")
    click(start.begin)
    crossing = check.crossing
    qtbot.waitUntil(lambda: crossing.state is not None and crossing.isVisible(), timeout=WAIT)
    for target in TRUSTED:
        for _ in range(3):
            count = len(crossing.state.readings)
            crossing.shown.setFocus()
            type_in(window, f"{target} N.m")
            press(window, ENTER)
            type_in(window, f"{target * 1.01} N.m")
            press(window, ENTER)
            qtbot.waitUntil(lambda c=count: len(crossing.state.readings) == c + 1, timeout=WAIT)
            if count == 0:
                assert "it still takes: 3 readings each at 3 torques or more" in crossing.trust_words.text()
    assert "This suffices to trust PM-9" in crossing.trust_words.text()
    assert not crossing.trust.isVisible()
    click(crossing.keep)
    qtbot.waitUntil(lambda: crossing.trust.isVisible(), timeout=WAIT)
    click(crossing.trust)
    qtbot.waitUntil(lambda: sheet.found.facts.proven, timeout=WAIT)
    assert sheet.found.facts.laboratory == "this shop, against PM-5"
    assert sheet.found.facts.points[0].error == pytest.approx(0.01, abs=0.003)
    assert 0 < sheet.found.facts.points[0].expanded_uncertainty < 0.01


def test_a_weight_is_added_and_its_false_stamp_is_called_out(qtbot, place):
    head = place.shelf.findChild(Chips)
    click(head.chips["weight"])
    shelf = place.shelf
    qtbot.waitUntil(lambda: shelf.spec.kind is RegisterKind.WEIGHT, timeout=WAIT)
    click(shelf.adding)
    shelf.adder.form.number.line.setText("W-50")
    click(shelf.adder.button)
    qtbot.waitUntil(lambda: shelf.sheet.sheet is not None and shelf.sheet.sheet.name == "W-50", timeout=WAIT)
    for name, text in (("stamped", "20 kg"), ("weighed", "19.1 kg")):
        row = shelf.sheet.rows[name]
        click(row.shown)
        row.entry.line.setText(text)
        click(next(b for b in row.editor.findChildren(QPushButton) if b.text() == "Keep"))
        qtbot.waitUntil(lambda row=row, text=text: row.shown.words == text.replace(" ", "\u202f"), timeout=WAIT)
    qtbot.waitUntil(lambda: "its stamp is 4.7\u202f% off" in shelf.list.current.detail, timeout=WAIT)


def test_a_certificate_is_taken_back_with_its_reason_in_sight_and_enter_alone_does_nothing(
    qtbot, open_window, demo_folder
):
    window = open_window(demo_folder)
    go(window, "references")
    settle(qtbot, window)
    place = window.current
    qtbot.waitUntil(lambda: place.sheet.found is not None, timeout=WAIT)
    sheet = shown(qtbot, place, "PM-5")
    window.resize(1024, 700)

    def backs():  # those of the sheet before are hidden, and go when the events do
        return [b for b in sheet.findChildren(QPushButton) if b.text() == "Take it back…" and b.isVisible()]

    qtbot.waitUntil(lambda: bool(backs()), timeout=WAIT)
    click(backs()[0])
    qtbot.waitUntil(lambda: sheet.back.asks, timeout=WAIT)
    for _ in range(3):
        press(window, ENTER)
    assert sheet.back.asks
    assert sheet.found.facts.proven
    click(sheet.back.buttons[0])
    qtbot.waitUntil(lambda: sheet.back.why.visibleRegion().boundingRect() == sheet.back.why.rect(), timeout=WAIT)
    press(window, ENTER)
    assert "Say why" in sheet.back.why.hint.text()
    type_in(window, "another meter's")
    before = sheet.found
    sheet.refresh()  # as a sheet does that was asked for twice
    qtbot.waitUntil(lambda: sheet.found is not before, timeout=WAIT)
    press(window, ENTER)
    qtbot.waitUntil(lambda: sheet.found.certificates[0].withdrawn == "another meter's", timeout=WAIT)
    qtbot.waitUntil(lambda: not sheet.back.asks, timeout=WAIT)
    assert sheet.isAncestorOf(focused(window))  # and not the rail


def test_another_meter_is_proposed_the_next_number_as_the_shop_calls_its_own(qtbot, place):
    taken = {line.name for line in place.shelf.list.rows.rows}
    place.shelf.begin_adding()
    number = next(form for form in place.findChildren(NewMeter) if form.isVisible()).number
    qtbot.waitUntil(lambda: number.text != "M-1", timeout=WAIT)
    assert number.text.startswith("PM-")
    assert number.text not in taken
