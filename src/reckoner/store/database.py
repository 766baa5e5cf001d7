"""Opening the database; with ``guards``, all that knows the engine.

SQLite in WAL mode, each commit flushed to the disk before it returns: a reading that was shown has been kept.
A ``Database`` belongs to the thread that opened it; every other thread is refused.
"""

from __future__ import annotations

import os
import shutil
import sqlite3
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from sqlalchemy import Engine, create_engine, event
from sqlalchemy.exc import DatabaseError
from sqlalchemy.orm import Session

from reckoner.core.errors import OurFault, Refused
from reckoner.store.errors import (
    DatabaseBusy,
    DatabaseDamaged,
    DatabaseNewer,
    DirectoryNotWritable,
    RecordChanged,
    WriteFailed,
    WrongThread,
)
from reckoner.store.guards import WORDS
from reckoner.store.schema import Record

FILE = "reckoner.sqlite"

HEAD = "0003"
"""The newest revision in ``migrations/versions``. To add one: write it there, and name it here."""

REVISIONS = ("0001", "0002", "0003")
"""Every revision, oldest first."""


class Database:
    """An open database in ``folder``. ``session()`` gives a unit of work that is committed as a whole or not at all."""

    def __init__(self, folder: Path) -> None:
        self.path = folder / FILE
        self._thread = threading.get_ident()
        _require_writable(folder)
        fresh = not self.path.exists()
        if not fresh:
            self._examine()
        self.engine = _engine(self.path)
        revision = None if fresh else self._revision()
        if revision != HEAD:
            self._upgrade(revision)

    def _examine(self) -> None:
        """Refuse a file that is not a whole SQLite database, before anything opens it for writing."""
        try:
            with sqlite3.connect(f"file:{self.path}?mode=rw", uri=True, timeout=5) as probe:
                answer = probe.execute("PRAGMA quick_check(1)").fetchone()[0]
            probe.close()
        except sqlite3.OperationalError as fault:
            if "locked" in str(fault):
                raise DatabaseBusy(self.path, str(fault)) from fault
            if "unable to open" in str(fault) or "readonly" in str(fault):
                raise DirectoryNotWritable(self.path, str(fault)) from fault
            raise DatabaseDamaged(self.path, str(fault)) from fault
        except sqlite3.DatabaseError as fault:
            raise DatabaseDamaged(self.path, str(fault)) from fault
        if answer != "ok":
            raise DatabaseDamaged(self.path, str(answer).splitlines()[0])

    def _revision(self) -> str | None:
        with self.engine.connect() as connection:
            names = connection.exec_driver_sql("SELECT name FROM sqlite_master WHERE type = 'table'").scalars().all()
            if "alembic_version" not in names:
                if names:
                    raise DatabaseDamaged(self.path, "it is not one of Reckoner's")
                return None
            found = connection.exec_driver_sql("SELECT version_num FROM alembic_version").scalar()
        if found is not None and found not in REVISIONS:
            raise DatabaseNewer(self.path, str(found))
        return found

    def _upgrade(self, revision: str | None) -> None:
        from reckoner.store.migrate import upgrade  # Alembic loads only when there is something to do

        if revision is not None:
            shutil.copy2(self.path, self.path.with_suffix(f".before-{HEAD}.sqlite"))
        upgrade(self.engine)

    @contextmanager
    def session(self) -> Iterator[Session]:
        """A unit of work: committed at the end, rolled back on any error.

        Raises WrongThread outside the owner's thread, WriteFailed or DatabaseBusy when the disk will not take it.
        """
        if threading.get_ident() != self._thread:
            raise WrongThread
        with Session(self.engine, expire_on_commit=False) as session:
            event.listen(session, "before_flush", _hold_to_append_only)
            try:
                yield session
                session.commit()
            except DatabaseError as fault:
                session.rollback()
                told = _told(self.path, str(fault.orig))
                if told is None:
                    raise
                raise told from fault

    def close(self) -> None:
        self.engine.dispose()


SAID = {
    "locked": DatabaseBusy,
    "full": WriteFailed,
    "readonly": WriteFailed,
    "disk I/O": WriteFailed,
    "unable to open": WriteFailed,
    "malformed": DatabaseDamaged,
    "not a database": DatabaseDamaged,
    WORDS: RecordChanged,
}
"""What the engine says, and what it means; anything else is a fault of ours."""


def _told(path: Path, why: str) -> Refused | OurFault | None:
    kind = next((kind for words, kind in SAID.items() if words in why), None)
    if kind is None:
        return None
    return RecordChanged(why) if kind is RecordChanged else kind(path, why)


def _require_writable(folder: Path) -> None:
    try:
        folder.mkdir(parents=True, exist_ok=True)
        probe = folder / f".reckoner-writes-{os.getpid()}"
        probe.write_bytes(b"")
        probe.unlink()
    except OSError as fault:
        raise DirectoryNotWritable(folder, fault.strerror or str(fault)) from fault


def _engine(path: Path) -> Engine:
    engine = create_engine(f"sqlite:///{path}", connect_args={"timeout": 10})

    @event.listens_for(engine, "connect")
    def _pragmas(connection: sqlite3.Connection, _record: object) -> None:
        connection.execute("PRAGMA journal_mode = WAL")
        connection.execute("PRAGMA synchronous = FULL")
        connection.execute("PRAGMA foreign_keys = ON")

    return engine


def _hold_to_append_only(session: Session, _context: object, _instances: object) -> None:
    for row in session.deleted:
        if isinstance(row, Record):
            raise RecordChanged(repr(row))
    for row in session.dirty:
        if isinstance(row, Record) and session.is_modified(row, include_collections=False):
            raise RecordChanged(repr(row))
