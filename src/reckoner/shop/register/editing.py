"""Changing the register: each change is checked, kept as a new version, and can be taken back.

A ``Command`` is what one act of a person changed, however many rows it touched; taking it back is a command too, which can
itself be taken back. What is refused is said at the field it is about (``FieldRefused``).
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import func, inspect, select
from sqlalchemy.orm import Session, object_session

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.ownunits import OwnUnits
from reckoner.core.quantities.units import N_M, Kind, unit_named
from reckoner.core.requirements.tooltypes import MECHANISMS, Mechanism, MeterMode, ToolType
from reckoner.core.translation import tr, tr_count
from reckoner.meters.dial import LinkRefused, checked_link
from reckoner.shop.events import projection
from reckoner.shop.events.projection import update_projection
from reckoner.shop.facts.ownunits import own_units
from reckoner.shop.facts.tool import kind_of, tool_facts
from reckoner.shop.people.authorship import Act, FieldRefused, ShopRefused, note, note_by
from reckoner.shop.people.rights import RIGHT_WORDS, command, require
from reckoner.shop.register import rows
from reckoner.shop.register.field import Field, FieldForm, columns_of, value_in
from reckoner.shop.register.fields import FIELDS, field_of, fields_of
from reckoner.shop.register.rows import KINDS, EditOutdated, Row, VersionFacts, name_of
from reckoner.store.reader import reader_of
from reckoner.store.schema import Gear, Person, Reference, Shop, SigningKey, Tool, ToolModel
from reckoner.store.terms import RegisterKind, Right


@dataclass(frozen=True)
class EditStep:
    """The edit that made ``version`` of a row."""

    kind: RegisterKind
    row_id: int
    version: int


@dataclass(frozen=True)
class Command:
    """What one act changed: its ``steps`` in their order, and the ``words`` that name it."""

    words: str
    steps: tuple[EditStep, ...]

    def take_back(self, session: Session, act: Act) -> Command:
        """The command that takes it back. Raises EditOutdated, ShopRefused."""
        return take_back(session, self, act)


@command
def add(session: Session, kind: RegisterKind, row: Row, act: Act | None, at: datetime) -> Command:
    """Add a row that somebody enters; ``act`` None only while nobody is registered. Raises ShopRefused, FieldRefused.
    Changes: standings, the register."""
    if act is not None:
        require(session, act, Right.EDIT)
    if isinstance(row, ToolModel):  # what its columns leave out stands before it is looked at
        row.resolution, row.pivot_offset = row.resolution or 0.0, row.pivot_offset or 0.0
    refuse_same_name(session, kind, row.id, vars_of(row))
    who = act.person_id if act is not None else None
    with session.no_autoflush:
        rows.add(session, kind, row, at, who)
    _hold_bounds(kind, row)
    _check(session, row)
    if isinstance(row, Tool):
        update_projection(session, row.id, who)
    name = name_of(kind, row)
    note_by(session, who, at, tr("added the {kind}", kind=tr(kind)), name)
    return Command(tr("adding {name}", name=name), (EditStep(kind, row.id, row.version),))


@command
def add_many_tools(session: Session, tools: Sequence[Tool], act: Act) -> Command:
    """Add many tools at once, all of them or none, with few statements. Raises ShopRefused, FieldRefused. Changes:
    standings, the register."""
    called = set(session.scalars(select(Tool.number)))
    for tool in tools:
        if tool.number in called:
            refuse_same_name(session, RegisterKind.TOOL, None, {"number": tool.number})
            raise FieldRefused("number", tr("There are two tools {number}.", number=tool.number))
        called.add(tool.number)
    with projection.together(session):
        rows.add_many_tools(session, tools, act)
        for tool in tools:
            _hold_bounds(RegisterKind.TOOL, tool)
            _check(session, tool)
            note(session, act, tr("added the {kind}", kind=tr(RegisterKind.TOOL)), tool.number)
    words = tr_count("adding {n} tool", "adding {n} tools", len(tools))
    return Command(words, tuple(EditStep(RegisterKind.TOOL, tool.id, tool.version) for tool in tools))


@command
def change(
    session: Session, kind: RegisterKind, row_id: int, field: Field, value: Any, act: Act, base: int | None = None
) -> Command:
    """Give a field of a row another value. Raises FieldRefused for one that cannot be, EditOutdated, ShopRefused. Changes:
    standings, the register."""
    row = _row(session, kind, row_id)
    before = value_in(field, vars_of(row))
    own = units_of(row)
    refuse_same_name(session, kind, row_id, vars_of(row) | columns_of(kind, field, value))
    try:
        field.hold(value, own)
        version = rows.edit(session, kind, row_id, columns_of(kind, field, value), act, base)
        _check(session, row)
    except FieldRefused:
        raise
    except InputRefused as refusal:
        raise _at_field(refusal, field.name) from None
    if isinstance(row, Tool):
        update_projection(session, row.id, act.person_id)
    said, was = field.said(value, own) or tr("nothing"), field.said(before, own) or tr("nothing")
    return Command(
        tr(
            "{name_of}: {title} {said}, was {was}",
            name_of=name_of(kind, row),
            title=lower(field.title),
            said=said,
            was=was,
        ),
        (EditStep(kind, row_id, version),),
    )


@command
def remove(session: Session, kind: RegisterKind, row_id: int, act: Act) -> Command:
    """Take a row out of sight; what names it still finds it. Raises ShopRefused while something counts on it. Changes: the
    register."""
    row = _row(session, kind, row_id)
    if isinstance(row, ToolModel):
        of = session.scalar(select(func.count()).where(Tool.model_id == row.id, Tool.removed.is_(False)))
        if of:
            raise ShopRefused(
                tr(
                    "{of} tools are of the model {name_of}; give them another model first.",
                    of=of,
                    name_of=name_of(kind, row),
                )
            )
    version = rows.set_removed(session, kind, row_id, act, removed=True)
    if isinstance(row, Person):
        _check_person(session, row)
    return Command(tr("removing {name_of}", name_of=name_of(kind, row)), (EditStep(kind, row_id, version),))


@command
def take_back(session: Session, command: Command, act: Act) -> Command:
    """Take a command back, all of it or nothing; returns the command that did so. Raises EditOutdated when one of its rows
    was changed since, ShopRefused. Changes: standings, the register."""
    made: list[EditStep] = []
    stands: dict[tuple[RegisterKind, int], int] = {}
    for step in reversed(command.steps):
        rows.undo(session, step.kind, step.row_id, act, step.version, stands.get((step.kind, step.row_id)))
        row = _row(session, step.kind, step.row_id)
        session.flush()
        session.expire(row)
        _check(session, row)
        if isinstance(row, Tool) and not row.removed:
            update_projection(session, row.id, act.person_id)
        stands[step.kind, step.row_id] = row.version
        made.append(EditStep(step.kind, step.row_id, row.version))
    return Command(command.words, tuple(made))


def joined(words: str, commands: Iterable[Command]) -> Command:
    """Several commands as one."""
    return Command(words, tuple(step for command in commands for step in command.steps))


@dataclass(frozen=True)
class RowSheet:
    """A row as its sheet shows it: its fields' values by name, the units that they are told in, and how it came to
    be."""

    kind: RegisterKind
    id: int
    version: int
    name: str
    own: OwnUnits
    fields: tuple[Field, ...]
    values: Mapping[str, Any]
    changes: tuple[VersionFacts, ...]
    removed: bool = False


def the_shop(session: Session) -> int:
    """The id of the shop's own row; made, with nothing said in it, when it is first asked for."""
    found = session.scalar(select(Shop.id))
    if found is None:
        row = Shop()
        session.add(row)
        session.flush()
        found = row.id
    return found


def row_sheet(session: Session, kind: RegisterKind, row_id: int) -> RowSheet:
    """A row of the register, to be read and edited."""
    row = _row(session, kind, row_id)
    columns = vars_of(row)
    fields = fields_of(kind)
    values = {f.name: value_in(f, columns) for f in fields}
    history = rows.versions(session, kind, row_id)
    return RowSheet(kind, row_id, row.version, name_of(kind, row), units_of(row), fields, values, history, row.removed)


def change_words(kind: RegisterKind, facts: VersionFacts, own: OwnUnits) -> str:
    """What a version changed, in words."""
    if facts.version == 1:
        return tr("added")
    if set(facts.fields) == {"removed"}:
        return tr("taken out of sight") if facts.fields["removed"][1] else tr("brought back")
    said = []
    for name, (before, after) in facts.fields.items():
        field = field_of(kind, name)
        if name == "zones" and "tolerance" in facts.fields:
            continue  # said with the limit that it is a part of
        if field is not None and field.form is FieldForm.LIMIT and "zones" in facts.fields:
            by_zones = facts.fields["zones"]
            before, after = by_zones[0] or before, by_zones[1] or after
        if field is None or field.name == "kind":
            title = "model" if name == "model_id" else name.rstrip("_")
            said.append(
                tr("{title} changed", title=title)
                if name == "model_id"
                else tr("{title} {after}, was {before}", title=title, after=after, before=before)
            )
            continue
        said.append(
            tr(
                "{title} {said}, was {said_2}",
                title=lower(field.title),
                said=field.said(after, own) or tr("nothing"),
                said_2=field.said(before, own) or tr("nothing"),
            )
        )
    return "; ".join(said)


def lower(title: str) -> str:
    """A title within a sentence."""
    return title[:1].lower() + title[1:]


def vars_of(row: Row) -> dict[str, Any]:
    """The columns of a row by name."""
    return {a.key: getattr(row, a.key) for a in rows.mapper_of(row).column_attrs}


def units_of(row: Row) -> OwnUnits:
    """The units that the values of a row are typed and told in."""
    torque = None
    match row:
        case ToolModel() | Reference():
            torque = unit_named(row.unit, Kind.TORQUE)
        case Tool():
            torque = unit_named(row.model.unit, Kind.TORQUE)
    session = object_session(row)
    return own_units(reader_of(session), torque) if session is not None else OwnUnits(torque or N_M)


def _row(session: Session, kind: RegisterKind, row_id: int) -> Row:
    found: Row | None = session.get(KINDS[kind].table, row_id)
    if found is None:
        raise ShopRefused(tr("That is not in the register any more; look at the list again."))
    return found


def refuse_same_name(session: Session, kind: RegisterKind, row_id: int | None, columns: Mapping[str, Any]) -> None:
    """Raises FieldRefused when another row is called as these columns say."""
    named_by = KINDS[kind].named_by
    if not KINDS[kind].unique:
        return
    table = inspect(KINDS[kind].table).base_mapper.class_  # what shares a table shares its names
    with session.no_autoflush:
        same = [getattr(table, name) == columns[name] for name in named_by]
        found = session.scalars(select(table).where(*same, table.id != (row_id or 0))).first()
    if found is not None:
        gone = tr(" It was taken out of sight; bring it back instead.") if found.removed else ""
        what = found.kind if isinstance(found, Gear) else kind
        raise FieldRefused(
            named_by[-1],
            tr("There is already a {what} {name_of}.{gone}", what=what, name_of=name_of(kind, found), gone=gone),
        )


def _hold_bounds(kind: RegisterKind, row: Row) -> None:
    """Raises FieldRefused for a quantity of a new row that is beyond its field's bounds."""
    columns = vars_of(row)
    for field in FIELDS.get(kind, ()):
        value = value_in(field, columns)
        if not field.holds(value):
            try:
                field.hold(value, units_of(row))
            except InputRefused as refusal:
                raise _at_field(refusal, field.name) from None


def _check(session: Session, row: Row) -> None:
    """Raises FieldRefused, InputRefused for what no such thing can be."""
    match row:
        case Person():
            _check_person(session, row)
        case Shop():
            _check_shop(session, row)
        case ToolModel():
            _check_model(row)
        case Tool():
            _check_tool(row)
        case Reference():
            _check_reference(row)


def _check_shop(session: Session, shop: Shop) -> None:
    keyed = select(SigningKey.id).join(Person, Person.id == SigningKey.person_id)
    if shop.asks_at_sitting and not session.scalar(keyed.where(Person.left_on.is_(None), Person.may_edit)):
        raise FieldRefused(
            "asks_at_sitting",
            tr(
                "Somebody who may change the register sets a passphrase first, under Tools, People; else nobody sits down."
            ),
        )


def _check_person(session: Session, person: Person) -> None:
    """Somebody is left who may change the register, and somebody who may say what others may do."""
    here = (Person.left_on.is_(None), Person.removed.is_(False))
    gone = person.left_on is not None or person.removed
    for right in (Right.EDIT, Right.GRANT):
        lost = gone or not getattr(person, right)
        if lost and not session.scalar(select(Person.id).where(getattr(Person, right), *here, Person.id != person.id)):
            raise FieldRefused(
                "left_on" if gone else right.value,
                tr("Somebody has to be left who may {do_that}; grant it to another first.", do_that=RIGHT_WORDS[right]),
            )


def _check_model(model: ToolModel) -> None:
    if model.minimum is not None and model.minimum >= model.maximum and not _is_fixed(model):
        raise FieldRefused("minimum", tr("The smallest torque has to be below the full scale; exchange them."))
    try:
        kind_of(model)
    except InputRefused as refusal:
        raise _at_field(refusal, "maximum") from None
    if model.resolution and model.resolution > 0.2 * model.maximum:
        raise FieldRefused("resolution", tr("That is over a fifth of its full scale; check the number and its unit."))
    shows = MECHANISMS[model.mechanism].mode is MeterMode.HOLD
    either = model.mechanism is Mechanism.ELECTRONIC  # it shows, or signals what it was set to
    if shows and not either and model.type is ToolType.SETTING:
        raise FieldRefused(
            "kind", tr("A {mechanism} tool shows its torque: it is of Type I.", mechanism=tr(model.mechanism))
        )
    if not shows and not either and model.type is ToolType.INDICATING:
        raise FieldRefused(
            "kind", tr("A {mechanism} tool is set to its torque: it is of Type II.", mechanism=tr(model.mechanism))
        )
    lever, pin = model.lever_length, model.pivot_offset
    if lever is not None and pin and pin >= lever:
        raise FieldRefused("pivot_offset", tr("The pin has to lie between the drive and the grip mark."))


def _is_fixed(model: ToolModel) -> bool:
    return kind_of(model).is_fixed


_FIELD_OF = {"class": "kind", "max": "maximum", "min": "minimum", "tolerance_percent": "tolerance"}
"""What the arithmetic calls a fact → the field that holds it."""


def _at_field(refusal: InputRefused, otherwise: str) -> FieldRefused:
    """What the arithmetic refuses, at the field that holds it."""
    return FieldRefused(_FIELD_OF.get(refusal.field, otherwise), f"{refusal.reason[:1].upper()}{refusal.reason[1:]}.")


def _check_tool(tool: Tool) -> None:
    from reckoner.formats.rulesets import SHIPPED  # loads pydantic

    if tool.rule_set not in SHIPPED:
        raise FieldRefused(
            "rule_set",
            tr('There is no rule set "{rule_set}"; there are {list}.', rule_set=tool.rule_set, list=", ".join(SHIPPED)),
        )
    if not tool.number.strip():
        raise FieldRefused("number", tr("Give the tool a number."))
    if tool.model is not None:
        tool_facts(tool)
        lever = tool.lever_length if tool.lever_length is not None else tool.model.lever_length
        if lever is not None and tool.pivot_offset is not None and tool.pivot_offset >= lever:
            raise FieldRefused("pivot_offset", tr("The pin has to lie between the drive and the grip mark."))


def _check_reference(reference: Reference) -> None:
    if reference.minimum >= reference.maximum:
        raise FieldRefused("minimum", tr("Its range has to begin below where it ends; exchange them."))
    if reference.resolution > 0.1 * reference.maximum:
        raise FieldRefused("resolution", tr("That is over a tenth of its range; check the number and its unit."))
    if reference.zero_tolerance > 0.1 * reference.maximum:
        raise FieldRefused("zero_tolerance", tr("That is over a tenth of its range; check the number and its unit."))
    try:
        checked_link(reference.link)
    except LinkRefused as refusal:
        raise FieldRefused("link", str(refusal)) from None


__all__ = [
    "Command",
    "EditOutdated",
    "EditStep",
    "FieldRefused",
    "RowSheet",
    "add",
    "add_many_tools",
    "change",
    "change_words",
    "joined",
    "remove",
    "row_sheet",
    "take_back",
]  # fmt: skip
