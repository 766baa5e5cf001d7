"""Pulls over each other, their signals at one moment: the one in front strong, the others faint. Torques in N·m inside."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QSizePolicy, QWidget

from reckoner.core.quantities.arrays import Values
from reckoner.core.quantities.printing import number, ticks
from reckoner.core.quantities.units import N_M, Unit
from reckoner.core.translation import tr
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID

BEFORE, AFTER = 2.5, 1.0
"""Seconds that are shown before and after the signal."""

HEADROOM = 1.15


@dataclass(frozen=True)
class Curve:
    """One pull: samples at ``rate`` a second, the signal at the sample ``at``, the ``reading`` there, whether it is
    struck."""

    samples: Values
    rate: float
    at: int
    reading: float
    struck: bool = False


@dataclass(frozen=True)
class PullsState:
    """``target`` is drawn as a line; ``front`` is the place of the pull in front."""

    target: float = 0.0
    unit: Unit = N_M
    curves: tuple[Curve, ...] = ()
    front: int = 0


class Pulls(QWidget):
    """Arrow keys, and a click on a signal, bring another pull to the front: signal ``turned(place)``."""

    turned = pyqtSignal(int)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.state = PullsState()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(tr("Pulls of this point"))
        theme.changed.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(80 * GRID, 30 * GRID)

    def show_state(self, state: PullsState) -> None:
        """Show other pulls, or another one in front."""
        self.state = state
        self.setAccessibleDescription(
            tr("{count} pulls, number {front} in front", count=len(state.curves), front=state.front + 1)
        )
        self.update()

    @property
    def _yard(self) -> QRectF:
        return QRectF(self.rect()).adjusted(8 * GRID, 2 * GRID, -2 * GRID, -4 * GRID)

    @property
    def _top(self) -> float:
        highest = [self.state.target, *(float(c.samples.max()) for c in self.state.curves if len(c.samples))]
        return max(highest) * HEADROOM or 1.0

    def _x(self, seconds: float) -> float:
        """Where a moment stands, in seconds after the signal."""
        return self._yard.left() + (seconds + BEFORE) / (BEFORE + AFTER) * self._yard.width()

    def _y(self, torque: float) -> float:
        return self._yard.bottom() - torque / self._top * self._yard.height()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, theme = QPainter(self), self._theme
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._axes(painter)
        painter.setClipRect(self._yard.adjusted(-1, -GRID, 1, 1))
        order = [i for i in range(len(self.state.curves)) if i != self.state.front]
        for i in order:
            painter.setPen(QPen(theme.color("line"), 1.5))
            painter.drawPolyline(self._line(self.state.curves[i]))
        if self.state.front < len(self.state.curves):
            front = self.state.curves[self.state.front]
            style = Qt.PenStyle.DotLine if front.struck else Qt.PenStyle.SolidLine
            painter.setPen(QPen(theme.color("accent"), 2, style))
            painter.drawPolyline(self._line(front))
            painter.setPen(QPen(theme.color("ink"), 2))
            painter.setBrush(theme.color("surface"))
            painter.drawEllipse(QPointF(self._x(0), self._y(front.reading)), 6, 6)
        painter.setClipping(False)
        if self.hasFocus():
            painter.setPen(QPen(theme.color("focus"), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 6, 6)

    def _line(self, curve: Curve) -> QPolygonF:
        """The curve in pixels: of each column the least and the greatest, so that a click of a few milliseconds is seen."""
        first = max(0, curve.at - int(BEFORE * curve.rate))
        kept = curve.samples[first : curve.at + int(AFTER * curve.rate)]
        step = max(1, int((BEFORE + AFTER) * curve.rate / max(1.0, self._yard.width())))
        whole = kept[: len(kept) // step * step].reshape(-1, step)
        points = []
        for i, (low, high) in enumerate(zip(whole.min(axis=1), whole.max(axis=1), strict=True)):
            x = self._x((first + i * step - curve.at) / curve.rate)
            points += [QPointF(x, self._y(float(low)))] if step == 1 else [
                QPointF(x, self._y(float(low))), QPointF(x, self._y(float(high))),
            ]  # fmt: skip
        return QPolygonF(points)

    def _axes(self, painter: QPainter) -> None:
        theme, yard, unit = self._theme, self._yard, self.state.unit
        painter.setFont(theme.font(Type.CAPTION))
        right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        marks = ticks(unit.from_si(self._top), max(1, int(yard.height() // (5 * GRID))))
        for value in marks:
            y = self._y(unit.to_si(value))
            painter.setPen(theme.pen("line"))
            painter.drawLine(QPointF(yard.left(), y), QPointF(yard.right(), y))
            painter.setPen(theme.color("quiet"))
            words = number(value) if value != marks[-1] else f"{number(value)}\u202f{unit.symbol}"
            painter.drawText(QRectF(0, y - GRID, yard.left() - GRID, 2 * GRID), right, words)
        if self.state.target:
            painter.setPen(QPen(theme.color("ink"), 1, Qt.PenStyle.DashLine))
            painter.drawLine(
                QPointF(yard.left(), self._y(self.state.target)), QPointF(yard.right(), self._y(self.state.target))
            )
        for seconds in np.arange(-BEFORE + 0.5, AFTER + 0.25, 0.5):
            x = self._x(float(seconds))
            painter.setPen(theme.pen("line"))
            painter.drawLine(QPointF(x, yard.bottom()), QPointF(x, yard.bottom() + GRID / 2))
            painter.setPen(theme.color("quiet"))
            words = tr("signal") if abs(seconds) < 0.01 else f"{number(float(seconds))}\u202fs".replace("-", "−")
            painter.drawText(
                QRectF(x - 4 * GRID, yard.bottom() + GRID, 8 * GRID, 2 * GRID), Qt.AlignmentFlag.AlignCenter, words
            )

    def _turn(self, place: int) -> None:
        if 0 <= place < len(self.state.curves) and place != self.state.front:
            self.turned.emit(place)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        step = {Qt.Key.Key_Right: 1, Qt.Key.Key_Left: -1}.get(Qt.Key(event.key())) if event is not None else None
        if step is not None:
            self._turn(self.state.front + step)
        else:
            super().keyPressEvent(event)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """The pull whose signal is nearest to the height that was pressed."""
        if event is not None and self.state.curves:
            y = event.position().y()
            near = min(range(len(self.state.curves)), key=lambda i: abs(self._y(self.state.curves[i].reading) - y))
            self._turn(near)

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        self.update()
