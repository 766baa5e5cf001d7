"""Bringing a database to the newest revision, through Alembic."""

from __future__ import annotations

from pathlib import Path

from alembic import command
from alembic.config import Config
from sqlalchemy import Connection, Engine

from reckoner.store.guards import lowered


def configuration() -> Config:
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    config.set_main_option("path_separator", "os")
    return config


def upgrade(engine: Engine, revision: str = "head") -> None:
    """Run every revision that the database lacks, in one transaction.

    SQLite changes a table by copying it, for which its foreign keys rest meanwhile; they are checked before the commit.
    """
    config = configuration()
    with engine.connect() as connection:
        lite = engine.dialect.name == "sqlite"
        if lite:
            connection.exec_driver_sql("PRAGMA foreign_keys = OFF")
            connection.commit()
        with connection.begin():
            config.attributes["connection"] = connection
            if revision == "head":
                with lowered(connection):
                    command.upgrade(config, revision)
            else:
                command.upgrade(config, revision)
            if lite:
                _check_links(connection)
        if lite:
            connection.exec_driver_sql("PRAGMA foreign_keys = ON")
            connection.commit()


def _check_links(connection: Connection) -> None:
    """Raises LinksBroken, and so undoes the upgrade, when a row names one that is not there."""
    broken = connection.exec_driver_sql("PRAGMA foreign_key_check").first()
    if broken is not None:
        from reckoner.store.errors import LinksBroken

        raise LinksBroken(str(broken[0]))
