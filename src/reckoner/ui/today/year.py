"""The next twelve months: how many tools are due each week, what can be brought forward, and the dates as a calendar."""

from __future__ import annotations

from functools import partial
from pathlib import Path

from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import Refused
from reckoner.core.quantities.days import day_words, short_day
from reckoner.core.translation import tr, tr_count
from reckoner.shop.planning.workload import (
    BroughtForward,
    Levelling,
    Week,
    Workload,
    bring_forward,
    due_in,
    levelling,
    workload,
)
from reckoner.shop.register.cards import ToolCard
from reckoner.ui.drawings.weeks import Weeks
from reckoner.ui.files import FileKind, ask_where
from reckoner.ui.keptfiles import write_calendar
from reckoner.ui.latest import LatestQuery
from reckoner.ui.layout import column, empty, row, scrolling, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.flow import Flow
from reckoner.ui.widgets.tag import Tag
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call


class Year(QWidget):
    """Asks for what it shows when it comes to the front."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        theme = around.theme
        self._asking, self._reading = LatestQuery(around.work), LatestQuery(around.work)
        self._work: Workload | None = None
        self._cards: tuple[ToolCard, ...] = ()
        self._levelling: Levelling | None = None
        self.sentence = label(theme, "", Type.TITLE, wrap=True)
        self.weeks = Weeks(theme)
        self.weeks.chosen.connect(self._chose)
        self.week = label(theme, "", Type.LEAD, wrap=True)
        self.forward = button(theme, "", self._bring_forward)
        self.forward.hide()
        self._tags = QWidget()
        self._flow = Flow(self._tags)
        self.file = button(theme, tr("Save the dates as a calendar…"), self._ask_file, "link")
        self.keep = button(theme, tr("Keep a calendar file current…"), self._ask_keep, "link")
        self.kept = label(theme, "", Type.CAPTION, "quiet", wrap=True)
        head = row(self.week, self.forward, gap=2)
        head.setStretch(0, 1)
        foot = row(self.file, self.keep, self.kept, gap=1)
        foot.setStretch(2, 1)
        layout = column(
            self.sentence, surface(column(self.weeks, margin=1)), head, scrolling(self._tags), foot, gap=2
        )  # fmt: skip
        layout.setStretch(3, 1)
        self.setLayout(layout)

    def refresh(self) -> None:
        """Ask for it anew."""
        today = self._around.today
        self._asking.look(call(workload, today), self._show_workload)

    def save(self, path: Path) -> None:
        """Write the dates into a file, once."""
        write_calendar(
            self._around,
            path,
            lambda: self._around.saved(
                tr("The due dates are in {path}; any calendar program opens it.", path=path), path
            ),
        )

    def keep_current(self, path: Path) -> None:
        """Write the dates into a file now and whenever one changes, for a calendar program that subscribes to it."""
        try:
            self._around.station.keep(calendar=str(path))
        except Refused as refusal:
            self._around.say(str(refusal))
        write_calendar(
            self._around,
            path,
            lambda: self._around.say(tr("{path} is kept current from now on, while this window is open.", path=path)),
        )
        self._say_kept()

    def _show_workload(self, work: Workload) -> None:
        self._work = work
        year = sum(w.count for w in work.weeks)
        busiest = max(work.weeks, key=lambda w: w.count)
        said = tr(
            "{year} tools are due in the next twelve months, {even} a week if they were spread evenly",
            year=year,
            even=work.even,
        )
        if busiest.count > work.even:
            said += tr("; the week of {begins} has {count}", begins=short_day(busiest.begins), count=busiest.count)
        late = tr(" {late} are late already or were never tested.", late=work.late) if work.late else ""
        self.sentence.setText(
            f"{said}.{late}" if year else tr("Nothing is due in the next twelve months.{late}", late=late)
        )
        self.weeks.show_work(work)
        if self.weeks.week is not None:
            self._chose(self.weeks.week)
        self._say_kept()

    def _chose(self, week: Week) -> None:
        today = self._around.today
        self._reading.look(call(due_in, week, today), partial(self._show_week, week))

    def _show_week(self, week: Week, cards: tuple[ToolCard, ...]) -> None:
        self._cards = cards
        tools = tr_count("1 tool is", "{n} tools are", week.count)
        self.week.setText(tr("Week of {begins}: {tools} due", begins=day_words(week.begins), tools=tools))
        empty(self._flow)
        for card in cards:
            tag = Tag(self._around.theme, card, self._around.today)
            tag.clicked.connect(partial(self._around.go, Target(PlaceId.TOOLS, tool=card.tool.id)))
            self._flow.addWidget(tag)
        self._tags.updateGeometry()
        self._levelling = levelling(self._work, week) if self._work is not None else None
        self.forward.setVisible(self._levelling is not None)
        if self._levelling is not None:
            count, into = self._levelling.count, self._levelling.into
            self.forward.setText(
                tr("Bring {count} forward into the week of {begins}", count=count, begins=short_day(into.begins))
            )

    def _bring_forward(self) -> None:
        level, around = self._levelling, self._around
        if level is None:
            return
        if around.person is None:
            around.say(tr("Choose who is at the bench first, at the top right."))
            return
        ids = [card.tool.id for card in self._cards[: level.count]]
        to = max(level.into.ends, around.today)
        act = around.act()

        def done(made: BroughtForward) -> None:
            around.undo_stack.did(made)

        around.work.ask(call(bring_forward, ids, to, act), done)

    def _say_kept(self) -> None:
        path = self._around.station.settings.calendar
        self.kept.setText(tr("{path} is kept current.", path=path) if path else "")

    def _ask_file(self) -> None:
        if (path := self._ask_where(tr("Save the due dates"))) is not None:
            self.save(path)

    def _ask_where(self, title: str) -> Path | None:
        return ask_where(self._around, self, FileKind.CALENDAR, title, tr("due dates.ics"), tr("Calendar (*.ics)"))

    def _ask_keep(self) -> None:
        if (path := self._ask_where(tr("The file to keep"))) is not None:
            self.keep_current(path)
