"""The torque meter: a value is a pull's torque, the target is the tool's value, zeros frame the series.

Which meter suits a tool, and why another does not: ISO 6789-2:2017, 5; the certificate's own range.

A force gauge or hanging scale on the lever: each pull's force is a torque, as a meter's reading is.

A torque meter in line with a stub or with a second meter: a meter in all, that what it stands with can spoil.
"""

from __future__ import annotations

import json
from contextlib import suppress
from dataclasses import replace
from datetime import date

from reckoner.core.decision.conformity import silent_at
from reckoner.core.errors import InputRefused
from reckoner.core.quantities.checks import at_most, finite
from reckoner.core.quantities.days import day_words
from reckoner.core.quantities.printing import number, percent, quantity, span
from reckoner.core.requirements.rules import RuleSet
from reckoner.core.translation import tr
from reckoner.shop.facts.judged import ReferenceFacts
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.procedure import Caution, Distrust, NewObservation, ReferenceCandidate
from reckoner.shop.procedures.usual import UsualProcedure, chosen
from reckoner.shop.runs.records import (
    BOUND,
    HALF,
    OF,
    ObservationState,
    Pair,
    SeriesState,
    is_half,
    proves_outside,
    shown_of,
)
from reckoner.shop.runs.state import RunState
from reckoner.shop.setups.gauging import PullFacts, check_pull
from reckoner.store.reader import Reader
from reckoner.store.terms import ObservationKind, ReferenceKind

MOST = 3.0
"""Of the tool's full scale: no hand pulls further."""


class PulledProcedure(UsualProcedure):
    """Whatever is pulled against and shows a torque: a torque meter, a gauge on the lever."""

    cautions: tuple[Caution, ...] = (
        Caution.CLAMP_THE_DRIVE,
        Caution.LOADED_LEVER,
        Caution.CAPACITY,
        Caution.MAKER_RULES,
    )

    def admit(self, run: RunState, series: SeriesState, seen: NewObservation) -> NewObservation:
        """As it may be kept; one without a signal with what that proves. Raises ShopRefused for what no pull of the tool
        can be."""
        return _admit_pull(run, series, seen)

    def pairs(
        self, target: float, observations: tuple[ObservationState, ...], detail: str, correction: float
    ) -> tuple[Pair, ...]:
        """Each pull against what the tool was set to, or what its display showed of it."""
        shown = {
            shown_of(o.detail): o.tool_value
            for o in observations
            if o.kind is ObservationKind.SHOWN and o.tool_value is not None
        }
        return tuple(
            Pair(shown.get(o.id) or o.tool_value or target, o.torque / correction, o.id)
            for o in observations
            if o.torque is not None
            and (o.kind is ObservationKind.VALUE or proves_outside(o.detail))
            and (o.id in shown or not is_half(o.detail))
        )


class MeterProcedure(PulledProcedure):
    """Against a torque meter."""

    kind: ReferenceKind = ReferenceKind.METER
    zeroed = True

    def distrust(self, run: RunState, day: date) -> Distrust | None:
        reference, usual = run.reference, super().distrust(run, day)
        if reference is None or usual is not None:
            return usual
        if reference.due is None or reference.due < day:
            return Distrust.CERTIFICATE_ENDED
        return Distrust.ZERO_MOVED if _zero_moved(run, reference) else None

    def weigh(
        self,
        reference: ReferenceFacts,
        tool: ToolFacts,
        rules: RuleSet,
        day: date,
        points: tuple[float, ...] | None = None,
    ) -> ReferenceCandidate:
        """Raises InputRefused when neither ``points`` nor the rule set names any."""
        return _weigh(reference, tool, rules, day, points)


def _admit_pull(run: RunState, series: SeriesState, seen: NewObservation) -> NewObservation:
    if seen.kind is ObservationKind.SHOWN:
        return _admit_shown(run, series, seen)
    unit = run.tool.unit
    value = finite("reading", seen.torque if seen.torque is not None else float("nan"))
    shown = f"{number(unit.from_si(value))} {unit.symbol}"
    if not 0 < value <= MOST * run.tool.kind.maximum:
        raise ShopRefused(tr("{shown} cannot be a pull of this tool; check the number and its unit.", shown=shown))
    if seen.kind is ObservationKind.NO_SIGNAL:
        return _without_signal(run, series, seen, value)
    if not run.paired:
        return seen
    if series.awaiting is not None:
        raise ShopRefused(tr("What did the tool show at the last pull? Type that first, or strike the pull."))
    return replace(seen, detail=json.dumps({HALF: True}))


def _admit_shown(run: RunState, series: SeriesState, seen: NewObservation) -> NewObservation:
    """What the tool's own display showed of the pull that waits for it."""
    unit, pull = run.tool.unit, series.awaiting
    if pull is None or pull.torque is None:
        raise ShopRefused(tr("Pull first: what the tool shows belongs to a pull."))
    value = finite("reading", seen.tool_value if seen.tool_value is not None else float("nan"))
    shown = f"{number(unit.from_si(value))} {unit.symbol}"
    if not 0 < value <= MOST * run.tool.kind.maximum:
        raise ShopRefused(tr("{shown} cannot be what this tool showed; check the number and its unit.", shown=shown))
    return replace(seen, torque=None, detail=json.dumps({OF: pull.id}))


def _without_signal(run: RunState, series: SeriesState, seen: NewObservation, torque: float) -> NewObservation:
    """It was pulled so far, and did not signal."""
    if not run.tool.kind.is_setting:
        raise ShopRefused(tr("It gives no signal; type what it shows."))
    proof = silent_at(series.target, torque / run.correction(series.target), run.limit(series.target)).proof
    return replace(seen, detail=json.dumps({BOUND: proof}))


def _zero_moved(run: RunState, reference: ReferenceFacts) -> bool:
    """It did not come back to its zero, over the run or over a series: the readings are suspect."""
    whole = 0.0
    if run.zeros.before is not None and run.zeros.after is not None:
        whole = run.zeros.after - run.zeros.before
    return any(
        not at_most(abs(moved), reference.zero_tolerance) for moved in (whole, *(s.zero_moved_by for s in run.series))
    )


def least_judged(reference: ReferenceFacts, rules: RuleSet) -> float:
    """From which torque on a reference judges, in N·m."""
    return max(reference.minimum, rules.least_of_range * reference.maximum)


def _weigh(
    reference: ReferenceFacts, tool: ToolFacts, rules: RuleSet, today: date, points: tuple[float, ...] | None = None
) -> ReferenceCandidate:
    """Hold one meter against the tool's ``points`` (N·m), or those of the rule set. Raises InputRefused when it has none."""
    points = points or rules.points(tool.kind)
    against = list(_date_and_range(reference, tool, rules, points, today))
    worst, out_of_reach = 0.0, bool(against)
    too_much: tuple[float, float] | None = None  # where W is furthest above what it may be
    for point in points:
        try:
            w = reference.at(point).doubt
        except InputRefused:
            if not out_of_reach:
                against.append(tr("its certificate does not cover {point}", point=quantity(point, tool.unit)))
                break
            continue
        worst, allowed = max(worst, w), rules.reference_limit(rules.limit(tool.kind, point))
        if not at_most(w, allowed) and (too_much is None or w / allowed > too_much[0] / too_much[1]):
            too_much = (w, allowed)
    left = tr(" with its error that is left in") if reference.error_left else ""
    if reference.proven and too_much is not None:
        said = tr(
            "{too_much} is above the {too_much_2} this tool needs",
            too_much=percent(too_much[0], 2),
            too_much_2=percent(too_much[1], 2),
        )
        against.append(tr("its uncertainty{left} {said}", left=left, said=said))
    return ReferenceCandidate(reference, tuple(against), worst or 1.0)


def _date_and_range(
    reference: ReferenceFacts, tool: ToolFacts, rules: RuleSet, points: tuple[float, ...], today: date
) -> list[str]:
    said = []
    if reference.proven and (reference.due is None or reference.due < today):
        said.append(
            tr("its certificate ended on {due}", due=day_words(reference.due))
            if reference.due
            else tr("it has no date")
        )
    if reference.stopped:
        said.append(reference.stopped)
    reach = span(reference.minimum, reference.maximum, tool.unit)
    if not reference.bears(max(points)):
        said.append(tr("it reaches {reach}, the tool {points}", reach=reach, points=quantity(max(points), tool.unit)))
    elif min(points) < least_judged(reference, rules) * (1 - 1e-9):
        low = quantity(least_judged(reference, rules), tool.unit)
        said.append(
            tr("it judges from {low}, the tool from {points}", low=low, points=quantity(min(points), tool.unit))
        )
    if rules.exercise and reference.bears(max(points)) and not reference.bears(tool.kind.maximum):
        said.append(
            tr(
                "it ends at {maximum}; exercise goes to {maximum_2}",
                maximum=quantity(reference.maximum, tool.unit),
                maximum_2=quantity(tool.kind.maximum, tool.unit),
            )
        )
    return said


class GaugeProcedure(PulledProcedure):
    """Its worth follows from the set-up, and nothing has to be zeroed on the bench."""

    kind: ReferenceKind = ReferenceKind.GAUGE

    def extended(
        self, reader: Reader, run: RunState, rules: RuleSet, more: tuple[float, ...], day: date
    ) -> tuple[ReferenceFacts, tuple[float, ...]]:
        """Where the gauge hooks in now, as far as it can be read."""
        reference = chosen(run)
        pull, reached = reference.set_up, []
        for target in more:
            with suppress(ShopRefused):
                if isinstance(pull, PullFacts):
                    check_pull(pull, run.tool, (target,))
                    reached.append(target)
        return reference, tuple(reached)


class InLineProcedure(MeterProcedure):
    """Its worth is that of its certificate, widened by what coupling it anew moves."""

    kind: ReferenceKind = ReferenceKind.IN_LINE
    cautions: tuple[Caution, ...] = (Caution.IN_LINE, Caution.CLAMP_THE_DRIVE, Caution.CAPACITY, Caution.MAKER_RULES)
