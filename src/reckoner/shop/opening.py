"""Opening a shop: its database, brought up to date, with every projection in place."""

from __future__ import annotations

from pathlib import Path

from reckoner.store.backup import clear_left_over
from reckoner.store.database import Database


def open_shop(folder: Path, *, alone: bool = False) -> Database:
    """The database in ``folder``, ready for use on this thread; ``alone`` for a window. Raises FolderHeld, StoreRefused."""
    database = Database(folder, alone=alone)
    if alone:
        clear_left_over(folder)
    try:
        _project(database)
    except BaseException:
        database.close()
        raise
    return database


def _project(database: Database) -> None:
    """Make the projections that an upgrade has left to be made."""
    with database.reading() as reader:
        tools, standings, listed, shown = (
            reader.value(f"SELECT count(*) FROM {rows}")
            for rows in ("tool", "tool_standing", "tool_listing", "tool WHERE NOT removed")
        )
    if tools != standings or listed != shown:
        rebuild(database, standings=tools != standings)


def rebuild(database: Database, *, standings: bool = True) -> int:
    """Every listing anew from the register, and every standing from the records; returns how many were others before."""
    from reckoner.shop.events import projection  # loads numpy
    from reckoner.shop.register import listing

    with database.session() as session:
        return (projection.rebuild(session) if standings else 0) + listing.rebuild(session)


def open_for_a_window(folder: Path, *, looking_on: bool = False) -> Database:
    """The same, for a window that holds the folder alone until it is closed; ``looking_on`` reads beside the one that does.

    Raises FolderHeld when another window has it, StoreRefused.
    """
    return Database(folder, looking_on=True) if looking_on else open_shop(folder, alone=True)


def is_empty(database: Database) -> bool:
    """Whether nothing was ever written into the register."""
    with database.reading() as reader:
        return reader.value("SELECT id FROM person LIMIT 1") is None
