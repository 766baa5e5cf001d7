"""Done just after midnight, an hour east of Greenwich: times are kept in UTC, days and hours are those of the place."""

from dataclasses import replace
from datetime import date, datetime, timedelta, timezone

import pytest

from reckoner.core.tightening.jobs import EntryKind
from reckoner.shop.people.authorship import Act
from reckoner.shop.records import exporting
from reckoner.shop.records.exporting import history
from reckoner.shop.records.results import results
from reckoner.shop.records.trail import trail
from reckoner.shop.runs import signing
from reckoner.shop.using.known import known_of
from reckoner.shop.using.lending import lend, take_back
from reckoner.shop.using.reviewing import begin, uses_of
from reckoner.shop.using.reviews import review
from reckoner.shop.using.working import begin as begin_job
from reckoner.shop.using.working import enter, sign, work
from reckoner.shop.using.works import work_lines
from reckoner.store.reader import reader_of
from tests.shop.using.test_working import CARD, worked
from tests.support.runs import prepared, read_all, tool_id

PLACE = timezone(timedelta(hours=1))
AFTER_MIDNIGHT = datetime(2026, 11, 25, 0, 30, tzinfo=PLACE)
DAY = date(2026, 11, 25)


@pytest.fixture
def here():
    return Act(1, AFTER_MIDNIGHT)


def test_loans_and_their_review_are_of_the_day_that_it_was(demo, here):
    wanted = tool_id(demo, "HC-0418")
    with demo.session() as session:
        lend(session, (wanted,), "crew", DAY, (), here)
        take_back(session, wanted, here)
        uses = [use for use in uses_of(session, wanted, None, DAY) if use.to == "crew"]
        assert [(use.on, use.back) for use in uses] == [(DAY, DAY)]
        assert [use for use in uses_of(session, wanted, None, DAY - timedelta(days=1)) if use.to == "crew"] == []
        rows = [row for row in exporting.loan_rows(reader_of(session)) if row[1] == "crew"]
        assert [(row[2], row[4]) for row in rows] == [("2026-11-25", "2026-11-25")]
        handed = history(reader_of(session), wanted, "HC-0418", "")["entries"][-1]
        assert datetime.fromisoformat(handed["at"]) == AFTER_MIDNIGHT
        assert review(reader_of(session), begin(session, wanted, here)).begun == DAY
        assert trail(reader_of(session))[0].at == AFTER_MIDNIGHT
        assert trail(reader_of(session))[0].at.hour == 0


def test_jobs_and_runs_are_of_the_hour_that_it_was(demo, act, here):
    with demo.session() as session:
        work_id = begin_job(session, CARD, here)
        enter(session, work_id, EntryKind.DONE, 0, 1, here)
        state = work(session, work_id)
        assert (state.begun.hour, state.entries[0].at.hour) == (0, 0)
        worked(session, work_id, here)
        assert sign(session, work_id, here).closed.startswith("signed on 25 Nov 2026")
        assert next(line.begun for line in work_lines(reader_of(session), closed=True)) == DAY
        run = read_all(session, prepared(session, tool_id(demo, "HC-0417"), act), act, 0.99)
        signing.sign(session, run.id, replace(act, at=AFTER_MIDNIGHT))
        assert results(reader_of(session))[0].on == DAY
        assert known_of(reader_of(session), run.tool.id).on == DAY
