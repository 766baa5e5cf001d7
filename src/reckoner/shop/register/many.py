"""One change for many tools: where they are kept, how often they are tested, whose they are."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from datetime import date
from typing import Any

from sqlalchemy.orm import Session

from reckoner.core.translation import tr, tr_count
from reckoner.shop.people.authorship import Act, ShopRefused
from reckoner.shop.people.rights import command
from reckoner.shop.register import editing
from reckoner.shop.register.cards import where_and_order
from reckoner.shop.register.editing import Command
from reckoner.shop.register.field import Field, value_in
from reckoner.shop.register.fields import fields_of
from reckoner.shop.register.finding import question
from reckoner.shop.register.lists import Sorting
from reckoner.store.reader import Reader
from reckoner.store.schema import Tool
from reckoner.store.terms import RegisterKind

TOGETHER = ("place", "owner", "interval_months", "interval_school", "cycles_per_year", "rule_set")
"""Fields that many tools can be given at once; the others tell them apart."""

MOST = 5000
"""Tools that are changed in one act: it is one unit of work, and one undo."""


def fields_together() -> tuple[Field, ...]:
    """The fields that can be changed for many."""
    found = {field.name: field for field in fields_of(RegisterKind.TOOL)}
    return tuple(found[name] for name in TOGETHER)


def ids_at(
    reader: Reader, text: str, today: date, sorting: Sorting, spans: Sequence[tuple[int, int]]
) -> tuple[int, ...]:
    """The tools that stand in some rows of a list, from the first to the last of each of ``spans``."""
    asked = question(reader, text, today)
    ids: list[int] = []
    for first, last in spans:
        page = f"SELECT l.tool_id FROM tool_listing l WHERE {where_and_order(asked, sorting.by, down=sorting.down)}"
        size = min(last - first + 1, MOST + 1 - len(ids))
        ids += [row.tool_id for row in reader.rows(page, size=size, start=first, **asked.values)]
    return tuple(dict.fromkeys(ids))


@command
def change_many(
    session: Session,
    tool_ids: Sequence[int],
    field: Field,
    value: Any,
    act: Act,
    go_on: Callable[[int], bool] = lambda _done: True,
) -> Command:
    """Give tools the same value, all of them or none; those that have it already are left alone. ``go_on`` is told how many
    are done, and answers False to stop. Raises ShopRefused, naming the tool that cannot have it. Changes: standings, the
    register."""
    if len(tool_ids) > MOST:
        raise ShopRefused(tr("More than {most} tools are chosen; filter for fewer, and change those first.", most=MOST))
    commands: list[Command] = []
    for done, tool_id in enumerate(tool_ids):
        if not go_on(done):
            raise ShopRefused(tr("It was stopped; nothing was changed."))
        tool = session.get_one(Tool, tool_id)
        if value_in(field, editing.vars_of(tool)) == value:
            continue
        try:
            commands.append(editing.change(session, RegisterKind.TOOL, tool_id, field, value, act))
        except ShopRefused as refusal:
            raise ShopRefused(
                tr("{number}: {refusal} None of them was changed.", number=tool.number, refusal=refusal)
            ) from None
    if not commands:
        raise ShopRefused(tr("That is what the register says of all of them already; nothing was changed."))
    said = field.said(value, editing.units_of(session.get_one(Tool, tool_ids[0]))) or field.nothing
    count = tr_count("1 tool", "{n} tools", len(commands))
    return editing.joined(f"{count}: {editing.lower(field.title)} {said}", commands)
