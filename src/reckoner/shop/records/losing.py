"""What putting a backup back would lose: all that came since it was made; and what a backup knows that the database does
not, where an older one was put in its place."""

from __future__ import annotations

import sqlite3
from contextlib import closing
from dataclasses import dataclass
from pathlib import Path

from reckoner.store import files
from reckoner.store.backup import BackupRefused
from reckoner.store.reader import Reader

_COUNTED = {
    "runs": "signature",
    "readings": "observation",
    "events": "tool_event",
    "edits": "register_version",
}

_FIRST = "SELECT digest FROM chain_link ORDER BY place LIMIT 1"


@dataclass(frozen=True)
class Losing:
    """How many of each came since the backup was made."""

    runs: int
    readings: int
    events: int
    edits: int

    @property
    def words(self) -> str:
        """In a sentence."""
        return f"It would lose {self.told}." if self.told else "Nothing came since: it would lose nothing."

    @property
    def told(self) -> str:
        """Such as "2 signed runs, 31 readings"; empty for nothing."""
        counts = (
            (self.runs, "signed run"), (self.readings, "reading"), (self.events, "event"),
            (self.edits, "change of the register"),
        )  # fmt: skip
        said = [f"{n} {_many(words, n)}" for n, words in counts if n]
        return ", ".join(said)


def _many(words: str, count: int) -> str:
    if count == 1:
        return words
    first, _, rest = words.partition(" of ")
    return f"{first}s of {rest}" if rest else f"{words}s"


def losing(reader: Reader, backup: Path) -> Losing:
    """What is in the database and not in the ``backup``. Raises BackupRefused for a file that is no backup."""
    counts = {}
    try:
        with closing(sqlite3.connect(files.uri(backup, "ro"), uri=True, timeout=5)) as connection:
            for name, table in _COUNTED.items():
                newest = connection.execute(f"SELECT COALESCE(max(id), 0) FROM {table}").fetchone()[0]
                counts[name] = int(reader.value(f"SELECT count(*) FROM {table} WHERE id > :newest", newest=newest))
    except sqlite3.Error as fault:
        raise BackupRefused(f"{backup} cannot be read as a backup ({fault}). Choose another.") from None
    return Losing(**counts)


def missing(reader: Reader, backup: Path) -> Losing | None:
    """What is in a ``backup`` and not in the database, which then is an older one; None for a file that is no backup of this
    database."""
    counts = {}
    try:
        with closing(sqlite3.connect(files.uri(backup, "ro"), uri=True, timeout=5)) as connection:
            first = connection.execute(_FIRST).fetchone()
            if first is None or first[0] != reader.value(_FIRST):
                return None
            for name, table in _COUNTED.items():
                newest = int(reader.value(f"SELECT COALESCE(max(id), 0) FROM {table}"))
                counts[name] = connection.execute(f"SELECT count(*) FROM {table} WHERE id > ?", (newest,)).fetchone()[0]
    except sqlite3.Error:
        return None
    return Losing(**counts)
