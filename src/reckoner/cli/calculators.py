"""`reckoner calc NAME [FILE]`: one JSON object in, one out.

`reckoner rules FILE`: check a rule set of one's own.
"""

from __future__ import annotations

import sys
from pathlib import Path

import click

from reckoner.core.errors import InputRefused
from reckoner.core.translation import tr


@click.command(
    "calc",
    help=tr(
        "Compute NAME from the JSON object in FILE or on standard input; docs/calculators.md lists names and fields."
    ),
)
@click.argument("name")
@click.argument("file", type=click.Path(path_type=Path), required=False)
def calc(name: str, file: Path | None) -> None:
    from reckoner.formats.calculators import calculate_text

    click.echo(calculate_text(name, _text(file)))


def _text(file: Path | None) -> str:
    try:
        if file is None:
            return sys.stdin.buffer.read().decode("utf-8-sig")
        return file.read_text(encoding="utf-8-sig")
    except UnicodeDecodeError:
        raise InputRefused("request", file, tr("is not UTF-8 text")) from None
    except OSError as fault:
        raise InputRefused(
            "request", file, tr('"{file}" cannot be read: {strerror}', file=file, strerror=fault.strerror)
        ) from None


@click.command(
    "rules",
    help=tr("Check the rule set in FILE (TOML): one line for each mistake and exit status 2, or what it asks for."),
)
@click.argument("file", type=click.Path(path_type=Path, exists=True, dir_okay=False))
@click.pass_context
def rules(ctx: click.Context, file: Path) -> None:
    from reckoner.formats.apart import apart
    from reckoner.formats.refusals import FileRefused
    from reckoner.formats.rulesets import load

    try:
        found = apart(load, file)
    except FileRefused as refusal:
        for mistake in refusal.mistakes:
            click.echo(f"{refusal.source}: {mistake}", err=True)
        ctx.exit(2)
    points = tr("chosen by the owner") if found.owner_points else ", ".join(f"{f * 100:g} %" for f in found.fractions)
    first = tr("the stated minimum, ") if found.minimum_point else ""
    click.echo(
        tr(
            "{title} ({name}): points {first}{points}; {readings} readings each after {exercise} "
            "releases; rule {value}; every {months} months",
            title=found.title,
            name=found.name,
            first=first,
            points=points,
            readings=found.readings,
            exercise=found.exercise,
            value=found.decision.rule.value,
            months=found.months,
        )
    )
