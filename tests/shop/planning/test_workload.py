"""The work of the next twelve months: counted by weeks, levelled by bringing tools forward, and as a calendar."""

from datetime import UTC, date, datetime, timedelta

import pytest
from icalendar import Calendar

from reckoner.shop.events import projection
from reckoner.shop.papers.calendar import DueDay, due_days, written
from reckoner.shop.people.authorship import Act, ShopRefused
from reckoner.shop.planning.workload import EARLIER, Week, Workload, bring_forward, due_in, levelling, workload
from reckoner.shop.register import editing
from reckoner.shop.register.cards import card, cards
from reckoner.shop.register.fields import fields_of
from reckoner.store.reader import reader_of
from reckoner.store.terms import RegisterKind
from tests.support.runs import TODAY, later, tool_id

MONDAY = date(2026, 11, 23)


def work(*counts):
    counts = counts + (0,) * (53 - len(counts))
    return Workload(0, tuple(Week(MONDAY + timedelta(weeks=i), c) for i, c in enumerate(counts)))


def test_every_tool_that_waits_is_late_or_in_a_week_of_the_year(demo):
    with demo.session() as session:
        found = workload(reader_of(session), TODAY)
        waits = [c for c in cards(reader_of(session), 0, 100) if not c.standing.barred]
    assert found.weeks[0].begins == MONDAY
    late = [c for c in waits if c.standing.due is None or c.standing.due.on < TODAY]
    assert found.late == len(late)
    for week in found.weeks:
        inside = [c for c in waits if c.standing.due and week.begins <= c.standing.due.on <= week.ends]
        assert week.count == len(inside)
    assert sum(w.count for w in found.weeks) + found.late >= len(waits)


def test_a_week_is_levelled_into_the_quietest_of_the_weeks_before_it():
    busy = work(1, 0, 2, 0, 60)
    assert busy.even == 2
    found = levelling(busy, busy.weeks[4])
    assert (found.count, found.into) == (2, busy.weeks[3])  # as late as may be
    assert levelling(busy, busy.weeks[2]) is None
    far = work(*([2] * 20), 70)
    assert levelling(far, far.weeks[20]) is None or levelling(far, far.weeks[20]).into.begins >= (
        far.weeks[20].begins - timedelta(weeks=EARLIER)
    )
    assert levelling(work(9), work(9).weeks[0]) is None  # nothing is before it


def test_tools_brought_forward_are_due_then_and_have_their_dates_again(demo, act):
    with demo.session() as session:
        found = workload(reader_of(session), TODAY)
        busiest = max(found.weeks, key=lambda w: w.count)
        tools = due_in(reader_of(session), busiest, TODAY)
        assert len(tools) == busiest.count
        level = levelling(found, busiest)
        ids = [c.tool.id for c in tools[: level.count]]
        made = bring_forward(session, ids, level.into.ends, act)
        now = card(reader_of(session), ids[0])
        assert now.standing.due.on == level.into.ends
        after = workload(reader_of(session), TODAY)
        assert max(w.count for w in after.weeks) < busiest.count or level.count < busiest.count
        undone = made.take_back(session, later(act, 1))
        assert card(reader_of(session), ids[0]).standing == tools[0].standing
        undone.take_back(session, later(act, 2))
        assert card(reader_of(session), ids[0]).standing.due.on == level.into.ends
        assert projection.rebuild(session) == 0


def test_a_date_is_never_put_off_nor_brought_into_the_past_nor_without_the_right(demo, act):
    wanted = tool_id(demo, "HC-0417")  # due on 6 Dec 2026
    with demo.session() as session:
        for day, why in ((date(2026, 12, 6), "cannot be brought forward"), (TODAY - timedelta(1), "is past")):
            with pytest.raises(ShopRefused, match=why):
                bring_forward(session, [wanted], day, act)
        field = next(f for f in fields_of(RegisterKind.PERSON) if f.name == "may_edit")
        editing.change(session, RegisterKind.PERSON, 2, field, False, act)
        with pytest.raises(ShopRefused, match="may not"):
            bring_forward(session, [wanted], TODAY, Act(2, act.at))


def test_the_due_dates_are_a_calendar_that_others_read(demo):
    with demo.session() as session:
        days = due_days(reader_of(session))
    now = datetime(2026, 11, 24, 8, tzinfo=UTC)
    events = Calendar.from_ical(written(days, "Torque tools due", now)).walk("VEVENT")
    assert len(events) == len(days) > 30
    one = next(e for e in events if "HC-0417" in e["summary"])
    assert (one.start, one.end) == (date(2026, 12, 6), date(2026, 12, 7))
    assert one["location"] == "Upper Station"
    again = Calendar.from_ical(written([DueDay("tool-1", TODAY, "ä, ; \\ \n x")], "x", now)).walk("VEVENT")
    assert str(again[0]["summary"]) == "ä, ; \\ \n x"
