"""The Records place: results found, looked at, saved one and many; what was done; backups."""

import csv
import json
import sqlite3
from contextlib import closing
from functools import partial

import pytest
from pypdf import PdfReader
from PyQt6.QtCore import QItemSelectionModel, Qt
from PyQt6.QtPrintSupport import QPrinter
from PyQt6.QtWidgets import QPushButton
from sqlalchemy import select

from reckoner.formats import resultfile
from reckoner.shop.papers.resultfiles import recomputed
from reckoner.shop.records.documents import certificate_bytes, result_bytes
from reckoner.shop.records.losses import losing, missing
from reckoner.shop.records.results import PAGE, results
from reckoner.shop.records.trail import trail, whole_trail
from reckoner.shop.runs import signing
from reckoner.shop.runs.sides import SidesPlan
from reckoner.store.backup import KEPT_DAYS, BackupRefused, back_up, back_up_today, backups_in, restore
from reckoner.store.reader import reader_of
from reckoner.store.schema import Tool
from reckoner.store.terms import Contrast, RunKind
from reckoner.ui import daily
from reckoner.ui.places import PlaceId
from reckoner.ui.widgets.papersize import paper_mm
from tests.shop.runs.test_sides import taking_all
from tests.support.hands import WAIT, click, go, press, settle
from tests.support.runs import TODAY, closed, later, outside, ready, tool_id

CTRL = Qt.KeyboardModifier.ControlModifier


@pytest.fixture
def records(qtbot, open_window, demo_folder):
    window = open_window(demo_folder)
    go(window, "records")
    place = window.place(PlaceId.RECORDS)
    qtbot.waitUntil(lambda: place.results.paper.pages > 0, timeout=WAIT)
    settle(qtbot, window)
    return window, place


def saved_rows(path):
    with path.open(encoding="utf-8-sig", newline="") as file:
        return list(csv.DictReader(file, delimiter=";"))


def choose(shelf, count):
    model, selection = shelf.list.lines, shelf.list.selectionModel()
    for row in range(count):
        selection.select(model.index(row), QItemSelectionModel.SelectionFlag.Select)


def test_results_are_found_by_their_words_newest_first_and_a_page_at_a_time(demo):
    with demo.session() as session:
        reader = reader_of(session)
        every = results(reader, count=10_000)
        assert [r.on for r in every] == sorted((r.on for r in every), reverse=True)
        assert results(reader) == every[:PAGE]
        assert results(reader, before=every[PAGE - 1].place) == every[PAGE : 2 * PAGE]
        assert {r.tool for r in results(reader, "hc-0417")} == {"HC-0417"}
        one = every[7]
        assert results(reader, one.number) == (one,)
        assert {r.on.year for r in results(reader, "0417 2025-12")} == {2025}
        assert results(reader, "nothing like it") == ()
        day, serials = f"{one.on:%Y-%m-%d}", {t.number: t.serial for t in session.scalars(select(Tool))}
        for part in (day, day[:7], day[5:], day[8:]):  # a whole day, its beginning, or a part of it
            assert {r.run_id for r in results(reader, f"{one.tool} {part}", count=10_000)} == {
                r.run_id
                for r in every
                if r.tool == one.tool and part in f"{r.tool} {serials[r.tool]} {r.by} {r.on:%Y-%m-%d} {r.number}"
            }
        assert {r.by for r in results(reader, one.by.split()[0].lower())} >= {one.by}
        assert {r.tool for r in results(reader, tool_id=tool_id(demo, "HC-0418"))} == {"HC-0418"}


def test_the_chosen_one_is_shown_as_it_prints_and_saved_with_its_result_file(qtbot, records, tmp_path):
    window, place = records
    shelf = place.results
    line = shelf.list.chosen[0]
    shelf.save_into((line,), lambda _line: tmp_path / "one.pdf", partial(certificate_bytes, size=paper_mm()))
    qtbot.waitUntil(lambda: (tmp_path / "one.pdf").exists() and not shelf.batch.running, timeout=WAIT)
    text = "".join(page.extract_text() for page in PdfReader(tmp_path / "one.pdf").pages)
    assert line.lead.split()[1] in text
    shelf.save_into((line,), lambda _line: tmp_path / "one.json", result_bytes)
    qtbot.waitUntil(lambda: (tmp_path / "one.json").exists() and not shelf.batch.running, timeout=WAIT)
    file = resultfile.read(tmp_path / "one.json")
    assert recomputed(file)[1] == ()
    assert file.digest in text.replace("\n", "")
    shelf.save_table_into((line,), tmp_path / "readings.csv")
    qtbot.waitUntil((tmp_path / "readings.csv").exists, timeout=WAIT)
    settle(qtbot, window)
    rows = saved_rows(tmp_path / "readings.csv")
    assert {row["certificate"] for row in rows} == {line.lead.split()[1]}


def test_many_are_written_one_after_the_other_and_can_be_stopped(qtbot, records, tmp_path):
    _window, place = records
    shelf = place.results
    choose(shelf, 8)
    shelf.refresh()  # something was signed elsewhere: what is chosen stays
    settle(qtbot, _window)
    assert shelf.button.text() == "Save 8 certificates…"
    shelf.save_into(shelf.list.chosen, lambda line: tmp_path / f"{line.id}.json", result_bytes)
    assert shelf.stop.isVisible()
    assert not shelf.button.isEnabled()
    qtbot.waitUntil(lambda: not shelf.batch.running, timeout=WAIT)
    assert len(list(tmp_path.glob("*.json"))) == 8
    said = []
    shelf.batch.advanced.connect(lambda done, of: (said.append((done, of)), shelf.batch.stop()))
    shelf.save_into(
        shelf.list.chosen, lambda line: tmp_path / f"{line.id}.pdf", partial(certificate_bytes, size=paper_mm())
    )
    qtbot.waitUntil(lambda: not shelf.batch.running and bool(said), timeout=WAIT)
    assert said[0] == (1, 8)
    assert len(list(tmp_path.glob("*.pdf"))) < 4


def test_a_folder_that_cannot_be_written_is_a_sentence(qtbot, records, tmp_path):
    window, place = records
    shelf, said = place.results, []
    shelf.batch.ended.connect(lambda done, skipped, sentence: said.append((done, sentence)))
    choose(shelf, 3)
    shelf.save_into(shelf.list.chosen, lambda line: tmp_path / "none" / f"{line.id}.json", result_bytes)
    qtbot.waitUntil(lambda: bool(said), timeout=WAIT)
    assert said[0][0] == 0
    assert "could not be written" in said[0][1]
    settle(qtbot, window)
    assert shelf.button.isEnabled()


def test_ctrl_p_goes_from_a_tool_to_its_results_and_a_page_is_printed_as_it_is_shown(qtbot, records, demo, tmp_path):
    window, place = records
    go(window, "tools", tool=tool_id(demo, "HC-0417"))
    settle(qtbot, window)
    press(window, Qt.Key.Key_P, CTRL)
    qtbot.waitUntil(lambda: window.current is place and place.results.every.isVisible(), timeout=WAIT)
    settle(qtbot, window)
    assert {line.lead.split()[0] for line in place.results.list.lines.lines} == {"HC-0417"}
    printer = QPrinter()
    printer.setOutputFileName(str(tmp_path / "printed.pdf"))
    place.results.paper.print_to(printer)
    assert len(PdfReader(tmp_path / "printed.pdf").pages) == place.results.paper.pages
    click(place.results.every)
    qtbot.waitUntil(lambda: len(place.results.list.lines.lines) > 20, timeout=WAIT)


def test_what_was_done_is_found_by_words_and_saved(qtbot, records, demo, act, tmp_path):
    window, place = records
    with demo.session() as session:
        run = outside(session, tool_id(demo, "HC-0417"), act)
        signing.sign(session, run.id, later(act, 2))
        lines = trail(reader_of(session), "signed 0417")
        assert lines[0].action == "signed the run"
        assert "outcome: held" in lines[0].what
        assert "N·m; source: " in trail(reader_of(session), "reading 0417")[0].what
        assert trail(reader_of(session), "%") != trail(
            reader_of(session)
        )  # what SQL takes for anything is a letter here
        assert trail(reader_of(session), "s_gned") == ()
        assert (
            len(list(whole_trail(reader_of(session))))
            == session.connection().exec_driver_sql("SELECT count(*) FROM audit").scalar()
        )
    click(place.heads.chips["trail"])
    place.trail.filter.line.setText("signed 0417")
    qtbot.waitUntil(
        lambda: "signed the run" in str(place.trail.list.lines.data(place.trail.list.lines.index(0))), timeout=WAIT
    )
    place.trail.save(tmp_path / "done.csv")
    qtbot.waitUntil((tmp_path / "done.csv").exists, timeout=WAIT)
    settle(qtbot, window)
    saved = saved_rows(tmp_path / "done.csv")
    assert {row["did"] for row in saved} == {"signed the run"}
    with demo.session() as session:
        (line,) = trail(reader_of(session), "saved file done")
    assert (line.action, line.subject, line.who) == ("saved a file", "done.csv", "R. K.")


def test_a_backup_is_made_here_and_what_putting_it_back_would_lose_is_told(qtbot, records, demo, act, tmp_path):
    window, place = records
    click(place.heads.chips["backups"])
    place.backups.keep_daily_in(tmp_path)
    qtbot.waitUntil(lambda: len(place.backups.list.lines.lines) == 1, timeout=WAIT)
    settle(qtbot, window)
    assert window.around.station.settings.backups == str(tmp_path)
    with demo.session() as session:
        outside(session, tool_id(demo, "HC-0417"), act)
    place.backups.refresh()
    qtbot.waitUntil(lambda: "readings" in place.backups.loss.text(), timeout=WAIT)
    assert place.backups.loss.text().startswith("It would lose 15 readings")
    assert "kept beside it" in place.backups.how.text()
    around, before = window.around, demo.path.read_bytes()
    place.backups.look_at(tmp_path / "none.sqlite")
    qtbot.waitUntil(lambda: "cannot be read as a backup" in place.backups.loss.text(), timeout=WAIT)
    place.backups.refresh()  # something was written elsewhere: what is in front stays there
    settle(qtbot, window)
    assert "cannot be read as a backup" in place.backups.loss.text()
    assert not place.backups.back_button.isEnabled()
    place.backups.look_at(tmp_path / f"reckoner-{TODAY}.sqlite")
    qtbot.waitUntil(place.backups.back_button.isEnabled, timeout=WAIT)
    demo.close()
    click(place.backups.back_button)
    qtbot.waitUntil(lambda: around.person is not None and window.idle, timeout=WAIT)
    assert window.current is window.place(PlaceId.TODAY)
    assert window.refusal == ""
    assert window.foot.words.startswith(f"reckoner-{TODAY}.sqlite is put back")
    with closing(sqlite3.connect(demo.path)) as connection:
        assert connection.execute("SELECT count(*) FROM open_run").fetchone()[0] == 0
    go(window, "records")
    click(window.place(PlaceId.RECORDS).heads.chips["trail"])
    settle(qtbot, window)
    assert f"by: {around.person.initials}; lost: " in window.place(PlaceId.RECORDS).trail.list.lines.lines[0].detail
    assert [p for p in demo.path.parent.glob("*.before-restore-*") if p.stat().st_size >= len(before)]
    go(window, "tools", tool=tool_id(demo, "HC-0417"))
    settle(qtbot, window)
    press(window, Qt.Key.Key_Z, CTRL)
    settle(qtbot, window)
    assert "is left to take back" in window.foot.words
    around.put_back(tmp_path / "gone.sqlite")  # its drive was pulled out meanwhile: what was open is open again
    qtbot.waitUntil(lambda: around.person is not None and window.idle, timeout=WAIT)
    assert "There is no file" in window.foot.words


@pytest.fixture
def older(demo, demo_folder, act, tmp_path):
    """The database as it was before a run was begun, and the folder of daily backups with one that has the run."""
    back_up(demo_folder, tmp_path / "first.sqlite")
    with demo.session() as session:
        outside(session, tool_id(demo, "HC-0417"), act)
    kept = tmp_path / "kept"
    kept.mkdir()
    back_up(demo_folder, kept / "reckoner-2026-11-23.sqlite")
    demo.close()
    restore(tmp_path / "first.sqlite", demo_folder, act.at)
    return kept


def backed_up(qtbot, window, kept):
    window.around.station.keep(backups=str(kept))
    told = []
    daily.back_up(window.around, lambda: told.append(""))
    qtbot.waitUntil(lambda: bool(told), timeout=WAIT)
    window.place(PlaceId.TODAY).file_checked()
    settle(qtbot, window)


def test_an_older_database_is_said_until_somebody_says_that_it_is_right(qtbot, open_window, demo_folder, older):
    window = open_window(demo_folder)
    daily.back_up(window.around)  # no folder was chosen: nothing is looked for
    settle(qtbot, window)
    notice = window.place(PlaceId.TODAY).older
    assert not notice.isVisible()
    backed_up(qtbot, window, older)
    assert notice.isVisible()
    assert "also has 15 readings" in notice.words.text()
    assert [p.name for p in older.iterdir()] == ["reckoner-2026-11-23.sqlite"]  # nothing goes beside it meanwhile
    backed_up(qtbot, window, older)
    assert notice.isVisible()
    click(notice.go_on_button)
    qtbot.waitUntil(lambda: not notice.isVisible(), timeout=WAIT)
    backed_up(qtbot, window, older)
    assert not notice.isVisible()
    assert (older / f"reckoner-{TODAY}.sqlite").exists()


def test_the_backup_that_knows_more_is_put_back_from_the_notice(qtbot, open_window, demo_folder, older):
    window = open_window(demo_folder)
    backed_up(qtbot, window, older)
    click(window.place(PlaceId.TODAY).older.look_button)
    qtbot.waitUntil(lambda: window.current is window.place(PlaceId.RECORDS), timeout=WAIT)
    shelf = window.current.backups
    qtbot.waitUntil(shelf.back_button.isEnabled, timeout=WAIT)
    assert "it would lose" in shelf.loss.text().lower() or "nothing came since" in shelf.loss.text().lower()
    click(shelf.back_button)
    qtbot.waitUntil(
        lambda: window.around.older is None and window.around.person is not None and window.idle, timeout=WAIT
    )
    with closing(sqlite3.connect(demo_folder / "reckoner.sqlite")) as connection:
        assert connection.execute("SELECT count(*) FROM open_run").fetchone()[0] == 1


def test_a_backup_of_another_shop_in_the_same_folder_says_nothing(demo, tmp_path):
    with closing(sqlite3.connect(tmp_path / "other.sqlite")) as connection:
        connection.execute("CREATE TABLE chain_link (place, digest)")
        connection.execute("INSERT INTO chain_link VALUES (1, 'another shop')")
        for table in ("signature", "observation", "tool_event", "register_version"):
            connection.execute(f"CREATE TABLE {table} (id)")
            connection.execute(f"INSERT INTO {table} VALUES (1000000000)")
        connection.commit()
    with demo.session() as session:
        assert missing(reader_of(session), tmp_path / "other.sqlite") is None


def test_daily_backups_are_kept_thirty_days_and_nothing_else_is_touched(demo, demo_folder, tmp_path):
    (tmp_path / "mine.sqlite").write_text("mine")
    for day in range(1, 31):
        (tmp_path / f"reckoner-2026-10-{day:02}.sqlite").write_text("old")
    assert back_up_today(demo_folder, tmp_path, TODAY) == tmp_path / f"reckoner-{TODAY}.sqlite"
    assert back_up_today(demo_folder, tmp_path, TODAY) is None
    kept = sorted(p.name for p in tmp_path.glob("reckoner-*"))
    assert (len(kept), kept[0]) == (KEPT_DAYS, "reckoner-2026-10-02.sqlite")
    assert (tmp_path / "mine.sqlite").read_text() == "mine"
    assert {b.path.name for b in backups_in(tmp_path)} == {*kept, "mine.sqlite"}
    with pytest.raises(BackupRefused, match="is not there"):
        back_up_today(demo_folder, tmp_path / "none", TODAY)
    with demo.session() as session, pytest.raises(BackupRefused, match="cannot be read as a backup"):
        losing(reader_of(session), tmp_path / "mine.sqlite")
    back_up(demo_folder, tmp_path / "now.sqlite")
    with demo.session() as session:
        assert losing(reader_of(session), tmp_path / "now.sqlite").words.startswith("Nothing came since")
    with closing(sqlite3.connect(tmp_path / "now.sqlite")) as connection:
        assert connection.execute("SELECT count(*) FROM signature").fetchone()[0] > 0


def test_labels_are_found_by_words_drawn_at_their_size_and_saved(qtbot, records, demo, tmp_path):
    window, place = records
    go(window, "tools", tool=tool_id(demo, "HC-0417"))
    settle(qtbot, window)
    sheet = window.current.sheet
    qtbot.waitUntil(lambda: sheet.number.text() == "HC-0417", timeout=WAIT)
    next(b for b in sheet.findChildren(QPushButton) if b.text() == "Its label…").click()
    shelf = place.labels
    qtbot.waitUntil(lambda: shelf.found.text() == "One label." and shelf.paper.pages == 1, timeout=WAIT)
    shelf.filter.line.setText("held")
    qtbot.waitUntil(lambda: shelf.paper.pages == 2, timeout=WAIT)
    shelf.save(tmp_path / "labels.pdf")
    qtbot.waitUntil((tmp_path / "labels.pdf").exists, timeout=WAIT)
    settle(qtbot, window)
    assert all("HELD: DO NOT USE" in page.extract_text() for page in PdfReader(tmp_path / "labels.pdf").pages)
    shown = len(PdfReader(tmp_path / "labels.pdf").pages)
    shelf.filter.line.setText("hc-0417")  # what is saved is what the screen says: nothing, until it is there
    assert not shelf.save_button.isEnabled()
    assert not shelf.button.isEnabled()
    shelf.save(tmp_path / "soon.pdf")
    qtbot.waitUntil(lambda: shelf.found.text() == "One label." and shelf.save_button.isEnabled(), timeout=WAIT)
    assert not (tmp_path / "soon.pdf").exists()
    shelf.save(tmp_path / "soon.pdf")
    qtbot.waitUntil((tmp_path / "soon.pdf").exists, timeout=WAIT)
    assert len(PdfReader(tmp_path / "soon.pdf").pages) == 1 < shown
    shelf.filter.line.setText("no such tool at all")
    qtbot.waitUntil(lambda: "find nothing" in shelf.found.text(), timeout=WAIT)
    assert not shelf.button.isEnabled()
    shelf.filter.line.setText("")
    click(shelf.sizes.chips["2"])
    qtbot.waitUntil(lambda: shelf.paper.pages == 2, timeout=WAIT)  # 46 of them, 24 a sheet
    shelf.first.line.setText("²")  # no number that counts places
    assert shelf.paper.pages == 2
    shelf.first.line.setText("30")
    assert "from 1 to 24" in shelf.first.hint.text()
    click(shelf.of.chips["meters"])
    qtbot.waitUntil(lambda: shelf.paper.pages == 1, timeout=WAIT)


def test_a_damaged_database_offers_the_last_good_backup_and_opens_with_it(
    qtbot, open_window, demo, demo_folder, tmp_path
):
    kept = tmp_path / "kept"
    kept.mkdir()
    back_up(demo_folder, kept / "reckoner-2026-11-23.sqlite")
    (kept / "reckoner-2026-11-24.sqlite").write_text("torn")  # the newest is no good
    demo.close()
    (tmp_path / "station.json").write_text(json.dumps({"backups": str(kept)}))
    database = demo_folder / "reckoner.sqlite"
    database.write_bytes(database.read_bytes()[:100] + b"\0" * 8000)
    window = open_window(demo_folder)
    qtbot.waitUntil(lambda: bool(window.refusal), timeout=WAIT)
    offer = next(b for b in window.findChildren(QPushButton) if "Put back the backup of" in b.text())
    click(offer)
    qtbot.waitUntil(lambda: window.around.person is not None and window.idle, timeout=WAIT)
    assert window.refusal == ""
    assert window.rail.isEnabled()
    go(window, "tools", tool=tool_id(demo, "HC-0417"))
    settle(qtbot, window)
    assert list(demo_folder.glob("reckoner.before-restore-*"))


def test_a_record_that_was_changed_past_the_program_is_told_where_it_is_handed_out(qtbot, records, demo):
    window, place = records
    shelf = place.results
    assert shelf.sealed.text().startswith("Unchanged since it was signed; its link")
    wanted = shelf.list.chosen[0].id
    demo.close()
    with closing(sqlite3.connect(window.around.folder / "reckoner.sqlite")) as connection:
        for (trigger,) in connection.execute(
            "SELECT name FROM sqlite_master WHERE name LIKE 'guard_observation%'"
        ).fetchall():
            connection.execute(f"DROP TRIGGER {trigger}")
        connection.execute(
            "UPDATE observation SET torque = torque * 1.001 WHERE id = (SELECT max(o.id) FROM observation o JOIN series s ON "
            "s.id = o.series_id WHERE s.run_id = ?)",
            (wanted,),
        )
        connection.commit()
    shelf.refresh()
    qtbot.waitUntil(lambda: "is not what was signed" in shelf.sealed.text(), timeout=WAIT)


def test_of_many_those_that_have_none_are_left_out_and_counted(qtbot, records, demo, act, tmp_path):
    window, place = records
    with demo.session() as session:
        run = ready(session, tool_id(demo, "HC-0417"), act, RunKind.COMPARE, sides=SidesPlan.of(Contrast.PEOPLE))
        run = closed(session, taking_all(session, run, act), act)
        signing.sign(session, run.id, later(act, 1))
    shelf, said = place.results, []
    shelf.refresh()
    qtbot.waitUntil(lambda: shelf.list.lines.lines[0].id == run.id, timeout=WAIT)
    shelf.list.clearSelection()
    choose(shelf, 3)
    qtbot.waitUntil(lambda: "has no certificate" in shelf.no_paper.text(), timeout=WAIT)
    shelf.batch.ended.connect(lambda *told: said.append(told))
    shelf.save_into(
        shelf.list.chosen, lambda line: tmp_path / f"{line.id}.pdf", partial(certificate_bytes, size=paper_mm())
    )
    qtbot.waitUntil(lambda: bool(said), timeout=WAIT)
    assert said == [(2, 1, "")]
    settle(qtbot, window)


def test_what_another_shop_handed_on_comes_in_once_and_keeps_the_focus(qtbot, records, tmp_path):
    window, place = records
    click(place.heads.chips["exchange"])
    shelf, file, broken = place.exchange, tmp_path / "all.json", tmp_path / "broken.json"
    shelf.save(file)
    qtbot.waitUntil(lambda: "tools with their histories are in" in shelf.told.text(), timeout=WAIT)
    broken.write_text('{"a":')
    shelf.take_button.setFocus()
    shelf.take(broken)
    qtbot.waitUntil(lambda: "no JSON file" in shelf.fault.text(), timeout=WAIT)
    shelf.take(file)
    shelf.take(file)  # pressed twice, before the first has come in
    assert window.keys.focused() is shelf.take_button
    qtbot.waitUntil(lambda: shelf.told.text().startswith("Brought in: nothing."), timeout=WAIT)
    settle(qtbot, window)
    with closing(sqlite3.connect(window.around.folder / "reckoner.sqlite")) as connection:
        came = connection.execute("SELECT count(*) FROM audit WHERE action = 'took over an exchange file'").fetchone()
    assert came == (1,)
    shelf.take(file)
    qtbot.waitUntil(lambda: window.around.work.idle, timeout=WAIT)
    assert shelf.fault.text() == ""
