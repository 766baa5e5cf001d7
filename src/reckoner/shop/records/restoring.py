"""A backup put back in the place of the database, with a line in its audit trail that says so: what the one that it replaced
had more, and where their chains part."""

from __future__ import annotations

from datetime import datetime
from pathlib import Path

from reckoner.core.translation import tr
from reckoner.shop.people.authorship import note_by
from reckoner.shop.records.losses import RestoreLoss, losing
from reckoner.store.backup import BackupRefused, opened_to_look, restore
from reckoner.store.database import FILE, Database


def put_back(backup: Path, folder: Path, now: datetime, by: str = "") -> Path | None:
    """Put ``backup`` in the place of the database of ``folder``; returns where the one that was there is kept. The line is
    in it before it takes that place. ``by`` are the initials of who does it, who may not be in it yet. Raises BackupRefused,
    StoreRefused."""
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
                    by=by,
                    lost=lost.told if lost is not None else tr("what was there could not be read"),
                    common=lost.common.words if lost is not None else "",
                    replaced=lost.end.words if lost is not None else "",
                    put_back=lost.other_end.words if lost is not None else "",
                )
        finally:
            database.close()

    return restore(backup, folder, now, write_line)


def _lost(backup: Path, folder: Path) -> RestoreLoss | None:
    """What is lost with it; None where there is no database, or none that can be read."""
    try:
        with opened_to_look(folder / FILE) as here:
            return losing(here, backup)
    except BackupRefused:
        return None
