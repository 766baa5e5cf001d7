"""Samples of a trace that never arrived: where they are missing, and whether a signal could lie there.

A *gap* is (first, past the last) of the samples that are missing; in their place stands a straight line.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence

import numpy as np
import numpy.typing as npt

from reckoner.core.quantities.arrays import Values

Gap = tuple[int, int]

HIDES = 0.004
"""Seconds in which nothing but what is shorter than half of the quickest click can hide."""

NEAR_THE_SIGNAL = 0.8
"""The part of a signal's torque above which a gap could hide another."""

_LATE = 1.75
"""Steps of a clock that are one: what comes later than so many has lost samples before it."""

_MOST_OF_A_PLATEAU = 0.1


def gaps_by_number(numbers: npt.NDArray[np.intp]) -> tuple[Gap, ...]:
    """The gaps in rising running ``numbers``, from the first of them. Refuses nothing. Source: the detector,
    docs/calculations.md, Traces."""
    late = np.flatnonzero(np.diff(numbers) > 1)
    return tuple((int(numbers[i] - numbers[0]) + 1, int(numbers[i + 1] - numbers[0])) for i in late)


def gaps_by_clock(times: Values, step: float) -> tuple[Gap, ...]:
    """The gaps in rising ``times`` (s) of samples that come every ``step`` s. Refuses nothing. Source: the detector,
    docs/calculations.md, Traces."""
    late = np.flatnonzero(np.diff(times) > _LATE * step)
    places = np.round((times - times[0]) / step).astype(np.intp)
    return tuple((int(places[i]) + 1, int(places[i + 1])) for i in late)


def gaps_within(gaps: Iterable[Gap], begin: int, end: int, blocks: int = 1) -> tuple[Gap, ...]:
    """The gaps that touch the samples from ``begin`` to before ``end``, counted from there, in blocks of so many. Refuses
    nothing. Source: the detector, docs/calculations.md, Traces."""
    return tuple(
        (max(first - begin, 0) // blocks, -(-(past - begin) // blocks))
        for first, past in gaps
        if first < end and past > begin
    )


def could_hide(gaps: Sequence[Gap], torques: Values, rate: float, torque: float) -> bool:
    """Whether a signal near ``torque`` (N·m) could lie in one of the gaps in ``torques``: it is long enough, and the torque
    on one of its sides had come near. Refuses nothing. Source: the detector, docs/calculations.md, Traces.

    A gap after what looks like a signal counts as well: with the true one in it, a twitch of the hand is the next best.
    """
    last = len(torques) - 1
    return any(
        (past - first) / rate >= HIDES
        and max(torques[max(0, first - 1)], torques[min(past, last)]) >= NEAR_THE_SIGNAL * torque
        for first, past in gaps
    )


def spoil(gaps: Sequence[Gap], begin: int, end: int) -> bool:
    """Whether too much is missing from ``begin`` to before ``end`` for a mean of it. Refuses nothing. Source: the detector,
    docs/calculations.md, Traces."""
    missing = sum(max(0, min(past, end) - max(first, begin)) for first, past in gaps)
    return missing > _MOST_OF_A_PLATEAU * (end - begin)
