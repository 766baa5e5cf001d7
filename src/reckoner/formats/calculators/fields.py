"""The kinds of fields that requests to the calculators have, and the base of every request."""

from __future__ import annotations

import math
from typing import Annotated, Any

from pydantic import AfterValidator, BaseModel, BeforeValidator, ConfigDict, Field

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.entry import read, read_turn
from reckoner.core.quantities.units import N_M, Kind, Unit, unit_named
from reckoner.core.reference.weights import STANDARD_GRAVITY, local_gravity
from reckoner.core.translation import tr
from reckoner.core.uncertainty.simulation import Simulated
from reckoner.formats.fields import in_si, quantity

Answer = dict[str, Any]
"""What a calculator writes: plain JSON values."""


def _unit(value: Any) -> Unit:
    if isinstance(value, Unit):
        return value
    try:
        return unit_named(str(value), Kind.TORQUE)
    except InputRefused as refusal:
        raise ValueError(refusal.reason) from None


def _percent(value: Any) -> float:
    """A number of percent, or text such as "1.5 %"; a fraction comes out."""
    if isinstance(value, str):
        try:
            return read(value, Kind.RATIO).si
        except InputRefused as refusal:
            raise ValueError(refusal.reason) from None
    return _number(value) / 100


def _ratio(value: Any) -> float:
    """A bare ratio such as 0.95, or text such as "95 %"."""
    return _percent(value) if isinstance(value, str) else _number(value)


def _number(value: Any) -> float:
    if isinstance(value, bool) or not isinstance(value, int | float):
        raise ValueError(f"{value!r} is not a number")
    try:
        number = float(value)
    except OverflowError:
        raise ValueError("the number is too large") from None
    if not math.isfinite(number) or abs(number) > 1e12:
        raise ValueError(f"{number:g} is not a number that can be used here")
    return number


def _turn(value: Any) -> float:
    """Turns as a number, or text such as "-3/8" or "1 1/4"."""
    if not isinstance(value, str):
        return _number(value)
    try:
        return read_turn(value)
    except InputRefused as refusal:
        raise ValueError(refusal.reason) from None


Torque = Annotated[float, quantity(Kind.TORQUE)]
Length = Annotated[float, quantity(Kind.LENGTH)]
Mass = Annotated[float, quantity(Kind.MASS)]
Force = Annotated[float, quantity(Kind.FORCE)]
Angle = Annotated[float, quantity(Kind.ANGLE)]
Gravity = Annotated[float, quantity(Kind.ACCELERATION)]
Density = Annotated[float, quantity(Kind.DENSITY)]
Relative = Annotated[float, quantity(Kind.RATIO)]
Percent = Annotated[float, BeforeValidator(_percent)]
Ratio = Annotated[float, BeforeValidator(_ratio)]
Number = Annotated[float, BeforeValidator(_number)]
Turn = Annotated[float, BeforeValidator(_turn)]
Count = Annotated[int, Field(strict=True)]
TorqueUnit = Annotated[Unit, BeforeValidator(_unit)]


def _some(values: list[Any]) -> list[Any]:
    if not values:
        raise ValueError("is empty; give at least one")
    return values


NotEmpty = AfterValidator(_some)


class Request(BaseModel):
    """Base of requests and their parts: unknown fields are refused by name."""

    model_config = ConfigDict(extra="forbid", frozen=True, populate_by_name=True, arbitrary_types_allowed=True)


class TorqueRequest(Request):
    """A request whose answer holds torques, written in ``unit``."""

    unit: TorqueUnit = N_M

    def out(self, torque: float) -> float:
        """A torque in N·m as the answer's number."""
        return self.unit.from_si(torque)


def gravity_of(gravity: float | None, latitude: float | None, elevation: float | None) -> float:
    """g in m/s² from what a request gives: typed, or from latitude and elevation, or standard. Raises InputRefused."""

    if (latitude is None) != (elevation is None):
        missing, given = ("elevation", "latitude") if elevation is None else ("latitude", "elevation")
        raise InputRefused(missing, None, tr("is missing; {given} alone does not tell the gravity", given=given))
    if latitude is None or elevation is None:
        return STANDARD_GRAVITY if gravity is None else gravity
    if gravity is not None:
        raise InputRefused("gravity", gravity, tr("give gravity, or latitude and elevation, not both"))
    return local_gravity(latitude, elevation)


def simulated(found: Simulated, scale: float = 1.0, suffix: str = "") -> Answer:
    """The block ``simulated`` of an answer; values times ``scale``, names with ``suffix``."""
    spread = found.standard_uncertainty
    return {
        f"mean{suffix}": found.mean * scale,
        f"standard_uncertainty{suffix}": None if spread is None else spread * scale,
        f"low_95{suffix}": found.low_95 * scale,
        f"high_95{suffix}": found.high_95 * scale,
    }


def or_a_torque(given: Any, *names: str) -> Any:
    """What stands for an object: a bare torque is the value of each of ``names``. What is wrong with it is said of the field
    that has it."""
    if isinstance(given, dict):
        return given
    in_si(given, Kind.TORQUE)
    return dict.fromkeys(names, given)
