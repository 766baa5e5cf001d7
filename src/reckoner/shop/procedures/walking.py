"""The setting stays and the hook moves: further out it clicks, nearer the drive it is silent (``core.trips``, walk).

The trip lies between two hooks ``STEP`` apart.
"""

from __future__ import annotations

import json
from dataclasses import replace

from reckoner.core.translation import tr
from reckoner.shop.acts import ShopRefused
from reckoner.shop.firstsum import LEAST_ARM
from reckoner.shop.hanging import HungAt, LeverFacts
from reckoner.shop.procedure import Seen
from reckoner.shop.procedures.tries import Tries, TripFinding, Try, Varied, of_detail, paired
from reckoner.shop.runs.records import ObservationState, Pair, SeriesState
from reckoner.shop.toolfacts import ToolFacts

STEP = 0.002
"""How near two hooks are brought, in m: nearer, the rope is thicker than the step."""


class Walking:
    """For any tool whose pin is known, or that has none: a preset tool, or one without a scale."""

    finding: TripFinding = TripFinding.HOOK

    def kept(self, tool: ToolFacts) -> dict[str, object]:
        return {"walk": True}

    def found(self, observations: tuple[ObservationState, ...], detail: str) -> tuple[tuple[Pair, ...], Tries]:
        return walked(observations)

    def ask(self, series: SeriesState, tool: ToolFacts, lever: LeverFacts, hung: HungAt, detail: str) -> Try | None:
        hook = next_hook(series, lever, hung)
        if hook is None:
            return None
        there = replace(hung, hook=hook)
        return Try(series.target, lever.torque(there), there, hook_detail(hook))

    def admit(self, series: SeriesState, tool: ToolFacts, lever: LeverFacts, hung: HungAt, seen: Seen) -> Seen:
        hook = hook_of(seen.detail)
        if hook is None:
            raise ShopRefused(tr("Say where the weight hung."))
        if not lever.pivot < hook <= (lever.grip or hook) * (1 + 1e-9):
            raise ShopRefused(tr("The hook hangs between the pin and the grip mark."))
        torque = lever.torque(replace(hung, hook=hook))
        return Seen(seen.kind, torque, seen.source, None, None, series.target, seen.detail)

    def resolution(self, lever: LeverFacts, hung: HungAt) -> float:
        near, far = (lever.torque(replace(hung, hook=hung.hook + d)) for d in (-STEP / 2, STEP / 2))
        return far - near


def walked(observations: tuple[ObservationState, ...]) -> tuple[tuple[Pair, ...], Tries]:
    """The pairs of ``observations`` at hooks ``STEP`` apart."""
    return paired(observations, lambda o: hook_of(o.detail), Varied(STEP, clicks_above=True))


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


def hook_detail(hook: float) -> str:
    """What is kept of a try beside its answer."""
    return json.dumps({"hook": hook})


def hook_of(detail: str) -> float | None:
    """Where the weight hung at a try."""
    found = of_detail(detail, "hook")
    return float(found) if isinstance(found, int | float) else None
