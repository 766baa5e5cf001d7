"""The weights stay and the setting moves: it clicks at one graduation and is silent at the next (``core.reference.trips``,
bracket).

The setting stays and the hook moves: further out it clicks, nearer the drive it is silent (``core.reference.trips``, walk).

The trip lies between two hooks ``STEP`` apart.

Setting and hook stay and weights are added (``core.reference.trips``, match): it trips between two stacks that follow each
other.

The stacks that are hung one after the other, ``HungAt.rungs``, are worked out at set up and kept with the run.
"""

from __future__ import annotations

import json
import math
from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

from reckoner.core.quantities.ownunits import OwnUnits
from reckoner.core.quantities.printing import quantity
from reckoner.core.reference.plan import MOST_HUNG, ladder, mass_at
from reckoner.core.reference.trips import next_setting
from reckoner.core.translation import tr
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.procedure import NewObservation
from reckoner.shop.procedures.tries import TripBracket, TripFinding, TripTry, VariedQuantity, of_detail, paired
from reckoner.shop.runs.records import ObservationState, Pair, SeriesState
from reckoner.shop.setups.equipment import OwnedWeight
from reckoner.shop.setups.hanging import HungAt, LeverFacts
from reckoner.shop.setups.plan import LEAST_ARM

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

    def found(self, observations: tuple[ObservationState, ...], detail: str) -> tuple[tuple[Pair, ...], TripBracket]:
        return bracketed(observations, step_of_detail(detail))

    def ask(self, series: SeriesState, tool: ToolFacts, lever: LeverFacts, hung: HungAt, detail: str) -> TripTry | None:
        torque = lever.torque(hung)
        setting = next_try(series, tool, torque, detail)
        return None if setting is None else TripTry(setting, torque, hung)

    def admit(
        self, series: SeriesState, tool: ToolFacts, lever: LeverFacts, hung: HungAt, seen: NewObservation
    ) -> NewObservation:
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
        return NewObservation(seen.kind, torque, seen.source, None, None, value, seen.detail)

    def resolution(self, lever: LeverFacts, hung: HungAt) -> float:
        return 0.0


def bracketed(observations: tuple[ObservationState, ...], step: float) -> tuple[tuple[Pair, ...], TripBracket]:
    """The pairs of ``observations``; a bracket closes when the silent setting is one ``step`` above the clicked one."""
    return paired(observations, lambda o: o.tool_value, VariedQuantity(step, clicks_above=False))


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


STEP = 0.002
"""How near two hooks are brought, in m: nearer, the rope is thicker than the step."""


class Walking:
    """For any tool whose pin is known, or that has none: a preset tool, or one without a scale."""

    finding: TripFinding = TripFinding.HOOK

    def kept(self, tool: ToolFacts) -> dict[str, object]:
        return {"walk": True}

    def found(self, observations: tuple[ObservationState, ...], detail: str) -> tuple[tuple[Pair, ...], TripBracket]:
        return walked(observations)

    def ask(self, series: SeriesState, tool: ToolFacts, lever: LeverFacts, hung: HungAt, detail: str) -> TripTry | None:
        hook = next_hook(series, lever, hung, tool.own_units)
        if hook is None:
            return None
        there = replace(hung, hook=hook)
        return TripTry(series.target, lever.torque(there), there, hook_detail(hook))

    def admit(
        self, series: SeriesState, tool: ToolFacts, lever: LeverFacts, hung: HungAt, seen: NewObservation
    ) -> NewObservation:
        hook = hook_of(seen.detail)
        if hook is None:
            raise ShopRefused(tr("Say where the weight hung."))
        if not lever.pivot < hook <= (lever.grip or hook) * (1 + 1e-9):
            raise ShopRefused(tr("The hook hangs between the pin and the grip mark."))
        torque = lever.torque(replace(hung, hook=hook))
        return NewObservation(seen.kind, torque, seen.source, None, None, series.target, seen.detail)

    def resolution(self, lever: LeverFacts, hung: HungAt) -> float:
        near, far = (lever.torque(replace(hung, hook=hung.hook + d)) for d in (-STEP / 2, STEP / 2))
        return far - near


def walked(observations: tuple[ObservationState, ...]) -> tuple[tuple[Pair, ...], TripBracket]:
    """The pairs of ``observations`` at hooks ``STEP`` apart."""
    return paired(observations, lambda o: hook_of(o.detail), VariedQuantity(STEP, clicks_above=True))


def next_hook(series: SeriesState, lever: LeverFacts, hung: HungAt, own: OwnUnits) -> float | None:
    """Where to hang it next, in m, on one's ``own`` rule: halfway, outwards where one side is missing; None beyond the grip
    mark, or too near."""
    pairs, now = walked(series.counted)
    if now.clicked is not None and now.silent is not None:
        return own.on_rule((now.clicked + now.silent) / 2)
    if now.clicked is None and now.silent is None:
        last = next((h for o in reversed(series.counted) if (h := hook_of(o.detail)) is not None), None)
        return own.on_rule(last - STEP) if pairs and last is not None else hung.hook
    out = STEP * 2 ** min(max(0, now.alone - (1 if pairs else -1)), 6)
    aim = own.on_rule(now.clicked - out if now.clicked is not None else (now.silent or 0.0) + out)
    grip = lever.grip or aim
    nearest = max(LEAST_ARM * grip, lever.pivot + 0.02)
    held = min(grip, max(nearest, aim))
    return None if held in (now.clicked, now.silent) else held


def hook_detail(hook: float) -> str:
    """What is kept of a try beside its answer."""
    return json.dumps({"hook": hook})


def hook_of(detail: str) -> float | None:
    """Where the weight hung at a try."""
    found = of_detail(detail, "hook")
    return float(found) if isinstance(found, int | float) else None


AROUND = 0.12
"""How far below and above the target weights are hung, as a fraction of it."""

MOST_OVER = 1.08
"""Of the tool's full scale: it is not loaded further when it stays silent."""

FINE = 0.004
"""How near two stacks are brought, as a fraction of what hangs."""

FEWEST = 4
"""Stacks, fewer of which enclose nothing."""


class Matching:
    """For any tool, and the one way where a tool cannot be set and has to be hung on at its grip mark alone."""

    finding: TripFinding = TripFinding.WEIGHTS

    def kept(self, tool: ToolFacts) -> dict[str, object]:
        return {"match": True}

    def found(self, observations: tuple[ObservationState, ...], detail: str) -> tuple[tuple[Pair, ...], TripBracket]:
        return matched(observations)

    def ask(self, series: SeriesState, tool: ToolFacts, lever: LeverFacts, hung: HungAt, detail: str) -> TripTry | None:
        rung = next_rung(series, hung)
        if rung is None:
            return None
        there = at_rung(hung, rung)
        return TripTry(series.target, lever.torque(there), there, rung_detail(rung))

    def admit(
        self, series: SeriesState, tool: ToolFacts, lever: LeverFacts, hung: HungAt, seen: NewObservation
    ) -> NewObservation:
        rung = rung_of(seen.detail)
        if rung is None or not 0 <= rung < len(hung.rungs):
            raise ShopRefused(tr("Say what hung there."))
        torque = lever.torque(at_rung(hung, rung))
        return NewObservation(seen.kind, torque, seen.source, None, None, series.target, seen.detail)

    def resolution(self, lever: LeverFacts, hung: HungAt) -> float:
        torques = [lever.torque(at_rung(hung, i)) for i in range(len(hung.rungs))]
        return max((high - low for low, high in pairwise(torques)), default=0.0)


MATCHING: Matching = Matching()

HOOKS = (1.0, 0.9, 0.8, 0.7, 0.6, 0.5)
"""Of the lever: where weights are tried out to be added, the grip mark first."""


def ladders(
    lever: LeverFacts, weights: Sequence[OwnedWeight], target: float, full_scale: float, *, at_the_mark: bool
) -> tuple[HungAt, ...]:
    """Where to add weights for a target (N·m), the finest steps first; weighed weights before stamps. ``at_the_mark``: only
    there. Raises InputRefused where the own weight makes the torque already."""
    if lever.grip is None:
        return ()
    hooks = [round(lever.grip * part, 2) for part in HOOKS if lever.grip * part > lever.pivot + 0.05]
    if at_the_mark:
        hooks = [lever.grip]
    for chosen in ([w for w in weights if w.uncertainty is not None], list(weights)):
        found = [made for hook in hooks if (made := _ladder(lever, chosen, target, full_scale, hook)) is not None]
        if found:
            return tuple(sorted(found, key=lambda h: MATCHING.resolution(lever, h)))
    return ()


def _ladder(
    lever: LeverFacts, weights: Sequence[OwnedWeight], target: float, full_scale: float, hook: float
) -> HungAt | None:
    """The stacks at one hook, the one nearest the target in front; None where they do not enclose it."""
    least, most = target * (1 - AROUND), min(target * (1 + AROUND), full_scale * MOST_OVER)
    lightest, heaviest = (mass_at(torque, hook, lever.place) for torque in (least, most))
    middle = mass_at(target, hook, lever.place)
    stacks = ladder(tuple(w.mass for w in weights), lightest, min(heaviest, MOST_HUNG - lever.hanger), FINE * middle)
    made = tuple(tuple(weights[i].hung for i in stack) for stack in stacks)
    masses = [sum(w.mass for w in rung) for rung in made]
    below = sum(mass < middle for mass in masses)
    if below < FEWEST // 2 or len(made) - below < FEWEST // 2:
        return None
    nearest = min(made, key=lambda rung: abs(masses[made.index(rung)] - middle))
    return HungAt(target, nearest, hook, made)


def at_rung(hung: HungAt, rung: int) -> HungAt:
    """What hangs at one of its stacks."""
    return replace(hung, weights=hung.rungs[rung])


def matched(observations: tuple[ObservationState, ...]) -> tuple[tuple[Pair, ...], TripBracket]:
    """The pairs of ``observations`` with stacks that follow each other."""
    return paired(observations, lambda o: rung_of(o.detail), VariedQuantity(1, clicks_above=True))


def next_rung(series: SeriesState, hung: HungAt) -> int | None:
    """Which stack to hang next: halfway, outwards where one side is missing; None beyond them all."""
    pairs, now = matched(series.counted)
    last = len(hung.rungs) - 1
    if now.clicked is not None and now.silent is not None:
        return round((now.clicked + now.silent) / 2 - 1e-9)
    if now.clicked is None and now.silent is None:
        tried = next((r for o in reversed(series.counted) if (r := rung_of(o.detail)) is not None), None)
        if pairs and tried is not None:
            return tried
        return next((i for i, rung in enumerate(hung.rungs) if rung == hung.weights), last // 2)
    out = 2 ** min(max(0, now.alone - (1 if pairs else -1)), 4)
    aim = now.clicked - out if now.clicked is not None else (now.silent or 0.0) + out
    held = int(min(last, max(0, aim)))
    return None if held in (now.clicked, now.silent) else held


def rung_detail(rung: int) -> str:
    """What is kept of a try beside its answer."""
    return json.dumps({"rung": rung})


def rung_of(detail: str) -> int | None:
    """Which stack hung at a try."""
    found = of_detail(detail, "rung")
    return found if isinstance(found, int) else None
