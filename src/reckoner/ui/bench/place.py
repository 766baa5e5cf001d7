"""The Bench place: the columns and panels put together over the presenter's scene."""

from __future__ import annotations

from collections.abc import Iterator

from PyQt6.QtCore import QEvent, QObject, QTimer
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QStackedWidget, QWidget

from reckoner.core.translation import tr
from reckoner.shop.changes import Change
from reckoner.shop.runs.planning import read_ahead
from reckoner.shop.runs.records import READING_STEPS, Step
from reckoner.shop.runs.state import RunState
from reckoner.store.terms import ObservationKind
from reckoner.ui.bench.columns import LeftColumn, RightColumn
from reckoner.ui.bench.faraway import FarAway
from reckoner.ui.bench.idle import IdlePanel
from reckoner.ui.bench.panel import Action, Panel
from reckoner.ui.bench.panels import Panels
from reckoner.ui.bench.pedals import Pedals, PedalUse
from reckoner.ui.bench.presenter import BenchPresenter, FrontView, Scene
from reckoner.ui.bench.pulling import Pulling
from reckoner.ui.bench.series.striking import FIRST, Asking
from reckoner.ui.bench.series.tripping import TrippingPanel
from reckoner.ui.bench.speaking import SpeakingBench
from reckoner.ui.layout import column, row
from reckoner.ui.place import Place, Surroundings
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call

BEAT_MS = 250


class BenchPlace(Place):
    """One run at a time in front. A target's tool proposes one or goes on with the one it is in; its run opens that run; its
    number offers to add a tool."""

    found_tools_go_to = PlaceId.BENCH

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        desk = self.presenter = BenchPresenter(around, self)
        self.meter, self.taker = desk.meter, desk.taker
        self._offered: object = None
        self._arriving = False
        self._scene = Scene(FrontView.LOADING)
        self._build()
        self._wire()

    def _build(self) -> None:
        self.left, self.right = LeftColumn(self.theme, self.presenter), RightColumn(self.theme, self.presenter)
        self.button = self.right.button
        self.panels = Panels(self.presenter)
        self.asking = Asking(self.presenter)
        self._working = QWidget()
        middle = column(self.asking, self.panels, gap=1)
        middle.setStretch(1, 1)
        work = row(self.left, middle, self.right, gap=2)
        work.setStretch(1, 1)
        self._working.setLayout(work)
        self.idle = IdlePanel(self.around)
        self._loading = label(self.theme, tr("Looking it up…"), Type.BODY, "quiet")
        self._loading.setMargin(2 * GRID)
        self._stack = QStackedWidget()
        for page in (self.idle, self._working, self._loading):
            self._stack.addWidget(page)
        self._stack.setCurrentWidget(self._loading)
        around_it = column(self._stack)
        around_it.setContentsMargins(2 * GRID, 2 * GRID, 2 * GRID, GRID)  # the room of the foot lies below
        self.setLayout(around_it)
        self.pedals = Pedals(
            self,
            self.around.station,
            {
                PedalUse.CLICKED: lambda: self.panels.answer(ObservationKind.CLICKED),
                PedalUse.SILENT: lambda: self.panels.answer(ObservationKind.SILENT),
                PedalUse.NEXT: self.primary,
                PedalUse.STRIKE: self.strike,
            },
            lambda: self.seen,
        )
        self.speaking = SpeakingBench(self.presenter, self.presenter.speech)
        self.pulling = Pulling(self.presenter, lambda: self.action() if self.seen else None, self.panels.pull_fields)
        self.far = FarAway(self.theme, self.around, self.mark_seen)

    def _wire(self) -> None:
        desk, meter = self.presenter, self.presenter.meter
        desk.stood.connect(self._show_scene)
        desk.offered.connect(self.offer)
        desk.faulted.connect(self.right.show_fault)
        desk.unkept.gone.connect(self.right.elsewhere.show)
        self.right.save_to.connect(lambda path: desk.unkept.save(self.run, path))
        self.button.clicked.connect(self.primary)
        self.button.pressed.connect(self.pulling.button_down)
        self.button.released.connect(self.pulling.let_go)
        meter.changed.connect(self._meter_changed)
        self.panels.foretold.connect(self.right.fences.foretell)
        self.taker.told.connect(lambda: self.far.show_feedback(self.taker.feedback))
        self._beat = QTimer(self)
        self._beat.setInterval(BEAT_MS)
        self._beat.timeout.connect(self._beat_once)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """On a small window the sides give way to the reading."""
        super().resizeEvent(event)
        narrow = self.width() < 1100
        self.left.setFixedWidth((24 if narrow else 31) * GRID)
        self.right.setFixedWidth((29 if narrow else 38) * GRID)

    # What a place offers

    @property
    def run(self) -> RunState | None:
        """The run in front."""
        return self.presenter.run

    @property
    def panel(self) -> Panel | None:
        """The panel in front."""
        panel = self.panels.currentWidget()
        return panel if self._stack.currentWidget() is self._working and isinstance(panel, Panel) else None

    def make_ahead(self) -> Iterator[None]:
        for piece in ("start", "look_over", "set_up", "pulls"):
            getattr(self.panels, piece)
            yield
        self.around.work.browse(call(read_ahead, self.around.today), lambda _none: None)
        yield

    def needs_person(self, target: Target) -> bool:
        return target.tool is not None or bool(target.number)

    def arrive(self, target: Target) -> None:
        self._arriving = True
        if target.run is not None:
            self.presenter.open_run(target.run)
        elif target.tool is not None:
            self.presenter.open_tool(target.tool, target)
        elif target.number:
            self.presenter.offer_new_tool(target)
        else:
            self.presenter.refresh()

    def changes(self, made: tuple[Change, ...]) -> None:
        self.presenter.changes(made)

    def refresh(self) -> None:
        if self.run is None or self.around.work.looking_on:  # a run in front is this window's alone
            self.presenter.refresh()

    def person_changed(self) -> None:
        run, panel = self.run, self.panel
        if run is not None and panel is not None:
            panel.show_run(run)
        self.offer()

    def action(self) -> Action | None:
        """What the panel in front offers."""
        if self.asking.asks:
            return FIRST
        panel = self.panel
        return panel.action() if panel is not None else None

    @property
    def tool_in_front(self) -> int | None:
        """The tool on the bench."""
        return self.run.tool.id if self.run is not None else None

    def primary(self) -> None:
        """What the panel in front offers. Pressed twice it is done once: while a change that was asked for is being committed
        the screen still offers what is under way. What the bench commits by itself is waited for."""
        news, offered = self.presenter.news, self._offered
        if not news.free:
            if not news.acting:
                news.bring(lambda: self.primary() if self._offered == offered else None)
            return
        action = self.action()
        if self._stack.currentWidget() is self.idle:
            self.idle.primary()
        elif action is not None and action.allowed and action.call is not None:
            action.call()

    def strike(self) -> bool:
        """Strike the last reading; on the way to a signature it leads back to the readings."""
        run = self.run
        if run is None or run.step not in (*READING_STEPS, Step.ADJUST, Step.DECIDE):
            return False
        if run.step is Step.ADJUST:
            return self.panels.adjust.ask_strike()
        if run.step is Step.DECIDE:
            self.panels.pulls.show_run(run)
            self.panels.setCurrentWidget(self.panels.pulls)
            self.offer()
        panel = self.panel
        (panel if isinstance(panel, TrippingPanel) else self.panels.pulls).ask_strike()
        return True

    def key(self, watched: QObject, event: QEvent) -> bool:
        """Space holds a pull, and a pedal does what it was given, wherever the focus is on the bench or over the whole
        screen."""
        shown = self.isVisible() or self.far.isVisible()
        here = isinstance(watched, QWidget) and watched.window() in (self.window(), self.far)
        return shown and here and (self.pedals.key(event) or self.pulling.key(event))

    def far_away(self) -> None:
        """The reading over the whole screen, and back."""
        if self.run is not None:
            self.far.toggle()

    def shut(self) -> None:
        self._beat.stop()
        self.far.close()
        self.presenter.shut()

    # Showing the scene

    def _show_scene(self, scene: Scene) -> None:
        before, self._scene = self._scene, scene
        if scene.front is FrontView.RUN and scene.run is not None:
            self._show_run(scene.run, before.run)
            return
        self._beat.stop()
        self.asking.show_run(None)
        self.left.show_run(None)
        self.right.show_run(None)
        match scene.front:
            case FrontView.LOADING:
                self._stack.setCurrentWidget(self._loading)
                self.expect()
                return
            case FrontView.IDLE if scene.waiting is not None:
                self.idle.show_waiting(scene.waiting)
                self._stack.setCurrentWidget(self.idle)
                self.new_screen()
                return
            case FrontView.START:
                self._front(self.panels.start)
                self.panels.start.propose(
                    scene.tool_id, scene.kind, at=scene.at, at_once=self.presenter.wishes.takes_at_once()
                )
            case FrontView.NEW_TOOL:
                self.left.show_no_tag()
                self._front(self.panels.new_tool)
                self.panels.new_tool.ask(scene.number)
        self.offer()

    def _front(self, panel: Panel) -> None:
        self._stack.setCurrentWidget(self._working)
        self.panels.setCurrentWidget(panel)

    def _show_run(self, run: RunState, before: RunState | None) -> None:
        self.left.show_run(run)
        self.right.show_run(run)
        panel = self.panels.of(run)
        arrived, self._arriving = self._arriving, False
        fresh = self.panel is not panel or before is None or before.id != run.id or before.step is not run.step
        panel.show_run(run)
        if fresh:
            self._front(panel)
            panel.meter_changed()
            panel.show_run(run)
        if fresh or arrived:
            panel.arrive()
        self.asking.show_run(run)
        if self.asking.asks and (fresh or arrived):
            self.asking.setFocus()
        self.far.show_run(run)
        self.offer()
        self._beat.start()

    def offer(self) -> None:
        """Show what can be done now. Other words, or another panel, are a new screen: keys count once it is seen."""
        action = self.action()
        self.right.show_action(action)
        if action is None:
            offered: object = (self.panel, None)
        else:
            offered = (self.panel, action.words, action.allowed, self.run.step if self.run else None)
        if self._scene.front is FrontView.START and action is None:
            self.expect()
        elif offered != self._offered or not self._stands:
            self.new_screen()
        self._offered = offered

    def _meter_changed(self) -> None:
        run = self.run
        if run is not None:
            self.meter.aim(run)
            if self.meter.linked and run.room is None:
                self.meter.ask_room()
        for panel in self.panels.made:
            panel.meter_changed()
        self.offer()

    def _beat_once(self) -> None:
        panel = self.panel
        if self.run is not None and panel is not None and self.presenter.news.free:
            panel.beat()
            self.offer()
