"""What a person types for what a joint gets: one torque, both ends, or a torque and what it may be off."""

from __future__ import annotations

import re

from reckoner.core.entry import read
from reckoner.core.errors import InputRefused
from reckoner.core.setting import Band
from reckoner.core.translation import tr
from reckoner.core.units import Kind, Unit

_TO = re.compile(r"\s*(?:\bto\b|\.\.\.?|…)\s*|(?<=[\d.,a-zA-Z·'\"])\s*[–—-]\s*(?=[\d.,])", re.IGNORECASE)
_OFF = re.compile(r"\s*(?:±|\+/-|\+-)\s*")


def read_band(text: str, default: Unit, field: str = "torque") -> tuple[Band, Unit]:
    """The band that ``text`` says, and its unit; a bare number is in ``default``. Raises InputRefused.

    >>> from reckoner.core.units import N_M
    >>> for text in ("80", "76 to 84 N.m", "76-84", "80 ± 5 %", "80 +/- 4"):
    ...     band, _unit = read_band(text, N_M)
    ...     print(round(band.low, 6), round(band.high, 6))
    80.0 80.0
    76.0 84.0
    76.0 84.0
    76.0 84.0
    76.0 84.0
    """
    off = _OFF.split(text.strip())
    if len(off) == 2:
        middle = read(off[0], Kind.TORQUE, default=default, field=field)
        if off[1].rstrip().endswith("%"):
            part = read(off[1], Kind.RATIO, field=field).si
            if not 0 <= part < 1:
                raise InputRefused(field, text, tr('"{text}" leaves nothing of it; give less than 100 %', text=text))
            return _band(middle.si * (1 - part), middle.si * (1 + part), text, field), middle.unit
        by = read(off[1], Kind.TORQUE, default=middle.unit, field=field).si
        return _band(middle.si - by, middle.si + by, text, field), middle.unit
    ends = _TO.split(text.strip())
    if len(ends) == 2 and all(ends):
        high = read(ends[1], Kind.TORQUE, default=default, field=field)
        low = read(ends[0], Kind.TORQUE, default=high.unit, field=field)
        return _band(low.si, high.si, text, field), high.unit
    if len(ends) > 2 or len(off) > 2:
        raise InputRefused(field, text, tr('"{text}" is no torque; write 80 N.m, or 76 to 84 N.m', text=text))
    one = read(text, Kind.TORQUE, default=default, field=field)
    return _band(one.si, one.si, text, field), one.unit


def band_text(band: Band, unit: Unit) -> str:
    """A band as a person types it.

    >>> from reckoner.core.units import N_M
    >>> band_text(Band(76, 84), N_M), band_text(Band(80, 80), N_M)
    ('76 to 84 N·m', '80 N·m')
    """
    low, high = (f"{unit.from_si(t):.10g}" for t in (band.low, band.high))
    return (
        f"{low} {unit.symbol}"
        if band.is_one
        else tr("{low} to {high} {symbol}", low=low, high=high, symbol=unit.symbol)
    )


def _band(low: float, high: float, text: str, field: str) -> Band:
    if low <= 0:
        raise InputRefused(field, text, tr("has to be more than nothing"))
    if low > high:
        raise InputRefused(field, text, tr('"{text}" is upside down: its low end is above its high end', text=text))
    return Band(low, high)
