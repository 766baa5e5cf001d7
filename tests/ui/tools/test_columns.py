"""The tools as a table: sorted by what is pressed, many changed together, filters kept; with real keys and clicks."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from reckoner.shop.register.cards import ToolOrder, cards
from reckoner.shop.register.lists import find
from reckoner.store.schema import Tool
from reckoner.ui.tools.columns import COLUMNS, ColumnsModel
from tests.support.hands import ENTER, WAIT, click, go, press, settle, type_in
from tests.support.runs import TODAY

CTRL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier


@pytest.fixture
def table(qtbot, open_window, demo_folder):
    """The window with the tools as a table."""
    window = open_window(demo_folder)
    go(window, "tools")
    settle(qtbot, window)
    click(window.current.turn)
    settle(qtbot, window)
    return window


def column_of(window, place):
    model = window.current.table.tools
    return [model.data(model.index(row, place)) for row in range(6)]


def test_the_table_is_a_sound_model(qtmodeltester, demo):
    model = ColumnsModel(TODAY)
    with demo.reading() as reader:
        model.show(find(reader, "", TODAY))
    qtmodeltester.check(model)
    assert model.columnCount() == len(COLUMNS)
    assert model.data(model.index(0, 0)) == "HC-0113"


def test_what_stops_a_tool_is_told_loudly_and_nothing_else_is(demo):
    with demo.reading() as reader:
        shown = {c.tool.number: c for c in cards(reader)}
    stands, left = (next(c for c in COLUMNS if c.title == title) for title in ("Stands", ""))
    wanted = {  # held; overdue, also while it is lent; away although it is past its date; in date
        "HC-0404": (True, True),
        "HC-0391": (False, True),
        "HC-0319": (False, True),
        "HC-0441": (False, False),
        "HC-0417": (False, False),
    }
    found = {number: (stands.stops(shown[number], TODAY), left.stops(shown[number], TODAY)) for number in wanted}
    assert found == wanted


def test_a_press_on_a_columns_name_sorts_by_it_and_a_second_one_the_other_way(qtbot, table):
    places = column_of(table, 3)
    assert places != sorted(places)
    click(table.current.table.heads[ToolOrder.PLACE])
    settle(qtbot, table)
    assert column_of(table, 3) == sorted(column_of(table, 3))
    assert "▴" in table.current.table.heads[ToolOrder.PLACE].text()
    click(table.current.table.heads[ToolOrder.PLACE])
    settle(qtbot, table)
    assert column_of(table, 3) == sorted(column_of(table, 3), reverse=True)
    type_in_filter(qtbot, table, "held")
    assert table.current.table.tools.rowCount() == 2


def type_in_filter(qtbot, window, text):
    window.current.filter.setText(text)
    settle(qtbot, window)


def test_chosen_rows_are_moved_together_with_the_keyboard_and_one_key_takes_it_back(qtbot, table, demo):
    tools = table.current
    view = tools.table.table
    assert tools.together.told.text().startswith("Choose tools with")
    view.setFocus()
    view.selectRow(0)
    for _ in range(3):
        QTest.keyClick(view, Qt.Key.Key_Down, SHIFT)
    assert (tools.table.count, tools.together.told.text()) == (4, "4 tools chosen")
    numbers = column_of(table, 0)[:4]
    click(tools.together.what.chips["place"])
    type_in(table, "Bay 9")
    press(table, ENTER)
    qtbot.waitUntil(lambda: column_of(table, 3)[:4] == ["Bay 9"] * 4, timeout=WAIT)
    assert table.foot.words == "Kept: 4 tools: where it is kept Bay 9. Ctrl+Z takes it back."
    with demo.session() as session:
        assert {t.number for t in session.query(Tool).filter_by(place="Bay 9")} == set(numbers)
    press(table, Qt.Key.Key_Z, CTRL)
    qtbot.waitUntil(lambda: "Bay 9" not in column_of(table, 3), timeout=WAIT)
    QTest.keyClick(view, Qt.Key.Key_A, CTRL)
    assert tools.table.count == 46
    click(tools.together.what.chips["interval_months"])
    type_in(table, "many")
    press(table, ENTER)
    assert "many" in tools.together.rows["interval_months"].entry.hint.text()
    with demo.session() as session:
        assert session.query(Tool).filter_by(interval_months=9).count() == 0


def test_enter_opens_the_sheet_of_the_row_in_front_and_the_filter_stays(qtbot, table):
    type_in_filter(qtbot, table, "held")
    table.current.table.table.setFocus()
    table.current.table.table.selectRow(1)
    press(table, ENTER)
    settle(qtbot, table)
    assert not table.current.in_columns
    assert (table.current.sheet.number.text(), table.current.filter.text()) == ("HC-0430", "held")


def test_a_filter_is_kept_pressed_again_and_forgotten(qtbot, open_window, demo_folder):
    window = open_window(demo_folder)
    go(window, "tools")
    settle(qtbot, window)
    tools = window.current
    assert not tools.kept.keep.isVisible()
    type_in_filter(qtbot, window, "click held")
    click(tools.kept.keep)
    qtbot.waitUntil(lambda: tools.kept.filters == ("click held",), timeout=WAIT)
    assert tools.kept.keep.text() == "Forget this filter"
    click(tools.kept.chips.chips["click held"])
    settle(qtbot, window)
    assert tools.filter.text() == ""
    click(tools.kept.chips.chips["click held"])
    settle(qtbot, window)
    assert tools.filter.text() == "click held"
    click(tools.kept.keep)
    qtbot.waitUntil(lambda: tools.kept.filters == (), timeout=WAIT)
