"""The one tool that somebody names at the joint or at the desk, with what is known of it."""

from __future__ import annotations

from datetime import date

from reckoner.core.kinds import Direction
from reckoner.core.translation import tr
from reckoner.shop.register.cards import ToolCard, cards, count
from reckoner.shop.register.finding import question
from reckoner.shop.register.naming import tool_called
from reckoner.shop.using.known import KnownErrors, known_of
from reckoner.store.reader import Reader


def named_tool(reader: Reader, text: str, today: date) -> tuple[ToolCard | None, KnownErrors | None, int]:
    """The tool that a text fits alone, what is known of it in the first direction that it turns, and how many tools the text
    fits."""
    card = tool_called(reader, text)
    if card is None:
        asked = question(reader, text, today)
        many = count(reader, asked)
        if many != 1:
            return None, None, many
        card = cards(reader, 0, 1, asked)[0]
    return card, known_of(reader, card.tool.id, first_direction(card)), 1


def not_one(text: str, many: int) -> str:
    """Why a text names no tool, as a sentence: it fits ``many``, or none."""
    return (
        tr("“{text}” fits {many} tools; type more.", text=text, many=many)
        if many
        else tr("No tool is called “{text}”.", text=text)
    )


def first_direction(card: ToolCard) -> Direction:
    """Clockwise where it turns so."""
    return Direction.CW if Direction.CW in card.tool.directions else Direction.CCW
