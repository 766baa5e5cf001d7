"""`reckoner archive`: the traces that the shop's rule lets go, out of the database."""

from __future__ import annotations

from pathlib import Path

import click

from reckoner.cli.main import data_option
from reckoner.cli.options import WindowOptions
from reckoner.core.errors import InputRefused
from reckoner.core.translation import tr
from reckoner.store import times


@click.command(
    "archive",
    help=tr("Put the traces away that are older than the shop keeps them, and pack the database. Readings stay."),
)
@data_option
@click.pass_obj
def archive(options: WindowOptions, folder: Path | None) -> None:
    from reckoner.shop.opening import open_for_a_window
    from reckoner.shop.records.storage import archive_old
    from reckoner.store.database import FILE

    where = folder or options.folder
    if not (where / FILE).exists():
        raise InputRefused("data", where, tr('there is no database in "{where}"', where=where))
    database = open_for_a_window(where)
    try:
        while True:
            with database.session() as session:
                put = archive_old(session, times.present(), None)
            if put is None:
                break
            click.echo(tr("{count} traces went to {path}.", count=put.count, path=put.path))
        database.pack()
    finally:
        database.close()
    click.echo(tr("The database takes {st_size} bytes.", st_size=(where / FILE).stat().st_size))
