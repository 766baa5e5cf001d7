"""Completing the register at the bench: a model's missing facts, and a new tool of a known model."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.errors import InputRefused
from reckoner.core.printing import span
from reckoner.core.units import Kind, unit_named
from reckoner.shop.acts import Act, ShopRefused
from reckoner.shop.register import adding
from reckoner.shop.register.rows import edit
from reckoner.shop.toolfacts import kind_of
from reckoner.store.schema import Tool, ToolModel
from reckoner.store.terms import RegisterKind


class ModelFact(StrEnum):
    """The facts of a model that may be filled in at the bench, by the field they fill."""

    RESOLUTION = "resolution"
    SECOND_RESOLUTION = "second_resolution"
    LEVER_LENGTH = "lever_length"
    DRIVE = "drive"


def complete(session: Session, tool_id: int, fact: ModelFact, value: object, act: Act) -> None:
    """Fill in a fact that the tool's model lacks: SI values, or words. Raises ShopRefused for one that is there already or
    cannot be right."""
    tool = session.get_one(Tool, tool_id)
    model = tool.model
    if getattr(model, fact):
        raise ShopRefused("The register has that already; nothing was changed.")
    given: object
    if fact is ModelFact.DRIVE:
        given = str(value).strip()
        if not given:
            raise ShopRefused("Write its drive, such as ½ in.")
    else:
        given = size = float(str(value))
        most = 5.0 if fact is ModelFact.LEVER_LENGTH else 0.2 * model.maximum
        if not 0 < size <= most:
            raise ShopRefused("That cannot be right for this tool; check the number and its unit.")
    edit(session, RegisterKind.MODEL, model.id, {fact.value: given}, act)
    try:
        kind_of(model)
    except InputRefused as refusal:
        raise ShopRefused(f"{refusal}.") from None


@dataclass(frozen=True)
class ModelFacts:
    """A model to choose from when a tool is added."""

    id: int
    name: str
    detail: str


def models(session: Session) -> tuple[ModelFacts, ...]:
    """Every model, by name."""
    rows = session.scalars(
        select(ToolModel).where(ToolModel.removed.is_(False)).order_by(ToolModel.maker, ToolModel.name)
    )
    return tuple(
        ModelFacts(
            m.id,
            f"{m.maker} {m.name}".strip(),
            f"{m.mechanism}, {span(m.minimum or 0.0, m.maximum, unit_named(m.unit, Kind.TORQUE))}, {m.drive}",
        )
        for m in rows
    )


def add_tool(session: Session, number: str, serial: str, model_id: int, act: Act) -> int:
    """Add a tool of a known model; returns its id. Raises ShopRefused without a number, or when it is there already."""
    if not number.strip():
        raise ShopRefused("Give the tool a number.")
    if session.get(ToolModel, model_id) is None:
        raise ShopRefused("Choose the model of the tool.")
    ids, _deed = adding.add_tools(session, adding.GivenTools((" ".join(number.split()),), model_id, serial=serial), act)
    return ids[0]
