"""A control chart: a reference's cross-checks one after the other, about their mean."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from reckoner.core.history.crosschecks import Checked, Control
from reckoner.core.quantities.printing import percent
from reckoner.core.translation import tr
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID

TONES = {Control.TOO_FEW: "quiet", Control.STEADY: "inside", Control.WARN: "near", Control.STOP: "outside"}


class ControlChart(QWidget):
    """Each check as a mark whose shape tells how it stands; the bands of 2 and 3 standard deviations that the newest was
    held against."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._checks: tuple[Checked, ...] = ()
        theme.changed.connect(self.update)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(20 * GRID)
        self.setAccessibleName(tr("Control chart of its cross-checks"))

    def show_checks(self, checks: tuple[Checked, ...]) -> None:
        """Oldest first."""
        self._checks = checks
        said = "; ".join(f"{percent(c.difference, 2, sign=True)} {tr(c.control)}" for c in checks)
        self.setAccessibleDescription(said)
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(60 * GRID, 20 * GRID)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        checks = self._checks
        if not checks:
            return
        painter, theme = QPainter(self), self._theme
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        yard = QRectF(self.rect()).adjusted(8 * GRID, GRID, -8 * GRID, -GRID)
        newest = checks[-1]
        mean = newest.mean if newest.mean is not None else sum(c.difference for c in checks) / len(checks)
        spread = max((abs(c.difference - mean) for c in checks), default=0.0)
        reach = max(spread, 3.5 * (newest.deviation or 0.0), 1e-4) * 1.1

        def y(difference: float) -> float:
            return yard.center().y() - (difference - mean) / reach * yard.height() / 2

        painter.setFont(theme.font(Type.CAPTION))
        lines = [(0, tr("mean"), "quiet")]
        if newest.deviation:
            lines += [(n, f"{abs(n)} s", "line") for n in (-3, -2, 2, 3)]
        for n, words, tone in lines:
            value = mean + n * (newest.deviation or 0.0)
            painter.setPen(theme.pen(tone, 1.5))
            painter.drawLine(QPointF(yard.left(), y(value)), QPointF(yard.right(), y(value)))
            painter.setPen(theme.color("quiet"))
            right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
            shown = "" if abs(n) == 2 else percent(value, 2, sign=True)
            painter.drawText(QRectF(0, y(value) - GRID, yard.left() - GRID, 2 * GRID), right, shown)
            where = QRectF(yard.right() + GRID, y(value) - GRID, 7 * GRID, 2 * GRID)
            painter.drawText(where, Qt.AlignmentFlag.AlignVCenter, words)
        step = yard.width() / max(1, len(checks))
        for i, check in enumerate(checks):
            self._mark(painter, QPointF(yard.left() + (i + 0.5) * step, y(check.difference)), check.control)

    def _mark(self, painter: QPainter, at: QPointF, control: Control) -> None:
        """A disc is steady, a ring warns, a cross stops, a dot has too few before it."""
        theme = self._theme
        color = theme.color(TONES[control])
        pen = theme.pen("ink", 2.5)
        pen.setColor(color)
        painter.setPen(pen)
        painter.setBrush(color if control in (Control.STEADY, Control.TOO_FEW) else Qt.BrushStyle.NoBrush)
        if control is Control.STOP:
            painter.drawLine(at + QPointF(-6, -6), at + QPointF(6, 6))
            painter.drawLine(at + QPointF(-6, 6), at + QPointF(6, -6))
            return
        radius = 3 if control is Control.TOO_FEW else 6
        painter.drawEllipse(at, radius, radius)
