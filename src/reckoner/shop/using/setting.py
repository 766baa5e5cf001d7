"""Set for a wanted torque: what to set, what the joint then gets, and what the usual habits would have made of it. How it is
told is in ``settingwords``.

``answer`` is a pure function of what was asked; it is called at each stroke of a key.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from reckoner.core.errors import InputRefused
from reckoner.core.kinds import ToolKind
from reckoner.core.lever import Adapter, Lever, Window, factor
from reckoner.core.printing import quantity
from reckoner.core.setting import EXACT, Aim, At, Band, Falls, angle_window, at, setting_with
from reckoner.core.units import N_M, Unit
from reckoner.shop.toolfacts import ToolFacts
from reckoner.shop.using.fitting import MM, SQUARE, Fitted
from reckoner.shop.using.known import Known

WITHIN = 0.01
"""The error within which an adapter's angle may vary, where nobody says otherwise."""


@dataclass(frozen=True)
class Ask:
    """What is asked: what the joint gets, with which tool (None: none is chosen), by its results or plainly, through which
    adapters, where the ``hand`` pulls (m, None: at the grip mark). ``lever`` in m where the register does not know it.
    ``entered``: the tool has the adapter's length typed in, and corrects for it itself; ``head`` is the exchangeable head on
    it. ``within`` is the error that an adapter's angle may make.
    ``only_measured``: the tool is used with correction, and only inside the range that was measured."""

    band: Band
    aim: Aim = Aim.MIDDLE
    unit: Unit = N_M
    tool: ToolFacts | None = None
    known: Known | None = None
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
    def corrects(self) -> bool:
        """Whether the tool takes the adapter into account itself."""
        return self.entered and self.tool is not None and self.tool.corrects_adapter


@dataclass(frozen=True)
class Habit:
    """A way that people do it: what is ``set``, what the joint ``gets`` (N·m), where that ``falls``, and how much of the room
    to the band's end it takes (None: there is no band)."""

    name: str
    told: str
    set: float
    gets: float
    off: float
    falls: Falls | None
    taken: float | None


@dataclass(frozen=True)
class Answer:
    """What to set. ``exact`` before rounding, ``setting`` on the tool's graduation; what the joint ``gets`` with its relative
    W (None: not known); ``out_of_range``: the tool cannot be set so;
    ``unmeasured``: it may not, as it is used with correction and was not measured there. Torques in N·m."""

    ask: Ask
    factor: float
    exact: At
    setting: float
    gets: float
    uncertainty: float | None
    falls: Falls | None
    taken: float | None
    habits: tuple[Habit, ...]
    window: Window | None
    out_of_range: bool = False
    unmeasured: bool = False

    @property
    def off(self) -> float:
        """How far what it gets is from what is wanted, as a fraction."""
        return self.gets / self.ask.wanted - 1


def quantity_mm(metres: float) -> str:
    """A length in mm."""
    return quantity(metres, MM)


def answer(ask: Ask) -> Answer:
    """What to set. Raises InputRefused, naming the field, for what cannot be."""
    f = _factor(ask, ask.fitted)
    exact = _exact(ask, f)
    setting = _settable(ask.tool, exact.setting)
    there = found_at(ask, setting)
    gets = there.delivered(f)
    uncertainty = there.expanded_uncertainty
    falls = None if ask.band.is_one else ask.band.falls(gets, uncertainty or 0.0)
    return Answer(
        ask=ask,
        factor=f,
        exact=exact,
        setting=setting,
        gets=gets,
        uncertainty=uncertainty,
        falls=falls,
        taken=None if ask.band.is_one else ask.band.taken(gets, ask.wanted),
        habits=_habits(ask, f),
        window=_window(ask),
        out_of_range=ask.tool is not None and out_of_range(ask.tool.kind, exact.setting),
        unmeasured=ask.only_measured and exact.deviation is None,
    )


def _factor(ask: Ask, fitted: Sequence[Fitted]) -> float:
    """Torque at the fastener over torque set, with everything that is on the tool."""
    more = head_of(ask)
    if ask.corrects:
        fitted = ()
    if not fitted and more is None and ask.hand is None:
        return 1.0
    if ask.length is None:
        whose = ask.tool.number if ask.tool is not None else "the tool"
        raise InputRefused("lever", "", f"measure {whose} from the drive's centre to its grip mark; the sum needs it")
    pivot = ask.tool.pivot if ask.tool is not None else 0.0
    lever = Lever(ask.length, pivot, ask.hand)
    if ask.hand is not None and ask.hand > ask.length * HANDLE_ENDS:
        raise InputRefused(
            "hand", ask.hand, f"the hand would be beyond the handle's end; the mark is at {quantity_mm(ask.length)}"
        )
    for one in fitted:
        if one.length >= ask.length:
            raise InputRefused(
                "adapter",
                one.length,
                f"{quantity_mm(one.length)} is as long as the wrench itself, {quantity_mm(ask.length)}",
            )
    chain = [one.adapter for one in fitted]
    return factor(lever, [*chain, more] if more is not None else chain)


HANDLE_ENDS = 1.15
"""Of the lever: no hand is further out."""


def head_of(ask: Ask) -> Adapter | None:
    """Another exchangeable head than the tool was made for counts by the difference of lengths."""
    if ask.head is None or ask.tool is None or ask.tool.made_for_head is None:
        return None
    more = ask.head - ask.tool.made_for_head
    return Adapter(abs(more), 0.0 if more >= 0 else math.pi) if more else None


def known_of(ask: Ask) -> Known | None:
    """What its results say, where they are to count."""
    return ask.known if ask.as_tested else None


def _exact(ask: Ask, f: float) -> At:
    known = known_of(ask)
    tool = ask.tool
    if tool is not None and tool.kind.is_fixed:
        return at(known.points, tool.kind.maximum) if known is not None else At(tool.kind.maximum)
    return setting_with(known.points if known is not None else (), ask.wanted, f)


def found_at(ask: Ask, setting: float) -> At:
    """What is known of a setting, as far as it is to count."""
    known = known_of(ask)
    return at(known.points, setting) if known is not None else At(setting)


def _settable(tool: ToolFacts | None, exact: float) -> float:
    return exact if tool is None else nearest(tool.kind, exact)


def nearest(kind: ToolKind, exact: float) -> float:
    """The nearest graduation, within its range or not; a tool that only shows is stopped at any value."""
    if kind.is_fixed:
        return kind.maximum
    step = kind.resolution
    return round(exact / step) * step if step and kind.is_setting else exact


def out_of_range(kind: ToolKind, exact: float) -> bool:
    """Whether a tool cannot be set so."""
    low = kind.minimum or 0.0
    return not kind.is_fixed and not low * (1 - EXACT) <= exact <= kind.maximum * (1 + EXACT)


def _habits(ask: Ask, f: float) -> tuple[Habit, ...]:
    """The ways side by side; without an adapter, by its results and as it reads."""
    if not ask.fitted or ask.corrects:
        as_it_reads = _judged(ask, "Set what is wanted", "as it reads", _settable(ask.tool, ask.wanted / f), f)
        if known_of(ask) is None or _exact(ask, f).deviation is None:
            return (as_it_reads,)
        return (_habit(ask, "Set by its results", "as it was left", f, f), as_it_reads)
    square = tuple(Fitted(one.length, SQUARE, one.of) for one in ask.fitted)
    f_square = _factor(ask, square)
    return (
        _habit(ask, "Compute it", "with the adapter", f, f),
        _habit(ask, "Turn it square", "no sum", f_square, f_square),
        _habit(ask, "Ignore it", "no sum", _factor(ask, ()), f),
    )


def _habit(ask: Ask, name: str, told: str, reckoned: float, really: float) -> Habit:
    """Set for the factor that is ``reckoned`` with, while another ``really`` holds."""
    return _judged(ask, name, told, _settable(ask.tool, _exact(ask, reckoned).setting), really)


def _judged(ask: Ask, name: str, told: str, setting: float, really: float) -> Habit:
    there = found_at(ask, setting)
    gets = there.delivered(really)
    one = ask.band.is_one
    return Habit(
        name,
        told,
        setting,
        gets,
        gets / ask.wanted - 1,
        None if one else ask.band.falls(gets, there.expanded_uncertainty or 0.0),
        None if one else ask.band.taken(gets, ask.wanted),
    )


def _window(ask: Ask) -> Window | None:
    """Between which angles the first adapter may stand."""
    if not ask.fitted or ask.length is None or ask.corrects:
        return None
    first, hand = ask.fitted[0], ask.hand or ask.length
    others = math.fsum(one.adapter.reach for one in ask.fitted[1:])
    try:
        return angle_window(hand, others, first.length, abs(first.angle_rad), ask.within)
    except InputRefused:
        return None


def curve(ask: Ask, steps: int) -> tuple[float, ...]:
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
