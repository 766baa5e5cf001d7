"""Buttons: the primary one, the others, and one that is held."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QFontMetrics, QPainter, QPaintEvent
from PyQt6.QtWidgets import QPushButton

from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.text import tip


def button(theme: Theme, text: str, call: Callable[[], None] | None = None, kind: str = "") -> QPushButton:
    """A button; ``kind`` is "", "primary", "link", "chosen" or "pill"."""
    made = QPushButton(text)
    made.setFont(theme.font(Type.LEAD if kind == "primary" else Type.STRONG))
    made.setProperty("class", kind)
    made.setAutoDefault(False)
    made.setCursor(Qt.CursorShape.PointingHandCursor)
    made.setAccessibleName(text)
    if call is not None:
        made.clicked.connect(lambda: call())
    return made


class PrimaryButton(QPushButton):
    """The one thing to do now, with its key drawn at its right end."""

    def __init__(self, theme: Theme, text: str = "", key: str = "Enter") -> None:
        super().__init__(text)
        self._theme = theme
        self._key = key
        self.setFont(theme.font(Type.LEAD))
        self.setProperty("class", "primary")
        self.setAutoDefault(False)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.say(text, key)

    def say(self, text: str, key: str = "Enter") -> None:
        self._key = key
        self.setText(text)
        self.setAccessibleName(text)
        self.setToolTip(tip(f"{text} ({key})" if key else text))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        small = self._theme.font(Type.CAPTION)
        beside = (self.width() - QFontMetrics(self.font()).horizontalAdvance(self.text())) // 2
        if not self._key or beside < QFontMetrics(small).horizontalAdvance(self._key) + 3 * GRID:
            return  # it would touch the words; the tooltip tells it
        painter = QPainter(self)
        painter.setFont(small)
        painter.setPen(self._theme.color("on_accent" if self.isEnabled() else "quiet"))
        where = self.rect().adjusted(0, 0, -2 * GRID, 0)
        painter.drawText(where, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, self._key)
