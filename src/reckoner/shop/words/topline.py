"""What a text at the top line means, all of it at once: something that happened, an errand, a weight on a lever, tools,
other rows, or a slip of the keys."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from reckoner.shop.register.cards import ToolCard
from reckoner.shop.register.elsewhere import FoundRow, ToolErrand, elsewhere, errand_in, probably_meant, run_called
from reckoner.shop.register.lists import matching
from reckoner.shop.using.simplesum import HungSum, hung_sum
from reckoner.shop.words.phrases import Phrase, understood
from reckoner.store.reader import Reader


@dataclass(frozen=True)
class TopLineMeaning:
    """Its first part that is there says what Enter does; ``meant`` is what is most like it, where nothing is called so."""

    phrase: Phrase | None = None
    errand: ToolErrand | None = None
    hung: HungSum | None = None
    tools: tuple[ToolCard, ...] = ()
    rows: tuple[FoundRow, ...] = ()
    meant: str = ""


def meaning_of(reader: Reader, text: str, today: date, most: int, tool_in_front: int | None = None) -> TopLineMeaning:
    """What ``text`` means, with ``most`` tools; a weight hangs on the tool in front where it names none."""
    phrase = understood(reader, text, today)
    errand = errand_in(reader, text) if phrase is None else None
    if phrase is not None or errand is not None:
        return TopLineMeaning(phrase, errand)
    if (run := run_called(reader, text)) is not None:
        return TopLineMeaning(rows=(run,))
    if (hung := hung_sum(reader, text, tool_in_front)) is not None:
        return TopLineMeaning(hung=hung)
    tools, rows = matching(reader, text, today, most), elsewhere(reader, text)
    meant = "" if tools or rows else probably_meant(reader, text)
    return TopLineMeaning(tools=tools, rows=rows, meant=meant)
