"""Finding tools by what was typed or scanned: the part of the database's question that a text makes.

A number or serial typed in full comes first; else every word is somewhere in what a tool is called, or begins a condition
that it is in, such as "held" or "overdue". ``spans`` has what is said of due dates and torques.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from datetime import date, timedelta
from typing import TYPE_CHECKING

from reckoner.core.translation import tr
from reckoner.shop.events.standing import CONDITIONS, DUE_WITHIN, Condition
from reckoner.store.reader import Reader, contains

if TYPE_CHECKING:
    from reckoner.shop.register.spans import SpanMeaning

CONDITION_WORDS: dict[str, Condition] = {
    words.split()[-1].casefold(): c for c in Condition if c is not Condition.IN_DATE for words in (c.value, tr(c))
}
"""What is typed for each condition."""

_LISTED: dict[Condition, str] = {
    Condition.HELD: "l.held_back = TRUE",
    Condition.LENT: "l.lent = TRUE",
    Condition.NEW: "l.due_on IS NULL",
    Condition.OVERDUE: "l.due_on < :today",
    Condition.DUE: "l.due_on BETWEEN :today AND :soon",
}
"""What the listing itself knows; the others are asked of the standings."""

_STANDING = "l.tool_id IN (SELECT s.tool_id FROM tool_standing s WHERE {})"

MOST_WORDS = 20
"""Words of a text that are asked for: engines bound how long a question may be."""

SHORTEST = 3
"""Letters from which a word may mean a condition."""


@dataclass(frozen=True)
class ListQuestion:
    """A condition over a row ``l`` of tool_listing, with its values."""

    where: str = "1 = 1"
    values: dict[str, object] = field(default_factory=dict)


def plain(text: str) -> str:
    """Without what people vary: spaces, hyphens, dots, case."""
    return re.sub(r"[\s\-_.]", "", text).casefold()


def days_of(today: date) -> dict[str, object]:
    """The values that ``standing.CONDITIONS`` asks for."""
    return {"today": today, "soon": today + timedelta(days=DUE_WITHIN)}


def question(reader: Reader, text: str, today: date) -> ListQuestion:
    """What ``text`` means; every tool for an empty one."""
    text = text.encode("utf-8", "ignore").decode()  # half a character, as a broken paste leaves it, is in no register
    wanted = plain(text)
    if not wanted:
        return ListQuestion()
    exact = ListQuestion("(l.plain_number = :exact OR l.plain_serial = :exact)", {"exact": wanted})
    if reader.value(f"SELECT 1 FROM tool_listing l WHERE {exact.where} LIMIT 1", **exact.values):
        return exact
    parts, values = [], days_of(today)
    if _BEYOND.search(text) and (said := _said_in(text, today)) is not None:
        parts.append(said.where)
        values |= said.values
        text = said.left
    for i, word in enumerate(list(dict.fromkeys(text.casefold().split()))[:MOST_WORDS]):
        parts.append(f"({' OR '.join(_meanings(word, i, values))})")
    return ListQuestion(" AND ".join(parts) or "1 = 1", values)


_BEYOND = re.compile(r"\b(due|for)\s|^\s*\d[\d.,]*\s*[a-z]", re.IGNORECASE)
"""What may say something of due dates or torques."""


def _said_in(text: str, today: date) -> SpanMeaning | None:
    from reckoner.shop.register.spans import said_in  # reads quantities, which most filters hold none of

    return said_in(text, today)


def _meanings(word: str, i: int, values: dict[str, object]) -> list[str]:
    """The ways in which a tool can fit a word; what they ask for goes into ``values``."""
    found = [contains("l.words", f"word{i}")]
    values[f"word{i}"] = word
    if plain(word) not in ("", word):
        found.append(contains("l.words", f"plain{i}"))
        values[f"plain{i}"] = plain(word)
    for said, condition in CONDITION_WORDS.items():
        if len(word) >= SHORTEST and said.startswith(word):
            found.append(_LISTED.get(condition) or _STANDING.format(CONDITIONS[condition]))
    return found
