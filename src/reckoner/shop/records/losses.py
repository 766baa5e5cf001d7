"""What putting a backup back would lose: all that came since it was made; and what a backup knows that the database does
not, where an older one was put in its place."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from pathlib import Path

from reckoner.core.quantities.days import moment_words
from reckoner.core.translation import tr, tr_count
from reckoner.store.backup import BackupRefused, back_up_today, backups_in, opened_to_look
from reckoner.store.reader import Reader

_COUNTED = {
    "runs": "signature",
    "readings": "observation",
    "events": "tool_event",
    "edits": "register_version",
}

_FIRST = "SELECT digest FROM chain_link ORDER BY place LIMIT 1"


@dataclass(frozen=True)
class RestoreLoss:
    """How many of each came since the backup was made."""

    runs: int
    readings: int
    events: int
    edits: int

    @property
    def words(self) -> str:
        """In a sentence."""
        return (
            tr("It would lose {told}.", told=self.told)
            if self.told
            else tr("Nothing came since: it would lose nothing.")
        )

    @property
    def told(self) -> str:
        """Such as "2 signed runs, 31 readings"; empty for nothing."""
        said = (
            (self.runs, tr_count("{n} signed run", "{n} signed runs", self.runs)),
            (self.readings, tr_count("{n} reading", "{n} readings", self.readings)),
            (self.events, tr_count("{n} event", "{n} events", self.events)),
            (self.edits, tr_count("{n} change of the register", "{n} changes of the register", self.edits)),
        )
        return ", ".join(words for n, words in said if n)


def losing(reader: Reader, backup: Path) -> RestoreLoss:
    """What is in the database and not in the ``backup``. Raises BackupRefused for a file that is no backup."""
    with opened_to_look(backup) as kept:
        return _beyond(reader, kept)


def missing(reader: Reader, backup: Path) -> RestoreLoss | None:
    """What is in a ``backup`` and not in the database, which then is an older one; None for a file that is no backup of this
    database."""
    try:
        with opened_to_look(backup) as kept:
            first = kept.value(_FIRST)
            return _beyond(kept, reader) if first is not None and first == reader.value(_FIRST) else None
    except BackupRefused:
        return None


def _beyond(one: Reader, other: Reader) -> RestoreLoss:
    """How much there is in one database beyond the newest of another."""
    counts = {}
    for name, table in _COUNTED.items():
        newest = other.value(f"SELECT COALESCE(max(id), 0) FROM {table}")
        counts[name] = int(one.value(f"SELECT count(*) FROM {table} WHERE id > :newest", newest=newest))
    return RestoreLoss(**counts)


OLDER = tr(
    "An older database stands here: the backup of {at} also has {more}. Until it is said which of "
    "them is right, no daily backup is made."
)


@dataclass(frozen=True)
class BackupAhead:
    """A backup that knows more than the database does: an older one stands in its place."""

    path: Path
    words: str


def back_up_unless_older(reader: Reader, folder: Path, into: Path, today: date) -> BackupAhead | None:
    """Make the backup of ``today`` of ``folder``, unless it is there already; where the newest one knows more than the
    database does, nothing is made and it is returned. Raises BackupRefused, StoreRefused."""
    newest = next(iter(backups_in(into)), None)
    more = missing(reader, newest.path) if newest is not None else None
    if newest is not None and more is not None and more.told:
        return BackupAhead(newest.path, OLDER.format(at=moment_words(newest.at), more=more.told))
    back_up_today(folder, into, today)
    return None
