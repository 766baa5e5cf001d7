"""The words of papers, one file a language: ``say`` gives them in the language of the paper that is being made.

To add a language: a copy of ``en.toml`` under its code, such as ``fr.toml``, with the words after each ``=`` translated. What
it leaves out is said in English. Nothing else changes; the shop can choose it at once.
"""

from __future__ import annotations

import tomllib
from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from datetime import date
from functools import lru_cache
from typing import Any

from reckoner.core.translation import ENGLISH, untranslated, window_language
from reckoner.formats.catalogues import folders

_spoken: ContextVar[str | None] = ContextVar("spoken", default=None)


@contextmanager
def in_language(code: str) -> Iterator[None]:
    """What is said inside is said in this language; in English where there is no file of it. What belongs to the window
    stays in English."""
    before = _spoken.set(code if code in languages() else ENGLISH)
    try:
        with untranslated():
            yield
    finally:
        _spoken.reset(before)


def _speaking() -> str:
    """The language of the paper that is being made; elsewhere that of the window."""
    return _spoken.get() or window_language()


@lru_cache(maxsize=1)
def languages() -> dict[str, str]:
    """Every language that has a file: its code, such as "de", and what it calls itself; English first."""
    found = {file.stem for folder in folders() for file in folder.glob("*.toml")}
    codes = sorted(found, key=lambda code: (code != ENGLISH, code))
    return {code: str(_file(code)["language"]) for code in codes}


def say(key: str, **values: object) -> str:
    """The words under a ``key`` such as "label.due", filled with ``values``. Raises KeyError for one of no file, which is a
    fault of ours."""
    return phrase(_speaking(), key).format(**values)


def written(day: date) -> str:
    """A day as it is written, such as "9 Mar 2026"."""
    spoken = _file(_speaking()) or _file(ENGLISH)
    return str(spoken["date"]).format(day=day.day, month=spoken["months"][day.month - 1], year=day.year)


@lru_cache(maxsize=2048)
def phrase(code: str, key: str) -> str:
    """The words under a ``key`` in a language before anything is filled in, English where it has none. Raises KeyError."""
    section, _, name = key.partition(".")
    found = _file(code).get(section, {}).get(name)
    return str(found if found is not None else _file(ENGLISH)[section][name])


@lru_cache(maxsize=16)
def _file(code: str) -> dict[str, Any]:
    file = next((folder / f"{code}.toml" for folder in folders() if (folder / f"{code}.toml").is_file()), None)
    return tomllib.loads(file.read_text(encoding="utf-8")) if file is not None else {}
