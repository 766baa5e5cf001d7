"""The frame: the rail of places, the top line, who is at the bench, and the sentence at the foot."""

from __future__ import annotations

import importlib
import logging
from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtCore import QEvent, QObject, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QCloseEvent, QKeyEvent, QPaintEvent
from PyQt6.QtWidgets import (
    QApplication,
    QFrame,
    QLabel,
    QLineEdit,
    QMainWindow,
    QMenu,
    QPushButton,
    QStackedWidget,
    QWidget,
)

from reckoner.ui import actions
from reckoner.ui.layout import column, row
from reckoner.ui.place import Place, Surroundings
from reckoner.ui.rail import Rail
from reckoner.ui.theme import GRID, Type
from reckoner.ui.topline import TopLine
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.text import label

if TYPE_CHECKING:
    from reckoner.shop.acts import PersonFacts
    from reckoner.ui.keysheet import KeySheet

log = logging.getLogger("reckoner.window")


PLACES = {
    "today": ("reckoner.ui.today", "TodayPlace"),
    "bench": ("reckoner.ui.bench", "BenchPlace"),
    "tools": ("reckoner.ui.tools", "ToolsPlace"),
}
"""The places in the rail's order, as (module, class); each loads when it is first gone to, so that the window is there
at once. To add one: a row here, in ``actions.ACTIONS`` and in ``rail.SIGNS``."""


class Window(QMainWindow):
    """The main window. ``shown_first`` is emitted once, when the frame is painted."""

    shown_first = pyqtSignal()

    def __init__(self, around: Surroundings, where: str) -> None:
        super().__init__()
        self.around = around
        self._where = where
        self.setWindowTitle(f"Reckoner · {where}")
        self.resize(1280, 800)
        self.setMinimumSize(1024, 640)
        around.go_bench = self.go_bench
        around.go_tool = self.go_tool
        around.go_run = self.go_run
        around.say = self.say
        self._people: tuple[PersonFacts, ...] = ()
        self._places: dict[str, Place] = {}
        self._key_sheet: KeySheet | None = None
        self._painted = self._furnished = False
        self.refusal = ""
        """Why the database could not be opened; empty when it could."""
        self._stack = QStackedWidget()
        self._rail_room, self._top_room, self._foot = QFrame(), QFrame(), QFrame()
        self._frame()
        around.work.opened.connect(self._opened)
        around.work.cannot_open.connect(self._cannot_open)
        around.work.refused.connect(self.say)
        around.work.changed.connect(self._changed)

    def _frame(self) -> None:
        """The bare frame: what is painted at once. It keeps clear of Qt's enumerations, which take a while to load."""
        for room, kind in ((self._rail_room, "frame"), (self._top_room, "frame"), (self._foot, "notice")):
            room.setProperty("class", kind)
        self._rail_room.setFixedWidth(11 * GRID)
        self._top_room.setFixedHeight(7 * GRID)
        self._foot.hide()
        opening = QLabel("Opening the register…")
        opening.setProperty("class", "quiet")
        opening.setMargin(3 * GRID)
        self._stack.addWidget(opening)
        whole = QFrame()
        whole.setProperty("class", "ground")
        main = column(self._top_room, self._stack, self._foot, gap=0)
        main.setStretch(1, 1)
        whole.setLayout(row(self._rail_room, main, gap=0))
        self.setCentralWidget(whole)

    def furnish(self) -> None:
        """Put the rail, the top line and the keys into the frame. Once: as soon as the frame is painted."""
        if self._furnished:
            return
        self._furnished = True
        theme = self.around.theme
        theme.finish()
        self.rail = Rail(theme, tuple(PLACES))
        self.rail.chosen.connect(self.go)
        self.rail.show_place("today")
        self._rail_room.setLayout(column(self.rail, gap=0))
        self.top_line = TopLine(theme, tuple(PLACES), self)
        self.top_line.tool.connect(self.go_tool)
        self.top_line.place.connect(self.go)
        self.top_line.missed.connect(self.say)
        self.top_line.unknown.connect(self.go_new_tool)
        self._person = button(theme, "Who is here?", self._choose_person, "pill")
        self._person.setToolTip(actions.tooltip("person"))
        bar = row(self.top_line, 1, label(theme, self._where, Type.BODY, "frame-quiet"), self._person, gap=2)
        bar.setContentsMargins(2 * GRID, GRID, 2 * GRID, GRID)
        self._top_room.setLayout(bar)
        self._said = label(theme, "", Type.STRONG, "frame-quiet", wrap=True)
        foot = row(self._said)
        foot.setContentsMargins(2 * GRID, GRID, 2 * GRID, GRID)
        self._foot.setLayout(foot)
        self._quieten = QTimer(self)
        self._quieten.setSingleShot(True)
        self._quieten.timeout.connect(self._foot.hide)
        self._bind()
        application = QApplication.instance()
        if application is not None:
            application.installEventFilter(self)

    def _bind(self) -> None:
        for place in PLACES:
            actions.bind(self, place, partial(self.go, place))
        actions.bind(self, "top-line", self._to_top_line)
        actions.bind(self, "person", self._choose_person)
        actions.bind(self, "far", lambda: self._on_bench("far_away"))
        actions.bind(self, "mute", lambda: self._on_bench("mute"))
        actions.bind(self, "dark", lambda: self.around.theme.set_dark(not self.around.theme.dark))
        actions.bind(self, "keys", self._show_keys)

    # Going places

    def place(self, name: str) -> Place:
        """The place, made when it is first gone to."""
        if name not in self._places:
            module, cls = PLACES[name]
            self._places[name] = getattr(importlib.import_module(module), cls)(self.around)
            self._stack.addWidget(self._places[name])
        return self._places[name]

    @property
    def current(self) -> Place:
        place = self._stack.currentWidget()
        return place if isinstance(place, Place) else self.place("today")

    def go(self, name: str) -> None:
        """Go to a place and show what the database now holds."""
        place = self.place(name)
        self._stack.setCurrentWidget(place)
        self.rail.show_place(name)
        place.setFocus()
        place.refresh()

    def go_bench(self, tool_id: int) -> None:
        if self.around.person is None:
            self.say("Choose who is at the bench first, at the top right.")
            self._choose_person()
            return
        place = self.place("bench")
        self._stack.setCurrentWidget(place)
        self.rail.show_place("bench")
        place.show_tool(tool_id)

    def go_run(self, run_id: int) -> None:
        """Open a run on the bench: to go on with it, or to look at what was signed."""
        place = self.place("bench")
        self._stack.setCurrentWidget(place)
        self.rail.show_place("bench")
        place.show_run_id(run_id)

    def go_new_tool(self, number: str) -> None:
        """A number that is not in the register was scanned: offer to add the tool."""
        if self.around.person is None:
            self.say("Choose who is at the bench first, at the top right.")
            return
        place = self.place("bench")
        self._stack.setCurrentWidget(place)
        self.rail.show_place("bench")
        place.show_unknown(number)

    def go_tool(self, tool_id: int) -> None:
        place = self.place("tools")
        self._stack.setCurrentWidget(place)
        self.rail.show_place("tools")
        place.show_tool(tool_id)

    def say(self, words: str) -> None:
        """Tell something at the foot of the window for a while."""
        self._said.setText(words)
        self._foot.setVisible(bool(words))
        self._quieten.start(12000)

    # What happens around

    def _opened(self) -> None:
        self.furnish()
        from reckoner.shop.acts import people

        self.around.work.ask(people, self._show_people)
        self._refresh_cards()
        self.go("today")

    def _cannot_open(self, sentence: str) -> None:
        self.furnish()
        self.refusal = sentence
        message = label(self.around.theme, sentence, Type.TITLE, "fault", wrap=True)
        message.setAccessibleName("Cannot open the database")
        holder = QWidget()
        holder.setLayout(column(message, 1, margin=4))
        self._stack.addWidget(holder)
        self._stack.setCurrentWidget(holder)
        self.rail.setEnabled(False)
        self.top_line.setEnabled(False)
        self._foot.hide()

    def _changed(self, kind: str) -> None:
        if kind in ("runs", "register"):
            self._refresh_cards()

    def _refresh_cards(self) -> None:
        from reckoner.shop.register import cards

        today = self.around.today
        self.around.work.ask(lambda session: cards(session, today), self.top_line.show_cards)

    def _show_people(self, found: tuple[PersonFacts, ...]) -> None:
        self._people = found
        if self.around.person is None and found:
            self._be(found[0])
        self._person.setVisible(bool(found))

    def _be(self, person: PersonFacts) -> None:
        self.around.person = person
        self._person.setText(person.initials)
        self._person.setAccessibleName(f"At the bench: {person.name}")
        place = self._places.get("bench")
        if place is not None:
            place.refresh()

    def _choose_person(self) -> None:
        menu = QMenu(self)
        for person in self._people:
            action = menu.addAction(f"{person.initials}  {person.name}")
            if action is not None:
                action.triggered.connect(lambda _checked=False, person=person: self._be(person))
        menu.popup(self._person.mapToGlobal(self._person.rect().bottomLeft()))

    def _on_bench(self, what: str) -> None:
        """Something that only the bench can do."""
        place = self._places.get("bench")
        if place is not None:
            getattr(place, what)()

    def _to_top_line(self) -> None:
        self.top_line.setFocus(Qt.FocusReason.ShortcutFocusReason)
        self.top_line.selectAll()

    def _show_keys(self) -> None:
        from reckoner.ui.keysheet import KeySheet

        if self._key_sheet is None:
            self._key_sheet = KeySheet(self.around.theme, self)
        self._key_sheet.setVisible(not self._key_sheet.isVisible())

    # Keys that belong to the place in front

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Enter, Backspace and Space go to the place in front unless something nearer wants them."""
        if isinstance(event, QKeyEvent) and isinstance(watched, QWidget) and watched.window() is self:
            place = self.current
            if place.eventFilter(watched, event):
                return True
            focused = self.focused()
            if event.type() == QEvent.Type.KeyPress and watched is (focused or self):
                return self._nearer(event, focused)
        return super().eventFilter(watched, event)

    def focused(self) -> QWidget | None:
        """The widget of this window that has the focus."""
        found = QApplication.focusWidget()
        return found if found is not None and found.window() is self else self.focusWidget()

    def _nearer(self, event: QKeyEvent, focused: QWidget | None) -> bool:
        in_words = isinstance(focused, QLineEdit) and (focused is self.top_line or bool(focused.text()))
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            if in_words:
                return False
            if isinstance(focused, QPushButton) and focused.property("class") not in ("primary",):
                focused.click()
                return True
            self.current.primary()
            return True
        if event.key() == Qt.Key.Key_Backspace:
            if in_words:
                return False
            return self.current.strike()
        return False

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        if not self._painted:
            self._painted = True
            QTimer.singleShot(0, self.shown_first.emit)
            QTimer.singleShot(0, self.furnish)

    def closeEvent(self, event: QCloseEvent | None) -> None:
        """Let the meter and the database go."""
        application = QApplication.instance()
        if application is not None:
            application.removeEventFilter(self)
        for place in self._places.values():
            place.shut()
        self.around.work.stop()
        super().closeEvent(event)
