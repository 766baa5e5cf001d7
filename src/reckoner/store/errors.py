"""What the disk or the database can do to us; each is a sentence that says what to do."""

from __future__ import annotations

from pathlib import Path

from reckoner.core.errors import OurFault, Refused

RESTORE = "“reckoner restore FILE” puts back a backup, and keeps what is there now beside it."


class StoreRefused(Refused):
    """The database at ``path`` cannot be used."""

    def __init__(self, path: Path, why: str = "") -> None:
        super().__init__(path, why)
        self.path = path
        self.why = why


class DirectoryNotWritable(StoreRefused):
    def __str__(self) -> str:
        return (
            f"Nothing can be written in {self.path} ({self.why}). "
            "Choose another folder with --data, or ask for the right to write there."
        )


class DatabaseDamaged(StoreRefused):
    def __str__(self) -> str:
        return (
            f"The database {self.path} is damaged ({self.why}). Nothing in it has been changed. {RESTORE} Keep the damaged "
            "file, since readings can often be recovered from it."
        )


class DatabaseNotOurs(StoreRefused):
    def __str__(self) -> str:
        return (
            f"The file {self.path} is not one of Reckoner's ({self.why}). Nothing in it has been changed. "
            "Choose another folder with --data, or move the file away to start anew."
        )


class DatabaseNewer(StoreRefused):
    def __str__(self) -> str:
        return (
            f"The database {self.path} was written by a newer Reckoner (its version is {self.why}). "
            "Nothing in it has been changed. Update this Reckoner, or open another folder with --data."
        )


class DatabaseBusy(StoreRefused):
    def __str__(self) -> str:
        return f"Another program holds {self.path} ({self.why}). Close it there and try again; nothing was saved."


class WriteFailed(StoreRefused):
    def __str__(self) -> str:
        return (
            f"This could not be saved in {self.path} ({self.why}). Nothing was lost that was on the screen before. "
            "Check that the disk is still there and can be written, then try again."
        )


class DiskFull(StoreRefused):
    def __str__(self) -> str:
        return (
            f"There is no room left on the disk for {self.path}. Nothing was lost that was on the screen before. "
            "Make room, then try again."
        )


class DatabaseReplaced(StoreRefused):
    """The file was taken away, or another put in its place, while it was open."""

    def __str__(self) -> str:
        return (
            f"The database {self.path} was moved, deleted or replaced while it was open. Nothing is kept any more: save "
            "what was read elsewhere, or write it down. Then put the file back, or close this window and open it again."
        )


class LookingOn(StoreRefused):
    """A change was asked for where the database is only looked at."""

    def __str__(self) -> str:
        return "This window only looks on: another one holds the database. Close it there to write here; nothing was saved."


class TermUnknown(Refused):
    """A record says a ``word`` that is not one of its ``kind``."""

    def __init__(self, kind: str, word: str) -> None:
        super().__init__(kind, word)
        self.kind = kind
        self.word = word

    def __str__(self) -> str:
        return (
            f'The database says "{self.word[:40]}" where this Reckoner knows no such {self.kind}. It was written by a newer '
            f"one, or is damaged: update this Reckoner, or put back a backup. {RESTORE}"
        )


class ValueUnreadable(Refused):
    """A record holds a ``value`` that is no ``kind`` of value: a time, a date, a list."""

    def __init__(self, kind: str, value: object) -> None:
        super().__init__(kind, value)
        self.kind = kind
        self.value = value

    def __str__(self) -> str:
        return f'The database says "{str(self.value)[:40]}" where a {self.kind} is kept: it is damaged. {RESTORE}'


class RecordChanged(OurFault):
    """The program tried to change or remove a row that is append-only."""

    def __str__(self) -> str:
        return f"a record that is never changed was about to be changed: {self.args[0]}"


class WrongThread(OurFault):
    """A session was asked for outside the thread that owns the database."""

    def __str__(self) -> str:
        return "the database was used from a thread that does not own it"


class LinksBroken(OurFault):
    """An upgrade would have left rows that name others which are not there."""

    def __str__(self) -> str:
        return f"the upgrade of the database would have broken links in the table {self.args[0]}; it was undone"
