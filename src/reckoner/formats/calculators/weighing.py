"""Calculators of units, gravity, weights and forces on the lever, and of where a tool trips under them."""

from __future__ import annotations

import math

from pydantic import Field

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.entry import read
from reckoner.core.quantities.units import unit_named
from reckoner.core.reference.plan import HangingPlace, force_at, length_for, mass_at, pull_of_force, pull_of_mass
from reckoner.core.reference.trips import bracket as bracketed
from reckoner.core.reference.trips import match as matched
from reckoner.core.reference.trips import walk as walked
from reckoner.core.reference.weights import (
    Buoyancy,
    Hanging,
    OwnWeight,
    Pin,
    WeightUncertainty,
    dead_weight,
    local_gravity,
    own_at_grip,
    pulled,
)
from reckoner.core.translation import tr
from reckoner.core.uncertainty.simulation import DEFAULT_SEED, simulate_dead_weight
from reckoner.formats.calculators.fields import (
    Angle,
    Answer,
    Count,
    Density,
    Force,
    Gravity,
    Length,
    Mass,
    Request,
    Torque,
    TorqueRequest,
    gravity_of,
    simulated,
)

RIGHT_ANGLE = 1.5707963267948966


class Convert(Request):
    quantity: str
    to: str


def convert(request: Convert) -> Answer:
    """A quantity in another unit of its kind."""
    unit = unit_named(request.to, field="to")
    found = read(request.quantity, unit.kind, field="quantity")
    answer: Answer = {"value": found.in_unit(unit), "unit": unit.name}
    return answer | {"read_as": found.note} if found.note else answer


class GravityRequest(Request):
    latitude: Angle
    elevation: Length


def gravity(request: GravityRequest) -> Answer:
    """Normal gravity at a place."""
    return {"gravity": local_gravity(request.latitude, request.elevation)}


class _Uncertainty(Request):
    mass: Mass = 0.0
    length: Length = 0.0
    gravity: Gravity = 0.0
    incline: Angle = 0.0
    own_torque: Torque = 0.0


class _Pinned(TorqueRequest):
    """What a request says of the tool's pin and its own weight."""

    own_mass: Mass | None = None
    own_centre: Length | None = None
    pivot: Length = 0.0
    grip: Length | None = None
    head_mass: Mass | None = None

    @property
    def pin(self) -> Pin:
        if self.head_mass is not None and self.own_mass is None:
            raise InputRefused("own_mass", None, tr("is missing; head_mass is a part of it"))
        return Pin(self.pivot, self.grip, self.head_mass)

    def own(self, torque: float | None = None) -> OwnWeight:
        if (self.own_mass is None) != (self.own_centre is None):
            missing = "own_centre" if self.own_centre is None else "own_mass"
            raise InputRefused(
                missing, None, tr("is missing; the own weight needs own_mass and own_centre, or own_torque")
            )
        return OwnWeight(self.own_mass or 0.0, self.own_centre or 0.0, torque)


class DeadWeight(_Pinned):
    mass: Mass
    length: Length
    hanger_mass: Mass = 0.0
    incline: Angle = 0.0
    gravity: Gravity | None = None
    latitude: Angle | None = None
    elevation: Length | None = None
    own_torque: Torque | None = None
    air_density: Density | None = None
    mass_density: Density | None = None
    uncertainty: _Uncertainty = Field(default_factory=_Uncertainty)
    trials: Count = 0
    seed: Count = DEFAULT_SEED


def deadweight(request: DeadWeight) -> Answer:
    """The torque of weights hung on the lever, with its uncertainty, first order and simulated."""
    r = request
    hanging = Hanging(
        mass=r.mass,
        lever=r.length,
        hanger=r.hanger_mass,
        tilt_rad=r.incline,
        gravity=gravity_of(r.gravity, r.latitude, r.elevation),
        own=r.own(r.own_torque),
        buoyancy=_buoyancy(r),
        pin=r.pin,
    )
    u = r.uncertainty
    unsure = WeightUncertainty(u.mass, u.length, u.gravity, u.incline, u.own_torque)
    found = dead_weight(hanging, unsure)
    if found.torque == 0:
        raise InputRefused("mass", r.mass, tr("makes no torque that can be told"))
    answer: Answer = {
        "torque": r.out(found.torque),
        "torque_of_weights": r.out(found.of_weights),
        "torque_of_own_weight": r.out(found.of_own_weight),
        "torque_at_grip": r.out(found.at_grip),
        "standard_uncertainty": r.out(found.standard_uncertainty),
        "standard_uncertainty_percent": found.standard_uncertainty / abs(found.torque) * 100,
        "contributions": {name: r.out(share) for name, share in found.contributions},
    }
    if hanging.pin.offset:
        answer["standard_uncertainty_at_grip"] = r.out(found.standard_uncertainty_at_grip)
        answer["contributions_at_grip"] = {name: r.out(share) for name, share in found.contributions_at_grip}
    if r.trials:
        answer["simulated"] = simulated(simulate_dead_weight(hanging, unsure, r.trials, r.seed), r.out(1.0))
    return answer


def _buoyancy(request: DeadWeight) -> Buoyancy | None:
    if request.air_density is None or request.mass_density is None:
        return None
    return Buoyancy(request.air_density, request.mass_density)


class ForceRequest(_Pinned):
    force: Force
    length: Length
    angle: Angle = RIGHT_ANGLE
    own_torque: Torque | None = None
    gravity: Gravity | None = None
    latitude: Angle | None = None
    elevation: Length | None = None


def force(request: ForceRequest) -> Answer:
    """The torque of a force gauge on the lever, about the drive and at the grip mark."""
    r = request
    own, pin = r.own(r.own_torque), r.pin
    own_at_grip(own, pin)
    if r.length <= pin.offset:
        raise InputRefused("length", r.length, tr("must lie beyond the pivot"))
    gravity = gravity_of(r.gravity, r.latitude, r.elevation)
    by_own = own.torque if own.torque is not None else own.mass * gravity * own.centre
    torque = pulled(r.force, r.length, r.angle, by_own)
    pull = r.force * math.sin(r.angle) + pin.swinging(own.mass) * gravity
    return {"torque": r.out(torque), "torque_at_grip": r.out(pin.at_grip(torque, pull))}


class PlanRequest(_Pinned):
    torque: Torque
    mass: Mass | None = None
    length: Length | None = None
    force: Force | None = None
    hanger_mass: Mass = 0.0
    own_torque: Torque | None = None
    gravity: Gravity | None = None
    latitude: Angle | None = None
    elevation: Length | None = None
    incline: Angle = 0.0
    angle: Angle = RIGHT_ANGLE


def plan(request: PlanRequest) -> Answer:
    """What to hang where, or what a gauge must show, for a torque wanted at the grip mark."""
    r = request
    given = [name for name in ("mass", "length", "force") if getattr(r, name) is not None]
    if len(given) != 1:
        raise InputRefused(given[1] if given else "length", None, tr("give exactly one of mass, length and force"))
    gravity = gravity_of(r.gravity, r.latitude, r.elevation)
    place = HangingPlace(r.own(r.own_torque), r.pin, r.hanger_mass, r.incline, gravity, r.angle)
    own: Answer = {"own_torque": r.out(place.own_at_grip)}
    if r.length is not None:
        mass, force = mass_at(r.torque, r.length, place), force_at(r.torque, r.length, place)
        return {"mass": mass, "force": force} | own
    pull = pull_of_mass(r.mass, place) if r.mass is not None else pull_of_force(r.force or 0.0, place)
    return {"length": length_for(r.torque, pull, place)} | own


class BracketRequest(TorqueRequest):
    torque: Torque
    clicks_at: Torque
    silent_at: Torque


def bracket(request: BracketRequest) -> Answer:
    """The setting at which a fixed torque trips the tool."""
    found = bracketed(request.torque, request.clicks_at, request.silent_at)
    return {
        "setting": request.out(found.setting.value),
        "half_width": request.out(found.setting.half_width),
        "standard_uncertainty": request.out(found.setting.standard_uncertainty),
        "deviation_percent": found.deviation * 100,
    }


class MatchRequest(_Pinned):
    set: Torque
    clicks_with: Mass
    silent_with: Mass
    length: Length
    hanger_mass: Mass = 0.0
    gravity: Gravity | None = None
    latitude: Angle | None = None
    elevation: Length | None = None


def match(request: MatchRequest) -> Answer:
    """The torque at which a fixed setting trips, from weights added at one place."""
    r = request
    hanging = Hanging(
        mass=r.clicks_with,
        lever=r.length,
        hanger=r.hanger_mass,
        gravity=gravity_of(r.gravity, r.latitude, r.elevation),
        own=r.own(),
        pin=r.pin,
    )
    found = matched(r.set, r.clicks_with, r.silent_with, hanging)
    return {
        "torque": r.out(found.torque),
        "torque_at_grip": r.out(found.at_grip),
        "standard_uncertainty": r.out(found.standard_uncertainty),
        "deviation_percent": found.deviation * 100,
    }


class WalkRequest(_Pinned):
    set: Torque
    mass: Mass
    clicks_at: Length
    silent_at: Length
    gravity: Gravity | None = None
    latitude: Angle | None = None
    elevation: Length | None = None
    hanger_mass: Mass = 0.0
    length: Length | None = None


def walk(request: WalkRequest) -> Answer:
    """The torque at which a fixed setting trips, from a weight walked along the lever."""
    r = request
    if r.hanger_mass < 0:
        raise InputRefused(
            "hanger_mass", r.hanger_mass, tr("must not be negative, not {hanger_mass:g}", hanger_mass=r.hanger_mass)
        )
    if r.mass <= 0:
        raise InputRefused("mass", r.mass, tr("must be above zero, not {mass:g}", mass=r.mass))
    if r.grip is not None and r.length is not None and r.grip != r.length:
        raise InputRefused("grip", r.grip, tr("is given twice: length is the distance to the grip mark here"))
    try:
        pin = Pin(r.pivot, r.length if r.length is not None else r.grip, r.head_mass)
    except InputRefused as refusal:
        field = "length" if refusal.field == "grip" and r.grip is None else refusal.field
        raise InputRefused(field, refusal.value, refusal.reason) from None
    found = walked(
        r.set,
        r.mass + r.hanger_mass,
        r.clicks_at,
        r.silent_at,
        gravity=gravity_of(r.gravity, r.latitude, r.elevation),
        own=r.own(),
        pin=pin,
    )
    return {
        "torque_at_drive": r.out(found.at_drive),
        "deviation_at_drive_percent": found.deviation_at_drive * 100,
        "torque_at_grip": r.out(found.at_grip),
        "deviation_percent": found.deviation * 100,
        "factor": found.factor,
    }
