"""Short runs, characterisations, changed plans: what is proposed, what misleads, what each concludes."""

from dataclasses import replace
from datetime import timedelta

import pytest

from reckoner.core.comparison import Change
from reckoner.core.kinds import MeterMode
from reckoner.shop import bench, equipment, signing
from reckoner.shop.acts import ShopRefused
from reckoner.shop.planning import check, lacking, propose, warnings
from reckoner.shop.references import candidates
from reckoner.shop.register import card
from reckoner.shop.run import RunKind, Step
from reckoner.shop.signing import Outcome, choices, measured_effects
from reckoner.store.schema import Reference, Tool, ToolEvent, ToolModel
from tests.conftest import tool_id
from tests.shop.test_run import TODAY, prepared, read_all


def ready(session, wanted, act, kind):
    """A run of a kind as proposed, ready for its first reading."""
    plan = propose(session, wanted, TODAY, kind).plan
    run = bench.open_run(session, wanted, act, plan)
    for line in run.inspection:
        run = bench.look_over(session, run.id, line.line, True, "", act)
    points = tuple(s.target for s in run.found)
    best = candidates(session, run.tool, run.rules, TODAY, points)[0]
    run = bench.choose_reference(session, run.id, best.reference.id, "a check" if best.against else "", act)
    run = bench.record_room(session, run.id, 21.4, 0.46, "", act)
    run = bench.record_zero(session, run.id, "before", 0.01, act)
    while run.exercising:
        run = bench.record_exercise(session, run.id, run.exercise_target, act)
    return run


def test_a_quick_check_releases_a_held_tool_but_renews_nothing(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        session.add(ToolEvent(tool_id=wanted, at=act.at - timedelta(hours=1), kind="held", note="looked odd"))
        session.flush()
        before = card(session, wanted, TODAY)
        run = read_all(session, ready(session, wanted, act, RunKind.CHECK), act, 0.995)
        assert [(s.target, s.wanted) for s in run.series] == [(120, 3)]
        assert [c.outcome for c in choices(run, TODAY)] == [Outcome.RELEASED, Outcome.FULL_RUN]
        signed = signing.sign(session, run.id, act)
        after = card(session, wanted, TODAY)
        assert (before.held, after.held, signed.signed_due) == ("looked odd", "", None)
        assert after.due == before.due
        bad = read_all(session, ready(session, wanted, act, RunKind.CHECK), act, 0.95)
        assert choices(bad, TODAY)[0].outcome is Outcome.KEEP_HOLDING
        assert signing.sign(session, bad.id, act).outcome == "keep holding"
        assert card(session, wanted, TODAY).held.startswith("as found: Clicks 5.0")


@pytest.mark.parametrize(
    ("shift", "change", "outcome"),
    [
        (1.0, Change.UNCHANGED, Outcome.RELEASED),
        (0.985, Change.CHANGED, Outcome.FULL_RUN),
        (0.93, Change.CHANGED, Outcome.KEEP_HOLDING),
    ],
)
def test_after_a_fall_statistics_decide(demo, act, shift, change, outcome):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        earlier = replace(act, at=act.at - timedelta(days=30))
        base = prepared(session, wanted, earlier)
        while base.current:
            torque = base.current.target * (0.99 + 0.0005 * (len(base.current.counted) - 2))
            base = bench.record_reading(session, base.id, torque, "typed", earlier)
        base = bench.record_zero(session, base.id, "after", 0.0, earlier)
        signing.sign(session, base.id, replace(act, at=act.at - timedelta(days=29)))
        fall = ToolEvent(tool_id=wanted, at=act.at - timedelta(days=1), kind="fell", note="from the bench")
        session.add(fall)
        session.flush()
        found = propose(session, wanted, TODAY)
        assert (found.plan.kind, found.plan.event_id, found.plan.readings) == (RunKind.EVENT, fall.id, 5)
        assert "from the bench" in found.reason
        run = ready(session, wanted, act, RunKind.EVENT)
        assert run.event == "from the bench"
        while run.current:
            torque = 120 * shift * (0.99 + 0.0005 * (len(run.current.counted) - 2))
            run = bench.record_reading(session, run.id, torque, "typed", act)
        run = bench.record_zero(session, run.id, "after", 0.0, replace(act, at=act.at + timedelta(hours=1)))
        ((series, before, comparison),) = run.comparisons()
        assert (before.target, series.target, comparison.change) == (120, 120, change)
        assert choices(run, TODAY)[0].outcome is outcome
        signed = signing.sign(session, run.id, replace(act, at=act.at + timedelta(hours=2)))
        assert signed.outcome == outcome.value
        assert propose(session, wanted, TODAY).plan.kind is RunKind.FULL  # the event is answered


def test_a_characterisation_is_used_by_the_budgets_that_follow(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        run = ready(session, wanted, act, RunKind.CHARACTERISE)
        assert len(run.series) == 14
        assert [s.place for s in run.series[:2]] == ["remounted, 1 of 4", "remounted, 2 of 4"]
        steps = {"reproducibility": 0.1, "output_drive": 0.2, "interface": 0.05, "loading_point": 0.4}
        while run.current:
            now = run.current
            place = [s.id for s in run.series if s.phase == now.phase].index(now.id)
            run = bench.record_reading(session, run.id, 40 + place * steps[now.phase], "typed", act)
        run = bench.record_zero(session, run.id, "after", 0.0, replace(act, at=act.at + timedelta(hours=1)))
        found = measured_effects(run)
        assert found.reproducibility == pytest.approx(0.3)
        assert found.loading_point == pytest.approx(0.4)
        signing.sign(session, run.id, act)
        following = prepared(session, wanted, replace(act, at=act.at + timedelta(hours=2)))
        assert following.effects.output_drive == pytest.approx(0.6)
        assert following.effects_from.startswith("characterisation of this tool")
        point = read_all(session, following, act, 0.99).verdict(TODAY).points[0]
        assert not any(c.assumed for c in point.budget.components)
        other = ready(session, tool_id(demo, "HC-0422"), act, RunKind.FULL)
        assert other.effects.reproducibility is None
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
            directions=("cw",),
            readings=3,
            rule="mean",
            mode=MeterMode.PEAK.value,
        )
        said = warnings(found, changed)
        assert len(said) == 5
        assert "past the signal" in said[-1]
        with pytest.raises(ShopRefused, match="Give the reason"):
            bench.open_run(session, wanted, act, changed)
        run = bench.open_run(session, wanted, act, replace(changed, note="only these are used"))
        assert (run.rule, run.meter_mode, run.plan_note) == ("mean", MeterMode.PEAK, "only these are used")
        assert run.decision.rule.value == "mean"
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
        with pytest.raises(ShopRefused, match=r"drifted by 1\.6 °C"):
            bench.record_room(session, run.id, 23.0, 0.46, "", act)
        assert bench.record_room(session, run.id, 23.0, 0.46, "door open", act).room.drift == pytest.approx(1.6)
        with pytest.raises(ShopRefused, match="pulled counter-clockwise; this series is clockwise"):
            bench.record_reading(session, run.id, 80, "meter trace", act, turned="ccw")
        fresh = bench.open_run(session, tool_id(demo, "HC-0422"), act)
        with pytest.raises(ShopRefused, match="exercise at full scale"):
            bench.record_exercise(session, fresh.id, 60.0, act)


def test_after_half_an_hour_the_room_is_looked_at_again(demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
        late = replace(act, at=act.at + timedelta(minutes=40))
        run = read_all(session, run, late, 0.99)
        assert run.wants(Step.AS_FOUND) == "the room again"
        run = bench.record_room(session, run.id, 23.0, 0.46, "", late, "again")
        assert run.step is Step.DECIDE
        assert run.room_drifted


def test_zeros_of_each_series_are_kept_and_one_that_moved_makes_it_suspect(demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
        for _ in range(5):
            run = bench.record_reading(session, run.id, 39.8, "typed", act)
            run = bench.note_rest(session, run.id, 0.0, act, over=False)
        run = bench.note_rest(session, run.id, 0.5, act, over=True)
        assert (run.series[0].zero_before, run.series[0].zero_after) == (0.0, 0.5)
        run = read_all(session, run, act, 0.99)
        assert run.zero_moved
        assert "did not come back to its zero" in run.trust_words(TODAY)
        assert choices(run, TODAY)[0].outcome is Outcome.HELD


def test_what_the_register_lacks_is_asked_for_and_kept(demo, act):
    with demo.session() as session:
        model = ToolModel(
            maker="Ottermoor", name="N-1", type="II", class_="A", mechanism="click", maximum=50.0, unit="N.m", drive=""
        )
        session.add(model)
        session.flush()
        new = equipment.add_tool(session, " X-1 ", "77", model.id, act)
        tool = propose(session, new, TODAY).tool
        assert [lack.field for lack in lacking(tool)] == ["resolution", "lever_length", "drive"]
        for field, bad in (("resolution", 20.0), ("lever_length", 9.0), ("drive", " "), ("colour", "blue")):
            with pytest.raises(ShopRefused):
                equipment.complete(session, new, field, bad, act)
        for field, value in (("resolution", 0.5), ("lever_length", 0.28), ("drive", "⅜ in")):
            equipment.complete(session, new, field, value, act)
        assert propose(session, new, TODAY).lacking == ()
        with pytest.raises(ShopRefused, match="has that already"):
            equipment.complete(session, new, "drive", "½ in", act)
        with pytest.raises(ShopRefused, match="already a tool X-1"):
            equipment.add_tool(session, "X-1", "", model.id, act)
        assert any(m.name == "Ottermoor N-1" for m in equipment.models(session))
        meter = session.query(Reference).filter_by(number="PM-4").one()
        equipment.set_link(session, meter.id, "plain:/dev/ttyUSB0?baud=4800", act)
        assert meter.link.endswith("4800")
        with pytest.raises(ShopRefused, match="is not a speed"):
            equipment.set_link(session, meter.id, "plain:/dev/ttyUSB0?baud=fast", act)


def test_indicating_tools_look_at_their_own_zero_before_and_after(demo, act):
    with demo.session() as session:
        tool = next(t for t in session.query(Tool) if t.model.mechanism == "dial")
        plan = propose(session, tool.id, TODAY).plan
        run = bench.open_run(session, tool.id, act, plan)
        assert run.meter_mode is MeterMode.HOLD
        for line in run.inspection:
            run = bench.look_over(session, run.id, line.line, True, "wiped" if line.line == "Drive" else "", act)
        assert run.inspection[0].note == "wiped"
        best = candidates(session, run.tool, run.rules, TODAY)[0]
        run = bench.choose_reference(session, run.id, best.reference.id, "", act)
        run = bench.record_room(session, run.id, 21.4, 0.46, "", act)
        run = bench.record_zero(session, run.id, "before", 0.0, act)
        assert run.wants(Step.SET_UP) == "the tool's pointer"
        with pytest.raises(ShopRefused, match="off zero"):
            bench.record_zero(session, run.id, "pointer before", 30.0, act)
        run = bench.record_zero(session, run.id, "pointer before", 0.0, act)
        while run.exercising:
            run = bench.record_exercise(session, run.id, None, act)
        run = read_all(session, run, act, 0.995)
        assert run.wants(Step.AS_FOUND) == "the pointer's zero"
        run = bench.record_zero(session, run.id, "pointer after", 0.0, replace(act, at=act.at + timedelta(hours=1)))
        assert run.step is Step.DECIDE
