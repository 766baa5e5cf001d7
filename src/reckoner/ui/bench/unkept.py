"""What was read when the database was there no more."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal

from reckoner.core.translation import tr
from reckoner.formats.readings_csv import save
from reckoner.formats.written import FileNotWritten
from reckoner.shop.runs import rescue
from reckoner.shop.runs.rescue import NotKept
from reckoner.shop.runs.state import RunState


class Unkept(QObject):
    """Remembers the readings that were not kept, and saves a run's readings, kept or not, into a file.

    ``gone()``: the database is there no more, and what was read can be saved elsewhere.
    """

    gone = pyqtSignal()

    def __init__(self, parent: QObject, say: Callable[[str], None], fault: Callable[[str], None]) -> None:
        super().__init__(parent)
        self._say = say
        self._fault = fault
        self._readings: list[NotKept] = []

    def note(self, run: RunState, at: datetime, torque: float | None) -> None:
        """A change of ``run`` was not kept; it would have added a reading of ``torque`` in N·m, or none."""
        if torque is not None:
            self._readings.append(NotKept(at, run.current or run.series[-1], torque))
        self.gone.emit()

    def forget(self) -> None:
        """The run is left."""
        self._readings.clear()

    def save(self, run: RunState | None, path: str) -> None:
        """Write the readings of ``run`` into a file."""
        if run is None:
            return
        try:
            save(Path(path), tuple(rescue.lines(run, self._readings)))
        except FileNotWritten as refusal:
            self._fault(str(refusal))
        else:
            self._say(tr("The readings of {number} are in {path}.", number=run.tool.number, path=path))
