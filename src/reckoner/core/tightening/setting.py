"""Setting a tool for a wanted torque, and what a setting delivers, by what its last results say of it.

What a person types for what a joint gets: one torque, both ends, or a torque and what it may be off.
"""

from __future__ import annotations

import math
import re
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from itertools import pairwise

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.checks import at_most, between, finite, not_negative, positive
from reckoner.core.quantities.entry import read
from reckoner.core.quantities.units import Kind, Unit
from reckoner.core.tightening.adapters import AngleWindow
from reckoner.core.translation import mark, tr


class BandAim(StrEnum):
    """Where in a joint's band the torque is wanted."""

    LOW = mark("low end")
    MIDDLE = mark("middle")
    HIGH = mark("high end")


class BandPlace(StrEnum):
    """Where a torque with its interval falls against a band."""

    INSIDE = "inside"
    OUTSIDE = "outside"
    CANNOT_TELL = "cannot-tell"

    @property
    def words(self) -> str:
        return self.value.replace("-", " ")


@dataclass(frozen=True)
class Band:
    """What a joint gets, N·m: from ``low`` to ``high``, both the same where one value is wanted."""

    low: float
    high: float

    def __post_init__(self) -> None:
        positive("band", self.low)
        positive("band", self.high)
        if self.low > self.high:
            raise InputRefused(
                "band", (self.low, self.high), tr("the band is upside down: its low end is above its high end")
            )

    @property
    def is_one(self) -> bool:
        """Whether it is a single value."""
        return self.low == self.high

    def aimed(self, aim: BandAim) -> float:
        """The torque that is wanted.

        >>> [Band(76, 84).aimed(aim) for aim in BandAim]
        [76, 80.0, 84]
        """
        match aim:
            case BandAim.LOW:
                return self.low
            case BandAim.HIGH:
                return self.high
            case BandAim.MIDDLE:
                return (self.low + self.high) / 2

    def falls(self, torque: float, uncertainty: float = 0.0) -> BandPlace:
        """Where ``torque`` falls, with its relative expanded ``uncertainty``: inside or outside only if all of the interval
        is.

        >>> [str(Band(76, 84).falls(t, 0.01)) for t in (80, 83.5, 86)]
        ['inside', 'cannot-tell', 'outside']
        """
        low, high = torque * (1 - uncertainty), torque * (1 + uncertainty)
        if self.low <= low * (1 + EXACT) and high <= self.high * (1 + EXACT):
            return BandPlace.INSIDE
        if high < self.low or low > self.high:
            return BandPlace.OUTSIDE
        return BandPlace.CANNOT_TELL

    def taken(self, torque: float, wanted: float) -> float | None:
        """How much of the room between ``wanted`` and the end of the band on that side an error takes, as a fraction; over 1
        beyond the end, None where there is no room at all."""
        room = (self.high - wanted) if torque > wanted else (wanted - self.low)
        return abs(torque - wanted) / room if room > 0 else None


EXACT = 1e-9
"""Rounding, no torque."""


@dataclass(frozen=True)
class KnownPoint:
    """What a result says at a ``setting`` in N·m: the ``deviation`` and its W, fractions."""

    setting: float
    deviation: float
    expanded_uncertainty: float

    def __post_init__(self) -> None:
        positive("known.setting", self.setting)
        if finite("known.deviation", self.deviation) <= -1:
            raise InputRefused("known.deviation", self.deviation, tr("must be above −100 %"))
        not_negative("known.expanded_uncertainty", self.expanded_uncertainty)


@dataclass(frozen=True)
class DeviationAtSetting:
    """A setting in N·m, with the deviation there and its W; both None where nothing was measured: nothing is extrapolated."""

    setting: float
    deviation: float | None = None
    expanded_uncertainty: float | None = None

    @property
    def measured(self) -> bool:
        """Whether it is known what the tool does there."""
        return self.deviation is not None

    def as_read(self, factor: float) -> float:
        """X/(1 + a)·f at the fastener, in N·m; where the deviation is not known, X·f, as the tool reads."""
        return self.setting / (1 + (self.deviation or 0.0)) * factor

    def delivered(self, factor: float) -> float | None:
        """X/(1 + a)·f at the fastener, in N·m; None where nothing was measured, for nothing can be promised."""
        return self.as_read(factor) if self.measured else None


SERVES = 0.05
"""A tested setting serves for those that differ from it by no more than this part of it, or by one graduation."""


def reach_of(point: KnownPoint, graduation: float) -> float:
    """How far from a tested setting its result still serves, N·m. Refuses nothing."""
    return max(graduation, SERVES * point.setting)


def at(known: Sequence[KnownPoint], setting: float, graduation: float = 0.0) -> DeviationAtSetting:
    """What is known of a ``setting`` of a tool with a ``graduation`` (N·m): the deviation interpolated between the
    neighbours, W the larger of theirs; beyond the outermost tested settings what was found there, as far as that serves.
    Raises InputRefused.

    >>> at([KnownPoint(40, 0.02, 0.01), KnownPoint(200, 0.01, 0.005)], 120)
    DeviationAtSetting(setting=120, deviation=0.015, expanded_uncertainty=0.01)
    >>> at([KnownPoint(40, 0.02, 0.01)], 41.5).deviation, at([KnownPoint(40, 0.02, 0.01)], 120).deviation
    (0.02, None)
    """
    positive("setting", setting)
    ordered = _ordered(known)
    for point in ordered:
        if math.isclose(point.setting, setting, rel_tol=EXACT):
            return DeviationAtSetting(setting, point.deviation, point.expanded_uncertainty)
    for low, high in pairwise(ordered):
        if low.setting < setting < high.setting:
            part = (setting - low.setting) / (high.setting - low.setting)
            deviation = low.deviation + part * (high.deviation - low.deviation)
            return DeviationAtSetting(setting, deviation, max(low.expanded_uncertainty, high.expanded_uncertainty))
    for end in _ends(ordered):
        if at_most(abs(setting - end.setting), reach_of(end, graduation)):
            return DeviationAtSetting(setting, end.deviation, end.expanded_uncertainty)
    return DeviationAtSetting(setting)


def setting_with(
    known: Sequence[KnownPoint], wanted: float, factor: float = 1.0, graduation: float = 0.0
) -> DeviationAtSetting:
    """The setting X = T/f·(1 + a(X)) for a ``wanted`` torque T in N·m at the fastener: solved in each stretch between tested
    settings, where a is a straight line, and beside the outermost ones as far as they serve.

    Where X lies outside all of these it is about T/f·(1 + a) with the deviation of the tested setting nearest to it, T/f
    where none was tested; its deviation is not known, and nothing may be promised of it. Raises InputRefused. Source: the
    definition of the deviation, ISO 6789-1:2017, 6.4, solved for the setting.

    >>> round(setting_with([KnownPoint(40, 0.04, 0.01), KnownPoint(200, 0.02, 0.01)], 80).setting, 4)
    82.7723
    >>> about = setting_with([KnownPoint(30, -0.0654, 0.01)], 30)
    >>> round(about.setting, 2), about.measured
    (28.04, False)
    """
    plain = positive("wanted", wanted) / positive("factor", factor)
    ordered = _ordered(known)
    for point in ordered:
        if math.isclose(plain * (1 + point.deviation), point.setting, rel_tol=EXACT):
            return at(known, point.setting)
    for low, high in pairwise(ordered):
        slope = (high.deviation - low.deviation) / (high.setting - low.setting)
        rest = 1 - plain * slope
        if rest <= 0:  # so steep a line is no tool's
            continue
        setting = plain * (1 + low.deviation - slope * low.setting) / rest
        if low.setting <= setting <= high.setting:
            return at(known, setting)
    for end in _ends(ordered):
        setting = plain * (1 + end.deviation)
        if at_most(abs(setting - end.setting), reach_of(end, graduation)):
            return DeviationAtSetting(setting, end.deviation, end.expanded_uncertainty)
    nearest = min(ordered, key=lambda point: abs(point.setting - plain), default=None)
    return DeviationAtSetting(plain if nearest is None else plain * (1 + nearest.deviation))


def _ends(ordered: Sequence[KnownPoint]) -> tuple[KnownPoint, ...]:
    """The outermost tested settings."""
    return (ordered[0], ordered[-1]) if ordered else ()


def _ordered(known: Sequence[KnownPoint]) -> list[KnownPoint]:
    ordered = sorted(known, key=lambda point: point.setting)
    if len({point.setting for point in ordered}) < len(ordered):
        raise InputRefused(
            "known", [p.setting for p in ordered], tr("two results stand at the same setting; give one for each")
        )
    return ordered


def angle_window(hand: float, others: float, length: float, angle_rad: float, within: float) -> AngleWindow:
    """The angles between which an adapter of ``length`` m may stand instead of at ``angle_rad`` before the torque at the
    fastener is otherwise by more than ``within``: (h + E)/(h + E₀) stays inside 1 ± ``within``. ``hand`` h and the
    ``others``' reach in m. From −x to x where it goes through in line; never beyond folded back. Raises InputRefused.
    Source: as ``adapters``.

    >>> window = angle_window(0.32, 0.0, 0.045, math.pi / 2, 0.01)
    >>> [round(math.degrees(a), 2) for a in (window.low_rad, window.high_rad)]
    [85.92, 94.08]
    >>> round(math.degrees(angle_window(0.32, 0.0, 0.045, 0.0, 0.01).high_rad), 1)
    23.2
    """
    positive("hand", hand)
    positive("length", length)
    positive("within", within)
    between("angle", math.degrees(angle_rad), -360, 360, "deg")
    arm = hand + others + length * math.cos(angle_rad)
    if arm <= 0:
        raise InputRefused("adapters", arm, tr("the adapters fold the fastener back to the hand or beyond it"))
    step = within * arm / length
    least, most = math.cos(angle_rad) - step, math.cos(angle_rad) + step
    high = math.acos(max(-1.0, min(1.0, least)))
    low = math.acos(min(1.0, max(-1.0, most)))
    return AngleWindow(-high if most >= 1 else low, high)


@dataclass(frozen=True)
class Scales:
    """How a setting reads: on the ``main`` scale and what the ``fine`` one adds, both in N·m."""

    main: float
    fine: float


def scales(setting: float, graduation: float) -> Scales:
    """A setting as it reads on a main scale with marks every ``graduation`` N·m and a fine one that counts on from them.
    Raises InputRefused. Source: reading a main and a fine scale.

    >>> scales(70.5, 10)
    Scales(main=70, fine=0.5)
    """
    positive("graduation", graduation)
    marks = math.floor(positive("setting", setting) / graduation + EXACT)
    return Scales(marks * graduation, max(0.0, setting - marks * graduation))


def force_at(wanted: float, length: float, angle_rad: float = math.pi / 2) -> float:
    """F = T/(L·sin α): the force in N that makes ``wanted`` N·m on a plain spanner of ``length`` m, pulled at an angle to
    it. Raises InputRefused. Source: statics.

    >>> round(force_at(80, 0.4), 3)
    200.0
    """
    positive("wanted", wanted)
    positive("length", length)
    square = math.sin(angle_rad)
    if square < 0.1:
        raise InputRefused(
            "angle", math.degrees(angle_rad), tr("the pull is nearly along the spanner; pull square to it")
        )
    return wanted / (length * square)


_TO = re.compile(r"\s*(?:\bto\b|\.\.\.?|…)\s*|(?<=[\d.,a-zA-Z·'\"])\s*[–—-]\s*(?=[\d.,])", re.IGNORECASE)
_OFF = re.compile(r"\s*(?:±|\+/-|\+-)\s*")


def read_band(text: str, default: Unit, field: str = "torque") -> tuple[Band, Unit]:
    """The band that ``text`` says, and its unit; a bare number is in ``default``. Raises InputRefused. Source: the habits
    of drawings and cards.

    >>> from reckoner.core.quantities.units import N_M
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
    """A band as a person types it. Refuses nothing.

    >>> from reckoner.core.quantities.units import N_M
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
