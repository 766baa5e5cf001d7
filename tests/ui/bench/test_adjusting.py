"""Adjusting: killed in the middle, and the screw drawn."""

import os
import signal
import subprocess
import sys
import textwrap

import pytest
from PyQt6.QtCore import Qt

from reckoner.core.quantities.units import N_M
from reckoner.shop.runs import adjusting
from reckoner.shop.runs.records import Step
from reckoner.ui.bench.adjusting.screw import ScrewHead, TurnsLine, TurnsPlot, turn_words
from reckoner.ui.places import PlaceId
from tests.support.hands import ENTER, WAIT, go, press, pull, type_in
from tests.support.runs import outside, tool_id

KILLED_ADJUSTING = """
import sys
from pathlib import Path
from tests.support.clock import NOW
from reckoner.shop.runs import adjusting, taking
from tests.support.runs import outside, tool_id
from reckoner.shop.people.authorship import Act
from reckoner.store.database import Database
database = Database(Path(sys.argv[1]))
act = Act(1, NOW)
with database.session() as session:
    run = outside(session, tool_id(database, "HC-0417"), act)
for change in (
    lambda s: adjusting.begin(s, run.id, run.series[0].id, act),
    lambda s: adjusting.turn(s, run.id, 0.25, act),
    lambda s: taking.observe(s, run.id, taking.typed(39.0), act),
):
    with database.session() as session:
        change(session)
print("turned and read", flush=True)
input()
"""


def test_a_process_killed_while_adjusting_opens_at_the_same_turn(qtbot, open_window, demo_folder, demo):
    child = subprocess.Popen(
        [sys.executable, "-c", textwrap.dedent(KILLED_ADJUSTING), str(demo_folder)],
        stdout=subprocess.PIPE, stdin=subprocess.PIPE, text=True,
    )  # fmt: skip
    assert child.stdout.readline().strip() == "turned and read"
    os.kill(child.pid, signal.SIGKILL)
    child.wait()
    child.stdout.close()
    child.stdin.close()
    window = open_window(demo_folder)
    go(window, "bench", tool=tool_id(demo, "HC-0417"))
    bench = window.place(PlaceId("bench"))
    qtbot.waitUntil(lambda: bench.run is not None and bench.run.step is Step.ADJUST, timeout=WAIT)
    assert [s.turn for s in bench.run.adjusting.steps] == [None, 0.25]
    assert bench.run.adjusting.steps[1].observations[0].torque == 39.0
    assert adjusting.advice(bench.run)[0].next_turn > 0
    qtbot.waitUntil(lambda: bench.meter.zero() is not None, timeout=WAIT)
    pull(qtbot, window, bench)
    assert len(bench.run.adjusting.steps[1].torques) == 2


@pytest.mark.parametrize(
    ("turn", "words"), [(0.5, "+½"), (-0.375, "−⅜"), (1.25, "+1 ¼"), (-1.0, "−1"), (0.01, "no turn")]
)
def test_turns_are_written_in_eighths_and_drawn(qtbot, theme, turn, words):
    assert turn_words(turn) == words
    screw, plot = ScrewHead(theme), TurnsPlot(theme)
    for widget in (screw, plot):
        qtbot.addWidget(widget)
    screw.resize(screw.sizeHint())
    screw.show_turn(0.25, 0.0)
    still = screw.grab().toImage()
    screw.show_turn(0.25, turn)
    assert (screw.grab().toImage() != still) is (words != "no turn")
    plot.resize(400, 200)
    empty = plot.grab().toImage()
    plot.show_line(TurnsLine(((0.0, (52.1,)), (0.5, (55.9, 56.0))), 60.0, N_M, 7.4, turn))
    assert plot.grab().toImage() != empty


def test_what_a_turn_makes_of_every_point_stands_on_the_fences_before_it_is_made(
    qtbot, open_window, demo_folder, demo, act
):
    with demo.session() as session:
        run = outside(session, tool_id(demo, "HC-0417"), act)
        adjusting.begin(session, run.id, run.series[0].id, act)
    window = open_window(demo_folder)
    go(window, "bench", tool=tool_id(demo, "HC-0417"))
    bench = window.place(PlaceId("bench"))
    qtbot.waitUntil(lambda: bench.run is not None and bench.run.step is Step.ADJUST, timeout=WAIT)
    panel = bench.panels.adjust

    def then():
        return [fence.state().then for fence in bench.right.fences.fences]

    advised = then()
    assert advised[0] == pytest.approx(40 / (37.2 + 0.375 * 7.5) - 1, abs=1e-3)  # the least bad: three eighths
    panel.turned.setFocus()
    type_in(window, "1/4")
    qtbot.waitUntil(lambda: then() != advised, timeout=WAIT)
    assert then()[0] == pytest.approx(40 / (37.2 + 0.25 * 7.5) - 1, abs=1e-3)
    assert "After +¼: 40\u202fN·m +2.4\u202f%" in panel._whole.text()
    assert "would leave the worst point less" in panel._whole.text()
    assert "is taken to change the same torque everywhere" in panel._whole.text()
    for _ in range(3):
        press(window, Qt.Key.Key_Backspace)
    qtbot.waitUntil(lambda: then() == advised, timeout=WAIT)
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.adjusting is not None and len(bench.run.adjusting.steps) == 2, timeout=WAIT)
    assert then() == [None] * 3  # read first
