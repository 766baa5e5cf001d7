"""The newest link of the chain written to a place outside, after each signature, and everything in such a place held against
the chain: what was cut off, made anew or put back since cannot have been changed there too."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from datetime import datetime
from pathlib import Path

from sqlalchemy.orm import Session

from reckoner.beside import owners_alone
from reckoner.core.translation import tr
from reckoner.formats.files import FileNotWritten, TextRefused, read_text
from reckoner.formats.languages import in_language, say, written
from reckoner.formats.papers.contents import Label, LabelSize
from reckoner.shop.papers.labels import language
from reckoner.shop.papers.sheets import shop_lines
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.records import checking
from reckoner.shop.records.losses import missing
from reckoner.store import chain
from reckoner.store.reader import Reader, reader_of

LINK = re.compile(r"\b\d+ · [0-9a-f]{4}(?: [0-9a-f]{4}){3}\b")
"""A link in a text, as it is told everywhere."""


def link_line(session: Session, now: datetime, path: Path) -> Callable[[], None]:
    """The newest link and when it was written, to be added to the file at ``path``: one line each, unless it is there. What
    is returned raises FileNotWritten."""
    newest = chain.newest(session.connection())
    line = f"{now:%Y-%m-%d %H:%M:%S%z}  {newest.words}\n" if newest is not None else ""

    def write() -> None:
        try:
            with open(path, "a+", encoding="utf-8", errors="replace", opener=owners_alone) as file:
                file.seek(max(0, file.tell() - 200))
                if newest is not None and newest.words not in file.read():
                    file.write(line)
        except OSError as fault:
            raise FileNotWritten(path, fault.strerror or str(fault)) from None

    return write


def mail_text(session: Session, now: datetime) -> str:
    """The newest link in words, to be sent to somebody."""
    newest = chain.newest(session.connection())
    return tr(
        "Reckoner, {now:%d %b %Y, %H:%M}: the newest link in the chain of records is {link}. As long as this message is "
        'kept, “reckoner verify --records --noted "{link}"” shows that nothing up to it was taken away or made anew.',
        now=now,
        link=newest.words if newest is not None else tr("none yet"),
    )


STRIP = LabelSize("90 x 24", 90.0, 24.0)
"""What the newest link is printed on, mm."""


def link_strip(session: Session, now: datetime) -> Label:
    """The newest link as a strip, to be stuck into a book; the square code holds it. Raises ShopRefused without one."""
    newest, reader = chain.newest(session.connection()), reader_of(session)
    if newest is None:
        raise ShopRefused(tr("There is no link yet: nothing was kept."))
    with in_language(language(reader)):
        when = say("label.link", date=written(now.date()), time=f"{now:%H:%M}")
    shop, address, _logo = shop_lines(reader)
    return Label(newest.words, (when, *(line for line in (shop, address.partition("\n")[0]) if line)), newest.words)


def held_against(session: Session, place: Path) -> Iterator[str]:
    """A sentence for each link and each backup in ``place``, a file or a folder, that the database does not bear out. Raises
    ShopRefused where there is neither."""
    links, backups = _links_in(place), _backups_in(place)
    if not links and not backups:
        raise ShopRefused(tr("There is no link and no backup in {place}.", place=place))
    for path, link in links:
        sentence = checking.noted(session, link)
        if sentence:
            yield f"{path.name}: {sentence}"
    reader = reader_of(session)
    for path in backups:
        sentence = _beyond(reader, path)
        if sentence:
            yield f"{path.name}: {sentence}"


def _beyond(reader: Reader, backup: Path) -> str:
    more = missing(reader, backup)
    if more is None:
        return tr("it is no backup of this database, or the chain was made anew since.")
    if not more.told:
        return ""
    fork = f" {more.fork_words}" if more.forked else ""
    return tr("it also has {told}, which the database has not.{fork}", told=more.told, fork=fork)


def _files(place: Path, *endings: str) -> list[Path]:
    found = sorted(place.iterdir()) if place.is_dir() else [place]
    return [path for path in found if path.is_file() and path.suffix.lower() in endings]


def _backups_in(place: Path) -> list[Path]:
    return _files(place, ".sqlite")


def _links_in(place: Path) -> list[tuple[Path, str]]:
    found: dict[tuple[Path, str], None] = {}
    for path in _files(place, ".txt", ".log", ".eml", ""):
        try:
            text = read_text(path)
        except TextRefused as refusal:
            raise ShopRefused(tr("{path} cannot be looked at: {why}.", path=path, why=refusal.why)) from None
        found.update({(path, link): None for link in LINK.findall(text)})
    return list(found)
