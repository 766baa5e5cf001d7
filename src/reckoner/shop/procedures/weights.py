"""Known weights on the tool's own lever: the torque is fixed, the tool's value varies.

A setting tool is found between a setting at which it clicks and one, a graduation higher, at which it is silent; one of both
alone says nothing (``core.trips``). An indicating tool is read while the weight hangs.
"""

from __future__ import annotations

import json
import math
from dataclasses import dataclass, replace
from datetime import date
from typing import TYPE_CHECKING

from reckoner.core.printing import quantity
from reckoner.core.reference import ReferenceAtPoint
from reckoner.core.rules import RuleSet
from reckoner.core.trips import next_setting
from reckoner.shop.acts import ShopRefused
from reckoner.shop.facts import ReferenceFacts
from reckoner.shop.procedures.base import Candidate, Caution, Distrust, Seen
from reckoner.shop.procedures.walking import at_hook, gap_torque, walked, walks
from reckoner.shop.runs.needs import Need, Want
from reckoner.shop.runs.records import ObservationState, Pair
from reckoner.shop.toolfacts import ToolFacts
from reckoner.store.terms import ObservationKind, ReferenceKind

if TYPE_CHECKING:
    from reckoner.shop.runs.records import SeriesState
    from reckoner.shop.runs.state import RunState

FAR = 0.5
"""A value further than this fraction from the torque that hangs is refused as a slip of the hand."""


@dataclass(frozen=True)
class Tries:
    """Where the bracket of a series stands: the highest setting that clicked and the lowest that was silent since the last
    one closed, in N·m; ``contradicted``: the last answers contradicted each other, and count for nothing."""

    clicked: float | None = None
    silent: float | None = None
    contradicted: bool = False


def step_of_detail(detail: str) -> float:
    """The tool's graduation that set-up has kept, in N·m; 0 where it has none."""
    return float(json.loads(detail).get("step", 0.0))


class WeightsProcedure:
    """Against known weights."""

    kind: ReferenceKind = ReferenceKind.WEIGHTS
    cautions: tuple[Caution, ...] = (
        Caution.HANGING_WEIGHTS,
        Caution.CLAMP_THE_DRIVE,
        Caution.LOADED_LEVER,
        Caution.MAKER_RULES,
    )

    def set_up_wants(self, run: RunState) -> tuple[Want, ...]:
        from reckoner.shop.runs.steps import needs_pointer

        there = {
            Need.REFERENCE: run.reference is not None,
            Need.ROOM: run.room is not None,
            Need.POINTER: not needs_pointer(run) or run.zeros.pointer_before is not None,
        }
        return tuple(Want(need) for need, met in there.items() if not met)

    def closing_wants(self, run: RunState) -> tuple[Want, ...]:
        from reckoner.shop.runs.steps import needs_pointer

        if needs_pointer(run) and run.zeros.pointer_after is None:
            return (Want(Need.POINTER_AFTER),)
        return ()

    def admit(self, run: RunState, series: SeriesState, seen: Seen) -> Seen:
        if walks(run.tool):
            return _walked(run, series, seen)
        unit, torque = run.tool.unit, hung_torque(run, series.target)
        value = seen.tool_value if seen.tool_value is not None else math.nan
        if not math.isfinite(value) or not torque * (1 - FAR) < value < torque * (1 + FAR):
            raise ShopRefused(
                f"{quantity(torque, unit)} hang there; {quantity(value, unit) if math.isfinite(value) else 'that'} cannot be "
                "what the tool is set to or shows. Check it and its unit."
            )
        answers = (ObservationKind.CLICKED, ObservationKind.SILENT)
        if (seen.kind in answers) is not run.tool.kind.is_setting:
            raise ShopRefused("Answer whether it clicked." if run.tool.kind.is_setting else "Type what the tool shows.")
        if seen.kind in answers and not _settable(run.tool, value):
            near = quantity(run.tool.kind.nearest_setting(value), unit)
            raise ShopRefused(f"It cannot be set to {quantity(value, unit)}; the nearest graduation is {near}.")
        return Seen(seen.kind, torque, seen.source, None, None, value, seen.detail)

    def pairs(
        self, target: float, observations: tuple[ObservationState, ...], detail: str, correction: float
    ) -> tuple[Pair, ...]:
        if is_walk(detail):
            return walked(observations)[0]
        return bracketed(observations, step_of_detail(detail))[0]

    def at(self, reference: ReferenceFacts, torque: float, detail: str) -> ReferenceAtPoint:
        found, lever = reference.at(torque), reference.hung
        hung = lever.at(torque) if lever is not None else None
        if lever is None or hung is None or not is_walk(detail):
            return found
        return replace(found, resolution=gap_torque(lever, hung))

    def distrust(self, run: RunState, day: date) -> Distrust | None:
        if run.reference is None:
            return Distrust.NOT_CHOSEN
        return None if run.reference.proven else Distrust.UNPROVEN

    def weigh(
        self,
        reference: ReferenceFacts,
        tool: ToolFacts,
        rules: RuleSet,
        day: date,
        points: tuple[float, ...] | None = None,
    ) -> Candidate:
        """Raises InputRefused when neither ``points`` nor the rule set names any."""
        worst = max(reference.at(point).expanded_uncertainty for point in points or rules.points(tool.kind))
        return Candidate(reference, (), worst)


def is_walk(detail: str) -> bool:
    """Whether set-up has found that the hook moves, not the setting."""
    return bool(json.loads(detail).get("walk", False))


def detail_of(tool: ToolFacts) -> str:
    """What set-up keeps of how the trip is found."""
    return json.dumps({"walk": True} if walks(tool) else {"step": tool.kind.resolution})


def _walked(run: RunState, series: SeriesState, seen: Seen) -> Seen:
    """A try of a walk: the torque follows from where it hung."""
    lever = run.reference.hung if run.reference is not None else None
    hung = lever.at(series.target) if lever is not None else None
    hook = json.loads(seen.detail).get("hook")
    if lever is None or hung is None or hook is None:
        raise ShopRefused("Say where the weight hung.")
    if seen.kind not in (ObservationKind.CLICKED, ObservationKind.SILENT):
        raise ShopRefused("Answer whether it clicked.")
    if not lever.pivot < hook <= (lever.grip or hook) * (1 + 1e-9):
        raise ShopRefused("The hook hangs between the pin and the grip mark.")
    torque = lever.torque(at_hook(hung, hook))
    return Seen(seen.kind, torque, seen.source, None, None, series.target, seen.detail)


def hung_torque(run: RunState, target: float) -> float:
    """The torque in N·m that hangs for a target. Raises ShopRefused where nothing does."""
    hung = run.reference.hung if run.reference is not None else None
    at = hung.at(target) if hung is not None else None
    if hung is None or at is None:
        raise ShopRefused("Nothing hangs for this point. Set the weights up first.")
    return hung.torque(at)


def bracketed(observations: tuple[ObservationState, ...], step: float) -> tuple[tuple[Pair, ...], Tries]:
    """The pairs that ``observations`` make, in the order they were taken, and where the bracket after them stands.

    A value is a pair of its own. Answers close a bracket when the silent setting is one ``step`` above the clicked one;
    answers that contradict each other are dropped from there on, never averaged.
    """
    pairs: list[Pair] = []
    now = Tries()
    for o in observations:
        if o.torque is None or o.tool_value is None:
            continue
        if o.kind is ObservationKind.VALUE:
            pairs.append(Pair(o.tool_value, o.torque, o.id))
            continue
        now = _after(now, o.kind, o.tool_value)
        if now.clicked is not None and now.silent is not None and now.silent - now.clicked <= step * (1 + 1e-6):
            pairs.append(Pair((now.clicked + now.silent) / 2, o.torque, o.id))
            now = Tries()
    return tuple(pairs), now


def _after(now: Tries, kind: ObservationKind, setting: float) -> Tries:
    if kind is ObservationKind.CLICKED:
        if now.silent is not None and setting >= now.silent * (1 - 1e-9):
            return Tries(clicked=setting, contradicted=True)
        return Tries(max(setting, now.clicked or 0.0), now.silent)
    if now.clicked is not None and setting <= now.clicked * (1 + 1e-9):
        return Tries(silent=setting, contradicted=True)
    return Tries(now.clicked, min(setting, now.silent or math.inf))


def next_try(series: SeriesState, tool: ToolFacts, torque: float, detail: str) -> float | None:
    """The setting to try next, in N·m: halfway in an open bracket, outwards where one side is missing, and after a bracket
    has closed, just below where it was found."""
    step = step_of_detail(detail) or tool.kind.resolution
    pairs, now = bracketed(series.counted, step)
    if now.clicked is not None and now.silent is not None:
        halfway = next_setting(now.clicked, now.silent, step)
        return halfway if halfway is not None else now.silent
    if now.clicked is None and now.silent is None:
        start = pairs[-1].tool - step / 2 if pairs else torque
        return tool.kind.nearest_setting(start)
    alone = _alone(series, step)
    out = step * 2 ** min(max(0, alone - 1), 5)
    aim = now.clicked + out if now.clicked is not None else (now.silent or 0.0) - out
    there = tool.kind.nearest_setting(aim)
    if now.clicked is not None and there <= now.clicked * (1 + 1e-9):
        return None
    if now.silent is not None and there >= now.silent * (1 - 1e-9):
        return None
    return there


def _alone(series: SeriesState, step: float) -> int:
    """How many answers of one kind stand at the end without one of the other."""
    count = 0
    for i in range(len(series.counted), 0, -1):
        _, tries = bracketed(series.counted[:i], step)
        if (tries.clicked is None) is (tries.silent is None):
            break
        count += 1
    return count


def _settable(tool: ToolFacts, value: float) -> bool:
    if tool.kind.is_fixed or not tool.kind.resolution:
        return True
    places = value / tool.kind.resolution
    return abs(places - round(places)) < 1e-6
