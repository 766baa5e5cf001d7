"""Laboratory trips: sent, late, back; an outside certificate as a result; how a tool came back; correction; costs."""

from dataclasses import replace
from datetime import date, timedelta

import pytest
from sqlalchemy import func, select

from reckoner.core.decision.states import State
from reckoner.core.history.costs import CostFigures, UpkeepChoice, yearly
from reckoner.core.requirements.tooltypes import Direction
from reckoner.shop.events.recording import report
from reckoner.shop.papers.labels import labels_of
from reckoner.shop.people.authorship import FieldRefused, ShopRefused
from reckoner.shop.planning.agenda import DayList, agenda
from reckoner.shop.register.cards import card
from reckoner.shop.register.sheet import sheet
from reckoner.shop.runs import signing
from reckoner.shop.using.correcting import allow
from reckoner.shop.using.costs import upkeep
from reckoner.shop.using.desk import away
from reckoner.shop.using.fitness import unfit
from reckoner.shop.using.known import known_of
from reckoner.shop.using.lending import lend
from reckoner.shop.using.trips import OutsideDraft, OutsidePointDraft, came_back_as, come_back, enter_certificate, send
from reckoner.shop.words.phrases import understood
from reckoner.store.reader import reader_of
from reckoner.store.schema import Content, OutsideResult, Trip
from reckoner.store.terms import EventKind, RunKind
from tests.support.runs import TODAY, later, read_all, ready, tool_id

GOOD = tuple(OutsidePointDraft(t, 0.01, 0.005) for t in (40, 120, 200))
DRAFT = OutsideDraft("L-77", "Fellgate Laboratory", date(2026, 11, 20), GOOD)


def standing(session, wanted):
    return card(reader_of(session), wanted).standing


def test_a_tool_is_sent_expected_late_and_back_and_what_it_cost_is_kept(demo, act):
    wanted = tool_id(demo, "HC-0418")
    with demo.session() as session:
        words = send(session, (wanted,), "Fellgate Laboratory", TODAY + timedelta(days=21), act, 95.0, 24.0)
        assert words == "HC-0418 sent to Fellgate Laboratory, expected on 15 Dec."
        trip = session.scalars(select(Trip).order_by(Trip.id.desc())).first()
        assert (trip.fee, trip.freight) == (95.0, 24.0)
        reader = reader_of(session)
        assert [o.card.tool.number for o in away(reader, TODAY)] == ["HC-0441", "HC-0418"]
        assert away(reader, TODAY)[0].days == 15
        assert [i.card.tool.number for i in agenda(reader, TODAY).of(DayList.LATE_TRIPS)] == ["HC-0441"]
        with pytest.raises(ShopRefused, match="away already"):
            send(session, (wanted,), "elsewhere", None, act)
        with pytest.raises(ShopRefused, match="away at Fellgate"):
            lend(session, (wanted,), "crew", None, (), act)
        assert "Enter its certificate" in come_back(session, wanted, act)
        assert standing(session, wanted).away is None
        with pytest.raises(ShopRefused, match="is not away"):
            come_back(session, wanted, act)
        for number, said in (("HC-0341", "take it back first"),):
            with pytest.raises(ShopRefused, match=said):
                send(session, (tool_id(demo, number),), "Fellgate", None, act)
        with pytest.raises(ShopRefused, match="has gone"):
            send(session, (wanted,), "Fellgate", TODAY - timedelta(days=1), act)


def test_a_certificate_from_outside_is_a_result_of_its_own_kind(demo, act):
    wanted = tool_id(demo, "HC-0391")  # overdue
    points = tuple(replace(p, target=t) for p, t in zip(GOOD, (0.4, 1.2, 2.0), strict=True))
    with demo.session() as session:
        entered = enter_certificate(session, wanted, replace(DRAFT, points=points, file=b"%PDF a scan"), act)
        now = standing(session, wanted)
        assert (now.state, now.due.on, now.last_run) == (State.INSIDE, date(2027, 11, 20), date(2026, 11, 20))
        assert entered.words.endswith("; due again on 20 Nov 2027.")
        assert session.scalar(select(func.count()).select_from(Content)) == 1
        known = known_of(reader_of(session), wanted)
        assert known.by == "Fellgate Laboratory L-77 of 20 Nov 2026"
        assert [p.deviation for p in known.points] == [0.01] * 3
        newest = sheet(reader_of(session), wanted)
        assert newest.happenings[0].what == "Laboratory certificate"
        assert newest.runs[-1].points[0].limit == pytest.approx(0.06)
        with pytest.raises(FieldRefused, match="in its history already"):
            enter_certificate(session, wanted, replace(DRAFT, points=points), act)


def test_only_what_was_left_is_known_and_a_quick_check_answers_for_its_own_point(demo, act):
    wanted = tool_id(demo, "HC-0418")
    with demo.session() as session:
        mended = (
            *GOOD,
            OutsidePointDraft(120, 0.002, 0.005, as_left=True),
            OutsidePointDraft(200, 0.0, 0.005, as_left=True),
        )
        enter_certificate(session, wanted, replace(DRAFT, points=mended), act)
        assert [p.setting for p in known_of(reader_of(session), wanted).points] == [120, 200]
        other = tool_id(demo, "HC-0417")
        before = known_of(reader_of(session), other)
        run = read_all(session, ready(session, other, act, RunKind.CHECK), act, 0.98)
        signing.sign(session, run.id, later(act, 2))
        assert before.by.startswith("full run")
        after = known_of(reader_of(session), other)
        assert [p.setting for p in after.points] == [40, 120, 200]
        assert [a == b for a, b in zip(after.points, before.points, strict=True)] == [True, False, True]
        assert after.by == f"{before.by} and quick check of 24 Nov 2026"
        ways = [
            known_of(reader_of(session), tool_id(demo, "HC-0318"), way).points for way in (Direction.CW, Direction.CCW)
        ]
        assert [len(points) for points in ways] == [3, 3]
        assert ways[0] != ways[1]


def test_one_whose_last_points_are_outside_holds_the_tool(demo, act):
    wanted = tool_id(demo, "HC-0418")
    bad = (OutsidePointDraft(40, 0.06, 0.005), *GOOD[1:])
    with demo.session() as session:
        left = tuple(replace(p, as_left=True) for p in GOOD)
        mended = enter_certificate(session, wanted, replace(DRAFT, points=(*bad, *left)), act)
        assert mended.state is State.INSIDE
        assert standing(session, wanted).held == ""
        entered = enter_certificate(session, wanted, replace(DRAFT, number="L-78", points=bad), later(act, 1))
        assert entered.state is State.OUTSIDE
        assert session.get(OutsideResult, entered.result_id).due is None
        assert standing(session, wanted).held == "Fellgate Laboratory L-78: +6.0\u202f% at 40\u202fN·m, outside"
        near = replace(DRAFT, number="L-79", points=(OutsidePointDraft(40, 0.0395, 0.001), *GOOD[1:]))
        assert enter_certificate(session, tool_id(demo, "HC-0417"), near, act).state is State.INSIDE_NEAR


@pytest.mark.parametrize(
    ("changed", "field", "said"),
    [
        ({"number": " "}, "number", "number"), ({"laboratory": ""}, "laboratory", "laboratory"),
        ({"issued": date(2026, 12, 1)}, "issued", "yet to come"),
        ({"due": date(2026, 11, 20)}, "due", "before it was issued"),
        ({"points": ()}, "points", "a line each"), ({"points": (OutsidePointDraft(900, 0.01, 0.01),)}, "points", "beyond"),
        ({"points": (OutsidePointDraft(40, 4.0, 0.01),)}, "points", "in percent"),
    ],
)  # fmt: skip
def test_what_is_no_certificate_is_refused_at_its_field(demo, act, changed, field, said):
    with demo.session() as session, pytest.raises(FieldRefused, match=said) as refused:
        enter_certificate(session, tool_id(demo, "HC-0418"), replace(DRAFT, **changed), act)
    assert refused.value.field == field


def test_a_check_before_and_after_tells_whether_it_came_back_as_it_left(demo, act):
    wanted = tool_id(demo, "HC-0418")

    def checked(session, factor, hours):
        run = read_all(session, ready(session, wanted, later(act, hours), RunKind.CHECK), later(act, hours), factor)
        signing.sign(session, run.id, later(act, hours + 2))

    with demo.session() as session:
        assert came_back_as(reader_of(session), wanted) == ""
        checked(session, 0.99, 0)
        send(session, (wanted,), "Fellgate", None, later(act, 3))
        come_back(session, wanted, later(act, 4))
        assert came_back_as(reader_of(session), wanted) == "How it came back is not known yet: check it here."
        checked(session, 0.965, 5)
        assert came_back_as(reader_of(session), wanted).startswith("It came back different from how it left: +2.6")
    with demo.session() as session:
        other = tool_id(demo, "HC-0402")
        send(session, (other,), "Fellgate", None, act)
        assert "is not known: it was not checked in the 60 days" in came_back_as(reader_of(session), other)


def test_a_failed_tool_is_used_with_correction_only_as_its_owner_allows_until_a_day(demo, act):
    wanted, until = tool_id(demo, "HC-0404"), TODAY + timedelta(days=14)
    with demo.session() as session:
        reader = reader_of(session)
        assert "is held" in unfit(card(reader, wanted), TODAY)
        for day, why, said in (
            (TODAY - timedelta(days=1), "x", "has gone"),
            (date(2027, 12, 1), "x", "at most"),
            (until, "", "Say why"),
        ):
            with pytest.raises(ShopRefused, match=said):
                allow(session, wanted, day, why, act)
        with pytest.raises(ShopRefused, match="is not held"):
            allow(session, tool_id(demo, "HC-0418"), until, "why", act)
        with pytest.raises(ShopRefused, match="no check has answered"):
            allow(session, tool_id(demo, "HC-0430"), until, "why", act)
        words = allow(session, wanted, until, "no other until then", act)
        assert "from 40–200" in words
        now = card(reader, wanted)
        assert unfit(now, TODAY) == ""
        assert unfit(now, until + timedelta(days=1)) != ""
        assert now.due_words(TODAY) == "corrected"
        assert labels_of(reader, (wanted,), TODAY)[0].banner == "ONLY WITH CORRECTION TO 8 DEC 2026"
        assert understood(reader, "uncorrect 0404 found another", TODAY).why_not == ""
        report(session, wanted, EventKind.CORRECTED_NO_MORE, "found another", act)
        assert "is held" in unfit(card(reader, wanted), TODAY)
        allow(session, wanted, until, "once more", act)
        report(session, wanted, EventKind.FELL, "", act)  # what was measured says nothing any more
        assert standing(session, wanted).corrected_until is None


def test_the_ways_to_keep_a_tool_tested_cost_what_the_owners_figures_say(demo):
    figures = CostFigures(fee=90, freight=20, days_away=15, price=320, minutes=30, hour=60, months=6, failing=0.2)
    send_, here, new = yearly(figures)
    assert (send_.cost, send_.days) == (220, 30)
    assert (here.cost, here.days) == (pytest.approx(2 * 1.2 * 30), pytest.approx(2 * 1.2 * 0.5 / 8))
    assert (new.cost, new.days) == (640, 0)
    assert yearly(CostFigures(fee=90))[0].lacks == ("the freight", "the days away")
    with demo.session() as session:
        models = {one.model: one for one in upkeep(reader_of(session))}
    big = models["Dunmorrow D-200"]
    assert big.cheapest.way is UpkeepChoice.HERE
    assert big.figures.failing > 0
    assert models["Penhallick B-150"].cheapest is None
