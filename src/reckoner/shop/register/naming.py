"""The one tool that is meant when somebody names it by its number, its serial, or the end of its number."""

from __future__ import annotations

from reckoner.shop.register.cards import ToolCard, cards, count
from reckoner.shop.register.finding import ListQuestion, plain
from reckoner.store.reader import Reader, contains


def tool_called(reader: Reader, named: str) -> ToolCard | None:
    """The one tool that is so called: by its number or serial in full, or by the end of its number."""
    wanted = plain(named)
    if not wanted:
        return None
    exact = ListQuestion("(l.plain_number = :exact OR l.plain_serial = :exact)", {"exact": wanted})
    ends = ListQuestion(contains("l.plain_number", "exact"), {"exact": wanted})
    for asked in (exact, ends):
        found = cards(reader, 0, 50, asked) if asked is ends else cards(reader, 0, 2, asked)
        if asked is ends:
            found = tuple(c for c in found if plain(c.tool.number).endswith(wanted))
            if len(found) != 1 or count(reader, asked) > 50:
                return None
        if len(found) == 1:
            return found[0]
    return None
