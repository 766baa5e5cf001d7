"""Convert anything typed, both ways, as one types; a weight on a lever into the torque that it makes."""

from __future__ import annotations

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.entry import read
from reckoner.core.quantities.printing import quantity
from reckoner.core.quantities.units import Kind, Unit, unit_named
from reckoner.shop.using.simplesum import hung_sum

SHOWN: dict[Kind, tuple[str, ...]] = {
    Kind.TORQUE: ("N.m", "lbf.ft", "lbf.in", "kgf.m", "kgf.cm", "cN.m"),
    Kind.FORCE: ("N", "kgf", "lbf"),
    Kind.LENGTH: ("mm", "in", "ft"),
    Kind.MASS: ("kg", "lb"),
}
"""What a quantity is told in; a bare number is read in the first two, one after the other."""


def converted(text: str) -> tuple[str, ...]:
    """What ``text`` is in other units, a line each; nothing for what is no quantity.

    >>> converted("59 lbf.ft")[0]
    '59\u202flbf·ft = 79.993\u202fN·m'
    >>> [line.split(" = ")[0].replace("\u202f", " ") for line in converted("80")]
    ['80 N·m', '80 lbf·ft', '80 lbf·in', '80 mm', '80 in']
    """
    if not text.strip():
        return ()
    if (hung := hung_sum(None, text)) is not None:
        return hung.words[:2]
    for kind, names in SHOWN.items():
        units = [unit_named(name, kind) for name in names]
        try:
            found = read(text, kind, field=str(kind))
        except InputRefused:
            continue
        others = [unit for unit in units if unit != found.unit]
        return tuple(_line(found.si, found.unit, unit) for unit in others)
    return _bare(text)


def _line(si: float, unit: Unit, other: Unit) -> str:
    return f"{quantity(si, unit)} = {quantity(si, other)}"


_BOTH_WAYS = (
    (Kind.TORQUE, "N.m", "lbf.ft"),
    (Kind.TORQUE, "lbf.ft", "N.m"),
    (Kind.TORQUE, "lbf.in", "N.m"),
    (Kind.LENGTH, "mm", "in"),
    (Kind.LENGTH, "in", "mm"),
)


def _bare(text: str) -> tuple[str, ...]:
    """A number without its unit, read as each of the usual ones."""
    lines = []
    for kind, name, other in _BOTH_WAYS:
        try:
            si = read(text, kind, default=unit_named(name, kind), field=str(kind)).si
        except InputRefused:
            return ()
        lines.append(_line(si, unit_named(name, kind), unit_named(other, kind)))
    return tuple(lines)
