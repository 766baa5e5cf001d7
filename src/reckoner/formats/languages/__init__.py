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
from importlib import resources
from typing import Any

ENGLISH = "en"
_spoken: ContextVar[str] = ContextVar("spoken", default=ENGLISH)


@contextmanager
def in_language(code: str) -> Iterator[None]:
    """What is said inside is said in this language; in English where there is no file of it."""
    before = _spoken.set(code if code in languages() else ENGLISH)
    try:
        yield
    finally:
        _spoken.reset(before)


@lru_cache(maxsize=1)
def languages() -> dict[str, str]:
    """Every language that has a file: its code, such as "de", and what it calls itself; English first."""
    files = (file.name for file in resources.files(__name__).iterdir() if file.name.endswith(".toml"))
    codes = sorted((name.removesuffix(".toml") for name in files), key=lambda code: (code != ENGLISH, code))
    return {code: str(_file(code)["language"]) for code in codes}


def say(key: str, **values: object) -> str:
    """The words under a ``key`` such as "label.due", filled with ``values``. Raises KeyError for one of no file, which is a
    fault of ours."""
    return phrase(_spoken.get(), key).format(**values)


def written(day: date) -> str:
    """A day as it is written, such as "9 Mar 2026"."""
    spoken = _file(_spoken.get())
    return str(spoken["date"]).format(day=day.day, month=spoken["months"][day.month - 1], year=day.year)


@lru_cache(maxsize=2048)
def phrase(code: str, key: str) -> str:
    """The words under a ``key`` in a language before anything is filled in, English where it has none. Raises KeyError."""
    section, _, name = key.partition(".")
    found = _file(code).get(section, {}).get(name)
    return str(found if found is not None else _file(ENGLISH)[section][name])


@lru_cache(maxsize=16)
def _file(code: str) -> dict[str, Any]:
    return tomllib.loads((resources.files(__name__) / f"{code}.toml").read_text(encoding="utf-8"))
