"""Very many overdue tools: planned day by day, so that a meter is set up once."""

from datetime import date, timedelta

from hypothesis import given
from hypothesis import strategies as st

from reckoner.shop.events.recording import record_event
from reckoner.shop.planning.agenda import PAGE, DayList, agenda
from reckoner.shop.planning.workload import USUAL, Meter, OverdueTool, catching_up, first_day, planned, usual_a_day
from reckoner.store.reader import reader_of
from reckoner.store.terms import EventKind
from tests.support.runs import TODAY, tool_id

FRIDAY = date(2026, 11, 27)
METERS = (Meter("PM-2", 1.2, 6.0), Meter("PM-5", 40.0, 200.0))
TORQUES = st.sampled_from([(1.2, 6.0), (40.0, 200.0), (0.4, 2.0), (100.0, 200.0)])


def late(i, low, high):
    return OverdueTool(i, f"HC-{i}", FRIDAY - timedelta(days=400 - i), low, high)


def test_a_day_stays_with_the_meter_of_the_longest_overdue_and_goes_over_the_weekend():
    tools = [late(1, 40, 200), late(2, 1.2, 6), late(3, 40, 200), late(4, 0.4, 2), late(5, 40, 200)]
    days = planned(tools, METERS, FRIDAY, 2)
    assert [d.on for d in days] == [FRIDAY, date(2026, 11, 30), date(2026, 12, 1)]
    told = [[(b.meter, [t.id for t in b.tools]) for b in d.batches] for d in days]
    assert told == [[("PM-5", [1, 3])], [("PM-2", [2]), ("PM-5", [5])], [("", [4])]]


@given(st.lists(TORQUES, max_size=40), st.integers(1, 9))
def test_each_tool_is_planned_once_and_no_day_has_too_many(torques, a_day):
    tools = [late(i, low, high) for i, (low, high) in enumerate(torques)]
    days = planned(tools, METERS, FRIDAY, a_day)
    assert sorted(t.id for d in days for t in d.tools) == list(range(len(tools)))
    assert all(len(d.tools) == a_day for d in days[:-1])
    assert all(d.on.weekday() < 5 for d in days)
    for day in days:
        for batch in day.batches:
            assert batch.tools
            assert all(
                not batch.meter or next(m for m in METERS if m.number == batch.meter).fits(t) for t in batch.tools
            )


def test_the_day_shows_the_first_share_of_very_many_and_the_lent_ones_wait(demo, act):
    """Two years on, everything that is not barred is overdue."""
    later = TODAY + timedelta(days=800)
    with demo.session() as session:
        record_event(session, tool_id(demo, "HC-0417"), EventKind.LENT, "Tower crew", act)
        reader = reader_of(session)
        day = agenda(reader, later)
        plan = catching_up(reader, later)
        assert day.planned
        assert first_day(reader, later) == plan.days[0]
        assert plan.late == day.counts[DayList.OVERDUE] > PAGE
        assert plan.a_day == usual_a_day(reader, later) == USUAL
        assert plan.lent == 3
        numbers = [t.number for d in plan.days for t in d.tools]
        assert (len(set(numbers)), "HC-0417" in numbers) == (plan.late - plan.lent, False)
        shown = [i.card.tool.id for i in day.of(DayList.OVERDUE)]
        assert shown == [t.id for t in plan.days[0].tools]
        assert day.shown(DayList.OVERDUE) == USUAL
        assert plan.ends == plan.days[-1].on
        assert not agenda(reader, TODAY).planned
