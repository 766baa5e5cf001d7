"""What of a box of weights to hang, and where, for a torque: every stack that serves, the best first."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations

from reckoner.core.checks import positive
from reckoner.core.plan import HangingPlace, length_for, pull_of_mass

MOST_WEIGHTS = 5
"""Weights on one hook: more of them are not put on and taken off with a steady hand."""

HEAVIEST = 25.0
"""kg that one person lifts and lowers slowly (EN 1005-2's reference mass for adults at work, about)."""


@dataclass(frozen=True)
class Stack:
    """The places of the ``weights`` in the box, and the ``hook`` in m from the drive at which they make the torque."""

    weights: tuple[int, ...]
    mass: float
    hook: float


def stacks(
    masses: Sequence[float], torque: float, place: HangingPlace, nearest: float, furthest: float, step: float = 0.001
) -> tuple[Stack, ...]:
    """Every stack of ``masses`` (kg) that makes ``torque`` N·m at the grip mark with its hook from ``nearest`` to
    ``furthest`` m from the drive, on a ``step`` of the rule: few weights first, and of those the hook furthest out, where a
    millimetre counts least.

    Raises InputRefused where the own weight makes the torque already. Source: moments about the pin.

    >>> [(s.weights, s.hook) for s in stacks([20, 10, 5], 49.0, HangingPlace(), 0.25, 0.42)]
    [((0,), 0.25), ((1, 2), 0.333)]
    """
    positive("torque", torque)
    found = []
    for count in range(1, min(MOST_WEIGHTS, len(masses)) + 1):
        for chosen in combinations(range(len(masses)), count):
            mass = sum(masses[i] for i in chosen)
            if not 0 < mass <= HEAVIEST:
                continue
            hook = round(length_for(torque, pull_of_mass(mass, place), place) / step) * step
            if nearest - 1e-9 <= hook <= furthest + 1e-9:
                found.append(Stack(chosen, mass, hook))
    return tuple(sorted(found, key=lambda s: (len(s.weights), -s.hook, s.weights)))


def ladder(masses: Sequence[float], lightest: float, heaviest: float, step: float) -> tuple[tuple[int, ...], ...]:
    """Stacks of ``masses`` (kg) from ``lightest`` to ``heaviest``, rising, about a ``step`` of kg apart: of those that lie in
    one step the one of the fewest weights, and of these the one nearest its middle.

    Weights are added along it until a tool trips. Empty where no stack lies there. Raises InputRefused.

    >>> ladder([10, 1, 0.5, 0.2], 10.0, 11.0, 0.25)
    ((0,), (0, 3), (0, 2), (0, 2, 3), (0, 1))
    """
    positive("lightest", lightest)
    positive("step", step)
    best: dict[int, tuple[int, float, tuple[int, ...]]] = {}
    sums = _sums(tuple(masses))
    low = bisect_left(sums, lightest * (1 - 1e-9), key=lambda s: s[0])
    high = bisect_right(sums, min(heaviest, HEAVIEST) * (1 + 1e-9), key=lambda s: s[0])
    for mass, chosen in sums[low:high]:
        rung = round((mass - lightest) / step)
        found = (len(chosen), abs(mass - lightest - rung * step), chosen)
        if rung not in best or found < best[rung]:
            best[rung] = found
    return tuple(best[rung][2] for rung in sorted(best))


@lru_cache(maxsize=8)
def _sums(masses: tuple[float, ...]) -> tuple[tuple[float, tuple[int, ...]], ...]:
    """Every stack of a box by its mass, rising."""
    counts = range(1, min(MOST_WEIGHTS, len(masses)) + 1)
    found = ((sum(masses[i] for i in chosen), chosen) for n in counts for chosen in combinations(range(len(masses)), n))
    return tuple(sorted(found))
