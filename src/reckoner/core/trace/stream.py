"""Pulls in a stream of torque while it arrives; for whole traces see ``analysis``, whose detector this is.

``PullWatch`` tells a signal as soon as the fall after it has shown to be a tool's and not a hand's. That is provisional:
when the pull is over and the meter has come to rest, the whole of it is analysed, and that has the last word. How the
stream is cut into blocks changes nothing: it is worked through in steps of a hundredth of a second.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from reckoner.core.quantities.arrays import Values, block_means
from reckoner.core.quantities.checks import positive
from reckoner.core.requirements.rules import PullRule
from reckoner.core.requirements.tooltypes import MECHANISMS, Mechanism, MeterMode
from reckoner.core.trace.analysis import events_of, hidden
from reckoner.core.trace.clipping import flat_top, is_clipped
from reckoner.core.trace.course import NEAR, Course, condition
from reckoner.core.trace.cutting import CutMoment, Cutter, step_length
from reckoner.core.trace.event import TraceEvent
from reckoner.core.trace.gaps import Gap, gaps_within
from reckoner.core.trace.signals import BEARS_WITHIN, FALLS, FLOOR, OTHER_FALL, all_signals, find_turns, first_signal

TAIL_SECONDS = 0.35
"""Seconds after a pull that are waited for, to see whether the meter comes back to zero."""

KEPT_SECONDS = 20.0
"""Seconds of a pull that are kept at most; of a longer one, its end."""

LONGEST_SECONDS = 60.0
"""A pull that lasts longer is given up: whatever it is, no hand does it."""

MOST_MISSED = 5.0
"""Seconds that a gap takes at most; what was before a longer one is as far away."""

UNSURE_SECONDS = 0.008
"""The newest part of a smoothed curve, which the next samples will still change."""

_TRIGGER = 0.6
"""The part of a drop by which the torque must have fallen before it is worth looking at."""

_LOOK_EVERY = 0.01
"""Looks at a pull are so far apart, as a part of its length: a long one is looked at less often."""


@dataclass(frozen=True)
class StreamSignal:
    """A tool's signal, provisional: its torque in N·m, less the zero, and when it was, in s on the watch's clock."""

    torque: float
    at: float


@dataclass(frozen=True)
class PullOver:
    """A pull that is over: what the analysis of the whole of it says, the ``signals`` that were told meanwhile, and its
    ``samples`` as they came (N·m, signed), with up to a second before and what came after. ``sign`` is that of the pull;
    ``top_lost``: its highest torque could lie in samples that never came."""

    events: tuple[TraceEvent, ...]
    signals: tuple[StreamSignal, ...]
    samples: Values
    sign: float
    top_lost: bool = False


class PullWatch:
    """Finds pulls in a stream of samples (N·m, signed) at ``rate`` a second, by tools set to ``target`` N·m.

    Feed blocks in order; each call returns the signals and the pulls that it brought. ``zero`` in N·m is what the meter
    shows at rest, where that is known. Raises InputRefused for a target or rate that is not above zero. Source: the
    first-peak, peak and track modes of ISO 6789-1:2017, 6.2.2; docs/calculations.md.
    """

    def __init__(
        self,
        target: float,
        rate: float,
        *,
        mechanism: Mechanism = Mechanism.CLICK,
        pull: PullRule | None = None,
        zero: float | None = None,
        overload: float | None = None,
    ) -> None:
        self.rate = positive("rate", rate)
        self._mechanism = mechanism
        self._pull = pull or PullRule()
        self._fall = FALLS.get(mechanism, OTHER_FALL)
        self._overload = overload
        self._cutter = Cutter(target, zero)
        self._length = step_length(rate)
        self._buffer = np.empty(2 * round((KEPT_SECONDS + NEAR) * rate) + self._length)
        self._first = 0  # the number of the buffer's first sample
        self._count = 0
        self._stepped = 0
        self._begun = self._over = self._past = 0
        self._waits = False
        self._gaps: list[Gap] = []
        self._signals: list[StreamSignal] = []
        self._highest = 0.0
        self._looked = self._fell = 0

    @property
    def in_pull(self) -> bool:
        """A pull is under way, or the meter has not yet come to rest after one."""
        return self._cutter.pulling or self._waits

    @property
    def now(self) -> float:
        """Seconds of samples seen, on the clock of ``Signal.at``."""
        return self._count / self.rate

    @property
    def sign(self) -> float:
        """The sign of the pull that is under way, or was last."""
        return self._cutter.sign

    @property
    def rest(self) -> float | None:
        """What the meter shows at rest in N·m; None while that is not known."""
        return self._cutter.rest

    def feed(self, samples: Values, missed: int = 0) -> list[StreamSignal | PullOver]:
        """Take the next samples, before which so many were ``missed``, and return what they brought."""
        found: list[StreamSignal | PullOver] = []
        if missed and len(samples) and self._count:
            samples = self._bridged(samples, missed)
        room = len(self._buffer) // 4
        for begin in range(0, len(samples), room):
            self._append(samples[begin : begin + room])
            self._walk(found)
        return found

    def flush(self) -> list[StreamSignal | PullOver]:
        """The stream has ended: what the pull gave that was not finished, if it had signalled or was over."""
        found: list[StreamSignal | PullOver] = []
        if self._waits:
            self._finish(self._count, found)
        elif self._cutter.pulling and self._signals:
            self._over = self._count
            self._finish(self._count, found)
        return found

    def _bridged(self, samples: Values, missed: int) -> Values:
        """``samples`` behind a straight line over what is missing; of a long time, no more than its end."""
        missed = min(missed, round(MOST_MISSED * self.rate))
        last = self._buffer[self._count - self._first - 1]
        self._gaps = [gap for gap in self._gaps if gap[1] > self._first] + [(self._count, self._count + missed)]
        return np.concatenate([np.linspace(last, samples[0], missed + 2)[1:-1], samples])

    def _append(self, samples: Values) -> None:
        held = self._count - self._first
        if held + len(samples) > len(self._buffer):
            keep = min(held, round((KEPT_SECONDS + NEAR) * self.rate))
            self._buffer[:keep] = self._buffer[held - keep : held].copy()
            self._first += held - keep
            held = keep
        self._buffer[held : held + len(samples)] = samples
        self._count += len(samples)

    def _walk(self, found: list[StreamSignal | PullOver]) -> None:
        """Step through what has come."""
        length = self._length
        steps = (self._count - self._stepped) // length
        at = self._stepped - self._first
        for mean in block_means(self._buffer[at : at + steps * length], length).tolist():
            self._stepped += length
            for moment, step in self._cutter.walk([mean]):
                self._moved(moment, self._stepped + (step - 1) * length, found)
            if self._cutter.pulling:
                self._under_way(self._cutter.sign * (mean - self._cutter.zero), found)
            elif self._waits and self._stepped - self._over >= TAIL_SECONDS * self.rate:
                self._finish(self._stepped, found)

    def _moved(self, moment: CutMoment, at: int, found: list[StreamSignal | PullOver]) -> None:
        if moment is CutMoment.BEGUN:
            if self._waits:
                self._finish(at, found)
            self._begun, self._signals, self._highest, self._looked = at, [], 0.0, at
            self._fell = at - round(self.rate)
        else:
            self._over, self._waits = at, True

    def _under_way(self, torque: float, found: list[StreamSignal | PullOver]) -> None:
        """One more step of a pull: look for its signal once the torque has fallen."""
        once = self._mechanism is not Mechanism.SLIP
        if MECHANISMS[self._mechanism].mode is not MeterMode.FIRST_PEAK or (once and self._signals):
            return
        self._highest = max(self._highest, torque)
        if self._highest - torque > _TRIGGER * self._fall.drop * self._highest:
            self._fell = self._stepped
        since = self._stepped - self._looked
        if (
            self._stepped - self._fell > BEARS_WITHIN * self.rate
            or since < _LOOK_EVERY * (self._stepped - self._begun)
            or self._highest < FLOOR * self._cutter.target
        ):
            return
        if self._stepped - self._begun > LONGEST_SECONDS * self.rate:
            return
        self._looked = self._stepped
        for signal in self._find_signals():
            self._signals.append(signal)
            found.append(signal)
            self._highest = torque

    def _find_signals(self) -> list[StreamSignal]:
        """The signals of the pull so far that have not been told yet."""
        target = self._cutter.target
        lead = self._lead()
        upto = self._stepped - lead - round(UNSURE_SECONDS * self.rate)
        begin = max(0, self._begun - lead)
        course = self._course(lead, self._stepped, (begin, upto))
        turns = find_turns(course, self._fall, open_ended=True)
        if self._mechanism is Mechanism.SLIP:
            signals = all_signals(course, turns)
        else:
            one = first_signal(course, turns, settled=False)
            signals = [] if one is None else [one]
            if one is not None and (hidden(course, one.torque) or is_clipped(course, one.torque, flat_top(course))):
                signals = []
        told = self._signals[-1].at if self._signals else -np.inf
        news = [
            StreamSignal(s.torque, (lead / self.rate) + course.seconds(s.at))
            for s in signals
            if s.torque >= FLOOR * target
        ]
        return [s for s in news if s.at > told + 0.02]

    def _course(self, lead: int, tail: int, inside: tuple[int, int]) -> Course:
        """The course of the samples from number ``lead`` to before ``tail``, with the pull ``inside`` them."""
        samples = self._cutter.sign * self._buffer[lead - self._first : tail - self._first]
        gaps = gaps_within(self._gaps, lead, tail)
        return condition(samples, self.rate, *inside, self._cutter.target, gaps=gaps, overload=self._overload)

    def _lead(self) -> int:
        """The number of the first sample that belongs to the pull at hand."""
        kept = self._stepped - round((KEPT_SECONDS + NEAR) * self.rate)
        return max(self._first, self._past, kept, self._begun - round(NEAR * self.rate))

    def _finish(self, tail: int, found: list[StreamSignal | PullOver]) -> None:
        """Analyse the pull that is over, with what came after it up to number ``tail``."""
        lead = self._lead()
        begin = max(lead, self._begun)
        course = self._course(lead, tail, (begin - lead, self._over - lead))
        events = events_of(course, self._mechanism, self._pull)
        samples = self._cutter.sign * course.samples
        top_lost = hidden(course, max(event.peak for event in events))
        found.append(PullOver(tuple(events), tuple(self._signals), samples, self._cutter.sign, top_lost))
        self._past, self._waits = self._over, False
        self._signals = []
