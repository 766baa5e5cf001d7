"""The slim rail of places at the left, each with a drawn sign."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QPainter, QPainterPath, QPaintEvent, QPen
from PyQt6.QtWidgets import QAbstractButton, QWidget

from reckoner.ui.actions import tooltip
from reckoner.ui.layout import column
from reckoner.ui.places import PLACES, PlaceId, PlaceSpec
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID

WIDTH = 11 * GRID


class RailButton(QAbstractButton):
    """One place."""

    def __init__(self, theme: Theme, place: PlaceSpec) -> None:
        super().__init__()
        self._theme, self._place = theme, place
        self.setText(place.name)
        self.setToolTip(tooltip(place.id))
        self.setAccessibleName(place.name)
        self.setCheckable(True)
        self.setAutoExclusive(True)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setFixedSize(self.sizeHint())
        theme.changed.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(WIDTH, 8 * GRID)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        theme, painter = self._theme, QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.isChecked():
            painter.fillRect(self.rect(), theme.color("ground"))
            painter.fillRect(QRectF(0, 0, 4, self.height()), theme.color("accent"))
        if self.hasFocus():
            painter.setPen(QPen(theme.color("focus"), 2))
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(6, 3, -3, -3), 6, 6)
        tone = "ink" if self.isChecked() else "frame_quiet"
        path = QPainterPath()
        self._place.sign(path)
        painter.setPen(QPen(theme.color(tone), 2, cap=Qt.PenCapStyle.RoundCap, join=Qt.PenJoinStyle.RoundJoin))
        painter.translate(self.width() / 2 - 12, 10)
        painter.drawPath(path)
        painter.resetTransform()
        role, room = (Type.STRONG if self.isChecked() else Type.BODY), self.width() - GRID
        wide = QFontMetrics(theme.font(role, 0.9)).horizontalAdvance(self.text())
        painter.setFont(theme.font(role, min(0.9, 0.9 * room / wide)))  # a long word is set smaller
        painter.setPen(theme.color(tone))
        painter.drawText(QRectF(0, 36, self.width(), 22), Qt.AlignmentFlag.AlignCenter, self.text())


class Rail(QWidget):
    """Signal ``chosen(PlaceId)``."""

    chosen = pyqtSignal(object)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.setProperty("class", "frame")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setFixedWidth(WIDTH)
        self.buttons = {place.id: RailButton(theme, place) for place in PLACES}
        for place, made in self.buttons.items():
            made.clicked.connect(lambda _checked, place=place: self.chosen.emit(place))
        layout = column(*self.buttons.values(), 1, gap=0)
        layout.setContentsMargins(0, GRID, 0, GRID)
        self.setLayout(layout)

    def show_place(self, place: PlaceId) -> None:
        self.buttons[place].setChecked(True)
