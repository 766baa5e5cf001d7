"""What is done once a day, or once an opening, when the window stands: the backup where this station keeps one, and the old
traces' archive where the shop has a rule. Told only when it goes wrong."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from reckoner.ui.work import call_in

if TYPE_CHECKING:
    from reckoner.shop.records.losses import BackupAhead
    from reckoner.store.backup import BackupFile
    from reckoner.ui.place import Surroundings


LOSING, STORAGE = "reckoner.shop.records.losses", "reckoner.shop.records.storage"
"""Modules that nobody needs to see the window: they load where they work."""


def back_up(around: Surroundings, told: Callable[[], None] = lambda: None) -> None:
    """Make today's, unless it is there already or only looked on. Where the newest one knows more than the database does,
    nothing is made: ``around.older`` says so, and ``told`` is called."""
    into, folder, today = around.station.settings.backups, around.folder, around.today
    if not into or around.work.looking_on:
        return

    def found(older: BackupAhead | None) -> None:
        around.older = older
        told()

    around.work.look(call_in(LOSING, "back_up_unless_older", folder, Path(into), today), found)


def go_on_with_this_one(around: Surroundings, told: Callable[[], None]) -> None:
    """The older database is the right one: back it up beside the others, and it is the newest from now on."""
    into, folder, now = around.station.settings.backups, around.folder, around.now()
    from reckoner.store.backup import back_up  # only when it is wanted

    def done(_none: None) -> None:
        around.older = None
        told()

    target = Path(into) / f"reckoner-{now:%Y-%m-%d-%H%M%S}.sqlite"
    around.work.compute(partial(back_up, folder, target), done)


def archive(around: Surroundings) -> None:
    """Put the traces away that the shop's rule lets go, where it has one: as many as one archive takes, once an opening."""
    if around.work.looking_on:
        return
    now = around.now()

    def put(some: bool) -> None:
        if some:
            who = around.person.id if around.person is not None else None
            around.work.ask(call_in(STORAGE, "archive_old", now, who), lambda _put: None)

    around.work.look(call_in(STORAGE, "anything_old", now.date()), put)


def last_good(around: Surroundings) -> BackupFile | None:
    """The newest daily backup of this station that is whole; None without one."""
    into = around.station.settings.backups
    if not into:
        return None
    from reckoner.store.backup import backups_in, is_whole  # only when it is wanted

    return next((found for found in backups_in(Path(into)) if is_whole(found.path)), None)


def put_back(around: Surroundings, backup: Path, by: str | None) -> None:
    """Put a backup in the place of the database; ``by`` are the initials of who does it, None where it cannot be opened.
    Raises ShopRefused, BackupRefused, StoreRefused."""
    from reckoner.shop.records.restoring import put_back as restore  # only when it is wanted

    restore(backup, around.folder, around.now(), by)
