"""Lend and take back by scan: a tool that is in the crib goes into the basket, one that is lent is taken back at once.

A lent tool that comes back: what it was for, and the two questions that are asked of every return.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.days import long_day, read_coming
from reckoner.core.quantities.units import N_M, Unit
from reckoner.core.translation import tr, tr_count
from reckoner.shop.events.consequences import consequence
from reckoner.shop.events.kinds import EVENTS
from reckoner.shop.events.standing import Condition
from reckoner.shop.register.cards import ToolCard
from reckoner.shop.using.desk import (
    CardLoan,
    ScannedTool,
    ToolAway,
    lent,
    loan_for,
    out_of,
    read_wanted,
    scanned,
    settings_words,
    wanted_words,
)
from reckoner.shop.using.known import not_one
from reckoner.shop.using.lending import LoanResult, ReturnResult, WantedSetting, lend, out_of_range, take_back
from reckoner.store.terms import EventKind
from reckoner.ui.desk.scanshelf import Basket, ScanShelf
from reckoner.ui.layout import column, row
from reckoner.ui.place import Surroundings
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.theme import Theme, Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField, TextReader, words_reader
from reckoner.ui.widgets.form import Form
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call

WOUND, HERE, LAY = "yes", "here", "lay"
NOTHING = "nothing"
ASKED_ELSEWHERE = (EventKind.STORED_WOUND_UP, EventKind.REPAIRED, EventKind.LENT_OUTSIDE)
"""Harms that are not asked of a return: the first has its own question."""


class ReturnPanel(QWidget):
    """``befell`` is what happened to it meanwhile, ``wound_back`` whether it came back as it should. Signals ``changed()``,
    and ``left()`` when it is another tool that is wanted."""

    changed = pyqtSignal()
    left = pyqtSignal()

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        self._out: ToolAway | None = None
        theme = around.theme
        self.title = label(theme, "", Type.TITLE, wrap=True)
        self.words = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.happened = Chips(theme, tr("Anything happened?"))
        self.wound_words = label(theme, tr("Wound back?"), Type.LEAD)
        self.wound = Chips(theme, tr("Wound back?"))
        for chips in (self.happened, self.wound):
            chips.chosen.connect(self._tell)
        self.note = EntryField(theme, tr("In a few words, if there is anything to say"), words_reader)
        self.told = label(theme, "", Type.STRONG, wrap=True)
        self.setLayout(
            column(
                self.title, self.words, label(theme, tr("Anything happened?"), Type.LEAD), self.happened, self.wound_words,
                self.wound, self.note, self.told, row(button(theme, tr("Not this one"), self.left.emit, "link"), 1), 1, gap=1,
            )
        )  # fmt: skip

    def show_loan(self, out: ToolAway) -> None:
        """A loan that ends now; nothing is answered yet."""
        self._out, tool = out, out.card.tool
        self.title.setText(tr("{number} from {to}", number=tool.number, to=out.to))
        self.words.setText(out.words)
        harms = [(k.value, facts.words) for k, facts in EVENTS.items() if facts.harms and k not in ASKED_ELSEWHERE]
        self.happened.offer([(NOTHING, tr("no")), *harms], [NOTHING])
        self.wound.offer(
            [(WOUND, tr("yes")), (HERE, tr("no, just now: wound back here")), (LAY, tr("no, it lay wound up"))], [WOUND]
        )
        for one in (self.wound, self.wound_words):
            one.setVisible(tool.kind.is_setting and not tool.kind.is_fixed)
        self.note.clear()
        self._around.work.look(
            call(settings_words, tool.id, tool.unit),
            lambda said: self.words.setText("\n".join((out.words, *said))),
        )
        self._tell()

    @property
    def befell(self) -> EventKind | None:
        """What happened to it meanwhile; that it lay wound up is an event too."""
        word = self.happened.one
        if word and word != NOTHING:
            return EventKind(word)
        return EventKind.STORED_WOUND_UP if self.wound.one == LAY and not self.wound.isHidden() else None

    @property
    def wound_back(self) -> bool:
        """False where it was wound back only now, and that is not told as what happened to it."""
        return self.wound.isHidden() or self.wound.one == WOUND or self.befell is EventKind.STORED_WOUND_UP

    def _tell(self) -> None:
        """What follows from the answers, before it is done."""
        out, kind = self._out, self.befell
        told = (
            consequence(out.card.tool.number, out.card.standing, kind) if out is not None and kind is not None else ""
        )
        self.told.setText(told)
        self.changed.emit()


NONE_OUT = tr("No tool is lent.")
NO_TOOL_ON_CARD = tr("The card names no tool that is in the register.")


def coming_reader(today: Callable[[], date]) -> TextReader[date]:
    """Reads a day to come."""

    def understand(text: str) -> tuple[date, str]:
        day = read_coming(text, today())
        return day, tr("understood: {day}", day=long_day(day))

    return understand


@dataclass(frozen=True)
class LoanDraft:
    """Tools by their ids, to whom they go, until when, and for which settings."""

    tools: tuple[int, ...]
    to: str
    until: date | None
    wanted: tuple[WantedSetting, ...]


class LoanForm(Form[LoanDraft]):
    """What is in the basket, and what it is lent for."""

    def __init__(self, theme: Theme, today: Callable[[], date]) -> None:
        super().__init__(theme)
        self.wanted: tuple[WantedSetting, ...] = ()
        self.basket = self.take(Basket(theme, tr("In the basket")), "tools")
        self.to = self.field("to", tr("To whom, or for which job"), words_reader, tr("such as Tower crew"))
        self.until = self.field("until", tr("Until"), coming_reader(today), tr("such as Friday, or 9 Mar"))
        self.setting = self.field(
            "setting", tr("Set to, for what the joint gets"), self._read_wanted, tr("such as 70 N·m for 76 to 84")
        )
        self.setting.given.connect(self._want)
        self.settings = self.choice("settings", tr("What it is lent for"), several=True)
        self.settings.chosen.connect(self._unwant)
        note = tr("With its settings kept, a bad result later tells what each joint got.")
        why = label(theme, note, Type.CAPTION, "quiet", wrap=True)
        self.setLayout(column(self.basket, self.to, self.until, self.setting, self.settings, why, 1, gap=1))

    @property
    def unit(self) -> Unit:
        first = next(iter(self.basket.tools.values()), None)
        return first.tool.unit if first is not None else N_M

    @property
    def settings_wanted(self) -> tuple[WantedSetting, ...]:
        """Those that were kept, and the one that still stands in its field."""
        typed = self.setting.value_or_none()
        return self.wanted if typed is None else (*self.wanted, typed)

    def value(self) -> LoanDraft:
        """Raises InputRefused with what is missing or not understood."""
        if not self.basket.tools:
            raise InputRefused("tools", None, tr("Scan or choose a tool first."))
        if not self.to.text.strip():
            raise InputRefused("to", "", tr("Say to whom, or for which job."))
        return LoanDraft(tuple(self.basket.tools), self.to.text, self.until.value_or_none(), self.settings_wanted)

    def propose(self) -> None:
        """An empty basket."""
        self.basket.clear()
        self.wanted = ()

    def update_state(self) -> None:
        """Show the settings that were kept."""
        said = [(str(i), f"{wanted_words(one, self.unit)}  ×") for i, one in enumerate(self.wanted)]
        self.settings.offer(said, [key for key, _ in said])

    def show_loan(self, found: CardLoan) -> None:
        """The tools of a job card that go, with what they are for."""
        good = [one for one in found.tools if not one.why]
        with self.filling():
            self.propose()
            self.basket.put(*(one.card for one in good))
            self.wanted = tuple(wanted for one in good for wanted in one.wanted)
            self.to.line.setText(found.job)

    def _read_wanted(self, text: str) -> tuple[WantedSetting, str]:
        found = read_wanted(text, self.unit)
        for card in self.basket.tools.values():
            if why := out_of_range(card, found.set):
                raise InputRefused("setting", text, why)
        return found, tr("understood: {wanted_words}; Enter adds another", wanted_words=wanted_words(found, self.unit))

    def _want(self, wanted: WantedSetting) -> None:
        with self.filling():
            self.wanted = (*self.wanted, wanted)
            self.setting.clear()

    def _unwant(self) -> None:
        kept = {int(key) for key in self.settings.on}
        self.wanted = tuple(one for i, one in enumerate(self.wanted) if i in kept)
        self.look()


def ways_on(card: ToolCard, today: date) -> dict[str, Target]:
    """What can be done about a tool that is not lent, by its words."""
    tool, bench = card.tool.id, Target(PlaceId.BENCH, tool=card.tool.id)
    if card.run_id is not None:
        return {tr("Go on with its run"): bench}
    match next(iter(card.standing.conditions(today)), None):
        case Condition.NEW:
            return {
                tr("Test it first"): bench,
                tr("Enter the certificate that came with it"): Target(PlaceId.DESK, tool=tool),
            }
        case Condition.OVERDUE:
            return {tr("Test it first"): bench}
        case Condition.AWAY:
            return {tr("It is back"): Target(PlaceId.DESK, tool=tool)}
        case Condition.HELD:
            return {tr("Why it is held"): Target(PlaceId.TOOLS, tool=tool)}
        case _:
            return {}


class LendShelf(ScanShelf):
    """``front`` is the loan that ends now; None while tools are lent."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around, tr("Lent now"))
        self.front: ToolAway | None = None
        self.form = LoanForm(around.theme, lambda: around.today)
        self.returning = ReturnPanel(around)
        self.stack(self.form, self.returning)
        self.form.changed.connect(self._update_state)
        self.form.refused.connect(self.refuse)
        self.returning.changed.connect(self._update_state)
        self.returning.left.connect(self._leave_return)
        self._update_state()

    def refresh(self) -> None:
        """Ask for what is lent anew."""
        self.around.work.look(call(lent, self.around.today), self._show_lent)

    def _show_lent(self, found: tuple[ToolAway, ...]) -> None:
        late = sum(1 for one in found if one.days)
        count = NONE_OUT if not found else tr_count("1 tool is lent", "{n} tools are lent", len(found))
        self.show_out(found, tr("{count}, {late} past the date", count=count, late=late) if late else count)
        if self.front is not None and not any(o.card.tool.id == self.front.card.tool.id for o in found):
            self._leave_return()

    def scanned(self) -> None:
        """Find the tool: into the basket with it, or back."""
        text, today = self.scan.text.strip(), self.around.today
        if text:
            try:
                wanted = self.form.settings_wanted
            except InputRefused:
                wanted = self.form.wanted
            self._asking.look(call(scanned, text, today, wanted), lambda found: self._found(text, found))

    def _found(self, text: str, found: ScannedTool) -> None:
        self.refuse("")
        card = found.card
        if card is None:
            self.refuse(not_one(text, found.many))
            return
        self.scan.clear()
        if card.loan is not None:
            self.bring(out_of(card, card.loan, self.around.today))
            return
        if found.why:
            others = tuple((c.tool.number, f"{c.tool.number}  {c.tool.range_text}") for c in found.instead)
            self.refuse(found.why, others, ways_on(card, self.around.today))
            return
        self.front = None
        self.form.basket.put(card)
        self.form.look()
        if not self.form.to.text.strip():
            self.form.to.setFocus()

    def lend_for(self, card_id: int) -> None:
        """The tools of a job card into the basket, one after the other, with the settings that they are for."""
        self._asking.look(call(loan_for, card_id, self.around.today), self._for_card)

    def _for_card(self, found: CardLoan) -> None:
        self.front = None
        self.refuse(" ".join(one.why for one in found.tools if one.why) if found.tools else NO_TOOL_ON_CARD)
        self.form.show_loan(found)

    def bring(self, out: ToolAway) -> None:
        """A loan that ends now."""
        self.front = out
        self.returning.show_loan(out)
        self._update_state()

    def _leave_return(self) -> None:
        self.front = None
        self.list.clearSelection()
        self._update_state()

    def _update_state(self) -> None:
        if self.front is not None:
            self.panels.setCurrentWidget(self.returning)
            self.offer(tr("Take {number} back", number=self.front.card.tool.number))
            return
        self.panels.setCurrentWidget(self.form)
        count = len(self.form.basket.tools)
        self.offer(tr("Lend it") if count < 2 else tr("Lend {count} tools", count=count), self.form.missing())

    def primary(self) -> None:
        """Lend what is in the basket, or take back the tool in front."""
        if not self.button.isEnabled():
            return
        if self.around.person is None:
            self.refuse(tr("Choose who is at the desk first, at the top right."))
        elif self.front is not None:
            self._take_back(self.front)
        elif (loan := self.form.given()) is not None:
            self._lend(loan)

    def _lend(self, loan: LoanDraft) -> None:
        def done(made: LoanResult) -> None:
            self.around.undo_stack.did(made)
            self.refuse("")
            self.form.begin()
            self.refresh()
            self.scan.setFocus()

        made = call(lend, loan.tools, loan.to, loan.until, loan.wanted, self.around.act())
        self._doing.ask(made, done, self.said_no)

    def _take_back(self, out: ToolAway) -> None:
        act, kind, wound = self.around.act(), self.returning.befell, self.returning.wound_back
        tool_id, words = out.card.tool.id, self.returning.note.text

        def done(back: ReturnResult) -> None:
            self.around.say(back.words)
            self._leave_return()
            self.refresh()
            self.scan.setFocus()

        self._doing.ask(call(take_back, tool_id, act, kind, wound, words), done, self.said_no)
