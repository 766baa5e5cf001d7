"""The job cards: kept ones and open work in a list; the card in front as it is made, changed, printed, begun."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QPushButton, QWidget

from reckoner.core.quantities.days import day_words
from reckoner.core.quantities.printing import percent, quantity
from reckoner.core.tightening.jobcard import JobCard
from reckoner.core.translation import tr
from reckoner.shop.papers.sheets import dots
from reckoner.shop.register.editing import Command
from reckoner.shop.register.shelves import free_number
from reckoner.shop.using.cards import CardLine, card_lines, keep, remove
from reckoner.shop.using.setting import SettingAnswer
from reckoner.shop.using.snug import SnugTorque, read_stages
from reckoner.shop.using.working import StageAnswer, begin
from reckoner.shop.using.works import WorkLine, work_lines
from reckoner.shop.words.settings import test_words
from reckoner.store.terms import RegisterKind, RunKind
from reckoner.ui.drawings.pattern import PatternDrawing, PatternState
from reckoner.ui.latest import LatestQuery, OneAtATime
from reckoner.ui.layout import column, empty, row, scrolling, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.places import PlaceId, Target, WayBack
from reckoner.ui.setting.cardfiles import CardFiles
from reckoner.ui.setting.cardform import CardForm
from reckoner.ui.shelves import PlaceShelf
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import PrimaryButton, button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.flow import flow
from reckoner.ui.widgets.lineslist import LinesList, ListLine
from reckoner.ui.widgets.text import label
from reckoner.ui.work import both, call

if TYPE_CHECKING:
    pass

WIDE, FORM = (30 * GRID, 38 * GRID), (40 * GRID, 44 * GRID)
"""The least and the most room of the list and of the form."""
CARDS, WORKS, OVER = "cards", "works", "over"
NONE = {
    CARDS: tr("No card yet. Make one: how many fasteners, and what each gets, is enough to begin with."),
    WORKS: tr("No job is under way. Choose a card, and begin."),
    OVER: tr("No job has been ended yet."),
}


class CardsShelf(PlaceShelf):
    """``primary()`` keeps the card in front where it was changed, else begins its job. Signal ``opened(work_id)``: go on with
    a job, or look at one that is over."""

    opened = pyqtSignal(int)

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        self._asking, self._setting, self._doing = (
            LatestQuery(around.work),
            LatestQuery(around.work),
            OneAtATime(around.work),
        )
        self.lines: tuple[CardLine, ...] = ()
        self.works: tuple[WorkLine, ...] = ()
        self.front: CardLine | None = None
        self.card: JobCard | None = None
        self._new = False
        self._wanted: int | None = None
        theme = around.theme
        self.which = Chips(theme, tr("Which"))
        self.which.offer([(CARDS, tr("Cards")), (WORKS, tr("Under way")), (OVER, tr("Over"))], [CARDS])
        self.which.chosen.connect(self.refresh)
        self.none = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.list = LinesList(theme, tr("Job cards"), 500)
        self.list.changed.connect(self._chosen)
        self.new_button = button(theme, tr("A new card"), self.begin_new)
        self.files = CardFiles(around, self, lambda: self.card, self._show_read, self._refuse)
        self.read_button = button(theme, tr("From a file…"), self.files.ask_which)
        left = column(self.which, self.none, self.list, flow(self.new_button, self.read_button), gap=2, margin=2)
        left.setStretch(2, 1)
        paper = surface(left)
        _between(paper, WIDE)
        self.form = CardForm(theme)
        self.form.changed.connect(self._changed)
        self.form.refused.connect(self._refuse)
        holder = QWidget()
        holder.setLayout(column(self.form, margin=2))
        self.form_paper = surface(column(scrolling(holder)))
        least = holder.minimumSizeHint().width() + 2 * GRID
        _between(self.form_paper, (max(FORM[0], least), max(FORM[1], least)))
        self.title = label(theme, "", Type.TITLE, wrap=True)
        self.pattern = PatternDrawing(theme)
        self.legend = label(
            theme, tr("In it: which one it is. Beside it: when it is its turn."), Type.CAPTION, "quiet", wrap=True
        )
        self.stages = label(theme, "", Type.BODY, wrap=True)
        self._tests = column(gap=1)
        self.tests: tuple[QPushButton, ...] = ()
        self.snug = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.fault = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.button = PrimaryButton(theme, tr("Keep the card"))
        self.button.clicked.connect(self.primary)
        self.print_button = button(theme, tr("Print…"), self.files.print)
        self.pdf_button = button(theme, tr("PDF…"), self.files.ask_pdf)
        self.write_button = button(theme, tr("File…"), self.files.ask_write)
        self.remove_button = button(theme, tr("Remove"), self._remove, "link")
        self.lend_button = button(theme, tr("Lend its tools"), self._lend)
        self.suits_button = button(theme, tr("Which tools suit?"), self._suits)
        self._set_out(paper)

    def _set_out(self, list_paper: QWidget) -> None:
        controls = flow(
            self.lend_button,
            self.suits_button,
            self.print_button,
            self.pdf_button,
            self.write_button,
            self.remove_button,
        )
        shown = QWidget()
        inner = column(self.title, self.stages, self._tests, self.snug, self.fault, self.pattern, self.legend, gap=2)
        inner.setStretch(5, 1)
        shown.setLayout(inner)
        right = column(scrolling(shown), controls, self.button, gap=2, margin=2)
        right.setStretch(0, 1)
        self.paper = surface(right)
        layout = row(list_paper, self.form_paper, self.paper, gap=2)
        for place, weight in enumerate((2, 2, 3)):
            layout.setStretch(place, weight)
        self.setLayout(layout)
        self._update_state()

    # The list

    def arrive(self, card_id: int | None) -> None:
        """Bring a card to the front."""
        self._wanted = card_id
        self.which.choose(CARDS)
        self.refresh()

    def refresh(self) -> None:
        """Ask for the lists anew, and for what is known of the tools of the card in front."""
        self._ask_stages()
        jobs = both(call(work_lines), call(work_lines, closed=True))
        self._asking.look(both(call(card_lines), jobs), lambda found: self._show_lists(found[0], *found[1]))

    def _show_lists(self, cards: tuple[CardLine, ...], works: tuple[WorkLine, ...], over: tuple[WorkLine, ...]) -> None:
        self.lines, which = cards, self.which.one
        self.works = works if which == WORKS else over if which == OVER else ()
        if which == CARDS:
            lines = tuple(ListLine(("", i), one.id, one.number, one.detail) for i, one in enumerate(cards))
        else:
            lines = tuple(_work_line(i, one) for i, one in enumerate(self.works))
        self.none.setText(NONE[which])
        self.none.setVisible(not lines)
        kept = self._wanted if self._wanted is not None else self.front.id if self.front is not None else None
        self._wanted = None
        if self._new and which == CARDS:
            self.list.lines.show(lines)
            return
        self.list.lines.show(lines)
        place = next((i for i, line in enumerate(lines) if line.id == kept), 0)
        if lines:
            self.list.setCurrentIndex(self.list.lines.index(place))
        else:
            self._chosen()

    def _chosen(self) -> None:
        chosen = self.list.chosen
        if self.which.one != CARDS:
            self._update_state()
            return
        found = next((one for one in self.lines if chosen and one.id == chosen[0].id), None)
        if found is None and self._new:
            return
        self._new = False
        same = (
            found is not None
            and self.front is not None
            and (found.id, found.version) == (self.front.id, self.front.version)
        )
        self.front = found
        if not same:
            self.form.show_card(found.card if found is not None else None)
        self._update_state()

    def begin_new(self) -> None:
        """Make a new card."""
        self.which.choose(CARDS)
        self._new, self.front = True, None
        self.list.clearSelection()

        def named(number: str) -> None:
            self.form.show_card(None, number)
            self.form.title.setFocus()
            self._update_state()

        self.around.work.look(call(free_number, RegisterKind.JOB_CARD, "JC-1"), named)

    # The card in front

    def _changed(self) -> None:
        self.card = self.form.value_or_none()
        self._update_state()
        card = self.card
        if card is None:
            self.stages.setText("")
            self._offer_tests(())
            self._show_snug(None)
            return
        self.pattern.show_state(PatternState(dots(card.plan.fasteners, card.plan.order)))
        self._ask_stages()

    def _ask_stages(self) -> None:
        card, today = self.card, self.around.today
        if card is not None:
            self._setting.look(call(read_stages, card, today), lambda found: self._show_stages(card, *found))

    def _show_stages(self, card: JobCard, stages: tuple[StageAnswer, ...], snug: SnugTorque | None) -> None:
        if card is not self.card:
            return
        settings = tuple(stage.setting for stage in stages)
        self._offer_tests(tuple(found for stage in stages if (found := stage.to_measure) is not None))
        self._show_snug(snug)
        lines = []
        for i, (share, setting) in enumerate(zip(card.plan.stages, settings, strict=True)):
            told = tr(
                "Stage {i}: {share}, {wanted}",
                i=i + 1,
                share=percent(share, 0),
                wanted=quantity(card.plan.wanted * share, card.unit),
            )
            if setting.why_not:
                told += f". {setting.why_not}"
            elif setting.tool:
                with_ = tr(" with the {adapter}", adapter=setting.adapter) if setting.adapter else ""
                told += tr(": {tool} set to {words}{with_}", tool=setting.tool, words=setting.words, with_=with_)
            lines.append(told)
        self.stages.setText("\n".join(lines))

    def _offer_tests(self, wanted: tuple[SettingAnswer, ...]) -> None:
        """For each setting that nothing was measured at, the pulls that would answer, and back here."""
        empty(self._tests)
        theme, made = self.around.theme, []
        each = {(found.ask.tool, found.setting): found for found in wanted}
        for (tool, at), found in each.items():
            if tool is not None:
                words = f"{tool.number}: {test_words(found)}"
                made.append(button(theme, words, partial(self._measure, tool.id, at)))
                self._tests.addWidget(made[-1])
        self.tests = tuple(made)

    def _measure(self, tool_id: int, at: float) -> None:
        """Put the tool on the bench for a quick check at a stage's setting, and come back with its answer."""
        number = self.card.number if self.card is not None and self.card.number else tr("the card")
        here = Target(PlaceId.SETTING, page=CARDS, card=self.front.id if self.front is not None else None)
        back = WayBack(tr("Back to {number}", number=number), here)
        self.around.go(Target(PlaceId.BENCH, tool=tool_id, kind=RunKind.CHECK, at=at, back=back))

    def _show_snug(self, snug: SnugTorque | None) -> None:
        self.snug.setText(snug.words if snug is not None else "")
        self.snug.setVisible(snug is not None)

    @property
    def is_changed(self) -> bool:
        """Whether the card in front is another than what is kept."""
        return self.card is not None and (self.front is None or self.front.card != self.card)

    def _update_state(self) -> None:
        cards = self.which.one == CARDS
        here = cards and (self._new or self.front is not None)
        self.form_paper.setVisible(here)
        for one in (self.pattern, self.legend, self.stages, *self.tests):
            one.setVisible(here and self.card is not None)
        self.snug.setVisible(here and self.card is not None and bool(self.snug.text()))
        self.fault.setText(self.form.why_not() if here and self.card is None else "")
        self.fault.setVisible(bool(self.fault.text()))
        self.title.setText("" if self.card is None or not here else self.card.title or self.card.number)
        for control in (self.print_button, self.pdf_button, self.write_button):
            control.setVisible(here and self.card is not None)
        self.suits_button.setVisible(here and self.card is not None)
        self.lend_button.setVisible(here and self.front is not None and self.card is not None and bool(self.card.tools))
        self.remove_button.setVisible(here and self.front is not None and not self._new)
        if not cards:
            chosen = self.list.chosen
            self.button.setVisible(bool(chosen))
            self.button.say(tr("Go on with it") if self.which.one == WORKS else tr("Look at it"))
            self.button.setEnabled(True)
            return
        self.button.setVisible(here)
        self.button.say(tr("Keep the card") if self.is_changed or self._new else tr("Begin the job"))
        self.button.setEnabled(self.card is not None)

    def primary(self) -> None:
        """Keep the card in front where it was changed, else begin its job; or open the job in front."""
        if not self.button.isVisible() or not self.button.isEnabled():
            return
        if self.which.one != CARDS:
            if chosen := self.list.chosen:
                self.opened.emit(chosen[0].id)
            return
        if self.around.person is None:
            self._refuse(tr("Choose who is here first, at the top right."))
            return
        if self.is_changed:
            self._keep()
        elif self.card is not None and self.front is not None:
            act, card, card_id = self.around.act(), self.card, self.front.id
            self._doing.ask(call(begin, card, act, card_id), self.opened.emit, self.form.refuse)

    def _keep(self) -> None:
        card, front, act = self.card, self.front, self.around.act()
        if card is None:
            return
        card_id, base = (front.id, front.version) if front is not None else (None, None)

        def done(kept: tuple[int, Command]) -> None:
            self.around.undo_stack.did(kept[1])
            self._new = False
            self.button.setEnabled(False)  # until it stands there as it was kept
            self.arrive(kept[0])

        self._doing.ask(call(keep, card, act, card_id, base), done, self.form.refuse)

    def _remove(self) -> None:
        if self.front is not None and self.around.person is not None:
            act, card_id = self.around.act(), self.front.id
            self.front = None
            self.around.work.ask(call(remove, card_id, act), self.around.undo_stack.did, self.form.refuse)

    def _refuse(self, words: str) -> None:
        self.fault.setText(words)
        self.fault.setVisible(True)

    def _lend(self) -> None:
        if self.front is not None:
            self.around.go(Target(PlaceId.DESK, card=self.front.id))

    def _suits(self) -> None:
        if self.card is not None:
            self.around.go(Target(PlaceId.DESK, torque=self.form.torque.text))

    def _show_read(self, card: JobCard, number: str) -> None:
        """A card that was read from a file: to be looked at, and kept under a ``number`` that is free."""
        self.which.choose(CARDS)
        self._new, self.front = True, None
        self.list.clearSelection()
        self.form.show_card(card)
        self.form.number.line.setText(number)
        self._update_state()

    def print(self) -> None:
        self.files.print()


def _between(paper: QWidget, widths: tuple[int, int]) -> None:
    paper.setMinimumWidth(widths[0])
    paper.setMaximumWidth(widths[1])


def _work_line(place: int, one: WorkLine) -> ListLine:
    how = tr("signed") if one.signed else tr("given up") if one.closed else tr("under way")
    return ListLine(
        ("", place),
        one.id,
        f"{one.number}  {one.title}",
        tr("begun by {by}", by=one.by),
        f"{day_words(one.begun)} · {how}",
    )
