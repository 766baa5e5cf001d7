"""Where what is known is used: keys at the Setting place until they are answered, and a review of 10,000 loans."""

from __future__ import annotations

import tempfile
import time
from datetime import UTC, datetime, timedelta
from pathlib import Path

import numpy as np
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QWidget
from sqlalchemy import insert, select

from benchmarks.row import Row
from benchmarks.window import Painted, closed, for_a_while, live, opened
from reckoner.demo import shipped
from reckoner.shop.people.authorship import Act
from reckoner.shop.using import reviewing, reviews
from reckoner.store.database import Database
from reckoner.store.reader import reader_of
from reckoner.store.schema import HistoryPlace, LoanSetting, Person, Tool, ToolEvent
from reckoner.store.terms import EventKind
from reckoner.ui.frame import application
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.setting.sheet import SettingSheet
from reckoner.ui.window.main_window import Window

TOOL = "HC-0417"
LOANS = 10_000
FRAME = 16.0
"""What one of sixty pictures a second may take, in ms."""
AHEAD = 3.0
"""Seconds within which what the window loads ahead is there."""
ROUNDS = 40
"""How often the same keys are pressed."""
KEYS = (Qt.Key.Key_5, Qt.Key.Key_Backspace, Qt.Key.Key_Backspace, Qt.Key.Key_0)
"""From 80 to 805, which the tool cannot, back to 80, to 8 and to 80: each asks something else."""


def _settled(window: Window, sheet: SettingSheet) -> None:
    """The tool, its adapter and a first torque, as they are typed."""
    window.go(Target(PlaceId.SETTING))
    live(lambda: window.idle and sheet.isVisible())
    for field, text in ((sheet.asked.torque, "80"), (sheet.asked.tool, TOOL), (sheet.asked.adapters.adapter, "45 mm")):
        field.line.setFocus()
        QTest.keyClicks(field.line, text)
        live(lambda: window.idle)
    QTest.keyClick(sheet.asked.adapters.adapter.line, Qt.Key.Key_Return)
    live(lambda: window.idle and sheet.asked.ask is not None and bool(sheet.asked.ask.fitted))


def typed(window: Window) -> list[float]:
    """Seconds from each key in the wanted torque until the sentence or the picture stands painted anew."""
    sheet = window.place(PlaceId.SETTING).sheet
    _settled(window, sheet)
    for_a_while(AHEAD)
    field = sheet.asked.torque.line
    field.setFocus()
    seen = [Painted(widget) for widget in (sheet.picture.sentence, sheet.picture.drawing)]
    found = []
    for _ in range(ROUNDS):
        for key in KEYS:
            begun = time.perf_counter()
            _answered(field, key, seen, begun)
            found.append(time.perf_counter() - begun)
    return found


def _answered(field: QWidget, key: Qt.Key, seen: list[Painted], begun: float) -> None:
    QTest.keyClick(field, key)
    while max(painted.at for painted in seen) < begun:
        if time.perf_counter() - begun > 1.0:
            raise TimeoutError("a key was not answered within a second")
        application().processEvents()


def reviewed(folder: Path) -> float:
    """Seconds to judge every loan of a tool, keep the review and read it again."""
    database = Database(folder)
    with database.session() as session:
        tool = session.scalars(select(Tool).where(Tool.number == TOOL)).one()
        person = session.scalars(select(Person.id).order_by(Person.id)).first()
        first = 1_000_000  # behind everything that happened to it
        start = datetime(2026, 11, 24, 8, tzinfo=UTC)
        at = [start + timedelta(seconds=30 * i) for i in range(2 * LOANS)]
        kinds = (EventKind.LENT, EventKind.RETURNED)
        session.execute(
            insert(ToolEvent),
            [
                {"tool_id": tool.id, "sequence": first + i, "at": when, "person_id": person, "kind": kinds[i % 2],
                 "note": "Tower crew" if i % 2 == 0 else ""}
                for i, when in enumerate(at)
            ],
        )  # fmt: skip
        session.execute(insert(HistoryPlace), [{"tool_id": tool.id, "sequence": first + i} for i in range(len(at))])
        lent = session.scalars(
            select(ToolEvent.id).where(ToolEvent.tool_id == tool.id, ToolEvent.sequence >= first).order_by(ToolEvent.id)
        ).all()[::2]
        session.execute(
            insert(LoanSetting),
            [{"event_id": i, "torque_set": 60.0 + n % 50, "low": 58.0 + n % 50, "high": 62.0 + n % 50}
             for n, i in enumerate(lent)],
        )  # fmt: skip
        session.flush()
        begun = time.perf_counter()
        made = reviewing.begin(session, tool.id, Act(person, at[-1]))
        lines = reviews.review(reader_of(session), made).lines
        took = time.perf_counter() - begun
        if len(lines) < LOANS:
            raise AssertionError(f"{len(lines)} lines of {LOANS} loans")
    database.close()
    return took


def rows() -> list[Row]:
    folder = Path(tempfile.mkdtemp())
    shipped.put(folder)
    window = opened(folder)
    window.around.work.start()
    live(lambda: window.around.person is not None and window.idle, 60)
    times = np.array(typed(window)) * 1000
    closed(window)
    print(f"{len(times)} keys in the wanted torque, {LOANS} loans of one tool")
    middle, worst = float(np.median(times)), float(np.percentile(times, 95))
    return [
        Row("a key at the Setting place until its answer is painted, 95 % of them", worst, at_most=FRAME, unit="ms",
            low=middle, high=float(times.max())),
        Row(f"a review of {LOANS} loans, judged, kept and read", reviewed(folder) * 1000, at_most=1000.0, unit="ms"),
    ]  # fmt: skip
