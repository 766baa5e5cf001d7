"""The door to background work: each thing asked for ends in one way, and whoever asked is told which."""

import sqlite3
import threading
from contextlib import closing

import pytest
from sqlalchemy import func, select

from reckoner.shop.changes import Change, ChangeKind
from reckoner.shop.events.recording import record_event
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.planning.agenda import DayList
from reckoner.store.schema import Shop, Tool, ToolEvent
from reckoner.store.terms import EventKind
from reckoner.ui.work import APOLOGY
from tests.support.hands import WAIT, settle, waiting
from tests.support.runs import tool_id


def refuse(_session=None):
    raise ShopRefused("not today")


@pytest.mark.parametrize(
    ("run", "told"),
    [
        (lambda session: 7, ["ended", ("done", 7)]),
        (refuse, ["ended", ("refused", "not today")]),
        (lambda session: 1 / 0, ["ended", "failed"]),
    ],
)
def test_each_job_ends_in_one_way_and_the_asker_is_told(qtbot, open_window, demo_folder, caplog, run, told):
    window, said = open_window(demo_folder), []
    window.around.work.ask(
        run,
        lambda result: said.append(("done", result)),
        lambda refusal: said.append(("refused", str(refusal))),
        lambda: said.append("failed"),
        ended=lambda: said.append("ended"),
    )
    settle(qtbot, window)
    assert said == told
    assert window.foot.words == ""
    caplog.clear()


def test_what_nobody_else_says_is_said_at_the_foot(qtbot, open_window, demo_folder, caplog):
    window = open_window(demo_folder)
    window.around.work.ask(refuse, lambda _result: None)
    qtbot.waitUntil(lambda: window.foot.words == "not today", timeout=WAIT)
    window.around.work.ask(lambda session: 1 / 0, lambda _result: None)
    qtbot.waitUntil(lambda: window.foot.words == APOLOGY, timeout=WAIT)
    caplog.clear()


def test_a_change_says_after_its_commit_what_it_touched_and_a_refused_one_says_nothing(
    qtbot, open_window, demo_folder, demo, act
):
    window, wanted, made = open_window(demo_folder), tool_id(demo, "HC-0417"), []
    window.around.work.changed.connect(made.append)

    def fell(session):
        record_event(session, wanted, EventKind.FELL, "off the bench", act)

    def fell_and_refused(session):
        fell(session)
        refuse(session)

    window.around.work.ask(fell_and_refused, lambda _r: None, lambda _r: None)
    window.around.work.ask(lambda session: session.connection(), lambda _r: None)
    window.around.work.ask(fell, lambda _r: None)
    settle(qtbot, window)
    assert made == [(Change(ChangeKind.STANDINGS, frozenset({wanted}), act.person_id),)]
    qtbot.waitUntil(
        lambda: any(
            i.card.tool.id == wanted and i.why == "off the bench" for i in waiting(window.current, DayList.HELD)
        ),
        timeout=WAIT,
    )


def test_what_was_asked_of_the_database_before_is_told_to_nobody_once_another_is_opened(
    qtbot, open_window, demo_folder
):
    window, said = open_window(demo_folder), []
    work = window.around.work
    work.look(lambda _reader: 7, said.append, ended=lambda: said.append("ended"))
    work.ask(refuse, said.append, said.append)
    work.reopen(lambda: None)
    work.look(lambda _reader: 8, said.append)
    settle(qtbot, window)
    assert said == ["ended", 8]
    assert window.foot.words == "not today"  # what could not be kept is told, whoever had asked for it


def test_what_only_reads_waits_for_nobody_who_writes_and_writes_nothing(qtbot, open_window, demo_folder, caplog):
    window, said = open_window(demo_folder), []
    work = window.around.work
    with closing(sqlite3.connect(demo_folder / "reckoner.sqlite", isolation_level=None)) as other:
        other.execute("BEGIN IMMEDIATE")  # another program writes, and takes its time
        work.browse(lambda session: session.scalar(select(func.count()).select_from(Tool)), said.append)
        qtbot.waitUntil(lambda: bool(said), timeout=WAIT)
        assert said[0] > 30
        other.execute("ROLLBACK")
    work.browse(lambda session: session.add(Shop(name="written by what reads")) or session.flush(), said.append)
    qtbot.waitUntil(lambda: window.foot.words == APOLOGY, timeout=WAIT)
    assert "by what only reads" in caplog.text
    caplog.clear()


def test_what_needs_no_database_goes_on_beside_it(qtbot, open_window, demo_folder):
    window, said, held = open_window(demo_folder), [], threading.Event()
    work = window.around.work
    work.ask(lambda _session: held.wait(WAIT / 1000), lambda _none: said.append("written"))
    work.compute(lambda: 7, said.append)
    qtbot.waitUntil(lambda: said == [7], timeout=WAIT)
    held.set()
    work.prepare(lambda _session: refuse, said.append, lambda refusal: said.append(str(refusal)))
    work.prepare(
        refuse, said.append, lambda refusal: said.append(f"{refusal}, then"), ended=lambda: said.append("ended")
    )
    work.prepare(lambda _session: lambda: 8, said.append, ended=lambda: said.append("ended"))
    settle(qtbot, window)
    assert said[:2] == [7, "written"]
    assert {"not today, then", 8} <= set(said)
    assert said.count("ended") == 2


def test_what_is_gathered_for_long_holds_up_nobody_and_sees_what_was_kept_before(
    qtbot, open_window, demo_folder, demo, act
):
    window, said, held = open_window(demo_folder), [], threading.Event()
    work, wanted = window.around.work, tool_id(demo, "HC-0417")

    def count(session):
        return session.scalar(select(func.count()).select_from(ToolEvent))

    def gather(word, waits):
        def gathered(session):
            held.wait(waits)
            found = count(session)
            return lambda: (word, found)

        return gathered

    work.prepare(gather("gathered", WAIT / 1000), said.append)
    work.look(lambda reader: reader.value("SELECT 7"), said.append)
    work.ask(lambda session: record_event(session, wanted, EventKind.FELL, "", act) and None, said.append)
    work.browse(count, said.append)
    qtbot.waitUntil(lambda: len(said) == 3, timeout=WAIT)
    assert said[:2] == [7, None]
    work.prepare(gather("then", 0), said.append)
    held.set()
    settle(qtbot, window)
    assert [word for word, _found in said[3:]] == ["gathered", "then"]
    assert said[4] == ("then", said[2])


def test_what_was_asked_to_be_made_is_made_though_the_window_is_closed(qtbot, open_window, demo_folder):
    window, made = open_window(demo_folder), []
    work = window.around.work

    def paper():
        while work.is_open:  # it takes until the window is being closed, and longer
            pass
        made.append(not threading.Event().wait(1.5))

    work.prepare(lambda _session: paper, lambda _none: None)
    window.frame.close()
    assert made == [True]
