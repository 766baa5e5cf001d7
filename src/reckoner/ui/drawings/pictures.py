"""The kinds of tools, drawn: each picture shows what tells the kind from the others."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPainterPath, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QAbstractButton, QSizePolicy

from reckoner.core.translation import tr
from reckoner.shop.facts.shapes import SHAPES, Shape
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.text import tip

FIELD = QRectF(0, 0, 120, 48)
"""What a picture is drawn on; it is scaled into its button."""


class Drawing:
    """Pens and shapes that the pictures share, on ``FIELD``."""

    def __init__(self, painter: QPainter, theme: Theme) -> None:
        self.painter, self.theme = painter, theme
        self.ink = QPen(theme.color("ink"), 2)
        self.ink.setCapStyle(Qt.PenCapStyle.RoundCap)
        self.ink.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
        painter.setPen(self.ink)
        painter.setBrush(theme.color("surface"))

    def shaft(self, left: float, right: float, y: float = 24, half: float = 4) -> None:
        """A round bar lying along the field."""
        self.painter.drawRoundedRect(QRectF(left, y - half, right - left, 2 * half), 2, 2)

    def head(self) -> None:
        """A ratchet head with its square."""
        self.painter.drawEllipse(QPointF(16, 24), 11, 11)
        self.square(16, 24)

    def square(self, x: float, y: float, half: float = 4) -> None:
        """The drive, seen from its end."""
        self.painter.fillRect(QRectF(x - half, y - half, 2 * half, 2 * half), self.theme.color("ink"))

    def grip(self, left: float = 78) -> None:
        """A knurled grip at the right end."""
        self.painter.drawRoundedRect(QRectF(left, 17, 116 - left, 14), 4, 4)
        for x in range(int(left) + 8, 112, 6):
            self.painter.drawLine(QPointF(x, 20), QPointF(x - 3, 28))

    def scale(self, left: float, right: float, y: float = 24) -> None:
        """A few marks of a scale."""
        for i, x in enumerate(range(int(left), int(right), 5)):
            self.painter.drawLine(QPointF(x, y - (3 if i % 2 else 5)), QPointF(x, y))

    def dial(self, x: float, y: float, radius: float) -> None:
        """A round dial and its needle."""
        self.painter.drawEllipse(QPointF(x, y), radius, radius)
        for dx, dy in ((-0.7, -0.35), (-0.35, -0.7), (0.35, -0.7), (0.7, -0.35)):
            self.painter.drawLine(
                QPointF(x + dx * radius, y + dy * radius), QPointF(x + dx * radius * 0.75, y + dy * radius * 0.75)
            )
        self.painter.setPen(QPen(self.theme.color("accent"), 2.5))
        self.painter.drawLine(QPointF(x, y), QPointF(x + radius * 0.35, y - radius * 0.6))
        self.painter.setPen(self.ink)

    def display(self, box: QRectF) -> None:
        """A display with digits."""
        self.painter.setBrush(self.theme.color("accent_wash"))
        self.painter.drawRoundedRect(box, 2, 2)
        self.painter.setBrush(self.theme.color("surface"))
        self.painter.setPen(QPen(self.theme.color("accent"), 2.5))
        for i in range(3):
            x = box.left() + 5 + i * (box.width() - 8) / 3
            self.painter.drawLine(QPointF(x, box.center().y() - 3), QPointF(x, box.center().y() + 3))
        self.painter.setPen(self.ink)

    def screwdriver(self) -> None:
        """A blade at the left and a thick handle at the right."""
        self.shaft(10, 52, half=2.5)
        self.painter.drawPolygon(QPolygonF([QPointF(4, 20), QPointF(12, 21), QPointF(12, 27), QPointF(4, 28)]))
        self.painter.drawRoundedRect(QRectF(52, 12, 62, 24), 8, 8)


def _click(d: Drawing) -> None:
    d.shaft(26, 80)
    d.head()
    d.grip()
    d.scale(60, 76)
    d.painter.setPen(QPen(d.theme.color("accent"), 2))
    for i, radius in enumerate((6, 10)):  # the click that is heard
        d.painter.drawArc(QRectF(38 - radius, 8 - radius / 2 - i, 2 * radius, 2 * radius), 40 * 16, 100 * 16)
    d.painter.setPen(d.ink)


def _break_over(d: Drawing) -> None:
    d.shaft(50, 80)
    d.grip()
    d.painter.save()
    d.painter.translate(50, 24)
    d.painter.rotate(-18)
    d.painter.translate(-50, -24)
    d.shaft(26, 52)
    d.head()
    d.painter.restore()
    d.painter.drawEllipse(QPointF(50, 24), 5, 5)


def _slip(d: Drawing) -> None:
    d.shaft(26, 80)
    d.head()
    d.grip()
    d.scale(60, 76)
    d.painter.setPen(QPen(d.theme.color("accent"), 2))
    path = QPainterPath(QPointF(36, 14))
    path.cubicTo(QPointF(42, 2), QPointF(52, 2), QPointF(56, 12))
    d.painter.setBrush(Qt.BrushStyle.NoBrush)
    d.painter.drawPath(path)
    d.painter.drawLine(QPointF(56, 12), QPointF(50, 10))
    d.painter.drawLine(QPointF(56, 12), QPointF(58, 6))
    d.painter.setPen(d.ink)
    d.painter.setBrush(d.theme.color("surface"))


def _preset(d: Drawing) -> None:
    d.shaft(26, 80)
    d.head()
    d.grip()
    d.painter.drawLine(QPointF(114, 17), QPointF(114, 31))
    d.painter.drawRoundedRect(QRectF(46, 18, 18, 12), 2, 2)
    d.painter.drawLine(QPointF(52, 24), QPointF(58, 24))


def _beam(d: Drawing) -> None:
    d.painter.drawEllipse(QPointF(14, 30), 9, 9)
    d.square(14, 30)
    d.shaft(22, 104, 33, 2)
    d.painter.drawLine(QPointF(20, 25), QPointF(92, 18))
    d.painter.drawArc(QRectF(70, 4, 44, 44), -20 * 16, 90 * 16)
    d.painter.drawRoundedRect(QRectF(100, 27, 14, 12), 4, 4)


def _dial(d: Drawing) -> None:
    d.shaft(26, 88)
    d.head()
    d.grip(88)
    d.dial(54, 24, 18)


def _electronic(d: Drawing) -> None:
    d.shaft(26, 88)
    d.head()
    d.grip(88)
    d.display(QRectF(40, 14, 34, 20))


def _screwdriver(d: Drawing) -> None:
    d.screwdriver()
    d.scale(60, 76, 28)
    for x in range(88, 110, 6):
        d.painter.drawLine(QPointF(x, 16), QPointF(x, 32))


def _preset_screwdriver(d: Drawing) -> None:
    d.screwdriver()
    d.painter.drawRoundedRect(QRectF(62, 18, 18, 12), 2, 2)
    d.painter.drawLine(QPointF(68, 24), QPointF(74, 24))
    for x in range(92, 110, 6):
        d.painter.drawLine(QPointF(x, 16), QPointF(x, 32))


def _dial_screwdriver(d: Drawing) -> None:
    d.screwdriver()
    d.dial(82, 24, 18)


def _electronic_screwdriver(d: Drawing) -> None:
    d.screwdriver()
    d.display(QRectF(62, 15, 40, 18))


DRAWN: dict[Shape, Callable[[Drawing], None]] = {
    Shape.CLICK_WRENCH: _click,
    Shape.BREAK_OVER_WRENCH: _break_over,
    Shape.SLIP_WRENCH: _slip,
    Shape.PRESET_WRENCH: _preset,
    Shape.BEAM_WRENCH: _beam,
    Shape.DIAL_WRENCH: _dial,
    Shape.ELECTRONIC_WRENCH: _electronic,
    Shape.SCREWDRIVER: _screwdriver,
    Shape.PRESET_SCREWDRIVER: _preset_screwdriver,
    Shape.DIAL_SCREWDRIVER: _dial_screwdriver,
    Shape.ELECTRONIC_SCREWDRIVER: _electronic_screwdriver,
}


class ShapePicture(QAbstractButton):
    """A kind of tool to choose: its picture, and its name below. Checkable."""

    def __init__(self, theme: Theme, shape: Shape) -> None:
        super().__init__()
        self._theme, self.shape = theme, shape
        self.setCheckable(True)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(f"{tr(shape)}: {SHAPES[shape].look}")
        self.setToolTip(tip(f"{tr(shape)}: {SHAPES[shape].look}"))
        theme.changed.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(21 * GRID, 10 * GRID)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        theme, painter = self._theme, QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        chosen = self.isChecked()
        box = QRectF(self.rect()).adjusted(1, 1, -1, -1)
        painter.setPen(QPen(theme.color("accent" if chosen or self.hasFocus() else "line"), 3 if chosen else 2))
        painter.setBrush(theme.color("accent_wash" if chosen else "surface"))
        painter.drawRoundedRect(box, 6, 6)
        painter.save()
        painter.translate((self.width() - FIELD.width()) / 2, GRID / 2)
        DRAWN[self.shape](Drawing(painter, theme))
        painter.restore()
        painter.setFont(theme.font(Type.CAPTION))
        painter.setPen(theme.color("ink"))
        words = box.adjusted(4, 0, -4, -GRID / 2)
        painter.drawText(words, Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignBottom, tr(self.shape))
