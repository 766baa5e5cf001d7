"""Rows of the register and their versions: each edit is kept with who and when, and is undone by its inverse.

An edit says from which version it starts; when that is no longer the newest it is refused, so that two people never undo
each other unseen. To add a kind of row: a member of ``store.terms.RegisterKind`` and a row in ``KINDS``.
"""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from sqlalchemy import inspect, select
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Mapper, Session

from reckoner.core.translation import tr
from reckoner.shop.changes import ChangeKind, changed
from reckoner.shop.people.authorship import Act, ShopRefused, note
from reckoner.shop.people.rights import require, require_own
from reckoner.shop.register import listing
from reckoner.store.schema import (
    AdapterRow,
    Attachment,
    ForceGauge,
    Gear,
    JobCardRow,
    Length,
    Level,
    Person,
    Reference,
    RegisterVersion,
    Shop,
    Tool,
    ToolModel,
    WeighingScale,
    Weight,
)
from reckoner.store.schema.base import Day, unfolded
from reckoner.store.terms import RegisterKind, Right

Row = Person | ToolModel | Tool | Reference | Attachment | Shop | Gear | JobCardRow


@dataclass(frozen=True)
class _RowKind:
    """What is particular to a kind of row: its table, what changes are told of it, the fields that name it, and whether each
    name is there once only."""

    table: type[Any]
    change: ChangeKind
    named_by: tuple[str, ...]
    unique: bool = True


KINDS: dict[RegisterKind, _RowKind] = {
    RegisterKind.PERSON: _RowKind(Person, ChangeKind.PEOPLE, ("initials",)),
    RegisterKind.MODEL: _RowKind(ToolModel, ChangeKind.MODELS, ("maker", "name")),
    RegisterKind.TOOL: _RowKind(Tool, ChangeKind.TOOLS, ("number",)),
    RegisterKind.REFERENCE: _RowKind(Reference, ChangeKind.REFERENCES, ("number",)),
    RegisterKind.ATTACHMENT: _RowKind(Attachment, ChangeKind.ATTACHMENTS, ("name",), unique=False),
    RegisterKind.SHOP: _RowKind(Shop, ChangeKind.SHOP, (), unique=False),
    RegisterKind.WEIGHT: _RowKind(Weight, ChangeKind.GEAR, ("number",)),
    RegisterKind.SCALE: _RowKind(WeighingScale, ChangeKind.GEAR, ("number",)),
    RegisterKind.FORCE_GAUGE: _RowKind(ForceGauge, ChangeKind.GEAR, ("number",)),
    RegisterKind.LENGTH: _RowKind(Length, ChangeKind.GEAR, ("number",)),
    RegisterKind.LEVEL: _RowKind(Level, ChangeKind.GEAR, ("number",)),
    RegisterKind.ADAPTER: _RowKind(AdapterRow, ChangeKind.GEAR, ("number",)),
    RegisterKind.JOB_CARD: _RowKind(JobCardRow, ChangeKind.JOBS, ("number",)),
}

NOT_EDITED = ("id", "version", "removed", "kind")


@dataclass(frozen=True)
class VersionFacts:
    """One version of a row: what it changed, as field → (before, after), by whom and when."""

    version: int
    at: datetime
    by: str
    fields: Mapping[str, tuple[Any, Any]]


class EditOutdated(ShopRefused):
    """The row was edited since ``base``: ``newest`` says by whom and how."""

    def __init__(self, name: str, newest: VersionFacts) -> None:
        what = "; ".join(f"{field}: {after}" for field, (_, after) in newest.fields.items())
        super().__init__(
            tr(
                "{name} was changed meanwhile by {by} ({what}). Nothing of yours was written; look at it "
                "again, then change it.",
                name=name,
                by=newest.by or tr("another station"),
                what=what,
            )
        )
        self.newest = newest


def add(session: Session, kind: RegisterKind, row: Row, at: datetime, who: int | None) -> None:
    """Add a new row as its first version."""
    session.add(row)
    session.flush()
    _keep(session, kind, row, at, who, {}, _said(row))


def add_many_tools(session: Session, tools: Sequence[Tool], act: Act) -> None:
    """Add new tools as their first versions, many by few statements; only within ``projection.together``."""
    session.add_all(tools)
    session.flush()
    for tool in tools:
        session.add(_version(RegisterKind.TOOL, tool, act.at, act.person_id, {}, _said(tool)))
        listing.put_off(session, tool.id, act.person_id)
        changed(session, KINDS[RegisterKind.TOOL].change, tool.id, act.person_id)
    session.flush()


def _said(row: Row) -> dict[str, Any]:
    """What a new row says."""
    return {name: value for name, value in _values(row).items() if value not in (None, "")}


def _version(
    kind: RegisterKind,
    row: Row,
    at: datetime,
    who: int | None,
    before: Mapping[str, object],
    after: Mapping[str, object],
) -> RegisterVersion:
    return RegisterVersion(
        kind=kind,
        row_id=row.id,
        version=row.version,
        at=at,
        person_id=who,
        before=_json(before),
        after=_json(after),
    )


def edit(
    session: Session, kind: RegisterKind, row_id: int, fields: Mapping[str, object], act: Act, base: int | None = None
) -> int:
    """Change ``fields`` of a row; returns its new version. ``base`` is the version that the person saw (None: whatever is
    there now). Raises EditOutdated when it is no longer the newest, ShopRefused when nothing would change, or what a person
    may do by who may not grant it. Changes: the register. Right: grant where it does that."""
    row = _row(session, kind, row_id)
    if base is not None and row.version != base:
        raise EditOutdated(name_of(kind, row), versions(session, kind, row_id)[-1])
    now = _values(row)
    new = {name: value for name, value in fields.items() if now[name] != value}
    if not new:
        raise ShopRefused(tr("That is what the register says already; nothing was changed."))
    if kind is RegisterKind.PERSON and new.keys() & {*Right, "left_on"}:
        require(session, act, Right.GRANT)
    for name, value in new.items():
        setattr(row, name, value)
    row.version += 1
    _keep(session, kind, row, act.at, act.person_id, {name: now[name] for name in new}, new)
    note(
        session,
        act,
        tr("edited the {kind}", kind=tr(kind)),
        name_of(kind, row),
        version=row.version,
        **{n: str(v) for n, v in new.items()},
    )
    return row.version


def undo(
    session: Session, kind: RegisterKind, row_id: int, act: Act, base: int, now: int | None = None
) -> VersionFacts:
    """Take the edit that made version ``base`` back, by its inverse; returns what was undone. The row's adding is undone by
    removing it from sight. ``now`` is the version at which the row is to stand, where more of the same was just taken back.
    Raises EditOutdated when something was edited since and not taken back, ShopRefused when ``base`` is not known, or
    somebody else made it. Changes: the register. Right: none."""
    row = _row(session, kind, row_id)
    last = session.scalars(
        select(RegisterVersion).where(
            RegisterVersion.kind == kind, RegisterVersion.row_id == row_id, RegisterVersion.version == base
        )
    ).one_or_none()
    if last is None:
        raise ShopRefused(
            tr("How {name_of} came to be is not known; there is nothing to undo.", name_of=name_of(kind, row))
        )
    require_own(session, act, last.person_id)
    if row.version != (now or base) and _changed_since(session, kind, row_id, base):
        raise EditOutdated(name_of(kind, row), versions(session, kind, row_id)[-1])
    undone = _facts(session, last)
    if base == 1:
        set_removed(session, kind, row_id, act, removed=True)
        return undone
    before = unfolded(last.before)
    if "removed" in before:
        set_removed(session, kind, row_id, act, removed=bool(before["removed"]))
        return undone
    edit(session, kind, row_id, {name: _typed(row, name, value) for name, value in before.items()}, act)
    return undone


def _changed_since(session: Session, kind: RegisterKind, row_id: int, base: int) -> bool:
    """Whether a row is otherwise than version ``base`` left it: what was changed since and taken back again is no change."""
    first: dict[str, Any] = {}
    last: dict[str, Any] = {}
    for version in versions(session, kind, row_id):
        if version.version > base:
            for name, (before, after) in version.fields.items():
                first.setdefault(name, before)
                last[name] = after
    return first != last


def set_removed(session: Session, kind: RegisterKind, row_id: int, act: Act, *, removed: bool) -> int:
    """Take a row out of sight, or bring it back; returns its new version. Raises ShopRefused. Changes: the register. Right:
    none."""
    row = _row(session, kind, row_id)
    if row.removed == removed:
        raise ShopRefused(tr("That is how it is already; nothing was changed."))
    row.removed = removed
    row.version += 1
    _keep(session, kind, row, act.at, act.person_id, {"removed": not removed}, {"removed": removed})
    note(
        session,
        act,
        tr("{which} the {kind}", which=tr("took back") if removed else tr("brought back"), kind=tr(kind)),
        name_of(kind, row),
    )
    return row.version


def versions(session: Session, kind: RegisterKind, row_id: int) -> tuple[VersionFacts, ...]:
    """Every kept version of a row, oldest first."""
    rows = session.scalars(
        select(RegisterVersion)
        .where(RegisterVersion.kind == kind, RegisterVersion.row_id == row_id)
        .order_by(RegisterVersion.version)
    )
    return tuple(_facts(session, row) for row in rows)


def name_of(kind: RegisterKind, row: Row) -> str:
    """What people call a row, such as its number."""
    return " ".join(str(getattr(row, field)) for field in KINDS[kind].named_by).strip() or tr(
        "the {kind}", kind=tr(kind)
    )


def fields_of(row: Row) -> dict[str, Any]:
    """A row's fields as its versions write them."""
    values = _values(row) | {"removed": row.removed}
    found: dict[str, Any] = json.loads(_json(values))
    return found


def _row(session: Session, kind: RegisterKind, row_id: int) -> Row:
    found: Row = session.get_one(KINDS[kind].table, row_id)
    return found


def _facts(session: Session, row: RegisterVersion) -> VersionFacts:
    before, after = unfolded(row.before), unfolded(row.after)
    person = session.get(Person, row.person_id) if row.person_id is not None else None
    fields = {name: (before.get(name), value) for name, value in after.items()}
    return VersionFacts(row.version, row.at, person.initials if person else "", fields)


def _keep(
    session: Session,
    kind: RegisterKind,
    row: Row,
    at: datetime,
    who: int | None,
    before: Mapping[str, object],
    after: Mapping[str, object],
) -> None:
    """Keep a version. Raises ShopRefused when another program has just made the same one."""
    name = name_of(kind, row)  # not to be asked for once the flush has failed
    session.add(_version(kind, row, at, who, before, after))
    try:
        session.flush()
    except IntegrityError:
        raise ShopRefused(
            tr(
                "{name} was changed at this very moment by someone else. Nothing of yours was written; look "
                "at it again.",
                name=name,
            )
        ) from None
    if isinstance(row, Tool):
        if not listing.put_off(session, row.id, who):
            listing.keep(session, row)
    elif isinstance(row, ToolModel):
        listing.keep_all_of(session, row)
    changed(session, KINDS[kind].change, row.id, who)


def _values(row: Row) -> dict[str, Any]:
    """A row's own fields."""
    return {a.key: getattr(row, a.key) for a in mapper_of(row).column_attrs if a.key not in NOT_EDITED}


def mapper_of(row: Row) -> Mapper[Any]:
    """The mapper of its table."""
    found: Mapper[Any] = inspect(type(row))
    return found


def _json(values: Mapping[str, object]) -> str:
    return json.dumps(
        {n: v.isoformat() if isinstance(v, date) else v for n, v in values.items()}, ensure_ascii=False, default=str
    )


def _typed(row: Row, name: str, value: Any) -> Any:
    """A value from JSON as its column takes it."""
    column = mapper_of(row).column_attrs[name].columns[0]
    return date.fromisoformat(value) if isinstance(column.type, Day) and value is not None else value
