"""Why a tool may not be used. Light: the top line asks it while one types."""

from __future__ import annotations

from datetime import date

from reckoner.core.quantities.days import day_words
from reckoner.core.translation import tr
from reckoner.shop.events.standing import Condition
from reckoner.shop.register.cards import ToolCard

OUT_OF_REACH = frozenset({Condition.RETIRED, Condition.EVIDENCE, Condition.HELD, Condition.AWAY})


def can_be_tested(card: ToolCard, today: date) -> bool:
    """Whether a tool can be put on the bench for a check of one setting, and be used after it."""
    return OUT_OF_REACH.isdisjoint(card.standing.conditions(today))


def unfit(card: ToolCard, today: date) -> str:
    """Why a tool may not be used on a day, as a sentence; empty when it may."""
    standing, number = card.standing, card.tool.number
    if standing.corrected(today) and standing.corrected_until is not None:
        return ""
    for condition in standing.conditions(today):
        match condition:
            case Condition.RETIRED:
                return tr("{number} is retired.", number=number)
            case Condition.EVIDENCE:
                return tr("{number} is kept as evidence: {kept}.", number=number, kept=standing.kept)
            case Condition.HELD:
                return tr("{number} is held: {held}.", number=number, held=standing.held)
            case Condition.AWAY:
                return tr(
                    "{number} is away{also}.",
                    number=number,
                    also=tr(" at {to}", to=standing.away.to) if standing.away and standing.away.to else "",
                )
            case Condition.NEW:
                return tr("{number} was never tested.", number=number)
            case Condition.OVERDUE:
                return tr("{number} is overdue since {on}.", number=number, on=day_words(card.due(today).on))
            case _:
                continue
    return ""
