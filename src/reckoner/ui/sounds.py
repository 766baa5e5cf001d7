"""Short sounds that say without looking what happened; the mute is remembered.

Played by whichever player the system has (PipeWire's, PulseAudio's or ALSA's); without one they stay silent.
"""

from __future__ import annotations

import shutil
from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QObject, QProcess, pyqtSignal

from reckoner.core.errors import Refused
from reckoner.store.station import Station

FOLDER = Path(__file__).parent / "sounds_shipped"
PLAYERS = ("pw-play", "paplay", "aplay")


class Sounds(QObject):
    """``play`` one of "taken", "series", "refused". Signal ``changed()`` when it was muted or unmuted."""

    changed = pyqtSignal()

    def __init__(self, parent: QObject, station: Station, say: Callable[[str], None]) -> None:
        """``say`` tells what goes wrong when the mute is to be remembered."""
        super().__init__(parent)
        self._station = station
        self._say = say
        self._player = next((found for name in PLAYERS if (found := shutil.which(name))), "")
        self.muted = station.settings.muted
        self.played: list[str] = []
        """The newest sounds, muted ones left out; at most ten."""

    def play(self, name: str) -> None:
        """Play a sound, unless muted."""
        if self.muted:
            return
        self.played = [*self.played, name][-10:]
        if self._player:
            QProcess.startDetached(self._player, [str(FOLDER / f"{name}.wav")])

    def toggle(self) -> None:
        """Mute or unmute, and remember it for this station."""
        self.muted = not self.muted
        try:
            self._station.keep(muted=self.muted)
        except Refused as refusal:
            self._say(str(refusal))
        self.changed.emit()
