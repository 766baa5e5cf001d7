"""What a person waits for on a register of any size: run as a process of its own, prints seconds as JSON.

    python -m benchmarks.scale_probe FOLDER

For each act: how long until its answer was painted, how long the same statements take in plain SQL over the same file, and
the longest pause of the interface thread meanwhile.
"""

from __future__ import annotations

import json
import sqlite3
import statistics
import sys
import time
from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from benchmarks.heart import Heart
from benchmarks.window import Painted, closed, for_a_while, live, opened
from reckoner.demo.scenario import demo_today
from reckoner.shop.people.authorship import Act
from reckoner.shop.procedures.choosing import candidates
from reckoner.shop.runs import opening, setting_up, taking
from reckoner.store import times
from reckoner.store.database import FILE
from reckoner.store.reader import reader_of
from reckoner.store.terms import ZeroMoment
from reckoner.ui.places import PlaceId, Target

ROUNDS = 7


class Statements:
    """Notes what the window's connection asks, to be asked again in plain SQL."""

    def __init__(self, window: object) -> None:
        self.said: list[str] = []
        self._window = window

    def begin(self) -> None:
        self.said.clear()

    def install(self) -> None:
        done = []
        self._window.around.work.look(
            lambda reader: reader._connection.set_trace_callback(self.said.append), lambda _none: done.append(1)
        )
        live(lambda: bool(done))

    def plain(self, folder: Path) -> float:
        """Seconds that they take by themselves: those that read."""
        asked = [s for s in self.said if s.lstrip().upper().startswith("SELECT")]
        connection = sqlite3.connect(f"file:{folder / FILE}?mode=ro", uri=True)
        took = []
        for _ in range(3):
            begun = time.perf_counter()
            for statement in asked:
                connection.execute(statement).fetchall()
            took.append(time.perf_counter() - begun)
        connection.close()
        return min(took)


def prepared(session: object, number_id: int) -> int:
    """A run of the tool that is ready for its readings, typed."""
    act = Act(1, times.present_on(demo_today()))
    run = opening.open_run(session, number_id, act)
    for line in run.inspection:
        run = setting_up.look_over(session, run.id, line.line, True, "", act)
    best = candidates(session, run.tool, run.rules, demo_today())[0]
    run = setting_up.choose_reference(session, run.id, best.reference.id, "", act)
    run = setting_up.record_room(session, run.id, 21.4, 0.46, "", act)
    run = setting_up.record_zero(session, run.id, ZeroMoment.BEFORE, 0.0, act)
    while run.exercising:
        run = taking.record_exercise(session, run.id, None, act)
    return run.id


def main(folder: Path) -> None:
    found: dict[str, dict[str, float]] = {}
    begun = time.perf_counter()
    window = opened(folder)
    window.around.work.start()
    heart = Heart(window)
    live(lambda: window.around.person is not None and window.current.seen and window.idle, 300)
    found["the register opened, Today painted"] = {"seconds": time.perf_counter() - begun, "pause": 0.0}
    for_a_while(0.3)
    heart.worst()
    for_a_while(3.0)
    found["loading ahead"] = {"seconds": 3.0, "pause": heart.worst()}
    asked = Statements(window)
    asked.install()

    def measure(
        name: str, act: Callable[[int], None], there: Callable[[], bool], painted: Painted, rounds: int = ROUNDS
    ) -> None:
        """Do it some times; the middle of the seconds until what it shows was painted."""
        took, pauses, plain = [], [], []
        for i in range(rounds + 1):
            for_a_while(0.05)
            heart.worst()
            asked.begin()
            start = time.perf_counter()
            act(i)
            live(there, 60)
            shown = time.perf_counter()
            live(lambda start=start, shown=shown: painted.at > max(start, shown - 0.02), 5)
            answered = max(painted.at, shown) - start
            live(lambda: window.idle, 60)  # what follows, as the count of a long list
            if i:  # the first warms up
                took.append(answered)
                pauses.append(heart.worst())
                plain.append(asked.plain(folder))
        found[name] = {
            "seconds": statistics.median(took), "low": min(took), "high": max(took), "pause": max(pauses),
            "plain": statistics.median(plain),
        }  # fmt: skip

    today = Painted(window.current.lists.viewport())

    def to_today(_i: int) -> None:
        window.current.expect()
        window.go(Target(PlaceId.TODAY))

    measure("Today shown", to_today, lambda: window.current.seen, today)
    window.go(Target(PlaceId.TOOLS))
    live(lambda: window.current is window.place(PlaceId.TOOLS) and window.idle)
    tools = window.current
    listed = Painted(tools.list.viewport())

    def to_tools(_i: int) -> None:
        tools.expect()
        window.go(Target(PlaceId.TOOLS))

    measure("Tools opened", to_tools, lambda: window.current.seen, listed)
    words = ["0000", "click", "06", "Tower", "zzz", "W-0000", "held", "S00001"]

    def type_a_word(i: int) -> None:
        tools.filter.setFocus()
        tools.filter.selectAll()
        tools.filter.insert(words[i % len(words)])

    measure("a filter keystroke", type_a_word, lambda: tools._shown == tools.filter.text(), listed)
    tools.filter.clear()
    live(lambda: window.idle)
    for_a_while(0.2)
    tools.list.setFocus()
    sheet = Painted(tools.sheet)
    before = {"number": ""}

    def go_down(_i: int) -> None:
        before["number"] = tools.sheet.number.text()
        QTest.keyClick(QApplication.focusWidget() or tools.list, Qt.Key.Key_Down)

    measure("a sheet opened", go_down, lambda: tools.sheet.number.text() != before["number"], sheet)

    def scan(i: int) -> None:
        number = f"W-{11 + i:06}"
        before["number"] = number
        window.top_line.begin()
        QTest.keyClicks(window.top_line, number)
        QTest.keyClick(window.top_line, Qt.Key.Key_Return)

    measure("a scan in the top line", scan, lambda: tools.sheet.number.text() == before["number"], sheet)
    ids: list[int] = []
    free = "SELECT min(id) FROM tool WHERE id % 40 > 20 AND id NOT IN (SELECT tool_id FROM open_run)"
    window.around.work.ask(lambda session: prepared(session, reader_of(session).value(free)), ids.append)
    live(lambda: bool(ids) and window.idle)
    window.go(Target(PlaceId.BENCH, run=ids[0]))
    live(lambda: window.current is window.place(PlaceId.BENCH) and window.current.run is not None and window.idle)
    bench = window.current
    grid = Painted(bench.panels.pulls.grid)
    count = {"readings": 0}

    def readings() -> int:
        return sum(len(s.observations) for s in bench.run.series)

    def take(i: int) -> None:
        count["readings"] = readings()
        line = bench.panels.pulls.typed.line
        line.setText(f"{bench.run.current.target * (1.003 + i / 1e4):.2f}")
        QTest.keyClick(line, Qt.Key.Key_Return)

    measure("a reading kept", take, lambda: readings() > count["readings"], grid, rounds=4)
    bench.presenter.give_up("measured")  # so that the tool is free for the next time
    live(lambda: window.idle)
    closed(window)
    json.dump(found, sys.stdout)


if __name__ == "__main__":
    main(Path(sys.argv[1]).resolve())
