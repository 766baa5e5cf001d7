"""Tools as every list shows them: the tool, where it stands, and the run it is in."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date

from sqlalchemy import Select, select
from sqlalchemy.orm import Session, contains_eager

from reckoner.core.due import Due, DueReason
from reckoner.core.printing import span
from reckoner.core.states import State
from reckoner.shop.facts import ToolFacts, tool_facts
from reckoner.shop.standing import Condition, Loan, Standing, kept
from reckoner.store.schema import OpenRun, Tool, ToolStanding

AT_ONCE = 500
"""Cards asked for by id in one query at most: databases bound how many values a query may name."""


@dataclass(frozen=True)
class ToolCard:
    """A tool as every list shows it; ``run_id`` of the run it is in."""

    tool: ToolFacts
    standing: Standing
    run_id: int | None = None

    @property
    def state(self) -> State | None:
        """Of its last result."""
        return self.standing.state

    @property
    def held(self) -> str:
        """Why it is held, or kept as evidence; empty when it may be used."""
        return self.standing.kept or self.standing.held

    @property
    def loan(self) -> Loan | None:
        return self.standing.loan

    @property
    def restricted(self) -> tuple[float, float] | None:
        return self.standing.restricted

    @property
    def retired(self) -> bool:
        return self.standing.retired

    @property
    def range_words(self) -> str:
        """Its range, or the part to which it is restricted: "only 120–200 N·m"."""
        if self.restricted is None:
            return self.tool.range_text
        return f"only {span(*self.restricted, self.tool.unit)}"

    def due(self, today: date) -> Due:
        """Its due date; today for one never tested."""
        return self.standing.due or Due(today, DueReason.NEVER_TESTED)

    def days_left(self, today: date) -> int:
        return self.due(today).days_left(today)

    def due_words(self, today: date) -> str:
        """What its tag says: "12 d", "overdue 6 d", "new"; "retired", "evidence", "held" and "away" win."""
        first = next(c for c in self.standing.conditions(today) if c is not Condition.LENT)
        left = self.days_left(today)
        match first:
            case Condition.RETIRED | Condition.HELD | Condition.AWAY | Condition.NEW:
                return first.value
            case Condition.EVIDENCE:
                return "evidence"
            case Condition.OVERDUE:
                return f"overdue {-left} d"
            case _:
                return "today" if left == 0 else f"{left} d"


def cards(session: Session) -> tuple[ToolCard, ...]:
    """Every tool, by number."""
    return _cards(session, _shown())


def cards_of(session: Session, tool_ids: Iterable[int]) -> tuple[ToolCard, ...]:
    """The cards of some tools, by number."""
    ids = sorted(set(tool_ids))
    found: list[ToolCard] = []
    for start in range(0, len(ids), AT_ONCE):
        found += _cards(session, _shown().where(Tool.id.in_(ids[start : start + AT_ONCE])))
    return tuple(sorted(found, key=lambda c: c.tool.number))


def card(session: Session, tool_id: int) -> ToolCard:
    """One tool's card."""
    return _cards(session, _shown().where(Tool.id == tool_id))[0]


def _shown() -> Select[Tool, ToolStanding, int]:
    return (
        select(Tool, ToolStanding, OpenRun.run_id)
        .join(Tool.model)
        .outerjoin(ToolStanding, ToolStanding.tool_id == Tool.id)
        .outerjoin(OpenRun, OpenRun.tool_id == Tool.id)
        .where(Tool.removed.is_(False))
        .options(contains_eager(Tool.model))
        .order_by(Tool.number)
    )


def _cards(session: Session, query: Select[Tool, ToolStanding, int]) -> tuple[ToolCard, ...]:
    return tuple(
        ToolCard(tool_facts(tool), kept(row) if row is not None else Standing(), run_id)
        for tool, row, run_id in session.execute(query)
    )
