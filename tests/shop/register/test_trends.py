"""How a tool drifts, as its sheet says it; and the files that belong to it."""

from dataclasses import replace
from datetime import date

import pytest

from reckoner.core.decision.states import State
from reckoner.core.history.drift import DatedDeviation, drift
from reckoner.core.requirements.tooltypes import Direction
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.register import attachments
from reckoner.shop.register.histories import PointHistory, RunHistory
from reckoner.shop.register.sheet import sheet
from reckoner.shop.register.trends import own_results, trends
from reckoner.store.reader import reader_of
from reckoner.store.schema import Content
from reckoner.store.terms import RegisterKind, RunKind
from tests.support.runs import tool_id

POINT = (Direction.CW, 60.0)


def run(on, deviation, *, left=False, state=State.INSIDE):
    point = PointHistory(60.0, Direction.CW, deviation, deviation, 0.009, 0.0, 0.009, 0.04, state, left)
    return RunHistory(1, 1, on, RunKind.FULL, state, True, "", "R. K.", None, "", "PM-5", (point,))


def test_a_drift_begins_anew_where_the_tool_was_adjusted_and_leaves_out_what_decided_nothing():
    days = [date(2020 + i, 3, 6) for i in range(5)]
    runs = [
        run(days[0], 0.03),
        run(days[1], 0.001, left=True),
        run(days[2], 0.5, state=State.UNDECIDED),
        run(days[3], 0.4, state=State.COMPARED),
        run(days[4], 0.003),
    ]
    assert own_results(runs, POINT) == (DatedDeviation(days[1], 0.001), DatedDeviation(days[4], 0.003))


def test_of_two_results_on_a_day_the_last_counts():
    day = date(2026, 3, 6)
    assert own_results([run(day, 0.03), run(day, 0.02)], POINT) == (DatedDeviation(day, 0.02),)


def test_a_sheet_tells_the_drift_of_each_point_with_the_dates_it_reaches_the_limit(demo):
    with demo.session() as session:
        found = sheet(reader_of(session), tool_id(demo, "HC-0422"))
        made = trends(reader_of(session), found)
    assert set(made) == {(p.direction, p.target) for p in found.runs[-1].points}
    trend = made[POINT]
    again = drift(own_results(found.runs, POINT))
    assert (trend.drift, trend.line_reaches) == (again, again.line_reaches(0.04))
    assert trend.words.startswith(
        "Drifts by +0.53\u202f% a year (4 results); the line reaches ±4.0\u202f% on 25 Aug 2029"
    )
    drawn = trend.drawn(date(2026, 11, 24))
    assert drawn[0][0] == found.runs[0].on
    assert drawn[-1][1] == pytest.approx(again.predicted(drawn[-1][0]))
    assert [r.reference for r in found.runs] != [""] * len(found.runs)


def test_a_band_that_is_as_wide_as_the_fence_is_said_to_tell_nothing(demo):
    with demo.session() as session:
        found = sheet(reader_of(session), tool_id(demo, "HC-0417"))
        trend = trends(reader_of(session), found)[(Direction.CW, 40.0)]  # three results, Student's t of 12.7
    assert trend.band_reaches == trend.drift.last
    assert trend.words.endswith("but its 95 % band is beyond that already: too few results to tell.")


def test_a_tool_with_few_results_drifts_as_the_others_of_its_model_do(demo):
    with demo.session() as session:
        found = sheet(reader_of(session), tool_id(demo, "HC-0422"))
        young = replace(found, runs=found.runs[-1:])
        trend = trends(reader_of(session), young)[POINT]
    assert trend.drift.other_tools > 1
    assert f"as {trend.drift.other_tools} others of its model do; it has 1 result itself" in trend.words


def test_a_file_is_kept_once_by_its_content_and_comes_back_as_it_was(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        command = attachments.attach(session, RegisterKind.TOOL, wanted, "folder/photo.jpg", b"pixels", act)
        attachments.attach(session, RegisterKind.TOOL, wanted + 1, "same.jpg", b"pixels", act)
        assert session.query(Content).count() == 1
        (line,) = attachments.attachments(session, RegisterKind.TOOL, wanted)
        assert (line.name, line.size) == ("photo.jpg", 6)
        assert attachments.content(session, line.id) == ("photo.jpg", b"pixels")
        undone = command.take_back(session, act)
        assert attachments.attachments(session, RegisterKind.TOOL, wanted) == ()
        undone.take_back(session, act)
        assert len(attachments.attachments(session, RegisterKind.TOOL, wanted)) == 1
        for name, data, why in (
            ("a.jpg", b"", "is empty"), ("", b"x", "no name"), ("b.jpg", b"pixels", "here already, as photo.jpg"),
            ("c.jpg", b"x" * (attachments.LARGEST + 1), "larger than 25 MB"),
        ):  # fmt: skip
            with pytest.raises(ShopRefused, match=why):
                attachments.attach(session, RegisterKind.TOOL, wanted, name, data, act)


def test_a_file_that_was_changed_in_the_database_is_not_opened(demo, act):
    from sqlalchemy import update

    from reckoner.store.migrate import lowered

    with demo.session() as session:
        attachments.attach(session, RegisterKind.TOOL, 1, "photo.jpg", b"pixels", act)
    with demo.engine.begin() as connection, lowered(connection):
        connection.execute(update(Content).values(data=b"others"))
    with demo.session() as session:
        (line,) = attachments.attachments(session, RegisterKind.TOOL, 1)
        with pytest.raises(ShopRefused, match="not what was kept"):
            attachments.content(session, line.id)
