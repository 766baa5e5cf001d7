"""What the disk or the database can do to us; each is a sentence that says what to do."""

from __future__ import annotations

from pathlib import Path

from reckoner.core.errors import OurFault, Refused
from reckoner.core.translation import tr

RESTORE = tr("“reckoner restore FILE” puts back a backup, and keeps what is there now beside it.")


class StoreRefused(Refused):
    """The database at ``path`` cannot be used."""

    def __init__(self, path: Path, why: str = "") -> None:
        super().__init__(path, why)
        self.path = path
        self.why = why


class DirectoryNotWritable(StoreRefused):
    def __str__(self) -> str:
        return tr(
            "Nothing can be written in {path} ({why}). Choose another folder with --data, or ask for the "
            "right to write there.",
            path=self.path,
            why=self.why,
        )


class DatabaseDamaged(StoreRefused):
    def __str__(self) -> str:
        return tr(
            "The database {path} is damaged ({why}). Nothing in it has been changed. {restore} Keep the "
            "damaged file, since readings can often be recovered from it.",
            path=self.path,
            why=self.why,
            restore=RESTORE,
        )


class DatabaseNotOurs(StoreRefused):
    def __str__(self) -> str:
        return tr(
            "The file {path} is not one of Reckoner's ({why}). Nothing in it has been changed. Choose "
            "another folder with --data, or move the file away to start anew.",
            path=self.path,
            why=self.why,
        )


class DatabaseNewer(StoreRefused):
    def __str__(self) -> str:
        return tr(
            "The database {path} was written by a newer Reckoner (its version is {why}). Nothing in it "
            "has been changed. Update this Reckoner, or open another folder with --data.",
            path=self.path,
            why=self.why,
        )


class DatabaseBusy(StoreRefused):
    def __str__(self) -> str:
        return tr(
            "Another program holds {path} ({why}). Close it there and try again; nothing was saved.",
            path=self.path,
            why=self.why,
        )


class WriteFailed(StoreRefused):
    def __str__(self) -> str:
        return tr(
            "This could not be saved in {path} ({why}). Nothing was lost that was on the screen before. "
            "Check that the disk is still there and can be written, then try again.",
            path=self.path,
            why=self.why,
        )


class DiskFull(StoreRefused):
    def __str__(self) -> str:
        return tr(
            "There is no room left on the disk for {path}. Nothing was lost that was on the screen "
            "before. Make room, then try again.",
            path=self.path,
        )


class DatabaseReplaced(StoreRefused):
    """The file was taken away, or another put in its place, while it was open."""

    def __str__(self) -> str:
        return tr(
            "The database {path} was moved, deleted or replaced while it was open. Nothing is kept any "
            "more: save what was read elsewhere, or write it down. Then put the file back, or close this "
            "window and open it again.",
            path=self.path,
        )


class LookingOn(StoreRefused):
    """A change was asked for where the database is only looked at."""

    def __str__(self) -> str:
        return tr(
            "This window only looks on, because another one holds the database or nothing can be written there: nothing was "
            "saved. Open it anew once that is over."
        )


class TermUnknown(Refused):
    """A record says a ``word`` that is not one of its ``kind``."""

    def __init__(self, kind: str, word: str) -> None:
        super().__init__(kind, word)
        self.kind = kind
        self.word = word

    def __str__(self) -> str:
        return tr(
            'The database says "{word}" where this Reckoner knows no such {kind}. It was written by a '
            "newer one, or is damaged: update this Reckoner, or put back a backup. {restore}",
            word=self.word[:40],
            kind=self.kind,
            restore=RESTORE,
        )


class ValueUnreadable(Refused):
    """A record holds a ``value`` that is no ``kind`` of value: a time, a date, a list."""

    def __init__(self, kind: str, value: object) -> None:
        super().__init__(kind, value)
        self.kind = kind
        self.value = value

    def __str__(self) -> str:
        return tr(
            'The database says "{str}" where a {kind} is kept: it is damaged. {restore}',
            str=str(self.value)[:40],
            kind=self.kind,
            restore=RESTORE,
        )


class RecordChanged(OurFault):
    """The program tried to change or remove a row that is append-only."""

    def __str__(self) -> str:
        return tr("a record that is never changed was about to be changed: {args}", args=self.args[0])


class WrongThread(OurFault):
    """A session was asked for outside the thread that owns the database."""

    def __str__(self) -> str:
        return tr("the database was used from a thread that does not own it")


class LinksBroken(OurFault):
    """An upgrade would have left rows that name others which are not there."""

    def __str__(self) -> str:
        return tr(
            "the upgrade of the database would have broken links in the table {args}; it was undone", args=self.args[0]
        )
