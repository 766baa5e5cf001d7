"""The calendar file of the due dates: written once, or kept current for whoever subscribes to it."""

from __future__ import annotations

import os
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, QTimer

from reckoner.core.errors import Refused
from reckoner.ui.place import Surroundings

if TYPE_CHECKING:
    from reckoner.shop.changes import Change
    from reckoner.store.reader import Reader

CALM_MS = 2000
"""Changes are gathered for so long before the file is written anew."""


class CalendarNotWritten(Refused):
    """The file cannot be written; ``why`` says what the system says."""

    def __init__(self, path: Path, why: str) -> None:
        super().__init__(path, why)
        self.path, self.why = path, why

    def __str__(self) -> str:
        return f"The calendar cannot be written to {self.path} ({self.why}); choose another place for it."


def write(around: Surroundings, path: Path, done: Callable[[], None] = lambda: None) -> None:
    """Write the due dates into ``path``, whole or not at all; a refusal is told at the foot."""
    now = around.now()

    def run(reader: Reader) -> None:
        from reckoner.formats.duecalendar import written
        from reckoner.shop.calendar import due_days

        data = written(due_days(reader), "Torque tools due", now)
        beside = path.with_name(f".{path.name}.{os.getpid()}.new")
        try:
            beside.write_bytes(data)
            beside.replace(path)
        except OSError as fault:
            raise CalendarNotWritten(path, fault.strerror or str(fault)) from None

    around.work.look(run, lambda _none: done())


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
        from reckoner.shop.changes import ChangeKind

        cares = (ChangeKind.STANDINGS, ChangeKind.TOOLS, ChangeKind.MODELS)
        if self._around.station.settings.calendar and any(change.kind in cares for change in made):
            self._timer.start()

    def write(self) -> None:
        """Write it now."""
        path = self._around.station.settings.calendar
        if path and self._around.work.is_open:
            write(self._around, Path(path))
