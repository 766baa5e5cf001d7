"""The weights stay and the setting moves: it clicks at one graduation and is silent at the next (``core.trips``, bracket)."""

from __future__ import annotations

import math

from reckoner.core.printing import quantity
from reckoner.core.translation import tr
from reckoner.core.trips import next_setting
from reckoner.shop.acts import ShopRefused
from reckoner.shop.hanging import HungAt, LeverFacts
from reckoner.shop.procedure import Seen
from reckoner.shop.procedures.tries import Tries, TripFinding, Try, Varied, of_detail, paired
from reckoner.shop.runs.records import ObservationState, Pair, SeriesState
from reckoner.shop.toolfacts import ToolFacts

FAR = 0.5
"""A value further than this fraction from the torque that hangs is refused as a slip of the hand."""


def step_of_detail(detail: str) -> float:
    """The tool's graduation that set-up has kept, in N·m; 0 where it has none."""
    found = of_detail(detail, "step")
    return float(found) if isinstance(found, int | float) else 0.0


class Bracketing:
    """For tools with a scale; an indicating tool's values go the same way."""

    finding: TripFinding = TripFinding.SETTING

    def kept(self, tool: ToolFacts) -> dict[str, object]:
        return {"step": tool.kind.resolution}

    def found(self, observations: tuple[ObservationState, ...], detail: str) -> tuple[tuple[Pair, ...], Tries]:
        return bracketed(observations, step_of_detail(detail))

    def ask(self, series: SeriesState, tool: ToolFacts, lever: LeverFacts, hung: HungAt, detail: str) -> Try | None:
        torque = lever.torque(hung)
        setting = next_try(series, tool, torque, detail)
        return None if setting is None else Try(setting, torque, hung)

    def admit(self, series: SeriesState, tool: ToolFacts, lever: LeverFacts, hung: HungAt, seen: Seen) -> Seen:
        unit, torque = tool.unit, lever.torque(hung)
        value = seen.tool_value if seen.tool_value is not None else math.nan
        if not math.isfinite(value) or not torque * (1 - FAR) < value < torque * (1 + FAR):
            raise ShopRefused(
                tr(
                    "{torque} hang there; {unit} cannot be what the tool is set to or shows. Check it and its unit.",
                    torque=quantity(torque, unit),
                    unit=quantity(value, unit) if math.isfinite(value) else tr("that"),
                )
            )
        if tool.kind.is_setting and not _settable(tool, value):
            near = quantity(tool.kind.nearest_setting(value), unit)
            raise ShopRefused(
                tr(
                    "It cannot be set to {unit}; the nearest graduation is {near}.",
                    unit=quantity(value, unit),
                    near=near,
                )
            )
        return Seen(seen.kind, torque, seen.source, None, None, value, seen.detail)

    def resolution(self, lever: LeverFacts, hung: HungAt) -> float:
        return 0.0


def bracketed(observations: tuple[ObservationState, ...], step: float) -> tuple[tuple[Pair, ...], Tries]:
    """The pairs of ``observations``; a bracket closes when the silent setting is one ``step`` above the clicked one."""
    return paired(observations, lambda o: o.tool_value, Varied(step, clicks_above=False))


def next_try(series: SeriesState, tool: ToolFacts, torque: float, detail: str) -> float | None:
    """The setting to try next, in N·m: halfway in an open bracket, outwards where one side is missing, and after a bracket
    has closed, just below where it was found; None beyond its scale, or too far from what hangs to be meant."""
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
    if not torque * (1 - FAR) < there < torque * (1 + FAR):
        return None
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
