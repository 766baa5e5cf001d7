"""The Bench place: the columns put together, the meter's link, and every change of the run."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from PyQt6.QtCore import QEvent, QObject, Qt, QTimer
from PyQt6.QtGui import QKeyEvent, QResizeEvent
from PyQt6.QtWidgets import QApplication, QLineEdit, QSizePolicy, QStackedWidget, QWidget

from reckoner.core.checks import Values
from reckoner.core.errors import Refused
from reckoner.core.printing import fixed
from reckoner.core.stream import PullEnded, Signal
from reckoner.meters.protocol import Identity
from reckoner.shop import bench, run
from reckoner.shop.agenda import Agenda, agenda
from reckoner.shop.register import ToolCard, card
from reckoner.shop.run import RunState, Step
from reckoner.shop.wording import run_sentence
from reckoner.ui.bench.deciding import DecidingPanel
from reckoner.ui.bench.fences import Fences
from reckoner.ui.bench.lookover import LookOverPanel
from reckoner.ui.bench.panel import Change, Panel
from reckoner.ui.bench.pulls import PullsPanel
from reckoner.ui.bench.setup import SetUpPanel
from reckoner.ui.bench.steps import StepColumn
from reckoner.ui.layout import column, empty, row, surface
from reckoner.ui.meterwatch import MeterWatch
from reckoner.ui.place import Place, Surroundings
from reckoner.ui.theme import GRID, Type
from reckoner.ui.widgets.buttons import PrimaryButton, button
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.tag import Tag
from reckoner.ui.widgets.text import label, set_tone

REST_SECONDS = 0.4
REST_SPREAD = 0.002
"""At rest: the last REST_SECONDS vary by less than this fraction of the reference's maximum."""

KEY_UP_MS = 40
"""A key that comes down again within this time was repeating, not let go: some displays send both for a held key."""

REST_LEVEL = 0.02
"""A steady torque above this fraction of the reference's maximum is a hand that holds on, not a zero."""


class BenchPlace(Place):
    """One run at a time; ``show_tool`` puts a tool on the bench or goes on with its run."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        self.run: RunState | None = None
        self._watch: MeterWatch | None = None
        self._identity: Identity | None = None
        self._recent = np.empty(0)
        self._pulling = False
        self._closed = False
        self._busy = 0
        self._aimed = ("", 0.0)
        self._build()
        self._beat = QTimer(self)
        self._beat.setInterval(250)
        self._beat.timeout.connect(self._show_zero)
        self._key_up = QTimer(self)
        self._key_up.setSingleShot(True)
        self._key_up.setInterval(KEY_UP_MS)
        self._key_up.timeout.connect(self.let_go)

    def _build(self) -> None:
        self.steps = StepColumn(self.theme)
        self._tag_holder = column()
        self._meter_title = label(self.theme, "Meter", Type.STRONG)
        self._meter_words = label(self.theme, "", Type.CAPTION, "quiet", wrap=True)
        self._connect = button(self.theme, "Connect", self._connect_again, "link")
        self._give_up = button(self.theme, "Give this run up…", self._ask_give_up, "link")
        self._give_up_why = EntryField(self.theme, "Why is it given up?", words_reader)
        self._give_up_why.given.connect(self._give_up_now)
        self._give_up_why.hide()
        meter = surface(column(self._meter_title, self._meter_words, row(self._connect, 1), gap=0, margin=2))
        left = self._left = QWidget()
        left.setLayout(column(self._tag_holder, self.steps, 1, meter, row(self._give_up, 1), self._give_up_why, gap=2))
        self.look_over, self.set_up = LookOverPanel(self), SetUpPanel(self)
        self.pulls, self.deciding = PullsPanel(self), DecidingPanel(self)
        self._middle = QStackedWidget()
        for panel in (self.look_over, self.set_up, self.pulls, self.deciding):
            self._middle.addWidget(panel)
        self.fences = Fences(self.theme)
        self._so_far = label(self.theme, "", Type.STRONG, wrap=True)
        self.button = PrimaryButton(self.theme)
        self.button.clicked.connect(self._button_clicked)
        self.button.pressed.connect(self._button_down)
        self.button.released.connect(self._button_up)
        self._fault = label(self.theme, "", Type.STRONG, "fault", wrap=True)
        self._fault.hide()
        right = self._right = QWidget()
        foot = surface(column(self._so_far, self._fault, self.button, gap=2, margin=2))
        fences = surface(column(self.fences, margin=2))
        stack = column(fences, foot, gap=2)
        stack.setStretch(0, 1)
        right.setLayout(stack)
        self._working = QWidget()
        work = row(left, self._middle, right, gap=2)
        work.setStretch(1, 1)
        self._working.setLayout(work)
        self._idle = _Idle(self)
        self._stack = QStackedWidget()
        self._stack.addWidget(self._idle)
        self._stack.addWidget(self._working)
        self.setLayout(column(self._stack, margin=2))
        self._share_width()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._share_width()

    def _share_width(self) -> None:
        """On a small window the sides give way to the reading."""
        narrow = self.width() < 1100
        self._left.setFixedWidth((24 if narrow else 31) * GRID)
        self._right.setFixedWidth((29 if narrow else 38) * GRID)

    # What the place does

    def refresh(self) -> None:
        if self.run is None:
            today = self.around.today
            self.around.work.ask(lambda session: agenda(session, today), self._idle.show_agenda)
        else:
            run_id = self.run.id
            self.around.work.ask(lambda session: run.load(session, run_id), self._show)

    def show_tool(self, tool_id: int) -> None:
        """Put a tool on the bench, or go on with its run."""
        act = self.around.act()
        self.around.work.ask(lambda session: bench.open_run(session, tool_id, act), self._arrived, changes="runs")

    def do(self, change: Change, *, refused: Callable[[str], None] | None = None) -> None:
        """Commit a change of the run, then show it."""
        act = self.around.act()
        self._busy += 1

        def done(found: RunState) -> None:
            self._busy -= 1
            self._fault.hide()
            if self.run is not None and self.run.id == found.id:
                self._show(found)

        def not_done(refusal: Refused) -> None:
            self._busy -= 1
            if refused is not None:
                refused(str(refusal))
            else:
                self.fault(str(refusal))

        self.around.work.ask(lambda session: change(session, act), done, not_done, changes="runs")

    def fault(self, sentence: str) -> None:
        """Say beside the primary button what cannot be done."""
        self._fault.setText(sentence)
        self._fault.setVisible(bool(sentence))

    def primary(self) -> None:
        panel = self._panel()
        if self.run is None:
            self._idle.primary()
        elif panel is not None and self.button.isEnabled():
            state = panel.primary_state()
            if state is not None and not state.held:
                panel.primary()

    def strike(self) -> bool:
        """Backspace: strike the last reading; on the way to a signature it leads back to the readings."""
        if self.run is None or self.run.step not in (Step.AS_FOUND, Step.DECIDE):
            return False
        if self.run.step is Step.DECIDE:
            self.pulls.show_run(self.run)
            self._middle.setCurrentWidget(self.pulls)
            self.update_primary()
        self.pulls.ask_strike()
        return True

    # Showing a run

    def _arrived(self, found: RunState) -> None:
        fresh = self.run is None or self.run.id != found.id
        if fresh:
            self._hang_up()
        self._show(found)
        tool_id, today = found.tool.id, self.around.today
        self.around.work.ask(lambda session: card(session, tool_id, today), self._show_tag)

    def _show_tag(self, found: ToolCard) -> None:
        empty(self._tag_holder)
        tag = Tag(self.theme, found, self.around.today)
        tag.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        tag.clicked.connect(lambda: self.around.go_tool(found.tool.id))
        self._tag_holder.addWidget(tag)

    def _show(self, found: RunState) -> None:
        before = self.run
        self.run = found
        if found.abandoned:
            self._leave()
            return
        self._stack.setCurrentWidget(self._working)
        self._dial()
        self._aim()
        self.steps.show_run(found)
        self.fences.show_run(found, self.around.today)
        panel = self._panel_of(found.step)
        panel.show_run(found)
        if self._middle.currentWidget() is not panel or before is None or before.step is not found.step:
            self._middle.setCurrentWidget(panel)
            panel.meter_changed(self._meter_state())
            panel.show_run(found)
            panel.arrive()
        self._give_up.setVisible(not found.signed)
        self._say_so_far(found)
        self.update_primary()
        self._beat.start()

    def _panel_of(self, step: Step) -> Panel:
        return {
            Step.LOOK_OVER: self.look_over,
            Step.SET_UP: self.set_up,
            Step.EXERCISE: self.pulls,
            Step.AS_FOUND: self.pulls,
            Step.DECIDE: self.deciding,
            Step.SIGNED: self.deciding,
        }[step]

    def _panel(self) -> Panel | None:
        panel = self._middle.currentWidget()
        return panel if isinstance(panel, Panel) else None

    def _say_so_far(self, found: RunState) -> None:
        verdict = found.verdict(self.around.today)
        if verdict is None:
            taken = sum(len(s.counted) for s in found.series)
            self._so_far.setText(f"{taken} of {sum(s.wanted for s in found.series)} readings taken")
            set_tone(self._so_far, "quiet")
            return
        done = all(s.missing == 0 for s in found.series)
        self._so_far.setText(("" if done else "So far: ") + run_sentence(found.tool, verdict))
        set_tone(self._so_far, "fault" if verdict.accepted is False else "good" if verdict.accepted else "quiet")

    def update_primary(self) -> None:
        panel = self._panel()
        state = panel.primary_state() if panel is not None and self.run is not None else None
        self.button.setVisible(state is not None)
        if state is not None:
            self.button.say(state.words, state.key)
            self.button.setEnabled(state.enabled)

    def _leave(self) -> None:
        """The run is over here: back to the idle bench."""
        self._hang_up()
        self._beat.stop()
        self.run = None
        self._stack.setCurrentWidget(self._idle)
        self.refresh()

    def _ask_give_up(self) -> None:
        self._give_up_why.setVisible(not self._give_up_why.isVisible())
        self._give_up_why.setFocus()

    def _give_up_now(self, reason: object) -> None:
        current = self.run
        if current is not None:
            self._give_up_why.clear()
            self._give_up_why.hide()
            self.do(lambda session, act: bench.give_up(session, current.id, str(reason), act))

    # The meter

    def _dial(self) -> None:
        """Link to the run's reference as soon as there is one."""
        current = self.run
        if current is None or current.set_up is None or current.signed or self._watch is not None or self._closed:
            return
        reference = current.set_up.reference
        url = self.around.meter_url(reference)
        self._meter_title.setText(f"Meter {reference.number}")
        if not url:
            self._meter_words.setText("Not linked; readings are typed.")
            self._connect.hide()
            return
        self._connect.hide()
        self._meter_words.setText("Connecting…")
        watch = MeterWatch(url, self.pulls.target(), self)
        self._watch = watch
        watch.identified.connect(self._identified)
        watch.samples.connect(self._samples)
        watch.signalled.connect(self._signalled)
        watch.pulled.connect(self._pulled)
        watch.trouble.connect(self._trouble)
        watch.recovered.connect(self._recovered)
        watch.start()

    def _hang_up(self) -> None:
        if self._watch is not None:
            self._watch.stop()
            self._watch.deleteLater()
        self._watch, self._identity, self._recent = None, None, np.empty(0)
        self._aimed = ("", 0.0)
        self._meter_title.setText("Meter")
        self._meter_words.setText("Chosen at set up.")
        self._connect.hide()
        self._tell_panels()

    def _connect_again(self) -> None:
        self._hang_up()
        self._dial()
        self._aim()

    def _identified(self, identity: Identity) -> None:
        self._identity = identity
        kind = "the simulated tool and meter" if identity.simulated else f"serial {identity.serial}"
        self._meter_words.setText(f"Linked: {kind}, {identity.rate:g} samples a second.")
        self._aimed = ("", 0.0)
        self._aim()
        self._tell_panels()

    def _aim(self) -> None:
        """Tell the link, and the simulated tool, what comes next."""
        current, watch = self.run, self._watch
        if current is None or watch is None:
            return
        target = current.current.target if current.current else current.series[-1].target
        if current.wants(Step.EXERCISE):
            target = current.exercise_target
        wanted = (current.tool.number, target)
        if wanted == self._aimed or self._pulling:
            return
        watch.aim(target)
        if self._identity is not None and self._identity.simulated:
            if self._aimed[0] != wanted[0]:
                watch.send(f"tool {current.tool.number}")
            watch.send(f"set {target:.6g} N.m")
        self._aimed = wanted

    def _samples(self, samples: Values, rate: float) -> None:
        self._recent = np.concatenate([self._recent, samples])[-max(2, int(REST_SECONDS * rate)) :]
        self.pulls.trace.take(samples, rate)

    def _signalled(self, signal: Signal, ago: float) -> None:
        if self._middle.currentWidget() is self.pulls and self._busy == 0:
            self.pulls.signalled(signal, ago)

    def _pulled(self, ended: PullEnded, trace: Values, rate: float) -> None:
        if self._middle.currentWidget() is self.pulls:
            self.pulls.pulled(ended)
            self._keep_trace(ended, trace, rate)

    def _keep_trace(self, ended: PullEnded, trace: Values, rate: float) -> None:
        """File the pull with the reading it gave."""
        if self.run is not None and ended.signal is not None and self.run.step is not Step.EXERCISE:
            run_id, torque = self.run.id, ended.signal.first_peak
            self.around.work.ask(
                lambda session: bench.keep_trace(session, run_id, torque, trace, rate), lambda _kept: None
            )

    def _trouble(self, sentence: str, over: bool) -> None:
        self._meter_words.setText(sentence)
        set_tone(self._meter_words, "fault")
        self._connect.setVisible(over)
        if over:
            self._identity = None
            self._recent = np.empty(0)
        self._tell_panels()

    def _recovered(self) -> None:
        set_tone(self._meter_words, "quiet")
        if self._identity is not None:
            self._meter_words.setText(f"Linked again, serial {self._identity.serial}.")
        self._tell_panels()

    def _meter_state(self) -> tuple[bool, bool]:
        """(a meter streams, it works a simulated tool)."""
        return self._identity is not None, self._identity is not None and self._identity.simulated

    def _tell_panels(self) -> None:
        if self._identity is not None:
            set_tone(self._meter_words, "quiet")
        for panel in (self.set_up, self.pulls):
            panel.meter_changed(self._meter_state())
        self.update_primary()

    def meter_zero(self) -> float | None:
        """What a streaming meter shows at rest, in N·m; None while it moves or without one."""
        current = self.run
        if self._identity is None or current is None or current.set_up is None or len(self._recent) < 20:
            return None
        full = current.set_up.reference.maximum
        if float(np.ptp(self._recent)) > REST_SPREAD * full or abs(float(self._recent.mean())) > REST_LEVEL * full:
            return None
        return float(fixed(float(self._recent.mean()), 6).replace("−", "-"))

    def meter_send(self, command: str) -> None:
        if self._watch is not None:
            self._watch.send(command)

    def _show_zero(self) -> None:
        if self.run is not None and self.run.step in (Step.SET_UP, Step.AS_FOUND):
            panel = self._panel()
            if panel is self.set_up:
                panel.meter_changed(self._meter_state())
            self.update_primary()

    # Holding a pull on the simulated tool

    def _button_clicked(self) -> None:
        panel = self._panel()
        state = panel.primary_state() if panel else None
        if panel is not None and state is not None and not state.held:
            panel.primary()

    def _button_down(self) -> None:
        panel = self._panel()
        state = panel.primary_state() if panel else None
        if state is not None and state.held:
            self.pull()

    def _button_up(self) -> None:
        self.let_go()

    def pull(self) -> None:
        """Begin to pull the simulated tool."""
        if not self._pulling and self._identity is not None and self._identity.simulated:
            self._pulling = True
            self.meter_send("pull")

    def let_go(self) -> None:
        if self._pulling:
            self._pulling = False
            self.meter_send("release")
            self._aim()

    def can_pull(self) -> bool:
        """Space pulls now: the held button is up and no field with words has the focus."""
        panel = self._panel()
        state = panel.primary_state() if panel is not None and self.run is not None else None
        focused = QApplication.focusWidget()
        typing = isinstance(focused, QLineEdit) and (bool(focused.text()) or focused is not self.pulls.typed.line)
        return state is not None and state.held and not typing

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Space holds a pull, wherever the focus is on the bench."""
        if isinstance(event, QKeyEvent) and event.key() == Qt.Key.Key_Space and self.isVisible():
            if event.type() == QEvent.Type.KeyPress and (self._pulling or self.can_pull()):
                self._key_up.stop()
                if not event.isAutoRepeat():
                    self.pull()
                return True
            if event.type() == QEvent.Type.KeyRelease and self._pulling:
                if not event.isAutoRepeat():
                    self._key_up.start()
                return True
        return super().eventFilter(watched, event)

    def shut(self) -> None:
        """Let the meter go before the window closes."""
        self._closed = True
        self._beat.stop()
        self._hang_up()


class _Idle(QWidget):
    """The bench with nothing on it: what was begun, and how to begin."""

    def __init__(self, place: BenchPlace) -> None:
        super().__init__()
        self._place = place
        theme = place.theme
        self._found: Agenda | None = None
        self._title = label(theme, "Nothing is on the bench", Type.HEADLINE)
        self._hint = label(
            theme, "Press J and type or scan a tool's number, or take the next one from Today.", Type.BODY, "quiet"
        )
        self._begun = column(gap=1)
        self.setLayout(column(self._title, self._hint, self._begun, 1, gap=2, margin=2))

    def show_agenda(self, found: Agenda) -> None:
        self._found = found
        empty(self._begun)
        if found.unfinished:
            self._begun.addWidget(label(self._place.theme, "Begun, not signed", Type.LEAD))
        for item in found.unfinished:
            tag = Tag(self._place.theme, item.card, self._place.around.today)
            tag.clicked.connect(lambda _=False, item=item: self._place.around.go_bench(item.card.tool.id))
            self._begun.addWidget(tag)

    def primary(self) -> None:
        if self._found is not None and self._found.unfinished:
            self._place.around.go_bench(self._found.unfinished[0].card.tool.id)
