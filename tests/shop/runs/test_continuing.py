"""A check that becomes the full run of its tool: nothing that was read is read again, and it can be adjusted in."""

from dataclasses import replace

import pytest

from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.people.present import PersonFacts
from reckoner.shop.people.rights import rights_of
from reckoner.shop.planning.idlebench import idle_bench
from reckoner.shop.procedure import NewObservation
from reckoner.shop.procedures.weights import next_asked
from reckoner.shop.records import checking
from reckoner.shop.register import registerfile as register
from reckoner.shop.register.intake import take_in
from reckoner.shop.runs import adjusting, opening, setting_up, signing, taking
from reckoner.shop.runs.continuing import continue_in_full, why_not
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.loading import load
from reckoner.shop.runs.planning import propose
from reckoner.shop.runs.records import Step
from reckoner.shop.setups.hanging import HungAt, HungWeight, LeverFacts
from reckoner.store.database import Database
from reckoner.store.schema import Person
from reckoner.store.terms import ObservationKind, Outcome, RunKind, Source
from tests.support.clock import NOW
from tests.support.runs import TODAY, closed, later, looked_over, read, read_all, ready, tool_id

HC = "HC-0417"


def checked(session, demo, act, factor=0.93):
    run = ready(session, tool_id(demo, HC), act, RunKind.CHECK)
    while run.current:
        run = read(session, run, run.current.target * factor, act)
    return closed(session, run, act)


def test_a_check_that_is_outside_goes_on_with_its_readings_and_can_be_adjusted_in(demo, act):
    with demo.session() as session:
        half = ready(session, tool_id(demo, HC), act, RunKind.CHECK)
        with pytest.raises(ShopRefused, match="Take its readings first"):
            continue_in_full(session, half.id, act)
        opening.give_up(session, half.id, "begun anew", act)
        check = checked(session, demo, act)
        run = continue_in_full(session, check.id, act)
        assert (run.kind, run.rules.name) == (RunKind.FULL, run.tool.rule_set)
        assert run.step is Step.AS_FOUND  # looked over, set up and exercised as it was
        (read_before,) = [s for s in run.found if s.target == check.found[0].target and s.pairs]
        assert [p.reference for p in read_before.pairs] == [p.reference for p in check.found[0].pairs]
        assert {s.wanted for s in run.found} == {5}
        assert read_before.missing == 2
        asked = propose(session, run.tool.id, TODAY, RunKind.FULL).plan
        assert {(s.direction, s.target) for s in run.found} == {(d, p) for d in asked.directions for p in asked.points}
        assert opening.open_run_of(session, run.tool.id) == run.id
        assert load(session, check.id).abandoned
        assert idle_bench(session, TODAY).given_up is None or "went on" not in idle_bench(session, TODAY).given_up.why
        run = read_all(session, run, act, 0.93)
        person = session.get_one(Person, act.person_id)
        may = PersonFacts(person.id, person.initials, person.name, rights_of(person))
        assert adjusting.why_not(run, may) == ""
        assert why_not(run) == "Only a check goes on as a full run."
        assert judged(run).verdict.accepted is False
        run = signing.sign(session, run.id, later(act, 3), Outcome.HELD)
        assert run.signed
        with pytest.raises(ShopRefused, match="signed"):
            continue_in_full(session, run.id, act)
    with demo.session() as session:
        assert [f for f in checking.walk(session) if isinstance(f, checking.CheckFinding)] == []


def test_points_that_the_reference_does_not_reach_are_left_out_and_said(demo, act):
    with demo.session() as session:
        run = ready(session, tool_id(demo, HC), act, RunKind.CHECK)
        facts = run.procedure.extended
        assert facts(None, run, run.rules, (120.0, 5000.0), TODAY)[1] == (120.0,)
        overridden = replace(run, set_up=replace(run.set_up, override="nothing else is here"))
        assert facts(None, overridden, run.rules, (5000.0,), TODAY)[1] == (5000.0,)


WEIGHTS = """
people = [{ initials = "J. D.", name = "J. Dell" }]
[[models]]
maker = "Ottermoor"
name = "OT-60"
type = "II"
class = "A"
mechanism = "click"
minimum = "12 N.m"
maximum = "60 N.m"
resolution = "0.5 N.m"
lever_length = "400 mm"
pivot_offset = "0 mm"
[[tools]]
number = "T-1"
model = "Ottermoor OT-60"
"""


def test_with_weights_the_box_makes_the_other_points_on_the_lever_as_it_hangs(tmp_path, act):
    text = WEIGHTS + "".join(
        f'[[weights]]\nnumber = "W-{kg:g}"\nstamped = "{kg} kg"\nweighed = "{kg} kg"\nmass_uncertainty = "1 g"\n'
        for kg in (10.0, 2.0, 1.0)
    )
    database = Database(tmp_path / "own")
    with database.session() as session:
        take_in(session, register.parse(text), NOW)
        act = replace(act, person_id=1)
        plan = replace(propose(session, 1, TODAY, RunKind.CHECK).plan, points=(36.0,))
        run = looked_over(session, opening.open_run(session, 1, act, plan), act)
        hung = HungAt(36.0, (HungWeight("W-10", 10.0, 0.001),), 0.36)
        lever = LeverFacts((hung,), 0.6, 0.12, 0.4)
        run = setting_up.hang(session, run.id, lever, act)
        run = setting_up.record_room(session, run.id, 21.0, 0.4, "", act)
        while run.exercising:
            run = taking.record_exercise(session, run.id, None, act)
        while run.step is Step.AS_FOUND:
            asked = next_asked(run, run.current)
            kind = ObservationKind.CLICKED if asked.setting <= 39 else ObservationKind.SILENT
            run = taking.observe(
                session, run.id, NewObservation(kind, None, Source.TYPED, tool_value=asked.setting), act
            )
        run = continue_in_full(session, run.id, act)
        assert (run.kind, run.step) == (RunKind.FULL, Step.AS_FOUND)
        after = run.reference.set_up
        assert replace(after, points=lever.points) == lever
        made = {at.target: at for at in after.points}
        assert made[36.0] == hung
        assert set(made) == {s.target for s in run.found} == {12.0, 36.0}  # 60 is beyond 13 kg at 400 mm
        assert "60\u202fN·m is left out: not reached" in run.plan.note
        assert next(s for s in run.found if s.target == 36.0).pairs
    database.close()
