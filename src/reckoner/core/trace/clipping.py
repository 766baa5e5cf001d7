"""Whether a meter could not show more: a top that is flat while the torque that led to it was not."""

from __future__ import annotations

import numpy as np

from reckoner.core.quantities.arrays import Values
from reckoner.core.trace.course import Course

_BAND = 0.004
"""What belongs to the top, as a fraction of it, besides the noise."""

_GAP = 0.01
_SIDE = 0.1
"""Seconds before the top from which its approach is taken."""

_LEAST = 0.012
_MISSING = 0.006
"""The rise, as a fraction of the top, that must be missing."""

_TREMBLES = 1.3
_SAME = 0.05
_REPEATED = 0.012
_AT_THE_END = 0.98
_NO_HAND = 5e-4
"""The part of the top within which no hand holds."""


def flat_top(course: Course) -> tuple[float, int] | None:
    """The torque in N·m at which the pull ran into the top of what the meter shows, and the index from which; None when it
    did not. Refuses nothing. Source: the detector, docs/calculations.md, Traces.

    The first time that the torque comes to its highest level it must stay there, flat within the noise, for so long that its
    approach would have led it clearly higher; and the top must be the meter's own end. A hand that holds, bumps the handle or
    lets go makes a flat top too.
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
    missing = approach * seconds
    if missing < max(_MISSING * top, 4 * course.noise):
        return None
    if float(flat.std()) > max(_TREMBLES * course.noise, 2e-4 * top):
        return None
    if not (len(long) > 1 or _is_the_end(course, top)):
        return None
    return float(flat.mean()), course.begin + begin


def _is_the_end(course: Course, top: float) -> bool:
    """Whether a meter can show no more than ``top`` (N·m): it says so, or it repeats one and the same value."""
    if course.overload is not None and top >= _AT_THE_END * course.overload:
        return True
    same = _repeated(course)
    if same < _REPEATED:
        return False
    rough, finest = _grain(course)
    return rough > 2 * finest or (same >= _SAME and finest < _NO_HAND * top)


def is_clipped(course: Course, torque: float, top: tuple[float, int] | None) -> bool:
    """Whether a signal at ``torque`` (N·m) is no more than the ``top`` that the meter shows. Refuses nothing. Source: the
    detector, docs/calculations.md, Traces."""
    return top is not None and torque >= top[0] - max(_BAND * top[0], 4 * course.noise)


def cut_off(course: Course) -> bool:
    """Whether the meter repeats one and the same value at the top although its noise is finer: what a tool that is held
    still on its mark does not do, however coarse the steps of the meter are. Refuses nothing. Source: the detector,
    docs/calculations.md, Traces."""
    if _repeated(course) < _SAME:
        return False
    rough, finest = _grain(course)
    return rough > 2 * finest


def _pulled(course: Course) -> Values:
    return course.samples[course.begin * course.blocks : course.end * course.blocks]


def _repeated(course: Course) -> float:
    """For how many seconds on end the meter repeats its highest value."""
    raw = _pulled(course)
    if len(raw) < 20:
        return 0.0
    flat = np.flatnonzero(raw == raw.max())
    bounds = np.flatnonzero(np.diff(np.concatenate([[-2], flat, [len(raw) + 2]])) > 1)
    return int(np.diff(bounds).max()) / course.fine_rate


def _grain(course: Course) -> tuple[float, float]:
    """Of the rise to the top: how much one sample differs from the next but for its course, and the finest step (N·m)."""
    raw = _pulled(course)
    top = float(raw.max())
    rise = raw[(raw > 0.5 * top) & (raw < 0.97 * top)]
    steps = np.abs(np.diff(rise))
    finest = float(steps[steps > 0].min()) if (steps > 0).any() else top
    rough = float(np.median(np.abs(np.diff(rise, n=2)))) if len(rise) > 4 else 0.0
    return rough, finest


def _slope(values: Values, rate: float) -> float:
    at = np.linspace(-0.5, 0.5, len(values)) * (len(values) - 1) / rate
    return float(at @ values) / float(at @ at)
