"""`reckoner calc NAME [FILE]`: one JSON object in, one out."""

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
