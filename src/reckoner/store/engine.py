"""SQLAlchemy over the database's one connection: loaded when something is to be written, or a run to be read."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager

from sqlalchemy import Connection, Engine, create_engine, event
from sqlalchemy.exc import DatabaseError
from sqlalchemy.orm import Session, configure_mappers
from sqlalchemy.pool import StaticPool

from reckoner.store.chain import forget, gather, link_new
from reckoner.store.errors import RecordChanged
from reckoner.store.schema import Record
from reckoner.store.schema.base import STATION

__all__ = ["DatabaseError", "engine_over", "link_new", "unit_of_work", "warm_up"]


def engine_over(connection: sqlite3.Connection, *, looking_on: bool = False) -> Engine:
    """An engine whose every transaction begins at once as one that writes, so that it never has to become one half way."""
    engine = create_engine("sqlite://", creator=lambda: connection, poolclass=StaticPool)

    @event.listens_for(engine, "begin")
    def _begun(connection: Connection) -> None:
        connection.exec_driver_sql("BEGIN" if looking_on else "BEGIN IMMEDIATE")

    return engine


def warm_up() -> None:
    """Do now what the first unit of work would have to: how the models belong together is worked out."""
    configure_mappers()


@contextmanager
def unit_of_work(engine: Engine, station: str = "") -> Iterator[Session]:
    """A session that holds to what is append-only, and notes what is to be linked; ``station`` is where it is worked in."""
    with Session(engine, expire_on_commit=False) as session:
        session.info[STATION] = station
        event.listen(session, "before_flush", _hold_to_append_only)
        event.listen(session, "after_flush", gather)
        event.listen(session, "after_rollback", forget)
        yield session


def _hold_to_append_only(session: Session, _context: object, _instances: object) -> None:
    for row in session.deleted:
        if isinstance(row, Record):
            raise RecordChanged(repr(row))
    for row in session.dirty:
        if isinstance(row, Record) and session.is_modified(row, include_collections=False):
            raise RecordChanged(repr(row))
