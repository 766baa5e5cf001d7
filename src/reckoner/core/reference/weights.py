"""Known weights on a level lever: the torque they make, the tool's own weight in it, and its uncertainty.

The pin about which a click mechanism trips, and what of everything hung counts at the grip mark.

What trips the tool is the moment about its pin of everything on the swinging part, the handle side; its scale means that
moment as a pull at the grip mark makes it. A hook, a weight or a hand away from the mark changes the answer unless the
torque is sensed at the drive.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.checks import between, not_negative, positive
from reckoner.core.translation import tr

HEAD_SHARE = 1 / 3
"""The most of a tool's mass that its head can be, which sits at the drive and does not swing."""


@dataclass(frozen=True)
class Pin:
    """``offset`` p in m from the drive's centre to the pin, 0 where the torque is sensed at the drive; ``grip`` L in m from
    the drive to the grip mark, needed with an offset; ``head`` in kg is what of the tool's mass does not swing, None where
    it was not weighed. Raises InputRefused unless 0 ≤ p < L."""

    offset: float = 0.0
    grip: float | None = None
    head: float | None = None

    def __post_init__(self) -> None:
        not_negative("pivot", self.offset)
        if self.head is not None:
            not_negative("head_mass", self.head)
        if self.grip is not None:
            positive("grip", self.grip)
            if self.offset >= self.grip:
                raise InputRefused("pivot", self.offset, tr("the pivot must lie nearer the drive than the grip mark"))
        elif self.offset > 0:
            raise InputRefused("grip", None, tr("is missing; a pivot needs the length from the drive to the grip mark"))

    @property
    def lean(self) -> float:
        """L/(L − p)."""
        return 1.0 if self.offset == 0 or self.grip is None else self.grip / (self.grip - self.offset)

    def at_grip(self, torque: float, pull: float) -> float:
        """The torque at the grip mark that trips as ``torque`` N·m about the drive does, made by forces of ``pull`` N in all,
        square to the lever and on the swinging part: (T − p·ΣF)·L/(L − p). Source: moments about the pin.

        >>> round(Pin(0.03, 0.42).at_grip(12 * 9.80665 * 0.305, 12 * 9.80665) / (12 * 9.80665 * 0.305) - 1, 3)
        -0.029
        """
        return (torque - self.offset * pull) * self.lean

    def swinging(self, mass: float) -> float:
        """What of a tool of ``mass`` kg swings: all of it where the head was not weighed. Raises InputRefused for a head as
        heavy as the tool."""
        head = self.head or 0.0
        if head and head >= mass:
            raise InputRefused("head_mass", head, tr("the head cannot be as heavy as the whole tool"))
        return mass - head

    def doubt(self, weight: float) -> float:
        """The standard uncertainty in N·m at the grip mark that an unweighed head leaves, for a tool that weighs ``weight``
        N: the sum is made as if all of it swung, and the head can be anything up to a third. Source: JCGM 100:2008, 4.3.7.

        >>> round(Pin(0.03, 0.42).doubt(1.35 * 9.80665), 4), Pin(0.03, 0.42, head=0.3).doubt(1.35 * 9.80665)
        (0.0823, 0.0)
        """
        if self.head is not None or self.offset == 0:
            return 0.0
        return HEAD_SHARE * weight * self.offset * self.lean / math.sqrt(3.0)


NO_PIN = Pin()
"""A tool that senses its torque at the drive."""


STANDARD_GRAVITY = 9.80665
"""g_n in m/s² (3rd CGPM, 1901)."""


def local_gravity(latitude_rad: float, elevation_m: float) -> float:
    """Normal gravity in m/s² at a latitude (−π/2 to π/2) and an elevation (−500 to 9000 m).

    Raises InputRefused outside. Source: GRS 80 (Moritz 2000), Somigliana's formula, and the free-air gradient 3.086·10⁻⁶ s⁻².

    >>> round(local_gravity(math.radians(46.6), 1850), 6)
    9.801936
    """
    between("latitude", math.degrees(latitude_rad), -90, 90, "deg")
    between("elevation", elevation_m, -500, 9000, "m")
    square = math.sin(latitude_rad) ** 2
    normal = 9.7803253359 * (1 + 0.00193185265241 * square) / math.sqrt(1 - 0.00669437999013 * square)
    return normal - 3.086e-6 * elevation_m


@dataclass(frozen=True)
class OwnWeight:
    """The tool's own weight about the drive: ``mass`` in kg balanced at ``centre`` m from it, or its ``torque`` in N·m as
    a meter shows it with nothing hung, at the tilt used."""

    mass: float = 0.0
    centre: float = 0.0
    torque: float | None = None

    def __post_init__(self) -> None:
        not_negative("own_mass", self.mass)
        not_negative("own_centre", self.centre)
        if self.torque is not None and (self.mass or self.centre):
            raise InputRefused("own_torque", self.torque, tr("give own_torque, or own_mass and own_centre, not both"))


NO_OWN_WEIGHT = OwnWeight()
"""A tool whose weight does not count: its drive stands upright, or the meter was zeroed with it."""


KILOGRAMS_A_METRE = (1.5, 5.0)
BALANCES_AT = (1 / 3, 1 / 2)
"""What a tool of which nothing is known is taken to weigh for each metre of its lever, and where along it to balance: as far
as wrenches with a tube for a handle go."""

MOST_PIN = 0.1
"""Of the lever: as far out as the pin of a wrench lies that nobody has measured."""


@dataclass(frozen=True)
class OwnWeightRange:
    """What a tool of a ``lever`` in m weighs and where it balances, where nobody weighed it: the middle of what it may be,
    and expanded uncertainties (k = 2) of rectangles as wide as that."""

    lever: float

    @property
    def mass(self) -> float:
        return self.lever * sum(KILOGRAMS_A_METRE) / 2

    @property
    def mass_uncertainty(self) -> float:
        return self.lever * (KILOGRAMS_A_METRE[1] - KILOGRAMS_A_METRE[0]) / math.sqrt(3.0)

    @property
    def centre(self) -> float:
        return self.lever * sum(BALANCES_AT) / 2

    @property
    def centre_uncertainty(self) -> float:
        return self.lever * (BALANCES_AT[1] - BALANCES_AT[0]) / math.sqrt(3.0)

    @property
    def torques(self) -> tuple[float, float]:
        """What it makes about the drive at the least and at the most, in N·m.

        >>> [round(one, 2) for one in OwnWeightRange(0.42).torques]
        [0.86, 4.32]
        """
        light, heavy = (
            per_metre * self.lever * STANDARD_GRAVITY * share * self.lever
            for per_metre, share in zip(KILOGRAMS_A_METRE, BALANCES_AT, strict=True)
        )
        return light, heavy


def own_at_grip(own: OwnWeight, pin: Pin, gravity: float = STANDARD_GRAVITY, tilt_rad: float = 0.0) -> float:
    """What a tool's own weight adds to the torque at the grip mark, in N·m: [m_own·x_own − m_swinging·p]·g·cos θ·L/(L − p).

    ``gravity`` in m/s², ``tilt_rad`` from level. Raises InputRefused for an own weight that is known only as a torque about
    the drive where there is a pin: what of it swings cannot be told. Source: moments about the pin.

    >>> round(own_at_grip(OwnWeight(1.35, 0.19), Pin(0.03, 0.42)), 4)
    2.2812
    """
    if own.torque is not None:
        if pin.offset:
            raise InputRefused("own_torque", own.torque, tr("a pivot needs own_mass and own_centre instead"))
        return own.torque
    level = gravity * math.cos(tilt_rad)
    return pin.at_grip(own.mass * level * own.centre, pin.swinging(own.mass) * level)


@dataclass(frozen=True)
class Buoyancy:
    """Densities of the air and of the weights in kg/m³."""

    air: float
    weights: float

    @property
    def factor(self) -> float:
        """b = 1 − ρ_air/ρ_mass. Raises InputRefused unless the weights are denser than the air."""
        positive("mass_density", self.weights)
        not_negative("air_density", self.air)
        if self.air >= self.weights:
            raise InputRefused("air_density", self.air, tr("the air cannot be denser than the weights"))
        return 1 - self.air / self.weights


@dataclass(frozen=True)
class Hanging:
    """Weights on a lever: masses in kg, ``lever`` in m from drive to hook, ``tilt_rad`` from level, ``gravity`` in m/s²;
    ``pin`` where the tool trips about one."""

    mass: float
    lever: float
    hanger: float = 0.0
    tilt_rad: float = 0.0
    gravity: float = STANDARD_GRAVITY
    own: OwnWeight = OwnWeight()
    buoyancy: Buoyancy | None = None
    pin: Pin = NO_PIN

    def __post_init__(self) -> None:
        not_negative("mass", self.mass)
        not_negative("hanger_mass", self.hanger)
        positive("length", self.lever)
        between("incline", math.degrees(self.tilt_rad), -60, 60, "deg")
        between("gravity", self.gravity, 1.0, 30.0, "m/s²")
        own_at_grip(self.own, self.pin)
        if self.lever <= self.pin.offset:
            raise InputRefused("length", self.lever, tr("must lie beyond the pivot"))
        if self.mass + self.hanger <= 0 and not self.own.mass and not self.own.torque:
            raise InputRefused("mass", self.mass, tr("nothing hangs on the lever"))


@dataclass(frozen=True)
class DeadWeightTorque:
    """Torques in N·m about the drive, and the standard uncertainty with each input's share in N·m; ``at_grip`` is the
    torque at the grip mark that trips the tool as this does, the same where the torque is sensed at the drive."""

    of_weights: float
    of_own_weight: float
    at_grip: float
    contributions: tuple[tuple[str, float], ...] = ()
    contributions_at_grip: tuple[tuple[str, float], ...] = ()

    @property
    def torque(self) -> float:
        return self.of_weights + self.of_own_weight

    @property
    def standard_uncertainty(self) -> float:
        return math.sqrt(sum(share**2 for _, share in self.contributions))

    @property
    def standard_uncertainty_at_grip(self) -> float:
        return math.sqrt(sum(share**2 for _, share in self.contributions_at_grip))


@dataclass(frozen=True)
class WeightUncertainty:
    """Standard uncertainties: kg, m, m/s², rad, N·m."""

    mass: float = 0.0
    lever: float = 0.0
    gravity: float = 0.0
    tilt_rad: float = 0.0
    own_torque: float = 0.0

    def __post_init__(self) -> None:
        for name in ("mass", "lever", "gravity", "tilt_rad", "own_torque"):
            not_negative(f"uncertainty.{name}", getattr(self, name))


def dead_weight(hanging: Hanging, uncertainty: WeightUncertainty | None = None) -> DeadWeightTorque:
    """T = (m + m_hanger)·g·b·L·cos θ + m_own·g·x_own·cos θ, with first-order uncertainty. Raises InputRefused.

    At the grip mark, with a pin: [m·g·b·(L − p) + m_own·g·x_own − m_swinging·g·p]·cos θ·L_grip/(L_grip − p), and a head
    that was not weighed as a component. At level the tilt's sensitivity is zero to first order. Source: statics; JCGM
    100:2008, 5.1.2; OIML R 111-1 for b.

    >>> found = dead_weight(
    ...     Hanging(12, 0.42, gravity=9.801936, own=OwnWeight(1.35, 0.19)), WeightUncertainty(0.005, 0.0005, 1e-4)
    ... )
    >>> round(found.of_weights, 4), round(found.torque, 4), round(found.standard_uncertainty, 4)
    (49.4018, 51.916, 0.0623)
    """
    h = hanging
    level = math.cos(h.tilt_rad)
    lift = h.buoyancy.factor if h.buoyancy else 1.0
    weights = (h.mass + h.hanger) * h.gravity * lift * h.lever * level
    own = h.own.torque if h.own.torque is not None else h.own.mass * h.gravity * h.own.centre * level
    swinging = h.pin.swinging(h.own.mass) * h.gravity * level
    hung = weights / h.lever
    at_grip = h.pin.at_grip(weights + own, hung + swinging)
    if uncertainty is None:
        return DeadWeightTorque(weights, own, at_grip)
    own_by_gravity = 0.0 if h.own.torque is not None else own / h.gravity
    sideways = weights + (0.0 if h.own.torque is not None else own)
    shares = (
        ("mass", h.gravity * lift * h.lever * level * uncertainty.mass),
        ("length", weights / h.lever * uncertainty.lever),
        ("gravity", (weights / h.gravity + own_by_gravity) * uncertainty.gravity),
        ("incline", abs(sideways * math.tan(h.tilt_rad)) * uncertainty.tilt_rad),
        ("own_torque", uncertainty.own_torque),
    )
    if h.pin.offset == 0:
        return DeadWeightTorque(weights, own, at_grip, shares, shares)
    arm, lean = h.lever - h.pin.offset, h.pin.lean
    shares_at_grip = (
        ("mass", h.gravity * lift * arm * level * lean * uncertainty.mass),
        ("length", hung * lean * uncertainty.lever),
        ("gravity", abs(at_grip) / h.gravity * uncertainty.gravity),
        ("incline", abs(at_grip * math.tan(h.tilt_rad)) * uncertainty.tilt_rad),
        ("own_torque", uncertainty.own_torque * lean),
        ("head_mass", h.pin.doubt(h.own.mass * h.gravity * level)),
    )
    return DeadWeightTorque(weights, own, at_grip, shares, shares_at_grip)


def pulled(force: float, lever: float, angle_rad: float = math.pi / 2, own_torque: float = 0.0) -> float:
    """T = F·L·sin(angle between pull and lever) + own weight; N, m, rad, N·m. Raises InputRefused. Source: moments about
    the pin.

    >>> round(pulled(320, 0.42), 2)
    134.4
    """
    positive("force", force)
    positive("length", lever)
    between("angle", math.degrees(angle_rad), 0, 180, "deg")
    return force * lever * math.sin(angle_rad) + own_torque
