"""What an adapter's angle does to the torque at the joint, from in line to folded back, and how far it may stand
otherwise."""

from __future__ import annotations

import math
from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QSizePolicy, QWidget

from reckoner.core.quantities.printing import THIN, fixed, percent
from reckoner.core.translation import tr
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID

STEPS = 60


@dataclass(frozen=True)
class AngleState:
    """``curve`` are factors from 0 to π in even steps; ``angle_rad`` is where the adapter stands, ``window`` between which
    angles it may."""

    curve: tuple[float, ...]
    angle_rad: float
    window: tuple[float, float] | None = None


class AngleChart(QWidget):
    """Looked at only; the adapter is moved on the drawing."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._state: AngleState | None = None
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumSize(24 * GRID, 14 * GRID)
        self.setAccessibleName(tr("What the angle does"))
        theme.changed.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(50 * GRID, 20 * GRID)

    def show_state(self, state: AngleState | None) -> None:
        """Another adapter, or another angle; None for none."""
        self._state = state
        if state is not None and state.window is not None:
            low, high = (fixed(math.degrees(a), 0) for a in state.window)
            self.setAccessibleDescription(tr("It may stand between {low} and {high} degrees", low=low, high=high))
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        state, theme = self._state, self._theme
        if state is None or len(state.curve) < 2:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        yard = QRectF(self.rect()).adjusted(8 * GRID, 1.5 * GRID, -3 * GRID, -3.5 * GRID)
        reach = max(abs(f - 1) for f in state.curve) or 0.01

        def at(angle: float, f: float) -> QPointF:
            return QPointF(
                yard.left() + angle / math.pi * yard.width(), yard.center().y() - (f - 1) / reach * yard.height() / 2
            )

        if state.window is not None:
            low, high = (max(0.0, min(math.pi, a)) for a in state.window)
            left, right = at(low, 1).x(), at(high, 1).x()
            painter.fillRect(QRectF(left, yard.top(), right - left, yard.height()), theme.color("accent_wash"))
        painter.setFont(theme.font(Type.CAPTION))
        for part in (-1, -0.5, 0, 0.5, 1):
            y = at(0, 1 + part * reach).y()
            painter.setPen(theme.pen("ink" if part == 0 else "line"))
            painter.drawLine(QPointF(yard.left(), y), QPointF(yard.right(), y))
            painter.setPen(theme.color("quiet"))
            words = percent(part * reach, 0 if reach >= 0.06 else 1, sign=True) if part else f"0{THIN}%"
            where = QRectF(0, y - GRID, yard.left() - GRID, 2 * GRID)
            painter.drawText(where, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, words)
        for degrees in (0, 45, 90, 135, 180):
            x = at(math.radians(degrees), 1).x()
            painter.setPen(theme.pen("line"))
            painter.drawLine(QPointF(x, yard.bottom()), QPointF(x, yard.bottom() + GRID / 2))
            painter.setPen(theme.color("quiet"))
            where = QRectF(x - 3 * GRID, yard.bottom() + GRID, 6 * GRID, 2 * GRID)
            painter.drawText(where, Qt.AlignmentFlag.AlignCenter, f"{degrees}°")
        step = math.pi / (len(state.curve) - 1)
        painter.setPen(QPen(theme.color("ink"), 2))
        painter.drawPolyline(QPolygonF([at(i * step, f) for i, f in enumerate(state.curve)]))
        angle = min(math.pi, abs(state.angle_rad))
        place = min(len(state.curve) - 1, round(angle / step))
        painter.setPen(QPen(theme.color("surface"), 2))
        painter.setBrush(theme.color("accent"))
        painter.drawEllipse(at(angle, state.curve[place]), 7, 7)
