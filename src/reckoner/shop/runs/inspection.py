"""The look-over list of each mechanism, for wrenches and for screwdrivers. To add a line: a row in the list of its kind."""

from __future__ import annotations

from reckoner.core.kinds import Mechanism
from reckoner.shop.toolfacts import ToolFacts

_ALWAYS = {"No sign of a fall": "no dents, no fresh marks"}

_ENTERED = {"Adapter length entered in it": "none, or that of the head that is on it"}

_SETTING = {
    "Drive and ratchet": "not worn, cracked or slipping",
    "Scale and lock": "legible, the lock holds",
    "Housing and handle": "nothing slack, bent or missing; cap and seal there",
}

_PRESET = {
    "Drive and ratchet": "not worn, cracked or slipping",
    "Cap and seal": "there and unbroken",
    "Housing and handle": "nothing slack, bent or missing",
}

_SLIP = {
    "Drive and ratchet": "not worn, cracked or slipping",
    "Scale and lock": "legible, the lock holds",
    "Handle": "turns freely, nothing slack or missing; cap and seal there",
}

_BEAM = {
    "Drive": "not worn or cracked",
    "Bar": "straight, free of the pointer along its whole length",
    "Pointer and scale": "on zero with nothing on it, legible",
}

_DIAL = {
    "Drive": "not worn or cracked",
    "Glass and pointer": "whole, on zero with nothing on it; the drag hand moves freely",
    "Housing and handle": "nothing slack, bent or missing",
}

_ELECTRONIC = {
    "Drive and ratchet": "not worn, cracked or slipping",
    "Display and battery": "legible, charged, on zero with nothing on it",
    "Housing and handle": "nothing slack, bent or missing; seals whole",
}

INSPECTIONS: dict[Mechanism, dict[str, str]] = {
    Mechanism.CLICK: _SETTING,
    Mechanism.BREAK_OVER: _SETTING,
    Mechanism.PRESET: _PRESET,
    Mechanism.SLIP: _SLIP,
    Mechanism.BEAM: _BEAM,
    Mechanism.DIAL: _DIAL,
    Mechanism.ELECTRONIC: _ELECTRONIC,
}


_DRIVES = ("Drive and ratchet", "Drive")
_BIT_HOLDER = ("Bit holder", "not worn, holds the bit")


def inspection_lines(mechanism: Mechanism, *, screwdriver: bool, enters_length: bool = False) -> dict[str, str]:
    """The look-over list for a mechanism: line → what fine means. A screwdriver holds bits; one that ``enters_length`` takes
    an adapter's length into account itself, and what stands in it from the last joint must not."""
    lines = dict(
        _BIT_HOLDER if screwdriver and line in _DRIVES else (line, means)
        for line, means in INSPECTIONS[mechanism].items()
    )
    return {**lines, **(_ENTERED if enters_length else {}), **_ALWAYS}


def asked_of(tool: ToolFacts) -> dict[str, str]:
    """The look-over list of a tool."""
    return inspection_lines(tool.mechanism, screwdriver=tool.kind.is_screwdriver, enters_length=tool.corrects_adapter)
