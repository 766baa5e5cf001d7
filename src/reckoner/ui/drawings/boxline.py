"""The box along the scale: a tool's range, with every torque that the shop's weights make on it, to be chosen by a click."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from reckoner.core.quantities.printing import number, ticks
from reckoner.core.quantities.units import N_M, Unit
from reckoner.core.translation import tr
from reckoner.shop.setups.plan import BoxTorque
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID

HIGH = 8 * GRID
SIDE = 2 * GRID
NEAR = 12.0
"""Pixels within which a click means a torque."""


@dataclass(frozen=True)
class BoxLineState:
    """A tool's range from ``low`` to ``high``, what the ``box`` makes in it, the ``points`` that are planned, N·m."""

    low: float = 0.0
    high: float = 1.0
    unit: Unit = N_M
    box: tuple[BoxTorque, ...] = ()
    points: tuple[float, ...] = ()


class BoxLine(QWidget):
    """Signal ``taken(torque)``: a torque (N·m) that the box makes was chosen, by a click, or by ← and → along the line."""

    taken = pyqtSignal(float)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._state = BoxLineState()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(tr("What the weights make on this tool"))
        theme.changed.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(40 * GRID, HIGH)

    def show_state(self, state: BoxLineState) -> None:
        """Another tool, or other points."""
        self._state = state
        made = ", ".join(number(state.unit.from_si(one.high)) for one in state.box)
        self.setAccessibleDescription(f"{made} {state.unit.symbol}")
        self.update()

    def _along(self, torque: float) -> float:
        low, high = self._state.low, self._state.high
        return SIDE + (torque - low) / (high - low) * (self.width() - 2 * SIDE)

    def _torque_at(self, x: float) -> float:
        low, high = self._state.low, self._state.high
        return low + (x - SIDE) / (self.width() - 2 * SIDE) * (high - low)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or not self._state.box:
            return
        x = event.position().x()
        wanted = self._torque_at(x)
        near = min((one.near(wanted) for one in self._state.box), key=lambda torque: abs(self._along(torque) - x))
        if abs(self._along(near) - x) <= NEAR:
            self.taken.emit(near)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        onward = {Qt.Key.Key_Right: 1, Qt.Key.Key_Left: -1}.get(Qt.Key(event.key()))
        if onward is None or not self._state.box:
            super().keyPressEvent(event)
            return
        now = self._state.points[0] if self._state.points else self._state.low
        step = (self._state.high - self._state.low) * 1e-3
        further = [one.high for one in self._state.box if (one.high - now) * onward > step]
        if further:
            self.taken.emit(min(further) if onward > 0 else max(further))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        state, theme = self._state, self._theme
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font(Type.CAPTION))
        level = 4.5 * GRID
        painter.setPen(QPen(theme.color("quiet"), 1))
        painter.drawLine(QPointF(self._along(state.low), level), QPointF(self._along(state.high), level))
        self._numbers(painter, level)
        for one in state.box:
            left, right = self._along(one.low), self._along(one.high)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.color("accent"))
            painter.drawRoundedRect(QRectF(left - 2, level - GRID, max(4.0, right - left + 4), 2 * GRID), 2, 2)
        for point in state.points:
            makes = any(one.makes(point) for one in state.box)
            painter.setPen(QPen(theme.color("ink"), 2, Qt.PenStyle.SolidLine if makes else Qt.PenStyle.DotLine))
            x = self._along(point)
            painter.drawLine(QPointF(x, level - 2 * GRID), QPointF(x, level + GRID))
            words = number(state.unit.from_si(point))
            wide = QFontMetrics(painter.font()).horizontalAdvance(words)
            left = min(max(0.0, x - wide / 2), self.width() - wide)
            painter.drawText(QPointF(left, level - 2.5 * GRID), words)
        if self.hasFocus():
            painter.setPen(QPen(theme.color("accent"), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 4, 4)
        painter.end()

    def _numbers(self, painter: QPainter, level: float) -> None:
        state, metrics = self._state, QFontMetrics(painter.font())
        painter.setPen(self._theme.color("quiet"))
        last = ticks(state.unit.from_si(state.high), 5)
        for tick in last:
            torque = state.unit.to_si(tick)
            if torque < state.low:
                continue
            words = f"{number(tick)}\u202f{state.unit.symbol}" if tick == last[-1] else number(tick)
            wide = metrics.horizontalAdvance(words)
            x = min(self._along(torque) - wide / 2, self.width() - wide)
            painter.drawText(QPointF(max(0.0, x), level + 3 * GRID), words)
