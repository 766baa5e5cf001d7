"""Opening the database; with ``guards`` and ``engine``, all that knows which one it is.

SQLite in WAL mode, each commit flushed to the disk before it returns: a reading that was shown has been kept. Every unit of
work begins with ``BEGIN IMMEDIATE`` and is committed as a whole. A ``Database`` belongs to the thread that opened it; every
other thread is refused. It opens, and is read from, before SQLAlchemy has loaded; a unit of work loads it.
"""

from __future__ import annotations

import os
import socket
import sqlite3
import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING

from reckoner.core.errors import Refused
from reckoner.store import files
from reckoner.store.errors import (
    DatabaseBusy,
    DatabaseNewer,
    DatabaseNotOurs,
    DatabaseReplaced,
    DirectoryNotWritable,
    DiskFull,
    LookingOn,
    WriteFailed,
    WrongThread,
)
from reckoner.store.failures import refusal_of
from reckoner.store.reader import Reader
from reckoner.store.revisions import newest_revision, revisions

if TYPE_CHECKING:
    from sqlalchemy import Engine
    from sqlalchemy.orm import Session

FILE = files.DATABASE

PATIENCE = 10.0


class Database:
    """An open database in ``folder``; ``looking_on`` opens it for reading only, as it is.

    A new one is made beside and given its name when it is whole. Before an old one is upgraded a checked copy of it is kept,
    until the folder's owner removes it. Raises StoreRefused.
    """

    def __init__(self, folder: Path, *, looking_on: bool = False, patience: float = PATIENCE) -> None:
        """``patience`` in s is how long another program's unit of work is waited for."""
        self.path = folder / FILE
        self._patience = patience
        self.looking_on = looking_on
        self.station: Callable[[], str] = socket.gethostname
        """How the station is called at which all of this is done."""
        self._thread = threading.get_ident()
        self._closing: list[Callable[[], None]] = []
        if not looking_on:
            require_writable(folder)
        try:
            self._open()
        except sqlite3.DatabaseError as fault:
            told = refusal_of(self.path, fault)
            if told is None:
                raise
            raise told from fault
        except OSError as fault:
            raise _refused_by_the_disk(self.path, fault) from fault

    def _open(self) -> None:
        if not self.path.exists() and not self.looking_on:
            self._make()
        files.settle(self.path)
        files.look_at(self.path)
        revision = files.revision_of(self.path)
        if revision is None:
            raise DatabaseNotOurs(self.path, "its tables are another program's")
        if revision not in revisions():
            raise DatabaseNewer(self.path, revision)
        self.connection = connected(self.path, looking_on=self.looking_on, patience=self._patience)
        if revision != newest_revision():
            if self.looking_on:
                raise DatabaseBusy(self.path, "it is being upgraded")
            self._upgrade(revision)
        self._identity = _identity(self.path)

    def _make(self) -> None:
        """A new database, made beside and put in place whole."""
        from reckoner.store.engine import engine_over
        from reckoner.store.migrate import upgrade  # Alembic loads only when there is something to do

        with _beside(self.path) as beside:
            connection = connected(beside, journal="DELETE")
            upgrade(engine_over(connection))
            connection.close()

    def _upgrade(self, revision: str) -> None:
        """Keep a checked copy, once, and bring the database to the newest revision in one transaction."""
        from reckoner.store.migrate import upgrade

        kept = self.path.with_suffix(f".before-{newest_revision()}.sqlite")
        if not kept.exists() or files.revision_of(kept) != revision:
            files.copy(self.path, kept)
        upgrade(self.engine)

    @cached_property
    def engine(self) -> Engine:
        """The engine over the one connection."""
        from reckoner.store.engine import engine_over

        return engine_over(self.connection, looking_on=self.looking_on)

    @contextmanager
    def reading(self) -> Iterator[Reader]:
        """To read what was committed, all of it as it is at one moment.

        Raises WrongThread outside the owner's thread, StoreRefused when the file is gone or damaged.
        """
        self._require_owner()
        try:
            self.connection.execute("BEGIN")
            yield Reader(self.connection)
            self._require_same_file()
        except sqlite3.DatabaseError as fault:
            told = refusal_of(self.path, fault)
            if told is None:
                raise
            raise told from fault
        finally:
            if self.connection.in_transaction:
                self.connection.execute("ROLLBACK")

    @contextmanager
    def browsing(self) -> Iterator[Session]:
        """To read through the typed models, all of it as it is at one moment; holds up nobody, and writes nothing.

        Raises WrongThread outside the owner's thread, StoreRefused when the file is gone or damaged.
        """
        self._require_owner()
        from reckoner.store.engine import DatabaseError, unit_of_work

        with unit_of_work(self.engine, self.station(), reads=True) as session:
            try:
                yield session
                self._require_same_file()
            except DatabaseError as fault:
                told = refusal_of(self.path, fault.orig) if fault.orig is not None else None
                if told is None:
                    raise
                raise told from fault
            finally:
                session.rollback()

    @contextmanager
    def session(self) -> Iterator[Session]:
        """A unit of work: committed at the end, rolled back on any error.

        Raises WrongThread outside the owner's thread, StoreRefused when the disk will not take it or the file is gone.
        """
        self._require_owner()
        from reckoner.store.engine import DatabaseError, link_new, unit_of_work

        with unit_of_work(self.engine, self.station()) as session:
            try:
                yield session
                link_new(session)
                self._require_same_file()
                session.commit()
                self._require_same_file()
            except DatabaseError as fault:
                session.rollback()
                told = refusal_of(self.path, fault.orig) if fault.orig is not None else None
                if told is None:
                    raise
                raise (LookingOn(self.path) if self.looking_on and isinstance(told, WriteFailed) else told) from fault

    def _require_owner(self) -> None:
        if threading.get_ident() != self._thread:
            raise WrongThread

    def _require_same_file(self) -> None:
        if _identity(self.path) != self._identity:
            raise DatabaseReplaced(self.path)

    def pack(self) -> None:
        """Let the file be no larger than what it holds. Raises WrongThread, StoreRefused."""
        self._require_owner()
        try:
            self.connection.execute("VACUUM")
        except sqlite3.DatabaseError as fault:
            told = refusal_of(self.path, fault)
            if told is None:
                raise
            raise told from fault

    def with_closing(self, call: Callable[[], None]) -> None:
        """Call ``call`` once it is closed, as to let the folder's lock go."""
        self._closing.append(call)

    def close(self) -> None:
        self.connection.close()
        while self._closing:
            self._closing.pop()()


def _refused_by_the_disk(path: Path, fault: OSError) -> Refused:
    import errno

    why = fault.strerror or str(fault)
    if fault.errno in (errno.ENOSPC, errno.EDQUOT):
        return DiskFull(path, why)
    if fault.errno in (errno.EACCES, errno.EPERM, errno.EROFS):
        return DirectoryNotWritable(path, why)
    return WriteFailed(path, why)


@contextmanager
def _beside(path: Path) -> Iterator[Path]:
    """Where a new database is made; it is given its name when it is whole. What killed openings have left is cleared away."""
    for left in path.parent.glob(f".{FILE}.*.new*"):
        if not _alive(left):
            left.unlink(missing_ok=True)
    for side in files.sides(path):  # of a database that is gone; they would spoil the new one
        side.replace(side.with_name(f"{side.name}.left-over"))
    beside = path.with_name(f".{FILE}.{os.getpid()}.new")
    beside.unlink(missing_ok=True)
    yield beside
    beside.chmod(files.OWNER_ONLY)
    files.put_in_place(beside, path)


def put(folder: Path, content: bytes) -> None:
    """Make the database in ``folder`` that ``content`` is, whole, unless one comes first. Raises StoreRefused."""
    require_writable(folder)
    path = folder / FILE
    if path.exists():  # what lies beside it is its own
        return
    try:
        with _beside(path) as beside:
            beside.write_bytes(content)
    except OSError as fault:
        raise _refused_by_the_disk(path, fault) from fault


def require_writable(folder: Path) -> None:
    """Make ``folder`` where it is not, for its owner alone. Raises DirectoryNotWritable, DiskFull."""
    try:
        if not folder.exists():
            folder.mkdir(parents=True, mode=0o700)
        probe = folder / f".reckoner-writes-{os.getpid()}"
        probe.write_bytes(b"")
        probe.unlink()
    except OSError as fault:
        refusal = _refused_by_the_disk(folder, fault)
        if isinstance(refusal, DiskFull):
            raise refusal from fault
        raise DirectoryNotWritable(folder, fault.strerror or str(fault)) from fault


def _identity(path: Path) -> tuple[int, int] | None:
    """Which file it is, whatever its name; None when it is gone."""
    try:
        found = path.stat()
    except OSError:
        return None
    return found.st_dev, found.st_ino


def _alive(left: Path) -> bool:
    """Whether the program that makes ``left`` (".NAME.PID.new…") still runs."""
    number = left.name.removeprefix(f".{FILE}.").split(".")[0]
    return number.isdigit() and number != str(os.getpid()) and Path(f"/proc/{number}").exists()


def connected(
    path: Path, *, looking_on: bool = False, journal: str = "WAL", patience: float = PATIENCE
) -> sqlite3.Connection:
    """A connection whose transactions are begun by hand, schema statements included."""
    connection = sqlite3.connect(path, timeout=patience, isolation_level=None)
    connection.execute("PRAGMA foreign_keys = ON")
    if looking_on:
        connection.execute("PRAGMA query_only = ON")
    else:
        connection.execute(f"PRAGMA journal_mode = {journal}")
        connection.execute("PRAGMA synchronous = FULL")
    return connection


def data_version(reader: Reader) -> int:
    """A number that is another one once another program has changed the database."""
    return int(reader.value("PRAGMA data_version") or 0)
