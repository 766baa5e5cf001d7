"""A file that another shop, or a spreadsheet, handed on: read by what it is, and taken in.

Tables that were handed on, taken over: loans and results of earlier days, whole or not at all.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from datetime import date, datetime, time
from pathlib import Path
from typing import TYPE_CHECKING, TypeAlias

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.decision.conformity import state_of, worst_state
from reckoner.core.decision.states import State
from reckoner.core.errors import InputRefused
from reckoner.core.quantities.days import read_day
from reckoner.core.quantities.entry import read, read_plain
from reckoner.core.quantities.units import Kind, Unit, unit_named
from reckoner.core.requirements.tooltypes import Direction
from reckoner.core.translation import tr
from reckoner.formats.exchange import ExchangeFile, load
from reckoner.formats.refusals import FileRefused
from reckoner.formats.rulesets import shipped
from reckoner.formats.tables import Table, read_table
from reckoner.shop.events.projection import together, update_projection
from reckoner.shop.events.recording import take_place
from reckoner.shop.facts.tool import tool_facts
from reckoner.shop.people.authorship import Act, ShopRefused, note
from reckoner.shop.people.rights import command, require
from reckoner.shop.records.importing_exchange import TakenOver, take_over
from reckoner.store.errors import TermUnknown
from reckoner.store.schema import LoanSetting, OutsidePoint, OutsideResult, Tool, ToolEvent, ToolModel
from reckoner.store.terms import EventKind, Right, term

if TYPE_CHECKING:
    from reckoner.formats.tables import Table


class RowRefused(ShopRefused):
    """A row of a table cannot be taken; nothing was."""

    def __init__(self, line: int, why: str) -> None:
        super().__init__(tr("Line {line}: {why}. Nothing was brought in.", line=line, why=why))


def _columns(table: Table) -> dict[str, int]:
    return {" ".join(name.casefold().split()): i for i, name in enumerate(table.columns)}


def is_loans(table: Table) -> bool:
    """Whether a table is one of loans."""
    return {"tool", "to", "from"} <= set(_columns(table))


def is_results(table: Table) -> bool:
    """Whether a table is one of results."""
    return {"tool", "torque", "deviation %", "w %"} <= set(_columns(table))


def _tools(session: Session) -> dict[str, tuple[int, Unit]]:
    rows = session.execute(select(Tool.number, Tool.id, ToolModel.unit).join(ToolModel, ToolModel.id == Tool.model_id))
    return {number.casefold(): (tool_id, unit_named(unit, Kind.TORQUE)) for number, tool_id, unit in rows}


@command
def take_loans(session: Session, table: Table, act: Act) -> TakenOver:
    """Loans of earlier days from a table, as they are handed on. Those that are here already are left alone. Raises
    RowRefused, ShopRefused. Changes: standings."""
    entries, here, touched = 0, 0, set()
    for line, tool_id, unit, rows in _by_thing(session, table, ("to", "from")):
        to = rows[0]["to"]
        on = _day(line, rows[0]["from"])
        if _is_there(session, tool_id, to, on):
            here += 1
            continue
        until, back = (_day(line, rows[0].get(name, "")) if rows[0].get(name) else None for name in ("until", "back"))
        event = _loan_event(session, tool_id, EventKind.LENT, to, on, act, until)
        for row in rows:
            if row.get("set"):
                session.add(_setting(line, event.id, row, unit))
        entries += 1
        if back is not None:
            _loan_event(session, tool_id, EventKind.RETURNED, tr("from {to}", to=to), back, act)
            entries += 1
        touched.add(tool_id)
    with together(session):
        for tool_id in touched:
            update_projection(session, tool_id, act.person_id)
    note(session, act, tr("took over loans"), table.source, loans=entries)
    return TakenOver(entries=entries, here=here)


def _by_thing(
    session: Session, table: Table, keys: Sequence[str]
) -> Iterator[tuple[int, int, Unit, list[dict[str, str]]]]:
    """The rows that tell of one thing together, those alike in tool and ``keys``: the first one's line, the tool's id and
    unit, and the rows by their columns. Raises RowRefused for a tool that there is not."""
    at, tools = _columns(table), _tools(session)
    things: dict[tuple[str, ...], tuple[int, list[dict[str, str]]]] = {}
    for line, cells in table.rows:
        row = {name: cells[i].strip() for name, i in at.items()}
        key = (row["tool"].casefold(), *(row.get(name, "") for name in keys))
        things.setdefault(key, (line, []))[1].append(row)
    for (number, *_), (line, rows) in things.items():
        if number not in tools:
            raise RowRefused(line, tr("there is no tool {rows}", rows=rows[0]["tool"]))
        yield (line, *tools[number], rows)


def _is_there(session: Session, tool_id: int, to: str, on: date) -> bool:
    rows = session.scalars(
        select(ToolEvent).where(ToolEvent.tool_id == tool_id, ToolEvent.kind == EventKind.LENT, ToolEvent.note == to)
    )
    return any(row.at.date() == on for row in rows)


def _loan_event(
    session: Session, tool_id: int, kind: EventKind, words: str, on: date, act: Act, due_back: date | None = None
) -> ToolEvent:
    event = ToolEvent(
        tool_id=tool_id,
        sequence=take_place(session, tool_id),
        at=datetime.combine(on, time(12), act.at.tzinfo),
        person_id=act.person_id,
        kind=kind,
        note=words,
        due_back=due_back,
    )
    session.add(event)
    session.flush()
    return event


def _setting(line: int, event_id: int, row: dict[str, str], unit: Unit) -> LoanSetting:
    own = unit_named(row["unit"], Kind.TORQUE) if row.get("unit") else unit

    def torque(name: str) -> float | None:
        return _torque(line, row[name], own) if row.get(name) else None

    return LoanSetting(
        event_id=event_id,
        job=row.get("job", ""),
        joint=row.get("joint", ""),
        torque_set=_torque(line, row["set"], own),
        factor=_number(line, row["factor"]) if row.get("factor") else 1.0,
        adapter=row.get("adapter", ""),
        low=torque("low"),
        high=torque("high"),
    )


@command
def take_results(session: Session, table: Table, act: Act) -> TakenOver:
    """Results of earlier days or other laboratories from a table, as they are handed on. Raises RowRefused, ShopRefused.
    Changes: standings."""
    require(session, act, Right.SIGN)
    entries, here, touched = 0, 0, set()
    for line, tool_id, unit, rows in _by_thing(session, table, ("number", "issued")):
        numbered = rows[0].get("number", "")
        issued = _day(line, rows[0].get("issued", ""))
        if _has_result(session, tool_id, numbered, issued):
            here += 1
            continue
        session.add(_result(session, line, tool_id, numbered, issued, rows, unit, act))
        session.flush()
        entries += 1
        touched.add(tool_id)
    with together(session):
        for tool_id in touched:
            update_projection(session, tool_id, act.person_id)
    note(session, act, tr("took over results"), table.source, results=entries)
    return TakenOver(entries=entries, here=here)


def _has_result(session: Session, tool_id: int, numbered: str, issued: date) -> bool:
    found = select(OutsideResult.id).where(
        OutsideResult.tool_id == tool_id, OutsideResult.number == numbered, OutsideResult.issued == issued
    )
    return session.scalar(found) is not None


def _result(
    session: Session,
    line: int,
    tool_id: int,
    numbered: str,
    issued: date,
    rows: list[dict[str, str]],
    unit: Unit,
    act: Act,
) -> OutsideResult:

    tool = session.get_one(Tool, tool_id)
    facts, rules = tool_facts(tool), shipped(tool.rule_set)
    points = []
    for row in rows:
        own = unit_named(row["unit"], Kind.TORQUE) if row.get("unit") else unit
        target = _torque(line, row["torque"], own)
        limit = _number(line, row["limit %"]) / 100 if row.get("limit %") else rules.limit(facts.kind, target)
        points.append(
            OutsidePoint(
                as_left=row.get("phase", "").casefold() == "as left",
                direction=Direction(row["direction"]) if row.get("direction") in ("cw", "ccw") else Direction.CW,
                target=target,
                deviation=_number(line, row["deviation %"]) / 100,
                expanded_uncertainty=_number(line, row["w %"]) / 100,
                limit=limit,
            )
        )
    last = [p for p in points if p.as_left] or points
    state = worst_state(tuple(state_of(abs(p.deviation), p.limit, p.expanded_uncertainty) for p in last))
    if rows[0].get("state"):
        try:
            state = term(State, rows[0]["state"])
        except TermUnknown:
            raise RowRefused(line, tr("“{rows}” is no state that is known here", rows=rows[0]["state"])) from None
    return OutsideResult(
        tool_id=tool_id,
        sequence=take_place(session, tool_id),
        at=act.at,
        person_id=act.person_id,
        number=numbered,
        laboratory=rows[0].get("laboratory") or tr("another shop"),
        issued=issued,
        due=_day(line, rows[0]["due"]) if rows[0].get("due") else None,
        state=state,
        points=points,
    )


def _day(line: int, text: str) -> date:
    try:
        return read_day(text)
    except InputRefused as refusal:
        raise RowRefused(line, refusal.reason) from None


def _torque(line: int, text: str, unit: Unit) -> float:
    try:
        found = read(text, Kind.TORQUE, default=unit, field="torque").si
    except InputRefused as refusal:
        raise RowRefused(line, refusal.reason) from None
    if found <= 0:
        raise RowRefused(line, tr("a torque has to be more than nothing"))
    return found


def _number(line: int, text: str) -> float:
    try:
        return read_plain(text, -1000, 10_000, field="number")
    except InputRefused as refusal:
        raise RowRefused(line, refusal.reason) from None


Handed: TypeAlias = ExchangeFile | Table


def read_handed(path: Path) -> Handed:
    """The exchange file or the table that stands in a file; no database is needed. Raises FileRefused."""
    if path.suffix.lower() == ".json":
        return load(path)
    table = read_table(path)
    if is_loans(table) or is_results(table):
        return table
    raise FileRefused(
        path.name,
        (tr("it is no table of loans (tool, to, from) and none of results (tool, torque, deviation %, W %)"),),
    )


@command
def take_handed(session: Session, handed: Handed, name: str, act: Act) -> TakenOver:
    """Bring in what ``read_handed`` found in a file of a ``name``. Raises FileRefused, ShopRefused. Changes: standings, the
    register. Right beside: sign."""
    if isinstance(handed, ExchangeFile):
        return take_over(session, handed, act, name)
    return take_loans(session, handed, act) if is_loans(handed) else take_results(session, handed, act)
