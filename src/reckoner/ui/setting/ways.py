"""What the angle does, and the ways in which people do it, side by side."""

from __future__ import annotations

import math

from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QBoxLayout, QWidget

from reckoner.core.printing import fixed, percent, quantity, span
from reckoner.core.translation import tr
from reckoner.shop.using.setting import Answer, curve
from reckoner.shop.using.settingwords import habit_words, torque_figure
from reckoner.ui.layout import column, empty, row, surface
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.anglechart import STEPS, AngleChart, AngleState
from reckoner.ui.widgets.bandrow import BandRow, BandState
from reckoner.ui.widgets.text import label

SIDE_BY_SIDE = 88 * GRID
"""From this width on the two stand beside each other; the ways come first otherwise."""


class Ways(QWidget):
    """Two papers beside each other; that of the angle only with an adapter."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.chart = AngleChart(theme)
        self.window_words = label(theme, "", Type.BODY, wrap=True)
        self.angle = surface(
            column(label(theme, tr("What the angle does"), Type.LEAD), self.chart, self.window_words, gap=1, margin=2)
        )
        self._rows = column(gap=0)
        self.rows: list[BandRow] = []
        self.band_words = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.title = label(theme, tr("The ways to do it"), Type.LEAD)
        self.habits = surface(column(self.title, self._rows, self.band_words, 1, gap=1, margin=2))
        self._beside = row(self.angle, self.habits, gap=2)
        self._beside.setStretch(0, 2)
        self._beside.setStretch(1, 3)
        self.setLayout(self._beside)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        room = self.width() >= SIDE_BY_SIDE
        ways = QBoxLayout.Direction.LeftToRight if room else QBoxLayout.Direction.BottomToTop
        if self._beside.direction() is not ways:
            self._beside.setDirection(ways)

    def show_answer(self, found: Answer) -> None:
        """Another setting."""
        ask, unit = found.ask, found.ask.unit
        angles = found.window is not None
        self.angle.setVisible(angles)
        if found.window is not None:
            low, high = (fixed(math.degrees(a), 0) for a in (found.window.low_rad, found.window.high_rad))
            first = abs(ask.fitted[0].angle_rad)
            self.chart.show_state(AngleState(curve(ask, STEPS), first, (found.window.low_rad, found.window.high_rad)))
            self.window_words.setText(
                tr("{low}° to {high}°: the same within {within}.", low=low, high=high, within=percent(ask.within, 0))
            )
        if len(self.rows) != len(found.habits):
            empty(self._rows)
            self.rows = [BandRow(self._theme) for _ in found.habits]
            for one in self.rows:
                self._rows.addWidget(one)
        for one, habit in zip(self.rows, found.habits, strict=True):
            one.show_state(
                BandState(
                    habit.name,
                    habit_words(ask, habit),
                    ask.band.low,
                    ask.band.high,
                    habit.gets,
                    habit.gets * (found.uncertainty or 0.0),
                    torque_figure(habit.gets, unit),
                    unit.symbol,
                    habit.falls,
                )
            )
        one_value = ask.band.is_one
        self.band_words.setText(
            tr("Give the joint's two ends, and each way is held against them.")
            if one_value
            else tr(
                "The joint allows {low}; aimed at {wanted}.",
                low=span(ask.band.low, ask.band.high, unit),
                wanted=quantity(ask.wanted, unit),
            )
        )
