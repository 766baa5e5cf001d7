"""Known weights on the tool's own lever: the torque is known, and the tool's value or what hangs is varied.

Where a setting tool trips is found between a try at which it clicks and one at which it is silent; one of both alone says
nothing (``core.reference.trips``). An indicating tool is read while the weight hangs.
"""

from __future__ import annotations

import json
from contextlib import suppress
from dataclasses import replace
from datetime import date

from reckoner.core.decision.conformity import OneSidedProof
from reckoner.core.errors import InputRefused
from reckoner.core.reference.certificate import ReferenceAtPoint
from reckoner.core.requirements.rules import RuleSet
from reckoner.core.translation import tr
from reckoner.shop.facts.judged import ReferenceFacts
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.procedure import Caution, NewObservation
from reckoner.shop.procedures.tries import ANSWERS, Finder, TripBracket, TripFinding, TripTry, of_detail
from reckoner.shop.procedures.trips import MATCHING, Bracketing, Walking, ladders
from reckoner.shop.procedures.usual import UsualProcedure, chosen
from reckoner.shop.runs.records import NOTHING, ObservationState, Pair, SeriesState
from reckoner.shop.runs.state import RunState
from reckoner.shop.setups.equipment import OwnedWeight, weights
from reckoner.shop.setups.hanging import Anchor, HungAt, LeverFacts, check_lever
from reckoner.shop.setups.plan import MOST_WAYS, aim_for, must_hang_at_the_mark, ways
from reckoner.store.reader import Reader
from reckoner.store.terms import ObservationKind, ReferenceKind

FINDERS: dict[TripFinding, Finder] = {
    TripFinding.SETTING: Bracketing(),
    TripFinding.HOOK: Walking(),
    TripFinding.WEIGHTS: MATCHING,
}


def hanging_cautions(lever: LeverFacts | None) -> tuple[Caution, ...]:
    """What could hurt while weights hang as they are set up."""
    nut = (Caution.NUT,) if lever is not None and lever.anchor is Anchor.NUT else ()
    parts = (Caution.IN_PARTS,) if lever is not None and lever.in_parts else ()
    return (Caution.HANGING_WEIGHTS, Caution.LOADED_LEVER, *nut, *parts)


class WeightsProcedure(UsualProcedure):
    """Against known weights."""

    kind: ReferenceKind = ReferenceKind.WEIGHTS
    cautions: tuple[Caution, ...] = (*hanging_cautions(None), Caution.CLAMP_THE_DRIVE, Caution.MAKER_RULES)
    after_a_turn = 1
    one_pull_tells = False

    def admit(self, run: RunState, series: SeriesState, seen: NewObservation) -> NewObservation:
        lever, hung = what_hangs(run, series.target)
        if (seen.kind in ANSWERS) is not run.tool.kind.is_setting:
            raise ShopRefused(
                tr("Answer whether it clicked.") if run.tool.kind.is_setting else tr("Type what the tool shows.")
            )
        return finder_of(run).admit(series, run.tool, lever, hung, seen)

    def pairs(
        self, target: float, observations: tuple[ObservationState, ...], detail: str, correction: float
    ) -> tuple[Pair, ...]:
        return FINDERS[finding_in(detail)].found(observations, detail)[0]

    def beyond(self, run: RunState) -> bool:
        series = run.current
        return run.tool.kind.is_setting and series is not None and next_asked(run, series) is None

    def extended(
        self, reader: Reader, run: RunState, rules: RuleSet, more: tuple[float, ...], day: date
    ) -> tuple[ReferenceFacts, tuple[float, ...]]:
        """What the shop's box makes of each point on the lever as it is."""
        reference, box = chosen(run), weights(reader)
        lever = reference.set_up
        if not isinstance(lever, LeverFacts):
            return reference, ()
        found: list[HungAt] = []
        for target in more:
            with suppress(InputRefused, ShopRefused):
                way = ways_to_hang(lever, run.tool, box, target, finding_of(run))[:1]
                check_lever(replace(lever, points=way), run.tool, (target,))
                found += way
        extended = replace(lever, points=(*lever.points, *found))
        return replace(reference, set_up=extended), tuple(hung.target for hung in found)

    def at(self, reference: ReferenceFacts, torque: float, detail: str) -> ReferenceAtPoint:
        found, lever = super().at(reference, torque, detail), reference.set_up
        hung = lever.at(torque) if isinstance(lever, LeverFacts) else None
        if not isinstance(lever, LeverFacts) or hung is None:
            return found
        return replace(found, resolution=FINDERS[finding_in(detail)].resolution(lever, hung))


def possible(tool: ToolFacts) -> tuple[TripFinding, ...]:
    """How the trip of a tool can be found, the usual way first; only the first counts for an indicating tool, which is
    read."""
    kind = tool.kind
    if not kind.is_setting:
        return (TripFinding.SETTING,)
    ways = (TripFinding.WEIGHTS,) if must_hang_at_the_mark(tool) else (TripFinding.HOOK, TripFinding.WEIGHTS)
    return ways if kind.is_fixed or not kind.resolution else (TripFinding.SETTING, *ways)


def wants_a_step(tool: ToolFacts) -> bool:
    """Whether a tool has a scale to be set by, and nobody said how fine it is."""
    return tool.kind.is_setting and not tool.kind.is_fixed and tool.kind.has_scale and not tool.kind.resolution


COARSEST = 0.2
"""Of the full scale: a step of a scale is finer."""


def with_step(tool: ToolFacts, step: float) -> ToolFacts:
    """A tool whose scale has a ``step``, N·m. Raises ShopRefused for one that cannot be."""
    if not 0 < step <= COARSEST * tool.kind.maximum:
        raise ShopRefused(tr("That cannot be one step of its scale; check the number and its unit."))
    return replace(tool, kind=replace(tool.kind, resolution=step))


def detail_of(tool: ToolFacts, finding: TripFinding) -> str:
    """What set-up keeps of how the trip is found."""
    return json.dumps(FINDERS[finding].kept(tool))


def finding_in(detail: str) -> TripFinding:
    """What set-up has kept of it."""
    if of_detail(detail, "walk"):
        return TripFinding.HOOK
    return TripFinding.WEIGHTS if of_detail(detail, "match") else TripFinding.SETTING


def finding_of(run: RunState) -> TripFinding:
    """How the trip is found in a run."""
    return finding_in(_detail(run))


def finder_of(run: RunState) -> Finder:
    return FINDERS[finding_of(run)]


def _detail(run: RunState) -> str:
    return run.set_up.detail if run.set_up else NOTHING


def what_hangs(run: RunState, target: float) -> tuple[LeverFacts, HungAt]:
    """The lever, and what hangs on it for a target. Raises ShopRefused where nothing does."""
    lever = run.reference.set_up if run.reference is not None else None
    hung = lever.at(target) if isinstance(lever, LeverFacts) else None
    if not isinstance(lever, LeverFacts) or hung is None:
        raise ShopRefused(tr("Nothing hangs for this point. Set the weights up first."))
    return lever, hung


def tries_of(run: RunState, series: SeriesState) -> TripBracket:
    """Where the bracket of a series stands."""
    return finder_of(run).found(series.counted, _detail(run))[1]


def at_the_end(run: RunState, series: SeriesState) -> tuple[TripTry, ObservationKind] | None:
    """The try to repeat, and the answer that would prove the tool outside by itself, where nothing further can be tried:
    silent even at the end, or signalling even there. None where it would prove nothing."""
    _lever, hung = what_hangs(run, series.target)
    last = next((o for o in reversed(series.counted) if o.kind in ANSWERS), None)
    if next_asked(run, series) is not None or last is None or last.torque is None or last.tool_value is None:
        return None
    asked = TripTry(last.tool_value, last.torque, hung, last.detail)
    proof = asked.proves(last.kind, run.limit(series.target)).proof
    return (asked, last.kind) if proof is OneSidedProof.OUTSIDE and run.adjusting is None else None


def next_asked(run: RunState, series: SeriesState) -> TripTry | None:
    """The try to ask for; None beyond what the tool, its lever or the weights reach. Raises ShopRefused where nothing
    hangs."""
    lever, hung = what_hangs(run, series.target)
    return finder_of(run).ask(series, run.tool, lever, hung, _detail(run))


def ways_to_hang(
    lever: LeverFacts, tool: ToolFacts, box: tuple[OwnedWeight, ...], target: float, way: TripFinding
) -> tuple[HungAt, ...]:
    """What to hang for a target: made for the torque that is aimed at, and kept under the target."""
    only, aim = must_hang_at_the_mark(tool), aim_for(tool, target)
    if way is TripFinding.WEIGHTS:
        return ladders(lever, box, target, tool.kind.maximum, at_the_mark=only)[:MOST_WAYS]
    found = ways(lever, box, aim, at_the_mark=only, to_walk=way is TripFinding.HOOK, step=tool.own_units.step)
    return tuple(replace(hung, target=target) for hung in found)
