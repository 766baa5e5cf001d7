"""Lists read a page at a time say the same as the whole register would."""

import sqlite3
from datetime import date, timedelta
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from reckoner.core.history.due import Due, DueReason
from reckoner.demo.scenario import demo_today
from reckoner.shop.events.recording import record_event
from reckoner.shop.events.standing import CONDITIONS, Condition, Loan, Standing
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.planning.agenda import PAGE, DayList, agenda, first_of, items
from reckoner.shop.register import filters, listing, lists, many
from reckoner.shop.register.cards import ToolOrder, cards, count, row_of
from reckoner.shop.register.finding import CONDITION_WORDS, days_of, question
from reckoner.shop.register.rows import edit, undo
from reckoner.shop.register.spans import said_in
from reckoner.store.reader import Reader, reader_of
from reckoner.store.schema import Tool, ToolListing
from reckoner.store.terms import EventKind, RegisterKind
from tests.support.runs import tool_id, tool_id_in

TODAY = demo_today()
DAYS = st.none() | st.integers(-40, 40).map(lambda n: TODAY + timedelta(days=n))
WORDS = st.sampled_from(["", "from the ladder"])


@given(DAYS, WORDS, WORDS, DAYS, DAYS, st.booleans(), st.booleans())
def test_each_condition_is_asked_of_the_database_as_it_is_worked_out(due, held, kept, lent, away, retired, restricted):
    standing = Standing(
        due=Due(due, DueReason.CALENDAR) if due else None,
        held=held,
        kept=kept,
        loan=Loan("crew", lent, None) if lent else None,
        away=Loan("laboratory", away, None) if away else None,
        retired=retired,
        restricted=(1.0, 2.0) if restricted else None,
    )
    connection = sqlite3.connect(":memory:")
    connection.execute("CREATE TABLE s (due_on, held, kept, lent_on, away_since, retired, restricted_low)")
    row = (due and due.isoformat(), held, kept, lent and lent.isoformat(), away and away.isoformat(), retired)
    connection.execute("INSERT INTO s VALUES (?, ?, ?, ?, ?, ?, ?)", (*row, 1.0 if restricted else None))
    reader = Reader(connection, Path())
    asked = {c for c, sql in CONDITIONS.items() if reader.value(f"SELECT 1 FROM s WHERE {sql}", **days_of(TODAY))}
    connection.close()
    assert asked == set(standing.conditions(TODAY))
    assert set(CONDITIONS) == set(Condition)


def test_pages_one_after_the_other_are_the_whole_list(demo):
    with demo.reading() as reader:
        whole = cards(reader)
        pages = [cards(reader, start, 7) for start in range(0, 49, 7)]
        assert tuple(c for page in pages for c in page) == whole
        assert count(reader) == len(whole) == 46
        assert [c.tool.number for c in whole] == sorted(c.tool.number for c in whole)
        assert [row_of(reader, c.tool.id) for c in whole] == list(range(46))
        for waiting in DayList:
            listed = items(reader, waiting, TODAY, 0, 1000)
            split = [items(reader, waiting, TODAY, start, 3) for start in range(0, len(listed) + 3, 3)]
            assert tuple(i for page in split for i in page) == listed
        assert agenda(reader, TODAY).counts == {w: len(items(reader, w, TODAY, 0, 1000)) for w in DayList}


@pytest.mark.parametrize(
    ("text", "found"),
    [
        ("hc 0417", ["HC-0417"]),
        ("HC0417", ["HC-0417"]),
        ("tower click 80–340", ["HC-0318"]),
        ("hc.0417 click", ["HC-0417"]),
        ("held", ["HC-0404", "HC-0430"]),
        ("hel", ["HC-0404", "HC-0430"]),
        ("new", ["HC-0113", "HC-0460"]),
        ("no such tool", []),
        ("50% _ '", []),
        ("word " * 5000 + " ".join(map(str, range(5000))), []),
        ("\ud83d no such tool \x00", []),
        ("hc-\ud83d0417", ["HC-0417"]),
    ],
)
def test_words_find_what_a_tool_is_called_and_what_it_is(demo, text, found):
    with demo.reading() as reader:
        assert [c.tool.number for c in lists.matching(reader, text, TODAY, 60)] == found
        assert count(reader, question(reader, text, TODAY)) == len(found)


@pytest.mark.parametrize("word", ["held", "lent", "new", "overdue", "due", "retired", "away", "restricted", "evidence"])
def test_a_condition_is_found_by_its_word(demo, act, word):
    with demo.session() as session:
        for kind, number in (
            (EventKind.KEPT, "HC-0114"),
            (EventKind.RETIRED, "HC-0417"),
            (EventKind.SENT_AWAY, "HC-0418"),
        ):
            record_event(session, tool_id_in(session, number), kind, "", act)
        reader = reader_of(session)
        wanted = CONDITION_WORDS[word]
        fits = (
            (lambda c: c.held and not c.retired) if word == "held" else lambda c: wanted in c.standing.conditions(TODAY)
        )
        those = [c.tool.number for c in cards(reader) if fits(c)]
        assert [c.tool.number for c in lists.matching(reader, word, TODAY, 60)] == those
        assert those or wanted is Condition.RESTRICTED


def test_a_list_opens_where_the_wanted_tool_stands(demo):
    with demo.reading() as reader:
        last = cards(reader)[-1]
        found = lists.find(reader, "", TODAY, last.tool.id)
        assert (found.row, found.count, found.start) == (45, 46, 45 - 45 % lists.PAGE)
        assert found.cards[found.row - found.start] == last
        assert lists.find(reader, "click", TODAY, cards(reader)[0].tool.id).row is None  # a preset wrench
        many = lists.find(reader, "wrench", TODAY)
        assert (many.count, many.counted) == (lists.PAGE, False)
        assert lists.look_up(reader, "wrench", TODAY)[0] == lists.count_of(reader, "wrench", TODAY) > lists.PAGE


def test_what_is_found_follows_each_edit(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        tool = session.get_one(Tool, wanted)
        edit(session, RegisterKind.TOOL, wanted, {"number": "HC-0999", "place": "Summit"}, act)
        assert [c.tool.id for c in lists.matching(reader_of(session), "summit", TODAY, 9)] == [wanted]
        assert lists.look_up(reader_of(session), "hc0417", TODAY) == (0, None)
        edit(session, RegisterKind.TOOL, wanted, {"serial": "HC-04"}, act)
        assert lists.look_up(reader_of(session), "hc 04", TODAY)[0] == 1  # a serial typed in full, not what begins so
        undo(session, RegisterKind.TOOL, wanted, act, tool.version)
        edit(session, RegisterKind.MODEL, tool.model_id, {"name": "Quondam"}, act)
        assert wanted in {c.tool.id for c in lists.matching(reader_of(session), "quondam", TODAY, 60)}
        assert listing.rebuild(session) == 0
        edit(session, RegisterKind.TOOL, wanted, {"number": "HC-0417"}, act)
        assert lists.look_up(reader_of(session), "hc0417", TODAY)[0] == 1
        session.query(ToolListing).filter_by(tool_id=wanted).one().words = "stale"
        assert listing.rebuild(session) == 1


def test_a_tool_that_is_taken_back_is_listed_nowhere(demo, act):
    with demo.session() as session:
        row = session.query(Tool).filter_by(number="HC-0113").one()
        undo(session, RegisterKind.TOOL, row.id, act, row.version)
        reader = reader_of(session)
        assert count(reader) == agenda(reader, TODAY).tools == 45
        assert row.id not in {i.card.tool.id for i in items(reader, DayList.OVERDUE, TODAY, 0)}


def test_what_comes_next_is_a_tool_that_is_here(demo, act):
    with demo.session() as session:
        reader = reader_of(session)
        assert first_of(reader, TODAY).card.tool.number == "HC-0391"  # HC-0319 is due since longer, and lent
        for waiting in (DayList.OVERDUE, DayList.DUE_SOON):
            for item in items(reader, waiting, TODAY, 0, PAGE):
                if item.card.loan is None:
                    record_event(session, item.card.tool.id, EventKind.LENT, "crew", act, due_back=date(2027, 1, 1))
        assert first_of(reader_of(session), TODAY).card.tool.number == "HC-0319"


SPANS = {
    "due this week": (date(2026, 11, 23), date(2026, 11, 29)),
    "due next week": (date(2026, 11, 30), date(2026, 12, 6)),
    "click due this month": (date(2026, 11, 1), date(2026, 11, 30)),
    "due December": (date(2026, 12, 1), date(2026, 12, 31)),
    "due in mar": (date(2027, 3, 1), date(2027, 3, 31)),  # the next one
    "due 2027-02": (date(2027, 2, 1), date(2027, 2, 28)),
    "due mar 2028": (date(2028, 3, 1), date(2028, 3, 31)),
    "due by 31 Dec 2026": (date.min, date(2026, 12, 31)),
    "due next year": (date(2027, 1, 1), date(2027, 12, 31)),
}


@pytest.mark.parametrize("text", SPANS)
def test_a_filter_says_when_tools_are_due(demo, text):
    begins, ends = SPANS[text]
    with demo.reading() as reader:
        those = [
            c.tool.number
            for c in cards(reader)
            if c.standing.due is not None and begins <= c.standing.due.on <= ends
            if not text.startswith("click") or "click" in c.tool.description
        ]
        assert [c.tool.number for c in lists.matching(reader, text, TODAY, 60)] == those
        assert those or "week" in text or "2028" in text or "this" in text
    for words in ("due ju", "due 2027-13", "due by soon", "for nothing", "for 3 kg"):
        assert said_in(words, TODAY) is None


def test_a_filter_says_for_which_torque(demo):
    with demo.reading() as reader:
        for text, torque in (("for 80 N.m", 80.0), ("click for 60 lbf.ft", 81.349), ("for 200", 200.0)):
            found = lists.matching(reader, text, TODAY, 60)
            assert found
            for card in cards(reader):
                kind = card.tool.kind
                low = kind.maximum if kind.is_fixed else kind.minimum or 0.0
                fits = low <= torque <= kind.maximum and (
                    not text.startswith("click") or "click" in card.tool.description
                )
                assert (card in found) is fits, card.tool.number


def test_a_tool_is_found_by_who_has_it(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        record_event(session, wanted, EventKind.LENT, "Ropeway gang", act)
        assert [c.tool.id for c in lists.matching(reader_of(session), "ropeway", TODAY, 9)] == [wanted]
        record_event(session, wanted, EventKind.RETURNED, "", act)
        assert lists.matching(reader_of(session), "ropeway", TODAY, 9) == ()


@pytest.mark.parametrize("order", list(ToolOrder))
@pytest.mark.parametrize("down", [False, True])
def test_a_list_is_sorted_page_by_page_as_it_is_whole(demo, order, down):
    keys = {
        ToolOrder.NUMBER: lambda c: c.tool.number,
        ToolOrder.KIND: lambda c: (c.tool.description, c.tool.number),
        ToolOrder.FULL_SCALE: lambda c: (c.tool.kind.maximum, c.tool.number),
        ToolOrder.PLACE: lambda c: (c.tool.place, c.tool.number),
        ToolOrder.DUE: lambda c: (c.standing.due.on if c.standing.due else date.min, c.tool.number),
    }
    with demo.reading() as reader:
        whole = cards(reader)
        pages = [cards(reader, start, 7, order=order, down=down) for start in range(0, 49, 7)]
        assert [c for page in pages for c in page] == sorted(whole, key=keys[order], reverse=down)
        sorting = lists.Sorting(order, down)
        ids = many.ids_at(reader, "click", TODAY, sorting, [(2, 4), (7, 7)])
        click = [c.tool.id for c in cards(reader, 0, 99, question(reader, "click", TODAY), order, down=down)]
        assert list(ids) == [*click[2:5], click[7]]


def test_many_tools_are_changed_together_or_not_at_all(demo, act):
    with demo.session() as session:
        some = [c.tool for c in cards(reader_of(session), 0, 6)]
        ids, fields = [t.id for t in some], {f.name: f for f in many.fields_together()}
        before = [session.get_one(Tool, i).place for i in ids]
        command = many.change_many(session, ids, fields["place"], "Bay 9", act)
        assert [session.get_one(Tool, i).place for i in ids] == ["Bay 9"] * 6
        assert command.words == "6 tools: where it is kept Bay 9"
        assert len(lists.matching(reader_of(session), "bay 9", TODAY, 9)) == 6
        command.take_back(session, act)
        session.expire_all()
        assert [session.get_one(Tool, i).place for i in ids] == before
        with pytest.raises(ShopRefused, match="stopped; nothing"):
            many.change_many(session, ids, fields["place"], "Bay 9", act, lambda done: done < 3)
        session.rollback()
        with pytest.raises(ShopRefused, match="says of all of them already"):
            many.change_many(session, ids[:1], fields["place"], before[0], act)
        with pytest.raises(ShopRefused, match=f"{some[0].number}: There is no rule set .* None of them was changed"):
            many.change_many(session, ids, fields["rule_set"], "no-such", act)


def test_filters_are_kept_once_each_and_forgotten(demo, act):
    with demo.session() as session:
        filters.keep_filter(session, "  Tower   crew ", act)
        filters.keep_filter(session, "due this week", act)
        assert filters.kept_filters(reader_of(session)) == ("Tower crew", "due this week")
        for words, why in (("Tower crew", "kept already"), (" ", "is empty")):
            with pytest.raises(ShopRefused, match=why):
                filters.keep_filter(session, words, act)
        filters.forget_filter(session, "Tower crew", act)
        filters.forget_filter(session, "Tower crew", act)
        assert filters.kept_filters(reader_of(session)) == ("due this week",)
        for i in range(filters.MOST - 1):
            filters.keep_filter(session, f"bay {i}", act)
        with pytest.raises(ShopRefused, match="forget one"):
            filters.keep_filter(session, "one more", act)
