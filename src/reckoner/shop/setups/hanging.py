"""Known weights on a tool's own lever: what hangs where at each point, what it makes, and what it is worth.

``LeverFacts`` is the whole set-up, kept with the run; torques and uncertainties follow from it. The shop's weights as they
are known now stand in ``equipment``, what to hang where in ``plan``, what counts in the uncertainty in ``worth``.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from enum import StrEnum

from reckoner.core.decision.verdict import BESIDE
from reckoner.core.errors import InputRefused
from reckoner.core.quantities.entry import read_torque
from reckoner.core.quantities.ownunits import METRIC, OwnUnits
from reckoner.core.quantities.printing import quantity, uncertainty_decimals
from reckoner.core.quantities.units import Kind, Unit
from reckoner.core.reference.certificate import ReferenceAtPoint
from reckoner.core.reference.plan import LONGEST_LEVER, MOST_HUNG, NEAR_THE_MARK, ONE_LIFT, HangingPlace
from reckoner.core.reference.weights import (
    MOST_PIN,
    STANDARD_GRAVITY,
    DeadWeightTorque,
    Hanging,
    OwnWeight,
    Pin,
    WeightUncertainty,
    dead_weight,
)
from reckoner.core.translation import tr
from reckoner.formats.languages import say
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.people.authorship import ShopRefused
from reckoner.store.station import HEAVIEST_HANGER

K = 2.0
"""What is registered as an uncertainty is expanded, k = 2."""

ANYWHERE = 0.026
"""U of standard gravity in m/s² where nobody said where the shop stands: it is 9.78 to 9.83 on Earth."""


class Anchor(StrEnum):
    """What holds the drive."""

    VICE = "vice"
    NUT = "nut"


class Levelled(StrEnum):
    """How the lever's level was found."""

    LEVEL = "level"
    EYE = "eye"
    MEASURED = "measured"


LEVELLED: dict[Levelled, float] = {
    Levelled.LEVEL: math.radians(0.3),
    Levelled.EYE: math.radians(3.0),
    Levelled.MEASURED: math.radians(0.3),
}
"""The most that the lever is off level, or off the tilt that was measured, in rad."""

MOST_TILT = math.radians(10.0)
"""Further off level the rope slides and pulls askew."""


NO_RULE = 0.002
"""U (k = 2) of a length where no rule is in the register, in m: a tape's."""


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
    and ``grip`` from the drive's centre. ``own_torque`` is what the tool's own weight makes about the drive, where it was
    taken from a scale or a meter instead; not ``own_known``: nobody weighed it, or knows where it balances, and it is the
    middle of what it may be.
    ``tilt`` is how far the lever is off level, in rad. On a ``disc`` of the radius
    ``grip`` the rope hangs from the rim, and nothing else weighs in. Not ``pin_known``: the tool trips about a pin, and
    nobody said where it is; then only the grip mark is right. ``pivot_uncertainty`` is that of a pin found with two hooks.
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
    own_torque: float | None = None
    own_torque_uncertainty: float = 0.0
    tilt: float = 0.0
    disc: bool = False
    own_known: bool = True
    pin_known: bool = True
    pivot_uncertainty: float = 0.0

    @property
    def sends(self) -> Kind:
        """Nothing is linked; of an indicating tool its own torque is typed while the weight hangs."""
        return Kind.TORQUE

    def torque_of(self, shown: float, unit: Unit) -> float:
        """A torque is what it is."""
        return shown

    def read(self, text: str, own: OwnUnits) -> tuple[float, str]:
        """A torque. Raises InputRefused."""
        return read_torque(text, own.torque)

    @property
    def own(self) -> OwnWeight:
        """The tool's own weight about the drive."""
        if self.own_torque is not None:
            return OwnWeight(torque=self.own_torque)
        return OwnWeight(self.own_mass, self.own_centre)

    @property
    def pin(self) -> Pin:
        return Pin(self.pivot, self.grip, self.head) if self.pivot else Pin()

    @property
    def place(self) -> HangingPlace:
        """Where torques are to be made, for the first sum."""
        return HangingPlace(self.own, self.pin, self.hanger, self.tilt, self.gravity)

    @property
    def proven(self) -> bool:
        """Whether every weight was weighed, and the tool, and its pin known where it counts: a stamp alone decides
        nothing."""
        hung = (w for at in self.points for stack in (at.weights, *at.rungs) for w in stack)
        return self.own_known and self.at_the_pin and all(w.uncertainty is not None for w in hung)

    @property
    def in_parts(self) -> bool:
        """Whether more hangs at one time than one person lifts at once."""
        stacks = (stack for at in self.points for stack in (at.weights, *at.rungs))
        return any(sum(w.mass for w in stack) + self.hanger > ONE_LIFT for stack in stacks)

    @property
    def at_the_pin(self) -> bool:
        """Whether what the pin does is known: by its place, or because everything hangs at the grip mark."""
        return self.pin_known or all(map(self._at_the_mark, self.points))

    def _at_the_mark(self, hung: HungAt) -> bool:
        return self.grip is not None and math.isclose(hung.hook, self.grip, rel_tol=NEAR_THE_MARK)

    def at(self, target: float) -> HungAt | None:
        """What hangs for a target."""
        return next((p for p in self.points if math.isclose(p.target, target, rel_tol=1e-9)), None)

    def made(self, hung: HungAt) -> DeadWeightTorque:
        """What it makes, with each input's share. Raises InputRefused for what cannot hang so."""
        masses = [*(w.uncertainty or 0.0 for w in hung.weights), self.hanger_uncertainty]
        own = self.own_torque_uncertainty
        if self.own_torque is None:
            own = math.hypot(
                self.own_mass * self.gravity * self.own_centre_uncertainty,
                self.gravity * self.own_centre * self.own_mass_uncertainty,
            )
        hanging = Hanging(
            hung.mass,
            hung.hook,
            self.hanger,
            gravity=self.gravity,
            tilt_rad=self.tilt,
            own=self.own,
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
        """The standard uncertainty's shares in N·m at the grip mark, the largest first. A lever that is level has no
        sensitivity to its tilt, and up to δ off it loses 1 − cos δ; one at θ loses tan θ·sin δ more (of both a rectangle's
        standard deviation)."""
        made, off = self.made(hung), LEVELLED[self.levelled]
        tilt = made.at_grip * (1 - math.cos(off) + math.tan(abs(self.tilt)) * math.sin(off)) / math.sqrt(3.0)
        if self.disc:
            tilt = 0.0
        found = [(name, share) for name, share in made.contributions_at_grip if name != "incline"]
        if not self.pin_known and self.grip is not None and not self._at_the_mark(hung):
            found.append(("pin", abs(self._with_pin(MOST_PIN * self.grip, hung) - made.at_grip) / math.sqrt(3.0)))
        if self.pivot_uncertainty and self.pivot:
            moved = self._with_pin(self.pivot + self.pivot_uncertainty / K, hung)
            found.append(("pin", abs(moved - made.at_grip)))
        return tuple(sorted([*found, ("incline", tilt)], key=lambda pair: -abs(pair[1])))

    def _with_pin(self, pivot: float, hung: HungAt) -> float:
        """The torque at the grip mark if the pin were there."""
        if self.own_torque is not None:
            return Pin(pivot, self.grip).at_grip(self.made(hung).torque, (hung.mass + self.hanger) * self.gravity)
        return replace(self, pivot=pivot, pin_known=True).torque(hung)

    def worth(self, hung: HungAt) -> float:
        """W of the torque, k = 2, as a fraction of it."""
        u = math.sqrt(sum(share**2 for _, share in self.shares(hung)))
        return K * u / self.torque(hung)

    def reference_at(self, target: float) -> ReferenceAtPoint:
        """The weights as a reference at a target. Raises InputRefused where nothing hangs for it."""
        hung = self.at(target)
        if hung is None:
            raise InputRefused("target", target, tr("nothing hangs for this point"))
        return ReferenceAtPoint(self.worth(hung))


def torque_words(facts: LeverFacts, hung: HungAt, unit: Unit) -> str:
    """The torque, to as many figures as it is known."""
    torque = facts.torque(hung)
    return quantity(torque, unit, uncertainty_decimals(unit.from_si(facts.worth(hung) * torque)))


def hung_words(hung: HungAt, own: OwnUnits) -> str:
    """Such as "W-20 + W-5 at 412 mm"."""
    return say("lever.hung", weights=hung.words, distance=own.length_words(hung.hook))


LIGHTEST_TOOL, HEAVIEST_TOOL = 0.05, 50.0
"""kg that a torque tool weighs: less or more is a slip of the hand, or another unit."""
SHORTEST_LEVER = 0.05
"""m from the drive to the grip mark, likewise."""
SMALLEST_DISC, LARGEST_DISC = 0.01, 0.5
"""m, the radius of a disc on a screwdriver's drive."""
MOST_OWN = 200.0
"""N·m that the heaviest tool makes by its own weight."""
NEAREST_BALANCE = 0.05
"""Of the lever: a balance point nearer the drive is no balance point of a wrench."""


def amiss(lever: LeverFacts) -> tuple[str, str] | None:
    """The first of a lever's own figures that cannot be, by its name, and what to do about it; None when all can."""
    grip, mass = lever.grip, lever.own_mass
    if lever.disc:
        fine = grip is not None and SMALLEST_DISC <= grip <= LARGEST_DISC
        return None if fine else ("grip", tr("That cannot be a disc's radius: measure it to the middle of the rope."))
    by_torque = lever.own_torque is not None
    checks = (
        (
            "tilt",
            abs(lever.tilt) <= MOST_TILT,
            tr(
                "Bring it nearer to level, within {degrees:.0f}°: further off the rope slides and pulls askew.",
                degrees=math.degrees(MOST_TILT),
            ),
        ),
        (
            "grip",
            grip is None or SHORTEST_LEVER <= grip <= LONGEST_LEVER,
            tr(
                "That cannot be a lever's length: measure it from the drive's centre to the grip mark, and give its unit."
            ),
        ),
        ("grip", grip is None or lever.pivot < grip, tr("The grip mark lies beyond the pin; measure it again.")),
        ("own_mass", by_torque or mass > 0, WEIGH_IT),
        (
            "own_mass",
            by_torque or LIGHTEST_TOOL <= mass <= HEAVIEST_TOOL,
            tr("That cannot be what a torque tool weighs: weigh it again, and give its unit."),
        ),
        ("own_centre", by_torque or lever.own_centre > 0, WEIGH_IT),
        (
            "own_centre",
            by_torque or grip is None or NEAREST_BALANCE * grip <= lever.own_centre < grip,
            tr(
                "The balance point lies between the drive and the grip mark; measure it from the drive, and give its unit."
            ),
        ),
        (
            "own_torque",
            lever.own_torque is None or 0 <= lever.own_torque <= MOST_OWN,
            tr("That cannot be what a tool's own weight makes; look at it again, with nothing hung."),
        ),
        (
            "head",
            by_torque or lever.head is None or 0 <= lever.head < mass,
            tr("The head cannot weigh as much as the whole tool; weigh both again."),
        ),
        (
            "hanger",
            0 <= lever.hanger <= HEAVIEST_HANGER,
            tr("That cannot be what a hook and its rope weigh; weigh them again."),
        ),
    )
    return next(((name, words) for name, fine, words in checks if not fine), None)


WEIGH_IT = tr("Weigh the tool and balance it on an edge: its own weight pulls too, often by 5 %.")


def is_near(torque: float, target: float) -> bool:
    """Whether what hangs is near enough to a target to test it, N·m."""
    return target * (1 - BESIDE) <= torque <= target * (1 + BESIDE)


def check_lever(lever: LeverFacts, tool: ToolFacts, targets: tuple[float, ...]) -> None:
    """Raises ShopRefused with what cannot hang so, and what to do."""
    found, own = amiss(lever), tool.own_units
    if found is not None:
        raise ShopRefused(found[1])
    for target in targets:
        hung = lever.at(target)
        if hung is None or not hung.weights:
            raise ShopRefused(
                tr("Nothing hangs for {target}; choose what to hang there.", target=quantity(target, tool.unit))
            )
        if not lever.disc and hung.hook <= lever.pivot + 0.01:
            raise ShopRefused(
                tr(
                    "The hook has to hang beyond the pin, which is {pivot} from the drive.",
                    pivot=own.length_words(lever.pivot),
                )
            )
        if lever.grip is not None and hung.hook > lever.grip * (1 + 1e-9):
            raise ShopRefused(
                tr("The hook cannot hang beyond the grip mark at {grip}.", grip=own.length_words(lever.grip))
            )
        if hung.mass + lever.hanger > MOST_HUNG + 1e-9:
            raise ShopRefused(
                tr(
                    "{mass} is more than a lever in a vice should carry; hang less, further out.",
                    mass=own.mass_words(hung.mass),
                )
            )
        torque = lever.torque(hung)
        if torque > tool.kind.maximum * OVER:
            made, most = quantity(torque, tool.unit), quantity(tool.kind.maximum, tool.unit)
            raise ShopRefused(
                tr("That makes {made}; the tool ends at {most}. Hang less, or nearer.", made=made, most=most)
            )
        if not is_near(torque, target):
            made, aim = quantity(torque, tool.unit), quantity(target, tool.unit)
            raise ShopRefused(tr("That makes {made}, too far from {aim}; move the hook.", made=made, aim=aim))


def check_arm(lever: LeverFacts, targets: tuple[float, ...], own: OwnUnits = METRIC) -> None:
    """What hangs on an arm to check a reference. Raises ShopRefused with what cannot hang so, and what to do."""
    for target in targets:
        hung = lever.at(target)
        if hung is None or not hung.weights:
            raise ShopRefused(
                tr("Nothing hangs for {target:g} N·m; choose other torques, or a longer arm.", target=target)
            )
        if hung.hook > LONGEST_LEVER:
            raise ShopRefused(
                tr(
                    "{hook} cannot be an arm's length; measure it from the drive's centre.",
                    hook=own.length_words(hung.hook),
                )
            )
        if hung.mass + lever.hanger > MOST_HUNG + 1e-9:
            raise ShopRefused(
                tr(
                    "{mass} is more than a lever in a vice should carry; hang less, further out.",
                    mass=own.mass_words(hung.mass),
                )
            )
    if not lever.proven:
        raise ShopRefused(tr("A stamp alone says nothing of a reference: weigh the weights first, in References."))


OVER = 1.02
"""How far beyond its full scale a tool may be loaded: a mark is not met to the millimetre."""
