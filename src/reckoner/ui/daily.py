"""What is done once a day, or once an opening, when the window stands: the backup where this station keeps one, and the old
traces' archive where the shop has a rule. Told only when it goes wrong."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from reckoner.ui.place import Surroundings

if TYPE_CHECKING:
    from reckoner.store.backup import BackupFile
    from reckoner.store.reader import Reader


OLDER = (
    "An older database stands here: the backup of {at:%-d %b %Y, %H:%M} also has {more}. "
    "Look at it under Records, Backups, before you go on."
)


def back_up(around: Surroundings, done: Callable[[], None] = lambda: None) -> None:
    """Make today's, unless it is there already or only looked on. Where the newest one knows more than the database does, an
    older one stands in its place: that is said first."""
    into, folder, today = around.station.settings.backups, around.folder, around.today
    if not into or around.work.looking_on:
        return

    def run(reader: Reader) -> str:
        from reckoner.shop.records.losing import missing
        from reckoner.store.backup import back_up_today, backups_in

        newest = next(iter(backups_in(Path(into))), None)
        more = missing(reader, newest.path) if newest is not None else None
        back_up_today(folder, Path(into), today)
        return (
            OLDER.format(at=newest.at, more=more.told) if newest is not None and more is not None and more.told else ""
        )

    def say(words: str) -> None:
        if words:
            around.say(words)
        done()

    around.work.look(run, say)


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
