"""What is to be done today, and why: the Today place."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta

from sqlalchemy.orm import Session

from reckoner.core.due import DueReason
from reckoner.shop.register import ToolCard, cards, open_runs

SOON = timedelta(days=30)


@dataclass(frozen=True)
class Item:
    """A tool to see to, with the reason in words."""

    card: ToolCard
    why: str
    run_id: int | None = None


@dataclass(frozen=True)
class Agenda:
    """Today's work, each list in the order it should be taken."""

    unfinished: tuple[Item, ...]
    overdue: tuple[Item, ...]
    due_soon: tuple[Item, ...]
    held: tuple[Item, ...]
    late_loans: tuple[Item, ...]
    tools: int

    @property
    def first(self) -> Item | None:
        """What to do next: what was begun, then what is overdue, then what is due; tools that are lent out last."""
        waiting = (*self.unfinished, *self.overdue, *self.due_soon)
        return next((i for i in waiting if i.card.loan is None), waiting[0] if waiting else None)


def agenda(session: Session, today: date) -> Agenda:
    """Everything that waits on ``today``; a lent tool is listed under late loans when it is past its date."""
    everything = cards(session, today)
    begun = open_runs(session)
    unfinished = tuple(Item(c, "begun, not signed", begun[c.tool.id]) for c in everything if c.tool.id in begun)
    waiting = [c for c in everything if c.tool.id not in begun and not c.held and not c.retired]
    by_date = sorted(waiting, key=lambda c: (c.due.on, c.tool.number))
    return Agenda(
        unfinished=unfinished,
        overdue=tuple(Item(c, _why(c, today)) for c in by_date if c.due.on < today or _new(c)),
        due_soon=tuple(Item(c, _why(c, today)) for c in by_date if not _new(c) and today <= c.due.on <= today + SOON),
        held=tuple(Item(c, c.held) for c in everything if c.held and not c.retired),
        late_loans=tuple(
            Item(c, f"lent to {c.loan.to}, back on {c.loan.due_back:%-d %b}")
            for c in everything
            if c.loan and c.loan.due_back and c.loan.due_back < today
        ),
        tools=len(everything),
    )


def _new(card: ToolCard) -> bool:
    return card.due.reason is DueReason.NEVER_TESTED


def _why(card: ToolCard, today: date) -> str:
    if _new(card):
        return "never tested"
    left = card.days_left(today)
    day = f"{card.due.on:%-d %b %Y}"
    if left < 0:
        return f"due {day}, {-left} days ago"
    return f"due {day}, {'today' if left == 0 else f'in {left} days'}"
