"""The Today place: one next thing, large; below it the day's lists as tags with their reasons.

That an older database stands where a newer one was: which of them is right is asked until somebody says so.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from PyQt6.QtCore import QSize
from PyQt6.QtWidgets import QSizePolicy, QStackedWidget, QWidget

from reckoner.core.quantities.days import long_day
from reckoner.core.translation import tr, tr_count
from reckoner.shop.changes import Change, ChangeKind
from reckoner.shop.planning.agenda import Agenda, AgendaItem, Beginning, DayList, OpeningStage, agenda, beginning, items
from reckoner.ui import daily
from reckoner.ui.latest import LatestQuery
from reckoner.ui.layout import column, empty, row, surface
from reckoner.ui.place import Place, Surroundings
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.theme import Type
from reckoner.ui.today.lists import DayLists
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import PrimaryButton, button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.tag import Tag
from reckoner.ui.widgets.text import label
from reckoner.ui.work import both, call

if TYPE_CHECKING:
    from reckoner.ui.today.catchingup import CatchingUpPage
    from reckoner.ui.today.first import FirstOpening
    from reckoner.ui.today.year import Year


class OlderNotice(QWidget):
    """Hidden where the database is the newest that is known. ``told`` is called once it is said that it is the right one."""

    def __init__(self, around: Surroundings, told: Callable[[], None]) -> None:
        super().__init__()
        self._around = around
        self._told = told
        self.words = label(around.theme, "", Type.STRONG, "fault", wrap=True)
        self.look_button = button(around.theme, tr("What it has, and put it back…"), self._look_at_backup)
        self.go_on_button = button(around.theme, tr("This one is right: go on"), self._go_on)
        commands = row(self.look_button, self.go_on_button, 1, gap=2)
        self.setLayout(column(surface(column(self.words, commands, gap=1, margin=2))))
        self.hide()

    def show_older(self) -> None:
        """What is known now."""
        older = self._around.older
        self.words.setText(older.words if older is not None else "")
        self.setVisible(older is not None)

    def _look_at_backup(self) -> None:
        if self._around.older is not None:
            self._around.go(Target(PlaceId.RECORDS, backup=self._around.older.path))

    def _go_on(self) -> None:
        daily.go_on_with_this_one(self._around, self._told)


DAY, CATCHING_UP, YEAR = "day", "catching up", "year"

PAGES = QSize(34 * GRID, 4 * GRID)
MORE_PAGES = QSize(46 * GRID, 4 * GRID)

CARES = (ChangeKind.STANDINGS, ChangeKind.TOOLS, ChangeKind.MODELS, ChangeKind.REVIEWS, ChangeKind.JOBS)
"""The changes that touch what is shown here."""


class TodayPlace(Place):
    """Arrow keys move among the tags; Enter on a tag opens it, else does the next thing."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        self._agenda: Agenda | None = None
        self._asking = LatestQuery(around.work)
        self.headline = label(self.theme, "", Type.HEADLINE)
        self.summary = label(self.theme, "", Type.BODY, "quiet", wrap=True)
        self.next_title = label(self.theme, "", Type.TITLE, wrap=True)
        self.next_why = label(self.theme, "", Type.BODY, "quiet", wrap=True)
        self._next_tag = column()
        self.button = PrimaryButton(self.theme, tr("Put on the bench"))
        self.button.clicked.connect(self.primary)
        self.button.setMinimumWidth(32 * GRID)
        what = row(self._next_tag, column(self.next_title, self.next_why, gap=1), self.button, gap=3, margin=3)
        what.setStretch(1, 1)
        self._next = surface(what)
        self.older = OlderNotice(around, self.file_checked)
        self.lists = DayLists(self.theme)
        self.lists.opened.connect(self._open)
        self.lists.widened.connect(self._widen)
        self.lists.day.wanted.connect(self._page)
        self.link = label(self.theme, "", Type.CAPTION, "quiet", wrap=True)
        day = QWidget()
        self.pages = Chips(self.theme, tr("What to look at"))
        self.pages.chosen.connect(self._turn)
        self.pages.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self._offer_pages(planned=False)
        self._day = QWidget()
        self._day.setLayout(column(self.older, self._next, self.lists, self.link, gap=2))
        self.year: Year | None = None
        self.catching_up: CatchingUpPage | None = None
        self._turned = QStackedWidget()
        self._turned.addWidget(self._day)
        title = row(column(self.headline, self.summary, gap=1), self.pages, gap=2)
        title.setStretch(0, 1)
        layout = column(title, self._turned, gap=2)
        layout.setStretch(1, 1)
        day.setLayout(layout)
        self._stack = QStackedWidget()
        self._stack.addWidget(day)
        self.first: FirstOpening | None = None
        self.setLayout(column(self._stack, margin=2))

    def arrive(self, target: Target) -> None:
        self._refresh()

    def changes(self, made: tuple[Change, ...]) -> None:
        cares = CARES if not self.is_first else tuple(ChangeKind)
        if self.isVisible() and any(change.kind in cares for change in made):
            self._refresh()

    def refresh(self) -> None:
        self._refresh()

    def _turn(self) -> None:
        """Show the page that was chosen."""
        if self.pages.one == DAY:
            self._turned.setCurrentWidget(self._day)
        elif self.pages.one == CATCHING_UP:
            if self.catching_up is None:
                from reckoner.ui.today.catchingup import CatchingUpPage  # loads numpy

                self.catching_up = CatchingUpPage(self.around)
                self._turned.addWidget(self.catching_up)
            self._turned.setCurrentWidget(self.catching_up)
            self.catching_up.refresh()
        else:
            if self.year is None:
                from reckoner.ui.today.year import Year  # loads numpy

                self.year = Year(self.around)
                self._turned.addWidget(self.year)
            self._turned.setCurrentWidget(self.year)
            self.year.refresh()
        self.new_screen()

    def _offer_pages(self, *, planned: bool) -> None:
        """The pages that there are: a plan where very many are overdue."""
        between = [(CATCHING_UP, tr("Catching up"))] if planned else []
        if (CATCHING_UP in self.pages.chips) is planned and self.pages.chips:
            return
        on = self.pages.one if self.pages.one in (DAY, YEAR) else DAY
        if self.pages.one == CATCHING_UP:  # there is no plan any more
            self._turned.setCurrentWidget(self._day)
        self.pages.offer([(DAY, tr("Today")), *between, (YEAR, tr("The next twelve months"))], [on])
        self.pages.setFixedSize(MORE_PAGES if planned else PAGES)

    def _refresh(self) -> None:
        if self.year is not None and self._turned.currentWidget() is self.year:
            self.year.refresh()
        if self.catching_up is not None and self._turned.currentWidget() is self.catching_up:
            self.catching_up.refresh()
        today = self.around.today
        self._asking.look(both(call(agenda, today), call(beginning)), self._show_all, ended=self.new_screen)

    def _show_all(self, found: tuple[Agenda, Beginning]) -> None:
        day, begun = found
        self._show_agenda(day)
        self._show_beginning(begun)

    @property
    def is_first(self) -> bool:
        """Whether the shop is still being set up."""
        return self.first is not None and self._stack.currentWidget() is self.first

    def _show_beginning(self, begun: Beginning) -> None:
        """The first opening, as long as the register holds no tool."""
        if begun.stage is OpeningStage.READY or self.around.work.looking_on:
            self._stack.setCurrentIndex(0)
            return
        if self.first is None:
            from reckoner.ui.today.first import FirstOpening  # loads numpy

            self.first = FirstOpening(self.around)
            self._stack.addWidget(self.first)
        self._stack.setCurrentWidget(self.first)
        self.first.show_beginning(begun)

    @property
    def tool_in_front(self) -> int | None:
        """The tag that has the focus."""
        found = self.lists.current
        return found.card.tool.id if found is not None else None

    def primary(self) -> None:
        if self.is_first and self.first is not None:
            self.first.primary()
            return
        if self._turned.currentWidget() is not self._day:
            return
        if self.lists.current is not None:
            self._open(self.lists.current)
            return
        found = self._agenda
        if found is not None and found.first is not None:
            self.around.go(Target(PlaceId.BENCH, tool=found.first.card.tool.id))

    def _show_agenda(self, found: Agenda) -> None:
        self._agenda = found
        today = self.around.today
        self.headline.setText(long_day(today))
        self.summary.setText(_summary(found))
        self._offer_pages(planned=found.planned)
        self._show_next(found)
        self.lists.show_day(found, today)
        self.file_checked()

    def file_checked(self) -> None:
        """What is known of the records: the newest link, and whether the file was found whole."""
        link = self._agenda.link if self._agenda is not None else ""
        words = tr("Noted elsewhere, it shows later that none was lost.")
        said = tr("Newest link in the chain of records: {link}. {words} ", link=link, words=words) if link else ""
        self.link.setText(f"{said}{self.around.file_words}")
        self.older.show_older()

    def _widen(self) -> None:
        if self._agenda is not None:
            self.lists.show_day(self._agenda, self.around.today)

    def _page(self, waiting: DayList, start: int) -> None:
        """Read on in one of the lists, where it is being looked at."""
        today, shown = self.around.today, self._agenda

        def take(found: tuple[AgendaItem, ...]) -> None:
            if self._agenda is shown:
                self.lists.day.take(waiting, start, found)

        self.around.work.look(call(items, waiting, today, start), take)

    def _show_next(self, found: Agenda) -> None:
        empty(self._next_tag)
        first = found.first
        self.button.setVisible(first is not None)
        if first is None:
            if found.tools == 0:
                self.next_title.setText(tr("No tools yet"))
                self.next_why.setText(tr("Add the first under Tools."))
            else:
                self.next_title.setText(tr("Nothing waits today"))
                self.next_why.setText(tr("No run is open, no tool is due within 30 days."))
            return
        tag = Tag(self.theme, first.card, self.around.today)
        tag.clicked.connect(lambda: self.around.go(Target(PlaceId.TOOLS, tool=first.card.tool.id)))
        self._next_tag.addWidget(tag)
        begun = first.card.run_id is not None
        self.next_title.setText(
            tr("Next: {which} {number}", which=tr("go on with") if begun else tr("test"), number=first.card.tool.number)
        )
        self.next_why.setText(f"{first.why[0].upper()}{first.why[1:]}. {_where(first)}")
        self.button.say(tr("Go on") if begun else tr("Put on the bench"))

    def _open(self, item: AgendaItem) -> None:
        tool = item.card.tool
        match item.waiting:
            case DayList.LATE_LOANS:
                self.around.go(Target(PlaceId.DESK, number=tool.number))
            case DayList.LATE_TRIPS:
                self.around.go(Target(PlaceId.DESK, tool=tool.id))
            case DayList.REVIEWS:
                self.around.go(Target(PlaceId.DESK, tool=tool.id, review=0))
            case _:
                place = PlaceId.BENCH if item.card.run_id is not None else PlaceId.TOOLS
                self.around.go(Target(place, tool=tool.id))


def _summary(found: Agenda) -> str:
    counts = (
        (found.counts.get(waiting, 0), words)
        for waiting, words in (
            (DayList.UNFINISHED, tr("unfinished")),
            (DayList.OVERDUE, tr("overdue")),
            (DayList.DUE_SOON, tr("due within 30 days")),
            (DayList.HELD, tr("held")),
            (DayList.LATE_LOANS, tr("lent past their date")),
            (DayList.LATE_TRIPS, tr("late from a laboratory")),
            (DayList.REVIEWS, tr("to be reviewed")),
        )
    )
    said = [f"{count} {words}" for count, words in counts if count]
    tools = tr_count("1 tool", "{n} tools", found.tools)
    return tr("{tools} in the register", tools=tools) + (": " + ", ".join(said) if said else "")


def _where(item: AgendaItem) -> str:
    card = item.card
    if card.loan:
        return tr("It is lent to {to}.", to=card.loan.to)
    return tr("It is kept at: {place}.", place=card.tool.place) if card.tool.place else ""
