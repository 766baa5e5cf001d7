"""Signals in the course of a pull: where a tool gave way, and what a hand did before.

The smoothed torque is taken apart into *turns*: a maximum, and the fall from it. A tool gives way within hundredths of a
second and then *bears* again: the fall stops, or turns, while the hand still pulls. A hand that eases off is slow, a hand
that lets go, however quickly, goes through to nothing, and a hand that trembles has done the same before. The first turn
that is a tool's is the signal.

To add a mechanism that signals: its row in ``FALLS``.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from reckoner.core.quantities.arrays import Values, block_means
from reckoner.core.requirements.tooltypes import Mechanism
from reckoner.core.trace.course import COARSE, Course
from reckoner.core.trace.knee import knee

DROP = 0.01
"""The fall, as a fraction of the peak, that makes it a signal; four times the noise where that is more."""

FLOOR = 0.6
"""A turn below this fraction of the target is a jerk, not the signal, when a signal follows."""

JERK, QUICK_JERK = 0.014, 0.022
"""The fall, as a fraction of the target, by which a hand has jerked; the second where it was quick. Tremors stay below
them."""

SLOW_METER = 400.0
"""Samples a second below which a hand's tremor looks as quick as a click: only what is deeper than it is one."""

_SLOW_DROP, _SLOW_NOISE = 0.0175, 7.5

FINE = 2000.0
"""Samples a second, at least, on which the torque at a signal is taken."""

BEARS_WITHIN = 0.25
"""Seconds from the beginning of a fall within which a tool bears again."""


@dataclass(frozen=True)
class FallOf:
    """How a mechanism falls: by at least ``drop`` of its peak and ``speed`` of it a second, over in ``seconds``, bearing
    again above ``bears`` of the peak."""

    drop: float
    speed: float
    seconds: float
    bears: float


FALLS = {
    Mechanism.CLICK: FallOf(DROP, 0.5, 0.045, 0.2),
    Mechanism.PRESET: FallOf(DROP, 0.5, 0.045, 0.2),
    Mechanism.BREAK_OVER: FallOf(DROP, 0.25, 0.150, 0.2),
    Mechanism.SLIP: FallOf(0.03, 0.5, 0.080, 0.2),
}
"""The speed of a click is that of a hand that trembles by 0.6 % at 12 Hz, the fastest that hands do."""

OTHER_FALL = FALLS[Mechanism.CLICK]

_SMALL = 0.4
"""Turns of this part of a drop are looked at, to see what the hand does by itself."""

_TURN_NOISE = 3.0
_PROVISIONAL = 7.0
"""Times the noise that a fall takes to be told while the pull goes on: of a slow rise, the highest of many samples and the
lowest lie that far apart, and there is nothing sharper yet to compare with."""

_MOST_TURNS = 200
_LIKE_THE_OTHERS = 1.8
"""A fall is the hand's when one before it was as steep and as deep, but for this factor."""

_SHAKES_FOR = 0.8
_LAST_RISE = 0.07
_TREND = 0.25
_SLOPE_OVER = 0.012
_SHOULDER = 0.5
_SHARPEST = 0.5
_QUICKEST = 1.8
"""Signals of one pull: the first whose fall takes no more than so many times the quickest, and is half as steep as the
steepest of those."""


@dataclass(frozen=True)
class Turn:
    """A maximum of the smoothed torque and the fall from it to ``bottom``: indices, ``depth`` in N·m, and ``steepest`` in
    N·m a second. ``bears``: the fall stopped while the hand still pulled. ``quick``: no hand is."""

    peak: int
    bottom: int
    depth: float
    steepest: float
    bears: bool
    quick: bool
    deep: bool

    @property
    def took(self) -> float:
        """Seconds that the fall would have taken at its steepest."""
        return self.depth / self.steepest if self.steepest > 0 else float("inf")

    @property
    def is_signal(self) -> bool:
        return self.bears and self.quick and self.deep


@dataclass(frozen=True)
class Signal:
    """Where a tool gave way: ``torque`` in N·m at the coarse index ``at``, the ``turn`` it was, and the index from which its
    stretch begins."""

    torque: float
    at: int
    turn: Turn
    begin: int


def find_turns(course: Course, fall: FallOf, *, open_ended: bool = False) -> list[Turn]:
    """The turns of a pull, in order; ``open_ended`` while it is still going on. Refuses nothing. Source: the detector,
    docs/calculations.md, Traces."""
    smooth, end = course.smooth, course.end
    found: list[Turn] = []
    for peak, bottom, last in _reversals(smooth, course.begin, end, _SMALL * fall.drop, _TURN_NOISE * course.noise):
        found.append(_turn(course, fall, peak, bottom, last=last, open_ended=open_ended))
    return found


def _reversals(smooth: Values, begin: int, end: int, share: float, least: float) -> list[tuple[int, int, bool]]:
    """(maximum, minimum after it, whether it ends the pull) wherever the torque falls by more than ``share`` of the maximum
    and ``least`` N·m, and rises by as much again."""
    found: list[tuple[int, int, bool]] = []
    at = begin
    while at < end - 1 and len(found) < _MOST_TURNS:
        stretch = smooth[at:end]
        highest = np.maximum.accumulate(stretch)
        fallen = int(np.argmax(highest - stretch > np.maximum(share * highest, least)))
        if not fallen:
            break
        peak = at + int(np.argmax(stretch[: fallen + 1]))
        rest = smooth[peak:end]
        lowest = np.minimum.accumulate(rest)
        risen = int(np.argmax(rest - lowest > max(share * float(smooth[peak]), least)))
        if not risen:
            found.append((peak, end - 1, True))
            break
        bottom = peak + int(np.argmin(rest[: risen + 1]))
        found.append((peak, bottom, False))
        at = bottom
    return found


def _turn(course: Course, fall: FallOf, peak: int, bottom: int, *, last: bool, open_ended: bool) -> Turn:
    top = float(course.smooth[peak])
    drop = max(fall.drop * top, 4 * course.noise)
    begun = peak + int(
        np.argmax(course.smooth[peak : bottom + 1] < top - min(drop, 0.5 * (top - course.smooth[bottom])))
    )
    within = course.count(BEARS_WITHIN)
    upto = min(
        bottom + (0 if last else course.count(0.02)),
        begun + within,
        course.end - 1 if open_ended else len(course.smooth) - 1,
    )
    stopped = _shoulder(course, fall, peak, upto, drop)
    bears = stopped is not None
    if not bears and not last and bottom <= begun + within and course.smooth[bottom] >= fall.bears * top:
        stopped, bears = bottom, True
    stop = bottom if stopped is None else min(stopped, bottom)
    depth = top - float(course.smooth[stop])
    steepest = steepest_fall(course.smooth[peak : stop + 1], course.rate)
    limit = fall.seconds + 0.4 / course.corner
    quick = steepest > fall.speed * top and depth / steepest <= limit
    enough = max(drop, _PROVISIONAL * course.noise) if open_ended else drop
    if course.rate < SLOW_METER:
        enough = max(enough, _SLOW_DROP * top, _SLOW_NOISE * course.noise)
    return Turn(peak, stop, depth, steepest, bears, quick, depth > enough)


def _shoulder(course: Course, fall: FallOf, peak: int, upto: int, drop: float) -> int | None:
    """Where the fall from ``peak`` stops short of nothing; None where it does not.

    A hand that lets go slows down too, but in proportion to what is left: a fall like e^(−t/τ) is, at a part of its peak,
    as much slower as the part is smaller. It has stopped when it is slower than half of that.
    """
    after = course.smooth[peak : upto + 1]
    step = course.count(_SLOPE_OVER)
    if len(after) <= step + 1:
        return None
    top = float(after[0])
    slope = (after[step:] - after[:-step]) * (course.rate / step)
    unsure = course.noise * np.sqrt(2.0) * course.rate / step
    steepest = np.minimum.accumulate(slope) + 3 * unsure
    level = after[step:] / top
    stopped = (slope - 2 * unsure > _SHOULDER * level * steepest) & (after[step:] < top - drop) & (level >= fall.bears)
    stopped &= steepest < 0
    return peak + step + int(np.argmax(stopped)) if stopped.any() else None


def steepest_fall(after: Values, rate: float) -> float:
    """The steepest fall in ``after`` in N·m a second; 0 when it does not fall. Refuses nothing. Source: the detector,
    docs/calculations.md, Traces."""
    step = max(1, round(_SLOPE_OVER * rate))
    if len(after) <= step:
        return max(0.0, float(after[0] - after[-1]) * rate / max(1, len(after) - 1))
    return max(0.0, -float((after[step:] - after[:-step]).min()) * rate / step)


def first_signal(course: Course, turns: list[Turn], *, settled: bool = True) -> Signal | None:
    """The signal of a tool that gives way once a pull; None where no turn is one. Not ``settled``: while the pull goes on,
    a turn below ``FLOOR`` of the target may still be a jerk. Refuses nothing. Source: the detector, docs/calculations.md,
    Traces."""
    signals = [
        turn for number, turn in enumerate(turns) if turn.is_signal and _not_shaken(course, turn, turns[:number])
    ]
    if not signals:
        return None
    scale = min(course.scale, float(max(course.smooth[t.peak] for t in turns))) if settled else course.scale
    high = [turn for turn in signals if course.smooth[turn.peak] >= FLOOR * scale] or (signals if settled else [])
    if not high:
        return None
    sturdy = [
        turn for turn in high if turn.depth > max(1.5 * DROP * course.smooth[turn.peak], _PROVISIONAL * course.noise)
    ]
    quickest = min(turn.took for turn in sturdy or high)
    quick = [turn for turn in high if turn.took <= _QUICKEST * quickest] or high
    sharpest = max(quick, key=lambda turn: turn.steepest)
    turn = next(t for t in quick if t.steepest >= _SHARPEST * sharpest.steepest and t.depth >= 0.4 * sharpest.depth)
    return _refined(course, turn, course.begin)


def all_signals(course: Course, turns: list[Turn]) -> list[Signal]:
    """The signals of a tool that gives way again and again while it is turned: its slips. Refuses nothing. Source: the
    detector, docs/calculations.md, Traces."""
    found: list[Signal] = []
    begin = course.begin
    for turn in turns:
        if turn.is_signal:
            found.append(_refined(course, turn, begin))
            begin = turn.bottom
    return found


def _not_shaken(course: Course, turn: Turn, before: list[Turn]) -> bool:
    """Whether a turn stands out from what the hand did shortly before: a hand that trembles falls as it has risen, and as
    it fell before."""
    step, start = course.count(_SLOPE_OVER), max(0, turn.peak - course.count(_TREND))
    rise = course.smooth[max(0, turn.peak - course.count(_LAST_RISE) - step) : turn.peak + 1]
    if len(rise) > step and turn.peak > start:
        steepest = float((rise[step:] - rise[:-step]).max()) * course.rate / step
        trend = max(0.0, float(course.smooth[turn.peak] - course.smooth[start]) / course.seconds(turn.peak - start))
        unsure = course.noise * float(np.sqrt(2.0)) * course.rate / step
        if turn.steepest < _LIKE_THE_OTHERS * (steepest - trend - 2.5 * unsure):
            return False
    since = turn.peak - course.count(_SHAKES_FOR)
    like = [
        t for t in before
        if t.peak >= since and t.quick and t.bears
        and _LIKE_THE_OTHERS * t.steepest > turn.steepest and _LIKE_THE_OTHERS * t.depth > turn.depth
    ]  # fmt: skip
    return not like


def _refined(course: Course, turn: Turn, begin: int) -> Signal:
    """The torque at the knee: it lies before the fall is mostly done, for on a slow rise noise can put the smoothed maximum
    well before it."""
    peak, smooth = turn.peak, course.smooth
    fall = smooth[peak : turn.bottom + 1]
    fallen = peak + max(1, int(np.argmax(fall < 0.2 * float(fall[0]) + 0.8 * float(fall[-1]))))
    offset = max(begin, peak - course.count(0.3) - course.spread - 1)
    low = np.flatnonzero(smooth[offset:peak] < 0.5 * smooth[peak])
    offset += int(low[-1]) if len(low) else 0
    last = min(course.end, max(fallen, peak + 2 * course.spread) + course.count(0.02) + 2)
    thin = max(1, int(course.blocks * COARSE / FINE))
    fine = block_means(course.fine(offset, last), thin)
    scale = course.blocks / thin
    peak_at, stop, spread = (round(n * scale) for n in (peak - offset, fallen - offset, course.spread))
    torque, at = knee(fine, peak_at, stop, spread, course.fine_rate / thin)
    return Signal(torque, min(offset + int(at / scale), course.end - 1), turn, begin)


def jerked(course: Course, turns: list[Turn], upto: int) -> bool:
    """Whether the hand turned back before index ``upto``. Refuses nothing. Source: the detector, docs/calculations.md,
    Traces."""
    return any(
        turn.bottom < upto and turn.depth > max((QUICK_JERK if turn.quick else JERK) * course.scale, 6 * course.noise)
        for turn in turns
    )
