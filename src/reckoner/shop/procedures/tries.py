"""Answers of a setting tool under known weights: where it clicked, where it was silent, and what is asked next.

What is varied is the setting, with the weights where they are; or the hook, with the setting as it is; or the weights, with
both as they are. ``Finder`` is one way to find the trip: ``trips`` holds the three.
"""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum
from typing import TYPE_CHECKING, Protocol

from reckoner.core.decision.conformity import Evidence, signal_at, silent_at
from reckoner.shop.procedure import NewObservation
from reckoner.shop.runs.records import BOUND, ObservationState, Pair, SeriesState, proves_outside
from reckoner.shop.setups.hanging import HungAt, LeverFacts
from reckoner.store.terms import ObservationKind, Source

if TYPE_CHECKING:
    from reckoner.shop.facts.tool import ToolFacts

NEAR = 1e-9
"""In N·m or m: nearer to each other two tries were at one place."""

ANSWERS = (ObservationKind.CLICKED, ObservationKind.SILENT)


class TripFinding(StrEnum):
    """What is varied until the trip is found: the setting (bracket), the hook (walk), or the weights (match)."""

    SETTING = "setting"
    HOOK = "hook"
    WEIGHTS = "weights"


@dataclass(frozen=True)
class VariedQuantity:
    """What is varied from try to try: how near two tries are brought (``step``), and whether it clicks above where it is
    silent (the hook: further out; the weights: heavier) or below (the setting)."""

    step: float
    clicks_above: bool


@dataclass(frozen=True)
class TripBracket:
    """Where a bracket stands: of what is varied, the value nearest the trip that clicked and that was silent, since the last
    bracket closed. ``contradicted``: the last answers contradicted each other, and count for nothing. ``alone``: how many
    answers have come since without one of the other kind."""

    clicked: float | None = None
    silent: float | None = None
    contradicted: bool = False
    alone: int = 0

    def after(self, kind: ObservationKind, at: float, varied: VariedQuantity) -> TripBracket:
        """With one more answer; those that contradict it are dropped, never averaged."""
        clicked = kind is ObservationKind.CLICKED
        mine, other = (self.clicked, self.silent) if clicked else (self.silent, self.clicked)
        above = varied.clicks_above is clicked
        contradicted = other is not None and (at <= other + NEAR if above else at >= other - NEAR)
        if contradicted:
            mine = other = None
        best = at if mine is None else (min(at, mine) if above else max(at, mine))
        alone = self.alone + 1 if other is None else 0
        return TripBracket(best if clicked else other, other if clicked else best, contradicted, alone)

    def closed(self, varied: VariedQuantity) -> tuple[float, float] | None:
        """Between which two tries, one step apart, the trip is found: where it clicked and where it was silent."""
        if self.clicked is None or self.silent is None:
            return None
        near = abs(self.clicked - self.silent) <= varied.step * (1 + 1e-6)
        return (self.clicked, self.silent) if near else None


def paired(
    observations: tuple[ObservationState, ...],
    place: Callable[[ObservationState], float | None],
    varied: VariedQuantity,
) -> tuple[tuple[Pair, ...], TripBracket]:
    """The pairs that ``observations`` make, in the order they were taken, and where the bracket after them stands.

    ``place`` says of what is varied where it stood at an observation. A value is a pair of its own, and so is an answer that
    proves the tool outside by itself; others make one, of the means of the two ends, once their bracket is closed.
    """
    pairs: list[Pair] = []
    now, tried = TripBracket(), dict[float, tuple[float, float]]()
    for o in observations:
        at = place(o)
        if at is None or o.torque is None or o.tool_value is None:
            continue
        if o.kind is ObservationKind.VALUE or proves_outside(o.detail):
            now = TripBracket()
            pairs.append(Pair(o.tool_value, o.torque, o.id))
            continue
        tried[at] = (o.tool_value, o.torque)
        now = now.after(o.kind, at, varied)
        if (ends := now.closed(varied)) is not None:
            tool, torque = (sum(tried[end][i] for end in ends) / 2 for i in (0, 1))
            pairs.append(Pair(tool, torque, o.id))
            now = TripBracket()
    return tuple(pairs), now


@dataclass(frozen=True)
class TripTry:
    """The try that is asked for: what the tool is set to and the torque that hangs, N·m, what hangs where (``there``), and
    what is kept of it beside its answer (``detail``)."""

    setting: float
    torque: float
    there: HungAt
    detail: str = "{}"

    def answered(self, kind: ObservationKind) -> NewObservation:
        """What a person has said to it."""
        return NewObservation(kind, None, Source.TYPED, tool_value=self.setting, detail=self.detail)

    def proves(self, kind: ObservationKind, limit: float) -> Evidence:
        """What the answer proves alone, held against a limit (a fraction)."""
        of = signal_at if kind is ObservationKind.CLICKED else silent_at
        return of(self.setting, self.torque, limit)

    def alone(self, kind: ObservationKind, limit: float) -> NewObservation:
        """The answer as one that stands alone, at the end of what can be tried."""
        detail = json.dumps({**json.loads(self.detail), BOUND: self.proves(kind, limit).proof})
        return NewObservation(kind, None, Source.TYPED, tool_value=self.setting, detail=detail)


class Finder(Protocol):
    """One way to find where a tool trips. ``detail`` (JSON) is what set-up has kept."""

    finding: TripFinding

    def kept(self, tool: ToolFacts) -> dict[str, object]:
        """What set-up keeps of it."""
        ...

    def found(self, observations: tuple[ObservationState, ...], detail: str) -> tuple[tuple[Pair, ...], TripBracket]:
        """The pairs of observations, and where the bracket after them stands."""
        ...

    def ask(self, series: SeriesState, tool: ToolFacts, lever: LeverFacts, hung: HungAt, detail: str) -> TripTry | None:
        """The next try; None beyond what the tool, its lever or the weights reach."""
        ...

    def admit(
        self, series: SeriesState, tool: ToolFacts, lever: LeverFacts, hung: HungAt, seen: NewObservation
    ) -> NewObservation:
        """An answer that may be kept. Raises ShopRefused with what is wrong."""
        ...

    def resolution(self, lever: LeverFacts, hung: HungAt) -> float:
        """What a closed bracket leaves open of the torque that hangs, in N·m; 0 where it is the tool's value that is left
        open."""
        ...


def of_detail(detail: str, key: str) -> object:
    """What is kept in a detail under a key; None where nothing is."""
    return json.loads(detail).get(key)
