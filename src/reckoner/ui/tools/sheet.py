"""One tool's sheet: the sentence, its fence through time at a chosen point, and what happened to it."""

from __future__ import annotations

from datetime import date
from functools import partial

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QButtonGroup, QGridLayout, QWidget

from reckoner.core import printing
from reckoner.core.kinds import Direction
from reckoner.core.states import State
from reckoner.shop.register.sheet import PointHistory, RunHistory, ToolSheet
from reckoner.shop.wording import DUE_WORDS, at_target
from reckoner.ui.layout import column, empty, row, scrolling
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import PrimaryButton, button
from reckoner.ui.widgets.mark import FenceMark
from reckoner.ui.widgets.text import ElidedLabel, label
from reckoner.ui.widgets.timefence import TimeFence, TimeFenceState, TimePoint


class Sheet(QWidget):
    """Signals ``bench(tool_id)``: put it on the bench; ``opened(run_id)``: look at a run of its history."""

    bench = pyqtSignal(int)
    opened = pyqtSignal(int)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._sheet: ToolSheet | None = None
        self._today = date.min
        self._point: tuple[Direction, float] | None = None
        self.number = label(theme, "", Type.HEADLINE)
        self._about = ElidedLabel(theme, "", Type.BODY, "quiet")
        self._button = PrimaryButton(theme, "Put on the bench")
        self._button.setFixedWidth(30 * GRID)
        self._button.clicked.connect(self.put_on_bench)
        self.sentence = label(theme, "", Type.TITLE, wrap=True)
        self.status = label(theme, "", Type.BODY, "quiet", wrap=True)
        self._points = row(gap=1)
        self._fence = TimeFence(theme)
        self._story = QWidget()
        self._lines = QGridLayout(self._story)
        self._lines.setContentsMargins(0, 0, GRID, 0)
        self._lines.setHorizontalSpacing(2 * GRID)
        self._lines.setVerticalSpacing(GRID)
        self._lines.setColumnStretch(3, 1)
        self._story_title = label(theme, "What happened to it", Type.LEAD)
        story = scrolling(self._story)
        story.setMinimumHeight(16 * GRID)
        head = row(column(self.number, self._about, gap=0), self._button, gap=2)
        layout = column(
            head, column(self.sentence, self.status, gap=1), self._points, self._fence, self._story_title, story,
            gap=2, margin=3,
        )  # fmt: skip
        layout.setStretch(3, 3)
        layout.setStretch(5, 2)
        self.setLayout(layout)

    def show_sheet(self, sheet: ToolSheet, today: date) -> None:
        if self._sheet is None or self._sheet.card.tool.id != sheet.card.tool.id:
            self._point = None
        self._sheet, self._today = sheet, today
        tool = sheet.card.tool
        self.number.setText(tool.number)
        self._about.set_whole(
            f"{tool.maker} {tool.model} · {tool.description} · {tool.range_text} · {tool.place} · serial {tool.serial}"
        )
        self._button.say("Go on with the run" if sheet.card.run_id is not None else "Put on the bench")
        self.sentence.setText(_headline(sheet))
        self.status.setText(_status(sheet, today))
        self._show_points()
        self._show_fence()
        self._show_story()

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
        self._points.addWidget(label(self._theme, "Mean deviation at", Type.BODY, "quiet"))
        group = QButtonGroup(self)
        for point in available:
            words = at_target(point[1], sheet.card.tool.unit)
            chip = button(
                self._theme,
                f"{words} {point[0].words}" if both else words,
                kind="chosen" if point == self._point else "link",
            )
            chip.setCheckable(True)
            chip.setChecked(point == self._point)
            chip.clicked.connect(lambda _checked, point=point: self._choose(point))
            group.addButton(chip)
            self._points.addWidget(chip)
        self._points.addStretch(1)

    def _choose(self, point: tuple[Direction, float]) -> None:
        self._point = point
        self._show_points()
        self._show_fence()

    def _show_fence(self) -> None:
        sheet = self._sheet
        if sheet is None:
            return
        self._fence.setVisible(bool(sheet.runs))
        if not sheet.runs or self._point is None:
            return
        found = [(r, p) for r in sheet.runs for p in r.points if (p.direction, p.target) == self._point]
        newest = found[-1][1]
        self._fence.show_state(
            TimeFenceState(
                limit=found[-1][0].limit,
                near=newest.near_zone,
                points=tuple(_time_point(r, p) for r, p in found),
                today=self._today,
                due=None if sheet.card.held else sheet.card.due(self._today).on,
            )
        )

    def _show_story(self) -> None:
        sheet = self._sheet
        empty(self._lines)
        if sheet is None:
            return
        self._story_title.setVisible(bool(sheet.happenings))
        for i, happening in enumerate(sheet.happenings):
            top = Qt.AlignmentFlag.AlignVCenter
            self._lines.addWidget(label(self._theme, f"{happening.on:%-d %b %Y}", Type.BODY, "quiet"), i, 0, top)
            if happening.state is not None:
                self._lines.addWidget(FenceMark(self._theme, happening.state, 18), i, 1, top)
            what: QWidget = label(self._theme, happening.what, Type.STRONG)
            what.setContentsMargins(GRID + 2, 0, 0, 0)  # in line with the words of a button
            if happening.run_id is not None:
                what = button(self._theme, happening.what, partial(self.opened.emit, happening.run_id), "link")
                what.setToolTip("Open this run: its readings, its numbers, an amendment")
            self._lines.addWidget(what, i, 2, top | Qt.AlignmentFlag.AlignLeft)
            self._lines.addWidget(ElidedLabel(self._theme, happening.detail, Type.BODY, "quiet"), i, 3)
        self._lines.setRowStretch(len(sheet.happenings), 1)


def _time_point(run: RunHistory, point: PointHistory) -> TimePoint:
    return TimePoint(run.on, point.deviation, point.expanded_uncertainty, point.state, point.as_left)


def _headline(sheet: ToolSheet) -> str:
    if not sheet.runs:
        return "Never tested. Put it on the bench for its first run."
    newest = sheet.runs[-1]
    return newest.sentence if newest.state is not State.UNDECIDED else f"Last run not decided: {newest.sentence}"


def _status(sheet: ToolSheet, today: date) -> str:
    card = sheet.card
    said = []
    if card.held:
        said.append(f"Held: {card.held}")
    elif card.loan:
        back = f", back by {card.loan.due_back:%-d %b %Y}" if card.loan.due_back else ""
        said.append(f"Lent to {card.loan.to}{back}")
    if sheet.runs:
        newest = sheet.runs[-1]
        said.append(f"Last run {newest.on:%-d %b %Y} by {newest.by}")
        if not card.held:
            left = card.days_left(today)
            when = f"in {left} days" if left > 0 else "today" if left == 0 else f"{-left} days ago"
            due = card.due(today)
            said.append(f"Due {due.on:%-d %b %Y}, {when}, because {DUE_WORDS[due.reason]}")
        limit = printing.percent(newest.limit, 1)
        said.append(f"Permissible deviation ±{limit}")
    return " · ".join(said)
