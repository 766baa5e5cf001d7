"""Walking the weight: a tool whose setting cannot be tried around (preset, or without a scale) keeps it, and the hook moves.

Further out it clicks, nearer the drive it is silent; the trip lies between two hooks ``STEP`` apart (``core.trips``, walk).
"""

from __future__ import annotations

from dataclasses import replace

from reckoner.shop.hanging import LEAST_ARM, HungAt, LeverFacts
from reckoner.shop.procedures.tries import Tries, Varied, hook_of
from reckoner.shop.runs.records import ObservationState, Pair, SeriesState
from reckoner.shop.toolfacts import ToolFacts

STEP = 0.002
"""How near two hooks are brought, in m: nearer, the rope is thicker than the step."""
HOOK = Varied(STEP, clicks_above=True)


def walks(tool: ToolFacts) -> bool:
    """Whether the hook moves instead of the setting."""
    return tool.kind.is_setting and (tool.kind.is_fixed or not tool.kind.resolution)


def walked(observations: tuple[ObservationState, ...]) -> tuple[tuple[Pair, ...], Tries]:
    """The pairs that the tries make, in the order they were taken, and where the walk after them stands."""
    pairs: list[Pair] = []
    now, torques = Tries(), dict[float, float]()
    for o in observations:
        hook = hook_of(o.detail)
        if hook is None or o.torque is None or o.tool_value is None:
            continue
        torques[hook] = o.torque
        now = now.after(o.kind, hook, HOOK)
        if (found := now.closed(HOOK)) is not None:
            pairs.append(Pair(o.tool_value, sum(torques[at] for at in found) / 2, o.id))
            now = Tries()
    return tuple(pairs), now


def next_hook(series: SeriesState, lever: LeverFacts, hung: HungAt) -> float | None:
    """Where to hang it next, in m: halfway, outwards where one side is missing; None beyond the grip mark, or too near."""
    pairs, now = walked(series.counted)
    if now.clicked is not None and now.silent is not None:
        return _mm((now.clicked + now.silent) / 2)
    if now.clicked is None and now.silent is None:
        last = next((h for o in reversed(series.counted) if (h := hook_of(o.detail)) is not None), None)
        return _mm(last - STEP) if pairs and last is not None else hung.hook
    out = STEP * 2 ** min(max(0, now.alone - (1 if pairs else -1)), 6)
    aim = _mm(now.clicked - out if now.clicked is not None else (now.silent or 0.0) + out)
    grip = lever.grip or aim
    nearest = max(LEAST_ARM * grip, lever.pivot + 0.02)
    held = min(grip, max(nearest, aim))
    return None if held in (now.clicked, now.silent) else held


def _mm(metres: float) -> float:
    return round(metres, 3)


def at_hook(hung: HungAt, hook: float) -> HungAt:
    """The same weights elsewhere."""
    return replace(hung, hook=hook)


def gap_torque(lever: LeverFacts, hung: HungAt) -> float:
    """What ``STEP`` of the hook makes, in N·m: the resolution that a walk leaves."""
    near, far = (lever.torque(at_hook(hung, hung.hook + d)) for d in (-STEP / 2, STEP / 2))
    return far - near
