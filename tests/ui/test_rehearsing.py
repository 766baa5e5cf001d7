"""A backup is put back in a folder of its own once a month, and a bad one is said."""

import sqlite3
from types import SimpleNamespace

from reckoner.store.backup import RESTORING, backups_in
from reckoner.ui import daily
from tests.support.hands import WAIT


def test_the_newest_backup_is_rehearsed_once_a_month_and_a_changed_one_is_said(
    qtbot, open_window, demo_folder, tmp_path, monkeypatch
):
    window = open_window(demo_folder)
    station = window.around.station
    station.keep(backups=str(tmp_path / "kept"))
    (tmp_path / "kept").mkdir()
    daily.back_up(window.around, window._backed_up)
    qtbot.waitUntil(lambda: station.settings.rehearsed == f"{window.around.today:%Y-%m}", timeout=WAIT)
    assert window.foot.words == ""
    assert list(demo_folder.glob(f"{RESTORING}*")) == []
    (backup,) = backups_in(tmp_path / "kept")
    window.rehearsal.begin()  # not again in this month
    assert window.rehearsal._process is None
    with sqlite3.connect(backup.path) as connection:
        connection.execute("DROP TRIGGER guard_observation_update")
        connection.execute("UPDATE observation SET torque = torque + 1 WHERE id = 7")
    connection.close()
    station.keep(rehearsed="2026-10")
    with monkeypatch.context() as patched:
        patched.setattr("shutil.disk_usage", lambda _folder: SimpleNamespace(free=4 * backup.size))
        window.rehearsal.begin()
        assert window.rehearsal._process is None  # readings need the room
    window.rehearsal.begin()
    qtbot.waitUntil(lambda: "it cannot:" in window.foot.words, timeout=WAIT)
    assert "it was changed afterwards" in window.foot.words
    assert station.settings.rehearsed == "2026-10"
    window.rehearsal.begin()
    assert window.rehearsal._process is not None
    window.frame.close()
    assert window.rehearsal._process is None
    window._backed_up()  # it was still being made when the window closed
    assert window.rehearsal._process is None
