"""Loans: what may not be lent, what a loan keeps, the two questions of a return, and the words of the top line."""

from dataclasses import replace
from datetime import date, timedelta

import pytest
from sqlalchemy import select

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.units import N_M
from reckoner.core.tightening.setting import Band
from reckoner.shop.events.recording import record_event, report
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.register.cards import card
from reckoner.shop.runs import opening
from reckoner.shop.using.choosing import Criticality, choose, stand_ins
from reckoner.shop.using.desk import lent, read_wanted, scanned, settings_words
from reckoner.shop.using.fitting import Fitted
from reckoner.shop.using.known import known_of
from reckoner.shop.using.lending import WOUND_HERE, WantedSetting, lend, take_back
from reckoner.shop.using.setting import SettingQuestion, answer
from reckoner.shop.words.phrases import understood
from reckoner.store.reader import reader_of
from reckoner.store.schema import LoanSetting, Tool, ToolEvent
from reckoner.store.terms import EventKind
from tests.support.runs import TODAY, later, tool_id

FRIDAY = date(2026, 11, 27)


def standing(session, wanted):
    return card(reader_of(session), wanted).standing


def test_a_loan_keeps_to_whom_until_when_and_for_which_settings(demo, act):
    wanted = tool_id(demo, "HC-0418")
    with demo.session() as session:
        setting = WantedSetting(70, "flange nuts", "tower 3", 1.1, "45 mm adapter", Band(76, 84))
        made = lend(session, (wanted,), " Tower  crew ", FRIDAY, (setting,), act)
        loan = standing(session, wanted).loan
        assert (loan.to, loan.since, loan.due_back) == ("Tower crew", TODAY, FRIDAY)
        row = session.scalars(select(LoanSetting).order_by(LoanSetting.id.desc())).first()
        assert (row.torque_set, row.factor, row.low, row.high, row.job) == (70, 1.1, 76, 84, "flange nuts")
        assert "70" in settings_words(reader_of(session), wanted, N_M)[0]
        assert [o.card.tool.number for o in lent(reader_of(session), TODAY)] == ["HC-0319", "HC-0418", "HC-0341"]
        assert [o.days for o in lent(reader_of(session), FRIDAY + timedelta(days=3))][1] == 3
        taken = made.take_back(session, act)
        assert standing(session, wanted).loan is None
        with pytest.raises(ShopRefused, match="said anew"):
            taken.take_back(session, act)


@pytest.mark.parametrize(
    ("number", "wanted", "said"),
    [
        ("HC-0430", (), "HC-0430 is held: lock found loose"),
        ("HC-0391", (), "HC-0391 is overdue since 18 Nov 2026"),
        ("HC-0460", (), "HC-0460 was never tested"),
        ("HC-0341", (), "HC-0341 is lent to Drive room"),
        ("HC-0441", (), "HC-0441 is away at Fellgate Laboratory"),
        ("HC-0418", (WantedSetting(250),), "cannot be set to 250"),
        ("HC-0418", (WantedSetting(12),), "cannot be set to 12"),
    ],
)
def test_what_may_not_be_used_is_not_lent_and_says_why(demo, act, number, wanted, said):
    with demo.session() as session, pytest.raises(ShopRefused, match=said):
        lend(session, (tool_id(demo, number),), "crew", None, wanted, act)


def test_several_go_together_or_none(demo, act):
    good, bad = tool_id(demo, "HC-0418"), tool_id(demo, "HC-0430")
    with pytest.raises(ShopRefused, match="HC-0430"), demo.session() as session:
        lend(session, (good, bad), "crew", None, (), act)
    with demo.session() as session:
        assert standing(session, good).loan is None
        for to, until, said in (
            ("", None, "to whom"),
            ("crew", TODAY - timedelta(days=1), "has gone"),
            ("x" * 300, None, "too long"),
        ):
            with pytest.raises(ShopRefused, match=said):
                lend(session, (good,), to, until, (), act)
        with pytest.raises(ShopRefused, match="Scan or choose"):
            lend(session, (), "crew", None, (), act)


def test_one_scanned_twice_goes_once_and_one_on_the_bench_not_at_all(demo, act):
    with demo.session() as session:
        twice, on_the_bench = tool_id(demo, "HC-0418"), tool_id(demo, "HC-0417")
        assert len(lend(session, (twice, twice), "crew", None, (), act).event_ids) == 1
        opening.open_run(session, on_the_bench, act)
        with pytest.raises(ShopRefused, match="is on the bench"):
            lend(session, (on_the_bench,), "crew", None, (), act)


def test_a_restricted_tool_is_lent_only_for_its_part_and_one_kept_or_retired_never(demo, act):
    wanted = tool_id(demo, "HC-0418")
    with demo.session() as session:
        record_event(session, wanted, EventKind.RESTRICTED, "to its upper part", act, part=(120, 200))
        with pytest.raises(ShopRefused, match="restricted"):
            lend(session, (wanted,), "crew", None, (WantedSetting(70),), act)
        lend(session, (wanted,), "crew", None, (WantedSetting(150),), act)
        take_back(session, wanted, act)
        report(session, wanted, EventKind.KEPT, "a claim", act)
        with pytest.raises(ShopRefused, match="kept as evidence"):
            lend(session, (wanted,), "crew", None, (), act)


def test_a_return_asks_two_things_and_what_happened_holds_the_tool(demo, act):
    wanted, other = tool_id(demo, "HC-0418"), tool_id(demo, "HC-0417")
    with demo.session() as session:
        with pytest.raises(ShopRefused, match="is not lent"):
            take_back(session, wanted, act)
        session.get_one(Tool, wanted).cycles_per_lent_day = 40
        lend(session, (wanted, other), "crew", None, (), act)
        back = take_back(session, wanted, later(act, 24 * 5), None, False)
        assert back.words == "HC-0418 is back from crew."
        now = standing(session, wanted)
        assert (now.loan, now.held, now.cycles) == (None, "", 200)
        notes = session.scalars(
            select(ToolEvent.note).where(ToolEvent.tool_id == wanted).order_by(ToolEvent.sequence)
        ).all()
        assert notes[-2:] == ["from crew", WOUND_HERE]
        told = take_back(session, other, later(act, 30), EventKind.FELL, True, "from the tower")
        assert "will be held" in told.words
        assert standing(session, other).held == "from the tower"
        assert standing(session, other).check_event_id is not None


def test_the_top_line_lends_and_sends_returns_to_the_desk(demo, act):
    with demo.session() as session:
        reader = reader_of(session)
        phrase = understood(reader, "lend 0418 Tower crew Friday", TODAY)
        assert (phrase.number, phrase.kind, phrase.note, phrase.due_back) == (
            "HC-0418",
            EventKind.LENT,
            "Tower crew",
            FRIDAY,
        )
        assert phrase.words == "HC-0418 lent to Tower crew until 27 Nov 2026"
        assert understood(reader, "lend 0418 Drive room in 3 days", TODAY).due_back == FRIDAY
        assert understood(reader, "lend 0418 Tower crew until Friday", TODAY).note == "Tower crew"
        plain = understood(reader, "lend 0418 Friday", TODAY)
        assert (plain.note, plain.due_back) == ("Friday", None)  # a day alone is nobody
        assert "is held" in understood(reader, "lend 0430 Tower crew", TODAY).why_not
        assert "to whom" in understood(reader, "lend 0418", TODAY).why_not
        assert "It is lent to Drive room" in understood(reader, "lend 0341 Tower crew", TODAY).why_not
        assert understood(reader, "0341 back", TODAY).why_not == ""
        assert understood(reader, "0418 back", TODAY).why_not == "It is not lent."
        assert understood(reader, "lend 9999 Tower crew", TODAY) is None


def test_a_setting_is_read_as_it_is_said(demo):
    assert read_wanted("70 N.m for 76 to 84", N_M).factor == pytest.approx(80 / 70)
    assert read_wanted("80 for 76 to 84", N_M).factor == 1.0
    assert read_wanted("70", N_M).band is None
    for text, said in (
        ("60 to 70 for 80", "write the setting first"),
        ("20 for 80", "more than twofold"),
        ("", "empty"),
    ):
        with pytest.raises(InputRefused, match=said):
            read_wanted(text, N_M)


def test_the_ranking_says_why_each_was_passed_over_and_criticality_changes_it(demo, act):
    band = Band(95, 105)
    with demo.session() as session:
        reader = reader_of(session)
        found = choose(reader, SettingQuestion(band), TODAY, Criticality())
        by = {one.card.tool.number: one for one in found}
        usable = [one for one in found if one.usable]
        assert [one.ranked.expected_error for one in usable if not one.ranked.remark] == sorted(
            one.ranked.expected_error for one in usable if not one.ranked.remark
        )
        assert "it is held" in by["HC-0404"].words
        assert "it is lent to Line 2 crew" in by["HC-0319"].words
        assert "never tested" in by["HC-0460"].words
        assert "it is away at Fellgate Laboratory" in by["HC-0441"].words
        assert "it is lent to Drive room" in by["HC-0341"].words
        near = choose(reader, SettingQuestion(Band(30, 30)), TODAY, Criticality())  # under 40 N·m, where HC-0417 begins
        assert {"HC-0417", "HC-0302"} & {one.card.tool.number for one in near} == {"HC-0302"}
        with_it = SettingQuestion(Band(76, 84), fitted=(Fitted(0.045),))
        set_to = {one.card.tool.number: one.setting for one in choose(reader, with_it, TODAY, Criticality())}
        ours = card(reader, tool_id(demo, "HC-0417"))
        own = replace(with_it, tool=ours.tool, known=known_of(reader, ours.tool.id))
        assert set_to["HC-0417"] == answer(own).setting < 75  # as the Setting place has it, by its own lever
        good = next(one for one in usable)
        assert good.card.tool.number not in {o.card.tool.number for o in stand_ins(reader, good.card, 100, TODAY, 99)}
        narrow = Band(99, 101)
        strict = {
            o.card.tool.number
            for o in choose(reader, SettingQuestion(narrow), TODAY, Criticality(narrow=True))
            if o.usable
        }
        loose = {o.card.tool.number for o in choose(reader, SettingQuestion(narrow), TODAY, Criticality()) if o.usable}
        assert strict < loose
        small = choose(reader, SettingQuestion(Band(1.2, 1.4)), TODAY, Criticality(over_torque=True))
        assert "it cannot be over-pulled" in small[0].words
        assert "it is overdue" in next(o for o in small if o.card.tool.number == "HC-0391").words
        instead = stand_ins(reader, card(reader, tool_id(demo, "HC-0404")), 100, TODAY)
        assert len(instead) == 3
        assert "HC-0404" not in {one.card.tool.number for one in instead}


def test_a_scan_says_why_a_tool_does_not_go_and_what_could_instead(demo, act):
    with demo.session() as session:
        opening.open_run(session, tool_id(demo, "HC-0417"), act)
        reader = reader_of(session)
        busy, free, none = (scanned(reader, text, TODAY, ()) for text in ("0417", "0418", "no such tool"))
        assert "on the bench" in busy.why
        assert "HC-0417" not in {one.tool.number for one in busy.instead}
        assert (free.why, free.card.tool.number) == ("", "HC-0418")
        assert none.card is None
        (far,) = (scanned(reader, "0418", TODAY, (WantedSetting(free.card.tool.kind.maximum * 2),)),)
        assert "cannot be set to" in far.why
        assert far.why.endswith("It is not lent.")
        assert all(one.tool.kind.maximum >= free.card.tool.kind.maximum * 2 for one in far.instead)
