"""A job being worked through: one thing to do at a time, large, one key a fastener; the pattern and the entries beside."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import InputRefused, Refused
from reckoner.core.jobs import VALUES, WANTED, Entered, Next, StepKind
from reckoner.core.printing import percent
from reckoner.core.units import N_M, Unit
from reckoner.shop.using.papers import dots
from reckoner.shop.using.storedmeasures import take
from reckoner.shop.using.working import enter, give_up, sign, strike_last
from reckoner.shop.using.works import WorkState, next_words, over_words, read_work, value_words
from reckoner.ui.layout import column, row, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.records.lines import LinesList
from reckoner.ui.records.paper import print_bytes
from reckoner.ui.setting.cards import paper_of
from reckoner.ui.setting.stored import StoredMeasures
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import PrimaryButton, button
from reckoner.ui.widgets.entry import EntryField, torque_reader, words_reader
from reckoner.ui.widgets.linedelegate import Line
from reckoner.ui.widgets.pattern import Pattern, PatternState
from reckoner.ui.widgets.text import label

STEP_WORDS = {
    StepKind.NEW_BOLT: "New bolts",
    StepKind.RUNNING: "Running torque",
    StepKind.TIGHTEN: "Tighten",
    StepKind.ANGLE: "Turn on",
    StepKind.LAST: "Last pass",
    StepKind.LOCK: "Locking",
    StepKind.MEASURE: "Measure",
}
ENTERED_WORDS = {
    Entered.DONE: "done",
    Entered.NEW_BOLT: "new bolt in",
    Entered.SLACKENED: "slackened, to be done again",
    Entered.REPLACED: "replaced, to be done again",
}


class WorkView(QWidget):
    """``primary()`` enters what is asked for, or signs. Signals ``left()``: back to the list;
    ``waits()`` while an entry is being kept, and ``stands()`` once the next thing to do stands there."""

    left = pyqtSignal()
    waits = pyqtSignal()
    stands = pyqtSignal()

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self.around = around
        self.state: WorkState | None = None
        self._busy = False
        self._chosen: int | None = None
        theme = around.theme
        self.title = label(theme, "", Type.LEAD, wrap=True)
        self.passes = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.now = label(theme, "", Type.HEADLINE, wrap=True)
        self.value = EntryField(theme, "What it shows", torque_reader(N_M))
        self.value.given.connect(lambda _value: self.primary())
        self.value.emptied.connect(self.primary)
        self.below = button(theme, "Below the first mark", self._below)
        self.over = label(theme, "", Type.TITLE, "fault", wrap=True)
        self.slacken_button = button(theme, "Slackened: do it again", lambda: self._seen_to(Entered.SLACKENED))
        self.replace_button = button(theme, "Replaced: do it again", lambda: self._seen_to(Entered.REPLACED))
        self.measure = EntryField(theme, "Or what was measured at this one", torque_reader(N_M), "then Enter")
        self.measure.given.connect(self._measured)
        self.value.awaits_number = self.measure.awaits_number = True
        self.fault = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.button = PrimaryButton(theme, "Done")
        self.button.setMinimumHeight(9 * GRID)
        self.button.clicked.connect(self.primary)
        self.strike_button = button(theme, "Strike the last one", self.strike, "link")
        self.strike_button.setToolTip("Backspace")
        self.stored = StoredMeasures(around)
        self.stored.taken.connect(self._take_stored)
        self.stored.refused.connect(self._fault)
        self.reason = EntryField(theme, "Why it ends here", words_reader)
        self.give_button = button(theme, "Give it up", self._give_up)
        self.print_button = button(theme, "Print…", self.print)
        self.back_button = button(theme, "Back to the cards", self.left.emit, "link")
        head = row(self.title, self.back_button, gap=2)
        head.setStretch(0, 1)
        right = column(
            head, self.passes, self.now, self.value, row(self.below, 1), self.over,
            row(self.slacken_button, self.replace_button, 1, gap=2), self.measure, self.stored, self.fault, 1, self.button,
            row(self.strike_button, self.stored.button, 1, self.print_button, gap=2),
            row(self.reason, self.give_button, gap=2), gap=2, margin=3,
        )  # fmt: skip
        self.pattern = Pattern(theme)
        self.pattern.pressed.connect(self._pressed)
        self.list = LinesList(theme, "What was entered", 1000)
        self.list.setMinimumHeight(14 * GRID)
        beside = column(self.pattern, self.list, gap=2, margin=2)
        beside.setStretch(0, 3)
        beside.setStretch(1, 2)
        layout = row(surface(right), surface(beside), gap=2)
        layout.setStretch(0, 5)
        layout.setStretch(1, 4)
        self.setLayout(layout)

    def open(self, work_id: int) -> None:
        """Go on with a job, or look at one that is over."""
        self._chosen = None
        self.around.work.look(lambda reader: read_work(reader, work_id), self._show, self._refused)

    def look_again(self) -> None:
        """Ask for it anew."""
        if self.state is not None and not self._busy:
            work_id = self.state.id
            self.around.work.look(lambda reader: read_work(reader, work_id), self._show, self._refused)

    @property
    def unit(self) -> Unit:
        return self.state.card.unit if self.state is not None else N_M

    @property
    def at(self) -> Next | None:
        """What is entered next: the fastener that was pressed in this pass, or the one whose turn it is."""
        state = self.state
        if state is None or state.stand.next is None:
            return None
        there, pressed = state.stand.next, self._chosen
        if pressed is None or pressed == there.fastener:
            return there
        kinds = {e.kind for e in state.stand.of_fastener(pressed) if e.step == there.step}
        open_ones = [k for k in WANTED[state.steps[there.step].kind] if k not in kinds]
        return Next(there.step, pressed, open_ones[0]) if open_ones else there

    def _pressed(self, number: int) -> None:
        self._chosen = number
        self._dress()

    def _show(self, state: WorkState) -> None:
        self.state = state
        self._chosen = None
        self.value.read_with(torque_reader(state.card.unit))
        self.measure.read_with(torque_reader(state.card.unit))
        for field in (self.value, self.measure):
            field.clear()
        self.fault.setText("")
        self.stored.show_state(state)
        lines = [_entry_line(state, i) for i in reversed(range(len(state.entries)))]
        self.list.lines.show(tuple(lines))
        self._dress()
        self.stands.emit()

    def _dress(self) -> None:
        state = self.state
        if state is None:
            return
        stand, there, over = state.stand, self.at, state.stand.over
        closed = bool(state.closed)
        self.title.setText(f"{state.number}  {state.title}")
        step = state.steps[there.step] if there is not None else None
        done = frozenset[int]()
        if there is not None and step is not None:
            kinds = WANTED[step.kind]
            done = frozenset(
                f for f in step.order
                if all(any(e.step == there.step and e.kind is k for e in stand.of_fastener(f)) for k in kinds)
            )  # fmt: skip
            share = f", {percent(step.share, 0)}" if step.kind is StepKind.TIGHTEN else ""
            self.passes.setText(
                f"Pass {there.step + 1} of {len(state.steps)}: {STEP_WORDS[step.kind].lower()}{share} · "
                f"{len(done)} of {len(step.order)} in this pass · {stand.done} of {stand.of} in all"
            )
        else:
            done = frozenset(range(1, state.card.plan.fasteners.count + 1))
            self.passes.setText(f"{stand.done} of {stand.of} in all")
        fasteners = state.card.plan.fasteners
        order = step.order if step is not None else state.card.plan.order
        turn = there.fastener if there is not None and not closed else None
        self.pattern.show_state(PatternState(dots(fasteners, order), done, frozenset(over), turn, named=True))
        self._ask(there, over, closed=closed)

    def _ask(self, there: Next | None, over: tuple[int, ...], *, closed: bool) -> None:
        state = self.state
        if state is None:
            return
        running = there is not None and state.steps[there.step].kind is StepKind.RUNNING
        valued = there is not None and (running or there.kind in VALUES) and not over and not closed
        self.value.setVisible(valued)
        self.below.setVisible(running and not over and not closed)
        self.measure.setVisible(there is not None and not valued and not over and not closed)
        names = ", ".join(state.name(f) for f in over)
        self.over.setText(f"{names} went past the band: {over_words(state)}." if over else "")
        for one in (self.over, self.slacken_button, self.replace_button):
            one.setVisible(bool(over) and not closed)
        for deed in (self.strike_button, self.reason, self.give_button):
            deed.setVisible(not closed)
        self.strike_button.setEnabled(bool(state.stand.counted))
        self.button.setVisible(not closed and not over)
        self.now.setVisible(closed or not over)
        if closed:
            self.now.setText(f"{state.closed[:1].upper()}{state.closed[1:]}.")
        elif there is not None:
            self.now.setText(next_words(state, there))
            name = state.name(there.fastener)
            self.button.say(f"{name}: keep the value" if valued else f"{name} is done")
            if valued:
                self.value.setFocus()
        else:
            self.now.setText("All of it is done. Sign it." if not over else "")
            self.button.say("Sign the job")

    def primary(self) -> None:
        """Enter what is asked for, or sign."""
        state, there = self.state, self.at
        if state is None or state.closed or state.stand.over or self._busy:
            return
        if self.around.person is None:
            self.fault.setText("Choose who is here first, at the top right.")
            return
        if there is None:
            act, work_id = self.around.act(), state.id
            self._do(lambda s: sign(s, work_id, act))
            return
        value = None
        if not self.value.isHidden():
            if not self.value.text.strip():
                self.value.refuse("Type what it shows.")
                return
            try:
                value = float(str(self.value.value()))
            except InputRefused as refusal:
                self.value.refuse(refusal.reason)
                return
        self._enter(there, there.kind, value)

    def _enter(self, there: Next, kind: Entered, value: float | None) -> None:
        if self.state is None:
            return
        act, work_id = self.around.act(), self.state.id
        self._do(lambda s: enter(s, work_id, kind, there.step, there.fastener, act, value))

    def _below(self) -> None:
        there = self.at
        if there is not None and self.around.person is not None and not self._busy:
            self._enter(there, there.kind, None)

    def _measured(self, value: object) -> None:
        """A measured torque of the fastener that was done last, or of the one in front where none was."""
        state, there = self.state, self.at
        if state is None or there is None or self.around.person is None or self._busy:
            return
        done = [e for e in state.stand.counted if e.kind is Entered.DONE and e.step == there.step]
        fastener = self._chosen or (done[-1].fastener if done else there.fastener)
        self._enter(Next(there.step, fastener, Entered.MEASURED), Entered.MEASURED, float(str(value)))

    def _seen_to(self, kind: Entered) -> None:
        state = self.state
        if state is None or not state.stand.over or self.around.person is None or self._busy:
            return
        self._enter(Next(0, state.stand.over[0], kind), kind, None)

    def strike(self) -> None:
        """The last entry was a mistake."""
        state = self.state
        if state is not None and state.stand.counted and self.around.person is not None and not self._busy:
            act, work_id = self.around.act(), state.id
            self._do(lambda s: strike_last(s, work_id, act))

    def _give_up(self) -> None:
        state = self.state
        if state is not None and self.around.person is not None and not self._busy:
            act, work_id, words = self.around.act(), state.id, self.reason.text
            self._do(lambda s: give_up(s, work_id, act, words))

    def _do(self, run: object) -> None:
        self._busy = True
        self.waits.emit()
        self.around.work.ask(run, self._show, self._refused, ended=self._over)  # type: ignore[arg-type]

    def _over(self) -> None:
        self._busy = False

    def _refused(self, refusal: Refused) -> None:
        self._fault(str(refusal))

    def _fault(self, words: str) -> None:
        self.fault.setText(words)
        self.stands.emit()

    def _take_stored(self, values: tuple[tuple[int, float], ...]) -> None:
        state = self.state
        if state is None or self._busy:
            return
        if self.around.person is None:
            self.fault.setText("Choose who is here first, at the top right.")
            return
        act = self.around.act()
        self.stored.hide()
        self._do(lambda s: take(s, state, values, act))

    def print(self) -> None:
        """Print it with what was entered."""
        state = self.state
        if state is not None:
            self.around.work.look(
                lambda reader: paper_of(reader, state.card, state.settings, state.id), lambda data: self._print(data)
            )

    def _print(self, data: bytes) -> None:
        print_bytes(self.around.theme, data)


def _entry_line(state: WorkState, place: int) -> Line:
    one = state.entries[place]
    entry = one.entry
    counts = any(other.id == entry.id for other in state.stand.counted)
    step = STEP_WORDS[state.steps[entry.step].kind].lower()
    if entry.kind is Entered.STRUCK:
        words = "the entry before was a mistake"
    elif entry.value is not None:
        words = f"{entry.kind.value}: {value_words(state, entry.value)}"
    else:
        words = ENTERED_WORDS.get(entry.kind, f"{entry.kind.value}: below the first mark")
    lead = f"{state.name(entry.fastener)}: {words}"
    return Line(("", place), entry.id, lead, step, f"{one.by} {one.at:%H:%M}", past=not counts)
