"""Exercise without a meter that counts: who has made the releases one after the other says so with one press."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import Refused
from reckoner.core.translation import tr
from reckoner.shop.runs import taking
from reckoner.shop.runs.records import Step
from reckoner.shop.runs.state import RunState
from reckoner.ui.bench.panel import BenchAccess
from reckoner.ui.layout import row
from reckoner.ui.widgets.buttons import button
from reckoner.ui.work import call


class RestOfExercise(QWidget):
    """Counts what is left of the releases in the direction at hand; hidden while a meter counts them."""

    def __init__(self, desk: BenchAccess) -> None:
        super().__init__()
        self._desk = desk
        self._run: RunState | None = None
        self._counting = False
        self.button = button(desk.around.theme, "", self._count)
        self.setLayout(row(1, self.button))
        self.hide()

    def show_run(self, run: RunState) -> None:
        """Offer it where more than one is left."""
        self._run, self._counting = run, False
        left = run.exercising.wanted - run.exercising.done if run.exercising is not None else 0
        by_hand = run.step is Step.EXERCISE and (run.exercise_apart or not self._desk.meter.streams)
        self.button.setText(tr("All {left} are done", left=left))
        self.setVisible(by_hand and left > 1)

    def _count(self) -> None:
        """Once, however often it is pressed: there may be another direction, of which nothing is done yet."""
        if self._run is not None and self._run.step is Step.EXERCISE and not self._counting:
            self._counting = True
            change = call(taking.count_rest_of_exercise, self._run.id, self._desk.around.act())
            self._desk.do(change, told=self._not_counted)

    def _not_counted(self, _refusal: Refused) -> None:
        self._counting = False
