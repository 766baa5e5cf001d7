"""The language of the window, of the command line and of refusals: every text that a person sees passes through ``tr``.

English stands where it is said. The entry point installs another language before anything else is loaded, for many texts are
fixed as their modules load; nothing changes it afterwards. Whatever is said is a sentence or a label of its own with named
blanks, so that a translator can order them otherwise; what is counted passes through ``tr_count``, for languages have more
than two forms. Papers speak a language of their own (``formats.languages``).

>>> tr("{tool} is due on {day}", tool="HC-0417", day="9 Mar 2026")
'HC-0417 is due on 9 Mar 2026'
>>> tr_count("{n} tool is due", "{n} tools are due", 1), tr_count("{n} tool is due", "{n} tools are due", 3)
('1 tool is due', '3 tools are due')
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from gettext import NullTranslations
from io import BytesIO

ENGLISH = "en"
_ENGLISH = NullTranslations()
_window: tuple[str, NullTranslations, bytes] = ENGLISH, _ENGLISH, b""
"""The language of the window, what says it, and the catalogue that this was made of."""
_as_written: ContextVar[bool] = ContextVar("as_written", default=False)


def install(language: str, catalogue: bytes) -> None:
    """Say everything from now on in a ``language`` such as "fr", as its ``catalogue``, one that gettext reads, does. Raises
    OSError, ValueError, LookupError."""
    from gettext import GNUTranslations  # only where another language than English is spoken

    global _window
    _window = language, GNUTranslations(BytesIO(catalogue)), catalogue


def installed() -> tuple[str, bytes] | None:
    """What is to be given to ``install`` in another process; None while English is spoken. Refuses nothing."""
    return (_window[0], _window[2]) if _window[2] else None


def window_language() -> str:
    """The language that was installed, such as "fr". Refuses nothing."""
    return _window[0]


@contextmanager
def untranslated() -> Iterator[None]:
    """What is said inside stays as it is written in the program: records, whose digest must not hang on who prints them.
    Refuses nothing."""
    before = _as_written.set(True)
    try:
        yield
    finally:
        _as_written.reset(before)


def mark(text: str) -> str:
    """``text`` as it is, known to translators: for the value of an enumeration, which is kept in English and shown by
    ``tr``. Refuses nothing."""
    return text


def tr(text: str, /, **blanks: object) -> str:
    """``text`` in the language of the window, its named blanks filled. Raises KeyError for a blank that is not given, which
    is a fault of ours or of the translation."""
    said = _speaking().gettext(text)
    return said.format(**blanks) if blanks else said


def tr_count(one: str, many: str, n: int, /, **blanks: object) -> str:
    """Of a text's forms the one that belongs to ``n`` in the language of the window, its blanks filled; ``{n}`` is the
    number itself. Raises KeyError as ``tr`` does."""
    return _speaking().ngettext(one, many, n).format(n=n, **blanks)


def _speaking() -> NullTranslations:
    return _ENGLISH if _as_written.get() else _window[1]
