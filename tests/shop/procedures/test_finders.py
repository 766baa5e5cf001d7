"""The three ways to find where a tool trips under known weights: what they find encloses the truth."""

from dataclasses import replace

import numpy as np
import pytest

from reckoner.core.decision.verdict import PointInput, verdict
from reckoner.core.quantities.units import N_M
from reckoner.core.requirements.tooltypes import Approach, Direction, Mechanism, ToolKind, ToolType
from reckoner.core.uncertainty.budget import Observations
from reckoner.formats.rulesets import shipped
from reckoner.meters.wrench import SimulatedTries, Truth
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.procedure import NewObservation
from reckoner.shop.procedures.tries import TripFinding
from reckoner.shop.procedures.trips import MATCHING, at_rung, ladders, matched, next_rung, rung_detail
from reckoner.shop.procedures.weights import FINDERS, detail_of, possible
from reckoner.shop.runs import document, opening, setting_up, taking
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.records import FOUND, ObservationState, SeriesState, Step
from reckoner.shop.setups import plan
from reckoner.shop.setups.equipment import OwnedWeight
from reckoner.shop.setups.hanging import HungAt, HungWeight, Levelled, LeverFacts
from reckoner.store.terms import ObservationKind, Source
from tests.support.runs import looked_over, tool_id

CLICKED, SILENT = ObservationKind.CLICKED, ObservationKind.SILENT

BOX = tuple(
    OwnedWeight(f"W-{m:g}", "A", m * 1.002, 0.0004 * m, m) for m in (10.0, 5.0, 2.0, 2.0, 1.0, 0.5, 0.2, 0.2, 0.1, 0.05)
)
WRENCH = ToolFacts(
    1, "T", "", "", "", ToolKind(ToolType.SETTING, "A", 60.0, 12.0, 0.5), Mechanism.CLICK, N_M, "", (Direction.CW,),
    Approach.FROM_BELOW, "", "", None, lever=0.4, pivot=0.03,
)  # fmt: skip
LEVER = LeverFacts((), 0.9, 0.14, 0.4, 0.03, length=0.0005, gravity_uncertainty=0.002, levelled=Levelled.LEVEL)


def hung_for(finding, target):
    """The best of what the box has for a target."""
    if finding is TripFinding.WEIGHTS:
        return ladders(LEVER, BOX, target, WRENCH.kind.maximum, at_the_mark=False)[0]
    return replace(plan.ways(LEVER, BOX, target, to_walk=finding is TripFinding.HOOK)[0], target=target)


def series_of(finding, target, simulated, off, wanted):
    """As many pairs as are ``wanted`` of a tool whose torques are really ``off`` what the weights are taken to make."""
    finder, hung, detail = FINDERS[finding], hung_for(finding, target), detail_of(WRENCH, finding)
    lever, made = replace(LEVER, points=(hung,)), ()
    for tries in range(200):
        if len(finder.found(made, detail)[0]) == wanted:
            return lever, finder.found(made, detail)[0], tries
        series = SeriesState(1, FOUND, Direction.CW, target, wanted, made, ())
        asked = finder.ask(series, WRENCH, lever, hung, detail)
        clicks = simulated.clicks("T", asked.setting, asked.torque * (1 + off))
        seen = finder.admit(series, WRENCH, lever, hung, asked.answered(CLICKED if clicks else SILENT))
        one = ObservationState(
            len(made), None, seen.kind, seen.torque, seen.source, tool_value=seen.tool_value, detail=seen.detail
        )
        made = (*made, one)
    raise AssertionError("no bracket closes")


@pytest.mark.parametrize("finding", list(TripFinding))
def test_each_way_finds_the_true_deviation_within_its_stated_interval_in_19_of_20(finding):
    """150 tools with their own error and scatter, each found five times, with weights that are off as they may be."""
    rng, rules = np.random.default_rng(20261127), shipped("iso-6789-2017")
    within = 0
    for _ in range(150):
        error, scatter = rng.uniform(-0.06, 0.06), rng.uniform(0.001, 0.006)
        truth = Truth(gain=1 + error, offset=0.0, scatter=scatter, first_high=0.0)
        simulated = SimulatedTries(lambda truth=truth: {"T": truth}, rng)
        worth = LEVER.worth(hung_for(finding, 36.0)) / 2
        lever, pairs, _tries = series_of(finding, 36.0, simulated, rng.normal(0, worth), 5)
        at = replace(lever.reference_at(36.0), resolution=FINDERS[finding].resolution(lever, lever.at(36.0)))
        point = PointInput(36.0, Observations(tuple(p.tool for p in pairs), tuple(p.reference for p in pairs)), at)
        budget = verdict(WRENCH.kind, rules, [point]).points[0].budget
        within += abs(budget.deviation - (1 / (1 + error) - 1)) <= budget.expanded_uncertainty
    assert within >= 0.95 * 150


def test_a_tool_is_found_by_adding_weights_and_what_the_last_step_leaves_open_counts(demo, act):
    """HC-0125 at its three points; the stacks are kept with the run, which is judged from them later."""
    with demo.session() as session:
        run = looked_over(session, opening.open_run(session, tool_id(demo, "HC-0125"), act), act)
        lever = replace(
            plan.lever_for(run.tool, (9.80665, 0.002)), own_mass=0.52, own_centre=0.09, length=0.0003,
            own_centre_uncertainty=0.001, levelled=Levelled.LEVEL,
        )  # fmt: skip
        points = tuple(ladders(lever, BOX, s.target, run.tool.kind.maximum, at_the_mark=False)[0] for s in run.found)
        bare = replace(lever, points=tuple(replace(p, rungs=()) for p in points))
        with pytest.raises(ShopRefused, match="too few small weights"):
            setting_up.hang(session, run.id, bare, act, TripFinding.WEIGHTS)
        run = setting_up.hang(session, run.id, replace(lever, points=points), act, TripFinding.WEIGHTS)
        run = setting_up.record_room(session, run.id, 21.5, 0.46, "", act)
        while run.step is Step.EXERCISE:
            run = taking.record_exercise(session, run.id, None, act)
        with pytest.raises(ShopRefused, match="Say what hung there"):
            taking.observe(session, run.id, NewObservation(CLICKED, None, Source.TYPED, detail=rung_detail(99)), act)
        while run.current is not None:
            series, there = run.current, run.reference.set_up
            rung = next_rung(series, there.at(series.target))
            trips = there.torque(at_rung(there.at(series.target), rung)) >= series.target * 0.985
            run = taking.observe(
                session,
                run.id,
                NewObservation(CLICKED if trips else SILENT, None, Source.TYPED, detail=rung_detail(rung)),
                act,
            )
        for point in judged(run).verdict.points:
            assert point.budget.deviation == pytest.approx(1 / 0.985 - 1, abs=point.budget.expanded_uncertainty)
            assert set(point.budget.observations.tool) == {point.target}
            assert 0.0003 < point.budget.component("reference_resolution").value < 0.006
        assert document.read(document.write(run.facts)) == run.facts
        assert len(run.reference.set_up.points[0].rungs) >= 4


def test_weights_are_added_only_where_they_enclose_the_target_and_never_far_over_full_scale():
    for target in (12.0, 36.0, 60.0):
        for hung in ladders(LEVER, BOX, target, 60.0, at_the_mark=False):
            torques = [LEVER.torque(at_rung(hung, i)) for i in range(len(hung.rungs))]
            assert torques == sorted(torques)
            assert torques[0] < target < torques[-1] <= 60.0 * 1.08 * (1 + 1e-9)
            assert all(sum(w.mass for w in rung) <= 25.0 for rung in hung.rungs)
            assert abs(LEVER.torque(hung) - target) <= MATCHING.resolution(LEVER, hung)
    assert ladders(LEVER, BOX[:2], 36.0, 60.0, at_the_mark=False) == ()
    assert {h.hook for h in ladders(LEVER, BOX, 36.0, 60.0, at_the_mark=True)} == {0.4}
    stamped = tuple(replace(w, uncertainty=None) for w in BOX[1:])
    mixed = ladders(LEVER, (*BOX[:1], *stamped), 36.0, 60.0, at_the_mark=False)
    assert not replace(LEVER, points=mixed[:1]).proven  # a stamp among what is added is a stamp


def test_stacks_that_follow_each_other_close_a_bracket_and_contradictions_are_dropped():
    def answers(*given):
        return tuple(
            ObservationState(i, None, kind, 30.0 + rung, Source.TYPED, tool_value=36.0, detail=rung_detail(rung))
            for i, (kind, rung) in enumerate(given)
        )

    pairs, _now = matched(answers((SILENT, 4), (CLICKED, 5)))
    assert [(p.tool, p.reference) for p in pairs] == [(36.0, 34.5)]
    assert matched(answers((SILENT, 4), (CLICKED, 6)))[0] == ()
    _, now = matched(answers((CLICKED, 4), (SILENT, 5)))
    assert (now.contradicted, now.clicked, now.silent) == (True, None, 5)
    hung = HungAt(36.0, (HungWeight("W", 4.0, 0.001),), 0.4, tuple((HungWeight("W", m, 0.001),) for m in range(1, 8)))

    def asked(*given):
        return next_rung(SeriesState(1, FOUND, Direction.CW, 36.0, 5, answers(*given), ()), hung)

    assert asked() == 3  # what hangs for the target
    assert asked((SILENT, 6)) is None  # nothing heavier hangs
    assert asked((CLICKED, 0)) is None
    assert asked((SILENT, 0), (CLICKED, 6)) == 3
    assert asked((SILENT, 3), (CLICKED, 4)) in (3, 4)  # repeats begin where it was found


@pytest.mark.parametrize(
    ("change", "ways"),
    [
        ({}, (TripFinding.SETTING, TripFinding.HOOK, TripFinding.WEIGHTS)),
        ({"pivot": 0.0}, (TripFinding.SETTING, TripFinding.WEIGHTS)),  # where its pin is was never said
        ({"kind": ToolKind(ToolType.SETTING, "B", 60.0, None, 0.0)}, (TripFinding.HOOK, TripFinding.WEIGHTS)),
        ({"kind": ToolKind(ToolType.INDICATING, "B", 60.0, 12.0, 0.5)}, (TripFinding.SETTING,)),
    ],
)
def test_how_a_trip_can_be_found_follows_from_the_tool(change, ways):
    assert possible(replace(WRENCH, **change)) == ways
