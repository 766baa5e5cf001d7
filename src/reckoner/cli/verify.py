"""`reckoner verify`: recompute the validation pack and print what was found."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

import click

from reckoner.cli.main import data_option
from reckoner.cli.options import default_folder
from reckoner.core.errors import InputRefused
from reckoner.store import times

if TYPE_CHECKING:
    from reckoner.store.database import Database


@click.command("verify")
@click.argument("files", nargs=-1, type=click.Path(path_type=Path), metavar="[FILE]...")
@click.option("--runs", is_flag=True, help="Recompute every signed run in the database instead.")
@click.option("--records", is_flag=True, help="Walk the chain of digests over the database's records instead.")
@click.option("--noted", metavar="LINK", help="With --records: a link noted earlier, to be found again.")
@data_option
@click.pass_context
def verify(
    ctx: click.Context, files: tuple[Path, ...], runs: bool, records: bool, noted: str | None, folder: Path | None
) -> None:
    """Recompute reference results and compare them; exit status 1 when any is missed.

    The output can be filed as evidence that this installation computes correctly. With --runs, every signed run is
    recomputed from its readings and the rule set kept with it. With --records, every record is held against the chain of
    digests, and what follows from the records against them; the newest link is printed, to be noted outside.

    With FILEs, result files as they were sent: each is held against its digest, and whatever follows from its readings and
    the facts beside them, numbers, statements and due date, is derived anew. What cannot be derived is named: for it
    compare the digest with the paper. No database is needed.
    """
    if files:
        ctx.exit(_files(files))
    where = folder or (ctx.obj.folder if ctx.obj else default_folder())
    if records or noted:
        ctx.exit(_records(where, noted))
    ctx.exit(_runs(where) if runs else _pack())


def _files(files: tuple[Path, ...]) -> int:
    """Result files, each recomputed."""
    from reckoner.formats import resultfile
    from reckoner.shop.resultfiles import NOT_DERIVED, recomputed

    wrong = 0
    for path in files:
        try:
            found = resultfile.read(path)
            numbers, said = recomputed(found)
        except resultfile.ResultRefused as refusal:
            click.echo(str(refusal))
            wrong += 1
            continue
        for sentence in said:
            click.echo(f"{path}: {sentence}")
        wrong += bool(said)
        click.echo(
            f"{path}: certificate {found.record.certificate}, {numbers - len(said)} of {numbers} numbers and statements "
            f"derived as they were signed. Nothing derives {NOT_DERIVED}: for these "
            f"compare the digest with the one on the paper. Digest {found.digest}"
        )
    return 1 if wrong else 0


def _opened(folder: Path) -> Database:
    """The database for reading only, so that whoever works in it is not held up; an old one is brought up to date first."""
    from reckoner.shop.opening import open_shop
    from reckoner.store.database import FILE, Database
    from reckoner.store.errors import DatabaseBusy

    if not (folder / FILE).exists():
        raise InputRefused("data", folder, f'there is no database in "{folder}"')
    try:
        return Database(folder, looking_on=True)
    except DatabaseBusy:
        open_shop(folder).close()
        return Database(folder, looking_on=True)


def _records(folder: Path, noted: str | None) -> int:
    from reckoner.shop import checking
    from reckoner.shop.wording import finding_sentence
    from reckoner.store.chainlink import WrittenLink

    database = _opened(folder)
    said, links, newest = [], 0, "none yet"
    with database.session() as session:
        if noted and (sentence := checking.noted(session, noted)):
            said.append(sentence)
        for one in checking.walk(session):
            if isinstance(one, WrittenLink):
                links, newest = links + 1, one.words
            else:
                said.append(finding_sentence(one))
    database.close()
    for sentence in said:
        click.echo(sentence)
    otherwise = {0: "Everything is as it was kept.", 1: "One thing is not as it was kept."}
    conclusion = otherwise.get(len(said), f"{len(said)} things are not as they were kept.")
    click.echo(f"{links} links walked; the newest is {newest}. {conclusion}")
    return 1 if said else 0


def _runs(folder: Path) -> int:
    from reckoner.shop.runs.recompute import recompute

    database = _opened(folder)
    runs = numbers = wrong = 0
    with database.session() as session:
        for found in recompute(session):
            runs, numbers, wrong = runs + 1, numbers + found.numbers, wrong + len(found.otherwise)
            for sentence in found.otherwise:
                click.echo(f"{found.tool}, {found.on.isoformat()}: {sentence}")
    database.close()
    click.echo(f"{numbers - wrong} of {numbers} numbers of {runs} signed runs recomputed as they were signed")
    return 1 if wrong else 0


def _pack() -> int:
    """The validation pack, printed."""
    import platform

    import numpy
    import scipy

    from reckoner import __version__
    from reckoner.formats import validation

    click.echo(f"Reckoner {__version__}: validation of the calculations")
    click.echo(
        f"{times.present():%Y-%m-%d %H:%M %z} · Python {platform.python_version()} · NumPy {numpy.__version__}"
        f" · SciPy {scipy.__version__} · {platform.system()} {platform.machine()}"
    )
    done = missed = 0
    pack = ""
    for case in validation.cases():
        if case.pack != pack:
            pack = case.pack
            click.echo(f"\n{pack.upper()}\n{'':9}{'result':<44}{'expected':>20}{'found':>20}  tolerance")
        click.echo(f"{case.name} — {case.calculator}\n    {case.source}")
        for compared in validation.run(case):
            done += 1
            missed += not compared.reproduced
            mark = "ok" if compared.reproduced else "MISSED"
            expected, found = _shown(compared.expected), _shown(compared.found)
            exact = isinstance(compared.expected, str | bool)
            click.echo(
                f"  {mark:<7}{compared.where:<44}{expected:>20}{found:>20}  {'exact' if exact else case.tolerance}"
            )
    click.echo(f"\n{done - missed} of {done} results reproduced" + (f", {missed} MISSED" if missed else ""))
    return 1 if missed else 0


def _shown(value: object) -> str:
    if isinstance(value, bool) or value is None:
        return {True: "yes", False: "no", None: "nothing"}[value]
    return f"{value:.10g}" if isinstance(value, int | float) else str(value)
