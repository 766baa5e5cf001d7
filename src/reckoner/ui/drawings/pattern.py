"""A pattern of fasteners: each where it stands, with its place in the order, what is done, and the one that is next."""

from __future__ import annotations

import math
from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from reckoner.core.quantities.printing import ordinal
from reckoner.core.translation import tr
from reckoner.formats.papers.contents import Dots
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID


@dataclass(frozen=True)
class PatternState:
    """``done`` are numbers of fasteners (from 1) that this pass is through with, ``over`` those past their band, ``next`` the
    one whose turn it is (None: nobody's). Which one it is stands in it, and when it is its turn beside it."""

    dots: Dots
    done: frozenset[int] = frozenset()
    over: frozenset[int] = frozenset()
    next: int | None = None


class PatternDrawing(QWidget):
    """Signal ``pressed(number)`` when a fastener is pressed."""

    pressed = pyqtSignal(int)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._state: PatternState | None = None
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumSize(28 * GRID, 28 * GRID)
        self.setAccessibleName(tr("The fasteners"))
        theme.changed.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(46 * GRID, 46 * GRID)

    def show_state(self, state: PatternState | None) -> None:
        """Another pattern, or another state of it."""
        self._state = state
        if state is not None:
            names = state.dots.names
            order = ", ".join(names[i - 1] for i in state.dots.order)
            turn = tr("; next is {names}", names=names[state.next - 1]) if state.next else ""
            self.setAccessibleDescription(tr("In this order: {order}{turn}", order=order, turn=turn))
        self.update()

    @property
    def _radius(self) -> float:
        count = len(self._state.dots.places) if self._state is not None else 1
        side = min(self.width(), self.height())
        if self._state is not None and self._state.dots.ring:
            return max(6.0, min(2.75 * GRID, math.pi * side / 2 / (1.2 * count + 6.9)))
        return max(7.0, min(2.75 * GRID, side / 2 / max(2.0, math.sqrt(count) * 1.5)))

    def place_of(self, number: int) -> QPointF:
        """Where a fastener stands."""
        if self._state is None:
            return QPointF()
        x, y = self._state.dots.places[number - 1]
        reach = min(self.width(), self.height()) / 2 - 2.2 * self._radius
        return QPointF(self.width() / 2 + x * reach, self.height() / 2 + y * reach)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        state, theme = self._state, self._theme
        if state is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        radius = self._radius
        middle = QPointF(self.width() / 2, self.height() / 2)
        if state.dots.ring:
            painter.setPen(theme.pen("line", 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            reach = min(self.width(), self.height()) / 2 - 2.2 * radius
            painter.drawEllipse(middle, reach, reach)
        places = {number: i for i, number in enumerate(state.dots.order, start=1)}
        strong = QFontMetrics(theme.font(Type.STRONG))
        short = all(strong.horizontalAdvance(name) <= 1.7 * radius for name in state.dots.names)
        for number, name in enumerate(state.dots.names, start=1):
            turn = ordinal(places[number])
            inner, outer = (name, turn) if short else (str(number), f"{name} · {turn}")
            self._fastener(painter, number, inner, outer, radius, middle)

    def _fastener(self, painter: QPainter, number: int, inner: str, outer: str, radius: float, middle: QPointF) -> None:
        state, theme, at = self._state, self._theme, self.place_of(number)
        if state is None:
            return
        done, turn, over = number in state.done, number == state.next, number in state.over
        ring = "outside" if over else "accent" if turn else "inside" if done else "quiet"
        painter.setPen(QPen(theme.color(ring), 4 if turn else 2))
        painter.setBrush(
            theme.color("inside") if done and not over else theme.color("accent_wash" if turn else "surface")
        )
        painter.drawEllipse(at, radius, radius)
        if over:
            for sense in (-1, 1):
                painter.drawLine(
                    at + QPointF(-radius, -sense * radius) * 0.6, at + QPointF(radius, sense * radius) * 0.6
                )
        else:
            painter.setPen(theme.color("surface" if done else "ink"))
            painter.setFont(theme.font(Type.STRONG if radius > 1.5 * GRID else Type.CAPTION))
            box = QRectF(at.x() - radius, at.y() - radius, 2 * radius, 2 * radius)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, inner)
        painter.setFont(theme.font(Type.CAPTION))
        painter.setPen(theme.color("ink" if turn else "quiet"))
        wide = QFontMetrics(painter.font()).horizontalAdvance(outer)
        away = at - middle
        length = max(1.0, (away.x() ** 2 + away.y() ** 2) ** 0.5)
        side = QPointF(away.x() / length, away.y() / length) if state.dots.ring else QPointF(0, 1)
        where = at + QPointF(side.x() * (radius + wide / 2 + 4), side.y() * (radius + GRID + 2))
        painter.drawText(
            QRectF(where.x() - wide, where.y() - GRID, 2 * wide, 2 * GRID), Qt.AlignmentFlag.AlignCenter, outer
        )

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._state is None:
            return
        for number in range(1, len(self._state.dots.places) + 1):
            away = self.place_of(number) - event.position()
            if away.x() ** 2 + away.y() ** 2 <= (self._radius + 4) ** 2:
                self.pressed.emit(number)
                return
