"""Known weights on a tool's own lever: what hangs where at each point, what it makes, and what it is worth.

``LeverFacts``   the whole set-up, kept with the run; torques and uncertainties follow from it
``Box``          the shop's weights as they are known now
``ways``         what to hang where for a point
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Any

from reckoner.core.errors import InputRefused
from reckoner.core.kinds import Mechanism
from reckoner.core.pin import Pin
from reckoner.core.plan import Place
from reckoner.core.printing import percent, quantity, uncertainty_decimals
from reckoner.core.reference import ReferenceAtPoint
from reckoner.core.stack import HEAVIEST, Stack, stacks
from reckoner.core.units import Kind, Unit, unit_named
from reckoner.core.verdict import BESIDE
from reckoner.core.weights import (
    STANDARD_GRAVITY,
    DeadWeightTorque,
    Hanging,
    OwnWeight,
    WeightUncertainty,
    dead_weight,
    local_gravity,
)
from reckoner.shop.acts import ShopRefused
from reckoner.shop.toolfacts import ToolFacts
from reckoner.store.reader import Reader

K = 2.0
"""What is registered as an uncertainty is expanded, k = 2."""

ANYWHERE = 0.026
"""U of standard gravity in m/s² where nobody said where the shop stands: it is 9.78 to 9.83 on Earth."""

AT_A_PLACE = 0.002
"""U of the normal gravity of a place: what rock and valleys make of it."""

LEAST_ARM = 0.45
"""The nearest hook as a part of the lever: nearer, a millimetre counts too much."""


class Anchor(StrEnum):
    """What holds the drive."""

    VICE = "vice"
    NUT = "nut"


class Levelled(StrEnum):
    """How the lever's level was found."""

    LEVEL = "level"
    EYE = "eye"


LEVELLED: dict[Levelled, float] = {Levelled.LEVEL: math.radians(0.3), Levelled.EYE: math.radians(3.0)}
"""The most that the lever is off level, in rad."""


@dataclass(frozen=True)
class HungWeight:
    """A weight: its mass in kg, and its expanded uncertainty (None: it was never weighed)."""

    number: str
    mass: float
    uncertainty: float | None


@dataclass(frozen=True)
class HungAt:
    """What hangs for a point (``target`` in N·m): the weights, and their ``hook`` in m from the drive. ``rungs``: the stacks,
    rising, that are hung in its place where weights are added until it trips."""

    target: float
    weights: tuple[HungWeight, ...]
    hook: float
    rungs: tuple[tuple[HungWeight, ...], ...] = ()

    @property
    def mass(self) -> float:
        return sum(w.mass for w in self.weights)

    @property
    def words(self) -> str:
        """Such as "W-20 + W-5"."""
        return " + ".join(w.number for w in self.weights)


@dataclass(frozen=True)
class LeverFacts:
    """A set-up with known weights: SI; uncertainties expanded, k = 2, and bounds where they say so.

    ``hanger`` is the mass of hook and rope, ``head`` what of the tool sits at the drive and does not swing (None: not
    weighed); ``length`` the uncertainty of each measured length; ``own_mass`` and ``own_centre`` the tool's own; ``pivot``
    and ``grip`` from the drive's centre.
    """

    points: tuple[HungAt, ...]
    own_mass: float
    own_centre: float
    grip: float | None
    pivot: float = 0.0
    hanger: float = 0.0
    hanger_uncertainty: float = 0.0
    head: float | None = None
    length: float = 0.001
    own_centre_uncertainty: float = 0.005
    own_mass_uncertainty: float = 0.02
    gravity: float = STANDARD_GRAVITY
    gravity_uncertainty: float = ANYWHERE
    levelled: Levelled = Levelled.EYE
    anchor: Anchor = Anchor.VICE

    @property
    def pin(self) -> Pin:
        return Pin(self.pivot, self.grip, self.head) if self.pivot else Pin()

    @property
    def place(self) -> Place:
        """Where torques are to be made, for the first sum."""
        return Place(OwnWeight(self.own_mass, self.own_centre), self.pin, self.hanger, gravity=self.gravity)

    @property
    def proven(self) -> bool:
        """Whether every weight was weighed: a stamp alone decides nothing."""
        return all(w.uncertainty is not None for at in self.points for stack in (at.weights, *at.rungs) for w in stack)

    def at(self, target: float) -> HungAt | None:
        """What hangs for a target."""
        return next((p for p in self.points if math.isclose(p.target, target, rel_tol=1e-9)), None)

    def made(self, hung: HungAt) -> DeadWeightTorque:
        """What it makes, with each input's share. Raises InputRefused for what cannot hang so."""
        masses = [*(w.uncertainty or 0.0 for w in hung.weights), self.hanger_uncertainty]
        own = math.hypot(
            self.own_mass * self.gravity * self.own_centre_uncertainty,
            self.gravity * self.own_centre * self.own_mass_uncertainty,
        )
        hanging = Hanging(
            hung.mass,
            hung.hook,
            self.hanger,
            gravity=self.gravity,
            own=OwnWeight(self.own_mass, self.own_centre),
            pin=self.pin,
        )
        return dead_weight(
            hanging,
            WeightUncertainty(
                mass=math.hypot(*masses) / K,
                lever=self.length / K,
                gravity=self.gravity_uncertainty / K,
                own_torque=own / K,
            ),
        )

    def torque(self, hung: HungAt) -> float:
        """The torque in N·m that its scale means: at the grip mark."""
        return self.made(hung).at_grip

    def shares(self, hung: HungAt) -> tuple[tuple[str, float], ...]:
        """The standard uncertainty's shares in N·m at the grip mark, the largest first. Level is second order: a lever that
        is level has no sensitivity to its tilt, and up to θ off it loses θ²/2 (a rectangle's standard deviation of
        that)."""
        made = self.made(hung)
        tilt = made.at_grip * (1 - math.cos(LEVELLED[self.levelled])) / math.sqrt(3.0)
        found = [(name, share) for name, share in made.contributions_at_grip if name != "incline"]
        return tuple(sorted([*found, ("incline", tilt)], key=lambda pair: -abs(pair[1])))

    def worth(self, hung: HungAt) -> float:
        """W of the torque, k = 2, as a fraction of it."""
        u = math.sqrt(sum(share**2 for _, share in self.shares(hung)))
        return K * u / self.torque(hung)

    def reference_at(self, target: float) -> ReferenceAtPoint:
        """The weights as a reference at a target. Raises InputRefused where nothing hangs for it."""
        hung = self.at(target)
        if hung is None:
            raise InputRefused("target", target, "nothing hangs for this point")
        return ReferenceAtPoint(self.worth(hung))


SHARE_WORDS = {
    "mass": "the mass of what hangs",
    "length": "the length to the hook",
    "gravity": "local gravity",
    "incline": "the lever's level",
    "own_torque": "the tool's own weight",
    "head_mass": "the head, which does not swing and was not weighed",
}

BETTER = {
    "mass": "weigh them on a better scale",
    "length": "measure it with a finer rule",
    "gravity": "say under Tools, Shop where the shop stands",
    "incline": "use a level instead of the eye",
    "own_torque": "balance it on an edge more carefully, and weigh it",
    "head_mass": "weigh the head",
}


def biggest_share(facts: LeverFacts, hung: HungAt) -> str:
    """What counts most in the uncertainty, and what it would be without half of it, with what to do."""
    shares = facts.shares(hung)
    name, most = shares[0]
    rest = math.sqrt(sum(share**2 for _, share in shares[1:]))
    now, then = math.hypot(most, rest), math.hypot(most / 2, rest)
    part = most**2 / now**2 if now else 0.0
    torque = facts.torque(hung)
    what = f"{SHARE_WORDS[name][:1].upper()}{SHARE_WORDS[name][1:]}"
    now_w, then_w = percent(K * now / torque, 2), percent(K * then / torque, 2)
    return f"{what} is {percent(part, 0)} of it: {BETTER[name]}; half as unsure, W goes from {now_w} to {then_w}."


@dataclass(frozen=True)
class BoxWeight:
    """A weight of the shop: its mass in kg as it counts, and what its stamp is off, where both are known."""

    number: str
    box: str
    mass: float
    uncertainty: float | None
    stamped: float | None

    @property
    def hung(self) -> HungWeight:
        return HungWeight(self.number, self.mass, self.uncertainty)


def box(reader: Reader) -> tuple[BoxWeight, ...]:
    """The shop's weights, the heaviest first; what was weighed counts, else its stamp."""
    rows = reader.rows(
        "SELECT number, COALESCE(box, '') AS box, stamped, weighed, mass_uncertainty FROM gear "
        "WHERE kind = 'weight' AND NOT removed AND COALESCE(weighed, stamped) > 0 "
        "ORDER BY COALESCE(weighed, stamped) DESC, number"
    )
    return tuple(_weight(row) for row in rows)


def _weight(row: Any) -> BoxWeight:
    known = row.weighed is not None and row.mass_uncertainty is not None
    mass = row.weighed if row.weighed is not None else row.stamped
    return BoxWeight(row.number, row.box, mass, row.mass_uncertainty if known else None, row.stamped)


@dataclass(frozen=True)
class Rule:
    """A rule or tape, and its expanded uncertainty in m."""

    number: str
    uncertainty: float


def rules(reader: Reader) -> tuple[Rule, ...]:
    """What lengths are measured with, the best first."""
    rows = reader.rows(
        "SELECT number, length_uncertainty FROM gear WHERE kind = 'length' AND NOT removed AND length_uncertainty > 0 "
        "ORDER BY length_uncertainty"
    )
    return tuple(Rule(r.number, r.length_uncertainty) for r in rows)


def gravity(reader: Reader) -> tuple[float, float]:
    """Gravity in m/s² where the shop stands, and its expanded uncertainty; standard gravity where nobody said."""
    row = reader.row("SELECT latitude, elevation FROM shop ORDER BY id LIMIT 1")
    if row is None or row.latitude is None:
        return STANDARD_GRAVITY, ANYWHERE
    return local_gravity(row.latitude, row.elevation or 0.0), AT_A_PLACE


MOST_WAYS = 3


def must_hang_at_the_mark(tool: ToolFacts) -> bool:
    """Whether a tool trips about a pin and nobody said where it is: then only the grip mark is right."""
    return tool.mechanism in (Mechanism.CLICK, Mechanism.BREAK_OVER, Mechanism.PRESET) and not tool.pivot


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
    weights: tuple[BoxWeight, ...],
    target: float,
    *,
    at_the_mark: bool = False,
    to_walk: bool = False,
) -> tuple[HungAt, ...]:
    """What to hang where for a target, the best first: weighed weights before stamps, few before many. ``at_the_mark``:
    nowhere but there, and then near the target only; ``to_walk``: with room to move outwards. Raises InputRefused where the
    own weight makes the torque already."""
    if facts.grip is None:
        return ()
    furthest = facts.grip * (ROOM_TO_WALK if to_walk else 1.0)
    nearest = max(LEAST_ARM * facts.grip, facts.pivot + 0.05)
    if at_the_mark:
        nearest, furthest = facts.grip * (1 - BESIDE * 0.9), facts.grip * (1 + BESIDE * 0.9)
    found: list[Stack] = []
    sure = [w for w in weights if w.uncertainty is not None]
    for masses in (sure, weights):
        found = list(stacks([w.mass for w in masses], target, facts.place, nearest, furthest))
        if found:
            hooks = [facts.grip if at_the_mark else s.hook for s in found]
            made = [
                HungAt(target, tuple(masses[i].hung for i in s.weights), hook)
                for s, hook in zip(found, hooks, strict=True)
            ]
            made.sort(key=lambda h: (len(h.weights), facts.worth(h)))
            return tuple(made[:MOST_WAYS])
    return ()


def shortcuts(facts: LeverFacts, hung: HungAt, stamped: dict[str, float]) -> tuple[tuple[str, float], ...]:
    """What shortcuts would make of the torque, as fractions of it: computed instead of what really pulls."""
    torque = facts.torque(hung)

    def off(other: LeverFacts, hang: HungAt) -> float:
        return other.torque(hang) / torque - 1

    found = [
        ("rounding gravity to 10", off(replace(facts, gravity=10.0), hung)),
        ("forgetting the tool's own weight", off(replace(facts, own_mass=0.0, head=None), hung)),
        ("a lever 5° off level, unseen", 1 / math.cos(math.radians(5.0)) - 1),
    ]
    if facts.pivot and facts.grip is not None and abs(hung.hook - facts.grip) > 0.002:
        found.append(("taking mass times length, hung off the grip mark", facts.made(hung).torque / torque - 1))
    believed = replace(hung, weights=tuple(replace(w, mass=stamped.get(w.number, w.mass)) for w in hung.weights))
    if abs(believed.mass - hung.mass) > 1e-6:
        found.append(("believing the stamps", off(facts, believed)))
    return tuple(found)


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


def torque_words(facts: LeverFacts, hung: HungAt, unit: Unit) -> str:
    """The torque, to as many figures as it is known."""
    torque = facts.torque(hung)
    return quantity(torque, unit, uncertainty_decimals(unit.from_si(facts.worth(hung) * torque)))


def hung_words(facts: LeverFacts, hung: HungAt) -> str:
    """Such as "W-20 + W-5 at 412 mm"."""
    return f"{hung.words} at {quantity(hung.hook, unit_named('mm', Kind.LENGTH))}"


LIGHTEST_TOOL, HEAVIEST_TOOL = 0.05, 50.0
"""kg that a torque tool weighs: less or more is a slip of the hand, or another unit."""
SHORTEST_LEVER, LONGEST_LEVER = 0.05, 5.0
"""m from the drive to the grip mark, likewise."""
NEAREST_BALANCE = 0.05
"""Of the lever: a balance point nearer the drive is no balance point of a wrench."""


def amiss(lever: LeverFacts) -> tuple[str, str] | None:
    """The first of a lever's own figures that cannot be, by its name, and what to do about it; None when all can."""
    grip, mass = lever.grip, lever.own_mass
    checks = (
        ("grip", grip is None or SHORTEST_LEVER <= grip <= LONGEST_LEVER,
         "That cannot be a lever's length: measure it from the drive's centre to the grip mark, and give its unit."),
        ("grip", grip is None or lever.pivot < grip, "The grip mark lies beyond the pin; measure it again."),
        ("own_mass", mass > 0, WEIGH_IT),
        ("own_mass", LIGHTEST_TOOL <= mass <= HEAVIEST_TOOL,
         "That cannot be what a torque tool weighs: weigh it again, and give its unit."),
        ("own_centre", lever.own_centre > 0, WEIGH_IT),
        ("own_centre", grip is None or NEAREST_BALANCE * grip <= lever.own_centre < grip,
         "The balance point lies between the drive and the grip mark; measure it from the drive, and give its unit."),
        ("head", lever.head is None or 0 <= lever.head < mass,
         "The head cannot weigh as much as the whole tool; weigh both again."),
        ("hanger", 0 <= lever.hanger <= HEAVIEST, "That cannot be what a hook and its rope weigh; weigh them again."),
    )  # fmt: skip
    return next(((name, words) for name, fine, words in checks if not fine), None)


WEIGH_IT = "Weigh the tool and balance it on an edge: its own weight pulls too, often by 5 %."


def check_lever(lever: LeverFacts, tool: ToolFacts, targets: tuple[float, ...]) -> None:
    """Raises ShopRefused with what cannot hang so, and what to do."""
    mm, kg = unit_named("mm", Kind.LENGTH), unit_named("kg", Kind.MASS)
    found = amiss(lever)
    if found is not None:
        raise ShopRefused(found[1])
    for target in targets:
        hung = lever.at(target)
        if hung is None or not hung.weights:
            raise ShopRefused(f"Nothing hangs for {quantity(target, tool.unit)}; choose what to hang there.")
        if hung.hook <= lever.pivot + 0.01:
            raise ShopRefused(
                f"The hook has to hang beyond the pin, which is {quantity(lever.pivot, mm)} from the drive."
            )
        if lever.grip is not None and hung.hook > lever.grip * (1 + 1e-9):
            raise ShopRefused(f"The hook cannot hang beyond the grip mark at {quantity(lever.grip, mm)}.")
        if hung.mass + lever.hanger > HEAVIEST + 1e-9:
            raise ShopRefused(f"{quantity(hung.mass, kg)} is more than one person should lift; hang less, further out.")
        torque = lever.torque(hung)
        if torque > tool.kind.maximum * OVER:
            made, most = quantity(torque, tool.unit), quantity(tool.kind.maximum, tool.unit)
            raise ShopRefused(f"That makes {made}; the tool ends at {most}. Hang less, or nearer.")
        if not target * (1 - BESIDE) <= torque <= target * (1 + BESIDE):
            made, aim = quantity(torque, tool.unit), quantity(target, tool.unit)
            raise ShopRefused(f"That makes {made}, too far from {aim}; move the hook.")


def check_arm(lever: LeverFacts, targets: tuple[float, ...]) -> None:
    """What hangs on an arm to check a reference. Raises ShopRefused with what cannot hang so, and what to do."""
    mm, kg = unit_named("mm", Kind.LENGTH), unit_named("kg", Kind.MASS)
    for target in targets:
        hung = lever.at(target)
        if hung is None or not hung.weights:
            raise ShopRefused(f"Nothing hangs for {target:g} N·m; choose other torques, or a longer arm.")
        if hung.hook > LONGEST_LEVER:
            raise ShopRefused(
                f"{quantity(hung.hook, mm)} cannot be an arm's length; measure it from the drive's centre."
            )
        if hung.mass + lever.hanger > HEAVIEST + 1e-9:
            raise ShopRefused(f"{quantity(hung.mass, kg)} is more than one person should lift; hang less, further out.")
    if not lever.proven:
        raise ShopRefused("A stamp alone says nothing of a reference: weigh the weights first, in References.")


OVER = 1.02
"""How far beyond its full scale a tool may be loaded: a mark is not met to the millimetre."""
