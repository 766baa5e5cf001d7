"""The register in the window: read first, edited where it stands, taken back and done again; tools, models, people."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QFontMetrics
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QScrollArea

from reckoner.shop.facts.shapes import Shape
from reckoner.shop.people.authorship import Act
from reckoner.shop.register.editing import change, row_sheet
from reckoner.shop.register.fields import FIELDS, fields_of
from reckoner.store.schema import AdapterRow, Person, Tool, ToolModel
from reckoner.store.terms import RegisterKind
from reckoner.ui.register.fieldrow import TITLE_WIDTH, FieldRow
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.tools.shelves import OTHER_SHELVES, SHELVES
from reckoner.ui.widgets.chips import Chips
from tests.support.hands import ENTER, WAIT, click, focused, go, press, settle, type_in
from tests.support.runs import tool_id

CTRL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier


@pytest.fixture
def facts(qtbot, open_window, demo_folder, demo):
    """The window, and what is known of HC-0417 in front."""
    window = open_window(demo_folder)
    go(window, "tools", tool=tool_id(demo, "HC-0417"))
    settle(qtbot, window)
    tools = window.current
    click(tools.sheet.pages.chips["What is known"])
    qtbot.waitUntil(lambda: tools.sheet.facts.sheet is not None, timeout=WAIT)
    return window


def rows(window):
    return window.current.sheet.facts.rows


def kept(demo, table, row_id):
    with demo.session() as session:
        session.expire_all()
        found = session.get_one(table, row_id)
        return {c.key: getattr(found, c.key) for c in table.__mapper__.column_attrs if c.key != "version"}


def test_a_field_is_edited_with_the_keyboard_and_the_very_row_comes_back(qtbot, facts, demo):
    window, wanted = facts, tool_id(demo, "HC-0417")
    before = kept(demo, Tool, wanted)
    place = rows(window)["place"]
    place.shown.setFocus()
    press(window, ENTER)
    assert place.editing
    QTest.keyClick(focused(window), Qt.Key.Key_A, CTRL)
    type_in(window, "Bay 2")
    press(window, ENTER)
    qtbot.waitUntil(lambda: place.shown.words == "Bay 2", timeout=WAIT)
    assert not place.editing
    assert window.foot.words == f"Kept: HC-0417: where it is kept Bay 2, was {before['place']}. Ctrl+Z takes it back."
    assert kept(demo, Tool, wanted) == before | {"place": "Bay 2"}
    press(window, Qt.Key.Key_Z, CTRL)
    qtbot.waitUntil(lambda: place.shown.words == before["place"], timeout=WAIT)
    assert kept(demo, Tool, wanted) == before
    press(window, Qt.Key.Key_Z, CTRL | SHIFT)
    qtbot.waitUntil(lambda: place.shown.words == "Bay 2", timeout=WAIT)
    assert window.foot.words.startswith("Done again: HC-0417: where it is kept Bay 2")
    press(window, Qt.Key.Key_Z, CTRL)
    settle(qtbot, window)
    press(window, Qt.Key.Key_Z, CTRL)
    settle(qtbot, window)
    assert window.foot.words.startswith("Nothing that you changed in the register today is left to take back.")


def test_what_was_changed_today_is_taken_back_after_the_window_was_closed(qtbot, facts, open_window, demo_folder, demo):
    window, wanted = facts, tool_id(demo, "HC-0417")
    before = kept(demo, Tool, wanted)
    for name, typed in (("place", "Bay 2"), ("place", "Bay 3")):
        row = rows(window)[name]
        row.shown.setFocus()
        press(window, ENTER)
        QTest.keyClick(focused(window), Qt.Key.Key_A, CTRL)
        type_in(window, typed)
        press(window, ENTER)
        qtbot.waitUntil(lambda row=row, typed=typed: row.shown.words == typed, timeout=WAIT)
    press(window, Qt.Key.Key_Z, CTRL)
    qtbot.waitUntil(lambda: kept(demo, Tool, wanted)["place"] == "Bay 2", timeout=WAIT)
    settle(qtbot, window)
    window.frame.close()
    again = open_window(demo_folder)
    press(again, Qt.Key.Key_Z, CTRL)
    qtbot.waitUntil(lambda: kept(demo, Tool, wanted) == before, timeout=WAIT)
    settle(qtbot, again)
    assert again.foot.words == f"Taken back: HC-0417: where it is kept Bay 2, was {before['place']}."
    press(again, Qt.Key.Key_Z, CTRL)
    settle(qtbot, again)
    assert kept(demo, Tool, wanted) == before
    assert "A signed run is amended at the Bench" in again.foot.words


def test_what_cannot_be_is_said_at_the_field_and_what_was_typed_stays(qtbot, facts, demo):
    window = facts
    lever = rows(window)["lever_length"]
    assert lever.shown.words.startswith("as its model: ")
    click(lever.shown)
    for wrong, why in (("0.3 kg", "unit of mass"), ("90 m", "cannot be more than")):
        lever.entry.line.setText(wrong)
        press(window, ENTER)
        assert why in lever.entry.hint.text()
        assert lever.editing
    lever.entry.line.setText("18 1/2 in")
    assert lever.entry.hint.text().startswith("understood: ")
    press(window, ENTER)
    qtbot.waitUntil(lambda: lever.shown.words == "469.9\u202fmm", timeout=WAIT)
    click(lever.shown)
    lever.entry.line.clear()
    press(window, ENTER)  # as its model again
    qtbot.waitUntil(lambda: lever.shown.words.startswith("as its model: "), timeout=WAIT)
    number = rows(window)["number"]
    click(number.shown)
    number.entry.line.setText("HC-0422")
    press(window, ENTER)
    qtbot.waitUntil(lambda: "already a tool HC-0422" in number.entry.hint.text(), timeout=WAIT)
    press(window, Qt.Key.Key_Escape)
    assert not number.editing
    assert number.shown.words == "HC-0417"


def test_an_edit_from_an_old_version_is_refused_and_shows_both(qtbot, facts, demo, act):
    window, wanted = facts, tool_id(demo, "HC-0417")
    place = rows(window)["place"]
    click(place.shown)
    place.entry.line.setText("Bay 3")
    with demo.session() as session:  # another program, or another station
        field = next(f for f in fields_of(RegisterKind.TOOL) if f.name == "place")
        change(session, RegisterKind.TOOL, wanted, field, "Bay 2", Act(2, act.at))
    press(window, ENTER)
    qtbot.waitUntil(lambda: "was changed meanwhile by" in place.entry.hint.text(), timeout=WAIT)
    assert "Bay 2" in place.entry.hint.text()
    assert place.entry.text == "Bay 3"
    settle(qtbot, window)
    press(window, ENTER)  # having seen both
    qtbot.waitUntil(lambda: place.shown.words == "Bay 3", timeout=WAIT)


def test_twenty_tools_of_a_kind_count_up_and_go_with_one_key(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    go(window, "tools")
    settle(qtbot, window)
    tools = window.current
    before = tools._count.text()
    click(tools.add_button)
    settle(qtbot, window)
    adder = tools.right.new_tools
    type_in(window, "HC-0995")
    adder.form.count.line.setText("20")
    assert adder.form.number.hint.text() == "understood: HC-0995 to HC-1014, 20 tools"
    click(adder.form.describe)
    click(adder.form.new_model.pictures[Shape.SCREWDRIVER])
    click(adder.form.new_model.range.usual.chips["1–5\u202fN·m"])
    assert adder.button.text() == "Add 20 tools"
    click(adder.button)
    qtbot.waitUntil(lambda: window.foot.words.startswith("Kept: adding 20 tools, HC-0995 to HC-1014."), timeout=WAIT)
    qtbot.waitUntil(lambda: tools.sheet.number.text() == "HC-0995", timeout=WAIT)
    press(window, Qt.Key.Key_Z, CTRL)
    qtbot.waitUntil(lambda: tools._count.text() == before, timeout=WAIT)
    with demo.session() as session:  # the model that came with them is gone too
        assert session.query(Tool).filter_by(removed=True).count() == 20
        assert session.query(ToolModel).filter_by(removed=True).count() == 1


def test_another_tool_like_one_shares_what_it_has_of_its_own(qtbot, facts, demo):
    window = facts
    tools = window.current
    tools.sheet._another()
    settle(qtbot, window)
    adder = tools.right.new_tools
    adder.form.number.line.setText("HC-0422")
    click(adder.button)
    qtbot.waitUntil(lambda: "already a tool HC-0422" in adder.form.number.hint.text(), timeout=WAIT)
    adder.form.number.line.setText("HC-0999")
    click(adder.button)
    qtbot.waitUntil(lambda: tools.sheet.number.text() == "HC-0999", timeout=WAIT)
    old, new = kept(demo, Tool, tool_id(demo, "HC-0417")), kept(demo, Tool, tool_id(demo, "HC-0999"))
    assert {k: v for k, v in new.items() if old[k] != v}.keys() == {"id", "number", "serial"} | (
        {"in_service"} if old["in_service"] else set()
    )


def test_people_are_added_given_rights_and_leave(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    go(window, "tools", register=RegisterKind.PERSON)
    settle(qtbot, window)
    shelf = window.current.other
    click(shelf.adding)
    type_in(window, "Q. Q.")
    press(window, ENTER)
    qtbot.waitUntil(lambda: shelf.sheet.sheet is not None and shelf.sheet.sheet.name == "Q. Q.", timeout=WAIT)
    assert any(p.initials == "Q. Q." for p in window.who.people)
    edit = shelf.sheet.rows["may_edit"]
    assert edit.shown.words == "no"
    click(edit.shown)
    click(edit.chips.chips["0"])
    qtbot.waitUntil(lambda: edit.shown.words == "yes", timeout=WAIT)
    left = shelf.sheet.rows["left_on"]
    click(left.shown)
    left.entry.line.setText("1 Nov 2026")
    press(window, ENTER)
    qtbot.waitUntil(lambda: all(p.initials != "Q. Q." for p in window.who.people), timeout=WAIT)


def test_a_model_is_edited_for_all_its_tools(qtbot, facts, demo):
    window, wanted = facts, tool_id(demo, "HC-0417")
    with demo.session() as session:
        model = session.get_one(Tool, wanted).model_id
        name = row_sheet(session, RegisterKind.MODEL, model).name
    window.current.sheet._to_model()
    qtbot.waitUntil(lambda: window.current.other is not None, timeout=WAIT)
    shelf = window.current.other
    qtbot.waitUntil(lambda: shelf.sheet.sheet is not None and shelf.name.text() == name, timeout=WAIT)
    storage = shelf.sheet.rows["storage"]
    click(storage.shown)
    storage.entry.line.setText("Hang it by its head")
    press(window, ENTER)
    qtbot.waitUntil(lambda: storage.shown.words == "Hang it by its head", timeout=WAIT)
    go(window, "tools", tool=wanted)
    settle(qtbot, window)
    assert kept(demo, Person, 1)["may_edit"]


def test_a_point_is_chosen_by_its_small_fence_and_its_drift_is_told(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    go(window, "tools", tool=tool_id(demo, "HC-0422"))
    settle(qtbot, window)
    sheet = window.current.sheet
    qtbot.waitUntil(lambda: sheet.trend.text().startswith("Drifts by +0.53"), timeout=WAIT)
    low = next(fence for (_direction, target), fence in sheet.fences.items() if target == 20)
    click(low)
    assert sheet.trend.text().startswith("Drifts by ")
    assert "25 Aug 2029" not in sheet.trend.text()
    shown = sheet._fence._state
    assert {p.told.rsplit(" ", 1)[-1] for p in shown.points} >= {"PM-4"}
    assert any("from the tower ladder" in words for _, words in shown.events)


def test_a_file_is_attached_opened_and_taken_away(qtbot, facts, demo, tmp_path, monkeypatch):
    window, files = facts, facts.current.sheet.files
    photo = tmp_path / "photo.txt"
    photo.write_bytes(b"a photo")
    files.add(tmp_path / "gone.txt")
    qtbot.waitUntil(lambda: "cannot be read" in files.fault.text(), timeout=WAIT)
    with (tmp_path / "film.mp4").open("wb") as film:
        film.truncate(2_000_000_000)
    files.add(tmp_path / "film.mp4")
    qtbot.waitUntil(lambda: "film.mp4: it is larger than 25 MB" in files.fault.text(), timeout=WAIT)
    files.add(photo)
    qtbot.waitUntil(lambda: [line.name for line in files.lines] == ["photo.txt"], timeout=WAIT)
    opened = []
    monkeypatch.setattr(
        "reckoner.ui.register.files.QDesktopServices.openUrl", lambda url: opened.append(url.toLocalFile()) or True
    )
    files.look_at(files.lines[0].id)
    qtbot.waitUntil(lambda: len(opened) == 1, timeout=WAIT)
    with open(opened[0], "rb") as copy:
        assert copy.read() == b"a photo"
    files.take_away(files.lines[0].id)
    qtbot.waitUntil(lambda: files.lines == (), timeout=WAIT)
    press(window, Qt.Key.Key_Z, CTRL)
    qtbot.waitUntil(lambda: window.foot.words.startswith("Taken back: removing photo.txt"), timeout=WAIT)


def test_every_shelf_opens_by_its_name_and_an_adapter_is_added(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    go(window, "tools")
    settle(qtbot, window)
    tools = window.current
    for kind in (*SHELVES, RegisterKind.ADAPTER):
        here = next(chips for chips in tools.findChildren(Chips) if chips.isVisible() and kind.value in chips.chips)
        click(here.chips[kind.value])
        settle(qtbot, window)
        shown = tools.other.spec.kind if tools.other is not None else None
        assert shown == (kind if kind in OTHER_SHELVES else None)
    click(tools.other.adding)
    type_in(window, "CF-19")
    press(window, ENTER)
    settle(qtbot, window)
    with demo.session() as session:
        assert session.query(AdapterRow).filter_by(number="CF-19").count() == 1
    assert tools.other.name.text().startswith("CF-19")


def test_no_field_has_a_title_that_is_cut(theme):
    metrics, room = QFontMetrics(theme.font(Type.BODY)), TITLE_WIDTH - 2 * GRID
    wide = {f.title for fields in FIELDS.values() for f in fields if metrics.horizontalAdvance(f.title) > room}
    assert wide == set()


def test_a_field_at_the_lower_edge_opens_in_sight_and_so_does_what_it_refuses(qtbot, open_window, demo_folder):
    window = open_window(demo_folder)
    go(window, "tools")
    place = window.current
    here = next(chips for chips in place.findChildren(Chips) if chips.isVisible() and "shop" in chips.chips)
    click(here.chips["shop"])
    settle(qtbot, window)
    row = next(r for r in place.findChildren(FieldRow) if r.field.name == "asks_at_sitting")
    area = next(a for a in place.findChildren(QScrollArea) if a.isAncestorOf(row))
    window.frame.resize(1280, 640)
    settle(qtbot, window)

    def is_the_last_line_that_can_be_seen():
        lower = row.mapTo(area.widget(), row.rect().bottomLeft()).y()
        area.verticalScrollBar().setValue(lower - area.viewport().height())
        return area.verticalScrollBar().value() == lower - area.viewport().height() > 0

    qtbot.waitUntil(is_the_last_line_that_can_be_seen, timeout=WAIT)
    click(row.shown)

    def is_in_sight():
        lower = row.mapTo(area.viewport(), row.rect().bottomLeft()).y()
        return 0 < lower <= area.viewport().height()

    qtbot.waitUntil(lambda: row.editing and row.height() > 6 * GRID, timeout=WAIT)
    qtbot.waitUntil(is_in_sight, timeout=WAIT)
    click(row.chips.chips["0"])
    qtbot.waitUntil(lambda: row._fault.isVisible() and "sets a passphrase first" in row._fault.text(), timeout=WAIT)
    qtbot.waitUntil(is_in_sight, timeout=WAIT)
