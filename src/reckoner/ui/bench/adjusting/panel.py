"""Adjust: the next turn as a picture, the line of readings, what is logged, and the lock at the end."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtGui import QKeyEvent, QResizeEvent
from PyQt6.QtWidgets import QCheckBox, QWidget

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.entry import read_turn
from reckoner.core.quantities.printing import THIN, fixed, number, quantity
from reckoner.core.quantities.units import N_M
from reckoner.core.translation import tr
from reckoner.shop.procedures.weights import hanging_cautions
from reckoner.shop.runs import adjusting
from reckoner.shop.runs.records import AdjustingState
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.wholescale import NextTurn, StopReason, next_turn
from reckoner.shop.setups.hanging import LeverFacts
from reckoner.shop.words.results import settable
from reckoner.ui.bench.adjusting.screw import ScrewHead, TurnsLine, TurnsPlot, foretold_words, turn_words
from reckoner.ui.bench.instructions import instruct, remaining
from reckoner.ui.bench.panel import HOLD_TO_PULL, Action, BenchAccess, Panel
from reckoner.ui.bench.series.answering import Answering
from reckoner.ui.bench.series.reading import ShownField, connect_trace, reading_reader
from reckoner.ui.bench.series.striking import Striking
from reckoner.ui.drawings.trace import LiveTrace
from reckoner.ui.layout import column, row, surface
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.cautions import Cautions
from reckoner.ui.widgets.entry import EntryField, torque_reader
from reckoner.ui.widgets.flow import flow
from reckoner.ui.widgets.text import label, tip
from reckoner.ui.work import call

STOPS = {
    StopReason.SETTLED: tr("Settled: what is left is less than the readings scatter. Lock it, and take as left."),
    StopReason.NEAR_ENOUGH: tr("Less than a sixteenth of a turn is left. Lock it, and take as left."),
    StopReason.NOT_CURABLE: tr("This screw cannot cure it. Lock it, take as left, hold it and send it away."),
    StopReason.USED_UP: tr("The maker's turns are used up. Lock it; it may have to be held and sent away."),
}


ROOMY = 80 * GRID
"""A panel as high as this has room for everything."""


class AdjustPanel(Panel):
    """Turn, read, turn again; ends with the lock and leads to a whole as-left series. Signal ``foretold(mapping)``: series id
    → the deviation that the turn would make of it."""

    foretold = pyqtSignal(object)

    def __init__(self, desk: BenchAccess) -> None:
        super().__init__(desk)
        self._run: RunState | None = None
        self._instruction = label(self.theme, "", Type.TITLE, wrap=True)
        self._advice = label(self.theme, "", Type.LEAD, wrap=True)
        self._choices = label(self.theme, "", Type.BODY, "quiet", wrap=True)
        self._whole = label(self.theme, "", Type.BODY, wrap=True)
        self._where = label(self.theme, "", Type.CAPTION, "quiet", wrap=True)
        self._remaining = label(self.theme, "", Type.BODY, "quiet", wrap=True)
        self.notice = label(self.theme, "", Type.STRONG, "fault", wrap=True)
        self.notice.hide()
        self.screw = ScrewHead(self.theme)
        self.plot = TurnsPlot(self.theme)
        self.trace = LiveTrace(self.theme)
        self.turned = EntryField(self.theme, tr("Turned, in turns, clockwise +"), _turn_reader, tr("such as ⅛, −1/4"))
        self.turned.given.connect(self._turn)
        self.turned.line.textChanged.connect(self._foretell)
        self.typed = EntryField(self.theme, tr("Type a reading, then Enter"), torque_reader(N_M))
        self.typed.given.connect(self._typed)
        self.typed.awaits_number = True
        self.shown = ShownField(desk, self.typed)
        for field in (self.turned, self.typed, self.shown):
            field.offer_pad(self.theme)
        self.asks = Answering(desk)
        self.cautions = Cautions(self.theme, hanging_cautions(None))
        self.striking = Striking(self.theme, desk.taker, self.typed)
        self.locked = QCheckBox(tr("Locked, and released once since"))
        self.locked.setFont(self.theme.font(Type.STRONG))
        self.locked.toggled.connect(lambda _on: self.desk.offer())
        self._stop = button(self.theme, tr("Adjust no further"), self._finish)
        self._advised: NextTurn | None = None
        self._build()
        desk.taker.told.connect(self._show_feedback)
        connect_trace(self.trace, desk)

    def _build(self) -> None:
        words = column(self._instruction, self._advice, self.notice, 1, gap=1)
        self._head, top = QWidget(), row(words, self.screw, gap=2)
        top.setStretch(0, 1)
        self._head.setLayout(top)
        entry = row(self.turned, self.typed, self.shown, gap=2)
        upper = self._upper = surface(
            column(
                self._head, self._whole, self._choices, self._where, self._remaining, entry, self.striking, gap=1, margin=3
            )
        )  # fmt: skip
        seen = row(self.plot, self.trace, gap=2)
        seen.setStretch(0, 1)
        seen.setStretch(1, 1)
        lower = self._progress = surface(column(seen, flow(self.locked, self._stop), gap=1, margin=2))
        self._rest = QWidget()
        layout = column(upper, self.asks, lower, self._rest, self.cautions, gap=2)
        layout.setStretch(2, 1)
        layout.setStretch(3, 1)
        self.setLayout(layout)

    def show_run(self, run: RunState) -> None:
        state = run.adjusting
        if state is None:
            return
        fresh = self._run is None or self._run.id != run.id or self._run.adjusting is None
        self._run = run
        self.trace.aim(state.target, run.tool.unit)
        self.shown.show_run(run)
        if fresh:
            self.trace.clear()
            self.typed.read_with(torque_reader(run.tool.unit))
            self.locked.setChecked(False)
        self._advised, no_advice = next_turn(run)
        self._instruction.setText(instruct(run))
        self._show_asked(run)
        self._remaining.setText(remaining(run))
        self._say_where(run)
        self._say_advice(run, state, no_advice)
        cumulative, points = 0.0, []
        for step in state.steps:
            cumulative += step.turn or 0.0
            points.append((cumulative, step.readings))
        advice = self._advised.advice if self._advised is not None else None
        self.plot.show_line(
            TurnsLine(
                tuple(points),
                state.target,
                run.tool.unit,
                advice.rate_per_turn if advice else None,
                self._advised.turn if self._advised else 0.0,
            )
        )
        self._suggest()
        self._foretell()
        self._show_asked(run)  # once it is known how much there is to say

    def _show_asked(self, run: RunState) -> None:
        """With weights it is answered after a turn, as far as nothing was found yet; otherwise readings come or are typed."""
        answered, state = not run.procedure.one_pull_tells, run.adjusting
        asked = answered and state is not None and len(state.steps) > 1 and not state.steps[-1].pairs
        self.typed.setVisible(not answered)
        for widget in (self.asks, self.cautions, self._rest):
            widget.setVisible(asked)
        turned, short = state is not None and len(state.steps) > 1, self.height() < ROOMY
        for widget in (self._head, self._choices, self._where):
            widget.setVisible(not asked)
        short = short or not self._has_room()
        self._progress.setVisible(not asked)
        self._head.setVisible(not asked)
        self._choices.setVisible(not asked and not short)
        self._where.setVisible(not asked and not (short and turned))
        self._remaining.setVisible(turned and not asked and not short)
        self._instruction.setVisible(not short or self.notice.isHidden())
        self._upper.setVisible(not asked or run.procedure.beyond(run))
        if asked:
            lever = run.reference.set_up if run.reference is not None else None
            self.cautions.show_cautions(hanging_cautions(lever if isinstance(lever, LeverFacts) else None))
            self.asks.show_run(run)
        else:
            self.typed.read_with(reading_reader(run))

    def _has_room(self) -> bool:
        """Whether all that is told stands above the pictures, however long its words are."""
        told, seen = self._upper.layout(), self._progress.layout()
        if told is None or seen is None:
            return True
        needed = told.totalHeightForWidth(self._upper.width()) + seen.minimumHeightForWidth(self._progress.width())
        return needed + 2 * GRID <= self.height()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """In a low window what was read before the first turn, and the other turns, make room for the next one."""
        super().resizeEvent(event)
        if self._run is not None and self._run.adjusting is not None:
            self._show_asked(self._run)

    @property
    def asking(self) -> bool:
        """Whether weights are answered for now."""
        return not self.asks.isHidden()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if not self.asking or not self.asks.take_key(event):
            super().keyPressEvent(event)

    def meter_changed(self) -> None:
        self.trace.setVisible(self.desk.meter.streams)

    def _say_where(self, run: RunState) -> None:
        facts = run.tool.adjustment
        if facts is None:
            return
        which = (
            tr("Turning it {words} raises the torque.", words=facts.raises.words)
            if facts.raises
            else tr("Which way raises is not said.")
        )
        said = [tr("The screw: {where}. {which}", where=facts.where, which=which)]
        if facts.relieve:
            said.append(tr("Wind the scale back to its lowest mark before each turn."))
        if facts.lock:
            said.append(tr("Lock: {lock}; lock it and re-check at the end.", lock=facts.lock))
        if facts.most_turns is not None:
            said.append(tr("The maker allows {most_turns} turns in all.", most_turns=number(facts.most_turns)))
        self._where.setText(" ".join(said))

    def _say_advice(self, run: RunState, state: AdjustingState, no_advice: str) -> None:
        advised, unit = self._advised, run.tool.unit
        if advised is None:
            self._advice.setText(no_advice)
            self._choices.setText("")
            self.screw.show_turn(state.turns, 0.0)
            return
        advice = advised.advice
        self.screw.show_turn(state.turns, 0.0 if advised.stop else advised.turn)
        if advised.stop is not None:
            self._advice.setText(STOPS[advised.stop])
        else:
            sense = tr("clockwise") if advised.turn > 0 else tr("counter-clockwise")
            self._advice.setText(
                tr("Turn {turn_words} {sense}, then read.", turn_words=turn_words(advised.turn), sense=sense)
            )
        below, above = (
            tr("{turn_words} would read {reading}", turn_words=turn_words(turn), reading=quantity(reading, unit, 2))
            for turn, reading in (
                (advice.eighth_below, advice.reading_at_eighth_below),
                (advice.eighth_above, advice.reading_at_eighth_above),
            )
        )
        exact = fixed(advice.next_turn, 3, sign=True)
        rate = fixed(unit.from_si(advice.rate_per_turn), 2, sign=True)
        here = settable(run.tool.kind, state.target, unit)
        words = tr("{rate}{thin}{symbol} a turn clockwise.", rate=rate, thin=THIN, symbol=unit.symbol)
        if advised.whole is None or advised.turn * advice.next_turn > 0:  # never two ways to turn at once
            words = tr(
                "For {here} alone: exact {exact}. {below}; {above}. {words}",
                here=here,
                exact=exact,
                below=below,
                above=above,
                words=words,
            )
        if advice.inconclusive:
            words += tr(
                " What was turned so far is lost in the scatter: a small turn, and several readings, tell more."
            )
        if advice.reversed:
            words += tr(" This screw turns the other way than the register says; the advice goes by what was read.")
        if run.reference is not None and not run.reference.proven:
            words += tr(
                " {number} decides nothing, so this is no better than it is: what is left is a shop check too.",
                number=run.reference.number,
            )
        self._choices.setText(words)
        self._advice.setToolTip(tip(words))

    def _foretell(self, _text: str = "") -> None:
        """What the turn that is typed, or else advised, makes of every point: in words here, and on the fences."""
        run, advised = self._run, self._advised
        whole = advised.whole if advised is not None else None
        self._whole.setVisible(whole is not None and not self.asking)
        if run is None or whole is None:
            self.foretold.emit({})
            return
        told = whole.next
        try:
            if self.turned.text.strip():
                told = whole.after(self.turned.value())
        except InputRefused:
            self.foretold.emit({})
            return
        self._whole.setText(foretold_words(run, whole, told))
        self.foretold.emit({series.id: point.then for series, point in told.points} if told.turn else {})

    def _suggest(self) -> None:
        state, advised = self._run.adjusting if self._run else None, self._advised
        beyond = self._run is not None and self._run.procedure.beyond(self._run)
        ready = state is not None and (bool(state.steps[-1].pairs) or beyond)
        self.turned.setEnabled(ready)
        turn = advised.turn if advised is not None and advised.stop is None and ready else None
        self.turned.line.setPlaceholderText("" if turn is None else turn_words(turn))

    # What is done

    def action(self) -> Action | None:
        run, meter = self._run, self.desk.meter
        if run is None or run.adjusting is None:
            return None
        state, advised = run.adjusting, self._advised
        turned = len(state.steps) > 1
        if self.locked.isChecked():
            why_not = "" if turned else tr("Nothing was turned yet.")
            return Action(tr("Take as left"), self._finish, allowed=turned, why_not=why_not)
        if self.turned.text.strip():
            return Action(tr("Log this turn"), self.turned.line.returnPressed.emit)
        if self.asking:
            return self.asks.action()
        if self.shown.awaited:
            return self.shown.action()
        if turned and not state.steps[-1].pairs:
            if meter.simulated and meter.linked:
                return HOLD_TO_PULL
            if meter.streams:
                return Action(tr("Waiting for a pull"), self._enter_typed, allowed=bool(self.typed.text.strip()))
            return Action(tr("Take the reading"), self._enter_typed)
        if self.typed.text.strip():
            return Action(tr("Take the reading"), self._enter_typed)
        pulls = meter.simulated and meter.linked and turned
        if advised is None:
            return Action(tr("Log a turn"), None, allowed=False, why_not=tr("Type how far it was turned."), pulls=pulls)
        if advised.stop is not None:
            return Action(
                tr("Tick that it is locked"),
                None,
                allowed=False,
                why_not=tr("Lock it, release once, and say so."),
                pulls=pulls,
            )
        turn = advised.turn
        return Action(
            tr("I turned it {turn_words}", turn_words=turn_words(turn)), lambda: self._turn(turn), pulls=pulls
        )

    def _enter_typed(self) -> None:
        if self.typed.text.strip():
            self.typed.line.returnPressed.emit()
        else:
            self.typed.setFocus()

    def _turn(self, turns: float) -> None:
        run, value = self._run, turns
        if run is None:
            return
        if self.desk.meter.simulated:
            self.desk.meter.send(f"turn {value:.6g}")

        def done() -> None:
            self.asks.turned(value)
            self.turned.clear()
            self.desk.offer()

        self.desk.do(
            call(adjusting.turn, run.id, value, self.desk.around.act()),
            done=done,
            refused=self.desk.taker.notice,
        )
        if self.typed.isVisible():
            self.typed.setFocus()

    def _typed(self, torque: float) -> None:
        self.desk.taker.typed(torque, self.typed.clear, self.typed.refuse)

    def _show_feedback(self) -> None:
        told = self.desk.taker.feedback
        words = " ".join(w for w in (told.notice, told.hand) if w)
        self.notice.setText(words)
        self.notice.setVisible(bool(words))
        if self._run is not None and self._run.adjusting is not None:
            self._show_asked(self._run)

    def ask_strike(self) -> bool:
        """Ask inline why the last reading after a turn, or an earlier one, is struck."""
        return self._run is not None and self._run.adjusting is not None and self.striking.ask(self._run)

    def _finish(self) -> None:
        run = self._run
        if run is None or run.adjusting is None:
            return
        if len(run.adjusting.steps) == 1:
            self.desk.do(call(adjusting.give_up, run.id, self.desk.around.act()))
            return
        locked = self.locked.isChecked()
        self.desk.do(call(adjusting.finish, run.id, locked, self.desk.around.act()), refused=self.desk.taker.notice)

    def arrive(self) -> None:
        state = self._run.adjusting if self._run else None
        if self.asking:
            (self.asks.to_focus or self).setFocus()
        elif state is not None and len(state.steps) > 1 and not state.steps[-1].pairs:
            self.typed.setFocus()
        else:
            self.setFocus()


def _turn_reader(text: str) -> tuple[float, str]:
    value = read_turn(text)
    return value, tr(
        "understood: {fixed} turns {which}",
        fixed=fixed(value, 3, sign=True),
        which=tr("clockwise") if value > 0 else tr("counter-clockwise"),
    )
