"""The database goes away in the middle of a run: nothing more is shown as kept, and what was read can be saved."""

import csv

from PyQt6.QtWidgets import QFileDialog

from reckoner.shop.runs.records import Step
from reckoner.store.database import FILE
from tests.support.hands import ENTER, WAIT, click, go, press, settle, taken, type_in
from tests.support.runs import prepared, read, tool_id


def test_readings_of_a_run_whose_database_is_gone_are_saved_elsewhere(
    qtbot, open_window, demo_folder, demo, act, tmp_path
):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        read(session, prepared(session, wanted, act), 39.5, act)
    window = open_window(demo_folder)
    go(window, "bench", tool=wanted)
    bench = window.current
    qtbot.waitUntil(lambda: bench.run is not None and bench.run.step is Step.AS_FOUND, timeout=WAIT)
    assert not bench.right.elsewhere.isVisible()
    before = taken(bench.run)
    (demo_folder / FILE).rename(demo_folder / "moved.sqlite")
    for value in ("39.7", "39.8"):
        bench.panels.pulls.typed.setFocus()
        bench.panels.pulls.typed.clear()
        type_in(window, value)
        press(window, ENTER)
        settle(qtbot, window)
        assert taken(bench.run) == before
    assert bench.panels.pulls.typed.text == "39.8"  # what was typed stands there still
    assert bench.panels.pulls.typed.hint.text() == "Not taken: see the foot of the window."
    assert "was moved, deleted or replaced" in window.foot.words
    go(window, "today")
    settle(qtbot, window)
    go(window, "bench", tool=wanted)  # nothing of the run goes with looking elsewhere
    settle(qtbot, window)
    assert bench.run is not None
    click(bench.right.elsewhere)
    dialog = bench.findChild(QFileDialog)
    qtbot.waitUntil(dialog.isVisible, timeout=WAIT)
    target = tmp_path / "saved ü.csv"
    dialog.setDirectory(str(tmp_path))
    dialog.selectFile(str(target))
    dialog.accept()
    qtbot.waitUntil(target.exists, timeout=WAIT)
    with target.open(encoding="utf-8", newline="") as file:
        rows = list(csv.DictReader(file))
    shown = f"{39.5 * bench.run.reference.correction(40.0):.6g}"
    assert [(r["tool"], r["target"], r["reading"], r["unit"], r["kept"]) for r in rows] == [
        ("HC-0417", "40", shown, "N·m", "yes"),
        ("HC-0417", "40", "39.7", "N·m", "no"),
        ("HC-0417", "40", "39.8", "N·m", "no"),
    ]
    assert str(target) in window.foot.words
    bench.presenter.unkept.save(bench.run, str(tmp_path))  # a folder, not a file
    assert "Choose another place" in bench.right.fault.text()
