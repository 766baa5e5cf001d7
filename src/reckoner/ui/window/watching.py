"""Following what other programs write: an import, or the window that this one looks on at.

The clock that the window goes by, and a word once it has gone back.
"""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime, timedelta
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, QTimer

from reckoner.core.errors import Refused
from reckoner.core.quantities.days import clock_words, day_words
from reckoner.core.translation import tr
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


SLACK = timedelta(minutes=2)
"""A clock that is put right by less is nobody's concern."""


class ClockWatch:
    """Gives the present moment as ``now`` does, and says once when that lies before what was there already.

    Nothing is blocked by it: records are in the order in which they were kept.
    """

    def __init__(self, now: Callable[[], datetime], say: Callable[[str], None]) -> None:
        self._now = now
        self._say = say
        self._latest: datetime | None = None

    def __call__(self) -> datetime:
        present, latest = self._now(), self._latest
        if latest is not None and present < latest - SLACK:
            self._latest = present
            self._say(
                tr(
                    "The clock has gone back: it says {time_words}, and it was {time_words_2} already. Nothing is "
                    "lost and records keep their order; set the clock, so that days are right.",
                    time_words=_time_words(present),
                    time_words_2=_time_words(latest),
                )
            )
        else:
            self.compare_with(present)
        return present

    def compare_with(self, at: datetime | None) -> None:
        """The present comes after ``at``, when the newest record was kept (None: there is none)."""
        if at is not None:
            self._latest = at if self._latest is None else max(at, self._latest)


def _time_words(at: datetime) -> str:
    return tr("{clock_words} on {at}", clock_words=clock_words(at), at=day_words(at))
