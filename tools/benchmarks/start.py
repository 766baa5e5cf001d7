"""Opening the window on the demo data, against a bare window."""

from __future__ import annotations

import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from benchmarks.row import Row
from reckoner.demo.build import build
from reckoner.store.database import Database

BARE = """
import sys, time
from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QApplication, QLabel, QMainWindow
app = QApplication([])
class Bare(QMainWindow):
    def paintEvent(self, event):
        super().paintEvent(event)
        QTimer.singleShot(0, shown)
def shown():
    print(time.monotonic(), memory(), time.monotonic(), flush=True)
    app.exit()
def memory():
    return next(int(l.split()[1]) for l in open("/proc/self/status") if l.startswith("VmRSS"))
window = Bare()
window.setCentralWidget(QLabel("Reckoner"))
window.resize(1280, 800)
window.show()
app.exec()
"""

OURS = """
import sys, time
from pathlib import Path
from reckoner.__main__ import Meters, opening_of
from reckoner.cli.main import WindowOptions
from reckoner.ui.app import run
def memory():
    return next(int(l.split()[1]) for l in open("/proc/self/status") if l.startswith("VmRSS"))
from PyQt6.QtCore import QTimer
painted = []
folder = Path(sys.argv[1])
def shown(window):
    painted.append(time.monotonic())
    window.beat = QTimer()
    window.beat.timeout.connect(lambda: filled(window))
    window.beat.start(5)
def filled(window):
    if window.around.person is not None and window.current.seen and window.idle:
        window.beat.stop()
        print(painted[0], memory(), time.monotonic(), flush=True)
        window.close()
run(opening_of(WindowOptions(folder, True, None, False, folder / "station.json"), Meters().url), when_shown=shown)
"""

ROUNDS = 7


def one(script: str, *arguments: str) -> tuple[float, int, float]:
    """(seconds from process start to the first painted window, resident kB with Today filled, seconds until then)."""
    begun = time.monotonic()
    done = subprocess.run([sys.executable, "-c", script, *arguments], capture_output=True, text=True, check=True)
    at, memory, filled = done.stdout.split()
    return float(at) - begun, int(memory), float(filled) - begun


def rows() -> list[Row]:
    """The window on the demo data against a bare one, alternately."""
    with tempfile.TemporaryDirectory() as folder:
        database = Database(Path(folder))
        build(database)
        database.close()
        one(BARE), one(OURS, folder)
        bare, ours = [], []
        for _ in range(ROUNDS):
            bare.append(one(BARE))
            ours.append(one(OURS, folder))
    ratios = [statistics.median(o[i] for o in ours) / statistics.median(b[i] for b in bare) for i in (0, 1)]
    painted, filled = (statistics.median(o[i] for o in ours) for i in (0, 2))
    print(f"window painted after {painted:.2f} s, Today filled from the demo data after {filled:.2f} s")
    return [
        Row("start-up, times a bare window", ratios[0], at_most=2.5),
        Row("resident memory, times a bare window", ratios[1], at_most=3.0),
    ]
