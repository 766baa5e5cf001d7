"""Without a keyboard, and without a meter that is linked: figures are pressed on the screen, releases counted at once."""

from PyQt6.QtWidgets import QApplication, QPushButton

from reckoner.shop.runs.records import Step
from reckoner.ui.places import PlaceId
from reckoner.ui.widgets.numberpad import NumberPad
from tests.support.hands import ENTER, WAIT, click, go, press, settle, type_in
from tests.support.runs import prepared, tool_id
from tests.ui.bench.test_weights import at_the_set_up


def pad_of(field):
    """The pad of a field, brought by the button beside it."""
    click(next(b for b in field.findChildren(QPushButton) if b.text() == "1 2 3"))
    return next(pad for pad in field.window().findChildren(NumberPad) if pad.isVisible())


def test_readings_are_typed_with_the_mouse_alone(qtbot, open_window, demo_folder, demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    window = open_window(demo_folder)
    go(window, "bench", run=run.id)
    bench = window.place(PlaceId.BENCH)
    qtbot.waitUntil(lambda: bench.run is not None, timeout=WAIT)
    settle(qtbot, window)
    typed = bench.panels.pulls.typed
    pad = pad_of(typed)
    assert QApplication.focusWidget() is typed.line
    for sign in ("3", "9", "7", "⌫", ".", "8"):
        click(pad.keys[sign])
    assert typed.text == "39.8"
    click(pad.keys["Enter"])
    qtbot.waitUntil(lambda: len(bench.run.series[0].counted) == 1, timeout=WAIT)
    settle(qtbot, window)
    for sign in ("4", "0", ".", "1", "Enter"):  # it stays for the next one
        click(pad.keys[sign])
    qtbot.waitUntil(lambda: len(bench.run.series[0].counted) == 2, timeout=WAIT)
    assert [one.torque for one in bench.run.series[0].counted] == [39.8, 40.1]
    frame = window.frame.rect()
    assert frame.contains(pad.geometry())
    click(next(b for b in typed.findChildren(QPushButton) if b.text() == "1 2 3"))
    assert not pad.isVisible()


def test_releases_made_one_after_the_other_are_counted_with_one_press(qtbot, open_window, demo_folder, demo):
    """With weights nothing counts them but the person."""
    window, bench, _sheet = at_the_set_up(qtbot, open_window(demo_folder), tool_id(demo, "HC-0125"), "Weights")
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.reference is not None, timeout=WAIT)
    for text in ("21", "45"):
        type_in(window, text)
        press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.step is Step.EXERCISE, timeout=WAIT)
    settle(qtbot, window)
    rest = bench.panels.pulls.rest
    assert rest.button.text() == "All 5 are done"
    press(window, ENTER)  # one by one as ever
    qtbot.waitUntil(lambda: rest.button.text() == "All 4 are done", timeout=WAIT)
    click(rest.button)
    qtbot.waitUntil(lambda: bench.run.step is Step.AS_FOUND, timeout=WAIT)
    settle(qtbot, window)
    assert not rest.isVisible()
    assert [one.done for one in bench.run.exercise] == [5]
