"""The database as a file: put into place whole, copied whole, and looked at before anything trusts it.

SQLite keeps what is not folded in yet in ``-wal`` and ``-shm`` beside it; they belong to one file and are never left beside
another.
"""

from __future__ import annotations

import os
import sqlite3
import struct
from contextlib import closing, suppress
from pathlib import Path

from reckoner.beside import beside
from reckoner.core.errors import Refused
from reckoner.core.translation import tr
from reckoner.store.backend import refusal_of
from reckoner.store.errors import DatabaseDamaged, DatabaseNotOurs

DATABASE = "reckoner.sqlite"
"""What the database is called in its folder."""

SIDES = ("-wal", "-shm", "-journal")
HEADER = b"SQLite format 3\x00"
EMPTY = 10
"""A copy of which more than one page in so many is empty, as after traces were archived, is packed."""


def sides(path: Path) -> list[Path]:
    """The files beside ``path`` that belong to it."""
    return [found for end in SIDES if (found := path.with_name(path.name + end)).exists()]


def look_at(path: Path) -> None:
    """Refuse what is no whole SQLite file, by its first hundred bytes and its length.

    Raises DatabaseNotOurs, DatabaseDamaged, OSError."""
    with path.open("rb") as file:
        head = file.read(100)
    if not head.startswith(HEADER):
        raise DatabaseNotOurs(path, tr("it is no database") if head else tr("it is empty"))
    if len(head) < 100:
        raise DatabaseDamaged(path, tr("it ends in its first line"))
    (size,) = struct.unpack(">H", head[16:18])
    changes, pages, known = (struct.unpack(">I", head[i : i + 4])[0] for i in (24, 28, 92))
    page = 65536 if size == 1 else size
    if changes == known and pages and not sides(path) and path.stat().st_size < pages * page:
        raise DatabaseDamaged(
            path, tr("it ends after {st_size} of {pages} bytes", st_size=path.stat().st_size, pages=pages * page)
        )


def settle(path: Path) -> None:
    """Let SQLite take back what a killed program left half done in its journal; who opens for reading only cannot. Raises
    sqlite3.Error."""
    if path.exists() and path.with_name(f"{path.name}-journal").exists():
        with closing(sqlite3.connect(uri(path, "rw"), uri=True, timeout=10)) as connection:
            connection.execute("SELECT count(*) FROM sqlite_master").fetchone()


def put_in_place(made: Path, path: Path) -> bool:
    """Give a finished file its name, flushed to the disk; False when something of that name came first."""
    flush(made)
    try:
        os.link(made, path)
    except FileExistsError:
        return False
    finally:
        made.unlink(missing_ok=True)
    flush(path.parent)
    return True


def replace(made: Path, path: Path) -> None:
    """The same, in place of what is there."""
    flush(made)
    made.replace(path)
    flush(path.parent)


def flush(path: Path) -> None:
    """What was written of a file, or the names in a folder, reach the disk before this returns."""
    descriptor = os.open(path, os.O_RDONLY)
    try:
        os.fsync(descriptor)
    finally:
        os.close(descriptor)


def uri(path: Path, mode: str) -> str:
    """The URI of a path, whatever signs its name holds. What is only read where nobody can write, with nothing beside it, is
    taken as it stands: SQLite could not make there what it keeps beside."""
    as_it_stands = mode == "ro" and not sides(path) and not os.access(path.parent, os.W_OK)
    return f"{path.absolute().as_uri()}?mode={mode}{'&immutable=1' if as_it_stands else ''}"


def copy(source: Path, target: Path) -> None:
    """A whole, checked copy of a database that may be in use, written beside and given its name at the end.

    Raises sqlite3.Error, OSError, DatabaseDamaged when what was copied is not whole; ``target`` is then as before.
    """
    with beside(target) as made:
        with (
            closing(sqlite3.connect(uri(source, "ro"), uri=True, timeout=10)) as one,
            closing(sqlite3.connect(made)) as other,
        ):
            one.backup(other)
            free, pages = (other.execute(f"PRAGMA {name}").fetchone()[0] for name in ("freelist_count", "page_count"))
            if free * EMPTY > pages:
                other.execute("VACUUM")
            other.execute("PRAGMA journal_mode = DELETE")
        check(made)
        replace(made, target)


class DatabaseCheck:
    """Reading a database through, with its links; another thread may ``stop`` it."""

    def __init__(self, path: Path) -> None:
        self.path = path
        self._connection: sqlite3.Connection | None = None
        self._stopped = False

    def run(self) -> bool:
        """True when it is whole, False when it was stopped. Raises DatabaseDamaged with the first thing that is wrong,
        StoreRefused where it cannot be looked at."""
        path = self.path
        try:
            reading = sqlite3.connect(uri(path, "ro"), uri=True, timeout=10, check_same_thread=False)
            with closing(reading) as self._connection:
                if self._stopped:
                    return False
                answer = str(reading.execute("PRAGMA integrity_check(1)").fetchone()[0])
                if answer != "ok":
                    raise DatabaseDamaged(path, answer.splitlines()[0])
                broken = reading.execute("PRAGMA foreign_key_check").fetchone()
                if broken is not None:
                    raise DatabaseDamaged(
                        path,
                        tr(
                            "a row of {broken} names one of {broken_2} that is not there",
                            broken=broken[0],
                            broken_2=broken[2],
                        ),
                    )
        except sqlite3.DatabaseError as fault:
            if self._stopped:
                return False
            raise refused(path, fault) from fault
        finally:
            self._connection = None
        return not self._stopped

    def anew(self) -> DatabaseCheck:
        """One that reads the same file from the beginning."""
        return DatabaseCheck(self.path)

    def stop(self) -> None:
        """Let it end at once."""
        self._stopped = True
        connection = self._connection
        if connection is not None:
            with suppress(sqlite3.ProgrammingError):  # it has ended at this very moment
                connection.interrupt()


def check(path: Path) -> None:
    """Read a database through, with its links. Raises DatabaseDamaged with the first thing that is wrong."""
    DatabaseCheck(path).run()


def revision_of(path: Path) -> str | None:
    """The version that wrote a database; None for one that is not Reckoner's. Raises StoreRefused."""
    try:
        with closing(sqlite3.connect(uri(path, "ro"), uri=True, timeout=10)) as connection:
            names = {row[0] for row in connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
            if "alembic_version" not in names:
                return None
            found = connection.execute("SELECT version_num FROM alembic_version").fetchone()
            return str(found[0]) if found else None
    except sqlite3.DatabaseError as fault:
        raise refused(path, fault) from fault


def refused(path: Path, fault: sqlite3.Error) -> Refused:
    """What ``fault`` means while a database is looked at: a full disk, a closed folder and a busy one are no damage."""
    told = refusal_of(path, fault)
    return told if isinstance(told, Refused) else DatabaseDamaged(path, str(fault))
