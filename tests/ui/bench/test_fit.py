"""A tool as it is set and fitted, chosen at the start with the mouse and the keyboard; and printed once it is signed."""

from reckoner.shop.register.rows import edit
from reckoner.shop.runs import signing
from reckoner.store.schema import Tool
from reckoner.store.terms import RegisterKind
from reckoner.ui.bench.instructions import instruct
from reckoner.ui.places import PlaceId
from tests.support.hands import ENTER, WAIT, click, go, opened, press, settle, type_in
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
    assert [b.text() for b in start.scales.chips.values()] == ["N·m", "lbf·ft"]
    assert start.head.text.startswith("17.5")
    click(start.scales.chips["second"])
    qtbot.waitUntil(lambda: "89" in start.points.text, timeout=WAIT)
    settle(qtbot, window)
    start.head.setFocus()
    start.head.line.selectAll()
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
    assert not bench.panels.start.scales.isVisible()
    assert not bench.panels.start.head.isVisible()


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
