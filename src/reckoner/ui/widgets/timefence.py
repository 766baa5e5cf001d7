"""The fence through time: a tool's deviation at one point from run to run, between its posts lying down."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPolygonF
from PyQt6.QtWidgets import QSizePolicy, QWidget

from reckoner.core.printing import fixed
from reckoner.core.states import State
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID


@dataclass(frozen=True)
class TimePoint:
    """One result at the point: mean deviation and ±W as fractions, the state there; ``begins`` a new line, as after an
    adjustment."""

    on: date
    deviation: float
    whisker: float
    state: State
    begins: bool = False


@dataclass(frozen=True)
class TimeFenceState:
    """What is shown; ``near`` is the newest near zone's width."""

    limit: float
    near: float
    points: tuple[TimePoint, ...]
    today: date
    due: date | None


class TimeFence(QWidget):
    """Percent upward, years along. The due date and today are upright lines with their words."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._state: TimeFenceState | None = None
        theme.changed.connect(self.update)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumHeight(20 * GRID)
        self.setAccessibleName("Deviation through time")

    def show_state(self, state: TimeFenceState | None) -> None:
        self._state = state
        if state is not None:
            said = "; ".join(f"{p.on:%-d %b %Y} {fixed(p.deviation * 100, 2, sign=True)} %" for p in state.points)
            self.setAccessibleDescription(said)
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(80 * GRID, 32 * GRID)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        state = self._state
        if state is None or not state.points:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        _Drawing(painter, self._theme, QRectF(self.rect()), state).draw()


class _Drawing:
    """One painting of the fence: maps dates and deviations to pixels."""

    def __init__(self, painter: QPainter, theme: Theme, box: QRectF, state: TimeFenceState) -> None:
        self.painter, self.theme, self.state = painter, theme, state
        self.yard = box.adjusted(6 * GRID, 3 * GRID, -2 * GRID, -5 * GRID)
        days = [p.on for p in state.points] + [state.today] + ([state.due] if state.due else [])
        first, last = min(days).toordinal(), max(days).toordinal()
        room = max(60, (last - first) * 0.06)
        self.start, self.end = first - room, last + room
        reach = max([1.25 * state.limit, *(abs(p.deviation) + p.whisker for p in state.points)])
        self.reach = min(reach * 1.04, 3 * state.limit)

    def x(self, on: date) -> float:
        return self.yard.left() + (on.toordinal() - self.start) / (self.end - self.start) * self.yard.width()

    def y(self, deviation: float) -> float:
        bounded = max(-self.reach, min(self.reach, deviation))
        return self.yard.center().y() - bounded / self.reach * self.yard.height() / 2

    def draw(self) -> None:
        self._fences()
        self._years()
        self._upright(self.state.today, "today", "accent", top=False)
        if self.state.due:
            self._upright(self.state.due, f"due {self.state.due:%-d %b %Y}", "quiet", top=True)
        self._history()

    def _fences(self) -> None:
        painter, theme, s = self.painter, self.theme, self.state
        yard, limit = self.yard, s.limit
        top, bottom = self.y(limit), self.y(-limit)
        painter.fillRect(QRectF(yard.left(), top, yard.width(), bottom - top), theme.color("surface"))
        deep = (bottom - top) / 2 * min(1.0, s.near / limit)
        painter.fillRect(QRectF(yard.left(), top, yard.width(), deep), theme.hatch())
        painter.fillRect(QRectF(yard.left(), bottom - deep, yard.width(), deep), theme.hatch())
        painter.setPen(theme.pen("line"))
        for part in (-0.5, 0.0, 0.5):
            y = self.y(part * limit)
            painter.drawLine(QPointF(yard.left(), y), QPointF(yard.right(), y))
        painter.setPen(theme.pen("post", 4))
        for y in (top, bottom):
            painter.drawLine(QPointF(yard.left(), y), QPointF(yard.right(), y))
        painter.setFont(theme.font(Type.CAPTION))
        painter.setPen(theme.color("quiet"))
        for part in (-1.0, -0.5, 0.0, 0.5, 1.0):
            value = part * limit * 100
            text = fixed(value, 0 if abs(value - round(value)) < 1e-9 else 1, sign=value != 0)
            where = QRectF(0, self.y(part * limit) - GRID, self.yard.left() - GRID, 2 * GRID)
            painter.drawText(where, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, f"{text}\u202f%")

    def _years(self) -> None:
        painter, theme = self.painter, self.theme
        painter.setFont(theme.font(Type.CAPTION))
        for year in range(date.fromordinal(int(self.start)).year + 1, date.fromordinal(int(self.end)).year + 1):
            x = self.x(date(year, 1, 1))
            painter.setPen(theme.pen("line", 1))
            painter.drawLine(QPointF(x, self.yard.top()), QPointF(x, self.yard.bottom() + GRID))
            painter.setPen(theme.color("quiet"))
            where = QRectF(x - 4 * GRID, self.yard.bottom() + GRID, 8 * GRID, 2 * GRID)
            painter.drawText(where, Qt.AlignmentFlag.AlignCenter, str(year))

    def _upright(self, on: date, words: str, color: str, *, top: bool) -> None:
        painter, theme = self.painter, self.theme
        x = self.x(on)
        painter.setPen(theme.pen(color, 2))
        painter.drawLine(QPointF(x, self.yard.top() - GRID / 2), QPointF(x, self.yard.bottom() + GRID / 2))
        painter.setFont(theme.font(Type.STRONG, 0.87))
        wide = painter.fontMetrics().horizontalAdvance(words) + GRID
        y = self.yard.top() - 3 * GRID if top else self.yard.bottom() + 3 * GRID
        left = min(max(0.0, x - wide / 2), self.yard.right() + 2 * GRID - wide)
        painter.setPen(theme.color(color))
        painter.drawText(QRectF(left, y, wide, 2 * GRID), Qt.AlignmentFlag.AlignCenter, words)

    def _history(self) -> None:
        painter, theme = self.painter, self.theme
        places = [QPointF(self.x(p.on), self.y(p.deviation)) for p in self.state.points]
        painter.setPen(theme.pen("quiet", 1.5))
        line: list[QPointF] = []
        for point, at in zip(self.state.points, places, strict=True):
            if point.begins and line:  # an adjustment breaks the line
                painter.drawPolyline(QPolygonF(line))
                line = []
            line.append(at)
        painter.drawPolyline(QPolygonF(line))
        for point, at in zip(self.state.points, places, strict=True):
            painter.setPen(theme.pen("ink", 2))
            painter.drawLine(
                QPointF(at.x(), self.y(point.deviation + point.whisker)),
                QPointF(at.x(), self.y(point.deviation - point.whisker)),
            )
            painter.setPen(theme.pen("surface", 1.5))
            painter.setBrush(theme.state_color(point.state))
            painter.drawPolygon(QPolygonF([at + QPointF(dx, dy) for dx, dy in ((0, -7), (7, 0), (0, 7), (-7, 0))]))
