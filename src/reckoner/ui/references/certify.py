"""Entering a certificate: its days, its k, and its points as they are typed, pasted or read from a file."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import InputRefused
from reckoner.core.history.due import add_months
from reckoner.core.quantities.days import day_words
from reckoner.core.quantities.entry import read_plain
from reckoner.core.quantities.printing import number, percent
from reckoner.core.quantities.units import N_M, Unit
from reckoner.core.translation import tr
from reckoner.formats.points import PointLine, parse_points
from reckoner.formats.tables import read_as_text
from reckoner.shop.register.adding import CertificateDraft, certify
from reckoner.ui.files import FileKind, ask_which
from reckoner.ui.layout import column, empty, row
from reckoner.ui.place import Surroundings
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import day_reader, words_reader
from reckoner.ui.widgets.form import Form
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call

LARGEST = 1_000_000
"""Bytes of a file with a certificate's points, far above any."""


class Certify(Form[CertificateDraft]):
    """Signals ``kept()`` once it is in the register, ``left()`` when the person goes back without."""

    kept = pyqtSignal()
    left = pyqtSignal()

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around.theme)
        self._around = around
        theme = around.theme
        self._reference = 0
        self._unit: Unit = N_M
        self.number = self.field("number", tr("Its number"), words_reader)
        self.laboratory = self.field("laboratory", tr("Laboratory"), words_reader)
        self.issued = self.field("issued", tr("Issued on"), day_reader, tr("such as 2026-03-09"))
        self.due = self.field("due", tr("Holds until; empty: twelve months"), day_reader)
        self.factor = self.field("k", tr("Its k"), _read_factor)
        self.points = self.text(
            "points", "Its points, a line each", "40   0.1   0.4\n120  0.05  0.4\n200  −0.1  0.5", high=18
        )
        self._lines = column(gap=0)
        self.fault = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.refused.connect(self.fault.setText)
        self.changed.connect(lambda: self.fault.setText(""))
        self.entered.connect(self.add)
        self.keep = button(theme, tr("Keep this certificate"), self.add)
        hint = label(theme, "", Type.CAPTION, "quiet", wrap=True)
        hint.setText(
            tr(
                "A line for each point: torque, error, W. Error and W in percent of the torque, or as torques "
                "with their unit. Rows copied from a spreadsheet can be pasted as they are, also with their "
                "headings."
            )
        )
        preview = QWidget()
        preview.setLayout(column(label(theme, tr("understood as"), Type.CAPTION, "quiet"), self._lines, 1, gap=1))
        beside = row(self.points, preview, gap=2)
        beside.setStretch(0, 1)
        beside.setStretch(1, 1)
        leave = button(theme, tr("Leave it"), self.left.emit, "link")
        self.setLayout(
            column(
                label(theme, tr("A new certificate"), Type.TITLE),
                row(self.number, self.laboratory, gap=2),
                row(self.issued, self.due, self.factor, gap=2),
                hint,
                beside,
                self.fault,
                row(self.keep, button(theme, tr("Read a file…"), self._read_file), leave, 1, gap=1),
                gap=1,
            )
        )

    def begin_for(self, reference_id: int, unit: Unit) -> None:
        """Begin with an empty one for a reference that shows ``unit``."""
        self._reference, self._unit = reference_id, unit
        self.begin()

    def propose(self) -> None:
        """Issued today, k = 2."""
        self.issued.line.setText(day_words(self._around.today))
        self.factor.line.setText("2")

    def read_file(self, path: Path) -> None:
        """Take the lines of a file, text or spreadsheet, as its points."""
        self._around.work.read_file(
            read_as_text, path, done=lambda text: self.points.setPlainText(text[:LARGEST]), refused=self.refuse
        )

    def add(self) -> None:
        """Keep it."""
        given = self.given()
        if given is None:
            return
        if self._around.person is None:
            self.fault.setText(tr("Choose who is at the bench first, at the top right."))
            return
        kept = call(certify, self._reference, given, self._around.act())
        self._around.work.ask(kept, lambda _done: self.kept.emit(), self.refuse)

    def value(self) -> CertificateDraft:
        """The certificate as it stands there. Raises InputRefused with what is missing or not understood."""
        if not self.issued.text.strip():
            raise InputRefused("issued", "", tr("Say on which day it was issued."))
        issued = self.issued.value()
        due, factor = self.due.value_or_none() or add_months(issued, 12), self.factor.value()
        lines = parse_points(self.points.toPlainText(), self._unit)
        wrong = next((line for line in lines if line.fault), None)
        if wrong is not None:
            raise InputRefused("points", wrong.text, f"“{wrong.text}”: {wrong.fault}.")
        points = tuple((p.torque, p.error, p.uncertainty) for p in lines)
        return CertificateDraft(issued, due, points, self.number.text.strip(), self.laboratory.text.strip(), factor)

    def update_state(self) -> None:
        """What is understood of the lines, beside them."""
        empty(self._lines)
        for line in parse_points(self.points.toPlainText(), self._unit)[:SHOWN]:
            self._lines.addWidget(
                label(self._around.theme, self._words(line), Type.CAPTION, "fault" if line.fault else "", wrap=True)
            )

    def _words(self, line: PointLine) -> str:
        if line.fault:
            return f"“{line.text[:30]}”: {line.fault}"
        torque = f"{number(self._unit.from_si(line.torque))} {self._unit.symbol}"
        return tr(
            "{torque}: error {error}, W {uncertainty}",
            torque=torque,
            error=percent(line.error, 2, sign=True),
            uncertainty=percent(line.uncertainty, 2),
        )

    def _read_file(self) -> None:
        kinds = tr("Text and spreadsheets (*.csv *.txt *.tsv *.xlsx *.xlsm)")
        title = tr("Read a certificate's points")
        if (path := ask_which(self._around, self, FileKind.CERTIFICATE, title, kinds)) is not None:
            self.read_file(path)


SHOWN = 20
"""Lines that are shown as understood."""


def _read_factor(text: str) -> tuple[float, str]:
    return read_plain(text, 1, 4, field="k"), " "
