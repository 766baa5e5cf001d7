"""A laboratory's certificate of a tool, entered as a result: its points are typed, or pasted from a spreadsheet."""

from __future__ import annotations

from datetime import date
from pathlib import Path
from typing import Any

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QPlainTextEdit, QWidget

from reckoner.core.days import day_words, read_day
from reckoner.core.errors import Refused
from reckoner.core.printing import percent, quantity
from reckoner.core.units import N_M, Unit
from reckoner.formats.points import PointLine, parse_points
from reckoner.shop.acts import FieldRefused
from reckoner.shop.register.cards import ToolCard
from reckoner.shop.using.naming import first_direction
from reckoner.shop.using.trips import Entered, OutsideDraft, OutsidePointDraft, enter_certificate
from reckoner.ui.latest import Once
from reckoner.ui.layout import column, row
from reckoner.ui.place import Surroundings
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField, understood, understood_if_given, words_reader
from reckoner.ui.widgets.text import label, set_tone
from reckoner.ui.work import call

HOW = "A line for each point: torque, deviation, W. A deviation above nothing means that the tool delivers less than it says."
FOUND, LEFT = "found", "left"
LARGEST = 25_000_000


def day_reader(text: str) -> tuple[date, str]:
    """Reads a day."""
    day = read_day(text)
    return day, f"understood: {day_words(day)}"


class CertificateForm(QWidget):
    """Signal ``kept(words)`` once it is kept."""

    kept = pyqtSignal(str)

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        self._doing = Once(around.work)
        self._card: ToolCard | None = None
        self._file = b""
        theme = around.theme
        self.title = label(theme, "", Type.TITLE, wrap=True)
        self.number = EntryField(theme, "Its number", words_reader)
        self.laboratory = EntryField(theme, "Of which laboratory", words_reader)
        self.issued = EntryField(theme, "Issued on", day_reader, "such as 9 Mar 2026")
        self.due = EntryField(theme, "Due again, where it says so", day_reader, "by the tool's own interval")
        self.phase = Chips(theme, "The points are")
        self.phase.offer([(FOUND, "as it was found"), (LEFT, "as it was left")], [FOUND])
        self.points = QPlainTextEdit()
        self.points.setFont(theme.font(Type.FIGURE))
        self.points.setPlaceholderText("40 N·m   +1.2 %   0.9 %")
        self.points.setAccessibleName("Its points")
        self.points.setTabChangesFocus(True)
        self.points.setFixedHeight(14 * GRID)
        self.points.textChanged.connect(self._look)
        self.understood = label(theme, HOW, Type.CAPTION, "quiet", wrap=True)
        self.file_words = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.fault = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.setLayout(
            column(
                self.title, self.number, self.laboratory, self.issued, self.due, self.phase, self.points, self.understood,
                row(button(theme, "The file itself…", self._ask_file), self.file_words, 1, gap=2), self.fault, 1, gap=1,
            )
        )  # fmt: skip

    @property
    def _unit(self) -> Unit:
        return self._card.tool.unit if self._card is not None else N_M

    def begin(self, card: ToolCard, laboratory: str) -> None:
        """For a tool; nothing is said yet."""
        self._card, self._file = card, b""
        self.title.setText(f"{card.tool.number}: a certificate from outside")
        for field in (self.number, self.issued, self.due):
            field.clear()
        self.laboratory.line.setText(laboratory)
        self.points.clear()
        self.file_words.setText("")
        self.fault.setText("")
        self.number.setFocus()

    def _lines(self) -> tuple[PointLine, ...]:
        return parse_points(self.points.toPlainText(), self._unit)

    def _look(self) -> None:
        lines = self._lines()
        if not lines:
            self.understood.setText(HOW)
            set_tone(self.understood, "quiet")
            return
        faults = [f"“{one.text}”: {one.fault}" for one in lines if one.fault]
        said = [
            f"{quantity(one.torque, self._unit)} {percent(one.error, 2, sign=True)} ±{percent(one.uncertainty, 2)}"
            for one in lines
            if not one.fault
        ]
        self.understood.setText("\n".join([*faults, *said]))
        set_tone(self.understood, "fault" if faults else "quiet")

    def _ask_file(self) -> None:
        chosen, _kind = QFileDialog.getOpenFileName(self, "The certificate itself")
        if chosen:
            self.take_file(Path(chosen))

    def take_file(self, path: Path) -> None:
        """Keep a file with it."""
        try:
            data = path.read_bytes() if path.stat().st_size <= LARGEST else None
        except OSError as fault:
            self.fault.setText(f"{path} cannot be read ({fault.strerror or fault}).")
            return
        if data is None:
            self.fault.setText(f"{path.name} is larger than {LARGEST // 1_000_000} MB.")
            return
        self._file = data
        self.file_words.setText(f"{path.name}, {len(data) / 1000:.0f} kB")

    def keep(self) -> None:
        """Keep it as a result."""
        card = self._card
        self.fault.setText("")
        if card is None:
            return
        lines = self._lines()
        if any(line.fault for line in lines):
            self.fault.setText("A line of its points is not understood; mend it first.")
            return
        if not (understood(self.issued) and understood_if_given(self.due)):
            return
        issued, due = self.issued.value(), self.due.value_or_none()
        direction, left = first_direction(card), self.phase.one == LEFT
        draft = OutsideDraft(
            number=self.number.text,
            laboratory=self.laboratory.text,
            issued=issued,
            due=due,
            points=tuple(OutsidePointDraft(one.torque, one.error, one.uncertainty, direction, left) for one in lines),
            file=self._file,
        )
        act, tool_id = self._around.act(), card.tool.id

        def done(entered: Entered) -> None:
            self.kept.emit(entered.words)

        self._doing.ask(call(enter_certificate, tool_id, draft, act), done, self._refused)

    def _refused(self, refusal: Refused) -> None:
        fields: dict[str, EntryField[Any]] = {
            "number": self.number,
            "laboratory": self.laboratory,
            "issued": self.issued,
            "due": self.due,
        }
        field = fields.get(refusal.field) if isinstance(refusal, FieldRefused) else None
        if field is not None:
            field.refuse(str(refusal))
        else:
            self.fault.setText(str(refusal))
