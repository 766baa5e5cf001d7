"""A point's fence through time, small: to choose a point by its whole story."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QAbstractButton, QSizePolicy

from reckoner.core.translation import tr
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.mark import paint_mark
from reckoner.ui.widgets.text import tip
from reckoner.ui.widgets.timefence import TimePoint


class SmallFence(QAbstractButton):
    """Checkable; its words name the point."""

    def __init__(self, theme: Theme, words: str, points: tuple[TimePoint, ...], limit: float) -> None:
        super().__init__()
        self._theme, self._points, self._limit = theme, points, limit
        self.setText(words)
        self.setCheckable(True)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        newest = points[-1].state.words if points else tr("no result")
        self.setAccessibleName(f"{words}: {newest}")
        self.setToolTip(tip(f"{words}: {newest}"))
        theme.changed.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(20 * GRID, 8 * GRID)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        theme, painter, on = self._theme, QPainter(self), self.isChecked()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(self.rect()).adjusted(1, 1, -1, -1)
        painter.setPen(QPen(theme.color("accent" if on or self.hasFocus() else "line"), 2.5 if on else 1.5))
        painter.setBrush(theme.color("accent_wash" if on else "surface"))
        painter.drawRoundedRect(box, 6, 6)
        painter.setFont(theme.font(Type.STRONG))
        painter.setPen(theme.color("ink"))
        head = box.adjusted(GRID, 2, -GRID, 0)
        painter.drawText(head, Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft, self.text())
        if not self._points:
            return
        mark = QRectF(box.right() - 5 * GRID, box.top() + 4, 4 * GRID, 2 * GRID)
        paint_mark(painter, theme, mark, self._points[-1].state, mirrored=self._points[-1].deviation < 0)
        self._story(painter, box.adjusted(GRID, 3 * GRID + 2, -GRID, -GRID))

    def _story(self, painter: QPainter, yard: QRectF) -> None:
        theme, reach = self._theme, 1.4 * self._limit
        first, last = self._points[0].on.toordinal(), self._points[-1].on.toordinal()

        def y(deviation: float) -> float:
            return yard.center().y() - max(-reach, min(reach, deviation)) / reach * yard.height() / 2

        painter.setPen(theme.pen("post", 2))
        for side in (-1, 1):
            painter.drawLine(QPointF(yard.left(), y(side * self._limit)), QPointF(yard.right(), y(side * self._limit)))
        line: list[QPointF] = []
        painter.setPen(theme.pen("quiet", 1.5))
        for point in self._points:
            share = (point.on.toordinal() - first) / (last - first) if last > first else 0.5
            if point.begins and line:
                painter.drawPolyline(QPolygonF(line))
                line = []
            line.append(QPointF(yard.left() + 4 + share * (yard.width() - 8), y(point.deviation)))
        painter.drawPolyline(QPolygonF(line))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.state_color(self._points[-1].state))
        painter.drawEllipse(line[-1], 3.5, 3.5)
