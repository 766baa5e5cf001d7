"""What a text at the top line means, all of it at once: something that happened, an errand, tools, other rows, or a slip of
the keys."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from reckoner.shop.register.cards import ToolCard
from reckoner.shop.register.elsewhere import FoundRow, ToolErrand, elsewhere, errand_in, probably_meant
from reckoner.shop.register.lists import matching
from reckoner.shop.words.phrases import Phrase, understood
from reckoner.store.reader import Reader


@dataclass(frozen=True)
class TopLineMeaning:
    """Its first part that is there says what Enter does; ``meant`` is what is most like it, where nothing is called so."""

    phrase: Phrase | None = None
    errand: ToolErrand | None = None
    tools: tuple[ToolCard, ...] = ()
    rows: tuple[FoundRow, ...] = ()
    meant: str = ""


def meaning_of(reader: Reader, text: str, today: date, most: int) -> TopLineMeaning:
    """What ``text`` means, with ``most`` tools."""
    phrase = understood(reader, text, today)
    errand = errand_in(reader, text) if phrase is None else None
    if phrase is not None or errand is not None:
        return TopLineMeaning(phrase, errand)
    tools, rows = matching(reader, text, today, most), elsewhere(reader, text)
    return TopLineMeaning(None, None, tools, rows, "" if tools or rows else probably_meant(reader, text))
