"""A torque meter that is not in the register yet: its range, its step, and what its certificate says, where it has one.

A box of weights, each by its stamp, or a hanging scale, with the mouse alone; what they are worth can wait.
"""

from __future__ import annotations

import math
from datetime import date
from functools import partial

from PyQt6.QtWidgets import QPushButton, QWidget

from reckoner.core.errors import InputRefused
from reckoner.core.history.due import add_months
from reckoner.core.quantities.days import day_words, read_day
from reckoner.core.quantities.entry import read, read_range
from reckoner.core.quantities.ownunits import POUND
from reckoner.core.quantities.printing import THIN, number, percent, quantity, span
from reckoner.core.quantities.units import KILOGRAM, N_M, PERCENT, Kind, Unit, unit_named
from reckoner.core.translation import tr
from reckoner.shop.register.adding import CertificateDraft, MeterDraft
from reckoner.shop.register.gear import StampedMass
from reckoner.shop.register.gearfields import STAMPED
from reckoner.ui.layout import column, row
from reckoner.ui.theme import Theme, Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import words_reader
from reckoner.ui.widgets.flow import Flow
from reckoner.ui.widgets.form import Form, adds
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


FIRST_NUMBER = "M-1"
"""What the first meter of a shop is called."""


class NewMeter(Form[MeterDraft]):
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
        self._set_out(theme)

    def _set_out(self, theme: Theme) -> None:
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
        self.number.line.setText(FIRST_NUMBER)
        self.proofs.choose("")

    def call_it(self, number: str) -> None:
        """Propose a number, where nobody typed another."""
        if self.number.text == FIRST_NUMBER:
            self.number.line.setText(number)

    def value(self) -> MeterDraft:
        """The meter as it is described. Raises InputRefused with what is missing."""
        if not self.range.text.strip():
            raise InputRefused("range", "", tr("Choose its range, or type it."))
        low, high, _unit = self.range.value()
        if not self.proofs.one:
            raise InputRefused("proof", "", tr("Say whether it has a certificate."))
        certificate = self._certified(low, high) if self.proofs.one == CERTIFIED else None
        step = self._unit.to_si(float(self.steps.one))
        return MeterDraft(self.number.text.strip(), low, high, step, self._unit, certificate)

    def _certified(self, low: float, high: float) -> CertificateDraft:
        if not self.uncertainty.text.strip():
            raise InputRefused("uncertainty", "", tr("Choose the uncertainty that its certificate says."))
        if not self.due.text.strip():
            raise InputRefused("due", "", tr("Choose until when its certificate holds."))
        uncertainty = self.uncertainty.value()
        points = ((low, 0.0, uncertainty), (high, 0.0, uncertainty))
        return CertificateDraft(
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

    def update_state(self) -> None:
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


REACHES = {
    KILOGRAM: (10.0, 20.0, 30.0, 50.0, 100.0, 150.0, 300.0),
    POUND: (50.0, 110.0, 220.0, 330.0, 660.0),
}
"""How far hanging scales usually go."""

STAMPS = {
    KILOGRAM: (0.5, 1.0, 2.0, 2.5, 5.0, 10.0, 15.0, 20.0, 25.0),
    POUND: (2.5, 5.0, 10.0, 15.0, 20.0, 25.0, 35.0, 45.0),
}
"""What weights usually say they are."""

MOST = 20


class NewWeights(Form[tuple[StampedMass, ...]]):
    """What the weights say they are: pressed, or typed where none of the usual stamps is it."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self.stamps: list[StampedMass] = []
        words = label(
            theme, tr("Press what your weights say they are, one press for each weight."), Type.BODY, wrap=True
        )
        self.presses: dict[StampedMass, QPushButton] = {}
        rows = [self._stamps_in(unit) for unit in STAMPS]
        self.other = self.field("other", tr("Or another"), _read_stamp, tr("such as 33 lb, or 7.26 kg"), wide=32)
        adds(self.other, self._take_typed)
        self.told = label(theme, "", Type.LEAD, wrap=True)
        self.back = button(theme, tr("Take the last back"), self._take_back, "link")
        caution = tr(
            "Until they are weighed their stamps are not to be believed: they can be 5 % out. Runs with "
            "them are shop checks; say under References what a scale says, and they decide."
        )
        note = label(theme, caution, Type.BODY, "quiet", wrap=True)
        self.setLayout(column(words, *rows, self.other, self.told, row(self.back, 1), note, gap=1))
        self.shown(lambda: bool(self.stamps), self.back)
        self.look()

    def _stamps_in(self, unit: Unit) -> QWidget:
        presses = QWidget()
        flow = Flow(presses)
        for value in STAMPS[unit]:
            stamp = StampedMass(value, unit)
            self.presses[stamp] = button(self.theme, stamp.words, partial(self._add, stamp))
            flow.addWidget(self.presses[stamp])
        return presses

    def value(self) -> tuple[StampedMass, ...]:
        """Raises InputRefused while none stands there; what is typed counts."""
        typed = self.other.value_or_none()
        stamps = (*self.stamps, typed) if typed is not None else tuple(self.stamps)
        if not stamps:
            raise InputRefused("stamps", None, tr("Press at least one weight."))
        return stamps[:MOST]

    def _take_typed(self) -> None:
        stamp = self.other.value_or_none()
        if stamp is not None:
            self.other.clear()
            self._add(stamp)

    def _add(self, stamp: StampedMass) -> None:
        if len(self.stamps) < MOST:
            self.stamps.append(stamp)
            self.look()

    def _take_back(self) -> None:
        if self.stamps:
            self.stamps.pop()
            self.look()

    def update_state(self) -> None:
        """Say which stand there."""
        self.told.setText(" + ".join(stamp.words for stamp in self.stamps) if self.stamps else tr("None yet."))


def _read_stamp(text: str) -> tuple[StampedMass, str]:
    found = read(text, Kind.MASS, field="other")
    STAMPED.hold_to_bounds(found.si, text, found.unit)
    stamp = StampedMass(found.in_unit(found.unit), found.unit)
    return stamp, tr("understood: {words}; Enter adds it", words=stamp.words)


class NewGauge(Form[float]):
    """A hanging scale by how far it goes; its value is in kg."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self.reaches = self.choice(
            "reaches",
            tr("It goes up to"),
            [
                (f"{unit.to_si(value):.6g}", f"{number(value)}{THIN}{unit.symbol}")
                for unit, values in REACHES.items()
                for value in values
            ],
        )
        caution = tr(
            "What it is worth is not known yet: runs with it are shop checks. Say its uncertainty under "
            "References, and hang a known weight on it before a run, and it decides."
        )
        self.setLayout(
            column(
                label(theme, tr("It goes up to"), Type.BODY),
                self.reaches,
                label(theme, caution, Type.BODY, "quiet", wrap=True),
                gap=2,
            )
        )

    def value(self) -> float:
        """Raises InputRefused while nothing is chosen."""
        if not self.reaches.one:
            raise InputRefused("reaches", None, tr("Press how far it goes."))
        return float(self.reaches.one)
