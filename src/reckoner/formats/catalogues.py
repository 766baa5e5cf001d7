"""Where languages lie: the catalogue of the window and the command line, found by the language of the login, and the words of
papers.

To add one: ``make words LANGUAGE=fr`` writes ``languages/fr.po``, or brings it up to date with the program; any editor
of such catalogues fills it in. ``RECKONER_LANGUAGES`` names a folder in which a translator tries one before it is handed in.
"""

from __future__ import annotations

import io
import os
from collections.abc import Iterator
from gettext import GNUTranslations
from pathlib import Path

from reckoner.core.translation import ENGLISH, install

SHIPPED = Path(__file__).with_name("languages")
ASKED = ("RECKONER_LANGUAGE", "LANGUAGE", "LC_ALL", "LC_MESSAGES", "LANG")
"""Where a login says its language, what counts first first."""


def install_language() -> None:
    """Say everything in the language of the login from now on, where there is a catalogue of it; else in English."""
    for code in _asked():
        found = next((folder / f"{code}.po" for folder in folders() if (folder / f"{code}.po").is_file()), None)
        if found is not None:
            install(code, _read(found.read_bytes()))
            return
        if code == ENGLISH:
            return


def folders() -> tuple[Path, ...]:
    """Where languages lie, a translator's own folder first."""
    own = os.environ.get("RECKONER_LANGUAGES", "")
    return (Path(own), SHIPPED) if own else (SHIPPED,)


def _asked() -> Iterator[str]:
    """Codes such as "pt_BR" and "pt", the one that is wanted most first."""
    said = next((value for name in ASKED if (value := os.environ.get(name, ""))), "")
    for one in said.split(":"):
        code = one.partition(".")[0].partition("@")[0]
        if code:
            yield from dict.fromkeys((code, code.partition("_")[0]))


def _read(catalogue: bytes) -> GNUTranslations:
    from babel.messages.mofile import write_mo  # only where another language is spoken: it takes a while to load
    from babel.messages.pofile import read_po

    compiled = io.BytesIO()
    write_mo(compiled, read_po(io.BytesIO(catalogue)))
    compiled.seek(0)
    return GNUTranslations(compiled)
