"""The newest link, written to a file outside after each signature, where this station does so."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, QTimer

from reckoner.ui.place import Surroundings
from reckoner.ui.work import call_in

if TYPE_CHECKING:
    from reckoner.shop.changes import Change

CALM_MS = 500
"""What one signature changes is gathered for so long."""


def write(around: Surroundings, path: Path) -> None:
    """Add the newest link to the file at ``path``; a refusal is told at the foot."""
    around.work.prepare(call_in("reckoner.shop.records.outside", "link_line", around.now(), path), lambda _none: None)


class LinkOutside(QObject):
    """Writes it after what signs: a tool's standing, a job, a review."""

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

        cares = (ChangeKind.STANDINGS, ChangeKind.JOBS, ChangeKind.REVIEWS)
        if self._around.station.settings.outside and any(change.kind in cares for change in made):
            self._timer.start()

    def write(self) -> None:
        """Write it now."""
        path = self._around.station.settings.outside
        if path and self._around.work.is_open:
            write(self._around, Path(path))
