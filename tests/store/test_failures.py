"""What the engine's failures mean, each brought about in a real database."""

import sqlite3
from contextlib import closing

import pytest

from reckoner.store.backend import is_busy, refusal_of
from reckoner.store.errors import DatabaseBusy, DatabaseDamaged, DiskFull, RecordChanged, WriteFailed


@pytest.fixture
def path(tmp_path):
    path = tmp_path / "some.sqlite"
    with closing(sqlite3.connect(path)) as connection:
        connection.execute("CREATE TABLE t (words TEXT)")
        connection.execute(
            "CREATE TRIGGER guard BEFORE DELETE ON t BEGIN SELECT RAISE(ABORT, 'what database is locked and is full'); END"
        )
        connection.executemany("INSERT INTO t VALUES (?)", [("x" * 900,)] * 40)
        connection.commit()
    return path


def opened(path):
    return closing(sqlite3.connect(path, timeout=0))


def full(path):
    with opened(path) as connection:
        connection.execute("PRAGMA max_page_count = 1")
        connection.execute("CREATE TABLE more AS SELECT * FROM t, t AS u")


def held(path):
    with opened(path) as other, opened(path) as connection:
        other.execute("BEGIN IMMEDIATE")
        connection.execute("BEGIN IMMEDIATE")


def only_read(path):
    with opened(path) as connection:
        connection.execute("PRAGMA query_only = ON")
        connection.execute("INSERT INTO t VALUES ('y')")


def torn(path):
    data = path.read_bytes()
    path.write_bytes(data[:4096] + b"\x55" * (len(data) - 4096))
    with opened(path) as connection:
        connection.execute("SELECT * FROM t").fetchall()


def another(path):
    path.write_bytes(b"no database at all" * 400)
    with opened(path) as connection:
        connection.execute("SELECT * FROM t")


def gone(path):
    with opened(path.parent / "none" / "some.sqlite") as connection:
        connection.execute("SELECT 1")


def guarded(path):
    with opened(path) as connection:
        connection.execute("DELETE FROM t")


def no_text(path):
    with opened(path) as connection:
        connection.execute("INSERT INTO t VALUES (CAST(x'ff41' AS TEXT))")
        connection.execute("SELECT * FROM t").fetchall()


@pytest.mark.parametrize(
    ("do", "means"),
    [
        (full, DiskFull),
        (held, DatabaseBusy),
        (only_read, WriteFailed),
        (torn, DatabaseDamaged),
        (another, DatabaseDamaged),
        (gone, WriteFailed),
        (guarded, RecordChanged),
        (no_text, DatabaseDamaged),
    ],
)
def test_what_the_engine_does_to_us_is_known_by_its_code(path, do, means):
    with pytest.raises(sqlite3.DatabaseError) as fault:
        do(path)
    assert type(refusal_of(path, fault.value)) is means
    assert is_busy(fault.value) is (means is DatabaseBusy)


def test_what_is_our_own_fault_stays_one(path):
    with opened(path) as connection:
        for statement in ("SELECT nothing FROM t", "no statement"):
            with pytest.raises(sqlite3.OperationalError) as fault:
                connection.execute(statement)
            assert refusal_of(path, fault.value) is None
        with pytest.raises(sqlite3.ProgrammingError) as fault:
            connection.execute("SELECT ?")
        assert refusal_of(path, fault.value) is None
    assert refusal_of(path, ValueError("locked")) is None
