"""Adjusting by the whole scale: what a turn makes of every point, which turn is least bad, and when nothing is turned."""

from dataclasses import replace

import numpy as np
import pytest
from sqlalchemy import func, select

from reckoner.core.adjusting.screw import PointSeries, after_change, best_turn, taught
from reckoner.core.errors import InputRefused
from reckoner.core.requirements.tooltypes import ErrorKind
from reckoner.meters.pull import Pull
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.people.present import people
from reckoner.shop.procedure import NewObservation
from reckoner.shop.register.rows import edit
from reckoner.shop.runs import adjusting, taking
from reckoner.shop.runs.wholescale import (
    ScrewKnowledge,
    StopReason,
    lock_shift,
    next_turn,
    what_it_changes,
    whole_scale,
)
from reckoner.store.reader import reader_of
from reckoner.store.schema import Tool, ZeroCheck
from reckoner.store.terms import ObservationKind, RegisterKind, Source
from tests.support.runs import closed, outside, prepared, read, read_all, tool_id


def begun(session, wanted, act, low, high):
    run = outside(session, wanted, act, low, high)
    return adjusting.begin(session, run.id, run.series[0].id, act)


def test_the_turn_that_is_proposed_leaves_the_worst_point_least_not_the_one_that_is_adjusted_at(demo, act):
    """40, 120 and 200 N·m at 93 %, 99 % and 99 %: an offset that cures 40 wholly would push nothing out, a half of it is
    too little; foretold by hand from the readings."""
    with demo.session() as session:
        run = begun(session, tool_id(demo, "HC-0417"), act, 0.93, 0.99)
        advised, _ = next_turn(run)
        whole = advised.whole
        assert (whole.changes, whole.known) == (ErrorKind.OFFSET, ScrewKnowledge.TAKEN)
        turns = [i / 8 for i in range(-8, 9)]
        worst = {
            t: max(
                abs(s.target / (r + 7.5 * t) - 1)
                for s in run.found
                for r in [s.target * (0.93 if s.target == 40 else 0.99)]
            )
            for t in turns
        }
        assert advised.turn == min(turns, key=worst.get)
        assert whole.next.worst * 0.04 == pytest.approx(worst[advised.turn], abs=2e-4)
        told = {s.target: p.then for s, p in whole.after(0.5).points}
        assert told[40] == pytest.approx(40 / (37.2 + 3.75) - 1, abs=1e-4)
        assert told[200] == pytest.approx(200 / (198 + 3.75) - 1, abs=1e-4)
        assert whole.curable
        with pytest.raises(InputRefused, match="more off than there is"):
            whole.after(-6.0)


def test_a_rate_that_is_known_badly_turns_the_whole_scale_by_less(demo, act):
    with demo.session() as session:
        run = begun(session, tool_id(demo, "HC-0417"), act, 0.85, 0.95)
        advised = next_turn(run)[0].advice
        well, badly = (
            whole_scale(run, replace(advised, rate_uncertainty=part * advised.rate_per_turn)).next.turn
            for part in (0.0, 1.0)
        )
        assert well >= 0.5
        assert badly == pytest.approx(well / 2, abs=0.125)


def test_what_one_screw_cannot_cure_is_said_before_anyone_turns(demo, act):
    """Low at the bottom and high at the top: whatever is added everywhere, one of both stays outside."""
    with demo.session() as session:
        run = begun(session, tool_id(demo, "HC-0417"), act, 0.90, 1.06)
        advised = next_turn(run)[0]
        whole = advised.whole
        assert advised.stop is StopReason.NOT_CURABLE  # nobody is told to turn and to send it away at once
        assert not whole.curable
        assert whole.next.worst > 1


def test_which_way_to_turn_is_said_only_where_it_is_known(demo, act):
    wanted = tool_id(demo, "HC-0417")
    for raises, words in (("cw", "an eighth clockwise, which should raise"), ("", "an eighth either way")):
        with demo.session() as session:
            model = session.get_one(Tool, wanted).model_id
            edit(session, RegisterKind.MODEL, model, {"adjust_rate": None, "adjust_raises": raises}, act)
            run = begun(session, wanted, act, 0.93, 0.97)
            assert words in adjusting.advice(run)[1]
            session.rollback()


@pytest.mark.parametrize(("after", "by_two"), [(37.2, 0.125), (37.35, 0.25)])
def test_a_first_turn_that_is_lost_in_the_scatter_is_followed_by_a_small_one(demo, act, after, by_two):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        model = session.get_one(Tool, wanted).model_id
        edit(session, RegisterKind.MODEL, model, {"adjust_rate": None}, act)
        run = begun(session, wanted, act, 0.93, 0.97)
        run = adjusting.turn(session, run.id, 0.125, act)
        advised, _ = next_turn(read(session, run, after + 0.001, act))
        assert advised.advice.inconclusive
        assert abs(advised.turn) == 0.125  # neither nothing nor by what a single reading makes of it
        assert advised.stop is None
        advised, _ = next_turn(read(session, run, after - 0.001, act))
        assert advised.advice.inconclusive
        assert abs(advised.turn) == by_two


def test_turns_already_made_move_every_point_and_the_model_or_an_earlier_adjustment_says_how(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        model = session.get_one(Tool, wanted).model_id
        edit(session, RegisterKind.MODEL, model, {"adjust_changes": "gain"}, act)
        run = begun(session, wanted, act, 0.93, 0.97)
        assert what_it_changes(run) == (ErrorKind.GAIN, ScrewKnowledge.SAID)
        run = adjusting.turn(session, run.id, 0.125, act)
        run = read(session, run, 37.2 * 1.02, act)
        now = {s.target: p.now for s, p in whole_scale(run, adjusting.advice(run)[0]).next.points}
        assert now[120] == pytest.approx(1 / (0.97 * 1.02) - 1, abs=1e-4)
    with demo.session() as session:
        edit(session, RegisterKind.MODEL, model, {"adjust_changes": ""}, act)
        run = adjusting.finish(session, run.id, True, act)
        while run.current:
            run = read(session, run, run.current.target * (0.93 if run.current.target == 40 else 0.97) * 1.03, act)
        run = closed(session, run, act)
        bare = replace(run.tool.adjustment, changes=None)
        run = replace(run, facts=replace(run.facts, tool=replace(run.tool, adjustment=bare)))
        assert what_it_changes(run) == (ErrorKind.GAIN, ScrewKnowledge.TAUGHT)
        # read 2 % higher after the turn, 3 % once it was locked: the lock's own share comes again
        assert lock_shift(run) == pytest.approx(37.2 * 0.01, rel=0.01)


def test_what_the_meter_showed_at_rest_while_adjusting_is_no_zero_of_a_series(demo, act):
    def zeros(session):
        return session.scalar(select(func.count()).select_from(ZeroCheck))

    with demo.session() as session:
        wanted = tool_id(demo, "HC-0417")
        run = outside(session, wanted, act, 0.93, 0.97)
        seen = NewObservation(ObservationKind.VALUE, 40.0, Source.TRACE, pull="p")
        before, pull = zeros(session), Pull("p", (40.0,), (), 40.0, (), np.zeros(100), 1000.0, rest_before=0.3)
        run = adjusting.begin(session, run.id, run.series[0].id, act)
        run = taking.observe_pull(session, adjusting.turn(session, run.id, 0.125, act), seen, pull, act)
        assert zeros(session) == before
        run = adjusting.finish(session, run.id, True, act)
        taking.observe_pull(session, run, replace(seen, pull="q"), replace(pull, id="q"), act)
        assert zeros(session) > before


def test_a_lock_that_moves_no_more_than_the_tool_scatters_has_moved_nothing(demo, act):
    with demo.session() as session:
        run = begun(session, tool_id(demo, "HC-0417"), act, 0.93, 0.97)
        run = read(session, adjusting.turn(session, run.id, 0.125, act), 40.0, act)
        run = adjusting.finish(session, run.id, True, act)
        for by in (0.99, 1.03, 0.98, 1.04, 1.01):
            run = read(session, run, 40.0 * by, act)
        assert lock_shift(run) == 0.0


def test_nothing_is_adjusted_that_is_comfortably_inside_or_below_a_fifth_of_the_scale(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        person = next(p for p in people(reader_of(session)) if p.id == act.person_id)
        run = read_all(session, prepared(session, wanted, act), act, 1.0)
        assert "leave it alone" in adjusting.why_not(run, person)
        with pytest.raises(ShopRefused, match="comfortably inside"):
            adjusting.begin(session, run.id, run.series[0].id, act)


def test_it_is_near_enough_once_less_than_a_sixteenth_is_left(demo, act):
    with demo.session() as session:
        run = begun(session, tool_id(demo, "HC-0417"), act, 0.93, 0.99)
        run = adjusting.turn(session, run.id, next_turn(run)[0].turn, act)
        change = 7.5 * run.adjusting.turns
        run = read(session, run, 37.2 + change, act)
        advised, _ = next_turn(run)
        assert (advised.turn, advised.stop) == (0.0, StopReason.NEAR_ENOUGH)


@pytest.mark.parametrize("kind", list(ErrorKind))
def test_with_limits_of_their_own_the_point_that_is_worst_in_its_limit_is_least(kind):
    points = [PointSeries(20.0, (18.4, 18.6), 0.06), PointSeries(100.0, (101.0, 101.5), 0.04)]
    best = best_turn(points, 0.04, kind)

    def worst(change):
        return max(abs(p.then) / own.limit for p, own in zip(after_change(points, kind, change), points, strict=True))

    step = 1e-3 if kind is ErrorKind.OFFSET else 1e-5
    assert worst(best.change) <= min(worst(best.change - step), worst(best.change + step))
    same = best_turn([replace(p, limit=0.04) for p in points], 0.04, kind)
    assert same.change == pytest.approx(
        best_turn([replace(p, limit=None) for p in points], 0.04, kind).change, rel=1e-9
    )


def test_two_points_teach_what_a_screw_changes_and_one_or_none_do_not():
    before = [PointSeries(40.0, (38.0,)), PointSeries(200.0, (190.0,))]
    assert taught(before, [PointSeries(40.0, (40.0,)), PointSeries(200.0, (192.1,))]) is ErrorKind.OFFSET
    assert taught(before, [PointSeries(40.0, (39.9,)), PointSeries(200.0, (199.4,))]) is ErrorKind.GAIN
    assert taught(before, before) is None
    assert taught(before[:1], [PointSeries(40.0, (40.0,))]) is None
