"""How long until the next full run: the three schools, the cycles, and what is kept of both."""

from dataclasses import replace
from datetime import date, timedelta

import pytest

from reckoner.core.history.due import DueReason
from reckoner.core.history.interval import IntervalOutcome, School
from reckoner.shop.events.recording import record_event, report
from reckoner.shop.intervals import IntervalBasis, basis, proposed
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.records import checking
from reckoner.shop.register.cards import card
from reckoner.shop.register.editing import the_shop
from reckoner.shop.register.rows import edit
from reckoner.shop.runs import document, outcomes, signing
from reckoner.shop.runs.outcomes import next_due
from reckoner.shop.words.phrases import understood
from reckoner.store.reader import reader_of
from reckoner.store.schema import Signature
from reckoner.store.terms import EventKind, RegisterKind
from tests.support.runs import TODAY, later, outside, prepared, read_all, tool_id

SEEN = (
    IntervalOutcome(6, True, 14),
    IntervalOutcome(12, True, 21),
    IntervalOutcome(12, False, 2),
    IntervalOutcome(18, True, 5),
    IntervalOutcome(18, False, 2),
)


def test_the_staircase_counts_from_the_interval_that_ended():
    steps = IntervalBasis(School.STAIRCASE, 12, 15)
    assert [proposed(steps, used).months for used in (0.4, 0.5, 0.51, 1.0, 1.01)] == [18, 18, 15, 15, 7]
    assert proposed(steps, 0.4).why == "staircase: found within half of its limit, so 15 months become 18"
    assert proposed(steps, 2.0).why == "staircase: found outside, so 15 months become 7"
    assert proposed(steps).months == 12  # nothing was decided


def test_a_reliability_target_proposes_its_lower_bound_and_says_what_it_rests_on():
    seen = IntervalBasis(School.RELIABILITY, 12, 12, 0.95, (*SEEN, IntervalOutcome(24, False)))
    found = proposed(seen, 0.2)
    assert found.months == 2  # 2.5 by the bound, in whole months
    assert "4.8 months by 45 results of its model (90 % bounds 2.5 to 11.1 months)" in found.why
    none_failed = replace(seen, outcomes=(IntervalOutcome(12, True, 30),))
    assert (proposed(none_failed).months, "no tool was found outside" in proposed(none_failed).why) == (12, True)
    few = replace(seen, outcomes=(IntervalOutcome(12, False, 9),))
    assert (proposed(few).months, "too few to say" in proposed(few).why) == (12, True)


def test_alike_outcomes_counted_together_weigh_as_each_alone():
    from reckoner.core.history.interval import reliability

    alone = [IntervalOutcome(o.months, o.inside) for o in SEEN for _ in range(o.count)]
    assert reliability(SEEN, 0.9).months == pytest.approx(reliability(alone, 0.9).months, rel=1e-9)
    assert reliability(SEEN, 0.9).results == 44


def test_the_school_is_the_tools_own_else_its_models_else_the_shops(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        reader = reader_of(session)

        def school():
            return basis(reader_of(session), wanted, 12).school

        assert school() is School.FIXED
        shop, model = the_shop(session), card(reader, wanted).tool.model_id
        edit(session, RegisterKind.SHOP, shop, {"interval_school": "reliability"}, act)
        assert (school(), len(basis(reader_of(session), wanted, 12).outcomes) > 0) == (School.RELIABILITY, True)
        edit(session, RegisterKind.MODEL, model, {"interval_school": "staircase"}, act)
        assert school() is School.STAIRCASE
        edit(session, RegisterKind.TOOL, wanted, {"interval_school": "fixed"}, act)
        assert school() is School.FIXED


def test_signing_sets_the_date_by_the_staircase_and_says_why(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        edit(session, RegisterKind.TOOL, wanted, {"interval_school": "staircase"}, act)
        run = read_all(session, prepared(session, wanted, act), act, 0.99)
        edit(session, RegisterKind.TOOL, wanted, {"interval_school": "fixed"}, later(act, 1))  # too late for this run
        assert document.read(document.write(run.facts)) == run.facts
        words = outcomes.choices(run, TODAY)[0].why
        assert "15 months from today: staircase: found within half of its limit, so 12 months become 15." in words
        signed = signing.sign(session, run.id, later(act, 2))
        row = session.query(Signature).filter_by(run_id=signed.id).one()
        assert (row.due, row.due_reason) == (date(2028, 2, 24), DueReason.CALENDAR)
        assert row.due_note.startswith("staircase: found within half")
        again = basis(reader_of(session), wanted, 12, School.STAIRCASE)
        assert again.now == 15


def test_what_was_found_outside_halves_the_interval_whatever_was_left(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        edit(session, RegisterKind.TOOL, wanted, {"interval_school": "staircase"}, act)
        run = outside(session, wanted, act)
        interval = outcomes.next_interval(run)
        assert (interval.months, interval.why) == (6, "staircase: found outside, so 12 months become 6")


def test_cycles_a_year_bring_the_due_date_before_the_months(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        edit(session, RegisterKind.TOOL, wanted, {"cycles_per_year": 20_000}, act)
        run = read_all(session, prepared(session, wanted, act), act, 0.99)
        due = next_due(run, TODAY)
        assert (due.on, due.reason) == (TODAY + timedelta(days=91), DueReason.CYCLES)
        assert "when its 5000 cycles will be used up" in outcomes.choices(run, TODAY)[0].why


def test_counted_cycles_bring_the_date_forward_a_later_count_puts_it_back_and_a_full_run_begins_anew(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        before = card(reader_of(session), wanted).standing
        days = (TODAY - before.last_run).days
        phrase = understood(reader_of(session), "0417 used 4 900 in the tower job", TODAY)
        assert (phrase.kind, phrase.why_not) == (EventKind.COUNTED, "")
        assert "HC-0417 was used 4900 times" in phrase.told
        command = report(session, wanted, phrase.kind, phrase.note, act)
        now = card(reader_of(session), wanted).standing
        ends = TODAY + timedelta(days=int(100 * days / 4900))
        assert (now.cycles, now.due.on, now.due.reason) == (4900, ends, DueReason.CYCLES)
        command.take_back(session, later(act, 1))
        assert card(reader_of(session), wanted).standing.due == before.due
        report(session, wanted, EventKind.COUNTED, "5 000", later(act, 2))
        assert card(reader_of(session), wanted).standing.due.on == TODAY
        run = read_all(session, prepared(session, wanted, act), act, 0.99)
        signing.sign(session, run.id, later(act, 3))
        assert card(reader_of(session), wanted).standing.cycles == 0
        assert [f for f in checking.walk(session) if isinstance(f, checking.CheckFinding)] == []
    for text in ("0417 used", "count 0417 many"):
        with demo.session() as session:
            assert "Say how many" in understood(reader_of(session), text, TODAY).why_not
            with pytest.raises(ShopRefused, match="Say how many"):
                report(session, wanted, EventKind.COUNTED, "many", act)


def test_a_loan_counts_its_days_at_work_when_it_comes_back(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        edit(session, RegisterKind.TOOL, wanted, {"cycles_per_lent_day": 40}, act)
        was = card(reader_of(session), wanted).standing.cycles
        record_event(session, wanted, EventKind.LENT, "Tower crew", act)
        record_event(session, wanted, EventKind.RETURNED, "", later(act, 72))
        assert card(reader_of(session), wanted).standing.cycles == was + 3 * 40
