"""The whole scale while adjusting: what the next turn makes of every point, and the turn that leaves the worst least.

A screw adds the same torque everywhere (offset) or the same part of each setting (gain): the model says which, an earlier
adjustment of this run has taught it, or it is taken to be the one that most are.

The next turn of the adjusting screw: by the whole scale where it has several points, else by the one it is adjusted at.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import Enum, auto

from reckoner.core.adjusting.screw import Advice, PointAfter, PointSeries, after_change, best_turn, taught
from reckoner.core.errors import InputRefused
from reckoner.core.requirements.tooltypes import ErrorKind
from reckoner.shop.runs.adjusting import advice
from reckoner.shop.runs.records import AdjustingState, SeriesState
from reckoner.shop.runs.state import RunState
from reckoner.store.terms import PhaseKind

EIGHTH = 1 / 8


class ScrewKnowledge(Enum):
    """How it is known what the screw changes."""

    SAID = auto()
    TAUGHT = auto()
    TAKEN = auto()


@dataclass(frozen=True)
class Foretold:
    """A turn, and what it makes of every series: deviations as fractions, ``worst`` the largest in its limit."""

    turn: float
    points: tuple[tuple[SeriesState, PointAfter], ...]
    worst: float
    worst_target: float


@dataclass(frozen=True)
class WholeScaleAdvice:
    """``changes`` what a turn changes, and how that is ``known``. ``next`` is the turn in eighths that leaves the worst point
    least; ``curable`` whether the exact one leaves every point within its limit; ``lock`` what locking moved the reading by
    the last time, in N·m or as a fraction, as ``changes`` says. ``points``: every series with its readings as the turns so
    far have made them."""

    changes: ErrorKind
    known: ScrewKnowledge
    rate: float
    next: Foretold
    curable: bool
    lock: float
    points: tuple[tuple[SeriesState, PointSeries], ...]

    def after(self, turn: float) -> Foretold:
        """What a turn makes of every point. Raises InputRefused for one that takes off more than there is."""
        return _foretold(self.points, self.changes, self.rate, turn, self.lock)


def whole_scale(state: RunState, advice: Advice) -> WholeScaleAdvice | None:
    """The advice for all points of the run in the direction that is adjusted; None with a single one, or where the rate is
    not known."""
    adjusting = state.adjusting
    if adjusting is None or not adjusting.steps[-1].pairs:
        return None
    series = [s for s in state.series if s.direction is adjusting.direction and s.pairs]
    if len(series) < 2:
        return None
    changes, known = what_it_changes(state)
    moved = _moved_so_far(adjusting, changes)
    points = tuple((s, PointSeries(s.target, _with(s.readings, changes, moved), state.limit(s.target))) for s in series)
    now = sum(adjusting.steps[-1].readings) / len(adjusting.steps[-1].readings)
    rate = advice.rate_per_turn if changes is ErrorKind.OFFSET else advice.rate_per_turn / now
    shift = lock_shift(state)
    lock = shift if changes is ErrorKind.OFFSET else shift / now
    try:
        locked = [PointSeries(p.target, _with(p.readings, changes, lock), p.limit) for _, p in points]
        best = best_turn(locked, 1.0, changes, rate)
        turn = 0.0 if best.turn is None else best.turn * advice.caution
        most = 1.0 if advice.turns_left is None else min(1.0, advice.turns_left)
        capped = max(-most, min(most, turn))
        eighths = {math.floor(capped / EIGHTH) * EIGHTH, math.ceil(capped / EIGHTH) * EIGHTH}
        told = [_foretold(points, changes, rate, eighth, lock) for eighth in eighths if abs(eighth) <= most + 1e-9]
    except InputRefused:
        return None
    return WholeScaleAdvice(changes, known, rate, min(told, key=lambda f: f.worst), best.curable, lock, points)


def _foretold(
    points: tuple[tuple[SeriesState, PointSeries], ...], changes: ErrorKind, rate: float, turn: float, lock: float
) -> Foretold:
    after = after_change([p for _, p in points], changes, turn * rate + (lock if turn else 0.0))
    told = tuple((series, one) for (series, _), one in zip(points, after, strict=True))
    worst, at = max((abs(one.then) / (p.limit or 1.0), one.target) for (_, p), one in zip(points, after, strict=True))
    return Foretold(turn, told, worst, at)


def what_it_changes(state: RunState) -> tuple[ErrorKind, ScrewKnowledge]:
    """What a turn of this tool's screw changes, and how that is known."""
    facts = state.tool.adjustment
    if facts is not None and facts.changes is not None:
        return facts.changes, ScrewKnowledge.SAID
    if state.left and all(s.pairs for s in state.left):
        before = [PointSeries(s.target, s.readings) for s in state.found if s.pairs]
        found = taught(_mean(before), _mean([PointSeries(s.target, s.readings) for s in state.left]))
        if found is not None:
            return found, ScrewKnowledge.TAUGHT
    return ErrorKind.OFFSET, ScrewKnowledge.TAKEN


def lock_shift(state: RunState) -> float:
    """What locking moved the reading by the last time, in N·m: as left less what was read after the last turn; 0 where it is
    not known, or within the scatter."""
    newest = max((s.phase.round for s in state.left), default=0)
    steps = [s for s in state.all_series if s.phase.kind is PhaseKind.ADJUST and s.phase.round == newest and s.pairs]
    if not newest or not steps:
        return 0.0
    last = steps[-1]
    after = [r for s in state.left if (s.target, s.direction) == (last.target, last.direction) for r in s.readings]
    if len(after) < 2:
        return 0.0
    shift = sum(after) / len(after) - sum(last.readings) / len(last.readings)
    mean = sum(after) / len(after)
    scatter = math.sqrt(sum((r - mean) ** 2 for r in after) / (len(after) - 1))
    return shift if abs(shift) > 2 * scatter * math.sqrt(1 / len(after) + 1 / len(last.readings)) else 0.0


def _moved_so_far(adjusting: AdjustingState, changes: ErrorKind) -> float:
    """What the turns made so far have changed where it is adjusted: N·m, or a fraction."""
    first, last = adjusting.steps[0].readings, adjusting.steps[-1].readings
    before, now = sum(first) / len(first), sum(last) / len(last)
    return now - before if changes is ErrorKind.OFFSET else now / before - 1


def _with(readings: tuple[float, ...], changes: ErrorKind, by: float) -> tuple[float, ...]:
    return tuple(r + by if changes is ErrorKind.OFFSET else r * (1 + by) for r in readings)


def _mean(points: list[PointSeries]) -> list[PointSeries]:
    """Points with all their readings together, where two directions share one."""
    targets = sorted({p.target for p in points})
    return [PointSeries(t, tuple(r for p in points if p.target == t for r in p.readings)) for t in targets]


class StopReason(Enum):
    """Why nothing more is turned."""

    SETTLED = auto()
    NOT_CURABLE = auto()
    NEAR_ENOUGH = auto()
    USED_UP = auto()


@dataclass(frozen=True)
class NextTurn:
    """``turn`` in eighths, clockwise positive; ``stop`` None while there is something to turn; ``whole`` None with a single
    point."""

    advice: Advice
    turn: float
    stop: StopReason | None
    whole: WholeScaleAdvice | None


def next_turn(state: RunState) -> tuple[NextTurn | None, str]:
    """What to turn next, or why nothing can be advised."""
    found, why_not = advice(state)
    adjusting = state.adjusting
    if found is None or adjusting is None:
        return None, why_not
    whole = whole_scale(state, found)
    turn = whole.next.turn if whole is not None else _nearest_eighth(found, adjusting.target)
    if found.inconclusive and not found.settled:
        turn = _small(turn or math.copysign(EIGHTH, found.next_turn), adjusting)
    stop = None
    if found.turns_left == 0:
        stop = StopReason.USED_UP
    elif whole is None and found.settled:
        stop = StopReason.SETTLED
    elif whole is not None and not whole.curable and not found.inconclusive:
        stop = StopReason.NOT_CURABLE
    elif turn == 0:
        stop = StopReason.NEAR_ENOUGH
    return NextTurn(found, turn, stop, whole), ""


def _small(turn: float, adjusting: AdjustingState) -> float:
    """A turn by a rate that is little more than a guess: at most twice the largest of which the readings are known, and no
    more than once that where a single reading tells what the last one did."""
    made = max((abs(step.turn or 0.0) for step in adjusting.steps), default=0.0)
    most = made * (2 if len(adjusting.steps[-1].torques) > 1 else 1)
    return max(-most, min(most, turn)) if made else turn


def _nearest_eighth(found: Advice, target: float) -> float:
    """Of the two eighths around the exact turn, the one whose reading comes nearer to the target."""
    below = abs(found.reading_at_eighth_below - target)
    above = abs(found.reading_at_eighth_above - target)
    return found.eighth_below if below <= above else found.eighth_above
