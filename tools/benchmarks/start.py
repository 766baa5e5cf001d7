"""Opening the window on the demo data, against a bare window; then the first visit to the Bench."""

from __future__ import annotations

import json
import os
import shutil
import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from benchmarks.row import Row
from reckoner.demo import shipped

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
    print('{"painted": %r, "memory": %d}' % (time.monotonic(), memory()), flush=True)
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
import json, sys, time
sys.argv = ["reckoner", "--demo", "--data", {folder!r}]
from reckoner.__main__ import main
found = {{}}
def memory():
    return next(int(l.split()[1]) for l in open("/proc/self/status") if l.startswith("VmRSS"))
def watch(frame):
    from PyQt6.QtCore import QTimer
    frame.painted.connect(lambda: found.setdefault("painted", time.monotonic()))
    frame.look = QTimer(frame)
    frame.look.timeout.connect(lambda: look(frame))
    frame.look.start(3)
def look(frame):
    window = frame.centralWidget()
    if window is None:
        return
    if "today" not in found:
        if window.around.person is not None and window.current.seen and window.idle:
            found["today"] = time.monotonic()
            from PyQt6.QtCore import QEvent, Qt
            from PyQt6.QtGui import QKeyEvent
            from PyQt6.QtWidgets import QApplication
            window.top_line.begin()
            none = Qt.KeyboardModifier.NoModifier
            for figure in "0417":
                for kind in (QEvent.Type.KeyPress, QEvent.Type.KeyRelease):
                    QApplication.sendEvent(window.top_line, QKeyEvent(kind, ord(figure), none, figure))
    elif "usable" not in found:
        if window.top_line.matches.isVisible() and "HC-0417" in window.top_line.matches.item(0).text():
            found["usable"], found["memory"] = time.monotonic(), memory()
            window.top_line.leave()
            from benchmarks.heart import Heart
            frame.heart = Heart(frame)
    elif "going" not in found:
        if {idle} and time.monotonic() - found["usable"] < {idle}:
            return
        if not {idle}:
            return over(frame)
        found["ahead"] = frame.heart.worst()
        from reckoner.ui.places import PlaceId, Target
        found["going"] = time.monotonic()
        window.go(Target(PlaceId.BENCH, tool=17))
    elif "bench" not in found:
        bench = window.current
        if type(bench).__name__ == "BenchPlace" and bench.seen and bench.button.text() == "Put it on the bench":
            found["bench"], found["visit"] = time.monotonic(), frame.heart.worst()
            found["memory all"] = memory()
            over(frame)
def over(frame):
    frame.look.stop()
    print(json.dumps(found), flush=True)
    frame.close()
main(watch)
"""

ROUNDS = 9
IDLE = 4.0
"""Seconds in which what comes next is loaded."""


def one(script: str, config: Path) -> dict[str, float]:
    """What a start of its own prints, its moments as seconds since the process was asked for."""
    environment = {
        **os.environ,
        "XDG_CONFIG_HOME": str(config),
        "PYTHONPATH": os.pathsep.join([str(Path(__file__).parents[1]), *filter(None, [os.environ.get("PYTHONPATH")])]),
    }
    begun = time.monotonic()
    done = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=True, env=environment)
    found = json.loads(done.stdout)
    return {n: v - begun if n in ("painted", "today", "usable", "going", "bench") else v for n, v in found.items()}


def rows() -> list[Row]:
    """The window on the demo data against a bare one, in turns; a first demo; the first visit to the Bench."""
    with tempfile.TemporaryDirectory() as place:
        folder, config = Path(place) / "demo", Path(place) / "config"
        shipped.put(folder)
        bare, ours = [], []
        for i in range(ROUNDS + 1):
            pair = one(BARE, config), one(OURS.format(folder=str(folder), idle=0), config)
            if i:  # the first reads everything from the disk
                bare.append(pair[0])
                ours.append(pair[1])
        firsts, visits = [], []
        for _ in range(3):
            shutil.rmtree(Path(place) / "first", ignore_errors=True)
            firsts.append(one(OURS.format(folder=str(Path(place) / "first"), idle=0), config))
            visits.append(one(OURS.format(folder=str(folder), idle=IDLE), config))

    def against(name: str, words: str, at_most: float, of: str = "") -> Row:
        ratios = [o[name] / b[of or name] for o, b in zip(ours, bare, strict=True)]
        figure = statistics.median(o[name] for o in ours) / statistics.median(b[of or name] for b in bare)
        return Row(words, figure, at_most=at_most, low=min(ratios), high=max(ratios))

    bench = [v["bench"] - v["going"] for v in visits]
    whole = statistics.median(v["memory all"] for v in visits) / statistics.median(b["memory"] for b in bare)
    print(
        f"a bare window is painted after {statistics.median(b['painted'] for b in bare):.2f} s; ours after "
        f"{statistics.median(o['painted'] for o in ours):.2f} s, Today usable after "
        f"{statistics.median(o['usable'] for o in ours):.2f} s"
    )
    return [
        against("painted", "the frame painted, times a bare window", 1.5),
        against("usable", "Today painted and the top line answering, times a bare window", 6, "painted"),
        against("memory", "resident memory then, times a bare window", 2.0),
        Row("a first demo, until it is usable", statistics.median(f["usable"] for f in firsts), at_most=2, unit="s"),
        Row(
            "longest pause of the interface thread while loading ahead", max(v["ahead"] for v in visits) * 1000,
            at_most=50, unit="ms",
        ),
        Row(
            "the first visit to the Bench, until it can be begun", statistics.median(bench), at_most=0.3, unit="s",
            low=min(bench), high=max(bench),
        ),
        Row("resident memory with everything loaded, times a bare window", whole, at_most=3.0),
    ]  # fmt: skip
