"""A row of a list from which one is chosen: a strong word, details or what speaks against it, in two lines if need be."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QFontMetrics, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QAbstractButton, QSizePolicy

from reckoner.core.translation import tr
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.text import tip


class ChoiceRow(QAbstractButton):
    """Checkable; space or a click chooses it."""

    def __init__(self, theme: Theme, title: str, detail: str, against: str = "") -> None:
        super().__init__()
        self._theme, self._title, self._detail, self._against = theme, title, detail, against
        self.setCheckable(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(
            f"{title}, {detail}" + (tr(", does not suit: {against}", against=against) if against else "")
        )
        self.setToolTip(tip(against))
        theme.changed.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(40 * GRID, 6 * GRID)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        theme = self._theme
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(self.rect()).adjusted(1, 1, -1, -1)
        painter.setPen(QPen(theme.color("focus" if self.hasFocus() or self.isChecked() else "line"), 2))
        painter.setBrush(theme.color("accent_wash" if self.isChecked() else "surface"))
        painter.drawRoundedRect(box, 6, 6)
        ring = QRectF(box.left() + 1.5 * GRID, box.center().y() - 8, 16, 16)
        painter.setBrush(theme.color("surface"))
        painter.setPen(QPen(theme.color("accent" if self.isChecked() else "quiet"), 2))
        painter.drawEllipse(ring)
        if self.isChecked():
            painter.setBrush(theme.color("accent"))
            painter.drawEllipse(ring.adjusted(4, 4, -4, -4))
        text = box.adjusted(5 * GRID, 0, -2 * GRID, 0)
        middle, left = Qt.AlignmentFlag.AlignVCenter, Qt.AlignmentFlag.AlignLeft
        painter.setFont(theme.font(Type.STRONG))
        painter.setPen(theme.color("ink"))
        painter.drawText(text, left | middle, self._title)
        titled = QFontMetrics(theme.font(Type.STRONG)).horizontalAdvance(self._title)
        rest = text.adjusted(max(9 * GRID, titled + 2 * GRID), 0, 0, 0)
        words = tr("not suitable: {against}", against=self._against) if self._against else self._detail
        fits = QFontMetrics(theme.font(Type.BODY)).horizontalAdvance(words) <= rest.width()
        painter.setFont(theme.font(Type.BODY if fits else Type.CAPTION))
        painter.setPen(theme.color("quiet"))
        painter.drawText(rest, left | middle | (0 if fits else Qt.TextFlag.TextWordWrap), words)
