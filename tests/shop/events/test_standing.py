"""What a tool is, from what happened to it; and its projection, which is never anything else."""

from dataclasses import replace
from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st
from sqlalchemy import insert, select
from sqlalchemy.exc import IntegrityError

from reckoner.core.decision.states import State
from reckoner.core.history.due import Due, DueReason
from reckoner.shop.events import projection, recording
from reckoner.shop.events.kinds import EVENTS
from reckoner.shop.events.recording import newest_place, record_event
from reckoner.shop.events.standing import Condition, Loan, Result, Standing, StandingEvent, standing_of
from reckoner.shop.opening import open_shop
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.register.cards import card
from reckoner.shop.runs import opening, signing
from reckoner.shop.runs.kinds import POLICIES
from reckoner.shop.runs.outcomes import choices
from reckoner.shop.runs.planning import propose
from reckoner.shop.words.results import SIGNING_VERBS
from reckoner.store.reader import reader_of
from reckoner.store.schema import OpenLoan, Signature, ToolStanding
from reckoner.store.terms import EventKind, Outcome, RunKind
from tests.support.runs import TODAY, later, outside, prepared, read_all, tool_id

DAY = date(2026, 3, 9)
DUE = Due(date(2027, 3, 9), DueReason.CALENDAR)


def event(sequence, kind, note="why", **more):
    return StandingEvent(sequence, kind, note, DAY, sequence, **more)


def signed(sequence, outcome=Outcome.RELEASED, state=State.INSIDE, due=DUE, judged=True, accepted=True):
    return Result(sequence, DAY, judged, state, outcome, accepted, due)


def test_every_term_is_declared_where_its_consequence_is():
    assert set(EVENTS) == set(EventKind)
    assert set(POLICIES) == set(RunKind)
    assert set(SIGNING_VERBS) == set(Outcome)


@pytest.mark.parametrize("kind", [k for k, facts in EVENTS.items() if facts.harms])
def test_what_harms_a_tool_holds_it_until_a_judged_run_has_answered(kind):
    fell = standing_of([signed(1), event(2, kind)])
    assert (fell.held, fell.check_event_id) == ("why", 2)
    assert not fell.usable(DAY)
    measured = standing_of([signed(1), event(2, kind), signed(3, Outcome.CHARACTERISED, judged=False)])
    assert measured == fell
    assert standing_of([signed(1), event(2, kind), signed(3)]) == standing_of([signed(1), signed(3)])
    held = standing_of([signed(1), event(2, kind), signed(3, Outcome.KEEP_HOLDING, State.OUTSIDE, None)])
    assert (held.held, held.check_event_id, held.state) == ("why", None, State.OUTSIDE)


def test_a_hold_by_hand_is_ended_by_its_release_and_not_by_a_run_alone():
    held = [signed(1), event(2, EventKind.HELD), signed(3)]
    assert standing_of(held).held == "why"
    assert standing_of([*held, event(4, EventKind.RELEASED)]).held == ""
    both = [event(1, EventKind.FELL, "fell"), event(2, EventKind.HELD, "locked away"), signed(3)]
    assert standing_of(both).held == "locked away"


@pytest.mark.parametrize(
    ("begins", "ends", "condition"),
    [
        (EventKind.RESTRICTED, EventKind.UNRESTRICTED, Condition.RESTRICTED),
        (EventKind.LENT, EventKind.RETURNED, Condition.LENT),
        (EventKind.SENT_AWAY, EventKind.CAME_BACK, Condition.AWAY),
        (EventKind.KEPT, EventKind.KEPT_NO_MORE, Condition.EVIDENCE),
        (EventKind.RETIRED, EventKind.BACK_IN_SERVICE, Condition.RETIRED),
        (EventKind.HELD, EventKind.RELEASED, Condition.HELD),
    ],
)
def test_what_begins_is_ended_by_its_own_end_only(begins, ends, condition):
    begun = [signed(1), event(2, begins, part=(120.0, 200.0))]
    assert condition in standing_of(begun).conditions(DAY)
    assert condition not in standing_of([*begun, event(3, ends)]).conditions(DAY)
    others = [facts_kind for facts_kind, facts in EVENTS.items() if facts.ends and facts_kind is not ends]
    after = standing_of([*begun, *(event(3 + i, other) for i, other in enumerate(others))])
    assert condition in after.conditions(DAY)


def test_the_first_condition_is_the_one_that_matters_most():
    lent = Standing(state=State.INSIDE, due=DUE, loan=Loan("crew", DAY, None))
    assert lent.conditions(DAY) == (Condition.LENT, Condition.IN_DATE)
    assert lent.usable(DAY)
    assert replace(lent, held="fell").conditions(date(2027, 4, 1)) == (
        Condition.HELD,
        Condition.LENT,
        Condition.OVERDUE,
    )
    for days, condition in (
        (366, Condition.OVERDUE),
        (365, Condition.DUE),
        (335, Condition.DUE),
        (334, Condition.IN_DATE),
    ):
        day = date.fromordinal(DAY.toordinal() + days)
        assert Standing(due=DUE).conditions(day) == (condition,)
        assert Standing(due=DUE).usable(day) is (days <= 365)
    assert Standing().conditions(DAY) == (Condition.NEW,)
    assert replace(lent, retired=True, kept="claim").conditions(DAY)[0] is Condition.RETIRED


@given(st.lists(st.sampled_from(EventKind), max_size=12), st.randoms())
def test_the_order_is_the_sequence_and_not_the_order_they_come_in(kinds, random):
    happened = [event(i, kind, part=(1.0, 2.0)) for i, kind in enumerate(kinds)]
    shuffled = list(happened)
    random.shuffle(shuffled)
    assert standing_of(shuffled) == standing_of(happened)


def test_the_projection_is_what_a_rebuild_says_after_everything_the_shop_does(demo, act):
    wanted, other = tool_id(demo, "HC-0417"), tool_id(demo, "HC-0422")
    with demo.session() as session:
        run = signing.sign(session, outside(session, wanted, act).id, later(act, 2), Outcome.RESTRICTED)
        assert card(reader_of(session), wanted).restricted == (120.0, 200.0)
        assert run.signature.outcome is Outcome.RESTRICTED
        record_event(session, other, EventKind.FELL, "from the ladder", later(act, 3))
        record_event(session, other, EventKind.LENT, "Bay crew", later(act, 4), due_back=date(2026, 12, 1))
        opening.give_up(session, prepared(session, other, later(act, 5)).id, "only tried", later(act, 6))
        assert projection.rebuild(session) == 0
        row = session.query(ToolStanding).filter_by(tool_id=other).one()
        row.held, row.lent_on = "", None
        session.flush()
        assert projection.rebuild(session) == 1
        assert card(reader_of(session), other).held == "from the ladder"
        assert card(reader_of(session), other).loan.due_back == date(2026, 12, 1)


def test_events_and_signatures_of_a_tool_share_one_sequence_whatever_the_clock_said(demo, act):
    wanted, other = tool_id(demo, "HC-0417"), tool_id(demo, "HC-0422")
    with demo.session() as session:
        record_event(session, other, EventKind.NOTED, "of another tool", act)
        began = newest_place(session, wanted) + 1
        first = record_event(session, wanted, EventKind.FELL, "fell", later(act, 5)).sequence
        run = read_all(
            session, prepared(session, wanted, later(act, -48)), later(act, -48), 0.99
        )  # a clock that went back
        signing.sign(session, run.id, later(act, -40))
        signature = session.query(Signature).filter_by(run_id=run.id).one().sequence
        last = record_event(session, wanted, EventKind.NOTED, "afterwards", later(act, -60)).sequence
        assert [first, signature] == [began, began + 1]
        assert last > signature
        assert (card(reader_of(session), wanted).held, card(reader_of(session), wanted).standing.check_event_id) == (
            "",
            None,
        )


def test_a_restriction_is_lifted_by_a_full_run_of_the_whole_range_and_by_nothing_less(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        signing.sign(session, outside(session, wanted, act).id, later(act, 2), Outcome.RESTRICTED)
        part = read_all(session, prepared(session, wanted, later(act, 3)), later(act, 3), 0.99)
        assert [s.target for s in part.series] == [120, 200]
        signing.sign(session, part.id, later(act, 5))
        assert card(reader_of(session), wanted).restricted == (120.0, 200.0)  # its lowest point was not covered
        check = opening.open_run(session, wanted, later(act, 6), propose(session, wanted, TODAY, RunKind.CHECK).plan)
        opening.give_up(session, check.id, "only to see", later(act, 6))
        plan = replace(propose(session, wanted, TODAY).plan, points=(40.0, 120.0, 200.0))
        opening.open_run(session, wanted, later(act, 7), plan)
        whole = read_all(session, prepared(session, wanted, later(act, 7)), later(act, 7), 0.95)
        assert choices(whole, TODAY)[0].outcome is Outcome.HELD
        signing.sign(session, whole.id, later(act, 9), Outcome.HELD)
        assert card(reader_of(session), wanted).restricted == (120.0, 200.0)  # it was not accepted
        opening.open_run(session, wanted, later(act, 10), plan)
        whole = read_all(session, prepared(session, wanted, later(act, 10)), later(act, 10), 0.99)
        signing.sign(session, whole.id, later(act, 12))
        assert (card(reader_of(session), wanted).restricted, card(reader_of(session), wanted).held) == (None, "")


def test_a_tool_that_is_evidence_is_not_put_on_the_bench(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        record_event(session, wanted, EventKind.KEPT, "claim 12", act)
        with pytest.raises(ShopRefused, match=r"kept as evidence \(claim 12\)"):
            opening.open_run(session, wanted, act)
        assert card(reader_of(session), wanted).due_words(TODAY) == "evidence"
        record_event(session, wanted, EventKind.KEPT_NO_MORE, "settled", act)
        assert opening.open_run(session, wanted, act).tool.id == wanted


def test_a_due_date_of_earlier_years_gives_way_to_what_a_run_here_has_set():
    brought = event(1, EventKind.BROUGHT_IN, due_back=date(2026, 6, 1))
    assert standing_of([brought]).due == Due(date(2026, 6, 1), DueReason.BROUGHT_IN)
    assert standing_of([brought, signed(2)]).due == DUE
    assert standing_of([signed(1), event(2, EventKind.BROUGHT_IN, due_back=date(2026, 6, 1))]).due == DUE


def test_a_date_is_brought_forward_and_never_put_off():
    earlier, later_on = date(2027, 1, 5), date(2027, 6, 1)
    forward = standing_of([signed(1), event(2, EventKind.BROUGHT_FORWARD, due_back=earlier)])
    assert forward.due == Due(earlier, DueReason.BROUGHT_FORWARD)
    assert standing_of([signed(1), event(2, EventKind.BROUGHT_FORWARD, due_back=later_on)]).due == DUE
    assert standing_of([event(1, EventKind.BROUGHT_FORWARD, due_back=earlier)]).due is None


def test_a_place_in_a_tools_history_and_an_open_loan_are_had_once_and_losing_the_race_is_a_sentence(
    demo, act, monkeypatch
):
    wanted = tool_id(demo, "HC-0418")
    with demo.session() as session:
        record_event(session, wanted, EventKind.NOTED, "light rust", act)
    with demo.session() as session, monkeypatch.context() as patched:
        patched.setattr(recording, "newest_place", lambda *_: 0)  # as it stood before somebody else's
        with pytest.raises(ShopRefused, match="Something else happened to the tool at this very moment"):
            record_event(session, wanted, EventKind.NOTED, "more of it", act)
        session.rollback()
    lent = lambda session: session.scalars(select(OpenLoan.tool_id)).all().count(wanted)  # noqa: E731
    with demo.session() as session:
        record_event(session, wanted, EventKind.LENT, "Tower crew", act)
        assert lent(session) == 1
        session.add(OpenLoan(tool_id=wanted))
        with pytest.raises(IntegrityError):
            session.flush()
        session.rollback()
    with demo.session() as session, monkeypatch.context() as patched:
        record_event(session, wanted, EventKind.LENT, "Tower crew", act)
        record_event(session, wanted, EventKind.RETURNED, "", act)
        assert lent(session) == 0
        session.execute(insert(OpenLoan).values(tool_id=wanted))  # by somebody else, whom this one cannot see yet
        patched.setattr(projection, "lent_of", lambda *_: set())
        patched.setattr(projection, "open_loan_of", lambda *_: None)
        with pytest.raises(ShopRefused, match="was lent at this very moment"):
            record_event(session, wanted, EventKind.LENT, "Lower crew", act)
        session.rollback()


@pytest.mark.parametrize("table", ["open_loan", "history_place"])
def test_a_rebuild_makes_what_is_had_once_anew(demo, table):
    with demo.session() as session:
        rows = session.connection().exec_driver_sql
        before = rows(f"SELECT count(*) FROM {table}").scalar()
        rows(f"DELETE FROM {table}")
        projection.rebuild(session)
        assert rows(f"SELECT count(*) FROM {table}").scalar() == before > 1
        assert projection.rebuild(session) == 0


@pytest.mark.parametrize("lost", ["tool_standing", "tool_listing"])
def test_what_a_projection_lacks_is_made_when_the_shop_is_opened(demo, demo_folder, lost):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        before = card(reader_of(session), wanted)
        session.connection().exec_driver_sql(f"DELETE FROM {lost} WHERE tool_id = {wanted}")
    demo.close()
    opened = open_shop(demo_folder)
    with opened.session() as session:
        assert card(reader_of(session), wanted) == before
        assert (
            session.connection().exec_driver_sql(f"SELECT count(*) FROM {lost} WHERE tool_id = {wanted}").scalar() == 1
        )
    opened.close()
