"""What a failure of the engine means, by its code: one place for each engine, and no text of it is read.

To add an engine: its codes beside SQLite's.
"""

from __future__ import annotations

import sqlite3
from pathlib import Path

from reckoner.core.errors import OurFault
from reckoner.store.errors import (
    DatabaseBusy,
    DatabaseDamaged,
    DiskFull,
    RecordChanged,
    StoreRefused,
    WriteFailed,
)

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
    return None if kind is None else kind(path, why)


def is_busy(fault: sqlite3.Error) -> bool:
    """Whether another program holds the database."""
    return SQLITE.get(getattr(fault, "sqlite_errorcode", 0) & PRIMARY) is DatabaseBusy
