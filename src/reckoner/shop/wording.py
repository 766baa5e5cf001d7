"""Results as sentences: plain words first, the standard's sign beside them."""

from __future__ import annotations

import math
from datetime import date

from reckoner.core.comparison import Change, Comparison
from reckoner.core.deviation import shown_error
from reckoner.core.kinds import ToolKind
from reckoner.core.printing import number, percent
from reckoner.core.rules import Rule
from reckoner.core.states import State
from reckoner.core.units import Unit
from reckoner.core.verdict import PointResult, Verdict
from reckoner.shop.facts import ToolFacts


def plain_error(tool: ToolFacts, target: float, reading: float) -> str:
    """Such as "Clicks 1.1 % below its setting" or "Delivers 0.4 % less than it shows"."""
    error = shown_error(target, reading)
    amount = percent(abs(error), 1)
    if tool.kind.is_setting:
        verb = tool.implies.signal
        if round(abs(error), 3) == 0:
            return f"{verb} at its setting"
        return f"{verb} {amount} {'above' if error > 0 else 'below'} its setting"
    if round(abs(error), 3) == 0:
        return "Delivers what it shows"
    return f"Delivers {amount} {'more' if error > 0 else 'less'} than it shows"


def at_target(target: float, unit: Unit) -> str:
    return f"{number(unit.from_si(target))}\u202f{unit.symbol}"


def margin(magnitude: float, limit: float) -> str:
    """Such as "1.9 % to spare" or "0.4 % too much"; both fractions. Never rounds a miss to nothing."""
    spare = limit - magnitude
    decimals = 1
    while round(abs(spare) * 100, decimals) == 0 and decimals < 4 and spare != 0:
        decimals += 1
    return f"{percent(abs(spare), decimals)} {'to spare' if spare >= 0 else 'too much'}"


def point_sentence(tool: ToolFacts, point: PointResult, limit: float) -> str:
    """One point in plain words: "Clicks 2.1 % below its setting at 60 N·m; inside, 1.9 % to spare"."""
    target, reading = _speaking_pair(point)
    words = plain_error(tool, target, reading)
    state = point.decision.state
    tail = "not decided" if state is State.UNDECIDED else f"{state.words}, {margin(point.decision.looked_at, limit)}"
    return f"{words} at {at_target(point.target, tool.unit)}; {tail}"


def _speaking_pair(point: PointResult) -> tuple[float, float]:
    """Target and reading that the sentence is about: the worst reading, or the mean under the other rules."""
    if point.decision.rule is Rule.EVERY_READING:
        deviation = max(point.budget.deviations, key=abs)
    else:
        deviation = point.budget.deviation
    return point.target, point.target / (1 + deviation)


def run_sentence(tool: ToolFacts, verdict: Verdict) -> str:
    """The whole run in a sentence: that of its worst point."""
    return point_sentence(tool, verdict.worst, verdict.limit)


FORMAL = {
    True: "Conforms to the permissible deviation of {limit} ({rules})",
    False: "Does not conform to the permissible deviation of {limit} ({rules})",
    None: "No decision on the permissible deviation of {limit} ({rules})",
}


def formal(verdict: Verdict, title: str) -> str:
    """The wording for a record, beside the plain sentence."""
    return FORMAL[verdict.accepted].format(limit=f"±{percent(verdict.limit, 1)}", rules=title)


def rule_words(rule: Rule) -> str:
    return {
        Rule.EVERY_READING: "every reading inside",
        Rule.MEAN: "mean inside",
        Rule.GUARDED: "mean inside, guarded by its uncertainty",
        Rule.PROBABILITY: "probability of conformity",
    }[rule]


def settable(kind: ToolKind, target: float, unit: Unit) -> str:
    """A target as it is read on the tool, with as many decimals as its graduation."""
    from reckoner.core.printing import decimals_for, fixed

    step = unit.from_si(kind.resolution) if kind.resolution else 0.0
    value = unit.from_si(target)
    if not step or math.isclose(value, round(value), rel_tol=1e-9):
        return f"{number(value)}\u202f{unit.symbol}"
    return f"{fixed(value, decimals_for(step))}\u202f{unit.symbol}"


DIRECTIONS = {"cw": "clockwise", "ccw": "counter-clockwise"}


def comparison_sentence(found: Comparison, since: date, where: str = "") -> str:
    """Such as "Reads 2.3 % higher than on 9 Mar 2026 (1.9 % to 2.7 %): changed"; ``where`` leads."""
    amount = percent(abs(found.difference), 1)
    low, high = sorted((abs(found.low_95), abs(found.high_95)))
    if found.low_95 < 0 < found.high_95:
        interval = f"{percent(found.low_95, 1, sign=True)} to {percent(found.high_95, 1, sign=True)}"
    else:
        interval = f"{percent(low, 1)} to {percent(high, 1)}"
    way = f"{amount} {'higher than' if found.difference > 0 else 'lower than'}"
    if round(abs(found.difference), 3) == 0:
        way = "the same as"
    tail = {
        Change.UNCHANGED: "no change that matters",
        Change.CHANGED: "changed",
        Change.CANNOT_TELL: f"cannot tell; {found.readings_needed} readings on each side would",
    }[found.change]
    lead = f"{where}: reads" if where else "Reads"
    return f"{lead} {way} on {since:%-d %b %Y} ({interval}): {tail}"
