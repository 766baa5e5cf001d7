"""A fast meter streaming into the real bench: nothing lost, little processor, smooth frames, a quick reading.

The stand-in runs as a process of its own, so that the window's processor time is its own. A stretch of STRETCH seconds runs
at real time for the processor, the frames and the delay; ten minutes' worth of samples then go through the same link and
watch as fast as they can be taken, to see that none is lost.
"""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
import time
from datetime import datetime
from pathlib import Path

import numpy as np
import psutil
from PyQt6.QtCore import QObject, QTimer

from benchmarks.row import Row
from reckoner.__main__ import Meters, opening_of
from reckoner.cli.main import WindowOptions
from reckoner.core.stream import FirstPeakWatch, Signal
from reckoner.demo.build import build
from reckoner.demo.scenario import demo_today
from reckoner.meters.link import Link, Samples, _Reader
from reckoner.meters.protocol import Identity, sample_line
from reckoner.shop.acts import Act
from reckoner.shop.procedures.choosing import candidates
from reckoner.shop.runs import opening, setting_up, taking
from reckoner.store.database import Database
from reckoner.store.schema import Reference, Tool
from reckoner.store.terms import Moment
from reckoner.ui.app import make_window
from reckoner.ui.frame import application
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.theme import Theme

RATE = 5000
STRETCH = 40.0
MINUTES = 10
PULL_EVERY = 4.0
WARM_UP = 3.0


class Frames(QObject):
    """Times what the interface thread spends between two looks at its queue: a frame is late when the thread was busy."""

    def __init__(self) -> None:
        super().__init__()
        self.busy: list[float] = []
        self._begun = 0.0

    def watch(self, live: object) -> None:
        from PyQt6.QtCore import QAbstractEventDispatcher

        dispatcher = QAbstractEventDispatcher.instance()
        dispatcher.awake.connect(self._awake)
        dispatcher.aboutToBlock.connect(self._blocks)

    def _awake(self) -> None:
        self._begun = time.perf_counter()

    def _blocks(self) -> None:
        if self._begun:
            self.busy.append(time.perf_counter() - self._begun)
            self._begun = 0.0


def prepared(folder: Path, url: str) -> int:
    """The demo with a run ready for its first reading, linked to ``url``; returns the tool's id."""
    database = Database(folder)
    build(database)
    with database.session() as session:
        session.query(Reference).filter_by(number="PM-5").one().link = url
        session.query(Reference).filter_by(number="PM-5").one().serial = ""
        tool = session.query(Tool).filter_by(number="HC-0417").one()
        act = Act(1, datetime.combine(demo_today(), datetime.now().time()).astimezone())
        run = opening.open_run(session, tool.id, act)
        for line in run.inspection:
            run = setting_up.look_over(session, run.id, line.line, True, "", act)
        best = candidates(session, run.tool, run.rules, demo_today())[0]
        run = setting_up.choose_reference(session, run.id, best.reference.id, "", act)
        run = setting_up.record_room(session, run.id, 21.4, 0.46, "", act)
        run = setting_up.record_zero(session, run.id, Moment.BEFORE, 0.0, act)
        while run.exercising:
            run = taking.record_exercise(session, run.id, None, act)
        found = tool.id
    database.close()
    return found


def at_real_time() -> tuple[float, float, float, int, int]:
    """(share of one core, share of frames under 16 ms, worst delay in s, samples missed, samples seen)."""
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    stand_in = subprocess.Popen(
        [sys.executable, "-m", "reckoner", "meter", "--rate", str(RATE)], stdout=subprocess.PIPE, text=True
    )
    url = stand_in.stdout.readline().strip()
    app = application([])
    with tempfile.TemporaryDirectory() as place:
        folder = Path(place)
        tool_id = prepared(folder, url)
        window = make_window(
            opening_of(WindowOptions(folder, True, None, False, folder / "station.json"), Meters().url), Theme(app)
        )
        window.frame.resize(1280, 800)
        window.frame.show()
        window.around.work.start()
        found = _measure(app, window, tool_id)
        window.frame.close()
    stand_in.terminate()
    stand_in.wait()
    return found


def _measure(app, window, tool_id: int) -> tuple[float, float, float, int, int]:
    def live(until, seconds: float) -> None:
        """The event loop as it always runs, until something is so or the time is over."""
        look, over = QTimer(), QTimer()
        look.timeout.connect(lambda: app.exit() if until() else None)
        over.timeout.connect(app.exit)
        look.start(20)
        over.start(int(seconds * 1000))
        app.exec()
        look.stop()
        over.stop()

    live(lambda: window.around.person is not None and window.idle, 60)
    window.go(Target(PlaceId.BENCH, tool=tool_id))
    bench = window.current
    live(lambda: bench.meter.streams and bench.meter.zero() is not None, 30)
    delays: list[float] = []
    counts = {"missed": 0, "seen": 0}
    shown = {"count": 0}
    clicked: list[float] = []

    def count(samples: np.ndarray, _rate: float) -> None:
        counts["seen"] += len(samples)

    def taken_and_shown() -> None:
        total = sum(len(s.observations) for s in bench.run.series) if bench.run else 0
        if total > shown["count"] and clicked:
            shown["count"] = total
            delays.append(time.perf_counter() - clicked.pop())
            QTimer.singleShot(150, bench.pulling.let_go)

    bench.meter.samples.connect(count)
    # the click itself is `ago` seconds before the signal was found in the stream
    bench.meter.signalled.connect(lambda signal: clicked.append(time.perf_counter() - signal.ago))
    bench.presenter.stood.connect(lambda _scene: taken_and_shown())  # connected last: the place has shown it
    live(lambda: False, WARM_UP)
    frames = Frames()
    frames.watch(app)
    process = psutil.Process()
    before, begun = process.cpu_times(), time.perf_counter()
    pulls = QTimer()
    pulls.timeout.connect(bench.meter.pull)
    pulls.start(int(PULL_EVERY * 1000))
    live(lambda: False, STRETCH)
    after, ended = process.cpu_times(), time.perf_counter()
    used = (after.user - before.user + after.system - before.system) / (ended - begun)
    busy = np.array(frames.busy)
    counts["missed"] = max(0, round(RATE * (ended - begun)) - counts["seen"])
    return used, float((busy < 0.016).mean()), max(delays, default=float("inf")), counts["missed"], len(delays)


def ten_minutes() -> tuple[int, int, float]:
    """(samples sent, samples that arrived in order, seconds taken) of ten minutes through the reader and the watch."""
    reader = _Reader("bench")
    list(reader.take((Identity("B", "1", _unit(), RATE, simulated=False).line() + "\n").encode(), 0.0))
    watch = FirstPeakWatch(118, RATE)
    rng = np.random.default_rng(1)
    up, past, down, rest = (np.arange(round(s * RATE)) / RATE for s in (2.0, 0.4, 0.25, 1.35))
    pull = np.concatenate(
        [118 * up / 2, 118 * (1 - 0.09 * np.minimum(past / 0.018, 1) * np.exp(-np.maximum(0, past - 0.018) / 0.05)),
         118 * (1 - down / 0.25) ** 2, rest * 0]
    )  # fmt: skip
    sent = arrived = index = signals = 0
    begun = time.perf_counter()
    for _ in range(int(MINUTES * 60 / 4)):
        block = pull + rng.normal(0, 0.05, len(pull))
        for start in range(0, len(block), 100):
            values = block[start : start + 100]
            lines = "".join(sample_line(index + i, v) + "\n" for i, v in enumerate(values.tolist()))
            index += len(values)
            sent += len(values)
            for event in reader.take(lines.encode(), index / RATE):
                if isinstance(event, Samples):
                    arrived += len(event.torque) - event.missed
                    signals += sum(isinstance(f, Signal) for f in watch.feed(event.torque))
    if signals != int(MINUTES * 60 / 4):
        arrived = -signals  # a pull that was not seen is as bad as a sample that was lost
    return sent, arrived, time.perf_counter() - begun


def _unit():
    from reckoner.core.units import N_M

    return N_M


def rows() -> list[Row]:
    used, smooth, delay, _, readings = at_real_time()
    sent, arrived, seconds = ten_minutes()
    print(
        f"{readings} readings at {RATE} samples a second in {STRETCH:.0f} s; ten minutes' samples went through in "
        f"{seconds:.0f} s, making them included"
    )
    return [
        Row("samples lost of ten minutes at 5000 a second", float(sent - arrived), at_most=0),
        Row("processor while streaming, % of one core", used * 100, at_most=35, unit="%"),
        Row("interface frames under 16 ms while streaming, %", smooth * 100, at_least=95, unit="%"),
        Row("from the click in the stream to the reading stored and shown", delay * 1000, at_most=100, unit="ms"),
        Row("readings taken meanwhile", float(readings), at_least=STRETCH / PULL_EVERY / 2),
    ]


__all__ = ["Link", "rows"]
