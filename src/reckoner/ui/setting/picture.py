"""The picture of a setting: its sentence first, the lever drawing that is worked on, and the derivation on request.

What the angle does, and the ways in which people do it, side by side.
"""

from __future__ import annotations

import math

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QBoxLayout, QWidget

from reckoner.core.quantities.printing import fixed, percent, quantity, span
from reckoner.core.translation import tr
from reckoner.shop.using.setting import SettingAnswer, curve
from reckoner.shop.words.settings import (
    beneath,
    cautions,
    formulas,
    habit_words,
    sentence,
    spanner_words,
    test_words,
    torque_figure,
)
from reckoner.ui.drawings.anglechart import STEPS, AngleChart, AngleState
from reckoner.ui.drawings.bandrow import BandRow, BandState
from reckoner.ui.drawings.lever import LeverDrawing
from reckoner.ui.drawings.levershape import AdapterShown, LeverPart, LeverState
from reckoner.ui.layout import column, empty, row, surface
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.text import label, set_tone

NOTHING = tr("Say what the joint gets: one torque, or its two ends.")
USUAL_LEVER = 0.4
"""How long the lever is drawn, in m, while nobody has said."""


class SettingPicture(QWidget):
    """Signals ``moved(Part, index, value)`` when a part is dragged, ``card_wanted()``: it is to be taken along on paper."""

    moved = pyqtSignal(object, int, float)
    card_wanted = pyqtSignal()
    test_wanted = pyqtSignal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.sentence = label(theme, NOTHING, Type.HEADLINE, wrap=True)
        self.beneath = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.unfit = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.spanner = label(theme, "", Type.BODY, wrap=True)
        self.drawing = LeverDrawing(theme)
        self.drawing.moved.connect(self._moved)
        self.card_button = button(theme, tr("Setting card…"), self.card_wanted.emit)
        self.test_button = button(theme, "", self.test_wanted.emit)
        self.unfold = button(theme, tr("Show the derivation"), self._unfold, "link")
        self.formulas = label(theme, "", Type.BODY, wrap=True)
        self.formulas.hide()
        self.cautions = label(theme, "", Type.BODY, "quiet", wrap=True)
        foot = row(self.cautions, self.unfold, self.test_button, self.card_button, gap=2)
        foot.setStretch(0, 1)
        self.setLayout(
            column(
                self.unfit, self.sentence, self.beneath, self.spanner, self.drawing, self.formulas, foot, gap=1
            )
        )  # fmt: skip

    def _moved(self, part: LeverPart, value: float) -> None:
        self.moved.emit(part, self.drawing.index, value)

    def _unfold(self) -> None:
        on = self.formulas.isHidden()
        self.formulas.setVisible(on)
        self.unfold.setText(tr("Hide the derivation") if on else tr("Show the derivation"))

    def wait(self) -> None:
        """Another tool is looked up: what is shown is not taken along until it is there."""
        for control in (self.card_button, self.test_button):
            control.setEnabled(False)

    def show_nothing(self, words: str = NOTHING) -> None:
        """Nothing is asked yet, or it cannot be answered."""
        self.sentence.setText(words)
        set_tone(self.sentence, "")
        for one in (self.beneath, self.formulas, self.cautions, self.spanner):
            one.setText("")
        self.spanner.hide()
        self.unfold.hide()
        self.card_button.hide()
        self.test_button.hide()

    def show_unfit(self, words: str) -> None:
        """Why the tool may not be used; empty when it may."""
        self.unfit.setText(words)
        self.unfit.setVisible(bool(words))

    def _offer_test(self, found: SettingAnswer) -> None:
        """Where nothing was measured: the pulls that would answer."""
        self.test_button.setVisible(found.wants_test)
        if found.wants_test:
            self.test_button.setText(test_words(found))

    def show_answer(self, found: SettingAnswer) -> None:
        """What to set."""
        spanner = spanner_words(found.ask)
        self.spanner.setText(spanner)
        self.spanner.setVisible(bool(spanner))
        self.sentence.setText(sentence(found))
        set_tone(self.sentence, "fault" if found.out_of_range or found.forbidden else "")
        self.beneath.setText(beneath(found))
        self.formulas.setText("\n".join(formulas(found)))
        self.cautions.setText(" ".join(cautions(found.ask)))
        self.unfold.show()
        for control in (self.card_button, self.test_button):
            control.setEnabled(True)
        self.card_button.setVisible(found.promises)
        self._offer_test(found)
        ask = found.ask
        pivot = ask.tool.pivot if ask.tool is not None else 0.0
        grip = ask.length or USUAL_LEVER
        window = found.window
        self.drawing.show_state(
            LeverState(
                units=ask.own_units,
                grip=grip,
                pivot=pivot,
                hand=ask.hand or grip,
                adapters=tuple(
                    AdapterShown(one.length, one.angle_rad, one.of.number if one.of is not None else "")
                    for one in ask.fitted
                ),
                square=(window.low_rad, window.high_rad) if window is not None else None,
            )
        )


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

    def show_answer(self, found: SettingAnswer) -> None:
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
