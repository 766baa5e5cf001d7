"""Why a tool may not be used. Light: the top line asks it while one types."""

from __future__ import annotations

from datetime import date

from reckoner.core.days import day_words
from reckoner.shop.register.cards import ToolCard
from reckoner.shop.standing import Condition


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
                return f"{number} is overdue since {day_words(card.due(today).on)}."
            case _:
                continue
    return ""
