"""Adjusting: only with the right and after as found, every turn read, as left whole; what signing then does to the tool."""

from dataclasses import replace
from datetime import date

import pytest

from reckoner.core.decision.states import State
from reckoner.formats import rulesets
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.planning.agenda import DayList, agenda
from reckoner.shop.register.cards import card
from reckoner.shop.register.sheet import sheet
from reckoner.shop.runs import adjusting, amending, opening, setting_up, signing, taking
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.outcomes import choices
from reckoner.shop.runs.planning import propose
from reckoner.shop.runs.recomputing import recompute
from reckoner.shop.runs.records import Step
from reckoner.shop.words.results import phase_words
from reckoner.store.reader import reader_of
from reckoner.store.schema import Person, Run
from reckoner.store.terms import Outcome, ZeroMoment
from tests.support.runs import TODAY, closed, later, outside, prepared, read, read_all, tool_id


def test_from_as_found_through_two_turns_to_as_left_and_a_new_due_date(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        run = outside(session, wanted, act)
        assert run.step is Step.DECIDE
        run = adjusting.begin(session, run.id, run.series[0].id, act)
        assert run.step is Step.ADJUST
        advice, _ = adjusting.advice(run)  # from the model's known rate, nothing was turned yet
        assert advice.rate_per_turn == pytest.approx(7.5)
        assert advice.next_turn == pytest.approx((40 - 37.2) / 7.5 / 1.09)  # a model's rate is known to 30 %
        for words, change in (
            ("Turn the screw first", lambda: read(session, run, 38, act)),
            ("at most 2 at once", lambda: adjusting.turn(session, run.id, 3, act)),
            ("signed and at most", lambda: adjusting.turn(session, run.id, 0, act)),
            ("Turn and read at least once", lambda: adjusting.finish(session, run.id, True, act)),
            ("under way already", lambda: adjusting.begin(session, run.id, run.series[0].id, act)),
        ):
            with pytest.raises(ShopRefused, match=words):
                change()
        run = adjusting.turn(session, run.id, 0.25, act)
        with pytest.raises(ShopRefused, match="Read at least once after the last turn"):
            adjusting.turn(session, run.id, 0.25, act)
        for torque in (39.0, 39.1):
            run = read(session, run, torque, act)
        assert adjusting.advice(run)[0].rate_per_turn == pytest.approx(
            (39.05 - 37.2) / 0.25, rel=1e-3
        )  # the model's 7.5 hardly counts
        run = adjusting.turn(session, run.id, 0.125, act)
        run = read(session, run, 39.98, act)
        assert run.adjusting.turns == pytest.approx(0.375)
        with pytest.raises(ShopRefused, match="Lock it first: a lock screw"):
            adjusting.finish(session, run.id, False, act)
        run = adjusting.finish(session, run.id, True, act)
        assert run.step is Step.AS_LEFT
        assert {phase_words(s.phase) for s in run.series} == {"as left"}
        assert all(len(s.counted) == 5 for s in run.found)
        run = setting_up.record_room(session, run.id, 21.5, 0.46, "", later(act, 2))
        run = read_all(session, run, later(act, 2), 0.995)
        assert run.step is Step.DECIDE
        assert judged(run).found.accepted is False
        assert judged(run).verdict.accepted is True
        signed = later(act, 4)  # the next day, in the evening
        run = signing.sign(session, run.id, signed)
        assert (run.signature.outcome, run.signature.due) == ("released", signed.at.date().replace(year=2027))
    with demo.session() as session:
        found = sheet(reader_of(session), wanted)
        assert [h.what for h in found.happenings[:2]] == ["Full run", "Adjusted"]
        assert len(found.runs[-1].points) == 6  # as found and as left are both kept
        assert found.card.state is State.INSIDE
        assert [p.as_left for p in found.runs[-1].points] == [False] * 3 + [True] * 3
        again = list(recompute(session))
        assert sum(len(r.otherwise) for r in again) == 0
        assert again[-1].numbers == 6 * 7


def test_adjusting_once_more_begins_from_the_newest_as_left(demo, act):
    with demo.session() as session:
        run, begun_from = outside(session, tool_id(demo, "HC-0417"), act), []
        for hour, low in ((2, 38.0), (4, 39.0), (6, 39.6)):
            run = adjusting.begin(session, run.id, run.series[0].id, later(act, hour))
            begun_from.append(run.adjusting.steps[0].torques[0])
            run = read(session, adjusting.turn(session, run.id, 0.125, act), low, later(act, hour))
            run = adjusting.finish(session, run.id, True, later(act, hour))
            run = setting_up.record_room(session, run.id, 21.5, 0.46, "", later(act, hour))
            while run.current:
                run = read(session, run, low if run.current.target == 40 else run.current.target, later(act, hour))
            run = closed(session, run, later(act, hour))
        assert begun_from == [pytest.approx(37.2), 38.0, 39.0]


def test_who_may_adjust_and_when(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        run = prepared(session, wanted, act)
        with pytest.raises(ShopRefused, match="as-found series comes first"):
            adjusting.begin(session, run.id, run.series[0].id, act)
        other = session.query(Person).filter_by(initials="M. T.").one()
        run = read_all(session, run, act, 0.93)
        with pytest.raises(ShopRefused, match=r"M\. T\. does not have the right"):
            adjusting.begin(session, run.id, run.series[0].id, replace(act, person_id=other.id))
        run = adjusting.begin(session, run.id, run.series[0].id, act)
        assert adjusting.give_up(session, run.id, act).step is Step.DECIDE
        run = adjusting.begin(session, run.id, run.series[0].id, act)
        made = 0.0
        while made + 1.0 <= 2.0:
            run = adjusting.turn(session, run.id, 1.0, act)
            run = read(session, run, 40 * 0.93, act)
            made += 1.0
        advice, why_not = adjusting.advice(run)
        assert advice is None  # turning changed nothing: said, not divided by
        assert "changed nothing" in why_not
        with pytest.raises(ShopRefused, match="the maker allows 2"):
            adjusting.turn(session, run.id, 0.125, act)
        with pytest.raises(ShopRefused, match="The screw was turned"):
            adjusting.give_up(session, run.id, act)
        assert taking.strike(session, run.id, (run.adjusting.steps[-1].counted[0].id,), "slipped", act).current


def test_an_outside_tool_is_held_restricted_or_retired_and_nothing_else(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        run = outside(session, wanted, act)
        assert [c.outcome for c in choices(run, TODAY)] == [Outcome.HELD, Outcome.RESTRICTED, Outcome.RETIRED]
        with pytest.raises(ShopRefused, match="cannot be released; what can be done: hold it, restrict it"):
            signing.sign(session, run.id, act, Outcome.RELEASED)
        run = signing.sign(session, run.id, act, Outcome.RESTRICTED)
        assert run.signature.due == date(2027, 11, 24)
        found = card(reader_of(session), wanted)
        assert (found.restricted, found.held) == ((120.0, 200.0), "")
        assert card(reader_of(session), wanted).restricted == (120.0, 200.0)
        assert propose(session, wanted, TODAY).plan.points == (120, 200)
        whole = opening.open_run(
            session, wanted, later(act, 5), replace(propose(session, wanted, TODAY).plan, note="as is")
        )
        assert [s.target for s in whole.series] == [120, 200]
        opening.give_up(session, whole.id, "only tried", act)
        retired = signing.sign(
            session, outside(session, wanted, later(act, 9), high=0.93).id, later(act, 11), Outcome.RETIRED
        )
        assert retired.signature.outcome == "retired"
        assert card(reader_of(session), wanted).due_words(TODAY) == "retired"
        assert wanted not in {i.card.tool.id for i in agenda(reader_of(session), TODAY).of(DayList.DUE_SOON)}
        with pytest.raises(ShopRefused, match="is retired"):
            opening.open_run(session, wanted, later(act, 20))


def test_a_second_person_is_asked_for_where_the_rule_set_does(demo, act, monkeypatch):
    text = rulesets.shipped_text("iso-6789-2017") + "\n[signing]\nsecond_person = true\n"
    monkeypatch.setattr("reckoner.shop.runs.opening.rule_set_text", lambda name, tool: text)
    with demo.session() as session:
        run = read_all(session, prepared(session, tool_id(demo, "HC-0417"), act), act, 0.99)
        for second, words in ((None, "asks for a second person"), (act.person_id, "must be someone else")):
            with pytest.raises(ShopRefused, match=words):
                signing.sign(session, run.id, act, second_person_id=second)
        signed = signing.sign(session, run.id, act, second_person_id=2, remark="witnessed")
        assert (signed.signature.by, signed.signature.beside) == ("R. K.", "M. T.")


def test_a_signed_run_changes_only_by_an_amendment_that_keeps_the_old_version(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        run = read_all(session, prepared(session, wanted, act), act, 0.99)
        with pytest.raises(ShopRefused, match="can still be changed"):
            amending.amend(session, run.id, "a slip", act)
        signed = signing.sign(session, run.id, act)
        with pytest.raises(ShopRefused, match="Say why"):
            amending.amend(session, signed.id, " ", act)
        copy = amending.amend(session, signed.id, "one value was misread", later(act, 30))
        assert copy.step is Step.DECIDE
        assert [len(s.counted) for s in copy.series] == [5, 5, 5]
        with pytest.raises(ShopRefused, match="open already"):
            amending.amend(session, signed.id, "again", act)
        wrong = copy.series[0].counted[0]
        copy = taking.strike(session, copy.id, (wrong.id,), "misread", later(act, 30))
        copy = read(session, copy, 39.8, later(act, 31))
        copy = setting_up.record_zero(session, copy.id, ZeroMoment.AFTER, 0.0, later(act, 32))
        amended = signing.sign(session, copy.id, later(act, 33))
        assert amended.signature.due == date(2027, 11, 24)  # counted from the day that is amended
        history = sheet(reader_of(session), wanted).runs
        assert [r.run_id for r in history].count(copy.id) == 1
        assert signed.id not in {r.run_id for r in history}
        old = session.get_one(Run, signed.id)
        shows = signed.reference.correction(40.0)
        assert [r.torque for r in old.series[0].observations] == pytest.approx([39.6 * shows] * 5)
        with pytest.raises(ShopRefused, match="Only the newest signed run"):
            amending.amend(session, signed.id, "again", act)
