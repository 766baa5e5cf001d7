"""A meter behind a pyserial URL (``socket://host:port``, ``/dev/ttyUSB0``, a pseudo-terminal's path, …).

``Link.events`` is an iterator that blocks a little at a time; run it on a thread of its own. ``send`` may be called from
another thread. Faults of the surroundings arrive as events, so that the reader can say them and try again.
"""

from __future__ import annotations

import errno
import logging
import re
import threading
import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from reckoner.core.errors import Refused
from reckoner.core.quantities.arrays import Values
from reckoner.core.quantities.units import N_M
from reckoner.core.translation import tr
from reckoner.meters.protocol import (
    DisplayReport,
    Garbage,
    Identity,
    MeterAnswer,
    RoomReport,
    Sample,
    Value,
    parse,
    plain_sample,
    without_checksum,
)

log = logging.getLogger("reckoner.meter")

HELLO_WITHIN = 3.0
"""Seconds in which a meter must say who it is."""

SILENT_AFTER = 1.5
"""Seconds without a sample after which a streaming meter counts as silent."""

LONGEST_LINE = 4096
"""Bytes after which a line without an end is no line."""

GARBAGE_LINES = 20
"""Lines in a row that make no sense before it is said, or that are not where they should be before the meter is asked again
who it is: switched off and on, it counts from 0 and may check no longer."""

ASKS_AFTER = 1.0
"""Seconds between two such questions."""


STAYS_IN_TROUBLE = 1.0
"""Seconds for which it stays said that a meter babbles, also when sense comes between: no eye reads faster."""


class MeterRefused(Refused):
    """Something is wrong with the meter at ``url``."""

    def __init__(self, url: str, why: str = "") -> None:
        super().__init__(url, why)
        self.url = url
        self.why = why


class MeterNotThere(MeterRefused):
    def __str__(self) -> str:
        return tr(
            "No meter answers at {url}. Check its cable and that it is switched on, then connect again. "
            "Readings can be typed meanwhile.",
            url=self.url,
        )


class MeterInUse(MeterRefused):
    def __str__(self) -> str:
        return tr(
            "Another program listens at {url}. Close it there, then connect again. Readings can be typed meanwhile.",
            url=self.url,
        )


class MeterSilent(MeterRefused):
    def __str__(self) -> str:
        return tr(
            "The meter at {url} has stopped sending. Wake it or check its cable; readings taken are kept, "
            "and it goes on by itself when it comes back. Readings can be typed meanwhile.",
            url=self.url,
        )


class MeterGarbled(MeterRefused):
    def __str__(self) -> str:
        return tr(
            'The meter at {url} sends what is not in the protocol ("{why}"). Check its speed and output '
            "format. Nothing of it is taken as a reading.",
            url=self.url,
            why=self.why,
        )


class MeterDamaged(MeterRefused):
    def __str__(self) -> str:
        return tr(
            'A line of the meter at {url} arrived damaged ("{why}"), and nothing of it is taken. If a pull is missing, pull '
            "again; if it goes on, see to cable and plug.",
            url=self.url,
            why=self.why,
        )


class MeterGone(MeterRefused):
    def __str__(self) -> str:
        return tr(
            "The connection to {url} broke off. Readings taken are kept. Plug the meter in again and "
            "connect, or type the readings.",
            url=self.url,
        )


@dataclass(frozen=True)
class Samples:
    """Consecutive samples in N·m, the first with running number ``start``; ``missed`` were skipped before it."""

    start: int
    torque: Values
    missed: int = 0


@dataclass(frozen=True)
class Trouble:
    """Something is wrong; ``fault`` says it. ``over`` when the link is finished."""

    fault: MeterRefused
    over: bool = False


@dataclass(frozen=True)
class Recovered:
    """Samples came again after a trouble."""


Event = Identity | Samples | Value | DisplayReport | RoomReport | MeterAnswer | Trouble | Recovered


class MeterLink:
    """An open link. ``clock`` gives seconds and is only there so that tests need not wait."""

    def __init__(self, url: str, clock: Callable[[], float] = time.monotonic) -> None:
        """Open ``url``. Raises MeterNotThere, MeterInUse."""
        import serial  # loads slowly

        self.url = url
        self._clock = clock
        self._stopping = threading.Event()
        self._writing = threading.Lock()
        self._faults = (serial.SerialException, OSError)
        self._port = open_port(url, baudrate=115200, timeout=0.01, write_timeout=1.0)
        self.heard = ""
        """The newest line that came, as it came."""

    def send(self, command: str) -> None:
        """Send one command line. Raises MeterGone when the link is broken."""
        try:
            with self._writing:
                self._port.write(f"{command}\n".encode("ascii"))
        except self._faults as fault:
            raise MeterGone(self.url, str(fault)) from None

    def close(self) -> None:
        """End ``events`` at its next step."""
        self._stopping.set()

    def events(self) -> Iterator[Event]:
        """What the meter sends, until ``close`` or the link breaks; the last event of a broken link is a Trouble
        that is over."""
        reader = _Reader(self.url)
        try:
            self.send("hello")
            yield from self._read(reader)
        except MeterGone as gone:
            yield Trouble(gone, over=True)
        finally:
            shut(self._port)

    def _read(self, reader: _Reader) -> Iterator[Event]:
        heard = asked_at = self._clock()
        asked_again = False
        while not self._stopping.is_set():
            try:
                data = self._port.read(4096)
            except self._faults as fault:
                raise MeterGone(self.url, str(fault)) from None
            news = list(reader.take(data, self._clock())) if data else []
            self.heard = reader.newest or self.heard
            if any(isinstance(n, Samples | Identity | Value) for n in news):
                heard = self._clock()
            for event in news:
                if isinstance(event, Identity) and event.rate:
                    self.send("stream on")
                yield event
            if reader.lost and self._clock() - asked_at > ASKS_AFTER:
                asked_at = self._clock()
                self.send("hello")
            quiet = self._clock() - heard
            if reader.identity is None and quiet > HELLO_WITHIN:
                yield Trouble(MeterNotThere(self.url, tr("it does not say who it is")), over=True)
                return
            if reader.identity is None and quiet > HELLO_WITHIN / 2 and not asked_again:
                asked_again = True
                self.send("hello")
            streams = reader.identity is not None and reader.identity.rate > 0
            if streams and quiet > SILENT_AFTER and not reader.in_trouble:
                reader.in_trouble, reader.troubled_at = True, self._clock() - STAYS_IN_TROUBLE
                yield Trouble(MeterSilent(self.url))
                self.send("stream on")


def open_port(url: str, **settings: float) -> Any:
    """A port of pyserial's, for this program alone. Raises MeterNotThere, MeterInUse."""
    import serial  # loads slowly

    try:
        port = serial.serial_for_url(url, exclusive=True, do_not_open=True, **settings)
        if url.startswith("socket:"):  # at a socket it would read until there is nothing more: of a flood, for ever
            port.reset_input_buffer = lambda: None
        port.open()
        return port
    except (serial.SerialException, OSError, ValueError) as fault:
        log.info("meter not there: %s: %s", url, fault)
        if getattr(fault, "errno", None) in (errno.EAGAIN, errno.EBUSY):
            raise MeterInUse(url, str(fault)) from None
        raise MeterNotThere(url, str(fault)) from None


def shut(port: Any) -> None:
    """Close a port of pyserial's. Its socket is left open when the other side has gone already, so that is closed here."""
    connection = getattr(port, "_socket", None)
    port.close()
    if connection is not None:
        connection.close()


class Lines:
    """Whole lines out of what comes in pieces; one longer than LONGEST_LINE is dropped to its very end."""

    def __init__(self, ends: bytes = rb"\n") -> None:
        """``ends`` is the pattern of a line's end."""
        self._ends = re.compile(ends)
        self._rest = b""
        self._skipping = False
        self.overlong = 0
        """How many lines were dropped."""
        self.newest = b""
        """The last whole line."""

    def take(self, data: bytes) -> list[bytes]:
        """The lines that ``data`` completes."""
        *lines, self._rest = self._ends.split(self._rest + data)
        if self._skipping and lines:
            lines, self._skipping = lines[1:], False
        if len(self._rest) > LONGEST_LINE:
            self.overlong += not self._skipping
            self._rest, self._skipping = b"", True
        self.newest = lines[-1] if lines else self.newest
        return lines


class _Reader:
    """Turns bytes into events: joins lines, gathers consecutive samples, counts garbage."""

    def __init__(self, url: str) -> None:
        self.url = url
        self.identity: Identity | None = None
        self.in_trouble = False
        self.troubled_at = 0.0
        self._lines = Lines()
        self._garbage = 0
        self._astray = 0
        self._next: int | None = None

    @property
    def lost(self) -> bool:
        """Lines without their checksum, or with running numbers that went back, came one after another."""
        return self._astray >= GARBAGE_LINES

    @property
    def newest(self) -> str:
        """The last whole line."""
        return self._lines.newest.decode("ascii", "replace").strip()

    def take(self, data: bytes, now: float) -> Iterator[Event]:
        """What ``data`` brings, which came at ``now`` (s)."""
        values: list[float] = []
        start = missed = 0
        overlong = self._lines.overlong
        lines = self._lines.take(data)
        self._garbage += GARBAGE_LINES * (self._lines.overlong - overlong)
        for whole in lines:
            raw = self._checked(whole)
            if raw is None:
                yield from self._damaged(whole, now)
                continue
            if self.identity is not None and (plain := plain_sample(raw, self.identity.unit)) is not None:
                index, torque = plain
                if self._next is not None and index < self._next:  # came before, or is out of order
                    self._astray += 1
                    continue
                self._garbage = self._astray = 0
                if values and index != self._next:
                    yield Samples(start, np.array(values), missed)
                    values = []
                if not values:
                    start = index
                    missed = max(0, index - self._next) if self._next is not None else 0
                values.append(torque)
                self._next = index + 1
                continue
            line = parse(raw.decode("ascii", "replace").strip(), self.identity.unit if self.identity else N_M)
            if self.identity is None and isinstance(line, Sample | Value | DisplayReport | RoomReport):
                continue  # until it has said who it is and in which unit, nothing counts
            if isinstance(line, Garbage):
                if line.text:
                    self._garbage += 1
                    log.debug("garbage from %s: %s", self.url, line.text)
                if self._garbage >= GARBAGE_LINES and not self.in_trouble:
                    self.in_trouble, self.troubled_at = True, now
                    yield Trouble(MeterGarbled(self.url, line.text[:24]))
                continue
            if isinstance(line, Identity):
                if values:  # what came before is in the unit of before
                    yield Samples(start, np.array(values), missed)
                    values = []
                self.identity = line
                self._next = None
                self._astray = 0
            if isinstance(line, Value):
                self._garbage = self._astray = 0
                if self._recovers(now):
                    yield Recovered()
            if not isinstance(line, Sample):  # those of a meter that is known were taken above
                yield line
        if values:
            if self._recovers(now):
                yield Recovered()
            yield Samples(start, np.array(values), missed)

    def _checked(self, raw: bytes) -> bytes | None:
        """A line without the checksum that its meter promised; None where that does not fit. What says who a meter is
        is held against its own."""
        if raw.startswith(b"meter "):
            return raw
        if self.identity is None:
            return without_checksum(raw) or raw
        return without_checksum(raw) if self.identity.checked and raw.strip() else raw

    def _damaged(self, raw: bytes, now: float) -> Iterator[Event]:
        """A line whose checksum does not fit. Among samples it is a gap that their numbers show; a value is a pull that is
        missing, and told."""
        self._astray += 1
        text = raw.decode("ascii", "replace").strip()
        log.debug("damaged from %s: %s", self.url, text[:80])
        streams = self.identity is not None and self.identity.rate > 0
        if not self.in_trouble and (not streams or self.lost):
            self.in_trouble, self.troubled_at = True, now
            yield Trouble(MeterDamaged(self.url, text[:24]))

    def _recovers(self, now: float) -> bool:
        """Whether what was in trouble is no longer, now that something good came."""
        over = self.in_trouble and now - self.troubled_at >= STAYS_IN_TROUBLE
        self.in_trouble = self.in_trouble and not over
        return over
