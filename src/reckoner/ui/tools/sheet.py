"""One tool's sheet: the sentence, its fence through time at a chosen point, and what happened to it."""

from __future__ import annotations

from datetime import date
from enum import Enum
from functools import partial

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QStackedWidget, QWidget

from reckoner.core.decision.states import State
from reckoner.core.quantities.days import day_words, days_from_now
from reckoner.core.quantities.printing import quantity
from reckoner.core.requirements.tooltypes import Mechanism
from reckoner.core.translation import mark, tr
from reckoner.shop.facts.limits import limits_words
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.register.fields import field_of
from reckoner.shop.register.histories import RunHistory
from reckoner.shop.register.sheet import STORY_PAGE, HistoryLine, HowOften, ToolSheet, how_often, of_tool, story
from reckoner.shop.register.trends import Point, Trend
from reckoner.shop.words.results import DUE_WORDS
from reckoner.store.terms import RegisterKind, RunKind
from reckoner.ui.actions import tooltip
from reckoner.ui.drawings.timefence import SmallFence, TimeFence, TimeFenceState, story_of
from reckoner.ui.latest import LatestQuery
from reckoner.ui.layout import column, empty, row, scrolling, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.register.factsheet import FactSheet
from reckoner.ui.register.files import Files
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.tools.howoften import HowOftenBlock
from reckoner.ui.tools.story import StoryList
from reckoner.ui.widgets.buttons import PrimaryButton, button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.flow import Flow
from reckoner.ui.widgets.text import ElidedLabel, label, tip
from reckoner.ui.work import both, call


class SheetPage(Enum):
    """The pages of a sheet, by what stands on them."""

    RESULTS = mark("Results")
    FACTS = mark("What is known")


class ToolSheetView(QWidget):
    """Two pages: its results, and what is known of it. Signals ``bench(tool_id)``: put it on the bench; ``opened(run_id)``:
    look at a run of its history; ``like(tool_id, model_id, number)``: add another one like it; ``model(model_id)``: look at
    its model; ``scale(tool_id, number, unit)``: mark its scale anew."""

    bench = pyqtSignal(int)
    opened = pyqtSignal(int)
    like = pyqtSignal(int, int, str)
    model = pyqtSignal(int)
    scale = pyqtSignal(int, str, object)

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        theme = self._theme = around.theme
        self._sheet: ToolSheet | None = None
        self._asking = LatestQuery(around.work)
        self._today = date.min
        self._point: Point | None = None
        self._further = False
        self.number = label(theme, "", Type.HEADLINE)
        self._about = ElidedLabel(theme, "", Type.BODY, "quiet")
        self._button = PrimaryButton(theme, tr("Put on the bench"))
        self._button.setFixedWidth(30 * GRID)
        self._button.clicked.connect(self.put_on_bench)
        self.sentence = label(theme, "", Type.TITLE, wrap=True)
        self.status = label(theme, "", Type.BODY, "quiet", wrap=True)
        self._points_room = QWidget()
        self._points = Flow(self._points_room)
        self.fences: dict[Point, SmallFence] = {}
        self.trend = label(theme, "", Type.BODY, wrap=True)
        self._trends: dict[Point, Trend] = {}
        self._fence = TimeFence(theme)
        self._fence.setMinimumHeight(22 * GRID)
        self.story = StoryList(theme)
        self.story.opened.connect(self.opened)
        self._story_title = label(theme, tr("What happened to it"), Type.LEAD)
        self.check = button(theme, tr("Two-minute check"), self._check)
        self.check.setToolTip(tooltip("check"))
        self.change = button(theme, tr("Did it change?"), self._ask_change)
        self.change.setToolTip(tip(tr("Five readings at one point, held against its last full run")))
        self.certificate = button(theme, tr("A certificate came with it…"), self._ask_certificate)
        self.certificate.setToolTip(tip(tr("Its maker's, or a laboratory's: its points and until when it holds")))
        self.happened = button(theme, tr("Something happened…"), self._report)
        self.happened.setToolTip(tooltip("happened"))
        self._set_out()

    def _set_out(self) -> None:
        theme, around = self._theme, self._around
        head = row(column(self.number, self._about, gap=0), self._button, gap=2)
        head.setStretch(0, 1)
        results = QWidget()
        told = column(self._points_room, self._fence, self.trend, self._story_title, self.story, gap=2)
        told.setStretch(1, 1)
        results.setLayout(told)
        self.pages = Chips(theme, tr("Page of the sheet"))
        self.pages.offer([(page.value, tr(page.value)) for page in SheetPage], [SheetPage.RESULTS.value])
        self.pages.chosen.connect(self._turn)
        self.facts = FactSheet(around)
        self.files = Files(around)
        known = QWidget()
        self.advice = label(theme, "", Type.BODY, wrap=True)
        advice = surface(
            column(label(theme, tr("Putting it away"), Type.STRONG), self.advice, gap=0, margin=2), "notice"
        )
        self.often = HowOftenBlock(theme)
        self.characterised = label(theme, "", Type.BODY, "quiet", wrap=True)
        known.setLayout(
            column(self._actions(), advice, self.often, self.characterised, self.facts, self.files, 1, gap=2)
        )
        self._stack = QStackedWidget()
        self._results = scrolling(results)
        bar = self._results.verticalScrollBar()
        if bar is not None:
            bar.valueChanged.connect(lambda _value: self._read_on())
            bar.rangeChanged.connect(lambda _low, _high: self._read_on())
        self.story.moved.connect(lambda y: self._results.ensureVisible(0, self.story.y() + y, 0, 4 * GRID))
        self._stack.addWidget(self._results)
        self._stack.addWidget(scrolling(known))
        commands = QWidget()
        flow = Flow(commands)
        for command in (self.check, self.change, self.certificate, self.happened):
            flow.addWidget(command)
        turning = row(self.pages, commands, gap=2)
        turning.setStretch(0, 2)
        turning.setStretch(1, 5)
        layout = column(head, column(self.sentence, self.status, gap=1), turning, self._stack, gap=2, margin=3)
        layout.setStretch(3, 1)
        self.setLayout(layout)

    def _actions(self) -> QWidget:
        made = QWidget()
        flow = Flow(made)
        for words, leads in (
            (tr("Its model…"), self._to_model),
            (tr("Another one like it…"), self._another),
            (tr("Its label…"), self._to_label),
        ):
            flow.addWidget(button(self._theme, words, leads))
        self.mark_scale = button(self._theme, tr("Mark its scale anew…"), self._to_scale)
        flow.addWidget(self.mark_scale)
        return made

    def _to_scale(self) -> None:
        if self._sheet is not None:
            tool = self._sheet.card.tool
            self.scale.emit(tool.id, tool.number, tool.unit)

    def _to_label(self) -> None:
        if self._sheet is not None:
            self._around.go(Target(PlaceId.RECORDS, labels=self._sheet.card.tool.number))

    def _to_model(self) -> None:
        if self._sheet is not None:
            self.model.emit(self._sheet.card.tool.model_id)

    def _another(self) -> None:
        if self._sheet is not None:
            tool = self._sheet.card.tool
            self.like.emit(tool.id, tool.model_id, tool.number)

    def _turn(self) -> None:
        """Show the page that was chosen."""
        facts = SheetPage(self.pages.one) is SheetPage.FACTS
        self.mark_scale.setVisible(self._sheet is not None and self._sheet.card.tool.mechanism is Mechanism.BEAM)
        self._stack.setCurrentIndex(int(facts))
        if facts and self._sheet is not None:
            tool = self._sheet.card.tool
            self.facts.open(RegisterKind.TOOL, tool.id, _as_model(tool))
            self.files.open(RegisterKind.TOOL, tool.id)
            sheet = self._sheet
            self._asking.look(both(call(how_often, sheet), call(of_tool, tool.id, tool.model_id)), self._show_known)

    def _show_known(self, found: tuple[HowOften, str]) -> None:
        self.often.show_found(found[0])
        self.characterised.setText(found[1])

    def show_sheet(self, sheet: ToolSheet, today: date) -> None:
        again = self._sheet is not None and self._sheet.card.tool.id == sheet.card.tool.id
        if not again:
            self._point = None
            self._trends = {}
        self._sheet, self._today = sheet, today
        tool = sheet.card.tool
        self.number.setText(tool.number)
        serial = tr("serial {serial}", serial=tool.serial) if tool.serial else ""
        model = f"{tool.maker} {tool.model_name}".strip()
        known = (model, tool.description, tool.range_text, tool.place, serial)
        self._about.set_whole(" · ".join(words for words in known if words))
        self._button.say(tr("Go on with the run") if sheet.card.run_id is not None else tr("Put on the bench"))
        self.sentence.setText(_headline(sheet))
        self.advice.setText(tool.putting_away)
        self.status.setText(_status(sheet, today))
        tested = bool(sheet.runs) or sheet.card.state is not None
        self.check.setVisible(tested)
        self.change.setVisible(tested)
        self.certificate.setVisible(not tested)
        self._show_points()
        self._show_fence()
        self._show_story(sheet, again=again)
        self._turn()

    def _report(self) -> None:
        if self._sheet is not None:
            self._around.report(self._sheet.card.tool.id)

    def _check(self) -> None:
        if self._sheet is not None:
            self._around.go(Target(PlaceId.BENCH, tool=self._sheet.card.tool.id, kind=RunKind.CHECK))

    def _ask_change(self) -> None:
        if self._sheet is not None:
            self._around.go(Target(PlaceId.BENCH, tool=self._sheet.card.tool.id, kind=RunKind.EVENT))

    def _ask_certificate(self) -> None:
        if self._sheet is not None:
            self._around.go(Target(PlaceId.DESK, tool=self._sheet.card.tool.id))

    def put_on_bench(self) -> None:
        if self._sheet is not None:
            self.bench.emit(self._sheet.card.tool.id)

    def _show_points(self) -> None:
        sheet = self._sheet
        empty(self._points)
        if sheet is None or not sheet.runs:
            return
        newest = sheet.runs[-1]
        available = list(dict.fromkeys((p.direction, p.target) for p in newest.points))
        if self._point not in available:
            worst = max(newest.points, key=lambda p: p.worst)
            self._point = (worst.direction, worst.target)
        both = len({d for d, _ in available}) > 1
        self.fences = {}
        for point in available:
            words = quantity(point[1], sheet.card.tool.unit)
            words = f"{words} {point[0]}" if both else words
            fence = SmallFence(self._theme, words, story_of(sheet, point), _limit_at(newest, point))
            fence.setChecked(point == self._point)
            fence.clicked.connect(partial(self._choose, point))
            self.fences[point] = fence
            self._points.addWidget(fence)

    def _choose(self, point: Point) -> None:
        self._point = point
        for one, fence in self.fences.items():  # they stay: the one that was pressed has the focus
            fence.setChecked(one == point)
        self._show_fence()

    def _show_fence(self) -> None:
        sheet = self._sheet
        if sheet is None:
            return
        self._fence.setVisible(bool(sheet.runs))
        if not sheet.runs or self._point is None:
            return
        found = [(r, p) for r in sheet.runs for p in r.points if (p.direction, p.target) == self._point]
        newest, trend = found[-1][1], self._trends.get(self._point)
        self.trend.setText(trend.words if trend is not None else "")
        self.trend.setVisible(trend is not None)
        self._fence.show_state(
            TimeFenceState(
                limit=newest.limit,
                near=newest.near_zone,
                points=story_of(sheet, self._point),
                today=self._today,
                due=None if sheet.card.held or sheet.card.standing.due is None else sheet.card.standing.due.on,
                trend=trend.drawn(self._today) if trend is not None else (),
                reaches=trend.band_reaches if trend is not None else None,
                events=tuple(
                    (h.on, f"{h.what}: {h.detail}" if h.detail else h.what)
                    for h in sheet.happenings
                    if h.run_id is None
                ),
            )
        )

    def show_trends(self, tool_id: int, found: dict[Point, Trend]) -> None:
        """How the points drift, worked out once the sheet stands."""
        if self._sheet is not None and self._sheet.card.tool.id == tool_id:
            self._trends = found
            self._show_fence()

    def _show_story(self, sheet: ToolSheet, *, again: bool) -> None:
        self._story_title.setVisible(bool(sheet.happenings))
        read = self.story.story.lines
        if not (again and read and sheet.happenings and read[-1].sequence < sheet.happenings[-1].sequence):
            self._further = sheet.more
        self.story.show_lines(sheet.happenings, again=again)

    def _read_on(self) -> None:
        """The next page of the story, once what stands of it is nearly looked through."""
        bar, sheet = self._results.verticalScrollBar(), self._sheet
        if (
            bar is None
            or sheet is None
            or not self._further
            or bar.value() < bar.maximum() - 2 * self._results.height()
        ):
            return
        self._further = False
        tool, last = sheet.card.tool, self.story.story.lines[-1].sequence
        self._around.work.look(call(story, tool.id, tool.unit, last), lambda lines: self._take_story(tool.id, lines))

    def _take_story(self, tool_id: int, lines: tuple[HistoryLine, ...]) -> None:
        if self._sheet is not None and self._sheet.card.tool.id == tool_id:
            self._further = len(lines) == STORY_PAGE
            self.story.take(lines)


def _as_model(tool: ToolFacts) -> dict[str, str]:
    """What stands where a tool does not depart from its model."""
    said = {}
    for name, value in (
        ("resolution", tool.kind.resolution or None),
        ("lever_length", tool.lever),
        ("pivot_offset", tool.pivot or None),
        ("own_mass", tool.own_mass),
        ("own_centre", tool.own_centre),
    ):
        field = field_of(RegisterKind.TOOL, name)
        if field is not None:
            words = field.said(value, tool.own_units)
            said[name] = tr("as its model: {words}", words=words) if words else tr("not known, of its model neither")
    said["tolerance"] = tr("none of its own")
    return said


def _school(sheet: ToolSheet) -> str:
    """How the due date was found, where its interval is not just a fixed one."""
    note = sheet.dated.due_note if sheet.dated is not None else ""
    return f" ({note})" if note else ""


def _limit_at(run: RunHistory, point: Point) -> float:
    return next(p.limit for p in run.points if (p.direction, p.target) == point)


def _headline(sheet: ToolSheet) -> str:
    if not sheet.runs:
        if sheet.card.run_id is not None:
            return tr("Never tested. Its first run is begun on the bench and not signed.")
        return tr("Never tested. Put it on the bench for its first run.")
    newest = sheet.runs[-1]
    return (
        newest.sentence
        if newest.state is not State.UNDECIDED
        else tr("Last run not decided: {sentence}", sentence=newest.sentence)
    )


def _status(sheet: ToolSheet, today: date) -> str:
    card = sheet.card
    said = []
    if card.held:
        said.append(tr("Held: {held}", held=card.held))
    elif card.loan:
        back = tr(", back by {due_back}", due_back=day_words(card.loan.due_back)) if card.loan.due_back else ""
        said.append(tr("Lent to {to}{back}", to=card.loan.to, back=back))
    if sheet.runs:
        newest = sheet.runs[-1]
        said.append(tr("Last run {on} by {by}", on=day_words(newest.on), by=newest.by))
        if not card.held:
            when = days_from_now(card.days_left(today))
            due = card.due(today)
            said.append(
                tr(
                    "Due {on}, {when}, because {due_words}{school}",
                    on=day_words(due.on),
                    when=when,
                    due_words=DUE_WORDS[due.reason],
                    school=_school(sheet),
                )
            )
        limits = {p.target: p.limit for p in newest.points}
        said.append(
            tr("Permissible deviation {limits_words}", limits_words=limits_words(limits.items(), card.tool.unit))
        )
    return " · ".join(said)
