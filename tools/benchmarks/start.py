"""Opening the window on the demo data, against a bare window of the same round; then the first visit to every place.

Every round counts, the first one too; a ratio is of a pair in one round, and their median is told with their spread; a pause
is the longest of all rounds.
"""

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
    elif not {idle}:
        over(frame)
    elif time.monotonic() - found["usable"] >= {idle}:
        visit(frame, window)
def visit(frame, window):
    # every place, one after the other, each until it is painted
    from reckoner.ui.places import PlaceId, Target
    if "ahead" not in found:
        found["ahead"] = frame.heart.worst()
        frame.left = [place for place in PlaceId if place is not PlaceId.TODAY]
        frame.going = None
    if frame.going is not None:
        place, began = frame.going
        if window._stack.currentWidget() is not window._places.get(place) or not window.current.seen:
            return
        if place is PlaceId.BENCH and window.current.button.text() != "Put it on the bench":
            return
        found["visit " + place] = time.monotonic() - began
        frame.going = None
        return
    if not window.idle:
        return
    if not frame.left:
        found["pause"], found["memory all"] = frame.heart.worst(), memory()
        return over(frame)
    place = frame.left.pop(0)
    frame.going = place, time.monotonic()
    window.go(Target(place, tool=17) if place is PlaceId.BENCH else Target(place))
def over(frame):
    frame.look.stop()
    print(json.dumps(found), flush=True)
    frame.close()
main(watch)
"""

ROUNDS = 9
LONG_ROUNDS = 4
IDLE = 5.0
"""Seconds after which every place is to be there."""
MOMENTS = ("painted", "today", "usable")


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
    return {n: v - begun if n in MOMENTS else v for n, v in found.items()}


def rows() -> list[Row]:
    """The window on the demo data against a bare one, in turns; a first demo; the first visit to every place."""
    with tempfile.TemporaryDirectory() as place:
        folder, config = Path(place) / "demo", Path(place) / "config"
        shipped.put(folder)
        script = OURS.format(folder=str(folder), idle=0)
        pairs = [(one(BARE, config), one(script, config)) for _ in range(ROUNDS)]
        firsts, visits = [], []
        for _ in range(LONG_ROUNDS):
            shutil.rmtree(Path(place) / "first", ignore_errors=True)
            bare = one(BARE, config)
            firsts.append((bare, one(OURS.format(folder=str(Path(place) / "first"), idle=0), config)))
            visits.append((bare, one(OURS.format(folder=str(folder), idle=IDLE), config)))

    def against(words: str, at_most: float, ratios: list[float]) -> Row:
        return Row(words, statistics.median(ratios), at_most=at_most, low=min(ratios), high=max(ratios))

    plain = [name for name in visits[0][1] if name.startswith("visit ") and name != "visit bench"]
    opened = [[found[name] / bare["painted"] for name in plain] for bare, found in visits]

    bare = [b["painted"] for b, _ in pairs]
    print(
        f"a bare window is painted after {statistics.median(bare):.2f} s ({min(bare):.2f} to {max(bare):.2f}), load "
        f"{os.getloadavg()[0]:.1f}; ours after {statistics.median(o['painted'] for _, o in pairs):.2f} s, Today usable after "
        f"{statistics.median(o['usable'] for _, o in pairs):.2f} s"
    )
    told = ", ".join(
        f"{name.removeprefix('visit ')} {1000 * statistics.median(found[name] for _, found in visits):.0f}"
        for name in visits[0][1]
        if name.startswith("visit ")
    )
    print(f"each place painted after so many ms: {told}")
    longest = [max(found["ahead"], found["pause"]) / bare["painted"] for bare, found in visits]
    return [
        against("the frame painted, times a bare window", 1.7, [o["painted"] / b["painted"] for b, o in pairs]),
        against(
            "Today painted and the top line answering, times a bare window", 7.0,
            [o["usable"] / b["painted"] for b, o in pairs],
        ),
        against("resident memory then, times a bare window", 2.0, [o["memory"] / b["memory"] for b, o in pairs]),
        against("a first demo usable, times a bare window", 20.0, [o["usable"] / b["painted"] for b, o in firsts]),
        Row(
            "longest pause while places are made and visited, times a bare window", max(longest), at_most=2.5,
            low=min(longest), high=max(longest),
        ),
        against("a place opened, 5 s after the start, times a bare window", 0.5, [r for one in opened for r in one]),
        against(
            "the Bench opened with what is proposed for a tool, times a bare window", 3.0,
            [found["visit bench"] / bare["painted"] for bare, found in visits],
        ),
        against(
            "resident memory with every place visited, times a bare window", 4.5,
            [found["memory all"] / bare["memory"] for bare, found in visits],
        ),
    ]  # fmt: skip
