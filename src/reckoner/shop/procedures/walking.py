"""Walking the weight: a tool whose setting cannot be tried around (preset, or without a scale) keeps it, and the hook moves.

Further out it clicks, nearer the drive it is silent; the trip lies between two hooks ``STEP`` apart (``core.trips``, walk).
"""

from __future__ import annotations

import json
from dataclasses import dataclass, replace

from reckoner.shop.hanging import LEAST_ARM, HungAt, LeverFacts
from reckoner.shop.runs.records import ObservationState, Pair, SeriesState
from reckoner.shop.toolfacts import ToolFacts
from reckoner.store.terms import ObservationKind

STEP = 0.002
"""How near two hooks are brought, in m: nearer, the rope is thicker than the step."""


def walks(tool: ToolFacts) -> bool:
    """Whether the hook moves instead of the setting."""
    return tool.kind.is_setting and (tool.kind.is_fixed or not tool.kind.resolution)


@dataclass(frozen=True)
class Walked:
    """Where a walk stands: the nearest hook that clicked and the furthest that was silent since the last one closed, in m."""

    clicked: float | None = None
    silent: float | None = None
    contradicted: bool = False


def hook_detail(hook: float) -> str:
    """What is kept of a try beside its answer."""
    return json.dumps({"hook": hook})


def hook_of(observation: ObservationState) -> float | None:
    """Where the weight hung at a try."""
    found = json.loads(observation.detail).get("hook")
    return float(found) if found is not None else None


def walked(observations: tuple[ObservationState, ...]) -> tuple[tuple[Pair, ...], Walked]:
    """The pairs that the tries make, in the order they were taken, and where the walk after them stands; answers that
    contradict each other are dropped from there on."""
    pairs: list[Pair] = []
    now, torques = Walked(), dict[float, float]()
    for o in observations:
        hook = hook_of(o)
        if hook is None or o.torque is None or o.tool_value is None:
            continue
        torques[hook] = o.torque
        now = _after(now, o.kind, hook)
        if now.clicked is not None and now.silent is not None and now.clicked - now.silent <= STEP * (1 + 1e-6):
            pairs.append(Pair(o.tool_value, (torques[now.clicked] + torques[now.silent]) / 2, o.id))
            now = Walked()
    return tuple(pairs), now


def _after(now: Walked, kind: ObservationKind, hook: float) -> Walked:
    if kind is ObservationKind.CLICKED:
        if now.silent is not None and hook <= now.silent * (1 + 1e-9):
            return Walked(clicked=hook, contradicted=True)
        return Walked(hook if now.clicked is None else min(hook, now.clicked), now.silent)
    if now.clicked is not None and hook >= now.clicked * (1 - 1e-9):
        return Walked(silent=hook, contradicted=True)
    return Walked(now.clicked, hook if now.silent is None else max(hook, now.silent))


def next_hook(series: SeriesState, lever: LeverFacts, hung: HungAt) -> float | None:
    """Where to hang it next, in m: halfway, outwards where one side is missing; None beyond the grip mark, or too near."""
    pairs, now = walked(series.counted)
    if now.clicked is not None and now.silent is not None:
        return _mm((now.clicked + now.silent) / 2)
    if now.clicked is None and now.silent is None:
        last = next((h for o in reversed(series.counted) if (h := hook_of(o)) is not None), None)
        return _mm(last - STEP) if pairs and last is not None else hung.hook
    alone = _alone(series)
    out = STEP * 2 ** min(max(0, alone - (1 if pairs else -1)), 6)
    aim = _mm(now.clicked - out if now.clicked is not None else (now.silent or 0.0) + out)
    grip = lever.grip or aim
    nearest = max(LEAST_ARM * grip, lever.pivot + 0.02)
    held = min(grip, max(nearest, aim))
    return None if held in (now.clicked, now.silent) else held


def _alone(series: SeriesState) -> int:
    """How many answers of one kind stand at the end without one of the other."""
    count = 0
    for i in range(len(series.counted), 0, -1):
        _, now = walked(series.counted[:i])
        if (now.clicked is None) is (now.silent is None):
            break
        count += 1
    return count


def _mm(metres: float) -> float:
    return round(metres, 3)


def at_hook(hung: HungAt, hook: float) -> HungAt:
    """The same weights elsewhere."""
    return replace(hung, hook=hook)


def gap_torque(lever: LeverFacts, hung: HungAt) -> float:
    """What ``STEP`` of the hook makes, in N·m: the resolution that a walk leaves."""
    near, far = (lever.torque(at_hook(hung, hung.hook + d)) for d in (-STEP / 2, STEP / 2))
    return far - near
