"""Enter, Backspace and Space belong to the place in front, unless something nearer wants them.

A key counts for what the eye has seen: a press that comes before the screen it would act on was painted is dropped, and so
is what a key held down repeats. What is typed outside of any field goes where it is wanted: a number to the field that waits
for one, anything else to the top line; what is typed while a place is being loaded is dropped whole, up to the next pause.

The sheet of keys, made from the action registry.
"""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QAbstractSpinBox,
    QApplication,
    QComboBox,
    QDialog,
    QGridLayout,
    QLineEdit,
    QMainWindow,
    QPlainTextEdit,
    QPushButton,
    QWidget,
)

from reckoner.core.translation import tr
from reckoner.ui.actions import ACTIONS, key_words
from reckoner.ui.layout import column, row
from reckoner.ui.place import Place
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.text import label
from reckoner.ui.window.topline import TopLine

PAUSE_MS = 600
"""What is typed after so long is something new, and no longer the rest of what was dropped."""

BEGINS_A_NUMBER = "0123456789.,-−+"


def is_enter(event: QKeyEvent) -> bool:
    """Whether it is one of the two Enter keys. Qt's table of keys loads slowly: nothing names one before one is pressed."""
    return event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter)


def keeps_enter(focused: QWidget | None) -> bool:
    """Whether Enter is for what has the focus alone: a question, or a field in one, however empty."""
    in_question = focused
    while isinstance(focused, QLineEdit) and in_question is not None and not getattr(in_question, "keeps_enter", False):
        in_question = in_question.parentWidget()
    return bool(getattr(in_question, "keeps_enter", False))


def types(event: QKeyEvent) -> bool:
    """Whether a key writes something that could begin a word or a number."""
    written, by = event.text(), event.modifiers()
    plain = not by & (Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier)
    return plain and bool(written) and written.isprintable() and not written.isspace()


class PlaceKeys(QObject):
    """Filters the application's keys for ``window``, whose place in front is ``place()``. ``top_line`` has its own Enter, and
    begins with what is typed outside of any field."""

    def __init__(self, window: QMainWindow, place: Callable[[], Place], top_line: TopLine) -> None:
        super().__init__(window)
        self._window = window
        self._place = place
        self._top_line = top_line
        self._dropped = 0
        self.pressed_at: Callable[[QKeyEvent], int] = QKeyEvent.timestamp

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
            if not self._top_line.isEnabled():  # nothing is below: what lies over it has its own keys
                return self._pressed_over(watched, event)
            if self._place().key(watched, event):
                return True
            if watched.window() is self._window and event.type() == QEvent.Type.KeyPress:
                if event.modifiers() & Qt.KeyboardModifier.AltModifier and event.text().isdigit():
                    return True  # a place that there is not: nothing is typed by it
                focused = self.focused()
                first = watched is (focused or self._window)
                if first and self._is_rest_of_dropped(event):
                    return True
                if types(event):
                    return self._typed(event, focused, first=first, last=watched is self._window)
                if first:
                    return self._nearer(event, focused)
        return super().eventFilter(watched, event)

    def _pressed_over(self, watched: QWidget, event: QKeyEvent) -> bool:
        """Enter on a button that has the focus, while the places take no key."""
        if event.type() != QEvent.Type.KeyPress or not is_enter(event) or not isinstance(watched, QPushButton):
            return False
        if not event.isAutoRepeat():
            watched.click()
        return True

    def _is_rest_of_dropped(self, event: QKeyEvent) -> bool:
        """What is typed on, without a pause, after something that was dropped goes with it; Enter is its end. The display
        says when a key was pressed, however late it is told."""
        if not self._dropped or self.pressed_at(event) - self._dropped > PAUSE_MS:
            self._dropped = 0
            return False
        self._dropped = 0 if is_enter(event) else self.pressed_at(event)
        return True

    def _typed(self, event: QKeyEvent, focused: QWidget | None, *, first: bool, last: bool) -> bool:
        """Something is typed: outside of any field it goes to the one that waits for a number, or, where nothing else took
        it, begins the top line."""
        writes = (QLineEdit, QPlainTextEdit, QComboBox, QAbstractSpinBox)
        if isinstance(focused, writes) and focused.isEnabled():
            return False
        if event.isAutoRepeat():
            return True
        place = self._place()
        if first and not place.stands:
            self._dropped = self.pressed_at(event)
            return True
        if first and event.text() in BEGINS_A_NUMBER:
            field = place.awaited(focused)
            if field is not None:
                field.setFocus()
                field.line.selectAll()  # it begins anew
                field.line.insert(event.text())
                return True
        if last or (first and isinstance(focused, QAbstractItemView)):
            self._top_line.begin_with(event.text())
            return True
        return False

    def _look_for_scan(self, focused: QWidget | None) -> None:
        """A scanner types a tool's number and Enter wherever the focus is, also into a field that waits for a number."""
        from reckoner.ui.widgets.entry import EntryField  # only when it is wanted

        field = focused.parentWidget() if focused is not None else None
        if isinstance(field, EntryField) and field.awaits_number and not field.reads and field.text.strip():
            self._top_line.scanned(field.text.strip(), field.clear)

    def _nearer(self, event: QKeyEvent, focused: QWidget | None) -> bool:
        if isinstance(focused, QPlainTextEdit):
            return False
        in_words = isinstance(focused, QLineEdit) and (focused is self._top_line or bool(focused.text()))
        if is_enter(event) and in_words:
            self._look_for_scan(focused)
        kept = is_enter(event) and keeps_enter(focused)
        if in_words or kept or not (is_enter(event) or event.key() == Qt.Key.Key_Backspace):
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


class KeySheet(QDialog):
    """Not modal: it never stands in the way of a pull. F1 or Escape closes it. ``show_pedals`` opens the sheet of those."""

    def __init__(self, theme: Theme, parent: QWidget, show_pedals: Callable[[], None]) -> None:
        super().__init__(parent)
        self.setModal(False)
        self.setWindowTitle(tr("Keys"))
        grid = QGridLayout()
        grid.setHorizontalSpacing(3 * GRID)
        grid.setVerticalSpacing(GRID)
        for i, spec in enumerate(ACTIONS):
            words = key_words(spec.id) + (tr(", held down") if spec.held else "")
            grid.addWidget(label(theme, words, Type.STRONG), i, 0, Qt.AlignmentFlag.AlignRight)
            grid.addWidget(label(theme, spec.name, Type.BODY), i, 1)
            grid.addWidget(label(theme, spec.tooltip, Type.BODY, "quiet"), i, 2)
        self.pedals = button(theme, tr("Foot pedals…"), show_pedals)
        head = row(label(theme, tr("Keys"), Type.TITLE), 1, self.pedals)
        self.setLayout(column(head, grid, gap=2, margin=3))
