"""A comparison in the window: chosen, named, pulled, told."""

from reckoner.shop.runs.records import Step
from reckoner.store.terms import RunKind
from reckoner.ui.places import PlaceId
from tests.support.hands import ENTER, WAIT, click, go, opened, press, pull, settle, type_in
from tests.support.runs import tool_id


def chosen(qtbot, window, bench, contrast):
    panel = bench.panels.start
    click(panel.kinds.chips["compare"])
    qtbot.waitUntil(lambda: panel.form.sides.isVisible(), timeout=WAIT)
    settle(qtbot, window)
    click(panel.form.sides.contrasts.chips[contrast])
    settle(qtbot, window)
    return panel


def test_two_people_are_compared_by_the_keyboard_and_the_record_says_what_was_found(
    qtbot, open_window, demo_folder, demo
):
    window = open_window(demo_folder)
    bench = opened(qtbot, window, "HC-0417", demo)
    panel = chosen(qtbot, window, bench, "people")
    assert "should read alike" in panel.form.sides.expected.text()
    for field, name in ((panel.form.sides.first.name, "R. K."), (panel.form.sides.second.name, "A. V.")):
        field.setFocus()
        field.line.selectAll()
        type_in(window, name)
    panel.form.readings.line.setText("3")
    panel.form.sides.second.name.setFocus()
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run is not None, timeout=WAIT)
    for words in ("Nothing wrong", "Use PM-5"):
        qtbot.waitUntil(lambda w=words: bench.button.text() == w, timeout=WAIT)
        press(window, ENTER)
        settle(qtbot, window)
    qtbot.waitUntil(lambda: bench.run.step is Step.EXERCISE, timeout=WAIT)
    while bench.run.step is Step.EXERCISE:
        pull(qtbot, window, bench)
    assert "R. K." in bench.panels.pulls.head.instruction.text()
    pull(qtbot, window, bench)
    assert "R. K.: 0.00\u202f% from the mean so far" in bench.panels.pulls.head._sentence.text()
    while bench.run.current is not None:
        pull(qtbot, window, bench)
    qtbot.waitUntil(lambda: bench.run.step is Step.DECIDE, timeout=WAIT)
    settle(qtbot, window)
    deciding = bench.panels.deciding
    assert deciding.sentence.text().startswith("A. V. reads")
    assert deciding.sides.isVisible()
    assert not deciding.numbers.isVisible()
    assert [t.accessibleName().split(",")[0] for t in bench.right.fences.fences] == ["Fence at ±1.0\u202f%"] * 3
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.signed, timeout=WAIT)
    assert bench.run.kind is RunKind.COMPARE


def test_the_lengths_say_what_should_come_out_and_what_cannot_be_is_said_at_the_field(
    qtbot, open_window, demo_folder, demo
):
    window = open_window(demo_folder)
    bench = opened(qtbot, window, "HC-0417", demo)
    panel = chosen(qtbot, window, bench, "adapter")
    assert not panel.form.sides.first.adapter.isVisible()
    panel.form.sides.second.adapter.line.setText("45 mm")
    assert "1.1092 times the first" in panel.form.sides.expected.text()
    panel.form.sides.second.angle.line.setText("90")
    assert "should read alike" in panel.form.sides.expected.text()
    panel.form.sides.second.adapter.line.setText("45 kg")
    assert "unit of mass" in panel.form.sides.expected.text()
    click(bench.button)
    settle(qtbot, window)
    assert bench.run is None
    click(panel.form.sides.contrasts.chips["grips"])
    assert panel.form.sides.second.hand.isVisible()
    assert not panel.form.sides.second.adapter.isVisible()


def test_whether_a_tool_changed_can_be_asked_at_any_time(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    go(window, "tools", tool=tool_id(demo, "HC-0417"))
    sheet = window.current.sheet
    qtbot.waitUntil(lambda: sheet.number.text() == "HC-0417", timeout=WAIT)
    settle(qtbot, window)
    click(sheet.change)
    bench = window.place(PlaceId.BENCH)
    qtbot.waitUntil(lambda: bench.button.text() == "Put it on the bench", timeout=WAIT)
    assert bench.panels.start.kinds.one == RunKind.EVENT.value
