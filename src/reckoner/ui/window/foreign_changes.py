"""Following what other programs write: an import, or the window that this one looks on at."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, QTimer

from reckoner.core.errors import Refused
from reckoner.store.errors import DatabaseReplaced

if TYPE_CHECKING:
    from reckoner.ui.window.main_window import Window

EVERY_MS = 700


class ForeignChanges(QObject):
    """Asks again and again whether the database is another one than before, and lets the window look at it anew. That the
    file has gone is noticed so too, and said once; whatever else refuses the question is no concern of who works here."""

    def __init__(self, window: Window) -> None:
        super().__init__(window)
        self._window = window
        self._version: int | None = None
        self._said = ""
        self._timer = QTimer(self)
        self._timer.setInterval(EVERY_MS)
        self._timer.timeout.connect(self._read_newest)
        self._timer.start()
        self._ask()  # before the places ask: what is written from now on is to be seen

    def begin_again(self) -> None:
        """Another database was opened: what was known of the one before counts no more."""
        self._version = None
        self._ask()

    def _read_newest(self) -> None:
        if self._window.around.work.idle:
            self._ask()

    def _ask(self) -> None:
        self._window.around.work.look(lambda reader: reader.change_number(), self._seen, self._refused)

    def _seen(self, version: int) -> None:
        self._said = ""
        if self._version is not None and version != self._version:
            self._window.refresh()
        self._version = version

    def _refused(self, refusal: Refused) -> None:
        if isinstance(refusal, DatabaseReplaced) and str(refusal) != self._said:
            self._said = str(refusal)
            self._window.say(self._said)
