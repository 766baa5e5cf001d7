"""Where languages lie: the catalogue of the window and the command line, found by the language of the login, and the words of
papers.

To add one: ``make words LANGUAGE=fr`` writes ``languages/fr.po``, or brings it up to date with the program; any editor
of such catalogues fills it in. ``RECKONER_LANGUAGES`` names a folder in which a translator tries one before it is handed in.
"""

from __future__ import annotations

import io
import os
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from gettext import GNUTranslations
from pathlib import Path
from typing import TYPE_CHECKING, TypeVar

from reckoner.core.translation import ENGLISH, install
from reckoner.formats.refusals import FileRefused

if TYPE_CHECKING:
    from babel.messages.catalog import Message

T = TypeVar("T")

SHIPPED = Path(__file__).with_name("languages")
ASKED = ("RECKONER_LANGUAGE", "LANGUAGE", "LC_ALL", "LC_MESSAGES", "LANG")
"""Where a login says its language, what counts first first."""


def install_language() -> None:
    """Say everything in the language of the login from now on, where there is a catalogue of it; else in English."""
    for code in _asked():
        found = next((folder / f"{code}.po" for folder in folders() if (folder / f"{code}.po").is_file()), None)
        if found is not None:
            with told(found):
                install(code, read_beside(compiled, found))
            return
        if code == ENGLISH:
            return


def read_beside(read: Callable[[Path], T], path: Path) -> T:
    """What ``read`` makes of a file of words, in a process of its own where it is not one that the program brings. Raises
    FileRefused."""
    if path.parent == SHIPPED:
        return read(path)
    from reckoner.formats.apart import apart  # only when it is wanted

    return apart(read, path)


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


@contextmanager
def told(file: Path) -> Iterator[None]:
    """A file of words that cannot be read is told of in the log and on standard error, and English is spoken."""
    try:
        yield
    except FileRefused as fault:
        import logging  # the frame is painted before it loads

        words = "the words in %s cannot be read (%s); English is spoken"
        logging.getLogger("reckoner.languages").warning(words, file, fault)


def compiled(path: Path) -> bytes:
    """The catalogue at ``path`` as gettext reads it, but for translations that fill in what their text does not have: these
    are said in English. Raises FileRefused."""
    from babel.messages.mofile import write_mo  # only where another language is spoken: it takes a while to load
    from babel.messages.pofile import PoFileError, read_po

    from reckoner.formats.files import TextRefused, read_text

    out = io.BytesIO()
    try:
        catalogue = read_po(io.StringIO(read_text(path)), abort_invalid=True)
        for message in [message for message in catalogue if message.id and not _fits(message)]:
            message.string = ("",) * catalogue.num_plurals if message.pluralizable else ""
        write_mo(out, catalogue)
        out.seek(0)
        GNUTranslations(out)
    except (PoFileError, TextRefused, ValueError, LookupError) as fault:
        raise FileRefused(path.name, (str(fault) or type(fault).__name__,)) from None
    return out.getvalue()


def _fits(message: Message) -> bool:
    """Whether each translation of a text fills in nothing that the text does not, and in no other way."""
    texts, said = ((one,) if isinstance(one, str) else tuple(one or ()) for one in (message.id, message.string))
    allowed = {("n", "", None)}.union(*map(blanks, texts))
    try:
        return all(blanks(one) <= allowed for one in said)
    except ValueError:  # a brace that opens nothing
        return False


def blanks(text: str) -> set[tuple[str, str | None, str | None]]:
    """What a text fills in, with how each is written. Raises ValueError for a brace that opens nothing."""
    from string import Formatter  # the frame is painted before it loads

    return {(name, spec, how) for _text, name, spec, how in Formatter().parse(text) if name is not None}
