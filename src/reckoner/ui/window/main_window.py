"""What the frame holds: the rail of places, the top line, who is at the bench, and the sentence at the foot."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, cast

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtWidgets import QStackedWidget, QWidget

from reckoner.core.errors import Refused
from reckoner.core.quantities.days import clock_words
from reckoner.core.translation import tr
from reckoner.store.terms import RunKind
from reckoner.ui import actions, daily
from reckoner.ui.frame import RAIL, SIZE, TOP, Frame
from reckoner.ui.layout import column, row, surface
from reckoner.ui.place import Place, Surroundings
from reckoner.ui.places import PLACES, SPECS, PlaceId, Target
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.text import label
from reckoner.ui.window.ahead import Ahead
from reckoner.ui.window.coming import ComingPlace
from reckoner.ui.window.drawer import Drawer
from reckoner.ui.window.foot import Foot
from reckoner.ui.window.gate import Gate
from reckoner.ui.window.keys import PlaceKeys
from reckoner.ui.window.making import MadePlaces
from reckoner.ui.window.rail import Rail
from reckoner.ui.window.seat import Seat
from reckoner.ui.window.topline import TopLine
from reckoner.ui.window.watching import ClockWatch, ForeignChanges
from reckoner.ui.window.whoishere import WhoIsHere
from reckoner.ui.work import call

if TYPE_CHECKING:
    from reckoner.shop.changes import Change
    from reckoner.ui.bench.place import BenchPlace
    from reckoner.ui.rehearsing import Rehearsal
    from reckoner.ui.window.keys import KeySheet

AHEAD_MS = 500
"""How often it is looked whether there is time to load ahead."""


class Window(QWidget):
    """Everything that the ``frame`` holds: the rail, the top line, the place in front, the foot."""

    def __init__(self, around: Surroundings, where: str, frame: Frame) -> None:
        super().__init__()
        self.around = around
        self.frame = frame
        self._where = where
        self.setProperty("class", "ground")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        around.go = self.go
        around.say = self.say
        around.saved = self._saved
        around.now = self._clock = ClockWatch(around.now, self.say)
        self._key_sheet: KeySheet | None = None
        self.rehearsal: Rehearsal | None = None
        self._waiting: Target | None = None
        self._going: Target | None = None
        self._ahead = Ahead(self)
        self._ahead.need(SPECS[PlaceId.TODAY].module, lambda: None)  # while the database opens
        self._build()
        self._first = QTimer(self)
        self._first.setInterval(AHEAD_MS)
        self._first.timeout.connect(self._load_ahead)
        self._first.start()
        frame.setWindowTitle(tr("Reckoner · {where}", where=where))
        frame.hold(self)
        around.theme.dress(frame)
        frame.closing.connect(self._shut)
        around.work.opened.connect(self._opened)
        around.work.checked.connect(self._checked)
        around.work.refused.connect(self.say)
        around.work.changed.connect(self._changed)
        around.work.reading.connect(self.foot.show_reading)
        self.foot.stopped.connect(around.work.stop_reading)

    def _build(self) -> None:
        theme = self.around.theme
        self._stack = QStackedWidget()
        self._stack.setMinimumSize(1, 1)  # a place gives way to the screen
        self._making = MadePlaces(self.around, self._stack)
        self._places = self._making.places
        self._ahead.finished.connect(self._making.start)
        self.rail = Rail(theme)
        self.rail.chosen.connect(lambda place: self.go(Target(place)))
        self.rail.show_place(PlaceId.TODAY)
        self.top_line = TopLine(self.around, self, lambda: self.current)
        self.who = WhoIsHere(theme)
        self.seat = Seat(self)
        self.seat.asked.connect(self._go_where_asked)
        self.seat.taken.connect(self._seat_taken)
        self.foot = Foot(theme)
        self._gate = Gate(self, self._stack)
        self._coming = ComingPlace(self.around)
        self._before: Place | None = None
        self._stack.addWidget(self._coming)
        self.around.put_back = self._gate.put_back
        bar = row(self.top_line, 1, label(theme, self._where, Type.BODY, "frame-quiet"), self.who, gap=2)
        bar.setContentsMargins(2 * GRID, GRID, 2 * GRID, GRID)
        rail_room, top_room = surface(column(self.rail, gap=0), "frame"), surface(bar, "frame")
        rail_room.setFixedWidth(RAIL)
        top_room.setFixedHeight(TOP)
        main = column(top_room, self._stack, self.foot, gap=0)
        main.setStretch(1, 1)
        self.setLayout(row(rail_room, main, gap=0))
        self.drawer = Drawer(self._stack, self.around, lambda: self.current)
        self.around.report = self.drawer.report
        self.keys = PlaceKeys(self.frame, lambda: self.drawer.in_front, self.top_line)
        self._bind()
        self.keys.install()

    def _bind(self) -> None:
        for place in PLACES:
            actions.bind(self, place.id, partial(self.go, Target(place.id)))
        actions.bind(self, "top-line", self.top_line.begin)
        actions.bind(self, "person", self.who.choose)
        actions.bind(self, "undo", lambda: self.around.undo_stack.undo())
        actions.bind(self, "redo", lambda: self.around.undo_stack.redo())
        actions.bind(self, "happened", self.drawer.ask)
        actions.bind(self, "check", lambda: check_in_front(self))
        actions.bind(self, "print", lambda: print_in_front(self))
        actions.bind(self, "far", lambda: self._on_bench(lambda bench: bench.far_away()))
        actions.bind(self, "mute", lambda: self._on_bench(lambda bench: bench.presenter.sounds.toggle()))
        actions.bind(self, "speech", lambda: self._on_bench(lambda bench: bench.presenter.speech.toggle()))
        actions.bind(self, "dark", self._toggle_dark)
        actions.bind(self, "keys", self._show_keys)

    @property
    def refusal(self) -> str:
        """Why the database could not be opened; empty when it could."""
        return self._gate.refusal

    # Going places

    def place(self, name: PlaceId) -> Place:
        """The place, made when it is first gone to."""
        return self._making.place(name)

    @property
    def idle(self) -> bool:
        """Nothing is under way, and no place is being loaded."""
        return self.around.work.idle and self._ahead.idle

    @property
    def current(self) -> Place:
        place = self._stack.currentWidget()
        return place if isinstance(place, Place) else self.place(PlaceId.TODAY)

    def go(self, target: Target) -> None:
        """Go to a place, and to what in it ``target`` names; as soon as the register is open, when it is not yet."""
        if not self.who.known:
            self._waiting = target
            return
        self.drawer.hide()
        self._going = target
        before = self._stack.currentWidget()
        if target.place not in self._places and isinstance(before, Place):
            before.expect()  # what keys mean is not known until the place is loaded
            if before is not self._coming:
                self._before = before
            self._coming.show_spec(SPECS[target.place])
            self._stack.setCurrentWidget(self._coming)
            self._coming.setFocus()  # else it would fall on the rail, whose buttons take Space
            self.rail.show_place(target.place)
        self._ahead.need(SPECS[target.place].module, lambda: self._arrive(target))

    def _arrive(self, target: Target) -> None:
        if target is not self._going:  # somewhere else was asked for meanwhile
            return
        place = self.place(target.place)
        if self.around.person is None and place.needs_person(target):
            self.say(tr("Choose who is at the bench first, at the top right."))
            self._go_back()
            self.who.choose()
            return
        self._stack.setCurrentWidget(place)
        self.rail.show_place(target.place)
        place.setFocus()
        place.expect()
        place.arrive(target)

    def _go_back(self) -> None:
        """What was in front stays there."""
        stood = next((name for name, place in self._places.items() if place is self._before), PlaceId.TODAY)
        if self._stack.currentWidget() is self._coming:
            self._stack.setCurrentWidget(self.place(stood))
            self.rail.show_place(stood)
        self.current.new_screen()

    def _load_ahead(self) -> None:
        """Once the first place stands and nothing is under way: what will be needed next."""
        place = self._stack.currentWidget()
        if isinstance(place, Place) and place.seen and self.idle:
            self._first.stop()
            self._ahead.start()
            self.around.work.check()
            daily.back_up(self.around, self._backed_up)
            daily.archive(self.around)

    def say(self, words: str) -> None:
        """Tell something at the foot of the window for a while."""
        self.foot.say(words)
        self.seat.tell(words)

    def _saved(self, words: str, path: Path) -> None:
        """A file was written: tell where, and keep that it was."""
        from reckoner.shop.records.saving import note_saved  # only when it is wanted

        self.foot.say(words, path)
        if self.around.person is not None and not self.around.work.looking_on:
            self.around.work.ask(call(note_saved, path, self.around.act()), lambda _none: None)

    # What happens around

    def _opened(self) -> None:
        from reckoner.shop.people.present import newest_time  # only when it is wanted
        from reckoner.ui.keptfiles import CalendarFile, LinkOutside

        following = self.findChild(ForeignChanges)
        if following is None:
            ForeignChanges(self)
            CalendarFile(self.around, self)
            LinkOutside(self.around, self)
        else:
            following.begin_again()
            self._making.start()
        self._waiting = self._waiting or Target(PlaceId.TODAY)
        self.around.work.look(newest_time, self._clock.compare_with)
        self.seat.ask_people()

    def _checked(self, sentence: str) -> None:
        """The database was read through behind the window."""
        self.around.file_words = sentence or tr(
            "Read through at {clock_words}: the database is whole.", clock_words=clock_words(self.around.now())
        )
        if sentence:
            self.say(sentence)
        self._tell_of_the_file()

    def _backed_up(self) -> None:
        from reckoner.ui.rehearsing import Rehearsal  # only when it is wanted

        self._tell_of_the_file()
        if self.rehearsal is None:
            self.rehearsal = Rehearsal(self.around, self)
        self.rehearsal.begin()

    def _tell_of_the_file(self) -> None:
        for place in self._places.values():
            place.file_checked()

    def refresh(self) -> None:
        """Everything may have changed: ask for the people, and for what is in front, anew."""
        from reckoner.shop.facts.ownunits import own_units  # only when it is wanted

        self.seat.ask_people()
        self.around.work.look(own_units, self.around.work_in)
        place = self._stack.currentWidget()
        if isinstance(place, Place):
            place.refresh()

    def _changed(self, made: tuple[Change, ...]) -> None:
        from reckoner.shop.changes import ChangeKind  # only when it is wanted
        from reckoner.shop.facts.ownunits import own_units

        if any(change.kind in (ChangeKind.PEOPLE, ChangeKind.SHOP) for change in made):
            self.seat.ask_people()
        if any(change.kind in (ChangeKind.SHOP, ChangeKind.MODELS) for change in made):
            self.around.work.look(own_units, self.around.work_in)
        for place in self._places.values():
            place.changes(made)

    def _go_where_asked(self) -> None:
        """It is known who there is: go where somebody wanted to before."""
        target, self._waiting = self._waiting, None
        if target is not None:
            self.go(target)

    def _seat_taken(self) -> None:
        for place in self._places.values():
            place.person_changed()

    def _on_bench(self, what: Callable[[BenchPlace], None]) -> None:
        """Something that only the bench can do."""
        place = self._places.get(PlaceId.BENCH)
        if place is not None:
            what(cast("BenchPlace", place))

    def _toggle_dark(self) -> None:
        theme = self.around.theme
        theme.set_dark(not theme.dark)
        self._remember(dark=theme.dark)

    def _remember(self, **settings: object) -> None:
        try:
            self.around.station.keep(**settings)
        except Refused as refusal:
            self.say(str(refusal))

    def _show_keys(self) -> None:
        from reckoner.ui.window.keys import KeySheet  # only when it is wanted

        if self._key_sheet is None:
            bench = cast("BenchPlace", self.place(PlaceId.BENCH))
            show_pedals = partial(bench.pedals.show_sheet, self.around.theme, self)
            self._key_sheet = KeySheet(self.around.theme, self, show_pedals)
        self._key_sheet.setVisible(not self._key_sheet.isVisible())

    def _shut(self) -> None:
        """Let the meter and the database go; remember the window's size."""
        frame, before = self.frame, self.around.station.settings.window or SIZE
        size = (frame.width(), frame.height())
        if not frame.isMaximized() and size not in (before, frame.forced):
            self._remember(window=size)
        self.keys.remove()
        self._first.stop()
        self._ahead.stop()
        self._making.stop()
        if self.rehearsal is not None:
            self.rehearsal.stop()
        for place in self._places.values():
            place.shut()
        self.around.work.stop()

    def close_places(self) -> tuple[Place, ...]:
        """Another database will be opened: let every place go, to be made anew. They are for the caller to throw away."""
        closed = self._making.take_out()
        for place in closed:
            place.shut()
        self.seat.leave()
        self.around.undo_stack.forget()
        return closed


def check_in_front(window: Window) -> None:
    """Put the tool in front on the bench for a quick check."""
    tool_id = window.current.tool_in_front if isinstance(window.current, Place) else None
    if tool_id is not None:
        window.go(Target(PlaceId.BENCH, tool=tool_id, kind=RunKind.CHECK))


def print_in_front(window: Window) -> None:
    """Go to the results of the tool in front, as they will be printed; in Records, print what is shown."""
    from reckoner.ui.records.place import RecordsPlace  # loads numpy

    place = window.current
    if isinstance(place, RecordsPlace):
        place.print()
    elif isinstance(place, Place):
        window.go(Target(PlaceId.RECORDS, tool=place.tool_in_front))
