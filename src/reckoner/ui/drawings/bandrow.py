"""A torque against a joint's band: two posts at the band's ends, the mark with its whisker between or beyond them, what it
is called, and the torque itself."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QFontMetrics, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QSizePolicy, QWidget

from reckoner.core.tightening.setting import BandPlace
from reckoner.core.translation import tr
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID

REACH = 1.6
"""How far beyond the posts the drawing reaches, in halves of the band."""

FALLS_COLOURS = {
    None: "accent",
    BandPlace.INSIDE: "inside",
    BandPlace.OUTSIDE: "outside",
    BandPlace.CANNOT_TELL: "near",
}
FALLS_WORDS = {
    None: "",
    BandPlace.INSIDE: tr("inside"),
    BandPlace.OUTSIDE: tr("outside"),
    BandPlace.CANNOT_TELL: tr("cannot tell"),
}


@dataclass(frozen=True)
class BandState:
    """``low`` and ``high`` of the band (the same: there is none), the ``torque`` and its ``whisker``, N·m; ``figure`` and
    ``unit`` are the torque in words."""

    name: str
    told: str
    low: float
    high: float
    torque: float
    whisker: float
    figure: str
    unit: str
    falls: BandPlace | None = None


class BandRow(QWidget):
    """Looked at only."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._state: BandState | None = None
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        theme.changed.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(44 * GRID, 6 * GRID)

    def show_state(self, state: BandState) -> None:
        """Another torque."""
        self._state = state
        words = (state.name, f"{state.figure} {state.unit}", FALLS_WORDS[state.falls], state.told)
        self.setAccessibleName(", ".join(w for w in words if w))
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        state, theme = self._state, self._theme
        if state is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(self.rect())
        yard = QRectF(0, GRID, 10 * GRID, box.height() - 2 * GRID)
        if state.high > state.low:
            paint_band(painter, theme, yard, state)
        painter.setFont(theme.font(Type.TITLE))
        wide = QFontMetrics(painter.font()).horizontalAdvance(state.figure)
        unit = QFontMetrics(theme.font(Type.BODY)).horizontalAdvance(f" {state.unit}") + GRID
        right = box.right() - unit
        painter.setPen(theme.color("ink"))
        middle = Qt.AlignmentFlag.AlignVCenter
        painter.drawText(
            QRectF(right - wide, 0, wide, box.height()), middle | Qt.AlignmentFlag.AlignRight, state.figure
        )
        painter.setFont(theme.font(Type.BODY))
        painter.setPen(theme.color("quiet"))
        painter.drawText(
            QRectF(right + GRID / 2, 0, unit, box.height()), middle | Qt.AlignmentFlag.AlignLeft, state.unit
        )
        left = yard.right() + 2 * GRID if state.high > state.low else 0.0
        room = max(0.0, right - wide - GRID - left)
        self._line(painter, QRectF(left, 2, room, box.height() / 2), Type.STRONG, "ink", self._named(state))
        self._line(
            painter, QRectF(left, box.height() / 2 - 2, room, box.height() / 2), Type.CAPTION, "quiet", state.told
        )
        painter.setPen(theme.pen("line"))
        painter.drawLine(box.bottomLeft(), box.bottomRight())

    def _named(self, state: BandState) -> str:
        words = FALLS_WORDS[state.falls]
        return f"{state.name}: {words}" if words else state.name

    def _line(self, painter: QPainter, box: QRectF, role: Type, tone: str, words: str) -> None:
        painter.setFont(self._theme.font(role))
        painter.setPen(self._theme.color(tone))
        fits = QFontMetrics(painter.font()).elidedText(words, Qt.TextElideMode.ElideRight, int(box.width()))
        painter.drawText(box, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, fits)
        self.setToolTip(words if fits != words else self.toolTip())


def paint_band(painter: QPainter, theme: Theme, yard: QRectF, state: BandState) -> None:
    """The posts, the middle, and the torque with its whisker; an arrow for one beyond the drawing."""
    middle, half = (state.low + state.high) / 2, (state.high - state.low) / 2

    def x(torque: float) -> float:
        part = max(-REACH, min(REACH, (torque - middle) / half))
        return yard.center().x() + part / REACH * yard.width() / 2

    painter.setPen(theme.pen("line", 1))
    painter.drawLine(QPointF(yard.left(), yard.bottom()), QPointF(yard.right(), yard.bottom()))
    painter.drawLine(QPointF(x(middle), yard.top() + GRID), QPointF(x(middle), yard.bottom()))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(theme.color("post"))
    for end in (state.low, state.high):
        painter.drawRect(QRectF(x(end) - 1.5, yard.top(), 3, yard.height()))
    colour, y = theme.color(FALLS_COLOURS[state.falls]), yard.center().y()
    at = x(state.torque)
    painter.setPen(QPen(colour, 2))
    if state.whisker:
        painter.drawLine(QPointF(x(state.torque - state.whisker), y), QPointF(x(state.torque + state.whisker), y))
    painter.setBrush(colour)
    painter.setPen(Qt.PenStyle.NoPen)
    if abs(state.torque - middle) / half > REACH:
        sense = 1 if state.torque > middle else -1
        painter.drawPolygon(QPolygonF([QPointF(at, y), QPointF(at - sense * 9, y - 6), QPointF(at - sense * 9, y + 6)]))
    elif state.falls is BandPlace.OUTSIDE:
        painter.setPen(QPen(colour, 2.5))
        for sense in (-1, 1):
            painter.drawLine(QPointF(at - 5, y - sense * 5), QPointF(at + 5, y + sense * 5))
    else:
        painter.drawEllipse(QPointF(at, y), 5, 5)
