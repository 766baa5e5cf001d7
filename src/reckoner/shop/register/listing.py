"""What each tool is listed and found by, kept beside the register and the standings.

``keep``     a tool's row brought up to date, in the unit of work that changed the tool, its model or where it stands
``rebuild``  every row anew
"""

from __future__ import annotations

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.translation import untranslated
from reckoner.shop.events.standing import Standing, kept
from reckoner.shop.facts.tool import ToolFacts, tool_facts
from reckoner.shop.register.finding import plain
from reckoner.store.schema import Tool, ToolListing, ToolModel, ToolStanding


def keep(session: Session, tool: Tool) -> bool:
    """Bring the row of a tool up to date; returns whether it was another one before."""
    row, new = _row(session, tool), worked_out(session, tool)
    differs = not _says(row, new)
    if new is None:
        if row is not None:
            session.delete(row)
    elif row is None:
        session.add(ToolListing(tool_id=tool.id, **new))
    else:
        for name, value in new.items():
            setattr(row, name, value)
    return differs


def is_kept(session: Session, tool: Tool) -> bool:
    """Whether the row of a tool is what it should be."""
    return _says(_row(session, tool), worked_out(session, tool))


def worked_out(session: Session, tool: Tool) -> dict[str, object] | None:
    """What the row of a tool should say; None when it should not be there."""
    if tool.removed:
        return None
    stands = session.scalar(select(ToolStanding).where(ToolStanding.tool_id == tool.id))
    standing, facts = kept(stands) if stands is not None else Standing(), tool_facts(tool)
    with untranslated():  # one listing for every station, whatever its window speaks
        words, kind = words_of(facts, standing), facts.description
    return {
        "number": tool.number,
        "plain_number": plain(tool.number),
        "plain_serial": plain(tool.serial),
        "words": words,
        "place": tool.place,
        "kind": kind,
        "smallest": facts.kind.maximum if facts.kind.is_fixed else facts.kind.minimum or 0.0,
        "full_scale": facts.kind.maximum,
        "waits": not standing.barred,
        "due_on": standing.due.on if standing.due is not None else None,
        "held_back": bool(standing.held or standing.kept) and not standing.retired,
        "lent": standing.loan is not None,
        "back_by": standing.loan.due_back if standing.loan is not None else None,
    }


def _row(session: Session, tool: Tool) -> ToolListing | None:
    return session.scalar(select(ToolListing).where(ToolListing.tool_id == tool.id))


def _says(row: ToolListing | None, new: dict[str, object] | None) -> bool:
    if row is None or new is None:
        return row is None and new is None
    return all(getattr(row, name) == value for name, value in new.items())


def keep_all_of(session: Session, model: ToolModel) -> None:
    """The same for every tool of a model."""
    for tool in session.scalars(select(Tool).where(Tool.model_id == model.id)):
        keep(session, tool)


def words_of(tool: ToolFacts, standing: Standing) -> str:
    """All that a typed word is looked for in, in one case; number and range also as they are typed in a hurry, and who has
    it."""
    said = (tool.number, tool.serial, tool.maker, tool.model, tool.description, tool.range_text, tool.place)
    hands = tuple(loan.to for loan in (standing.loan, standing.away) if loan is not None)
    hurried = (plain(tool.number), tool.range_text.replace("–", "-"))
    return " ".join(filter(None, (*said, *hurried, tool.owner, *hands))).casefold()


def rebuild(session: Session) -> int:
    """Every row anew from the register; returns how many differed from what was kept."""
    return sum(keep(session, tool) for tool in session.scalars(select(Tool).order_by(Tool.id)))
