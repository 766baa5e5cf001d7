"""From what one has to the first click of a tool that is in no register: added on the way."""

import pytest
from PyQt6.QtCore import Qt

from reckoner.shop.facts.shapes import Shape
from reckoner.shop.runs.records import Step
from reckoner.store.terms import RunKind
from reckoner.ui.places import PlaceId
from tests.support.hands import ENTER, WAIT, click, go, press, settle, type_in


@pytest.mark.parametrize("described", [False, True])
def test_twelve_presses_lead_from_what_one_has_to_the_first_click_of_a_tool_that_nobody_knows(
    qtbot,
    open_window,
    pounds,
    described,
):
    folder, _database = pounds
    window = open_window(folder)
    bench, tools = window.place(PlaceId.BENCH), window.place(PlaceId.TOOLS)
    go(window, "bench")
    settle(qtbot, window)
    line = window.top_line
    press(window, Qt.Key.Key_J)
    type_in(window, "35 lb at 18 in with T-9")

    def told():
        rows = [line.matches.item(i).text() for i in range(line.matches.count())]
        return any("T-9 is not in the register: add it, and begin with it" in row for row in rows)

    qtbot.waitUntil(told, timeout=WAIT)
    presses = 0

    def pressed(what, until):
        nonlocal presses
        presses += 1
        press(window, ENTER) if what is None else click(what)
        qtbot.waitUntil(until, timeout=WAIT)
        settle(qtbot, window)

    panel = bench.panels.new_tool
    pressed(None, lambda: panel.isVisible() and bool(panel.models))
    assert panel.number.text == "T-9"
    if described:
        pressed(panel.describe, lambda: window.current is tools and tools.right.new_tools is not None)
        form = tools.right.new_tools.form
        qtbot.waitUntil(lambda: bool(form.models), timeout=WAIT)
        if form.describe.isVisible():
            pressed(form.describe, form.new_model.isVisible)
        pressed(form.new_model.pictures[Shape.CLICK_WRENCH], lambda: form.new_model.shape is Shape.CLICK_WRENCH)
        pressed(form.new_model.range.line, lambda: True)
        type_in(window, "20 to 150 lbf.ft")
    else:
        pressed(panel.group.button(0), lambda: panel.group.checkedId() == 0)
    pressed(None, lambda: bench.run is not None)
    assert window.current is bench
    assert (bench.run.tool.number, bench.run.kind) == ("T-9", RunKind.CHECK)
    pressed(None, lambda: bench.run.step is Step.SET_UP and bench.panels.set_up.ways.sheet is not None)
    sheet = bench.panels.set_up.ways.hanging
    if described:
        pressed(sheet.grip.line, lambda: True)
        type_in(window, "18 in")
        if sheet.graduation.isVisible():
            pressed(sheet.graduation.line, lambda: True)
            type_in(window, "1 lbf.ft")
    pressed(None, lambda: bench.run.reference is not None)
    pressed(None, lambda: bench.run.step is Step.EXERCISE)
    pressed(None, lambda: bench.run.step is Step.AS_FOUND)
    press(window, Qt.Key.Key_C)
    qtbot.waitUntil(lambda: bool(bench.run.found[0].counted), timeout=WAIT)
    assert presses + 1 <= 12, presses
    assert [w.number for w in bench.run.reference.set_up.points[0].weights] == ["P-25", "P-10"]
