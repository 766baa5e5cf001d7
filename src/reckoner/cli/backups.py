"""`reckoner backup FILE` and `reckoner restore FILE`."""

from __future__ import annotations

from pathlib import Path

import click

from reckoner.cli.main import data_option
from reckoner.cli.options import WindowOptions
from reckoner.core.translation import tr
from reckoner.store import times


@click.command(
    "backup", help=tr("Copy the whole database into FILE, checked after writing. A window may be open meanwhile.")
)
@click.argument("file", type=click.Path(path_type=Path, dir_okay=False))
@data_option
@click.pass_obj
def backup(options: WindowOptions, file: Path, folder: Path | None) -> None:
    from reckoner.store.backup import back_up

    back_up(folder or options.folder, file)
    click.echo(tr("Backed up and checked: {file}, {st_size} bytes.", file=file, st_size=file.stat().st_size))


@click.command(
    "restore", help=tr("Put the backup FILE in the place of the database; what is there now is kept beside it.")
)
@click.argument("file", type=click.Path(path_type=Path, dir_okay=False))
@data_option
@click.pass_obj
def restore(options: WindowOptions, file: Path, folder: Path | None) -> None:
    from reckoner.shop.opening import open_shop
    from reckoner.store.backup import restore as put_back

    where = folder or options.folder
    kept = put_back(file, where, times.present())
    open_shop(where).close()
    click.echo(
        tr("Restored {file}.", file=file) + (tr(" What was there before is kept as {kept}.", kept=kept) if kept else "")
    )
