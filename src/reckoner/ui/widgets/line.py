"""A line of text that keeps Enter to itself while it holds words."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QLineEdit


class Line(QLineEdit):
    """QLineEdit passes Enter on to its window even when it acted on it; this one does not."""

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        types = event.text().isprintable() and bool(event.text())
        mine = not types and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and bool(self.text())
        super().keyPressEvent(event)
        if mine:
            event.accept()
