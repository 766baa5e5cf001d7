"""Stated limits as the register keeps them, and in words.

A plain per cent of the reading stands in the column ``tolerance``; anything else as JSON in ``zones``.
"""

from __future__ import annotations

import json
from collections.abc import Iterable, Sequence
from functools import lru_cache
from typing import Any

from reckoner.core.quantities import printing
from reckoner.core.quantities.printing import THIN, number, quantity
from reckoner.core.quantities.units import Unit
from reckoner.core.requirements.limits import LimitOf, StatedLimit, Zone, of_reading
from reckoner.core.translation import tr
from reckoner.formats.languages import say
from reckoner.store.errors import ValueUnreadable
from reckoner.store.terms import term


def stated_limit(tolerance: float | None, zones: str) -> StatedLimit | None:
    """The limit that two columns say; None for none. Raises ValueUnreadable, InputRefused, TermUnknown."""
    if zones:
        return _read(zones)
    return of_reading(tolerance) if tolerance is not None else None


def limit_columns(limit: StatedLimit | None) -> dict[str, Any]:
    """The columns that say a limit."""
    if limit is None or limit.plain is not None:
        return {"tolerance": limit.plain if limit is not None else None, "zones": ""}
    return {"tolerance": None, "zones": json.dumps(unread(limit))}


def unread(limit: StatedLimit) -> list[list[Any]]:
    """A limit as plain lists: limit, of what, up to which fraction of full scale."""
    return [[zone.limit, zone.of.value, zone.up_to] for zone in limit.zones]


def limit_from(zones: Iterable[Sequence[Any]]) -> StatedLimit:
    """The limit that plain lists say. Raises ValueError, InputRefused, TermUnknown."""
    return StatedLimit(tuple(Zone(float(limit), term(LimitOf, of), float(up_to)) for limit, of, up_to in zones))


@lru_cache(maxsize=256)
def _read(zones: str) -> StatedLimit:
    try:
        return limit_from(json.loads(zones))
    except (ValueError, TypeError, RecursionError):
        raise ValueUnreadable(tr("limit by zones"), zones) from None


def limit_words(limit: StatedLimit) -> str:
    """Such as "6 % below 20 % of full scale, 4 % above"; as it is typed: a notation, the same in
    every language."""
    said, low = [], ""
    for zone in limit.zones:
        whose = " of full scale" if zone.of is LimitOf.FULL_SCALE else ""
        place = f" below {_plain(zone.up_to)} of full scale" if zone.up_to < 1 else low
        said.append(f"{_plain(zone.limit)}{whose}{place}")
        low = " above"
    return ", ".join(said)


def _plain(ratio: float) -> str:
    return f"{number(ratio * 100)}{THIN}%"


def limits_words(limits: Iterable[tuple[float, float]], unit: Unit) -> str:
    """Such as "±4 %", or where they differ by torque "±6 % at 10 N·m, ±4 % from 20 N·m": limits (fractions) by target."""
    runs: list[tuple[float, list[float]]] = []
    for target, limit in sorted(limits):
        if not runs or abs(runs[-1][0] - limit) > 1e-12:
            runs.append((limit, []))
        runs[-1][1].append(target)
    if len(runs) == 1:
        return printing.limit(runs[0][0])
    last = len(runs) - 1
    return ", ".join(
        say(
            "limit.from" if i == last and len(at) > 1 else "limit.at",
            limit=printing.limit(limit),
            torque=quantity(at[0], unit) if i == last else ", ".join(quantity(t, unit) for t in at),
        )
        for i, (limit, at) in enumerate(runs)
    )
