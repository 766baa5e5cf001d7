"""Bringing a database to the newest revision, through Alembic."""

from __future__ import annotations

from alembic import command
from alembic.config import Config
from sqlalchemy import Connection, Engine

from reckoner.store import revisions
from reckoner.store.errors import LinksBroken
from reckoner.store.guards import lowered


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
