"""What each tool is listed and found by, kept beside the register and the standings.

``keep``     a tool's row brought up to date, in the unit of work that changed the tool, its model or where it stands
``rebuild``  every row anew
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from sqlalchemy import select
from sqlalchemy.orm import Session, selectinload

from reckoner.core.translation import untranslated
from reckoner.shop.events.standing import Standing, kept
from reckoner.shop.facts.tool import ToolFacts, tool_facts
from reckoner.shop.register.finding import plain
from reckoner.store.schema import Tool, ToolListing, ToolModel, ToolStanding

PUT_OFF = "reckoner.put off"


def put_off(session: Session, tool_id: int, who: int | None) -> bool:
    """Within ``projection.together``: note that what is kept beside a tool is to be brought up to date at its end. False
    outside: it is to be done now."""
    noted: dict[int, int | None] | None = session.info.get(PUT_OFF)
    if noted is None:
        return False
    noted[tool_id] = who
    return True


def keep(session: Session, tool: Tool) -> None:
    """Bring the row of a tool up to date."""
    row = session.scalar(select(ToolListing).where(ToolListing.tool_id == tool.id))
    stands = session.scalar(select(ToolStanding).where(ToolStanding.tool_id == tool.id))
    keep_as(session, tool, row, kept(stands) if stands is not None else None)


def keep_as(session: Session, tool: Tool, row: ToolListing | None, standing: Standing | None) -> bool:
    """Bring the ``row`` of a tool that stands so up to date; returns whether it was another one before."""
    new = entry_of(tool, standing)
    differs = not says(row, new)
    if new is None:
        if row is not None:
            session.delete(row)
    elif row is None:
        session.add(ToolListing(tool_id=tool.id, **new))
    else:
        for name, value in new.items():
            setattr(row, name, value)
    return differs


def entry_of(tool: Tool, stands: Standing | None) -> dict[str, object] | None:
    """What the row of a tool should say that stands so (None: nothing is known); None when it should not be there."""
    if tool.removed:
        return None
    standing, facts = stands or Standing(), tool_facts(tool)
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


def rows_of(session: Session, tools: Sequence[int]) -> dict[int, ToolListing]:
    """The rows of some tools."""
    return {row.tool_id: row for row in session.scalars(select(ToolListing).where(ToolListing.tool_id.in_(tools)))}


def says(row: ToolListing | None, new: dict[str, object] | None) -> bool:
    """Whether a row is what it should be."""
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
    differed = 0
    for ids in in_parts(session.scalars(select(Tool.id).order_by(Tool.id)).all()):
        stood, rows = standings_kept(session, ids), rows_of(session, ids)
        tools = select(Tool).where(Tool.id.in_(ids)).order_by(Tool.id).options(selectinload(Tool.model))
        for tool in session.scalars(tools):
            differed += keep_as(session, tool, rows.get(tool.id), stood.get(tool.id))
    return differed


AT_ONCE = 400
"""Tools that are read at a time."""


def in_parts(tools: Sequence[int]) -> Iterator[Sequence[int]]:
    """Some tools after the other."""
    return (tools[start : start + AT_ONCE] for start in range(0, len(tools), AT_ONCE))


def standings_kept(session: Session, tools: Sequence[int]) -> dict[int, Standing]:
    """What the projection says of each of some tools."""
    rows = session.execute(select(*ToolStanding.__table__.columns).where(ToolStanding.tool_id.in_(tools)))
    return {row.tool_id: kept(row) for row in rows}
