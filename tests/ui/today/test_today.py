"""Today's lists: a sound model, keys that move among the tags, and what is known of the file."""

from datetime import timedelta

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QPushButton

from reckoner.shop.events.recording import record_event
from reckoner.shop.planning.agenda import DayList, agenda
from reckoner.store.terms import EventKind
from reckoner.ui.places import PlaceId
from reckoner.ui.today.lists import LINE_HEIGHT, TITLE_HEIGHT, DayLists, DayModel, TitleRole
from tests.support.hands import WAIT, click, click_tag, go, press, settle, waiting
from tests.support.runs import TODAY


def test_the_day_is_a_sound_model(qtmodeltester, demo):
    model = DayModel()
    with demo.reading() as reader:
        found = agenda(reader, TODAY)
    for columns in (1, 3, 4):
        model.show(found, columns, TODAY)
        qtmodeltester.check(model)
        titles = [model.data(model.index(row, 0), TitleRole)[:2] for row in model.titles]
        assert titles == [
            ("Overdue", 4), ("Due within 30 days", 4), ("Held", 2), ("Lent out past their date", 1),
            ("Late from a laboratory", 1), ("To be reviewed", 1),
        ]  # fmt: skip


def test_arrow_keys_go_from_tag_to_tag_and_enter_opens_one(qtbot, open_window, demo_folder):
    window = open_window(demo_folder)
    lists = window.current.lists
    lists.setFocus(Qt.FocusReason.TabFocusReason)
    numbers = []
    for key in (
        None,
        Qt.Key.Key_Right,
        Qt.Key.Key_Down,
        Qt.Key.Key_Down,
        Qt.Key.Key_Down,
        Qt.Key.Key_Down,
        Qt.Key.Key_Left,
    ):
        if key is not None:
            press(window, key)
        numbers.append(lists.current.card.tool.number)
    assert numbers == ["HC-0319", "HC-0391", "HC-0417", "HC-0430", "HC-0319", "HC-0441", "HC-0319"]
    press(window, Qt.Key.Key_Left)
    press(window, Qt.Key.Key_Return)
    settle(qtbot, window)
    assert window.current is window.place(PlaceId.TOOLS)
    qtbot.waitUntil(lambda: window.current.sheet.number.text() == "HC-0430", timeout=WAIT)


def test_a_tag_is_opened_by_a_click_and_a_title_is_not(qtbot, open_window, demo_folder):
    window = open_window(demo_folder)
    today = window.current
    held = [i.card.tool.number for i in waiting(today, DayList.HELD) if i.waiting is DayList.HELD]
    assert held == ["HC-0404", "HC-0430"]
    title = today.lists.day.index(0, 0)
    qtbot.mouseClick(today.lists.viewport(), Qt.MouseButton.LeftButton, pos=today.lists.visualRect(title).center())
    settle(qtbot, window)
    assert window.current is today
    click_tag(today, "HC-0404")
    qtbot.waitUntil(lambda: window.current is window.place(PlaceId.TOOLS), timeout=WAIT)


def test_that_the_file_was_read_through_is_said(qtbot, open_window, demo_folder):
    window = open_window(demo_folder)
    qtbot.waitUntil(lambda: "the database is whole." in window.current.link.text(), timeout=WAIT)
    assert "Newest link in the chain of records: 3" in window.current.link.text()


def test_today_asks_nothing_while_another_place_is_in_front(qtbot, open_window, demo_folder, act, monkeypatch):
    window = open_window(demo_folder)
    today, asked = window.current, []
    monkeypatch.setattr(today, "_refresh", lambda: asked.append(1))
    go(window, "tools")
    settle(qtbot, window)
    window.around.work.ask(
        lambda session: record_event(session, 3, EventKind.FELL, "off", act) and None, lambda _r: None
    )
    settle(qtbot, window)
    assert asked == []
    go(window, "today")
    assert asked == [1]


def test_titles_and_tags_have_their_heights_however_the_lists_change(qtbot, theme, demo):
    lists = DayLists(theme)
    qtbot.addWidget(lists)
    with demo.reading() as reader:
        found = agenda(reader, TODAY)
    for columns in (4, 1, 3, 2, 4):
        lists.columns = columns
        lists.show_day(found, TODAY)
        heights = [lists.rowHeight(row) for row in range(lists.day.rowCount())]
        assert [row for row, height in enumerate(heights) if height == TITLE_HEIGHT] == list(lists.day.titles)
        assert set(heights) == {TITLE_HEIGHT, LINE_HEIGHT}


def test_very_many_overdue_tools_are_a_plan_at_the_pace_that_is_chosen(qtbot, open_window, demo_folder, monkeypatch):
    window = open_window(demo_folder)
    today = window.current
    assert "catching up" not in today.pages.chips
    later = TODAY + timedelta(days=800)
    monkeypatch.setattr(type(window.around), "today", property(lambda _around: later))
    today.refresh()
    settle(qtbot, window)
    title = today.lists.day.data(today.lists.day.index(0, 0), TitleRole)
    assert title == ("Overdue", 43, "the first 8, as planned; all of them under “Catching up”")
    click(today.pages.chips["catching up"])
    settle(qtbot, window)
    page = today.catching_up
    assert page.sentence.text() == "43 tools are overdue. At 8 a day they are done on Thursday 8 February 2029."
    click(page.a_day.chips["16"])
    settle(qtbot, window)
    assert "At 16 a day they are done on Monday 5 February 2029." in page.sentence.text()
    number = page.plan.days[0].tools[0].number
    click(next(b for b in page.findChildren(QPushButton) if b.text() == number))
    qtbot.waitUntil(lambda: window.current is window.place("tools"), timeout=WAIT)
    settle(qtbot, window)
    assert window.current.sheet.number.text() == number
