"""A run through the shop's own functions: what it wants, what it refuses, what it concludes."""

from dataclasses import replace
from datetime import UTC, date, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st
from sqlalchemy import select

from reckoner.core.budget import Observations, budget
from reckoner.core.kinds import ToolKind, ToolType
from reckoner.core.reference import ReferenceAtPoint
from reckoner.core.states import State
from reckoner.formats import register
from reckoner.shop import bench, signing
from reckoner.shop.acts import ShopRefused
from reckoner.shop.agenda import agenda
from reckoner.shop.derivation import derivation
from reckoner.shop.intake import take_in
from reckoner.shop.references import candidates
from reckoner.shop.register import card, cards, matching, sheet
from reckoner.shop.run import ReadingState, SeriesState, Step
from reckoner.store.database import Database
from reckoner.store.schema import Audit
from tests.conftest import tool_id

TODAY = date(2026, 11, 24)


def prepared(session, number_id, act):
    """A run ready for its first reading."""
    run = bench.open_run(session, number_id, act)
    for line in run.inspection:
        run = bench.look_over(session, run.id, line.line, True, "", act)
    run = bench.record_room(session, run.id, 21.4, 0.46, "", act)
    best = candidates(session, run.tool, run.rules, TODAY)[0]
    run = bench.choose_reference(session, run.id, best.reference.id, "", act)
    run = bench.record_zero(session, run.id, "before", 0.01, act)
    while run.exercising:
        run = bench.record_exercise(session, run.id, None, act)
    return run


def read_all(session, run, act, factor, zero_after=0.0):
    while run.current:
        run = bench.record_reading(session, run.id, run.current.target * factor, "typed", act)
    return bench.record_zero(session, run.id, "after", zero_after, replace(act, at=act.at + timedelta(hours=1)))


def test_what_a_reading_gives_back_is_what_the_records_say(demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
        run = read_all(session, run, act, 0.99)
        assert run.zero_after is not None
        run = bench.strike_reading(session, run.id, run.series[1].readings[0].id, "jerked", act)
        run = bench.record_reading(session, run.id, 119.0, "typed", replace(act, at=act.at + timedelta(hours=2)))
        assert run.zero_after is None  # a look at the zero before the newest reading tells nothing of it
        assert run == bench.reload(session, run.id)


def test_a_good_run_renews_the_due_date_and_stands_in_the_history(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        run = prepared(session, wanted, act)
        assert [(s.target, s.wanted) for s in run.series] == [(40, 5), (120, 5), (200, 5)]
        run = read_all(session, run, act, 0.99)
        assert run.step is Step.DECIDE
        run = signing.sign(session, run.id, act)
        assert (run.signed_by, run.signed_due) == ("R. K.", date(2027, 11, 24))
    with demo.session() as session:
        found = sheet(session, wanted, TODAY)
        assert found.card.due.on == date(2027, 11, 24)
        sentence = found.runs[-1].sentence.replace("\u202f", " ")
        assert sentence.startswith("Clicks 1.0 % below its setting at ")
        assert sentence.endswith("; inside, 3.0 % to spare")
        assert found.happenings[0].what == "Full run"
        actions = session.scalars(select(Audit.action).where(Audit.subject == "HC-0417")).all()
        assert actions.count("took a reading") == 15
        assert actions[-1] == "signed the run"
    with pytest.raises(ShopRefused, match="What is signed is never changed"), demo.session() as session:
        bench.record_reading(session, run.id, 120, "typed", act)


def test_a_bad_run_holds_the_tool_and_a_good_one_releases_it(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        bad = read_all(session, prepared(session, wanted, act), act, 0.95)
        signing.sign(session, bad.id, act)
        held = card(session, wanted, TODAY)
        assert held.held.startswith("as found: Clicks 5.0")
        assert held.state is State.OUTSIDE
        assert [i.card.tool.number for i in agenda(session, TODAY).held] == ["HC-0404", "HC-0417", "HC-0430"]
        good = read_all(session, prepared(session, wanted, act), act, 1.0)
        signing.sign(session, good.id, act)
        assert card(session, wanted, TODAY).held == ""


def test_a_struck_reading_no_longer_counts_but_stays(demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id_in(session, "HC-0417"), act)
        run = bench.record_reading(session, run.id, 30, "typed", act)
        run = bench.record_reading(session, run.id, 39.6, "typed", act)
        first = run.series[0].readings[0]
        with pytest.raises(ShopRefused, match="Say why"):
            bench.strike_reading(session, run.id, first.id, "  ", act)
        run = bench.strike_reading(session, run.id, first.id, "jerked", act)
        series = run.series[0]
        assert [r.struck for r in series.readings] == ["jerked", ""]
        assert [r.torque for r in series.counted] == [39.6]
        assert series.missing == 4
        with pytest.raises(ShopRefused, match="struck already"):
            bench.strike_reading(session, run.id, first.id, "again", act)


def tool_id_in(session, number):
    return matching(cards(session, TODAY), number)[0].tool.id


def test_nothing_that_matters_can_be_skipped(demo, act):
    with demo.session() as session:
        run = bench.open_run(session, tool_id_in(session, "HC-0417"), act)
        for attempt, words in (
            (lambda: bench.record_reading(session, run.id, 40, "typed", act), "First: look over, 4 of 4"),
            (lambda: signing.sign(session, run.id, act), "cannot be signed yet: look over"),
            (lambda: bench.record_zero(session, run.id, "before", 0, act), "Choose the reference first"),
            (lambda: bench.record_room(session, run.id, 35, 0.5, "", act), "wants 18 to 28 °C"),
            (lambda: bench.record_room(session, run.id, 350, 0.5, "", act), "must lie between"),
            (lambda: bench.look_over(session, run.id, "Wheels", True, "", act), "no line"),
            (lambda: bench.give_up(session, run.id, "", act), "Say why"),
        ):
            with pytest.raises(ShopRefused, match=words):
                attempt()
        not_fine = bench.look_over(session, run.id, "Scale and lock", False, "", act)
        assert not_fine.wants(Step.LOOK_OVER) == "4 of 4 to look at"
        accepted = bench.record_room(session, run.id, 35, 0.5, "field test, agreed with the owner", act)
        assert accepted.room.note
        unfit = next(c for c in candidates(session, run.tool, run.rules, TODAY) if not c.suits)
        with pytest.raises(ShopRefused, match=r"does not suit|cannot be used"):
            bench.choose_reference(session, run.id, unfit.reference.id, "", act)


def test_wrong_values_are_refused_with_what_to_do(demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id_in(session, "HC-0417"), act)
        for value in (4.0, 400.0):
            with pytest.raises(ShopRefused, match="Check the value and its unit"):
                bench.record_reading(session, run.id, value, "typed", act)
        with pytest.raises(ShopRefused, match="Zero it and look again"):
            bench.record_zero(session, run.id, "before", 0.5, act)


def test_a_zero_that_moved_leaves_the_run_undecided(demo, act):
    with demo.session() as session:
        run = read_all(session, prepared(session, tool_id_in(session, "HC-0417"), act), act, 1.0, zero_after=0.9)
        found = run.verdict(TODAY)
        assert (found.state, found.accepted) == (State.UNDECIDED, None)
        assert "did not come back to its zero" in run.trust_words(TODAY)
        signed = signing.sign(session, run.id, act)
        assert signed.signed_due is None


def test_a_given_up_run_keeps_its_readings_and_the_tool_can_begin_anew(demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id_in(session, "HC-0417"), act)
        run = bench.record_reading(session, run.id, 40, "typed", act)
        assert bench.open_run(session, run.tool.id, act).id == run.id
        given_up = bench.give_up(session, run.id, "meter broke", act)
        assert given_up.abandoned
        assert given_up.series[0].counted
        assert bench.open_run(session, run.tool.id, act).id != run.id


def test_an_ended_certificate_is_said_and_never_decides(demo, act):
    with demo.session() as session:
        run = bench.open_run(session, tool_id_in(session, "HC-0422"), act)
        later = candidates(session, run.tool, run.rules, date(2027, 1, 1))
        against = {c.reference.number: c.against for c in later}
        assert against["PM-4"] == ("its certificate ended on 9 Dec 2026",)
        assert "it reaches" in against["PM-3"][0]


def test_the_demo_tells_its_stories(demo):
    with demo.session() as session:
        found = agenda(session, TODAY)
        everything = cards(session, TODAY)
        assert len(everything) == 46
        assert [i.card.tool.number for i in found.overdue] == ["HC-0319", "HC-0391", "HC-0113", "HC-0460"]
        assert [i.card.tool.number for i in found.late_loans] == ["HC-0319"]
        assert found.first.card.tool.number == "HC-0391"
        drifting = sheet(session, tool_id_in(session, "hc 0422"), TODAY)
        means = [p.deviation for r in drifting.runs for p in r.points if p.target == 60]
        assert means == sorted(means)
        assert matching(everything, "tower crew click")
        assert matching(everything, "no such tool") == ()


def test_a_derivation_recomputes_to_what_is_shown(demo, act):
    with demo.session() as session:
        run = read_all(session, prepared(session, tool_id_in(session, "HC-0417"), act), act, 0.99)
        found = run.verdict(TODAY)
        lines = {line.what: line for line in derivation(run.tool, run.set_up.reference, found.points[1], found)}
        assert lines["Mean deviation"].result == "+1.010\u202f%"
        assert lines["Tool resolution"].values == "√1 · (1 / 2) / √3 / 118.8"
        assert lines["Reproducibility, remounting"].values == "not characterised, taken as 0"


REGISTER = """
people = [{ initials = "K. L.", name = "K. Loft" }]
[[models]]
maker = "Skerrivane"
name = "X-50"
type = "II"
class = "A"
mechanism = "click"
minimum = "10 N.m"
maximum = "50 N.m"
[[tools]]
number = "W-1"
model = "Skerrivane X-50"
[[references]]
number = "M-1"
minimum = "5 N.m"
maximum = "50 N.m"
resolution = "0.01 N.m"
zero_tolerance = "0.05 N.m"
"""


def test_a_register_is_taken_in_whole_or_not_at_all(tmp_path, act):
    database = Database(tmp_path)
    with database.session() as session:
        taken = take_in(session, register.parse(REGISTER))
        assert str(taken) == "Added 1 people, 1 models, 1 tools and 1 references."
    with pytest.raises(ShopRefused, match="already a person"), database.session() as session:
        take_in(session, register.parse(REGISTER))
    with pytest.raises(ShopRefused, match='names the model "No such"'), database.session() as session:
        take_in(session, register.parse('[[tools]]\nnumber = "W-2"\nmodel = "No such"'))
    with database.session() as session:
        assert [c.tool.number for c in cards(session, TODAY)] == ["W-1"]
        found = bench.open_run(session, 1, act)
        weighed = candidates(session, found.tool, found.rules, TODAY)
        assert weighed[0].against == ("it has no certificate",)
        with pytest.raises(ShopRefused, match="has no certificate"):
            bench.choose_reference(session, found.id, 1, "", act)
    database.close()


@given(
    st.lists(st.floats(100, 140), min_size=2, max_size=6), st.lists(st.floats(1, 500), max_size=3), st.integers(0, 6)
)
def test_a_struck_reading_has_no_influence(torques, struck, place):
    def reading(number, torque, reason=""):
        return ReadingState(number, torque, datetime(2026, 11, 24, tzinfo=UTC), "typed", reason)

    plain = [reading(i, t) for i, t in enumerate(torques)]
    mixed = plain[:place] + [reading(90 + i, t, "slipped") for i, t in enumerate(struck)] + plain[place:]
    one, other = (SeriesState(1, "as found", "cw", 120.0, 5, tuple(r)) for r in (plain, mixed))
    kind, meter = ToolKind(ToolType.SETTING, "A", 200.0, 40.0, 1.0), ReferenceAtPoint(0.006)
    found = [budget(Observations.of_readings(120.0, s.torques), kind, meter) for s in (one, other)]
    assert found[0] == found[1]
    assert (one.mean, one.missing, one.first_releases()) == (other.mean, other.missing, other.first_releases())
