"""A meter's link on a thread of its own: what it sends arrives as Qt signals. What a pull is stands in ``meters.pull``."""

from __future__ import annotations

import logging
import threading
import time

from PyQt6.QtCore import QObject, pyqtSignal

from reckoner.core.errors import Refused
from reckoner.meters.dial import OpenLink, open_link
from reckoner.meters.link import Event, MeterRefused, Recovered, Samples, Trouble
from reckoner.meters.protocol import Identity, RoomReport, Value
from reckoner.meters.pull import Aim, Signalled, Watch

log = logging.getLogger("reckoner.meter")

A_SECOND = 20
"""Values, room reports or identities that are passed on in a second; samples are not bounded, they are gathered in blocks."""

FLOODS = "The meter sends values faster than a hand can pull; most of them are left out. Check its output setting."
OURS = "Listening to the meter failed, and it is our mistake. Connect again; readings can be typed meanwhile."


class MeterWatch(QObject):
    """Watches one meter. Torques in N·m.

    ``identified(Identity)`` · ``samples(array, rate)`` in order, without gaps · ``signalled(Signalled)`` as soon as a pull's
    first peak is certain · ``pulled(Pull)`` · ``valued(float)``, a value that the meter caught itself ·
    ``roomed(RoomReport)`` · ``trouble(sentence, over)`` · ``recovered()``.
    """

    identified = pyqtSignal(object)
    samples = pyqtSignal(object, float)
    signalled = pyqtSignal(object)
    pulled = pyqtSignal(object)
    valued = pyqtSignal(float)
    roomed = pyqtSignal(object)
    trouble = pyqtSignal(str, bool)
    recovered = pyqtSignal()

    def __init__(self, url: str, aim: Aim, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.url = url
        self._aim = aim
        self._aimed = threading.Event()
        self._link: OpenLink | None = None
        self._closing = threading.Event()
        self._watch: Watch | None = None
        self._identity: Identity | None = None
        self._passed: dict[str, tuple[float, int]] = {}
        self._thread = threading.Thread(target=self._serve, name="meter", daemon=True)

    def start(self) -> None:
        self._thread.start()

    def aim(self, aim: Aim) -> None:
        """What the pulls to come go for."""
        self._aim = aim
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

    def _serve(self) -> None:
        try:
            link = open_link(self.url)
        except Refused as refusal:
            self.trouble.emit(str(refusal), True)
            return
        self._link = link
        if self._closing.is_set():
            link.close()
        try:
            for event in link.events():
                self._pass_on(event)
        except Exception:
            log.exception("a fault of ours at the meter %s", self.url)
            self.trouble.emit(OURS, True)

    def _pass_on(self, event: Event) -> None:
        if isinstance(event, Identity):
            if event == self._identity and not self._allowed("identity"):
                return
            self._identity = event
            self._watch = Watch(self._aim, event.rate, signed=event.signed) if event.rate else None
            self.identified.emit(event)
        elif isinstance(event, Samples) and self._watch is not None:
            self._feed(self._watch, event)
        elif isinstance(event, Value):
            if self._allowed("value"):
                self.valued.emit(event.torque)
        elif isinstance(event, RoomReport):
            if self._allowed("room"):
                self.roomed.emit(event)
        elif isinstance(event, Trouble):
            log.info("%s", event.fault)
            self.trouble.emit(str(event.fault), event.over)
        elif isinstance(event, Recovered):
            self.recovered.emit()

    def _allowed(self, what: str) -> bool:
        """Whether one more ``what`` may pass in this second: no hand is that quick. The first that may not is told."""
        now = time.monotonic()
        begun, count = self._passed.get(what, (now, 0))
        if now - begun >= 1.0:
            begun, count = now, 0
        self._passed[what] = (begun, count + 1)
        if count == A_SECOND:
            self.trouble.emit(FLOODS, False)
        return count < A_SECOND

    def _feed(self, watch: Watch, event: Samples) -> None:
        if self._aimed.is_set() and watch.idle:
            self._aimed.clear()
            watch.aim(self._aim)
        self.samples.emit(event.torque, watch.rate)
        for news in watch.feed(event.torque):
            if isinstance(news, Signalled):
                self.signalled.emit(news)
            else:
                self.pulled.emit(news)
