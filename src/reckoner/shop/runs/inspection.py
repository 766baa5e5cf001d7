"""The look-over list of each mechanism, for wrenches and for screwdrivers. To add a line: a row in the list of its kind."""

from __future__ import annotations

from reckoner.core.requirements.tooltypes import Mechanism
from reckoner.core.translation import tr
from reckoner.shop.facts.tool import ToolFacts

_ALWAYS = {tr("No sign of a fall"): tr("no dents, no fresh marks")}

_ENTERED = {tr("Adapter length entered in it"): tr("none, or that of the head that is on it")}

_SETTING = {
    tr("Drive and ratchet"): tr("not worn, cracked or slipping"),
    tr("Scale and lock"): tr("legible, the lock holds"),
    tr("Housing and handle"): tr("nothing slack, bent or missing; cap and seal there"),
}

_PRESET = {
    tr("Drive and ratchet"): tr("not worn, cracked or slipping"),
    tr("Cap and seal"): tr("there and unbroken"),
    tr("Housing and handle"): tr("nothing slack, bent or missing"),
}

_SLIP = {
    tr("Drive and ratchet"): tr("not worn, cracked or slipping"),
    tr("Scale and lock"): tr("legible, the lock holds"),
    tr("Handle"): tr("turns freely, nothing slack or missing; cap and seal there"),
}

_BEAM = {
    tr("Drive"): tr("not worn or cracked"),
    tr("Bar"): tr("straight, free of the pointer along its whole length"),
    tr("Pointer and scale"): tr("on zero with nothing on it, legible"),
}

_DIAL = {
    tr("Drive"): tr("not worn or cracked"),
    tr("Glass and pointer"): tr("whole, on zero with nothing on it; the drag hand moves freely"),
    tr("Housing and handle"): tr("nothing slack, bent or missing"),
}

_ELECTRONIC = {
    tr("Drive and ratchet"): tr("not worn, cracked or slipping"),
    tr("Display and battery"): tr("legible, charged, on zero with nothing on it"),
    tr("Housing and handle"): tr("nothing slack, bent or missing; seals whole"),
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


_DRIVES = (tr("Drive and ratchet"), tr("Drive"))
_BIT_HOLDER = (tr("Bit holder"), tr("not worn, holds the bit"))


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
