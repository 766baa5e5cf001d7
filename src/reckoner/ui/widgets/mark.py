"""The fence mark: two posts and a dot, the dot's place and shape telling the state; legible at 16 px without colour."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from reckoner.core.decision.states import State
from reckoner.core.translation import tr
from reckoner.formats.papers.fencemark import dot_place
from reckoner.ui.theme import STATE_SHAPES, Theme


def paint_mark(painter: QPainter, theme: Theme, box: QRectF, state: State | None, *, mirrored: bool = False) -> None:
    """Draw the mark into ``box``. None: the posts alone (never tested). ``mirrored`` puts the dot on the left."""
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    unit = min(box.width() / 4.2, box.height() / 2.2)
    centre = box.center()
    thick = max(1.5, unit * 0.22)
    painter.setPen(QPen(theme.color("post"), thick, Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap))
    for side in (-1, 1):
        x = centre.x() + side * unit
        painter.drawLine(QPointF(x, centre.y() - unit), QPointF(x, centre.y() + unit))
    if state is not None:
        _dot(painter, theme, centre, unit, thick, state, -1 if mirrored else 1)
    painter.restore()


def _dot(painter: QPainter, theme: Theme, centre: QPointF, unit: float, thick: float, state: State, side: int) -> None:
    color = theme.state_color(state)
    at = QPointF(centre.x() + side * dot_place(state) * unit * 0.82, centre.y())
    radius = unit * 0.42
    around = QRectF(at.x() - radius, at.y() - radius, 2 * radius, 2 * radius)
    shape = STATE_SHAPES[state]
    if shape in ("disc", "half"):
        painter.setPen(QPen(color, thick * 0.8))
        painter.setBrush(color if shape == "disc" else Qt.BrushStyle.NoBrush)
        painter.drawEllipse(around)
        if shape == "half":
            painter.setBrush(color)
            painter.drawPie(around, 90 * 16, -180 * side * 16)
    elif shape == "ring":
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(color, thick))
        painter.drawEllipse(around)
    elif shape == "cross":
        painter.setPen(QPen(color, thick * 1.2))
        painter.drawLine(around.topLeft(), around.bottomRight())
        painter.drawLine(around.topRight(), around.bottomLeft())
    elif shape == "tick":  # a reading between no posts: both ends open
        painter.setPen(QPen(color, thick))
        painter.drawLine(QPointF(at.x(), around.top() - radius), QPointF(at.x(), around.bottom() + radius))
        painter.drawLine(QPointF(at.x(), at.y()), around.topRight())
    else:
        painter.setPen(QPen(color, thick))
        painter.drawLine(QPointF(around.left(), at.y()), QPointF(around.right(), at.y()))


class FenceMark(QWidget):
    """The mark as a widget of ``size`` pixels."""

    def __init__(self, theme: Theme, state: State | None = None, size: int = 24) -> None:
        super().__init__()
        self._theme = theme
        self._size = size
        self._state = state
        self._mirrored = False
        self.setFixedSize(self.sizeHint())
        theme.changed.connect(self.update)
        self.show_state(state)

    def show_state(self, state: State | None, *, mirrored: bool = False) -> None:
        self._state, self._mirrored = state, mirrored
        self.setAccessibleName(state.words if state else tr("never tested"))
        self.setToolTip(self.accessibleName())
        self.update()

    def state(self) -> State | None:
        return self._state

    def sizeHint(self) -> QSize:
        return QSize(round(self._size * 1.75), self._size)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        paint_mark(QPainter(self), self._theme, QRectF(self.rect()), self._state, mirrored=self._mirrored)
