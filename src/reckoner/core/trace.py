"""Traces: torque against time from a meter, analysed whole; for one still arriving see ``stream``.

A trace is cut into pulls; each pull gives its signal (first peak), its slips, or its plateau, and the faults of the pull.
The sign of the torque does not count: a counter-clockwise trace reads like a clockwise one.

To add a fault: a member of ``Fault`` and the function that finds it, called from ``_faults``.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from reckoner.core.arrays import Values
from reckoner.core.checks import positive
from reckoner.core.errors import InputRefused
from reckoner.core.kinds import MECHANISMS, Mechanism, MeterMode
from reckoner.core.pullshape import DROP, FALL, FLOOR, THRESHOLD, Fall, knee, shape_of_fall, steepest_fall
from reckoner.core.rules import Pull
from reckoner.core.smoothing import Ripple, choose_corner, find_ripple, low_pass

QUIET = 0.015
"""The corner is the highest that leaves four times the noise below this fraction of the target: lower ones would smooth
the short dip of a click away."""

SLIP = 0.10
"""The fall, as a fraction of the peak, between the slips of a slip tool."""

COARSE = 1000.0
"""Samples a second, at least, on which events are looked for; faster traces are averaged down to it for that."""

SLOWEST, FASTEST = 50.0, 20_000.0
"""Samples a second that can be analysed."""

_OFF_ZERO = 0.005
_REST = 1.0
_LEAST_REST = 0.3
_PART = 1 << 13
_BACK_TO_BACK = 0.5
_STEADY = 0.025
_LEAST_PLATEAU = 0.3


class Fault(StrEnum):
    """What was wrong with a pull, in the words that are shown."""

    TOO_FAST = "too fast"
    TOO_SLOW = "too slow"
    JERK = "jerk"
    SECOND_PULL = "second pull"
    NO_SIGNAL = "no signal found"
    CLIPPED = "clipped"
    OFF_ZERO_BEFORE = "off zero before"
    OFF_ZERO_AFTER = "off zero after"


@dataclass(frozen=True)
class TraceEvent:
    """One pull or slip: torques in N·m by magnitude, times in s on the trace's clock.

    ``first_peak`` is the reading: the torque at the signal, or the plateau's mean for a tool that is watched; None
    without one. ``slope`` in N·m/s is that at the signal, ``spread`` the plateau's standard deviation in N·m.
    """

    at: float
    first_peak: float | None
    peak: float
    time_80_to_100: float | None = None
    slope: float | None = None
    spread: float | None = None
    faults: tuple[Fault, ...] = ()

    @property
    def over_travel(self) -> float | None:
        """Highest over first peak, less one, as a fraction."""
        return None if self.first_peak is None else self.peak / self.first_peak - 1


@dataclass(frozen=True)
class TraceAnalysis:
    """The events of a trace, the ``corner`` in Hz of the low-pass that found them, and the ``noise`` in N·m it left.

    ``smoothing_cost`` is the largest fraction by which the smoothed curve stays below a first peak; the readings do not
    suffer it, for they are taken from the raw samples.
    """

    events: tuple[TraceEvent, ...]
    corner: float
    noise: float
    smoothing_cost: float


@dataclass(frozen=True)
class _Trace:
    """A trace on two even clocks: ``smooth`` on the coarse one, on which events are looked for, and the samples as they
    came, of which ``blocks`` make one coarse sample. Magnitudes in N·m, ``rate`` of the coarse clock."""

    samples: Values
    blocks: int
    smooth: Values
    start: float
    rate: float
    corner: float
    noise: float
    scale: float
    ripple: Ripple | None

    def seconds(self, samples: float) -> float:
        return samples / self.rate

    @property
    def spread(self) -> int:
        """Coarse samples by which smoothing can move or round a knee."""
        return max(2, round(0.6 * self.rate / self.corner))

    @property
    def fine_rate(self) -> float:
        return self.rate * self.blocks

    def fine(self, begin: int, end: int) -> Values:
        """The samples behind the coarse ones from ``begin`` to before ``end``, less the mains' ripple."""
        first, last = begin * self.blocks, min(end * self.blocks, len(self.samples))
        found = self.samples[first:last]
        return found if self.ripple is None else found - self.ripple.at(np.arange(first, last) / self.fine_rate)


def analyse(
    times: Sequence[float] | Values,
    torques: Sequence[float] | Values,
    *,
    target: float | None = None,
    mechanism: Mechanism = Mechanism.CLICK,
    pull: Pull | None = None,
) -> TraceAnalysis:
    """The signals, slips or plateaus in a trace of ``torques`` (N·m) at ``times`` (s, rising; 50 to 20 000 a second).

    ``target`` in N·m sets the threshold and the scale of the faults; without it the highest torque does. ``pull`` gives
    the permitted seconds from 80 % to the signal. Raises InputRefused for a trace too short, not rising in time, or with
    a value that is not finite. Source: the first-peak, peak and track modes of ISO 6789-1:2017, 6.2.2; docs/calculations.md.

    >>> t = np.arange(0, 2, 0.001)
    >>> click = np.where(t < 1.5, 80 * t, 120 - 12 * np.minimum((t - 1.5) / 0.02, 1) + 60 * (t - 1.5))
    >>> found = analyse(t, click, target=120)
    >>> round(found.events[0].first_peak, 1), round(found.events[0].time_80_to_100, 2)
    (120.0, 0.3)
    """
    if target is not None:
        positive("target", target)
    trace = _even(times, torques, target)
    facts = MECHANISMS[mechanism]
    events: list[TraceEvent] = []
    lost = [0.0]
    ended = -np.inf
    for begin, end in _pulls(trace):
        if facts.mode is MeterMode.HOLD:
            found = [_hold(trace, begin, end)]
        elif mechanism is Mechanism.SLIP:
            found = _slips(trace, begin, end)
        else:
            found = [_signal(trace, begin, end)]
        follows = mechanism is not Mechanism.SLIP and trace.seconds(begin - ended) < _BACK_TO_BACK
        for number, pulled in enumerate(found):
            faults = _faults(trace, pulled, pull or Pull(), facts.mode)
            if follows and not number:
                faults = (*faults, Fault.SECOND_PULL)
            events.append(pulled.event(trace, faults))
            if pulled.first_peak is not None and facts.mode is not MeterMode.HOLD:
                lost.append(1 - float(trace.smooth[pulled.at]) / pulled.first_peak)
        ended = end
    return TraceAnalysis(tuple(events), trace.corner, trace.noise, max(lost))


def _even(times: Sequence[float] | Values, torques: Sequence[float] | Values, target: float | None) -> _Trace:
    t = np.asarray(times, dtype=np.float64)
    x = np.asarray(torques, dtype=np.float64)
    if t.ndim != 1 or x.ndim != 1 or len(t) != len(x):
        raise InputRefused("samples", len(x), "needs one time for each torque")
    if len(t) < 20:
        raise InputRefused("samples", len(t), f"a trace needs at least 20 samples, got {len(t)}")
    shortest, longest = _steps(t)
    low, high = float(x.min()), float(x.max())  # the extremes of what is not all finite are not finite
    for name, values, extremes in (("time", t, (t[0], shortest, longest)), ("torque", x, (low, high))):
        if not np.isfinite(extremes).all():
            at = int(np.flatnonzero(~np.isfinite(values))[0])
            raise InputRefused(f"samples[{at}]", float(values[at]), f"its {name} is not a finite number")
    step = float(t[-1] - t[0]) / (len(t) - 1)
    if shortest <= 0:
        at = int(np.argmax(np.diff(t) <= 0)) + 1
        raise InputRefused(f"samples[{at}]", float(t[at]), "its time is not later than the one before it")
    if max(longest - step, step - shortest) > 0.01 * step:
        step = float(np.median(np.diff(t)))
        count = round((t[-1] - t[0]) / step) + 1
        if count > 4 * len(t):
            raise InputRefused("samples", len(t), "the trace has gaps longer than what it holds")
        x = np.interp(t[0] + step * np.arange(count), t, x)
    if not SLOWEST <= 1 / step <= FASTEST:
        reason = f"{1 / step:.4g} samples a second; a trace needs {SLOWEST:g} to {FASTEST:g}"
        raise InputRefused("samples", 1 / step, reason)
    raw = -x if -low > high else x
    scale = target if target is not None else max(-low, high)
    blocks = max(1, int(1 / step / COARSE))
    coarse = raw[: len(raw) // blocks * blocks].reshape(-1, blocks) @ np.full(blocks, 1 / blocks) if blocks > 1 else raw
    rate = 1 / step / blocks
    start = float(t[0]) + step * (blocks - 1) / 2
    ripple = find_ripple(coarse, rate, step * (blocks - 1) / 2)
    if ripple is not None:
        coarse = coarse - ripple.at(np.arange(len(coarse)) / rate + step * (blocks - 1) / 2)
    corner, noise = choose_corner(coarse, rate, QUIET * scale)
    return _Trace(raw, blocks, low_pass(coarse, rate, corner), start, rate, corner, noise, scale, ripple)


def _steps(t: Values) -> tuple[float, float]:
    """The shortest and the longest step, both not finite where a time is not; in parts that stay in the processor's cache."""
    shortest, longest = [], []
    for begin in range(0, len(t) - 1, _PART):
        steps = np.diff(t[begin : begin + _PART + 1])
        shortest.append(steps.min())
        longest.append(steps.max())
    return float(np.min(shortest)), float(np.max(longest))


def _pulls(trace: _Trace) -> Iterator[tuple[int, int]]:
    """(first, past the last) sample of each stretch above the threshold, ended below half of it."""
    if trace.scale <= 0:
        return
    above = trace.smooth > THRESHOLD * trace.scale
    below = trace.smooth < THRESHOLD * trace.scale / 2
    starts = np.flatnonzero(above & ~np.concatenate([[False], above[:-1]]))
    ends = np.flatnonzero(below & ~np.concatenate([[False], below[:-1]]))
    past = -1
    for start in starts.tolist():
        if start < past:
            continue
        after = int(np.searchsorted(ends, start))
        past = int(ends[after]) if after < len(ends) else len(trace.smooth)
        if past - start >= 3:
            yield start, past


@dataclass(frozen=True)
class _Reversal:
    """A maximum of the smoothed torque and the minimum it falls to; ``last`` when it ends the pull."""

    peak: int
    bottom: int
    last: bool


def _reversals(smooth: Values, begin: int, end: int, share: float, noise: float) -> list[_Reversal]:
    """The maxima from which the torque falls by more than ``share`` of them and four times the ``noise``."""
    found: list[_Reversal] = []
    at = begin
    while at < end - 1 and len(found) < 200:
        stretch = smooth[at:end]
        highest = np.maximum.accumulate(stretch)
        fallen = np.flatnonzero(highest - stretch > np.maximum(share * highest, 4 * noise))
        if not len(fallen):
            break
        peak = at + int(np.argmax(stretch[: int(fallen[0]) + 1]))
        rest = smooth[peak:end]
        lowest = np.minimum.accumulate(rest)
        risen = np.flatnonzero(rest - lowest > max(share * float(smooth[peak]), 4 * noise))
        if not len(risen):
            found.append(_Reversal(peak, end - 1, True))
            break
        bottom = peak + int(np.argmin(rest[: int(risen[0]) + 1]))
        found.append(_Reversal(peak, bottom, False))
        at = bottom
    return found


@dataclass(frozen=True)
class _Found:
    """One event in samples: its stretch, where its signal is, and what disturbed it."""

    begin: int
    end: int
    at: int
    first_peak: float | None
    highest: float
    jerked: bool = False
    again: bool = False
    spread: float | None = None

    def event(self, trace: _Trace, faults: tuple[Fault, ...]) -> TraceEvent:
        at = trace.start + trace.seconds(self.at)
        if self.first_peak is None:
            return TraceEvent(at, None, self.highest, faults=faults)
        back = max(self.begin, self.at - max(2, round(0.05 * trace.rate)))
        rise = trace.smooth[back : max(back + 2, self.at - trace.spread // 2)]
        slope = None if self.spread is not None else float(np.diff(rise).mean() * trace.rate)
        return TraceEvent(at, self.first_peak, self.highest, self.rise_time(trace), slope, self.spread, faults)

    def rise_time(self, trace: _Trace) -> float:
        """Seconds from 80 % of the first peak to it, after the last time the torque was below."""
        late = np.flatnonzero(trace.smooth[self.begin : self.at + 1] < 0.8 * (self.first_peak or 0.0))
        since = self.begin + int(late[-1]) if len(late) else self.begin
        return trace.seconds(self.at - since)


def _signal(trace: _Trace, begin: int, end: int) -> _Found:
    """The first peak of a click, break-over or preset tool."""
    turns = _reversals(trace.smooth, begin, end, DROP, trace.noise)
    chosen = _chosen(trace, turns)
    if chosen is None:
        top = begin + int(np.argmax(trace.smooth[begin:end]))
        return _Found(begin, end, top, None, _highest(trace, begin, end), _jerks(trace, begin, top))
    first, at = _knee(trace, begin, end, chosen)
    again = _pulled_again(trace.smooth[chosen.peak : end], first)
    highest = max(first, _highest(trace, min(at + trace.spread, end - 1), end))
    jerked = _jerks(trace, begin, min(chosen.peak, at))
    return _Found(begin, end, at, first, highest, jerked, again)


def _pulled_again(after: Values, first: float) -> bool:
    """Whether the torque came back to 80 % of the signal after it had fallen to half of it."""
    fallen = np.flatnonzero(after < 0.5 * first)
    return bool(len(fallen)) and float(after[int(fallen[0]) :].max()) > 0.8 * first


def _chosen(trace: _Trace, turns: list[_Reversal]) -> _Reversal | None:
    """The signal among the reversals: the first that is about as sharp and as deep as the sharpest, and high enough unless
    no other is. A fall that goes through to nothing counts only when there is none that does not."""
    bearing: list[tuple[_Reversal, float]] = []
    through: list[tuple[_Reversal, float]] = []
    for turn in turns:
        after = trace.smooth[turn.peak : min(turn.bottom + round(0.05 * trace.rate), len(trace.smooth))]
        fall = trace.smooth[turn.peak : turn.bottom + 1]
        sharpness = steepest_fall(fall[: max(3, round(FALL * trace.rate))], trace.rate)
        if not turn.last and trace.smooth[turn.bottom] >= 0.5 * trace.smooth[turn.peak]:
            bearing.append((turn, sharpness))
        elif shape_of_fall(after, trace.rate, max(DROP * float(after[0]), 4 * trace.noise), trace.noise) is Fall.SIGNAL:
            through.append((turn, sharpness))
    candidates = bearing or through
    if not candidates:
        return None
    sharpest, most = max(candidates, key=lambda found: found[1])
    deep = 0.4 * (trace.smooth[sharpest.peak] - trace.smooth[sharpest.bottom])
    sharp = [t for t, s in candidates if s >= most / 2 and trace.smooth[t.peak] - trace.smooth[t.bottom] >= deep]
    scale = min(trace.scale, float(max(trace.smooth[t.peak] for t in turns)))
    return next((t for t in sharp if trace.smooth[t.peak] >= FLOOR * scale), sharp[0])


def _knee(trace: _Trace, begin: int, end: int, turn: _Reversal) -> tuple[float, int]:
    """The torque at the knee of a reversal and its index: it lies before the fall is mostly done, for on a slow rise noise
    can put the smoothed maximum well before it."""
    peak = turn.peak
    fall = trace.smooth[peak : min(turn.bottom, peak + round(FALL * trace.rate)) + 1]
    fallen = peak + int(np.argmax(fall < 0.2 * float(fall[0]) + 0.8 * float(fall[-1])))
    offset = max(begin, peak - round(0.3 * trace.rate) - 1)
    low = np.flatnonzero(trace.smooth[offset:peak] < 0.5 * trace.smooth[peak])
    offset += int(low[-1]) if len(low) else 0
    last = min(end, max(fallen, peak + 2 * trace.spread) + round(0.02 * trace.rate) + 2)
    peak_at, stop, spread = (n * trace.blocks for n in (peak - offset, fallen - offset, trace.spread))
    found = knee(trace.fine(offset, last), peak_at, stop, spread, trace.fine_rate)
    return found[0], min(offset + found[1] // trace.blocks, end - 1)


def _slips(trace: _Trace, begin: int, end: int) -> list[_Found]:
    """One event for each slip of a slip or cam-over tool."""
    turns = _reversals(trace.smooth, begin, end, SLIP, trace.noise)
    found: list[_Found] = []
    start = begin
    for turn in turns:
        after = trace.smooth[turn.peak : turn.bottom + 1]
        drop = max(DROP * float(after[0]), 4 * trace.noise)
        if turn.last and shape_of_fall(after, trace.rate, drop, trace.noise) is not Fall.SIGNAL:
            continue
        first, at = _knee(trace, start, end, turn)
        found.append(_Found(start, turn.bottom + 1, at, first, first, _jerks(trace, start, min(turn.peak, at))))
        start = turn.bottom
    if found:
        return found
    top = begin + int(np.argmax(trace.smooth[begin:end]))
    return [_Found(begin, end, top, None, _highest(trace, begin, end))]


def _hold(trace: _Trace, begin: int, end: int) -> _Found:
    """The plateau of a tool that is brought to a mark and held: the longest stretch that stays within 2.5 %."""
    smooth = trace.smooth[begin:end]
    highest = _highest(trace, begin, end)
    upper = smooth[smooth > 0.5 * smooth.max()]
    counts, edges = np.histogram(upper, bins=100)
    level = float(edges[int(np.argmax(np.convolve(counts, np.ones(5), mode="same")))])
    steady = np.abs(smooth - level) <= max(_STEADY * level, 3 * trace.noise)
    bounds = np.flatnonzero(np.diff(np.concatenate([[False], steady, [False]]).astype(np.int8)))
    runs = bounds.reshape(-1, 2)
    first, last = runs[int(np.argmax(runs[:, 1] - runs[:, 0]))] if len(runs) else (0, 0)
    if trace.seconds(float(last - first)) < _LEAST_PLATEAU:
        return _Found(begin, end, begin + int(np.argmax(smooth)), None, highest)
    trim = int(last - first) // 10
    plateau = trace.fine(begin + int(first) + trim, begin + int(last) - trim)
    return _Found(begin, end, begin + int(first), float(plateau.mean()), highest, spread=float(plateau.std(ddof=1)))


def _highest(trace: _Trace, begin: int, end: int) -> float:
    """The highest torque of a stretch: of the raw samples, averaged no longer than their noise asks."""
    top = begin + int(np.argmax(trace.smooth[begin : max(end, begin + 1)]))
    near = 4 * trace.spread
    raw = trace.fine(max(begin, top - near), min(max(end, begin + 1), top + near + 1))
    if len(raw) < 8:
        return float(raw.max())
    noise = 1.4826 * float(np.median(np.abs(np.diff(raw, n=2)))) / np.sqrt(6.0)
    longest = max(1, round(0.02 * trace.fine_rate))
    width = int(np.clip(np.ceil((noise / (0.001 * float(np.abs(raw).max()) + 1e-300)) ** 2), 1, longest))
    width = min(width, len(raw))
    return float(np.convolve(raw, np.ones(width) / width, mode="valid").max())


def _jerks(trace: _Trace, begin: int, top: int) -> bool:
    """Whether the torque turned back before its signal, by more than half the drop of a signal."""
    rise = trace.smooth[begin : max(begin, top - trace.spread) + 1]
    back = float((np.maximum.accumulate(rise) - rise).max())
    return back > max(DROP / 2 * trace.scale, 6 * trace.noise)


def _faults(trace: _Trace, found: _Found, pull: Pull, mode: MeterMode) -> tuple[Fault, ...]:
    faults: list[Fault] = []
    if found.first_peak is None:
        faults.append(Fault.NO_SIGNAL)
    elif mode is not MeterMode.HOLD:
        took = found.rise_time(trace)
        if took < pull.shortest:
            faults.append(Fault.TOO_FAST)
        elif took > pull.longest:
            faults.append(Fault.TOO_SLOW)
    if found.jerked:
        faults.append(Fault.JERK)
    if found.again:
        faults.append(Fault.SECOND_PULL)
    if _clipped(trace, found):
        faults.append(Fault.CLIPPED)
    tolerance = max(_OFF_ZERO * trace.scale, 4 * trace.noise)
    near = round(_REST * trace.rate)
    if found.begin and _rest(trace.smooth[max(0, found.begin - near) : found.begin][::-1], trace.scale) > tolerance:
        faults.append(Fault.OFF_ZERO_BEFORE)
    after = trace.smooth[found.end : found.end + near]  # a trace cut off at the let-go tells nothing of the zero
    if trace.seconds(len(after)) >= _LEAST_REST and _rest(after, trace.scale) > tolerance:
        faults.append(Fault.OFF_ZERO_AFTER)
    return tuple(faults)


def _rest(beside: Values, scale: float) -> float:
    """How far from zero the meter stays beside a pull, up to the next one: its smallest magnitude there, in N·m."""
    loaded = np.flatnonzero(beside > THRESHOLD * scale)
    quiet = np.abs(beside[: int(loaded[0])] if len(loaded) else beside)
    return float(quiet.min()) if len(quiet) else 0.0


def _clipped(trace: _Trace, found: _Found) -> bool:
    """A flat top of equal samples that the torque ran into while it was still rising."""
    raw = trace.samples[found.begin * trace.blocks : found.end * trace.blocks]
    top = float(raw.max())
    flat = np.flatnonzero(raw == top)
    least = max(5, round(0.01 * trace.fine_rate))
    if len(flat) < least:
        return False
    bounds = np.flatnonzero(np.diff(np.concatenate([[-2], flat, [len(raw) + 2]])) > 1)
    lengths = np.diff(bounds)
    longest = int(lengths.max())
    start = int(flat[bounds[int(np.argmax(lengths))]])
    before = raw[max(0, start - least) : start]
    if longest < least or len(before) < 2:
        return False
    rising = (top - float(before[0])) / len(before)
    return rising * longest > DROP * top
