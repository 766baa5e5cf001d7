"""The stacked fences at the right of the bench: one for each point and direction.

Before the first reading, where the fences will stand: how the tool was last time, and what happened since.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from datetime import date

from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QLabel, QWidget

from reckoner.core.history.comparison import half_width
from reckoner.core.quantities.days import day_words
from reckoner.core.quantities.printing import limit, percent, quantity
from reckoner.core.quantities.units import Unit
from reckoner.core.translation import tr
from reckoner.shop.facts.limits import limits_words
from reckoner.shop.register.histories import PointHistory, RunHistory
from reckoner.shop.register.sheet import HistoryLine, ToolSheet, since
from reckoner.shop.runs.judging import beside_first, judged, margin_of
from reckoner.shop.runs.kinds import POLICIES
from reckoner.shop.runs.records import SeriesState
from reckoner.shop.runs.state import RunState
from reckoner.shop.words.comparisons import series_name
from reckoner.shop.words.results import margin
from reckoner.ui.drawings.fence import Fence, FenceState
from reckoner.ui.drawings.timefence import TimeFence, TimeFenceState, story_of
from reckoner.ui.layout import column, empty, row, scrolling
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.mark import FenceMark
from reckoner.ui.widgets.text import ElidedLabel, label

ROOM_FOR_WORDS = 30 * GRID


def fence_of(run: RunState, series: SeriesState) -> FenceState:
    """What a series' fence shows, from its first reading on; the near zone as soon as there are two."""
    if run.policy.beside_first:
        beside = beside_first(run, series)
        mean = sum(beside) / len(beside) if beside else None
        return FenceState(margin_of(run), 0.0, beside, (), mean, half_width(series.readings))
    counted = tuple(p.deviation for p in series.pairs)
    struck = tuple(p.deviation for p in series.struck_pairs)
    point = judged(run).point(series)
    if point is None:
        return FenceState(run.limit(series.target), 0.0, counted, struck)
    return FenceState(
        point.decision.limit,
        point.decision.near_zone,
        counted,
        struck,
        point.budget.deviation,
        point.budget.expanded_uncertainty,
    )


def _note(run: RunState) -> str:
    """What the posts are."""
    if run.policy.beside_first:
        posts = limit(margin_of(run))
        first = run.sides.first.name if run.sides is not None else tr("baseline")
        return tr(
            "Each held against “{name}”. Between the posts, {posts}, it does not matter.", name=first, posts=posts
        )
    left = tr("As left. ") if run.left else ""
    limits = limits_words(run.limits, run.tool.unit)
    return tr(
        "{left}{title}, {limits}. Hatched: closer to a post than the uncertainty.",
        left=left,
        title=run.rules.title,
        limits=limits,
    )


class Fences(QWidget):
    """Fences that fill as readings come."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._run_id: tuple[int, tuple[int, ...]] | None = None
        self._title = label(theme, tr("Between the fences"), Type.LEAD)
        self._note = label(theme, "", Type.CAPTION, "quiet", wrap=True)
        self._shown: tuple[int, ...] = ()
        self._stack = column(gap=2)
        self._stack.setContentsMargins(0, 0, 2 * GRID, 0)
        self.fences: list[Fence] = []
        self._words: list[QLabel] = []
        self._marks: list[FenceMark] = []
        holder = QWidget()
        holder.setLayout(self._stack)
        self._area = scrolling(holder)
        self.setLayout(column(column(self._title, self._note, gap=0), self._area, gap=2))

    def show_run(self, run: RunState) -> None:
        self._shown = tuple(s.id for s in run.series)
        shown = (run.id, self._shown)
        if self._run_id != shown:
            self._run_id = shown
            self._build(run)
        self._note.setText(_note(run))
        for series, fence, words, mark in zip(run.series, self.fences, self._words, self._marks, strict=True):
            fence.show_state(fence_of(run, series))
            point = judged(run).point(series)
            if not run.policy.judges:  # it measures; nothing is judged
                words.setText(tr("{missing} to go", missing=series.missing) if series.missing else "")
                mark.hide()
            elif point is not None:
                words.setText(margin(point.decision.looked_at, point.decision.limit))
                mark.show_state(point.decision.state, mirrored=point.budget.deviation < 0)
            else:
                words.setText(tr("{missing} to go", missing=series.missing) if series.missing else "")
                mark.show_state(None)
            if series.id == (run.current.id if run.current else 0):
                self._area.ensureWidgetVisible(fence, 0, 4 * GRID)

    def foretell(self, then: Mapping[int, float]) -> None:
        """Show where a turn would bring the series named; nothing for the others."""
        for series_id, fence in zip(self._shown, self.fences, strict=True):
            state = fence.state()
            if state.then != then.get(series_id):
                fence.show_state(replace(state, then=then.get(series_id)))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._make_room()

    def _make_room(self) -> None:
        """In a narrow column the point's name goes before the words; mark and fence say the same."""
        for words in self._words:
            words.setVisible(self.width() >= ROOM_FOR_WORDS)

    def show_nothing(self) -> None:
        """No run is in front."""
        self._run_id = None
        self._note.setText(tr("They fill as readings come."))
        self._forget()

    def _forget(self) -> None:
        empty(self._stack)
        self.fences, self._words, self._marks = [], [], []

    def _build(self, run: RunState) -> None:
        self._forget()
        for series in run.series:
            name = series_name(run, series)
            words = label(self._theme, "", Type.CAPTION, "quiet")
            mark = FenceMark(self._theme, None, 18)
            fence = Fence(self._theme, fence_of(run, series))
            title = row(ElidedLabel(self._theme, name, Type.STRONG), words, mark)
            title.setStretch(0, 1)
            self._stack.addLayout(column(title, fence, gap=1))
            self.fences.append(fence)
            self._words.append(words)
            self._marks.append(mark)
        self._stack.addStretch(1)
        self._make_room()


MOST_SINCE = 3
"""Happenings that are named; the sheet has all of them."""


class LastTime(QWidget):
    """Shows nothing that is judged now: only what was signed, and what was reported."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.title = label(theme, tr("Last time"), Type.LEAD)
        self.who = label(theme, "", Type.CAPTION, "quiet", wrap=True)
        self.sentence = label(theme, "", Type.STRONG, wrap=True)
        self.note = label(theme, "", Type.BODY, wrap=True)
        self._worst = label(theme, "", Type.CAPTION, "quiet", wrap=True)
        self.fence = TimeFence(theme)
        self.since = label(theme, "", Type.BODY, wrap=True)
        stack = column(self.title, self.who, self.sentence, self.note, self._worst, self.fence, self.since, 1, gap=1)
        stack.setStretch(5, 3)
        self.setLayout(stack)

    def show_sheet(self, found: ToolSheet, today: date) -> bool:
        """Returns whether there is anything to show: a tool that was never judged has no last time."""
        if not found.runs:
            return False
        run, unit = found.runs[-1], found.card.tool.unit
        with_what = tr(", with {reference}", reference=run.reference) if run.reference else ""
        self.who.setText(f"{POLICIES[run.kind].words}, {day_words(run.on)}, {run.by}{with_what}")
        self.sentence.setText(f"{run.sentence}.")
        self.note.setText(tr("Noted then: {note}", note=run.note) if run.note else "")
        self.note.setVisible(bool(run.note))
        self._show_fence(found, run, unit, today)
        lines = [_event_line(h) for h in since(found)]
        more = len(lines) - MOST_SINCE
        if len(lines) == len(found.happenings) and found.more:
            lines = [*lines[:MOST_SINCE], tr("and more, on its sheet")]
        elif more > 0:
            lines = [*lines[:MOST_SINCE], tr("and {more} more, on its sheet", more=more)]
        self.since.setText(tr("Since then: ") + "; ".join(lines) + "." if lines else tr("Nothing was reported since."))
        return True

    def _show_fence(self, found: ToolSheet, run: RunHistory, unit: Unit, today: date) -> None:
        """The point that came nearest to its limit, through time."""
        worst = max(run.points, key=_share)
        self._worst.setText(
            tr(
                "Nearest to its post: {target}, mean deviation {deviation}",
                target=quantity(worst.target, unit),
                deviation=percent(worst.deviation, 1, sign=True),
            )
        )
        points = story_of(found, (worst.direction, worst.target))
        self.fence.show_state(TimeFenceState(worst.limit, worst.near_zone, points, today, None))


def _share(point: PointHistory) -> float:
    return abs(point.worst) / point.limit


def _event_line(line: HistoryLine) -> str:
    what = line.what[:1].lower() + line.what[1:]
    detail = f" ({line.detail})" if line.detail else ""
    return tr("{what} on {on}{detail}", what=what, on=day_words(line.on), detail=detail)
