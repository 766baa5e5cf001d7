"""What a reference is worth over its range: its errors with their W, and where it is good enough for which tools."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QSizePolicy, QWidget

from reckoner.core.quantities import printing
from reckoner.core.quantities.printing import THIN, number, percent, ticks
from reckoner.core.quantities.units import N_M, Unit
from reckoner.core.translation import tr
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID


@dataclass(frozen=True)
class WorthState:
    """Points as (torque in N·m, error, W), fractions; ``spans`` are (limit, stretches of torque) of the tools that it is good
    enough for; ``least`` is the torque below which it decides nothing."""

    points: tuple[tuple[float, float, float], ...]
    maximum: float
    least: float
    spans: tuple[tuple[float, tuple[tuple[float, float], ...]], ...]
    unit: Unit = N_M


class Worth(QWidget):
    """Torque along, percent upward; a bar below for each kind of tools."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._state: WorthState | None = None
        theme.changed.connect(self.update)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumHeight(28 * GRID)
        self.setAccessibleName(tr("Errors and uncertainties over the range"))

    def show_state(self, state: WorthState | None) -> None:
        """Another reference, or another certificate."""
        self._state = state
        if state is not None:
            said = "; ".join(
                f"{number(state.unit.from_si(t))} {state.unit.symbol}: {percent(e, 2, sign=True)} ± {percent(w, 2)}"
                for t, e, w in state.points
            )
            self.setAccessibleDescription(said)
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(80 * GRID, 30 * GRID)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self._state is None or not self._state.points:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        _WorthDrawing(painter, self._theme, QRectF(self.rect()), self._state).draw()


class _WorthDrawing:
    """One painting: maps torques and percents to pixels."""

    def __init__(self, painter: QPainter, theme: Theme, box: QRectF, state: WorthState) -> None:
        self.painter, self.theme, self.state = painter, theme, state
        bars = len(state.spans) * 3 * GRID
        self.yard = box.adjusted(11 * GRID, GRID, -2 * GRID, -4 * GRID - bars)
        self.reach = max(0.001, *(abs(e) + w for _, e, w in state.points)) * 1.15

    def x(self, torque: float) -> float:
        return self.yard.left() + torque / self.state.maximum * self.yard.width()

    def y(self, share: float) -> float:
        return self.yard.center().y() - share / self.reach * self.yard.height() / 2

    def draw(self) -> None:
        self._grid()
        self._band()
        self._points()
        for i, (limit, spans) in enumerate(self.state.spans):
            self._bar(i, limit, spans)

    def _grid(self) -> None:
        painter, theme, yard = self.painter, self.theme, self.yard
        painter.setFont(theme.font(Type.CAPTION))
        right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        for tick in ticks(self.reach * 100, 3):
            for value in {tick, -tick}:
                y = self.y(value / 100)
                painter.setPen(theme.pen("quiet" if value == 0 else "line", 1))
                painter.drawLine(QPointF(yard.left(), y), QPointF(yard.right(), y))
                painter.setPen(theme.color("quiet"))
                words = percent(value / 100, 0 if value == int(value) else 1, sign=value != 0)
                if tick < 0.1 and value:
                    words = percent(value / 100, 2, sign=True)
                painter.drawText(QRectF(0, y - GRID, yard.left() - GRID, 2 * GRID), right, words)
        unit = self.state.unit
        for tick in ticks(unit.from_si(self.state.maximum), 6):
            x = self.x(unit.to_si(tick))
            painter.setPen(theme.pen("line", 1))
            painter.drawLine(QPointF(x, yard.top()), QPointF(x, yard.bottom()))
            painter.setPen(theme.color("quiet"))
            words = f"{number(tick)}{THIN}{unit.symbol}" if tick == 0 else number(tick)
            where = QRectF(x - 5 * GRID, yard.bottom() + GRID / 2, 10 * GRID, 2 * GRID)
            painter.drawText(where, Qt.AlignmentFlag.AlignHCenter, words)

    def _band(self) -> None:
        """W about the error: between two points it is the larger one's."""
        painter, theme, points = self.painter, self.theme, self.state.points
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("accent_wash"))
        for (t0, e0, w0), (t1, e1, w1) in pairwise(points):
            w = max(w0, w1)
            corners = ((t0, e0 + w), (t1, e1 + w), (t1, e1 - w), (t0, e0 - w))
            painter.drawPolygon(QPolygonF([QPointF(self.x(t), self.y(v)) for t, v in corners]))
        painter.setPen(theme.pen("accent", 1.5))
        painter.drawPolyline(QPolygonF([QPointF(self.x(t), self.y(e)) for t, e, _ in points]))

    def _points(self) -> None:
        painter, theme = self.painter, self.theme
        for torque, error, w in self.state.points:
            x = self.x(torque)
            painter.setPen(theme.pen("ink", 2))
            painter.drawLine(QPointF(x, self.y(error + w)), QPointF(x, self.y(error - w)))
            for end in (error + w, error - w):
                painter.drawLine(QPointF(x - 4, self.y(end)), QPointF(x + 4, self.y(end)))
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.color("ink"))
            painter.drawRect(QRectF(x - 4, self.y(error) - 4, 8, 8))

    def _bar(self, row: int, limit: float, spans: tuple[tuple[float, float], ...]) -> None:
        """Where it is good enough: filled; where it is not: hatched."""
        painter, theme, yard = self.painter, self.theme, self.yard
        top = yard.bottom() + 4 * GRID + row * 3 * GRID
        painter.setFont(theme.font(Type.CAPTION))
        painter.setPen(theme.color("ink"))
        words = QRectF(0, top - 2, yard.left() - GRID, 2 * GRID + 4)
        painter.drawText(
            words,
            Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
            tr("{limit} tools", limit=printing.limit(limit, 0)),
        )
        whole = QRectF(yard.left(), top, yard.width(), 2 * GRID)
        painter.fillRect(whole, theme.hatch("surface", "line"))
        for low, high in spans:
            box = QRectF(self.x(low), top, self.x(high) - self.x(low), 2 * GRID)
            painter.fillRect(box, theme.color("inside"))
            painter.setPen(QPen(theme.color("surface"), 1))
            unit = self.state.unit
            said = tr(
                "good enough: {from_si}–{from_si_2}{thin}{symbol}",
                from_si=number(unit.from_si(low)),
                from_si_2=number(unit.from_si(high)),
                thin=THIN,
                symbol=unit.symbol,
            )
            if painter.fontMetrics().horizontalAdvance(said) < box.width() - GRID:
                painter.drawText(box, Qt.AlignmentFlag.AlignCenter, said)
        painter.setPen(theme.pen("line", 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(whole)
