"""SQLAlchemy over the database's one connection: loaded when something is to be written, or a run to be read."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager

from sqlalchemy import Connection, Engine, create_engine, event
from sqlalchemy.orm import Session, configure_mappers
from sqlalchemy.pool import StaticPool

from reckoner.store.backend import Backend
from reckoner.store.chain import forget, gather, link_new
from reckoner.store.errors import RecordChanged
from reckoner.store.reader import READER
from reckoner.store.schema import Record
from reckoner.store.schema.base import STATION

__all__ = ["engine_over", "link_new", "unit_of_work", "warm_up"]

READS = "reckoner_reads"
"""The option of a connection whose transaction only reads."""


def engine_over(connection: sqlite3.Connection, *, looking_on: bool = False) -> Engine:
    """An engine whose every transaction begins at once as one that writes, so that it never has to become one half way; but
    for those that only read (``unit_of_work``), which hold up nobody."""
    engine = create_engine("sqlite://", creator=lambda: connection, poolclass=StaticPool)

    @event.listens_for(engine, "begin")
    def _begun(connection: Connection) -> None:
        reads = looking_on or connection.get_execution_options().get(READS, False)
        connection.exec_driver_sql("BEGIN" if reads else "BEGIN IMMEDIATE")

    return engine


def warm_up() -> None:
    """Do now what the first unit of work would have to: how the models belong together is worked out."""
    configure_mappers()


@contextmanager
def unit_of_work(backend: Backend, station: str, *, reads: bool = False) -> Iterator[Session]:
    """A session that holds to what is append-only, and notes what is to be linked; ``station`` is where it is worked in. One
    that only ``reads`` raises RecordChanged where anything would be written."""
    bind = backend.engine.execution_options(**{READS: True}) if reads else backend.engine
    with Session(bind, expire_on_commit=False) as session:
        session.info[STATION] = station
        session.info[READER] = backend.reader()
        if reads:
            event.listen(session, "before_flush", _write_nothing)
        event.listen(session, "before_flush", _hold_to_append_only)
        event.listen(session, "after_flush", gather)
        event.listen(session, "after_rollback", forget)
        yield session


def _write_nothing(session: Session, _context: object, _instances: object) -> None:
    for row in (*session.new, *session.dirty, *session.deleted):
        if row in session.new or row in session.deleted or session.is_modified(row):
            raise RecordChanged(f"{row!r}, by what only reads")


def _hold_to_append_only(session: Session, _context: object, _instances: object) -> None:
    for row in session.deleted:
        if isinstance(row, Record):
            raise RecordChanged(repr(row))
    for row in session.dirty:
        if isinstance(row, Record) and session.is_modified(row, include_collections=False):
            raise RecordChanged(repr(row))
