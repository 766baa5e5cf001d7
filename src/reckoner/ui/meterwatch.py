"""A meter's link on a thread of its own: what it sends arrives as Qt signals. What a pull is stands in ``meters.pull``."""

from __future__ import annotations

import logging
import threading
import time
from collections import deque
from collections.abc import Callable
from itertools import groupby

import numpy as np
from PyQt6.QtCore import QObject, pyqtSignal

from reckoner.core.errors import Refused
from reckoner.core.quantities.arrays import Values
from reckoner.core.translation import tr
from reckoner.meters.dial import OpenLink, open_link
from reckoner.meters.link import Event, MeterRefused, Recovered, Samples, Trouble
from reckoner.meters.protocol import DisplayReport, Identity, RoomReport, Value
from reckoner.meters.pull import Pull, PullAim, Signalled, Watch

log = logging.getLogger("reckoner.meter")

A_SECOND = 20
"""Pulls, room reports or identities that are passed on in a second."""

A_HAND = 0.2
"""Seconds between two values below which they cannot be two pulls."""

CALM = 0.5
"""Seconds without any of them after which a flood of them is over."""

BLOCK_SECONDS = 0.008
"""Samples are gathered for so long before they are passed on: no screen shows them faster."""

MOST_WAITING = 500_000
"""Samples that wait to be passed on; of more, the oldest are left out. Half a minute of the fastest meter."""

FLOODS = tr("The meter sends values faster than a hand can pull; most of them are left out. Check its output setting.")
RESTLESS = tr(
    "What answers says again and again that it is another meter. It is not listened to any more; check the link."
)
OURS = tr("Listening to the meter failed, and it is our mistake. Connect again; readings can be typed meanwhile.")


class MeterWatch(QObject):
    """Watches one meter. Torques in N·m; ``clock`` says seconds.

    ``identified(Identity)`` · ``samples(array, rate)`` in order, without gaps · ``signalled(Signalled)`` as soon as a
    pull's signal shows · ``pulled(Pull)`` when it is over · ``valued(float)``, a value that the meter caught itself ·
    ``shown(float)``, what the tool's own display shows of the last pull ·
    ``roomed(RoomReport)`` · ``trouble(sentence, over)`` · ``recovered()``.
    """

    identified = pyqtSignal(object)
    samples = pyqtSignal(object, float)
    signalled = pyqtSignal(object)
    pulled = pyqtSignal(object)
    valued = pyqtSignal(float)
    shown = pyqtSignal(float)
    roomed = pyqtSignal(object)
    trouble = pyqtSignal(str, bool)
    recovered = pyqtSignal()
    _gathered = pyqtSignal()

    def __init__(
        self, url: str, aim: PullAim, parent: QObject | None = None, clock: Callable[[], float] = time.monotonic
    ) -> None:
        super().__init__(parent)
        self.url = url
        self._clock = clock
        self._aim = aim
        self._aimed = threading.Event()
        self._link: OpenLink | None = None
        self._closing = threading.Event()
        self._watch: Watch | None = None
        self._identity: Identity | None = None
        self._passed: dict[str, tuple[float, int, float]] = {}
        self._waiting = MeterWaiting()
        self._value_at = -A_HAND
        self._too_quick = False
        self._gathered.connect(self._pass_samples)  # emitted on the meter's thread, so queued to the interface
        self._thread = threading.Thread(target=self._serve, name="meter", daemon=True)

    def start(self) -> None:
        self._thread.start()

    def aim(self, aim: PullAim) -> None:
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

    @property
    def heard(self) -> str:
        """The newest line that the meter sent, as it came; empty before the first."""
        return self._link.heard if self._link is not None else ""

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
                if self._closing.is_set():
                    link.close()
        except Exception:
            log.exception("a fault of ours at the meter %s", self.url)
            self.trouble.emit(OURS, True)

    def _pass_on(self, event: Event) -> None:
        if isinstance(event, Identity):
            if not self._allowed("identity"):
                if event != self._identity:
                    self.trouble.emit(RESTLESS, True)
                    self._closing.set()
                return
            self._identity = event
            self._finish()
            self._watch = Watch(self._aim, event.rate, signed=event.signed) if event.rate else None
            self.identified.emit(event)
        elif isinstance(event, Samples) and self._watch is not None:
            self._feed(self._watch, event)
        elif isinstance(event, Value):
            if self._from_a_hand():
                self.valued.emit(event.torque)
        elif isinstance(event, DisplayReport):
            if self._allowed("shown"):
                self.shown.emit(event.torque)
        elif isinstance(event, RoomReport):
            if self._allowed("room"):
                self.roomed.emit(event)
        elif isinstance(event, Trouble):
            log.info("%s", event.fault)
            if event.over:
                self._finish()
            self.trouble.emit(str(event.fault), event.over)
        elif isinstance(event, Recovered):
            self.recovered.emit()

    def _from_a_hand(self) -> bool:
        """Whether a value comes late enough after the one before to be another pull. The first that does not is told."""
        now, before = self._clock(), self._value_at
        self._value_at = now
        late = now - before >= A_HAND
        if not late and not self._too_quick:
            self.trouble.emit(FLOODS, False)
        elif late and self._too_quick:
            self.recovered.emit()
        self._too_quick = not late
        return late

    def _allowed(self, what: str) -> bool:
        """Whether one more ``what`` may pass in this second: no hand is that quick. The first that may not is told."""
        now = self._clock()
        begun, count, last = self._passed.get(what, (now, 0, now))
        if count > A_SECOND and now - last >= CALM:
            self.recovered.emit()
        if now - begun >= 1.0:
            begun, count = now, 0
        self._passed[what] = (begun, count + 1, now)
        if count == A_SECOND:
            self.trouble.emit(FLOODS, False)
        return count < A_SECOND

    def _feed(self, watch: Watch, event: Samples) -> None:
        if self._aimed.is_set() and watch.idle:
            self._aimed.clear()
            watch.aim(self._aim)
        if self._waiting.put(event.torque, watch.rate, self._clock()):
            self._gathered.emit()
        self._tell(watch.feed(event.torque, event.missed))

    def _finish(self) -> None:
        """What was being pulled when the meter went is not lost."""
        if self._watch is not None:
            self._tell(self._watch.flush())

    def _tell(self, brought: list[Signalled | Pull]) -> None:
        for news in brought:
            if isinstance(news, Signalled):
                if self._allowed("signal"):
                    self.signalled.emit(news)
            elif self._allowed("pull"):
                self.pulled.emit(news)

    def _pass_samples(self) -> None:
        for torque, rate in self._waiting.take():
            self.samples.emit(torque, rate)


class MeterWaiting:
    """Samples on their way from the meter's thread to the interface: bounded, and told of no oftener than is shown."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._blocks: deque[tuple[Values, float]] = deque()
        self._count = 0
        self._told = False
        self._told_at = 0.0

    def put(self, torque: Values, rate: float, now: float) -> bool:
        """Add a block; True when the interface is to be told that there is something."""
        with self._lock:
            self._blocks.append((torque, rate))
            self._count += len(torque)
            while self._count > MOST_WAITING:
                self._count -= len(self._blocks.popleft()[0])
            tell = not self._told and now - self._told_at >= BLOCK_SECONDS
            self._told = self._told or tell
            self._told_at = now if tell else self._told_at
            return tell

    def take(self) -> list[tuple[Values, float]]:
        """All that waits, joined where the rate is the same."""
        with self._lock:
            blocks, self._blocks = self._blocks, deque()
            self._count, self._told = 0, False
        return [
            (np.concatenate([torque for torque, _ in group]), rate)
            for rate, group in groupby(blocks, key=lambda block: block[1])
        ]
