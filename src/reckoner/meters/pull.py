"""One pull, from samples to a reading: the signal while it arrives, the reading by the mode that is asked for, the faults of
the hand, and the trace that is kept. No Qt and no clock.

``Watch`` is fed the samples of a link. It gives a ``Signalled`` as soon as a pull's first peak is certain, and a ``Pull``
when it is over. Both carry the id of the pull, which travels with its reading to the database: by it a trace belongs to its
reading.
"""

from __future__ import annotations

import logging
import math
import uuid
from collections import deque
from dataclasses import dataclass

import numpy as np

from reckoner.core import rules
from reckoner.core.arrays import Values
from reckoner.core.errors import InputRefused
from reckoner.core.kinds import Direction, Mechanism, MeterMode
from reckoner.core.stream import FirstPeakWatch, PullEnded
from reckoner.core.trace import Fault, TraceEvent, analyse

log = logging.getLogger("reckoner.meter")

BLOCK = 512
"""Samples that are kept as one piece at least."""

KEPT_SECONDS = 20.0
LEAD_SECONDS = 0.5
TAIL_SECONDS = 0.1
NEWEST_SECONDS = 0.15

AT_REST = 0.05
"""What the lead of a trace may vary, as a fraction of the target, and still be a rest."""

STILL = 0.0005
"""How far the two halves of a rest may lie apart on average, as a fraction of the target, beyond what noise alone does: a
meter that is still coming back from the pull before does not rest."""


@dataclass(frozen=True)
class Aim:
    """What the next pulls go for: a target in N·m, what to catch, by which mechanism, and how fast to pull."""

    target: float
    mode: MeterMode = MeterMode.FIRST_PEAK
    mechanism: Mechanism = Mechanism.CLICK
    pull: rules.Pull = rules.Pull()  # noqa: RUF009


@dataclass(frozen=True)
class Signalled:
    """The signal of the pull ``id``: its torque (N·m), ``ago`` seconds before the newest sample, and the direction where the
    meter tells."""

    id: str
    torque: float
    ago: float
    turned: Direction | None = None


@dataclass(frozen=True)
class Pull:
    """A pull that is over. ``reading`` in N·m is what the mode catches (None: nothing), ``announced`` when its signal was
    told while it was pulled; ``event`` is the analysis of its trace, ``samples`` (N·m) at ``rate`` a second;
    ``rest_before`` what the meter showed before it, None when it did not rest."""

    id: str
    reading: float | None
    announced: bool
    highest: float
    event: TraceEvent | None
    samples: Values
    rate: float
    turned: Direction | None = None
    rest_before: float | None = None

    @property
    def faults(self) -> tuple[Fault, ...]:
        return self.event.faults if self.event else ()

    @property
    def over_travel(self) -> float | None:
        """A fraction; None where the trace does not tell."""
        return self.event.over_travel if self.event else None

    @property
    def time_80_to_100(self) -> float | None:
        """Seconds from 80 % to the signal; None where the trace does not tell."""
        return self.event.time_80_to_100 if self.event else None


class Watch:
    """Watches a stream of samples for pulls. ``signed``: the meter writes counter-clockwise torque negative."""

    def __init__(self, aim: Aim, rate: float, *, signed: bool) -> None:
        self.rate = rate
        self._aim = aim
        self._signed = signed
        self._watch = FirstPeakWatch(aim.target, rate)
        self._kept: deque[Values] = deque()
        self._kept_size = 0
        self._id = uuid.uuid4().hex

    def aim(self, aim: Aim) -> None:
        """What the pulls to come go for; takes hold between two pulls (see ``idle``)."""
        self._aim = aim
        self._watch = FirstPeakWatch(aim.target, self.rate)

    @property
    def idle(self) -> bool:
        """No pull is under way."""
        return not self._watch.in_pull

    def feed(self, samples: Values) -> list[Signalled | Pull]:
        """Take the next samples (N·m) and return what they brought."""
        self._keep(samples)
        found: list[Signalled | Pull] = []
        for item in self._watch.feed(samples):
            if isinstance(item, PullEnded):
                found.append(self._over(item))
                self._id = uuid.uuid4().hex
            elif self._aim.mode is MeterMode.FIRST_PEAK:
                turned = self._turned(self._newest())
                found.append(Signalled(self._id, item.first_peak, self._watch.now - item.at, turned))
        return found

    def _keep(self, samples: Values) -> None:
        self._kept_size += len(samples)
        if self._kept and len(self._kept[-1]) + len(samples) <= BLOCK:  # no list of single samples
            samples = np.concatenate([self._kept.pop(), samples])
        self._kept.append(samples)
        while self._kept_size - len(self._kept[0]) > KEPT_SECONDS * self.rate:
            self._kept_size -= len(self._kept.popleft())

    def _newest(self) -> Values:
        """The samples of the last moments: enough to tell which way a pull turns."""
        wanted = round(NEWEST_SECONDS * self.rate)
        found: list[Values] = []
        for block in reversed(self._kept):
            found.append(block)
            wanted -= len(block)
            if wanted <= 0:
                break
        return np.concatenate(found[::-1]) if found else np.empty(0)

    def _over(self, ended: PullEnded) -> Pull:
        """What the pull gave, its trace analysed by the mode that is asked for."""
        aim = self._aim
        trace = _last_pull(np.concatenate(self._kept), self._watch)
        mechanism = Mechanism.DIAL if aim.mode is MeterMode.HOLD else aim.mechanism
        event = None
        try:
            events = analyse(
                np.arange(len(trace)) / self.rate, trace, target=aim.target, mechanism=mechanism, pull=aim.pull
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
        lead = trace[: round(0.6 * LEAD_SECONDS * self.rate)]
        rest = float(lead.mean()) if _rests(lead, aim.target) else None
        turned = self._turned(trace)
        return Pull(self._id, reading, announced, ended.highest, event, trace, self.rate, turned, rest)

    def _turned(self, pulled: Values) -> Direction | None:
        """Which way samples of a pull turned, where the meter writes a sign: by the largest of them."""
        if not self._signed or not len(pulled):
            return None
        return Direction.CW if float(pulled[int(np.argmax(np.abs(pulled)))]) >= 0 else Direction.CCW


def still(samples: Values, within: float) -> bool:
    """Whether the two halves of ``samples`` lie no further apart on average than ``within`` (N·m) and their noise."""
    half = len(samples) // 2
    if half == 0:
        return False
    noise = float(np.diff(samples).std()) / math.sqrt(2.0)  # creeping hardly counts in successive differences
    apart = abs(float(samples[:half].mean()) - float(samples[half:].mean()))
    return apart <= within + 3 * noise * math.sqrt(2.0 / half)


def _rests(lead: Values, target: float) -> bool:
    return len(lead) > 1 and float(np.ptp(lead)) < AT_REST * target and still(lead, STILL * target)


def _last_pull(kept: Values, watch: FirstPeakWatch) -> Values:
    """The samples of the pull that has just ended, from a little before it began."""
    torque = np.abs(kept)
    ended = len(torque) - int(np.argmax(torque[::-1] > watch.threshold))
    quiet = np.flatnonzero(torque[: max(0, ended - 1)] < watch.threshold / 2)
    begun = int(quiet[-1]) - round(LEAD_SECONDS * watch.rate) if len(quiet) else 0
    tail = ended + round(TAIL_SECONDS * watch.rate)
    return kept[max(0, begun) : tail].copy()
