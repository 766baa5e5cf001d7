"""The backup of the day, where this station keeps one: made once the window stands, and told only when it goes wrong."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from reckoner.ui.place import Surroundings

if TYPE_CHECKING:
    from reckoner.store.backup import BackupFile
    from reckoner.store.reader import Reader


def back_up(around: Surroundings, done: Callable[[], None] = lambda: None) -> None:
    """Make today's, unless it is there already or only looked on."""
    into, folder, today = around.station.settings.backups, around.folder, around.today
    if not into or around.work.looking_on:
        return

    def run(_reader: Reader) -> None:
        from reckoner.store.backup import back_up_today

        back_up_today(folder, Path(into), today)

    around.work.look(run, lambda _none: done())


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
