"""`reckoner import FILE`: a whole register, or the tools of a spreadsheet."""

from __future__ import annotations

import sys
from pathlib import Path
from typing import TYPE_CHECKING

import click

from reckoner.cli.acting import as_option, who_acts
from reckoner.cli.main import data_option
from reckoner.cli.options import WindowOptions, require_database
from reckoner.core.errors import InputRefused
from reckoner.core.quantities.days import DayOrder
from reckoner.core.quantities.units import N_M, Kind, Unit, unit_named
from reckoner.core.translation import tr, tr_count
from reckoner.store import times

if TYPE_CHECKING:
    from collections.abc import Sequence

    from reckoner.formats.tables import Table
    from reckoner.shop.register.columns import ColumnMeaning
    from reckoner.shop.register.spreadsheets import ReadRow
    from reckoner.store.database import Database

SPREADSHEETS = (".csv", ".tsv", ".txt", ".xlsx", ".xlsm", ".ods", ".xls")

ORDERS = {"day-first": DayOrder.DAY_FIRST, "month-first": DayOrder.MONTH_FIRST}


def _unit(_ctx: click.Context, _param: click.Parameter, value: str) -> Unit:
    try:
        return unit_named(value, Kind.TORQUE)
    except InputRefused as refusal:
        raise click.BadParameter(refusal.reason) from None


@click.command(
    "import",
    help=tr(
        "Read people, models, tools and references from a register FILE (TOML): all of it or nothing. Of a spreadsheet of "
        "tools (CSV, XLSX, ODS, XLS) it is shown how each row was understood, and nothing is written before that is agreed "
        "to; the exit status is 1 where rows stay out."
    ),
)
@click.argument("file", type=click.Path(path_type=Path, exists=True, dir_okay=False))
@data_option
@as_option
@click.option("--yes", is_flag=True, help=tr("Of a spreadsheet: bring the good rows in without asking."))
@click.option(
    "--unit", default=N_M.name, callback=_unit, metavar="UNIT", help=tr("Of a spreadsheet: what bare torques are in.")
)
@click.option(
    "--days", type=click.Choice(list(ORDERS)), help=tr("Of a spreadsheet: how days such as 4/1/2026 are read.")
)
@click.pass_obj
def importing(
    options: WindowOptions, file: Path, folder: Path | None, initials: str, yes: bool, unit: Unit, days: str | None
) -> int:
    where = folder or options.folder
    if file.suffix.lower() not in SPREADSHEETS:
        _register(file, where, initials)
        return 0
    return _spreadsheet(file, where, initials, unit, ORDERS.get(days or ""), agreed=yes)


def _register(file: Path, where: Path, initials: str) -> None:
    from reckoner.formats.apart import apart
    from reckoner.shop.opening import open_shop
    from reckoner.shop.register import registerfile
    from reckoner.shop.register.intake import take_in

    found = registerfile.validate(apart(registerfile.read_tables, file), file.name)
    database = open_shop(where)
    try:
        acting = who_acts(database, initials)
        with database.session() as session:
            act = acting.act if acting is not None else None
            taken = take_in(session, found, times.present(), act, file.name)
    finally:
        database.close()
    click.echo(str(taken))


def _spreadsheet(file: Path, where: Path, initials: str, unit: Unit, order: DayOrder | None, *, agreed: bool) -> int:
    """Show what was understood, and bring it in where that is agreed to; 1 where rows stay out."""
    from reckoner.formats.apart import apart
    from reckoner.formats.tables import read_table
    from reckoner.shop.opening import open_shop
    from reckoner.shop.register.columns import meanings
    from reckoner.shop.register.spreadsheets import asks_order, understood

    table = apart(read_table, file)
    columns = meanings(table)
    require_database(where)
    database = open_shop(where)
    try:
        with database.session() as session:
            rows = understood(session, table, columns, unit=unit, order=order)
        _show(table, columns, rows)
        if order is None and asks_order(table, columns):
            click.echo(tr("Some of its days can be read two ways: say --days day-first or --days month-first."))
        good = sum(row.tool is not None for row in rows)
        many = tr_count("{n} tool", "{n} tools", good)
        if good and (agreed or (sys.stdin.isatty() and click.confirm(tr("Bring in {many}?", many=many)))):
            _bring(database, rows, file, initials)
        elif good:
            click.echo(tr("Nothing was written. With --yes, {many} are brought in.", many=many))
    finally:
        database.close()
    return 1 if good < len(rows) else 0


def _bring(database: Database, rows: Sequence[ReadRow], file: Path, initials: str) -> None:
    from reckoner.shop.register.bringing import bring_in

    acting = who_acts(database, initials)
    if acting is None:
        raise InputRefused("as", initials, tr("nobody is in the register yet; the window asks who you are"))
    with database.session() as session:
        command = bring_in(session, [row.tool for row in rows if row.tool is not None], file.name, acting.act)
    click.echo(tr("Done: {words}.", words=command.words))


def _show(table: Table, columns: Sequence[ColumnMeaning], rows: Sequence[ReadRow]) -> None:
    """The window's preview, as text."""
    from reckoner.shop.register.columns import ColumnMeaning, unused

    used = [(name, meaning) for name, meaning in zip(table.columns, columns, strict=True)]
    said = "; ".join(f"{name}: {meaning}" for name, meaning in used if meaning is not ColumnMeaning.NOTHING)
    click.echo(tr("Its columns: {said}.", said=said))
    for one in unused(table, columns):
        click.echo(tr("Not used: {name} ({values}).", name=one.name, values=", ".join(one.values)))
    for row in rows:
        told = row.tool.words if row.tool is not None else tr("stays out: {why}", why="; ".join(row.faults))
        click.echo(tr("line {line}: {told}", line=row.line, told=told))
