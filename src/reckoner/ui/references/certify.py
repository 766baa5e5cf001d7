"""Entering a certificate: its days, its k, and its points as they are typed, pasted or read from a file."""

from __future__ import annotations

from datetime import date
from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QPlainTextEdit, QWidget

from reckoner.core.days import day_words, read_day
from reckoner.core.due import add_months
from reckoner.core.entry import read_plain
from reckoner.core.errors import Refused
from reckoner.core.printing import number, percent
from reckoner.core.units import N_M, Unit
from reckoner.formats.points import PointLine, parse_points
from reckoner.formats.tables import read_as_text
from reckoner.shop.register.adding import GivenCertificate, certify
from reckoner.ui.layout import column, empty, row
from reckoner.ui.place import Surroundings
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import EntryField, understood, words_reader
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call

LARGEST = 1_000_000
"""Bytes of a file with a certificate's points, far above any."""


class Certify(QWidget):
    """Signals ``kept()`` once it is in the register, ``left()`` when the person goes back without."""

    kept = pyqtSignal()
    left = pyqtSignal()

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        theme = around.theme
        self._reference = 0
        self._unit: Unit = N_M
        self.number = EntryField(theme, "Its number", words_reader)
        self.laboratory = EntryField(theme, "Laboratory", words_reader)
        self.issued = EntryField(theme, "Issued on", _read_day, "such as 2026-03-09")
        self.due = EntryField(theme, "Holds until; empty: twelve months", _read_day)
        self.factor = EntryField(theme, "Its k", _read_factor)
        self.points = QPlainTextEdit()
        self.points.setFont(theme.font(Type.FIGURE))
        self.points.setAccessibleName("Its points, a line each")
        self.points.setPlaceholderText("40   0.1   0.4\n120  0.05  0.4\n200  −0.1  0.5")
        self.points.setTabChangesFocus(True)
        self.points.setMinimumHeight(18 * GRID)
        self.points.textChanged.connect(self._look)
        self._lines = column(gap=0)
        self.fault = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.keep = button(theme, "Keep this certificate", self.add)
        hint = label(theme, "", Type.CAPTION, "quiet", wrap=True)
        hint.setText(
            "A line for each point: torque, error, W. Error and W in percent of the torque, or as torques with their unit. "
            "Rows copied from a spreadsheet can be pasted as they are, also with their headings."
        )
        preview = QWidget()
        preview.setLayout(column(label(theme, "understood as", Type.CAPTION, "quiet"), self._lines, 1, gap=1))
        beside = row(self.points, preview, gap=2)
        beside.setStretch(0, 1)
        beside.setStretch(1, 1)
        self.setLayout(
            column(
                label(theme, "A new certificate", Type.TITLE),
                row(self.number, self.laboratory, gap=2),
                row(self.issued, self.due, self.factor, gap=2),
                hint,
                beside,
                self.fault,
                row(self.keep, button(theme, "Read a file…", self._read_file), button(theme, "Leave it", self.left.emit,
                                                                                   "link"), 1, gap=1),
                gap=1,
            )
        )  # fmt: skip

    def begin(self, reference_id: int, unit: Unit) -> None:
        """Begin with an empty one for a reference that shows ``unit``."""
        self._reference, self._unit = reference_id, unit
        for field in (self.number, self.laboratory, self.due):
            field.clear()
        self.issued.line.setText(day_words(self._around.today))
        self.factor.line.setText("2")
        self.points.clear()
        self.fault.setText("")
        self.number.setFocus()

    def read_file(self, path: Path) -> None:
        """Take the lines of a file, text or spreadsheet, as its points."""
        self.fault.setText("")
        self._around.work.compute(
            lambda: read_as_text(path)[:LARGEST],
            self.points.setPlainText,
            lambda refusal: self.fault.setText(str(refusal)),
        )

    def add(self) -> None:
        """Keep it."""
        self.fault.setText("")
        given = self._given()
        if given is None or self._around.person is None:
            return
        reference, act = self._reference, self._around.act()
        self._around.work.ask(call(certify, reference, given, act), lambda _done: self.kept.emit(), self._refused)

    def _given(self) -> GivenCertificate | None:
        if not understood(self.issued, *((self.due,) if self.due.text.strip() else ()), self.factor):
            return None
        lines = parse_points(self.points.toPlainText(), self._unit)
        wrong = [line for line in lines if line.fault]
        if wrong:
            self.fault.setText(f"“{wrong[0].text}”: {wrong[0].fault}.")
            return None
        issued = _read_day(self.issued.text)[0]
        due = _read_day(self.due.text)[0] if self.due.text.strip() else add_months(issued, 12)
        return GivenCertificate(
            issued,
            due,
            tuple((p.torque, p.error, p.uncertainty) for p in lines),
            self.number.text.strip(),
            self.laboratory.text.strip(),
            _read_factor(self.factor.text)[0],
        )

    def _refused(self, refusal: Refused) -> None:
        at = {"issued": self.issued, "due": self.due}.get(getattr(refusal, "field", ""))
        if at is not None:
            at.refuse(str(refusal))
            at.setFocus()
        else:
            self.fault.setText(str(refusal))

    def _look(self) -> None:
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
        return f"{torque}: error {percent(line.error, 2, sign=True)}, W {percent(line.uncertainty, 2)}"

    def _read_file(self) -> None:
        kinds = "Text and spreadsheets (*.csv *.txt *.tsv *.xlsx *.xlsm)"
        chosen, _kind = QFileDialog.getOpenFileName(self, "Read a certificate's points", "", kinds)
        if chosen:
            self.read_file(Path(chosen))


SHOWN = 20
"""Lines that are shown as understood."""


def _read_day(text: str) -> tuple[date, str]:
    day = read_day(text)
    return day, f"understood: {day_words(day)}"


def _read_factor(text: str) -> tuple[float, str]:
    return read_plain(text, 1, 4, field="k"), " "
