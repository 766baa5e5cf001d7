"""A backup put back in the place of the database, with a line in its audit trail that says so: what the one that it replaced
had more, and where their chains part."""

from __future__ import annotations

from datetime import datetime
from pathlib import Path

from reckoner.core.translation import tr
from reckoner.shop.people.authorship import ShopRefused, note_by
from reckoner.shop.people.present import people
from reckoner.shop.people.rights import lacks
from reckoner.shop.records.losses import RestoreLoss, losing
from reckoner.store.backup import BackupRefused, opened_to_look, restore
from reckoner.store.database import FILE, Database
from reckoner.store.terms import Right


def put_back(backup: Path, folder: Path, now: datetime, by: str | None) -> Path | None:
    """Put ``backup`` in the place of the database of ``folder``; returns where the one that was there is kept. The line is
    in it before it takes that place. ``by`` are the initials of who does it, who may not be in it yet; None where the one
    that is there cannot be opened, and nobody can be asked. Raises ShopRefused, BackupRefused, StoreRefused. Right: keep."""
    if by is not None:
        _require_keeper(folder, by)
    lost = _lost(backup, folder)

    def write_line(made: Path) -> None:
        database = Database(made)
        try:
            with database.session() as session:
                note_by(
                    session,
                    None,
                    now,
                    tr("put a backup back"),
                    backup.name,
                    by=by or "",
                    lost=lost.told if lost is not None else tr("what was there could not be read"),
                    common=lost.common.words if lost is not None else "",
                    replaced=lost.end.words if lost is not None else "",
                    put_back=lost.other_end.words if lost is not None else "",
                )
        finally:
            database.close()

    return restore(backup, folder, now, write_line)


def _require_keeper(folder: Path, by: str) -> None:
    """Whoever puts a backup back may, by the database that is there, where it has anybody and can be read."""
    try:
        with opened_to_look(folder / FILE) as here:
            registered = people(here)
    except BackupRefused:
        return
    who = next((one for one in registered if one.initials == by), None)
    if registered and who is None:
        raise ShopRefused(tr("Whoever does this is not in the register; choose a person at the top right."))
    if who is not None and Right.KEEP not in who.rights:
        raise lacks(by, Right.KEEP)


def _lost(backup: Path, folder: Path) -> RestoreLoss | None:
    """What is lost with it; None where there is no database, or none that can be read."""
    try:
        with opened_to_look(folder / FILE) as here:
            return losing(here, backup)
    except BackupRefused:
        return None
