"""The bench with a meter in line: two that disagree are told in sight, and what was said of them goes into the run."""

import pytest

from reckoner.store.terms import ReferenceKind
from tests.support.hands import ENTER, WAIT, click, press, settle, type_in
from tests.support.runs import tool_id
from tests.ui.bench.test_weights import at_the_set_up


def chosen(sheet, chips, number):
    return next(chip for chip in chips.chips.values() if chip.text() == number)


@pytest.fixture
def in_line(qtbot, open_window, demo_folder, demo):
    """The bench at the set-up of HC-0422, 20 to 100 N·m, PM-4 in line with PM-5."""
    window, bench, sheet = at_the_set_up(qtbot, open_window(demo_folder), tool_id(demo, "HC-0422"), "In line")
    click(chosen(sheet, sheet.other, "PM-5"))
    return window, bench, sheet


def test_only_what_bears_the_tool_is_offered_and_a_stub_asks_for_no_second_reading(in_line):
    _window, bench, sheet = in_line
    assert [chip.text() for chip in sheet.which.chips.values()] == ["PM-4", "PM-5", "PM-6", "PM-7", "PM-9"]
    assert sheet.shows.isVisible()
    click(chosen(sheet, sheet.other, "a stub"))
    assert not sheet.shows.isVisible()
    assert (sheet.lacks, bench.button.isEnabled(), bench.button.text()) == ("", True, "Use it in line")


def test_two_that_disagree_are_not_used_and_two_that_agree_are_kept_with_the_run(qtbot, in_line):
    window, bench, sheet = in_line
    for field, text in ((sheet.shows, "60"), (sheet.other_shows, "61.8"), (sheet.recoupling, "0.1")):
        field.setFocus()
        type_in(window, text)
    assert "differ by 2.88" in sheet.told.text()
    where = sheet.shows.y()
    assert not bench.button.isEnabled()
    sheet.other_shows.line.clear()
    sheet.other_shows.setFocus()
    type_in(window, "60.1")
    assert "against PM-5, within the 0.86" in sheet.told.text()
    assert sheet.shows.y() == where  # nothing moved with what is said
    press(window, ENTER)  # in the field
    qtbot.waitUntil(lambda: bench.run.reference is not None, timeout=WAIT)
    settle(qtbot, window)
    reference = bench.run.reference
    assert (reference.kind, reference.number, reference.line.other) == (ReferenceKind.IN_LINE, "PM-4", "PM-5")
    assert reference.line.recoupling == pytest.approx(0.001)
    assert bench.panels.set_up._reference_done.text() == "PM-4, between the tool and PM-5"


def test_what_coupling_moves_too_far_asks_for_a_reason_and_an_absurd_value_is_named(qtbot, in_line):
    window, bench, sheet = in_line
    sheet.shows.setFocus()
    type_in(window, "60")
    assert sheet.lacks.startswith("The other shows: ")  # one of two says nothing
    sheet.other_shows.setFocus()
    type_in(window, "-60")
    assert sheet.lacks.startswith("The other shows: must be above zero")
    for field in (sheet.shows, sheet.other_shows):
        field.line.clear()
    sheet.recoupling.setFocus()
    type_in(window, "3 %")
    assert "its uncertainty" in sheet.lacks
    assert sheet.reason.isVisible()
    assert not bench.button.isEnabled()
    sheet.reason.setFocus()
    type_in(window, "only to compare")
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.reference is not None, timeout=WAIT)
    assert bench.run.set_up.override == "only to compare"
