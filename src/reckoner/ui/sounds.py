"""Short sounds that say without looking what happened; the mute is remembered.

Played by whichever player the system has (PipeWire's, PulseAudio's or ALSA's); without one they stay silent.
"""

from __future__ import annotations

import shutil
from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QObject, QProcess, pyqtSignal

from reckoner.core.errors import Refused
from reckoner.store.station import Station

FOLDER = Path(__file__).parent / "sounds_shipped"
PLAYERS = ("pw-play", "paplay", "aplay")
AT_ONCE = 3
"""Sounds that play at once; a further one is left out, so that players that hang do not pile up."""


class Sounds(QObject):
    """``play`` one of "taken", "series", "refused". Signal ``changed()`` when it was muted or unmuted."""

    changed = pyqtSignal()

    def __init__(self, parent: QObject, station: Station, say: Callable[[str], None]) -> None:
        """``say`` tells what goes wrong when the mute is to be remembered."""
        super().__init__(parent)
        self._station = station
        self._say = say
        self._player = next((found for name in PLAYERS if (found := shutil.which(name))), "")
        self._players = [QProcess(self) for _ in range(AT_ONCE)]
        self.destroyed.connect(partial(_stop, self._players))
        self.muted = station.settings.muted
        self.played: list[str] = []
        """The newest sounds, muted ones left out; at most ten."""

    def play(self, name: str) -> None:
        """Play a sound, unless muted."""
        if self.muted:
            return
        self.played = [*self.played, name][-10:]
        free = next((p for p in self._players if p.state() is QProcess.ProcessState.NotRunning), None)
        if self._player and free is not None:
            free.start(self._player, [str(FOLDER / f"{name}.wav")])

    def toggle(self) -> None:
        """Mute or unmute, and remember it for this station."""
        self.muted = not self.muted
        try:
            self._station.keep(muted=self.muted)
        except Refused as refusal:
            self._say(str(refusal))
        self.changed.emit()


def _stop(players: list[QProcess]) -> None:
    for player in players:
        if player.state() is not QProcess.ProcessState.NotRunning:
            player.kill()
            player.waitForFinished(1000)
