"""A meter's link on a thread of its own: samples, signals, pulls and troubles arrive as Qt signals."""

from __future__ import annotations

import logging
import threading
from collections import deque
from dataclasses import dataclass

import numpy as np
from PyQt6.QtCore import QObject, pyqtSignal

from reckoner.core.checks import Values
from reckoner.core.errors import InputRefused, Refused
from reckoner.core.kinds import Mechanism, MeterMode
from reckoner.core.rules import Pull
from reckoner.core.stream import FirstPeakWatch, PullEnded, Signal
from reckoner.core.trace import TraceEvent, analyse
from reckoner.meters.dial import OpenLink, open_link
from reckoner.meters.link import MeterRefused, Recovered, Samples, Trouble
from reckoner.meters.protocol import Identity, RoomReport, Value

log = logging.getLogger("reckoner.meter")

KEPT_SECONDS = 20.0
LEAD_SECONDS = 0.5
TAIL_SECONDS = 0.1
NEWEST_SECONDS = 0.15


@dataclass(frozen=True)
class Aim:
    """What the next pulls go for: a target in N·m, what to catch, by which mechanism, and how fast to pull."""

    target: float
    mode: MeterMode = MeterMode.FIRST_PEAK
    mechanism: Mechanism = Mechanism.CLICK
    pull: Pull = Pull()  # noqa: RUF009


@dataclass(frozen=True)
class PullReport:
    """A pull that is over. ``reading`` in N·m is what the mode catches (None: nothing), ``announced`` when the signal was
    told while it was pulled; ``event`` is the analysis of its trace, ``turned`` the direction where the meter tells,
    ``rest_before`` what the meter showed before it, None when it did not rest."""

    reading: float | None
    announced: bool
    highest: float
    event: TraceEvent | None
    trace: Values
    rate: float
    turned: str | None
    rest_before: float | None = None


class MeterWatch(QObject):
    """Watches one meter. Torques in N·m.

    ``identified(Identity)`` · ``samples(array, rate)`` in order, without gaps · ``signalled(Signal, seconds ago, turned)`` as
    soon as a pull's first peak is certain · ``pulled(PullReport)`` · ``valued(float)``, a value that the meter caught
    itself · ``roomed(RoomReport)`` · ``trouble(sentence, over)`` · ``recovered()``.
    """

    identified = pyqtSignal(object)
    samples = pyqtSignal(object, float)
    signalled = pyqtSignal(object, float, object)
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
        self._kept: deque[Values] = deque()
        self._kept_size = 0
        self._signed = False
        self._thread = threading.Thread(target=self._watch, name="meter", daemon=True)

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

    def _watch(self) -> None:
        try:
            link = open_link(self.url)
        except Refused as refusal:
            self.trouble.emit(str(refusal), True)
            return
        self._link = link
        if self._closing.is_set():
            link.close()
        watch: FirstPeakWatch | None = None
        for event in link.events():
            if isinstance(event, Identity):
                self._signed = event.signed
                if event.rate:
                    watch = FirstPeakWatch(self._aim.target, event.rate)
                    self._forget()
                self.identified.emit(event)
            elif isinstance(event, Samples) and watch is not None:
                if self._aimed.is_set() and not watch.in_pull:
                    self._aimed.clear()
                    watch = FirstPeakWatch(self._aim.target, watch.rate)
                self._keep(event.torque, watch.rate)
                self.samples.emit(event.torque, watch.rate)
                self._tell(watch, watch.feed(event.torque))
            elif isinstance(event, Value):
                self.valued.emit(event.torque)
            elif isinstance(event, RoomReport):
                self.roomed.emit(event)
            elif isinstance(event, Trouble):
                log.info("%s", event.fault)
                self.trouble.emit(str(event.fault), event.over)
            elif isinstance(event, Recovered):
                self.recovered.emit()

    def _forget(self) -> None:
        self._kept.clear()
        self._kept_size = 0

    def _keep(self, block: Values, rate: float) -> None:
        """The last KEPT_SECONDS, block by block."""
        self._kept.append(block)
        self._kept_size += len(block)
        while self._kept_size - len(self._kept[0]) > KEPT_SECONDS * rate:
            self._kept_size -= len(self._kept.popleft())

    def _tell(self, watch: FirstPeakWatch, found: list[Signal | PullEnded]) -> None:
        for item in found:
            if isinstance(item, Signal):
                if self._aim.mode is MeterMode.FIRST_PEAK:
                    newest = np.concatenate(self._kept)[-max(1, round(NEWEST_SECONDS * watch.rate)) :]
                    self.signalled.emit(item, watch.now - item.at, self._turned(newest))
            else:
                self.pulled.emit(self._report(item, watch))

    def _report(self, ended: PullEnded, watch: FirstPeakWatch) -> PullReport:
        """What the pull gave, its trace analysed by the mode that is asked for."""
        aim = self._aim
        trace = _last_pull(np.concatenate(self._kept), watch)
        mechanism = Mechanism.DIAL if aim.mode is MeterMode.HOLD else aim.mechanism
        event = None
        try:
            events = analyse(
                np.arange(len(trace)) / watch.rate, trace, target=aim.target, mechanism=mechanism, pull=aim.pull
            ).events
            event = max(events, key=lambda e: e.peak, default=None)
        except InputRefused as refusal:
            log.info("a pull that cannot be analysed: %s", refusal)
        announced = aim.mode is MeterMode.FIRST_PEAK and ended.signal is not None
        reading: float | None
        if aim.mode is MeterMode.PEAK:
            reading = ended.highest
        elif announced and ended.signal is not None:
            reading = ended.signal.first_peak
        else:
            reading = event.first_peak if event is not None else None
        lead = trace[: round(0.6 * LEAD_SECONDS * watch.rate)]
        rest = float(lead.mean()) if len(lead) and float(np.ptp(lead)) < 0.05 * aim.target else None
        return PullReport(reading, announced, ended.highest, event, trace, watch.rate, self._turned(trace), rest)

    def _turned(self, pulled: Values) -> str | None:
        """Which way samples of a pull turned, where the meter writes a sign: by the largest of them."""
        if not self._signed or not len(pulled):
            return None
        return "cw" if float(pulled[int(np.argmax(np.abs(pulled)))]) >= 0 else "ccw"


def _last_pull(kept: Values, watch: FirstPeakWatch) -> Values:
    """The samples of the pull that has just ended, from a little before it began."""
    torque = np.abs(kept)
    ended = len(torque) - int(np.argmax(torque[::-1] > watch.threshold))
    quiet = np.flatnonzero(torque[: max(0, ended - 1)] < watch.threshold / 2)
    begun = int(quiet[-1]) - round(LEAD_SECONDS * watch.rate) if len(quiet) else 0
    tail = ended + round(TAIL_SECONDS * watch.rate)
    return kept[max(0, begun) : tail].copy()
