"""The budget of a point as a bar chart of shares."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from reckoner.core.printing import percent
from reckoner.core.translation import tr
from reckoner.core.verdict import PointResult
from reckoner.shop.wording import component_words
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID


class Shares(QWidget):
    """The budget of a point as bars of w_i²/w²."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._shares: tuple[tuple[str, float], ...] = ()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        theme.changed.connect(self.update)

    def show_point(self, point: PointResult) -> None:
        assumed = {c.name for c in point.budget.components if c.assumed}
        self._shares = tuple(
            (component_words(name) + (tr(" (assumed 0)") if name in assumed else ""), share)
            for name, share in point.budget.shares()
            if share > 0 or name in assumed
        )
        self.setAccessibleName("; ".join(f"{name} {percent(share, 0)}" for name, share in self._shares))
        self.updateGeometry()
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(40 * GRID, 3 * GRID * max(1, len(self._shares)))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, theme = QPainter(self), self._theme
        painter.setFont(theme.font(Type.CAPTION))
        words, tail = 34 * GRID, 6 * GRID
        for i, (name, share) in enumerate(self._shares):
            top = i * 3 * GRID
            painter.setPen(theme.color("ink" if share else "quiet"))
            left = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
            painter.drawText(QRectF(0, top, words, 3 * GRID), left, name)
            room = self.width() - words - tail
            painter.fillRect(QRectF(words, top + GRID, room, GRID), theme.color("ground"))
            painter.fillRect(QRectF(words, top + GRID, room * share, GRID), theme.color("accent"))
            right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
            painter.drawText(QRectF(self.width() - tail, top, tail, 3 * GRID), right, percent(share, 0))
