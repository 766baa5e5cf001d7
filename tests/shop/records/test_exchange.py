"""What a shop hands on is what another one takes over: the register, histories, loans and cards, there and back."""

import json

import pytest
from sqlalchemy import func, select

from reckoner.core.errors import Refused
from reckoner.formats.exchange import load, parse, write
from reckoner.formats.tables import read_table, write_table
from reckoner.shop.opening import open_shop
from reckoner.shop.people.authorship import Act
from reckoner.shop.records import checking, exporting
from reckoner.shop.records.exporting import exchange
from reckoner.shop.records.importing import RowRefused, read_handed, take_handed, take_loans, take_results
from reckoner.shop.records.importing_exchange import take_over
from reckoner.shop.register import rows
from reckoner.shop.register.bringing import bring_in
from reckoner.shop.register.cards import cards
from reckoner.shop.register.columns import meanings
from reckoner.shop.register.sheet import sheet
from reckoner.shop.register.spreadsheets import understood
from reckoner.store.reader import reader_of
from reckoner.store.schema import JobCardRow, LoanSetting, OutsideResult, Person, Tool, ToolEvent
from reckoner.store.terms import RegisterKind
from tests.support.clock import NOW
from tests.support.runs import tool_id, tool_id_in


@pytest.fixture
def handed_on(demo, act, tmp_path):
    with demo.session() as session:
        content = exchange(reader_of(session), act.at)
    write(tmp_path / "all.json", content)
    return tmp_path / "all.json"


@pytest.fixture
def other(tmp_path):
    database = open_shop(tmp_path / "other")
    with database.session() as session:
        rows.add(session, RegisterKind.PERSON, Person(initials="Z. Z.", name="Zoe Z."), NOW, None)
    yield database
    database.close()


def standings(database):
    with database.session() as session:
        return {c.tool.number: c.standing for c in cards(reader_of(session), 0, 1000)}


def test_an_empty_shop_that_takes_a_file_over_hands_the_same_on(demo, other, act, handed_on):
    with other.session() as session:
        taken = take_over(session, load(handed_on), Act(1, act.at), "all.json")
        again = exchange(reader_of(session), act.at)
    with demo.session() as session:
        assert taken.tools == session.scalar(select(func.count()).select_from(Tool).where(Tool.removed.is_(False)))
    sent = json.loads(handed_on.read_text())
    again["register"]["people"] = [p for p in again["register"]["people"] if p["initials"] != "Z. Z."]
    assert again["register"] == sent["register"]
    assert again["cards"] == sent["cards"]
    assert again["histories"] == sent["histories"]
    with other.session() as session:
        assert [f for f in checking.walk(session) if isinstance(f, checking.CheckFinding)] == []
        assert session.scalar(select(func.count()).select_from(LoanSetting)) > 3


def test_where_each_tool_stands_comes_with_it_and_so_do_its_points(demo, other, act, handed_on):
    with other.session() as session:
        take_over(session, load(handed_on), Act(1, act.at), "all.json")
    here, there = standings(demo), standings(other)
    assert set(here) == set(there)
    for number, one in here.items():
        same = ("state", "last_run", "due", "held", "restricted", "loan", "away", "kept", "retired", "cycles")
        assert [getattr(one, n) for n in same] == [getattr(there[number], n) for n in same], number
    with demo.session() as session:
        own = sheet(reader_of(session), tool_id(demo, "HC-0422"))
    with other.session() as session:
        brought = sheet(reader_of(session), tool_id_in(session, "HC-0422"))
    told = [[(p.target, p.deviation, p.expanded_uncertainty, p.limit) for p in r.points] for r in own.runs]
    assert told == [[(p.target, p.deviation, p.expanded_uncertainty, p.limit) for p in r.points] for r in brought.runs]
    assert [h.what for h in brought.happenings].count("Laboratory certificate") == len(own.runs)


def test_what_is_here_already_stays_and_a_second_time_brings_nothing(demo, act, handed_on):
    with demo.session() as session:
        before = session.scalar(select(func.count()).select_from(ToolEvent))
        taken = take_over(session, load(handed_on), act, "all.json")
        assert (taken.tools, taken.entries, taken.cards, taken.others) == (0, 0, 0, 0)
        assert "Brought in: nothing." in taken.words
        assert f"{taken.here} were here already" in taken.words
        assert session.scalar(select(func.count()).select_from(ToolEvent)) == before


def test_a_history_that_is_told_again_and_again_comes_once(other, act, handed_on):
    with other.session() as session:
        once = load(handed_on)
        lines = sum(len(history.entries) for history in once.histories)
        often = once.model_copy(update={"histories": once.histories * 30})
        assert take_over(session, often, Act(1, act.at), "all.json").entries == lines


def first_event(raw):
    return next(entry for history in raw["histories"] for entry in history["entries"] if "kind" in entry)


@pytest.mark.parametrize(
    ("change", "said"),
    [
        (lambda raw: raw.update(version=2), "newer Reckoner"),
        (lambda raw: raw.update(format="else"), "no exchange file"),
        (lambda raw: raw.update(more=1), "more: is not a known key"),
        (lambda raw: first_event(raw).update(at="yesterday"), "histories"),
        (lambda raw: raw["register"]["tools"][0].update(model="None such"), "None such"),
        (lambda raw: first_event(raw).update(kind="exploded"), "exploded"),
        (lambda raw: raw["cards"][0].update(stages=["50 %"]), "last stage"),
    ],
)
def test_a_file_that_is_wrong_is_a_sentence_and_nothing_comes(other, act, handed_on, change, said):
    raw = json.loads(handed_on.read_text())
    change(raw)
    with pytest.raises(Refused, match=said), other.session() as session:
        take_over(session, parse(json.dumps(raw)), Act(1, act.at), "all.json")
    with other.session() as session:
        assert session.scalar(select(func.count()).select_from(Tool)) == 0
        assert session.scalar(select(func.count()).select_from(JobCardRow)) == 0


@pytest.mark.parametrize("suffix", ["csv", "xlsx"])
def test_tools_go_out_as_a_table_that_is_brought_in_like_any_other(demo, other, act, tmp_path, suffix, monkeypatch):
    monkeypatch.setattr(exporting, "PAGE", 7)
    with demo.session() as session:
        sent = list(exporting.tool_rows(reader_of(session)))
        assert len(sent) == sum(not card.retired for card in cards(reader_of(session), 0, 1000)) > 30
        write_table(tmp_path / f"tools.{suffix}", exporting.TOOLS, sent)
    table = read_table(tmp_path / f"tools.{suffix}")
    with other.session() as session:
        rows = understood(session, table, meanings(table))
        assert [row.faults for row in rows if row.faults] == []
        bring_in(session, [row.tool for row in rows], "tools", Act(1, act.at))
    with other.session() as session:
        came = list(exporting.tool_rows(reader_of(session)))
        held = [card for card in cards(reader_of(session), 0, 1000) if card.held]
    assert [row[:13] for row in came] == [row[:13] for row in sent]
    assert {a[15] for a, b in zip(came, sent, strict=True) if b[15] and a[15] != b[15]} == set()
    assert {b[0] for b in sent if b[14] == "fail"} == {c.tool.number for c in held if "fail" in c.held}


@pytest.mark.parametrize("suffix", ["csv", "xlsx"])
def test_loans_and_results_go_out_as_tables_and_come_in_again(demo, other, act, handed_on, tmp_path, suffix):
    with demo.session() as session:
        reader = reader_of(session)
        sent, results = exporting.loan_rows(reader), list(exporting.result_rows(reader))
        for what in ("loans", "results"):
            exporting.table_file(session, what, tmp_path / f"{what}.{suffix}")()
        assert ("HC-0404", "Tower crew") in {row[:2] for row in sent}
        assert all(row[-1].count(",") == 1 and "N·m" in row[-1] and "lbf·ft" in row[-1] for row in results)
    raw = json.loads(handed_on.read_text())
    for history in raw["histories"]:
        history["entries"] = []
    with other.session() as session:
        take_over(session, parse(json.dumps(raw)), Act(1, act.at), "tools alone")
    with other.session() as session:
        lent, tested = (
            take_handed(session, read_handed(tmp_path / f"{what}.{suffix}"), "a table", Act(1, act.at))
            for what in ("loans", "results")
        )
        assert (lent.here, tested.here) == (0, 0)
    with other.session() as session:
        reader = reader_of(session)
        assert exporting.loan_rows(reader) == sent
        assert [row[:11] for row in exporting.result_rows(reader)] == [row[:11] for row in results]
        assert take_loans(session, read_table(tmp_path / f"loans.{suffix}"), Act(1, act.at)).entries == 0
        assert take_results(session, read_table(tmp_path / f"results.{suffix}"), Act(1, act.at)).entries == 0
        assert session.scalar(select(func.count()).select_from(OutsideResult)) == tested.entries


def test_a_wrong_line_of_a_table_is_named_and_nothing_comes(demo, act, tmp_path):
    for table, said in (
        ([("HC-9999", "crew", "2026-01-02")], "Line 2: there is no tool HC-9999"),
        ([("HC-0417", "crew", "soon")], "Line 2: .soon. is not a day"),
    ):
        write_table(tmp_path / "t.csv", ("tool", "to", "from"), table)
        with pytest.raises(RowRefused, match=said), demo.session() as session:
            take_loans(session, read_table(tmp_path / "t.csv"), act)


def test_every_entry_of_a_job_is_a_line_of_its_table(demo):
    with demo.session() as session:
        rows = exporting.job_rows(reader_of(session))
    assert [row[4] for row in rows] == ["1", "7", "4", "10", "2", "8", "5"]
    assert {row[0] for row in rows} == {"JC-1"}
    assert {row[9] for row in rows} == {"yes"}
