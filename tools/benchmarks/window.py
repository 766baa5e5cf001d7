"""The real window in this process, driven by the event loop alone: nothing here pumps it."""

from __future__ import annotations

import os
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QEvent, QObject, QTimer
from PyQt6.QtWidgets import QWidget

from reckoner.__main__ import Meters, opening_of
from reckoner.cli.options import WindowOptions
from reckoner.ui.app import make_window
from reckoner.ui.frame import application
from reckoner.ui.theme import Theme
from reckoner.ui.window.main_window import Window


def live(until: Callable[[], bool], seconds: float = 30.0) -> None:
    """Let the event loop run as it always does until something is so. Raises TimeoutError."""
    app = application()
    look, over = QTimer(), QTimer()
    there = []

    def see() -> None:
        if until():
            there.append(True)
            app.exit()

    look.timeout.connect(see)
    over.timeout.connect(app.exit)
    over.setSingleShot(True)
    look.start(1)
    over.start(int(seconds * 1000))
    app.exec()
    look.stop()
    over.stop()
    if not there:
        raise TimeoutError("the window did not get there in time")


def for_a_while(seconds: float) -> None:
    """Let the event loop run for some time."""
    app = application()
    over = QTimer()
    over.setSingleShot(True)
    over.timeout.connect(app.exit)
    over.start(round(seconds * 1000))
    app.exec()


def opened(folder: Path) -> Window:
    """The window on ``folder``, shown, its database still opening."""
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    station = Path(tempfile.mkdtemp()) / "station.json"
    app = application()
    window = make_window(opening_of(WindowOptions(folder, True, None, False, station), Meters().url), Theme(app))
    window.frame.resize(1280, 800)
    window.frame.show()
    return window


def closed(window: Window) -> None:
    """Close the window and let it go, before the application goes."""
    window.frame.close()
    window.frame.deleteLater()
    for_a_while(0.1)


class Painted(QObject):
    """Notes when a widget was last painted."""

    def __init__(self, watched: QWidget) -> None:
        super().__init__(watched)
        self.at = 0.0
        watched.installEventFilter(self)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if event is not None and event.type() == QEvent.Type.Paint:
            QTimer.singleShot(0, self._note)  # behind the painting itself
        return super().eventFilter(watched, event)

    def _note(self) -> None:
        self.at = time.perf_counter()
