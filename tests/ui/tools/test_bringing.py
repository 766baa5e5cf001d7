"""A spreadsheet in the window: seen before it is accepted, meanings changed, faults saved for mending, one undo."""

import pytest
from PyQt6.QtCore import Qt

from reckoner.formats.tables import read_table
from reckoner.shop.register.columns import ColumnMeaning, meanings
from reckoner.store.schema import Tool
from tests.support.hands import WAIT, click, go, press, settle

LIST = (
    "Number;Bin;Range;Due\nQ-1;Bay 1;5-25 Nm;2027-01-05\nQ-2;Bay 2;25-5 Nm;\nQ-3;Bay 2;10;3/4/2027\nQ-4;Bay 3;20-100;\n"
)


@pytest.fixture
def bringing(qtbot, open_window, demo_folder, tmp_path):
    window = open_window(demo_folder)
    go(window, "tools", bring_in=True)
    settle(qtbot, window)
    view = window.current.right.bringing
    (tmp_path / "list.csv").write_text(LIST)
    view.read(tmp_path / "list.csv")
    qtbot.waitUntil(lambda: len(view.model.rows) == 4, timeout=WAIT)
    return window, view


def test_nothing_is_written_until_it_is_accepted_and_one_key_takes_it_back(qtbot, bringing, demo):
    window, view = bringing
    count = window.current._count.text()
    assert view.button.text() == "Bring in 2 tools"
    assert "2 rows have faults" in view.told.text()
    said = [view.model.data(view.model.index(i, 0)) for i in range(4)]
    assert said[0].startswith("Q-1 · click wrench · 5–25\u202fN·m · due 5 Jan 2027")
    assert said[1].startswith("✗ range: ")
    assert "two ways" in said[2]
    with demo.session() as session:
        assert session.query(Tool).filter(Tool.number.like("Q-%")).count() == 0
    view.choose(1, ColumnMeaning.PLACE)
    qtbot.waitUntil(lambda: "Bay 1" in view.model.data(view.model.index(0, 0)), timeout=WAIT)
    click(view.units.chips["lbf.ft"])
    qtbot.waitUntil(lambda: "20–100\u202flbf·ft" in view.model.data(view.model.index(3, 0)), timeout=WAIT)
    click(view.button)
    qtbot.waitUntil(lambda: window.foot.words.startswith("Kept: bringing in 2 tools from list.csv."), timeout=WAIT)
    settle(qtbot, window)
    assert window.current._count.text() != count
    press(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    qtbot.waitUntil(lambda: window.current._count.text() == count, timeout=WAIT)


def test_rows_with_faults_are_saved_to_be_mended_with_the_reason(qtbot, bringing, tmp_path):
    _window, view = bringing
    view.save_faulty(tmp_path / "mend.csv")
    found = read_table(tmp_path / "mend.csv")
    assert found.columns[-1] == "what is wrong"
    assert [cells[0] for _, cells in found.rows] == ["Q-2", "Q-3"]
    view.save_faulty(tmp_path / "no such folder" / "mend.csv")
    assert "could not be written" in view.fault.text()


def test_what_a_column_was_said_to_mean_is_remembered_for_the_next_list_with_these_columns(qtbot, bringing, tmp_path):
    _window, view = bringing
    path = tmp_path / "list.csv"
    path.write_text("No;Range;Shelf of old\nW-1;20-100 N·m;shed\n")
    view.read(path)
    qtbot.waitUntil(lambda: len(view.model.rows) == 1, timeout=WAIT)
    assert "Shelf of old (shed)" in view.left_out.text()
    view.choose(2, ColumnMeaning.PLACE)
    qtbot.waitUntil(lambda: view.model.rows[0].tool.place == "shed", timeout=WAIT)
    assert view.left_out.isHidden()
    path.write_text("No;Range;Shelf of old\nW-2;20-100 N·m;yard\n")
    view.read(path)
    qtbot.waitUntil(lambda: view.model.rows[0].tool.number == "W-2", timeout=WAIT)
    assert view.model.rows[0].tool.place == "yard"


def test_a_file_that_is_none_is_refused_and_what_stood_there_stays(qtbot, bringing, tmp_path):
    _window, view = bringing
    (tmp_path / "bad.xlsx").write_bytes(b"PK nothing")
    view.read(tmp_path / "bad.xlsx")
    qtbot.waitUntil(lambda: "cannot be read as XLSX" in view.fault.text(), timeout=WAIT)
    assert len(view.model.rows) == 4


def test_the_preview_is_a_sound_model(qtmodeltester, bringing):
    _window, view = bringing
    qtmodeltester.check(view.model)


def test_a_long_list_tells_its_count_and_can_be_stopped_with_nothing_brought_in(qtbot, bringing, demo, tmp_path):
    _window, view = bringing
    (tmp_path / "long.csv").write_text("Number;Range\n" + "".join(f"L-{i};5-25 Nm\n" for i in range(400)))
    view.read(tmp_path / "long.csv")
    qtbot.waitUntil(lambda: len(view.model.rows) == 400, timeout=WAIT)
    click(view.button)
    qtbot.waitUntil(lambda: view.told.text().startswith("Bringing in: ") and "of 400" in view.told.text(), timeout=WAIT)
    click(view.stop_button)
    qtbot.waitUntil(lambda: view.fault.text() == "It was stopped; nothing was brought in.", timeout=WAIT)
    with demo.session() as session:
        assert session.query(Tool).filter(Tool.number.like("L-%")).count() == 0


@pytest.mark.parametrize("name", ["list.csv", "list.xlsx"])
def test_what_the_filter_finds_is_saved_and_can_be_brought_in_elsewhere(
    qtbot, open_window, demo_folder, tmp_path, name
):
    window = open_window(demo_folder)
    go(window, "tools")
    settle(qtbot, window)
    window.current.filter.setText("beam")
    settle(qtbot, window)
    window.current.saving.save(tmp_path / name)
    qtbot.waitUntil(lambda: window.foot.words.endswith(f"tools are in {tmp_path / name}."), timeout=WAIT)
    table = read_table(tmp_path / name)
    assert len(table.rows) == window.current.list.tools.rowCount() > 0
    assert meanings(table)[:6] == (
        ColumnMeaning.NUMBER, ColumnMeaning.SERIAL, ColumnMeaning.MAKER, ColumnMeaning.MODEL, ColumnMeaning.LOOK,
        ColumnMeaning.MINIMUM,
    )  # fmt: skip
    window.current.saving.save(tmp_path / "no such folder" / name)
    qtbot.waitUntil(lambda: "cannot be written" in window.foot.words, timeout=WAIT)
