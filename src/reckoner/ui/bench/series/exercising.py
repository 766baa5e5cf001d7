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
    """Counts what is left of the releases in the direction at hand, or one of them where the primary button counts the rest;
    hidden while a meter counts them."""

    def __init__(self, desk: BenchAccess) -> None:
        super().__init__()
        self._desk = desk
        self._run: RunState | None = None
        self._counting = False
        self.button = button(desk.around.theme, "", self._pressed)
        self.setLayout(row(1, self.button))
        self.hide()

    @property
    def left(self) -> int:
        """Releases in the direction at hand."""
        now = self._run.exercising if self._run is not None else None
        return now.wanted - now.done if now is not None else 0

    @property
    def leads(self) -> bool:
        """Whether the primary button counts them all: no meter takes part."""
        return self._run is not None and self._run.exercise_apart and self.left > 1

    def show_run(self, run: RunState) -> None:
        """Offer it where more than one is left."""
        self._run, self._counting = run, False
        by_hand = run.step is Step.EXERCISE and (run.exercise_apart or not self._desk.meter.streams)
        self.button.setText(tr("Count a release") if self.leads else self.words)
        self.setVisible(by_hand and self.left > 1)

    @property
    def words(self) -> str:
        """What counts them all; of two directions it names its own, for one press is not for the other."""
        now = self._run.exercising if self._run is not None else None
        if self._run is None or now is None or len(self._run.exercise) == 1:
            return tr("All {left} are done", left=self.left)
        return tr("All {left} {direction} are done", left=self.left, direction=now.direction.words)

    def _pressed(self) -> None:
        if self.leads and self._run is not None:
            self._desk.do(call(taking.record_exercise, self._run.id, None, self._desk.around.act()))
        else:
            self.count()

    def count(self) -> None:
        """All that is left; once, however often it is pressed: there may be another direction, of which nothing is done
        yet."""
        if self._run is not None and self._run.step is Step.EXERCISE and not self._counting:
            self._counting = True
            change = call(taking.count_rest_of_exercise, self._run.id, self._desk.around.act())
            self._desk.do(change, told=self._not_counted)

    def _not_counted(self, _refusal: Refused) -> None:
        self._counting = False
