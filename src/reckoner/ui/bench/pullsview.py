"""The pulls behind a run's readings: chosen by point, looked at one by one."""

from __future__ import annotations

from dataclasses import replace

from PyQt6.QtWidgets import QWidget

from reckoner.core.printing import fixed, percent
from reckoner.core.translation import tr
from reckoner.shop.runs.keptpulls import KeptPull, kept_pulls, with_pulls
from reckoner.shop.runs.records import SeriesState
from reckoner.shop.runs.state import RunState
from reckoner.shop.wording import phase_words, torque_figure
from reckoner.ui.bench.instructions import series_name
from reckoner.ui.bench.taker import fault_words
from reckoner.ui.latest import LatestQuery
from reckoner.ui.layout import column
from reckoner.ui.theme import Theme, Type
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.pulls import Curve, Pulls, PullsState
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

        self._asking.look(call(kept_pulls, series), lambda found: self._show(series, found))

    def _show(self, series: int, pulls: tuple[KeptPull, ...]) -> None:
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
