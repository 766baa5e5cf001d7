"""Marking a beam's scale anew in the window: from two marks to the print and the blind repeat."""

import pytest
from pypdf import PdfReader

from reckoner.core.quantities.units import N_M, Kind, unit_named
from reckoner.ui.tools.beamscale import read_mark
from tests.support.hands import ENTER, WAIT, click, go, press, settle, type_in
from tests.support.runs import tool_id


@pytest.fixture
def sheet(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    go(window, "tools", tool=tool_id(demo, "HC-0215"))
    place = window.current
    qtbot.waitUntil(lambda: place.sheet._sheet is not None and place.sheet.number.text() == "HC-0215", timeout=WAIT)
    click(place.sheet.pages.chips["What is known"])
    settle(qtbot, window)
    click(place.sheet.mark_scale)
    settle(qtbot, window)
    return window, place, place.right.beam


def test_a_scale_is_made_of_two_marks_honestly_kept_printed_and_repeated_blind(qtbot, sheet, tmp_path):
    window, _place, beam = sheet
    assert not beam.keep.isEnabled()
    beam.marks.setPlainText("20 N·m  12.5 mm\nforty  25 mm")
    assert "“forty  25 mm”" in beam.fault.text()
    beam.marks.setPlainText("20 N·m  12.5 mm\n40 N·m 25.1 mm")
    assert "Through two marks alone: nothing tells how straight" in beam.told.text()
    assert not beam.residuals.isVisible()
    beam.every.line.setText("5 N.m")
    click(beam.keep)
    qtbot.waitUntil(lambda: "what the torques were made with" in beam.against.hint.text(), timeout=WAIT)
    beam.against.line.setText("PM-5")
    click(beam.keep)
    qtbot.waitUntil(lambda: beam.kept is not None, timeout=WAIT)
    assert beam._blind.isVisible()
    beam.mark.setFocus()
    for text in ("30 N.m", "29.4 N.m"):
        type_in(window, text)
        press(window, ENTER)
    qtbot.waitUntil(lambda: len(beam.kept.repeats) == 1, timeout=WAIT)
    assert "Worst +2.0\u202f% of 1." in beam.repeats.text()
    beam.save(tmp_path / "scale.pdf")
    qtbot.waitUntil(lambda: (tmp_path / "scale.pdf").exists(), timeout=WAIT)
    text = PdfReader(tmp_path / "scale.pdf").pages[0].extract_text()
    assert "Scale of HC-0215" in text
    assert "by R. K., against PM-5." in text
    assert "Through two marks alone" in text
    beam.save(tmp_path / "none" / "scale.pdf")
    qtbot.waitUntil(lambda: "could not be written" in beam.fault.text(), timeout=WAIT)
    beam.marks.setPlainText("20 N·m  12.5 mm\n40 N·m  25.1 mm\n60 N·m  37.4 mm")
    assert "off the line" in beam.told.text()
    assert beam.residuals.isVisible()
    assert not beam._blind.isVisible()  # the repeats belong to the scale that was kept
    click(beam.keep)
    qtbot.waitUntil(lambda: beam.kept is not None and len(beam.kept.plan.marks) == 3, timeout=WAIT)
    assert beam.kept.repeats == ()


def test_a_scale_stands_there_again_when_its_tool_is_opened(qtbot, sheet):
    _window, place, beam = sheet
    beam.marks.setPlainText("20  12.5\n40  25.1\n60  37.4")
    beam.every.line.setText("200 N.m")
    beam.against.line.setText("12 kg at 420 mm")
    assert "choose a step" in beam.fault.text()
    beam.every.line.setText("10 N.m")
    beam.radius.line.setText("9 m")
    click(beam.keep)
    qtbot.waitUntil(lambda: "cannot be a pointer's length" in beam.radius.hint.text(), timeout=WAIT)
    beam.radius.line.setText("240 mm")
    click(beam.keep)
    qtbot.waitUntil(lambda: beam.kept is not None, timeout=WAIT)
    beam.left.emit()
    click(place.sheet.mark_scale)
    qtbot.waitUntil(lambda: beam.plan is not None and beam.plan.radius == pytest.approx(0.24), timeout=WAIT)
    assert beam.plan == beam.kept.plan


def test_a_scale_in_pounds_is_marked_and_told_in_inches(qtbot, open_window, demo_folder, demo, tmp_path):
    window = open_window(demo_folder)
    go(window, "tools")
    settle(qtbot, window)
    right = window.current.right
    right.begin_scale(tool_id(demo, "HC-0302"), "HC-0302", unit_named("lbf.ft", Kind.TORQUE))
    beam = right.beam
    settle(qtbot, window)
    assert "in" in beam.marks.placeholderText()
    assert "mm" not in beam.marks.placeholderText() + beam.against.line.placeholderText()
    beam.marks.setPlainText("20  1/2 in\n40 1\n60  1.5")
    assert beam.told.text().startswith("0.025\u202fin a lbf·ft")
    assert [m.deflection for m in beam.plan.marks] == pytest.approx([0.0127, 0.0254, 0.0381])
    beam.radius.line.setText("10")
    assert beam.plan.radius == pytest.approx(0.254)
    beam.save(tmp_path / "scale.pdf")
    qtbot.waitUntil((tmp_path / "scale.pdf").exists, timeout=WAIT)
    said = " ".join(PdfReader(tmp_path / "scale.pdf").pages[0].extract_text().replace("\u202f", " ").split())
    assert "it is 4 in long" in said
    assert "radius 10 in" in said
    assert "mm" not in said


@pytest.mark.parametrize("line", ["20 N·m  12.5 mm", "20\t12.5", "20 12.5", "20 N.m; 12,5 mm", "20 N·m 12.5 mm"])
def test_a_mark_is_read_as_people_write_it(line):
    found = read_mark(line, N_M)
    assert (found.torque, found.deflection) == (20.0, pytest.approx(0.0125))
