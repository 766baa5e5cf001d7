"""A meter that sends one value a line and knows no protocol: what counts in a line is a configurable pattern.

Its link is written ``plain:URL``, with options after a question mark: ``plain:/dev/ttyUSB0?baud=9600&unit=lbf.ft&pattern=…``.
The pattern is a regular expression for a whole line, with a group ``value`` and, where the meter writes one, one called
``unit``. A unit of force or mass makes it the link of a force gauge or hanging scale: its values are N or kg then.

Such a meter cannot say whether it sends one value a pull or whatever it measures. So a value counts when it stands alone
(``SingleValues``), and a run of values that differ is told and not taken.
"""

from __future__ import annotations

import re
import threading
import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from urllib.parse import parse_qs

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.units import LIMITS, N_M, Kind, Unit, unit_named
from reckoner.core.translation import tr
from reckoner.meters.link import (
    GARBAGE_LINES,
    Event,
    Lines,
    MeterGarbled,
    MeterGone,
    MeterRefused,
    Recovered,
    Trouble,
    open_port,
    shut,
)
from reckoner.meters.plainline import LineMeaning, NotUnderstood, number_in, read_line
from reckoner.meters.protocol import Identity, Value

SCHEME = "plain:"

STANDS_ALONE = 0.4
"""Seconds without another value after which one that came out of silence counts."""

SILENCE = 1.0
"""Seconds that no hand needs less than between two pulls."""

RESENT = 1.5
"""Seconds in which the same value again is the same reading."""

MANY = 50
"""The same value so often without a pause is no result that is sent again."""


class MeterRunsOn(MeterRefused):
    def __str__(self) -> str:
        return tr(
            "The meter at {url} sends several values for one pull; none of them is taken. Set it to send "
            "one value a pull, or type the readings.",
            url=self.url,
        )


class MeterUnread(MeterRefused):
    """A line of a meter cannot be read for sure: ``said`` is the line, ``why`` completes a sentence about it."""

    def __init__(self, url: str, said: str, why: str) -> None:
        super().__init__(url, why)
        self.said = said

    def __str__(self) -> str:
        return tr(
            "The meter sent “{said}”, and nothing of it is taken: {why}. Set its output to one value with "
            "its unit, or say in the link's pattern what counts.",
            said=self.said,
            why=self.why,
        )


class SingleValues:
    """Which values stand alone. ``take`` each as it comes, ``settle`` now and then; both give a value that counts, or None.

    Values in N·m, times in seconds. A zero ends what came before it and is itself no reading.
    """

    def __init__(self) -> None:
        self.ran_on = False
        """Several values came for what can only be one pull; until one counts again."""
        self._waiting: float | None = None
        self._mixed = False
        self._heard = 0
        self._for = STANDS_ALONE
        self._last_at = -SILENCE
        self._counted: float | None = None

    def take(self, value: float, at: float) -> float | None:
        """One more value."""
        quiet, self._last_at = at - self._last_at, at
        if value == 0.0:
            counts = self._end()
            self._counted = None
            return counts
        if self._waiting is not None:
            self._mixed = self._mixed or value != self._waiting
            self._heard += 1
            self.ran_on = self.ran_on or self._mixed or self._heard > MANY
        elif value != self._counted or quiet >= RESENT:
            self._waiting, self._mixed, self._heard = value, False, 1
            self._for = STANDS_ALONE if quiet >= SILENCE else SILENCE
        return None

    def settle(self, at: float) -> float | None:
        """Time has passed."""
        return self._end() if at - self._last_at >= self._for else None

    def _end(self) -> float | None:
        value, self._waiting = self._waiting, None
        if value is None:
            return None
        self.ran_on = self._mixed
        self._counted = None if self._mixed else value
        return self._counted


@dataclass(frozen=True)
class PlainPlan:
    """How to read a plain meter: what pyserial opens, its speed, the unit of values without one, and the pattern; without a
    pattern its lines are read by ``plainline``."""

    url: str
    baud: int = 9600
    unit: Unit = N_M
    pattern: str = ""

    @classmethod
    def parse(cls, link: str) -> PlainPlan:
        """The plan that a link's text says. Raises InputRefused with what is wrong in it."""
        url, _, query = link.removeprefix(SCHEME).partition("?")
        options = {k: v[-1] for k, v in parse_qs(query, keep_blank_values=True).items()}
        if not url:
            raise InputRefused("link", link, tr("names no port; write it as plain:/dev/ttyUSB0"))
        unknown = set(options) - {"baud", "unit", "pattern"}
        if unknown:
            raise InputRefused(
                "link", link, tr("has the option {unknown}; there are baud, unit and pattern", unknown=min(unknown))
            )
        baud = options.get("baud", "9600")
        if not baud.isdecimal() or not 50 <= int(baud) <= 4_000_000:
            raise InputRefused("link", link, tr('"{baud}" is not a speed in baud', baud=baud))
        pattern = options.get("pattern", "")
        try:
            compiled = re.compile(pattern)
        except re.error as fault:
            raise InputRefused(
                "link",
                link,
                tr('the pattern "{pattern}" is not a regular expression: {fault}', pattern=pattern, fault=fault),
            ) from None
        if pattern and "value" not in compiled.groupindex:
            raise InputRefused("link", link, tr('the pattern "{pattern}" has no group (?P<value>…)', pattern=pattern))
        return cls(url, int(baud), _unit_of(options.get("unit", "N.m")), pattern)


def _unit_of(spelling: str) -> Unit:
    """A unit of torque; or of force or mass, for a force gauge. Raises InputRefused."""
    for kind in (Kind.FORCE, Kind.MASS):
        try:
            return unit_named(spelling, kind, "link")
        except InputRefused:
            continue
    return unit_named(spelling, Kind.TORQUE, "link")


class PlainLink:
    """An open plain link; like ``link.Link``, its values come as ``Value`` events, each one pull's result."""

    def __init__(self, link: str, clock: Callable[[], float] = time.monotonic) -> None:
        """Open the port. Raises MeterNotThere, MeterInUse, InputRefused for a link that cannot be read."""
        import serial  # loads slowly

        self.plan = PlainPlan.parse(link)
        self.url = self.plan.url
        self._pattern = re.compile(self.plan.pattern) if self.plan.pattern else None
        self._stopping = threading.Event()
        self._faults = (serial.SerialException, OSError)
        self._clock = clock
        self._singles = SingleValues()
        self._in_trouble = False
        self._garbage = 0
        self._unit = self.plan.unit
        self._step = 0.0
        self._unclear = False
        self._told: tuple[Unit, float] = (self._unit, 0.0)
        self._port = open_port(self.url, baudrate=self.plan.baud, timeout=0.05)
        self.heard = ""
        """The newest line that came, as it came."""

    def send(self, command: str) -> None:
        """A plain meter takes no commands; nothing is sent."""

    def close(self) -> None:
        self._stopping.set()

    def events(self) -> Iterator[Event]:
        """Who it is (nobody, at rate 0), then its values; a new Identity when the unit that it writes changes."""
        yield self._identity()
        lines = Lines(rb"[\r\n]+")
        try:
            while not self._stopping.is_set():
                try:
                    data = self._port.read(256)
                except self._faults as fault:
                    yield Trouble(MeterGone(self.url, str(fault)), over=True)
                    return
                for raw in lines.take(data):
                    if text := raw.decode("utf-8", "replace").strip():
                        self.heard = text
                        yield from self._line(text)
                yield from self._counting(self._singles.settle(self._clock()))
        finally:
            shut(self._port)

    def _line(self, text: str) -> Iterator[Event]:
        found = read_line(text, self.plan.unit.kind) if self._pattern is None else self._picked(text)
        if isinstance(found, NotUnderstood):
            yield from self._unread(text, found)
            return
        self._garbage = 0
        if self._unclear:
            self._unclear = False
            if not self._in_trouble:
                yield Recovered()
        if found.unit is not None and found.unit is not self._unit:
            self._unit, self._step = found.unit, 0.0
        finer = self._step == 0.0 or found.step < self._step
        if finer and found.value != 0.0:
            self._step = found.step
        if (self._unit, self._step) != self._told:
            yield self._identity()
        yield from self._counting(self._singles.take(self._unit.to_si(found.value), self._clock()))

    def _unread(self, text: str, found: NotUnderstood) -> Iterator[Event]:
        """A line that says no value: said at once where it may have been meant as one, and after some where a pattern
        passes over what it does not know."""
        self._garbage += 1
        if found.why and not self._unclear:
            self._unclear = True
            yield Trouble(MeterUnread(self.url, text[:40], found.why))
        elif self._garbage == GARBAGE_LINES:
            yield Trouble(MeterGarbled(self.url, text[:24]))

    def _counting(self, value: float | None) -> Iterator[Event]:
        """What is to be passed on after a step of ``SingleValues``."""
        if self._singles.ran_on and not self._in_trouble:
            self._in_trouble = True
            yield Trouble(MeterRunsOn(self.url))
        if value is None:
            return
        if self._in_trouble:
            self._in_trouble = False
            yield Recovered()
        yield Value(value)

    def _identity(self) -> Identity:
        self._told = (self._unit, self._step)
        return Identity("", "", self._unit, 0.0, simulated=False, step=self._step)

    def _picked(self, text: str) -> LineMeaning | NotUnderstood:
        """What the link's pattern picks of a line; nothing where the whole of it does not fit."""
        match = self._pattern.fullmatch(text) if self._pattern is not None else None
        if match is None:
            return NotUnderstood("")
        number = number_in(match["value"] or "")
        if number is None:
            return NotUnderstood(tr('its "{match}" can be read two ways', match=match["value"]))
        value, step = number
        try:
            spelling = match.groupdict().get("unit")
            unit = unit_named(spelling, self.plan.unit.kind) if spelling else None
        except InputRefused as refusal:
            return NotUnderstood(refusal.reason)
        if abs(value) > LIMITS[self.plan.unit.kind]:
            return NotUnderstood(
                tr(
                    'its "{match}" is out of reason for a {value}',
                    match=match["value"],
                    value=self.plan.unit.kind.value,
                )
            )
        return LineMeaning(value, unit, step)
