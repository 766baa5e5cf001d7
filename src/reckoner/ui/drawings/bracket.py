"""Where a tool trips, closing in: settings that clicked to the left, silent ones to the right, the next try between."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from reckoner.core.quantities.printing import THIN, number, uncertainty_decimals
from reckoner.core.quantities.units import N_M, Unit
from reckoner.core.translation import tr
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID


@dataclass(frozen=True)
class BracketState:
    """Settings in N·m: those that ``clicked``, those that were ``silent``, the ``next`` one, the ``torque`` that hangs, and
    where brackets have ``closed``. ``step`` is the graduation; a walk gives torques instead, and ``what`` says so."""

    torque: float = 1.0
    step: float = 1.0
    unit: Unit = N_M
    clicked: tuple[float, ...] = ()
    silent: tuple[float, ...] = ()
    next: float | None = None
    closed: tuple[float, ...] = ()
    what: str = "hangs"


class BracketLine(QWidget):
    """A line of settings around what hangs: a full mark clicked, an open one was silent."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.state = BracketState()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setMinimumHeight(self.sizeHint().height())
        self.setAccessibleName(tr("Where it clicks"))
        theme.changed.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(60 * GRID, 12 * GRID)

    def show_state(self, state: BracketState) -> None:
        """Show other tries."""
        self.state = state
        self.setAccessibleDescription(
            tr("{count} clicked, {count_2} silent", count=len(state.clicked), count_2=len(state.silent))
        )
        self.update()

    @property
    def _ends(self) -> tuple[float, float]:
        s = self.state
        seen = [*s.clicked, *s.silent, *s.closed, s.torque, *([s.next] if s.next is not None else [])]
        room = max(3 * s.step, 0.15 * (max(seen) - min(seen)))
        return min(seen) - room, max(seen) + room

    def _x(self, setting: float) -> float:
        low, high = self._ends
        return 4 * GRID + (setting - low) / (high - low) * (self.width() - 8 * GRID)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, theme, s = QPainter(self), self._theme, self.state
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        y = 5.5 * GRID
        painter.setPen(QPen(theme.color("line"), 2))
        painter.drawLine(QPointF(2 * GRID, y), QPointF(self.width() - 2 * GRID, y))
        painter.setFont(theme.font(Type.CAPTION))
        self._mark(painter, s.torque, y, f"{s.what} {self._said(s.torque)}", above=False)
        if s.clicked and s.silent:
            span = QRectF(self._x(max(s.clicked)), y - 5, self._x(min(s.silent)) - self._x(max(s.clicked)), 10)
            painter.fillRect(span, theme.color("accent_wash"))
        for setting, full in [*((c, True) for c in s.clicked), *((c, False) for c in s.silent)]:
            painter.setPen(QPen(theme.color("ink"), 2))
            painter.setBrush(theme.color("ink") if full else theme.color("surface"))
            painter.drawEllipse(QPointF(self._x(setting), y), 6, 6)
        for setting in s.closed:
            painter.setPen(QPen(theme.color("inside"), 3))
            painter.drawLine(QPointF(self._x(setting), y - 10), QPointF(self._x(setting), y + 10))
        if s.next is not None:
            painter.setPen(QPen(theme.color("accent"), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawEllipse(QPointF(self._x(s.next), y), 9, 9)
            self._mark(painter, s.next, y, tr("try {said}", said=self._said(s.next)), above=True)
        painter.setPen(theme.color("quiet"))
        foot = QRectF(2 * GRID, self.height() - 2.5 * GRID, self.width() - 4 * GRID, 2 * GRID)
        painter.drawText(foot, Qt.AlignmentFlag.AlignCenter, tr("● clicked   ○ silent   | found"))
        painter.end()

    def _mark(self, painter: QPainter, setting: float, y: float, words: str, *, above: bool) -> None:
        painter.setPen(self._theme.color("ink"))
        wide = 20 * GRID
        left = min(max(self._x(setting) - wide / 2, 0), self.width() - wide)
        top = y - 4.5 * GRID if above else y + 1.5 * GRID
        painter.drawText(QRectF(left, top, wide, 2 * GRID), Qt.AlignmentFlag.AlignCenter, words)

    def _said(self, torque: float) -> str:
        unit = self.state.unit
        decimals = uncertainty_decimals(unit.from_si(self.state.step))
        return f"{number(unit.from_si(torque), decimals)}{THIN}{unit.symbol}"
