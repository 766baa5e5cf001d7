"""What is to be done today, and why: the Today place. Reads standings, and the newest link."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from sqlalchemy.orm import Session

from reckoner.shop.register.cards import ToolCard, cards
from reckoner.shop.standing import Condition
from reckoner.store.chain import newest


@dataclass(frozen=True)
class Item:
    """A tool to see to, with the reason in words."""

    card: ToolCard
    why: str


@dataclass(frozen=True)
class Agenda:
    """Today's work, each list in the order it should be taken; ``link`` is the newest of the chain of records."""

    unfinished: tuple[Item, ...]
    overdue: tuple[Item, ...]
    due_soon: tuple[Item, ...]
    held: tuple[Item, ...]
    late_loans: tuple[Item, ...]
    tools: int
    link: str = ""

    @property
    def first(self) -> Item | None:
        """What to do next: what was begun, then what is overdue, then what is due; tools that are lent out last."""
        waiting = (*self.unfinished, *self.overdue, *self.due_soon)
        return next((i for i in waiting if i.card.loan is None), waiting[0] if waiting else None)


BARRED = {Condition.HELD, Condition.EVIDENCE, Condition.RETIRED, Condition.AWAY}
"""What keeps a tool from being waited for at the bench."""


def agenda(session: Session, today: date) -> Agenda:
    """Everything that waits on ``today``; a lent tool is listed under late loans when it is past its date."""
    everything = cards(session)
    are = {c.tool.id: set(c.standing.conditions(today)) for c in everything}
    waiting = [c for c in everything if c.run_id is None and not BARRED & are[c.tool.id]]
    link = newest(session.connection())
    by_date = sorted(waiting, key=lambda c: (c.due(today).on, c.tool.number))
    return Agenda(
        unfinished=tuple(Item(c, "begun, not signed") for c in everything if c.run_id is not None),
        overdue=tuple(Item(c, _why(c, today)) for c in by_date if {Condition.OVERDUE, Condition.NEW} & are[c.tool.id]),
        due_soon=tuple(Item(c, _why(c, today)) for c in by_date if Condition.DUE in are[c.tool.id]),
        held=tuple(Item(c, c.held) for c in everything if c.held and not c.retired),
        late_loans=tuple(
            Item(c, f"lent to {c.loan.to}, back on {c.loan.due_back:%-d %b}")
            for c in everything
            if c.loan and c.loan.due_back and c.loan.due_back < today
        ),
        tools=len(everything),
        link=link.words if link is not None else "",
    )


def _why(card: ToolCard, today: date) -> str:
    if card.standing.due is None:
        return "never tested"
    left = card.days_left(today)
    day = f"{card.standing.due.on:%-d %b %Y}"
    if left < 0:
        return f"due {day}, {-left} days ago"
    return f"due {day}, {'today' if left == 0 else f'in {left} days'}"
