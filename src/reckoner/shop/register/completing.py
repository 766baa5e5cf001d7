"""Completing the register at the bench: a model's missing facts, and a new tool of a known model."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.quantities.printing import span
from reckoner.core.quantities.units import Kind, unit_named
from reckoner.core.translation import tr
from reckoner.shop.facts.shapes import is_described
from reckoner.shop.people.authorship import Act, FieldRefused, ShopRefused
from reckoner.shop.people.rights import command
from reckoner.shop.register import adding, editing
from reckoner.shop.register.editing import Command, lower
from reckoner.shop.register.field import Field
from reckoner.shop.register.fields import FIELDS
from reckoner.store.schema import Tool, ToolModel
from reckoner.store.terms import RegisterKind


class ModelFact(StrEnum):
    """The facts of a model that may be filled in at the bench, by the field they fill."""

    RESOLUTION = "resolution"
    SECOND_RESOLUTION = "second_resolution"
    LEVER_LENGTH = "lever_length"
    DRIVE = "drive"


def field_for(fact: ModelFact) -> Field:
    """The field of a model that a fact fills."""
    return next(field for field in FIELDS[RegisterKind.MODEL] if field.name == fact)


@command
def complete(session: Session, tool_id: int, fact: ModelFact, value: object, act: Act) -> Command:
    """Fill in a fact that the tool's model lacks, as its field reads it. Raises FieldRefused for what cannot be right,
    ShopRefused where the register has it already. Changes: standings, the register."""
    model = session.get_one(Tool, tool_id).model
    if getattr(model, fact):
        raise ShopRefused(tr("The register has that already; nothing was changed."))
    field, given = field_for(fact), " ".join(value.split()) if isinstance(value, str) else value
    if not given:
        raise FieldRefused(
            fact, tr("Say its {title}{also}.", title=lower(field.title), also=f", {field.hint}" if field.hint else "")
        )
    return editing.change(session, RegisterKind.MODEL, model.id, field, given, act)


PIVOT = "pivot_offset"


@dataclass(frozen=True)
class MeasuredTool:
    """What was measured of one tool while it was set up: its lever to the grip mark and where it balances (m), its mass (kg),
    one step of its scale (N·m), its pin from the drive (m), which may hold for every tool of its model
    (``pivot_of_model``); None for what was not."""

    lever_length: float | None = None
    own_mass: float | None = None
    own_centre: float | None = None
    resolution: float | None = None
    pivot_offset: float | None = None
    pivot_of_model: bool = False


@command
def keep_measured(session: Session, tool_id: int, measured: MeasuredTool, act: Act) -> Command | None:
    """Keep with the tool what was measured of it and is not as the register has it, so that it is not asked again; None where
    that is nothing. Raises FieldRefused for what cannot be right. Changes: standings, the register."""
    tool = session.get_one(Tool, tool_id)
    changes, titles = [], []
    for field in FIELDS[RegisterKind.TOOL]:
        value = getattr(measured, field.name, None)
        known = getattr(tool, field.name, None) or getattr(tool.model, field.name, None) if value else None
        if value and (known is None or not math.isclose(value, known, rel_tol=1e-9)):
            of_model = measured.pivot_of_model and field.name == PIVOT
            kind, row_id = (RegisterKind.MODEL, tool.model_id) if of_model else (RegisterKind.TOOL, tool_id)
            own = next(one for one in FIELDS[kind] if one.name == field.name)
            changes.append(editing.change(session, kind, row_id, own, value, act))
            titles.append(lower(field.title))
    if not changes:
        return None
    return editing.joined(tr("{number}: {what}, as measured", number=tool.number, what="; ".join(titles)), changes)


@dataclass(frozen=True)
class ModelFacts:
    """A model to choose from when a tool is added: its maker, empty where nobody said it, what it is called, and what it is;
    ``described``: it is called by what it is, for nobody gave it a name."""

    id: int
    maker: str
    called: str
    detail: str
    described: bool = False

    @property
    def name(self) -> str:
        """Its maker and what it is called."""
        return f"{self.maker} {self.called}".strip()


def models(session: Session) -> tuple[ModelFacts, ...]:
    """Every model, by name."""
    rows = session.scalars(
        select(ToolModel).where(ToolModel.removed.is_(False)).order_by(ToolModel.maker, ToolModel.name)
    )
    return tuple(map(_model, rows))


def _model(row: ToolModel) -> ModelFacts:
    reach = span(row.minimum or row.maximum, row.maximum, unit_named(row.unit, Kind.TORQUE))
    detail = ", ".join(filter(None, (tr(row.mechanism), reach, row.drive)))
    return ModelFacts(row.id, row.maker, row.name, detail, is_described(row.name, reach, row.drive))


@command
def add_tool(session: Session, number: str, serial: str, model_id: int, act: Act) -> int:
    """Add a tool of a known model; returns its id. Raises ShopRefused without a number, or when it is there already.
    Changes: standings, the register."""
    if not number.strip():
        raise ShopRefused(tr("Give the tool a number."))
    if session.get(ToolModel, model_id) is None:
        raise ShopRefused(tr("Choose the model of the tool."))
    ids, _command = adding.add_tools(
        session, adding.ToolsDraft((" ".join(number.split()),), model_id, serial=serial), act
    )
    return ids[0]
