"""Answers of a setting tool under known weights: where it clicked, where it was silent, and what is asked next.

What is varied is the setting, with the weights where they are, or the hook, with the setting as it is.
"""

from __future__ import annotations

import json
from dataclasses import dataclass

from reckoner.shop.procedures.base import Seen
from reckoner.store.terms import ObservationKind, Source

NEAR = 1e-9
"""In N·m or m: nearer to each other two tries were at one place."""


@dataclass(frozen=True)
class Varied:
    """What is varied from try to try: how near two tries are brought (``step``), and whether it clicks above where it is
    silent (the hook: further out) or below (the setting)."""

    step: float
    clicks_above: bool


@dataclass(frozen=True)
class Tries:
    """Where a bracket stands: of what is varied, the value nearest the trip that clicked and that was silent, since the last
    bracket closed. ``contradicted``: the last answers contradicted each other, and count for nothing. ``alone``: how many
    answers have come since without one of the other kind."""

    clicked: float | None = None
    silent: float | None = None
    contradicted: bool = False
    alone: int = 0

    def after(self, kind: ObservationKind, at: float, varied: Varied) -> Tries:
        """With one more answer; those that contradict it are dropped, never averaged."""
        clicked = kind is ObservationKind.CLICKED
        mine, other = (self.clicked, self.silent) if clicked else (self.silent, self.clicked)
        above = varied.clicks_above is clicked
        contradicted = other is not None and (at <= other + NEAR if above else at >= other - NEAR)
        if contradicted:
            mine = other = None
        best = at if mine is None else (min(at, mine) if above else max(at, mine))
        alone = self.alone + 1 if other is None else 0
        return Tries(best if clicked else other, other if clicked else best, contradicted, alone)

    def closed(self, varied: Varied) -> tuple[float, float] | None:
        """Between which two tries, one step apart, the trip is found: where it clicked and where it was silent."""
        if self.clicked is None or self.silent is None:
            return None
        near = abs(self.clicked - self.silent) <= varied.step * (1 + 1e-6)
        return (self.clicked, self.silent) if near else None


@dataclass(frozen=True)
class Asked:
    """The try that is asked for: what the tool is set to and the torque that hangs, N·m, with the ``hook`` in m where that is
    what is varied."""

    setting: float
    torque: float
    hook: float | None = None

    def answered(self, kind: ObservationKind) -> Seen:
        """What a person has said to it."""
        if self.hook is not None:
            return Seen(kind, None, Source.TYPED, detail=hook_detail(self.hook))
        return Seen(kind, None, Source.TYPED, tool_value=self.setting)


def hook_detail(hook: float) -> str:
    """What is kept of a try beside its answer, where the hook is varied."""
    return json.dumps({"hook": hook})


def hook_of(detail: str) -> float | None:
    """Where the weight hung at a try."""
    found = json.loads(detail).get("hook")
    return float(found) if found is not None else None
