"""Nothing is concluded from a series while a reading of it is asked about; a person is asked once."""

import pytest

from reckoner.core.decision.suspect import Suspicion
from reckoner.shop.papers import resultfiles
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.runs import adjusting, amending, outcomes, signing, taking
from reckoner.shop.runs.asking import KeepReadings, Strikes, answers, asked_words
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.recomputing import recompute
from reckoner.shop.runs.records import Step
from reckoner.store.terms import ReadingOwner, Right
from tests.support.runs import closed, later, outside, prepared, read, tool_id


def readings(session, run, act, *torques):
    for torque in torques:
        run = read(session, run, torque, act)
    return run


@pytest.fixture
def run(demo, act):
    with demo.session() as session:
        return prepared(session, tool_id(demo, "HC-0417"), act)


def test_a_tool_that_was_not_set_again_is_asked_about_before_anything_is_concluded(demo, act, run):
    with demo.session() as session:
        run = readings(session, run, act, *[39.8] * 5, *[119.0] * 5, 199, 199.2, 121.0, 120.8, 199.1)
        (one,) = run.asked
        assert (one.why, one.of, len(one.ids)) == (Suspicion.NOT_SET_AGAIN, 120.0, 2)  # one question for both
        assert asked_words(run, one).endswith("is 120\u202fN·m still set?")
        run = closed(session, run, act)
        assert (run.step, judged(run).verdict) == (Step.AS_FOUND, None)
        assert outcomes.choices(run, act.at.date()) == ()
        assert "First answer" in adjusting.why_not(run, _adjuster(session))
        with pytest.raises(ShopRefused, match="as found, an answer"):
            signing.sign(session, run.id, act)
        struck = next(a for a, words in answers(run, one) if isinstance(a, Strikes) and "still set" in words)
        run = taking.strike(session, run.id, one.struck, struck.reason, act)
        assert (run.asked, run.current.missing) == ((), 2)
        with pytest.raises(ShopRefused, match="Nothing is asked about"):
            taking.keep(session, run.id, one.ids, ReadingOwner.TOOL, act)


def _adjuster(session):
    from reckoner.shop.people.present import PersonFacts

    return PersonFacts(1, "RK", "R. K.", frozenset({Right.ADJUST}))


def test_what_is_kept_counts_is_not_asked_again_and_stands_in_the_record(demo, act, run):
    with demo.session() as session:
        run = readings(session, run, act, *[39.8] * 5, *[119.0] * 5, 193, 193.5, 115.0)
        (one,) = run.asked
        assert "pull stands apart: 114.9" in asked_words(run, one)
        assert "With it: outside, " in asked_words(run, one)
        assert "; without: inside, " in asked_words(run, one)
        assert (one.why, judged(run).point(run.series[2])) == (Suspicion.STANDS_APART, None)
        assert [a for a, _ in answers(run, one)][-2:] == [
            KeepReadings(ReadingOwner.UNSAID),
            KeepReadings(ReadingOwner.TOOL),
        ]
        run = taking.keep(session, run.id, one.ids, ReadingOwner.TOOL, act)
        run = closed(session, readings(session, run, act, 193.2, 193.1), act)
        assert (run.asked, run.step) == ((), Step.DECIDE)
        assert judged(run).verdict.points[2].budget.deviation == pytest.approx(0.174, abs=0.02)
        signed = signing.sign(session, run.id, later(act, 2))
        assert [r.otherwise for r in recompute(session) if r.otherwise] == []
        file = resultfiles.result_file(session, signed)
        (said,) = [o for s in file.record.series for o in s.observations if o.asked]
        assert (said.asked, said.whose) == ("stands-apart", "tool")
        again = amending.amend(session, signed.id, "the room was misread", later(act, 3))
        assert again.asked == ()  # what was said stands


def test_a_tool_that_is_far_off_is_asked_about_once_and_not_at_every_pull(demo, act, run):
    with demo.session() as session:
        run = read(session, run, 18.0, act)
        run = taking.keep(session, run.id, run.asked[0].ids, ReadingOwner.TOOL, act)
        run = readings(session, run, act, 18.2, 17.9)
        assert run.asked == ()
        run = read(session, run, 9.0, act)  # further off than the tool is
        assert [one.ids for one in run.asked] == [(run.series[0].observations[-1].id,)]


def test_no_turn_is_advised_or_logged_while_a_reading_after_a_turn_is_asked_about(demo, act):
    with demo.session() as session:
        run = outside(session, tool_id(demo, "HC-0417"), act)
        adjusting.begin(session, run.id, run.series[0].id, later(act, 1))
        run = adjusting.turn(session, run.id, 0.25, later(act, 1))
        run = read(session, run, 119.5, later(act, 1))
        assert run.asked[0].of == 120.0
        assert adjusting.advice(run) == (None, adjusting.ANSWER_FIRST)
        for command in (
            lambda: adjusting.turn(session, run.id, 0.1, act),
            lambda: adjusting.finish(session, run.id, True, act),
        ):
            with pytest.raises(ShopRefused, match="First answer"):
                command()


def test_first_releases_are_asked_about_as_what_they_are(demo, act, run):
    with demo.session() as session:
        run = readings(session, run, act, 41.4, 41.2, 39.9, 39.95, 39.9)
        (one,) = run.asked
        assert len(one.ids) == 2
        assert answers(run, one)[1][1] == "Strike them: first release after rest, counts as exercise"


def test_with_and_without_it_goes_by_the_rule_that_decides(demo, act, run):
    with demo.session() as session:
        run = readings(session, run, act, *[39.8] * 5, *[119.0] * 4, 114.9)
        (one,) = run.asked
        assert (
            asked_words(run, one)
            .replace("\u202f", " ")
            .endswith(" With it: outside, +1.6 % in the mean; without: inside, +0.8 % in the mean.")
        )  # every reading has to be inside, whatever the mean says
