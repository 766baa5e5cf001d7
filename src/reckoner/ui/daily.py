"""What is done once a day, or once an opening, when the window stands: the backup where this station keeps one, and the old
traces' archive where the shop has a rule. Told only when it goes wrong."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING

from reckoner.core.days import moment_words

if TYPE_CHECKING:
    from reckoner.store.backup import BackupFile
    from reckoner.store.reader import Reader
    from reckoner.ui.place import Surroundings


@dataclass(frozen=True)
class Older:
    """A backup that knows more than the database does: an older one stands in its place."""

    path: Path
    words: str


OLDER = (
    "An older database stands here: the backup of {at} also has {more}. "
    "Until it is said which of them is right, no daily backup is made."
)


def back_up(around: Surroundings, told: Callable[[], None] = lambda: None) -> None:
    """Make today's, unless it is there already or only looked on. Where the newest one knows more than the database does,
    nothing is made: ``around.older`` says so, and ``told`` is called."""
    into, folder, today = around.station.settings.backups, around.folder, around.today
    if not into or around.work.looking_on:
        return

    def run(reader: Reader) -> Older | None:
        from reckoner.shop.records.losing import missing
        from reckoner.store.backup import back_up_today, backups_in

        newest = next(iter(backups_in(Path(into))), None)
        more = missing(reader, newest.path) if newest is not None else None
        if newest is not None and more is not None and more.told:
            return Older(newest.path, OLDER.format(at=moment_words(newest.at), more=more.told))
        back_up_today(folder, Path(into), today)
        return None

    def found(older: Older | None) -> None:
        around.older = older
        told()

    around.work.look(run, found)


def go_on_with_this_one(around: Surroundings, told: Callable[[], None]) -> None:
    """The older database is the right one: back it up beside the others, and it is the newest from now on."""
    into, folder, now = around.station.settings.backups, around.folder, around.now()

    def run(_reader: Reader) -> None:
        from reckoner.store.backup import back_up

        back_up(folder, Path(into) / f"reckoner-{now:%Y-%m-%d-%H%M%S}.sqlite")

    def done(_none: None) -> None:
        around.older = None
        told()

    around.work.look(run, done)


def archive(around: Surroundings) -> None:
    """Put the traces away that the shop's rule lets go, where it has one: as many as one archive takes, once an opening."""
    if around.work.looking_on:
        return
    now = around.now()

    def look(reader: Reader) -> bool:
        from reckoner.shop.records.storage import day_before, years_kept
        from reckoner.store.archive import old_traces

        years = years_kept(reader)
        return bool(years) and bool(old_traces(reader, day_before(now.date(), years or 1), 1))

    def put(some: bool) -> None:
        if some:
            from reckoner.shop.records.storage import archive_old

            who = around.person.id if around.person is not None else None
            around.work.ask(lambda session: archive_old(session, now, who), lambda _put: None)

    around.work.look(look, put)


def last_good(around: Surroundings) -> BackupFile | None:
    """The newest daily backup of this station that is whole; None without one."""
    into = around.station.settings.backups
    if not into:
        return None
    from reckoner.store.backup import backups_in, is_whole

    return next((found for found in backups_in(Path(into)) if is_whole(found.path)), None)


def put_back(around: Surroundings, backup: Path) -> None:
    """Put a backup in the place of the database. Raises BackupRefused, StoreRefused."""
    from reckoner.store.backup import restore

    restore(backup, around.folder, around.now())
