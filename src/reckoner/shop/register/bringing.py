"""Tools of a spreadsheet brought into the register, as one command, with what is known of their last tests.

Nothing is written before it is accepted. A tool or a model that was taken out of sight, as when this was undone before, is
brought back as it is read now.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from datetime import datetime, time

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.quantities.days import day_words
from reckoner.core.translation import tr, tr_count
from reckoner.shop.events import projection
from reckoner.shop.events.recording import BroughtEvent, record_brought
from reckoner.shop.people.authorship import Act, ShopRefused
from reckoner.shop.people.rights import command
from reckoner.shop.register import editing, rows
from reckoner.shop.register.adding import ModelDraft, add_model
from reckoner.shop.register.editing import Command, EditStep
from reckoner.shop.register.spreadsheets import SAME, BroughtTool
from reckoner.store.schema import Tool, ToolModel
from reckoner.store.terms import EventKind, RegisterKind

AT_ONCE = 200
"""Rows that are written between two words about how far it is."""


@command
def bring_in(
    session: Session,
    tools: Iterable[BroughtTool],
    source: str,
    act: Act,
    go_on: Callable[[int], bool] = lambda _done: True,
) -> Command:
    """Add the tools with their models, and what is known of their last tests as history that was brought in; all of it or
    nothing. ``go_on`` is told how many are in, and answers False to stop. Raises ShopRefused. Changes: standings, the
    register."""
    commands: list[Command] = []
    models: dict[ModelDraft, int] = {}
    gone = {tool.number.lower(): tool for tool in session.scalars(select(Tool).where(Tool.removed.is_(True)))}
    done = 0
    with projection.together(session):
        brought = list(tools)
        for start in range(0, len(brought), AT_ONCE):
            some = brought[start : start + AT_ONCE]
            if not go_on(done):
                raise ShopRefused(tr("It was stopped; nothing was brought in."))
            rows_of = {tool: _row(session, tool, models, commands, act) for tool in some}
            new = [row for tool, row in rows_of.items() if tool.number.lower() not in gone]
            commands += [editing.add_many_tools(session, new, act)] if new else []
            events: list[BroughtEvent] = []
            for tool, row in rows_of.items():
                back = gone.get(tool.number.lower())
                if back is not None:
                    commands.append(_tool_back(session, back, row, act))
                events += _history(row.id if back is None else back.id, tool, source, act)
            record_brought(session, events, act)
            done += len(some)
    if not commands:
        raise ShopRefused(tr("There is nothing to bring in."))
    count = sum(step.kind is RegisterKind.TOOL for command in commands for step in command.steps)
    return editing.joined(
        tr_count("bringing in {n} tool from {source}", "bringing in {n} tools from {source}", count, source=source),
        commands,
    )


def _model_back(session: Session, model: ModelDraft, act: Act) -> tuple[int, Command] | None:
    """The model of that name and range which was taken out of sight, brought back; None where there is none."""
    gone = session.scalar(
        select(ToolModel).where(
            ToolModel.maker == model.maker, ToolModel.name == model.called, ToolModel.removed.is_(True)
        )
    )
    if gone is None or abs(gone.maximum - model.maximum) > SAME * gone.maximum:
        return None
    version = rows.set_removed(session, RegisterKind.MODEL, gone.id, act, removed=False)
    return gone.id, Command(
        tr("bringing back {name}", name=gone.name), (EditStep(RegisterKind.MODEL, gone.id, version),)
    )


def _tool_back(session: Session, gone: Tool, as_read: Tool, act: Act) -> Command:
    """A tool that was taken out of sight, as when bringing it in was undone, is brought back as it is read now."""
    version = rows.set_removed(session, RegisterKind.TOOL, gone.id, act, removed=False)
    names = ("serial", "model_id", "place", "owner", "in_service", "interval_months", "resolution", "tolerance")
    given = {name: getattr(as_read, name) or ("" if name in ("serial", "place", "owner") else None) for name in names}
    if any(getattr(gone, name) != value for name, value in given.items()):
        version = rows.edit(session, RegisterKind.TOOL, gone.id, given, act)
    return Command(tr("bringing back {number}", number=gone.number), (EditStep(RegisterKind.TOOL, gone.id, version),))


def _history(tool_id: int, tool: BroughtTool, source: str, act: Act) -> list[BroughtEvent]:
    events = []
    if tool.remarks:
        events.append(BroughtEvent(tool_id, EventKind.BROUGHT_IN, f"{tool.remarks} ({source})", act.at))
    if tool.locked:
        locked = tr("“{locked}”, says {source}", locked=tool.locked, source=source)
        events.append(BroughtEvent(tool_id, EventKind.HELD, locked, act.at))
    if tool.last is None and tool.due is None:
        return events
    result = {True: tr(", passed"), False: tr(", failed"), None: ""}[tool.passed]
    words = (
        tr("last tested {last}{result}", last=day_words(tool.last), result=result)
        if tool.last is not None
        else tr("due date of earlier years")
    )
    at = datetime.combine(tool.last, time(12), act.at.tzinfo) if tool.last is not None else act.at
    events.append(BroughtEvent(tool_id, EventKind.BROUGHT_IN, f"{words} ({source})", at, tool.due))
    if tool.passed is False:
        failed = tr("it failed its last test, says {source}", source=source)
        events.append(BroughtEvent(tool_id, EventKind.HELD, failed, act.at))
    return events


def _row(session: Session, tool: BroughtTool, models: dict[ModelDraft, int], commands: list[Command], act: Act) -> Tool:
    """The tool's row, of its model, which is added or brought back where it is not there."""
    model_id = tool.model_id
    if model_id is None:
        if tool.model not in models:
            models[tool.model], command = _model_back(session, tool.model, act) or add_model(session, tool.model, act)
            commands += [command] if command is not None else []
        model_id = models[tool.model]
    return Tool(
        number=tool.number, serial=tool.serial, model_id=model_id, place=tool.place, owner=tool.owner,
        in_service=tool.first_used, interval_months=tool.months, resolution=tool.resolution, tolerance=tool.limit,
    )  # fmt: skip
