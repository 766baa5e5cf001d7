"""The line at the foot of the window that tells something for a while, in room of its own: nothing above it moves."""

from __future__ import annotations

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtGui import QFontMetrics, QResizeEvent
from PyQt6.QtWidgets import QFrame

from reckoner.ui.layout import row
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.text import label, set_tone, tip

SHOWN_MS = 12_000
HIGH = 5 * GRID


class Foot(QFrame):
    """One line; what is longer stands smaller, in two."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.words = ""
        self.setFixedHeight(HIGH)
        self._said = label(theme, "", Type.STRONG, wrap=True)
        inside = row(self._said)
        inside.setContentsMargins(2 * GRID, 0, 2 * GRID, 0)
        inside.setAlignment(self._said, Qt.AlignmentFlag.AlignVCenter)
        self.setLayout(inside)
        self._quieten = QTimer(self)
        self._quieten.setSingleShot(True)
        self._quieten.timeout.connect(self._fall_silent)

    def say(self, words: str) -> None:
        """Tell ``words``; empty takes the last ones away."""
        self.words = words
        set_tone(self, "notice" if words else "")
        self._said.setText(words)
        self._fit()
        if words:
            self._quieten.start(SHOWN_MS)
        else:
            self._quieten.stop()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._fit()

    def _fit(self) -> None:
        strong = self._theme.font(Type.STRONG)
        room = self.width() - 4 * GRID
        long = QFontMetrics(strong).horizontalAdvance(self.words) > room
        self._said.setFont(self._theme.font(Type.CAPTION) if long else strong)
        self._said.setToolTip(tip(self.words) if long else "")

    def _fall_silent(self) -> None:
        self.say("")
