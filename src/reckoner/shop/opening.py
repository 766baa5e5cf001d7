"""Opening a shop: its database, brought up to date, with every standing in place."""

from __future__ import annotations

from pathlib import Path

from sqlalchemy import select

from reckoner.shop import standing
from reckoner.store.database import Database
from reckoner.store.schema import Person


def open_shop(folder: Path) -> Database:
    """The database in ``folder``, ready for use on this thread. Raises StoreRefused."""
    database = Database(folder)
    standing.ensure(database)
    return database


def is_empty(database: Database) -> bool:
    """Whether nothing was ever written into the register."""
    with database.session() as session:
        return session.scalar(select(Person.id).limit(1)) is None
