"""Set for a wanted torque: what is asked at the left, the picture and its sentence at the right, answered as one types."""

from __future__ import annotations

from datetime import date
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.days import day_words
from reckoner.core.translation import tr
from reckoner.shop.records.documents import saved, setting_card_bytes
from reckoner.shop.register.cards import ToolCard
from reckoner.shop.using.fitness import unfit
from reckoner.shop.using.fitting import Fitted, adapters
from reckoner.shop.using.known import KnownErrors, named_tool, not_one
from reckoner.shop.using.setting import SettingAnswer, answer
from reckoner.store.terms import RunKind
from reckoner.ui.files import FileKind, ask_where
from reckoner.ui.latest import LatestQuery
from reckoner.ui.layout import column, row, scrolling, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.places import PlaceId, Target, WayBack
from reckoner.ui.setting.asked import ChosenTool, SettingForm
from reckoner.ui.setting.converting import Converting
from reckoner.ui.setting.correcting import Correcting
from reckoner.ui.setting.picture import NOTHING, SettingPicture, Ways
from reckoner.ui.shelves import PlaceShelf
from reckoner.ui.tokens import GRID
from reckoner.ui.work import call

if TYPE_CHECKING:
    pass

WIDE = 40 * GRID
AT_FIELD = tr("Nothing to set yet: the field says what is amiss.")
HELD = tr("It is not set for anything while it is held; another tool, or its owner’s leave to use it with correction.")


class SettingSheet(PlaceShelf):
    """``found`` is what was answered last; None while nothing is."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        self.found: SettingAnswer | None = None
        theme = around.theme
        self._asking = LatestQuery(around.work)
        self.asked = SettingForm(theme)
        self.asked.changed.connect(self._answer)
        self.asked.tool_named.connect(self._named)
        self.asked.suits.connect(self._suits)
        self.correcting = Correcting(around)
        self.correcting.allowed.connect(self._allowed)
        self.correcting.hide()
        self.converting = Converting(around, self._tool_id)
        self.picture = SettingPicture(theme)
        self.picture.moved.connect(self.asked.moved)
        self.picture.card_wanted.connect(self._ask_card)
        self.picture.test_wanted.connect(self._measure)
        self.ways = Ways(theme)
        self.ways.hide()
        left = QWidget()
        left.setLayout(column(self.asked, self.correcting, self.converting, 1, gap=2, margin=2))
        asked = surface(column(scrolling(left)))
        asked.setFixedWidth(WIDE)
        right = QWidget()
        paper = surface(column(self.picture, margin=2))
        right.setLayout(column(paper, self.ways, 1, gap=2))
        self.setLayout(row(asked, scrolling(right), gap=2))

    def refresh(self) -> None:
        """Ask for the adapters, and the tool that is named, anew."""
        if self.asked.chosen is None:
            self.asked.measure_in(self.around.own)
        self.around.work.look(adapters, self.asked.adapters.offer)
        self._named(self.asked.tool.text.strip())

    def arrive(self, number: str, fitted: tuple[Fitted, ...] | None = None, hand: float | None = None) -> None:
        """Set this tool, with what is on it where that was said."""
        self.asked.tool.line.setText(number)
        if fitted is not None:
            self.asked.adapters.put(fitted)
            self.asked.hand.line.setText("" if hand is None else self.asked.own_units.length_words(hand))
        self.asked.torque.setFocus()

    def _named(self, text: str) -> None:
        if not text:
            self.correcting.open_for(None)
            self.asked.show_tool(None, "")
            return
        today = self.around.today
        self.found = None  # nothing is saved or tested for the tool that was named before
        self.picture.wait()

        self._asking.look(call(named_tool, text, today), lambda found: self._tool(text, found, today))

    def _tool(self, text: str, found: tuple[ToolCard | None, KnownErrors | None, int], today: date) -> None:
        card, known, many = found
        if text != self.asked.tool.text.strip():
            return
        held = card is not None and bool(card.standing.held) and not card.standing.corrected(today)
        self.correcting.open_for(card.tool.id if held and card is not None and known is not None else None)
        if card is None:
            words = not_one(text, many)
            self.asked.show_tool(None, words, fault=not many)
            return
        reason = unfit(card, today)
        said = f"{card.tool.number}: {card.tool.description}, {card.range_words}"
        if card.standing.corrected(today) and card.standing.corrected_until is not None:
            said += tr(
                "; only with correction, until {corrected_until}",
                corrected_until=day_words(card.standing.corrected_until),
            )
        said += f"; {known.by}" if known is not None else tr("; nothing is known of its error")
        chosen = ChosenTool(card.tool, known, reason, corrected=card.standing.corrected(today), held=held)
        self.asked.show_tool(chosen, f"{said}.")
        self.converting.refresh()

    def _tool_id(self) -> int | None:
        chosen = self.asked.chosen
        return chosen.tool.id if chosen is not None else None

    def _allowed(self, words: str) -> None:
        self.around.say(words)
        self.refresh()

    def _ask_card(self) -> None:
        path = ask_where(
            self.around, self, FileKind.PAPER, tr("Save the setting card"),
            tr("{tool} setting card.pdf", tool=self.asked.tool.text.strip()).strip(), "PDF (*.pdf)",
        )  # fmt: skip
        if path is not None:
            self.save_card(path)

    def save_card(self, path: Path) -> None:
        """The setting in front as a card, of the largest size of a label that the shop has for a label printer."""
        found = self.found
        if found is None:
            return

        made = call(saved, call(setting_card_bytes, found), path)
        self.around.work.prepare(
            made, lambda _none: self.around.saved(tr("The setting card is in {path}.", path=path), path)
        )

    def _measure(self) -> None:
        """Put the tool on the bench for a quick check at just the setting that nothing was measured at."""
        found = self.found
        if found is not None and found.ask.tool is not None:
            tool, torque = found.ask.tool, self.asked.torque.text
            sheet = Target(PlaceId.SETTING, number=tool.number, torque=torque)
            back = WayBack(tr("Back to {torque} with {number}", torque=torque, number=tool.number), sheet)
            self.around.go(Target(PlaceId.BENCH, tool=tool.id, kind=RunKind.CHECK, at=found.setting, back=back))

    def _suits(self) -> None:
        ask = self.asked.ask
        if ask is None:
            self.asked.torque.setFocus()
            return
        self.around.go(Target(PlaceId.DESK, torque=self.asked.torque.text, fitted=ask.fitted, hand=ask.hand))

    def _answer(self) -> None:
        """What is asked now, answered at once."""
        chosen = self.asked.chosen
        self.picture.show_unfit(chosen.unfit if chosen is not None else "")
        self.found = None
        if chosen is not None and chosen.held:  # its correction is shown only where its owner allows it
            self.picture.show_nothing(HELD)
            self.ways.hide()
            return
        try:
            ask = self.asked.ask
            if ask is not None:
                self.found = answer(ask)
        except InputRefused as refusal:
            at_field = self.asked.refuse(refusal)
            self.picture.show_nothing(AT_FIELD if at_field else refusal.reason)
            self.ways.hide()
            return
        if self.found is None:
            self.picture.show_nothing(NOTHING)
            self.ways.hide()
            return
        self.picture.show_answer(self.found)
        self.ways.show_answer(self.found)
        self.ways.show()
