"""A fast meter streaming into the real bench: nothing lost, little processor, smooth frames, a quick reading.

The stand-in runs as a process of its own, so that the window's processor time is its own. A stretch of STRETCH seconds runs
at real time for the processor, the pauses and the delay from the click to the painted reading; ten minutes' worth of samples
then come from another process over a socket as fast as the real link and watch take them, to see that none is lost.
"""

from __future__ import annotations

import subprocess
import sys
import tempfile
import threading
import time
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np
import psutil
from PyQt6.QtCore import QTimer

from benchmarks.heart import Heart
from benchmarks.row import Row
from benchmarks.window import Painted, closed, for_a_while, live, opened
from reckoner.demo import shipped
from reckoner.demo.scenario import demo_today
from reckoner.meters.link import MeterLink, Samples
from reckoner.meters.pull import PullAim, Signalled, Watch
from reckoner.shop.people.authorship import Act
from reckoner.shop.procedures.choosing import candidates
from reckoner.shop.runs import opening, setting_up, taking
from reckoner.store import times
from reckoner.store.database import Database
from reckoner.store.reader import reader_of
from reckoner.store.schema import Reference
from reckoner.store.terms import ZeroMoment
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.window.main_window import Window

RATE = 5000
STRETCH = 40.0
MINUTES = 10
PULL_EVERY = 4.0
WARM_UP = 3.0
FRAME = 0.016


FREE = (
    "SELECT id FROM tool WHERE number = 'HC-0417' OR id % 40 = 20 AND id NOT IN (SELECT tool_id FROM open_run) LIMIT 1"
)
"""A tool that is in no run: the demo's, or one of a big register's."""


def prepared(folder: Path, url: str) -> int:
    """A run ready for its first reading, its meter linked to ``url``; returns the tool's id."""
    database = Database(folder)
    with database.session() as session:
        tool_id = int(reader_of(session).value(FREE))
        act = Act(1, times.present_on(demo_today()))
        run = opening.open_run(session, tool_id, act)
        for line in run.inspection:
            run = setting_up.look_over(session, run.id, line.line, True, "", act)
        best = candidates(session, run.tool, run.rules, demo_today())[0]
        meter = session.get_one(Reference, best.reference.id)
        meter.link, meter.serial = url, ""
        run = setting_up.choose_reference(session, run.id, best.reference.id, "", act)
        run = setting_up.record_room(session, run.id, 21.4, 0.46, "", act)
        run = setting_up.record_zero(session, run.id, ZeroMoment.BEFORE, 0.0, act)
        while run.exercising:
            run = taking.record_exercise(session, run.id, None, act)
    database.close()
    return tool_id


@dataclass
class Streamed:
    """What a stretch at real time took and showed."""

    used: float = 0.0
    pauses: list[float] = field(default_factory=list)
    delays: list[float] = field(default_factory=list)
    missed: int = 0
    kept: int = 0
    seen: int = 0


def at_real_time(seconds: float = STRETCH, register: Path | None = None) -> Streamed:
    """The stand-in as a process of its own, over its socket, into the real window, on the demo or on a ``register``."""
    stand_in = subprocess.Popen(
        [sys.executable, "-m", "reckoner", "meter", "--rate", str(RATE)], stdout=subprocess.PIPE, text=True
    )
    url = stand_in.stdout.readline().strip()
    with tempfile.TemporaryDirectory() as place:
        folder = register or Path(place)
        shipped.put(folder)
        tool_id = prepared(folder, url)
        window = opened(folder)
        window.around.work.start()
        found = _measure(window, tool_id, seconds)
        closed(window)
    stand_in.terminate()
    stand_in.wait()
    return found


def _measure(window: Window, tool_id: int, seconds: float) -> Streamed:
    live(lambda: window.around.person is not None and window.idle, 60)
    window.go(Target(PlaceId.BENCH, tool=tool_id))
    live(lambda: window.current is window.place(PlaceId.BENCH) and window.idle, 60)
    bench = window.current
    live(lambda: bench.meter.streams and bench.meter.zero() is not None, 30)
    found = Streamed()
    pulls = bench.panels.pulls
    painted = Painted(pulls.head)
    waiting: list[tuple[float, float]] = []

    def count(samples: np.ndarray, _rate: float) -> None:
        found.seen += len(samples)

    def told(signal: Signalled) -> None:
        """The reading is shown, provisional; the hand lets go. The click was `ago` seconds before it was found in the
        stream."""
        now = time.perf_counter()
        waiting.append((now - signal.ago, now))
        QTimer.singleShot(150, bench.pulling.let_go)

    def kept() -> int:
        return sum(len(s.observations) for s in bench.run.series) if bench.run else 0

    def look() -> None:
        """A reading has been painted once the head was, after it was told."""
        for begun, at in list(waiting):
            if painted.at > at:
                found.delays.append(painted.at - begun)
                waiting.remove((begun, at))

    bench.meter.samples.connect(count)
    bench.meter.signalled.connect(told)  # connected last: the head has shown it
    looks = QTimer(window)
    looks.timeout.connect(look)
    looks.start(5)
    for_a_while(WARM_UP)
    heart = Heart(window)
    process = psutil.Process()
    before, begun, seen = process.cpu_times(), time.perf_counter(), found.seen
    pulling = QTimer(window)
    pulling.timeout.connect(bench.meter.pull)
    pulling.start(int(PULL_EVERY * 1000))
    for_a_while(seconds)
    after, ended = process.cpu_times(), time.perf_counter()
    pulling.stop()
    heart.stop()
    looks.stop()
    found.used = (after.user - before.user + after.system - before.system) / (ended - begun)
    found.pauses = heart.pauses
    found.kept = kept()
    found.missed = max(0, round(RATE * (ended - begun)) - (found.seen - seen))
    return found


SENDER = """
import socket, sys, numpy as np
from reckoner.core.quantities.units import N_M
from reckoner.meters.protocol import Identity, sample_line
RATE, MINUTES = {rate}, {minutes}
rng = np.random.default_rng(1)
up, past, down, rest = (np.arange(round(s * RATE)) / RATE for s in (2.0, 0.4, 0.25, 1.35))
after = 1 - 0.09 * np.minimum(past / 0.018, 1) * np.exp(-np.maximum(0, past - 0.018) / 0.05)
pull = np.concatenate([118 * up / 2, 118 * after, 118 * (1 - down / 0.25) ** 2, rest * 0])
blocks = [(pull + rng.normal(0, 0.05, len(pull))).round(3).tolist() for _ in range(5)]
listening = socket.create_server(("127.0.0.1", 0))
print(listening.getsockname()[1], flush=True)
connection, _ = listening.accept()
connection.sendall((Identity("B", "1", N_M, RATE, simulated=False).line() + "\\n").encode())
index = 0
for turn in range(int(MINUTES * 60 / 4)):
    block = blocks[turn % len(blocks)]
    connection.sendall("".join(sample_line(index + i, v) + "\\n" for i, v in enumerate(block)).encode())
    index += len(block)
print(index, flush=True)
sys.stdin.read()
"""


def ten_minutes() -> tuple[int, int, int, float]:
    """(samples sent, samples passed on in order, pulls seen, seconds) of ten minutes through the real socket, link, thread
    and watch, as fast as they are taken."""
    script = SENDER.format(rate=RATE, minutes=MINUTES)
    sender = subprocess.Popen([sys.executable, "-c", script], stdout=subprocess.PIPE, stdin=subprocess.PIPE, text=True)
    url = f"socket://127.0.0.1:{sender.stdout.readline().strip()}"
    link = MeterLink(url)
    watch = Watch(PullAim(120.0), RATE, signed=False)
    arrived = missed = signals = 0
    begun = time.perf_counter()

    def serve() -> None:
        nonlocal arrived, missed, signals
        for event in link.events():
            if isinstance(event, Samples):
                arrived += len(event.torque)
                missed += event.missed
                signals += sum(isinstance(news, Signalled) for news in watch.feed(event.torque))

    thread = threading.Thread(target=serve)
    thread.start()
    sent = int(sender.stdout.readline())
    while arrived + missed < sent and time.perf_counter() - begun < 120:
        time.sleep(0.01)
    took = time.perf_counter() - begun
    link.close()
    thread.join(5)
    sender.stdin.close()
    sender.wait()
    return sent, arrived - missed, signals, took


def rows() -> list[Row]:
    streamed = at_real_time()
    sent, arrived, signals, seconds = ten_minutes()
    pauses = np.array(streamed.pauses)
    print(
        f"{len(streamed.delays)} readings at {RATE} samples a second in {STRETCH:.0f} s; ten minutes' samples went through "
        f"link and watch in {seconds:.0f} s, with {signals} of {int(MINUTES * 60 / 4)} clicks seen"
    )
    late = float((pauses > FRAME).mean()) * 100
    delays = sorted(streamed.delays) or [float("inf")]
    return [
        Row("samples lost of ten minutes at 5000 a second, through the socket", float(sent - arrived), at_most=0),
        Row("samples that a stretch at real time lacks, seconds' worth", streamed.missed / RATE, at_most=0.1, unit="s"),
        Row("processor while streaming, % of one core", streamed.used * 100, at_most=20, unit="%"),
        Row("beats of the interface thread that were late by a frame, %", late, at_most=5, unit="%"),
        Row("longest pause of the interface thread while streaming", float(pauses.max()) * 1000, at_most=50, unit="ms"),
        Row(
            "from the click in the stream to the reading painted, worst", delays[-1] * 1000, at_most=100, unit="ms",
            low=delays[0] * 1000, high=delays[-1] * 1000,
        ),
        Row("readings kept meanwhile", float(streamed.kept), at_least=STRETCH / PULL_EVERY / 2),
    ]  # fmt: skip
