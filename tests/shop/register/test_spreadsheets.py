"""Three shops' own lists, each in its habit; what was understood, what is wrong, and all of it taken back."""

from datetime import date, datetime

import pytest
from openpyxl import Workbook
from sqlalchemy import select

from reckoner.core.quantities.days import DayOrder
from reckoner.core.quantities.units import N_M
from reckoner.formats.tables import Table, read_table
from reckoner.shop.events import projection
from reckoner.shop.events.standing import Condition
from reckoner.shop.facts.shapes import SHAPES, Shape
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.register.adding import ModelDraft, add_model
from reckoner.shop.register.bringing import bring_in
from reckoner.shop.register.cards import card
from reckoner.shop.register.columns import ColumnMeaning, meanings, unused
from reckoner.shop.register.editing import take_back
from reckoner.shop.register.sheet import sheet
from reckoner.shop.register.spreadsheets import asks_order, understood
from reckoner.store.reader import reader_of
from reckoner.store.schema import Tool, ToolModel
from tests.support.runs import tool_id

GERMAN = """Inventar-Nr.;Bezeichnung;Hersteller;Typ;Seriennr.;Messbereich [N·m];Teilung;Antrieb;Standort;Letzte Prüfung;Nächste Prüfung;Ergebnis
A-1;Drehmomentschlüssel, knickend;Ottermoor;K 200;D 2008;40 - 200;1;1/2";Halle 3;06.12.2025;06.12.2026;i.O.
A-2;Drehmomentschlüssel;Ottermoor;K 200;;200 - 40;1;1/2";Halle 3;06.12.2025;01.12.2025;i.O.
;Drehmomentschlüssel;Ottermoor;K 200;;40-200;;;;;;
A-3;Drehmomentschraubendreher;Penhallick;S5;77;1-5;0,05;1/4";Labor;31.02.2025;;
A-1;Drehmomentschlüssel;Ottermoor;K 200;9;40-200;;;;;;
A-4;Drehmomentschlüssel;Ottermoor;K 200;10;60-300;;;;;;
A-5;Drehmomentschlüssel, digital;Ottermoor;E9;11;10-100;;;;06.12.2025;;n.i.O.
"""  # noqa: E501 - as a spreadsheet has it

AMERICAN = """Asset ID,Type,Min (ft-lb),Max (ft-lb),S/N,Location,Cal Due,Last Cal,Interval,Pass/Fail,Owner
TW-01,Click torque wrench,25,250,123,"Bay 1, east",2027-01-05,2026-01-05,1 year,Pass,Tower crew
TW-02,Torque screwdriver,5 in-lb,40 in-lb,124,Bay 2,=A1,2026-01-05,12,FAIL,
TW-03,beam wrench,"1,200",2,125,,,,six,,
TW-04,dial,,150,126,Bay 2,,Jan 5 2026,6,,
"""


@pytest.fixture
def german(tmp_path):
    file = tmp_path / "werkzeuge.csv"
    file.write_bytes(GERMAN.encode("cp1252"))
    return read_table(file)


@pytest.fixture
def american(tmp_path):
    file = tmp_path / "tools.csv"
    file.write_text(AMERICAN)
    return read_table(file)


def rows_of(session, table):
    return understood(session, table, meanings(table))


def test_columns_are_known_by_their_names_in_several_languages(german, american):
    assert meanings(german) == (
        ColumnMeaning.NUMBER, ColumnMeaning.LOOK, ColumnMeaning.MAKER, ColumnMeaning.MODEL, ColumnMeaning.SERIAL,
        ColumnMeaning.RANGE, ColumnMeaning.RESOLUTION,
        ColumnMeaning.DRIVE, ColumnMeaning.PLACE, ColumnMeaning.LAST, ColumnMeaning.DUE, ColumnMeaning.RESULT,
    )  # fmt: skip
    assert meanings(american) == (
        ColumnMeaning.NUMBER, ColumnMeaning.LOOK, ColumnMeaning.MINIMUM, ColumnMeaning.MAXIMUM, ColumnMeaning.SERIAL,
        ColumnMeaning.PLACE, ColumnMeaning.DUE,
        ColumnMeaning.LAST, ColumnMeaning.INTERVAL, ColumnMeaning.RESULT, ColumnMeaning.OWNER,
    )  # fmt: skip


def test_a_german_list_is_understood_row_by_row(demo, german):
    with demo.session() as session:
        rows = rows_of(session, german)
    first = rows[0].tool
    assert (first.number, first.model.shape, first.model.minimum, first.model.maximum, first.resolution) == (
        "A-1", Shape.BREAK_OVER_WRENCH, 40, 200, 1,
    )  # fmt: skip
    assert (first.last, first.due, first.passed) == (date(2025, 12, 6), date(2026, 12, 6), True)
    assert [(r.line, r.faults) for r in rows if r.tool is None] == [
        (3, ('range: "200 - 40" stands upside down: it begins above where it ends',
             "due: 1 Dec 2025 is before the last test on 6 Dec 2025")),
        (4, ("number: the cell is empty",)),
        (5, ('last tested: "31.02.2025" is no day of the calendar',)),
        (6, ("line 2 has the number A-1 too",)),
        (7, ("model: line 2 says that Ottermoor K 200 has 40–200\u202fN·m",)),
    ]  # fmt: skip


def test_an_american_list_has_units_in_its_headings_and_in_its_cells(demo, american):
    with demo.session() as session:
        rows = rows_of(session, american)
    first = rows[0].tool
    assert first.model.unit.name == "lbf.ft"
    assert first.model.maximum == pytest.approx(250 * 1.3558179483314)
    assert (first.months, first.owner, first.place) == (12, "Tower crew", "Bay 1, east")
    assert rows[1].faults == ("due: the cell is a formula without a result; write its value",)
    assert len(rows[2].faults) == 2
    assert (rows[3].tool.model.shape, rows[3].tool.model.minimum, rows[3].tool.due) == (
        Shape.DIAL_WRENCH, None, date(2026, 7, 5),
    )  # fmt: skip


def test_an_xlsx_is_brought_in_with_its_history_and_taken_back_by_one_undo(demo, act, tmp_path):
    book = Workbook()
    page = book.active
    page.append(["tool", "description", "range", "unit", "brand", "model", "calibrated", "expires", "status"])
    page.append([501, "click", "5-25", "N.m", "Dunmorrow", "D-25", datetime(2026, 6, 1), datetime(2027, 6, 1), "ok"])
    page.append([502, "click", "8-40", "N.m", "Dunmorrow", "D-40", datetime(2025, 6, 1), None, "FAIL"])
    page.append(["HC-0417", "click", "8-40", "N.m", "Dunmorrow", "D-40", None, None, ""])
    page.append([504, "click", "5-30", "N.m", "Dunmorrow", "D-25", None, None, ""])
    book.save(tmp_path / "list.xlsx")
    table = read_table(tmp_path / "list.xlsx")
    with demo.session() as session:
        before = (session.query(Tool).count(), session.query(ToolModel).count())
        rows = rows_of(session, table)
        assert [r.faults for r in rows if r.tool is None] == [
            ("there is already a tool HC-0417 in the register",),
            ("model: Dunmorrow D-25 is in the register with 5–25\u202fN·m",),
        ]
        command = bring_in(session, [r.tool for r in rows if r.tool is not None], "list.xlsx", act)
        assert command.words == "bringing in 2 tools from list.xlsx"
        assert session.query(ToolModel).count() == before[1] + 1  # D-25 was there
        good, bad = session.query(Tool).order_by(Tool.id.desc()).limit(2)[::-1]
        found = card(reader_of(session), good.id)
        assert (found.standing.due.on, found.due_words(act.at.date())) == (date(2027, 6, 1), "189 d")
        assert [h.what for h in sheet(reader_of(session), good.id).happenings] == ["Brought in"]
        held = card(reader_of(session), bad.id).standing
        assert held.held == "it failed its last test, says list.xlsx"
        assert Condition.OVERDUE in held.conditions(act.at.date())
        assert projection.rebuild(session) == 0
        undone = command.take_back(session, act)
        shown = (
            session.query(Tool).filter_by(removed=False).count(),
            session.query(ToolModel).filter_by(removed=False).count(),
        )
        assert shown == before
        undone.take_back(session, act)
        assert session.query(Tool).filter_by(removed=False).count() == before[0] + 2


def test_nothing_to_bring_in_is_refused(demo, act):
    with demo.session() as session, pytest.raises(ShopRefused, match="nothing to bring in"):
        bring_in(session, [], "x.csv", act)


@pytest.mark.parametrize("shape", Shape)
def test_a_tool_of_every_picture_can_be_added(demo, act, shape):
    with demo.session() as session:
        low = None if SHAPES[shape].fixed else 1.0
        model, _command = add_model(session, ModelDraft(shape, low, 6.0, N_M, "¼ in", "Dunmorrow", "Z-6"), act)
        assert session.get(ToolModel, model).mechanism is SHAPES[shape].mechanism


def table(columns, *rows):
    return Table("list.csv", tuple(columns), tuple((i + 2, tuple(row)) for i, row in enumerate(rows)))


def read_all(session, sheet, **given):
    return understood(session, sheet, meanings(sheet), **given)


def test_a_german_range_in_two_columns_a_mechanism_and_an_interval_are_understood(demo):
    sheet = table(
        ("Nr", "Messbereich von [N·m]", "Messbereich bis [N·m]", "Auslöseart", "Prüfintervall (Monate)", "Toleranz", "Klasse",
         "Bemerkung", "Etikettfarbe"),
        ("W-1", "20", "100", "elektronisch", "6", "±4 %", "A", "Griff neu", "rot"),
        ("W-2", "0", "50", "Knickschlüssel", "12", "", "", "", "blau"),
    )  # fmt: skip
    with demo.session() as session:
        one, two = (r.tool for r in read_all(session, sheet))
    assert (one.model.shape, one.months, one.limit) == (Shape.ELECTRONIC_WRENCH, 6, pytest.approx(0.04))
    assert (one.model.minimum, one.model.maximum, one.remarks) == (20, 100, "class A; Griff neu")
    assert (two.model.shape, two.model.minimum) == (
        Shape.BREAK_OVER_WRENCH,
        10,
    )  # a scale from 0 says no smallest torque
    (left,) = unused(sheet, meanings(sheet))
    assert (left.name, left.values) == ("Etikettfarbe", ("rot", "blau"))


@pytest.mark.parametrize(
    ("heading", "cell", "months"),
    [
        ("Interval (days)", "365", 12),
        ("Intervall [Tage]", "180", 6),
        ("Interval", "2 years", 24),
        ("Interval", "26 weeks", 6),
    ],
)
def test_an_interval_is_read_in_the_unit_of_its_column_or_cell(demo, heading, cell, months):
    sheet = table(("No", "Range", heading), ("W-1", "20-100 N·m", cell))
    with demo.session() as session:
        (row,) = read_all(session, sheet)
    assert row.tool.months == months


def test_a_column_of_days_is_read_as_a_whole_and_asked_about_where_it_does_not_tell(demo):
    def days(*cells):
        return table(("No", "Range", "Last tested"), *((f"W-{i}", "20-100 N·m", c) for i, c in enumerate(cells)))

    with demo.session() as session:
        american, british, either = days("3/4/2026", "3/14/2026"), days("3/4/2026", "14/3/2026"), days("3/4/2026")
        assert [r.tool.last for r in read_all(session, american)] == [date(2026, 3, 4), date(2026, 3, 14)]
        assert [r.tool.last for r in read_all(session, british)] == [date(2026, 4, 3), date(2026, 3, 14)]
        assert [asks_order(t, meanings(t)) for t in (american, british, either)] == [False, False, True]
        (unread,) = read_all(session, either)
        assert "two ways" in unread.faults[0]
        (told,) = read_all(session, either, order=DayOrder.MONTH_FIRST)
        assert told.tool.last == date(2026, 3, 4)


def test_bringing_in_again_after_an_undo_works(demo, act):
    sheet = table(("No", "Range", "Place"), ("W-1", "20-100 N·m", "shed"))
    with demo.session() as session:
        command = bring_in(session, [r.tool for r in read_all(session, sheet)], "list.csv", act)
        take_back(session, command, act)
        again = table(("No", "Range", "Place"), ("W-1", "20-100 N·m", "yard"))
        (row,) = read_all(session, again)
        bring_in(session, [row.tool], "list.csv", act)
        tool = session.scalar(select(Tool).where(Tool.number == "W-1"))
        assert (tool.removed, tool.place) == (False, "yard")


@pytest.mark.parametrize(
    ("cells", "found"),
    [
        (("60/600", "", "", ""), (60.0, 600.0)),
        (("40–200 N·m (30–150 ft·lb)", "", "", ""), (40.0, 200.0)),
        (("20 - 200 Nm / 15 - 150 lbf.ft", "", "", ""), (20.0, 200.0)),
        (("20-100 Nm / 20-100 lbf.ft", "", "", ""), 'range: "20-100 Nm / 20-100 lbf.ft" are two ranges'),
        (("up to 60 Nm", "", "", ""), (None, 60.0)),
        (("5-50", "2026-02", "02/2027", ""), (date(2026, 2, 1), date(2027, 2, 28))),
        (("5-50", "?", "Mar-27", ""), (None, date(2027, 3, 31))),
        (("5-50", "1.2.2026", "n/a", "Out of cal"), (date(2026, 2, 1), "Out of cal")),
        (("5-50", "", "", "seen by Karl"), ("seen by Karl", None)),
        (("5-50", "", "", "in service"), ("", None)),
        (("1/2", "", "", ""), 'range: "1/2" can be read two ways'),
        (("5-50", "", "", "Scrapped"), 'last result: "Scrapped", so it is not brought in'),
        (("5-50", "13/2027", "", ""), 'last tested: "13/2027" is not a day'),
    ],
    ids=lambda value: " ".join(map(str, value)) if isinstance(value, tuple) else "",
)
def test_other_habits_are_understood_or_said(demo, tmp_path, cells, found):
    path = tmp_path / "other.csv"
    path.write_text('Asset;Description;Range;Cal Date;Cal Due;Status\nT-1;3/8" click;' + ";".join(cells) + "\n")
    table = read_table(path)
    with demo.session() as session:
        (row,) = understood(session, table, meanings(table))
    if isinstance(found, str):
        assert row.tool is None
        assert row.faults[0].startswith(found)
        return
    tool = row.tool
    assert tool is not None, row.faults
    assert tool.model.drive == "⅜ in"
    said = (tool.model.minimum, tool.model.maximum, tool.last, tool.due, tool.locked, tool.remarks)
    assert all(value in said for value in found)


def test_what_a_list_says_is_not_to_be_used_is_held_with_its_word(demo, act, tmp_path):
    path = tmp_path / "other.csv"
    path.write_text("Asset;Range;Status\nT-1;5-50;gesperrt\n")
    table = read_table(path)
    with demo.session() as session:
        rows = understood(session, table, meanings(table))
        bring_in(session, [row.tool for row in rows], "other.csv", act)
    with demo.reading() as reader:
        assert card(reader, tool_id(demo, "T-1")).held == "“gesperrt”, says other.csv"
