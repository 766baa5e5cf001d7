"""What is asked about a reading before it counts, above whatever stands in the middle of the bench."""

from __future__ import annotations

from reckoner.core.translation import tr
from reckoner.shop.runs import taking
from reckoner.shop.runs.asking import Keeps, Strikes, answers, asked_words
from reckoner.shop.runs.records import ReadingQuestion
from reckoner.shop.runs.state import RunState
from reckoner.ui.bench.panel import Action, Desk
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.question import QuestionChoice, QuestionPanel
from reckoner.ui.work import call

FIRST = Action(
    tr("Answer what is asked"), None, "", allowed=False, why_not=tr("Choose an answer, above the reading."), pulls=True
)
"""What the primary button offers meanwhile; a pull is taken as ever."""


class Asking(QuestionPanel):
    """Asks about the oldest reading in question of the run in front, then of the next."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk.around.theme)
        self._desk = desk
        self._run: RunState | None = None
        self._one: ReadingQuestion | None = None
        self.setContentsMargins(2 * GRID, GRID, 2 * GRID, GRID)
        self.answered.connect(self._answer)

    def show_run(self, run: RunState | None) -> None:
        """Ask of this run; None: there is none in front."""
        self._run = run
        self._one = run.asked[0] if run is not None and run.asked else None
        if run is None or self._one is None:
            self.withdraw()
            return
        self.ask(asked_words(run, self._one), [QuestionChoice(way, words) for way, words in answers(run, self._one)])

    def _answer(self, way: object, _reason: str) -> None:
        run, one = self._run, self._one
        if run is None or one is None:
            return
        match way:
            case Strikes(reason):
                self._desk.do(
                    call(taking.strike, run.id, one.struck, reason, self._desk.around.act()), refused=self.refuse
                )
            case Keeps(whose):
                self._desk.do(call(taking.keep, run.id, one.ids, whose, self._desk.around.act()), refused=self.refuse)
