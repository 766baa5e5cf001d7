"""A beat on the interface thread: every pause of it is seen, whatever caused it."""

from __future__ import annotations

import time

from PyQt6.QtCore import QObject, Qt, QTimer

BEAT_MS = 5


class Heart(QObject):
    """``pauses`` in s: how much longer than a beat each beat took to come."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.pauses: list[float] = []
        self._last = time.perf_counter()
        self._timer = QTimer(self)
        self._timer.setTimerType(Qt.TimerType.PreciseTimer)
        self._timer.setInterval(BEAT_MS)
        self._timer.timeout.connect(self._beat)
        self._timer.start()

    def _beat(self) -> None:
        now = time.perf_counter()
        self.pauses.append(max(0.0, now - self._last - BEAT_MS / 1000))
        self._last = now

    def worst(self) -> float:
        """The longest pause since it was asked last, in s."""
        found = max(self.pauses, default=0.0)
        self.pauses.clear()
        return found

    def stop(self) -> None:
        self._timer.stop()
