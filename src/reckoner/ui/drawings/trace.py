"""The live trace: the last seconds of torque, with target, signal and faults marked, and the pulls before it faint behind.
Torques in N·m inside."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt, QTimer
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QPixmap, QPolygonF, QResizeEvent
from PyQt6.QtWidgets import QWidget

from reckoner.core.quantities.arrays import Values
from reckoner.core.quantities.printing import number, ticks
from reckoner.core.quantities.units import Unit
from reckoner.core.translation import tr, tr_count
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID

SECONDS = 4.0
FRAME_MS = 33
HEADROOM = 1.25
"""The axis ends above the target by this."""

REMEMBERED = 3
"""Pulls that stay in sight."""

STANDING = 1.0
"""Seconds ago at which the signals of earlier pulls stand: where the newest one will pass."""

ROOM_FOR_WORDS = 48 * GRID
"""A narrower yard, in pixels, has the curves alone."""

FAINT = 0.3
"""Of the newest pull's ink."""


@dataclass(frozen=True)
class EarlierPull:
    """A pull that is over: ``torques`` (N·m, magnitudes) at ``rate`` a second, and the index of its ``signal``."""

    torques: Values
    rate: float
    signal: int


class LiveTrace(QWidget):
    """Redraws at most thirty times a second, whatever the meter's rate, and only while samples come.

    Axes and target stand still while the curve runs: they are painted once, as a picture. Each column of pixels shows the
    least and the greatest of its samples, so that a click of a few milliseconds is seen at any rate.
    """

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._unit: Unit | None = None
        self._target = 0.0
        self._rate = 1000.0
        self._kept = np.empty(0)
        self._dirty = False
        self._signal_at: float | None = None
        self._since_signal = 0
        self._faults = ""
        self.earlier: tuple[EarlierPull, ...] = ()
        self._still: QPixmap | None = None
        self._curve = QPolygonF()
        self.setAccessibleName(tr("Live torque"))
        self.setMinimumHeight(8 * GRID)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self._timer = QTimer(self)
        self._timer.setInterval(FRAME_MS)
        self._timer.timeout.connect(self._frame)
        self._timer.start()
        theme.changed.connect(self._redraw)

    def aim(self, target: float, unit: Unit) -> None:
        """Show pulls to ``target`` (N·m), labelled in ``unit``."""
        if self._unit is unit and self._target == target:
            return
        self._unit, self._target = unit, target
        self._signal_at = None
        self.earlier = ()
        self._redraw()

    def take(self, samples: Values, rate: float) -> None:
        """The next samples, in N·m; nothing is kept of them while another step is in front."""
        if not self.isVisible():
            return
        self._rate = rate
        self._kept = np.concatenate([self._kept, samples])[-int(SECONDS * rate) :]
        self._since_signal += len(samples)
        self._dirty = True

    def mark_signal(self, torque: float, ago: float) -> None:
        """Mark the signal found at ``torque`` (N·m), ``ago`` seconds before the newest sample."""
        self._since_signal = round(ago * self._rate)
        self._signal_at, self._faults = torque, ""
        self._dirty = True

    def remember(self, pull: EarlierPull, faults: str) -> None:
        """The pull is over: it stays in sight behind the next ones, and its ``faults`` are told at its signal."""
        if not self.isVisible():
            return
        self.earlier = (*self.earlier, pull)[-REMEMBERED:]
        self._faults = faults
        self.setAccessibleDescription(tr("The last pull: {faults}", faults=faults) if faults else "")
        self._redraw()

    def clear(self) -> None:
        self._kept = np.empty(0)
        self._signal_at, self.earlier = None, ()
        self._redraw()

    def _frame(self) -> None:
        if self._dirty and self.isVisible():
            self._dirty = False
            self.update()

    def _redraw(self) -> None:
        self._still = None
        self.update()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._redraw()

    @property
    def _yard(self) -> QRectF:
        """Where the curve runs."""
        return QRectF(self.rect()).adjusted(7 * GRID, GRID, -GRID, -4 * GRID)

    def _x(self, ago: float) -> float:
        return self._yard.right() - ago / SECONDS * self._yard.width()

    def _y(self, torque: float) -> float:
        return self._yard.bottom() - torque / (self._target * HEADROOM) * self._yard.height()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        if self._still is None:
            self._still = self._axes()
        painter.drawPixmap(0, 0, self._still)
        if self._unit is None or not self._target or not len(self._kept):
            return
        painter.setClipRect(self._yard.adjusted(0, -GRID, 0, 2))
        painter.setPen(QPen(self._theme.color("accent"), 0))
        curve = self._traced()
        painter.drawPolyline(curve)  # twice as thin: Qt draws a line of one pixel many times as fast as a wider one
        painter.translate(1, 1)
        painter.drawPolyline(curve)
        painter.translate(-1, -1)
        if self._signal_at is not None and self._since_signal < len(self._kept):
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setClipping(False)
            painter.setPen(QPen(self._theme.color("ink"), 2))
            painter.setBrush(self._theme.color("surface"))
            where = QPointF(self._x(self._since_signal / self._rate), self._y(self._signal_at))
            painter.drawEllipse(where, 6, 6)
            if self._faults:
                self._tell_faults(painter, where)

    def _tell_faults(self, painter: QPainter, where: QPointF) -> None:
        """The words beside the signal, at the side with room for them."""
        painter.setFont(self._theme.font(Type.CAPTION))
        words = f"! {self._faults}"
        wide = painter.fontMetrics().horizontalAdvance(words) + GRID
        right = where.x() + 1.5 * GRID + wide < self._yard.right()
        box = QRectF(
            where.x() + 1.5 * GRID if right else where.x() - 1.5 * GRID - wide, where.y() - GRID, wide, 2 * GRID
        )
        painter.fillRect(box, self._theme.color("surface"))
        painter.setPen(self._theme.color("outside"))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)

    def _traced(self) -> QPolygonF:
        """The curve in pixels."""
        yard, kept = self._yard, np.abs(self._kept)
        size = len(kept)
        step = max(1, -(-int(SECONDS * self._rate) // max(1, int(yard.width()))))
        columns = kept[size % step :].reshape(-1, step) if step > 2 else kept.reshape(-1, 1)
        ends = (columns.min(axis=1), columns.max(axis=1)) if step > 2 else (columns[:, 0],)
        count = len(columns) * len(ends)
        if self._curve.size() != count:
            self._curve = QPolygonF([QPointF()] * count)
        if not count:
            return self._curve
        points = _points_of(self._curve)
        pixels = yard.width() / (SECONDS * self._rate) * (step if step > 2 else 1)
        for i, values in enumerate(ends):
            points[i :: len(ends), 0] = yard.right() - (len(columns) - np.arange(len(columns))) * pixels
            points[i :: len(ends), 1] = yard.bottom() - values * (yard.height() / (self._target * HEADROOM))
        return self._curve

    def _axes(self) -> QPixmap:
        """Everything that stands still."""
        theme, yard, scale = self._theme, self._yard, self.devicePixelRatioF()
        picture = QPixmap(self.size() * scale)
        picture.setDevicePixelRatio(scale)
        picture.fill(theme.color("surface"))
        painter = QPainter(picture)
        painter.setFont(theme.font(Type.CAPTION))
        right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        if self._unit is not None and self._target:
            marks = ticks(self._unit.from_si(self._target * HEADROOM), max(1, int(yard.height() // (4 * GRID))))
            for value in marks:
                y = self._y(self._unit.to_si(value))
                painter.setPen(theme.pen("line"))
                painter.drawLine(QPointF(yard.left(), y), QPointF(yard.right(), y))
                painter.setPen(theme.color("quiet"))
                words = number(value) if value != marks[-1] else f"{number(value)}\u202f{self._unit.symbol}"
                painter.drawText(QRectF(0, y - GRID, yard.left() - GRID, 2 * GRID), right, words)
            painter.setPen(QPen(theme.color("ink"), 1, Qt.PenStyle.DashLine))
            y = self._y(self._target)
            painter.drawLine(QPointF(yard.left(), y), QPointF(yard.right(), y))
            self._behind(painter)
        self._seconds(painter)
        painter.end()
        return picture

    def _behind(self, painter: QPainter) -> None:
        """The last pulls, their signals over each other."""
        if not self.earlier:
            return
        yard = self._yard
        painter.save()
        painter.setOpacity(FAINT)
        painter.setClipRect(yard)
        painter.setPen(QPen(self._theme.color("accent"), 0))  # a wider one takes longer than a frame
        for pull in self.earlier:
            step = max(1, int(SECONDS * pull.rate / yard.width()))
            whole = len(pull.torques) // step * step
            for_pixel = pull.torques[:whole].reshape(-1, step).max(axis=1)
            ago = STANDING + (pull.signal - np.arange(len(for_pixel)) * step) / pull.rate
            inside = (ago >= 0) & (ago <= SECONDS)
            curve = QPolygonF([QPointF()] * int(inside.sum()))
            if curve.size():
                points = _points_of(curve)
                points[:, 0] = yard.right() - ago[inside] * (yard.width() / SECONDS)
                points[:, 1] = yard.bottom() - for_pixel[inside] * (yard.height() / (self._target * HEADROOM))
                painter.drawPolyline(curve)
        painter.restore()
        if yard.width() < ROOM_FOR_WORDS:
            return
        painter.setPen(self._theme.color("quiet"))
        told = tr_count("faint: the pull before", "faint: the last {n} pulls", len(self.earlier))
        painter.drawText(QRectF(yard.left() + GRID, yard.top(), 24 * GRID, 2 * GRID), Qt.AlignmentFlag.AlignLeft, told)

    def _seconds(self, painter: QPainter) -> None:
        theme, yard = self._theme, self._yard
        for ago in ticks(SECONDS, 4) if yard.width() >= 36 * GRID else (0.0, SECONDS):
            x = self._x(ago)
            painter.setPen(theme.pen("line"))
            painter.drawLine(QPointF(x, yard.bottom()), QPointF(x, yard.bottom() + GRID / 2))
            painter.setPen(theme.color("quiet"))
            words = tr("{ago} s ago", ago=number(ago)) if ago else tr("now")
            where = QRectF(x - 4 * GRID, yard.bottom() + GRID, 8 * GRID, 2 * GRID)
            if not ago:
                where.moveRight(yard.right() + GRID)
            side = Qt.AlignmentFlag.AlignCenter if ago else Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
            painter.drawText(where, side, words)


def _points_of(curve: QPolygonF) -> Values:
    """The memory of a polygon that is not empty, x and y a row: a point at a time would take longer than a frame."""
    room = curve.data()
    room.setsize(curve.size() * 16)  # two doubles a point
    memory: Any = room
    return np.frombuffer(memory, dtype=np.float64).reshape(-1, 2)
