"""Short runs, characterisations, changed plans: what is proposed, what misleads, what each concludes."""

import math
from dataclasses import replace
from datetime import timedelta

import pytest
from sqlalchemy import select

from reckoner.core.decision.states import State
from reckoner.core.history.comparison import ComparedChange
from reckoner.core.requirements.rules import Rule
from reckoner.core.requirements.tooltypes import Direction, MeterMode
from reckoner.shop.events.recording import record_event
from reckoner.shop.papers.certificates import certificate_of
from reckoner.shop.papers.resultfiles import recomputed, result_file
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.procedure import Distrust
from reckoner.shop.procedures.choosing import candidates
from reckoner.shop.register import completing
from reckoner.shop.register.cards import card
from reckoner.shop.register.completing import ModelFact
from reckoner.shop.register.sheet import of_model, of_tool
from reckoner.shop.runs import opening, setting_up, signing, taking
from reckoner.shop.runs.characterising import measured
from reckoner.shop.runs.judging import comparisons, judged
from reckoner.shop.runs.outcomes import choices
from reckoner.shop.runs.planning import check, lacking, propose, warnings
from reckoner.shop.runs.records import Step
from reckoner.shop.runs.steps import room_drifted, wants
from reckoner.shop.words.effects import characterised_sentence, effects_words, place_words
from reckoner.shop.words.results import comparison_sentence, want_words
from reckoner.store.reader import reader_of
from reckoner.store.schema import Signature, Tool, ToolModel
from reckoner.store.terms import EventKind, Outcome, RunKind, ZeroMoment
from tests.support.runs import TODAY, closed, later, prepared, read, read_all, ready, tool_id


def kept_sentence(session, run):
    """What was kept with a run's signature."""
    return session.scalar(select(Signature.sentence).where(Signature.run_id == run.id))


def test_a_quick_check_releases_a_held_tool_but_renews_nothing(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        record_event(session, wanted, EventKind.HELD, "looked odd", later(act, -1))
        before = card(reader_of(session), wanted)
        run = read_all(session, ready(session, wanted, act, RunKind.CHECK), act, 0.995)
        assert [(s.target, s.wanted) for s in run.series] == [(120, 3)]
        assert [c.outcome for c in choices(run, TODAY)] == [Outcome.RELEASED, Outcome.FULL_RUN]
        signed = signing.sign(session, run.id, act)
        after = card(reader_of(session), wanted)
        assert (before.held, after.held, signed.signature.due) == ("looked odd", "", None)
        assert after.due(TODAY) == before.due(TODAY)
        near = read_all(session, ready(session, wanted, act, RunKind.CHECK), act, 0.966)
        assert judged(near).verdict.state is State.INSIDE_NEAR
        assert choices(near, TODAY)[0].outcome is Outcome.FULL_RUN  # too close to be sure by three readings
        signing.sign(session, near.id, act, Outcome.RELEASED)
        bad = read_all(session, ready(session, wanted, act, RunKind.CHECK), act, 0.95)
        assert choices(bad, TODAY)[0].outcome is Outcome.KEEP_HOLDING
        assert signing.sign(session, bad.id, act).signature.outcome is Outcome.KEEP_HOLDING
        assert card(reader_of(session), wanted).held.startswith("as found: Clicks 5.0")


def test_a_quick_check_by_a_rule_set_that_renews_still_renews_nothing(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        full = propose(session, wanted, TODAY, RunKind.FULL).plan
        changed = {"rule_set": full.rule_set, "points": full.points, "readings": full.readings, "note": "as a full run"}
        run = ready(session, wanted, act, RunKind.CHECK, **changed)
        assert run.rules.renews_due_date
        run = closed(session, read_all(session, run, act, 0.995) if run.current else run, act)
        assert signing.sign(session, run.id, later(act, 2)).signature.due is None


@pytest.mark.parametrize(
    ("shift", "change", "outcome"),
    [
        (1.0, ComparedChange.UNCHANGED, Outcome.RELEASED),
        (0.985, ComparedChange.CHANGED, Outcome.FULL_RUN),
        (0.93, ComparedChange.CHANGED, Outcome.KEEP_HOLDING),
    ],
)
def test_after_a_fall_statistics_decide(demo, act, shift, change, outcome):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        earlier = replace(act, at=act.at - timedelta(days=30))
        base = prepared(session, wanted, earlier)
        while base.current:
            torque = base.current.target * (0.99 + 0.0005 * (len(base.current.counted) - 2))
            base = read(session, base, torque, earlier)
        base = setting_up.record_zero(session, base.id, ZeroMoment.AFTER, 0.0, earlier)
        signing.sign(session, base.id, replace(act, at=act.at - timedelta(days=29)))
        fall = record_event(session, wanted, EventKind.FELL, "from the bench", later(act, -24))
        assert card(reader_of(session), wanted).held == "from the bench"  # until a check has answered
        found = propose(session, wanted, TODAY)
        assert (found.plan.kind, found.plan.event_id, found.plan.readings) == (RunKind.EVENT, fall.id, 5)
        assert "from the bench" in found.reason
        run = ready(session, wanted, act, RunKind.EVENT)
        assert run.event == "from the bench"
        while run.current:
            torque = 120 * shift * (0.99 + 0.0005 * (len(run.current.counted) - 2))
            run = read(session, run, torque, act)
        run = setting_up.record_zero(
            session, run.id, ZeroMoment.AFTER, 0.0, replace(act, at=act.at + timedelta(hours=1))
        )
        ((series, before, comparison),) = comparisons(run)
        assert (before.target, series.target, comparison.change) == (120, 120, change)
        assert choices(run, TODAY)[0].outcome is outcome
        signed = signing.sign(session, run.id, replace(act, at=act.at + timedelta(hours=2)))
        assert signed.signature.outcome is outcome
        change_first, _, how_it_stands = kept_sentence(session, run).partition("; ")
        assert change_first == comparison_sentence(comparison, before.on)
        assert how_it_stands.startswith("Clicks")
        assert propose(session, wanted, TODAY).plan.kind is RunKind.FULL  # the event is answered


def test_a_characterisation_is_used_by_the_budgets_that_follow(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        run = ready(session, wanted, act, RunKind.CHARACTERISE)
        assert len(run.series) == 14
        assert [place_words(s.effect, s.place) for s in run.series[:2]] == ["remounted, 1 of 4", "remounted, 2 of 4"]
        steps = {"reproducibility": 0.1, "output_drive": 0.2, "interface": 0.05, "loading_point": 0.4}
        while run.current:
            now = run.current
            place = [s.id for s in run.series if s.effect is now.effect].index(now.id)
            run = read(session, run, 40 + place * steps[now.effect], act)
        run = setting_up.record_zero(
            session, run.id, ZeroMoment.AFTER, 0.0, replace(act, at=act.at + timedelta(hours=1))
        )
        found = measured(run)
        rectangle = 2 * math.sqrt(3) / 2.059  # the width that has the standard deviation of a range of four means
        assert found.reproducibility.b == pytest.approx(0.3 * rectangle)
        assert "(range 0.30 of 4 means, d₂ 2.059; ν 2.9)" in characterised_sentence(run)
        assert found.loading_point.b == pytest.approx(0.4)
        model = run.tool.model_id
        assert of_tool(reader_of(session), wanted, model).startswith("Not characterised")
        signing.sign(session, run.id, act)
        assert kept_sentence(session, run) == characterised_sentence(run)
        said = of_tool(reader_of(session), wanted, model).replace("\u202f", " ")
        assert said.startswith("Characterised on 24 Nov 2026 itself: remounting 0.50 N·m (ν 2.9), drive positions 1.0")
        assert of_model(reader_of(session), model).startswith("Not characterised")
        following = prepared(session, wanted, replace(act, at=act.at + timedelta(hours=2)))
        assert following.facts.measured.effects.output_drive.b == pytest.approx(0.6 * rectangle)
        assert effects_words(following.facts.measured).startswith("characterisation of this tool")
        point = judged(read_all(session, following, act, 0.99)).verdict.points[0]
        assert not any(c.assumed for c in point.budget.components)
        other = ready(session, tool_id(demo, "HC-0422"), act, RunKind.FULL)
        assert other.facts.measured.effects.reproducibility is None
        first = ready(session, tool_id(demo, "HC-0418"), act, RunKind.CHARACTERISE)
        assert first.kind is RunKind.CHARACTERISE


def test_a_changed_plan_misleads_only_with_a_reason_and_within_the_tools_reach(demo, act):
    wanted = tool_id(demo, "HC-0318")  # used in both directions
    with demo.session() as session:
        found = propose(session, wanted, TODAY)
        assert found.plan.directions == ("cw", "ccw")
        assert warnings(found, found.plan) == ()
        changed = replace(
            found.plan,
            points=found.plan.points[1:],
            directions=(Direction.CW,),
            readings=3,
            rule=Rule.MEAN,
            mode=MeterMode.PEAK,
        )
        said = warnings(found, changed)
        assert len(said) == 5
        assert "past the signal" in said[-1]
        with pytest.raises(ShopRefused, match="Give the reason"):
            opening.open_run(session, wanted, act, changed)
        run = opening.open_run(session, wanted, act, replace(changed, note="only these are used"))
        assert (run.plan.rule, run.meter_mode, run.plan.note) == (Rule.MEAN, MeterMode.PEAK, "only these are used")
        assert run.decision.rule is Rule.MEAN
        for bad, words in (
            ({"points": ()}, "at least one point"),
            ({"points": (100.0, 100.0)}, "Two points are the same"),
            ({"points": (400.0,)}, "outside the tool's range"),
            ({"points": (100.9,)}, r"nearest graduation is 100"),
            ({"readings": 1}, "take 2 to 50"),
            ({"directions": ()}, "at least one direction"),
        ):
            with pytest.raises(ShopRefused, match=words):
                check(replace(found.plan, **bad), found.tool)


def test_the_room_drifting_and_a_pull_the_other_way_are_refused(demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0318"), act)
        with pytest.raises(ShopRefused, match=r"drifted by 1\.6.°C"):
            setting_up.record_room(session, run.id, 23.0, 0.46, "", act)
        assert setting_up.record_room(session, run.id, 23.0, 0.46, "door open", act).room.drift == pytest.approx(1.6)
        with pytest.raises(ShopRefused, match="pulled counter-clockwise; this series is clockwise"):
            taking.observe(session, run.id, replace(taking.typed(80), turned=Direction.CCW), act)
        fresh = opening.open_run(session, tool_id(demo, "HC-0422"), act)
        with pytest.raises(ShopRefused, match="exercise at full scale"):
            taking.record_exercise(session, fresh.id, 60.0, act)


@pytest.mark.parametrize(("kind", "decides"), [(RunKind.FULL, False), (RunKind.CHECK, True)])
def test_a_room_that_nobody_measured_is_said_and_costs_a_full_run_its_verdict_alone(demo, act, kind, decides):
    with demo.session() as session:
        run = ready(session, tool_id(demo, "HC-0417"), act, kind, room=False)
        assert (run.room, run.room_said) == (None, True)
        run = read_all(session, run, act, 0.99)
        assert run.step is Step.DECIDE  # nobody asks for it again
        assert judged(run).verdict.accepted is (True if decides else None)
        assert judged(run).distrust is (None if decides else Distrust.ROOM_NOT_MEASURED)
        run = signing.sign(session, run.id, later(act, 2))
        paper = certificate_of(session, run)
        rows = dict(line for _, lines in paper.blocks for line in lines)
        assert rows["Temperature"] == "not measured"
        assert any("room was not measured" in words for words in paper.remarks) is not decides
        assert recomputed(result_file(session, run))[1] == ()


def test_a_check_takes_the_room_that_was_measured_before_one_that_was_not(demo, act):
    with demo.session() as session:
        ready(session, tool_id(demo, "HC-0417"), act, RunKind.CHECK)
        ready(session, tool_id(demo, "HC-0318"), later(act, 0.1), RunKind.FULL, room=False)
        wanted = tool_id(demo, "HC-0302")
        soon = later(act, 0.2)
        run = opening.open_run(session, wanted, soon, propose(session, wanted, TODAY, RunKind.CHECK).plan)
        run = setting_up.take_earlier_room(session, setting_up.look_over_all(session, run.id, soon), soon)
        assert run.room.temperature == 21.4


def test_what_was_measured_stays_measured(demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0318"), act)
        with pytest.raises(ShopRefused, match="measured in this run already"):
            setting_up.record_room_not_measured(session, run.id, act)


def test_after_half_an_hour_the_room_is_looked_at_again(demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
        late = replace(act, at=act.at + timedelta(minutes=40))
        run = read_all(session, run, late, 0.99)
        assert want_words(wants(run, Step.AS_FOUND)) == "the room again"
        run = setting_up.record_room(session, run.id, 23.0, 0.46, "", late)
        assert run.step is Step.DECIDE
        assert room_drifted(run)


def test_zeros_of_each_series_are_kept_and_one_that_moved_makes_it_suspect(demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
        for _ in range(5):
            run = read(session, run, 39.8, act)
            run = setting_up.note_rest(session, run.id, 0.0, act, over=False)
        run = setting_up.note_rest(session, run.id, 0.5, act, over=True)
        assert (run.series[0].zero_before, run.series[0].zero_after) == (0.0, 0.5)
        run = read_all(session, run, act, 0.99)
        assert judged(run).distrust is Distrust.ZERO_MOVED
        assert choices(run, TODAY)[0].outcome is Outcome.HELD


def test_what_the_register_lacks_is_asked_for_and_kept(demo, act):
    with demo.session() as session:
        model = ToolModel(
            maker="Ottermoor", name="N-1", type="II", class_="A", mechanism="click", maximum=50.0, unit="N.m", drive=""
        )
        session.add(model)
        session.flush()
        new = completing.add_tool(session, " X-1 ", "77", model.id, act)
        tool = propose(session, new, TODAY).tool
        assert [lack.fact for lack in lacking(tool)] == [f for f in ModelFact if f is not ModelFact.SECOND_RESOLUTION]
        for field, bad in ((ModelFact.RESOLUTION, 20.0), (ModelFact.LEVER_LENGTH, 9.0), (ModelFact.DRIVE, " ")):
            with pytest.raises(ShopRefused), session.begin_nested():
                completing.complete(session, new, field, bad, act)
        for field, value in ((ModelFact.RESOLUTION, 0.5), (ModelFact.LEVER_LENGTH, 0.28), (ModelFact.DRIVE, "⅜ in")):
            completing.complete(session, new, field, value, act)
        assert propose(session, new, TODAY).lacking == ()
        with pytest.raises(ShopRefused, match="has that already"):
            completing.complete(session, new, ModelFact.DRIVE, "½ in", act)
        with pytest.raises(ShopRefused, match="already a tool X-1"):
            completing.add_tool(session, "X-1", "", model.id, act)
        assert any(m.name == "Ottermoor N-1" for m in completing.models(session))


def test_indicating_tools_look_at_their_own_zero_before_and_after(demo, act):
    with demo.session() as session:
        tool = next(t for t in session.query(Tool) if t.model.mechanism == "dial")
        plan = propose(session, tool.id, TODAY).plan
        run = opening.open_run(session, tool.id, act, plan)
        assert run.meter_mode is MeterMode.HOLD
        for line in run.inspection:
            run = setting_up.look_over(session, run.id, line.line, True, "wiped" if line.line == "Drive" else "", act)
        assert run.inspection[0].note == "wiped"
        best = candidates(session, run.tool, run.rules, TODAY)[0]
        run = setting_up.choose_reference(session, run.id, best.reference.id, "", act)
        run = setting_up.record_room(session, run.id, 21.4, 0.46, "", act)
        run = setting_up.record_zero(session, run.id, ZeroMoment.BEFORE, 0.0, act)
        assert want_words(wants(run, Step.SET_UP)) == "the tool's pointer"
        with pytest.raises(ShopRefused, match="off zero"):
            setting_up.record_pointer(session, run.id, ZeroMoment.BEFORE, 30.0, act)
        run = setting_up.record_pointer(session, run.id, ZeroMoment.BEFORE, 0.0, act)
        while run.exercising:
            run = taking.record_exercise(session, run.id, None, act)
        while run.current:
            run = read(session, run, run.current.target * 0.995, act)
        run = setting_up.record_zero(session, run.id, ZeroMoment.AFTER, 0.0, later(act, 1))
        assert want_words(wants(run, Step.AS_FOUND)) == "the pointer's zero"
        run = setting_up.record_pointer(session, run.id, ZeroMoment.AFTER, 0.0, later(act, 1))
        assert run.step is Step.DECIDE
