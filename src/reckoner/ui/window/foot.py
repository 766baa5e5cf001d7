"""The line at the foot of the window that tells something for a while. It takes its room from the place above it."""

from __future__ import annotations

from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QFrame

from reckoner.ui.layout import row
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.text import label

SHOWN_MS = 12_000


class Foot(QFrame):
    """Hidden while it has nothing to say."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.setProperty("class", "notice")
        self.hide()
        self.words = ""
        self._said = label(theme, "", Type.STRONG, "frame-quiet", wrap=True)
        inside = row(self._said)
        inside.setContentsMargins(2 * GRID, GRID, 2 * GRID, GRID)
        self.setLayout(inside)
        self._quieten = QTimer(self)
        self._quieten.setSingleShot(True)
        self._quieten.timeout.connect(self._fall_silent)

    def say(self, words: str) -> None:
        """Tell ``words``; empty takes the last ones away."""
        self.words = words
        self._said.setText(words)
        self.setVisible(bool(words))
        if words:
            self._quieten.start(SHOWN_MS)
        else:
            self._quieten.stop()

    def _fall_silent(self) -> None:
        self.say("")
