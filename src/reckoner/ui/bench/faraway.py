"""The reading over the whole screen, to be read from three metres."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QKeyEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from reckoner.core.translation import tr
from reckoner.shop.runs.asking import asked_words
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.records import Step
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.steps import newest
from reckoner.shop.words.results import observation_words, reading_figure, torque_figure
from reckoner.ui.bench.instructions import instruct, remaining
from reckoner.ui.bench.meter.intake import Feedback
from reckoner.ui.bench.series.reading import COUNTED, PROVISIONAL
from reckoner.ui.place import Surroundings
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.mark import paint_mark


class FarAway(QWidget):
    """A window of its own: instruction, reading, sentence, what is left. F11 or Escape closes it; Space pulls as ever."""

    def __init__(self, theme: Theme, around: Surroundings, painted: Callable[[], None]) -> None:
        """``painted`` is called when what stands here was painted."""
        super().__init__(None)
        self._painted = painted
        self._theme = theme
        self._around = around
        self._run: RunState | None = None
        self._provisional: float | None = None
        self.setWindowTitle(tr("Reckoner: the reading"))
        self.setAccessibleName(tr("The reading over the whole screen"))
        self.setAttribute(Qt.WidgetAttribute.WA_QuitOnClose, False)
        theme.changed.connect(self.update)

    def toggle(self) -> None:
        if self.isVisible():
            self.hide()
        else:
            self.showFullScreen()
            self.setFocus()

    def show_run(self, run: RunState) -> None:
        self._run = run
        self.update()

    def show_feedback(self, told: Feedback) -> None:
        """A signal whose pull is not over stands in the place of the reading."""
        self._provisional = told.provisional
        self.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() in (Qt.Key.Key_Escape, Qt.Key.Key_F11):
            self.hide()
            return
        super().keyPressEvent(event)

    def words(self) -> tuple[str, str, str, str]:
        """Instruction, figure, sentence and what is left, as painted."""
        run = self._run
        if run is None:
            return "", "—", "", ""
        found = newest(run)
        if self._provisional is not None:
            kept = COUNTED if run.step is Step.EXERCISE else PROVISIONAL
            return instruct(run), torque_figure(run, self._provisional), kept, remaining(run)
        if run.step is Step.EXERCISE or found is None:
            return instruct(run), "—", "", remaining(run)
        pulled = found[0].pull_of(found[1])
        said = asked_words(run, run.asked[0]) if run.asked else observation_words(run, found[0], pulled)
        return instruct(run), reading_figure(run, pulled), said, remaining(run)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        self._painted()
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme, wide, high = self._theme, self.width(), self.height()
        painter.fillRect(self.rect(), theme.color("surface"))
        run = self._run
        if run is None:
            return
        says, figure, sentence, left = self.words()
        margin = 4 * GRID
        scale = wide / 1280
        self._write(
            painter, QRectF(margin, high * 0.03, wide - 2 * margin, high * 0.18), says, Type.HEADLINE, 1.9 * scale
        )
        painter.setFont(theme.font(Type.READING, min(4.2 * scale, high * 0.42 / 96)))
        painter.setPen(theme.color("ink" if self._provisional is None else "quiet"))
        box = QRectF(margin, high * 0.2, wide - 2 * margin, high * 0.46)
        painter.drawText(box, int(Qt.AlignmentFlag.AlignCenter), figure)
        painter.setFont(theme.font(Type.UNIT, 1.6 * scale))
        painter.setPen(theme.color("quiet"))
        right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignBottom
        painter.drawText(box, right, run.tool.unit.symbol)
        found = newest(run)
        if self._provisional is not None:
            self._write(
                painter,
                QRectF(margin, high * 0.67, wide - 2 * margin, high * 0.17),
                sentence,
                Type.HEADLINE,
                1.5 * scale,
            )
        elif found is not None and run.step is not Step.EXERCISE:
            series, observation = found
            state = None if run.asked else judged(run).state_of(series, observation)
            pair = series.pair_of(observation)
            size = high * 0.12
            mark = QRectF(margin, high * 0.69, 1.75 * size, size)
            paint_mark(painter, theme, mark, state, mirrored=pair is not None and pair.deviation < 0)
            words = f"{sentence}\n{state.words}" if state is not None else sentence
            self._write(
                painter, QRectF(2 * margin + 1.75 * size, high * 0.67, wide - 3 * margin - 1.75 * size, high * 0.17), words,
                Type.HEADLINE, 1.5 * scale,
            )  # fmt: skip
        self._write(painter, QRectF(margin, high * 0.86, wide - 2 * margin, high * 0.1), left, Type.TITLE, 1.6 * scale)

    def _write(self, painter: QPainter, box: QRectF, words: str, role: Type, scale: float) -> None:
        painter.setFont(self._theme.font(role, scale))
        painter.setPen(self._theme.color("ink"))
        centre = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
        painter.drawText(box, int(centre), words)
