"""The fence: a deviation between two posts that stand at the limits.

Between posts and centre lies the near zone, hatched, as wide as the expanded uncertainty. Each reading is a short tick,
the mean a heavier mark with its ±W whisker. The same drawing serves the bench and the sheet.
"""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPolygonF
from PyQt6.QtWidgets import QSizePolicy, QWidget

from reckoner.core.decision.conformity import state_of
from reckoner.core.quantities import printing
from reckoner.core.quantities.printing import fixed
from reckoner.core.translation import tr
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID

REACH = 1.45
"""How far beyond the posts the drawing reaches, in limits; readings further out become an arrow at the edge."""


@dataclass(frozen=True)
class FenceState:
    """What a fence shows; fractions. ``near`` is the width of the near zone, ``readings`` counted deviations; ``then`` is
    what a turn of the adjusting screw would make of the mean."""

    limit: float
    near: float = 0.0
    readings: tuple[float, ...] = ()
    struck: tuple[float, ...] = ()
    mean: float | None = None
    whisker: float = 0.0
    then: float | None = None


class Fence(QWidget):
    """One fence with its scale in percent."""

    def __init__(self, theme: Theme, state: FenceState) -> None:
        super().__init__()
        self._theme = theme
        self._state = state
        theme.changed.connect(self.update)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.show_state(state)

    def show_state(self, state: FenceState) -> None:
        self._state = state
        self.setAccessibleName(self._words())
        self.update()

    def state(self) -> FenceState:
        return self._state

    def sizeHint(self) -> QSize:
        return QSize(28 * GRID, 9 * GRID)

    def _words(self) -> str:
        s = self._state
        then = self._state.then
        foretold = tr(", then {then} %", then=fixed(then * 100, 2, sign=True)) if then is not None else ""
        return (
            tr("Fence at {limit}, {count} readings", limit=printing.limit(s.limit), count=len(s.readings))
            + (tr(", mean {mean} %", mean=fixed(s.mean * 100, 2, sign=True)) if s.mean is not None else "")
            + foretold
        )

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        yard = QRectF(0, GRID / 2, self.width(), self.height() - 3 * GRID)
        paint_fence(painter, self._theme, yard, self._state)
        self._scale(painter, yard)

    def _scale(self, painter: QPainter, yard: QRectF) -> None:
        painter.setFont(self._theme.font(Type.CAPTION))
        painter.setPen(self._theme.color("quiet"))
        limit = self._state.limit
        shown = fixed(limit * 100, printing.limit_decimals(limit, 0))
        for value, text in ((-limit, f"−{shown}"), (0.0, "0"), (limit, f"+{shown} %")):
            x = fence_x(yard, value, limit)
            where = QRectF(x - 5 * GRID, yard.bottom() + GRID / 2, 10 * GRID, 2 * GRID)
            painter.drawText(where, Qt.AlignmentFlag.AlignCenter, text)


def fence_x(yard: QRectF, deviation: float, limit: float) -> float:
    """Where a deviation stands between the yard's ends."""
    return yard.center().x() + deviation / limit * yard.width() / 2 / REACH


def paint_fence(painter: QPainter, theme: Theme, yard: QRectF, s: FenceState) -> None:
    """Draw a fence into ``yard``."""
    left, right = fence_x(yard, -s.limit, s.limit), fence_x(yard, s.limit, s.limit)
    painter.fillRect(QRectF(left, yard.top(), right - left, yard.height()), theme.color("surface"))
    width = min(s.near, s.limit) / s.limit * (right - left) / 2
    if width > 0:
        for x in (left, right - width):
            painter.fillRect(QRectF(x, yard.top(), width, yard.height()), theme.hatch())
    painter.setPen(theme.pen("line", 1))
    painter.drawLine(QPointF(yard.left(), yard.bottom()), QPointF(yard.right(), yard.bottom()))
    painter.drawLine(QPointF(yard.center().x(), yard.top()), QPointF(yard.center().x(), yard.bottom()))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(theme.color("post"))
    for x in (left, right):
        painter.drawRect(QRectF(x - 2, yard.top() - GRID / 2, 4, yard.height() + GRID / 2))
    for value in s.struck:
        _tick(painter, theme, yard, s, value, struck=True)
    for value in s.readings:
        _tick(painter, theme, yard, s, value)
    if s.mean is not None:
        _mean(painter, theme, yard, s, s.mean)
    if s.then is not None:
        _then(painter, theme, yard, s, s.then)


def _tick(painter: QPainter, theme: Theme, yard: QRectF, s: FenceState, value: float, *, struck: bool = False) -> None:
    x = fence_x(yard, value, s.limit)
    if not yard.left() + 4 <= x <= yard.right() - 4:
        _arrow(painter, theme, yard, right=value > 0)
        return
    color = theme.color("line") if struck else theme.state_color(state_of(abs(value), s.limit, s.near))
    pen = theme.pen("ink", 3)
    pen.setColor(color)
    if struck:
        pen.setStyle(Qt.PenStyle.DotLine)
    painter.setPen(pen)
    painter.drawLine(QPointF(x, yard.top() + yard.height() * 0.28), QPointF(x, yard.bottom() - yard.height() * 0.12))


def _arrow(painter: QPainter, theme: Theme, yard: QRectF, *, right: bool) -> None:
    """A reading beyond the drawing: an arrow at its edge."""
    tip, back = (yard.right() - 2, yard.right() - 10) if right else (yard.left() + 2, yard.left() + 10)
    y = yard.center().y()
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(theme.color("outside"))
    painter.drawPolygon(QPolygonF([QPointF(tip, y), QPointF(back, y - 6), QPointF(back, y + 6)]))


def _then(painter: QPainter, theme: Theme, yard: QRectF, s: FenceState, then: float) -> None:
    """An open mark where the mean would be, and an arrow that leads there from where it is."""
    edge_left, edge_right = yard.left() + 8, yard.right() - 8
    x, y = min(max(fence_x(yard, then, s.limit), edge_left), edge_right), yard.top() + yard.height() * 0.62
    painter.setPen(theme.pen("accent", 2))
    if s.mean is not None:
        begin = min(max(fence_x(yard, s.mean, s.limit), edge_left), edge_right)
        if abs(begin - x) > 14:
            tip = x - 8 if begin < x else x + 8
            painter.drawLine(QPointF(begin, y), QPointF(tip, y))
    painter.setBrush(theme.color("surface"))
    painter.drawPolygon(QPolygonF([QPointF(x, y - 7), QPointF(x + 7, y), QPointF(x, y + 7), QPointF(x - 7, y)]))


def _mean(painter: QPainter, theme: Theme, yard: QRectF, s: FenceState, mean: float) -> None:
    x = fence_x(yard, mean, s.limit)
    half = s.whisker / s.limit * yard.width() / 2 / REACH
    y = yard.top() + yard.height() * 0.16
    left, right = max(yard.left(), x - half), min(yard.right(), x + half)
    if right < left or not yard.left() - half <= x <= yard.right() + half:  # all of it lies beyond the drawing
        _arrow(painter, theme, yard, right=mean > 0)
        return
    painter.setPen(theme.pen("ink", 2))
    painter.drawLine(QPointF(left, y), QPointF(right, y))
    for end in (left, right):
        painter.drawLine(QPointF(end, y - 3), QPointF(end, y + 3))
    if yard.left() + 6 <= x <= yard.right() - 6:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("ink"))
        painter.drawPolygon(QPolygonF([QPointF(x, y - 6), QPointF(x + 6, y), QPointF(x, y + 6), QPointF(x - 6, y)]))
    else:
        _arrow(painter, theme, yard, right=mean > 0)
