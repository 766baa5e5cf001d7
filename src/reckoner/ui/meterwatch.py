"""A meter's link on a thread of its own: samples, signals and troubles arrive as Qt signals."""

from __future__ import annotations

import logging
import threading
from typing import Any

import numpy as np
from PyQt6.QtCore import QObject, pyqtSignal

from reckoner.core.stream import FirstPeakWatch, PullEnded, Signal
from reckoner.meters.link import Link, MeterRefused, Recovered, Samples, Trouble
from reckoner.meters.protocol import Identity

log = logging.getLogger("reckoner.meter")

KEPT_SECONDS = 12.0
LEAD_SECONDS = 0.3


class MeterWatch(QObject):
    """Watches one meter. Torques in N·m.

    ``identified(Identity)`` · ``samples(array, rate)`` in order, without gaps · ``signalled(Signal, seconds ago)`` as
    soon as a pull's first peak is certain · ``pulled(PullEnded, trace array, rate)`` ·
    ``trouble(sentence, over)`` · ``recovered()``.
    """

    identified = pyqtSignal(object)
    samples = pyqtSignal(object, float)
    signalled = pyqtSignal(object, float)
    pulled = pyqtSignal(object, object, float)
    trouble = pyqtSignal(str, bool)
    recovered = pyqtSignal()

    def __init__(self, url: str, target: float, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.url = url
        self._target = target
        self._aimed = threading.Event()
        self._link: Link | None = None
        self._closing = threading.Event()
        self._thread = threading.Thread(target=self._watch, name="meter", daemon=True)

    def start(self) -> None:
        self._thread.start()

    def aim(self, target: float) -> None:
        """The target, in N·m, of the pulls to come."""
        self._target = target
        self._aimed.set()

    def send(self, command: str) -> None:
        """Send a command; a broken link is told by ``trouble``, not raised."""
        link = self._link
        if link is not None:
            try:
                link.send(command)
            except MeterRefused as gone:
                log.info("not sent: %s: %s", command, gone)

    def stop(self) -> None:
        self._closing.set()
        if self._link is not None:
            self._link.close()
        if self._thread.is_alive():
            self._thread.join(5)

    def _watch(self) -> None:
        try:
            link = Link(self.url)
        except MeterRefused as refusal:
            self.trouble.emit(str(refusal), True)
            return
        self._link = link
        if self._closing.is_set():
            link.close()
        watch: FirstPeakWatch | None = None
        kept = np.empty(0)
        rate = 1.0
        for event in link.events():
            if isinstance(event, Identity):
                rate = event.rate
                watch = FirstPeakWatch(self._target, rate)
                self.identified.emit(event)
            elif isinstance(event, Samples) and watch is not None:
                if self._aimed.is_set() and not watch.in_pull:
                    self._aimed.clear()
                    watch = FirstPeakWatch(self._target, rate)
                kept = np.concatenate([kept, event.torque])[-int(KEPT_SECONDS * rate) :]
                self.samples.emit(event.torque, rate)
                self._tell(watch, watch.feed(event.torque), kept)
            elif isinstance(event, Trouble):
                log.info("%s", event.fault)
                self.trouble.emit(str(event.fault), event.over)
            elif isinstance(event, Recovered):
                self.recovered.emit()

    def _tell(self, watch: FirstPeakWatch, found: list[Any], kept: np.ndarray) -> None:
        for item in found:
            if isinstance(item, Signal):
                self.signalled.emit(item, watch.now - item.at)
            elif isinstance(item, PullEnded):
                self.pulled.emit(item, _last_pull(kept, watch), watch.rate)


def _last_pull(kept: np.ndarray, watch: FirstPeakWatch) -> np.ndarray:
    """The samples of the pull that has just ended, from a little before it began."""
    torque = np.abs(kept)
    ended = len(torque) - int(np.argmax(torque[::-1] > watch.threshold))
    quiet = np.flatnonzero(torque[: max(0, ended - 1)] < watch.threshold / 2)
    begun = int(quiet[-1]) - round(LEAD_SECONDS * watch.rate) if len(quiet) else 0
    return kept[max(0, begun) :].copy()
