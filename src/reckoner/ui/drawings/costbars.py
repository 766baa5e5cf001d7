"""What ways cost in a year, as bars beside each other with the days that the tool is missing."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QFontMetrics, QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from reckoner.core.translation import tr
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID

ROW = 5 * GRID


@dataclass(frozen=True)
class CostBar:
    """A way: what it costs as a ``part`` of the dearest (None: not known), the cost and the days in words; ``best``: it costs
    least; ``lacks`` says what is missing."""

    name: str
    part: float | None
    cost: str
    days: str
    best: bool = False
    lacks: str = ""


class CostBars(QWidget):
    """Looked at only."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._bars: tuple[CostBar, ...] = ()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(tr("What each way costs in a year"))
        theme.changed.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(60 * GRID, max(1, len(self._bars)) * ROW + GRID)

    def show_bars(self, bars: tuple[CostBar, ...]) -> None:
        """Another model."""
        self._bars = bars
        said = (f"{b.name}: {b.cost or b.lacks}{', ' + b.days if b.days else ''}" for b in bars)
        self.setAccessibleDescription("; ".join(said))
        self.updateGeometry()
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        theme, painter = self._theme, QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        body, strong = theme.font(Type.BODY), theme.font(Type.STRONG)
        names = max((QFontMetrics(strong).horizontalAdvance(b.name) for b in self._bars), default=0) + 2 * GRID
        told = (
            max((QFontMetrics(body).horizontalAdvance(f"{b.cost}  {b.days}") for b in self._bars), default=0) + 2 * GRID
        )
        room = max(8.0 * GRID, self.width() - names - told)
        for i, bar in enumerate(self._bars):
            y = i * ROW
            middle = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft
            painter.setFont(strong)
            painter.setPen(theme.color("ink"))
            painter.drawText(QRectF(0, y, names, ROW), middle, bar.name)
            painter.setFont(body)
            if bar.part is None:
                painter.setPen(theme.color("quiet"))
                painter.drawText(QRectF(names, y, self.width() - names, ROW), middle, bar.lacks)
                continue
            wide = max(3.0, bar.part * room)
            painter.setPen(theme.pen("ink", 1.5) if bar.best else Qt.PenStyle.NoPen)
            painter.setBrush(theme.color("accent") if bar.best else theme.color("line"))
            painter.drawRect(QRectF(names, y + GRID, wide, ROW - 2 * GRID))
            painter.setPen(theme.color("ink"))
            painter.drawText(QRectF(names + wide + GRID, y, told, ROW), middle, f"{bar.cost}  {bar.days}")
