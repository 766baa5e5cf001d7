"""The state of the bench apart from its widgets: what is in front, the run, the meter, and every change of the run.

What was read when the database was there no more.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from enum import Enum, auto
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal

from reckoner.core.errors import Refused
from reckoner.core.reference.plan import HungWish
from reckoner.core.translation import tr
from reckoner.formats.files import FileNotWritten
from reckoner.formats.tables import save
from reckoner.shop.changes import Change, ChangeKind
from reckoner.shop.planning.idlebench import IdleBench, idle_bench
from reckoner.shop.register.cards import card
from reckoner.shop.runs import opening, rescue
from reckoner.shop.runs.loading import load
from reckoner.shop.runs.planning import RunPlan
from reckoner.shop.runs.rescue import NotKept
from reckoner.shop.runs.state import RunState
from reckoner.store.errors import DatabaseReplaced
from reckoner.store.terms import RunKind
from reckoner.ui.bench.meter.desk import MeterDesk
from reckoner.ui.bench.meter.intake import ReadingIntake
from reckoner.ui.bench.meter.toollink import ToolLink
from reckoner.ui.bench.panel import RunChange
from reckoner.ui.place import Surroundings
from reckoner.ui.places import PlaceId, Target, WayBack
from reckoner.ui.sounds import Sounds
from reckoner.ui.speech import Speech
from reckoner.ui.work import APOLOGY, call


class Unkept(QObject):
    """Remembers the readings that were not kept, and saves a run's readings, kept or not, into a file.

    ``gone()``: the database is there no more, and what was read can be saved elsewhere.
    """

    gone = pyqtSignal()

    def __init__(self, parent: QObject, say: Callable[[str], None], fault: Callable[[str], None]) -> None:
        super().__init__(parent)
        self._say = say
        self._fault = fault
        self._readings: list[NotKept] = []

    def note(self, run: RunState, at: datetime, torque: float | None) -> None:
        """A change of ``run`` was not kept; it would have added a reading of ``torque`` in N·m, or none."""
        if torque is not None:
            self._readings.append(NotKept(at, run.current or run.series[-1], torque))
        self.gone.emit()

    def forget(self) -> None:
        """The run is left."""
        self._readings.clear()

    def save(self, run: RunState | None, path: str) -> None:
        """Write the readings of ``run`` into a file."""
        if run is None:
            return
        try:
            save(Path(path), tuple(rescue.lines(run, self._readings)))
        except FileNotWritten as refusal:
            self._fault(str(refusal))
        else:
            self._say(tr("The readings of {number} are in {path}.", number=run.tool.number, path=path))


class FrontView(Enum):
    """What stands in front on the bench."""

    IDLE = auto()
    LOADING = auto()
    START = auto()
    NEW_TOOL = auto()
    RUN = auto()


@dataclass(frozen=True)
class Scene:
    """What is shown: ``run`` for a run, ``tool_id`` for what is proposed, ``number`` of a tool to be added, ``waiting`` for
    the idle bench, ``kind`` of run that was asked for, and the torque ``at`` which (N·m)."""

    front: FrontView
    run: RunState | None = None
    tool_id: int = 0
    number: str = ""
    kind: RunKind | None = None
    at: float | None = None
    waiting: IdleBench | None = None


class MeterNews:
    """What the meter brings, held back while changes are being committed, and told in its order afterwards."""

    def __init__(self) -> None:
        self._busy = self._by_hand = 0
        self._held: deque[Callable[[], None]] = deque()

    @property
    def free(self) -> bool:
        """No change is being committed."""
        return self._busy == 0

    @property
    def acting(self) -> bool:
        """A change that a person asked for is being committed."""
        return self._by_hand > 0

    def begin(self, *, by_hand: bool = True) -> None:
        """A change is asked for, ``by_hand`` or by the bench itself."""
        self._busy += 1
        self._by_hand += by_hand

    def end(self, *, by_hand: bool = True) -> None:
        """It came back, whichever way it ended."""
        self._busy -= 1
        self._by_hand -= by_hand

    def bring(self, tell: Callable[[], None]) -> None:
        self._held.append(tell)
        self.tell()

    def tell(self) -> None:
        """Tell what was held back, as far as nothing is being committed."""
        while self._held and self.free:
            self._held.popleft()()

    def forget(self) -> None:
        self._held.clear()


class Wishes:
    """What a person said to have, and where they came from, for one tool: it is of no other that comes in front."""

    def __init__(self, in_front: Callable[[], int]) -> None:
        """``in_front`` tells the id of the tool in front."""
        self._in_front = in_front
        self._wish: HungWish | None = None
        self._back: WayBack | None = None
        self._new = Target(PlaceId.BENCH)
        self._tool_id = 0
        self._at_once = False

    def hear(self, tool_id: int, wish: HungWish | None, back: WayBack | None = None) -> None:
        """A tool is asked for, with what a person has or without."""
        if back is None and tool_id == self._tool_id:
            back = self._back  # the same tool once more: the way back stands
        self._tool_id, self._wish, self._back, self._at_once = tool_id, wish, back, wish is not None

    def hear_new(self, target: Target) -> None:
        """A tool that is not in the register is asked for, with what a person has or without."""
        self._new = target

    def target_of_new(self, tool_id: int) -> Target:
        """Where a tool goes that was added for it: to the bench, with what a person has for it."""
        asked, self._new = self._new, Target(PlaceId.BENCH)
        return asked.to_bench(tool_id)

    @property
    def new(self) -> Target:
        """What was asked for with the new tool."""
        return self._new

    @property
    def now(self) -> HungWish | None:
        """For the tool in front; None where nothing was said."""
        return self._wish if self._in_front() == self._tool_id else None

    @property
    def back(self) -> WayBack | None:
        """Where whoever asked for the tool in front goes on; None where nothing was said."""
        return self._back if self._in_front() == self._tool_id else None

    def went_back(self) -> None:
        """They are there again."""
        self._back = None

    def begun(self) -> None:
        """A run stands in front: nothing more begins by itself."""
        self._at_once = False

    def takes_at_once(self) -> bool:
        """Whether what is proposed begins without another press: once, for a press said so before."""
        at_once, self._at_once = self._at_once, False
        return at_once and self.now is not None


class BenchPresenter(QObject):
    """Signals ``stood(Scene)``: show this from now on · ``offered()``: what can be done may have changed ·
    ``faulted(sentence)``: beside the primary button; empty clears it · ``tagged(ToolCard)``: of the tool in front.

    What the meter brings while a change is being committed waits for it, and is not lost, whichever way the change ends.
    """

    stood = pyqtSignal(object)
    offered = pyqtSignal()
    faulted = pyqtSignal(str)
    tagged = pyqtSignal(object)

    def __init__(self, around: Surroundings, parent: QObject) -> None:
        super().__init__(parent)
        self.around = around
        self.scene = Scene(FrontView.IDLE)
        self.sounds = Sounds(self, around.station, lambda words: around.say(words))
        self.speech = Speech(self, around.station, lambda words: around.say(words))
        self.meter = MeterDesk(around.meter_url, around.station, self)
        self.tool = ToolLink(around.station, self)
        self.taker = ReadingIntake(self, self.do, self.around.act, self.sounds)
        self.news = MeterNews()
        self._closed = False
        self._asked = 0
        self._before: int | None = None
        self.wishes = Wishes(lambda: self.run.tool.id if self.run is not None else self.scene.tool_id)
        self.unkept = Unkept(self, around.say, self.fault)
        self.meter.signalled.connect(lambda signal: self.news.bring(lambda: self.taker.signalled(signal)))
        self.meter.pulled.connect(lambda pull: self.news.bring(lambda: self.taker.pulled(pull)))
        self.meter.valued.connect(lambda torque: self.news.bring(lambda: self.taker.valued(torque)))
        for source in (self.meter.shown, self.tool.shown):
            source.connect(lambda torque: self.news.bring(lambda: self.taker.shown(torque)))

    @property
    def run(self) -> RunState | None:
        """The run in front."""
        return self.scene.run

    # Coming and going

    def open_tool(self, tool_id: int, target: Target) -> None:
        """Go on with the tool's run, or propose one, of the kind and at the torque that the ``target`` asks for; with a wish
        it begins at once where nothing is lacking, and what a person has is to be hung."""
        self.wishes.hear(tool_id, target.wish, target.back)
        kind, at = target.kind, target.at
        current = self._ask_for_another()
        self.around.work.browse(
            call(opening.open_run_of, tool_id),
            lambda run_id: current(
                lambda: self.propose(tool_id, kind, at) if run_id is None else self.open_run(run_id)
            ),
            lambda refusal: current(lambda: self._not_found(refusal)),
            lambda: current(lambda: self._not_loaded(APOLOGY)),
        )

    def open_run(self, run_id: int) -> None:
        """Open one run: begun, or signed to be looked at."""
        current = self._ask_for_another()
        self.around.work.browse(
            call(load, run_id),
            lambda found: current(lambda: self._arrived(found)),
            lambda refusal: current(lambda: self._not_found(refusal)),
            lambda: current(lambda: self._not_loaded(APOLOGY)),
        )

    def propose(self, tool_id: int, kind: RunKind | None = None, at: float | None = None) -> None:
        """Propose a run for a tool."""
        if not self._closed:
            self._leave_run()
            self._stand(Scene(FrontView.START, tool_id=tool_id, kind=kind, at=at))
            self._fetch_tag(tool_id)

    def offer_new_tool(self, target: Target) -> None:
        """Offer to add a tool of the number that the ``target`` asks for, with what else it says."""
        number = target.number
        self.wishes.hear_new(target)
        self._before = self.run.id if self.run is not None else None
        self._leave_run()
        self._stand(Scene(FrontView.NEW_TOOL, number=number))

    def leave_new_tool(self) -> None:
        """Add no tool; the run that was in front before comes back."""
        if self._before is not None:
            self.open_run(self._before)
        else:
            self._idle()

    def refresh(self) -> None:
        """Show what the database now holds of what is in front."""
        if self.run is not None:
            self.open_run(self.run.id)
        elif self.scene.front is FrontView.START:
            self._stand(self.scene)
        else:
            self._idle()

    def begin(self, tool_id: int, plan: RunPlan) -> None:
        """Put the tool on the bench as planned."""
        act = self.around.act()
        self.around.work.ask(
            call(opening.open_run, tool_id, act, plan),
            self._arrived,
            lambda refusal: self.fault(str(refusal)),
            lambda: self.fault(APOLOGY),
        )

    def _idle(self) -> None:
        self.around.work.browse(
            call(idle_bench, self.around.today), lambda found: self._stand(Scene(FrontView.IDLE, waiting=found))
        )

    def _ask_for_another(self) -> Callable[[Callable[[], None]], None]:
        """Something else comes in front. What is returned calls its argument unless yet another thing was asked for since."""
        self._asked += 1
        asked = self._asked
        if self.scene.front is not FrontView.RUN:
            self._stand(Scene(FrontView.LOADING))

        def current(then: Callable[[], None]) -> None:
            if asked == self._asked:
                then()

        return current

    def _not_found(self, refusal: Refused) -> None:
        if isinstance(refusal, DatabaseReplaced) and self.run is not None:
            self.around.say(str(refusal))
            self.stood.emit(self.scene)  # what was read is here and nowhere else
        else:
            self._not_loaded(str(refusal))

    def _not_loaded(self, words: str) -> None:
        self.around.say(words)
        self._leave_run()
        self._idle()

    def _arrived(self, found: RunState) -> None:
        if self.run is None or self.run.id != found.id:
            self._leave_run()
        self._take_state(found)
        if not found.abandoned:
            self._fetch_tag(found.tool.id)

    def _leave_run(self) -> None:
        self.meter.hang_up()
        self.tool.hang_up()
        self.news.forget()
        self.scene = Scene(FrontView.LOADING)
        self.taker.stand_at(None)
        self.unkept.forget()
        self.fault("")

    def _take_state(self, found: RunState) -> None:
        if found.abandoned:
            self._leave_run()
            self._idle()
            return
        self.scene = Scene(FrontView.RUN, run=found)
        self.wishes.begun()
        if not self._closed:
            self.meter.dial(found)
            self.meter.aim(found)
            self.tool.dial(found)
        self.taker.stand_at(found)
        self.stood.emit(self.scene)

    def _stand(self, scene: Scene) -> None:
        if not self._closed:
            self.scene = scene
            self.stood.emit(scene)

    def _fetch_tag(self, tool_id: int) -> None:
        self.around.work.look(call(card, tool_id), self.tagged.emit)

    # Changing the run

    def do(
        self,
        change: RunChange,
        *,
        done: Callable[[], None] | None = None,
        refused: Callable[[str], None] | None = None,
        told: Callable[[Refused], None] | None = None,
        torque: float | None = None,
        by_hand: bool = True,
    ) -> None:
        """Commit a change of the run, show it, then call ``done``; the sentence of a refusal goes to ``refused``, or beside
        the button; ``told`` is called with the refusal itself.

        ``torque`` in N·m is what the change would keep as a reading: it is remembered when the database has gone. Not
        ``by_hand``: the bench itself asks for it.
        """
        if not self.around.seated:
            self.around.say(tr("Nobody sits here now: nothing was kept. Sit down, then do it again."))
            return
        act = self.around.act()
        self.news.begin(by_hand=by_hand)

        def kept(found: RunState | None) -> None:
            self.fault("")
            if found is not None and self.run is not None and self.run.id == found.id:
                self._take_state(found)
            if done is not None:
                done()
            self.news.tell()

        def not_kept(refusal: Refused) -> None:
            if isinstance(refusal, DatabaseReplaced) and self.run is not None:
                self.unkept.note(self.run, act.at, torque)
            if told is not None:
                told(refusal)
            (refused or self.fault)(str(refusal))
            self.news.tell()

        def failed() -> None:
            self.fault(APOLOGY)
            self.news.tell()

        over = partial(self.news.end, by_hand=by_hand)
        self.around.work.ask(change, kept, not_kept, failed, ended=over)

    def give_up(self, reason: str, *, hold: bool = False) -> None:
        """End the run without a result."""
        run = self.run
        if run is not None:
            self.do(call(opening.give_up, run.id, reason, self.around.act(), hold=hold))

    def changes(self, made: tuple[Change, ...]) -> None:
        """Look again at what was changed elsewhere: the tag's tool, the idle bench."""
        standings = {i for c in made if c.kind is ChangeKind.STANDINGS for i in c.ids}
        tool_id = self.run.tool.id if self.run is not None else self.scene.tool_id
        if tool_id in standings:
            self._fetch_tag(tool_id)
        if standings and self.scene.front is FrontView.IDLE:
            self._idle()

    def fault(self, sentence: str) -> None:
        """Say beside the primary button what cannot be done."""
        self.faulted.emit(sentence)
        if sentence:
            self.sounds.play("refused")

    def offer(self) -> None:
        self.offered.emit()

    # The meter

    def connect_again(self) -> None:
        self.meter.hang_up()
        if self.run is not None:
            self.meter.dial(self.run)
            self.meter.aim(self.run)

    def shut(self) -> None:
        """Let the meter go before the window closes."""
        self._closed = True
        self.meter.shut()
        self.tool.hang_up()
