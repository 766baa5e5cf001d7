"""The next turn of the adjusting screw: by the whole scale where it has several points, else by the one it is adjusted at."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import Enum, auto

from reckoner.core.adjusting import Advice
from reckoner.shop.runs.adjusting import advice
from reckoner.shop.runs.records import AdjustingState
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.wholescale import EIGHTH, WholeScaleAdvice, whole_scale


class Stop(Enum):
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
    stop: Stop | None
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
        stop = Stop.USED_UP
    elif whole is None and found.settled:
        stop = Stop.SETTLED
    elif whole is not None and not whole.curable and not found.inconclusive:
        stop = Stop.NOT_CURABLE
    elif turn == 0:
        stop = Stop.NEAR_ENOUGH
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
