"""A line of text that keeps Enter to itself while it holds words."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, Qt
from PyQt6.QtGui import QKeyEvent, QKeySequence
from PyQt6.QtWidgets import QLineEdit


class LineEdit(QLineEdit):
    """QLineEdit passes Enter on to its window even when it acted on it; this one does not. With ``keeps_enter`` it keeps it
    also while it is empty. Ctrl+Z is its own only while there is something typed to take back."""

    keeps_enter = False

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        types = event.text().isprintable() and bool(event.text())
        enter = not types and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter)
        mine = enter and (bool(self.text()) or self.keeps_enter)
        super().keyPressEvent(event)
        if mine:
            event.accept()

    def event(self, event: QEvent | None) -> bool:
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.ShortcutOverride:
            undo, redo = QKeySequence.StandardKey.Undo, QKeySequence.StandardKey.Redo
            nothing = not self.isUndoAvailable() and event.matches(undo)
            if nothing or (not self.isRedoAvailable() and event.matches(redo)):
                event.ignore()
                return True
        return super().event(event)
