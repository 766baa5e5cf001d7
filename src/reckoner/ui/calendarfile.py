"""The calendar file of the due dates: written once, or kept current for whoever subscribes to it."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, QTimer

from reckoner.ui.place import Surroundings
from reckoner.ui.work import call_in

if TYPE_CHECKING:
    from reckoner.shop.changes import Change

CALM_MS = 2000
"""Changes are gathered for so long before the file is written anew."""


def write(around: Surroundings, path: Path, done: Callable[[], None] = lambda: None) -> None:
    """Write the due dates into ``path``, whole or not at all; a refusal is told at the foot."""
    gather = call_in("reckoner.shop.papers.calendar", "calendar_file", around.now(), path)
    around.work.prepare(gather, lambda _none: done())


class CalendarFile(QObject):
    """Writes the station's calendar file anew after changes of tools and standings."""

    def __init__(self, around: Surroundings, parent: QObject) -> None:
        super().__init__(parent)
        self._around = around
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(CALM_MS)
        self._timer.timeout.connect(self.write)
        around.work.changed.connect(self.changes)

    def changes(self, made: tuple[Change, ...]) -> None:
        """Something was changed."""
        from reckoner.shop.changes import ChangeKind  # only when it is wanted

        cares = (ChangeKind.STANDINGS, ChangeKind.TOOLS, ChangeKind.MODELS)
        if self._around.station.settings.calendar and any(change.kind in cares for change in made):
            self._timer.start()

    def write(self) -> None:
        """Write it now."""
        path = self._around.station.settings.calendar
        if path and self._around.work.is_open:
            write(self._around, Path(path))
