"""The lever drawing: a wrench true to scale, its drive in the vice or an adapter on the fastener, and what hangs or pulls.

It knows this one job. Its parts are dragged, or moved with the arrow keys; numbers stand on the dimension lines. Lengths in m
and angles in rad inside. What it shows and where it stands is in ``levershape``, how it is painted in ``leverpaint``.
"""

from __future__ import annotations

import math
from pathlib import Path

from PyQt6.QtCore import QBuffer, QPointF, QRectF, QSize, QSizeF, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QImage, QKeyEvent, QMouseEvent, QPaintDevice, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from reckoner.core.translation import tr
from reckoner.formats.files import write_whole
from reckoner.ui.drawings.leverpaint import described, paint_lever
from reckoner.ui.drawings.levershape import UPWARDS, AdapterShown, Geometry, LeverPart, LeverState
from reckoner.ui.theme import Theme
from reckoner.ui.tokens import GRID

__all__ = ["AdapterShown", "LeverDrawing", "LeverPart", "LeverState"]

SNAP = 0.001
FAR_SNAP = 0.010
"""What an arrow key moves a part by, in m; with Shift."""

TURN, FAR_TURN = math.radians(1), math.radians(15)
"""The same for an adapter's angle."""

TILT, FAR_TILT = math.radians(0.5), math.radians(2)
"""The same for the handle's tilt."""

MOST_TILT = math.radians(30)
"""Further down it is no lever to hang on."""

SQUARE_NEAR = math.radians(2.5)
"""How near a dragged adapter comes to one of the usual angles before it snaps to it."""

PICTURE_SCALE = 2
"""Pixels of a saved picture for each one on the screen."""

REACH = 12
"""How near in pixels a part is taken hold of."""


class LeverDrawing(QWidget):
    """Signal ``moved(Part, value)`` while a part is dragged or stepped, in m or rad; whoever shows the state says what
    becomes of it. ``part`` is in hand, and ``index`` says which adapter."""

    moved = pyqtSignal(object, float)

    def __init__(self, theme: Theme, *, still: bool = False) -> None:
        super().__init__()
        self._theme, self._still = theme, still
        self.state = LeverState()
        self.part, self.index = LeverPart.HOOK, 0
        self._held = False
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus if still else Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setMouseTracking(not still)
        self.setAccessibleName(tr("The lever"))
        self.setMinimumSize(40 * GRID, self.sizeHint().height())
        theme.changed.connect(self.update)

    def sizeHint(self) -> QSize:
        """One that is only looked at is as high as what hangs; one that is worked on keeps its height meanwhile."""
        hangs = 2.5 * max(1, len(self.state.weights)) if self._still else 9.5
        if self.state.hook is None and self.state.hand is not None:
            hangs = 1.5  # the hand alone
        up = UPWARDS if self.state.adapters else 0.0
        return QSize(60 * GRID, round((18.5 + hangs) * GRID + up))

    def show_state(self, state: LeverState) -> None:
        """Draw another state."""
        self.state = state
        if (self.part, self.index) not in state.parts and state.parts:
            self.part, self.index = state.parts[0]
        self.setMinimumHeight(self.sizeHint().height())
        self.setAccessibleDescription(described(state))
        self.update()

    def save(self, path: Path) -> None:
        """Write the drawing into a file, PNG or SVG by its name. Raises FileNotWritten."""
        written = QBuffer()
        if path.suffix.lower() == ".svg":
            from PyQt6.QtSvg import QSvgGenerator  # only here

            made = QSvgGenerator()
            made.setOutputDevice(written)
            made.setSize(self.size())
            made.setViewBox(self.rect())
            made.setTitle(tr("The lever"))
            device: QPaintDevice = made
        else:
            device = picture = QImage(self.size() * PICTURE_SCALE, QImage.Format.Format_RGB32)
            picture.fill(self._theme.color("surface"))
        painter = QPainter(device)
        if path.suffix.lower() != ".svg":
            painter.scale(PICTURE_SCALE, PICTURE_SCALE)
        self._paint(painter)
        painter.end()
        if path.suffix.lower() != ".svg":
            picture.save(written, "PNG")
        write_whole(path, written.data().data())

    @property
    def geometry_of(self) -> Geometry:
        """Where everything stands now."""
        return Geometry(self.state, QSizeF(self.size()))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        self._paint(painter)
        if self.hasFocus():
            painter.setPen(QPen(self._theme.color("focus"), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 6, 6)
        painter.end()

    def _paint(self, painter: QPainter) -> None:
        paint_lever(painter, self._theme, self.geometry_of, None if self._still else (self.part, self.index))

    # Moving

    def _move(self, value: float) -> None:
        """Bring the part in hand there, in sensible steps and no further than it goes."""
        state, part = self.state, self.part
        if part is LeverPart.ADAPTER:
            to = round(value / TURN) * TURN
        elif part is LeverPart.TILT:
            to = min(MOST_TILT, max(-MOST_TILT, round(value / TILT) * TILT))
        else:
            low = SNAP if part is LeverPart.BALANCE else state.pivot + SNAP
            to = min(state.grip, max(low, round(value / SNAP) * SNAP))
        if to != state.value(part, self.index):
            self.moved.emit(part, to)

    def _near(self, at: QPointF) -> tuple[LeverPart, int] | None:
        """The part under the pointer: the hook with all that hangs on it, or whatever else stands there."""
        geometry = self.geometry_of
        for part, index in reversed(self.state.parts):
            place = geometry.place_of(part, index)
            if place is None:
                continue
            hangs = part in (LeverPart.HOOK, LeverPart.HAND)
            if hangs and abs(place.x() - at.x()) <= 3 * GRID and at.y() > place.y() - REACH:
                return part, index
            if not hangs and max(abs(place.x() - at.x()), abs(place.y() - at.y())) <= REACH:
                return part, index
        return None

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and not self._still:
            found = self._near(event.position())
            self._held = found is not None
            self.part, self.index = found or (self.part, self.index)
            self.update()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._still:
            return
        at, geometry = event.position(), self.geometry_of
        if self._held:
            match self.part:
                case LeverPart.ADAPTER:
                    self._move(_snapped(geometry.angle_to(at, self.index)))
                case LeverPart.TILT:
                    self._move(geometry.tilt_to(at))
                case _:
                    self._move(geometry.metres(at.x()))
        over = (self.part, self.index) if self._held else self._near(at)
        if over is None:
            self.setCursor(Qt.CursorShape.ArrowCursor)
        else:
            self.setCursor(Qt.CursorShape.SizeAllCursor if over[0].turns else Qt.CursorShape.SizeHorCursor)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self._held = False

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Left and right move the part in hand, up and down take another one."""
        if event is None:
            return
        key, value, parts = event.key(), self.state.value(self.part, self.index), self.state.parts
        if key in (Qt.Key.Key_Up, Qt.Key.Key_Down) and parts:
            now = parts.index((self.part, self.index)) if (self.part, self.index) in parts else 0
            self.part, self.index = parts[(now + (1 if key == Qt.Key.Key_Down else -1)) % len(parts)]
            self.update()
        elif key in (Qt.Key.Key_Left, Qt.Key.Key_Right) and value is not None:
            far = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            step = _steps(self.part)[far]
            self._move(value + (step if key == Qt.Key.Key_Right else -step))
        else:
            super().keyPressEvent(event)

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        self.update()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self.update()


def _steps(part: LeverPart) -> tuple[float, float]:
    """What a key moves a part by, and with Shift."""
    match part:
        case LeverPart.ADAPTER:
            return TURN, FAR_TURN
        case LeverPart.TILT:
            return TILT, FAR_TILT
        case _:
            return SNAP, FAR_SNAP


def _snapped(angle: float) -> float:
    """An angle that is dragged, at one of the usual ones where it is near."""
    usual = round(angle / (math.pi / 4)) * math.pi / 4
    return usual if abs(angle - usual) <= SQUARE_NEAR else angle
