"""A register file into the database: all of it or nothing."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.errors import InputRefused
from reckoner.core.translation import tr, tr_count
from reckoner.formats.rulesets import SHIPPED
from reckoner.meters.dial import LinkRefused, checked_link
from reckoner.shop.events.projection import together, update_projection
from reckoner.shop.facts.limits import limit_columns
from reckoner.shop.facts.tool import kind_of
from reckoner.shop.people.authorship import Act, ShopRefused, note_by
from reckoner.shop.people.rights import command, require
from reckoner.shop.register.registerfile import GEAR, SECTIONS, Register
from reckoner.shop.register.rows import KINDS, add
from reckoner.store.schema import Certificate, CertificatePointRow, Gear, Person, Reference, Tool, ToolModel
from reckoner.store.terms import RegisterKind, Right


@dataclass(frozen=True)
class IntakeCount:
    """How many of each were added."""

    people: int
    models: int
    tools: int
    references: int
    gear: int = 0

    def __str__(self) -> str:
        said = [
            tr_count("{n} person", "{n} people", self.people),
            tr_count("{n} model", "{n} models", self.models),
            tr_count("{n} tool", "{n} tools", self.tools),
            tr_count("{n} reference", "{n} references", self.references),
        ]
        if self.gear:
            said.append(tr_count("{n} weight or gauge", "{n} weights and gauges", self.gear))
        return tr("Added {list} and {said}.", list=", ".join(said[:-1]), said=said[-1])


@command
def take_in(
    session: Session, register: Register, at: datetime, act: Act | None = None, source: str = tr("a register")
) -> IntakeCount:
    """Add everything in ``register``, which came from ``source``, at the time ``at``. ``act`` may be None, when nobody is
    registered yet.

    Raises ShopRefused when a number, model or initials are already there, or a tool names an unknown model. Changes:
    standings, the register."""
    if act is not None and register.people:
        require(session, act, Right.GRANT)
    who = act.person_id if act is not None else None
    for person in register.people:
        if session.scalar(select(Person).where(Person.initials == person.initials)):
            raise ShopRefused(
                tr(
                    "There is already a person with the initials {initials}; nothing was added.",
                    initials=person.initials,
                )
            )
        add(session, RegisterKind.PERSON, Person(**person.model_dump()), at, who)
    for model in register.models:
        add(session, RegisterKind.MODEL, _model(session, model), at, who)
    for row in register.references:
        add(session, RegisterKind.REFERENCE, _reference(session, row), at, who)
    models = {f"{m.maker} {m.name}": m for m in session.scalars(select(ToolModel))}
    with together(session):
        _add_tools(session, register, models, at, who)
    gear = _gear(session, register, at, who)
    taken = IntakeCount(len(register.people), len(register.models), len(register.tools), len(register.references), gear)
    note_by(session, who, at, tr("imported {source}", source=source), "register", **asdict(taken))
    return taken


def _add_tools(
    session: Session, register: Register, models: Mapping[str, ToolModel], at: datetime, who: int | None
) -> None:
    for tool in register.tools:
        if session.scalar(select(Tool).where(Tool.number == tool.number)):
            raise ShopRefused(tr("There is already a tool {number}; nothing was added.", number=tool.number))
        if tool.model not in models:
            raise ShopRefused(
                tr(
                    'Tool {number} names the model "{model}", which is not there; add it under [[models]].',
                    number=tool.number,
                    model=tool.model,
                )
            )
        if tool.rule_set not in SHIPPED:
            raise ShopRefused(
                tr(
                    'Tool {number} names the rule set "{rule_set}"; there are {list}.',
                    number=tool.number,
                    rule_set=tool.rule_set,
                    list=", ".join(SHIPPED),
                )
            )
        made = Tool(**_columns(tool, "model"), model_id=models[tool.model].id)
        add(session, RegisterKind.TOOL, made, at, who)
        update_projection(session, made.id, who)


def _columns(row: Any, *without: str) -> dict[str, Any]:
    """The columns that a row of the file fills."""
    values: dict[str, Any] = row.model_dump(exclude={"tolerance", *without})
    return values | limit_columns(row.tolerance)


def _gear(session: Session, register: Register, at: datetime, who: int | None) -> int:
    """Weights, scales, gauges, lengths, levels and adapters; returns how many."""
    count = 0
    for section in GEAR:
        kind = SECTIONS[section]
        for row in getattr(register, section):
            made: Gear = KINDS[kind].table(**row.model_dump())
            if session.scalar(select(Gear).where(Gear.number == made.number)):
                raise ShopRefused(
                    tr("There is already a weight, scale or gauge {number}; nothing was added.", number=made.number)
                )
            add(session, kind, made, at, who)
            count += 1
    return count


def _model(session: Session, row: Any) -> ToolModel:
    if session.scalar(select(ToolModel).where(ToolModel.maker == row.maker, ToolModel.name == row.name)):
        raise ShopRefused(
            tr("There is already a model {maker} {name}; nothing was added.", maker=row.maker, name=row.name)
        )
    model = ToolModel(**_columns(row))
    try:
        kind_of(model)
    except InputRefused as refusal:
        raise ShopRefused(
            tr("Model {maker} {name}: {refusal}. Nothing was added.", maker=row.maker, name=row.name, refusal=refusal)
        ) from None
    return model


def _reference(session: Session, row: Any) -> Reference:
    if session.scalar(select(Reference).where(Reference.number == row.number)):
        raise ShopRefused(tr("There is already a reference {number}; nothing was added.", number=row.number))
    if row.minimum >= row.maximum:
        raise ShopRefused(
            tr("Reference {number}: its minimum is not below its maximum. Nothing was added.", number=row.number)
        )
    try:
        checked_link(row.link)
    except LinkRefused as refusal:
        raise ShopRefused(
            tr("Reference {number}: {refusal} Nothing was added.", number=row.number, refusal=refusal)
        ) from None
    certificates = [
        Certificate(
            **c.model_dump(exclude={"points"}),
            points=[
                CertificatePointRow(torque=p.torque, error=p.error, expanded_uncertainty=p.uncertainty)
                for p in c.points
            ],
        )
        for c in row.certificates
    ]
    return Reference(**row.model_dump(exclude={"certificates"}), certificates=certificates)
