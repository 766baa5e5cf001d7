"""The register as a list: what a filter finds, a page at a time."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from reckoner.shop.register.cards import ToolCard, ToolOrder, cards, count, row_of
from reckoner.shop.register.finding import question
from reckoner.store.reader import Reader

PAGE = 30
"""Tools that are read at once."""


@dataclass(frozen=True)
class ToolsFound:
    """What a filter found: how many (``counted``; else as many as were seen, and more), the page from row ``start`` on, the
    ``row`` of the tool that was asked for (None: it is not among them), and how many the register holds and has held back."""

    count: int
    counted: bool
    start: int
    cards: tuple[ToolCard, ...]
    row: int | None
    tools: int
    held: int


@dataclass(frozen=True)
class Sorting:
    """What a list is sorted by, and whether from its end."""

    by: ToolOrder = ToolOrder.NUMBER
    down: bool = False


BY_NUMBER = Sorting()


def find(
    reader: Reader, text: str, today: date, tool_id: int | None = None, sorting: Sorting = BY_NUMBER
) -> ToolsFound:
    """What ``text`` finds, opened where the tool ``tool_id`` stands (by number), else at the beginning."""
    asked = question(reader, text, today)
    page = cards(reader, 0, PAGE, asked, sorting.by, down=sorting.down)
    tools = count(reader)
    held = int(reader.value("SELECT count(*) FROM tool_listing l WHERE l.held_back = TRUE"))
    row = next((i for i, c in enumerate(page) if c.tool.id == tool_id), None)
    if len(page) < PAGE:
        return ToolsFound(len(page), True, 0, page, row, tools, held)
    if row is None and tool_id is not None and sorting == BY_NUMBER:
        row = row_of(reader, tool_id, asked)
    if row is not None and row >= PAGE:
        start = row // PAGE * PAGE
        return ToolsFound(count(reader, asked), True, start, cards(reader, start, PAGE, asked), row, tools, held)
    if not text.strip():
        return ToolsFound(tools, True, 0, page, row, tools, held)
    return ToolsFound(len(page), False, 0, page, row, tools, held)


def count_of(reader: Reader, text: str, today: date) -> int:
    """How many tools a text finds: counted apart, for among many tools it takes longer than the first page."""
    return count(reader, question(reader, text, today))


def page_of(reader: Reader, text: str, today: date, start: int, sorting: Sorting = BY_NUMBER) -> tuple[ToolCard, ...]:
    """Another page of the same."""
    return cards(reader, start, PAGE, question(reader, text, today), sorting.by, down=sorting.down)


def matching(reader: Reader, text: str, today: date, most: int) -> tuple[ToolCard, ...]:
    """The first tools that a text means, ``most`` of them; none for an empty one."""
    return cards(reader, 0, most, question(reader, text, today)) if text.strip() else ()


def look_up(reader: Reader, text: str, today: date) -> tuple[int, ToolCard | None]:
    """How many tools a text means, and the first of them."""
    found = matching(reader, text, today, 2)
    fits = len(found) if len(found) < 2 else count_of(reader, text, today)
    return fits, found[0] if found else None
