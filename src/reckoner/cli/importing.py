"""`reckoner import FILE`: read a register into the database."""

from __future__ import annotations

from pathlib import Path

import click

from reckoner.cli.main import data_option
from reckoner.cli.options import WindowOptions
from reckoner.core.translation import tr
from reckoner.store import times


@click.command(
    "import", help=tr("Read people, models, tools and references from a register FILE (TOML): all of it or nothing.")
)
@click.argument("file", type=click.Path(path_type=Path, exists=True, dir_okay=False))
@data_option
@click.pass_obj
def importing(options: WindowOptions, file: Path, folder: Path | None) -> None:
    from reckoner.shop.opening import open_shop
    from reckoner.shop.register import registerfile
    from reckoner.shop.register.intake import take_in

    found = registerfile.load(file)
    database = open_shop(folder or options.folder)
    with database.session() as session:
        taken = take_in(session, found, times.present(), source=file.name)
    database.close()
    click.echo(str(taken))
