"""The instruction, the big reading with its mark and sentence, what is told of the pull, and the live trace.

The live trace of the meter on the bench, wherever a pull is waited for.

What the tool's own display showed of the last pull: typed, or brought by the tool's link.

What is typed of a reference, read as the torque that it means.
"""

from __future__ import annotations

from functools import partial

import numpy as np
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QFontMetricsF, QResizeEvent
from PyQt6.QtWidgets import QSizePolicy, QVBoxLayout, QWidget

from reckoner.core.quantities.units import N_M
from reckoner.core.translation import tr
from reckoner.meters.pull import Pull
from reckoner.shop.runs.judging import beside_first, judged
from reckoner.shop.runs.records import ObservationState, SeriesState, Step
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.steps import newest
from reckoner.shop.words.comparisons import reading_beside
from reckoner.shop.words.results import corrected_words, margin, observation_words, reading_figure, torque_figure
from reckoner.ui.bench.instructions import instruct, remaining
from reckoner.ui.bench.meter.intake import Feedback, fault_words, target_of
from reckoner.ui.bench.panel import Action, BenchAccess
from reckoner.ui.drawings.trace import EarlierPull, LiveTrace
from reckoner.ui.layout import column, row, surface
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.entry import EntryField, TextReader, torque_reader
from reckoner.ui.widgets.mark import FenceMark
from reckoner.ui.widgets.text import ElidedLabel, label, set_tone

REST_OF_THE_HEAD, TOLD, REMAINING, FIGURES = 33 * GRID, 6 * GRID, 3.5 * GRID, 11.25 * GRID
"""Pixels that all but the reading take, each thing that is told of a pull, what remains, and the figures at their largest."""

SHORT = 46 * GRID
"""Below this, what remains is left to the column of steps."""

TALL = 60 * GRID
"""Below this the trace stands beside the reading, where it is higher than below it."""

TRACE_BESIDE, FIGURES_WIDE = 34 * GRID, 46 * GRID
"""Pixels that the trace takes beside the reading, and six figures with their unit at their largest."""

AROUND_FIGURES = 1.4
"""Figures have nothing below their line: the room that letters would take is the trace's."""

PROVISIONAL = tr("As it looks while you pull. Let go, and it is kept.")
ASKED = tr("It counts once you have answered, above.")
COUNTED = tr("It gave way. Let go, and it is counted.")


class ReadingHead(QWidget):
    """Shows a run at its exercise or readings."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._run: RunState | None = None
        self._provisional: float | None = None
        self._scale = 1.0
        self._is_beside = False
        self.instruction = label(theme, "", Type.TITLE, wrap=True)
        self._remaining = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.notice = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.notice.hide()
        self._reading = label(theme, "", Type.READING)
        self._unit = label(theme, "", Type.UNIT, "quiet")
        self._sentence = ElidedLabel(theme, "", Type.LEAD)
        self._mark = FenceMark(theme, None, 40)
        self._state = label(theme, "", Type.STRONG)
        self._margin = label(theme, "", Type.BODY, "quiet")
        self.hand = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.hand.hide()
        self.trace = LiveTrace(theme)
        live = surface(self._build())
        self.setLayout(column(live))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)

    def _build(self) -> QVBoxLayout:
        baseline = Qt.AlignmentFlag.AlignBottom
        figures = row(gap=2)
        figures.addWidget(self._reading, 0, baseline)
        figures.addWidget(self._unit, 0, baseline)
        figures.addStretch(1)
        self._beside = row(figures, gap=2)
        said = row(self._mark, column(self._sentence, row(self._state, self._margin, 1, gap=2), gap=0), gap=2)
        said.setStretch(1, 1)
        self._live = column(
            self.instruction, self._remaining, self.notice, self._beside, said, self.hand, self.trace, gap=1, margin=3
        )
        self._live.setStretch(6, 1)
        return self._live

    def _place_trace(self, *, beside: bool) -> None:
        """Put the trace beside the reading or below it."""
        if beside is self._is_beside:
            return
        self._is_beside = beside
        (self._live if beside else self._beside).removeWidget(self.trace)
        (self._beside if beside else self._live).addWidget(self.trace, 1)
        self._live.setStretch(3, 1 if beside else 0)

    def show_run(self, run: RunState) -> None:
        self._run = run
        self.trace.aim(target_of(run), run.tool.unit)
        self.instruction.setText(instruct(run))
        self._remaining.setText(remaining(run))
        self._show_newest(run)

    def _show_newest(self, run: RunState) -> None:
        if run.step is Step.EXERCISE:
            done = run.exercising.done if run.exercising else 0
            self._show_figure(str(done), "released")
        else:
            self._show_last(run)

    def show_feedback(self, told: Feedback) -> None:
        """What is told of the pull; a signal whose pull is not over stands in the place of the reading, in another ink."""
        run = self._run
        if run is not None and told.provisional is not None:
            self._show_figure(torque_figure(run, told.provisional), run.tool.unit.symbol)
            self._sentence.set_whole(COUNTED if run.step is Step.EXERCISE else PROVISIONAL)
        elif run is not None and self._provisional is not None:
            self._show_newest(run)
        self._provisional = told.provisional
        set_tone(self._reading, "quiet" if told.provisional is not None else "")
        self._size_reading()  # another tone gives a widget its first size again
        for widget, words in ((self.notice, told.notice), (self.hand, told.hand)):
            widget.setText(words)
            widget.setVisible(bool(words))
        self._fit()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._fit()

    def _fit(self) -> None:
        """The reading is as large as there is room for it, beside what is told of the pull."""
        told = sum(not widget.isHidden() for widget in (self.notice, self.hand))
        short = self.height() < SHORT
        self._remaining.setVisible(not short)
        beside = self.height() < TALL and not self.trace.isHidden()
        self._place_trace(beside=beside)
        rest = REST_OF_THE_HEAD + told * TOLD - (REMAINING if short else 0)
        wide = (self.width() - TRACE_BESIDE - 6 * GRID) / FIGURES_WIDE if beside else self.width() / 560
        high = (self.height() - rest) / FIGURES
        scale = min(1.0, max(0.5, wide), max(0.4, high if not beside else high + 1))
        if scale != self._scale:
            self._scale = scale
            self._size_reading()

    def _size_reading(self) -> None:
        font = self._theme.font(Type.READING, self._scale)
        self._reading.setFont(font)
        self._reading.setFixedHeight(round(QFontMetricsF(font).capHeight() * AROUND_FIGURES))

    def _show_figure(self, figure: str, unit: str) -> None:
        self._reading.setText(figure)
        self._unit.setText(unit)
        self._sentence.set_whole("")
        self._state.setText("")
        self._margin.setText("")
        self._mark.hide()

    def _show_beside(self, run: RunState, series: SeriesState, observation: ObservationState) -> None:
        """In a comparison: how far the reading lies from what the first side lets expect."""
        taken = [p.observation_id for p in series.pairs]
        beside = beside_first(run, series)
        words = ""
        if observation.id in taken and beside:
            words = reading_beside(run, series, beside[taken.index(observation.id)])
        self._sentence.set_whole(words)

    def _show_last(self, run: RunState) -> None:
        found = newest(run)
        if found is None:
            self._show_figure("—", run.tool.unit.symbol)
            return
        series, observation = found[0], found[0].pull_of(found[1])
        self._show_figure(reading_figure(run, observation), run.tool.unit.symbol)
        self._sentence.set_whole(observation_words(run, series, observation))
        if run.policy.beside_first:
            self._show_beside(run, series, observation)
            return
        if any(observation.id in one.ids for one in run.asked):
            self._sentence.set_whole(ASKED)
            return
        pair, state = series.pair_of(observation), judged(run).state_of(series, observation)
        if pair is None or state is None:
            return
        self._mark.show()
        self._mark.show_state(state, mirrored=pair.deviation < 0)
        self._state.setText(state.words)
        self._margin.setText(
            margin(abs(pair.deviation), run.limit(series.target)) + corrected_words(run, series, observation)
        )


def connect_trace(trace: LiveTrace, desk: BenchAccess) -> None:
    """Show in ``trace`` what the meter brings: samples, the signal while the hand pulls, and each pull once it is over."""
    meter = desk.meter
    meter.samples.connect(trace.take)
    meter.signalled.connect(lambda signal: trace.mark_signal(signal.torque, signal.ago))
    meter.pulled.connect(lambda pull: _over(trace, pull))


def _over(trace: LiveTrace, pull: Pull) -> None:
    event = pull.event
    if event is not None and len(pull.samples):
        signal = min(len(pull.samples) - 1, max(0, round(event.at * pull.rate)))
        trace.remember(EarlierPull(np.abs(pull.samples), pull.rate, signal), fault_words(pull.faults))


class ShownField(EntryField[float]):
    """Stands beside the field for readings, ``back``, where each pull is two numbers. ``awaited``: a pull waits for it."""

    def __init__(self, desk: BenchAccess, back: EntryField[float]) -> None:
        super().__init__(desk.around.theme, tr("The tool showed"), torque_reader(N_M))
        self._back = back
        self._run: RunState | None = None
        self.awaits_number = True
        self.given.connect(lambda value: desk.taker.typed_shown(value, self.clear, self.refuse))
        self.hide()

    @property
    def awaited(self) -> bool:
        return self._run is not None and self._run.awaiting is not None

    def show_run(self, run: RunState) -> None:
        """Take the focus where a pull has come that waits for it, and give it back."""
        waited, before = self.awaited, self._run
        if before is None or before.id != run.id:
            self.read_with(torque_reader(run.tool.unit))
            self.clear()
        self._run = run
        self.setVisible(run.paired and run.current is not None)
        if self.isVisible() and self.awaited is not waited:
            (self if self.awaited else self._back).setFocus()

    def action(self) -> Action:
        """What is offered while a pull waits."""
        return Action(tr("Take what it showed"), self._ask)

    def _ask(self) -> None:
        if self.text.strip():
            self.line.returnPressed.emit()
        else:
            self.setFocus()


def reading_reader(run: RunState) -> TextReader[float]:
    """Reads what the reference of a run shows: a torque, or a force that the lever makes one."""
    own = run.tool.own_units
    return torque_reader(own.torque) if run.reference is None else partial(run.reference.read, own=own)
