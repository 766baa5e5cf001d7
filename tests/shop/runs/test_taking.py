"""What is taken from a meter's pull, and the trace that belongs to it."""

from dataclasses import replace

import numpy as np
import pytest
from sqlalchemy import event, func, select

from reckoner.meters.pull import Pull
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.runs import opening, setting_up, taking
from reckoner.shop.runs.loading import load
from reckoner.shop.runs.planning import propose
from reckoner.store.schema import Trace
from reckoner.store.terms import ZeroMoment
from tests.support.runs import prepared, tool_id


def test_a_trace_is_kept_once_with_the_reading_of_its_pull_and_of_no_other(demo, act):
    with demo.session() as session:
        before = session.scalar(select(func.count()).select_from(Trace))
        run = prepared(session, tool_id(demo, "HC-0417"), act)
        taking.observe(session, run.id, replace(taking.typed(40.2), pull="first"), act)
        pull = Pull("first", (40.2,), (40.2,), 44.0, (), np.linspace(0.0, 40.2, 50), 1000.0)
        assert taking.keep_trace(session, run.id, replace(pull, id="another"), act) is None
        kept = taking.keep_trace(session, run.id, pull, act)
        assert kept is not None
        assert taking.keep_trace(session, run.id, pull, act) is None  # sent twice
        assert session.scalar(select(func.count()).select_from(Trace)) == before + 1


def test_a_run_that_is_known_is_gone_by_only_while_it_is_what_the_database_holds(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        run = prepared(session, wanted, act)
    while run.current:
        with demo.session() as session:
            run = taking.observe(session, run.id, taking.typed(run.current.target * 0.99), act, run)
        with demo.session() as session:
            assert run == load(session, run.id)
    behind = run
    with demo.session() as session:
        run = setting_up.record_zero(session, run.id, ZeroMoment.AFTER, 0.0, act)
        with pytest.raises(ShopRefused, match="All readings of this run are taken"):
            taking.observe(session, run.id, taking.typed(40), act, run)
        run = taking.strike(session, run.id, [run.series[0].observations[0].id], "slipped", act)
    with demo.session() as session:  # it does not know of the strike, and still the reading goes where one is missing
        ahead = taking.observe(session, run.id, taking.typed(40.1), act, behind)
        assert (len(ahead.series[0].counted), ahead.zeros.after) == (5, None)
        assert ahead == load(session, run.id)
        opening.give_up(session, run.id, "enough", act)
        with pytest.raises(ShopRefused, match="was given up"):
            taking.observe(session, run.id, taking.typed(40), act, ahead)


def test_keeping_one_reading_costs_at_most_twelve_statements(demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    said = []
    event.listen(demo.engine, "before_cursor_execute", lambda *told: said.append(told[2]))
    with demo.session() as session:
        taking.observe(session, run.id, taking.typed(39.9), act, run)
    assert len(said) <= 12, said


def test_an_answer_of_the_look_over_costs_at_most_ten_statements_and_is_what_is_kept(demo, act):
    with demo.session() as session:
        wanted = tool_id(demo, "HC-0417")
        run = opening.open_run(session, wanted, act, propose(session, wanted, act.at.date()).plan)
    said = []
    event.listen(demo.engine, "before_cursor_execute", lambda *told: said.append(told[2]))
    first, second, *_others = (line.line for line in run.inspection)
    with demo.session() as session:
        once = setting_up.look_over(session, run.id, first, True, "clean", act, run)
    assert len(said) <= 10, said
    with demo.session() as session:
        assert once == load(session, run.id)
    with demo.session() as session:  # it does not know of the first answer, and still both are there
        both = setting_up.look_over(session, run.id, second, True, "", act, run)
        assert both == load(session, run.id)
    assert [line.fine for line in both.inspection][:2] == [True, True]
