"""Dragging what hangs along the lever drawing, on the real bench: the drawing, the torque and the budget follow each move."""

from __future__ import annotations

import tempfile
import time
from pathlib import Path

import numpy as np
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QScrollArea

from benchmarks.row import Row
from benchmarks.window import Painted, closed, live, opened
from reckoner.demo import shipped
from reckoner.shop.runs.records import Step
from reckoner.store.database import Database
from reckoner.store.reader import reader_of
from reckoner.ui.bench.setup.hanging import HangingSheet
from reckoner.ui.frame import application
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.window.main_window import Window

TOOL = "HC-0125"
MOVES = 200
FRAME = 16.0
"""What one of sixty pictures a second may take, in ms."""


def _tool_id(folder: Path) -> int:
    database = Database(folder)
    with database.session() as session:
        found = int(reader_of(session).value("SELECT id FROM tool WHERE number = :number", number=TOOL))
    database.close()
    return found


def _hanging(window: Window, tool_id: int) -> HangingSheet:
    """The set-up of the tool's run, known weights chosen, one point in front."""
    window.go(Target(PlaceId.BENCH, tool=tool_id))
    bench = window.place(PlaceId.BENCH)
    live(lambda: bench.button.text() == "Put it on the bench" and window.idle)
    bench.primary()
    live(lambda: bench.run is not None and window.idle)
    while bench.run.step is Step.LOOK_OVER:
        stamp = bench.run.stamp
        bench.primary()
        live(lambda before=stamp: bench.run.stamp != before and window.idle)
    panel = bench.panels.set_up
    live(lambda: bool(panel.candidates) and window.idle)
    panel._choice_group.button(len(panel.candidates)).click()
    sheet = panel.ways.hanging
    live(lambda: window.idle and bool(sheet.points.chips))
    sheet.points.chips["15.0"].click()
    live(lambda: window.idle)
    panel.findChild(QScrollArea).ensureWidgetVisible(sheet.drawing)
    live(lambda: not sheet.drawing.visibleRegion().isEmpty())
    return sheet


def dragged(sheet: HangingSheet) -> list[float]:
    """Seconds from each move of the pointer until the drawing stands painted, the budget beside it found anew."""
    drawing = sheet.drawing
    painted = Painted(drawing)
    shape = drawing.geometry_of
    high = round(shape.drive.y()) + 60
    right, left = (round(shape.along(at).x()) for at in (drawing.state.hook, drawing.state.grip * 0.6))
    QTest.mousePress(drawing, Qt.MouseButton.LeftButton, pos=QPoint(right, high))
    found = []
    for x in np.concatenate([np.linspace(right, left, MOVES // 2), np.linspace(left, right, MOVES // 2)]).round():
        hook, begun = drawing.state.hook, time.perf_counter()
        QTest.mouseMove(drawing, QPoint(int(x), high))
        if drawing.state.hook != hook:
            while painted.at < begun and time.perf_counter() - begun < 1.0:
                application().processEvents()
            if painted.at < begun:
                raise TimeoutError("the drawing was not painted within a second of a move")
            found.append(painted.at - begun)
    QTest.mouseRelease(drawing, Qt.MouseButton.LeftButton)
    return found


def rows() -> list[Row]:
    folder = Path(tempfile.mkdtemp())
    shipped.put(folder)
    tool_id = _tool_id(folder)
    window = opened(folder)
    window.around.work.start()
    live(lambda: window.around.person is not None and window.idle, 60)
    times = np.array(dragged(_hanging(window, tool_id))) * 1000
    closed(window)
    print(f"{len(times)} moves of what hangs along the lever")
    middle, worst = float(np.median(times)), float(np.percentile(times, 95))
    return [
        Row("a move along the lever until painted with its budget, 95 % of them", worst, at_most=FRAME, unit="ms",
            low=middle, high=float(times.max())),
    ]  # fmt: skip
