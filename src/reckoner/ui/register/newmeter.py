"""A torque meter that is not in the register yet: its range, its step, and what its certificate says, where it has one."""

from __future__ import annotations

import math
from datetime import date

from PyQt6.QtWidgets import QWidget

from reckoner.core.days import day_words, read_day
from reckoner.core.due import add_months
from reckoner.core.entry import read, read_range
from reckoner.core.errors import InputRefused
from reckoner.core.printing import number, percent, quantity, span
from reckoner.core.translation import tr
from reckoner.core.units import N_M, PERCENT, Kind, Unit, unit_named
from reckoner.shop.register.adding import GivenCertificate, GivenMeter
from reckoner.ui.layout import column, row
from reckoner.ui.theme import Theme, Type
from reckoner.ui.widgets.entry import words_reader
from reckoner.ui.widgets.form import Form
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


class NewMeter(Form[GivenMeter]):
    """Everything that is needed can be clicked."""

    def __init__(self, theme: Theme, today: date) -> None:
        super().__init__(theme)
        self._today = today
        self.units = self.choice(
            "unit",
            tr("Unit that it shows"),
            [(name, unit_named(name, Kind.TORQUE).symbol) for name in UNITS],
            [N_M.name],
            beside=True,
        )
        self.units.chosen.connect(self._united)
        self.range = self.usual("range", tr("Its range"), tr("or another range"), self._read_range, wide=32)
        self.steps = self.choice("step", tr("Its smallest step"), beside=True)
        self.proofs = self.choice(
            "proof",
            tr("Does it have a certificate"),
            [(CERTIFIED, tr("It has a certificate")), (UNPROVEN, tr("It has none"))],
        )
        self.uncertainty = self.usual(
            "uncertainty", tr("Its expanded uncertainty W, k = 2"), tr("or another, as it says"), _read_uncertainty, wide=20,
            beside=True,
        )  # fmt: skip
        self.uncertainty.offer([(f"{number(w * 100)} %", f"±{percent(w, 2)}") for w in UNCERTAINTIES])
        self.due = self.usual("due", tr("It holds until"), tr("or another day"), self._read_due, wide=20, beside=True)
        self.due.offer([(words, words) for words in (day_words(add_months(today, m)) for m in MONTHS)])
        self.certificate = self.field("certificate", tr("Its number; it can wait"), words_reader)
        self.laboratory = self.field("laboratory", tr("Laboratory; it can wait"), words_reader)
        self.number = self.field("number", tr("What you call it"), words_reader, tr("such as PM-1"), wide=24)
        unproven = label(
            theme,
            tr(
                "Then runs with it are shop checks: honest numbers to compare, without a verdict and without "
                "a due date, until it has one."
            ),
            Type.BODY,
            "quiet",
            wrap=True,
        )
        certified, rest, step = QWidget(), QWidget(), QWidget()
        certified.setLayout(
            column(
                label(theme, tr("The largest uncertainty on it, W with k = 2"), Type.LEAD),
                row(self.uncertainty.usual, self.uncertainty, gap=2),
                label(theme, tr("It holds until"), Type.LEAD),
                row(self.due.usual, self.due, gap=2),
                row(self.certificate, self.laboratory, gap=2),
                label(theme, tr("Its errors, point by point, are entered under References; until then they count as none."),
                      Type.CAPTION, "quiet", wrap=True),
                gap=1,
            )
        )  # fmt: skip
        rest.setLayout(column(self.proofs, unproven, certified, gap=1))
        step.setLayout(
            column(label(theme, tr("The smallest step that it shows"), Type.CAPTION, "quiet"), self.steps, 1, gap=1)
        )
        self.setLayout(
            column(
                row(label(theme, tr("Its range"), Type.LEAD), self.units, gap=2),
                self.range.usual,
                row(self.range, step, gap=2),
                rest,
                self.number,
                gap=1,
            )
        )
        self.shown(lambda: self._ends() is not None, rest, step, self.number)
        self.shown(lambda: self.proofs.one == CERTIFIED, certified)
        self.shown(lambda: self.proofs.one == UNPROVEN, unproven)
        self.propose()
        self._offer_ranges()

    def propose(self) -> None:
        """A number, and nothing of a certificate."""
        self.number.line.setText("M-1")
        self.proofs.choose("")

    def value(self) -> GivenMeter:
        """The meter as it is described. Raises InputRefused with what is missing."""
        if not self.range.text.strip():
            raise InputRefused("range", "", tr("Choose its range, or type it."))
        low, high, _unit = self.range.value()
        if not self.proofs.one:
            raise InputRefused("proof", "", tr("Say whether it has a certificate."))
        certificate = self._certified(low, high) if self.proofs.one == CERTIFIED else None
        step = self._unit.to_si(float(self.steps.one))
        return GivenMeter(self.number.text.strip(), low, high, step, self._unit, certificate)

    def _certified(self, low: float, high: float) -> GivenCertificate:
        if not self.uncertainty.text.strip():
            raise InputRefused("uncertainty", "", tr("Choose the uncertainty that its certificate says."))
        if not self.due.text.strip():
            raise InputRefused("due", "", tr("Choose until when its certificate holds."))
        uncertainty = self.uncertainty.value()
        points = ((low, 0.0, uncertainty), (high, 0.0, uncertainty))
        return GivenCertificate(
            None, self.due.value(), points, self.certificate.text.strip(), self.laboratory.text.strip()
        )

    @property
    def _unit(self) -> Unit:
        return unit_named(self.units.one, Kind.TORQUE)

    def _united(self) -> None:
        self.range.clear()
        self._offer_ranges()

    def _offer_ranges(self) -> None:
        unit = self._unit
        spans = [span(unit.to_si(low), unit.to_si(high), unit) for low, high in RANGES[unit.name]]
        self.range.read_with(self._read_range)
        self.range.offer([(words, words) for words in spans])
        self.look()

    def dress(self) -> None:
        """Offer the steps that suit its range, in the unit that was typed."""
        self.range.awaits_number = not self.range.text
        ends = self._ends()
        if ends is None:
            return
        unit = ends[2]
        if unit is not self._unit and unit.name in self.units.chips:
            self.units.choose(unit.name)
            self._offer_ranges()
            return
        unit = self._unit
        usual = 10.0 ** round(math.log10(unit.from_si(ends[1]) / 2000))
        steps = [(repr(s), quantity(unit.to_si(s), unit)) for s in (usual / 10, usual, usual * 10)]
        kept = self.steps.one in dict(steps)
        self.steps.offer(steps, [self.steps.one if kept else repr(usual)])

    def _ends(self) -> tuple[float, float, Unit] | None:
        try:
            return self.range.value_or_none()
        except InputRefused:
            return None

    def _read_range(self, text: str) -> tuple[tuple[float, float, Unit], str]:
        low, high = read_range(text, default=self._unit)
        if low.si >= high.si:
            raise InputRefused("range", text, tr("a meter's range has a beginning and an end, such as 20-200 N.m"))
        return (low.si, high.si, high.unit), tr("understood: {si}", si=span(low.si, high.si, high.unit))

    def _read_due(self, text: str) -> tuple[date, str]:
        day = read_day(text, "due")
        if day <= self._today:
            raise InputRefused("due", text, tr("is past; a certificate that has ended decides nothing"))
        return day, tr("understood: {day}", day=day_words(day))


def _read_uncertainty(text: str) -> tuple[float, str]:
    value = read(text, Kind.RATIO, default=PERCENT, field="uncertainty").si
    if not 0 < value < 0.5:
        raise InputRefused("uncertainty", text, tr("has to be above 0 and below 50 %"))
    return value, tr("understood: ±{percent}", percent=percent(value, 3))
