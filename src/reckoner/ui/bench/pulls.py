"""Exercise and as found: the instruction, the big reading, the live trace, typed entry, the readings by point."""

from __future__ import annotations

from typing import Any

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from reckoner.core.deviation import deviation
from reckoner.core.errors import InputRefused
from reckoner.core.printing import decimals_for, fixed
from reckoner.core.stream import PullEnded, Signal
from reckoner.core.units import N_M
from reckoner.shop import bench
from reckoner.shop.run import ReadingState, RunState, SeriesState, Step
from reckoner.shop.wording import DIRECTIONS, margin, plain_error, settable
from reckoner.ui.bench.panel import Desk, Panel, Primary
from reckoner.ui.bench.readings import ReadingsGrid
from reckoner.ui.layout import column, row, surface
from reckoner.ui.theme import GRID, Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import EntryField, torque_reader, words_reader
from reckoner.ui.widgets.mark import FenceMark
from reckoner.ui.widgets.text import ElidedLabel, label
from reckoner.ui.widgets.trace import LiveTrace

LET_GO = 0.7
"""A peak below this fraction of the target is a hand that let go, not a signal."""


class PullsPanel(Panel):
    """Knows two steps: EXERCISE, where releases are counted, and AS_FOUND, where readings are taken."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self._run: RunState | None = None
        self._linked = False
        self._simulated = False
        self._instruction = label(self.theme, "", Type.TITLE, wrap=True)
        self._remaining = label(self.theme, "", Type.BODY, "quiet", wrap=True)
        self._reading = label(self.theme, "", Type.READING)
        self._unit = label(self.theme, "", Type.UNIT, "quiet")
        self._sentence = ElidedLabel(self.theme, "", Type.LEAD)
        self._mark = FenceMark(self.theme, None, 40)
        self._state = label(self.theme, "", Type.STRONG)
        self._margin = label(self.theme, "", Type.BODY, "quiet")
        self.trace = LiveTrace(self.theme)
        self.typed = EntryField(self.theme, "Type a reading, then Enter", torque_reader(N_M))
        self.typed.given.connect(self._typed)
        self._notice = label(self.theme, "", Type.STRONG, "fault", wrap=True)
        self._notice.hide()
        self._strike = button(self.theme, "Strike the last", self.ask_strike)
        self._why = EntryField(self.theme, "Why is it struck?", words_reader, "such as: pulled too fast")
        self._why.given.connect(self._strike_now)
        self._cancel = button(self.theme, "Keep it", self._cancel_strike)
        self._striking = QWidget()
        self._striking.setLayout(row(self._why, self._cancel, gap=2))
        self._striking.hide()
        self.grid = ReadingsGrid(self.theme)
        self._build()

    def _build(self) -> None:
        baseline = Qt.AlignmentFlag.AlignBottom
        figures = row(gap=2)
        figures.addWidget(self._reading, 0, baseline)
        figures.addWidget(self._unit, 0, baseline)
        figures.addStretch(1)
        self._unit.setContentsMargins(0, 0, 0, 2 * GRID)
        said = row(self._mark, column(self._sentence, row(self._state, self._margin, 1, gap=2), gap=0), gap=2)
        said.setStretch(1, 1)
        self.typed.setMaximumWidth(28 * GRID)
        live = column(self._instruction, self._remaining, self._notice, figures, said, self.trace, gap=1, margin=3)
        live.setStretch(5, 1)
        top = surface(live)
        top.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        entry = row(self.typed, 1, self._strike, gap=2)
        self._bottom = surface(column(entry, self._striking, self.grid, gap=1, margin=2))
        layout = column(top, self._bottom, gap=2)
        layout.setStretch(0, 1)
        self.setLayout(layout)

    def show_run(self, run: RunState) -> None:
        fresh = self._run is None or self._run.id != run.id
        advanced = not fresh and self._run is not None and _taken(run) > _taken(self._run)
        self._run = run
        if fresh:
            self.typed.read_with(torque_reader(run.tool.unit))
            self.trace.clear()
        if fresh or advanced:
            self._notice.hide()
        self._unit.setText(run.tool.unit.symbol)
        self.trace.aim(self.target(), run.tool.unit)
        self._instruct(run)
        self._show_last(run)
        exercising = run.step is Step.EXERCISE
        self._bottom.setVisible(not exercising)
        self._strike.setEnabled(self._last() is not None)
        self.grid.show_run(run)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """The reading is as large as the panel lets it be."""
        super().resizeEvent(event)
        self._reading.setFont(self.theme.font(Type.READING, min(1.0, self.width() / 560)))

    def target(self) -> float:
        """The target of the next pull in N·m."""
        run = self._run
        if run is None:
            return 1.0
        if run.step is Step.EXERCISE or run.current is None:
            return run.exercise_target if run.step is Step.EXERCISE else run.series[-1].target
        return run.current.target

    def _instruct(self, run: RunState) -> None:
        tool = run.tool
        if run.step is Step.EXERCISE:
            now = run.exercising
            turn = f", {DIRECTIONS[now.direction]}" if now and len(tool.directions) > 1 else ""
            aim = settable(tool.kind, run.exercise_target, tool.unit)
            verb = "Set" if tool.kind.is_setting and not tool.kind.is_fixed else "Exercise at"
            self._instruction.setText(f"{verb} {aim}{turn} and pull until {tool.implies.until}.")
            left = now.wanted - now.done if now else 0
            self._remaining.setText(f"Exercise, {left} to go. These are not readings.")
            return
        series = run.current
        if series is None:
            self._instruction.setText("All readings are taken. Let the meter rest and look at its zero again.")
            self._remaining.setText("Take everything off the meter first.")
            return
        self._instruction.setText(_instruction(run, series))
        number = len(series.counted) + 1
        turn = f"{DIRECTIONS[series.direction]}, " if len(tool.directions) > 1 else ""
        self._remaining.setText(f"As found, {turn}reading {number} of {series.wanted}")

    def _show_last(self, run: RunState) -> None:
        found = self._last() if run.step is not Step.EXERCISE else None
        if found is None:
            if run.step is Step.EXERCISE:
                done = run.exercising.done if run.exercising else 0
                self._reading.setText(str(done))
                self._unit.setText("released")
            else:
                self._reading.setText("—")
            self._sentence.set_whole("")
            self._state.setText("")
            self._margin.setText("")
            self._mark.hide()
            return
        series, reading = found
        unit = run.tool.unit
        step = run.set_up.reference.resolution if run.set_up else 0.01
        self._reading.setText(fixed(unit.from_si(reading.torque), decimals_for(step) if unit.name == "N.m" else 2))
        error = deviation(series.target, reading.torque)
        state = run.reading_state(series, reading, self.desk.around.today)
        self._mark.show()
        self._mark.show_state(state, mirrored=error < 0)
        self._sentence.set_whole(plain_error(run.tool, series.target, reading.torque))
        self._state.setText(state.words)
        self._margin.setText(margin(abs(error), run.limit))

    def _last(self) -> tuple[SeriesState, ReadingState] | None:
        """The newest reading that counts, and its series."""
        if self._run is None:
            return None
        found = [(s, r) for s in self._run.series for r in s.counted]
        return max(found, key=lambda f: f[1].id) if found else None

    def primary_state(self) -> Primary | None:
        run = self._run
        if run is None:
            return None
        if run.step is Step.AS_FOUND and run.current is None:
            ready = self.desk.meter_zero() is not None or bool(self.typed.text.strip())
            return Primary("Take the zero after", enabled=ready or not self._linked)
        if self._simulated:
            return Primary("Hold to pull", key="Space", held=True)
        if run.step is Step.EXERCISE:
            return (
                Primary("Count a release", enabled=not self._linked) if not self._linked else Primary("Pull", "", False)
            )
        return Primary("Take the typed reading") if not self._linked else Primary("Waiting for a pull", "", False)

    def primary(self) -> None:
        run = self._run
        if run is None:
            return
        if run.step is Step.AS_FOUND and run.current is None:
            self._zero_after(run)
        elif run.step is Step.EXERCISE and not self._linked:
            self.desk.do(lambda session, act: bench.record_exercise(session, run.id, None, act))
        elif run.step is Step.AS_FOUND and not self._linked:
            self.typed.line.returnPressed.emit()

    def _zero_after(self, run: RunState) -> None:
        shown = self.desk.meter_zero()
        if self.typed.text.strip():
            try:
                shown = float(str(self.typed.value()))
            except InputRefused as refusal:
                self.typed.refuse(refusal.reason)
                return
        if shown is None:
            self.typed.refuse("Type what the meter shows with nothing on it.")
            self.typed.setFocus()
            return
        value = shown
        self.typed.clear()
        self.desk.do(lambda session, act: bench.record_zero(session, run.id, "after", value, act))

    def _typed(self, torque: object) -> None:
        run = self._run
        if run is None:
            return
        if run.current is None:
            self._zero_after(run)
            return
        value = float(str(torque))
        self.desk.do(
            lambda session, act: bench.record_reading(session, run.id, value, "typed", act), refused=self.typed.refuse
        )
        self.typed.clear()

    def signalled(self, signal: Signal, ago: float) -> None:
        """The meter found a signal: count a release, or take a reading."""
        run = self._run
        if run is None:
            return
        if signal.first_peak < LET_GO * self.target():
            return
        self.trace.mark_signal(signal.first_peak, ago)
        if run.step is Step.EXERCISE:
            self.desk.do(lambda session, act: bench.record_exercise(session, run.id, signal.first_peak, act))
        elif run.current is not None:
            self.desk.do(
                lambda session, act: bench.record_reading(session, run.id, signal.first_peak, "meter trace", act),
                refused=self.notice,
            )

    def pulled(self, ended: PullEnded) -> None:
        """The pull is over: say how it was."""
        if self._run is None:
            return
        if ended.signal is None or ended.signal.first_peak < LET_GO * self.target():
            self.notice("Let go before it signalled. Nothing was taken; pull again.")
            return
        pull = self._run.rules.pull
        took = ended.signal.time_80_to_100
        if self._run.step is not Step.AS_FOUND:
            return
        if took < pull.shortest:
            self.notice(f"Pulled too fast: {fixed(took, 1)} s from 80 %. Strike it and pull more slowly.")
        elif took > pull.longest:
            self.notice(f"Pulled too slowly: {fixed(took, 1)} s from 80 %. Strike it and pull more briskly.")

    def notice(self, words: str) -> None:
        self._notice.setText(words)
        self._notice.setVisible(bool(words))

    def ask_strike(self) -> None:
        """Ask inline why the last reading is struck."""
        if self._last() is None:
            return
        self._striking.show()
        self._why.clear()
        self._why.setFocus()

    def _cancel_strike(self) -> None:
        self._striking.hide()
        self.typed.setFocus()

    def _strike_now(self, reason: object) -> None:
        found, run = self._last(), self._run
        if found is None or run is None:
            return
        reading_id = found[1].id
        self._striking.hide()
        self.typed.setFocus()
        self.desk.do(lambda session, act: bench.strike_reading(session, run.id, reading_id, str(reason), act))

    def meter_changed(self, news: Any = None) -> None:
        self._linked, self._simulated = news if isinstance(news, tuple) else (self._linked, self._simulated)
        self.trace.setVisible(self._linked)

    def arrive(self) -> None:
        if self._run is not None and self._run.step is not Step.EXERCISE:
            self.typed.setFocus()
        else:
            self.setFocus()


def _taken(run: RunState) -> int:
    return sum(len(s.readings) for s in run.series) + sum(e.done for e in run.exercise)


def _instruction(run: RunState, series: SeriesState) -> str:
    tool = run.tool
    aim = settable(tool.kind, series.target, tool.unit)
    if tool.kind.is_fixed:
        return f"Pull at the mark until {tool.implies.until}; it should be {aim}."
    if tool.kind.is_setting:
        return f"Set {aim} {tool.approach}. Pull at the mark until {tool.implies.until}."
    return f"Bring it to {aim}: pull slowly until {tool.implies.until}, then ease off."
