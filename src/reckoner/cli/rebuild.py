"""`reckoner rebuild`: every tool's standing and listing anew from what they follow."""

from __future__ import annotations

from pathlib import Path

import click

from reckoner.cli.main import data_option
from reckoner.cli.options import WindowOptions
from reckoner.core.errors import InputRefused
from reckoner.core.translation import tr


@click.command(
    "rebuild",
    help=tr("Work out anew where every tool stands and what it is found by, and say how many stood otherwise."),
)
@data_option
@click.pass_obj
def rebuild(options: WindowOptions, folder: Path | None) -> None:
    from reckoner.shop.opening import open_shop
    from reckoner.shop.opening import rebuild as rebuild_all
    from reckoner.store.database import FILE

    where = folder or options.folder
    if not (where / FILE).exists():
        raise InputRefused("data", where, tr('there is no database in "{where}"', where=where))
    database = open_shop(where)
    differed = rebuild_all(database)
    database.close()
    click.echo(tr("Every standing and listing was made anew; {differed} stood otherwise before.", differed=differed))
