"""Holding a reference against another one, or against weights: what both said at the same torque."""

from __future__ import annotations

from typing import Any

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QGridLayout, QWidget

from reckoner.core.errors import Refused
from reckoner.core.quantities.days import day_words
from reckoner.core.quantities.printing import percent, quantity
from reckoner.core.quantities.units import N_M, Kind, Unit
from reckoner.core.translation import tr
from reckoner.shop.facts.judged import ReferenceFacts
from reckoner.shop.references.crosschecks import CONTROL_WORDS, CheckLine, cross_check
from reckoner.shop.references.crossruns import CrossState, open_of
from reckoner.ui.drawings.control import ControlChart
from reckoner.ui.layout import column, empty, row
from reckoner.ui.place import Surroundings
from reckoner.ui.references.crossing import CrossCheckPanel
from reckoner.ui.references.crossstart import CrossStart
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import EntryField, numbers_of, torque_reader, words_reader
from reckoner.ui.widgets.text import ElidedLabel, label
from reckoner.ui.work import call

SHOWN = 8


class CheckingPanel(QWidget):
    """The chart, the newest checks, and entering one more. Signal ``kept()``."""

    kept = pyqtSignal()

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        theme = around.theme
        self._reference, self._unit = 0, N_M
        self._facts: ReferenceFacts | None = None
        self.chart = ControlChart(theme)
        self.none = label(
            theme,
            tr(
                "None yet. Load it and another one with the same torque now and then, or hang weights: a "
                "drift shows long before its certificate ends."
            ),
            Type.BODY,
            "quiet",
            wrap=True,
        )
        self._grid = QGridLayout()
        self._grid.setHorizontalSpacing(2 * GRID)
        self._grid.setVerticalSpacing(GRID // 2)
        self._grid.setColumnStretch(3, 1)
        self.shown = EntryField(theme, tr("It shows"), torque_reader(N_M))
        self.true = EntryField(theme, tr("while the other says"), torque_reader(N_M))
        own = around.own
        hung = tr("{mass} at {length}", mass=own.example(Kind.MASS, 12), length=own.example(Kind.LENGTH, 0.42))
        self.against = EntryField(theme, tr("The other"), words_reader, tr("such as PM-3, or {hung}", hung=hung))
        self.keep = button(theme, tr("Keep this check"), self.add)
        self.by_range = button(theme, tr("Check it over its range…"), self._open)
        self.typing = button(theme, tr("Type one that was made elsewhere…"), self._unfold, "link")
        self._typed = QWidget()
        self.start, self.crossing = CrossStart(around), CrossCheckPanel(around)
        self.start.begun.connect(self._begun)
        self.start.left.connect(self._close)
        self.crossing.left.connect(self._close)
        self.crossing.changed.connect(self.kept)
        for field in (self.shown, self.true, self.against):
            field.given.connect(lambda _value: self.add())
        self.fault = label(theme, "", Type.STRONG, "fault", wrap=True)
        self._typed.setLayout(column(row(self.shown, self.true, self.against, gap=2), row(self.keep, 1), gap=1))
        self._buttons = QWidget()
        self._buttons.setLayout(row(self.by_range, self.typing, 1, gap=1))
        self.setLayout(
            column(
                self.none,
                self.chart,
                self._grid,
                self._buttons,
                self._typed,
                self.fault,
                self.start,
                self.crossing,
                gap=1,
            )
        )
        self._close()

    def show_checks(self, facts: ReferenceFacts, unit: Unit, checks: tuple[CheckLine, ...]) -> None:
        """Another reference, or one more check."""
        other, self._facts, self._unit = facts.id != self._reference, facts, unit
        if other:
            for field in (self.shown, self.true, self.against):
                field.clear()
            self.fault.setText("")
            self._reference = facts.id
            self._close()
            self._look_for_one_under_way(facts.id)
        for field in (self.shown, self.true):
            field.read_with(torque_reader(unit))
        self.none.setVisible(not checks)
        self.chart.setVisible(bool(checks))
        self.chart.show_checks(tuple(c.checked for c in checks))
        empty(self._grid)
        theme = self._around.theme
        for i, check in enumerate(reversed(checks[-SHOWN:])):
            said = tr(
                "{indicated} against {actual} by {against}",
                indicated=quantity(check.indicated, unit),
                actual=quantity(check.actual, unit),
                against=check.against,
            )
            distance = check.checked.distance
            how = CONTROL_WORDS[check.checked.control]
            if distance is not None:
                how = tr("{how} ({distance:.1f} s off)", how=how, distance=abs(distance))
            cells = (day_words(check.on), check.by, percent(check.checked.difference, 2, sign=True))
            for j, words in enumerate(cells):
                self._grid.addWidget(label(theme, words, Type.STRONG if j == 2 else Type.CAPTION), i, j)
            self._grid.addWidget(ElidedLabel(theme, f"{how}; {said}", Type.CAPTION, "quiet"), i, 3)

    def _look_for_one_under_way(self, reference_id: int) -> None:
        """A check that was begun and not ended stands open again."""

        def found(state: CrossState | None) -> None:
            if state is not None and state.reference.id == self._reference:
                self._begun(state)

        self._around.work.browse(call(open_of, reference_id), found)

    def _close(self) -> None:
        """Back to the chart and its buttons."""
        for widget in (self.start, self.crossing, self._typed):
            widget.hide()
        self._buttons.show()

    def _unfold(self) -> None:
        self._typed.setVisible(self._typed.isHidden())

    def _open(self) -> None:
        """Choose what it is held against."""
        if self._facts is not None:
            self._close()
            self._buttons.hide()
            self.start.show()
            self.start.open_for(self._facts, self._unit)

    def _begun(self, state: CrossState) -> None:
        self._close()
        self._buttons.hide()
        self.crossing.show()
        self.crossing.show_state(state, self._unit)

    def add(self) -> None:
        """Keep what both said."""
        self.fault.setText("")
        values = numbers_of(self.shown, self.true)
        if values is None:
            return
        if self._around.person is None:
            self.fault.setText(tr("Choose who is at the bench first, at the top right."))
            return
        reference, against, act = self._reference, self.against.text, self._around.act()

        def kept(line: CheckLine) -> None:
            for field in (self.shown, self.true):
                field.clear()
            self._around.say(
                tr(
                    "Kept: {difference}, {control_words}.",
                    difference=percent(line.checked.difference, 2, sign=True),
                    control_words=CONTROL_WORDS[line.checked.control],
                )
            )
            self.kept.emit()

        def refused(refusal: Refused) -> None:
            fields: dict[str, EntryField[Any]] = {"shown": self.shown, "against": self.against}
            at = fields.get(getattr(refusal, "field", ""))
            if at is not None:
                at.refuse(str(refusal))
                at.setFocus()
            else:
                self.fault.setText(str(refusal))

        self._around.work.ask(call(cross_check, reference, values[0], values[1], against, "", act), kept, refused)
