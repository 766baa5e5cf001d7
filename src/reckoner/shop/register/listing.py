"""What each tool is listed and found by, kept beside the register.

``keep``     a tool's row brought up to date, in the unit of work that changed the tool or its model
``rebuild``  every row anew
"""

from __future__ import annotations

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.shop.register.finding import plain
from reckoner.shop.toolfacts import ToolFacts, tool_facts
from reckoner.store.schema import Tool, ToolListing, ToolModel


def keep(session: Session, tool: Tool) -> bool:
    """Bring the row of a tool up to date; returns whether it was another one before."""
    row = session.scalar(select(ToolListing).where(ToolListing.tool_id == tool.id))
    if tool.removed:
        if row is not None:
            session.delete(row)
        return row is not None
    facts = tool_facts(tool)
    new = {
        "number": tool.number,
        "plain_number": plain(tool.number),
        "plain_serial": plain(tool.serial),
        "words": words_of(facts),
    }
    if row is None:
        session.add(ToolListing(tool_id=tool.id, **new))
        return True
    differs = any(getattr(row, name) != value for name, value in new.items())
    for name, value in new.items():
        setattr(row, name, value)
    return differs


def keep_all_of(session: Session, model: ToolModel) -> None:
    """The same for every tool of a model."""
    for tool in session.scalars(select(Tool).where(Tool.model_id == model.id)):
        keep(session, tool)


def words_of(tool: ToolFacts) -> str:
    """All that a typed word is looked for in, in one case; the number also as it is typed in a hurry."""
    said = (tool.number, tool.serial, tool.maker, tool.model, tool.description, tool.range_text, tool.place)
    return " ".join((*said, plain(tool.number))).casefold()


def rebuild(session: Session) -> int:
    """Every row anew from the register; returns how many differed from what was kept."""
    return sum(keep(session, tool) for tool in session.scalars(select(Tool).order_by(Tool.id)))
