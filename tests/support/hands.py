"""A person's hands and eyes on the window: real keys and clicks, pressed once what is on the screen was painted."""

import importlib

from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from reckoner.shop.runs.records import Step
from reckoner.ui.place import Place
from reckoner.ui.places import SPECS, PlaceId, Target
from tests.support.runs import tool_id

WAIT = 120_000
"""Milliseconds: as long as a hang would be, for nothing here waits to see how quick a machine is."""
ENTER = Qt.Key.Key_Return


def go(window, place, **what):
    """Go to a place, and to what in it."""
    importlib.import_module(SPECS[PlaceId(place)].module)  # a place that is loaded is gone to at once
    window.go(Target(PlaceId(place), **what))


def settle(qtbot, window):
    """Wait until the window has nothing under way."""
    qtbot.waitUntil(lambda: window.idle, timeout=WAIT)


def focused(window):
    return window.keys.focused() or window.frame


def look(window):
    """Wait until the eye has seen what stands there, as a person does before a key."""
    for _ in range(WAIT // 2):
        if not isinstance(window.current, Place) or window.current.seen:
            return
        QTest.qWait(2)


def waiting(today, which):
    """What one of Today's lists shows."""
    model = today.lists.day
    cells = (model.index(row, column) for row in range(model.rowCount()) for column in range(model.columnCount()))
    listed = {i.card.tool.id for i in today.lists.day._found.of(which)}
    items = (model.data(cell, Qt.ItemDataRole.UserRole) for cell in cells)
    return [item for item in items if item is not None and item.card.tool.id in listed]


def click_tag(today, number):
    """Click a tag in one of Today's lists."""
    table, model = today.lists, today.lists.day
    cells = (model.index(row, column) for row in range(model.rowCount()) for column in range(model.columnCount()))
    found = next(c for c in cells if (model.data(c) or "").startswith(number))
    table.scrollTo(found)
    click(table.viewport(), table.visualRect(found).center())


def press(window, key, modifier=Qt.KeyboardModifier.NoModifier):
    """A key on whatever has the focus, as a person's key goes."""
    look(window)
    QTest.keyClick(focused(window), key, modifier)


def type_in(window, text):
    """Key by key, each on whatever has the focus by then."""
    for written in text:
        QTest.keyClicks(focused(window), written)


def click(widget, where=None):
    QTest.mouseClick(widget, Qt.MouseButton.LeftButton, pos=where or widget.rect().center())


def taken(run):
    """Observations and releases of the run, whatever they are for."""
    return sum(len(s.observations) for s in run.all_series) + sum(e.done for e in run.exercise)


def opened(qtbot, window, number, demo):
    """The start panel of a tool."""
    go(window, "bench", tool=tool_id(demo, number))
    bench = window.place(PlaceId.BENCH)
    qtbot.waitUntil(lambda: bench.button.text() == "Put it on the bench", timeout=WAIT)
    settle(qtbot, window)
    return bench


def pull(qtbot, window, bench, again=True):
    """Hold Space until the signal shows, let go, wait until the pull has counted and for rest; and once ``again`` where what
    showed was none: the whole trace has the last word, and a person then pulls anew."""
    settle(qtbot, window)
    before = taken(bench.run)
    look(window)
    QTest.keyPress(focused(window), Qt.Key.Key_Space)
    qtbot.waitUntil(
        lambda: bench.taker.feedback.provisional is not None or taken(bench.run) > before, timeout=WAIT
    )  # on a busy machine the pull may be over before it was looked at
    QTest.keyRelease(focused(window), Qt.Key.Key_Space)
    nothing = "Nothing was taken"
    qtbot.waitUntil(
        lambda: taken(bench.run) > before or (again and nothing in bench.taker.feedback.notice), timeout=WAIT
    )
    qtbot.waitUntil(lambda: not bench.meter.pulling and bench.meter.zero() is not None, timeout=WAIT)
    settle(qtbot, window)
    if taken(bench.run) == before:
        pull(qtbot, window, bench, again=False)


def read_phase(qtbot, window, bench):
    """Every reading of a phase, and the zero after it."""
    while bench.run.current is not None:
        pull(qtbot, window, bench)
    qtbot.waitUntil(bench.button.isEnabled, timeout=WAIT)
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.step is Step.DECIDE, timeout=WAIT)


def look_it_over(qtbot, window, bench):
    """Accept the proposal and find every line fine, by the keyboard."""
    qtbot.waitUntil(lambda: bench.button.text() == "Put it on the bench", timeout=WAIT)
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run is not None, timeout=WAIT)
    while bench.run.step is Step.LOOK_OVER:
        press(window, ENTER)
        settle(qtbot, window)


def to_first_pull(qtbot, window, bench):
    """Accept the proposal, look over and set up, by the keyboard; the meter tells the room."""
    look_it_over(qtbot, window, bench)
    qtbot.waitUntil(lambda: bench.button.text().startswith("Use PM-"), timeout=WAIT)
    press(window, ENTER)
    told = bench.panels.set_up.room.temperature
    qtbot.waitUntil(lambda: told.text != "" or bench.run.room is not None, timeout=WAIT)
    if bench.run.room is None:  # in a short run it is taken by itself
        press(window, ENTER)
        press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.room is not None and bench.meter.zero() is not None, timeout=WAIT)
    while bench.run.step is Step.SET_UP:
        press(window, ENTER)
        settle(qtbot, window)
    assert bench.run.step in (Step.AS_IT_CAME, Step.EXERCISE)
