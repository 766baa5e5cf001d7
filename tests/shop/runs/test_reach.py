"""A first run is proposed at what the shop's own meter can judge, and says what lies outside."""

import pytest
from sqlalchemy import select

from reckoner.shop.procedures.choosing import candidates
from reckoner.shop.register import registerfile
from reckoner.shop.register.intake import take_in
from reckoner.shop.runs import opening
from reckoner.shop.runs.planning import propose, warnings
from reckoner.store.database import Database
from reckoner.store.schema import Reference, Tool, Weight
from tests.support.runs import REGISTER, TODAY


@pytest.fixture
def shop(tmp_path, act):
    """A shop with one tool and one meter from 20 to 200 N·m, its tool's range as asked for."""
    databases = []

    def make(low, high):
        text = REGISTER.replace("10 N.m", f"{low} N.m").replace("50 N.m", f"{high} N.m", 1)
        database = Database(tmp_path / f"{low}")
        databases.append(database)
        with database.session() as session:
            take_in(session, registerfile.parse(text), act.at)
        with database.session() as session:
            meter = session.scalars(select(Reference)).one()
            meter.minimum, meter.maximum = 20.0, 200.0
            tool = session.scalars(select(Tool)).one()
            tool.resolution = 1.0
        return database

    yield make
    for database in databases:
        database.close()


@pytest.mark.parametrize(
    ("low", "high", "points", "note"),
    [
        (20, 200, (40, 120, 200), "M-1 judges 40–200\u202fN·m: 20\u202fN·m is left out"),
        (10, 100, (40, 60, 100), "M-1 judges 40–200\u202fN·m: 10\u202fN·m is left out"),
        (40, 200, (40, 120, 200), ""),
        (2, 20, (2, 12, 20), ""),  # none of it can be judged: what the rule set asks for stands
    ],
)
def test_the_points_are_those_that_the_meter_judges(shop, act, low, high, points, note):
    with shop(low, high).session() as session:
        tool = session.scalars(select(Tool)).one()
        found = propose(session, tool.id, TODAY)
        assert (found.plan.points, found.plan.note) == (points, note)
        if note:
            assert "asks for" in warnings(found, found.plan)[0]
            run = opening.open_run(session, tool.id, act, found.plan)
            assert candidates(session, run.tool, run.rules, TODAY, points)[0].against == ()


def test_who_has_weights_as_well_is_proposed_all_that_the_rule_set_asks_for(shop, act):
    with shop(20, 200).session() as session:
        session.add(Weight(number="W-10", stamped=10.0))
        session.flush()
        tool = session.scalars(select(Tool)).one()
        assert propose(session, tool.id, TODAY).plan.points == (20, 120, 200)
        plan = propose(session, tool.id, TODAY, at=60.0).plan
        assert (plan.points, plan.note) == ((60,), "")
