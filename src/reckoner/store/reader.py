"""Reading by columns, in plain SQL: what the lists of the window are made of.

A list of a hundred thousand tools is read a page at a time, and the first page before SQLAlchemy has loaded; whatever is
written, and whatever a run is loaded from, goes through the typed models. The statements keep to what every engine knows,
but for ``contains``.
"""

from __future__ import annotations

import sqlite3
from datetime import date
from pathlib import Path
from types import SimpleNamespace
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from sqlalchemy.orm import Session


READER = "reader"
"""What a session calls the reader of its unit of work."""


class Reader:
    """Asks; never changes. A row has its columns as attributes, as they stand in the database."""

    def __init__(self, connection: sqlite3.Connection, folder: Path) -> None:
        self._connection = connection
        self.folder = folder
        """Where the database lies that is read."""

    def rows(self, statement: str, **values: object) -> list[Any]:
        """Every row that the ``statement`` finds; ``:name`` in it stands for a value. Raises sqlite3.Error."""
        found = self._connection.execute(statement, {n: _bound(v) for n, v in values.items()})
        names = [column[0] for column in found.description]
        return [SimpleNamespace(**dict(zip(names, row, strict=True))) for row in found]

    def row(self, statement: str, **values: object) -> Any | None:
        """The first row; None when there is none."""
        return next(iter(self.rows(statement, **values)), None)

    def change_number(self) -> int:
        """Another number than before once another program has changed something."""
        return int(self._connection.execute("PRAGMA data_version").fetchone()[0])

    def value(self, statement: str, **values: object) -> Any:
        """The first column of the first row; None when there is none."""
        found = self._connection.execute(statement, {n: _bound(v) for n, v in values.items()}).fetchone()
        return None if found is None else found[0]


def contains(column: str, name: str) -> str:
    """The condition that the value ``name`` stands somewhere in ``column``: the one thing that engines write differently."""
    return f"instr({column}, :{name}) > 0"


def contains_any_case(column: str, name: str) -> str:
    """The condition that the word whose ``pattern`` the value ``name`` is stands somewhere in ``column``, whatever its case:
    a third of the time that ``contains`` takes of small letters."""
    return f"{column} LIKE :{name} ESCAPE '\\'"


def pattern(word: str) -> str:
    """What ``contains_any_case`` takes for a word.

    >>> pattern("5_0%")
    '%5\\\\_0\\\\%%'
    """
    for special in ("\\", "%", "_"):
        word = word.replace(special, f"\\{special}")
    return f"%{word}%"


def reader_of(session: Session) -> Reader:
    """Reads within a session's unit of work what it has written so far."""
    session.flush()
    session.connection()  # it has begun
    reader: Reader = session.info[READER]
    return reader


def _bound(value: object) -> Any:
    return value.isoformat() if isinstance(value, date) else value
