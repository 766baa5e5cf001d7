"""What is asked of the Setting place: the fields at its left, and what they say together."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.ownunits import METRIC, OwnUnits
from reckoner.core.quantities.units import Kind
from reckoner.core.translation import tr
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.using.known import KnownErrors
from reckoner.shop.using.setting import SettingQuestion
from reckoner.ui.drawings.levershape import LeverPart
from reckoner.ui.layout import column, row
from reckoner.ui.theme import Theme, Type
from reckoner.ui.widgets.bandentry import AimChips, BandEntry
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField, quantity_reader, words_reader
from reckoner.ui.widgets.puton import PutOn
from reckoner.ui.widgets.text import label

TESTED, PLAIN = "tested", "plain"
YES, NO = "yes", "no"


@dataclass(frozen=True)
class ChosenTool:
    """The tool that is set, and what is known of it; ``unfit`` says why it may not be used, empty when it may;
    ``corrected``: it may only with correction; ``held``: it is held, and may not."""

    tool: ToolFacts
    known: KnownErrors | None
    unfit: str = ""
    corrected: bool = False
    held: bool = False


class SettingForm(QWidget):
    """Signals ``changed()`` whenever something else is asked, ``tool_named(str)`` when a tool is named, and ``suits()`` when
    it is asked which tool suits."""

    changed = pyqtSignal()
    tool_named = pyqtSignal(str)
    suits = pyqtSignal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.chosen: ChosenTool | None = None
        self.torque = BandEntry(theme, tr("The joint gets"))
        self.aim = AimChips(theme)
        self.tool = EntryField(theme, tr("With the tool"), words_reader, tr("number, or empty for any"))
        self.tool_words = label(theme, "", Type.BODY, wrap=True)
        self.suits_button = button(theme, tr("Which suits best?"), self.suits.emit, "link")
        self.by = Chips(theme, tr("How its scale is taken"))
        self.by.offer([(TESTED, tr("by its results")), (PLAIN, tr("as it reads"))], [TESTED])
        self.own_units = METRIC
        self.lever = EntryField(theme, tr("Drive's centre to grip mark"), quantity_reader(Kind.LENGTH, None))
        self.adapters = PutOn(theme)
        self.entered_words = label(theme, tr("Is its length typed into the tool?"), Type.CAPTION, "quiet")
        self.entered = Chips(theme, tr("Typed into the tool"))
        self.entered.offer([(YES, tr("yes, it corrects")), (NO, tr("no"))], [NO])
        self.hand = EntryField(theme, tr("The hand pulls at"), quantity_reader(Kind.LENGTH, None), tr("the grip mark"))
        self.head = EntryField(
            theme, tr("The head on it, drive centre to seat"), quantity_reader(Kind.LENGTH, None), tr("as made for")
        )
        lines = column(
            self.torque, self.aim, self.tool, self.tool_words, row(self.suits_button, 1), self.by, self.lever, self.head,
            self.adapters, self.entered_words, self.entered, self.hand, 1, gap=1,
        )  # fmt: skip
        self.setLayout(lines)
        for field in (self.torque, self.lever, self.hand, self.head):
            field.line.textChanged.connect(lambda _text: self._anew())
        for chips in (self.aim, self.by, self.entered):
            chips.chosen.connect(self._anew)
        self.measure_in(self.own_units)
        self.tool.line.textChanged.connect(lambda text: self.tool_named.emit(text.strip()))
        self.adapters.changed.connect(self._anew)
        self._update_state()

    def measure_in(self, own: OwnUnits) -> None:
        """A bare length is in one's ``own`` units from now on."""
        self.own_units = own
        for field in (self.lever, self.hand, self.head):
            field.read_with(quantity_reader(Kind.LENGTH, own.length))
        self.lever.line.setPlaceholderText(tr("such as {value}", value=own.example(Kind.LENGTH, 0.32)))
        self.adapters.measure_in(own)

    # What is said

    @property
    def ask(self) -> SettingQuestion | None:
        """What is asked; None while no torque is understood. Raises InputRefused for a field that is not understood."""
        band = self.torque.band
        if band is None:
            return None
        chosen = self.chosen
        return SettingQuestion(
            band=band,
            aim=self.aim.aim,
            unit=self.torque.unit,
            tool=chosen.tool if chosen is not None else None,
            known=chosen.known if chosen is not None else None,
            as_tested=self.by.one != PLAIN or (chosen is not None and chosen.corrected),
            only_measured=chosen is not None and chosen.corrected,
            fitted=self.adapters.fitted,
            hand=self._length(self.hand),
            lever=self._length(self.lever),
            entered=self.entered.one == YES,
            head=self._length(self.head),
        )

    def _length(self, field: EntryField[float]) -> float | None:
        return None if field.isHidden() else field.value_or_none()

    def refuse(self, refusal: InputRefused) -> bool:
        """Say a refusal at the field that it is about; False where it is about none of them."""
        fields: dict[str, EntryField[Any]] = {
            "hand": self.hand,
            "lever": self.lever,
            "adapter": self.adapters.adapter,
            "adapters": self.adapters.adapter,
            "length": self.lever,
            "band": self.torque,
        }
        field = fields.get(refusal.field)
        if field is None:
            return False
        if field is self.lever:
            self.lever.show()
        field.refuse(refusal.reason)
        return True

    # What is chosen

    def show_tool(self, chosen: ChosenTool | None, words: str, *, fault: bool = False) -> None:
        """The tool that is named, or what is to be said of the name."""
        self.chosen = chosen
        self.tool_words.setText(words)
        self.tool_words.setVisible(bool(words))
        if fault:
            self.tool.refuse(words)
            self.tool_words.hide()
        else:
            self.tool.refresh()
        if chosen is not None:
            self.measure_in(chosen.tool.own_units)
            self.torque.unit = chosen.tool.unit
            self.torque.refresh()
        self._update_state()
        self.changed.emit()

    def moved(self, part: LeverPart, index: int, value: float) -> None:
        """A part of the drawing was dragged or stepped."""
        if part is LeverPart.ADAPTER:
            self.adapters.turn(index, value)
        elif part is LeverPart.HAND:
            self.hand.line.setText(self.own_units.length_words(self.own_units.on_rule(value)))

    def _anew(self) -> None:
        self._update_state()
        self.changed.emit()

    def _update_state(self) -> None:
        """Show what there is to say."""
        tool = self.chosen.tool if self.chosen is not None else None
        band = self.torque.band
        self.aim.setVisible(band is not None and not band.is_one)
        self.by.setVisible(self.chosen is not None and self.chosen.known is not None and not self.chosen.corrected)
        self.lever.setVisible(tool is None or tool.lever is None)
        self.head.setVisible(tool is not None and tool.made_for_head is not None)
        self.suits_button.setVisible(tool is None)
        corrects = tool is not None and tool.corrects_adapter and bool(self.adapters.fitted)
        self.entered_words.setVisible(corrects)
        self.entered.setVisible(corrects)
