"""The engine that is one file: SQLite in WAL mode, each commit flushed to the disk before it returns, so that a reading that
was shown has been kept. It opens, and is read from, before SQLAlchemy has loaded."""

from __future__ import annotations

import os
import sqlite3
from collections.abc import Iterator
from contextlib import ExitStack, closing, contextmanager
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING

from reckoner.beside import beside
from reckoner.core.errors import OurFault
from reckoner.core.translation import tr
from reckoner.store import files
from reckoner.store.backend import refusal_of, refused_by_the_disk
from reckoner.store.errors import (
    DatabaseBusy,
    DatabaseNewer,
    DatabaseNotOurs,
    DatabaseReplaced,
    DirectoryNotWritable,
    DiskFull,
    StoreRefused,
)
from reckoner.store.lock import FolderLock
from reckoner.store.reader import Reader
from reckoner.store.revisions import newest_revision, revisions

if TYPE_CHECKING:
    from sqlalchemy import Connection, Engine


class SqliteFile:
    """A ``Backend``: the database file in ``folder``.

    A new one is made beside and given its name when it is whole. Before an old one is upgraded a checked copy of it is kept,
    until the folder's owner removes it. ``patience`` in s is how long another program's unit of work is waited for.
    """

    def __init__(self, folder: Path, patience: float) -> None:
        self.folder = folder
        self.path = folder / files.DATABASE
        self._patience = patience
        self._looking_on = False
        self._closing = ExitStack()
        self._identity: tuple[int, int] | None = None

    def hold(self) -> None:
        """Have the folder alone. Raises FolderHeld, DirectoryNotWritable."""
        require_writable(self.folder)
        self._closing.callback(FolderLock(self.folder).release)

    def open(self, *, looking_on: bool) -> None:
        """Open the file, and make it where there is none. Raises StoreRefused, sqlite3.Error."""
        self._looking_on = looking_on
        if not looking_on:
            require_writable(self.folder)
        try:
            self._open()
        except OSError as fault:
            raise refused_by_the_disk(self.path, fault) from fault

    def _open(self) -> None:
        if not self.path.exists() and not self._looking_on:
            self._make()
        files.settle(self.path)
        files.look_at(self.path)
        revision = files.revision_of(self.path)
        if revision is None:
            raise DatabaseNotOurs(self.path, tr("its tables are another program's"))
        if revision not in revisions():
            raise DatabaseNewer(self.path, revision)
        self.connection = connected(self.path, self._patience, looking_on=self._looking_on)
        self._closing.callback(self.connection.close)
        if revision != newest_revision():
            if self._looking_on:
                raise DatabaseBusy(self.path, tr("it is being upgraded"))
            self._upgrade(revision)
        self._identity = _identity(self.path)

    def _make(self) -> None:
        """A new database, made beside and put in place whole."""
        from reckoner.store.engine import engine_over  # loads numpy
        from reckoner.store.migrate import upgrade  # Alembic loads only when there is something to do

        with _made_whole(self.path) as made, closing(connected(made, self._patience, journal="DELETE")) as connection:
            upgrade(engine_over(connection))

    def _upgrade(self, revision: str) -> None:
        """Keep a checked copy, once, and bring the database to the newest revision in one transaction."""
        from reckoner.store.migrate import upgrade  # loads alembic

        kept = self.path.with_suffix(f".before-{newest_revision()}.sqlite")
        if not kept.exists() or files.revision_of(kept) != revision:
            files.copy(self.path, kept)
        upgrade(self.engine)

    def close(self) -> None:
        """Close the file, and then let the folder go."""
        self._closing.close()

    @cached_property
    def engine(self) -> Engine:
        """The engine over the one connection."""
        from reckoner.store.engine import engine_over  # loads numpy

        return engine_over(self.connection, looking_on=self._looking_on)

    def reader(self) -> Reader:
        return Reader(self.connection, self.folder)

    @contextmanager
    def at_one_moment(self) -> Iterator[None]:
        """A transaction that only reads."""
        self.connection.execute("BEGIN")
        try:
            yield
        finally:
            if self.connection.in_transaction:
                self.connection.execute("ROLLBACK")

    def require_same(self) -> None:
        """Raises DatabaseReplaced when another file, or none, has its name."""
        if _identity(self.path) != self._identity:
            raise DatabaseReplaced(self.path)

    def refusal_of(self, fault: BaseException) -> StoreRefused | OurFault | None:
        return refusal_of(self.path, fault)

    def pack(self) -> None:
        self.connection.execute("VACUUM")


def connected(path: Path, patience: float, *, looking_on: bool = False, journal: str = "WAL") -> sqlite3.Connection:
    """A connection whose transactions are begun by hand, schema statements included."""
    where = files.uri(path, "ro" if looking_on else "rwc")
    connection = sqlite3.connect(where, uri=True, timeout=patience, isolation_level=None)
    connection.execute("PRAGMA foreign_keys = ON")
    if looking_on:
        connection.execute("PRAGMA query_only = ON")
    else:
        connection.execute(f"PRAGMA journal_mode = {journal}")
        connection.execute("PRAGMA synchronous = FULL")
    return connection


@contextmanager
def _made_whole(path: Path) -> Iterator[Path]:
    """Where a new database is made; it is given its name when it is whole."""
    for side in files.sides(path):  # of a database that is gone; they would spoil the new one
        side.replace(side.with_name(f"{side.name}.left-over"))
    with beside(path) as made:
        yield made
        files.put_in_place(made, path)


def put(folder: Path, content: bytes) -> None:
    """Make the database in ``folder`` that ``content`` is, whole, unless one comes first. Raises StoreRefused."""
    require_writable(folder)
    path = folder / files.DATABASE
    if path.exists():  # what lies beside it is its own
        return
    try:
        with _made_whole(path) as made:
            made.write_bytes(content)
    except OSError as fault:
        raise refused_by_the_disk(path, fault) from fault


def require_writable(folder: Path) -> None:
    """Make ``folder`` where it is not, for its owner alone. Raises DirectoryNotWritable, DiskFull."""
    try:
        if not folder.exists():
            folder.mkdir(parents=True, mode=0o700)
        probe = folder / f".reckoner-writes-{os.getpid()}"
        probe.write_bytes(b"")
        probe.unlink()
    except OSError as fault:
        refusal = refused_by_the_disk(folder, fault)
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


def broken_references(connection: Connection) -> tuple[tuple[str, int, str], ...]:
    """Rows that name a row which is gone: table, id, and the table of what is named. Another engine lets none be."""
    if connection.dialect.name != "sqlite":
        return ()
    found = connection.exec_driver_sql("PRAGMA foreign_key_check").all()
    return tuple((str(table), int(row_id or 0), str(names)) for table, row_id, names, _key in found)
