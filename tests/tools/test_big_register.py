"""A big register is what the shop itself would have written, and the window's lists are read a page at a time."""

import sys
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from reckoner.demo.scenario import demo_today
from reckoner.shop.planning.agenda import DayList, agenda
from reckoner.shop.records import checking
from reckoner.shop.register.cards import cards, count
from reckoner.shop.register.lists import PAGE, look_up
from reckoner.shop.runs.recomputing import recompute
from reckoner.store.database import Database
from tests.support.hands import WAIT, go, press, settle

sys.path.append(str(Path(__file__).parents[2] / "tools"))
from big_register import PATTERN, RUNS, build

TOOLS = 3 * PATTERN


@pytest.fixture(scope="module")
def big(tmp_path_factory):
    folder = tmp_path_factory.mktemp("big")
    build(TOOLS, folder)
    return folder


def test_every_copy_is_as_the_shop_writes_it(big):
    database = Database(big)
    with database.session() as session:
        assert [one for one in checking.walk(session) if isinstance(one, checking.CheckFinding)] == []
        found = list(recompute(session))
        assert len({r.tool for r in found}) == TOOLS
        assert len(found) == TOOLS * RUNS
        assert {r.otherwise for r in found} == {()}
    with database.reading() as reader:
        assert count(reader) == TOOLS
        assert agenda(reader, demo_today()).counts[DayList.OVERDUE] == 6
        fits, tool = look_up(reader, "S000119", demo_today())
        assert (fits, tool.tool.number) == (1, "W-000119")
        assert tool.due(demo_today()) == cards(reader, 39, 1)[0].due(demo_today())
    database.close()


def test_the_list_holds_what_is_looked_at_and_reads_on(qtbot, open_window, big):
    window = open_window(big)
    go(window, "tools")
    settle(qtbot, window)
    tools = window.current
    model = tools.list.tools
    assert model.rowCount() == TOOLS
    card = Qt.ItemDataRole.UserRole
    assert model.data(model.index(PAGE - 1, 0), card) is not None
    assert model.data(model.index(TOOLS - 1, 0), card) is None  # its page is being asked for
    settle(qtbot, window)
    assert model.data(model.index(TOOLS - 1, 0), card).tool.number == "W-000119"
    tools.list.setFocus()
    press(window, Qt.Key.Key_End, Qt.KeyboardModifier.ControlModifier)
    qtbot.waitUntil(lambda: tools.sheet.number.text() == "W-000119", timeout=WAIT)
    for _ in range(PAGE):
        press(window, Qt.Key.Key_Up)
    qtbot.waitUntil(lambda: tools.sheet.number.text() == "W-000089", timeout=WAIT)


def test_a_scanned_number_opens_the_list_where_the_tool_stands(qtbot, open_window, big):
    window = open_window(big)
    QTest.keyClicks(window.top_line, "s000097")
    QTest.keyClick(window.top_line, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: getattr(window.current, "sheet", None) is not None, timeout=WAIT)
    tools = window.current
    qtbot.waitUntil(lambda: tools.sheet.number.text() == "W-000097", timeout=WAIT)
    assert tools.list.currentIndex().row() == 97


def test_typing_fast_shows_what_was_typed_last(qtbot, open_window, big):
    window = open_window(big)
    go(window, "tools")
    settle(qtbot, window)
    tools = window.current
    qtbot.keyClicks(tools.filter, "w-00010")
    settle(qtbot, window)
    assert tools.list.tools.rowCount() == 10
    QTest.keyClicks(window.top_line, "w-00005")
    settle(qtbot, window)
    assert [window.top_line.matches.item(i).text()[:8] for i in range(8)] == [f"W-{50 + i:06}" for i in range(8)]
