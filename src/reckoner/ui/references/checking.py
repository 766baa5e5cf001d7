"""Holding a reference against another one, or against weights: what both said at the same torque."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QGridLayout, QWidget

from reckoner.core.errors import InputRefused, Refused
from reckoner.core.printing import percent, quantity
from reckoner.core.units import N_M, Unit
from reckoner.shop.crosschecks import CONTROL_WORDS, CheckLine, cross_check
from reckoner.ui.layout import column, empty, row
from reckoner.ui.place import Surroundings
from reckoner.ui.references.fromweights import FromWeights
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.control import ControlChart
from reckoner.ui.widgets.entry import EntryField, torque_reader, words_reader
from reckoner.ui.widgets.text import ElidedLabel, label

SHOWN = 8


class Checking(QWidget):
    """The chart, the newest checks, and entering one more. Signal ``kept()``."""

    kept = pyqtSignal()

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        theme = around.theme
        self._reference, self._unit = 0, N_M
        self.chart = ControlChart(theme)
        self.none = label(
            theme,
            "None yet. Load it and another one with the same torque now and then, or hang weights: a drift shows long "
            "before its certificate ends.",
            Type.BODY,
            "quiet",
            wrap=True,
        )
        self._grid = QGridLayout()
        self._grid.setHorizontalSpacing(2 * GRID)
        self._grid.setVerticalSpacing(GRID // 2)
        self._grid.setColumnStretch(3, 1)
        self.shown = EntryField(theme, "It shows", torque_reader(N_M))
        self.true = EntryField(theme, "while the other says", torque_reader(N_M))
        self.against = EntryField(theme, "The other", words_reader, "such as PM-3, or 12 kg at 420 mm")
        self.keep = button(theme, "Keep this check", self.add)
        self.by_weights = button(theme, "With weights…", self._with_weights, "link")
        self.weights = FromWeights(around)
        self.weights.made.connect(self._made)
        self.weights.hide()
        for field in (self.shown, self.true, self.against):
            field.given.connect(lambda _value: self.add())
        self.fault = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.setLayout(
            column(
                self.none, self.chart, self._grid, row(self.shown, self.true, self.against, gap=2), self.weights,
                self.fault, row(self.keep, self.by_weights, 1), gap=1,
            )
        )  # fmt: skip

    def show_checks(self, reference_id: int, unit: Unit, checks: tuple[CheckLine, ...]) -> None:
        """Another reference, or one more check."""
        if reference_id != self._reference:
            for field in (self.shown, self.true, self.against):
                field.clear()
            self.fault.setText("")
            self.weights.hide()
        self._reference, self._unit = reference_id, unit
        for field in (self.shown, self.true):
            field.read_with(torque_reader(unit))
        self.none.setVisible(not checks)
        self.chart.setVisible(bool(checks))
        self.chart.show_checks(tuple(c.checked for c in checks))
        empty(self._grid)
        theme = self._around.theme
        for i, check in enumerate(reversed(checks[-SHOWN:])):
            said = f"{quantity(check.indicated, unit)} against {quantity(check.actual, unit)} by {check.against}"
            distance = check.checked.distance
            how = CONTROL_WORDS[check.checked.control]
            if distance is not None:
                how = f"{how} ({abs(distance):.1f} s off)"
            cells = (f"{check.on:%-d %b %Y}", check.by, percent(check.checked.difference, 2, sign=True))
            for j, words in enumerate(cells):
                self._grid.addWidget(label(theme, words, Type.STRONG if j == 2 else Type.CAPTION), i, j)
            self._grid.addWidget(ElidedLabel(theme, f"{how}; {said}", Type.CAPTION, "quiet"), i, 3)

    def _with_weights(self) -> None:
        """Say what hangs instead of what another meter says."""
        self.weights.setVisible(not self.weights.isVisible())
        if self.weights.isVisible():
            self.weights.begin(self._unit)

    def _made(self, torque: float | None, words: str) -> None:
        """None: what stands there makes nothing, nor does what stood there before."""
        self.true.line.setText("" if torque is None else f"{self._unit.from_si(torque):.6g} {self._unit.symbol}")
        self.against.line.setText(words)

    def add(self) -> None:
        """Keep what both said."""
        self.fault.setText("")
        values = []
        for field in (self.shown, self.true):
            try:
                values.append(float(str(field.value())))
            except InputRefused as refusal:
                field.refuse(refusal.reason)
                field.setFocus()
                return
        if self._around.person is None:
            self.fault.setText("Choose who is at the bench first, at the top right.")
            return
        reference, against, act = self._reference, self.against.text, self._around.act()

        def kept(line: CheckLine) -> None:
            for field in (self.shown, self.true):
                field.clear()
            self._around.say(f"Kept: {percent(line.checked.difference, 2, sign=True)}, "
                             f"{CONTROL_WORDS[line.checked.control]}.")  # fmt: skip
            self.kept.emit()

        def refused(refusal: Refused) -> None:
            at = {"shown": self.shown, "against": self.against}.get(getattr(refusal, "field", ""))
            if at is not None:
                at.refuse(str(refusal))
                at.setFocus()
            else:
                self.fault.setText(str(refusal))

        self._around.work.ask(
            lambda session: cross_check(session, reference, values[0], values[1], against, "", act), kept, refused
        )
