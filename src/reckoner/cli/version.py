"""`reckoner --version`: what exactly runs here."""

from __future__ import annotations

import platform
import sqlite3
from importlib.metadata import PackageNotFoundError, version
from pathlib import Path

import click

from reckoner import __version__
from reckoner.core.translation import tr

SHOWN = 12
"""Figures of a commit that name it."""


def show_version(ctx: click.Context, _param: click.Parameter, asked: bool) -> None:
    """Print it and end, where it was ``asked`` for."""
    if asked and not ctx.resilient_parsing:
        click.echo(version_words())
        ctx.exit()


def version_words() -> str:
    """The program's version, its commit where it runs from a checkout, and the engines under it."""
    found = commit(Path(__file__).parents[3])
    try:
        toolkit = version("PyQt6")
    except PackageNotFoundError:
        toolkit = tr("none")
    return tr(
        "reckoner {program}{commit}; SQLite {sqlite}, PyQt {toolkit}, Python {python}",
        program=__version__,
        commit=tr(", commit {found}", found=found[:SHOWN]) if found else "",
        sqlite=sqlite3.sqlite_version,
        toolkit=toolkit,
        python=platform.python_version(),
    )


def commit(checkout: Path) -> str:
    """The commit that a checkout stands at, as its own files say; empty where there is none."""
    try:
        head = (checkout / ".git" / "HEAD").read_text(encoding="ascii").strip()
        if not head.startswith("ref: "):
            return head
        ref = head.removeprefix("ref: ")
        loose = checkout / ".git" / ref
        if loose.is_file():
            return loose.read_text(encoding="ascii").strip()
        packed = (checkout / ".git" / "packed-refs").read_text(encoding="ascii").splitlines()
    except (OSError, UnicodeDecodeError):
        return ""
    return next((line.split()[0] for line in packed if line.endswith(f" {ref}")), "")
