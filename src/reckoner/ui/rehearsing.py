"""Once a month the newest backup is put back in a folder of its own and verified there, by a process that gives way to
everything else. Told only when it goes wrong."""

from __future__ import annotations

import os
import shutil
import sys
from pathlib import Path

from PyQt6.QtCore import QObject, QProcess

from reckoner.core.translation import tr
from reckoner.store.errors import StoreRefused
from reckoner.ui.place import Surroundings

ROOM = 5
"""So many times the size of a backup has to be free: it is copied, read through and folded while readings go on."""


class Rehearsal(QObject):
    """One at a time; it ends with the window."""

    def __init__(self, around: Surroundings, parent: QObject) -> None:
        super().__init__(parent)
        self._around = around
        self._process: QProcess | None = None

    def begin(self) -> None:
        """Rehearse, where this station keeps backups and has not done so this month."""
        settings, month = self._around.station.settings, f"{self._around.today:%Y-%m}"
        if not settings.backups or settings.rehearsed == month or self._process is not None:
            return
        from reckoner.store.backup import backups_in  # only when it is wanted

        newest = next(iter(backups_in(Path(settings.backups))), None)
        work = self._around.work
        if (
            newest is None or work.looking_on or not work.is_open
        ):  # the window may have closed while the backup was made
            return
        if shutil.disk_usage(self._around.folder).free < ROOM * newest.size:
            return  # it would take the room that readings need
        process = QProcess(self)
        self._process = process
        process.setProcessChannelMode(QProcess.ProcessChannelMode.MergedChannels)
        process.finished.connect(lambda code, _status: self._over(newest.path, code, month))
        folder = str(self._around.folder)
        process.start(sys.executable, ["-m", "reckoner", "--data", folder, "rehearse", str(newest.path)])
        if process.waitForStarted():
            os.setpriority(os.PRIO_PROCESS, process.processId(), 19)

    def stop(self) -> None:
        """The window closes."""
        process, self._process = self._process, None
        if process is not None:
            process.finished.disconnect()
            process.kill()
            process.waitForFinished()

    def _over(self, backup: Path, code: int, month: str) -> None:
        told, self._process = self._process, None
        if code == 0:
            try:
                self._around.station.keep(rehearsed=month)
            except StoreRefused as refusal:
                self._around.say(str(refusal))
        elif told is not None:
            words = bytes(told.readAll().data()).decode(errors="replace").strip().splitlines() or [""]
            self._around.say(
                tr(
                    "The backup {name} was put back to see that it can be, and it cannot: {words} Make another, and look "
                    "into the folder where they are kept.",
                    name=backup.name,
                    words=words[0],
                )
            )
