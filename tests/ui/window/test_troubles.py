"""What can go wrong around the window: a sentence that says what to do, no traceback, nothing lost."""

import os
import pty
import shutil
import sqlite3
import subprocess
import sys
import tty

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QPushButton, QScrollArea, QWidget

from reckoner.meters.protocol import with_checksum
from reckoner.meters.standin import StandIn, StandInPlan
from reckoner.shop.runs import opening, setting_up
from reckoner.shop.runs.records import Step
from reckoner.store.database import FILE
from reckoner.store.errors import DirectoryNotWritable, DiskFull
from reckoner.store.schema import Reference
from reckoner.ui.frame import LEAST, Frame
from reckoner.ui.work import APOLOGY, AskedFromElsewhere
from tests.support.hands import WAIT, click, focused, go, settle
from tests.support.runs import prepared


@pytest.mark.parametrize(
    ("damage", "words"),
    [
        (lambda f: (f / FILE).write_bytes((f / FILE).read_bytes()[:50_000]), "reckoner restore FILE"),
        (lambda f: _set_version(f, "9999"), "written by a newer Reckoner"),
        (lambda f: _in_the_way(f), "Choose another folder with --data"),
    ],
)
def test_a_database_that_cannot_be_opened_is_said_in_the_window(open_window, demo_folder, damage, words):
    damage(demo_folder)
    window = open_window(demo_folder)
    assert words in window.refusal
    assert not window.rail.isEnabled()


def test_where_there_was_no_room_enter_tries_again_once_there_is(qtbot, open_window, demo_folder, monkeypatch):
    def full(_folder):
        raise DiskFull(demo_folder / FILE)

    with monkeypatch.context() as patched:
        patched.setattr("reckoner.store.sqlitefile.require_writable", full)
        window = open_window(demo_folder)
        assert "no room left on the disk" in window.refusal
        assert [b.text() for b in offered(window)] == ["Try again"]  # no backup: nothing is damaged
    QTest.keyClick(focused(window), Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: window.around.person is not None, timeout=WAIT)
    assert window.refusal == ""


def test_where_nothing_can_be_written_looking_on_is_offered(qtbot, open_window, demo_folder, monkeypatch):
    def closed(folder):
        raise DirectoryNotWritable(folder, "Read-only file system")

    monkeypatch.setattr("reckoner.store.sqlitefile.require_writable", closed)
    window = open_window(demo_folder)
    assert [b.text() for b in offered(window)] == ["Look on without changing anything", "Try again"]
    click(offered(window)[0])
    qtbot.waitUntil(lambda: window.around.person is not None, timeout=WAIT)
    assert window.around.work.looking_on


def offered(window):
    return [b for b in window._stack.currentWidget().findChildren(QPushButton) if b.isVisible()]


def _set_version(folder, version):
    with sqlite3.connect(folder / FILE) as connection:
        connection.execute("UPDATE alembic_version SET version_num = ?", (version,))
    connection.close()


def _in_the_way(folder):
    shutil.rmtree(folder)
    folder.write_text("a file where the folder should be")


@pytest.fixture
def bench_linked_to(qtbot, open_window, demo_folder, demo, act):
    """A bench in the middle of a series whose reference is linked to ``url``."""

    def make(url, serial=""):
        with demo.session() as session:
            meter = session.query(Reference).filter_by(number="PM-5").one()
            meter.link, meter.serial = url, serial or meter.serial
            run = prepared(session, 34, act)
        window = open_window(demo_folder)
        go(window, "bench", tool=run.tool.id)
        qtbot.waitUntil(lambda: getattr(window.current, "run", None) is not None, timeout=WAIT)
        assert window.current.run.step is Step.AS_FOUND
        return window, window.current

    return make


def test_a_meter_that_is_not_there_is_said_and_readings_can_be_typed(qtbot, bench_linked_to):
    window, bench = bench_linked_to("socket://127.0.0.1:1")
    qtbot.waitUntil(lambda: "No meter answers" in bench.left.meter_words.text(), timeout=WAIT)
    assert bench.left.connect_button.isVisible()
    qtbot.keyClicks(bench.panels.pulls.typed.line, "40.2")
    bench.primary()
    settle(qtbot, window)
    assert [r.torque for r in bench.run.series[0].counted] == [40.2]


@pytest.mark.parametrize(("serial", "words"), [("", "Linked again"), ("ANOTHER", "This is another meter")])
def test_a_meter_that_stops_and_comes_back_is_said_and_a_wrong_one_stays_wrong(qtbot, bench_linked_to, serial, words):
    stand_in = StandIn(StandInPlan(serial=serial or "PM5-0731", speed=20))
    _, bench = bench_linked_to(stand_in.url, "" if serial else "PM5-0731")
    qtbot.waitUntil(lambda: bench.meter.identity is not None, timeout=WAIT)
    stand_in.mute.set()
    qtbot.waitUntil(lambda: "has stopped sending" in bench.left.meter_words.text(), timeout=WAIT)
    stand_in.mute.clear()
    qtbot.waitUntil(lambda: words in bench.left.meter_words.text(), timeout=WAIT)
    stand_in.close()
    qtbot.waitUntil(lambda: "broke off" in bench.left.meter_words.text(), timeout=WAIT)


def test_garbage_from_a_meter_is_said_and_takes_no_reading(qtbot, bench_linked_to):
    master, slave = pty.openpty()
    tty.setraw(master)
    _, bench = bench_linked_to(os.ttyname(slave))
    os.write(master, b"meter 1 number=X serial=1 unit=N.m rate=1000\n" + b"12.5 kg stable\n" * 30)
    qtbot.waitUntil(lambda: "not in the protocol" in bench.left.meter_words.text(), timeout=WAIT)
    assert bench.run.series[0].observations == ()
    os.close(master)


def test_another_meter_that_answers_at_the_same_port_in_mid_run_gives_no_reading(qtbot, bench_linked_to):
    master, slave = pty.openpty()
    tty.setraw(master)
    window, bench = bench_linked_to(os.ttyname(slave), "PM5-0731")
    os.write(master, b"meter 1 number=PM-5 serial=PM5-0731 unit=N.m rate=0\nv 40.111\n")
    qtbot.waitUntil(lambda: len(bench.run.series[0].counted) == 1, timeout=WAIT)
    os.write(master, b"meter 1 number=PM-5 serial=PM5-0999 unit=N.m rate=0\nv 40.222\n")
    qtbot.waitUntil(lambda: "This is another meter" in bench.left.meter_words.text(), timeout=WAIT)
    os.write(master, b"v 40.333\n")
    settle(qtbot, window)
    assert len(bench.run.series[0].counted) == 1
    os.close(master)


@pytest.mark.parametrize(
    ("lines", "words"),
    [
        (b"meter 1 number=X serial= unit=N.m rate=0\n", "does not say its serial"),
        (b"meter 1 number=X serial=OTHER unit=N.m rate=0\n", "This is another meter"),
    ],
)
def test_nothing_is_taken_of_a_meter_before_and_unless_it_says_who_it_is(qtbot, bench_linked_to, lines, words):
    master, slave = pty.openpty()
    tty.setraw(master)
    _, bench = bench_linked_to(os.ttyname(slave), "PM5-0731")
    os.write(master, b"v 40.111\n" + lines + b"v 40.222\n")
    qtbot.waitUntil(lambda: words in bench.left.meter_words.text(), timeout=WAIT)
    os.write(master, b"v 40.333\n")
    qtbot.wait(200)
    assert bench.run.series[0].observations == ()
    os.close(master)


def test_a_link_says_that_its_lines_are_checked_and_when_they_no_longer_are(qtbot, bench_linked_to):
    master, slave = pty.openpty()
    tty.setraw(master)
    _, bench = bench_linked_to(os.ttyname(slave), "C-1")
    says = "meter 1 number=X serial=C-1 unit=N.m rate=0"
    for lines, words in (
        ([with_checksum(f"{says} check=crc16")], "lines checked"),
        ([with_checksum("v 40.2").replace("4", "", 1)], "arrived damaged"),
        ([says], "no longer checks its lines"),
    ):
        os.write(master, "".join(f"{line}\n" for line in lines).encode())
        qtbot.waitUntil(lambda words=words: words in bench.left.meter_words.text(), timeout=WAIT)
    assert bench.run.series[0].observations == ()
    os.close(master)


def test_a_flood_of_values_is_named_and_most_of_it_left_out(qtbot, bench_linked_to):
    master, slave = pty.openpty()
    tty.setraw(master)
    window, bench = bench_linked_to(os.ttyname(slave), "F-1")
    os.write(master, b"meter 1 number=X serial=F-1 unit=N.m rate=0\n")
    qtbot.waitUntil(lambda: bench.meter.linked, timeout=WAIT)
    for _ in range(20):
        os.write(master, b"v 400\n" * 500)  # of no target: what is kept of it is asked about
    qtbot.waitUntil(lambda: "faster than a hand can pull" in bench.left.meter_words.text(), timeout=WAIT)
    settle(qtbot, window)
    assert len(bench.run.series[0].observations) <= bench.run.series[0].wanted
    assert bench.asking.asks
    os.close(master)


def test_a_wrong_value_is_kept_and_asked_about(qtbot, bench_linked_to):
    window, bench = bench_linked_to("")
    qtbot.keyClicks(bench.panels.pulls.typed.line, "4,02")
    bench.primary()
    settle(qtbot, window)
    qtbot.waitUntil(lambda: bench.asking.asks, timeout=WAIT)
    click(next(b for b in bench.asking.buttons if b.text() == "Type it again"))
    qtbot.waitUntil(lambda: not bench.asking.asks, timeout=WAIT)
    assert [o.struck for o in bench.run.series[0].observations] == ["typed wrongly"]


def test_a_fault_of_ours_is_apologised_for_and_the_window_lives_on(qtbot, open_window, demo_folder, caplog):
    window = open_window(demo_folder)
    window.around.work.ask(lambda session: 1 / 0, lambda result: None)
    qtbot.waitUntil(lambda: window.foot.words == APOLOGY, timeout=WAIT)
    assert "ZeroDivisionError" in caplog.text
    go(window, "tools")
    settle(qtbot, window)
    assert window.current.list.tools.rowCount() == 46


def test_the_door_is_used_from_the_interface_thread_only(open_window, demo_folder):
    import threading

    window = open_window(demo_folder)
    caught = []

    def elsewhere():
        try:
            window.around.work.ask(lambda session: None, lambda result: None)
        except AskedFromElsewhere as fault:
            caught.append(str(fault))

    thread = threading.Thread(target=elsewhere)
    thread.start()
    thread.join()
    assert caught == ["background work was asked for from another thread than the interface's"]


def test_the_command_refuses_in_one_line(tmp_path):
    bad = tmp_path / "bad.toml"
    bad.write_text("[[tools]]\nnumber = 5")
    for arguments, words in (
        (["import", str(bad), "--data", str(tmp_path)], "tools[0].number"),
        (["--today", "yesterday"], "write it as 2026-11-24"),
        (["import", str(tmp_path / "none.toml")], "does not exist"),
    ):
        found = subprocess.run([sys.executable, "-m", "reckoner", *arguments], capture_output=True, text=True)
        assert found.returncode == 2
        assert words in found.stderr
        assert "Traceback" not in found.stderr
        assert found.stdout == ""


def test_a_room_that_is_not_fit_asks_for_the_reason_in_place(qtbot, open_window, demo_folder, demo, act):
    with demo.session() as session:
        run = opening.open_run(session, 34, act)
        for line in run.inspection:
            setting_up.look_over(session, run.id, line.line, True, "", act)
    window = open_window(demo_folder)
    go(window, "bench", tool=34)
    qtbot.waitUntil(lambda: getattr(window.current, "run", None) is not None, timeout=WAIT)
    panel = window.current.panels.set_up
    qtbot.waitUntil(lambda: window.current.button.text().startswith("Use PM-"), timeout=WAIT)
    window.current.primary()
    qtbot.waitUntil(lambda: window.current.run.set_up is not None, timeout=WAIT)
    panel.room.temperature.line.setText("35")
    panel.room.humidity.line.setText("46")
    window.current.primary()
    settle(qtbot, window)
    assert "Wait until the room is fit" in panel.room.reason.hint.text()
    panel.room.reason.line.setText("field test, agreed")
    window.current.primary()
    settle(qtbot, window)
    assert window.current.run.room.note == "field test, agreed"


def test_on_a_screen_that_is_too_small_a_part_is_shown_and_the_rest_is_scrolled_to(qtbot):
    small, usual, content = Frame((780, 560)), Frame((1280, 800)), QWidget()
    for frame in (small, usual):
        qtbot.addWidget(frame)
    small.setMinimumSize(780, 560)  # as the screen leaves it
    small.hold(content)
    small.resize(780, 560)
    small.show()
    scroll = small.centralWidget()
    assert isinstance(scroll, QScrollArea)
    assert (content.width(), content.height()) == LEAST
    qtbot.waitUntil(lambda: scroll.horizontalScrollBar().maximum() > 200, timeout=WAIT)
    usual.hold(other := QWidget())
    assert usual.centralWidget() is other
