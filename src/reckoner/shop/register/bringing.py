"""Tools of a spreadsheet brought into the register, as one command, with what is known of their last tests.

Nothing is written before it is accepted. A tool or a model that was taken out of sight, as when this was undone before, is
brought back as it is read now.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from datetime import datetime, time

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from reckoner.core.quantities.days import day_words
from reckoner.core.translation import tr, tr_count
from reckoner.shop.events.recording import record_event
from reckoner.shop.people.authorship import Act, ShopRefused
from reckoner.shop.people.rights import require
from reckoner.shop.register import editing, rows
from reckoner.shop.register.adding import ModelDraft, add_model
from reckoner.shop.register.editing import Command, EditStep
from reckoner.shop.register.spreadsheets import SAME, BroughtTool
from reckoner.store.schema import Tool, ToolModel
from reckoner.store.terms import EventKind, RegisterKind, Right


def bring_in(
    session: Session,
    tools: Iterable[BroughtTool],
    source: str,
    act: Act,
    go_on: Callable[[int], bool] = lambda _done: True,
) -> Command:
    """Add the tools with their models, and what is known of their last tests as history that was brought in; all of it or
    nothing. ``go_on`` is told how many are in, and answers False to stop. Raises ShopRefused. Changes: standings, the
    register. Right: edit."""
    require(session, act, Right.EDIT)
    commands: list[Command] = []
    models: dict[ModelDraft, int] = {}
    for done, tool in enumerate(tools):
        if not go_on(done):
            raise ShopRefused(tr("It was stopped; nothing was brought in."))
        model_id = tool.model_id
        if model_id is None:
            if tool.model not in models:
                models[tool.model], command = _model_back(session, tool.model, act) or add_model(
                    session, tool.model, act
                )
                commands += [command] if command is not None else []
            model_id = models[tool.model]
        row = Tool(
            number=tool.number, serial=tool.serial, model_id=model_id, place=tool.place, owner=tool.owner,
            in_service=tool.first_used, interval_months=tool.months, resolution=tool.resolution, tolerance=tool.limit,
        )  # fmt: skip
        gone = session.scalar(
            select(Tool).where(func.lower(Tool.number) == tool.number.lower(), Tool.removed.is_(True))
        )
        if gone is not None:
            commands.append(_tool_back(session, gone, row, act))
        else:
            commands.append(editing.add(session, RegisterKind.TOOL, row, act, act.at))
        _history(session, row.id if gone is None else gone.id, tool, source, act)
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


def _history(session: Session, tool_id: int, tool: BroughtTool, source: str, act: Act) -> None:
    if tool.remarks:
        record_event(session, tool_id, EventKind.BROUGHT_IN, f"{tool.remarks} ({source})", act)
    if tool.last is None and tool.due is None:
        return
    result = {True: tr(", passed"), False: tr(", failed"), None: ""}[tool.passed]
    words = (
        tr("last tested {last}{result}", last=day_words(tool.last), result=result)
        if tool.last is not None
        else tr("due date of earlier years")
    )
    at = datetime.combine(tool.last, time(12), act.at.tzinfo) if tool.last is not None else act.at
    record_event(
        session, tool_id, EventKind.BROUGHT_IN, f"{words} ({source})", Act(act.person_id, at), due_back=tool.due
    )  # fmt: skip
    if tool.passed is False:
        record_event(session, tool_id, EventKind.HELD, tr("it failed its last test, says {source}", source=source), act)
