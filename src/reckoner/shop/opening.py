"""Opening a shop: its database, brought up to date, with every standing in place."""

from __future__ import annotations

from pathlib import Path

from sqlalchemy import select

from reckoner.shop import standing
from reckoner.store.database import Database, require_writable
from reckoner.store.lock import FolderLock
from reckoner.store.schema import Person


def open_shop(folder: Path) -> Database:
    """The database in ``folder``, ready for use on this thread. Raises StoreRefused."""
    database = Database(folder)
    standing.ensure(database)
    return database


def open_for_a_window(folder: Path, *, looking_on: bool = False) -> Database:
    """The same, for a window that holds the folder alone until it is closed; ``looking_on`` reads beside the one that does.

    Raises FolderHeld when another window has it, StoreRefused.
    """
    if looking_on:
        return Database(folder, looking_on=True)
    require_writable(folder)
    lock = FolderLock(folder)
    try:
        database = open_shop(folder)
    except BaseException:
        lock.release()
        raise
    database.with_closing(lock.release)
    return database


def is_empty(database: Database) -> bool:
    """Whether nothing was ever written into the register."""
    with database.session() as session:
        return session.scalar(select(Person.id).limit(1)) is None
