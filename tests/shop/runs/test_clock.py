"""A clock that is wrong changes no number, no step and no order; days are those of the place where they were written."""

import os
import time
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta, timezone

import pytest

from reckoner.shop.events.recording import record_event
from reckoner.shop.people.authorship import Act
from reckoner.shop.procedures.choosing import references
from reckoner.shop.register.cards import card
from reckoner.shop.register.sheet import sheet
from reckoner.shop.runs import amending, setting_up, signing, taking
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.loading import load
from reckoner.shop.runs.recomputing import recompute
from reckoner.shop.runs.records import Step
from reckoner.store.reader import reader_of
from reckoner.store.schema import Certificate, Reference
from reckoner.store.terms import EventKind
from tests.support.clock import in_zone, utc
from tests.support.runs import prepared, read, read_all, tool_id

WEST = timezone(timedelta(hours=-8))
JUMPS = {
    "none": lambda i: timedelta(minutes=i),
    "back by an hour": lambda i: timedelta(minutes=i) - (timedelta(hours=1) if i > 7 else timedelta()),
    "ahead by a year": lambda i: timedelta(minutes=i) + (timedelta(days=365) if i > 7 else timedelta()),
    "over midnight": lambda i: timedelta(hours=9, minutes=i - 2),
    "back and forth": lambda i: timedelta(minutes=i) + timedelta(days=400 * (-1) ** i if i > 1 else 0),
}


class Clock:
    """The acts of one person, by a clock that jumps."""

    def __init__(self, act, jump):
        self.start = replace(act, at=act.at.replace(hour=14, minute=55))
        self.jump, self.ticks = jump, 0

    def __call__(self):
        self.ticks += 1
        return replace(self.start, at=self.start.at + self.jump(self.ticks))


@pytest.mark.parametrize("jump", JUMPS)
def test_a_run_ends_with_the_same_numbers_and_steps_whatever_the_clock_does(demo, act, jump):
    clock = Clock(act, JUMPS[jump])
    with demo.session() as session:
        run, steps = prepared(session, tool_id(demo, "HC-0417"), clock()), []
        while run.current:
            run = read(session, run, run.current.target * (0.98 + 0.002 * len(steps)), clock())
            steps.append(run.step)
        run = read_all(session, run, clock(), 1)
        found = judged(run).verdict
        assert (run.step, set(steps)) == (Step.DECIDE, {Step.AS_FOUND})
        means = [sum(1 / (0.98 + 0.002 * (5 * i + j)) - 1 for j in range(5)) / 5 for i in range(3)]
        assert [p.budget.deviation for p in found.points] == pytest.approx(means)
        assert judged(run).distrust is None
        signing.sign(session, run.id, clock())
        if jump == "ahead by a year":  # what is recomputed later goes by the same day
            assert [r.otherwise for r in recompute(session)][-1] == ()


def test_a_zero_looked_at_before_the_last_reading_does_not_close_the_run_though_the_clock_says_so(demo, act):
    with demo.session() as session:
        run = read_all(session, prepared(session, tool_id(demo, "HC-0417"), act), act, 0.99)
        assert run.step is Step.DECIDE
        run = taking.strike(session, run.id, [run.series[-1].observations[-1].id], "slipped off", act)
        early = replace(act, at=act.at - timedelta(days=3))
        run = read(session, run, run.current.target, early)
        assert run.step is Step.AS_FOUND  # the zero after is wanted again
        assert read_all(session, run, early, 1).step is Step.DECIDE


def test_what_happened_is_in_the_order_it_was_kept_in(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        record_event(session, wanted, EventKind.HELD, "first", act)
        record_event(session, wanted, EventKind.RELEASED, "then", replace(act, at=act.at - timedelta(days=900)))
        assert card(reader_of(session), wanted).held == ""
        assert [h.detail for h in sheet(reader_of(session), wanted).happenings[:2]] == ["then", "first"]


def test_days_are_local_days_kept_with_their_offset(demo, act):
    evening = Act(act.person_id, datetime(2026, 11, 24, 18, 30, tzinfo=WEST))  # the 25th in UTC
    with demo.session() as session:
        run = read_all(session, prepared(session, tool_id(demo, "HC-0417"), evening), evening, 0.99)
        signing.sign(session, run.id, evening)
    with demo.session() as session:
        signed = load(session, run.id)
        assert signed.signature.on == signed.day == date(2026, 11, 24)
        assert signed.opened.utcoffset() == timedelta(hours=-8)
        assert sheet(reader_of(session), signed.tool.id).happenings[0].on == date(2026, 11, 24)
        assert card(reader_of(session), signed.tool.id).standing.last_run == date(2026, 11, 24)
        copy = amending.amend(session, run.id, "a slip", evening)
        assert "signed 24 Nov 2026" in copy.plan.note


@pytest.mark.parametrize("zone", ["America/Los_Angeles", "Europe/Berlin", "Asia/Kolkata", "Pacific/Chatham"])
def test_times_come_back_as_they_were_and_old_ones_in_the_machines_zone(zone, monkeypatch):
    from sqlalchemy.dialects import sqlite

    from reckoner.store.schema.base import LocalTime

    monkeypatch.setitem(os.environ, "TZ", zone)
    time.tzset()
    try:
        kind, dialect = LocalTime(), sqlite.dialect()
        for at in (
            in_zone(utc(2026, 10, 25, 0, 30)),
            in_zone(utc(2026, 10, 25, 1, 30, 0, 7)),  # the hour that comes twice in Berlin
            datetime(2026, 7, 1, 23, 59, 59, 999999, tzinfo=timezone(timedelta(hours=-9, minutes=-30))),
        ):
            kept = kind.process_bind_param(at, dialect)
            back = kind.process_result_value(kept, dialect)
            assert (back, back.utcoffset(), back.date()) == (at, at.utcoffset(), at.date())
        old = kind.process_result_value("2026-07-01 03:30:00.000000", dialect)
        assert old == datetime(2026, 7, 1, 3, 30, tzinfo=UTC)
        assert old.utcoffset() == in_zone(utc(2026, 7, 1, 3, 30)).utcoffset()
    finally:
        monkeypatch.undo()
        time.tzset()


def test_a_certificate_that_is_dated_ahead_waits_for_its_date(demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
        now, meter = run.reference.certificate_number, session.get_one(Reference, run.reference.id)
        meter.certificates.append(
            Certificate(number="ahead", laboratory="L", issued=date(2026, 12, 24), due=date(2027, 12, 24), points=[])
        )
        session.flush()
        for day, expected in ((act.at.date(), now), (date(2026, 12, 24), "ahead")):
            found = next(k.facts for k in references(session, day) if k.facts.id == meter.id)
            assert found.certificate_number == expected
        again = setting_up.choose_reference(session, run.id, meter.id, "", act)
        assert again.reference.certificate_number == now
