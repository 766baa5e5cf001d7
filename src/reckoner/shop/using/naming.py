"""The one tool that somebody names at the joint or at the desk, with what is known of it, and why it may not be used."""

from __future__ import annotations

from datetime import date

from reckoner.core.kinds import Direction
from reckoner.shop.register.cards import ToolCard, cards, count
from reckoner.shop.register.finding import question
from reckoner.shop.register.naming import tool_called
from reckoner.shop.standing import Condition
from reckoner.shop.using.known import Known, known_of
from reckoner.store.reader import Reader


def named_tool(reader: Reader, text: str, today: date) -> tuple[ToolCard | None, Known | None, int]:
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


def first_direction(card: ToolCard) -> Direction:
    """Clockwise where it turns so."""
    return Direction.CW if Direction.CW in card.tool.directions else Direction.CCW


def unfit(card: ToolCard, today: date) -> str:
    """Why a tool may not be used on a day, as a sentence; empty when it may."""
    standing, number = card.standing, card.tool.number
    if standing.corrected(today) and standing.corrected_until is not None:
        return ""
    for condition in standing.conditions(today):
        match condition:
            case Condition.RETIRED:
                return f"{number} is retired."
            case Condition.EVIDENCE:
                return f"{number} is kept as evidence: {standing.kept}."
            case Condition.HELD:
                return f"{number} is held: {standing.held}."
            case Condition.AWAY:
                return f"{number} is away{f' at {standing.away.to}' if standing.away and standing.away.to else ''}."
            case Condition.NEW:
                return f"{number} was never tested."
            case Condition.OVERDUE:
                return f"{number} is overdue since {card.due(today).on:%-d %b %Y}."
            case _:
                continue
    return ""
