"""As found with known weights: the next try in a sentence, one key for each answer, and the bracket that closes."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent, QPaintEvent, QResizeEvent

from reckoner.core.printing import percent, quantity
from reckoner.core.units import N_M
from reckoner.meters.tries import SimulatedTries
from reckoner.shop.hanging import HungAt, LeverFacts, hung_words, torque_words
from reckoner.shop.procedures.base import Seen
from reckoner.shop.procedures.walking import at_hook, gap_torque, hook_detail, next_hook, walked, walks
from reckoner.shop.procedures.weights import bracketed, hung_torque, next_try, step_of_detail
from reckoner.shop.runs import taking
from reckoner.shop.runs.records import NOTHING, SeriesState
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.steps import newest
from reckoner.shop.wording import phase_words, settable
from reckoner.store.terms import ObservationKind, Source
from reckoner.ui.bench.hanging import MM
from reckoner.ui.bench.panel import Action, Desk, Panel
from reckoner.ui.bench.striking import Striking
from reckoner.ui.layout import column, row, surface
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.bracket import BracketLine, BracketState
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import EntryField, torque_reader
from reckoner.ui.widgets.lever import LeverDrawing, LeverState
from reckoner.ui.widgets.text import label

CLICK_KEY, SILENT_KEY = "C", "S"
ROOM_FOR_DRAWING = 84 * GRID


class TrippingPanel(Panel):
    """A setting tool is answered for with two keys, which count only once the try was painted; an indicating tool's value is
    typed while the weight hangs."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self._run: RunState | None = None
        self.painted = False
        self._tries: SimulatedTries | None = None
        theme = self.theme
        self.which = label(theme, "", Type.STRONG, "quiet")
        self.now = label(theme, "", Type.HEADLINE, wrap=True)
        self.how = label(theme, "", Type.BODY, wrap=True)
        self.contradiction = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.line = BracketLine(theme)
        self.drawing = LeverDrawing(theme, still=True)
        self.clicked = button(theme, f"It clicked   {CLICK_KEY}", lambda: self.answer(ObservationKind.CLICKED))
        self.silent = button(theme, f"Silent   {SILENT_KEY}", lambda: self.answer(ObservationKind.SILENT))
        for one in (self.clicked, self.silent):
            one.setMinimumHeight(7 * GRID)
            one.setFont(theme.font(Type.LEAD))
            one.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.touch = label(theme, "“It nearly clicked, a touch did it” is silent.", Type.CAPTION, "quiet")
        self.typed = EntryField(theme, "The tool shows", torque_reader(N_M))
        self.typed.given.connect(lambda value: self._value(float(str(value))))
        self.typed.cap(28 * GRID)
        self.striking = Striking(theme, desk.taker, self)
        self._strike = button(theme, "Strike the last", self.ask_strike)
        self.found = label(theme, "", Type.BODY, wrap=True)
        answers = row(self.clicked, self.silent, gap=2)
        self._answers = surface(column(answers, self.touch, self.typed, gap=1, margin=2))
        head = surface(column(self.which, self.now, self.how, self.contradiction, self.line, gap=1, margin=3))
        foot = row(self.found, self._strike, gap=2)
        foot.setStretch(0, 1)
        layout = column(
            head, self._answers, surface(column(self.drawing, foot, self.striking, gap=1, margin=2)), 1, gap=2
        )
        self.setLayout(layout)

    def show_run(self, run: RunState) -> None:
        if self._run is None or self._run.id != run.id:
            self.typed.read_with(torque_reader(run.tool.unit))
        self._run = run
        self.painted = False
        series, lever = run.current, run.reference.hung if run.reference is not None else None
        hung = lever.at(series.target) if lever is not None and series is not None else None
        if series is None or lever is None or hung is None:
            return
        torque, unit, setting_tool = lever.torque(hung), run.tool.unit, run.tool.kind.is_setting
        detail = run.set_up.detail if run.set_up else NOTHING
        step = step_of_detail(detail)
        if walks(run.tool):
            self._show_walk(run, series, lever, hung)
            return
        tries = bracketed(series.counted, step)[1]
        aim = next_try(series, run.tool, torque, detail) if setting_tool else None
        self.which.setText(
            f"{settable(run.tool.kind, series.target, unit)}, {phase_words(series.phase)}, {_count(series)}"
        )
        hangs = f"{hung_words(lever, hung)}: {torque_words(lever, hung, unit)} hang there"
        beyond = setting_tool and aim is None
        for one in (self.clicked, self.silent):
            one.setEnabled(not beyond)
        if beyond:
            self.now.setText("It trips beyond its scale.")
            self.how.setText(f"{hangs}, and {_beyond(run, series.target, torque, high=tries.clicked is not None)}")
        elif aim is not None:
            self.now.setText(f"Set it to {settable(run.tool.kind, aim, unit)}.")
            self.how.setText(f"{hangs}. Lower it slowly; lift it off before the next try, never slide it.")
        else:
            self.now.setText("Read the tool while it hangs.")
            self.how.setText(f"{hangs}. Let it come to rest, then type what the tool shows.")
        self.contradiction.setVisible(tries.contradicted)
        self.contradiction.setText(
            "The last two answers contradict each other: both are left out, and it is tried anew."
        )
        open_since = self._since(series, step)
        self.line.setVisible(setting_tool)
        self.line.show_state(
            BracketState(
                torque=torque,
                step=step or 1.0,
                unit=unit,
                clicked=tuple(s for kind, s in open_since if kind is ObservationKind.CLICKED),
                silent=tuple(s for kind, s in open_since if kind is ObservationKind.SILENT),
                next=aim,
                closed=tuple(p.tool for p in series.pairs),
            )
        )
        for widget in (self.clicked, self.silent, self.touch):
            widget.setVisible(setting_tool)
        self.typed.setVisible(not setting_tool)
        self._draw(lever, hung, torque_words(lever, hung, unit))
        self._strike.setEnabled(newest(run) is not None)
        self.found.setText(_found(run))
        self.update()

    def _show_walk(self, run: RunState, series: SeriesState, lever: LeverFacts, hung: HungAt) -> None:
        """The setting stays; where to hang the weights next."""
        unit, now = run.tool.unit, walked(series.counted)[1]
        hook = next_hook(series, lever, hung)
        self.which.setText(
            f"{settable(run.tool.kind, series.target, unit)}, {phase_words(series.phase)}, {_count(series)}"
        )
        for one in (self.clicked, self.silent):
            one.setEnabled(hook is not None)
            one.setVisible(True)
        self.touch.setVisible(True)
        self.typed.setVisible(False)
        self.contradiction.setVisible(now.contradicted)
        self.contradiction.setText(
            "The last two answers contradict each other: both are left out, and it is tried anew."
        )
        there = at_hook(hung, hook if hook is not None else hung.hook)
        torque = torque_words(lever, there, unit)
        if hook is None:
            self.now.setText("It trips beyond the lever.")
            more = "more" if now.silent is not None else "less"
            self.how.setText(f"Give the run up and begin anew with {more} hung, or strike what was answered wrongly.")
        else:
            self.now.setText(f"Hang {hung.words} at {quantity(hook, MM)}.")
            self.how.setText(f"{torque} hang there. Lower it slowly; lift it off before it is moved, never slide it.")
        last = series.pairs[-1].observation_id if series.pairs else -1
        open_since = [o for o in series.counted if o.id > last and o.torque is not None]
        self.line.setVisible(True)
        self.line.show_state(
            BracketState(
                torque=series.target,
                step=gap_torque(lever, hung),
                unit=unit,
                clicked=tuple(o.torque for o in open_since if o.kind is ObservationKind.CLICKED and o.torque),
                silent=tuple(o.torque for o in open_since if o.kind is ObservationKind.SILENT and o.torque),
                next=lever.torque(there) if hook is not None else None,
                closed=tuple(p.reference for p in series.pairs),
                what="is set to",
            )
        )
        self._draw(lever, there, torque)
        self._strike.setEnabled(newest(run) is not None)
        self.found.setText(_found(run))
        self.update()

    def _draw(self, lever: LeverFacts, hung: HungAt, torque: str) -> None:
        self.drawing.show_state(
            LeverState(
                grip=lever.grip or hung.hook,
                pivot=lever.pivot,
                hook=hung.hook,
                balance=lever.own_centre,
                weights=tuple((w.number, w.mass) for w in hung.weights),
                torque=f"makes {torque}",
            )
        )

    def _since(self, series: SeriesState, step: float) -> list[tuple[ObservationKind, float]]:
        """The answers since the last bracket closed."""
        last = series.pairs[-1].observation_id if series.pairs else -1
        return [(o.kind, o.tool_value) for o in series.counted if o.id > last and o.tool_value is not None]

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """On a small window the drawing gives way to what is asked."""
        super().resizeEvent(event)
        self.drawing.setVisible(self.height() >= ROOM_FOR_DRAWING)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        self.painted = True

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        keys = {Qt.Key.Key_C: ObservationKind.CLICKED, Qt.Key.Key_S: ObservationKind.SILENT}
        kind = keys.get(Qt.Key(event.key())) if event is not None and not event.modifiers() else None
        if kind is not None and self._run is not None and self._run.tool.kind.is_setting:
            self.answer(kind)
        else:
            super().keyPressEvent(event)

    def answer(self, kind: ObservationKind) -> None:
        """What the tool did at the setting that is asked for; only once that was seen."""
        run = self._run
        series = run.current if run is not None else None
        if run is None or series is None or not self.painted:
            return
        self.painted = False
        seen = self._asked(run, series, kind)
        if seen is not None:
            self._observe(run, seen)

    def _asked(self, run: RunState, series: SeriesState, kind: ObservationKind) -> Seen | None:
        """An answer to the try that is asked for; None where there is none to ask for."""
        if walks(run.tool):
            lever = run.reference.hung if run.reference is not None else None
            hung = lever.at(series.target) if lever is not None else None
            hook = next_hook(series, lever, hung) if lever is not None and hung is not None else None
            return None if hook is None else Seen(kind, None, Source.TYPED, detail=hook_detail(hook))
        detail = run.set_up.detail if run.set_up else NOTHING
        setting = next_try(series, run.tool, hung_torque(run, series.target), detail)
        return None if setting is None else Seen(kind, None, Source.TYPED, tool_value=setting)

    def _value(self, shown: float) -> None:
        run = self._run
        if run is not None:
            self._observe(run, Seen(ObservationKind.VALUE, None, Source.TYPED, tool_value=shown))

    def _observe(self, run: RunState, seen: Seen) -> None:
        self.desk.do(
            lambda session, act: taking.observe(session, run.id, seen, act, run),
            done=self.typed.clear,
            refused=self.typed.refuse if seen.kind is ObservationKind.VALUE else None,
        )

    def ask_strike(self) -> None:
        """Ask inline why the last answer is struck."""
        if self._run is not None and newest(self._run) is not None:
            self.striking.ask()

    def action(self) -> Action | None:
        run = self._run
        if run is None or run.current is None:
            return None
        if self._simulated(run) is not None:
            return Action("Let the invented tool answer", self._let_answer)
        if run.tool.kind.is_setting:
            return Action("Answer with C or S", key="", allowed=False, why_not="C: it clicked. S: it was silent.")
        return Action("Take the value", self._enter)

    def _simulated(self, run: RunState) -> SimulatedTries | None:
        """The invented tools, where this is one of them."""
        make = self.desk.around.tries
        if self._tries is None and make is not None:
            self._tries = make()
        return self._tries if self._tries is not None and self._tries.knows(run.tool.number) else None

    def _let_answer(self) -> None:
        """Ask the simulated tool instead of a hand."""
        run = self._run
        series, simulated = (run.current, self._simulated(run)) if run is not None else (None, None)
        if run is None or series is None or simulated is None:
            return
        torque = hung_torque(run, series.target)
        if not run.tool.kind.is_setting:
            self._value(simulated.shows(run.tool.number, torque, run.tool.kind.resolution))
            return
        setting = next_try(series, run.tool, torque, run.set_up.detail if run.set_up else NOTHING)
        lever = run.reference.hung if run.reference is not None else None
        hung = lever.at(series.target) if lever is not None else None
        if walks(run.tool) and lever is not None and hung is not None:
            hook = next_hook(series, lever, hung)
            setting, torque = series.target, lever.torque(at_hook(hung, hook if hook is not None else hung.hook))
        if setting is not None:
            clicks = simulated.clicks(run.tool.number, setting, torque)
            self.answer(ObservationKind.CLICKED if clicks else ObservationKind.SILENT)

    def _enter(self) -> None:
        if self.typed.text.strip():
            self.typed.line.returnPressed.emit()
        else:
            self.typed.setFocus()

    def arrive(self) -> None:
        if self._run is not None and not self._run.tool.kind.is_setting:
            self.typed.setFocus()
        else:
            self.setFocus()


def _beyond(run: RunState, target: float, torque: float, *, high: bool) -> str:
    """What is known of a tool that clicks even at its highest setting, or is silent even at its lowest."""
    kind = run.tool.kind
    edge = kind.maximum if high else kind.minimum or kind.resolution
    bound = abs(edge / torque - 1)
    words = "it clicks even at its highest setting" if high else "it is silent even at its lowest"
    if bound > run.limit(target):
        return (
            f"{words}: it is off by {percent(bound, 1)} or more, outside its limit. Give the run up and hold it, or strike "
            "what was answered wrongly."
        )
    return f"{words}: off by {percent(bound, 1)} or more. Begin anew with {'less' if high else 'more'} hung, to find where."


def _count(series: SeriesState) -> str:
    return f"{len(series.pairs)} of {series.wanted} found"


def _found(run: RunState) -> str:
    """What was found so far, a line for each point."""
    unit, lines = run.tool.unit, []
    for series in run.series:
        if series.pairs:
            values = ", ".join(
                quantity(p.reference if walks(run.tool) else p.tool, unit).split("\u202f")[0] for p in series.pairs
            )
            mean = sum(p.deviation for p in series.pairs) / len(series.pairs)
            aim = settable(run.tool.kind, series.target, unit)
            lines.append(f"{aim}: trips at {values} {unit.symbol}; deviation {percent(mean, 2, sign=True)}")
    return "\n".join(lines)
