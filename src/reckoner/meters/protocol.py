"""The line protocol between Reckoner and a meter; docs/meter-protocol.md is its description.

ASCII lines ended by a newline. The meter's: ``meter …`` (who it is), ``s INDEX TORQUE`` (a sample), ``ok …``,
``no …`` (refused, with a reason). Anything else is garbage, counted and skipped.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from reckoner.core.errors import InputRefused
from reckoner.core.units import LIMITS, Kind, Unit, unit_named

VERSION = "1"


@dataclass(frozen=True)
class Identity:
    """Who the meter says it is. ``rate`` in samples a second; ``simulated`` when a tool can be worked through it."""

    number: str
    serial: str
    unit: Unit
    rate: float
    simulated: bool

    def line(self) -> str:
        simulated = "yes" if self.simulated else "no"
        return (
            f"meter {VERSION} number={self.number} serial={self.serial} unit={self.unit.name} "
            f"rate={self.rate:g} simulated={simulated}"
        )


@dataclass(frozen=True)
class Sample:
    """One sample: its running number and the torque in N·m."""

    index: int
    torque: float


@dataclass(frozen=True)
class Answer:
    """``ok`` or ``no`` to a command, with the words after it."""

    accepted: bool
    words: str


@dataclass(frozen=True)
class Garbage:
    """A line that is not in the protocol."""

    text: str


Line = Identity | Sample | Answer | Garbage


def parse(line: str, unit: Unit) -> Line:
    """The meaning of one line from a meter whose samples are in ``unit``; never raises for what a meter sends."""
    words = line.split()
    match words:
        case ["s", index, torque]:
            return _sample(line, index, torque, unit)
        case ["meter", version, *fields] if version == VERSION:
            return _identity(line, fields)
        case ["ok", *rest]:
            return Answer(True, " ".join(rest))
        case ["no", *rest]:
            return Answer(False, " ".join(rest))
    return Garbage(line[:80])


def _sample(line: str, index: str, torque: str, unit: Unit) -> Line:
    try:
        at, value = int(index), unit.to_si(float(torque))
    except ValueError:
        return Garbage(line[:80])
    if at < 0 or not math.isfinite(value) or abs(value) > LIMITS[Kind.TORQUE]:
        return Garbage(line[:80])
    return Sample(at, value)


def _identity(line: str, fields: list[str]) -> Line:
    told = dict(f.split("=", 1) for f in fields if "=" in f)
    try:
        rate = float(told["rate"])
        unit = unit_named(told["unit"], Kind.TORQUE)
        number, serial = told["number"], told["serial"]
    except (KeyError, ValueError, InputRefused):
        return Garbage(line[:80])
    if not 1 <= rate <= 20000:
        return Garbage(line[:80])
    return Identity(number, serial, unit, rate, told.get("simulated") == "yes")


def sample_line(index: int, torque: float) -> str:
    return f"s {index} {torque:.5g}"
