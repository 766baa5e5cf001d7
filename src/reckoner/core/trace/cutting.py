"""Cuts a stream of torque into pulls, step by step: the same for one that is arriving and for one that is whole.

A step is a hundredth of a second, and it is judged by its mean: a knock on the bench, some milliseconds long, begins no
pull and ends none.
"""

from __future__ import annotations

from collections.abc import Sequence
from enum import Enum, auto

import numpy as np

from reckoner.core.quantities.checks import positive

THRESHOLD = 0.10
"""The fraction of the target, from the rest before, above which a pull has begun; below half of it the pull has ended."""

STEP_SECONDS = 0.01

_IN_A_ROW = 2
"""Steps in a row that it takes to begin or end a pull."""

_FIRST = 20
"""Steps that a stream is watched before it is known whether it begins at rest."""

_STILL = 0.04
"""What the first steps may vary, as a fraction of the target, and still be a rest."""

_REST = 30
"""Steps that a rest is taken from."""

_AFRESH = 10
"""Steps after which the rest is looked at again."""

_CREEPS = 0.001
"""What the halves of a rest may lie apart, as a fraction of the target: a hand that begins slowly is not followed."""

_HEAVIEST_REST = 0.6


class CutMoment(Enum):
    BEGUN = auto()
    OVER = auto()


def step_length(rate: float) -> int:
    """Samples in a step at ``rate`` samples a second. Raises InputRefused. Source: the detector, docs/calculations.md,
    Traces."""
    return max(1, round(STEP_SECONDS * positive("rate", rate)))


class Cutter:
    """Told the means of one step after another (N·m, signed), it says when a pull has begun and when it is over.

    ``target`` in N·m; ``zero`` in N·m is what the meter shows at rest, None when that is not known yet. ``sign`` is that of
    the pull. A torque that stands still from the first, below 60 % of the target, is a rest, however far it is from zero.
    Raises InputRefused for a target that is not above zero.
    """

    def __init__(self, target: float, zero: float | None = None) -> None:
        self.target = positive("target", target)
        self.zero = 0.0 if zero is None else zero
        self.sign = 1.0
        self.pulling = False
        self._first: list[float] | None = [] if zero is None else None
        self._rest: list[float] = []
        self._row = 0

    @property
    def rest(self) -> float | None:
        """What the meter shows at rest in N·m; None while that is not known."""
        return self.zero if self._first is None else None

    def walk(self, means: Sequence[float]) -> list[tuple[CutMoment, int]]:
        """What the next steps brought, each with the index in ``means`` at which it was; it can lie before the first."""
        if self._first is None:
            return self._walk(means, 0)
        wanted = _FIRST - len(self._first)
        self._first += means[:wanted]
        if len(self._first) < _FIRST:
            return []
        first, self._first = self._first, None
        level = float(np.median(first))
        if max(first) - min(first) <= _STILL * self.target and abs(level) < _HEAVIEST_REST * self.target:
            self.zero = level
        return self._walk(first, wanted - _FIRST) + self._walk(means[wanted:], wanted)

    def _walk(self, means: Sequence[float], at: int) -> list[tuple[CutMoment, int]]:
        found: list[tuple[CutMoment, int]] = []
        rest, begin, end = self._rest, THRESHOLD * self.target, THRESHOLD / 2 * self.target
        pulling, zero, sign, row = self.pulling, self.zero, self.sign, self._row
        for number, mean in enumerate(means, start=at):
            off = mean - zero
            if pulling:
                if sign * off >= end:
                    row = 0
                    continue
            elif -begin <= off <= begin:
                row = 0
                rest.append(mean)
                if len(rest) >= _REST:
                    zero = self.zero = self._rests_at()
                continue
            row += 1
            if row == _IN_A_ROW:
                row = 0
                pulling = not pulling
                sign = sign if not pulling else 1.0 if off > 0 else -1.0
                rest.clear()
                found.append((CutMoment.BEGUN if pulling else CutMoment.OVER, number - _IN_A_ROW + 1))
        self.pulling, self.sign, self._row = pulling, sign, row
        return found

    def _rests_at(self) -> float:
        """The zero: where the meter rests, if it does."""
        half = _REST // 2
        early, late = self._rest[:half], self._rest[half:]
        del self._rest[:_AFRESH]
        first, last = sum(early) / half, sum(late) / half
        spread = max(max(early), max(late)) - min(min(early), min(late))
        if abs(first - last) <= _CREEPS * self.target and spread <= _STILL * self.target:
            return (first + last) / 2
        return self.zero
