"""The fence through time: a tool's deviation at one point from run to run, between its posts lying down.

A point's fence through time, small: to choose a point by its whole story.

A point of a tool from run to run, as the fence through time draws it.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QAbstractButton, QSizePolicy, QWidget

from reckoner.core.decision.states import State
from reckoner.core.quantities.days import day_words, month_words
from reckoner.core.quantities.printing import fixed, limit_decimals
from reckoner.core.translation import tr
from reckoner.shop.register.histories import PointHistory, RunHistory
from reckoner.shop.register.sheet import ToolSheet
from reckoner.shop.register.trends import Point
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.mark import paint_mark
from reckoner.ui.widgets.text import tip


@dataclass(frozen=True)
class TimePoint:
    """One result at the point: mean deviation and ±W as fractions, the state there; ``begins`` a new line, as after an
    adjustment; ``told`` is what the mouse over it shows."""

    on: date
    deviation: float
    whisker: float
    state: State
    begins: bool = False
    told: str = ""


@dataclass(frozen=True)
class TimeFenceState:
    """What is shown; ``near`` is the newest near zone's width. ``trend`` is a line through days: (day, deviation, half of its
    band); ``reaches`` the day on which the band touches the limit. ``events`` stand on the time axis with their words."""

    limit: float
    near: float
    points: tuple[TimePoint, ...]
    today: date
    due: date | None
    trend: tuple[tuple[date, float, float], ...] = ()
    reaches: date | None = None
    events: tuple[tuple[date, str], ...] = ()


class TimeFence(QWidget):
    """Percent upward, years along. The due date and today are upright lines with their words."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._state: TimeFenceState | None = None
        theme.changed.connect(self.update)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumHeight(20 * GRID)
        self.setAccessibleName(tr("Deviation through time"))
        self.setMouseTracking(True)

    def show_state(self, state: TimeFenceState | None) -> None:
        self._state = state
        if state is not None:
            said = "; ".join(f"{day_words(p.on)} {fixed(p.deviation * 100, 2, sign=True)} %" for p in state.points)
            self.setAccessibleDescription(said)
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(80 * GRID, 27 * GRID)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Who found it, and against what, beside the mark under the mouse; or the event there."""
        state = self._state
        if state is None or not state.points or event is None:
            return
        drawing = _TimeDrawing(QPainter(), self._theme, QRectF(self.rect()), state)
        found = drawing.told_at(event.position())
        self.setToolTip(tip(found))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        state = self._state
        if state is None or not state.points:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        _TimeDrawing(painter, self._theme, QRectF(self.rect()), state).draw()


class _TimeDrawing:
    """One painting of the fence: maps dates and deviations to pixels."""

    def __init__(self, painter: QPainter, theme: Theme, box: QRectF, state: TimeFenceState) -> None:
        self.painter, self.theme, self.state = painter, theme, state
        self._labels: list[QRectF] = []
        self.yard = box.adjusted(6 * GRID, 3 * GRID, -2 * GRID, -5 * GRID)
        days = [p.on for p in state.points] + [state.today] + ([state.due] if state.due else [])
        days += [day for day, _, _ in state.trend[-1:]] + [day for day, _ in state.events if day >= state.points[0].on]
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

    def _beyond(self, deviation: float) -> float:
        """The same without a bound: what leaves the drawing is cut off, not laid along its edge."""
        return self.yard.center().y() - deviation / self.reach * self.yard.height() / 2

    def draw(self) -> None:
        self._fences()
        self._years()
        self._trend()
        self._events()
        self._upright(self.state.today, tr("today"), "accent", top=False)
        if self.state.due:
            self._upright(self.state.due, tr("due {due}", due=day_words(self.state.due)), "quiet", top=True)
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
        self._posts()
        painter.setFont(theme.font(Type.CAPTION))
        painter.setPen(theme.color("quiet"))
        for part in (-1.0, -0.5, 0.0, 0.5, 1.0):
            text = fixed(part * limit * 100, limit_decimals(part * limit, 0), sign=part != 0)
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

    def _posts(self) -> None:
        """The two posts, lying down; nothing veils them."""
        self.painter.setPen(self.theme.pen("post", 4))
        for y in (self.y(self.state.limit), self.y(-self.state.limit)):
            self.painter.drawLine(QPointF(self.yard.left(), y), QPointF(self.yard.right(), y))

    def _trend(self) -> None:
        """The line through the results since the last adjustment, and its 95 % band; where that touches the limit."""
        painter, theme, trend = self.painter, self.theme, self.state.trend
        if not trend:
            return
        upper = [QPointF(self.x(day), self._beyond(value + half)) for day, value, half in trend]
        lower = [QPointF(self.x(day), self._beyond(value - half)) for day, value, half in trend]
        painter.save()
        painter.setClipRect(self.yard)
        painter.setPen(Qt.PenStyle.NoPen)
        wash = theme.color("accent_wash")
        wash.setAlphaF(0.7)
        painter.setBrush(wash)
        painter.drawPolygon(QPolygonF([*upper, *reversed(lower)]))
        pen = theme.pen("accent", 2)
        pen.setStyle(Qt.PenStyle.DashLine)
        painter.setPen(pen)
        painter.drawPolyline(QPolygonF([QPointF(self.x(day), self._beyond(value)) for day, value, _ in trend]))
        painter.restore()
        self._posts()
        reaches = self.state.reaches
        if reaches is not None and reaches > self.state.points[-1].on and self.x(reaches) <= self.yard.right():
            self._upright(
                reaches, tr("band at the fence {month_words}", month_words=month_words(reaches)), "accent", top=True
            )

    def _events(self) -> None:
        """Small flags on the axis."""
        painter, theme = self.painter, self.theme
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("near"))
        for day, _words in self.state.events:
            at = self._flag(day)
            if at is not None:
                painter.drawPolygon(QPolygonF([at, at + QPointF(-6, -10), at + QPointF(6, -10)]))

    def _flag(self, day: date) -> QPointF | None:
        """Where an event's flag stands; None before the drawing begins."""
        return QPointF(self.x(day), self.yard.bottom()) if self.x(day) >= self.yard.left() else None

    def told_at(self, where: QPointF) -> str:
        """What is to be said of the mark near ``where``."""
        said = []
        for point in self.state.points:
            at = QPointF(self.x(point.on), self.y(point.deviation))
            if abs(at.x() - where.x()) < GRID and abs(at.y() - where.y()) < 2 * GRID:
                value = fixed(point.deviation * 100, 2, sign=True)
                said.append(
                    f"{day_words(point.on)}: {value} % ± {fixed(point.whisker * 100, 2)} %\n{point.told}".strip()
                )
        for day, words in self.state.events:
            flag = self._flag(day)
            if flag is not None and abs(flag.x() - where.x()) < GRID and abs(flag.y() - where.y()) < 2 * GRID:
                said.append(f"{day_words(day)}: {words}")
        return "\n".join(said)

    def _upright(self, on: date, words: str, color: str, *, top: bool) -> None:
        painter, theme = self.painter, self.theme
        x = self.x(on)
        painter.setPen(theme.pen(color, 2))
        painter.drawLine(QPointF(x, self.yard.top() - GRID / 2), QPointF(x, self.yard.bottom() + GRID / 2))
        painter.setFont(theme.font(Type.STRONG, 0.87))
        wide = painter.fontMetrics().horizontalAdvance(words) + GRID
        y = self.yard.top() - 3 * GRID if top else self.yard.bottom() + 3 * GRID
        left = min(max(0.0, x - wide / 2), self.yard.right() + 2 * GRID - wide)
        box = QRectF(left, y, wide, 2 * GRID)
        for other in self._labels:  # what stands there already is not written over
            if box.intersects(other):
                box.moveRight(other.left() - GRID)
        self._labels.append(box)
        painter.setPen(theme.color(color))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)

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


def story_of(sheet: ToolSheet, point: Point) -> tuple[TimePoint, ...]:
    """A point from run to run."""
    return tuple(_time_point(r, p) for r in sheet.runs for p in r.points if (p.direction, p.target) == point)


def _time_point(run: RunHistory, point: PointHistory) -> TimePoint:
    with_what = tr(" with {reference}", reference=run.reference) if run.reference else ""
    told = tr(
        "{which}, {words}, by {by}{with_what}",
        which=tr("as left") if point.as_left else tr("as found"),
        words=point.state.words,
        by=run.by,
        with_what=with_what,
    )
    return TimePoint(run.on, point.deviation, point.expanded_uncertainty, point.state, point.as_left, told)
