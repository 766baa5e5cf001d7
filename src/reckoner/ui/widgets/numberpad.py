"""Large keys on the screen for a field that takes a number: for who has the mouse alone, or gloves on."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QEvent, QObject, QPoint, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QApplication, QFrame, QGridLayout, QLineEdit, QPushButton, QWidget

from reckoner.core.translation import tr
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button

KEY = 7 * GRID
"""As wide and as high as a gloved finger wants it."""

ROWS = ("789", "456", "123", "−0.")
BACK, ENTER = "⌫", "Enter"


class NumberPad(QFrame):
    """Types into the ``line`` as a keyboard would, and never takes the focus from it."""

    def __init__(self, theme: Theme, line: QLineEdit) -> None:
        window = line.window() or line
        super().__init__(window)
        self._line = line
        self.setProperty("class", "pad")
        self.keys: dict[str, QPushButton] = {}
        grid = QGridLayout()
        grid.setSpacing(GRID)
        grid.setContentsMargins(GRID, GRID, GRID, GRID)
        for at, row in enumerate(ROWS):
            for beside, sign in enumerate(row):
                grid.addWidget(self._key(theme, sign, sign), at, beside)
        grid.addWidget(self._key(theme, BACK, tr("Take the last figure away")), len(ROWS), 0)
        grid.addWidget(self._key(theme, ENTER, tr("Enter")), len(ROWS), 1, 1, 2)
        self.setLayout(grid)
        self.hide()
        window.installEventFilter(self)

    def _key(self, theme: Theme, sign: str, words: str) -> QPushButton:
        made = button(theme, words if sign == ENTER else sign, partial(self._press, sign))
        made.setFont(theme.font(Type.TITLE))
        made.setAccessibleName(words)
        made.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        made.setMinimumSize(KEY, KEY)
        made.setAutoRepeat(sign == BACK)
        self.keys[sign] = made
        return made

    def toggle(self) -> None:
        """Show it under the line, or above it where there is no room, the focus in the line; or put it away."""
        if self.isVisible():
            self.hide()
            return
        window = self._line.window() or self._line
        self.adjustSize()
        below = self._line.mapTo(window, QPoint(0, self._line.height() + GRID))
        above = self._line.mapTo(window, QPoint(0, -self.height() - GRID))
        at = below if below.y() + self.height() <= window.height() else above
        self.move(max(0, min(at.x(), window.width() - self.width())), max(0, at.y()))
        self._line.setFocus()
        self.show()
        self.raise_()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """It goes with its line, and when the window is laid out anew."""
        if event is not None and self.isVisible():
            gone = event.type() == QEvent.Type.LayoutRequest and not self._line.isVisible()
            if gone or event.type() == QEvent.Type.Resize:
                self.hide()
        return super().eventFilter(watched, event)

    def _press(self, sign: str) -> None:
        key, text = {
            BACK: (Qt.Key.Key_Backspace, ""),
            ENTER: (Qt.Key.Key_Return, "\r"),
        }.get(sign, (Qt.Key.Key_unknown, sign))
        if not self._line.isVisible():
            self.hide()
            return
        self._line.setFocus()
        for kind in (QEvent.Type.KeyPress, QEvent.Type.KeyRelease):
            QApplication.sendEvent(self._line, QKeyEvent(kind, key, Qt.KeyboardModifier.NoModifier, text))
        if sign == ENTER and not self._line.isVisible():
            self.hide()


def pad_button(theme: Theme, line: QLineEdit) -> QWidget:
    """A button that brings the pad for ``line``; made when it is first pressed."""
    pads: list[NumberPad] = []

    def pressed() -> None:
        if not pads:
            pads.append(NumberPad(theme, line))
        pads[0].toggle()

    made = button(theme, "1 2 3", pressed, "link")
    made.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    made.setFixedWidth(9 * GRID)
    made.setToolTip(tr("Keys on the screen, for the mouse or a glove"))
    made.setAccessibleName(tr("Keys on the screen for {name}", name=line.accessibleName()))
    return made
