"""The newest link is written outside after what signs, and everything there is held against the chain."""

import io
import sqlite3

from pypdf import PdfReader
from PyQt6.QtGui import QGuiApplication

from reckoner.cli.main import make_command
from reckoner.shop.records.outside import LINK, held_against
from reckoner.shop.runs import signing
from reckoner.store import chain
from reckoner.store.backup import back_up, restore
from reckoner.store.database import FILE
from reckoner.ui.places import PlaceId
from reckoner.ui.work import call
from tests.support.hands import WAIT, click, go, settle
from tests.support.runs import later, outside, tool_id


def test_a_signature_is_followed_by_its_link_outside_and_by_no_other(
    qtbot, open_window, demo_folder, demo, act, tmp_path
):
    window = open_window(demo_folder)
    go(window, "records")
    shelf = window.place(PlaceId.RECORDS).backups
    file = tmp_path / "links.txt"
    shelf.write_link_to(file)
    qtbot.waitUntil(lambda: file.exists() and len(LINK.findall(file.read_text())) == 1, timeout=WAIT)
    with demo.session() as session:
        run = outside(session, tool_id(demo, "HC-0417"), act)
    demo.close()
    window.around.work.ask(call(signing.sign, run.id, later(act, 2)), lambda _run: None)
    qtbot.waitUntil(lambda: len(LINK.findall(file.read_text())) == 2, timeout=WAIT)
    settle(qtbot, window)
    shelf.write_link_to(file)  # it is there already
    click(shelf.copy_button)
    qtbot.waitUntil(lambda: "Copied" in window.foot.words, timeout=WAIT)
    assert LINK.findall(file.read_text())[1] in QGuiApplication.clipboard().text()
    assert len(file.read_text().splitlines()) == 2
    assert str(file) in shelf.outside_words.text()


def test_the_newest_link_is_printed_as_a_strip(qtbot, open_window, demo_folder, demo, monkeypatch):
    printed = []
    monkeypatch.setattr("reckoner.ui.records.backups.print_bytes", lambda _theme, data: printed.append(data) or True)
    window = open_window(demo_folder)
    go(window, "records")
    click(window.place(PlaceId.RECORDS).backups.strip_button)
    qtbot.waitUntil(lambda: "On its way to the printer" in window.foot.words, timeout=WAIT)
    strip = PdfReader(io.BytesIO(printed[0])).pages[0]
    with demo.session() as session:
        newest = chain.newest(session.connection()).words
    told = strip.extract_text()
    assert [round(float(side) / 72 * 25.4) for side in strip.mediabox[2:]] == [90, 24]
    assert newest in told
    assert "newest link of the records, 24 Nov 2026" in told


def test_a_place_that_cannot_be_written_is_said(qtbot, open_window, demo_folder, tmp_path):
    window = open_window(demo_folder)
    go(window, "records")
    window.place(PlaceId.RECORDS).backups.write_link_to(tmp_path / "gone" / "links.txt")
    qtbot.waitUntil(lambda: "links.txt could not be written" in window.foot.words, timeout=WAIT)


def test_what_is_outside_shows_what_was_put_back_or_cut_off(demo, demo_folder, act, tmp_path):
    place = tmp_path / "outside"
    place.mkdir()
    back_up(demo_folder, tmp_path / "monday.sqlite")
    with demo.session() as session:
        run = outside(session, tool_id(demo, "HC-0417"), act)
        signing.sign(session, run.id, later(act, 2))
    with demo.session() as session:
        from reckoner.shop.records.outside import link_line

        link_line(session, act.at, place / "links.txt")()
    back_up(demo_folder, place / "tuesday.sqlite")
    with demo.session() as session:
        assert list(held_against(session, place)) == []
    demo.close()
    restore(tmp_path / "monday.sqlite", demo_folder, act.at)
    told = run_verify(demo_folder, place)
    assert told.exit_code == 1
    assert "links.txt: There is no link" in told.output
    assert "tuesday.sqlite: it also has 1 run" in told.output
    with sqlite3.connect(place / "tuesday.sqlite") as connection:
        connection.execute("DROP TRIGGER guard_chain_link_update")
        connection.execute("UPDATE chain_link SET digest = 'f' || substr(digest, 2) WHERE place = 1")
    connection.close()
    assert "no backup of this database" in run_verify(demo_folder, place).output
    (tmp_path / "empty").mkdir()
    assert "no link and no backup" in str(run_verify(demo_folder, tmp_path / "empty").exception)


def run_verify(folder, place):
    from click.testing import CliRunner

    assert (folder / FILE).exists()
    return CliRunner().invoke(make_command(lambda _o: 0), ["verify", "--data", str(folder), "--against", str(place)])
