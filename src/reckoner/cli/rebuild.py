"""`reckoner rebuild`: every tool's standing anew from its records."""

from __future__ import annotations

from pathlib import Path

import click

from reckoner.cli.main import WindowOptions, data_option
from reckoner.core.errors import InputRefused


@click.command("rebuild")
@data_option
@click.pass_obj
def rebuild(options: WindowOptions, folder: Path | None) -> None:
    """Work out anew where every tool stands, from its events and signed runs, and say how many stood otherwise."""
    from reckoner.shop import standing
    from reckoner.shop.opening import open_shop
    from reckoner.store.database import FILE

    where = folder or options.folder
    if not (where / FILE).exists():
        raise InputRefused("data", where, f'there is no database in "{where}"')
    database = open_shop(where)
    with database.session() as session:
        differed = standing.rebuild(session)
    database.close()
    click.echo(f"Every standing was made anew from its records; {differed} stood otherwise before.")
