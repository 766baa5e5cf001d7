"""Permissible deviations as makers and owners state them: of the reading, of full scale, or by zones of the range.

A rule set's own table is in ``rules``; at each point the tightest of all holds.
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from enum import StrEnum
from typing import NamedTuple

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.checks import between
from reckoner.core.translation import tr


class LimitOf(StrEnum):
    """What a limit is a part of."""

    READING = "reading"
    FULL_SCALE = "full scale"


class Zone(NamedTuple):
    """A stretch of the range ``up_to`` a fraction of full scale, with its ``limit`` as a fraction ``of`` what it is stated
    of."""

    limit: float
    of: LimitOf = LimitOf.READING
    up_to: float = 1.0

    def at(self, torque: float, maximum: float) -> float:
        """The permissible deviation at ``torque``, a fraction of it. Torques in N·m, above zero."""
        return self.limit if self.of is LimitOf.READING else self.limit * maximum / torque


@dataclass(frozen=True)
class StatedLimit:
    """One stated limit: its zones, rising. At a border between two the tighter holds.

    Raises InputRefused for limits that are not from 0.01 to 50 %, and for zones that do not rise to the full scale.
    """

    zones: tuple[Zone, ...]

    def __post_init__(self) -> None:
        for zone in self.zones:
            between("tolerance_percent", zone.limit * 100, 0.01, 50, "%")
        ends = [zone.up_to for zone in self.zones]
        if not ends or any(b <= a for a, b in zip([0.0, *ends], ends, strict=False)) or ends[-1] != 1.0:
            raise InputRefused(
                "tolerance_percent", tuple(ends), tr("the zones have to rise, and end at the full scale")
            )

    @property
    def plain(self) -> float | None:
        """The limit where it is one part of the reading over the whole range, else None."""
        return self.zones[0].limit if len(self.zones) == 1 and self.zones[0].of is LimitOf.READING else None

    def at(self, torque: float, maximum: float) -> float:
        """The permissible deviation ± at a ``torque`` of a tool that ends at ``maximum`` (N·m), as a fraction of the torque.

        A part of full scale is taken at the target, X_a: beside the exact bound it differs by at most the limit squared
        (0.4 % of the reading at 6 %).

        >>> by_zones = StatedLimit((Zone(0.06, up_to=0.2), Zone(0.04)))
        >>> by_zones.at(20, 200), by_zones.at(40, 200), by_zones.at(200, 200)
        (0.06, 0.04, 0.04)
        >>> StatedLimit((Zone(0.01, LimitOf.FULL_SCALE),)).at(50, 200)
        0.04
        """
        place = torque / maximum
        return min(zone.at(torque, maximum) for zone in self._around(place))

    def _around(self, place: float) -> tuple[Zone, ...]:
        """The zone at a ``place``, a fraction of full scale; both at a border."""
        low, found = 0.0, []
        for zone in self.zones:
            if low - _BORDER <= place <= zone.up_to + _BORDER:
                found.append(zone)
            low = zone.up_to
        return tuple(found) or self.zones[-1:]


_BORDER = 1e-9
"""How near a torque stands at a border, as a fraction of full scale: 20 % of 0.7 is not 0.14 to the last bit."""


def of_reading(limit: float) -> StatedLimit:
    """One limit, a fraction of the reading, over the whole range. Raises InputRefused."""
    return StatedLimit((Zone(limit),))


_ZONE = (
    r"(?:±|\+/-|\+-)?\s*(?P<limit>\d{1,3}(?:[.,]\d{1,6})?)\s*%"
    r"\s*(?P<of>(?:of\s+)?(?:full\s*scale|full-scale|fs|range|max(?:imum)?|(?:the\s+)?reading|rdg|set(?:ting)?))?"
    r"\s*(?P<where>(?P<way>below|under|up\s+to|to|above|over|from)\s*"
    r"(?:(?P<border>\d{1,3}(?:[.,]\d{1,6})?)\s*%(?:\s*(?:of\s+)?(?:full\s*scale|fs|range|max(?:imum)?))?)?)?\s*"
)
_BELOW = ("below", "under", "up to", "to")


def read_limit(text: str, field: str = "limit") -> StatedLimit:
    """A limit as people write it: "4 %", "1 % of full scale", "±6 % below 20 % of full scale, ±4 % above". Source: the
    habits of makers' sheets.

    Raises InputRefused with what cannot be read.

    >>> [(z.limit, z.of.value, z.up_to) for z in read_limit("±6 % below 20 % of full scale, ±4 % above").zones]
    [(0.06, 'reading', 0.2), (0.04, 'reading', 1.0)]
    """
    zones: list[Zone] = []
    low = 0.0
    parts = [part.strip() for part in re.split(r";|,(?!\d)|(?<=[%a-z]),|\band\b|\bthen\b", text) if part.strip()]
    for i, part in enumerate(parts):
        match = re.fullmatch(
            _ZONE, part.replace("\N{NO-BREAK SPACE}", " ").replace("\N{THIN SPACE}", " "), re.IGNORECASE
        )
        if match is None:
            example = tr('"4 %", "1 % of full scale" or "6 % below 20 %, 4 % above"')
            raise InputRefused(
                field, text, tr('"{part}" is no limit; write it such as {example}', part=part, example=example)
            )
        of = (match["of"] or "").lower()
        of_full = bool(of) and not any(word in of for word in ("reading", "rdg", "set"))
        way = " ".join((match["way"] or "").lower().split())
        border = _fraction(match["border"]) if match["border"] else None
        if way in _BELOW and border is not None:
            end = border
        elif i == len(parts) - 1 and way not in _BELOW:  # the last, "above" or "from 20 %"
            if border is not None and abs(border - low) > _BORDER:
                raise InputRefused(
                    field,
                    text,
                    tr("nothing is said between {low:g} % and {border:g} %", low=low * 100, border=border * 100),
                )
            end = 1.0
        else:
            raise InputRefused(
                field,
                text,
                tr('say where "{part}" ends, such as "{split}% below 20 %"', part=part, split=part.split("%")[0]),
            )
        zones.append(Zone(_fraction(match["limit"]), LimitOf.FULL_SCALE if of_full else LimitOf.READING, end))
        low = end
    if zones and zones[-1].up_to != 1.0:
        raise InputRefused(field, text, tr('say what holds above {low:g} %, such as ", 4 % above"', low=low * 100))
    try:
        return StatedLimit(tuple(zones))
    except InputRefused as refusal:
        raise InputRefused(field, text, refusal.reason) from None


def _fraction(text: str) -> float:
    """A per cent number as a fraction that prints as it was written: 4.4 % is 0.044."""
    return float(f"{float(text.replace(',', '.')) / 100:.12g}")


def tightest(limits: tuple[StatedLimit, ...], torque: float, maximum: float) -> float:
    """The tightest of several at a torque; infinite where there are none. Refuses nothing."""
    return min((limit.at(torque, maximum) for limit in limits), default=math.inf)
