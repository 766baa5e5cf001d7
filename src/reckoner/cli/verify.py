"""`reckoner verify`: recompute the validation pack and print what was found."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

import click

from reckoner.cli.main import data_option
from reckoner.cli.options import default_folder, require_database
from reckoner.core.translation import tr
from reckoner.store import times

if TYPE_CHECKING:
    from reckoner.store.database import Database


@click.command(
    "verify",
    help=tr(
        "Recompute reference results and compare them; exit status 1 when any is missed.\n\nThe output "
        "can be filed as evidence that this installation computes correctly. With --runs, every "
        "signed run is\nrecomputed from its readings and the rule set kept with it. With --records, "
        "every record is held against the chain of\ndigests, and what follows from the records "
        "against them; the newest link is printed, to be noted outside.\n\nWith FILEs, result files as "
        "they were sent: each is held against its digest, and whatever follows from its readings and\n"
        "the facts beside them, numbers, statements and due date, is derived anew. What cannot be "
        "derived is named: for it\ncompare the digest with the paper. No database is needed."
    ),
)
@click.argument("files", nargs=-1, type=click.Path(path_type=Path), metavar="[FILE]...")
@click.option("--runs", is_flag=True, help=tr("Recompute every signed run in the database instead."))
@click.option("--records", is_flag=True, help=tr("Walk the chain of digests over the database's records instead."))
@click.option("--noted", metavar="LINK", help=tr("With --records: a link noted earlier, to be found again."))
@click.option(
    "--against",
    metavar="PLACE",
    type=click.Path(path_type=Path, exists=True),
    help=tr(
        "With --records: a file or a folder outside; every link noted there, and every backup, is held against them."
    ),
)
@click.option(
    "--after",
    metavar="N",
    type=click.IntRange(min=0),
    default=0,
    help=tr("Go on after a link, or a signature, up to which it was checked before."),
)
@data_option
@click.pass_context
def verify(
    ctx: click.Context,
    files: tuple[Path, ...],
    runs: bool,
    records: bool,
    noted: str | None,
    against: Path | None,
    after: int,
    folder: Path | None,
) -> None:
    if files:
        ctx.exit(_files(files))
    where = folder or (ctx.obj.folder if ctx.obj else default_folder())
    if records or noted or against:
        ctx.exit(_records(where, noted, against, after))
    ctx.exit(_runs(where, after) if runs else _pack())


def _files(files: tuple[Path, ...]) -> int:
    """Result files, each recomputed."""
    from reckoner.formats import resultfile
    from reckoner.formats.apart import apart
    from reckoner.formats.refusals import FileRefused
    from reckoner.shop.papers.resultfiles import NOT_DERIVED, recomputed

    wrong = 0
    for path in files:
        try:
            found = apart(resultfile.read, path)
            numbers, said = recomputed(found)
        except (resultfile.ResultRefused, FileRefused) as refusal:
            click.echo(str(refusal))
            wrong += 1
            continue
        for sentence in said:
            click.echo(f"{path}: {sentence}")
        wrong += bool(said)
        click.echo(
            tr(
                "{path}: certificate {certificate}, {numbers} of {numbers_2} numbers and statements derived "
                "as they were signed. Nothing derives {not_derived}: for these compare the digest with the "
                "one on the paper. Digest {digest}",
                path=path,
                certificate=found.record.certificate,
                numbers=numbers - len(said),
                numbers_2=numbers,
                not_derived=NOT_DERIVED,
                digest=found.digest,
            )
        )
    return 1 if wrong else 0


def _opened(folder: Path) -> Database:
    """The database for reading only, so that whoever works in it is not held up; an old one is brought up to date first."""
    from reckoner.shop.opening import open_shop
    from reckoner.store.database import Database
    from reckoner.store.errors import DatabaseBusy

    require_database(folder)
    try:
        return Database(folder, looking_on=True)
    except DatabaseBusy:
        open_shop(folder).close()
        return Database(folder, looking_on=True)


LINKS, RUNS = 10_000, 1_000
"""So many are checked at a time, each part on whichever core is free."""


def _records(folder: Path, noted: str | None, against: Path | None, after: int) -> int:
    from reckoner.cli.processes import checked
    from reckoner.shop.records import checking
    from reckoner.shop.words.results import finding_sentence
    from reckoner.store.errors import DatabaseDamaged
    from reckoner.store.files import check

    database = _opened(folder)
    said, links, newest = [], 0, tr("none yet")
    try:
        check(database.path)
    except DatabaseDamaged as damage:
        said.append(tr("The file itself: {why}.", why=damage.why))
    with database.session() as session:
        if noted and (sentence := checking.noted(session, noted)):
            said.append(sentence)
        if against is not None:
            from reckoner.shop.records.outside import held_against

            said += held_against(session, against)
        parts = checking.parts_of(session, after, LINKS)
    for part in checked(database, checking.walk_part, parts, folder):
        links += part.links
        newest = part.newest.words if part.newest is not None else newest
        said += [finding_sentence(one) for one in part.found]
    with database.session() as session:
        said += [finding_sentence(one) for one in checking.what_follows(session)]
    database.close()
    for sentence in said:
        click.echo(sentence)
    otherwise = {0: tr("Everything is as it was kept."), 1: tr("One thing is not as it was kept.")}
    conclusion = otherwise.get(len(said), tr("{count} things are not as they were kept.", count=len(said)))
    walked = tr("{links} links walked; the newest is {newest}.", links=links, newest=newest)
    if after:
        walked = tr(
            "{links} links walked after {after}; the newest is {newest}.", links=links, after=after, newest=newest
        )
    click.echo(f"{walked} {conclusion}")
    return 1 if said else 0


def _runs(folder: Path, after: int) -> int:
    from reckoner.cli.processes import checked
    from reckoner.shop.runs import recomputing

    database = _opened(folder)
    runs = numbers = wrong = 0
    with database.session() as session:
        parts = recomputing.parts_of(session, after, RUNS)
    for part in checked(database, recomputing.recompute_part, parts, folder):
        for found in part:
            runs, numbers, wrong = runs + 1, numbers + found.numbers, wrong + len(found.otherwise)
            for sentence in found.otherwise:
                click.echo(f"{found.tool}, {found.on.isoformat()}: {sentence}")
    database.close()
    click.echo(
        tr(
            "{numbers} of {numbers_2} numbers of {runs} signed runs recomputed as they were signed",
            numbers=numbers - wrong,
            numbers_2=numbers,
            runs=runs,
        )
    )
    return 1 if wrong else 0


def _pack() -> int:
    """The validation pack, printed."""
    import platform

    import numpy
    import scipy

    from reckoner import __version__
    from reckoner.formats import validation

    click.echo(tr("Reckoner {version}: validation of the calculations", version=__version__))
    click.echo(
        tr(
            "{present:%Y-%m-%d %H:%M %z} · Python {python_version} · NumPy {version} · SciPy {version_2} "
            "· {system} {machine}",
            present=times.present(),
            python_version=platform.python_version(),
            version=numpy.__version__,
            version_2=scipy.__version__,
            system=platform.system(),
            machine=platform.machine(),
        )
    )
    done = missed = 0
    pack = ""
    for case in validation.cases():
        if case.pack != pack:
            pack = case.pack
            click.echo(
                tr(
                    "\n{upper}\n{value:9}{value_2:<44}{value_3:>20}{value_4:>20}  tolerance",
                    upper=pack.upper(),
                    value="",
                    value_2="result",
                    value_3="expected",
                    value_4="found",
                )
            )
        click.echo(f"{case.name} — {case.calculator}\n    {case.source}")
        for compared in validation.run(case):
            done += 1
            missed += not compared.reproduced
            mark = tr("ok") if compared.reproduced else tr("MISSED")
            expected, found = _shown(compared.expected), _shown(compared.found)
            exact = isinstance(compared.expected, str | bool)
            click.echo(
                f"  {mark:<7}{compared.where:<44}{expected:>20}{found:>20}  {'exact' if exact else case.tolerance}"
            )
    click.echo(
        tr("\n{done} of {done_2} results reproduced", done=done - missed, done_2=done)
        + (tr(", {missed} MISSED", missed=missed) if missed else "")
    )
    return 1 if missed else 0


def _shown(value: object) -> str:
    if isinstance(value, bool) or value is None:
        return {True: "yes", False: "no", None: "nothing"}[value]
    return f"{value:.10g}" if isinstance(value, int | float) else str(value)


@click.command(
    "rehearse",
    help=tr(
        "Put the backup FILE back in a folder of its own, open it there and verify every record in it; the database is not "
        "touched, and nothing is left behind."
    ),
)
@click.argument("file", type=click.Path(path_type=Path, dir_okay=False))
@data_option
@click.pass_context
def rehearse(ctx: click.Context, file: Path, folder: Path | None) -> None:
    from reckoner.shop.opening import open_shop
    from reckoner.store.backup import put_apart, restore

    where = folder or (ctx.obj.folder if ctx.obj else default_folder())
    with put_apart(where) as apart:
        restore(file, apart, times.present())
        open_shop(apart).close()
        ctx.exit(_records(apart, None, None, 0))
