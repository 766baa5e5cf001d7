"""What is asked of known weights now: the try in a sentence, one key for each answer, and the bracket that closes."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent, QPaintEvent
from PyQt6.QtWidgets import QWidget

from reckoner.core.quantities.printing import percent, quantity
from reckoner.core.quantities.units import N_M
from reckoner.core.requirements.tooltypes import Mechanism
from reckoner.core.translation import tr
from reckoner.meters.wrench import SimulatedTries
from reckoner.shop.procedure import NewObservation
from reckoner.shop.procedures.tries import TripFinding, TripTry
from reckoner.shop.procedures.trips import step_of_detail
from reckoner.shop.procedures.weights import at_the_end, finder_of, finding_of, next_asked, tries_of, what_hangs
from reckoner.shop.runs import taking
from reckoner.shop.runs.records import NOTHING, SeriesState
from reckoner.shop.runs.state import RunState
from reckoner.shop.setups.hanging import HungAt, LeverFacts, hung_words, torque_words
from reckoner.shop.words.results import phase_words, settable
from reckoner.store.terms import ObservationKind, Source
from reckoner.ui.bench.panel import Action, BenchAccess
from reckoner.ui.drawings.bracket import BracketLine, BracketState
from reckoner.ui.layout import column, row, surface
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import EntryField, torque_reader
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call

CLICK_KEY, SILENT_KEY = "C", "S"

DID = dict.fromkeys(Mechanism, tr("It clicked")) | {
    Mechanism.BREAK_OVER: tr("It broke over"),
    Mechanism.SLIP: tr("It slipped"),
}
"""What a tool has done that did not stay silent."""


class Answering(QWidget):
    """A setting tool is answered for with two keys, which count only once the try was painted; an indicating tool's value is
    typed while the weight hangs."""

    def __init__(self, desk: BenchAccess) -> None:
        super().__init__()
        self.desk = desk
        self._run: RunState | None = None
        self.painted = False
        self._tries: SimulatedTries | None = None
        self._end: tuple[TripTry, ObservationKind] | None = None
        theme = desk.around.theme
        self.which = label(theme, "", Type.STRONG, "quiet")
        self.now = label(theme, "", Type.HEADLINE, wrap=True)
        self.how = label(theme, "", Type.BODY, wrap=True)
        self.contradiction = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.line = BracketLine(theme)
        self.clicked = button(
            theme, tr("It clicked   {click_key}", click_key=CLICK_KEY), lambda: self.answer(ObservationKind.CLICKED)
        )
        self.silent = button(
            theme, tr("Silent   {silent_key}", silent_key=SILENT_KEY), lambda: self.answer(ObservationKind.SILENT)
        )
        for one in (self.clicked, self.silent):
            one.setMinimumHeight(7 * GRID)
            one.setFont(theme.font(Type.LEAD))
            one.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.touch = label(theme, tr("“It nearly clicked, a touch did it” is silent."), Type.CAPTION, "quiet")
        self.typed = EntryField(theme, tr("The tool shows"), torque_reader(N_M))
        self.typed.given.connect(self._value)
        self.typed.cap(28 * GRID)
        self.typed.awaits_number = True
        self.typed.offer_pad(theme)
        answers = row(self.clicked, self.silent, gap=2)
        head = surface(column(self.which, self.now, self.how, self.contradiction, self.line, gap=1, margin=2))
        self.setLayout(column(head, surface(column(answers, self.touch, self.typed, gap=1, margin=2)), gap=2))

    def show_run(self, run: RunState) -> HungAt | None:
        """Ask for the next try of the run's series; what hangs at it, None where nothing is asked."""
        if self._run is None or self._run.id != run.id:
            self.typed.read_with(torque_reader(run.tool.unit))
        self._run = run
        self.painted = False
        series = run.current
        if series is None:
            return None
        lever, hung = what_hangs(run, series.target)
        unit, setting_tool = run.tool.unit, run.tool.kind.is_setting
        asked = next_asked(run, series) if setting_tool else None
        there = asked.there if asked is not None else hung
        tries = tries_of(run, series)
        self.which.setText(
            f"{settable(run.tool.kind, series.target, unit)}, {phase_words(series.phase)}, {_count(run, series)}"
        )
        self._end = at_the_end(run, series) if setting_tool and asked is None else None
        now, how = words_of_try(run, series, lever, there, asked)
        if self._end is not None:
            now, how = _once_more(run, *self._end)
        self.now.setText(now)
        self.how.setText(how)
        for one in (self.clicked, self.silent):
            one.setEnabled(asked is not None or self._end is not None)
        for widget in (self.clicked, self.silent, self.touch, self.line):
            widget.setVisible(setting_tool)
        self.clicked.setText(f"{DID[run.tool.mechanism]}   {CLICK_KEY}")
        self.typed.setVisible(not setting_tool)
        self.contradiction.setVisible(tries.contradicted)
        self.contradiction.setText(
            tr("The last two answers contradict each other: both are left out, and it is tried anew.")
        )
        self.line.show_state(_bracket(run, series, lever, there, asked))
        self.update()
        return there

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        self.painted = True

    def take_key(self, event: QKeyEvent | None) -> bool:
        """Answer with a key; whether it was one of the two."""
        keys = {Qt.Key.Key_C: ObservationKind.CLICKED, Qt.Key.Key_S: ObservationKind.SILENT}
        kind = keys.get(Qt.Key(event.key())) if event is not None and not event.modifiers() else None
        if kind is None or self._run is None or not self._run.tool.kind.is_setting:
            return False
        self.answer(kind)
        return True

    def answer(self, kind: ObservationKind) -> None:
        """What the tool did at the try that is asked for; only once that was seen."""
        run = self._run
        series = run.current if run is not None else None
        if run is None or series is None or not self.painted:
            return
        self.painted = False
        asked = next_asked(run, series)
        if asked is not None:
            self._observe(run, asked.answered(kind))
        elif self._end is not None:
            last, proves = self._end
            limit = run.limit(series.target)
            self._observe(run, last.alone(kind, limit) if kind is proves else last.answered(kind))

    def _value(self, shown: float) -> None:
        run = self._run
        if run is not None:
            self._observe(run, NewObservation(ObservationKind.VALUE, None, Source.TYPED, tool_value=shown))

    def _observe(self, run: RunState, seen: NewObservation) -> None:
        self.desk.do(
            call(taking.observe, run.id, seen, self.desk.around.act(), run),
            done=self.typed.clear,
            refused=self.typed.refuse if seen.kind is ObservationKind.VALUE else None,
        )

    def action(self) -> Action | None:
        """What the primary button does meanwhile; None where nothing is asked."""
        run = self._run
        if run is None or run.current is None:
            return None
        if run.procedure.beyond(run) and self._end is None:
            return Action(tr("Nothing more to try"), key="", allowed=False, why_not=self.how.text())
        if self._simulated(run) is not None:
            return Action(tr("Let the tool answer"), self._let_answer)
        if run.tool.kind.is_setting:
            return Action(
                tr("Answer with C or S"), key="", allowed=False, why_not=tr("C: it clicked. S: it was silent.")
            )
        return Action(tr("Take the value"), self._enter)

    def _simulated(self, run: RunState) -> SimulatedTries | None:
        """The invented tools, where this is one of them."""
        make = self.desk.around.tries
        if self._tries is None and make is not None:
            self._tries = make()
        return self._tries if self._tries is not None and self._tries.knows(run.tool.number) else None

    def turned(self, turns: float) -> None:
        """The screw of a simulated tool was turned too."""
        run = self._run
        simulated = self._simulated(run) if run is not None else None
        if run is not None and simulated is not None:
            simulated.turn(run.tool.number, turns)

    def _let_answer(self) -> None:
        """Ask the simulated tool instead of a hand."""
        run = self._run
        series, simulated = (run.current, self._simulated(run)) if run is not None else (None, None)
        if run is None or series is None or simulated is None:
            return
        if not run.tool.kind.is_setting:
            lever, hung = what_hangs(run, series.target)
            self._value(simulated.shows(run.tool.number, lever.torque(hung), run.tool.kind.resolution))
            return
        asked = next_asked(run, series) or (self._end[0] if self._end is not None else None)
        if asked is not None:
            clicks = simulated.clicks(run.tool.number, asked.setting, asked.torque)
            self.answer(ObservationKind.CLICKED if clicks else ObservationKind.SILENT)

    def _enter(self) -> None:
        if self.typed.text.strip():
            self.typed.line.returnPressed.emit()
        else:
            self.typed.setFocus()

    @property
    def to_focus(self) -> QWidget | None:
        """Where the hand goes first; None: to the two keys."""
        return None if self._run is None or self._run.tool.kind.is_setting else self.typed


BEYOND = {
    TripFinding.HOOK: tr("It trips beyond the lever."),
    TripFinding.WEIGHTS: tr("It trips beyond what is hung."),
}
BEFORE_THE_NEXT = {
    TripFinding.HOOK: tr("lift it off before it is moved, never slide it."),
    TripFinding.WEIGHTS: tr("lift all of it off before weights are added or taken away."),
}


def _once_more(run: RunState, asked: TripTry, kind: ObservationKind) -> tuple[str, str]:
    """The end of what can be tried: the same answer again proves it outside."""
    unit = run.tool.unit
    off = percent(abs(asked.setting / asked.torque - 1), 1)
    again = tr("silent") if kind is ObservationKind.SILENT else tr("not silent")
    setting = settable(run.tool.kind, asked.setting, unit)
    return tr("Once more, the same."), (
        tr(
            "{torque} hang there, with the tool at {setting}, and nothing further can be tried. If it is "
            "{again} again, it is off by {off} or more, outside its limit, and that is kept as what it "
            "is.",
            torque=quantity(asked.torque, unit),
            setting=setting,
            again=again,
            off=off,
        )
    )


def words_of_try(
    run: RunState, series: SeriesState, lever: LeverFacts, there: HungAt, asked: TripTry | None
) -> tuple[str, str]:
    """What to do now, and how."""
    kind, unit = run.tool.kind, run.tool.unit
    torque, silent = torque_words(lever, there, unit), tries_of(run, series).silent is not None
    if (finding := finding_of(run)) is not TripFinding.SETTING:
        if asked is None:
            return BEYOND[finding], _turn_on(run, tr("It"), silent) or _beyond_what_hangs(run, series, silent=silent)
        how = tr(
            "{torque} hang there. Lower it slowly; {before_the_next}",
            torque=torque,
            before_the_next=BEFORE_THE_NEXT[finding],
        )
        return tr("Hang {words} at {hook}.", words=there.words, hook=run.tool.own_units.length_words(there.hook)), how
    hangs = tr("{hung_words}: {torque} hang there", hung_words=hung_words(there, run.tool.own_units), torque=torque)
    if not kind.is_setting:
        return tr("Read the tool while it hangs."), tr(
            "{hangs}. Let it come to rest, then type what the tool shows.", hangs=hangs
        )
    if asked is None:
        beyond = _turn_on(run, "it", silent) or _beyond(run, series.target, lever.torque(there), high=not silent)
        return tr("It trips beyond its scale."), tr("{hangs}, and {beyond}", hangs=hangs, beyond=beyond)
    how = tr("{hangs}. Lower it slowly; lift it off before the next try, never slide it.", hangs=hangs)
    return tr("Set it to {kind}.", kind=settable(kind, asked.setting, unit)), how


def _bracket(
    run: RunState, series: SeriesState, lever: LeverFacts, there: HungAt, asked: TripTry | None
) -> BracketState:
    """The answers since the last bracket closed, along what is varied."""
    walk = finding_of(run) is not TripFinding.SETTING
    last = series.pairs[-1].observation_id if series.pairs else -1
    tried = [(o.kind, at) for o in series.counted if o.id > last and (at := o.torque if walk else o.tool_value)]
    step = (
        finder_of(run).resolution(lever, there) or step_of_detail(run.set_up.detail if run.set_up else NOTHING) or 1.0
    )
    return BracketState(
        torque=series.target if walk else lever.torque(there),
        step=step,
        unit=run.tool.unit,
        clicked=tuple(at for kind, at in tried if kind is ObservationKind.CLICKED),
        silent=tuple(at for kind, at in tried if kind is ObservationKind.SILENT),
        next=(asked.torque if walk else asked.setting) if asked is not None else None,
        closed=tuple(p.reference if walk else p.tool for p in series.pairs),
        what=tr("is set to") if walk else BracketState.what,
    )


def _turn_on(run: RunState, it: str, silent: bool) -> str:
    """What to do while adjusting, where it needs no reading to go on; empty otherwise."""
    if run.adjusting is None:
        return ""
    return tr(
        "{it} trips {which}: turn on, and try again.", it=it, which=tr("far too high") if silent else tr("far too low")
    )


def _beyond(run: RunState, target: float, torque: float, *, high: bool) -> str:
    """What is known of a tool that clicks even at its highest setting, or is silent even at its lowest."""
    kind = run.tool.kind
    edge = kind.maximum if high else kind.minimum or kind.resolution
    bound = abs(edge / torque - 1)
    words = tr("it clicks even at its highest setting") if high else tr("it is silent even at its lowest")
    if bound > run.limit(target):
        return tr(
            "{words}: it is off by {bound} or more, outside its limit. Give the run up and hold it, or "
            "strike what was answered wrongly.",
            words=words,
            bound=percent(bound, 1),
        )
    return tr(
        "{words}: off by {bound} or more. Begin anew with {which} hung, to find where.",
        words=words,
        bound=percent(bound, 1),
        which=tr("less") if high else tr("more"),
    )


def _beyond_what_hangs(run: RunState, series: SeriesState, *, silent: bool) -> str:
    """What is known of a tool that is silent even with the most, or clicks even with the least, that can hang."""
    tried = [o.torque for o in series.counted if o.torque is not None]
    last = tried[-1] if tried else series.target
    bound = abs(series.target / last - 1)
    said = tr("silent even with the most that hangs") if silent else tr("clicked even with the least that hangs")
    if bound > run.limit(series.target):
        return tr(
            "It is {bound} or more off, outside its limit: {said}. Give the run up and hold it, or strike "
            "what was answered wrongly.",
            bound=percent(bound, 1),
            said=said,
        )
    more = tr("more") if silent else tr("less")
    return tr("Give the run up and begin anew with {more} hung, or strike what was answered wrongly.", more=more)


def _count(run: RunState, series: SeriesState) -> str:
    if run.adjusting is not None:
        return tr("{count} found after this turn", count=len(series.pairs))
    return tr("{count} of {wanted} found", count=len(series.pairs), wanted=series.wanted)
