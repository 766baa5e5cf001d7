"""Who does what a command line asks for: `--as INITIALS`, with the passphrase of who has one."""

from __future__ import annotations

import sys
from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

import click

from reckoner.core.errors import InputRefused
from reckoner.core.translation import tr
from reckoner.store import times

if TYPE_CHECKING:
    from reckoner.shop.people.authorship import Act
    from reckoner.shop.people.present import PersonFacts
    from reckoner.store.database import Database


def as_option(function: Callable[..., object]) -> Callable[..., object]:
    return click.option(
        "--as",
        "initials",
        default="",
        metavar="INITIALS",
        help=tr(
            "Who does it, by initials. A passphrase is asked of who has one. Where one person works alone: that one."
        ),
    )(function)


@dataclass(frozen=True)
class Acting:
    """A person who works here, and the act under that person's name."""

    person: PersonFacts
    act: Act


def who_acts(database: Database, initials: str) -> Acting | None:
    """Whoever ``initials`` names, proved by the passphrase where there is one; None while nobody is registered. Raises
    InputRefused, ShopRefused."""
    from reckoner.shop.people.authorship import Act
    from reckoner.shop.people.seals import prove

    person = named(database, initials)
    if person is None:
        return None
    act = Act(person.id, times.present())
    typed = _typed(person.initials) if person.keyed else None
    with database.session() as session:
        prove(session, person.id, typed, act)
    return Acting(person, act)


def _typed(initials: str) -> str:
    """A passphrase, from the keyboard unseen, or as a line from another program."""
    if sys.stdin.isatty():
        return str(click.prompt(tr("Passphrase of {who}", who=initials), hide_input=True))
    return sys.stdin.readline().rstrip("\n")


def named(database: Database, initials: str) -> PersonFacts | None:
    """Whom initials name, with or without dots and spaces; None while nobody is registered. Raises InputRefused."""
    from reckoner.shop.people.present import people
    from reckoner.store.reader import reader_of

    with database.session() as session:
        registered = people(reader_of(session))
    if not registered:
        return None
    if not initials and len(registered) == 1:
        return registered[0]
    found = [one for one in registered if _folded(one.initials) == _folded(initials)]
    if len(found) == 1:
        return found[0]
    here = ", ".join(one.initials for one in registered)
    raise InputRefused(
        "as",
        initials,
        tr('nobody here has the initials "{initials}"; name one of {here}', initials=initials, here=here)
        if initials
        else tr("say who does it with --as INITIALS: one of {here}", here=here),
    )


def _folded(initials: str) -> str:
    return "".join(letter for letter in initials.casefold() if letter.isalnum())
