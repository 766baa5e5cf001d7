"""The Bench place: the columns put together, and every change of the run."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable

from PyQt6.QtCore import QEvent, QObject, Qt, QTimer
from PyQt6.QtGui import QKeyEvent, QResizeEvent
from PyQt6.QtWidgets import QApplication, QLineEdit, QSizePolicy, QStackedWidget, QWidget

from reckoner.core.checks import Values
from reckoner.core.errors import Refused
from reckoner.shop import bench, register
from reckoner.shop.agenda import agenda
from reckoner.shop.planning import Plan
from reckoner.shop.register import ToolCard, card
from reckoner.shop.run import RunKind, RunState, Step
from reckoner.shop.runload import load
from reckoner.shop.signing import characterised_sentence
from reckoner.shop.wording import run_sentence
from reckoner.ui.bench.adjusting import AdjustPanel
from reckoner.ui.bench.deciding import DecidingPanel
from reckoner.ui.bench.faraway import FarAway
from reckoner.ui.bench.fences import Fences
from reckoner.ui.bench.idle import IdlePanel
from reckoner.ui.bench.lookover import LookOverPanel
from reckoner.ui.bench.meterdesk import MeterDesk
from reckoner.ui.bench.newtool import NewToolPanel
from reckoner.ui.bench.panel import Change, Panel
from reckoner.ui.bench.pulls import PullsPanel
from reckoner.ui.bench.setup import SetUpPanel
from reckoner.ui.bench.start import StartPanel
from reckoner.ui.bench.steps import StepColumn
from reckoner.ui.layout import column, empty, row, surface
from reckoner.ui.place import Place, Surroundings
from reckoner.ui.sounds import Sounds
from reckoner.ui.theme import GRID, Type
from reckoner.ui.widgets.buttons import PrimaryButton, button
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.tag import Tag
from reckoner.ui.widgets.text import label, set_tone

KEY_UP_MS = 40
"""A key that comes down again within this time was repeating, not let go: some displays send both for a held key."""


class BenchPlace(Place):
    """One run at a time in front; ``show_tool`` proposes one for a tool, or goes on with the one it is in."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        self.run: RunState | None = None
        self._closed = False
        self._busy = 0
        self._news: deque[Callable[[Panel], None]] = deque()
        self.meter = MeterDesk(around.meter_url, self)
        self.sounds = Sounds(self, around.work)
        self._build()
        self._wire()

    def _build(self) -> None:
        self.steps = StepColumn(self.theme)
        self._tag_holder = column()
        self._meter_title = label(self.theme, "Meter", Type.STRONG)
        self._meter_words = label(self.theme, "Chosen at set up.", Type.CAPTION, "quiet", wrap=True)
        self._connect = button(self.theme, "Connect", self._connect_again, "link")
        self._connect.hide()
        self._mute = button(self.theme, "Sound on", self.sounds.toggle, "link")
        self._give_up = button(self.theme, "Give this run up…", self._ask_give_up, "link")
        self._give_up_why = EntryField(self.theme, "Why is it given up?", words_reader)
        self._give_up_why.given.connect(self._give_up_now)
        self._give_up_why.hide()
        words = row(self._connect, 1, self._mute)
        meter = surface(column(self._meter_title, self._meter_words, words, gap=0, margin=2))
        left = self._left = QWidget()
        left.setLayout(column(self._tag_holder, self.steps, 1, meter, row(self._give_up, 1), self._give_up_why, gap=2))
        self.look_over, self.set_up, self.start = LookOverPanel(self), SetUpPanel(self), StartPanel(self)
        self.pulls, self.adjust, self.deciding = PullsPanel(self), AdjustPanel(self), DecidingPanel(self)
        self.new_tool = NewToolPanel(self)
        self._middle = QStackedWidget()
        for panel in (self.start, self.look_over, self.set_up, self.pulls, self.adjust, self.deciding, self.new_tool):
            self._middle.addWidget(panel)
        self.fences = Fences(self.theme)
        self._so_far = label(self.theme, "", Type.STRONG, wrap=True)
        self.button = PrimaryButton(self.theme)
        self._fault = label(self.theme, "", Type.STRONG, "fault", wrap=True)
        self._fault.hide()
        right = self._right = QWidget()
        foot = surface(column(self._so_far, self._fault, self.button, gap=2, margin=2))
        stack = column(surface(column(self.fences, margin=2)), foot, gap=2)
        stack.setStretch(0, 1)
        right.setLayout(stack)
        self._working = QWidget()
        work = row(left, self._middle, right, gap=2)
        work.setStretch(1, 1)
        self._working.setLayout(work)
        self._idle = IdlePanel(self.around)
        self._stack = QStackedWidget()
        self._stack.addWidget(self._idle)
        self._stack.addWidget(self._working)
        self.setLayout(column(self._stack, margin=2))
        self.far = FarAway(self.theme, self.around)
        self._share_width()

    def _wire(self) -> None:
        self.button.clicked.connect(self._button_clicked)
        self.button.pressed.connect(self._button_down)
        self.button.released.connect(self.let_go)
        self.meter.said.connect(self._meter_said)
        self.meter.changed.connect(self._tell_panels)
        self.meter.samples.connect(self._samples)
        self.meter.signalled.connect(lambda *news: self._while_free(lambda p: p.signalled(*news)))
        self.meter.pulled.connect(lambda report: self._while_free(lambda p: p.pulled(report)))
        self.meter.valued.connect(lambda torque: self._while_free(lambda p: p.valued(torque)))
        self.meter.roomed.connect(self.set_up.roomed)
        self.meter.roomed.connect(self.pulls.roomed)
        self.sounds.changed.connect(lambda: self._mute.setText("Sound off" if self.sounds.muted else "Sound on"))
        self._beat = QTimer(self)
        self._beat.setInterval(250)
        self._beat.timeout.connect(self._beat_once)
        self._key_up = QTimer(self)
        self._key_up.setSingleShot(True)
        self._key_up.setInterval(KEY_UP_MS)
        self._key_up.timeout.connect(self.let_go)

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
            self.around.work.ask(lambda session: load(session, run_id), self._show)

    def show_tool(self, tool_id: int) -> None:
        """Go on with the tool's run, or propose one."""
        if self._closed:
            return
        self.around.work.ask(
            lambda session: register.open_runs(session).get(tool_id), lambda run_id: self._propose(tool_id, run_id)
        )

    def show_run_id(self, run_id: int) -> None:
        """Open one run: begun, or signed to be looked at."""
        self.around.work.ask(lambda session: load(session, run_id), self._arrived)

    def _propose(self, tool_id: int, run_id: int | None) -> None:
        if run_id is not None:
            self.show_run_id(run_id)
            return
        self._leave_run()
        self._stack.setCurrentWidget(self._working)
        self._middle.setCurrentWidget(self.start)
        self.start.propose(tool_id)
        self._fetch_tag(tool_id)
        self.update_primary()

    def show_unknown(self, number: str) -> None:
        """Offer to add a tool of this number."""
        self._leave_run()
        empty(self._tag_holder)
        self._stack.setCurrentWidget(self._working)
        self._middle.setCurrentWidget(self.new_tool)
        self.new_tool.ask(number)
        self.update_primary()

    def begin(self, tool_id: int, plan: Plan) -> None:
        """Put the tool on the bench as planned."""
        act = self.around.act()
        self.around.work.ask(
            lambda session: bench.open_run(session, tool_id, act, plan),
            self._arrived,
            lambda refusal: self.fault(str(refusal)),
            changes="runs",
        )

    def do(self, change: Change, *, refused: Callable[[str], None] | None = None) -> None:
        """Commit a change of the run, then show it."""
        act = self.around.act()
        self._busy += 1

        def done(found: RunState | None) -> None:
            self._busy -= 1
            self._fault.hide()
            if found is not None and self.run is not None and self.run.id == found.id:
                self._show(found)
            self._tell_news()

        def not_done(refusal: Refused) -> None:
            self._busy -= 1
            if refused is not None:
                refused(str(refusal))
            else:
                self.fault(str(refusal))
            self._tell_news()

        self.around.work.ask(lambda session: change(session, act), done, not_done, changes="runs")

    def fault(self, sentence: str) -> None:
        """Say beside the primary button what cannot be done."""
        self._fault.setText(sentence)
        self._fault.setVisible(bool(sentence))
        if sentence:
            self.sounds.play("refused")

    def primary(self) -> None:
        panel = self._panel()
        if self._stack.currentWidget() is self._idle:
            self._idle.primary()
        elif panel is not None and self.button.isEnabled():
            state = panel.primary_state()
            if state is not None and not state.held:
                panel.primary()

    def strike(self) -> bool:
        """Backspace: strike the last reading; on the way to a signature it leads back to the readings."""
        steps = (Step.AS_FOUND, Step.AS_LEFT, Step.ADJUST, Step.DECIDE)
        if self.run is None or self.run.step not in steps:
            return False
        if self.run.step is Step.ADJUST:
            return self.adjust.ask_strike()
        if self.run.step is Step.DECIDE:
            self.pulls.show_run(self.run)
            self._middle.setCurrentWidget(self.pulls)
            self.update_primary()
        self.pulls.ask_strike()
        return True

    # Showing a run

    def _arrived(self, found: RunState) -> None:
        if self.run is None or self.run.id != found.id:
            self._leave_run()
        self._show(found)
        self._fetch_tag(found.tool.id)

    def _fetch_tag(self, tool_id: int) -> None:
        today = self.around.today
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
        if not self._closed:
            self.meter.dial(found)
            self.meter.aim(found)
        if found.set_up is not None:
            self._meter_title.setText(f"Meter {found.set_up.reference.number}")
        self.steps.show_run(found)
        self.fences.show_run(found, self.around.today)
        panel = self._panel_of(found.step)
        panel.show_run(found)
        if self._middle.currentWidget() is not panel or before is None or before.step is not found.step:
            self._middle.setCurrentWidget(panel)
            panel.meter_changed()
            panel.show_run(found)
            panel.arrive()
        self.far.show_run(found)
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
            Step.ADJUST: self.adjust,
            Step.AS_LEFT: self.pulls,
            Step.DECIDE: self.deciding,
            Step.SIGNED: self.deciding,
        }[step]

    def _panel(self) -> Panel | None:
        panel = self._middle.currentWidget()
        return panel if isinstance(panel, Panel) else None

    def _while_free(self, tell: Callable[[Panel], None]) -> None:
        """Tell the panel in front what the meter brought; while a change is under way it waits, and is not lost."""
        self._news.append(tell)
        self._tell_news()

    def _tell_news(self) -> None:
        while self._news and self._busy == 0:
            tell, panel = self._news.popleft(), self._panel()
            if self.run is not None and panel is not None:
                tell(panel)

    def _say_so_far(self, found: RunState) -> None:
        verdict = found.verdict(self.around.today)
        taken, wanted = sum(len(s.counted) for s in found.series), sum(s.wanted for s in found.series)
        if verdict is None or found.kind is RunKind.CHARACTERISE:
            done = found.kind is RunKind.CHARACTERISE and found.current is None
            self._so_far.setText(characterised_sentence(found) if done else f"{taken} of {wanted} readings taken")
            set_tone(self._so_far, "quiet")
            return
        done = all(s.missing == 0 for s in found.series)
        self._so_far.setText(("" if done else "So far: ") + run_sentence(found.tool, verdict))
        set_tone(self._so_far, "fault" if verdict.accepted is False else "good" if verdict.accepted else "quiet")

    def update_primary(self) -> None:
        panel = self._panel()
        showing = self.run is not None or panel in (self.start, self.new_tool)
        state = panel.primary_state() if panel is not None and showing else None
        self.button.setVisible(state is not None)
        if state is not None:
            self.button.say(state.words, state.key)
            self.button.setEnabled(state.enabled)

    def _leave_run(self) -> None:
        self.meter.hang_up()
        self._news.clear()
        self._meter_title.setText("Meter")
        self._beat.stop()
        self.run = None
        self.steps.show_run(None)
        self.fences.show_nothing()
        self._so_far.setText("")
        self._give_up.hide()
        self.fault("")

    def _leave(self) -> None:
        """The run is over here: back to the idle bench."""
        self._leave_run()
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

    def _connect_again(self) -> None:
        self.meter.hang_up()
        if self.run is not None:
            self.meter.dial(self.run)
            self.meter.aim(self.run)

    def _meter_said(self, sentence: str, tone: str, may_connect: bool) -> None:
        self._meter_words.setText(sentence)
        set_tone(self._meter_words, tone)
        self._connect.setVisible(may_connect)

    def _tell_panels(self) -> None:
        if self._closed:
            return
        if self.run is not None:
            self.meter.aim(self.run)
            if self.meter.linked and self.run.room is None:
                self.meter.ask_room()
        for panel in (self.set_up, self.pulls, self.adjust):
            panel.meter_changed()
        self.update_primary()

    def _samples(self, samples: Values, rate: float) -> None:
        if self._panel() is self.pulls:
            self.pulls.trace.take(samples, rate)

    def meter_zero(self) -> float | None:
        """What a streaming meter at rest shows, in N·m; None without one."""
        return self.meter.zero()

    def _beat_once(self) -> None:
        panel = self._panel()
        if self.run is not None and panel is not None and self._busy == 0:
            panel.beat()
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
            self.meter.pull()

    def let_go(self) -> None:
        if self.meter.pulling:
            self.meter.let_go()
            if self.run is not None:
                self.meter.aim(self.run)

    def can_pull(self) -> bool:
        """Space pulls now: the held button is up and no field with words has the focus."""
        panel = self._panel()
        state = panel.primary_state() if panel is not None and self.run is not None else None
        focused = QApplication.focusWidget()
        empty_entry = focused in (self.pulls.typed.line, self.adjust.typed.line, self.adjust.turned.line)
        typing = isinstance(focused, QLineEdit) and (bool(focused.text()) or not empty_entry)
        return state is not None and (state.held or state.pulls) and not typing

    def far_away(self) -> None:
        """The reading over the whole screen, and back."""
        if self.run is not None:
            self.far.toggle()

    def mute(self) -> None:
        """Sound on or off."""
        self.sounds.toggle()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Space holds a pull, wherever the focus is on the bench."""
        seen = self.isVisible() or self.far.isVisible()
        if isinstance(event, QKeyEvent) and event.key() == Qt.Key.Key_Space and seen:
            if event.type() == QEvent.Type.KeyPress and (self.meter.pulling or self.can_pull()):
                self._key_up.stop()
                if not event.isAutoRepeat():
                    self.meter.pull()
                return True
            if event.type() == QEvent.Type.KeyRelease and self.meter.pulling:
                if not event.isAutoRepeat():
                    self._key_up.start()
                return True
        return super().eventFilter(watched, event)

    def shut(self) -> None:
        """Let the meter go before the window closes."""
        self._closed = True
        self._beat.stop()
        self.far.close()
        self.meter.shut()
