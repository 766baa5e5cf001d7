"""Short sounds that say without looking what happened; the mute is remembered.

Played by whichever player the system has (PipeWire's, PulseAudio's or ALSA's); without one they stay silent.
"""

from __future__ import annotations

import shutil
from pathlib import Path

from PyQt6.QtCore import QObject, QProcess, pyqtSignal

from reckoner.ui.work import Work

FOLDER = Path(__file__).parent / "sounds_shipped"
PLAYERS = ("pw-play", "paplay", "aplay")
KEY = "sound"


class Sounds(QObject):
    """``play`` one of "taken", "series", "refused". Signal ``changed()`` when it was muted or unmuted."""

    changed = pyqtSignal()

    def __init__(self, parent: QObject, work: Work) -> None:
        super().__init__(parent)
        self._work = work
        self._player = next((found for name in PLAYERS if (found := shutil.which(name))), "")
        self.muted = False
        self.played: list[str] = []
        """The newest sounds, muted ones left out; at most ten."""
        from reckoner.shop.preferences import recall

        work.ask(lambda session: recall(session, KEY), self._recalled)

    def _recalled(self, value: str) -> None:
        self.muted = value == "off"
        self.changed.emit()

    def play(self, name: str) -> None:
        """Play a sound, unless muted."""
        if self.muted:
            return
        self.played = [*self.played, name][-10:]
        if self._player:
            QProcess.startDetached(self._player, [str(FOLDER / f"{name}.wav")])

    def toggle(self) -> None:
        """Mute or unmute, and remember it."""
        from reckoner.shop.preferences import remember

        self.muted = not self.muted
        value = "off" if self.muted else "on"
        self._work.ask(lambda session: remember(session, KEY, value), lambda _done: self.changed.emit())
