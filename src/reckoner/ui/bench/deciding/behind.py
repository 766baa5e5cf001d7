"""The pulls behind a run's readings: chosen by point, looked at one by one.

What a comparison found: its scatter, and every step of the ratio with the run's own values.

The stages of a run for the picture of before and after: as it came, as found, and as left after each adjustment.
"""

from __future__ import annotations

from dataclasses import replace

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QGridLayout, QWidget

from reckoner.core.quantities.printing import fixed, percent
from reckoner.core.translation import tr
from reckoner.shop.runs.records import SeriesState
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.taking import KeptPull, kept_pulls, with_pulls
from reckoner.shop.words.comparisons import scatter_words, series_name, sides_derivation
from reckoner.shop.words.results import phase_words, torque_figure
from reckoner.store.terms import PhaseKind
from reckoner.ui.bench.adjusting.screw import turn_words
from reckoner.ui.bench.fences import fence_of
from reckoner.ui.bench.meter.intake import fault_words
from reckoner.ui.drawings.beforeafter import ComparedStage
from reckoner.ui.drawings.fence import FenceState
from reckoner.ui.drawings.pulls import Curve, Pulls, PullsState
from reckoner.ui.latest import LatestQuery
from reckoner.ui.layout import column, empty
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.text import label
from reckoner.ui.work import Work, call


class PullsView(QWidget):
    """Hidden while a run has no traces: its readings were typed, or came as values."""

    def __init__(self, theme: Theme, work: Work) -> None:
        super().__init__()
        self._asking = LatestQuery(work)
        self._run: RunState | None = None
        self._series: dict[int, SeriesState] = {}
        self.pulls: tuple[KeptPull, ...] = ()
        self.points = Chips(theme, tr("Show the pulls at"))
        self.points.chosen.connect(self._ask)
        self.picture = Pulls(theme)
        self.picture.turned.connect(self._front)
        self.words = label(theme, "", Type.BODY, wrap=True)
        self.setLayout(column(label(theme, tr("The pulls"), Type.LEAD), self.points, self.picture, self.words, gap=1))
        self.hide()

    def show_run(self, run: RunState) -> None:
        """Ask which of its series have pulls to show."""
        self._run = run
        self._series = {s.id: s for s in (*run.found, *(run.left or ()))}
        ids = tuple(self._series)
        self._asking.look(call(with_pulls, ids), lambda found: self._offer(run.id, found))

    def _offer(self, run_id: int, ids: tuple[int, ...]) -> None:
        run = self._run
        if run is None or run.id != run_id:
            return
        self.setVisible(bool(ids))
        both = bool(run.left)
        names = [
            (str(i), series_name(run, self._series[i]) + (f", {phase_words(self._series[i].phase)}" if both else ""))
            for i in ids
        ]
        on = self.points.one if self.points.one in {key for key, _ in names} else names[0][0] if names else ""
        self.points.offer(names, [on] if on else [])
        if ids:
            self._ask()

    def _ask(self) -> None:
        series = int(self.points.one)

        self._asking.look(call(kept_pulls, series), lambda found: self._show_pulls(series, found))

    def _show_pulls(self, series: int, pulls: tuple[KeptPull, ...]) -> None:
        run = self._run
        if run is None or series not in self._series or str(series) != self.points.one:
            return
        self.pulls = pulls
        curves = tuple(Curve(p.samples, p.rate, p.at, p.reading, bool(p.struck)) for p in pulls)
        self.picture.show_state(PullsState(self._series[series].target, run.tool.unit, curves))
        self._say()

    def _front(self, place: int) -> None:
        self.picture.show_state(replace(self.picture.state, front=place))
        self._say()

    def _say(self) -> None:
        run, place = self._run, self.picture.state.front
        if run is None or place >= len(self.pulls):
            self.words.setText("")
            return
        pull = self.pulls[place]
        said = [
            tr(
                "Pull {place} of {count}: {torque_figure} {symbol}, {by}",
                place=place + 1,
                count=len(self.pulls),
                torque_figure=torque_figure(run, pull.reading),
                symbol=run.tool.unit.symbol,
                by=pull.by,
            )
        ]
        if pull.time_80_to_100 is not None:
            said.append(tr("80 to 100 % in {time_80_to_100} s", time_80_to_100=fixed(pull.time_80_to_100, 2)))
        if pull.over_travel is not None:
            said.append(tr("the hand went {over_travel} past the signal", over_travel=percent(pull.over_travel, 1)))
        if pull.faults:
            said.append(fault_words(pull.faults))
        if pull.struck:
            said.append(tr("struck: {struck}", struck=pull.struck))
        self.words.setText(f"{'; '.join(said)}.{f' {pull.gone}' if pull.gone else ''}")


class SidesView(QWidget):
    """Shown in the place of the numbers of a run that judges."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.scatter = label(theme, "", Type.STRONG, wrap=True)
        self._lines = QGridLayout()
        self._lines.setHorizontalSpacing(2 * GRID)
        self._lines.setVerticalSpacing(GRID)
        for part, share in enumerate((3, 3, 5, 3)):
            self._lines.setColumnStretch(part, share)
        self.setLayout(column(self.scatter, self._lines, gap=2))

    def show_run(self, run: RunState) -> None:
        self.scatter.setText(f"{scatter_words(run)}.")
        empty(self._lines)
        top = Qt.AlignmentFlag.AlignTop
        for i, step in enumerate(sides_derivation(run)):
            cells = ((step.what, "quiet"), (step.formula, ""), (step.values, ""), (step.result, ""))
            for j, (words, tone) in enumerate(cells):
                side = top | Qt.AlignmentFlag.AlignRight if j == len(cells) - 1 else top
                self._lines.addWidget(label(self._theme, words, Type.CAPTION, tone, wrap=True), i, j, side)


def stages(run: RunState) -> tuple[tuple[str, ...], tuple[ComparedStage, ...]]:
    """The points by name, and what stands in each stage; nothing where there is a single one."""
    if run.policy.diary:  # its steps stand on the fences, one under the other
        return (), ()
    made: list[ComparedStage] = []
    points = run.found
    if any(s.pairs for s in run.came):
        made.append(ComparedStage(tr("As it came"), _beside(run, points, run.came)))
    releases = sum(e.done for e in run.exercise)
    made.append(
        ComparedStage(
            tr("As found"),
            _beside(run, points, run.found),
            tr("{releases} releases", releases=releases) if made else "",
        )
    )
    rounds = sorted({s.phase for s in run.all_series if s.phase.kind is PhaseKind.LEFT})
    for phase in rounds:
        series = tuple(s for s in run.all_series if s.phase == phase)
        turned = sum(
            s.turn or 0.0 for s in run.all_series if s.phase.kind is PhaseKind.ADJUST and s.phase.round == phase.round
        )
        words = phase_words(phase)
        made.append(
            ComparedStage(
                f"{words[:1].upper()}{words[1:]}",
                _beside(run, points, series),
                tr("turned {turn_words}", turn_words=turn_words(turned)),
            )
        )
    if len(made) < 2:
        return (), ()
    return tuple(series_name(run, s) for s in points), tuple(made)


def _beside(
    run: RunState, points: tuple[SeriesState, ...], series: tuple[SeriesState, ...]
) -> tuple[FenceState | None, ...]:
    """The fence of each point's series; of what was pulled a few times only, its ticks."""
    by = {(s.target, s.direction): s for s in series if s.pairs}
    return tuple(fence_of(run, by[p.target, p.direction]) if (p.target, p.direction) in by else None for p in points)
