"""The whole job in the real window, with real keys or the real mouse, against the stand-in."""

import os
import signal
import subprocess
import sys
import textwrap

import numpy as np
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QPushButton

from reckoner.shop.runs.records import Step
from reckoner.store.database import Database
from reckoner.store.schema import Trace
from reckoner.ui.widgets.buttons import PrimaryButton
from tests.support.hands import (
    ENTER,
    WAIT,
    click,
    click_tag,
    focused,
    go,
    look,
    press,
    pull,
    settle,
    taken,
    to_first_pull,
    type_in,
)


def test_a_run_from_scan_to_signature_with_the_keyboard_alone(qtbot, open_window, demo_folder):
    window = open_window(demo_folder)
    press(window, Qt.Key.Key_J)
    assert focused(window) is window.top_line
    type_in(window, "hc0417")
    press(window, ENTER)
    qtbot.waitUntil(lambda: window.current.__class__.__name__ == "ToolsPlace", timeout=WAIT)
    settle(qtbot, window)
    press(window, ENTER)
    qtbot.waitUntil(lambda: window.current.__class__.__name__ == "BenchPlace", timeout=WAIT)
    bench = window.current
    to_first_pull(qtbot, window, bench)
    while bench.run.step is Step.EXERCISE:
        pull(qtbot, window, bench)
    assert [e.done for e in bench.run.exercise] == [5]
    assert taken(bench.run) == 5  # releases are no readings
    pull(qtbot, window, bench)
    press(window, Qt.Key.Key_Backspace)
    type_in(window, "jerked")
    press(window, ENTER)
    settle(qtbot, window)
    assert bench.run.series[0].observations[0].struck == "jerked"
    type_in(window, "39,6")
    press(window, ENTER)
    settle(qtbot, window)
    assert [r.source for r in bench.run.series[0].counted] == ["typed"]
    while bench.run.current is not None:
        pull(qtbot, window, bench)
    assert all(len(s.counted) == 5 for s in bench.run.series)
    assert {r.source for s in bench.run.series for r in s.counted} == {"meter trace", "typed"}
    qtbot.waitUntil(bench.button.isEnabled, timeout=WAIT)
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.step is Step.DECIDE, timeout=WAIT)
    assert bench.button.text() == "Sign as R. K."
    assert all(s.zero_before is not None and s.zero_after is not None for s in bench.run.series)
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.signed, timeout=WAIT)
    qtbot.waitUntil(lambda: bench.button.text().startswith("HC-0113 next"), timeout=WAIT)
    assert "PM-5 is set up; two more due tools fit it: HC-0113, HC-0460." in bench.panels.deciding.due.text()
    assert "Put it away: wind it back to its lowest mark" in bench.panels.deciding.due.text()
    go(window, "tools", tool=bench.run.tool.id)
    settle(qtbot, window)
    sheet = window.current.sheet
    qtbot.waitUntil(lambda: "24 Nov 2027" in sheet.status.text(), timeout=WAIT)
    window.frame.close()
    database = Database(demo_folder)
    with database.session() as session:
        traces = session.query(Trace).all()
        assert len(traces) == 15  # one pull was struck, one reading was typed
        pulled = [np.frombuffer(t.samples, "<f4") for t in traces]
        assert all(
            p.max() > 35 and abs(p[0]) < 1 and len(p) > 1.5 * t.rate for p, t in zip(pulled, traces, strict=True)
        )
    database.close()
    again = open_window(demo_folder)
    go(again, "tools", tool=bench.run.tool.id)
    settle(qtbot, again)
    assert "24 Nov 2027" in again.current.sheet.status.text()


def test_a_run_with_the_mouse_alone_until_readings_come(qtbot, open_window, demo_folder):
    window = open_window(demo_folder)
    click_tag(window.current, "HC-0318")
    settle(qtbot, window)
    click(window.current.sheet.findChild(PrimaryButton))
    qtbot.waitUntil(lambda: window.current.__class__.__name__ == "BenchPlace", timeout=WAIT)
    bench = window.current
    qtbot.waitUntil(lambda: bench.button.text() == "Put it on the bench", timeout=WAIT)
    click(bench.button)
    qtbot.waitUntil(lambda: bench.run is not None, timeout=WAIT)
    while bench.run.step is Step.LOOK_OVER:
        click(bench.button)
        settle(qtbot, window)
    click(bench.button)
    qtbot.waitUntil(lambda: bench.panels.set_up.room.temperature.text == "21.4\u202f°C", timeout=WAIT)
    steppers = {b.accessibleName(): b for b in bench.panels.set_up.findChildren(QPushButton)}
    for name, presses in (("More Temperature", 2), ("Less Humidity", 3)):
        for _ in range(presses):
            click(steppers[name])
    assert (bench.panels.set_up.room.temperature.text, bench.panels.set_up.room.humidity.text) == ("21.6\u202f°C", "43")
    click(bench.button)
    qtbot.waitUntil(lambda: bench.run.room is not None and bench.meter.zero() is not None, timeout=WAIT)
    click(bench.button)
    qtbot.waitUntil(lambda: bench.run.step is Step.EXERCISE, timeout=WAIT)
    while bench.run.step is Step.EXERCISE or taken(bench.run) < 13:
        before = taken(bench.run)
        QTest.mousePress(bench.button, Qt.MouseButton.LeftButton, pos=QPoint(30, 30))
        qtbot.waitUntil(lambda: bench.taker.feedback.provisional is not None, timeout=WAIT)
        QTest.mouseRelease(bench.button, Qt.MouseButton.LeftButton, pos=QPoint(30, 30))
        qtbot.waitUntil(lambda before=before: taken(bench.run) > before, timeout=WAIT)
        qtbot.waitUntil(lambda: bench.meter.zero() is not None, timeout=WAIT)
    assert [e.done for e in bench.run.exercise] == [5, 5]  # both directions
    assert len(bench.run.series[0].counted) == 3
    assert bench.right.fences.fences[0].state().readings != ()


def test_letting_go_before_the_signal_takes_nothing_and_says_so(qtbot, open_window, demo_folder, meters):
    meters.speed = 2
    window = open_window(demo_folder)
    go(window, "bench", tool=34)
    settle(qtbot, window)
    bench = window.current
    to_first_pull(qtbot, window, bench)
    bench.meter.send("turn 100")  # it clicks so late that even a slow machine lets go in time
    look(window)
    QTest.keyPress(window, Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: float(bench.meter.recent[-1]) > 20, timeout=WAIT)
    QTest.keyRelease(window, Qt.Key.Key_Space)  # a display that repeats a held key as up and down
    QTest.keyPress(window, Qt.Key.Key_Space)
    qtbot.wait(60)
    assert bench.meter.pulling
    QTest.keyRelease(window, Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: "Let go before it signalled" in bench.panels.pulls.head.notice.text(), timeout=WAIT)
    assert taken(bench.run) == 0


KILLED = """
import sys
from pathlib import Path
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QPushButton
from reckoner.__main__ import Meters, opening_of
from reckoner.cli.options import WindowOptions
from reckoner.shop.runs.records import Step
from reckoner.ui.app import make_window
from reckoner.ui.frame import application
from reckoner.ui.theme import Theme
from tests.support.hands import go, taken

app = application([])
opening = opening_of(WindowOptions(Path(sys.argv[1]), demo=True, today=None, dark=False), lambda reference, link: "")
window = make_window(opening, Theme(app))
window.frame.show()
window.around.work.start()

def live(until):
    while not until():
        app.processEvents()

live(lambda: window.around.person is not None and window.idle)
go(window, "bench", tool=34)
bench = window.current
live(lambda: bench.button.text() == "Put it on the bench" and window.idle)
bench.primary()
live(lambda: bench.run is not None and window.idle)
while bench.run.step is Step.LOOK_OVER:
    bench.primary()
    live(lambda: window.idle)
live(lambda: bench.button.text().startswith("Use"))
bench.primary()
live(lambda: bench.run.reference is not None)
for field, text in ((bench.panels.set_up.room.temperature, "21"), (bench.panels.set_up.room.humidity, "45")):
    field.line.setText(text)
bench.primary()
live(lambda: bench.run.room is not None)
bench.panels.set_up.zero_field.line.setText("0")
bench.primary()
live(lambda: bench.run.step is Step.EXERCISE)
while bench.run.step is Step.EXERCISE:
    bench.primary()
    live(lambda: window.idle)
for value in ("40.1", "39.9", "40.2", "40.0"):
    QTest.keyClicks(bench.panels.pulls.typed.line, value)
    bench.panels.pulls.typed.line.returnPressed.emit()
    live(lambda: window.idle)
    if taken(bench.run) == 8:
        print("three readings are shown", flush=True)
        live(lambda: False)
"""


def test_a_killed_window_opens_its_run_with_every_reading_that_was_shown(qtbot, open_window, demo_folder):
    child = subprocess.Popen(
        [sys.executable, "-c", textwrap.dedent(KILLED), str(demo_folder)], stdout=subprocess.PIPE, text=True
    )
    assert child.stdout.readline().strip() == "three readings are shown"
    os.kill(child.pid, signal.SIGKILL)
    assert child.wait() == -signal.SIGKILL
    child.stdout.close()
    window = open_window(demo_folder)
    assert window.current.next_title.text() == "Next: go on with HC-0417"
    press(window, ENTER)
    qtbot.waitUntil(lambda: getattr(window.current, "run", None) is not None, timeout=WAIT)
    run = window.current.run
    assert run.step is Step.AS_FOUND
    assert [r.torque for r in run.series[0].counted] == [40.1, 39.9, 40.2]
    assert window.current.left.steps.accessibleName() == "Step: As found"
