"""Enter, Backspace and Space belong to the place in front, unless something nearer wants them.

A key counts for what the eye has seen: a press that comes before the screen it would act on was painted is dropped, and so
is what a key held down repeats.
"""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QApplication, QLineEdit, QMainWindow, QPlainTextEdit, QPushButton, QWidget

from reckoner.ui.place import Place


def is_enter(event: QKeyEvent) -> bool:
    """Whether it is one of the two Enter keys. Qt's table of keys loads slowly: nothing names one before one is pressed."""
    return event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter)


class PlaceKeys(QObject):
    """Filters the application's keys for ``window``, whose place in front is ``place()``. ``top_line`` has its own Enter."""

    def __init__(self, window: QMainWindow, place: Callable[[], Place], top_line: QLineEdit) -> None:
        super().__init__(window)
        self._window = window
        self._place = place
        self._top_line = top_line

    def install(self) -> None:
        application = QApplication.instance()
        if application is not None:
            application.installEventFilter(self)

    def remove(self) -> None:
        application = QApplication.instance()
        if application is not None:
            application.removeEventFilter(self)

    def focused(self) -> QWidget | None:
        """The widget of the window that has the focus."""
        found = QApplication.focusWidget()
        return found if found is not None and found.window() is self._window else self._window.focusWidget()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if isinstance(event, QKeyEvent) and isinstance(watched, QWidget):
            if self._place().key(watched, event):
                return True
            if watched.window() is self._window and event.type() == QEvent.Type.KeyPress:
                focused = self.focused()
                if watched is (focused or self._window):
                    return self._nearer(event, focused)
        return super().eventFilter(watched, event)

    def _nearer(self, event: QKeyEvent, focused: QWidget | None) -> bool:
        if isinstance(focused, QPlainTextEdit):
            return False
        in_words = isinstance(focused, QLineEdit) and (
            focused is self._top_line or bool(focused.text()) or getattr(focused, "keeps_enter", False)
        )
        if in_words or not (is_enter(event) or event.key() == Qt.Key.Key_Backspace):
            return False
        place = self._place()
        if not place.seen or event.isAutoRepeat():
            return is_enter(event)
        if event.key() == Qt.Key.Key_Backspace:
            return place.strike()
        if isinstance(focused, QPushButton) and focused.property("class") != "primary":
            focused.click()
        else:
            place.primary()
        return True
