"""A laboratory's certificate of a tool, entered as a result: its points are typed, or pasted from a spreadsheet."""

from __future__ import annotations

from functools import partial
from pathlib import Path

from PyQt6.QtCore import pyqtSignal

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.printing import percent, quantity
from reckoner.core.quantities.units import N_M, Unit
from reckoner.core.requirements.tooltypes import Direction
from reckoner.core.translation import tr
from reckoner.formats.attachedfile import read_attached
from reckoner.formats.points import PointLine, parse_points
from reckoner.shop.register.cards import ToolCard
from reckoner.shop.using.known import first_direction
from reckoner.shop.using.trips import OutsideDraft, OutsidePointDraft, enter_certificate
from reckoner.ui.files import FileKind, ask_which
from reckoner.ui.latest import OneAtATime
from reckoner.ui.layout import column, row
from reckoner.ui.place import Surroundings
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import day_reader, words_reader
from reckoner.ui.widgets.form import Form
from reckoner.ui.widgets.text import label, set_tone
from reckoner.ui.work import call

HOW = tr(
    "A line for each point: torque, deviation, W. A deviation above nothing means that the tool "
    "delivers less than it says."
)
FOUND, LEFT = "found", "left"


class CertificateForm(Form[OutsideDraft]):
    """Signal ``kept(words)`` once it is kept."""

    kept = pyqtSignal(str)

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around.theme)
        self._around = around
        self._doing = OneAtATime(around.work)
        self._card: ToolCard | None = None
        self._file = b""
        theme = around.theme
        self.title = label(theme, "", Type.TITLE, wrap=True)
        self.number = self.field("number", tr("Its number"), words_reader)
        self.laboratory = self.field("laboratory", tr("Of which laboratory"), words_reader)
        self.issued = self.field("issued", tr("Issued on"), day_reader, tr("such as 9 Mar 2026"))
        self.due = self.field("due", tr("Due again, where it says so"), day_reader, tr("by the tool's own interval"))
        self.phase = self.choice(
            "phase", tr("The points are"), [(FOUND, tr("as it was found")), (LEFT, tr("as it was left"))], [FOUND]
        )
        self.points = self.text("points", "Its points", "40 N·m   +1.2 %   0.9 %", high=14)
        self.understood = label(theme, HOW, Type.CAPTION, "quiet", wrap=True)
        self.file_words = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.fault = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.refused.connect(self.fault.setText)
        self.changed.connect(lambda: self.fault.setText(""))
        self.entered.connect(self.keep)
        self.setLayout(
            column(
                self.title, self.number, self.laboratory, self.issued, self.due, self.phase, self.points, self.understood,
                row(button(theme, tr("The file itself…"), self._ask_file), self.file_words, 1, gap=2), self.fault, 1, gap=1,
            )
        )  # fmt: skip

    @property
    def _unit(self) -> Unit:
        return self._card.tool.unit if self._card is not None else N_M

    def begin_for(self, card: ToolCard, laboratory: str) -> None:
        """For a tool; nothing is said yet."""
        self._card, self._file = card, b""
        self.title.setText(tr("{number}: a certificate from outside", number=card.tool.number))
        self.file_words.setText("")
        self.begin()
        self.laboratory.line.setText(laboratory)

    def _lines(self) -> tuple[PointLine, ...]:
        return parse_points(self.points.toPlainText(), self._unit)

    def update_state(self) -> None:
        """What is understood of its points."""
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
        title = tr("The certificate itself")
        if (path := ask_which(self._around, self, FileKind.CERTIFICATE, title)) is not None:
            self.take_file(path)

    def take_file(self, path: Path) -> None:
        """Keep a file with it."""
        self.fault.setText("")
        self._around.work.read_file(read_attached, path, done=partial(self._took, path.name), refused=self.refuse)

    def _took(self, name: str, data: bytes) -> None:
        self._file = data
        self.file_words.setText(tr("{name}, {count:.0f} kB", name=name, count=len(data) / 1000))

    def value(self) -> OutsideDraft:
        """The certificate as it stands there. Raises InputRefused with what is missing or not understood."""
        lines = self._lines()
        if any(line.fault for line in lines):
            raise InputRefused("points", None, tr("A line of its points is not understood; mend it first."))
        if not self.issued.text.strip():
            raise InputRefused("issued", "", tr("Say on which day it was issued."))
        direction = first_direction(self._card) if self._card is not None else Direction.CW
        left = self.phase.one == LEFT
        return OutsideDraft(
            number=self.number.text,
            laboratory=self.laboratory.text,
            issued=self.issued.value(),
            due=self.due.value_or_none(),
            points=tuple(OutsidePointDraft(one.torque, one.error, one.uncertainty, direction, left) for one in lines),
            file=self._file,
        )

    def keep(self) -> None:
        """Keep it as a result."""
        card, draft = self._card, self.given()
        if card is None or draft is None:
            return
        kept = call(enter_certificate, card.tool.id, draft, self._around.act())
        self._doing.ask(kept, lambda entered: self.kept.emit(entered.words), self.refuse)
