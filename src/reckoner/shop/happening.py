"""Recording that something happened to a tool."""

from __future__ import annotations

from datetime import date

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from reckoner.shop.acts import Act
from reckoner.shop.projection import follow
from reckoner.store.schema import Run, Signature, ToolEvent
from reckoner.store.terms import EventKind


def next_sequence(session: Session, tool_id: int) -> int:
    """The place of the next event or signature in the tool's own order."""
    event = session.scalar(select(func.max(ToolEvent.sequence)).where(ToolEvent.tool_id == tool_id))
    signature = session.scalar(
        select(func.max(Signature.sequence)).join(Run, Run.id == Signature.run_id).where(Run.tool_id == tool_id)
    )
    return 1 + max(event or 0, signature or 0)


def happen(
    session: Session,
    tool_id: int,
    kind: EventKind,
    words: str,
    act: Act,
    *,
    part: tuple[float, float] | None = None,
    due_back: date | None = None,
) -> ToolEvent:
    """Record that something happened to a tool, and let its standing follow. ``part`` in N·m is what a restriction leaves."""
    low, high = part or (None, None)
    event = ToolEvent(
        tool_id=tool_id,
        sequence=next_sequence(session, tool_id),
        at=act.at,
        person_id=act.person_id,
        kind=kind,
        note=words,
        due_back=due_back,
        low=low,
        high=high,
    )
    session.add(event)
    follow(session, tool_id, act.person_id)
    return event
