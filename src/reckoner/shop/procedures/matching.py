"""Setting and hook stay and weights are added (``core.trips``, match): it trips between two stacks that follow each other.

The stacks that are hung one after the other, ``HungAt.rungs``, are worked out at set up and kept with the run.
"""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

from reckoner.core.plan import mass_at
from reckoner.core.stack import HEAVIEST, ladder
from reckoner.core.translation import tr
from reckoner.shop.acts import ShopRefused
from reckoner.shop.box import BoxWeight
from reckoner.shop.hanging import HungAt, LeverFacts
from reckoner.shop.procedure import Seen
from reckoner.shop.procedures.tries import Tries, TripFinding, Try, Varied, of_detail, paired
from reckoner.shop.runs.records import ObservationState, Pair, SeriesState
from reckoner.shop.toolfacts import ToolFacts

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

    def found(self, observations: tuple[ObservationState, ...], detail: str) -> tuple[tuple[Pair, ...], Tries]:
        return matched(observations)

    def ask(self, series: SeriesState, tool: ToolFacts, lever: LeverFacts, hung: HungAt, detail: str) -> Try | None:
        rung = next_rung(series, hung)
        if rung is None:
            return None
        there = at_rung(hung, rung)
        return Try(series.target, lever.torque(there), there, rung_detail(rung))

    def admit(self, series: SeriesState, tool: ToolFacts, lever: LeverFacts, hung: HungAt, seen: Seen) -> Seen:
        rung = rung_of(seen.detail)
        if rung is None or not 0 <= rung < len(hung.rungs):
            raise ShopRefused(tr("Say what hung there."))
        torque = lever.torque(at_rung(hung, rung))
        return Seen(seen.kind, torque, seen.source, None, None, series.target, seen.detail)

    def resolution(self, lever: LeverFacts, hung: HungAt) -> float:
        torques = [lever.torque(at_rung(hung, i)) for i in range(len(hung.rungs))]
        return max((high - low for low, high in pairwise(torques)), default=0.0)


MATCHING: Matching = Matching()

HOOKS = (1.0, 0.9, 0.8, 0.7, 0.6, 0.5)
"""Of the lever: where weights are tried out to be added, the grip mark first."""


def ladders(
    lever: LeverFacts, weights: Sequence[BoxWeight], target: float, full_scale: float, *, at_the_mark: bool
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
    lever: LeverFacts, weights: Sequence[BoxWeight], target: float, full_scale: float, hook: float
) -> HungAt | None:
    """The stacks at one hook, the one nearest the target in front; None where they do not enclose it."""
    least, most = target * (1 - AROUND), min(target * (1 + AROUND), full_scale * MOST_OVER)
    lightest, heaviest = (mass_at(torque, hook, lever.place) for torque in (least, most))
    middle = mass_at(target, hook, lever.place)
    stacks = ladder(tuple(w.mass for w in weights), lightest, min(heaviest, HEAVIEST - lever.hanger), FINE * middle)
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


def matched(observations: tuple[ObservationState, ...]) -> tuple[tuple[Pair, ...], Tries]:
    """The pairs of ``observations`` with stacks that follow each other."""
    return paired(observations, lambda o: rung_of(o.detail), Varied(1, clicks_above=True))


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
