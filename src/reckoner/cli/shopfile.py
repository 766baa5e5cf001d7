"""`reckoner archive`: the traces that the shop's rule lets go, out of the database.

`reckoner backup FILE` and `reckoner restore FILE`.

`reckoner unlock`: nobody is asked for a passphrase any more at sitting down.

`reckoner rebuild`: every tool's standing and listing anew from what they follow.
"""

from __future__ import annotations

import getpass
from pathlib import Path

import click

from reckoner.cli.acting import as_option, named, who_acts
from reckoner.cli.main import data_option
from reckoner.cli.options import WindowOptions, require_database
from reckoner.core.errors import InputRefused
from reckoner.core.translation import tr
from reckoner.store import times


@click.command(
    "archive",
    help=tr("Put the traces away that are older than the shop keeps them, and pack the database. Readings stay."),
)
@data_option
@as_option
@click.pass_obj
def archive(options: WindowOptions, folder: Path | None, initials: str) -> None:
    from reckoner.shop.opening import open_for_a_window
    from reckoner.shop.records.storage import archive as put_away
    from reckoner.store.database import FILE

    where = folder or options.folder
    require_database(where)
    database = open_for_a_window(where)
    try:
        acting = who_acts(database, initials)
        while acting is not None:
            with database.session() as session:
                put = put_away(session, acting.act)
            if put is None:
                break
            click.echo(tr("{count} traces went to {path}.", count=put.count, path=put.path))
        database.pack()
    finally:
        database.close()
    click.echo(tr("The database takes {st_size} bytes.", st_size=(where / FILE).stat().st_size))


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
@as_option
@click.pass_obj
def restore(options: WindowOptions, file: Path, folder: Path | None, initials: str) -> None:
    from reckoner.shop.opening import open_shop
    from reckoner.shop.records.restoring import put_back

    where = folder or options.folder
    kept = put_back(file, where, times.present(), _keeper(where, initials))
    open_shop(where).close()
    click.echo(
        tr("Restored {file}.", file=file) + (tr(" What was there before is kept as {kept}.", kept=kept) if kept else "")
    )


def _keeper(where: Path, initials: str) -> str | None:
    """The initials of who puts a backup back; None where what is there cannot be opened, and nobody can be asked."""
    from reckoner.shop.opening import open_shop
    from reckoner.store.database import FILE
    from reckoner.store.errors import StoreRefused

    if not (where / FILE).exists():
        return None
    try:
        database = open_shop(where)
    except StoreRefused:
        return None
    try:
        acting = who_acts(database, initials)
    finally:
        database.close()
    return acting.person.initials if acting is not None else ""


@click.command(
    "rebuild",
    help=tr("Work out anew where every tool stands and what it is found by, and say how many stood otherwise."),
)
@data_option
@click.pass_obj
def rebuild(options: WindowOptions, folder: Path | None) -> None:
    from reckoner.shop.opening import open_shop
    from reckoner.shop.opening import rebuild as rebuild_all

    where = folder or options.folder
    require_database(where)
    database = open_shop(where)
    differed = rebuild_all(database)
    database.close()
    click.echo(tr("Every standing and listing was made anew; {differed} stood otherwise before.", differed=differed))


@click.command(
    "unlock",
    help=tr(
        "Let everybody sit down without a passphrase again, where nobody knows theirs any more. Who did it, by which login, "
        "stands in what was done."
    ),
)
@data_option
@as_option
@click.pass_obj
def unlock(options: WindowOptions, folder: Path | None, initials: str) -> None:
    from reckoner.shop.opening import open_shop
    from reckoner.shop.people.authorship import Act
    from reckoner.shop.register.unlocking import unlock as let_sit

    where = folder or options.folder
    require_database(where)
    database = open_shop(where)
    try:
        person = named(database, initials)
        if person is None:
            raise InputRefused("as", initials, tr("nobody is in the register yet"))
        with database.session() as session:
            let_sit(session, getpass.getuser(), Act(person.id, times.present()))
    finally:
        database.close()
    click.echo(tr("Sitting down asks for no passphrase any more."))
