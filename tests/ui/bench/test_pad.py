"""Without a keyboard, and without a meter that is linked: figures are pressed on the screen."""

from PyQt6.QtWidgets import QApplication, QPushButton

from reckoner.ui.places import PlaceId
from reckoner.ui.widgets.numberpad import NumberPad
from tests.support.hands import WAIT, click, go, settle
from tests.support.runs import prepared, tool_id


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
