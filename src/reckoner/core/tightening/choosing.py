"""Which tool for a job: those that may be used, best first, and why each other one was passed over."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from reckoner.core.quantities.checks import positive
from reckoner.core.translation import mark

BEST = (0.4, 0.8)
"""The part of full scale where a setting does best."""

ALLOWED = (0.2, 1.0)
"""The part of full scale outside which a tool is never used."""


class PassedOver(StrEnum):
    """Why a tool was passed over, in words that complete "passed over: …"."""

    HELD = mark("it is held")
    OVERDUE = mark("it is overdue")
    OUT_OF_RANGE = mark("the setting lies outside its range")
    TOO_LOW = mark("the setting lies below 20 % of its full scale")
    UNTESTED = mark("nothing is known about it at that setting")
    TOO_COARSE = mark("its error and its W take more than a quarter of the joint's band")
    RESTRICTED = mark("the setting lies outside the part that it is restricted to")
    AWAY = mark("it is away, lent or at a laboratory")


@dataclass(frozen=True)
class ToolCandidate:
    """A tool that could do a job: range in N·m; ``expected_error`` is |ā| + W at the setting as a fraction, None where the
    last results do not cover it; ``factor`` that of its adapter; ``away``: somebody else has it; ``slips``: it cannot be
    over-pulled; ``part`` is what a restriction leaves of its range, N·m."""

    id: str
    minimum: float
    maximum: float
    in_date: bool
    held: bool
    expected_error: float | None
    factor: float = 1.0
    away: bool = False
    slips: bool = False
    part: tuple[float, float] | None = None


QUARTER = 0.25
"""Of a narrow band: what a tool's error and W may take."""


@dataclass(frozen=True)
class Demand:
    """What a joint is critical in: its band ``wide`` in N·m where that is narrow (None: it is not), and whether a tool that
    slips, and so cannot be over-pulled, comes first: over-torque is the danger, or many hands share the tool."""

    wide: float | None = None
    slip_first: bool = False


@dataclass(frozen=True)
class Ranked:
    """A candidate judged: its setting in N·m, where that lies on its scale (fraction), and ``passed`` when not to be used.

    ``remark`` is True for a setting outside the best part of the scale.
    """

    id: str
    setting: float
    of_full_scale: float
    passed: PassedOver | None
    remark: bool
    expected_error: float | None
    slips: bool = False


def rank(candidates: Sequence[ToolCandidate], torque: float, demand: Demand = Demand()) -> tuple[Ranked, ...]:
    """The candidates for ``torque`` in N·m at the fastener: usable ones first, a best setting before one with a remark, then
    the smaller expected error; those passed over last, in the order given. A ``demand`` puts slipping tools first, and passes
    over those whose |ā| + W takes more than a quarter of a narrow band. Raises InputRefused.

    Source: shop practice; 20 % of full scale is the lowest point of ISO 6789-1:2017, 6.2.4.

    >>> tools = [ToolCandidate("A", 20, 100, True, False, 0.02), ToolCandidate("B", 60, 340, True, False, 0.01)]
    >>> [(r.id, r.passed) for r in rank(tools, 62)]
    [('A', None), ('B', <PassedOver.TOO_LOW: 'the setting lies below 20 % of its full scale'>)]
    """
    judged = [_judge(c, positive("torque", torque), demand) for c in candidates]
    usable = [r for r in judged if r.passed is None]
    usable.sort(key=lambda r: (demand.slip_first and not r.slips, r.remark, r.expected_error))
    return (*usable, *(r for r in judged if r.passed is not None))


def _judge(tool: ToolCandidate, torque: float, demand: Demand) -> Ranked:
    setting = torque / positive("factor", tool.factor)
    share = setting / positive("maximum", tool.maximum)
    passed: PassedOver | None = None
    if tool.held:
        passed = PassedOver.HELD
    elif tool.away:
        passed = PassedOver.AWAY
    elif not tool.in_date:
        passed = PassedOver.OVERDUE
    elif not tool.minimum <= setting <= tool.maximum:
        passed = PassedOver.OUT_OF_RANGE
    elif tool.part is not None and not tool.part[0] <= setting <= tool.part[1]:
        passed = PassedOver.RESTRICTED
    elif share < ALLOWED[0]:
        passed = PassedOver.TOO_LOW
    elif tool.expected_error is None:
        passed = PassedOver.UNTESTED
    elif demand.wide is not None and tool.expected_error * torque > QUARTER * demand.wide:
        passed = PassedOver.TOO_COARSE
    in_the_best = BEST[0] <= share <= BEST[1]
    return Ranked(tool.id, setting, share, passed, not in_the_best, tool.expected_error, tool.slips)
