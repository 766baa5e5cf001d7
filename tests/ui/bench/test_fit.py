"""A tool as it is set and fitted, chosen at the start with the mouse and the keyboard; and printed once it is signed."""

import pytest
from PyQt6.QtCore import Qt

from reckoner.shop.register.completing import ModelFact
from reckoner.shop.register.rows import edit
from reckoner.shop.runs import signing
from reckoner.store.schema import Tool
from reckoner.store.terms import RegisterKind
from reckoner.ui.bench.instructions import instruct
from reckoner.ui.places import PlaceId
from tests.support.hands import ENTER, WAIT, click, focused, go, look, opened, press, settle, type_in
from tests.support.runs import later, outside, tool_id

FOOT = 1.3558179483314


def test_the_other_scale_and_another_head_are_chosen_and_the_run_goes_by_them(
    qtbot, open_window, demo_folder, demo, act
):
    with demo.session() as session:
        model = session.get_one(Tool, tool_id(demo, "HC-0417")).model_id
        fields = {"second_unit": "lbf.ft", "second_resolution": FOOT, "head_length": 0.0175}
        edit(session, RegisterKind.MODEL, model, fields, act)
    window = open_window(demo_folder)
    bench = opened(qtbot, window, "HC-0417", demo)
    start = bench.panels.start
    assert [b.text() for b in start.form.scales.chips.values()] == ["N·m", "lbf·ft"]
    assert start.form.head.text.startswith("17.5")
    click(start.form.scales.chips["second"])
    qtbot.waitUntil(lambda: "89" in start.form.points.text, timeout=WAIT)
    settle(qtbot, window)
    start.form.head.setFocus()
    start.form.head.line.selectAll()
    type_in(window, "47,5 mm")
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run is not None, timeout=WAIT)
    settle(qtbot, window)
    assert bench.run.tool.unit.symbol == "lbf·ft"
    assert bench.run.tool.head == 0.0475
    assert "lbf·ft" in instruct(bench.run)


def test_a_tool_with_one_scale_and_its_own_head_is_asked_neither(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    bench = opened(qtbot, window, "HC-0417", demo)
    assert not bench.panels.start.form.scales.isVisible()
    assert not bench.panels.start.form.head.isVisible()


def test_what_was_signed_is_printed_from_there(qtbot, open_window, demo_folder, demo, act):
    with demo.session() as session:
        run = signing.sign(session, outside(session, tool_id(demo, "HC-0417"), act).id, later(act, 2))
    window = open_window(demo_folder)
    go(window, "bench", run=run.id)
    bench = window.place(PlaceId.BENCH)
    qtbot.waitUntil(lambda: bench.run is not None and bench.run.signed, timeout=WAIT)
    settle(qtbot, window)
    click(bench.panels.deciding.print)
    records = window.place(PlaceId.RECORDS)
    qtbot.waitUntil(lambda: records.results.paper.pages > 0, timeout=WAIT)
    assert records.results.list.chosen[0].id == run.id


def test_what_the_register_lacks_is_kept_as_it_stands_and_throws_nothing_away(
    qtbot, open_window, demo_folder, demo, act
):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        model = session.get_one(Tool, wanted).model_id
        edit(session, RegisterKind.MODEL, model, {"resolution": 0.0, "lever_length": None, "pivot_offset": 0.0}, act)
    window = open_window(demo_folder)
    go(window, "bench", tool=wanted)
    settle(qtbot, window)
    bench = window.current
    start, lacks = bench.panels.start, bench.panels.start._fields
    start.form.adapter.line.setText("a stub between")
    lacks[ModelFact.RESOLUTION].setFocus()
    type_in(window, "1 N.m")
    press(window, Qt.Key.Key_Tab)  # left, and so kept
    qtbot.waitUntil(lambda: ModelFact.RESOLUTION not in lacks, timeout=WAIT)
    settle(qtbot, window)
    assert window.foot.words.startswith("Kept: ")
    assert (start.form.adapter.text, focused(window)) == ("a stub between", lacks[ModelFact.LEVER_LENGTH].line)
    for wrong in ("17", "9 m"):  # of what? and longer than any
        lacks[ModelFact.LEVER_LENGTH].line.setText(wrong)
        look(window)
        click(bench.button)
        settle(qtbot, window)
        qtbot.waitUntil(lambda: focused(window) is lacks[ModelFact.LEVER_LENGTH].line, timeout=WAIT)
        assert (bench.run, start.form.proposal.tool.lever) == (None, None)
    lacks[ModelFact.LEVER_LENGTH].line.setText("17 in")
    click(bench.button)
    qtbot.waitUntil(lambda: bench.run is not None, timeout=WAIT)
    tool = bench.run.tool
    assert (tool.kind.resolution, tool.lever) == (1.0, pytest.approx(0.4318))
