"""Buttons: the primary one, the others, and one that is held."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QFontMetrics, QPainter, QPaintEvent, QResizeEvent
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
        self._key, self._words = key, text
        self.setProperty("class", "primary")
        self.setAutoDefault(False)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.say(text, key)

    def say(self, text: str, key: str = "Enter") -> None:
        self._key = key
        self._words = text
        self._fit()
        self.setAccessibleName(text)
        self.setToolTip(tip(f"{text} ({key})" if key else text))

    def text(self) -> str:
        """What it says, in however many lines."""
        return self._words

    def minimumSizeHint(self) -> QSize:
        """As wide as the words in two lines."""
        widest = max(self._wide(Type.STRONG, line) for line in _in_two(self._words))
        return QSize(widest + 4 * GRID, super().minimumSizeHint().height())

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._fit()

    def _fit(self) -> None:
        """Say it in two smaller lines where one is wider than the button."""
        fits = self._wide(Type.LEAD, self._words) <= self.width() - 4 * GRID
        self.setFont(self._theme.font(Type.LEAD if fits else Type.STRONG))
        self.setText(self._words if fits else "\n".join(_in_two(self._words)))

    def _wide(self, role: Type, words: str) -> int:
        return QFontMetrics(self._theme.font(role)).horizontalAdvance(words)

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


def _in_two(words: str) -> list[str]:
    """``words`` in two lines as alike as they can be; in one where it is one word.

    >>> _in_two("Put it on the bench")
    ['Put it on', 'the bench']
    """
    parts = words.split(" ")
    cuts = [[" ".join(parts[:i]), " ".join(parts[i:])] for i in range(1, len(parts))]
    return min(cuts, key=lambda lines: max(map(len, lines)), default=[words])
