"""The clock that the window goes by, and a word once it has gone back."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime, timedelta

from reckoner.core.quantities.days import clock_words, day_words
from reckoner.core.translation import tr

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
