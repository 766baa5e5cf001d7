"""A meter that sends one value a line and knows no protocol: what counts in a line is a configurable pattern.

Its link is written ``plain:URL``, with options after a question mark: ``plain:/dev/ttyUSB0?baud=9600&unit=lbf.ft&pattern=…``.
The pattern is a regular expression with a group ``value`` and, where the meter writes one, a group ``unit``.
"""

from __future__ import annotations

import re
import threading
from collections.abc import Iterator
from dataclasses import dataclass
from urllib.parse import parse_qs

from reckoner.core.errors import InputRefused
from reckoner.core.units import LIMITS, N_M, Kind, Unit, unit_named
from reckoner.meters.link import GARBAGE_LINES, Event, MeterGarbled, MeterGone, MeterNotThere, Trouble, shut
from reckoner.meters.protocol import Identity, Value

SCHEME = "plain:"

PATTERN = r"(?P<value>[-+−]?\d+(?:[.,]\d+)?)\s*(?P<unit>[A-Za-z][A-Za-z.·\-]*)?"
"""A number, and after it perhaps a unit."""


@dataclass(frozen=True)
class PlainPlan:
    """How to read a plain meter: what pyserial opens, its speed, the unit of values without one, and the pattern."""

    url: str
    baud: int = 9600
    unit: Unit = N_M
    pattern: str = PATTERN

    @classmethod
    def parse(cls, link: str) -> PlainPlan:
        """The plan that a link's text says. Raises InputRefused with what is wrong in it."""
        url, _, query = link.removeprefix(SCHEME).partition("?")
        options = {k: v[-1] for k, v in parse_qs(query, keep_blank_values=True).items()}
        if not url:
            raise InputRefused("link", link, "names no port; write it as plain:/dev/ttyUSB0")
        unknown = set(options) - {"baud", "unit", "pattern"}
        if unknown:
            raise InputRefused("link", link, f"has the option {min(unknown)}; there are baud, unit and pattern")
        baud = options.get("baud", "9600")
        if not baud.isdigit() or not 50 <= int(baud) <= 4_000_000:
            raise InputRefused("link", link, f'"{baud}" is not a speed in baud')
        pattern = options.get("pattern", PATTERN)
        try:
            compiled = re.compile(pattern)
        except re.error as fault:
            raise InputRefused("link", link, f'the pattern "{pattern}" is not a regular expression: {fault}') from None
        if "value" not in compiled.groupindex:
            raise InputRefused("link", link, f'the pattern "{pattern}" has no group (?P<value>…)')
        return cls(url, int(baud), unit_named(options.get("unit", "N.m"), Kind.TORQUE, "link"), pattern)


class PlainLink:
    """An open plain link; like ``link.Link``, its values come as ``Value`` events, each one pull's result."""

    def __init__(self, link: str) -> None:
        """Open the port. Raises MeterNotThere, InputRefused for a link that cannot be read."""
        import serial

        self.plan = PlainPlan.parse(link)
        self.url = self.plan.url
        self._pattern = re.compile(self.plan.pattern)
        self._stopping = threading.Event()
        self._faults = (serial.SerialException, OSError)
        try:
            self._port = serial.serial_for_url(self.url, baudrate=self.plan.baud, timeout=0.05)
        except (serial.SerialException, OSError, ValueError) as fault:
            raise MeterNotThere(self.url, str(fault)) from None

    def send(self, command: str) -> None:
        """A plain meter takes no commands; nothing is sent."""

    def close(self) -> None:
        self._stopping.set()

    def events(self) -> Iterator[Event]:
        """Who it is (nobody, at rate 0), then its values; a new Identity when the unit that it writes changes."""
        unit = self.plan.unit
        yield Identity("", "", unit, 0.0, simulated=False)
        rest, garbage = b"", 0
        try:
            while not self._stopping.is_set():
                try:
                    rest += self._port.read(256)
                except self._faults as fault:
                    yield Trouble(MeterGone(self.url, str(fault)), over=True)
                    return
                *lines, rest = re.split(rb"[\r\n]+", rest[-4096:])
                for raw in lines:
                    text = raw.decode("utf-8", "replace").strip()
                    if not text:
                        continue
                    found = self._value(text)
                    if found is None:
                        garbage += 1
                        if garbage == GARBAGE_LINES:
                            yield Trouble(MeterGarbled(self.url, text[:24]))
                        continue
                    garbage = 0
                    value, named = found
                    if named is not None and named is not unit:
                        unit = named
                        yield Identity("", "", unit, 0.0, simulated=False)
                    yield Value(unit.to_si(value))
        finally:
            shut(self._port)

    def _value(self, text: str) -> tuple[float, Unit | None] | None:
        """The number and unit in a line; None where there is none that can be a torque."""
        match = self._pattern.search(text)
        if match is None:
            return None
        try:
            value = float(match["value"].replace(",", ".").replace("−", "-"))
            spelling = match.groupdict().get("unit")
            unit = unit_named(spelling, Kind.TORQUE) if spelling else None
        except (ValueError, InputRefused):
            return None
        return (value, unit) if abs(value) <= LIMITS[Kind.TORQUE] else None
