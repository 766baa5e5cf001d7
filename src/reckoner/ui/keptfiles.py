"""Files that a station keeps current after changes: the calendar of the due dates, and the newest link outside."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, QTimer

from reckoner.ui.place import Surroundings
from reckoner.ui.work import call_in

if TYPE_CHECKING:
    from reckoner.shop.changes import Change, ChangeKind


def write_calendar(around: Surroundings, path: Path, done: Callable[[], None] = lambda: None) -> None:
    """Write the due dates into ``path``, whole or not at all; a refusal is told at the foot."""
    gather = call_in("reckoner.shop.papers.calendar", "calendar_file", around.now(), path)
    around.work.prepare(gather, lambda _none: done())


def write_link(around: Surroundings, path: Path) -> None:
    """Add the newest link to the file at ``path``; a refusal is told at the foot."""
    around.work.prepare(call_in("reckoner.shop.records.outside", "link_line", around.now(), path), lambda _none: None)


class KeptFile(QObject):
    """Writes a file anew once changes that it ``cares`` for have been quiet for ``CALM_MS``."""

    CALM_MS: int

    def __init__(self, around: Surroundings, parent: QObject) -> None:
        super().__init__(parent)
        self._around = around
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(self.CALM_MS)
        self._timer.timeout.connect(self.write)
        around.work.changed.connect(self.changes)

    def cares(self) -> tuple[ChangeKind, ...]:
        """The kinds of changes after which it is another."""
        raise NotImplementedError

    @property
    def path(self) -> str:
        """Where this station keeps it; empty where it does not."""
        raise NotImplementedError

    def write_into(self, path: Path) -> None:
        raise NotImplementedError

    def changes(self, made: tuple[Change, ...]) -> None:
        """Something was changed."""
        if self.path and any(change.kind in self.cares() for change in made):
            self._timer.start()

    def write(self) -> None:
        """Write it now."""
        if self.path and self._around.work.is_open:
            self.write_into(Path(self.path))


class CalendarFile(KeptFile):
    """The due dates, for whoever subscribes to them."""

    CALM_MS = 2000

    def cares(self) -> tuple[ChangeKind, ...]:
        from reckoner.shop.changes import ChangeKind  # only when it is wanted

        return (ChangeKind.STANDINGS, ChangeKind.TOOLS, ChangeKind.MODELS)

    @property
    def path(self) -> str:
        return self._around.station.settings.calendar

    def write_into(self, path: Path) -> None:
        write_calendar(self._around, path)


class LinkOutside(KeptFile):
    """The newest link, after what signs: a tool's standing, a job, a review."""

    CALM_MS = 500

    def cares(self) -> tuple[ChangeKind, ...]:
        from reckoner.shop.changes import ChangeKind  # only when it is wanted

        return (ChangeKind.STANDINGS, ChangeKind.JOBS, ChangeKind.REVIEWS)

    @property
    def path(self) -> str:
        return self._around.station.settings.outside

    def write_into(self, path: Path) -> None:
        write_link(self._around, path)
