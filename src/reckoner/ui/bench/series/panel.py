"""Exercise, as found, as left, measuring: the big reading, typed entry, the readings by point, and what closes a series.

A pull that never gave a signal: kept as what it is, how far it went.
"""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtWidgets import QWidget

from reckoner.core.quantities.ownunits import METRIC
from reckoner.core.quantities.printing import fixed, number
from reckoner.core.quantities.units import N_M
from reckoner.core.translation import tr, tr_count
from reckoner.meters.protocol import RoomReport
from reckoner.shop.procedure import NewObservation
from reckoner.shop.runs import setting_up, taking
from reckoner.shop.runs.asking import first_words
from reckoner.shop.runs.needs import Need
from reckoner.shop.runs.records import NOTHING, READING_STEPS, Step
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.steps import newest, wants, wants_now
from reckoner.store.terms import ObservationKind, Source, ZeroMoment
from reckoner.ui.bench.panel import HOLD_TO_PULL, Action, BenchAccess, Panel
from reckoner.ui.bench.series.exercising import RestOfExercise
from reckoner.ui.bench.series.reading import ReadingHead, ShownField, connect_trace, reading_reader
from reckoner.ui.bench.series.readings import ReadingsGrid
from reckoner.ui.bench.series.stored import Stored
from reckoner.ui.bench.series.striking import Striking
from reckoner.ui.layout import column, keep_room, row, surface
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import EntryField, numbers_of, temperature_reader, torque_reader
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call


class NoSignal(EntryField[float]):
    """Asks how far it was pulled; hidden until ``never``, which stands beside the field for readings, is pressed. ``back``
    takes the focus afterwards."""

    def __init__(self, desk: BenchAccess, back: EntryField[float]) -> None:
        super().__init__(desk.around.theme, tr("Pulled up to, without a signal"), torque_reader(N_M))
        self._desk, self._back = desk, back
        self._run: RunState | None = None
        self.never = button(desk.around.theme, tr("It never signals…"), self._ask_how_far, "link")
        self.given.connect(self._without_signal)
        self.hide()

    def show_run(self, run: RunState) -> None:
        """Ask of this run."""
        if self._run is None or self._run.id != run.id:
            self.hide()
            self.read_with(torque_reader(run.tool.unit))
        self._run = run
        self.never.setVisible(run.tool.kind.is_setting and run.current is not None and self.isHidden())

    def _ask_how_far(self) -> None:
        run, silent = self._run, self._desk.taker.feedback.silent_to
        self.show()
        self.never.hide()
        if run is not None and silent is not None:
            self.line.setText(f"{number(run.tool.unit.from_si(silent))} {run.tool.unit.symbol}")
            self.line.selectAll()
        self.setFocus()

    def _without_signal(self, torque: float) -> None:
        run = self._run
        if run is None:
            return
        seen = NewObservation(ObservationKind.NO_SIGNAL, torque, Source.TYPED, detail=NOTHING)

        def kept() -> None:
            self.clear()
            self.hide()
            self.never.show()
            self._back.setFocus()

        self._desk.do(call(taking.observe, run.id, seen, self._desk.around.act(), run), done=kept, refused=self.refuse)


SHORT = 160
"""Characters of a refusal that find room below a field."""


class PullsPanel(Panel):
    """Knows three steps: EXERCISE, where releases are counted, AS_FOUND and AS_LEFT, where readings are taken."""

    def __init__(self, desk: BenchAccess) -> None:
        super().__init__(desk)
        self._run: RunState | None = None
        self.head = ReadingHead(self.theme)
        self.trace = self.head.trace
        self.typed = EntryField(self.theme, tr("Type a reading, then Enter"), torque_reader(N_M))
        self.typed.given.connect(self._typed)
        self.typed.cap(28 * GRID)
        self.shown = ShownField(desk, self.typed)
        self.shown.cap(28 * GRID)
        for field in (self.typed, self.shown):
            field.offer_pad(self.theme)
        self.striking = Striking(self.theme, desk.taker, self.typed)
        self.no_signal = NoSignal(desk, self.typed)
        self.stored = Stored(desk)
        self._strike = button(self.theme, tr("Strike the last"), lambda: self.ask_strike())
        keep_room(self._strike)
        self.room = EntryField(
            self.theme, tr("The room now"), temperature_reader(METRIC), tr("such as 21 °C, or 70 °F")
        )
        self.room.given.connect(lambda _v: self._act())
        self.room.hide()
        self.trend = label(self.theme, "", Type.BODY, "quiet", wrap=True)
        self.strike_first = button(self.theme, tr("Strike them as exercise"), desk.taker.strike_first_releases)
        self.rest = RestOfExercise(desk)
        self.grid = ReadingsGrid(self.theme)
        self.grid.picked.connect(self.ask_strike)
        self.striking.marked.connect(self.grid.mark)
        self._closing: dict[Need, Callable[[RunState], Action]] = {
            Need.ZERO_AFTER: self._zero_after,
            Need.POINTER_AFTER: self._pointer_after,
            Need.ROOM_AGAIN: self._room_again,
        }
        self._else = QWidget()
        self._else.setLayout(column(self._strike, self.no_signal.never, self.stored.button, 1, gap=0))
        fields = row(self.typed, self.shown, self._else, gap=2)
        fields.setStretch(0, 1)
        entry = self._entry = QWidget()
        entry.setLayout(fields)
        self.stored.opened.connect(self._make_room)
        trend = row(self.trend, self.strike_first, gap=2)
        trend.setStretch(0, 1)
        self._bottom = surface(
            column(entry, self.room, self.striking, self.no_signal, self.stored, trend, self.grid, gap=1, margin=2)
        )
        layout = column(self.head, self.rest, self._bottom, gap=2)
        layout.setStretch(0, 1)
        self.setLayout(layout)
        connect_trace(self.trace, desk)
        desk.taker.told.connect(lambda: self.head.show_feedback(desk.taker.feedback))

    def show_run(self, run: RunState) -> None:
        if self._run is None or self._run.id != run.id:
            self.trace.clear()
        self.typed.read_with(reading_reader(run) if run.current is not None else torque_reader(run.tool.unit))
        self._run = run
        self.head.show_run(run)
        self.typed.awaits_number = not self.shown.awaited
        self.typed.relabel(tr("The meter reads") if run.paired else tr("Type a reading, then Enter"))
        self.shown.show_run(run)
        self._show_trend(run)
        self._ask_room(run)
        self._bottom.setVisible(run.step is not Step.EXERCISE)
        self.rest.show_run(run)
        self._strike.setVisible(newest(run) is not None)
        self._else.setVisible(not run.asked)  # the question above has the room, and an answer for each
        self.no_signal.show_run(run)
        self.stored.show_run(run)
        self.grid.show_run(run)

    def _make_room(self, stored: bool) -> None:
        """What is looked at before it is taken has the room of the readings."""
        for widget in (self._entry, self.grid):
            widget.setVisible(not stored)

    def _show_trend(self, run: RunState) -> None:
        """Say that the first releases stand apart, and offer to strike them."""
        found = next(
            (
                (s, f)
                for s in run.series
                if run.tool.kind.is_setting and not run.asks_about(s) and (f := s.first_releases())
            ),
            None,
        )
        for widget in (self.trend, self.strike_first):
            widget.setVisible(found is not None and run.step in READING_STEPS)
        if found is None:
            return
        series, first = found
        aim = fixed(run.tool.unit.from_si(series.target), 0)
        self.trend.setText(tr("At {aim}: {first_words} Exercise it more?", aim=aim, first_words=first_words(first)))
        self.strike_first.setText(tr_count("Strike it as exercise", "Strike them as exercise", first.count))

    # What can be done now

    def action(self) -> Action | None:
        run = self._run
        if run is None:
            return None
        wanted = wants(run, run.step)
        closing = self._closing.get(wanted[0].need) if wanted else None
        if closing is not None:
            return closing(run)
        return self._release(run) if run.step is Step.EXERCISE else self._reading(run)

    def _release(self, run: RunState) -> Action:
        """A release to exercise the tool: seen by the meter, or counted by hand."""
        meter = self.desk.meter
        by_hand = Action(
            tr("Count a release"),
            lambda: self.desk.do(call(taking.record_exercise, run.id, None, self.desk.around.act())),
        )
        if self.rest.leads:
            return Action(self.rest.words, self.rest.count)
        if run.exercise_apart:
            return by_hand
        if meter.simulated and meter.linked:
            return HOLD_TO_PULL
        return (
            Action(tr("Pull"), key="", allowed=False, why_not=tr("The meter counts it.")) if meter.streams else by_hand
        )

    def _reading(self, run: RunState) -> Action:
        meter, typed = self.desk.meter, bool(self.typed.text.strip())
        if self.shown.awaited:
            return self.shown.action()
        if meter.simulated and meter.linked:
            return HOLD_TO_PULL
        if self._between(run) and not typed:
            return Action(
                tr("The meter is back at zero"),
                lambda: self.desk.do(call(setting_up.note_rest, run.id, 0.0, self.desk.around.act(), over=True)),
            )
        if typed or not meter.linked:
            return Action(tr("Take the reading"), self._enter_typed)
        return Action(
            tr("Waiting for a pull"), self._enter_typed, "", False, tr("The meter brings it; or type a reading.")
        )

    def _zero_after(self, run: RunState) -> Action:
        meter = self.desk.meter
        ready = meter.zero() is not None or bool(self.typed.text.strip()) or not meter.streams
        return Action(
            tr("Take the zero after"),
            lambda: self._take_zero(run),
            allowed=ready,
            why_not="" if ready else tr("The meter does not rest yet."),
        )

    def _pointer_after(self, run: RunState) -> Action:
        words = tr("Record its zero") if self.typed.text.strip() else tr("The tool stands at zero")
        return Action(words, lambda: self._take_pointer(run))

    def _room_again(self, run: RunState) -> Action:
        return Action(tr("Record the room again"), lambda: self._take_room(run))

    def _act(self) -> None:
        """What the primary button does."""
        action = self.action()
        if action is not None and action.allowed and action.call is not None:
            action.call()

    # Doing it

    def _enter_typed(self) -> None:
        if self.typed.text.strip():
            self.typed.line.returnPressed.emit()
        else:
            self.typed.setFocus()

    def _typed(self, torque: float) -> None:
        run = self._run
        if run is None:
            return
        if run.current is None:
            self._act()
            return
        self.desk.taker.typed(torque, self.typed.clear, self._not_taken)

    def _not_taken(self, sentence: str) -> None:
        """Short refusals stand below the field; a long one at the foot of the window."""
        if len(sentence) <= SHORT:
            self.typed.refuse(sentence)
        else:
            self.typed.refuse(tr("Not taken: see the foot of the window."))
            self.desk.around.say(sentence)

    def _number(self, field: EntryField[float]) -> float | None:
        """What a field says; None when it cannot be understood, which the field then says."""
        given = numbers_of(field)
        return given[0] if given is not None else None

    def _take_zero(self, run: RunState) -> None:
        typed = bool(self.typed.text.strip())
        shown = self._number(self.typed) if typed else self.desk.meter.zero()
        if shown is None:
            if not typed:
                self.typed.refuse(tr("Type what the meter shows with nothing on it."))
                self.typed.setFocus()
            return
        self.desk.do(
            call(setting_up.record_zero_after, run.id, shown, self.desk.around.act()),
            done=self.typed.clear,
            refused=self.typed.refuse,
        )

    def _take_pointer(self, run: RunState) -> None:
        value = self._number(self.typed) if self.typed.text.strip() else 0.0
        if value is not None:
            self.desk.do(
                call(setting_up.record_pointer, run.id, ZeroMoment.AFTER, value, self.desk.around.act()),
                done=self.typed.clear,
                refused=self.typed.refuse,
            )

    def _take_room(self, run: RunState) -> None:
        temperature = self._number(self.room)
        humidity = run.room.humidity if run.room else 0.5
        if temperature is not None:
            self.desk.do(
                call(setting_up.record_room, run.id, temperature, humidity, "", self.desk.around.act()),
                refused=self.room.refuse,
            )

    def _ask_room(self, run: RunState) -> None:
        """Once the readings took long, the room is looked at again; the meter's own sensors answer where it has some."""
        asked = wants_now(run, Need.ROOM_AGAIN)
        if asked and not self.room.isVisible():
            self.room.clear()
            self.room.read_with(temperature_reader(run.tool.own_units))
            self.room.show()
            self.room.setFocus()
            self.desk.meter.ask_room()
        self.room.setVisible(asked)

    def roomed(self, report: RoomReport) -> None:
        """What the meter's own sensors say of the room."""
        if self.room.isVisible() and not self.room.text:
            self.room.line.setText(f"{fixed(report.temperature, 1)} °C")

    def beat(self) -> None:
        """Look at the meter's zero after each series, by itself, while it rests; and after a short run as a whole."""
        run, shown = self._run, self.desk.meter.zero()
        if run is not None and shown is not None and run.policy.glance and wants_now(run, Need.ZERO_AFTER):
            self.desk.do(call(setting_up.record_zero_after, run.id, shown, self.desk.around.act()), by_hand=False)
            return
        if run is None or shown is None or run.step not in READING_STEPS or run.reference is None:
            return
        done = next((s for s in run.series if s.observations and not s.missing and s.zero_after is None), None)
        if done is None or done.zero_before is None:
            return
        taker = self.desk.taker
        self.desk.do(
            call(setting_up.note_rest, run.id, shown, self.desk.around.act(), over=True),
            refused=taker.notice,
            by_hand=False,
        )
        if abs(shown - done.zero_before) > run.reference.zero_tolerance:
            taker.notice(
                tr("The meter did not come back to its zero: this series is suspect. Strike it and take it anew.")
            )

    def _between(self, run: RunState) -> bool:
        """A typed series has just been completed and the meter's zero was not looked at since."""
        if self.desk.meter.streams or run.current is None or run.current.observations:
            return False
        return any(s.observations and not s.missing and s.zero_after is None for s in run.series)

    def ask_strike(self, observation_id: int | None = None) -> None:
        """Ask inline why the last reading, or this one, is struck."""
        if self._run is not None:
            self.striking.ask(self._run, observation_id)

    def meter_changed(self) -> None:
        self.trace.setVisible(self.desk.meter.streams)
        if self._run is not None:
            self.rest.show_run(self._run)

    def arrive(self) -> None:
        if self._run is not None and self._run.step is not Step.EXERCISE:
            (self.shown if self.shown.awaited else self.typed).setFocus()
        else:
            self.setFocus()
