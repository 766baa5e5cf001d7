"""Set for a wanted torque: what to set, what the joint then gets, and what the usual habits would have made of it. How it is
told is in ``shop.words.settings``.

``answer`` is a pure function of what was asked; it is called at each stroke of a key.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date
from enum import StrEnum

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.graduation import graduation_inside, nearest_graduation
from reckoner.core.quantities.ownunits import OwnUnits, UnitSystem
from reckoner.core.quantities.units import N_M, Unit
from reckoner.core.requirements.tooltypes import ToolKind
from reckoner.core.tightening.adapters import Adapter, AngleWindow, Lever, factor
from reckoner.core.tightening.setting import (
    EXACT,
    Band,
    BandAim,
    BandPlace,
    DeviationAtSetting,
    angle_window,
    at,
    setting_with,
)
from reckoner.core.translation import mark, tr
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.using.fitting import SQUARE, Fitted
from reckoner.shop.using.known import KnownErrors

WITHIN = 0.01
"""The error within which an adapter's angle may vary, where nobody says otherwise."""


@dataclass(frozen=True)
class SettingQuestion:
    """What is asked: what the joint gets, with which tool (None: none is chosen), by its results or plainly, through which
    adapters, where the ``hand`` pulls (m, None: at the grip mark). ``lever`` in m where the register does not know it.
    ``entered``: the tool has the adapter's length typed in, and corrects for it itself; ``head`` is the exchangeable head on
    it. ``within`` is the error that an adapter's angle may make.
    ``only_measured``: the tool is used with correction, and only inside the range that was measured."""

    band: Band
    aim: BandAim = BandAim.MIDDLE
    unit: Unit = N_M
    tool: ToolFacts | None = None
    known: KnownErrors | None = None
    as_tested: bool = True
    fitted: tuple[Fitted, ...] = ()
    hand: float | None = None
    lever: float | None = None
    entered: bool = False
    head: float | None = None
    within: float = WITHIN
    only_measured: bool = False

    @property
    def wanted(self) -> float:
        """The torque that is aimed at, N·m."""
        return self.band.aimed(self.aim)

    @property
    def length(self) -> float | None:
        """From the drive to the grip mark, in m."""
        return (self.tool.lever if self.tool is not None else None) or self.lever

    @property
    def own_units(self) -> OwnUnits:
        """What lengths and forces are told in."""
        return self.tool.own_units if self.tool is not None else OwnUnits(self.unit, UnitSystem.beside(self.unit))

    @property
    def corrects(self) -> bool:
        """Whether the tool takes the adapter into account itself."""
        return self.entered and self.tool is not None and self.tool.corrects_adapter


@dataclass(frozen=True)
class SettingUse:
    """A setting that the tool was used with: lent to whom, from when, until ``back`` (None: still), for which ``job`` and
    ``joint``. ``set`` in N·m (None: no setting was kept), the ``factor`` of its adapter, and the joint's band."""

    to: str
    on: date
    back: date | None
    job: str = ""
    joint: str = ""
    set: float | None = None
    factor: float = 1.0
    adapter: str = ""
    band: Band | None = None
    measured: bool = False


class HabitBasis(StrEnum):
    """What a way of setting goes by, as it is told."""

    AS_IT_READS = mark("as it reads")
    AS_LEFT = mark("as it was left")
    COMPUTED = mark("with the adapter")
    NO_SUM = mark("no sum")


@dataclass(frozen=True)
class Habit:
    """A way that people do it: what is ``set``, what the joint ``gets`` (N·m), where that ``falls``, and how much of the room
    to the band's end it takes (None: there is no band). Not ``measured``: that is as the tool reads, and nobody knows what it
    does there."""

    name: str
    basis: HabitBasis
    set: float
    gets: float
    off: float
    falls: BandPlace | None
    taken: float | None
    measured: bool


@dataclass(frozen=True)
class SettingAnswer:
    """What to set. ``exact`` before rounding, ``setting`` on the tool's graduation; what the joint ``gets`` with its
    relative W, both None where nothing was measured at that setting: nothing is promised then. ``out_of_range``: the tool
    cannot be set so; ``forbidden``: it may not, as it is used with correction and was not measured there. Torques in
    N·m."""

    ask: SettingQuestion
    factor: float
    exact: DeviationAtSetting
    setting: float
    gets: float | None
    uncertainty: float | None
    falls: BandPlace | None
    taken: float | None
    habits: tuple[Habit, ...]
    window: AngleWindow | None
    out_of_range: bool = False
    forbidden: bool = False

    @property
    def reads(self) -> float:
        """What the joint would get of a tool that reads true, N·m."""
        return self.setting * self.factor

    @property
    def off(self) -> float | None:
        """How far what it gets is from what is wanted, as a fraction; None where it is not known."""
        return None if self.gets is None else self.gets / self.ask.wanted - 1

    @property
    def measured(self) -> bool:
        """Whether it is known what the tool does at that setting."""
        return self.gets is not None

    @property
    def expected_error(self) -> float | None:
        """|ā| + W at the setting, as a fraction; None where nothing was measured there."""
        if self.exact.deviation is None:
            return None
        return abs(self.exact.deviation) + (self.exact.expanded_uncertainty or 0.0)

    @property
    def wants_test(self) -> bool:
        """Whether pulls at that setting would answer what nobody measured."""
        return self.ask.tool is not None and not self.measured and not self.out_of_range

    @property
    def promises(self) -> bool:
        """Whether a torque at the joint can be promised, on a card too."""
        return self.gets is not None and not self.out_of_range and not self.forbidden


def answer(ask: SettingQuestion) -> SettingAnswer:
    """What to set. Raises InputRefused, naming the field, for what cannot be."""
    f = _factor(ask, ask.fitted)
    exact = _exact(ask, f)
    setting = _settable(ask, exact.setting, f)
    there = found_at(ask, setting)
    gets = there.delivered(f)
    uncertainty = there.expanded_uncertainty
    known = gets is not None and not ask.band.is_one
    return SettingAnswer(
        ask=ask,
        factor=f,
        exact=exact,
        setting=setting,
        gets=gets,
        uncertainty=uncertainty,
        falls=ask.band.falls(gets, uncertainty or 0.0) if known and gets is not None else None,
        taken=ask.band.taken(gets, ask.wanted) if known and gets is not None else None,
        habits=_habits(ask, f),
        window=_window(ask),
        out_of_range=ask.tool is not None and out_of_range(ask.tool.kind, exact.setting),
        forbidden=ask.only_measured and not exact.measured,
    )


def _factor(ask: SettingQuestion, fitted: Sequence[Fitted]) -> float:
    """Torque at the fastener over torque set, with everything that is on the tool."""
    more = head_of(ask)
    if ask.corrects:
        fitted = ()
    if not fitted and more is None and ask.hand is None:
        return 1.0
    if ask.length is None:
        whose = ask.tool.number if ask.tool is not None else tr("the tool")
        raise InputRefused(
            "lever", "", tr("measure {whose} from the drive's centre to its grip mark; the sum needs it", whose=whose)
        )
    pivot = ask.tool.pivot if ask.tool is not None else 0.0
    lever = Lever(ask.length, pivot, ask.hand)
    if ask.hand is not None and ask.hand > ask.length * HANDLE_ENDS:
        raise InputRefused(
            "hand",
            ask.hand,
            tr(
                "the hand would be beyond the handle's end; the mark is at {length}",
                length=ask.own_units.length_words(ask.length),
            ),
        )
    for one in fitted:
        if one.length >= ask.length:
            raise InputRefused(
                "adapter",
                one.length,
                tr(
                    "{length} is as long as the wrench itself, {length_2}",
                    length=ask.own_units.length_words(one.length),
                    length_2=ask.own_units.length_words(ask.length),
                ),
            )
    chain = [one.adapter for one in fitted]
    return factor(lever, [*chain, more] if more is not None else chain)


HANDLE_ENDS = 1.15
"""Of the lever: no hand is further out."""


def head_of(ask: SettingQuestion) -> Adapter | None:
    """Another exchangeable head than the tool was made for counts by the difference of lengths."""
    if ask.head is None or ask.tool is None or ask.tool.made_for_head is None:
        return None
    more = ask.head - ask.tool.made_for_head
    return Adapter(abs(more), 0.0 if more >= 0 else math.pi) if more else None


def known_of(ask: SettingQuestion) -> KnownErrors | None:
    """What its results say, where they are to count."""
    return ask.known if ask.as_tested else None


def _exact(ask: SettingQuestion, f: float) -> DeviationAtSetting:
    known = known_of(ask)
    tool = ask.tool
    if tool is not None and tool.kind.is_fixed:
        return at(known.points, tool.kind.maximum) if known is not None else DeviationAtSetting(tool.kind.maximum)
    return setting_with(known.points if known is not None else (), ask.wanted, f, _step(tool))


def _step(tool: ToolFacts | None) -> float:
    return tool.kind.resolution if tool is not None else 0.0


def found_at(ask: SettingQuestion, setting: float) -> DeviationAtSetting:
    """What is known of a setting, as far as it is to count."""
    known = known_of(ask)
    return at(known.points, setting, _step(ask.tool)) if known is not None else DeviationAtSetting(setting)


def _settable(ask: SettingQuestion, exact: float, f: float) -> float:
    """On the tool's graduation, and not beyond the joint's band where a graduation inside it exists."""
    if ask.tool is None:
        return exact
    kind = ask.tool.kind
    if ask.band.is_one or kind.is_fixed or not kind.is_setting or not kind.resolution:
        return nearest(kind, exact)
    known = known_of(ask)
    points = known.points if known is not None else ()
    low, high = (setting_with(points, end, f, kind.resolution).setting for end in (ask.band.low, ask.band.high))
    return graduation_inside(exact, kind.resolution, low, high)


def nearest(kind: ToolKind, exact: float) -> float:
    """The nearest graduation, within its range or not; a tool that only shows is stopped at any value."""
    if kind.is_fixed:
        return kind.maximum
    return nearest_graduation(exact, kind.resolution) if kind.resolution and kind.is_setting else exact


def out_of_range(kind: ToolKind, exact: float) -> bool:
    """Whether a tool cannot be set so."""
    low = kind.minimum or 0.0
    return not kind.is_fixed and not low * (1 - EXACT) <= exact <= kind.maximum * (1 + EXACT)


def _habits(ask: SettingQuestion, f: float) -> tuple[Habit, ...]:
    """The ways side by side; without an adapter, by its results and as it reads."""
    if not ask.fitted or ask.corrects:
        plain = replace(ask, as_tested=False)
        as_it_reads = _judged(
            ask, tr("Set what is wanted"), HabitBasis.AS_IT_READS, _settable(plain, ask.wanted / f, f), f
        )
        if known_of(ask) is None or not _exact(ask, f).measured:
            return (as_it_reads,)
        return (_habit(ask, tr("Set by its results"), HabitBasis.AS_LEFT, f, f), as_it_reads)
    square = tuple(Fitted(one.length, SQUARE, one.of) for one in ask.fitted)
    f_square = _factor(ask, square)
    return (
        _habit(ask, tr("Compute it"), HabitBasis.COMPUTED, f, f),
        _habit(ask, tr("Turn it square"), HabitBasis.NO_SUM, f_square, f_square),
        _habit(ask, tr("Ignore it"), HabitBasis.NO_SUM, _factor(ask, ()), f),
    )


def _habit(ask: SettingQuestion, name: str, basis: HabitBasis, reckoned: float, really: float) -> Habit:
    """Set for the factor that is ``reckoned`` with, while another ``really`` holds."""
    return _judged(ask, name, basis, _settable(ask, _exact(ask, reckoned).setting, reckoned), really)


def _judged(ask: SettingQuestion, name: str, basis: HabitBasis, setting: float, really: float) -> Habit:
    there = found_at(ask, setting)
    gets = there.as_read(really)
    one = ask.band.is_one
    return Habit(
        name,
        basis,
        setting,
        gets,
        gets / ask.wanted - 1,
        None if one or not there.measured else ask.band.falls(gets, there.expanded_uncertainty or 0.0),
        None if one else ask.band.taken(gets, ask.wanted),
        there.measured,
    )


def _window(ask: SettingQuestion) -> AngleWindow | None:
    """Between which angles the first adapter may stand."""
    if not ask.fitted or ask.length is None or ask.corrects:
        return None
    first, hand = ask.fitted[0], ask.hand or ask.length
    others = math.fsum(one.adapter.reach for one in ask.fitted[1:])
    try:
        return angle_window(hand, others, first.length, abs(first.angle_rad), ask.within)
    except InputRefused:
        return None


def curve(ask: SettingQuestion, steps: int) -> tuple[float, ...]:
    """Torque at the fastener over torque set, with the first adapter from in line to folded back in so many steps; 0 where
    that would bring the fastener back to the hand. Raises InputRefused as ``answer`` does."""
    first, *rest = ask.fitted
    made = []
    for i in range(steps + 1):
        try:
            made.append(_factor(ask, (Fitted(first.length, math.pi * i / steps, first.of), *rest)))
        except InputRefused as refusal:
            if refusal.field != "adapters":
                raise
            made.append(0.0)
    return tuple(made)
