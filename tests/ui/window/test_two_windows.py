"""Two windows on one folder: one holds it, the other says who does and may look on."""

import sqlite3
from contextlib import closing

from PyQt6.QtWidgets import QPushButton

from reckoner.__main__ import opening_of
from reckoner.cli.options import WindowOptions
from reckoner.shop.people.authorship import Act
from reckoner.shop.planning.agenda import DayList
from reckoner.shop.register import registerfile as register
from reckoner.shop.register.cards import cards
from reckoner.shop.register.intake import take_in
from reckoner.shop.runs import opening
from reckoner.store.database import FILE, Database
from reckoner.store.reader import reader_of
from reckoner.ui.app import make_window
from reckoner.ui.places import PlaceId
from tests.support.clock import NOW
from tests.support.hands import WAIT, click, go, settle, waiting
from tests.support.runs import REGISTER, prepared, tool_id


def test_a_second_window_says_who_holds_the_folder_and_looks_on(
    qtbot, open_window, demo_folder, demo, theme, tmp_path, act
):
    first = open_window(demo_folder)
    options = WindowOptions(demo_folder, True, None, False, tmp_path / "other.json")
    second = make_window(opening_of(options, lambda reference, link: ""), theme)
    second.frame.show()
    second.around.work.start()
    qtbot.waitUntil(lambda: second.refusal != "", timeout=WAIT)
    assert "Another window has" in second.refusal
    click(next(b for b in second.findChildren(QPushButton) if b.text().startswith("Look on")))
    qtbot.waitUntil(lambda: second.around.person is not None and second.current.seen, timeout=WAIT)
    settle(qtbot, second)
    assert "looking on" in second.frame.windowTitle()
    second.around.person = first.around.person
    go(second, "bench", tool=tool_id(demo, "HC-0417"))
    bench = second.place(PlaceId.BENCH)
    qtbot.waitUntil(lambda: bench.button.text() == "Put it on the bench", timeout=WAIT)
    bench.primary()
    qtbot.waitUntil(lambda: "only looks on" in bench.right.fault.text(), timeout=WAIT)
    go(second, "records")
    records = second.place(PlaceId.RECORDS)
    qtbot.waitUntil(lambda: records.results.paper.pages > 0, timeout=WAIT)  # what is only looked at can be printed
    go(second, "desk", number="HC-0418")
    desk = second.place(PlaceId.DESK)
    qtbot.waitUntil(lambda: bool(desk.lending.form.basket.tools), timeout=WAIT)
    desk.lending.form.to.line.setText("crew")
    desk.primary()
    qtbot.waitUntil(lambda: "only looks on" in desk.lending.refused.text(), timeout=WAIT)
    go(second, "setting", work=1)
    job = second.place(PlaceId.SETTING).work
    qtbot.waitUntil(lambda: job.state is not None and second.idle, timeout=WAIT)
    job.primary()
    qtbot.waitUntil(lambda: "only looks on" in job.fault.text(), timeout=WAIT)
    go(second, "today")
    settle(qtbot, second)
    first.around.work.ask(lambda session: prepared(session, tool_id(demo, "HC-0417"), act), lambda _run: None)
    settle(qtbot, first)
    today = second.current
    qtbot.waitUntil(
        lambda: any(i.card.tool.number == "HC-0417" for i in waiting(today, DayList.UNFINISHED)), timeout=WAIT
    )
    second.frame.close()
    second.frame.deleteLater()


def test_what_another_program_imports_is_on_the_screen_at_once(qtbot, open_window, demo_folder):
    window = open_window(demo_folder)
    go(window, "tools")
    settle(qtbot, window)
    other = Database(demo_folder)
    with other.session() as session:
        take_in(session, register.parse(REGISTER), NOW, Act(1, NOW))
    other.close()
    tools = window.current
    qtbot.waitUntil(lambda: tools.list.tools.rowCount() == 47, timeout=WAIT)
    go(window, "today")
    qtbot.waitUntil(
        lambda: any(i.card.tool.number == "W-1" for i in waiting(window.current, DayList.OVERDUE)), timeout=WAIT
    )


def test_a_database_that_goes_away_is_said_without_a_change_being_asked_for(qtbot, open_window, demo_folder):
    window = open_window(demo_folder)
    (demo_folder / FILE).unlink()
    qtbot.waitUntil(lambda: "was moved, deleted or replaced" in window.foot.words, timeout=WAIT)


def test_two_programs_that_open_a_run_of_one_tool_get_one_run(demo_folder, demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        run = opening.open_run(session, wanted, act)
    other = type(demo)(demo_folder)
    with other.session() as session:
        assert opening.open_run(session, wanted, act).id == run.id
        assert sum(c.run_id is not None for c in cards(reader_of(session))) == 1
    other.close()


def test_damage_that_opening_does_not_meet_is_said_once_the_window_shows(qtbot, open_window, demo_folder):
    path = demo_folder / FILE
    with closing(sqlite3.connect(path)) as reading:
        page = "SELECT rootpage FROM sqlite_schema WHERE name = 'ix_point_result_state'"  # which nothing at the start reads
        ((number,),) = reading.execute(page)
    data = bytearray(path.read_bytes())
    data[(number - 1) * 4096 : number * 4096] = bytes(4096)
    path.write_bytes(data)
    window = open_window(demo_folder)
    qtbot.waitUntil(lambda: "is damaged" in window.foot.words, timeout=WAIT)
    assert "reckoner restore FILE" in window.foot.words
