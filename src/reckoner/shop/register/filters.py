"""Filters of the list of tools that are kept, to be chosen again.

The list of tools as a table, for a spreadsheet: just what a filter finds.
"""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from functools import partial
from pathlib import Path

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.quantities.printing import number
from reckoner.core.translation import tr, untranslated
from reckoner.shop.changes import ChangeKind, changed
from reckoner.shop.people.authorship import Act, ShopRefused, note
from reckoner.shop.people.rights import command
from reckoner.shop.register.cards import ToolCard, cards
from reckoner.shop.register.finding import question
from reckoner.shop.register.lists import BY_NUMBER, Sorting
from reckoner.store.reader import Reader, reader_of
from reckoner.store.schema import SavedFilter

MOST = 12
"""How many a shop keeps: more are not found again."""


def kept_filters(reader: Reader) -> tuple[str, ...]:
    """The words of each, in the order of the alphabet."""
    return tuple(row.words for row in reader.rows("SELECT words FROM saved_filter ORDER BY words"))


@command
def keep_filter(session: Session, words: str, act: Act) -> None:
    """Keep a filter. Raises ShopRefused for one that says nothing, is kept already, or would be one too many. Changes:
    filters."""
    words = " ".join(words.split())
    if not words:
        raise ShopRefused(tr("The filter is empty; type what it should find first."))
    rows = session.scalars(select(SavedFilter)).all()
    if any(row.words == words for row in rows):
        raise ShopRefused(tr("The filter “{words}” is kept already.", words=words))
    if len(rows) >= MOST:
        raise ShopRefused(tr("{most} filters are kept; forget one that is not needed first.", most=MOST))
    made = SavedFilter(words=words)
    session.add(made)
    session.flush()
    changed(session, ChangeKind.FILTERS, made.id, act.person_id)
    note(session, act, tr("kept a filter"), words)


@command
def forget_filter(session: Session, words: str, act: Act) -> None:
    """Keep it no longer; one that is gone already is gone. Changes: filters."""
    row = session.scalar(select(SavedFilter).where(SavedFilter.words == words))
    if row is None:
        return
    changed(session, ChangeKind.FILTERS, row.id, act.person_id)
    session.delete(row)
    note(session, act, tr("forgot a filter"), words)


COLUMNS = (
    "number", "serial", "maker", "model", "kind", "smallest torque", "full scale", "unit", "drive", "place", "owner",
    "last tested", "last result", "due", "stands",
)  # fmt: skip
"""As they are read again when such a list is brought in."""

EXPORT_PAGE = 500


def listed(reader: Reader, text: str, today: date, sorting: Sorting = BY_NUMBER) -> list[tuple[str, ...]]:
    """A row for each tool that ``text`` finds, as it is sorted; days as 2026-03-09."""
    asked, rows, start = question(reader, text, today), list[tuple[str, ...]](), 0
    while page := cards(reader, start, EXPORT_PAGE, asked, sorting.by, down=sorting.down):
        with untranslated():  # it is read again, whatever the window speaks there
            rows += [_row(card, today) for card in page]
        start += EXPORT_PAGE
    return rows


def list_file(session: Session, text: str, today: date, sorting: Sorting, path: Path) -> Callable[[], int]:
    """Gathers the tools that ``text`` finds, to be written as a table; how many comes of it. What is returned raises
    TableRefused."""
    from reckoner.formats.tables import write_table  # loads pydantic

    return partial(write_table, path, COLUMNS, listed(reader_of(session), text, today, sorting))


def _row(card: ToolCard, today: date) -> tuple[str, ...]:
    tool, standing = card.tool, card.standing
    low = tool.kind.minimum
    return (
        tool.number,
        tool.serial,
        tool.maker,
        tool.model,
        tool.description,
        number(tool.unit.from_si(low)) if low is not None else "",
        number(tool.unit.from_si(tool.kind.maximum)),
        tool.unit.name,
        tool.drive,
        tool.place,
        tool.owner,
        standing.last_run.isoformat() if standing.last_run is not None else "",
        card.state.words if card.state is not None else "",
        standing.due.on.isoformat() if standing.due is not None else "",
        ", ".join(c.value for c in standing.conditions(today)) + (f": {card.held}" if card.held else ""),
    )
