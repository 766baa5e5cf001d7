"""The first sum of everyone: from a wanted torque to what to hang where, from this shop's own box."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from itertools import combinations

from reckoner.core.decision.verdict import BESIDE
from reckoner.core.quantities.ownunits import OwnUnits
from reckoner.core.reference.plan import MOST_WEIGHTS, ONE_LIFT, HungWish, Makeable, Stack, makeable, stacks
from reckoner.core.reference.weights import OwnWeightRange
from reckoner.core.translation import tr
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.setups.equipment import OwnedWeight
from reckoner.shop.setups.hanging import HungAt, HungWeight, LeverFacts, is_near

LEAST_ARM = 0.45
"""The nearest hook as a part of the lever: nearer, a millimetre counts too much."""


MOST_WAYS = 3


def must_hang_at_the_mark(tool: ToolFacts) -> bool:
    """Whether only the grip mark is right: a tool trips about a pin and nobody said where it is, or has a disc on its drive
    instead of a lever."""
    return tool.kind.is_screwdriver or tool.pin_unknown


def aim_for(tool: ToolFacts, target: float) -> float:
    """The torque to hang for a target, in N·m: at the ends of a setting tool's scale a little inside, so that settings on
    both sides of where it trips can be tried."""
    if not tool.kind.is_setting or tool.kind.is_fixed:
        return target
    if not tool.kind.resolution:
        return target
    high = (tool.kind.maximum - tool.kind.resolution) / (1 + AROUND)
    low = ((tool.kind.minimum or 0.0) + tool.kind.resolution) / (1 - AROUND)
    within = BESIDE * 0.9
    return min(max(target, min(low, target * (1 + within))), max(high, target * (1 - within)))


AROUND = 0.04
"""How far a tool's trip may lie from what hangs and still be found within its scale, beside a graduation."""


ROOM_TO_WALK = 0.92
"""Of the lever: a hook that is to be moved outwards as well does not begin further out."""


def ways(
    facts: LeverFacts,
    weights: tuple[OwnedWeight, ...],
    target: float,
    *,
    at_the_mark: bool = False,
    to_walk: bool = False,
    step: float = 0.001,
) -> tuple[HungAt, ...]:
    """What to hang where for a target, the best first: weighed weights before stamps, few before many. ``at_the_mark``:
    nowhere but there, and then near the target only; ``to_walk``: with room to move outwards; ``step`` in m is what the
    rule is read to. Raises InputRefused where the own weight makes the torque already."""
    if facts.grip is None:
        return ()
    furthest = facts.grip * (ROOM_TO_WALK if to_walk else 1.0)
    nearest = max(LEAST_ARM * facts.grip, facts.pivot + 0.05)
    if at_the_mark:
        nearest, furthest = facts.grip * (1 - BESIDE * 0.9), facts.grip * (1 + BESIDE * 0.9)
    found: list[Stack] = []
    sure = [w for w in weights if w.uncertainty is not None]
    for masses in (sure, weights):
        found = list(stacks([w.mass for w in masses], target, facts.place, nearest, furthest, step))
        if found:
            hooks = [facts.grip if at_the_mark else s.hook for s in found]
            made = [
                HungAt(target, tuple(masses[i].hung for i in s.weights), hook)
                for s, hook in zip(found, hooks, strict=True)
            ]
            made.sort(key=lambda h: (h.mass > ONE_LIFT, len(h.weights), facts.worth(h)))
            return tuple(made[:MOST_WAYS])
    return ()


def lever_for(tool: ToolFacts, where: tuple[float, float]) -> LeverFacts:
    """A set-up for a tool with nothing hung yet: what the register knows of it."""
    return LeverFacts(
        (),
        tool.own_mass or 0.0,
        tool.own_centre or 0.0,
        tool.lever,
        tool.pivot,
        gravity=where[0],
        gravity_uncertainty=where[1],
    )


def hung_for(wish: HungWish, target: float, weights: tuple[OwnedWeight, ...]) -> HungAt:
    """What a person has, hung for a target: of the shop's ``weights`` the fewest that weigh so much, else a weight that
    nobody weighed."""
    for sure in (True, False):
        box = [w for w in weights if (w.uncertainty is not None) is sure]
        for count in range(1, min(MOST_WEIGHTS, len(box)) + 1):
            for chosen in combinations(box, count):
                if math.isclose(sum(w.mass for w in chosen), wish.mass, rel_tol=SAME_MASS):
                    return HungAt(target, tuple(w.hung for w in chosen), wish.hook)
    return HungAt(target, (HungWeight(wish.words, wish.mass, None),), wish.hook)


SAME_MASS = 0.03
"""How far a weight may be from what a person calls it: stamps are believed no better."""


@dataclass(frozen=True)
class BoxTorque:
    """What weights of the shop make on a tool, within its range: N·m from ``low`` to ``high``, their numbers as ``words``."""

    words: str
    low: float
    high: float
    made: Makeable

    def near(self, torque: float) -> float:
        """The torque of it that is nearest."""
        return min(max(torque, self.low), self.high)

    def makes(self, target: float) -> bool:
        """Whether it is near enough to a target to test it."""
        return is_near(self.near(target), target)

    def hung(self, torque: float, own: OwnUnits) -> str:
        """What hangs where for a torque of it."""
        hook = own.length_words(own.on_rule(self.made.hook_for(torque)))
        return tr("{words} at {hook}", words=self.words, hook=hook)


def box_on(
    tool: ToolFacts, weights: tuple[OwnedWeight, ...], where: tuple[float, float], hanger: float = 0.0
) -> tuple[BoxTorque, ...]:
    """What the shop's ``weights`` make within a tool's range, the least first: at the grip mark, or at each hook where it
    may hang anywhere. Where nobody weighed the tool its own weight is the middle of what it may be. Empty where its lever
    is not known, or it has a disc instead of one. Hook and rope, the ``hanger`` in kg, hang with them."""
    if tool.lever is None or tool.kind.is_screwdriver or not weights:
        return ()
    lever = replace(lever_for(tool, where), hanger=hanger)
    if not (tool.own_mass and tool.own_centre):
        may_be = OwnWeightRange(tool.lever)
        lever = replace(lever, own_mass=may_be.mass, own_centre=may_be.centre, own_known=False)
    free = not must_hang_at_the_mark(tool)
    nearest = max(LEAST_ARM * tool.lever, tool.pivot + 0.05) if free else tool.lever
    box = [w for w in weights if w.uncertainty is not None] or list(weights)
    made = makeable([w.mass for w in box], lever.place, nearest, tool.lever)
    low, high = tool.kind.minimum or 0.0, tool.kind.maximum
    return tuple(
        BoxTorque(" + ".join(box[i].number for i in one.weights), max(one.low, low), min(one.high, high), one)
        for one in made
        if one.high >= low and one.low <= high
    )


def nearest_made(box: tuple[BoxTorque, ...], target: float) -> tuple[BoxTorque, float] | None:
    """What of the ``box`` makes the torque nearest to a target, and that torque; None of an empty one."""
    found = min(box, key=lambda one: abs(one.near(target) - target), default=None)
    return (found, found.near(target)) if found is not None else None
