"""The lever drawing: a wrench true to scale, its drive in the vice, its pin, grip mark and balance point, and what hangs.

It knows this one job. The hook and the balance point are dragged, or moved with the arrow keys; numbers stand on the
dimension lines. Lengths in m inside.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum
from pathlib import Path

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QFocusEvent,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPaintDevice,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
)
from PyQt6.QtWidgets import QSizePolicy, QWidget

from reckoner.core.printing import THIN, number
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID

SNAP = 0.001
FAR_SNAP = 0.010
"""What an arrow key moves a part by, in m; with Shift."""

PICTURE_SCALE = 2
"""Pixels of a saved picture for each one on the screen."""

REACH = 12
"""How near in pixels a part is taken hold of."""


class Part(Enum):
    """What can be moved."""

    HOOK = "hook"
    BALANCE = "balance point"


@dataclass(frozen=True)
class LeverState:
    """Lengths from the drive's centre: the ``grip`` mark, the ``pivot`` (0: none), the ``hook`` (None: nothing hangs), the
    tool's own ``balance`` point (None: not known). ``weights`` are the words on what hangs, the topmost first, each with its
    mass in kg; ``own`` the words at the balance point."""

    grip: float = 0.4
    pivot: float = 0.0
    hook: float | None = None
    balance: float | None = None
    weights: tuple[tuple[str, float], ...] = ()
    own: str = ""
    torque: str = ""


class LeverDrawing(QWidget):
    """Signal ``moved(Part, metres)`` while a part is dragged or stepped; whoever shows the state says what becomes of it."""

    moved = pyqtSignal(object, float)

    def __init__(self, theme: Theme, *, still: bool = False) -> None:
        super().__init__()
        self._theme, self._still = theme, still
        self.state = LeverState()
        self.part = Part.HOOK
        self._held: Part | None = None
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus if still else Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setMouseTracking(not still)
        self.setAccessibleName("The lever")
        self.setMinimumSize(40 * GRID, self.sizeHint().height())
        theme.changed.connect(self.update)

    def sizeHint(self) -> QSize:
        """One that is only looked at is as high as what hangs; one that is worked on keeps its height meanwhile."""
        hangs = 2.5 * max(1, len(self.state.weights)) if self._still else 9.5
        return QSize(60 * GRID, round((18.5 + hangs) * GRID))

    def show_state(self, state: LeverState) -> None:
        """Draw another state."""
        self.state = state
        self.setMinimumHeight(self.sizeHint().height())
        hook = f"hook at {_mm(state.hook)}" if state.hook is not None else "nothing hangs"
        balance = f", balance point at {_mm(state.balance)}" if state.balance is not None else ""
        self.setAccessibleDescription(f"Grip mark at {_mm(state.grip)}, {hook}{balance}. {state.torque}")
        self.update()

    def save(self, path: Path) -> None:
        """Write the drawing into a file, PNG or SVG by its name. Raises OSError where it cannot be written."""
        path.open("wb").close()  # says what is wrong where it cannot be written
        if path.suffix.lower() == ".svg":
            from PyQt6.QtSvg import QSvgGenerator  # only here

            made = QSvgGenerator()
            made.setFileName(str(path))
            made.setSize(self.size())
            made.setViewBox(self.rect())
            made.setTitle("The lever")
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
            picture.save(str(path))

    # Where things stand

    @property
    def _drive(self) -> QPointF:
        return QPointF(9.0 * GRID, 9.5 * GRID)

    @property
    def _scale(self) -> float:
        """Pixels a metre: the handle ends a little beyond the grip mark."""
        return max(1.0, (self.width() - self._drive.x() - 5 * GRID) / (self.state.grip * 1.1))

    def _x(self, metres: float) -> float:
        return self._drive.x() + metres * self._scale

    def _metres(self, x: float) -> float:
        return (x - self._drive.x()) / self._scale

    def _place_of(self, part: Part) -> float | None:
        return self.state.hook if part is Part.HOOK else self.state.balance

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        self._paint(painter)
        if self.hasFocus():
            painter.setPen(QPen(self._theme.color("focus"), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 6, 6)
        painter.end()

    def _paint(self, painter: QPainter) -> None:
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._vice(painter)
        self._wrench(painter)
        self._hanging(painter)
        self._balance(painter)
        self._dimensions(painter)

    def _vice(self, painter: QPainter) -> None:
        theme, at = self._theme, self._drive
        painter.setPen(QPen(theme.color("ink"), 1.5))
        painter.setBrush(theme.color("frame"))
        for top in (at.y() - 4.5 * GRID, at.y() + 1.5 * GRID):
            painter.drawRoundedRect(QRectF(at.x() - 4 * GRID, top, 6 * GRID, 3 * GRID), 3, 3)
        painter.drawRect(QRectF(at.x() - 7 * GRID, at.y() - 3 * GRID, 3 * GRID, 8 * GRID))

    def _wrench(self, painter: QPainter) -> None:
        theme, at, state = self._theme, self._drive, self.state
        painter.setPen(QPen(theme.color("ink"), 1.5))
        painter.setBrush(theme.color("surface"))
        end = self._x(state.grip * 1.1)
        painter.drawRoundedRect(QRectF(at.x(), at.y() - 6, end - at.x(), 12), 5, 5)
        painter.setBrush(theme.color("line"))
        handle = self._x(state.grip * 0.8)
        painter.drawRoundedRect(QRectF(handle, at.y() - 9, end - handle, 18), 8, 8)
        painter.setBrush(theme.color("surface"))
        painter.drawEllipse(at, 13, 13)
        painter.setBrush(theme.color("ink"))
        painter.drawRect(QRectF(at.x() - 5, at.y() - 5, 10, 10))
        if state.pivot:
            painter.setBrush(theme.color("surface"))
            painter.drawEllipse(QPointF(self._x(state.pivot), at.y()), 4, 4)
        painter.setPen(QPen(theme.color("ink"), 2.5))
        grip = self._x(state.grip)
        painter.drawLine(QPointF(grip, at.y() - 12), QPointF(grip, at.y() + 12))

    def _hanging(self, painter: QPainter) -> None:
        state, theme = self.state, self._theme
        if state.hook is None:
            return
        x, top = self._x(state.hook), self._drive.y()
        chosen = self.part is Part.HOOK and not self._still
        painter.setPen(QPen(theme.color("accent" if chosen else "ink"), 2))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawEllipse(QPointF(x, top), 8, 8)
        y = top + 4 * GRID
        painter.drawLine(QPointF(x, top + 8), QPointF(x, y))
        heaviest = max((mass for _, mass in state.weights), default=1.0)
        painter.setFont(theme.font(Type.CAPTION))
        room = self.height() - y - 5 * GRID
        high = min(2.5 * GRID, room / max(1, len(state.weights)))
        for words, mass in state.weights:
            half = (3 + 4 * (mass / heaviest) ** (1 / 3)) * GRID / 2 + 2 * GRID
            body = QRectF(x - half, y, 2 * half, high - 2)
            slope = QPolygonF(
                [
                    body.topLeft() + QPointF(GRID, 0),
                    body.topRight() - QPointF(GRID, 0),
                    body.bottomRight(),
                    body.bottomLeft(),
                ]
            )
            painter.setPen(QPen(theme.color("ink"), 1.5))
            painter.setBrush(theme.color("tag"))
            painter.drawPolygon(slope)
            painter.setPen(theme.color("ink"))
            painter.drawText(body, Qt.AlignmentFlag.AlignCenter, words)
            y += high

    def _balance(self, painter: QPainter) -> None:
        state, theme = self.state, self._theme
        if state.balance is None:
            return
        at = QPointF(self._x(state.balance), self._drive.y())
        chosen = self.part is Part.BALANCE and not self._still
        painter.setPen(QPen(theme.color("accent" if chosen else "ink"), 1.5))
        painter.setBrush(theme.color("surface"))
        painter.drawEllipse(at, 7, 7)
        painter.setBrush(theme.color("accent" if chosen else "ink"))
        painter.drawPie(QRectF(at.x() - 7, at.y() - 7, 14, 14), 0, 90 * 16)
        painter.drawPie(QRectF(at.x() - 7, at.y() - 7, 14, 14), 180 * 16, 90 * 16)

    def _dimensions(self, painter: QPainter) -> None:
        """Above: grip mark, balance point, pin; below: the hook."""
        state, at = self.state, self._drive
        painter.setFont(self._theme.font(Type.CAPTION))
        lines = [(state.grip, at.y() - 8 * GRID, f"grip mark {_mm(state.grip)}")]
        if state.balance is not None:
            own = f", {state.own}" if state.own else ""
            lines.append((state.balance, at.y() - 5.75 * GRID, f"balance {_mm(state.balance)}{own}"))
        if state.hook is not None:
            lines.append((state.hook, self.height() - 2.5 * GRID, f"hook {_mm(state.hook)}"))
        for metres, y, words in lines:
            self._dimension(painter, metres, y, words)
        if state.pivot:
            painter.setPen(self._theme.color("quiet"))
            where = QRectF(self._x(state.pivot) - GRID, at.y() + GRID, 12 * GRID, 2 * GRID)
            painter.drawText(where, Qt.AlignmentFlag.AlignLeft, f"pin {_mm(state.pivot)}")
        if state.torque:
            painter.setFont(self._theme.font(Type.STRONG))
            painter.setPen(self._theme.color("ink"))
            where = QRectF(0, self.height() - 6 * GRID, self._drive.x() + 16 * GRID, 3 * GRID)
            painter.drawText(where, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, state.torque)

    def _dimension(self, painter: QPainter, metres: float, y: float, words: str) -> None:
        theme, left, right = self._theme, self._drive.x(), self._x(metres)
        painter.setPen(QPen(theme.color("quiet"), 1))
        painter.drawLine(QPointF(left, y), QPointF(right, y))
        for x in (left, right):
            painter.drawLine(QPointF(x, y - 4), QPointF(x, y + 4))
        wide = painter.fontMetrics().horizontalAdvance(words) + GRID
        middle = max((left + right) / 2, left + wide / 2 + 2)
        box = QRectF(middle - wide / 2, y - GRID, wide, 2 * GRID)
        painter.fillRect(box, theme.color("surface"))
        painter.setPen(theme.color("ink"))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)

    # Moving

    def _move(self, part: Part, metres: float) -> None:
        snapped = round(metres / SNAP) * SNAP
        low, high = (self.state.pivot + SNAP, self.state.grip) if part is Part.HOOK else (SNAP, self.state.grip)
        metres = min(high, max(low, snapped))
        if metres != self._place_of(part):
            self.moved.emit(part, metres)

    def _near(self, at: QPointF) -> Part | None:
        """The part under the pointer: the hook with all that hangs on it, or the balance point."""
        for part in (Part.BALANCE, Part.HOOK):
            place = self._place_of(part)
            if place is None or abs(self._x(place) - at.x()) > (REACH if part is Part.BALANCE else 3 * GRID):
                continue
            if part is Part.HOOK or abs(at.y() - self._drive.y()) <= REACH:
                return part
        return None

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and not self._still:
            self._held = self._near(event.position())
            self.part = self._held or self.part
            self.update()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._still:
            return
        if self._held is not None:
            self._move(self._held, self._metres(event.position().x()))
        over = self._held or self._near(event.position())
        self.setCursor(Qt.CursorShape.SizeHorCursor if over else Qt.CursorShape.ArrowCursor)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self._held = None

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Left and right move the part in hand, up and down take the other one."""
        if event is None:
            return
        key, place = event.key(), self._place_of(self.part)
        if key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self.part = Part.BALANCE if self.part is Part.HOOK else Part.HOOK
            self.update()
        elif key in (Qt.Key.Key_Left, Qt.Key.Key_Right) and place is not None:
            step = FAR_SNAP if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else SNAP
            self._move(self.part, place + (step if key == Qt.Key.Key_Right else -step))
        else:
            super().keyPressEvent(event)

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        self.update()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self.update()


def _mm(metres: float | None) -> str:
    return "" if metres is None else f"{number(metres * 1000)}{THIN}mm"
