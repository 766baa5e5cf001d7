"""Whether a meter could not show more: a top that is flat while the torque that led to it was not."""

from __future__ import annotations

import numpy as np

from reckoner.core.arrays import Values
from reckoner.core.course import Course

_BAND = 0.004
"""What belongs to the top, as a fraction of it, besides the noise."""

_GAP = 0.01
_SIDE = 0.1
"""Seconds before the top from which its approach is taken."""

_LEAST = 0.012
_MISSING = 0.006
"""The rise, as a fraction of the top, that must be missing."""

_TREMBLES = 1.3
_FLAT = 0.15
_SAME = 0.05


def flat_top(course: Course) -> tuple[float, int] | None:
    """The torque in N·m at which the pull ran into the top of what the meter shows, and the index from which; None when it
    did not.

    The first time that the torque comes to its highest level it must stay there, flat within the noise, for so long that its
    approach would have led it clearly higher.
    """
    pull = course.smooth[course.begin : course.end]
    if not len(pull):
        return None
    highest = float(pull.max())
    tops = pull[pull >= highest - max(_BAND * highest, 6 * course.noise)]
    if len(tops) < course.count(_LEAST):
        return None
    top = float(np.median(tops))
    near = np.flatnonzero(pull >= top - max(_BAND / 2 * top, 4 * course.noise))
    breaks = np.flatnonzero(np.diff(near) > course.count(_GAP))
    firsts, lasts = near[np.concatenate([[0], breaks + 1])], near[np.concatenate([breaks, [len(near) - 1]])]
    long = np.flatnonzero(lasts - firsts >= course.count(_LEAST) + 2 * course.spread)
    if not len(long):
        return None
    first, past = int(firsts[long[0]]), int(lasts[long[0]])
    begin, end = first + course.spread, past - course.spread
    before = pull[max(0, first - course.count(_SIDE)) : first]
    if end - begin < max(4, course.count(_LEAST)) or len(before) < 4:
        return None
    approach = _slope(before, course.rate)
    flat = pull[begin:end]
    seconds = len(flat) / course.rate
    slope = _slope(flat, course.rate)
    unsure = 3.5 * course.noise / (seconds * np.sqrt(max(1.0, seconds * course.corner)))
    missing = approach * seconds
    if missing < max(_MISSING * top, 4 * course.noise) or abs(slope) > _FLAT * approach + 2 * unsure:
        return None
    if float(flat.std()) > max(_TREMBLES * course.noise, 2e-4 * top):
        return None
    return float(flat.mean()), course.begin + begin


def is_clipped(course: Course, torque: float, top: tuple[float, int] | None) -> bool:
    """Whether a signal at ``torque`` (N·m) is no more than the ``top`` that the meter shows."""
    return top is not None and torque >= top[0] - max(_BAND * top[0], 4 * course.noise)


def cut_off(course: Course) -> bool:
    """Whether the meter repeats one and the same value at the top although its noise is finer: what a tool that is held
    still on its mark does not do, however coarse the steps of the meter are."""
    raw = course.samples[course.begin * course.blocks : course.end * course.blocks]
    if len(raw) < 20:
        return False
    top = float(raw.max())
    flat = np.flatnonzero(raw == top)
    bounds = np.flatnonzero(np.diff(np.concatenate([[-2], flat, [len(raw) + 2]])) > 1)
    if not len(flat) or int(np.diff(bounds).max()) < _SAME * course.fine_rate:
        return False
    rise = raw[(raw > 0.5 * top) & (raw < 0.97 * top)]
    steps = np.abs(np.diff(rise))
    finest = float(steps[steps > 0].min()) if (steps > 0).any() else top
    rough = float(np.median(np.abs(np.diff(rise, n=2)))) if len(rise) > 4 else 0.0
    return rough > 2 * finest


def _slope(values: Values, rate: float) -> float:
    at = np.linspace(-0.5, 0.5, len(values)) * (len(values) - 1) / rate
    return float(at @ values) / float(at @ at)
