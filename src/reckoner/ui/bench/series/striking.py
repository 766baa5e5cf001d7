"""Striking a reading, the last or an earlier one, asked inline so that no dialog stands in the way of a pull.

What is asked about a reading before it counts, above whatever stands in the middle of the bench.
"""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QObject, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QWidget

from reckoner.core.translation import tr
from reckoner.shop.runs import taking
from reckoner.shop.runs.asking import KeepReadings, Strikes, answers, asked_words
from reckoner.shop.runs.records import ReadingQuestion
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.steps import strikable
from reckoner.shop.words.results import strike_words
from reckoner.ui.bench.meter.intake import ReadingIntake, fault_words
from reckoner.ui.bench.panel import Action, BenchAccess
from reckoner.ui.layout import column, row
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.question import QuestionChoice, QuestionPanel
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call

STEPS = {Qt.Key.Key_Up: 1, Qt.Key.Key_Down: -1}
"""Keys in the field that go to the reading before, or after."""


class Striking(QWidget):
    """Hidden until it asks why; for the last reading the faults that its trace showed are filled in. ``back`` takes the focus
    afterwards. Signal ``marked(id)``: this observation would be struck; None: none."""

    marked = pyqtSignal(object)

    def __init__(self, theme: Theme, taker: ReadingIntake, back: QWidget) -> None:
        super().__init__()
        self._taker = taker
        self._back = back
        self._run: RunState | None = None
        self._at = 0
        self.which = label(theme, "", Type.STRONG, wrap=True)
        self.why = EntryField(theme, tr("Why is it struck?"), words_reader, tr("such as: pulled too fast"))
        self.why.given.connect(self._strike)
        self.why.line.installEventFilter(self)
        asking = row(self.why, button(theme, tr("Keep it"), self._keep), gap=2)
        asking.setStretch(0, 1)
        self.setLayout(column(self.which, asking, gap=0))
        self.hide()

    def ask(self, run: RunState, observation_id: int | None = None) -> bool:
        """Ask about the last reading of ``run``, or about one of those that can still be struck; False where there is
        none."""
        found = strikable(run)
        self._run = run
        self._at = next((i for i, (_s, o) in enumerate(found) if o.id == observation_id), 0)
        if not found or (observation_id is not None and found[self._at][1].id != observation_id):
            return False
        self.show()
        self.why.line.setText(fault_words(self._taker.feedback.faults) if self._at == 0 else "")
        self.why.line.selectAll()
        self.why.setFocus()
        self._say()
        return True

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Up and down go through the readings."""
        pressed = isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress
        step = STEPS.get(Qt.Key(event.key())) if pressed and isinstance(event, QKeyEvent) else None
        if step is None or self._run is None:
            return super().eventFilter(watched, event)
        self._at = min(max(self._at + step, 0), len(strikable(self._run)) - 1)
        self._say()
        return True

    def _say(self) -> None:
        if self._run is None:
            return
        found = strikable(self._run)
        series, observation = found[self._at]
        more = tr(" Another: ↑ ↓, or click it.") if len(found) > 1 else ""
        self.which.setText(
            tr("Strike {strike_words}.{more}", strike_words=strike_words(self._run, series, observation), more=more)
        )
        self.marked.emit(observation.id)

    def _keep(self) -> None:
        self.hide()
        self.marked.emit(None)
        self._back.setFocus()

    def _strike(self, reason: object) -> None:
        self._keep()
        if self._run is not None:
            self._taker.strike(strikable(self._run)[self._at], str(reason), last=self._at == 0)


FIRST = Action(
    tr("Answer what is asked"), None, "", allowed=False, why_not=tr("Choose an answer, above the reading."), pulls=True
)
"""What the primary button offers meanwhile; a pull is taken as ever."""


class Asking(QuestionPanel):
    """Asks about the oldest reading in question of the run in front, then of the next."""

    def __init__(self, desk: BenchAccess) -> None:
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
            case KeepReadings(whose):
                self._desk.do(call(taking.keep, run.id, one.ids, whose, self._desk.around.act()), refused=self.refuse)
