"""A job being worked through: one thing to do at a time, large, one key a fastener; the pattern and the entries beside."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal

from reckoner.core.errors import Refused
from reckoner.core.quantities.days import clock_words
from reckoner.core.quantities.printing import percent
from reckoner.core.quantities.units import N_M, Unit
from reckoner.core.tightening.jobs import VALUES, WANTED, EntryKind, NextEntry, StepKind
from reckoner.core.translation import tr
from reckoner.shop.papers.sheets import dots
from reckoner.shop.records.documents import card_bytes
from reckoner.shop.using.working import enter, enter_measured, give_up, sign, strike_last, take
from reckoner.shop.using.works import WorkState, answers, entry_words, next_words, question_words, read_work
from reckoner.ui.drawings.pattern import PatternDrawing, PatternState
from reckoner.ui.layout import column, keep_room, row, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.setting.stored import StoredMeasures
from reckoner.ui.shelves import PlaceShelf
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import PrimaryButton, button
from reckoner.ui.widgets.entry import EntryField, numbers_of, torque_reader, words_reader
from reckoner.ui.widgets.lineslist import LinesList, ListLine
from reckoner.ui.widgets.paper import print_bytes
from reckoner.ui.widgets.papersize import paper_mm
from reckoner.ui.widgets.question import QuestionChoice, QuestionPanel
from reckoner.ui.widgets.text import label
from reckoner.ui.work import SessionCall, call

STEP_WORDS = {
    StepKind.NEW_BOLT: tr("New bolts"),
    StepKind.RUNNING: tr("Running torque"),
    StepKind.TIGHTEN: tr("Tighten"),
    StepKind.ANGLE: tr("Turn on"),
    StepKind.LAST: tr("Last pass"),
    StepKind.LOCK: tr("Locking"),
    StepKind.MEASURE: tr("Measure"),
}
ENTERED_WORDS = {
    EntryKind.DONE: tr("done"),
    EntryKind.NEW_BOLT: tr("new bolt in"),
    EntryKind.SLACKENED: tr("slackened, to be done again"),
    EntryKind.REPLACED: tr("replaced, to be done again"),
    EntryKind.TIGHTENED_ON: tr("tightened on, to be measured again"),
    EntryKind.KEPT: tr("kept as it is"),
}
ANSWER_CHOICES = {
    EntryKind.SLACKENED: QuestionChoice(EntryKind.SLACKENED, tr("Slackened: do it again")),
    EntryKind.REPLACED: QuestionChoice(EntryKind.REPLACED, tr("Replaced: do it again")),
    EntryKind.TIGHTENED_ON: QuestionChoice(EntryKind.TIGHTENED_ON, tr("Tightened on: measure again")),
    EntryKind.KEPT: QuestionChoice(
        EntryKind.KEPT, tr("It stays as it is…"), tr("Why it stays, as the joint's maker allows")
    ),
}


class WorkView(PlaceShelf):
    """``primary()`` enters what is asked for, or signs. Signals ``left()``: back to the list;
    ``waits()`` while an entry is being kept, and ``stands()`` once the next thing to do stands there."""

    left = pyqtSignal()
    waits = pyqtSignal()
    stands = pyqtSignal()

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        self.state: WorkState | None = None
        self._busy = False
        self._chosen: int | None = None
        theme = around.theme
        self.title = label(theme, "", Type.LEAD, wrap=True)
        self.passes = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.now = label(theme, "", Type.HEADLINE, wrap=True)
        self.value = EntryField(theme, tr("What it shows"), torque_reader(N_M))
        self.value.given.connect(lambda _value: self.primary())
        self.value.emptied.connect(self.primary)
        self.below = button(theme, tr("Below the first mark"), self._below)
        self.question = QuestionPanel(theme)
        self.question.answered.connect(self._answered)
        self.measure = EntryField(theme, tr("Or what was measured at this one"), torque_reader(N_M), tr("then Enter"))
        self.measure.given.connect(self._measured)
        self.value.awaits_number = self.measure.awaits_number = True
        for field in (self.value, self.measure):
            field.offer_pad(theme)
        self.fault = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.button = PrimaryButton(theme, tr("Done"))
        self.button.setMinimumHeight(9 * GRID)
        self.button.clicked.connect(self.primary)
        self.strike_button = button(theme, tr("Strike the last one"), self.strike, "link")
        self.strike_button.setToolTip("Backspace")
        keep_room(self.strike_button)
        self.stored = StoredMeasures(around)
        self.stored.taken.connect(self._take_stored)
        self.stored.refused.connect(self._fault)
        self.reason = EntryField(theme, tr("Why it ends here"), words_reader)
        self.give_button = button(theme, tr("Give it up"), self._give_up)
        self.print_button = button(theme, tr("Print…"), self.print)
        self.back_button = button(theme, tr("Back to the cards"), self.left.emit, "link")
        head = row(self.title, self.back_button, gap=2)
        head.setStretch(0, 1)
        right = column(
            head, self.passes, self.now, self.value, row(self.below, 1), self.question, self.measure, self.stored,
            self.fault, 1, self.button,
            row(self.strike_button, self.stored.button, 1, self.print_button, gap=2),
            row(self.reason, self.give_button, gap=2), gap=2, margin=3,
        )  # fmt: skip
        self.pattern = PatternDrawing(theme)
        self.pattern.pressed.connect(self._pressed)
        self.list = LinesList(theme, tr("What was entered"), 1000)
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
        self.around.work.look(call(read_work, work_id), self._show_work, self._refused)

    def refresh(self) -> None:
        """Ask for it anew."""
        if self.state is not None and not self._busy:
            work_id = self.state.id
            self.around.work.look(call(read_work, work_id), self._show_work, self._refused)

    @property
    def unit(self) -> Unit:
        return self.state.card.unit if self.state is not None else N_M

    @property
    def at(self) -> NextEntry | None:
        """What is entered next: the fastener that was pressed in this pass, or the one whose turn it is."""
        state = self.state
        if state is None or state.stand.next is None:
            return None
        there, pressed = state.stand.next, self._chosen
        if pressed is None or pressed == there.fastener:
            return there
        kinds = {e.kind for e in state.stand.of_fastener(pressed) if e.step == there.step}
        open_ones = [k for k in WANTED[state.steps[there.step].kind] if k not in kinds]
        return NextEntry(there.step, pressed, open_ones[0]) if open_ones else there

    def _pressed(self, number: int) -> None:
        self._chosen = number
        self._update_state()

    def _show_work(self, state: WorkState) -> None:
        self.state = state
        self._chosen = None
        running = state.step is not None and state.step.kind is StepKind.RUNNING
        self.value.read_with(torque_reader(state.card.running_unit if running else state.card.unit))
        self.measure.read_with(torque_reader(state.card.unit))
        for field in (self.value, self.measure):
            field.clear()
        self.fault.setText("")
        self.stored.show_state(state)
        lines = [_entry_line(state, i) for i in reversed(range(len(state.entries)))]
        self.list.lines.show(tuple(lines))
        self._update_state()
        self.stands.emit()

    def _update_state(self) -> None:
        state = self.state
        if state is None:
            return
        stand, there = state.stand, self.at
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
                tr(
                    "Pass {step} of {count}: {lower}{share} · {count_2} of {count_3} in this pass · {done} of "
                    "{of} in all",
                    step=there.step + 1,
                    count=len(state.steps),
                    lower=STEP_WORDS[step.kind].lower(),
                    share=share,
                    count_2=len(done),
                    count_3=len(step.order),
                    done=stand.done,
                    of=stand.of,
                )
            )
        else:
            done = frozenset(range(1, state.card.plan.fasteners.count + 1))
            self.passes.setText(tr("{done} of {of} in all", done=stand.done, of=stand.of))
        fasteners = state.card.plan.fasteners
        order = step.order if step is not None else state.card.plan.order
        turn = there.fastener if there is not None and not closed else None
        self.pattern.show_state(PatternState(dots(fasteners, order), done, frozenset(stand.over), turn))
        self._ask(state, there, closed=closed)

    def _ask(self, state: WorkState, there: NextEntry | None, *, closed: bool) -> None:
        asked = not closed and bool(state.stand.asked)
        running = there is not None and state.steps[there.step].kind is StepKind.RUNNING
        valued = there is not None and (running or there.kind in VALUES) and not asked and not closed
        self.value.setVisible(valued)
        self.below.setVisible(running and not asked and not closed)
        plain = there is not None and state.steps[there.step].kind in (StepKind.TIGHTEN, StepKind.LAST)
        self.measure.setVisible(plain and not asked and not closed)
        for control in (self.reason, self.give_button):
            control.setVisible(not closed)
        self.strike_button.setVisible(not closed and bool(state.stand.counted))
        self.button.setVisible(not closed and not asked)
        self.now.setVisible(closed or not asked)
        if closed:
            self.now.setText(f"{state.closed[:1].upper()}{state.closed[1:]}.")
        elif there is not None:
            self.now.setText(next_words(state, there))
            name = state.name(there.fastener)
            self.button.say(tr("{name}: keep the value", name=name) if valued else tr("{name} is done", name=name))
            if valued:
                self.value.setFocus()
        else:
            self.now.setText(tr("All of it is done. Sign it."))
            self.button.say(tr("Sign the job"))
        if asked:
            first = state.stand.asked[0]
            self.question.ask(
                question_words(state, first), [ANSWER_CHOICES[kind] for kind in answers(state, first.past)]
            )
        else:
            self.question.withdraw()

    def primary(self) -> None:
        """Enter what is asked for, or sign."""
        state, there = self.state, self.at
        if state is None or state.closed or state.stand.asked or self._busy:
            return
        if not self._somebody():
            return
        if there is None:
            act, work_id = self.around.act(), state.id
            self._do(call(sign, work_id, act))
            return
        if not self.value.isHidden():
            if not self.value.text.strip():
                self.value.refuse(tr("Type what it shows."))
            elif (found := numbers_of(self.value)) is not None:
                self._enter(there, there.kind, found[0])
        elif not self.measure.isHidden() and self.measure.text.strip():  # what stands there is taken, never thrown away
            if (found := numbers_of(self.measure)) is not None:
                self._measured(found[0])
        else:
            self._enter(there, there.kind, None)

    def _enter(self, there: NextEntry, kind: EntryKind, value: float | None) -> None:
        if self.state is None:
            return
        act, work_id = self.around.act(), self.state.id
        self._do(call(enter, work_id, kind, there.step, there.fastener, act, value))

    def _below(self) -> None:
        there = self.at
        if there is not None and not self._busy and self._somebody():
            self._enter(there, there.kind, None)

    def _measured(self, torque: float) -> None:
        """A measured torque of the fastener that was pressed, or of the one in front, which is done with it."""
        state, there = self.state, self.at
        if state is None or there is None or self._busy or not self._somebody():
            return
        act, work_id, fastener = self.around.act(), state.id, self._chosen or there.fastener
        self._do(call(enter_measured, work_id, there.step, fastener, act, torque))

    def _answered(self, kind: EntryKind, reason: str) -> None:
        """What was done about a value past its band."""
        state = self.state
        if state is None or not state.stand.asked or self._busy or not self._somebody():
            return
        act, work_id, entry = self.around.act(), state.id, state.stand.asked[0].entry
        self._do(call(enter, work_id, kind, entry.step, entry.fastener, act, words=reason))

    def _somebody(self) -> bool:
        """Whether somebody is here, who answers for it."""
        if self.around.person is None:
            self.fault.setText(tr("Choose who is here first, at the top right."))
        return self.around.person is not None

    def strike(self) -> None:
        """The last entry was a mistake."""
        state = self.state
        if state is not None and state.stand.counted and self.around.person is not None and not self._busy:
            act, work_id = self.around.act(), state.id
            self._do(call(strike_last, work_id, act))

    def _give_up(self) -> None:
        state = self.state
        if state is not None and self.around.person is not None and not self._busy:
            act, work_id, words = self.around.act(), state.id, self.reason.text
            self._do(call(give_up, work_id, act, words))

    def _do(self, change: SessionCall[WorkState]) -> None:
        self._busy = True
        self.waits.emit()
        self.around.work.ask(change, self._show_work, self._refused, ended=self._over)

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
        if not self._somebody():
            return
        act = self.around.act()
        self.stored.hide()
        self._do(call(take, state, values, act))

    def print(self) -> None:
        """Print it with what was entered."""
        state = self.state
        if state is not None:
            self.around.work.prepare(
                call(card_bytes, state.card, state.settings, self.around.today, paper_mm(), state.id), self._print
            )

    def _print(self, data: bytes) -> None:
        print_bytes(self.around.theme, data)


def _entry_line(state: WorkState, place: int) -> ListLine:
    one = state.entries[place]
    entry = one.entry
    counts = any(other.id == entry.id for other in state.stand.counted)
    step = STEP_WORDS[state.steps[entry.step].kind].lower()
    if entry.kind is EntryKind.STRUCK:
        words = tr("the entry before was a mistake")
    elif entry.kind in ENTERED_WORDS:
        words = ENTERED_WORDS[entry.kind]
    else:
        words = f"{tr(entry.kind)}: {entry_words(state, entry)}"
    lead = f"{state.name(entry.fastener)}: {words}"
    return ListLine(("", place), entry.id, lead, step, f"{one.by} {clock_words(one.at)}", past=not counts)
