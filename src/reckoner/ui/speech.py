"""What happened and what to do next, spoken by the desktop's speech service; off until a person turns it on, and remembered.

Voice, language and rate are as the desktop has them. Where there is no such service, that is told once, in words.
"""

from __future__ import annotations

import logging
from collections.abc import Callable
from typing import Protocol

from PyQt6.QtCore import QObject, pyqtSignal

from reckoner.core.errors import Refused
from reckoner.core.translation import tr
from reckoner.store.station import Station

log = logging.getLogger("reckoner.speech")

ABSENT = tr(
    "This desktop has no speech service that can be reached ({why}), so nothing is spoken. Install speech-dispatcher and a "
    "voice, and turn speech on again."
)


class Voice(Protocol):
    """What speaks: it stops what it says to say something newer."""

    def stop(self) -> None: ...
    def say(self, text: str) -> None: ...


class SpeechAbsent(Refused):
    """No voice; ``why`` in the words of the system."""

    def __init__(self, why: str) -> None:
        super().__init__(why)
        self.why = why

    def __str__(self) -> str:
        return ABSENT.format(why=self.why)


def desktop_voice(parent: QObject, failed: Callable[[str], None]) -> Voice:
    """The desktop's own; ``failed(why)`` where it breaks down later. Raises SpeechAbsent."""
    try:
        from PyQt6.QtTextToSpeech import (
            QTextToSpeech,  # only when it is wanted; it leans on libraries that may be missing
        )
    except ImportError as fault:
        raise SpeechAbsent(str(fault)) from None
    if not [engine for engine in QTextToSpeech.availableEngines() if engine != "mock"]:
        raise SpeechAbsent(tr("no voice is installed"))
    voice = QTextToSpeech(parent)
    if voice.state() is QTextToSpeech.State.Error:
        raise SpeechAbsent(voice.errorString())
    voice.errorOccurred.connect(lambda _reason, why: failed(why))
    return voice


class Speech(QObject):
    """``speak`` words, where it is on. Signal ``changed()`` when it was turned on or off."""

    changed = pyqtSignal()

    def __init__(
        self,
        parent: QObject,
        station: Station,
        say: Callable[[str], None],
        find_voice: Callable[[QObject, Callable[[str], None]], Voice] = desktop_voice,
    ) -> None:
        """``say`` tells in writing what goes wrong; ``find_voice`` raises SpeechAbsent where there is none."""
        super().__init__(parent)
        self._station = station
        self._say = say
        self._find_voice = find_voice
        self._voice: Voice | None = None
        self._absent = False
        self.on = station.settings.speaks
        self.spoken: list[str] = []
        """What was spoken last; at most ten."""

    def toggle(self) -> None:
        """Turn it on or off, and remember it for this station."""
        self.on, self._absent = not self.on, False
        try:
            self._station.keep(speaks=self.on)
        except Refused as refusal:
            self._say(str(refusal))
        self.speak(tr("Speech is on."))
        self.changed.emit()

    def _failed(self, why: str) -> None:
        """There is no voice, or it has gone: told once, in writing."""
        log.info("no speech: %s", why)
        if not self._absent:
            self._absent, self._voice = True, None
            self._say(str(SpeechAbsent(why)))

    def speak(self, words: str) -> None:
        """Say something, unless it is off; what is being said gives way to it."""
        if not self.on or not words or self._absent:
            return
        if self._voice is None:
            try:
                self._voice = self._find_voice(self, self._failed)
            except SpeechAbsent as refusal:
                self._failed(refusal.why)
                return
        self.spoken = [*self.spoken, words][-10:]
        self._voice.stop()
        self._voice.say(words)
