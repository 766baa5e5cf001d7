"""Bringing a database to the newest revision, through Alembic.

What the database itself refuses, engine by engine: the one place where their dialects differ.

A record is never changed or removed, not even by another program or by hand: a trigger on each table of records says so.
Migrations put the guards down while they work (``lowered``), and they stand again before anything is committed.

To add an engine: a row in ``GUARDS`` with its statements.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager

from alembic import command
from alembic.config import Config
from sqlalchemy import Connection, Engine

from reckoner.core.errors import UnreachableError
from reckoner.store import revisions
from reckoner.store.errors import LinksBroken
from reckoner.store.schema import Base, Record

GUARD_WORDS = "a record is never changed"
"""How a guard's refusal begins."""


def record_tables() -> tuple[str, ...]:
    """The tables of records, by name."""
    return tuple(sorted(m.local_table.name for m in Base.registry.mappers if issubclass(m.class_, Record)))  # type: ignore[attr-defined]


ALLOWED = {
    "trace": "OLD.archived = '' AND NEW.archived > '' AND length(NEW.samples) = 0 AND NEW.id = OLD.id "
    "AND NEW.observation_id = OLD.observation_id AND NEW.rate = OLD.rate AND NEW.faults = OLD.faults "
    "AND NEW.over_travel IS OLD.over_travel AND NEW.time_80_to_100 IS OLD.time_80_to_100"
}
"""Table → the one change of its rows that is let through: samples that went to an archive leave their digest. The chain finds
a digest that is not theirs."""


def _sqlite(table: str) -> tuple[str, ...]:
    unless = {"update": f"WHEN NOT ({ALLOWED[table]}) " if table in ALLOWED else "", "delete": ""}
    return tuple(
        f"CREATE TRIGGER guard_{table}_{act} BEFORE {act.upper()} ON {table} {unless[act]}"
        f"BEGIN SELECT RAISE(ABORT, '{GUARD_WORDS}: {table}'); END"
        for act in ("update", "delete")
    )


GUARDS: dict[str, Callable[[str], tuple[str, ...]]] = {"sqlite": _sqlite}
"""Engine → the statements that guard a table."""


def _of(connection: Connection) -> Callable[[str], tuple[str, ...]]:
    found = GUARDS.get(connection.dialect.name)
    if found is None:
        raise UnreachableError(connection.dialect.name)
    return found


def standing_guards(connection: Connection) -> tuple[str, ...]:
    """The names of the guards that are there."""
    names = connection.exec_driver_sql("SELECT name FROM sqlite_master WHERE type = 'trigger' AND name LIKE 'guard_%'")
    return tuple(names.scalars())


@contextmanager
def lowered(connection: Connection) -> Iterator[None]:
    """While the tables themselves change. In the same transaction, so that no one ever sees them down."""
    make = _of(connection)
    for name in standing_guards(connection):
        connection.exec_driver_sql(f"DROP TRIGGER {name}")
    yield
    for table in record_tables():
        for statement in make(table):
            connection.exec_driver_sql(statement)


def configuration() -> Config:
    config = Config()
    config.set_main_option("script_location", str(revisions.MIGRATIONS))
    config.set_main_option("path_separator", "os")
    return config


def upgrade(engine: Engine, revision: str = "head") -> None:
    """Run every revision that the database lacks, in one transaction: all of them, or none.

    SQLite changes a table by copying it, for which its foreign keys rest meanwhile; they are checked before the commit.
    """
    config = configuration()
    with engine.connect() as connection:
        lite = engine.dialect.name == "sqlite"
        _links(connection, rest=lite)
        with connection.begin():
            config.attributes["connection"] = connection
            if revision == "head":
                with lowered(connection):
                    command.upgrade(config, revision)
            else:
                command.upgrade(config, revision)
            if lite:
                _check_links(connection)
        _links(connection, rest=False)


def _links(connection: Connection, *, rest: bool) -> None:
    """Let SQLite's foreign keys rest, or hold again; only outside a transaction does it listen."""
    raw = connection.connection.driver_connection
    if raw is not None and connection.dialect.name == "sqlite":
        raw.execute(f"PRAGMA foreign_keys = {'OFF' if rest else 'ON'}")


def _check_links(connection: Connection) -> None:
    """Raises LinksBroken, and so undoes the upgrade, when a row names one that is not there."""
    broken = connection.exec_driver_sql("PRAGMA foreign_key_check").first()
    if broken is not None:
        raise LinksBroken(str(broken[0]))
