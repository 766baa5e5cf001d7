"""The list of tools as a table, for a spreadsheet: just what a filter finds."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from functools import partial
from pathlib import Path

from sqlalchemy.orm import Session

from reckoner.core.printing import number
from reckoner.core.translation import untranslated
from reckoner.shop.register.cards import ToolCard, cards
from reckoner.shop.register.finding import question
from reckoner.shop.register.lists import BY_NUMBER, Sorting
from reckoner.store.reader import Reader, reader_of

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
    from reckoner.formats.tables import write_table

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
