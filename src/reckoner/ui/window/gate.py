"""The way to the database: opening it, what to offer where it cannot be opened, and opening another one in its place."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, Qt
from PyQt6.QtWidgets import QStackedWidget, QWidget

from reckoner.core.quantities.days import moment_words
from reckoner.core.translation import tr
from reckoner.ui import daily
from reckoner.ui.frame import OPENING
from reckoner.ui.layout import column, row
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.text import label

if TYPE_CHECKING:
    from reckoner.core.errors import Refused
    from reckoner.ui.place import Place
    from reckoner.ui.window.main_window import Window

LOOK_ON = tr("Look on without changing anything")
AGAIN = tr("Try again")


class Gate(QObject):
    """Stands in the ``stack`` of places while there is none. ``refusal`` says why the database could not be opened; empty
    when it could."""

    def __init__(self, window: Window, stack: QStackedWidget) -> None:
        super().__init__(window)
        self._window = window
        self._stack = stack
        self._left: list[Place] = []
        self._done = ""  # what to say once it is open
        self.refusal = ""
        theme = window.around.theme
        self._words = label(theme, OPENING, Type.BODY, "quiet")
        self._words.setAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop)
        self._words.setMargin(3 * GRID)
        stack.addWidget(self._words)
        work = window.around.work
        work.opened.connect(self._opened)
        work.opening.connect(
            lambda words, done, of: self._words.setText(tr("{words}: {done} of {of}…", words=words, done=done, of=of))
        )
        work.cannot_open.connect(self._cannot_open)

    def _opened(self) -> None:
        while self._left:  # all that they had asked for has come back by now
            place = self._left.pop()
            self._stack.removeWidget(place)
            place.deleteLater()
        done, self._done = self._done, ""
        if done:
            self._window.say(done)

    def _cannot_open(self, sentence: str, refusal: Refused | None) -> None:
        """Say why, and offer what helps: a backup where it is damaged, looking on where it cannot be written, else another
        try."""
        from reckoner.store import errors  # only when it is wanted
        from reckoner.store.files import DATABASE
        from reckoner.store.lock import FolderHeld

        theme = self._window.around.theme
        match refusal:
            case errors.DatabaseDamaged() | errors.DatabaseNotOurs() | errors.TermUnknown() | errors.ValueUnreadable():
                self._refuse(sentence, *self._backup())
            case FolderHeld():
                self._refuse(sentence, button(theme, LOOK_ON, self._look_on))
            case errors.DirectoryNotWritable() if (self._window.around.folder / DATABASE).exists():
                self._refuse(sentence, button(theme, LOOK_ON, self._look_on), button(theme, AGAIN, self._try_again))
            case errors.DatabaseNewer():
                self._refuse(sentence)
            case _:
                self._refuse(sentence, button(theme, AGAIN, self._try_again))

    def _backup(self) -> tuple[QWidget, ...]:
        """The way to put the last good backup back, where this station keeps any."""
        around = self._window.around
        good = daily.last_good(around)
        if good is None:
            return ()
        words = tr(
            "Put back the backup of {moment_words}; the damaged file is kept beside it",
            moment_words=moment_words(good.at),
        )

        def put_back() -> None:
            self._come_to_life()
            around.work.open_after(lambda: self._put_in_place(good.path))

        return (button(around.theme, words, put_back),)

    def put_back(self, backup: Path) -> None:
        """Put a backup in the place of what is open, and open that: every place is made anew."""
        around = self._window.around
        by = around.person.initials if around.person is not None else ""  # closing the places forgets it
        self._left += self._window.close_places()
        self._come_to_life()
        around.older = None

        around.work.reopen(lambda: self._put_in_place(backup, by))

    def _put_in_place(self, backup: Path, by: str | None = None) -> None:
        around = self._window.around
        daily.put_back(around, backup, by)
        self._done = tr("{name} is put back; what was there is kept beside it.", name=backup.name)

    def _try_again(self) -> None:
        self._come_to_life()
        self._window.around.work.open_after(lambda: None)

    def _look_on(self) -> None:
        self._come_to_life()
        self._window.frame.setWindowTitle(
            tr("{windowtitle} · looking on", windowtitle=self._window.frame.windowTitle())
        )
        self._window.around.work.look_on()

    def _refuse(self, sentence: str, *offers: QWidget) -> None:
        self.refusal = sentence
        message = label(self._window.around.theme, sentence, Type.TITLE, "fault", wrap=True)
        message.setAccessibleName(tr("Cannot open the database"))
        holder = QWidget()
        holder.setLayout(column(message, row(*offers, 1), 1, gap=3, margin=4))
        self._stack.addWidget(holder)
        self._stack.setCurrentWidget(holder)
        self._let(False)
        if offers:
            offers[0].setFocus()

    def _come_to_life(self) -> None:
        """It will be opened after all."""
        self.refusal = ""
        self._words.setText(OPENING)
        self._stack.setCurrentWidget(self._words)
        self._let(True)

    def _let(self, on: bool) -> None:
        self._window.rail.setEnabled(on)
        self._window.top_line.setEnabled(on)
        self._window.foot.setVisible(on and bool(self._window.foot.words))
