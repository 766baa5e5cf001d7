"""A checked copy of the database, and putting one back.

Putting back is done so that at no moment the folder is without a database: what is there is folded into one file, kept beside
under another name, and then replaced in one step. A kill leaves the old one or the new one, whole.
"""

from __future__ import annotations

import os
import shutil
import sqlite3
from collections.abc import Callable, Iterator
from contextlib import closing, contextmanager
from dataclasses import dataclass
from datetime import date, datetime
from itertools import chain, count
from pathlib import Path

from reckoner.core.errors import Refused
from reckoner.core.translation import tr
from reckoner.store import files, times
from reckoner.store.backend import is_busy, refusal_of, refused_by_the_disk
from reckoner.store.database import FILE
from reckoner.store.errors import DatabaseBusy, DatabaseDamaged, DatabaseNewer, DatabaseNotOurs, WriteFailed
from reckoner.store.lock import FolderLock
from reckoner.store.reader import Reader
from reckoner.store.revisions import revisions


class BackupRefused(Refused):
    """A backup cannot be made or put back; the sentence says why."""

    def __str__(self) -> str:
        return str(self.args[0])


def back_up(folder: Path, target: Path) -> None:
    """Copy the database of ``folder`` to ``target``, checked after writing; also while it is in use.

    Raises BackupRefused when there is none or ``target`` is there already, StoreRefused.
    """
    source = folder / FILE
    if not source.exists():
        raise BackupRefused(
            tr(
                'There is no database in "{folder}". Name the folder that Reckoner keeps its data in with --data.',
                folder=folder,
            )
        )
    if target.exists():
        raise BackupRefused(
            tr('"{target}" is there already; it was left alone. Give the backup a name of its own.', target=target)
        )
    _copy(source, target)


def restore(
    backup: Path, folder: Path, now: datetime, prepare: Callable[[Path], None] = lambda _folder: None
) -> Path | None:
    """Put ``backup`` in the place of the database of ``folder``; returns where the one that was there is kept, None when
    there was none. ``prepare`` is called with a folder that holds the copy, before it takes its place.

    Raises BackupRefused, StoreRefused: a window has the folder open, the backup is damaged, newer or not ours.
    """
    if not backup.is_file():
        raise BackupRefused(
            tr('There is no file "{backup}". Check its name, and that its drive is connected.', backup=backup)
        )
    _require_whole(backup)
    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    path = folder / FILE
    if path.exists() and os.path.samefile(backup, path):
        raise BackupRefused(tr("That is the database that is in use; choose a backup of it."))
    with FolderLock(folder):
        beside = folder / f"{RESTORING}{os.getpid()}"
        shutil.rmtree(beside, ignore_errors=True)
        beside.mkdir(mode=0o700)
        made = beside / FILE
        try:
            _copy(backup, made)
            prepare(beside)
            _fold(made)
            kept = _set_aside(path, now)
            files.replace(made, path)
        except OSError as fault:
            raise refused_by_the_disk(path, fault) from fault
        finally:
            shutil.rmtree(beside, ignore_errors=True)
    return kept


RESTORING = f".{FILE}.restoring-"
"""How the folder is called in which a copy waits to take the database's place."""


@contextmanager
def put_apart(folder: Path) -> Iterator[Path]:
    """A folder of its own within ``folder`` to put a backup back in; gone afterwards, or at the next opening. Raises
    StoreRefused."""
    apart = folder / f"{RESTORING}{os.getpid()}"
    try:
        apart.mkdir(parents=True, mode=0o700)
    except OSError as fault:
        raise refused_by_the_disk(apart, fault) from fault
    try:
        yield apart
    finally:
        shutil.rmtree(apart, ignore_errors=True)


def clear_left_over(folder: Path) -> None:
    """Take away what a restore that was killed left behind; only while the folder is locked, or nobody else restores."""
    for left in folder.glob(f"{RESTORING}*"):
        number = left.name.removeprefix(RESTORING)
        if number == str(os.getpid()) or not Path(f"/proc/{number}").exists():
            shutil.rmtree(left, ignore_errors=True)


def _require_whole(backup: Path) -> None:
    """Raises BackupRefused for a damaged one, DatabaseNotOurs, DatabaseNewer."""
    try:
        files.look_at(backup)
        revision = files.revision_of(backup)
        if revision is None:
            raise DatabaseNotOurs(backup, tr("its tables are another program's"))
        if revision not in revisions():
            raise DatabaseNewer(backup, revision)
        files.check(backup)
    except DatabaseDamaged as damage:
        raise BackupRefused(
            tr(
                "The backup {backup} is damaged ({why}), so it was not put back; what is in the folder was "
                "left as it is. Take an older backup, or another copy of this one.",
                backup=backup,
                why=damage.why,
            )
        ) from damage


def _copy(source: Path, target: Path) -> None:
    try:
        files.settle(source)
        files.copy(source, target)
    except sqlite3.Error as fault:
        raise (refusal_of(target, fault) or WriteFailed(target, str(fault))) from fault
    except OSError as fault:
        raise refused_by_the_disk(target, fault) from fault


@contextmanager
def opened_to_look(backup: Path) -> Iterator[Reader]:
    """A backup as it is, to be read. Raises BackupRefused for a file that is none, also while it is read."""
    try:
        with closing(sqlite3.connect(files.uri(backup, "ro"), uri=True, timeout=5)) as connection:
            yield Reader(connection, backup.parent)
    except sqlite3.Error as fault:
        raise BackupRefused(
            tr("{backup} cannot be read as a backup ({fault}). Choose another.", backup=backup, fault=fault)
        ) from None


def _fold(path: Path) -> None:
    """Let a database be one file: what is beside it is folded in, and done away with. Raises sqlite3.DatabaseError."""
    with closing(sqlite3.connect(files.uri(path, "rw"), uri=True, timeout=10)) as connection:
        connection.execute("PRAGMA journal_mode = DELETE")


def _free(path: Path) -> Path:
    """``path``, or the next free name where there is such a file: put back twice within a second, or the clock went back."""
    names = chain((path,), (path.with_stem(f"{path.stem}-{number}") for number in count(2)))
    return next(name for name in names if not name.exists())


def _set_aside(path: Path, now: datetime) -> Path | None:
    """Keep what is there under a name of its own, with nothing left beside it that belongs to it."""
    if not path.exists():
        for side in files.sides(path):
            side.replace(side.with_name(f"{side.name}.left-over"))
        return None
    kept = _free(path.with_suffix(f".before-restore-{now:%Y%m%d-%H%M%S}.sqlite"))
    try:
        _fold(path)
    except sqlite3.DatabaseError as fault:
        if is_busy(fault):
            raise DatabaseBusy(path, str(fault)) from fault
        for side in files.sides(path):  # damaged: nothing can be folded in, everything is kept
            side.replace(kept.with_name(kept.name + side.name.removeprefix(path.name)))
    os.link(path, kept)
    return kept


DAILY = "reckoner-{on:%Y-%m-%d}.sqlite"
"""What a day's backup is called."""

KEPT_DAYS = 30
"""Daily backups that are kept; older ones go, and nothing else in the folder does."""


@dataclass(frozen=True)
class BackupFile:
    """A backup in a folder: when it was written, and its size in bytes."""

    path: Path
    at: datetime
    size: int


def backups_in(folder: Path) -> tuple[BackupFile, ...]:
    """The backups in a folder, newest first; none where it cannot be read."""
    try:
        found = [(path, path.stat()) for path in folder.glob("*.sqlite") if path.is_file()]
    except OSError:
        return ()
    made = [BackupFile(path, times.of_file(stat.st_mtime), stat.st_size) for path, stat in found]
    return tuple(sorted(made, key=lambda one: (one.at, one.path), reverse=True))


def is_whole(backup: Path) -> bool:
    """Whether a file is a backup that can be put back."""
    try:
        _require_whole(backup)
    except Refused:
        return False
    return True


def back_up_today(folder: Path, into: Path, today: date) -> Path | None:
    """The backup of ``today`` in the folder ``into``, and the oldest beyond KEPT_DAYS taken away; None where it is there
    already. Raises BackupRefused, StoreRefused."""
    target = into / DAILY.format(on=today)
    if target.exists():
        return None
    if not into.is_dir():
        raise BackupRefused(
            tr('The folder "{into}" for daily backups is not there. Connect its drive, or choose another.', into=into)
        )
    back_up(folder, target)
    for old in sorted(into.glob("reckoner-????-??-??.sqlite"))[:-KEPT_DAYS]:
        old.unlink(missing_ok=True)
    return target
