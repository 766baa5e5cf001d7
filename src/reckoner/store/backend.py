"""What an engine gives that keeps a shop's database: all in which one differs from another.

``Database`` asks it, and everything above is blind to which it is. ``SqliteFile`` (``sqlitefile``) is the one there is.

What a failure of the engine means is told by its code, in one place for each engine; no text of it is read.

To add an engine: a class beside that fulfils ``Backend``; its codes in ``refusal_of``, its guards in ``migrate``; how it
writes ``reader.contains``. What must not happen twice is a constraint of the schema on every engine: an open run, a loan, a
place in a history, a certificate's number. So numbers are given out within a unit of work, and whoever loses the race is
refused.
"""

from __future__ import annotations

import errno
import os
import shutil
import sqlite3
from contextlib import AbstractContextManager, suppress
from pathlib import Path
from typing import TYPE_CHECKING, Protocol

from reckoner.core.errors import OurFault
from reckoner.store.errors import (
    DatabaseBusy,
    DatabaseDamaged,
    DirectoryNotWritable,
    DiskFull,
    RecordChanged,
    StoreRefused,
    WriteFailed,
)

if TYPE_CHECKING:
    from sqlalchemy import Engine

    from reckoner.core.errors import OurFault
    from reckoner.store.errors import StoreRefused
    from reckoner.store.reader import Reader


class Backend(Protocol):
    """A shop's database on one thread, from ``open`` to ``close``."""

    folder: Path
    """Where this station keeps what lies beside the database: archives."""

    def hold(self) -> None:
        """Have the shop alone, as a window does, until ``close``. Raises FolderHeld when another window has it."""
        ...

    def open(self, *, looking_on: bool) -> None:
        """Make it where there is none, and bring an old one to the newest revision; ``looking_on`` takes it as it is.

        Raises StoreRefused, and whatever ``refusal_of`` knows."""
        ...

    def close(self) -> None:
        """Let everything go."""
        ...

    @property
    def engine(self) -> Engine:
        """For the typed models; a transaction begins as one that writes, unless it is said to read (``engine.READS``)."""
        ...

    def reader(self) -> Reader:
        """To read by columns, within whatever is under way, and to hear of what other programs change."""
        ...

    def at_one_moment(self) -> AbstractContextManager[None]:
        """What is read meanwhile is as it was at one moment, and nobody is held up."""
        ...

    def require_same(self) -> None:
        """Raises DatabaseReplaced when it is not the one that was opened any more."""
        ...

    def refusal_of(self, fault: BaseException) -> StoreRefused | OurFault | None:
        """What a failure of the engine means, by its code; None for a fault of ours."""
        ...

    def pack(self) -> None:
        """Take no more room than what is kept needs."""
        ...


SQLITE: dict[int, type[StoreRefused]] = {
    sqlite3.SQLITE_BUSY: DatabaseBusy,
    sqlite3.SQLITE_LOCKED: DatabaseBusy,
    sqlite3.SQLITE_FULL: DiskFull,
    sqlite3.SQLITE_READONLY: WriteFailed,
    sqlite3.SQLITE_IOERR: WriteFailed,
    sqlite3.SQLITE_CANTOPEN: WriteFailed,
    sqlite3.SQLITE_PERM: WriteFailed,
    sqlite3.SQLITE_CORRUPT: DatabaseDamaged,
    sqlite3.SQLITE_NOTADB: DatabaseDamaged,
}
"""Primary result code → what it means; anything else is a fault of ours (SQLite, "Result and Error Codes")."""

LEAST_FREE = 2**16
"""Bytes below which a disk is full for a database: what SQLite makes beside it before it can even be read takes half."""

PRIMARY = 0xFF
"""The part of a code that says the kind of failure; the rest says more of it."""


def refusal_of(path: Path, fault: BaseException) -> StoreRefused | OurFault | None:
    """What ``fault`` means for the database at ``path``; None for a fault of ours."""
    if not isinstance(fault, sqlite3.Error):
        return None
    why, code = str(fault), getattr(fault, "sqlite_errorcode", None)
    if code is None:  # what the module itself cannot read, text that is no UTF-8, has no code
        return DatabaseDamaged(path, why) if type(fault) is sqlite3.OperationalError else None
    if code == sqlite3.SQLITE_CONSTRAINT_TRIGGER:  # only the guards of records refuse so
        return RecordChanged(why)
    kind = SQLITE.get(code & PRIMARY)
    if kind is None:
        return None
    return _by_the_disk(path, why) if kind is WriteFailed else kind(path, why)


def _by_the_disk(path: Path, why: str) -> StoreRefused:
    """Whether it cannot be written because the disk is full, or the folder closed: the engine tells neither apart from a
    disk that fails, where what it cannot make lies beside the database."""
    with suppress(OSError):
        if shutil.disk_usage(path.parent).free < LEAST_FREE:
            return DiskFull(path, why)
        if not os.access(path.parent, os.W_OK):
            return DirectoryNotWritable(path.parent, why)
    return WriteFailed(path, why)


def refused_by_the_disk(path: Path, fault: OSError) -> StoreRefused:
    """What a ``fault`` of the disk means for what is at ``path``."""
    why = fault.strerror or str(fault)
    if fault.errno in (errno.ENOSPC, errno.EDQUOT):
        return DiskFull(path, why)
    if fault.errno in (errno.EACCES, errno.EPERM, errno.EROFS):
        return DirectoryNotWritable(path, why)
    return WriteFailed(path, why)


def is_busy(fault: sqlite3.Error) -> bool:
    """Whether another program holds the database."""
    return SQLITE.get(getattr(fault, "sqlite_errorcode", 0) & PRIMARY) is DatabaseBusy
