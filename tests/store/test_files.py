"""Openings, upgrades, backups and restores: whole or not at all, whatever stops them."""

import os
import shutil
import signal
import sqlite3
import stat
import subprocess
import sys
import time
from datetime import datetime

import pytest

from reckoner.shop.opening import open_shop
from reckoner.shop.register.cards import cards
from reckoner.shop.runs.recomputing import recompute
from reckoner.store import files
from reckoner.store.backup import BackupRefused, back_up, is_whole, restore
from reckoner.store.database import FILE, Database
from reckoner.store.errors import (
    DatabaseDamaged,
    DatabaseNewer,
    DatabaseNotOurs,
    DatabaseReplaced,
    DiskFull,
    LookingOn,
)
from reckoner.store.lock import FolderHeld, FolderLock
from reckoner.store.reader import reader_of
from reckoner.store.schema import Person, Tool
from tests.support.versions import small_shop, with_a_second_version

NOW = datetime(2026, 11, 24, 9, 30)
WHAT_IT_HOLDS = (["W-1", "W-2"], 21)


@pytest.fixture(scope="module")
def made(tmp_path_factory):
    """A small shop, made once."""
    folder = tmp_path_factory.mktemp("small")
    small_shop(folder)
    return folder / FILE


@pytest.fixture
def shop(made):
    """Puts a copy of it in a folder."""

    def put(folder):
        folder.mkdir(exist_ok=True)
        shutil.copy(made, folder / FILE)

    return put


def numbers(folder):
    database = open_shop(folder)
    with database.session() as session:
        found = [c.tool.number for c in cards(reader_of(session))], sum(r.numbers for r in recompute(session))
    database.close()
    return found


ACTS = {
    "opening": ("", "open_shop(folder).close()"),
    "upgrade": (
        "from reckoner.store import revisions; revisions.MIGRATIONS = Path(sys.argv[1]).parent / 'migrations'",
        "open_shop(folder).close()",
    ),
    "import": (
        "from reckoner.shop.register import registerfile as register; from reckoner.shop.register.intake import take_in;"
        "from tests.support.clock import NOW;"
        "from tests.support.runs import REGISTER; parsed = register.parse(REGISTER)",
        "d = open_shop(folder)\\nwith d.session() as s: take_in(s, parsed, NOW)\\nd.close()",
    ),
    "backup": (
        "from reckoner.store.backup import back_up",
        "back_up(folder, folder.parent / f'{folder.name}.copy.sqlite')",
    ),
    "restore": (
        "from reckoner.store.backup import restore; from tests.support.clock import NOW",
        "restore(folder.parent / 'backup.sqlite', folder, NOW)",
    ),
}


def begun(folder, act):
    """A program that has begun ``act``, and says when it is done."""
    before, command = ACTS[act]
    script = (
        "import sys; from pathlib import Path; from reckoner.shop.opening import open_shop; import reckoner.store.migrate;"
        f"{before}\\nfolder = Path(sys.argv[1])\\nprint('begins', flush=True)\\n{command}\\nprint('done', flush=True)\\n"
    ).replace("\\n", "\n")
    child = subprocess.Popen([sys.executable, "-c", script, str(folder)], stdout=subprocess.PIPE, text=True)
    assert child.stdout.readline() == "begins\n"
    return child


def lasted(folder, act):
    """Seconds that ``act`` took here and now."""
    child = begun(folder, act)
    start = time.monotonic()
    assert child.stdout.read() == "done\n"
    seconds = time.monotonic() - start
    child.stdout.close()
    child.wait()
    return seconds


def killed(folder, act, after):
    """``act``, killed so many seconds after it began; True when it was done before."""
    child = begun(folder, act)
    time.sleep(after)
    os.kill(child.pid, signal.SIGKILL)
    child.wait()
    done = child.stdout.read() == "done\n"
    child.stdout.close()
    return done


@pytest.mark.parametrize("act", list(ACTS))
def test_a_program_killed_at_any_moment_leaves_a_database_that_opens(tmp_path, act, shop, monkeypatch):
    """A few kills here; many more were made by hand with the same function."""
    if act == "restore":
        shop(tmp_path / "kept")
        back_up(tmp_path / "kept", tmp_path / "backup.sqlite")

    def prepared(name):
        folder = tmp_path / name
        if act in ("upgrade", "restore", "backup"):
            shop(folder)
        elif act == "import":
            folder.mkdir()
            open_shop(folder).close()
        return folder

    with_a_second_version(monkeypatch, tmp_path / "migrations")
    monkeypatch.undo()
    seconds = lasted(prepared("whole"), act)
    if act == "upgrade":
        with_a_second_version(monkeypatch, tmp_path / "migrations")
    for part in (0.3, 0.8):
        folder = prepared(str(part))
        done = killed(folder, act, part * seconds)
        tools, counted = numbers(folder)
        if act in ("upgrade", "restore", "backup"):
            assert (tools, counted) == WHAT_IT_HOLDS
        elif act == "import":
            assert tools == ["W-1"] or not done
            assert tools in ([], ["W-1"])
        copy = folder.parent / f"{folder.name}.copy.sqlite"
        assert copy.exists() == done or is_whole(copy) if act == "backup" else not copy.exists()
        assert [p.name for p in folder.iterdir() if p.name.endswith(".new")] == [] or not done


HALF_DONE = """
import os, signal, sqlite3, sys
connection = sqlite3.connect(sys.argv[1], isolation_level=None)
connection.execute("PRAGMA cache_size = 2")
connection.execute("BEGIN IMMEDIATE")
connection.execute("UPDATE tool SET place = hex(randomblob(90000))")
os.kill(os.getpid(), signal.SIGKILL)
"""


def test_what_a_killed_program_left_half_done_is_taken_back_before_anything_is_read(tmp_path, shop):
    for folder in (tmp_path / "opened", tmp_path / "kept"):
        shop(folder)
        subprocess.run([sys.executable, "-c", HALF_DONE, str(folder / FILE)], check=False)
        assert (folder / f"{FILE}-journal").exists()
    back_up(tmp_path / "kept", tmp_path / "copy.sqlite")
    files.check(tmp_path / "copy.sqlite")
    assert numbers(tmp_path / "opened") == WHAT_IT_HOLDS


def test_the_copy_before_an_upgrade_is_made_once_checked_and_never_written_over(tmp_path, shop, monkeypatch):
    shop(tmp_path)
    with_a_second_version(monkeypatch, tmp_path / "migrations")
    Database(tmp_path).close()
    kept = tmp_path / "reckoner.before-0002.sqlite"
    assert (files.revision_of(kept), files.revision_of(tmp_path / FILE)) == ("0001", "0002")
    files.check(kept)
    before = kept.stat().st_ino
    (tmp_path / FILE).unlink()
    shop(tmp_path)
    Database(tmp_path).close()
    assert kept.stat().st_ino == before


def test_a_new_database_is_the_owners_alone_and_leaves_nothing_beside(tmp_path):
    folder = tmp_path / "deep" / "data"
    left = folder / f".{FILE}.999999.new"
    Database(folder).close()
    assert stat.S_IMODE(folder.stat().st_mode) == 0o700
    assert stat.S_IMODE((folder / FILE).stat().st_mode) == 0o600
    assert [p.name for p in folder.iterdir()] == [FILE]
    (folder / FILE).unlink()
    left.write_bytes(b"half")
    (folder / f"{FILE}-wal").write_bytes(b"of another database")
    Database(folder).close()
    assert sorted(p.name for p in folder.iterdir()) == [FILE, f"{FILE}-wal.left-over"]


@pytest.mark.parametrize("name", ["what?", "a#b", "50%20off", "%41", "two words", "Käfig", "it's"])
def test_folders_of_any_name_hold_their_own_database(tmp_path, name):
    folder = tmp_path / name
    database = open_shop(folder)
    with database.session() as session:
        session.add(Person(initials="K. L.", name="K. Loft"))
    database.close()
    assert [p.name for p in tmp_path.iterdir()] == [name]
    back_up(folder, tmp_path / "copy.sqlite")
    with sqlite3.connect(tmp_path / "copy.sqlite") as copied:
        assert copied.execute("SELECT initials FROM person").fetchall() == [("K. L.",)]
    copied.close()


@pytest.mark.parametrize("replaced", [False, True])
def test_a_database_taken_away_or_replaced_while_open_is_noticed_before_anything_is_called_kept(tmp_path, replaced):
    database = open_shop(tmp_path)
    (tmp_path / FILE).rename(tmp_path / "away.sqlite")
    if replaced:
        (tmp_path / FILE).write_bytes((tmp_path / "away.sqlite").read_bytes())
    with pytest.raises(DatabaseReplaced, match="Nothing is kept any more"), database.session() as session:
        session.add(Person(initials="K. L.", name="K. Loft"))
    database.close()


def test_a_backup_is_whole_and_comes_back_with_what_was_there_kept(tmp_path, shop):
    shop(tmp_path / "shop")
    database = open_shop(tmp_path / "shop")
    back_up(tmp_path / "shop", tmp_path / "copy.sqlite")  # while it is open
    with database.session() as session:
        session.query(Tool).filter_by(number="W-1").one().place = "Bay 9"
    with pytest.raises(BackupRefused, match="there already"):
        back_up(tmp_path / "shop", tmp_path / "copy.sqlite")
    database.close()
    (tmp_path / "shop" / f"{FILE}-wal").write_bytes(b"a leftover of something else" * 40)
    kept = restore(tmp_path / "copy.sqlite", tmp_path / "shop", NOW)
    assert kept.name == "reckoner.before-restore-20261124-093000.sqlite"
    assert not (tmp_path / "shop" / f"{FILE}-wal").exists()
    assert numbers(tmp_path / "shop") == WHAT_IT_HOLDS
    with sqlite3.connect(kept) as was:
        assert was.execute("SELECT place FROM tool WHERE number = 'W-1'").fetchone() == ("Bay 9",)
    was.close()
    assert restore(tmp_path / "copy.sqlite", tmp_path / "new shop", NOW) is None
    with FolderLock(tmp_path / "shop"), pytest.raises(FolderHeld, match="Another window has"):
        restore(tmp_path / "copy.sqlite", tmp_path / "shop", NOW)


def test_a_damaged_database_is_replaced_by_its_backup_and_kept(tmp_path, shop):
    shop(tmp_path / "shop")
    back_up(tmp_path / "shop", tmp_path / "copy.sqlite")
    path = tmp_path / "shop" / FILE
    whole = path.read_bytes()
    path.write_bytes(whole[:4096] + b"\x5a" * 8192 + whole[12288:])
    with pytest.raises(DatabaseDamaged):
        open_shop(tmp_path / "shop")
    kept = restore(tmp_path / "copy.sqlite", tmp_path / "shop", NOW)
    assert kept.read_bytes()[4096:8192] == b"\x5a" * 4096
    assert numbers(tmp_path / "shop") == WHAT_IT_HOLDS


def test_what_is_no_backup_is_refused_and_nothing_is_touched(tmp_path, shop):
    shop(tmp_path / "shop")
    before = (tmp_path / "shop" / FILE).read_bytes()
    foreign, newer, broken = (tmp_path / name for name in ("foreign", "newer", "broken"))
    with sqlite3.connect(foreign) as theirs:
        theirs.execute("CREATE TABLE theirs (x)")
    theirs.close()
    newer.write_bytes(before)
    with sqlite3.connect(newer) as later:
        later.execute("UPDATE alembic_version SET version_num = '9999'")
    later.close()
    broken.write_bytes(before[: len(before) // 2])
    for file, refusal in (
        (foreign, DatabaseNotOurs),
        (newer, DatabaseNewer),
        (broken, BackupRefused),
        (tmp_path / "none", BackupRefused),
        (tmp_path / "shop" / FILE, BackupRefused),
    ):
        with pytest.raises(refusal):
            restore(file, tmp_path / "shop", NOW)
        assert (tmp_path / "shop" / FILE).read_bytes() == before


def test_looking_on_reads_what_is_there_and_writes_nothing(tmp_path, shop):
    shop(tmp_path)
    open_shop(tmp_path).close()
    database = Database(tmp_path, looking_on=True)
    with database.session() as session:
        assert session.query(Tool).count() == 2
    with pytest.raises(LookingOn, match="only looks on"), database.session() as session:
        session.add(Person(initials="Z. Z.", name="Nobody"))
    database.close()


def test_a_lock_says_who_holds_it_and_goes_with_its_holder(tmp_path):
    script = (
        "import sys, time; from pathlib import Path; from reckoner.store.lock import FolderLock\n"
        "lock = FolderLock(Path(sys.argv[1])); print('held', flush=True); time.sleep(60)"
    )
    child = subprocess.Popen([sys.executable, "-c", script, str(tmp_path)], stdout=subprocess.PIPE, text=True)
    assert child.stdout.readline() == "held\n"
    with pytest.raises(FolderHeld, match=f"process {child.pid}"):
        FolderLock(tmp_path)
    os.kill(child.pid, signal.SIGKILL)
    child.wait()
    child.stdout.close()
    with FolderLock(tmp_path):
        pass
    (tmp_path / "reckoner.lock").write_text("nobody can read this")
    with FolderLock(tmp_path):
        pass


def test_a_full_disk_is_called_full(tmp_path, shop, monkeypatch):
    """A file may grow no further than this process is allowed: what a full disk does to SQLite."""
    shop(tmp_path / "shop")
    with_a_second_version(monkeypatch, tmp_path / "migrations")
    script = (
        "import resource, signal, sys; from pathlib import Path; from reckoner.store.errors import StoreRefused\n"
        "from reckoner.shop.opening import open_shop; import reckoner.store.migrate\n"
        "from reckoner.store import revisions; revisions.MIGRATIONS = Path(sys.argv[2])\n"
        "signal.signal(signal.SIGXFSZ, signal.SIG_IGN); resource.setrlimit(resource.RLIMIT_FSIZE, (150_000, 150_000))\n"
        "try: open_shop(Path(sys.argv[1]))\n"
        "except StoreRefused as refusal: print(type(refusal).__name__, refusal)\n"
    )
    done = subprocess.run(
        [sys.executable, "-c", script, str(tmp_path / "shop"), str(tmp_path / "migrations")],
        capture_output=True,
        text=True,
    )
    monkeypatch.undo()
    assert "Traceback" not in done.stderr
    assert done.stdout.split()[0] in (DiskFull.__name__, "WriteFailed")
    assert numbers(tmp_path / "shop") == WHAT_IT_HOLDS


def test_reading_a_database_through_can_be_stopped(built_demo):
    checking = files.DatabaseCheck(built_demo / FILE)
    assert checking.run()
    checking.stop()
    assert not checking.run()
