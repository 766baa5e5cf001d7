"""From a reference's link to an open meter, and the ports that this machine has.

To add a kind of meter: a scheme and a class here.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Protocol

from reckoner.core.errors import InputRefused, Refused
from reckoner.core.translation import tr
from reckoner.meters import plain, replay
from reckoner.meters.link import Event, MeterLink


class OpenLink(Protocol):
    """What every open link offers."""

    url: str
    heard: str

    def send(self, command: str) -> None: ...

    def close(self) -> None: ...

    def events(self) -> Iterator[Event]: ...


def open_link(link: str) -> OpenLink:
    """Open what ``link`` names. Raises MeterRefused when it is not there, InputRefused or LinkRefused when the text cannot be
    read."""
    link = checked_link(link)
    if link.startswith(plain.SCHEME):
        return plain.PlainLink(link)
    if link.startswith(replay.SCHEME):
        return replay.ReplayLink(link)
    return MeterLink(link)


LONGEST = 400

KNOWN = ("socket://", "rfc2217://")
"""The kinds of address, beside a device's path, that a link may name. Others that pyserial opens can write into files."""

STAND_IN = "stand-in"


class LinkRefused(Refused):
    """A text that cannot be a link; ``why`` completes a sentence about it."""

    def __init__(self, why: str) -> None:
        super().__init__(why)
        self.why = why

    def __str__(self) -> str:
        return tr("The link {why}.", why=self.why)


def checked_link(link: str) -> str:
    """``link`` without the spaces around it. Raises LinkRefused for text that cannot be one."""
    link = link.strip()
    if len(link) > LONGEST:
        raise LinkRefused(tr("is longer than {longest} characters", longest=LONGEST))
    address = link
    if link.startswith(plain.SCHEME):
        try:
            address = plain.PlainPlan.parse(link).url
        except InputRefused as refusal:
            raise LinkRefused(refusal.reason) from None
    if not address or address == STAND_IN or link.startswith(replay.SCHEME):
        return link
    if not address.startswith(("/", *KNOWN)):
        kinds = ", ".join((*KNOWN, plain.SCHEME, replay.SCHEME))
        raise LinkRefused(
            tr(
                '"{address}" is of no known kind; write a device such as /dev/ttyUSB0, or one of {kinds}',
                address=address[:40],
                kinds=kinds,
            )
        )
    return link


@dataclass(frozen=True)
class Port:
    """A serial port of this machine: its device path and what the system knows of what hangs on it."""

    device: str
    description: str


def serial_ports() -> tuple[Port, ...]:
    """The serial ports of this machine, those with something known on them first."""
    from serial.tools import list_ports  # loads slowly

    found = [
        Port(p.device, p.description if p.description and p.description != "n/a" else "") for p in list_ports.comports()
    ]
    return tuple(sorted(found, key=lambda p: (not p.description, p.device)))
