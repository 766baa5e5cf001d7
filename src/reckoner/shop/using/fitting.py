"""Adapters on a tool: those that the shop has, and what a person types for one."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.entry import read
from reckoner.core.quantities.ownunits import METRIC, OwnUnits, UnitSystem
from reckoner.core.quantities.printing import fixed
from reckoner.core.quantities.units import DEGREE, Kind
from reckoner.core.tightening.adapters import Adapter
from reckoner.core.translation import tr
from reckoner.store.reader import Reader

IN_LINE, SQUARE = 0.0, math.pi / 2


@dataclass(frozen=True)
class ShopAdapter:
    """An adapter of the shop's: its ``length`` in m, what it may bear in N·m (None: not known). ``gives``: it has a joint
    with give."""

    number: str
    shape: str
    length: float
    rating: float | None
    gives: bool


@dataclass(frozen=True)
class Fitted:
    """An adapter as it is on the tool: ``length`` in m, ``angle_rad`` from the handle's axis; ``of`` the shop's, ``typed_in``
    the system of units in which its length was said."""

    length: float
    angle_rad: float = 0.0
    of: ShopAdapter | None = None
    typed_in: UnitSystem = UnitSystem.METRIC

    @property
    def length_words(self) -> str:
        """Its length."""
        return OwnUnits(system=self.typed_in).length_words(self.length)

    @property
    def adapter(self) -> Adapter:
        """As the arithmetic takes it."""
        return Adapter(self.length, self.angle_rad)

    @property
    def name(self) -> str:
        """Such as "crow-foot CF-19", or "adapter"."""
        if self.of is None:
            return tr("adapter")
        shape = self.of.shape.split(",")[0].strip()
        return f"{shape or tr('adapter')} {self.of.number}"

    @property
    def short(self) -> str:
        """Such as "CF-19 at 60°", or "45 mm in line"."""
        which = self.of.number if self.of is not None else self.length_words
        return f"{which} {angle_words(self.angle_rad)}"

    @property
    def words(self) -> str:
        """Such as "45 mm adapter in line"."""
        return f"{self.length_words} {self.name} {angle_words(self.angle_rad)}"


def angle_words(angle_rad: float) -> str:
    """How an adapter stands.

    >>> [angle_words(math.radians(a)) for a in (0, 90, 180, 45)]
    ['in line', 'square', 'folded back', 'at 45°']
    """
    degrees = math.degrees(angle_rad) % 360
    for usual, words in (
        (0, tr("in line")),
        (360, tr("in line")),
        (90, tr("square")),
        (270, tr("square")),
        (180, tr("folded back")),
    ):
        if abs(degrees - usual) < 0.25:
            return words
    signed = degrees if degrees <= 180 else degrees - 360
    return tr("at {signed}°", signed=fixed(signed, 0))


def adapters(reader: Reader) -> tuple[ShopAdapter, ...]:
    """Those whose length is known, by number."""
    rows = reader.rows(
        "SELECT number, shape, adapter_length, adapter_rating, adapter_gives FROM gear "
        "WHERE kind = 'adapter' AND NOT removed AND adapter_length > 0 ORDER BY number"
    )
    return tuple(
        ShopAdapter(r.number, r.shape or "", r.adapter_length, r.adapter_rating, bool(r.adapter_gives)) for r in rows
    )


_NUMBER = r"[+-]?\d+(?:[.,]\d+)?"
_ANGLE = re.compile(
    rf"[\s,]+(?:(?:at\s+)?({_NUMBER}\s*(?:°|deg\w*)|in line|square|folded back)|at\s+({_NUMBER}))\s*$", re.IGNORECASE
)
_NAMED = {"in line": 0.0, "square": math.pi / 2, "folded back": math.pi}


def read_fitted(
    text: str, shelf: tuple[ShopAdapter, ...] = (), field: str = "adapter", own: OwnUnits = METRIC
) -> Fitted:
    """What a person types for an adapter: its length or the shop's number, and how it stands; a bare length is in one's
    ``own`` units. Raises InputRefused.

    >>> read_fitted("45 mm at 90 deg").words
    '45\u202fmm adapter square'
    >>> read_fitted("1 3/4 in at 90").words
    '1 3/4\u202fin adapter square'
    >>> read_fitted("1 3/4 in").words
    '1 3/4\u202fin adapter in line'
    """
    words, angle = text.strip(), 0.0
    if (match := _ANGLE.search(words)) is not None:
        words, said = words[: match.start()], (match[1] or match[2]).lower()
        angle = _NAMED[said] if said in _NAMED else read(said, Kind.ANGLE, default=DEGREE, field=field).si
    named = next((a for a in shelf if a.number.casefold() == words.casefold()), None)
    if named is not None:
        return Fitted(named.length, angle, named)
    try:
        found = read(words, Kind.LENGTH, default=own.length, field=field)
    except InputRefused:
        known = tr(", or one of {list}", list=", ".join(a.number for a in shelf[:4])) if shelf else ""
        raise InputRefused(
            field,
            text,
            tr('"{text}" is no adapter; write such as 45 mm, or 45 mm at 90°{known}', text=text, known=known),
        ) from None
    length = found.si
    if not 0 < length <= LONGEST:
        raise InputRefused(
            field, text, tr("has to be more than nothing and at most {longest}", longest=own.length_words(LONGEST))
        )
    typed_in = UnitSystem.INCH if found.unit.name in ("in", "ft") else UnitSystem.METRIC
    return Fitted(length, angle, typed_in=typed_in)


LONGEST = 2.0
"""No adapter is longer, in m."""
