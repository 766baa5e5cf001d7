"""How marks lie about the straight line through them: each a dot above or below it, in the unit of the deflection."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from reckoner.core.quantities.printing import THIN, fixed, number
from reckoner.core.quantities.units import N_M, Unit
from reckoner.core.translation import tr
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID


@dataclass(frozen=True)
class ResidualsState:
    """Torques in N·m with their residuals in m."""

    points: tuple[tuple[float, float], ...] = ()
    unit: Unit = N_M


class Residuals(QWidget):
    """Nothing is drawn of fewer than three marks: two lie on their line whatever they are."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.state = ResidualsState()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        theme.changed.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(60 * GRID, 18 * GRID)

    def show_state(self, state: ResidualsState) -> None:
        """Show other marks."""
        self.state = state
        told = ", ".join(
            tr("{from_si}: {r} mm", from_si=number(state.unit.from_si(t)), r=fixed(r * 1000, 2, sign=True))
            for t, r in state.points
        )
        self.setAccessibleName(tr("Residuals. {told}", told=told))
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        points = self.state.points
        if len(points) < 3:
            return
        painter, theme = QPainter(self), self._theme
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        yard = QRectF(9 * GRID, 1.5 * GRID, self.width() - 12 * GRID, self.height() - 6.5 * GRID)
        reach = max(max(abs(r) for _, r in points), 1e-6) * 1.25
        low, high = min(t for t, _ in points), max(t for t, _ in points)

        def at(torque: float, residual: float) -> QPointF:
            x = yard.left() + (torque - low) / (high - low) * yard.width()
            return QPointF(x, yard.center().y() - residual / reach * yard.height() / 2)

        painter.setPen(QPen(theme.color("line"), 2))
        painter.drawLine(at(low, 0), at(high, 0))
        painter.setFont(theme.font(Type.CAPTION))
        for residual in (-reach / 1.25, 0.0, reach / 1.25):
            y = at(low, residual).y()
            painter.setPen(theme.color("quiet"))
            box = QRectF(0, y - GRID, 8 * GRID, 2 * GRID)
            painter.drawText(box, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, _mm(residual))
            painter.setPen(QPen(theme.color("line"), 1, Qt.PenStyle.DotLine))
            painter.drawLine(QPointF(yard.left(), y), QPointF(yard.right(), y))
        for torque, residual in points:
            place = at(torque, residual)
            painter.setPen(QPen(theme.color("ink"), 1.5))
            painter.drawLine(at(torque, 0), place)
            painter.setBrush(theme.color("ink"))
            painter.drawEllipse(place, 4, 4)
            box = QRectF(place.x() - 4 * GRID, self.height() - 4.5 * GRID, 8 * GRID, 2 * GRID)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, number(self.state.unit.from_si(torque)))
        painter.setPen(theme.color("quiet"))
        foot = QRectF(0, self.height() - 2 * GRID, self.width(), 2 * GRID)
        painter.drawText(
            foot,
            Qt.AlignmentFlag.AlignCenter,
            tr("torque in {symbol}; off the line in mm", symbol=self.state.unit.symbol),
        )
        painter.end()


def _mm(metres: float) -> str:
    return tr("{metres}{thin}mm", metres=fixed(metres * 1000, 2, sign=True), thin=THIN) if metres else "0"
