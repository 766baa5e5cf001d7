"""Traces: torque against time from a meter, analysed whole; for one still arriving see ``stream``.

A trace is cut into pulls (``cutting``); the course of each (``course``) gives its signal, its slips (``signals``) or its
plateau (``plateau``), and the faults of the pull. The sign of the torque does not count: a counter-clockwise trace reads
like a clockwise one.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.arrays import Values, block_means
from reckoner.core.quantities.checks import positive
from reckoner.core.requirements.rules import PullRule
from reckoner.core.requirements.tooltypes import MECHANISMS, Mechanism, MeterMode
from reckoner.core.trace.clipping import cut_off, flat_top, is_clipped
from reckoner.core.trace.course import NEAR, Course, condition
from reckoner.core.trace.cutting import CutMoment, Cutter, step_length
from reckoner.core.trace.event import Fault, TraceAnalysis, TraceEvent
from reckoner.core.trace.gaps import Gap, could_hide, gaps_by_clock, gaps_by_number, gaps_within, spoil
from reckoner.core.trace.plateau import find_plateaus, nearest, over_whole_swings
from reckoner.core.trace.signals import (
    BEARS_WITHIN,
    FALLS,
    OTHER_FALL,
    Signal,
    Turn,
    all_signals,
    find_turns,
    first_signal,
    jerked,
)
from reckoner.core.translation import tr

SLOWEST, FASTEST = 50.0, 20_000.0
"""Samples a second that can be analysed."""

_PART = 1 << 13
_BACK_TO_BACK = 0.5


def analyse(
    times: Sequence[float] | Values,
    torques: Sequence[float] | Values,
    *,
    target: float | None = None,
    mechanism: Mechanism = Mechanism.CLICK,
    pull: PullRule | None = None,
    numbers: Sequence[int] | None = None,
    overload: float | None = None,
) -> TraceAnalysis:
    """The signals, slips or plateaus in a trace of ``torques`` (N·m) at ``times`` (s, rising; 50 to 20 000 a second).

    ``target`` in N·m sets the threshold and the scale of the faults; without it the highest torque does. ``pull`` gives the
    permitted seconds from 80 % to the signal. Running ``numbers`` tell which samples were lost; without them the clock
    does. ``overload`` in N·m is where the meter says that it ends. Raises InputRefused for a trace too short, not rising in
    time or number, or with a value that is not finite. Source: the first-peak, peak and track modes of ISO 6789-1:2017,
    6.2.2; docs/calculations.md.

    >>> t = np.arange(0, 2, 0.001)
    >>> click = np.where(t < 1.5, 80 * t, 120 - 12 * np.minimum((t - 1.5) / 0.02, 1) + 60 * (t - 1.5))
    >>> found = analyse(t, click, target=120)
    >>> round(found.events[0].first_peak, 1), round(found.events[0].time_80_to_100, 2)
    (120.0, 0.3)
    """
    if target is not None:
        positive("target", target)
    samples, start, rate, gaps = _even(times, torques, numbers)
    scale = target if target is not None else float(np.abs(samples).max())
    events: list[TraceEvent] = []
    corner, noise, lost = float("inf"), 0.0, 0.0
    for stretch in _stretches(samples, rate, scale):
        pulled = samples[stretch.lead : stretch.tail]
        course = condition(
            pulled if stretch.sign > 0 else -pulled,
            rate,
            *stretch.inside,
            scale,
            gaps=gaps_within(gaps, stretch.lead, stretch.tail),
            overload=overload,
        )
        found = events_of(course, mechanism, pull or PullRule())
        if stretch.follows and mechanism is not Mechanism.SLIP and found:
            found[0] = _with(found[0], Fault.SECOND_PULL)
        events += [_later(event, start + stretch.lead / rate) for event in found]
        if course.corner < corner:
            corner, noise = course.corner, course.noise
        lost = max([lost, *(_cost(course, event) for event in found)])
    return TraceAnalysis(tuple(events), corner if events else 0.0, noise, lost)


def events_of(course: Course, mechanism: Mechanism, pull: PullRule) -> list[TraceEvent]:
    """What the course of a pull that is over holds: its signal, its slips or its plateau; one event without a reading where
    it holds none. Refuses nothing. Source: the detector, docs/calculations.md, Traces."""
    mode = MECHANISMS[mechanism].mode
    if mode is MeterMode.HOLD:
        return [_hold(course)]
    turns = find_turns(course, FALLS.get(mechanism, OTHER_FALL))
    if mechanism is Mechanism.SLIP:
        slips = [slip for slip in all_signals(course, turns) if not hidden(course, slip.torque)]
        if slips:
            return [_slip(course, slip, turns, pull, first=not number) for number, slip in enumerate(slips)]
        return [_unsignalled(course, turns, pull)]
    signal = first_signal(course, turns)
    clipped = flat_top(course)
    if signal is None or is_clipped(course, signal.torque, clipped):
        return [_unsignalled(course, turns, pull, None if clipped is None else clipped[1])]
    if hidden(course, signal.torque):
        return [_unsignalled(course, turns, pull)]
    return [_signalled(course, signal, turns, pull)]


def hidden(course: Course, torque: float) -> bool:
    """Whether a signal near ``torque`` (N·m), or the edge of one, could lie in what never arrived. Refuses nothing. Source:
    the detector, docs/calculations.md, Traces."""
    return could_hide(course.gaps, course.smooth, course.rate, min(torque, course.scale))


def _even(
    times: Sequence[float] | Values, torques: Sequence[float] | Values, numbers: Sequence[int] | None
) -> tuple[Values, float, float, tuple[Gap, ...]]:
    """The torques on an even clock, the time of the first in s, the samples a second, and what is missing."""
    t = np.asarray(times, dtype=np.float64)
    x = np.asarray(torques, dtype=np.float64)
    if t.ndim != 1 or x.ndim != 1 or len(t) != len(x):
        raise InputRefused("samples", len(x), tr("needs one time for each torque"))
    if len(t) < 20:
        raise InputRefused("samples", len(t), tr("a trace needs at least 20 samples, got {count}", count=len(t)))
    shortest, longest = _steps(t)
    low, high = float(x.min()), float(x.max())  # the extremes of what is not all finite are not finite
    for name, values, extremes in (("time", t, (t[0], shortest, longest)), ("torque", x, (low, high))):
        if not np.isfinite(extremes).all():
            at = int(np.flatnonzero(~np.isfinite(values))[0])
            raise InputRefused(f"samples[{at}]", float(values[at]), tr("its {name} is not a finite number", name=name))
    step = float(t[-1] - t[0]) / (len(t) - 1)
    if shortest <= 0:
        at = int(np.argmax(np.diff(t) <= 0)) + 1
        raise InputRefused(f"samples[{at}]", float(t[at]), tr("its time is not later than the one before it"))
    gaps: tuple[Gap, ...] = ()
    if numbers is not None:
        x, step, gaps = _numbered(t, x, np.asarray(numbers, dtype=np.intp))
    elif max(longest - step, step - shortest) > 0.01 * step:
        step = float(np.median(np.diff(t)))
        count = round((t[-1] - t[0]) / step) + 1
        if count > 4 * len(t):
            raise InputRefused("samples", len(t), tr("the trace has gaps longer than what it holds"))
        gaps = gaps_by_clock(t, step)
        x = np.interp(t[0] + step * np.arange(count), t, x)
    if not SLOWEST <= 1 / step <= FASTEST:
        reason = tr(
            "{step:.4g} samples a second; a trace needs {slowest:g} to {fastest:g}",
            step=1 / step,
            slowest=SLOWEST,
            fastest=FASTEST,
        )
        raise InputRefused("samples", 1 / step, reason)
    return x, float(t[0]), 1 / step, gaps


def _numbered(t: Values, x: Values, numbers: npt.NDArray[np.intp]) -> tuple[Values, float, tuple[Gap, ...]]:
    """The torques by their running numbers, seconds from one to the next, and what is missing."""
    if len(numbers) != len(x):
        raise InputRefused("samples", len(numbers), tr("needs one running number for each torque"))
    jumps = np.diff(numbers)
    if jumps.min() < 1:
        at = int(np.argmax(jumps < 1)) + 1
        raise InputRefused(
            f"samples[{at}]", int(numbers[at]), tr("its running number is not higher than the one before it")
        )
    count = int(numbers[-1] - numbers[0]) + 1
    if count > 4 * len(x):
        raise InputRefused("samples", len(x), tr("the trace has gaps longer than what it holds"))
    whole: Values = np.interp(np.arange(count), numbers - numbers[0], x)
    return whole, float(np.median(np.diff(t) / jumps)), gaps_by_number(numbers)


def _steps(t: Values) -> tuple[float, float]:
    """The shortest and the longest step, both not finite where a time is not; in parts that stay in the processor's cache."""
    shortest, longest = [], []
    for begin in range(0, len(t) - 1, _PART):
        steps = np.diff(t[begin : begin + _PART + 1])
        shortest.append(steps.min())
        longest.append(steps.max())
    return float(np.min(shortest)), float(np.max(longest))


@dataclass(frozen=True)
class _Stretch:
    """A pull in a trace: its samples with what surrounds it lie from ``lead`` to before ``tail``, the pull itself
    ``inside`` them. ``follows``: the hand had hardly let go of the one before."""

    lead: int
    tail: int
    inside: tuple[int, int]
    sign: float
    follows: bool


def _stretches(samples: Values, rate: float, scale: float) -> Iterator[_Stretch]:
    """The pulls of a trace."""
    if scale <= 0:
        return
    length = step_length(rate)
    cutter = Cutter(scale)
    pulls: list[tuple[int, int, float]] = []
    begun = 0
    for moment, step in cutter.walk(block_means(samples, length).tolist()):
        if moment is CutMoment.BEGUN:
            begun = max(0, step) * length
        else:
            pulls.append((begun, max(0, step) * length, cutter.sign))
    if cutter.pulling:
        pulls.append((begun, len(samples), cutter.sign))
    near = round(NEAR * rate)
    for number, (begin, over, sign) in enumerate(pulls):
        past = pulls[number - 1][1] if number else 0
        upto = pulls[number + 1][0] if number + 1 < len(pulls) else len(samples)
        lead, tail = max(past, begin - near), min(upto, over + near)
        follows = bool(number) and (begin - past) / rate < _BACK_TO_BACK
        yield _Stretch(lead, tail, (begin - lead, over - lead), sign, follows)


def _signalled(course: Course, signal: Signal, turns: list[Turn], pull: PullRule) -> TraceEvent:
    peak, end = signal.turn.peak, course.end
    highest = max(signal.torque, _highest(course, min(signal.at + course.spread, end - 1), end))
    faults = _pace(course, signal, pull)
    if jerked(course, turns, min(peak, signal.at)):
        faults.append(Fault.JERK)
    if _pulled_again(course.smooth[_borne(course, signal) : end], signal.torque):
        faults.append(Fault.SECOND_PULL)
    return _event(course, signal, highest, faults)


def _slip(course: Course, slip: Signal, turns: list[Turn], pull: PullRule, *, first: bool) -> TraceEvent:
    """A slip: how fast it came about counts for the first, to which a hand brings up the torque."""
    faults = _pace(course, slip, pull) if first else []
    if first and jerked(course, turns, min(slip.turn.peak, slip.at)):
        faults.append(Fault.JERK)
    return _event(course, slip, slip.torque, faults)


def _event(course: Course, signal: Signal, highest: float, faults: list[Fault]) -> TraceEvent:
    back = max(signal.begin, signal.at - max(2, course.count(0.05)))
    rise = course.smooth[back : max(back + 2, signal.at - course.spread // 2)]
    slope = float(np.diff(rise).mean()) * course.rate
    said = (*faults, *_surroundings(course))
    zeros = _zeros(course, signal.at)
    return TraceEvent(
        course.seconds(signal.at), signal.torque, highest, _rise_time(course, signal), slope, None, said, *zeros
    )


def _unsignalled(
    course: Course, turns: list[Turn], pull: PullRule | None = None, clipped: int | None = None
) -> TraceEvent:
    """A pull without a reading; ``clipped`` is where it ran into the meter's top; ``pull`` where its pace counts."""
    top = course.begin + int(np.argmax(course.smooth[course.begin : course.end]))
    faults = [Fault.NO_SIGNAL] if clipped is None else [Fault.NO_SIGNAL, Fault.CLIPPED]
    if jerked(course, turns, top if clipped is None else clipped):
        faults.append(Fault.JERK)
    if pull is not None and _since_80(course, course.begin, top, float(course.smooth[top])) < pull.shortest:
        faults.append(Fault.TOO_FAST)
    highest = _highest(course, course.begin, course.end)
    surrounded = (*faults, *_surroundings(course))
    return TraceEvent(course.seconds(top), None, highest, None, None, None, surrounded, *_zeros(course, top))


def _hold(course: Course) -> TraceEvent:
    highest = _highest(course, course.begin, course.end)
    if cut_off(course):
        return _unsignalled(course, [], clipped=course.begin)
    plateau = nearest(find_plateaus(course), course.scale)
    plateau = None if plateau is None else over_whole_swings(course, plateau)
    if plateau is None or spoil(course.gaps, plateau.begin, plateau.end):
        return _unsignalled(course, [])
    zeros = _zeros(course, plateau.begin)
    since = _since_80(course, course.begin, plateau.begin, plateau.level)
    return TraceEvent(
        course.seconds(plateau.begin),
        plateau.level,
        highest,
        since,
        None,
        plateau.spread,
        _surroundings(course),
        *zeros,
    )


def _borne(course: Course, signal: Signal) -> int:
    """The index from which a second pull can be told: a tool that falls deep bears again without the hand's doing."""
    bottom = signal.turn.bottom
    again = np.flatnonzero(course.smooth[bottom : bottom + course.count(BEARS_WITHIN)] >= 0.8 * signal.torque)
    return bottom + int(again[0]) if len(again) else signal.turn.peak


def _pulled_again(after: Values, first: float) -> bool:
    """Whether the torque came back to 80 % of the signal after it had fallen to half of it."""
    fallen = np.flatnonzero(after < 0.5 * first)
    return bool(len(fallen)) and float(after[int(fallen[0]) :].max()) > 0.8 * first


def _rise_time(course: Course, signal: Signal) -> float:
    return _since_80(course, signal.begin, signal.at, signal.torque)


def _since_80(course: Course, begin: int, at: int, torque: float) -> float:
    """Seconds from 80 % of ``torque`` to index ``at``, after the last time the torque was below."""
    late = np.flatnonzero(course.smooth[begin : at + 1] < 0.8 * torque)
    return course.seconds(at - (begin + int(late[-1]) if len(late) else begin))


def _highest(course: Course, begin: int, end: int) -> float:
    """The highest torque of a stretch: of the raw samples, averaged no longer than their noise asks."""
    top = begin + int(np.argmax(course.smooth[begin : max(end, begin + 1)]))
    near = 4 * course.spread
    raw = course.fine(max(begin, top - near), min(max(end, begin + 1), top + near + 1))
    if len(raw) < 8:
        return float(raw.max())
    noise = 1.4826 * float(np.median(np.abs(np.diff(raw, n=2)))) / np.sqrt(6.0)
    longest = max(1, round(0.02 * course.fine_rate))
    width = int(np.clip(np.ceil((noise / (0.001 * float(np.abs(raw).max()) + 1e-300)) ** 2), 1, longest))
    width = min(width, len(raw))
    return float(np.convolve(raw, np.ones(width) / width, mode="valid").max())


def _pace(course: Course, signal: Signal, pull: PullRule) -> list[Fault]:
    took = _rise_time(course, signal)
    if took < pull.shortest:
        return [Fault.TOO_FAST]
    return [Fault.TOO_SLOW] if took > pull.longest else []


def _surroundings(course: Course) -> tuple[Fault, ...]:
    """The faults that lie beside the hand's."""
    found = (
        (bool(course.knocks), Fault.KNOCK),
        (course.off(course.before), Fault.OFF_ZERO_BEFORE),
        (course.off(course.after), Fault.OFF_ZERO_AFTER),
        (bool(course.gaps), Fault.SAMPLES_LOST),
    )
    return tuple(fault for is_so, fault in found if is_so)


def _zeros(course: Course, at: int) -> tuple[float, float | None, float | None]:
    """What was taken off at index ``at``, and what the meter showed before and after."""
    before, after = (None if rest is None else rest.level for rest in (course.before, course.after))
    return float(course.zero[min(at, len(course.zero) - 1)]), before, after


def _with(event: TraceEvent, fault: Fault) -> TraceEvent:
    return event if fault in event.faults else replace(event, faults=(*event.faults, fault))


def _later(event: TraceEvent, seconds: float) -> TraceEvent:
    return replace(event, at=event.at + seconds)


def _cost(course: Course, event: TraceEvent) -> float:
    """The fraction by which the smoothed curve stays below a first peak."""
    if event.first_peak is None or event.spread is not None:
        return 0.0
    return 1 - float(course.smooth[min(round(event.at * course.rate), len(course.smooth) - 1)]) / event.first_peak
