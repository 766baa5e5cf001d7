"""`reckoner backup FILE` and `reckoner restore FILE`."""

from __future__ import annotations

from pathlib import Path

import click

from reckoner.cli.main import data_option
from reckoner.cli.options import WindowOptions
from reckoner.store import times


@click.command("backup")
@click.argument("file", type=click.Path(path_type=Path, dir_okay=False))
@data_option
@click.pass_obj
def backup(options: WindowOptions, file: Path, folder: Path | None) -> None:
    """Copy the whole database into FILE, checked after writing. A window may be open meanwhile."""
    from reckoner.store.backup import back_up

    back_up(folder or options.folder, file)
    click.echo(f"Backed up and checked: {file}, {file.stat().st_size} bytes.")


@click.command("restore")
@click.argument("file", type=click.Path(path_type=Path, dir_okay=False))
@data_option
@click.pass_obj
def restore(options: WindowOptions, file: Path, folder: Path | None) -> None:
    """Put the backup FILE in the place of the database; what is there now is kept beside it."""
    from reckoner.shop.opening import open_shop
    from reckoner.store.backup import restore as put_back

    where = folder or options.folder
    kept = put_back(file, where, times.present())
    open_shop(where).close()
    click.echo(f"Restored {file}." + (f" What was there before is kept as {kept}." if kept else ""))
