"""Numbers as text: the only place that rounds.

True minus sign, a thin space before the unit, halves away from zero. An uncertainty is printed with two
significant figures and its value to the same place (JCGM 100:2008, 7.2.6). Nothing here refuses anything.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from decimal import ROUND_HALF_UP, Decimal

from reckoner.core.quantities.units import Unit
from reckoner.core.translation import tr

MINUS = "−"
THIN = "\u202f"


def fixed(value: float, decimals: int, *, sign: bool = False) -> str:
    """``value`` with a fixed number of decimals.

    >>> fixed(-0.125, 2)
    '−0.13'
    >>> fixed(1.0, 1, sign=True)
    '+1.0'
    """
    rounded = Decimal(repr(float(value))).quantize(Decimal(1).scaleb(-decimals), rounding=ROUND_HALF_UP)
    if rounded == 0:
        return f"{abs(rounded):f}"
    mark = MINUS if rounded < 0 else "+" if sign else ""
    return f"{mark}{abs(rounded):f}"


def percent(ratio: float, decimals: int = 1, *, sign: bool = False) -> str:
    """A fraction as percent: ``percent(-0.042)`` is "−4.2 %"."""
    return f"{fixed(ratio * 100, decimals, sign=sign)}{THIN}%"


def limit(ratio: float, least: int = 1) -> str:
    """A permissible deviation, ± a fraction, with every decimal it was stated with, and at least ``least``; one that follows
    from a part of full scale with two.

    >>> limit(0.04), limit(0.0225), limit(0.04, 0), limit(2 / 60)
    ('±4.0\u202f%', '±2.25\u202f%', '±4\u202f%', '±3.33\u202f%')
    """
    return f"±{percent(ratio, limit_decimals(ratio, least))}"


def limit_decimals(ratio: float, least: int = 1) -> int:
    """Decimals of a limit in per cent, for an axis; see ``limit``."""
    stated = decimals_for(ratio * 100)
    return max(least, stated) if stated <= EXACT else 2


def decimals_for(step: float) -> int:
    """Decimals that show a resolution of ``step`` in full: 0.05 → 2, 0.25 → 2, 5 → 0, at most 6."""
    step = abs(step)
    for decimals in range(7):
        if abs(step * 10**decimals - round(step * 10**decimals)) < 1e-6 * max(step * 10**decimals, 1e-9):
            return decimals
    return 6


EXACT = 3
"""A step that needs more decimals than this to be written in full is shown with those that resolve it."""


def reading_decimals(resolution: float, unit: Unit) -> int:
    """Decimals of a reading in ``unit`` from an instrument of ``resolution`` (SI): the one rule for readings.

    Its step in full where three decimals do; a step converted from another unit with as many as resolve it. 2 where the
    resolution is not known.

    >>> from reckoner.core.quantities.units import N_M, Kind, unit_named
    >>> reading_decimals(0.05, N_M), reading_decimals(0.25, N_M), reading_decimals(5, N_M)
    (2, 2, 0)
    >>> reading_decimals(0.05, unit_named("lbf.ft", Kind.TORQUE))
    2
    """
    if resolution <= 0:
        return 2
    step = unit.from_si(resolution)
    exact = decimals_for(step)
    return exact if exact <= EXACT else min(6, max(0, math.ceil(-math.log10(step))))


def quantity(si: float, unit: Unit, decimals: int | None = None) -> str:
    """A value in SI printed in ``unit`` with its symbol; five significant figures when no decimals are given."""
    return f"{number(unit.from_si(si), decimals)}{THIN}{unit.symbol}"


def number(value: float, decimals: int | None = None) -> str:
    """``value`` with ``decimals``, or with up to five significant figures and no trailing zeros."""
    if decimals is not None:
        return fixed(value, decimals)
    if value == 0:
        return "0"
    places = max(0, 4 - math.floor(math.log10(abs(value))))
    text = fixed(value, min(places, 12))
    return text.rstrip("0").rstrip(".") if "." in text else text


def uncertainty_decimals(uncertainty: float) -> int:
    """Decimals that leave two significant figures of ``uncertainty`` (JCGM 100:2008, 7.2.6)."""
    if uncertainty <= 0:
        return 2
    return max(0, 1 - math.floor(math.log10(uncertainty)))


def span(low: float, high: float, unit: Unit) -> str:
    """A range such as "40–200 N·m"; one number when both ends are the same."""
    if low == high:
        return quantity(low, unit)
    return f"{number(unit.from_si(low))}–{number(unit.from_si(high))}{THIN}{unit.symbol}"


def ticks(end: float, most: int) -> tuple[float, ...]:
    """Round numbers from 0 to ``end`` for an axis, ``most`` steps at most: 1, 2 or 5 times a power of ten apart.

    >>> ticks(150, 4)
    (0.0, 50.0, 100.0, 150.0)
    >>> ticks(4, 5)
    (0.0, 1.0, 2.0, 3.0, 4.0)
    """
    if end <= 0 or most < 1:
        return ()
    power = 10.0 ** math.floor(math.log10(end / most))
    step = next(step for step in (power, 2 * power, 5 * power, 10 * power) if end / step <= most + 1e-9)
    return tuple(i * step for i in range(math.floor(end / step + 1e-9) + 1))


def ordinal(place: int) -> str:
    """A place in a row.

    >>> [ordinal(n) for n in (1, 2, 3, 4, 11, 12, 21, 103)]
    ['1st', '2nd', '3rd', '4th', '11th', '12th', '21st', '103rd']
    """
    endings = {1: tr("{place}st", place=place), 2: tr("{place}nd", place=place), 3: tr("{place}rd", place=place)}
    usual = tr("{place}th", place=place)
    return usual if place % 100 in (11, 12, 13) else endings.get(place % 10, usual)


def enumerated(words: Sequence[str]) -> str:
    """Words one after the other.

    >>> enumerated(["CF-19"]), enumerated(["CF-19", "CF-22", "EX-250"])
    ('CF-19', 'CF-19, CF-22 and EX-250')
    """
    *first, last = words or [""]
    return tr("{first} and {last}", first=", ".join(first), last=last) if first else last
