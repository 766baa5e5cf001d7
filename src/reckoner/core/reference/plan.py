"""The first sum of everyone: from a wanted torque to what to hang, where; or what a gauge must show.

What of a box of weights to hang, and where, for a torque: every stack that serves, the best first.
"""

from __future__ import annotations

import math
from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.checks import between, not_negative, positive
from reckoner.core.reference.weights import NO_OWN_WEIGHT, NO_PIN, STANDARD_GRAVITY, OwnWeight, Pin, own_at_grip
from reckoner.core.translation import tr


@dataclass(frozen=True)
class HangingPlace:
    """Where a torque is to be made: the tool's ``own`` weight and ``pin``, a hook of ``hanger`` kg, ``tilt_rad`` from level,
    ``gravity`` in m/s²; a gauge pulls at ``angle_rad`` to the lever."""

    own: OwnWeight = NO_OWN_WEIGHT
    pin: Pin = NO_PIN
    hanger: float = 0.0
    tilt_rad: float = 0.0
    gravity: float = STANDARD_GRAVITY
    angle_rad: float = math.pi / 2

    def __post_init__(self) -> None:
        not_negative("hanger_mass", self.hanger)
        between("incline", math.degrees(self.tilt_rad), -60, 60, "deg")
        between("gravity", self.gravity, 1.0, 30.0, "m/s²")
        between("angle", math.degrees(self.angle_rad), 1, 179, "deg")
        own_at_grip(self.own, self.pin)

    @property
    def own_at_grip(self) -> float:
        """What the tool's own weight adds to the torque at the grip mark, in N·m."""
        return own_at_grip(self.own, self.pin, self.gravity, self.tilt_rad)

    @property
    def newtons_a_kilogram(self) -> float:
        """The pull square to the lever of each kilogram hung on it."""
        return self.gravity * math.cos(self.tilt_rad)


def _left(torque: float, place: HangingPlace) -> float:
    """What is left to be made at the grip mark beside the tool's own weight, in N·m."""
    positive("torque", torque)
    own = place.own_at_grip
    if own >= torque:
        raise InputRefused("torque", torque, tr("the tool's own weight alone makes {own:.4g} N·m already", own=own))
    return torque - own


def force_at(torque: float, length: float, place: HangingPlace) -> float:
    """The force in N that a gauge must show at ``length`` m from the drive for ``torque`` N·m at the grip mark.

    Raises InputRefused where the own weight makes the torque already, or the hook does not lie beyond the pivot. Source:
    moments about the pin.

    >>> round(force_at(60, 0.42, HangingPlace(OwnWeight(1.35, 0.19))), 3)
    136.868
    """
    return _left(torque, place) / (_arm(length, place.pin) * math.sin(place.angle_rad))


def mass_at(torque: float, length: float, place: HangingPlace) -> float:
    """The mass in kg, beside the hanger, to hang at ``length`` m for ``torque`` N·m at the grip mark. Errors as
    ``force_at``, and where the hanger alone is too heavy. Source: as ``force_at`` of a lever.

    >>> round(mass_at(51.91598, 0.42, HangingPlace(OwnWeight(1.35, 0.19), gravity=9.801936)), 3)
    12.0
    """
    whole = _left(torque, place) / (_arm(length, place.pin) * place.newtons_a_kilogram)
    if whole <= place.hanger:
        raise InputRefused("hanger_mass", place.hanger, tr("the hanger alone is heavier than what is to hang there"))
    return whole - place.hanger


def length_for(torque: float, pull: float, place: HangingPlace) -> float:
    """The distance in m from the drive at which a ``pull`` of so many N, square to the lever, makes ``torque`` N·m at the
    grip mark. Errors as ``force_at``. Source: as ``force_at`` of a lever."""
    positive("force", pull)
    return _left(torque, place) / (pull * place.pin.lean) + place.pin.offset


def pull_of_mass(mass: float, place: HangingPlace) -> float:
    """The pull in N, square to the lever, of ``mass`` kg and the hanger. Raises InputRefused unless above zero. Source: F =
    m·g."""
    return (positive("mass", mass) + place.hanger) * place.newtons_a_kilogram


def pull_of_force(force: float, place: HangingPlace) -> float:
    """The pull in N, square to the lever, of a gauge that shows ``force`` N. Raises InputRefused unless above zero. Source:
    statics."""
    return positive("force", force) * math.sin(place.angle_rad)


def _arm(length: float, pin: Pin) -> float:
    """The arm at the grip mark of a pull at ``length`` m from the drive: (d − p)·L/(L − p)."""
    positive("length", length)
    if length <= pin.offset:
        raise InputRefused("length", length, tr("must lie beyond the pivot"))
    return (length - pin.offset) * pin.lean


@dataclass(frozen=True)
class HungWish:
    """What a person has: a ``mass`` in kg at a ``hook`` in m from the drive; ``words`` are the mass as it was typed."""

    mass: float
    hook: float
    words: str


MOST_WEIGHTS = 5
"""Weights on one hook: more of them are not put on and taken off with a steady hand."""

ONE_LIFT = 25.0
"""kg that one person lifts and lowers slowly (EN 1005-2's reference mass for adults at work, about): what weighs more is hung
in parts, one after the other."""

MOST_HUNG = 100.0
"""kg that hang from a lever in a vice: more is a slip of the hand, or wants a hoist and another bench."""

LONGEST_LEVER = 5.0
"""m from the drive to the grip mark: more is a slip of the hand, or another unit."""

NEAR_THE_MARK = 0.02
"""Of the lever: so near the grip mark a hook counts as there."""


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
    ``furthest`` m from the drive, on a ``step`` of the rule: those of one lift first, few weights before many, and of those
    the hook furthest out, where a millimetre counts least.

    Raises InputRefused where the own weight makes the torque already. Source: moments about the pin.

    >>> [(s.weights, s.hook) for s in stacks([20, 10, 5], 49.0, HangingPlace(), 0.25, 0.42)]
    [((0,), 0.25), ((1, 2), 0.333)]
    """
    positive("torque", torque)
    found = []
    for count in range(1, min(MOST_WEIGHTS, len(masses)) + 1):
        for chosen in combinations(range(len(masses)), count):
            mass = sum(masses[i] for i in chosen)
            if not 0 < mass <= MOST_HUNG:
                continue
            hook = round(length_for(torque, pull_of_mass(mass, place), place) / step) * step
            if nearest - 1e-9 <= hook <= furthest + 1e-9:
                found.append(Stack(chosen, mass, hook))
    return tuple(sorted(found, key=lambda s: (s.mass > ONE_LIFT, len(s.weights), -s.hook, s.weights)))


@dataclass(frozen=True)
class Makeable:
    """What a stack of the ``weights`` (their places in the box) makes: every torque from ``low`` to ``high`` N·m as its hook
    goes from the ``nearest`` to the ``furthest`` place (m from the drive), one torque where it hangs at one."""

    weights: tuple[int, ...]
    low: float
    high: float
    nearest: float
    furthest: float

    def hook_for(self, torque: float) -> float:
        """Where it hangs for one of its torques, which goes with the hook."""
        part = (torque - self.low) / (self.high - self.low) if self.high > self.low else 1.0
        return self.nearest + min(max(part, 0.0), 1.0) * (self.furthest - self.nearest)


MOST_TOGETHER = 3
"""Weights on one hook that are told as what a box makes: more are hung where a torque asks for them."""


def makeable(masses: Sequence[float], place: HangingPlace, nearest: float, furthest: float) -> tuple[Makeable, ...]:
    """What one, two or three of ``masses`` (kg) make with their hook from ``nearest`` to ``furthest`` m from the drive, by
    their torque; of those that make the same the one of the fewest weights. Raises InputRefused. Source: moments about the
    pin.

    >>> [(m.weights, round(m.low, 1), round(m.high, 1)) for m in makeable([10, 5], HangingPlace(), 0.2, 0.4)]
    [((1,), 9.8, 19.6), ((0,), 19.6, 39.2), ((0, 1), 29.4, 58.8)]
    """
    near, far = (_arm(hook, place.pin) for hook in (nearest, furthest))
    best: dict[float, Makeable] = {}
    for count in range(1, min(MOST_TOGETHER, len(masses)) + 1):
        for chosen in combinations(range(len(masses)), count):
            mass = sum(masses[i] for i in chosen)
            if 0 < mass <= MOST_HUNG:
                pull = pull_of_mass(mass, place)
                low, high = (pull * arm + place.own_at_grip for arm in (near, far))
                made = Makeable(chosen, low, high, nearest, furthest)
                best.setdefault(round(made.high, 6), made)
    return tuple(sorted(best.values(), key=lambda one: (one.high, one.low)))


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
    high = bisect_right(sums, min(heaviest, MOST_HUNG) * (1 + 1e-9), key=lambda s: s[0])
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
