"""Exercise, as found, as left, measuring: the instruction, the big reading, the live trace, typed entry, the readings."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from reckoner.core.deviation import deviation
from reckoner.core.errors import InputRefused
from reckoner.core.kinds import MeterMode
from reckoner.core.printing import decimals_for, fixed, percent
from reckoner.core.stream import Signal
from reckoner.core.trace import Fault
from reckoner.core.units import N_M
from reckoner.meters.protocol import RoomReport
from reckoner.shop import bench
from reckoner.shop.acts import Act
from reckoner.shop.run import RunState, Step
from reckoner.shop.wording import margin, plain_error
from reckoner.ui.bench.instructions import instruct, newest, remaining
from reckoner.ui.bench.panel import Desk, Panel, Primary
from reckoner.ui.bench.readings import ReadingsGrid
from reckoner.ui.layout import column, row, surface
from reckoner.ui.meterwatch import PullReport
from reckoner.ui.theme import GRID, Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import EntryField, plain_reader, torque_reader, words_reader
from reckoner.ui.widgets.mark import FenceMark
from reckoner.ui.widgets.text import ElidedLabel, label
from reckoner.ui.widgets.trace import LiveTrace

if TYPE_CHECKING:
    from sqlalchemy.orm import Session

LEAST_PULL = 0.3
"""A pull that stays below this fraction of the target is a touch, and nothing is said about it."""

WORTH_SAYING = 0.05
"""Over-travel above this fraction is said to the person who pulls."""

READINGS = (Step.AS_FOUND, Step.AS_LEFT)


class PullsPanel(Panel):
    """Knows three steps: EXERCISE, where releases are counted, AS_FOUND and AS_LEFT, where readings are taken."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self._run: RunState | None = None
        self._suggested = ""
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
        self._hand = label(self.theme, "", Type.BODY, "quiet", wrap=True)
        self._hand.hide()
        self._trend = label(self.theme, "", Type.BODY, "quiet", wrap=True)
        self._trend.hide()
        self._strike_first = button(self.theme, "Strike them as exercise", self._strike_first_releases)
        self._strike_first.hide()
        self._strike = button(self.theme, "Strike the last", self.ask_strike)
        self._why = EntryField(self.theme, "Why is it struck?", words_reader, "such as: pulled too fast")
        self._why.given.connect(self._strike_now)
        self._cancel = button(self.theme, "Keep it", self._cancel_strike)
        self._room = EntryField(self.theme, "The room now, in °C", plain_reader(-20, 60, "°C"))
        self._room.given.connect(lambda _v: self.primary())
        self._room.hide()
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
        live = column(
            self._instruction, self._remaining, self._notice, figures, said, self._hand, self.trace, gap=1, margin=3
        )
        live.setStretch(6, 1)
        top = surface(live)
        top.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        entry = row(self.typed, 1, self._strike, gap=2)
        trend = row(self._trend, self._strike_first, gap=2)
        trend.setStretch(0, 1)
        self._bottom = surface(column(entry, self._room, self._striking, trend, self.grid, gap=1, margin=2))
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
            self._suggested = ""
        if fresh or advanced:
            self._notice.hide()
            self._hand.hide()
        if advanced:
            self._sound(run)
        self._unit.setText(run.tool.unit.symbol)
        self.trace.aim(self.target(), run.tool.unit)
        self._instruction.setText(instruct(run))
        self._remaining.setText(remaining(run))
        self._show_trend(run)
        self._ask_room(run)
        self._show_last(run)
        exercising = run.step is Step.EXERCISE
        self._bottom.setVisible(not exercising)
        self._strike.setEnabled(newest(run) is not None)
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

    def _sound(self, run: RunState) -> None:
        """Say without looking that a reading was taken, or that a series is complete."""
        series = next((s for s in run.series if s.readings and not s.missing), None)
        last = newest(run)
        complete = series is not None and last is not None and last[0].missing == 0
        self.desk.sounds.play("series" if complete and run.step is not Step.EXERCISE else "taken")

    def _show_trend(self, run: RunState) -> None:
        """Say that the first releases stand apart, and offer to strike them."""
        found = next(((s, f) for s in run.series if run.tool.kind.is_setting and (f := s.first_releases())), None)
        for widget in (self._trend, self._strike_first):
            widget.setVisible(found is not None and run.step in READINGS)
        if found is None:
            return
        series, first = found
        which = "The first is" if first.count == 1 else "The first two are"
        way = "higher" if first.excess > 0 else "lower"
        aim = fixed(run.tool.unit.from_si(series.target), 0)
        self._trend.setText(
            f"At {aim}: {which.lower()} {percent(abs(first.excess), 1)} {way} than those that follow. Exercise it more?"
        )
        self._strike_first.setText("Strike it as exercise" if first.count == 1 else "Strike them as exercise")

    def _strike_first_releases(self) -> None:
        run = self._run
        found = next(((s, f) for s in run.series if (f := s.first_releases())), None) if run else None
        if run is None or found is None:
            return
        series, first = found
        ids = [r.id for r in series.counted[: first.count]]
        self.desk.do(lambda session, act: _strike_all(session, run.id, ids, act))

    def _show_last(self, run: RunState) -> None:
        found = newest(run) if run.step is not Step.EXERCISE else None
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

    def primary_state(self) -> Primary | None:
        run, meter = self._run, self.desk.meter
        if run is None:
            return None
        if run.step in READINGS and run.current is None:
            if run.zero_after is None:
                ready = meter.zero() is not None or bool(self.typed.text.strip())
                return Primary("Take the zero after", enabled=ready or not meter.streams)
            if run.wants(run.step) == "the room again":
                return Primary("Record the room again")
            return Primary("The tool stands at zero" if not self.typed.text.strip() else "Record its zero")
        if run.step is Step.EXERCISE and run.exercise_apart:
            return Primary("Count a release")
        if meter.simulated and meter.linked:
            return Primary("Hold to pull", key="Space", held=True)
        if run.step is Step.EXERCISE:
            return Primary("Count a release") if not meter.streams else Primary("Pull", "", False)
        if self._between(run) and not self.typed.text.strip():
            return Primary("The meter is back at zero")
        if self.typed.text.strip() or not meter.linked:
            return Primary("Take the typed reading")
        return Primary("Waiting for a pull", "", False)

    def primary(self) -> None:
        run, meter = self._run, self.desk.meter
        if run is None:
            return
        if run.step in READINGS and run.current is None:
            if run.zero_after is None:
                self._zero_after(run)
            elif run.wants(run.step) == "the room again":
                self._room_again(run)
            else:
                self._pointer_after(run)
        elif run.step is Step.EXERCISE and (run.exercise_apart or not meter.streams):
            self.desk.do(lambda session, act: bench.record_exercise(session, run.id, None, act))
        elif run.step in READINGS and self._between(run) and not self.typed.text.strip():
            self.desk.do(lambda session, act: bench.note_rest(session, run.id, 0.0, act, over=True))
        elif run.step in READINGS and self.typed.text.strip():
            self.typed.line.returnPressed.emit()

    def _ask_room(self, run: RunState) -> None:
        """Once the readings took long, the room is looked at again; the meter's own sensors answer where it has some."""
        asked = run.step in READINGS and run.wants(run.step) == "the room again"
        if asked and not self._room.isVisible():
            self._room.clear()
            self._room.show()
            self._room.setFocus()
            self.desk.meter.ask_room()
        self._room.setVisible(asked)

    def roomed(self, report: RoomReport) -> None:
        """What the meter's own sensors say of the room."""
        if self._room.isVisible() and not self._room.text:
            self._room.line.setText(fixed(report.temperature, 1))

    def _room_again(self, run: RunState) -> None:
        try:
            temperature = float(str(self._room.value()))
        except InputRefused as refusal:
            self._room.refuse(refusal.reason)
            self._room.setFocus()
            return
        humidity = run.room.humidity if run.room else 0.5
        self.desk.do(
            lambda session, act: bench.record_room(session, run.id, temperature, humidity, "", act, "again"),
            refused=self._room.refuse,
        )

    def beat(self) -> None:
        """Look at the meter's zero after each series, by itself, while it rests."""
        run = self._run
        shown = self.desk.meter_zero()
        if run is None or shown is None or run.step not in READINGS or run.set_up is None:
            return
        done = next((s for s in run.series if s.readings and not s.missing and s.zero_after is None), None)
        if done is None or done.zero_before is None:
            return
        self.desk.do(lambda session, act: bench.note_rest(session, run.id, shown, act, over=True), refused=self.notice)
        if abs(shown - done.zero_before) > run.set_up.reference.zero_tolerance:
            self.notice("The meter did not come back to its zero: this series is suspect. Strike it and take it anew.")

    def _between(self, run: RunState) -> bool:
        """A typed series has just been completed and the meter's zero was not looked at since."""
        if self.desk.meter.streams or run.current is None or run.current.readings:
            return False
        return any(s.readings and not s.missing and s.zero_after is None for s in run.series)

    def _pointer_after(self, run: RunState) -> None:
        value = 0.0
        if self.typed.text.strip():
            try:
                value = float(str(self.typed.value()))
            except InputRefused as refusal:
                self.typed.refuse(refusal.reason)
                return
        self.typed.clear()
        self.desk.do(lambda session, act: bench.record_zero(session, run.id, "pointer after", value, act))

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
        self.desk.do(lambda session, act: _take_zero_after(session, run.id, value, act))

    def _typed(self, torque: object) -> None:
        run = self._run
        if run is None:
            return
        if run.current is None:
            self.primary()
            return
        value = float(str(torque))
        self.desk.do(
            lambda session, act: bench.record_reading(session, run.id, value, "typed", act), refused=self.typed.refuse
        )
        self.typed.clear()

    def signalled(self, signal: Signal, ago: float, turned: str | None) -> None:
        """The meter found a signal: count a release, or take a reading."""
        self.trace.mark_signal(signal.first_peak, ago)
        self._take(signal.first_peak, turned)

    def pulled(self, report: PullReport) -> None:
        """The pull is over: take what was not announced, file its trace, and say how it was."""
        run = self._run
        if run is None:
            return
        if not report.announced and report.reading is not None:
            self._take(report.reading, report.turned)
        if report.reading is None:
            if report.highest > LEAST_PULL * self.target():
                self._say_nothing_taken(run)
            return
        self._say_hand(run, report)
        if run.step in READINGS:
            self.desk.do(lambda session, act: _file(session, run.id, report, act))

    def valued(self, torque: float) -> None:
        """The meter caught a value itself."""
        turned = None if torque >= 0 else "ccw"
        self._take(abs(torque), turned)

    def _take(self, torque: float, turned: str | None) -> None:
        run = self._run
        if run is None:
            return
        source = "meter trace" if self.desk.meter.streams else "meter value"
        if run.step is Step.EXERCISE and run.exercise_apart:
            self.notice(
                f"Nothing was counted: exercise goes past what {run.set_up.reference.number if run.set_up else 'it'} bears. "
                "Take the tool off it, and count each release with Enter."
            )
        elif run.step is Step.EXERCISE:
            self.desk.do(
                lambda session, act: bench.record_exercise(session, run.id, torque, act, turned), refused=self.notice
            )
        elif run.current is not None:
            self.desk.do(
                lambda session, act: bench.record_reading(session, run.id, torque, source, act, turned),
                refused=self.notice,
            )

    def _say_nothing_taken(self, run: RunState) -> None:
        if run.set_up is not None and run.set_up.mode is MeterMode.HOLD:
            self.notice("No plateau was found. Nothing was taken; bring it to the mark and hold it for a second.")
        else:
            self.notice("Let go before it signalled. Nothing was taken; pull again.")
        self.desk.sounds.play("refused")

    def _say_hand(self, run: RunState, report: PullReport) -> None:
        """Feedback on the pull, apart from the reading: over-travel, and faults with striking offered."""
        event = report.event
        if event is None:
            return
        over = event.over_travel
        if over is not None and over > WORTH_SAYING and run.tool.kind.is_setting:
            self._hand.setText(
                f"Your hand went {percent(over, 0)} past the signal; stop as soon as {run.tool.implies.until}."
            )
            self._hand.show()
        faults = [f for f in event.faults if f is not Fault.NO_SIGNAL]
        if faults and run.step in READINGS:
            self._suggested = ", ".join(f.value for f in faults)
            took = f" ({fixed(event.time_80_to_100, 1)} s from 80 %)" if event.time_80_to_100 is not None else ""
            self.notice(f"A bad pull: {self._suggested}{took}. Backspace and Enter strike it; it is yours to decide.")
            self.desk.sounds.play("refused")

    def notice(self, words: str) -> None:
        self._notice.setText(words)
        self._notice.setVisible(bool(words))

    def ask_strike(self) -> None:
        """Ask inline why the last reading is struck."""
        run = self._run
        if run is None or newest(run) is None:
            return
        self._striking.show()
        self._why.line.setText(self._suggested)
        self._why.line.selectAll()
        self._why.setFocus()

    def _cancel_strike(self) -> None:
        self._striking.hide()
        self.typed.setFocus()

    def _strike_now(self, reason: object) -> None:
        run = self._run
        found = newest(run) if run is not None else None
        if found is None or run is None:
            return
        reading_id = found[1].id
        self._suggested = ""
        self._striking.hide()
        self.typed.setFocus()
        self.desk.do(lambda session, act: bench.strike_reading(session, run.id, reading_id, str(reason), act))

    def meter_changed(self) -> None:
        self.trace.setVisible(self.desk.meter.streams)

    def arrive(self) -> None:
        if self._run is not None and self._run.step is not Step.EXERCISE:
            self.typed.setFocus()
        else:
            self.setFocus()


def _taken(run: RunState) -> int:
    return sum(len(s.readings) for s in run.series) + sum(e.done for e in run.exercise)


def _take_zero_after(session: Session, run_id: int, shown: float, act: Act) -> RunState:
    """The zero after all readings is that of the last series too."""
    bench.note_rest(session, run_id, shown, act, over=True)
    return bench.record_zero(session, run_id, "after", shown, act)


def _file(session: Session, run_id: int, report: PullReport, act: Act) -> RunState | None:
    """Keep the pull's trace, and what the meter showed at rest before it as the zeros of the series around it."""
    kept = bench.keep_trace(session, run_id, _pull_of(report))
    if report.rest_before is None:
        return kept
    return bench.note_rest(session, run_id, report.rest_before, act, over=False)


def _pull_of(report: PullReport) -> bench.Pull:
    event = report.event
    return bench.Pull(
        torque=report.reading or 0.0,
        samples=report.trace,
        rate=report.rate,
        faults=tuple(f.value for f in event.faults) if event else (),
        over_travel=event.over_travel if event else None,
        time_80_to_100=event.time_80_to_100 if event else None,
    )


def _strike_all(session: Session, run_id: int, ids: list[int], act: Act) -> RunState:
    """Strike first releases as what they were: exercise."""
    state = bench.opened(session, run_id)
    for reading_id in ids:
        state = bench.strike_reading(session, run_id, reading_id, "first release after rest, counts as exercise", act)
    return state
