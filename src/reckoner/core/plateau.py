"""The plateau of a tool that is brought to a mark and held there."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from reckoner.core.arrays import Values, block_means
from reckoner.core.course import Course

LEAST_PLATEAU = 0.3
"""Seconds that a torque must stand to be a plateau."""

LEVEL = 0.012
"""What a plateau may rise or fall, as a fraction of itself a second."""

TREMBLES = 7.0
"""A trembling hand tilts a stretch of the least length by this many times its amplitude a second, at most: a sine of 4 Hz."""

MOST_TILTED = 0.035
_COARSE = 100.0
_LOWEST = 0.3
_TRIM = 0.1


@dataclass(frozen=True)
class Plateau:
    """Coarse indices from ``begin`` to before ``end``; ``level`` and ``spread`` (standard deviation) in N·m."""

    begin: int
    end: int
    level: float
    spread: float


def find_plateaus(course: Course) -> list[Plateau]:
    """Where the torque stood for ``LEAST_PLATEAU`` seconds and more, above three tenths of the highest, in order."""
    step = max(1, int(course.rate / _COARSE))
    pull = course.smooth[course.begin : course.end]
    means = block_means(pull, step)
    rate = course.rate / step
    length = max(4, round(LEAST_PLATEAU * rate))
    if len(means) < length:
        return []
    slope, off, level = _lines(means, length, rate)
    allowed = np.minimum(LEVEL * level + TREMBLES * off, MOST_TILTED * level)
    level_enough = (np.abs(slope) <= allowed) & (level >= _LOWEST * float(means.max()))
    level_enough &= off <= 0.01 * level
    bounds = np.flatnonzero(np.diff(np.concatenate([[False], level_enough, [False]]).astype(np.int8))).reshape(-1, 2)
    found = []
    for first, past in bounds.tolist():
        begin, end = course.begin + first * step, min(course.begin + (past - 1 + length) * step, course.end)
        plateau = _measured(course, begin, end)
        if plateau is not None:
            found.append(plateau)
    return found


def nearest(plateaus: list[Plateau], target: float) -> Plateau | None:
    """The plateau nearest ``target`` in N·m."""
    return min(plateaus, key=lambda plateau: abs(plateau.level - target), default=None)


def _lines(means: Values, length: int, rate: float) -> tuple[Values, Values, Values]:
    """Slope (N·m/s), amplitude of what is left, and level of the straight line through each stretch of ``length``."""
    seen = np.lib.stride_tricks.sliding_window_view(means, length)
    at = (np.arange(length) - (length - 1) / 2) / rate
    level = seen.mean(axis=1)
    slope = seen @ at / float(at @ at)
    left = np.maximum(0.0, (seen**2).mean(axis=1) - level**2 - slope**2 * float(at @ at) / length)
    return slope, np.sqrt(2 * left), level


def _measured(course: Course, begin: int, end: int) -> Plateau | None:
    """The plateau between ``begin`` and ``end`` without what leads to it and away; None where the whole tilts like a ramp."""
    trim = int((end - begin) * _TRIM)
    inner = course.smooth[begin + trim : end - trim]
    if len(inner) < 4:
        return None
    near = np.abs(inner - np.median(inner))
    close = np.flatnonzero(near <= 4 * max(1.4826 * float(np.median(near)), course.noise, 1e-4 * course.scale))
    first, last = begin + trim + int(close[0]), begin + trim + int(close[-1]) + 1
    values = course.fine(first, last)
    seconds = (last - first) / course.rate
    at = np.linspace(-0.5, 0.5, len(values))
    tilt = float(at @ (values - values.mean())) / float(at @ at) / seconds
    level = float(values.mean())
    amplitude = float(course.smooth[first:last].std()) * 1.5
    if abs(tilt) > LEVEL * level + 2 * amplitude / max(seconds, LEAST_PLATEAU):
        return None
    return Plateau(first, last, level, float(values.std(ddof=1)))
