"""One pull, from samples to readings: the signal while it arrives, the readings by the mode that is asked for, the faults of
the hand, and the trace that is kept. No Qt and no clock.

``Watch`` is fed the samples of a link. It gives a ``Signalled`` as soon as a pull's signal shows, which is provisional, and
a ``Pull`` when it is over and has been analysed whole: what that says is what counts. Both carry the id of the pull, which
travels with its readings to the database: by it a trace belongs to its readings.
"""

from __future__ import annotations

import logging
import math
import uuid
from dataclasses import dataclass, replace

import numpy as np

from reckoner.core.quantities.arrays import Values
from reckoner.core.requirements import rules
from reckoner.core.requirements.tooltypes import Direction, Mechanism, MeterMode
from reckoner.core.trace.event import Fault, TraceEvent
from reckoner.core.trace.stream import PullOver, PullWatch, StreamSignal

log = logging.getLogger("reckoner.meter")

LEAD_SECONDS = 0.5
"""Seconds before a pull from which its rest is taken."""

DIFFERS = 0.002
"""What was told while a pull went on and what the whole of it says may differ by this fraction before it is noted."""

AT_REST = 0.05
"""What the lead of a trace may vary, as a fraction of the target, and still be a rest."""

STILL = 0.0005
"""How far the two halves of a rest may lie apart on average, as a fraction of the target, beyond what noise alone does: a
meter that is still coming back from the pull before does not rest."""


@dataclass(frozen=True)
class PullAim:
    """What the next pulls go for: a target in N·m, what to catch, by which mechanism, and how fast to pull; ``overload``
    (N·m) is where the meter ends, where that is known."""

    target: float
    mode: MeterMode = MeterMode.FIRST_PEAK
    mechanism: Mechanism = Mechanism.CLICK
    pull: rules.PullRule = rules.PullRule()  # noqa: RUF009
    overload: float | None = None


@dataclass(frozen=True)
class Signalled:
    """A signal of the pull ``id``, provisional: its torque (N·m), ``ago`` seconds before the newest sample, and the
    direction where the meter tells."""

    id: str
    torque: float
    ago: float
    turned: Direction | None = None


@dataclass(frozen=True)
class Pull:
    """A pull that is over. ``readings`` in N·m are what the mode catches: one for each slip of a slip tool, else one, or
    none. ``announced`` are the signals told while it was pulled (N·m); ``events`` the analysis of its trace, ``samples``
    (N·m) at ``rate`` a second; ``rest_before`` what the meter showed before it, None when it did not rest."""

    id: str
    readings: tuple[float, ...]
    announced: tuple[float, ...]
    highest: float
    events: tuple[TraceEvent, ...]
    samples: Values
    rate: float
    turned: Direction | None = None
    rest_before: float | None = None

    @property
    def event(self) -> TraceEvent | None:
        """The first of what the trace holds."""
        return self.events[0] if self.events else None

    @property
    def faults(self) -> tuple[Fault, ...]:
        return tuple(dict.fromkeys(fault for event in self.events for fault in event.faults))

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

    def __init__(self, aim: PullAim, rate: float, *, signed: bool) -> None:
        self.rate = rate
        self._aim = aim
        self._signed = signed
        self._watch = self._watching(None)
        self._id = uuid.uuid4().hex

    def _watching(self, zero: float | None) -> PullWatch:
        aim = self._aim
        mechanism = Mechanism.DIAL if aim.mode is not MeterMode.FIRST_PEAK else aim.mechanism
        return PullWatch(aim.target, self.rate, mechanism=mechanism, pull=aim.pull, zero=zero, overload=aim.overload)

    def aim(self, aim: PullAim) -> None:
        """What the pulls to come go for; takes hold between two pulls (see ``idle``)."""
        self._aim = aim
        self._watch = self._watching(self._watch.rest)

    @property
    def idle(self) -> bool:
        """No pull is under way."""
        return not self._watch.in_pull

    def feed(self, samples: Values, missed: int = 0) -> list[Signalled | Pull]:
        """Take the next samples (N·m), before which so many were ``missed``, and return what they brought."""
        return self._told(self._watch.feed(samples, missed))

    def flush(self) -> list[Signalled | Pull]:
        """The link is gone: what a pull gave that had signalled, or that was over."""
        return self._told(self._watch.flush())

    def _told(self, news: list[StreamSignal | PullOver]) -> list[Signalled | Pull]:
        found: list[Signalled | Pull] = []
        for item in news:
            if isinstance(item, PullOver):
                found.append(self._over(item))
                self._id = uuid.uuid4().hex
            else:
                found.append(
                    Signalled(self._id, item.torque, self._watch.now - item.at, self._turned(self._watch.sign))
                )
        return found

    def _over(self, over: PullOver) -> Pull:
        """What the pull gave, by the mode that is asked for."""
        events = over.events
        highest = max(event.peak for event in events)
        if self._aim.mode is MeterMode.PEAK:
            clipped = any(Fault.CLIPPED in event.faults for event in events)
            readings: tuple[float, ...] = () if clipped or over.top_lost else (highest,)
            events = tuple(replace(e, faults=tuple(f for f in e.faults if f is not Fault.NO_SIGNAL)) for e in events)
        else:
            readings = tuple(event.first_peak for event in events if event.first_peak is not None)
        announced = tuple(signal.torque for signal in over.signals)
        if announced and not _agree(announced, readings):
            log.info("told %s while it was pulled, the whole trace says %s", announced, readings)
        lead = over.samples[: round(0.6 * LEAD_SECONDS * self.rate)]
        rest = float(lead.mean()) if _rests(lead, self._aim.target) else None
        turned = self._turned(over.sign)
        return Pull(self._id, readings, announced, highest, events, over.samples, self.rate, turned, rest)

    def _turned(self, sign: float) -> Direction | None:
        """Which way a pull turned, where the meter writes a sign."""
        if not self._signed:
            return None
        return Direction.CW if sign > 0 else Direction.CCW


def _agree(announced: tuple[float, ...], readings: tuple[float, ...]) -> bool:
    return len(announced) == len(readings) and all(
        abs(told / read - 1) <= DIFFERS for told, read in zip(announced, readings, strict=True)
    )


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
