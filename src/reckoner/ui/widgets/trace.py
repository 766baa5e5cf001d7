"""The live trace: the last seconds of torque, with the target and the signal marked. Torques in N·m inside."""

from __future__ import annotations

import numpy as np
import pyqtgraph as pg
from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QGraphicsItem, QVBoxLayout, QWidget

from reckoner.core.arrays import Values
from reckoner.core.printing import number
from reckoner.core.units import Unit
from reckoner.ui.theme import GRID, Theme, Type

SECONDS = 4.0
FRAME_MS = 33
POINTS = 800


class _Axis(pg.AxisItem):  # type: ignore[misc]
    """Ticks without signs: torque is a magnitude here, and time is told as seconds before now. Kept as a picture, for it
    stands still while the curve runs."""

    def __init__(self, side: str) -> None:
        super().__init__(side)
        self.setCacheMode(QGraphicsItem.CacheMode.DeviceCoordinateCache)

    def tickStrings(self, values: list[float], scale: float, spacing: float) -> list[str]:
        return [number(abs(v * scale)) for v in values]


class LiveTrace(QWidget):
    """Redraws at most thirty times a second, whatever the meter's rate, and only while samples come."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._unit: Unit | None = None
        self._rate = 1000.0
        self._kept = np.empty(0)
        self._dirty = False
        self._signal_at: float | None = None
        self._since_signal = 0
        self._plot = pg.PlotWidget(axisItems={side: _Axis(side) for side in ("left", "bottom")})
        self._plot.setMenuEnabled(False)
        self._plot.setMouseEnabled(False, False)
        self._plot.hideButtons()
        self._curve = self._plot.plot([], [])
        self._target = pg.InfiniteLine(angle=0)
        self._mark = pg.ScatterPlotItem(size=13)
        self._plot.addItem(self._target)
        self._plot.addItem(self._mark)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self._plot)
        self.setAccessibleName("Live torque")
        self.setMinimumHeight(11 * GRID)
        self._timer = QTimer(self)
        self._timer.setInterval(FRAME_MS)
        self._timer.timeout.connect(self._draw)
        self._timer.start()
        theme.changed.connect(self._dress)
        self._dress()

    def aim(self, target: float, unit: Unit) -> None:
        """Show pulls to ``target`` (N·m), labelled in ``unit``."""
        aim = unit.from_si(target)
        if self._unit is unit and self._target.value() == aim:
            return
        self._unit = unit
        self._target.setValue(aim)
        self._plot.setYRange(0, aim * 1.25, padding=0)
        self._plot.setLabel("left", unit.symbol)
        self._mark.clear()
        self._signal_at = None

    def take(self, samples: Values, rate: float) -> None:
        """The next samples, in N·m."""
        self._rate = rate
        self._kept = np.concatenate([self._kept, samples])[-int(SECONDS * rate) :]
        self._since_signal += len(samples)
        self._dirty = True

    def mark_signal(self, torque: float, ago: float) -> None:
        """Mark the signal found at ``torque`` (N·m), ``ago`` seconds before the newest sample."""
        self._since_signal = round(ago * self._rate)
        self._signal_at = torque
        self._dirty = True

    def clear(self) -> None:
        self._kept = np.empty(0)
        self._signal_at = None
        self._dirty = True

    def _draw(self) -> None:
        if not self._dirty or not self.isVisible() or self._unit is None:
            return
        self._dirty = False
        size = len(self._kept)
        step = max(1, size // POINTS)
        shown = np.abs(self._kept[size % step :: step]) / self._unit.size
        seconds = (np.arange(len(shown)) - len(shown)) * step / self._rate
        self._curve.setData(seconds, shown)
        if self._signal_at is not None and self._since_signal < size:
            self._mark.setData([-self._since_signal / self._rate], [self._unit.from_si(self._signal_at)])
        else:
            self._mark.clear()

    def _dress(self) -> None:
        theme = self._theme
        self._plot.setBackground(theme.color("surface"))
        self._curve.setPen(pg.mkPen(theme.color("accent"), width=2))
        self._target.setPen(pg.mkPen(theme.color("ink"), width=1, dash=[6, 4]))
        self._mark.setPen(pg.mkPen(theme.color("ink"), width=2))
        self._mark.setBrush(theme.color("surface"))
        self._plot.setXRange(-SECONDS, 0, padding=0)
        for side in ("left", "bottom"):
            axis = self._plot.getAxis(side)
            axis.setPen(theme.color("line"))
            axis.setTextPen(theme.color("quiet"))
            axis.setStyle(tickFont=theme.font(Type.CAPTION), tickLength=-4)
            axis.label.setFont(theme.font(Type.CAPTION))
        self._plot.setLabel("bottom", "seconds before now")
        self._plot.showGrid(y=True, alpha=0.15)
        self._dirty = True
