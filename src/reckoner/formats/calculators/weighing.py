"""Calculators of units, gravity, weights and forces on the lever, and of where a tool trips under them."""

from __future__ import annotations

from pydantic import Field

from reckoner.core.entry import read
from reckoner.core.errors import InputRefused
from reckoner.core.simulation import DEFAULT_SEED, simulate_dead_weight
from reckoner.core.trips import bracket as bracketed
from reckoner.core.trips import match as matched
from reckoner.core.trips import walk as walked
from reckoner.core.units import unit_named
from reckoner.core.weights import Buoyancy, Hanging, OwnWeight, WeightUncertainty, dead_weight, local_gravity, pulled
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
    return {"value": found.in_unit(unit), "unit": unit.name}


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


class DeadWeight(TorqueRequest):
    mass: Mass
    length: Length
    hanger_mass: Mass = 0.0
    incline: Angle = 0.0
    gravity: Gravity | None = None
    latitude: Angle | None = None
    elevation: Length | None = None
    own_mass: Mass | None = None
    own_centre: Length | None = None
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
        own=_own(r.own_mass, r.own_centre, r.own_torque),
        buoyancy=_buoyancy(r),
    )
    u = r.uncertainty
    unsure = WeightUncertainty(u.mass, u.length, u.gravity, u.incline, u.own_torque)
    found = dead_weight(hanging, unsure)
    if found.torque == 0:
        raise InputRefused("mass", r.mass, "makes no torque that can be told")
    answer = {
        "torque": r.out(found.torque),
        "torque_of_weights": r.out(found.of_weights),
        "torque_of_own_weight": r.out(found.of_own_weight),
        "standard_uncertainty": r.out(found.standard_uncertainty),
        "standard_uncertainty_percent": found.standard_uncertainty / abs(found.torque) * 100,
        "contributions": {name: r.out(share) for name, share in found.contributions},
    }
    if r.trials:
        answer["simulated"] = simulated(simulate_dead_weight(hanging, unsure, r.trials, r.seed), r.out(1.0))
    return answer


def _own(mass: float | None, centre: float | None, torque: float | None) -> OwnWeight:
    if (mass is None) != (centre is None):
        missing = "own_centre" if centre is None else "own_mass"
        raise InputRefused(missing, None, "is missing; the own weight needs own_mass and own_centre, or own_torque")
    return OwnWeight(mass or 0.0, centre or 0.0, torque)


def _buoyancy(request: DeadWeight) -> Buoyancy | None:
    if request.air_density is None or request.mass_density is None:
        return None
    return Buoyancy(request.air_density, request.mass_density)


class ForceRequest(TorqueRequest):
    force: Force
    length: Length
    angle: Angle = RIGHT_ANGLE
    own_torque: Torque = 0.0


def force(request: ForceRequest) -> Answer:
    """The torque of a force gauge on the lever."""
    return {"torque": request.out(pulled(request.force, request.length, request.angle, request.own_torque))}


class Bracket(TorqueRequest):
    torque: Torque
    clicks_at: Torque
    silent_at: Torque


def bracket(request: Bracket) -> Answer:
    """The setting at which a fixed torque trips the tool."""
    found = bracketed(request.torque, request.clicks_at, request.silent_at)
    return {
        "setting": request.out(found.setting.value),
        "half_width": request.out(found.setting.half_width),
        "standard_uncertainty": request.out(found.setting.standard_uncertainty),
        "deviation_percent": found.deviation * 100,
    }


class Match(TorqueRequest):
    set: Torque
    clicks_with: Mass
    silent_with: Mass
    length: Length
    hanger_mass: Mass = 0.0
    gravity: Gravity | None = None
    latitude: Angle | None = None
    elevation: Length | None = None
    own_mass: Mass | None = None
    own_centre: Length | None = None


def match(request: Match) -> Answer:
    """The torque at which a fixed setting trips, from weights added at one place."""
    r = request
    hanging = Hanging(
        mass=r.clicks_with,
        lever=r.length,
        hanger=r.hanger_mass,
        gravity=gravity_of(r.gravity, r.latitude, r.elevation),
        own=_own(r.own_mass, r.own_centre, None),
    )
    found = matched(r.set, r.clicks_with, r.silent_with, hanging)
    return {
        "torque": r.out(found.torque),
        "standard_uncertainty": r.out(found.standard_uncertainty),
        "deviation_percent": found.deviation * 100,
    }


class Walk(TorqueRequest):
    set: Torque
    mass: Mass
    clicks_at: Length
    silent_at: Length
    gravity: Gravity | None = None
    latitude: Angle | None = None
    elevation: Length | None = None
    hanger_mass: Mass = 0.0
    own_mass: Mass | None = None
    own_centre: Length | None = None
    pivot: Length = 0.0
    length: Length | None = None


def walk(request: Walk) -> Answer:
    """The torque at which a fixed setting trips, from a weight walked along the lever."""
    r = request
    if r.hanger_mass < 0:
        raise InputRefused("hanger_mass", r.hanger_mass, f"must not be negative, not {r.hanger_mass:g}")
    if r.mass <= 0:
        raise InputRefused("mass", r.mass, f"must be above zero, not {r.mass:g}")
    found = walked(
        r.set,
        r.mass + r.hanger_mass,
        r.clicks_at,
        r.silent_at,
        gravity=gravity_of(r.gravity, r.latitude, r.elevation),
        own=_own(r.own_mass, r.own_centre, None),
        pivot=r.pivot,
        grip=r.length,
    )
    return {
        "torque_at_drive": r.out(found.at_drive),
        "deviation_at_drive_percent": found.deviation_at_drive * 100,
        "torque_at_grip": r.out(found.at_grip),
        "deviation_percent": found.deviation * 100,
        "factor": found.factor,
    }
