"""The plateau of a tool that is brought to a mark and held there."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from reckoner.core.quantities.arrays import Values, block_means
from reckoner.core.trace.course import Course

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

SWINGS = (0.4, 2.2)
"""Hz at which a pointer, a beam or a hanging weight swings about where it will come to rest."""

_SWINGS_BY = 0.0015
_WIDEST_SWING = 0.022
_LEFT_OVER = 0.5
_SWING_RATE = 12.5
_FEWEST = 8
_STEP = 0.1
_HERTZ = np.arange(*SWINGS, _STEP)
_FINER = np.linspace(-_STEP, _STEP, 11)


@dataclass(frozen=True)
class Plateau:
    """Coarse indices from ``begin`` to before ``end``; ``level`` and ``spread`` (standard deviation) in N·m."""

    begin: int
    end: int
    level: float
    spread: float


def find_plateaus(course: Course) -> list[Plateau]:
    """Where the torque stood for ``LEAST_PLATEAU`` seconds and more, above three tenths of the highest, in order. Refuses
    nothing. Source: the track mode of ISO 6789-1:2017, 6.2.2."""
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
    """The plateau nearest ``target`` in N·m. Refuses nothing. Source: the detector, docs/calculations.md, Traces."""
    return min(plateaus, key=lambda plateau: abs(plateau.level - target), default=None)


def over_whole_swings(course: Course, plateau: Plateau) -> Plateau:
    """The plateau of what swings about its rest, where ``plateau`` may be no more than a crest; the same where nothing
    swings. Refuses nothing.

    What stands within ``_WIDEST_SWING`` of it is taken for a constant and one sine: the constant is the mean over whole
    swings, wherever the hold began and ended. Less than one swing tells nothing. Source: least squares (JCGM 100:2008, H.3).
    """
    step = max(1, round(course.rate / _SWING_RATE))
    means = block_means(course.smooth[course.begin : course.end], step)
    off = np.flatnonzero(np.abs(means - plateau.level) > _WIDEST_SWING * plateau.level)
    middle = ((plateau.begin + plateau.end) // 2 - course.begin) // step
    begin = int(off[off < middle][-1]) + 1 if (off < middle).any() else 0
    end = int(off[off > middle][0]) if (off > middle).any() else len(means)
    seconds: Values = np.arange(end - begin, dtype=np.float64) * (step / course.rate)
    torques = means[begin:end]
    for _ in range(2):  # once more without what leads to it and away
        if len(torques) < _FEWEST or float(torques.std()) < _SWINGS_BY / 2 * plateau.level:
            return plateau
        level, amplitude, hertz, left = _swing(seconds, torques, _HERTZ)
        scatter = 1.4826 * float(np.median(np.abs(left)))
        if amplitude < max(_SWINGS_BY * level, scatter) or (hertz + _STEP) * float(np.ptp(seconds)) < 1:
            return plateau
        close = np.abs(left) <= 4 * max(scatter, 1e-4 * level)
        if close.all():
            break
        seconds, torques = seconds[close], torques[close]
    level, amplitude, hertz, left = _swing(seconds, torques, hertz + _FINER)
    swings = hertz * float(np.ptp(seconds))
    if swings < 1 or amplitude < _SWINGS_BY * level or float(left.std()) > _LEFT_OVER * amplitude:
        return plateau
    first, last = course.begin + begin * step, course.begin + end * step
    return Plateau(first, last, level, float(course.fine(first, last).std(ddof=1)))


def _swing(seconds: Values, torques: Values, frequencies: Values) -> tuple[float, float, float, Values]:
    """The constant, the amplitude (N·m) and the frequency (Hz, of ``frequencies``) of the sine that says best what
    ``torques`` do, and what is left of them."""
    about = float(torques.mean())
    turning = 2 * np.pi * np.outer(frequencies, seconds)
    basis = np.stack([np.ones_like(turning), np.cos(turning), np.sin(turning)], axis=1)
    sums = basis @ (torques - about)
    weights = np.linalg.solve(basis @ basis.transpose(0, 2, 1), sums[:, :, None])[:, :, 0]
    best = int(np.argmax((weights * sums).sum(axis=1)))
    constant, cosine, sine = weights[best].tolist()
    left: Values = torques - about - weights[best] @ basis[best]
    return about + constant, math.hypot(cosine, sine), float(frequencies[best]), left


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
