"""Lend and take back by scan: a tool that is in the crib goes into the basket, one that is lent is taken back at once."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date

from PyQt6.QtWidgets import QStackedWidget, QWidget

from reckoner.core.days import long_day, read_coming
from reckoner.core.errors import InputRefused, Refused
from reckoner.core.units import N_M, Unit
from reckoner.shop.register.cards import ToolCard
from reckoner.shop.using.desk import Out, lent, out_of, read_wanted, wanted_words
from reckoner.shop.using.lending import Back, Lent, Wanted, lend, out_of_range, take_back
from reckoner.shop.using.naming import not_one
from reckoner.shop.using.scanning import CardLoan, Scanned, loan_for, scanned
from reckoner.ui.desk.basket import Basket
from reckoner.ui.desk.returning import ReturnPanel
from reckoner.ui.latest import Latest, Once
from reckoner.ui.layout import column, row, scrolling, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import PrimaryButton
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField, TextReader, words_reader
from reckoner.ui.widgets.linedelegate import Line
from reckoner.ui.widgets.lineslist import LinesList
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call

WIDE = 46 * GRID
NONE_OUT = "No tool is lent."


def coming_reader(today: Callable[[], date]) -> TextReader[date]:
    """Reads a day to come."""

    def understand(text: str) -> tuple[date, str]:
        day = read_coming(text, today())
        return day, f"understood: {long_day(day)}"

    return understand


NO_TOOL_ON_CARD = "The card names no tool that is in the register."


class LendShelf(QWidget):
    """``primary()`` lends what is in the basket, or takes back the tool in front."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self.around = around
        self._asking, self._doing = Latest(around.work), Once(around.work)
        self.wanted: tuple[Wanted, ...] = ()
        self.front: Out | None = None
        self._out: tuple[Out, ...] = ()
        theme = around.theme
        self.scan = EntryField(theme, "Scan a tool, or type its number", words_reader, "such as 0417")
        self.scan.given.connect(lambda _value: self._scanned())
        self.refused = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.instead = Chips(theme, "Instead")
        self.instead.chosen.connect(self._take_instead)
        self.panels = QStackedWidget()
        self._lending = self._lending_panel()
        self.returning = ReturnPanel(around)
        self.returning.changed.connect(self._dress)
        self.returning.left.connect(self._leave_return)
        self.panels.addWidget(self._lending)
        self.panels.addWidget(self.returning)
        self.button = PrimaryButton(theme, "Lend it")
        self.button.clicked.connect(self.primary)
        left = column(self.scan, self.refused, self.instead, scrolling(self.panels), self.button, gap=2, margin=2)
        left.setStretch(3, 1)
        paper = surface(left)
        paper.setFixedWidth(WIDE)
        self.title = label(theme, "", Type.LEAD)
        self.list = LinesList(theme, "Lent now", 500)
        self.list.changed.connect(self._chosen)
        right = column(self.title, self.list, gap=1, margin=2)
        right.setStretch(1, 1)
        self.setLayout(row(paper, surface(right), gap=2))
        self._dress()

    def _lending_panel(self) -> QWidget:
        theme, around = self.around.theme, self.around
        self.basket = Basket(theme, "In the basket")
        self.basket.chosen.connect(self._dress)
        self.to = EntryField(theme, "To whom, or for which job", words_reader, "such as Tower crew")
        self.until = EntryField(theme, "Until", coming_reader(lambda: around.today), "such as Friday, or 9 Mar")
        self.setting = EntryField(
            theme, "Set to, for what the joint gets", self._read_wanted, "such as 70 N·m for 76 to 84"
        )
        self.setting.given.connect(self._want)
        self.settings = Chips(theme, "What it is lent for", several=True)
        self.settings.chosen.connect(self._unwant)
        for field in (self.to, self.until):
            field.line.textChanged.connect(lambda _text: self._dress())
        holder = QWidget()
        note = "With its settings kept, a bad result later tells what each joint got."
        self.why = label(theme, note, Type.CAPTION, "quiet", wrap=True)
        holder.setLayout(column(self.basket, self.to, self.until, self.setting, self.settings, self.why, 1, gap=1))
        return holder

    # What stands there

    @property
    def unit(self) -> Unit:
        first = next(iter(self.basket.tools.values()), None)
        return first.tool.unit if first is not None else N_M

    def look_again(self) -> None:
        """Ask for what is lent anew."""
        today = self.around.today
        self.around.work.look(call(lent, today), self._show)

    def _show(self, found: tuple[Out, ...]) -> None:
        self._out = found
        late = sum(1 for one in found if one.days)
        count = NONE_OUT if not found else "1 tool is lent" if len(found) == 1 else f"{len(found)} tools are lent"
        self.title.setText(f"{count}, {late} past the date" if late else count)
        self.list.lines.show(
            tuple(
                Line(("", i), one.card.tool.id, f"{one.card.tool.number}  {one.to}", one.words, one.card.tool.range_text,
                     one.card.state, marked=True)
                for i, one in enumerate(found)
            )
        )  # fmt: skip
        if self.front is not None and not any(o.card.tool.id == self.front.card.tool.id for o in found):
            self._leave_return()

    def arrive(self, number: str) -> None:
        """A tool was named elsewhere."""
        self.scan.line.setText(number)
        self._scanned()

    def _scanned(self) -> None:
        text, today = self.scan.text.strip(), self.around.today
        if not text:
            return

        self._asking.look(call(scanned, text, today, self.wanted), lambda found: self._found(text, found))

    def _found(self, text: str, found: Scanned) -> None:
        self._refuse("")
        card = found.card
        if card is None:
            words = not_one(text, found.many)
            self._refuse(words)
            return
        self.scan.clear()
        if card.loan is not None:
            self._return(out_of(card, card.loan, self.around.today))
            return
        if found.why:
            self._refuse(found.why, found.instead)
            return
        self.basket.put(card)
        self.front = None
        self._dress()
        if not self.to.text.strip():
            self.to.setFocus()

    def _refuse(self, words: str, others: tuple[ToolCard, ...] = ()) -> None:
        self.refused.setText(f"{words} Instead:" if others else words)
        self.refused.setVisible(bool(words))
        self.instead.offer([(c.tool.number, f"{c.tool.number}  {c.tool.range_text}") for c in others], [])
        self.instead.setVisible(bool(others))

    def _take_instead(self) -> None:
        self.arrive(self.instead.one)

    def _read_wanted(self, text: str) -> tuple[Wanted, str]:
        found = read_wanted(text, self.unit)
        for card in self.basket.tools.values():
            if why := out_of_range(card, found.set):
                raise InputRefused("setting", text, why)
        return found, f"understood: {wanted_words(found, self.unit)}; Enter keeps it"

    def _want(self, wanted: Wanted) -> None:
        self.wanted = (*self.wanted, wanted)
        self.setting.clear()
        self._dress()

    def lend_for(self, card_id: int) -> None:
        """The tools of a job card into the basket, one after the other, with the settings that they are for."""
        self._asking.look(call(loan_for, card_id, self.around.today), self._for_card)

    def _for_card(self, found: CardLoan) -> None:
        self.front = None
        good = [one for one in found.tools if not one.why]
        self.basket.clear()
        self.basket.put(*(one.card for one in good))
        self.wanted = tuple(wanted for one in good for wanted in one.wanted)
        self._refuse(" ".join(one.why for one in found.tools if one.why) if found.tools else NO_TOOL_ON_CARD)
        self.to.line.setText(found.job)
        self._dress()

    def _unwant(self) -> None:
        kept = {int(key) for key in self.settings.on}
        self.wanted = tuple(one for i, one in enumerate(self.wanted) if i in kept)
        self._dress()

    # Returning

    def _chosen(self) -> None:
        chosen = self.list.chosen
        found = next((o for o in self._out if chosen and o.card.tool.id == chosen[0].id), None)
        if found is not None:
            self._return(found)

    def _return(self, out: Out) -> None:
        self.front = out
        self.returning.show_loan(out)
        self._dress()

    def _leave_return(self) -> None:
        self.front = None
        self.list.clearSelection()
        self._dress()

    def _dress(self) -> None:
        returning = self.front is not None
        self.panels.setCurrentWidget(self.returning if returning else self._lending)
        if self.front is not None:
            self.button.say(f"Take {self.front.card.tool.number} back")
            self.button.setEnabled(True)
            return
        said = [(str(i), f"{wanted_words(one, self.unit)}  ×") for i, one in enumerate(self.wanted)]
        self.settings.offer(said, [key for key, _ in said])
        count = len(self.basket.tools)
        self.button.say("Lend it" if count < 2 else f"Lend {count} tools")
        self.button.setEnabled(bool(count and self.to.text.strip()) and self._day() is not False)

    def _day(self) -> date | bool | None:
        """Until when; None where nothing is said, False for what is not understood."""
        try:
            return self.until.value_or_none()
        except InputRefused:
            return False

    # Doing it

    def primary(self) -> None:
        """Lend what is in the basket, or take back the tool in front."""
        if not self.button.isEnabled():
            return
        if self.around.person is None:
            self._refuse("Choose who is at the desk first, at the top right.")
            return
        if self.front is not None:
            self._take_back(self.front)
        else:
            self._lend()

    def _lend(self) -> None:
        day, act = self._day(), self.around.act()
        until = day if isinstance(day, date) else None
        ids, to, wanted = tuple(self.basket.tools), self.to.text, self.wanted

        def done(made: Lent) -> None:
            self.around.deeds.did(made)
            self.basket.clear()
            self.wanted = ()
            for field in (self.to, self.until, self.setting):
                field.clear()
            self._refuse("")
            self._dress()
            self.look_again()
            self.scan.setFocus()

        self._doing.ask(call(lend, ids, to, until, wanted, act), done, self._said_no)

    def _take_back(self, out: Out) -> None:
        act, kind, wound = self.around.act(), self.returning.befell, self.returning.wound_back
        tool_id, words = out.card.tool.id, self.returning.note.text

        def done(back: Back) -> None:
            self.around.say(back.words)
            self._leave_return()
            self.look_again()
            self.scan.setFocus()

        self._doing.ask(call(take_back, tool_id, act, kind, wound, words), done, self._said_no)

    def _said_no(self, refusal: Refused) -> None:
        self._refuse(str(refusal))
