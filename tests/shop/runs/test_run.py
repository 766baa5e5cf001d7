"""A run through the shop's own functions: what it wants, what it refuses, what it concludes."""

from dataclasses import replace
from datetime import UTC, date, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st
from sqlalchemy import select

from reckoner.core.decision.states import State
from reckoner.core.reference.certificate import ReferenceAtPoint
from reckoner.core.requirements.tooltypes import Direction, ToolKind, ToolType
from reckoner.core.uncertainty.budget import Observations, budget
from reckoner.shop.facts.judged import newest_certificate
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.planning.agenda import DayList, agenda
from reckoner.shop.procedures import PROCEDURES
from reckoner.shop.procedures.choosing import candidates
from reckoner.shop.register import registerfile as register
from reckoner.shop.register.cards import card, cards
from reckoner.shop.register.intake import take_in
from reckoner.shop.register.lists import matching
from reckoner.shop.register.sheet import sheet
from reckoner.shop.runs import amending, loading, opening, setting_up, signing, taking
from reckoner.shop.runs.derivation import derivation
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.records import FOUND, NOTHING, ObservationState, SeriesState, Step
from reckoner.shop.runs.steps import wants
from reckoner.shop.words.results import distrust_words, want_words
from reckoner.store.database import Database
from reckoner.store.reader import reader_of
from reckoner.store.schema import Audit, Reference, ToolModel
from reckoner.store.terms import ObservationKind, ReferenceKind, RunKind, Source, ZeroMoment
from tests.support.runs import REGISTER, TODAY, looked_over, prepared, read, read_all, ready, tool_id, tool_id_in


def test_what_a_reading_gives_back_is_what_the_records_say(demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
        run = read_all(session, run, act, 0.99)
        assert run.zeros.after is not None
        run = taking.strike(session, run.id, (run.series[1].observations[0].id,), "jerked", act)
        run = read(session, run, 119.0, replace(act, at=act.at + timedelta(hours=2)))
        assert run.zeros.after is None  # a look at the zero before the newest reading tells nothing of it
        assert run == opening.reload(session, run.id, act)


def test_a_good_run_renews_the_due_date_and_stands_in_the_history(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        run = prepared(session, wanted, act)
        assert [(s.target, s.wanted) for s in run.series] == [(40, 5), (120, 5), (200, 5)]
        run = read_all(session, run, act, 0.99)
        assert run.step is Step.DECIDE
        run = signing.sign(session, run.id, act)
        assert (run.signature.by, run.signature.due) == ("R. K.", date(2027, 11, 24))
    with demo.session() as session:
        found = sheet(reader_of(session), wanted)
        assert found.card.due(TODAY).on == date(2027, 11, 24)
        sentence = found.runs[-1].sentence.replace("\u202f", " ")
        assert sentence.startswith("Clicks 1.0 % below its setting at ")
        assert sentence.endswith("; inside, 3.0 % to spare")
        assert found.happenings[0].what == "Full run"
        actions = session.scalars(select(Audit.action).where(Audit.subject == "HC-0417")).all()
        assert actions.count("took a reading") == 15
        assert actions[-1] == "signed the run"
    with pytest.raises(ShopRefused, match="What is signed is never changed"), demo.session() as session:
        read(session, run, 120, act)


def test_a_bad_run_holds_the_tool_and_a_good_one_releases_it(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        bad = read_all(session, prepared(session, wanted, act), act, 0.95)
        signing.sign(session, bad.id, act)
        held = card(reader_of(session), wanted)
        assert held.held.startswith("as found: Clicks 5.0")
        assert held.state is State.OUTSIDE
        held_back = agenda(reader_of(session), TODAY).of(DayList.HELD)
        assert [i.card.tool.number for i in held_back] == ["HC-0404", "HC-0417", "HC-0430"]
        good = read_all(session, prepared(session, wanted, act), act, 1.0)
        signing.sign(session, good.id, act)
        assert card(reader_of(session), wanted).held == ""


def test_a_struck_reading_no_longer_counts_but_stays(demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id_in(session, "HC-0417"), act)
        run = read(session, run, 30, act)
        run = read(session, run, 39.6, act)
        first = run.series[0].observations[0]
        with pytest.raises(ShopRefused, match="Say why"):
            taking.strike(session, run.id, (first.id,), "  ", act)
        run = taking.strike(session, run.id, (first.id,), "jerked", act)
        series = run.series[0]
        assert [o.struck for o in series.observations] == ["jerked", ""]
        assert series.torques == (pytest.approx(39.6),)
        assert series.missing == 4
        with pytest.raises(ShopRefused, match="struck already"):
            taking.strike(session, run.id, (first.id,), "again", act)


def test_nothing_that_matters_can_be_skipped(demo, act):
    with demo.session() as session:
        run = opening.open_run(session, tool_id_in(session, "HC-0417"), act)
        for attempt, words in (
            (lambda: read(session, run, 40, act), "First: look over, 4 of 4"),
            (lambda: signing.sign(session, run.id, act), "cannot be signed yet: look over"),
            (lambda: setting_up.record_zero(session, run.id, ZeroMoment.BEFORE, 0, act), "Choose the reference first"),
            (lambda: setting_up.record_room(session, run.id, 35, 0.5, "", act), "wants 18.°C to 28.°C"),
            (lambda: setting_up.record_room(session, run.id, 350, 0.5, "", act), "must lie between"),
            (lambda: setting_up.look_over(session, run.id, "Wheels", True, "", act), "no line"),
            (lambda: opening.give_up(session, run.id, "", act), "Say why"),
        ):
            with pytest.raises(ShopRefused, match=words):
                attempt()
        not_fine = setting_up.look_over(session, run.id, "Scale and lock", False, "", act)
        assert want_words(wants(not_fine, Step.LOOK_OVER)) == "4 of 4 to look at"
        accepted = setting_up.record_room(session, run.id, 35, 0.5, "field test, agreed with the owner", act)
        assert accepted.room.note
        unfit = next(c for c in candidates(session, run.tool, run.rules, TODAY) if not c.suits)
        with pytest.raises(ShopRefused, match=r"does not suit|cannot be used"):
            setting_up.choose_reference(session, run.id, unfit.reference.id, "", act)


def test_wrong_values_are_refused_with_what_to_do(demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id_in(session, "HC-0417"), act)
        for value in (-4.0, 4000.0):
            with pytest.raises(ShopRefused, match="check the number and its unit"):
                read(session, run, value, act)
        with pytest.raises(ShopRefused, match="Zero it and look again"):
            setting_up.record_zero(session, run.id, ZeroMoment.BEFORE, 0.5, act)


def test_a_zero_that_moved_leaves_the_run_undecided(demo, act):
    with demo.session() as session:
        run = read_all(session, prepared(session, tool_id_in(session, "HC-0417"), act), act, 1.0, zero_after=0.9)
        found = judged(run).verdict
        assert (found.state, found.accepted) == (State.UNDECIDED, None)
        assert "did not come back to its zero" in distrust_words(judged(run).distrust, run.reference)
        signed = signing.sign(session, run.id, act)
        assert signed.signature.due is None


def test_a_given_up_run_keeps_its_readings_and_the_tool_can_begin_anew(demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id_in(session, "HC-0417"), act)
        run = read(session, run, 40, act)
        assert opening.open_run(session, run.tool.id, act).id == run.id
        given_up = opening.give_up(session, run.id, "meter broke", act)
        assert given_up.abandoned
        assert given_up.series[0].counted
        assert opening.open_run(session, run.tool.id, act).id != run.id


def test_an_ended_certificate_is_said_and_never_decides(demo, act):
    with demo.session() as session:
        run = opening.open_run(session, tool_id_in(session, "HC-0422"), act)
        later = candidates(session, run.tool, run.rules, date(2027, 1, 1))
        against = {c.reference.number: c.against for c in later}
        assert against["PM-4"] == ("its certificate ended on 9 Dec 2026",)
        assert "it reaches" in against["PM-3"][0]


def test_the_demo_tells_its_stories(demo):
    with demo.session() as session:
        found = agenda(reader_of(session), TODAY)
        assert found.tools == len(cards(reader_of(session))) == 46
        assert [i.card.tool.number for i in found.of(DayList.OVERDUE)] == ["HC-0319", "HC-0391", "HC-0113", "HC-0460"]
        assert [i.card.tool.number for i in found.of(DayList.LATE_LOANS)] == ["HC-0319"]
        assert found.first.card.tool.number == "HC-0391"
        drifting = sheet(reader_of(session), tool_id_in(session, "hc 0422"))
        means = [p.deviation for r in drifting.runs for p in r.points if p.target == 60]
        assert means == sorted(means)
        assert matching(reader_of(session), "tower crew click", TODAY, 9)
        assert matching(reader_of(session), "no such tool", TODAY, 9) == ()


def test_a_derivation_recomputes_to_what_is_shown(demo, act):
    with demo.session() as session:
        run = read_all(session, prepared(session, tool_id_in(session, "HC-0417"), act), act, 0.99)
        found = judged(run).verdict
        lines = {line.what: line for line in derivation(run.tool, run.reference, found.points[1], found)}
        assert lines["Mean deviation"].result == "+1.010\u202f%"
        assert lines["Tool resolution"].values == "√1 · (1 / 2) / √3 / 118.8"
        assert lines["Reproducibility, remounting"].values == "not characterised, taken as 0"


def test_certificates_of_a_register_stand_by_their_days_and_no_graduation_is_none(tmp_path, act):
    point = '[{ torque = "10 N.m", error = "0 %", uncertainty = "0.5 %" }]'
    certificates = "".join(
        f'[[references.certificates]]\nnumber = "{year}-1"\nlaboratory = "L"\nissued = {year}-03-02\n'
        f"due = {year + 1}-03-02\ncoverage_factor = 2\npoints = {point}\n"
        for year in (2026, 2025)
    )
    database = Database(tmp_path)
    with database.session() as session:
        take_in(session, register.parse(REGISTER + certificates), act.at)
        (reference,) = session.scalars(select(Reference))
        assert [c.due.year for c in reference.certificates] == [2027, 2026]
        assert newest_certificate(reference).due.year == 2027  # whatever their order in the file
        assert session.scalars(select(ToolModel.resolution)).one() == 0.0
    database.close()


def test_a_register_is_taken_in_whole_or_not_at_all(tmp_path, act):
    database = Database(tmp_path)
    with database.session() as session:
        taken = take_in(session, register.parse(REGISTER), act.at)
        assert str(taken) == "Added 1 person, 1 model, 1 tool and 1 reference."
    with pytest.raises(ShopRefused, match="already a person"), database.session() as session:
        take_in(session, register.parse(REGISTER), act.at, act)
    with pytest.raises(ShopRefused, match='names the model "No such"'), database.session() as session:
        take_in(session, register.parse('[[tools]]\nnumber = "W-2"\nmodel = "No such"'), act.at, act)
    with database.session() as session:
        assert [c.tool.number for c in cards(reader_of(session))] == ["W-1"]
        found = opening.open_run(session, 1, act)
        weighed = candidates(session, found.tool, found.rules, TODAY)
        assert (weighed[0].against, weighed[0].proven) == ((), False)
        chosen = setting_up.choose_reference(session, found.id, 1, "", act)
        assert not chosen.reference.proven
    database.close()


@given(
    st.lists(st.floats(100, 140), min_size=2, max_size=6), st.lists(st.floats(1, 500), max_size=3), st.integers(0, 6)
)
def test_a_struck_reading_has_no_influence(torques, struck, place):
    def reading(number, torque, reason=""):
        at = datetime(2026, 11, 24, tzinfo=UTC)
        return ObservationState(number, at, ObservationKind.VALUE, torque, Source.TYPED, reason)

    def series(observations):
        pairs = PROCEDURES[ReferenceKind.METER].pairs(120.0, tuple(o for o in observations if o.counts), NOTHING, 1.0)
        return SeriesState(1, FOUND, Direction.CW, 120.0, 5, tuple(observations), pairs)

    plain = [reading(i, t) for i, t in enumerate(torques)]
    mixed = plain[:place] + [reading(90 + i, t, "slipped") for i, t in enumerate(struck)] + plain[place:]
    one, other = (series(r) for r in (plain, mixed))
    kind, meter = ToolKind(ToolType.SETTING, "A", 200.0, 40.0, 1.0), ReferenceAtPoint(0.006)
    found = [budget(Observations.of_readings(120.0, s.torques), kind, meter) for s in (one, other)]
    assert found[0] == found[1]
    assert (one.mean, one.missing, one.first_releases()) == (other.mean, other.missing, other.first_releases())


@pytest.mark.parametrize("kind", [RunKind.FULL, RunKind.CHECK, RunKind.EVENT])
def test_a_run_that_was_just_signed_is_as_it_is_loaded_afterwards_and_so_is_its_amendment(demo, act, kind):
    with demo.session() as session:
        run = ready(session, tool_id(demo, "HC-0417"), act, kind)
        run = read_all(session, run, act, 1.01)
        signed = signing.sign(session, run.id, act)
        session.commit()
        assert signed.signature is not None
        assert signed == loading.load(session, run.id)
        copy = amending.amend(session, run.id, "a wrong name", act)
        again = signing.sign(session, copy.id, act)
        session.commit()
        assert again == loading.load(session, copy.id)
        assert loading.load(session, run.id).amended


def test_what_is_left_of_the_exercise_is_counted_by_hand_at_once(demo, act):
    with demo.session() as session:
        run = looked_over(session, opening.open_run(session, tool_id(demo, "HC-0417"), act), act)
        best = candidates(session, run.tool, run.rules, TODAY)[0].reference
        run = setting_up.choose_reference(session, run.id, best.id, "", act)
        run = setting_up.record_room(session, run.id, 21.4, 0.46, "", act)
        run = setting_up.record_zero(session, run.id, ZeroMoment.BEFORE, 0.001, act)
        run = taking.record_exercise(session, run.id, None, act)
        assert (run.exercising.done, run.exercising.wanted) == (1, 5)
        run = taking.count_rest_of_exercise(session, run.id, act)
        assert run.exercising is None
        assert run.step is Step.AS_FOUND
        with pytest.raises(ShopRefused, match="exercise is complete"):
            taking.count_rest_of_exercise(session, run.id, act)
