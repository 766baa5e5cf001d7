"""Known weights on the tool's own lever: the torque is fixed, the tool's value varies.

A setting tool is found between a setting at which it clicks and one, a graduation higher, at which it is silent; one of both
alone says nothing (``core.trips``). An indicating tool is read while the weight hangs.
"""

from __future__ import annotations

import json
import math
from dataclasses import replace
from typing import TYPE_CHECKING

from reckoner.core.printing import quantity
from reckoner.core.reference import ReferenceAtPoint
from reckoner.core.trips import next_setting
from reckoner.shop.acts import ShopRefused
from reckoner.shop.facts import ReferenceFacts
from reckoner.shop.procedures.base import Caution, Seen
from reckoner.shop.procedures.tries import Asked, Tries, Varied, hook_of
from reckoner.shop.procedures.usual import UsualProcedure
from reckoner.shop.procedures.walking import at_hook, gap_torque, next_hook, walked, walks
from reckoner.shop.runs.records import NOTHING, ObservationState, Pair
from reckoner.shop.toolfacts import ToolFacts
from reckoner.store.terms import ObservationKind, ReferenceKind

if TYPE_CHECKING:
    from reckoner.shop.runs.records import SeriesState
    from reckoner.shop.runs.state import RunState

FAR = 0.5
"""A value further than this fraction from the torque that hangs is refused as a slip of the hand."""


def step_of_detail(detail: str) -> float:
    """The tool's graduation that set-up has kept, in N·m; 0 where it has none."""
    return float(json.loads(detail).get("step", 0.0))


class WeightsProcedure(UsualProcedure):
    """Against known weights."""

    kind: ReferenceKind = ReferenceKind.WEIGHTS
    cautions: tuple[Caution, ...] = (
        Caution.HANGING_WEIGHTS,
        Caution.CLAMP_THE_DRIVE,
        Caution.LOADED_LEVER,
        Caution.MAKER_RULES,
    )

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
        found, lever = super().at(reference, torque, detail), reference.hung
        hung = lever.at(torque) if lever is not None else None
        if lever is None or hung is None or not is_walk(detail):
            return found
        return replace(found, resolution=gap_torque(lever, hung))


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
    hook = hook_of(seen.detail)
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


def tries_of(run: RunState, series: SeriesState) -> Tries:
    """Where the bracket of a series stands."""
    if walks(run.tool):
        return walked(series.counted)[1]
    return bracketed(series.counted, step_of_detail(run.set_up.detail if run.set_up else NOTHING))[1]


def next_asked(run: RunState, series: SeriesState) -> Asked | None:
    """The try to ask for; None beyond the tool's scale or its lever. Raises ShopRefused where nothing hangs."""
    torque = hung_torque(run, series.target)
    lever = run.reference.hung if run.reference is not None else None
    hung = lever.at(series.target) if lever is not None else None
    if walks(run.tool) and lever is not None and hung is not None:
        hook = next_hook(series, lever, hung)
        return None if hook is None else Asked(series.target, lever.torque(at_hook(hung, hook)), hook)
    setting = next_try(series, run.tool, torque, run.set_up.detail if run.set_up else NOTHING)
    return None if setting is None else Asked(setting, torque)


def bracketed(observations: tuple[ObservationState, ...], step: float) -> tuple[tuple[Pair, ...], Tries]:
    """The pairs that ``observations`` make, in the order they were taken, and where the bracket after them stands.

    A value is a pair of its own. Answers close a bracket when the silent setting is one ``step`` above the clicked one.
    """
    pairs: list[Pair] = []
    now, varied = Tries(), Varied(step, clicks_above=False)
    for o in observations:
        if o.torque is None or o.tool_value is None:
            continue
        if o.kind is ObservationKind.VALUE:
            pairs.append(Pair(o.tool_value, o.torque, o.id))
            continue
        now = now.after(o.kind, o.tool_value, varied)
        if (found := now.closed(varied)) is not None:
            pairs.append(Pair(sum(found) / 2, o.torque, o.id))
            now = Tries()
    return tuple(pairs), now


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
    out = step * 2 ** min(max(0, now.alone - 1), 5)
    aim = now.clicked + out if now.clicked is not None else (now.silent or 0.0) - out
    there = tool.kind.nearest_setting(aim)
    if now.clicked is not None and there <= now.clicked * (1 + 1e-9):
        return None
    if now.silent is not None and there >= now.silent * (1 - 1e-9):
        return None
    return there


def _settable(tool: ToolFacts, value: float) -> bool:
    if tool.kind.is_fixed or not tool.kind.resolution:
        return True
    places = value / tool.kind.resolution
    return abs(places - round(places)) < 1e-6
