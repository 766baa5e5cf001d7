"""A torque meter that is not in the register yet: its range, its step, and what its certificate says, where it has one."""

from __future__ import annotations

import math
from datetime import date

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from reckoner.core.days import day_words, read_day
from reckoner.core.due import add_months
from reckoner.core.entry import read, read_range
from reckoner.core.errors import InputRefused
from reckoner.core.printing import percent, quantity, span
from reckoner.core.units import N_M, PERCENT, Kind, Unit, unit_named
from reckoner.shop.register.adding import GivenCertificate, GivenMeter
from reckoner.ui.layout import column, row
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.text import label

UNITS = ("N.m", "lbf.ft", "lbf.in", "cN.m")

RANGES: dict[str, tuple[tuple[float, float], ...]] = {
    "N.m": ((0.2, 2), (1, 10), (2.5, 25), (5, 50), (20, 200), (50, 500), (100, 1000)),
    "lbf.ft": ((5, 50), (15, 150), (25, 250), (60, 600)),
    "lbf.in": ((2, 20), (10, 100), (50, 500)),
    "cN.m": ((20, 200), (50, 500)),
}
"""Ranges to choose from, in their unit; any other is typed."""

UNCERTAINTIES = (0.0025, 0.005, 0.01)
MONTHS = (3, 6, 9, 12)

CERTIFIED, UNPROVEN = "certified", "unproven"


class NewMeter(QWidget):
    """Everything that is needed can be clicked. Signal ``changed()``."""

    changed = pyqtSignal()

    def __init__(self, theme: Theme, today: date) -> None:
        super().__init__()
        self._today = today
        self._unit: Unit = N_M
        self.number = EntryField(theme, "What you call it", words_reader, "such as PM-1")
        self.number.line.setText("M-1")
        self.number.cap(24 * GRID)
        self.units = Chips(theme, "Unit that it shows", beside=True)
        self.units.offer([(name, unit_named(name, Kind.TORQUE).symbol) for name in UNITS], [N_M.name])
        self.units.chosen.connect(self._united)
        self.ranges = Chips(theme, "Its range")
        self.ranges.chosen.connect(self._ranged)
        self.range = EntryField(theme, "or another range", self._read_range)
        self.range.cap(32 * GRID)
        self.range.line.textChanged.connect(lambda _text: self._typed())
        self.steps = Chips(theme, "Its smallest step", beside=True)
        self.steps.chosen.connect(self.changed)
        self._step_title = label(theme, "The smallest step that it shows", Type.CAPTION, "quiet")
        self.proofs = Chips(theme, "Does it have a certificate")
        self.proofs.offer([(CERTIFIED, "It has a certificate"), (UNPROVEN, "It has none")], [])
        self.proofs.chosen.connect(self._proved)
        self._unproven_words = label(
            theme,
            "Then runs with it are shop checks: honest numbers to compare, without a verdict and without a due date, until "
            "it has one.",
            Type.BODY,
            "quiet",
            wrap=True,
        )
        self.uncertainties = Chips(theme, "Its expanded uncertainty W, k = 2", beside=True)
        self.uncertainties.offer([(str(w), f"±{percent(w, 2)}") for w in UNCERTAINTIES], [])
        self.uncertainties.chosen.connect(self._chose_uncertainty)
        self.uncertainty = EntryField(theme, "or another, as it says", _read_uncertainty)
        self.uncertainty.cap(20 * GRID)
        self.uncertainty.line.textChanged.connect(lambda _text: self._typed_uncertainty())
        self.lasts = Chips(theme, "It holds until", beside=True)
        self.lasts.offer([(str(m), day_words(add_months(today, m))) for m in MONTHS], [])
        self.lasts.chosen.connect(self._chose_due)
        self.due = EntryField(theme, "or another day", lambda text: _read_due(text, today))
        self.due.cap(20 * GRID)
        self.due.line.textChanged.connect(lambda _text: self._typed_due())
        self.certificate = EntryField(theme, "Its number; it can wait", words_reader)
        self.laboratory = EntryField(theme, "Laboratory; it can wait", words_reader)
        certificate = column(
            label(theme, "The largest uncertainty on it, W with k = 2", Type.LEAD),
            row(self.uncertainties, self.uncertainty, gap=2),
            label(theme, "It holds until", Type.LEAD),
            row(self.lasts, self.due, gap=2),
            row(self.certificate, self.laboratory, gap=2),
            label(theme, "Its errors, point by point, are entered under References; until then they count as none.",
                  Type.CAPTION, "quiet", wrap=True),
            gap=1,
        )  # fmt: skip
        self._certificate = QWidget()
        self._certificate.setLayout(certificate)
        self._rest = QWidget()
        self._rest.setLayout(column(self.proofs, self._unproven_words, self._certificate, gap=1))
        self.setLayout(
            column(
                row(label(theme, "Its range", Type.LEAD), self.units, gap=2),
                self.ranges,
                row(self.range, column(self._step_title, self.steps, 1, gap=1), gap=2),
                self._rest,
                self.number,
                gap=1,
            )
        )
        self._offer_ranges()
        self._proved()

    def value(self) -> GivenMeter:
        """The meter as it is described. Raises InputRefused with what is missing."""
        if not self.range.text.strip():
            raise InputRefused("range", "", "Choose its range, or type it.")
        low, high = self._ends(self.range.text)
        if not self.proofs.one:
            raise InputRefused("proof", "", "Say whether it has a certificate.")
        certificate = self._certified(low, high) if self.proofs.one == CERTIFIED else None
        step = self._unit.to_si(float(self.steps.one))
        return GivenMeter(self.number.text.strip(), low, high, step, self._unit, certificate)

    def _certified(self, low: float, high: float) -> GivenCertificate:
        if not self.uncertainty.text.strip():
            raise InputRefused("uncertainty", "", "Choose the uncertainty that its certificate says.")
        if not self.due.text.strip():
            raise InputRefused("due", "", "Choose until when its certificate holds.")
        uncertainty, due = _read_uncertainty(self.uncertainty.text)[0], _read_due(self.due.text, self._today)[0]
        return GivenCertificate(
            None,
            due,
            ((low, 0.0, uncertainty), (high, 0.0, uncertainty)),
            self.certificate.text.strip(),
            self.laboratory.text.strip(),
        )

    @property
    def complete(self) -> bool:
        """Whether it can be added."""
        try:
            self.value()
        except InputRefused:
            return False
        return True

    def why_not(self) -> str:
        """What is missing; empty when nothing is."""
        try:
            self.value()
        except InputRefused as refusal:
            return refusal.reason
        return ""

    def _united(self) -> None:
        self._unit = unit_named(self.units.one, Kind.TORQUE)
        self._offer_ranges()
        self.changed.emit()

    def _offer_ranges(self) -> None:
        spans = [
            span(self._unit.to_si(low), self._unit.to_si(high), self._unit) for low, high in RANGES[self._unit.name]
        ]
        self.ranges.offer([(words, words) for words in spans], [])
        self.range.clear()
        self.range.read_with(self._read_range)
        self._show_rest(shown=False)

    def _show_rest(self, *, shown: bool) -> None:
        for part in (self._rest, self._step_title, self.steps, self.number):
            part.setVisible(shown)

    def _ranged(self) -> None:
        self.range.line.setText(self.ranges.one)
        self.changed.emit()

    def _typed(self) -> None:
        text = self.range.text
        self.ranges.choose(text if text in self.ranges.chips else "")
        try:
            _low, high = self._ends(text)
        except InputRefused:
            self._show_rest(shown=False)
            self.changed.emit()
            return
        top = self._unit.from_si(high)
        power = 10.0 ** _power_near(top / 2000)
        steps = [power / 10, power, power * 10]
        self.steps.offer([(repr(s), quantity(self._unit.to_si(s), self._unit)) for s in steps], [repr(power)])
        self._show_rest(shown=True)
        self.changed.emit()

    def _proved(self) -> None:
        self._certificate.setVisible(self.proofs.one == CERTIFIED)
        self._unproven_words.setVisible(self.proofs.one == UNPROVEN)
        self.changed.emit()

    def _chose_uncertainty(self) -> None:
        self.uncertainty.line.setText(f"{float(self.uncertainties.one) * 100:g} %")

    def _typed_uncertainty(self) -> None:
        try:
            value = repr(_read_uncertainty(self.uncertainty.text)[0])
        except InputRefused:
            value = ""
        self.uncertainties.choose(next((str(w) for w in UNCERTAINTIES if value and abs(w - float(value)) < 1e-9), ""))
        self.changed.emit()

    def _chose_due(self) -> None:
        self.due.line.setText(day_words(add_months(self._today, int(self.lasts.one))))

    def _typed_due(self) -> None:
        chosen = next((m for m in MONTHS if day_words(add_months(self._today, m)) == self.due.text), None)
        self.lasts.choose(str(chosen) if chosen is not None else "")
        self.changed.emit()

    def _ends(self, text: str) -> tuple[float, float]:
        low, high = read_range(text, default=self._unit)
        if low.si >= high.si:
            raise InputRefused("range", text, "a meter's range has a beginning and an end, such as 20-200 N.m")
        return low.si, high.si

    def _read_range(self, text: str) -> tuple[tuple[float, float], str]:
        ends = self._ends(text)
        return ends, f"understood: {span(*ends, self._unit)}"


def _power_near(value: float) -> int:
    """The power of ten that is nearest to ``value``."""
    return round(math.log10(value))


def _read_uncertainty(text: str) -> tuple[float, str]:
    value = read(text, Kind.RATIO, default=PERCENT, field="uncertainty").si
    if not 0 < value < 0.5:
        raise InputRefused("uncertainty", text, "has to be above 0 and below 50 %")
    return value, f"understood: ±{percent(value, 3)}"


def _read_due(text: str, today: date) -> tuple[date, str]:
    day = read_day(text, "due")
    if day <= today:
        raise InputRefused("due", text, "is past; a certificate that has ended decides nothing")
    return day, f"understood: {day_words(day)}"
