"""Recording that something happened to a tool."""

from __future__ import annotations

from datetime import date, timedelta

from sqlalchemy import func, select
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from reckoner.core.translation import tr
from reckoner.shop.acts import Act, ShopRefused
from reckoner.shop.projection import update_projection
from reckoner.store.schema import HistoryPlace, Tool, ToolEvent, ToolStanding
from reckoner.store.terms import EventKind


def newest_place(session: Session, tool_id: int) -> int:
    """The place of the newest event, signature or outside result in the tool's own order; 0 before the first."""
    return session.scalar(select(func.max(HistoryPlace.sequence)).where(HistoryPlace.tool_id == tool_id)) or 0


def take_place(session: Session, tool_id: int) -> int:
    """Take the place of the next event, signature or outside result in the tool's own order. Raises ShopRefused where
    somebody else took it at this very moment."""
    place = newest_place(session, tool_id) + 1
    session.add(HistoryPlace(tool_id=tool_id, sequence=place))
    try:
        session.flush()
    except IntegrityError:
        raise ShopRefused(
            tr(
                "Something else happened to the tool at this very moment. Nothing was kept; look again, and "
                "repeat it if it still holds."
            )
        ) from None
    return place


def record_event(
    session: Session,
    tool_id: int,
    kind: EventKind,
    words: str,
    act: Act,
    *,
    part: tuple[float, float] | None = None,
    due_back: date | None = None,
    cycles: int | None = None,
) -> ToolEvent:
    """Record that something happened to a tool, and let its standing follow. ``part`` in N·m is what a restriction leaves,
    ``cycles`` how often it was used since it was counted last; a tool that comes back brings those of its days at work."""
    low, high = part or (None, None)
    if kind is EventKind.RETURNED and cycles is None:
        cycles = cycles_of_loan(session, tool_id, act.at.date())
    if cycles:
        due_back = used_up_on(session, tool_id, cycles, act.at.date())
    event = ToolEvent(
        tool_id=tool_id,
        sequence=take_place(session, tool_id),
        at=act.at,
        person_id=act.person_id,
        kind=kind,
        note=words,
        due_back=due_back,
        low=low,
        high=high,
        cycles=cycles,
    )
    session.add(event)
    update_projection(session, tool_id, act.person_id)
    return event


LEAST_DAYS = 30
"""Days from which a count says how fast cycles are used."""


def cycles_of_loan(session: Session, tool_id: int, today: date) -> int | None:
    """The cycles of a loan that ends ``today``, at what a day at work is taken for; None where that is not known."""
    tool = session.get_one(Tool, tool_id)
    row = session.scalar(select(ToolStanding).where(ToolStanding.tool_id == tool_id))
    if row is None or row.lent_on is None or not tool.cycles_per_lent_day:
        return None
    return tool.cycles_per_lent_day * max(1, (today - row.lent_on).days)


def used_up_on(session: Session, tool_id: int, more: int, today: date) -> date | None:
    """The day on which the cycles that a tool's rule set allows run out, once ``more`` are counted: today where they have,
    else as fast as they were used since its last full run; None where that cannot be told yet."""
    from reckoner.formats.rulesets import shipped  # loads pydantic

    row = session.scalar(select(ToolStanding).where(ToolStanding.tool_id == tool_id))
    if row is None:
        return None
    allowed = shipped(session.get_one(Tool, tool_id).rule_set).cycles
    used, since = row.cycles + more, row.last_run
    if not allowed:
        return None
    if used >= allowed:
        return today
    if since is None or (today - since).days < LEAST_DAYS:
        return None
    days = (allowed - used) * (today - since).days / used
    return today + timedelta(days=int(days)) if days < FAR else None


FAR = 20 * 365
"""Days beyond which nobody asks when cycles run out."""
