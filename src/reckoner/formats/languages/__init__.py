"""The words of papers, one file a language: ``say`` gives them in the language of the paper that is being made.

To add a language: a copy of ``en.toml`` under its code, such as ``fr.toml``, with the words after each ``=`` translated. What
it leaves out is said in English. Nothing else changes; the shop can choose it at once.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from datetime import date
from functools import lru_cache
from pathlib import Path
from typing import Any

from reckoner.core.translation import ENGLISH, tr, untranslated, window_language
from reckoner.formats.catalogues import SHIPPED, blanks, folders, read_beside, told
from reckoner.formats.refusals import FileRefused

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
    codes = sorted((code for code in found if _file(code)), key=lambda code: (code != ENGLISH, code))
    return {code: str(_file(code)["language"]) for code in codes}


def say(key: str, **values: object) -> str:
    """The words under a ``key`` such as "label.due", filled with ``values``. Raises KeyError for one of no file, which is a
    fault of ours."""
    return phrase(_speaking(), key).format(**values)


def written(day: date) -> str:
    """A day as it is written, such as "9 Mar 2026"."""
    spoken = {**_file(ENGLISH), **_file(_speaking())}
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
    if file is not None:
        with told(file):
            return read_beside(read_words, file)
    return {}


def read_words(path: Path) -> dict[str, Any]:
    """The words in the file of a language. Raises FileRefused, also where one is filled in otherwise than in English."""
    from reckoner.formats.files import TextRefused, read_text, read_toml

    try:
        found = read_toml(read_text(path))
    except TextRefused as refusal:
        raise FileRefused(path.name, (refusal.why,)) from None
    if path.parent == SHIPPED:
        return found
    wrong = tuple(_mistakes(found, _file(ENGLISH)))
    if "language" not in found:
        wrong = (tr("language: say what it calls itself"), *wrong)
    if wrong:
        raise FileRefused(path.name, wrong)
    return found


def _mistakes(found: dict[str, Any], english: dict[str, Any]) -> Iterator[str]:
    """A sentence for each thing that would be missed, or could not be said, once a paper is made."""
    for name, said in found.items():
        known = english.get(name)
        match known, said:
            case None, _:
                yield tr("{name}: there is no such word in en.toml", name=name)
            case str(), str():
                if not _fits(said, known):
                    yield tr("{name}: it fills in what the English words do not", name=name)
            case list(), list():
                if len(said) != len(known) or not all(isinstance(word, str) for word in said):
                    yield tr("{name}: give {count} words", name=name, count=len(known))
            case dict(), dict():
                yield from (f"{name}.{mistake}" for mistake in _mistakes(said, known))
            case _:
                yield tr("{name}: it is written as in en.toml", name=name)


def _fits(said: str, known: str) -> bool:
    try:
        return blanks(said) <= blanks(known)
    except ValueError:  # a brace that opens nothing
        return False
