"""What the set-ups on the tool's own lever have in common: its lengths, what they are measured with, and the drawing."""

from __future__ import annotations

from typing import Any, TypeVar

from reckoner.core.errors import InputRefused
from reckoner.core.translation import tr
from reckoner.core.units import MILLIMETRE, Kind
from reckoner.shop.box import Means
from reckoner.shop.runs.state import RunState
from reckoner.ui.theme import Theme, Type
from reckoner.ui.widgets.entry import EntryField, quantity_reader
from reckoner.ui.widgets.form import Form
from reckoner.ui.widgets.lever import LeverDrawing, LeverPart
from reckoner.ui.widgets.text import label

S = TypeVar("S")

ONLY_AT_THE_MARK = tr("Where its pin is was never said: it is right at the grip mark alone.")


class LeverSheet(Form[S]):
    """``lacks`` says what it still wants, empty when nothing."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self._run: RunState | None = None
        self._means = Means()
        self._mend = ""
        self.drawing = LeverDrawing(theme)
        self.drawing.moved.connect(self._moved)
        self.grip = self.field(
            "grip",
            tr("From the drive's centre to the grip mark"),
            quantity_reader(Kind.LENGTH, MILLIMETRE),
            tr("such as 412 mm"),
        )
        self.rule = self.choice("rule", tr("Lengths are measured with"))
        self.worth = label(theme, "", Type.LEAD, wrap=True)
        self.lacking = label(theme, "", Type.STRONG, wrap=True)
        self.changed.connect(self._tell_lacking)

    def _cannot(self, field: EntryField[Any], sentence: str) -> None:
        """What stands there cannot be: said there, and why nothing can be hung yet."""
        field.refuse(sentence)
        self._mend = sentence

    def start(self, run: RunState, means: Means) -> None:
        """A run, with nothing said yet."""
        self._run, self._means = run, means
        self.grip.clear()
        self.grip.setVisible(run.tool.lever is None)
        self.rule.offer(means.rule_choices, [means.rule_choices[0][0]])

    @property
    def lacks(self) -> str:
        raise NotImplementedError

    def _tell_lacking(self) -> None:
        """Above all that is asked, so that a button that cannot be pressed yet has its reason in sight."""
        self.lacking.setText(self.lacks)
        self.lacking.setVisible(bool(self.lacks))

    @property
    def targets(self) -> list[float]:
        """The points of the run, the least first, in N·m."""
        return sorted({s.target for s in self._run.found}) if self._run is not None else []

    @property
    def length_uncertainty(self) -> float:
        """U of a length, in m."""
        return self._means.rule_uncertainty(self.rule.one)

    def _number(self, field: EntryField[float]) -> float | None:
        """What is typed, in SI; None where nothing is, or nothing that can be read: then that is what has to be mended."""
        field.look_again()
        try:
            return field.value_or_none()
        except InputRefused as refusal:
            self._mend = f"{field.line.accessibleName()}: {refusal.reason}."
            return None

    def _grip(self) -> float | None:
        """From the drive to the grip mark, in m: as the register says, else as typed."""
        return (self._run.tool.lever if self._run is not None else None) or self._number(self.grip)

    def _moved(self, part: LeverPart, metres: float) -> None:
        """A part of the drawing was dragged or stepped."""
        raise NotImplementedError
