"""A whole run with known weights: what hangs, the bracket, the verdict; and what cannot hang so."""

from dataclasses import replace
from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from reckoner.core.decision.states import State
from reckoner.core.quantities.ownunits import METRIC
from reckoner.core.requirements.tooltypes import Direction, ToolKind, ToolType
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.people.present import people
from reckoner.shop.procedure import Distrust, NewObservation
from reckoner.shop.procedures.trips import bracketed, hook_detail, next_hook, next_try, walked
from reckoner.shop.register.rows import edit
from reckoner.shop.runs import adjusting, document, opening, setting_up, signing, taking
from reckoner.shop.runs.derivation import derivation
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.loading import load
from reckoner.shop.runs.recomputing import recompute
from reckoner.shop.runs.records import FOUND, ObservationState, SeriesState, Step
from reckoner.shop.setups import equipment, plan, worth
from reckoner.shop.setups.hanging import HungAt, HungWeight, Levelled, LeverFacts, amiss
from reckoner.shop.words.results import distrust_words
from reckoner.store.reader import reader_of
from reckoner.store.schema import Length, Tool, WeighingScale
from reckoner.store.terms import ObservationKind, Outcome, RegisterKind, Source
from tests.support.runs import hung_torque, later, looked_over, tool_id

CLICKED, SILENT = ObservationKind.CLICKED, ObservationKind.SILENT


def set_up(session, number, demo, act):
    """The run of a tool with the box's best ways hung at each of its points."""
    run = looked_over(session, opening.open_run(session, tool_id(demo, number), act), act)
    reader = reader_of(session)
    lever = replace(
        plan.lever_for(run.tool, equipment.gravity(reader)),
        own_mass=0.52, own_centre=0.09, length=0.0003, own_centre_uncertainty=0.001, levelled=Levelled.LEVEL,
    )  # fmt: skip
    weights = equipment.weights(reader)
    points = hung(lever, run, weights)
    run = setting_up.hang(session, run.id, replace(lever, points=points), act)
    run = setting_up.record_room(session, run.id, 21.5, 0.46, "", act)
    while run.step is Step.EXERCISE:
        run = taking.record_exercise(session, run.id, None, act)
    return run


def hung(lever, run, weights):
    """The best way for each point, made for what is aimed at."""
    return tuple(
        replace(plan.ways(lever, weights, plan.aim_for(run.tool, s.target))[0], target=s.target) for s in run.found
    )


def answered(session, run, act, error):
    """Every try answered as a tool does whose trips lie ``error`` above its settings."""
    tries = 0
    while run.current is not None:
        series, tries = run.current, tries + 1
        torque = hung_torque(run, series.target)
        setting = next_try(series, run.tool, torque, run.set_up.detail)
        kind = CLICKED if torque >= setting * (1 + error) else SILENT
        run = taking.observe(session, run.id, NewObservation(kind, None, Source.TYPED, tool_value=setting), act)
    return run, tries


def test_a_run_with_weights_finds_what_the_tool_does_and_is_recomputed(demo, act):
    with demo.session() as session:
        run = set_up(session, "HC-0125", demo, act)  # 5 to 25 N·m
        assert run.reference.proven
        run, tries = answered(session, run, act, 0.022)
        with pytest.raises(ShopRefused, match="This run has readings"):
            setting_up.hang(session, run.id, run.reference.set_up, act)
        found = judged(run)
        assert found.verdict.accepted is True
        for point in found.verdict.points:
            w = point.budget.expanded_uncertainty
            assert point.budget.deviation == pytest.approx(1 / 1.022 - 1, abs=w)
        assert tries < 50  # two tries a bracket once it was found, of which there are fifteen
        assert document.read(document.write(run.facts)) == run.facts
        lines = {
            line.what: line for line in derivation(run.tool, run.reference, found.verdict.points[0], found.verdict)
        }
        assert any(what.startswith("What hangs: W-") for what in lines)
        assert "Its known error" not in lines
        signed = signing.sign(session, run.id, later(act, 2))
        assert (signed.signature.outcome, signed.signature.due) == (Outcome.RELEASED, date(2027, 11, 24))
        assert [r.otherwise for r in recompute(session) if r.otherwise] == []
        assert load(session, run.id).reference.set_up == run.reference.set_up


def test_of_the_ways_to_hang_it_the_surest_of_the_fewest_weights_comes_first(demo, act):
    with demo.session() as session:
        run = looked_over(session, opening.open_run(session, tool_id(demo, "HC-0125"), act), act)
        lever = replace(plan.lever_for(run.tool, (9.80665, 0.026)), own_mass=0.52, own_centre=0.09)
        weights = equipment.weights(reader_of(session))
        for target in (5.2, 15.0, 24.0):
            found = plan.ways(lever, weights, target)
            assert 1 <= len(found) <= plan.MOST_WAYS
            keys = [(len(way.weights), lever.worth(way)) for way in found]
            assert keys == sorted(keys)
            assert all(lever.torque(way) == pytest.approx(target, rel=0.01) for way in found)
            assert all(w.uncertainty is not None for way in found for w in way.weights)  # weighed ones before stamps


def test_a_scale_or_rule_of_which_nobody_knows_how_good_it_is_is_not_offered(demo, act):
    with demo.session() as session:
        reader = reader_of(session)
        scales, rules = equipment.scales(reader), equipment.rules(reader)
        assert [s.uncertainty for s in scales] == sorted(s.uncertainty for s in scales)
        assert scales
        assert rules
        session.add_all([WeighingScale(number="SC-9"), Length(number="RU-9")])
        session.flush()
        assert (equipment.scales(reader), equipment.rules(reader)) == (scales, rules)


def test_a_stamp_alone_makes_it_a_shop_check(demo, act):
    with demo.session() as session:
        run = looked_over(session, opening.open_run(session, tool_id(demo, "HC-0125"), act), act)
        lever = replace(plan.lever_for(run.tool, (9.80665, 0.026)), own_mass=0.52, own_centre=0.09)
        believed = tuple(
            replace(w, uncertainty=None, mass=w.stamped) for w in equipment.weights(reader_of(session)) if w.stamped
        )
        points = hung(lever, run, believed)
        run = setting_up.hang(session, run.id, replace(lever, points=points), act)
        assert judged(run).distrust is Distrust.UNPROVEN
        assert points[0].weights[0].number in distrust_words(judged(run).distrust, run.reference)
        run = setting_up.record_room(session, run.id, 21.5, 0.46, "", act)
        while run.step is Step.EXERCISE:
            run = taking.record_exercise(session, run.id, None, act)
        run, _ = answered(session, run, act, 0.01)
        assert judged(run).verdict.state is State.COMPARED


def test_what_hangs_is_worth_what_it_is_worth_and_shortcuts_are_told():
    """12 kg at 0.42 m, 46.6° N at 1850 m, the tool 1.35 kg balanced at 0.19 m: 51.916 N·m, u 0.0623 N·m."""
    hung = HungAt(52.0, (HungWeight("W", 12.0, 0.01),), 0.42)
    lever = LeverFacts(
        (hung,), 1.35, 0.19, 0.42, length=0.001, own_centre_uncertainty=0.0, own_mass_uncertainty=0.0, gravity=9.801936,
        gravity_uncertainty=2e-4, levelled=Levelled.LEVEL,
    )  # fmt: skip
    assert lever.torque(hung) == pytest.approx(51.916, abs=5e-4)
    assert lever.worth(hung) * lever.torque(hung) / 2 == pytest.approx(0.0623, abs=1e-4)
    told = dict(worth.shortcuts(lever, hung, {"W": 12.5}))
    assert told["rounding gravity to 10"] == pytest.approx(0.0202, abs=1e-4)
    assert told["forgetting the tool's own weight"] == pytest.approx(-2.5142 / 51.916, abs=1e-4)
    assert told["a lever 5° off level, unseen"] == pytest.approx(0.0038, abs=1e-4)
    assert told["believing the stamps"] == pytest.approx(0.5 * 9.801936 * 0.42 / 51.916, abs=1e-4)
    assert "taking mass times length, hung off the grip mark" not in told
    pinned = replace(lever, pivot=0.03)
    away = replace(hung, hook=0.305)
    plain = dict(worth.shortcuts(pinned, away, {}))["taking mass times length, hung off the grip mark"]
    assert plain == pytest.approx(pinned.made(away).torque / pinned.torque(away) - 1)
    assert plain > 0.02
    weighed = replace(pinned, head=0.3)
    assert dict(worth.shortcuts(weighed, away, {}))["forgetting the tool's own weight"] < 0
    said = worth.biggest_share(lever, hung)
    assert said.startswith("The length to the hook is ")
    assert "measure it with a finer rule; half as unsure, W goes from 0.24" in said.replace("\u202f", " ")


@pytest.mark.parametrize(
    ("change", "why"),
    [
        (lambda f: replace(f, own_mass=0.0), "Weigh the tool and balance it"),
        (lambda f: replace(f, own_mass=0.001), "cannot be what a torque tool weighs"),
        (lambda f: replace(f, own_centre=0.5), "between the drive and the grip mark"),
        (lambda f: replace(f, own_centre=0.0005), "between the drive and the grip mark"),
        (lambda f: replace(f, grip=24.0), "cannot be a lever's length"),
        (lambda f: replace(f, grip=0.06, pivot=0.07), "beyond the pin; measure it again"),
        (lambda f: replace(f, head=-0.1), "head cannot weigh"),
        (lambda f: replace(f, hanger=-0.1), "what a hook and its rope weigh"),
        (lambda f: replace(f, points=f.points[1:]), "Nothing hangs for 5"),
        (lambda f: moved(f, 0.3), "cannot hang beyond the grip mark"),
        (lambda f: moved(f, 0.02), "beyond the pin"),
        (lambda f: moved(f, 0.15), "too far from 5"),
        (lambda f: heavy(f, 120.0), "more than a lever in a vice should carry"),
    ],
)
def test_what_cannot_hang_so_is_refused_in_words(demo, act, change, why):
    with demo.session() as session:
        run = looked_over(session, opening.open_run(session, tool_id(demo, "HC-0125"), act), act)
        lever = replace(plan.lever_for(run.tool, (9.80665, 0.026)), own_mass=0.52, own_centre=0.09)
        weights = equipment.weights(reader_of(session))
        lever = replace(lever, points=tuple(plan.ways(lever, weights, s.target)[0] for s in run.found))
        with pytest.raises(ShopRefused, match=why):
            setting_up.hang(session, run.id, change(lever), act)
        assert run.reference is None


def test_a_balance_point_is_believed_from_a_twentieth_of_the_lever_on():
    lever = LeverFacts((), 1.0, 0.0205, 0.4, 0.0)
    assert amiss(lever) is None
    assert amiss(replace(lever, own_centre=0.0195))[0] == "own_centre"


def moved(lever, hook):
    return replace(lever, points=(replace(lever.points[0], hook=hook), *lever.points[1:]))


def heavy(lever, mass):
    hung = HungAt(lever.points[0].target, (HungWeight("X", mass, 0.01),), 0.05)
    return replace(lever, points=(hung, *lever.points[1:]))


def seen(*answers):
    """Observations such as (CLICKED, 48) against 50 N·m."""
    return tuple(
        ObservationState(i, None, kind, 50.0, Source.TYPED, tool_value=float(setting))
        for i, (kind, setting) in enumerate(answers)
    )


def test_one_side_alone_is_no_reading_and_answers_that_contradict_are_dropped():
    assert bracketed(seen((CLICKED, 48), (CLICKED, 49)), 1.0)[0] == ()
    assert [p.tool for p in bracketed(seen((CLICKED, 48), (SILENT, 49)), 1.0)[0]] == [48.5]
    assert bracketed(seen((CLICKED, 48), (SILENT, 50)), 1.0)[0] == ()
    pairs, now = bracketed(seen((CLICKED, 48), (SILENT, 47), (SILENT, 48)), 1.0)
    assert (pairs, now.contradicted) == ((), False)
    pairs, now = bracketed(seen((SILENT, 48), (CLICKED, 49)), 1.0)
    assert (pairs, now.contradicted, now.clicked, now.silent) == ((), True, 49.0, None)
    pairs, now = bracketed(seen((CLICKED, 48), (SILENT, 47)), 1.0)
    assert (pairs, now.contradicted, now.clicked, now.silent) == ((), True, None, 47.0)


@given(st.floats(-0.3, 0.3), st.sampled_from([0.25, 0.5, 1.0, 2.0]), st.floats(30.0, 95.0))
def test_the_next_try_closes_the_bracket_around_where_the_tool_trips(error, step, torque):
    """Whatever the tool does, a few tries enclose its trip between two neighbouring graduations; repeats take two."""
    tool = tool_of(step)
    observations, trip = (), torque / (1 + error)  # the setting that trips at just this torque
    counts = []
    for wanted in (1, 2, 3):
        tries = 0
        while len(bracketed(observations, step)[0]) < wanted:
            tries += 1
            assert tries < 30
            series = SeriesState(1, FOUND, Direction.CW, torque, 5, observations, ())
            setting = next_try(series, tool, torque, f'{{"step": {step}}}')
            if setting is None:
                return  # it trips outside its scale: no bracket closes, and none is claimed
            kind = CLICKED if setting <= trip else SILENT
            observations = (
                *observations,
                ObservationState(len(observations), None, kind, torque, Source.TYPED, tool_value=setting),
            )
        counts.append(tries)
    for pair in bracketed(observations, step)[0]:
        assert abs(pair.tool - trip) <= step / 2 * (1 + 1e-6)
    assert counts[1] <= 3
    assert counts[2] <= 3


def tool_of(step):
    from reckoner.core.quantities.units import N_M
    from reckoner.core.requirements.tooltypes import Approach, Mechanism

    kind = ToolKind(ToolType.SETTING, "A", 100.0, 20.0, step)
    return ToolFacts(
        1, "W-1", "", "", "", kind, Mechanism.CLICK, N_M, "", (Direction.CW,), Approach.FROM_BELOW, "", "", None
    )


def test_a_preset_tool_keeps_its_setting_and_the_weight_walks(demo, act):
    """A fixed value, ten readings of it: the trip lies between two hooks two millimetres apart."""
    with demo.session() as session:
        model = session.get_one(Tool, tool_id(demo, "HC-0114")).model_id
        edit(session, RegisterKind.MODEL, model, {"lever_length": 0.33, "pivot_offset": 0.025}, act)
        run = looked_over(session, opening.open_run(session, tool_id(demo, "HC-0114"), act), act)
        lever = replace(plan.lever_for(run.tool, (9.80665, 0.002)), own_mass=0.9, own_centre=0.14, length=0.0003)
        run = setting_up.hang(
            session, run.id, replace(lever, points=hung(lever, run, equipment.weights(reader_of(session)))), act
        )
        run = setting_up.record_room(session, run.id, 21.5, 0.46, "", act)
        while run.step is Step.EXERCISE:
            run = taking.record_exercise(session, run.id, None, act)
        trip, tries = run.found[0].target * 0.985, 0
        while run.current is not None:
            series, tries = run.current, tries + 1
            facts = run.reference.set_up
            hook = next_hook(series, facts, facts.at(series.target), METRIC)
            clicked = facts.torque(replace(facts.at(series.target), hook=hook)) >= trip
            seen = NewObservation(CLICKED if clicked else SILENT, None, Source.TYPED, detail=hook_detail(hook))
            run = taking.observe(session, run.id, seen, act)
        assert tries < 40
        point = judged(run).verdict.points[0]
        assert len(point.budget.observations.tool) == 10
        assert set(point.budget.observations.tool) == {run.found[0].target}
        assert point.budget.deviation == pytest.approx(1 / 0.985 - 1, abs=0.005)
        assert point.budget.component("reference_resolution").value > 0.0005  # the last two millimetres count
        with pytest.raises(ShopRefused, match="between the pin and the grip mark"):
            strike_last(session, run, act)
            taking.observe(session, run.id, NewObservation(CLICKED, None, Source.TYPED, detail=hook_detail(0.5)), act)
        signing_run = load(session, run.id)
        assert signing_run.reference.set_up == run.reference.set_up


def strike_last(session, run, act):
    last = run.found[0].observations[-1].id
    taking.strike(session, run.id, [last], "to try another", act)


def walk_of(*answers):
    return tuple(
        ObservationState(i, None, kind, 100.0 * hook, Source.TYPED, tool_value=30.0, detail=hook_detail(hook))
        for i, (kind, hook) in enumerate(answers)
    )


def test_a_walk_closes_between_two_neighbouring_hooks_and_contradictions_are_dropped():
    pairs, _now = walked(walk_of((CLICKED, 0.302), (SILENT, 0.300)))
    assert [(p.tool, p.reference) for p in pairs] == [(30.0, pytest.approx(30.1))]
    assert walked(walk_of((CLICKED, 0.310), (SILENT, 0.300)))[0] == ()
    _, now = walked(walk_of((CLICKED, 0.300), (SILENT, 0.305)))
    assert (now.contradicted, now.clicked, now.silent) == (True, None, 0.305)
    _, now = walked(walk_of((SILENT, 0.300), (CLICKED, 0.299)))
    assert (now.contradicted, now.clicked, now.silent) == (True, 0.299, None)


@given(st.floats(0.2, 0.39))
def test_the_next_hook_closes_a_walk_around_where_the_tool_trips(trip):
    lever = LeverFacts((), 1.0, 0.15, 0.4, 0.03)
    hung_there = HungAt(30.0, (HungWeight("W", 8.0, 0.004),), 0.35)
    observations, counts = (), []
    for wanted in (1, 2, 3):
        tries = 0
        while len(walked(observations)[0]) < wanted:
            tries += 1
            assert tries < 25
            series = SeriesState(1, FOUND, Direction.CW, 30.0, 5, observations, ())
            hook = next_hook(series, lever, hung_there, METRIC)
            kind = CLICKED if hook >= trip else SILENT
            one = ObservationState(
                len(observations), None, kind, 100.0 * hook, Source.TYPED, tool_value=30.0, detail=hook_detail(hook)
            )
            observations = (*observations, one)
        counts.append(tries)
    assert all(abs(p.reference / 100.0 - trip) <= 0.0011 for p in walked(observations)[0])
    assert max(counts[1:]) <= 4


def test_it_is_adjusted_by_answers_as_by_readings_one_bracket_a_turn(demo, act):
    """HC-0125 trips 4 % high; each turn of an eighth takes some off, and one clicked and one silent tell how much."""
    with demo.session() as session:
        run = set_up(session, "HC-0125", demo, act)
        run, _ = answered(session, run, act, 0.04)
        person = next(p for p in people(reader_of(session)) if p.id == act.person_id)
        assert adjusting.why_not(run, person) == ""
        run = adjusting.begin(session, run.id, run.series[1].id, act)
        wanted = adjusting.advice(run)[0]
        assert wanted.next_turn == pytest.approx((15 - 15 * 1.04) / 0.9, abs=0.3)  # the model: 0.9 N·m a turn
        run = adjusting.turn(session, run.id, -0.5, act)
        assert run.current.wanted == 1
        with pytest.raises(ShopRefused, match="Read at least once after the last turn"):
            adjusting.turn(session, run.id, -0.5, act)
        tries = 0
        while not run.adjusting.steps[-1].pairs:
            series, tries = run.current, tries + 1
            torque = hung_torque(run, series.target)
            setting = next_try(series, run.tool, torque, run.set_up.detail)
            trip = setting * 1.04 - 0.5 * 0.9
            kind = CLICKED if torque >= trip else SILENT
            run = taking.observe(session, run.id, NewObservation(kind, None, Source.TYPED, tool_value=setting), act)
        assert tries < 8
        (after,) = run.adjusting.steps[-1].readings
        assert after == pytest.approx(15 * 1.04 - 0.45, abs=0.25)  # what a meter would have read, to half a graduation
        assert adjusting.advice(run)[0].rate_per_turn == pytest.approx(0.9, abs=0.2)
        run = adjusting.turn(session, run.id, -0.25, act)
        while (setting := next_try(run.current, run.tool, torque, run.set_up.detail)) is not None:
            run = taking.observe(session, run.id, NewObservation(SILENT, None, Source.TYPED, tool_value=setting), act)
        assert run.procedure.beyond(run)  # silent even at its lowest: it can only be turned on
        run = adjusting.turn(session, run.id, 0.125, act)
        run = taking.observe(session, run.id, NewObservation(CLICKED, None, Source.TYPED, tool_value=15.0), act)
        run = taking.observe(session, run.id, NewObservation(SILENT, None, Source.TYPED, tool_value=15.25), act)
        advised = adjusting.advice(run)[0]  # the turn that was not read counts with the one that was
        assert run.adjusting.turns == pytest.approx(-0.625)
        assert advised.rate_per_turn == pytest.approx(0.9, abs=0.4)
