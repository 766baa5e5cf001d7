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
from reckoner.ui.widgets.chips import Chips
from tests.support.hands import WAIT, click, go, press, settle


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
    sheet.look_again()
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
    assert shelf.adder.fault.text() == "Choose its range, or type it."
    form.range.line.setText("60 to 600 lbf.ft")
    form.number.line.setText("PM-5")
    click(form.proofs.chips["unproven"])
    click(shelf.adder.button)
    qtbot.waitUntil(lambda: "already a reference PM-5" in shelf.adder.fault.text(), timeout=WAIT)
    form.number.line.setText("PM-20")
    click(shelf.adder.button)
    qtbot.waitUntil(lambda: place.sheet.found.facts.number == "PM-20", timeout=WAIT)
    window = place.window().centralWidget()
    press(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    qtbot.waitUntil(lambda: len(shelf.list.rows.rows) == count, timeout=WAIT)


def test_a_meter_is_held_against_known_weights_on_an_arm(qtbot, place):
    sheet = shown(qtbot, place, "PM-5")
    before = len(sheet.found.checks)
    check = sheet.checking
    click(check.by_weights)
    qtbot.waitUntil(lambda: bool(check.weights.weights.chips), timeout=WAIT)
    for number in ("W-20", "W-5"):
        click(check.weights.weights.chips[number])
    check.weights.arm.line.setText("500 mm")
    torque = (19.912 + 5.021) * 9.80665 * 0.5
    assert "W-20 + W-5 at 500" in check.weights.told.text()
    assert "W 0." in check.weights.told.text()
    assert check.true.value() == pytest.approx(torque, rel=1e-5)
    arm = check.weights.arm.line
    for wrong, why in (("50 m", "an arm's length"), ("half", "say where")):
        arm.setText(wrong)
        assert why in check.weights.told.text()
        assert check.true.text == ""  # what stood there before is no longer made
    arm.setText("500 mm")
    click(check.weights.weights.chips["W-2"])
    assert "more than one person should lift" in check.weights.told.text()
    click(check.weights.weights.chips["W-2"])
    check.shown.line.setText(f"{torque * 1.002:.3f} N.m")
    click(check.keep)
    qtbot.waitUntil(lambda: len(sheet.found.checks) == before + 1, timeout=WAIT)
    newest = sheet.found.checks[-1]
    assert newest.against == "W-20 + W-5 at 500 mm"
    assert newest.checked.difference == pytest.approx(0.002, abs=1e-4)


def test_a_weight_is_added_and_its_false_stamp_is_called_out(qtbot, place):
    head = place.shelf.findChild(Chips)
    click(head.chips["weight"])
    shelf = place.shelf
    qtbot.waitUntil(lambda: shelf.spec.kind is RegisterKind.WEIGHT, timeout=WAIT)
    click(shelf.adding)
    shelf.adder.form.line.setText("W-50")
    click(shelf.adder.button)
    qtbot.waitUntil(lambda: shelf.sheet.sheet is not None and shelf.sheet.sheet.name == "W-50", timeout=WAIT)
    for name, text in (("stamped", "20 kg"), ("weighed", "19.1 kg")):
        row = shelf.sheet.rows[name]
        click(row.shown)
        row.entry.line.setText(text)
        click(next(b for b in row.editor.findChildren(QPushButton) if b.text() == "Keep"))
        qtbot.waitUntil(lambda row=row, text=text: row.shown.words == text.replace(" ", "\u202f"), timeout=WAIT)
    qtbot.waitUntil(lambda: "its stamp is 4.7\u202f% off" in shelf.list.current.detail, timeout=WAIT)
