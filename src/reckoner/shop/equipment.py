"""Completing the register at the bench: a model's missing facts, a new tool of a known model, a reference's link."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.errors import InputRefused
from reckoner.core.printing import span
from reckoner.core.units import Kind, unit_named
from reckoner.shop.acts import Act, ShopRefused, note
from reckoner.shop.facts import kind_of
from reckoner.store.schema import Reference, Tool, ToolModel

COMPLETED = ("resolution", "lever_length", "drive")
"""The facts of a model that may be filled in at the bench."""


def complete(session: Session, tool_id: int, field: str, value: object, act: Act) -> None:
    """Fill in a fact that the tool's model lacks: SI values, or words. Raises ShopRefused for one that is there already or
    cannot be right."""
    tool = session.get_one(Tool, tool_id)
    model = tool.model
    if field not in COMPLETED:
        raise ShopRefused(f"There is no such fact to fill in: {field}.")
    if getattr(model, field):
        raise ShopRefused("The register has that already; nothing was changed.")
    if field == "drive":
        if not str(value).strip():
            raise ShopRefused("Write its drive, such as ½ in.")
        model.drive = str(value).strip()
    else:
        size = float(str(value))
        most = 0.2 * model.maximum if field == "resolution" else 5.0
        if not 0 < size <= most:
            raise ShopRefused("That cannot be right for this tool; check the number and its unit.")
        setattr(model, field, size)
    try:
        kind_of(model)
    except InputRefused as refusal:
        raise ShopRefused(f"{refusal}.") from None
    note(session, act, "completed the model", tool.number, **{field: value})


@dataclass(frozen=True)
class ModelFacts:
    """A model to choose from when a tool is added."""

    id: int
    name: str
    detail: str


def models(session: Session) -> tuple[ModelFacts, ...]:
    """Every model, by name."""
    rows = session.scalars(select(ToolModel).order_by(ToolModel.maker, ToolModel.name))
    return tuple(
        ModelFacts(
            m.id,
            f"{m.maker} {m.name}",
            f"{m.mechanism}, {span(m.minimum or 0.0, m.maximum, unit_named(m.unit, Kind.TORQUE))}, {m.drive}",
        )
        for m in rows
    )


def add_tool(session: Session, number: str, serial: str, model_id: int, act: Act) -> int:
    """Add a tool of a known model; returns its id. Raises ShopRefused without a number, or when it is there already."""
    number = number.strip()
    if not number:
        raise ShopRefused("Give the tool a number.")
    if session.scalar(select(Tool).where(Tool.number == number)):
        raise ShopRefused(f"There is already a tool {number}.")
    model = session.get(ToolModel, model_id)
    if model is None:
        raise ShopRefused("Choose the model of the tool.")
    tool = Tool(number=number, serial=serial.strip(), model=model)
    session.add(tool)
    session.flush()
    note(session, act, "added a tool", number, serial=serial.strip(), model=f"{model.maker} {model.name}")
    return tool.id


def set_link(session: Session, reference_id: int, link: str, act: Act) -> None:
    """Remember how a reference is reached. Raises ShopRefused for text that cannot be a link."""
    from reckoner.meters.plain import SCHEME, PlainPlan

    reference = session.get_one(Reference, reference_id)
    link = link.strip()
    if link.startswith(SCHEME):
        try:
            PlainPlan.parse(link)
        except InputRefused as refusal:
            raise ShopRefused(f"The link {refusal.reason}.") from None
    if len(link) > 200:
        raise ShopRefused("The link is longer than 200 characters.")
    reference.link = link
    note(session, act, "set the link", reference.number, link=link)
