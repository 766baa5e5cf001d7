"""Finding a tool by what was typed or scanned."""

from __future__ import annotations

import re

from sqlalchemy.orm import Session

from reckoner.shop.register.cards import ToolCard, cards


def look_up(session: Session, text: str) -> tuple[ToolCard, ...]:
    """The tools that ``text`` means, as ``matching`` finds them among all."""
    return matching(cards(session), text) if text.strip() else ()


def matching(all_cards: tuple[ToolCard, ...], text: str) -> tuple[ToolCard, ...]:
    """The cards that ``text`` means: an exact number or serial first, then every word found somewhere on the card."""
    wanted = _plain(text)
    if not wanted:
        return all_cards
    exact = [c for c in all_cards if wanted in (_plain(c.tool.number), _plain(c.tool.serial))]
    if exact:
        return tuple(exact)
    words = text.casefold().split()
    return tuple(c for c in all_cards if all(w in _haystack(c) or _plain(w) in _plain(c.tool.number) for w in words))


def _plain(text: str) -> str:
    return re.sub(r"[\s\-_.]", "", text).casefold()


def _haystack(found: ToolCard) -> str:
    tool = found.tool
    return " ".join(
        (
            tool.number, tool.serial, tool.maker, tool.model, tool.description, tool.range_text, tool.place,
            "held" if found.held else "", "lent" if found.loan else "",
        )
    ).casefold()  # fmt: skip
