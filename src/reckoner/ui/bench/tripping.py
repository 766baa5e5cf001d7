"""As found with known weights: the next try in a sentence, one key for each answer, and the bracket that closes."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, Qt
from PyQt6.QtGui import QKeyEvent, QPaintEvent, QResizeEvent

from reckoner.core.printing import percent, quantity
from reckoner.core.units import N_M
from reckoner.meters.tries import SimulatedTries
from reckoner.shop.hanging import HungAt, LeverFacts, hung_words, torque_words
from reckoner.shop.procedures.base import Caution, Seen
from reckoner.shop.procedures.tries import Asked
from reckoner.shop.procedures.walking import at_hook, gap_torque, walks
from reckoner.shop.procedures.weights import hung_torque, next_asked, step_of_detail, tries_of
from reckoner.shop.runs import taking
from reckoner.shop.runs.records import NOTHING, SeriesState
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.steps import newest
from reckoner.shop.wording import phase_words, settable
from reckoner.store.terms import ObservationKind, Source
from reckoner.ui.bench.leversheet import MM
from reckoner.ui.bench.mind import Mind
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
        self.mind = Mind(theme, (Caution.HANGING_WEIGHTS, Caution.LOADED_LEVER))
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
        head = surface(column(self.which, self.now, self.how, self.contradiction, self.line, gap=1, margin=2))
        foot = row(self.found, self._strike, gap=2)
        foot.setStretch(0, 1)
        layout = column(
            head,
            self._answers,
            surface(column(self.drawing, foot, self.striking, gap=1, margin=2)),
            1,
            self.mind,
            gap=2,
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
        unit, setting_tool = run.tool.unit, run.tool.kind.is_setting
        asked = next_asked(run, series) if setting_tool else None
        there = at_hook(hung, asked.hook) if asked is not None and asked.hook is not None else hung
        tries = tries_of(run, series)
        self.which.setText(
            f"{settable(run.tool.kind, series.target, unit)}, {phase_words(series.phase)}, {_count(series)}"
        )
        now, how = _words(run, series, lever, there, asked)
        self.now.setText(now)
        self.how.setText(how)
        for one in (self.clicked, self.silent):
            one.setEnabled(asked is not None)
        for widget in (self.clicked, self.silent, self.touch, self.line):
            widget.setVisible(setting_tool)
        self.typed.setVisible(not setting_tool)
        self.contradiction.setVisible(tries.contradicted)
        self.contradiction.setText(
            "The last two answers contradict each other: both are left out, and it is tried anew."
        )
        self.line.show_state(_bracket(run, series, lever, there, asked))
        self._draw(lever, there)
        self._strike.setEnabled(newest(run) is not None)
        self.found.setText(_found(run))
        self.update()

    def _draw(self, lever: LeverFacts, hung: HungAt) -> None:
        self.drawing.show_state(
            LeverState(
                grip=lever.grip or hung.hook,
                pivot=lever.pivot,
                hook=hung.hook,
                balance=lever.own_centre,
                weights=tuple((w.number, w.mass) for w in hung.weights),
            )
        )

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._make_room()

    def event(self, event: QEvent | None) -> bool:
        """More or fewer lines are told: the drawing may have to go, or have room again."""
        known = super().event(event)
        if event is not None and event.type() == QEvent.Type.LayoutRequest:
            self._make_room()
        return known

    def _make_room(self) -> None:
        """On a small window the drawing gives way to what is asked, and to what could hurt."""
        layout = self.layout()
        if layout is not None:
            lacking = self.drawing.minimumHeight() + GRID if self.drawing.isHidden() else 0
            self.drawing.setVisible(layout.minimumHeightForWidth(self.width()) + lacking <= self.height())

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
        asked = next_asked(run, series)
        if asked is not None:
            self._observe(run, asked.answered(kind))

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
            return Action("Let the tool answer", self._let_answer)
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
        if not run.tool.kind.is_setting:
            torque = hung_torque(run, series.target)
            self._value(simulated.shows(run.tool.number, torque, run.tool.kind.resolution))
            return
        asked = next_asked(run, series)
        if asked is not None:
            clicks = simulated.clicks(run.tool.number, asked.setting, asked.torque)
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


def _words(
    run: RunState, series: SeriesState, lever: LeverFacts, there: HungAt, asked: Asked | None
) -> tuple[str, str]:
    """What to do now, and how."""
    kind, unit = run.tool.kind, run.tool.unit
    torque, silent = torque_words(lever, there, unit), tries_of(run, series).silent is not None
    if walks(run.tool):
        if asked is None:
            more = "more" if silent else "less"
            mend = f"Give the run up and begin anew with {more} hung, or strike what was answered wrongly."
            return "It trips beyond the lever.", mend
        how = f"{torque} hang there. Lower it slowly; lift it off before it is moved, never slide it."
        return f"Hang {there.words} at {quantity(there.hook, MM)}.", how
    hangs = f"{hung_words(lever, there)}: {torque} hang there"
    if not kind.is_setting:
        return "Read the tool while it hangs.", f"{hangs}. Let it come to rest, then type what the tool shows."
    if asked is None:
        beyond = _beyond(run, series.target, lever.torque(there), high=not silent)
        return "It trips beyond its scale.", f"{hangs}, and {beyond}"
    how = f"{hangs}. Lower it slowly; lift it off before the next try, never slide it."
    return f"Set it to {settable(kind, asked.setting, unit)}.", how


def _bracket(run: RunState, series: SeriesState, lever: LeverFacts, there: HungAt, asked: Asked | None) -> BracketState:
    """The answers since the last bracket closed, along what is varied."""
    walk = walks(run.tool)
    last = series.pairs[-1].observation_id if series.pairs else -1
    tried = [(o.kind, at) for o in series.counted if o.id > last and (at := o.torque if walk else o.tool_value)]
    step = gap_torque(lever, there) if walk else step_of_detail(run.set_up.detail if run.set_up else NOTHING) or 1.0
    return BracketState(
        torque=series.target if walk else lever.torque(there),
        step=step,
        unit=run.tool.unit,
        clicked=tuple(at for kind, at in tried if kind is ObservationKind.CLICKED),
        silent=tuple(at for kind, at in tried if kind is ObservationKind.SILENT),
        next=(asked.torque if walk else asked.setting) if asked is not None else None,
        closed=tuple(p.reference if walk else p.tool for p in series.pairs),
        what="is set to" if walk else BracketState.what,
    )


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
