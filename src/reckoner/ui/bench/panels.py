"""The panels of the bench, one for each step, and each made when its step comes: the first visit waits for none of them."""

from __future__ import annotations

from functools import cached_property
from typing import TypeVar

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QLineEdit, QStackedWidget

from reckoner.shop.runs.records import Step
from reckoner.shop.runs.state import RunState
from reckoner.store.terms import ObservationKind
from reckoner.ui.bench.adjusting.panel import AdjustPanel
from reckoner.ui.bench.deciding.panel import DecidingPanel
from reckoner.ui.bench.panel import Panel
from reckoner.ui.bench.presenter import BenchPresenter
from reckoner.ui.bench.series.panel import PullsPanel
from reckoner.ui.bench.series.tripping import TrippingPanel
from reckoner.ui.bench.setup.lookover import LookOverPanel
from reckoner.ui.bench.setup.newtool import NewToolPanel
from reckoner.ui.bench.setup.panel import SetUpPanel
from reckoner.ui.bench.setup.start import StartPanel

P = TypeVar("P", bound=Panel)


class Panels(QStackedWidget):
    """The middle of the bench; the panel in front is the current widget. Signal ``foretold(mapping)`` as the adjusting panel
    tells it."""

    foretold = pyqtSignal(object)

    def __init__(self, presenter: BenchPresenter) -> None:
        super().__init__()
        self._presenter = presenter
        self.made: list[Panel] = []

    @cached_property
    def start(self) -> StartPanel:
        return self._panel(StartPanel)

    @cached_property
    def new_tool(self) -> NewToolPanel:
        return self._panel(NewToolPanel)

    @cached_property
    def look_over(self) -> LookOverPanel:
        return self._panel(LookOverPanel)

    @cached_property
    def pulls(self) -> PullsPanel:
        return self._panel(PullsPanel)

    @cached_property
    def adjust(self) -> AdjustPanel:
        made = self._panel(AdjustPanel)
        made.foretold.connect(self.foretold)
        return made

    @cached_property
    def deciding(self) -> DecidingPanel:
        return self._panel(DecidingPanel)

    @cached_property
    def set_up(self) -> SetUpPanel:
        return self._panel(SetUpPanel)

    @cached_property
    def tripping(self) -> TrippingPanel:
        return self._panel(TrippingPanel)

    def _panel(self, kind: type[P]) -> P:
        panel = kind(self._presenter)
        self.addWidget(panel)
        self._presenter.meter.roomed.connect(panel.roomed)
        self.made.append(panel)
        return panel

    def of(self, run: RunState) -> Panel:
        """The panel of the step that a run is at."""
        match run.step:
            case Step.LOOK_OVER:
                return self.look_over
            case Step.SET_UP:
                return self.set_up
            case Step.AS_FOUND | Step.AS_LEFT if not run.procedure.one_pull_tells and run.current is not None:
                return self.tripping
            case Step.AS_IT_CAME | Step.EXERCISE | Step.AS_FOUND | Step.AS_LEFT:
                return self.pulls
            case Step.ADJUST:
                return self.adjust
            case Step.DECIDE | Step.SIGNED:
                return self.deciding

    def answer(self, kind: ObservationKind) -> None:
        """Say what a tool did at the try that is asked for; nothing where none is."""
        match self.currentWidget():
            case TrippingPanel() as tripping:
                tripping.asks.answer(kind)
            case AdjustPanel() as adjust if adjust.asking:
                adjust.asks.answer(kind)

    def pull_fields(self) -> tuple[QLineEdit, ...]:
        """Those in which Space pulls while they are empty."""
        match self.currentWidget():
            case PullsPanel() as pulls:
                return (pulls.typed.line, pulls.shown.line)
            case AdjustPanel() as adjust:
                return (adjust.typed.line, adjust.turned.line, adjust.shown.line)
            case _:
                return ()
