"""The line protocol between Reckoner and a meter; docs/meter-protocol.md is its description.

ASCII lines ended by a newline. The meter's: ``meter …`` (who it is), ``s INDEX TORQUE`` (a sample), ``v TORQUE`` (a value it
caught), ``shown TORQUE`` (what the tool's own display shows of the last pull), ``room C PERCENT``, ``ok …``, ``no …``
(refused, with a reason). Anything else is garbage, counted and skipped. A meter that says ``check=crc16`` ends every line
with a checksum.
"""

from __future__ import annotations

import binascii
import math
import re
from dataclasses import dataclass

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.units import LIMITS, Kind, Unit, unit_named

VERSION = "1"

CHECK = "check=crc16"
"""What a meter says of itself whose lines bear a checksum."""


@dataclass(frozen=True)
class Identity:
    """Who the meter says it is. ``rate`` in samples a second, 0 for one that sends values only; ``simulated`` when a tool
    can be worked through it; ``mode`` what it catches ("track", "first-peak", "peak"), empty when it does not say;
    ``signed`` when counter-clockwise torque comes negative; ``step`` of its values in ``unit``, 0 where that is not known;
    ``checked`` when each of its lines bears a checksum."""

    number: str
    serial: str
    unit: Unit
    rate: float
    simulated: bool
    mode: str = ""
    signed: bool = False
    step: float = 0.0
    checked: bool = False

    def line(self) -> str:
        simulated = "yes" if self.simulated else "no"
        return (
            (
                f"meter {VERSION} number={self.number} serial={self.serial} unit={self.unit.name} "
                f"rate={self.rate:g} simulated={simulated}"
            )
            + (f" mode={self.mode}" if self.mode else "")
            + (" signed=yes" if self.signed else "")
            + (f" {CHECK}" if self.checked else "")
        )


@dataclass(frozen=True)
class Sample:
    """One sample: its running number and the torque in N·m."""

    index: int
    torque: float


@dataclass(frozen=True)
class Value:
    """A torque in N·m that the meter itself caught: one pull's result."""

    torque: float


@dataclass(frozen=True)
class DisplayReport:
    """What the display of the tool on it shows of the last pull, in N·m: told by a meter that hears the tool too."""

    torque: float


@dataclass(frozen=True)
class RoomReport:
    """What the meter's own sensors say: °C, and relative humidity as a fraction."""

    temperature: float
    humidity: float


@dataclass(frozen=True)
class MeterAnswer:
    """``ok`` or ``no`` to a command, with the words after it."""

    accepted: bool
    words: str


@dataclass(frozen=True)
class Garbage:
    """A line that is not in the protocol."""

    text: str


Line = Identity | Sample | Value | DisplayReport | RoomReport | MeterAnswer | Garbage


def parse(line: str, unit: Unit) -> Line:
    """The meaning of one line from a meter whose samples are in ``unit``; never raises for what a meter sends."""
    words = line.split()
    match words:
        case ["s", index, torque]:
            return _sample(line, index, torque, unit)
        case ["v", torque]:
            found = _sample(line, "0", torque, unit)
            return Value(found.torque) if isinstance(found, Sample) else found
        case ["shown", torque]:
            found = _sample(line, "0", torque, unit)
            return DisplayReport(found.torque) if isinstance(found, Sample) else found
        case ["room", temperature, humidity]:
            return _room(line, temperature, humidity)
        case ["meter", version, *fields] if version == VERSION:
            return _identity(line, fields)
        case ["ok", *rest]:
            return MeterAnswer(True, " ".join(rest))
        case ["no", *rest]:
            return MeterAnswer(False, " ".join(rest))
    return Garbage(line[:80])


def with_checksum(line: str) -> str:
    """A line and, behind a space and "~", its checksum: the CRC-16 of polynomial 1021 begun at FFFF, as four figures of base
    sixteen ("123456789" has 29B1)."""
    return f"{line} ~{binascii.crc_hqx(line.encode('ascii'), 0xFFFF):04X}"


def without_checksum(raw: bytes) -> bytes | None:
    """What stood before a line's checksum; None where it has none, or another."""
    body, mark, told = raw.rstrip().rpartition(b" ~")
    return body if mark and told == b"%04X" % binascii.crc_hqx(body, 0xFFFF) else None


def plain_sample(raw: bytes, unit: Unit) -> tuple[int, float] | None:
    """The running number and the torque (N·m) of a line that is a sample, None for any other: what ``parse`` says of it, for
    the thousands that come each second."""
    words = raw.split()
    if len(words) != 3 or words[0] != b"s" or b"_" in raw:  # which Python reads over in a number
        return None
    try:
        index, torque = int(words[1]), float(words[2]) * unit.size
    except ValueError:
        return None
    return (index, torque) if index >= 0 and abs(torque) <= LIMITS[Kind.TORQUE] else None


_INDEX = re.compile(r"[0-9]{1,18}")
_NUMBER = re.compile(r"[+-]?(?:[0-9]+(?:\.[0-9]*)?|\.[0-9]+)(?:[eE][+-]?[0-9]{1,3})?")
"""Numbers to the letter: Python also reads "1_000", other scripts' figures and names for what is no number."""


def _sample(line: str, index: str, torque: str, unit: Unit) -> Line:
    if not (_INDEX.fullmatch(index) and _NUMBER.fullmatch(torque)):
        return Garbage(line[:80])
    at, value = int(index), unit.to_si(float(torque))
    if not math.isfinite(value) or abs(value) > LIMITS[Kind.TORQUE]:
        return Garbage(line[:80])
    return Sample(at, value)


def _room(line: str, temperature: str, humidity: str) -> Line:
    if not (_NUMBER.fullmatch(temperature) and _NUMBER.fullmatch(humidity)):
        return Garbage(line[:80])
    degrees, share = float(temperature), float(humidity) / 100
    if not (-40 <= degrees <= 60 and 0 <= share <= 1):
        return Garbage(line[:80])
    return RoomReport(degrees, share)


def _identity(line: str, fields: list[str]) -> Line:
    told = dict(f.split("=", 1) for f in fields if "=" in f)
    sealed = bool(fields) and fields[-1].startswith("~")
    fits = without_checksum(line.encode("ascii", "replace")) is not None
    if not _NUMBER.fullmatch(told.get("rate", "")) or sealed is not (CHECK in fields) or sealed is not fits:
        return Garbage(line[:80])
    try:
        rate = float(told["rate"])
        unit = unit_named(told["unit"], Kind.TORQUE)
        number, serial = told["number"], told["serial"]
    except (KeyError, ValueError, InputRefused):
        return Garbage(line[:80])
    if rate != 0 and not 1 <= rate <= 20000:
        return Garbage(line[:80])
    return Identity(
        number,
        serial,
        unit,
        rate,
        told.get("simulated") == "yes",
        told.get("mode", ""),
        told.get("signed") == "yes",
        checked=sealed,
    )


def sample_line(index: int, torque: float) -> str:
    return f"s {index} {torque:.5g}"
