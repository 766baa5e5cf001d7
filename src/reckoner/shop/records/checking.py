"""Walking the records in full: the chain of digests, the seals, and what must follow from the records.

Nothing is changed. Each finding is a value; ``wording.finding_sentence`` says it.
"""

from __future__ import annotations

import hashlib
import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from enum import Enum, auto
from typing import Any

from sqlalchemy import or_, select
from sqlalchemy.orm import Session, selectinload

from reckoner.core.errors import Refused
from reckoner.core.translation import tr
from reckoner.shop.events import projection, standing
from reckoner.shop.events.kinds import EVENTS
from reckoner.shop.people import seals
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.register import listing
from reckoner.shop.register.rows import KINDS, Row, fields_of, name_of
from reckoner.store import chain
from reckoner.store.chain import Breach
from reckoner.store.chainlink import SHOWN, WrittenLink
from reckoner.store.schema import (
    Abandonment,
    Audit,
    Certificate,
    Content,
    Observation,
    OpenRun,
    RegisterVersion,
    Run,
    Series,
    Signature,
    Tool,
    ToolEvent,
)
from reckoner.store.schema.base import unfolded
from reckoner.store.sqlitefile import broken_references
from reckoner.store.terms import LinkKind, RegisterKind


class ProjectionFault(Enum):
    """What can be wrong with what follows from the records."""

    STANDING = auto()
    LISTING = auto()
    OPEN_RUN = auto()
    REGISTER = auto()
    UNSEALED = auto()
    BROKEN = auto()
    UNREADABLE = auto()
    GONE = auto()
    OTHERWISE = auto()
    UNVERSIONED = auto()
    SEAL = auto()


@dataclass(frozen=True)
class CheckFinding:
    """Something that is not as it was kept: what is wrong, with ``what`` (words that name it), at the link ``place``."""

    wrong: Breach | ProjectionFault
    what: str = ""
    place: int = 0


def unchanged(session: Session, kind: LinkKind, row_id: int) -> bool | None:
    """Whether a record still is what its link in the chain was made over; None for one without a link."""
    connection = session.connection()
    link = chain.link_of(connection, kind, row_id)
    return None if link is None else chain.content_of(connection, kind, row_id, link.form) == link.content


@dataclass(frozen=True)
class LinksWalked:
    """A part of the chain that was walked: how many links, the last of them, and what was found."""

    links: int
    newest: WrittenLink | None
    found: tuple[CheckFinding, ...]


def walk(session: Session) -> Iterator[WrittenLink | CheckFinding]:
    """Every link of the chain as it is walked, and every finding."""
    for link, found in chain.walk_links(session.connection()):
        if link is not None:
            yield link
        for one in found:
            yield CheckFinding(one.breach, _named(session, one.kind, one.row_id), one.place)
    yield from what_follows(session)


def walk_part(session: Session, after: int, until: int | None) -> LinksWalked:
    """A part of the chain, as ``parts_of`` cuts it."""
    links, newest = 0, None
    wrong: list[CheckFinding] = []
    for link, found in chain.walk_links(session.connection(), after, until):
        links, newest = links + (link is not None), link or newest
        wrong += [CheckFinding(one.breach, _named(session, one.kind, one.row_id), one.place) for one in found]
    return LinksWalked(links, newest, tuple(wrong))


def parts_of(session: Session, after: int, size: int) -> list[tuple[int, int | None]]:
    """The chain ``after`` a place, cut into parts of about ``size`` links: after which place, until which."""
    newest = chain.newest(session.connection())
    last = newest.place if newest is not None else after
    ends = [*range(after + size, last, size), None]
    return list(zip([after, *(end for end in ends if end is not None)], ends, strict=True))


def what_follows(session: Session) -> Iterator[CheckFinding]:
    """Records without a link, what is not as it follows from the records, and signatures whose seal does not fit."""
    for one in chain.inserted(session.connection()):
        yield CheckFinding(one.breach, _named(session, one.kind, one.row_id), one.place)
    broken = tuple(broken_references(session.connection()))
    for table, row_id, names in broken:
        words = tr(
            "row {row_id} of {table} names a row of {names} that is gone", row_id=row_id, table=table, names=names
        )
        yield CheckFinding(ProjectionFault.BROKEN, words)
    yield from _readable(_told_of(session))
    yield from _readable(_contents(session))
    yield from _readable(_register(session))
    if broken:
        return  # nothing follows from what is not there
    yield from _readable(_standings(session))
    yield from _readable(_open_runs(session))
    yield from _readable(_sealed(session))


def _readable(found: Iterator[CheckFinding]) -> Iterator[CheckFinding]:
    """What is found, and what cannot be read as itself a finding: the rest of its kind is then not looked at."""
    try:
        yield from found
    except Refused as refusal:
        yield CheckFinding(ProjectionFault.UNREADABLE, str(refusal))


def _told_of(session: Session) -> Iterator[CheckFinding]:
    """Runs and readings that a line of the audit trail tells of, and that are gone, or read otherwise in a run that is not
    over: nothing else names those before they are linked."""
    runs, readings = set(session.scalars(select(Run.id))), set(session.scalars(select(Observation.id)))
    open_ones = {
        row.id: row
        for row in session.execute(
            select(Observation.id, Observation.torque, Observation.tool_value)
            .join(Series, Series.id == Observation.series_id)
            .join(OpenRun, OpenRun.run_id == Series.run_id)
        )
    }
    gone: set[tuple[str, int]] = set()
    lines = select(Audit.detail).where(or_(Audit.detail.contains('"run": '), Audit.detail.contains('"observation": ')))
    for text in session.scalars(lines.execution_options(yield_per=1000)):
        detail = unfolded(text)
        run, reading = detail.get("run"), detail.get("observation")
        if isinstance(run, int) and run not in runs:
            gone.add((tr("run {id}", id=run), run))
        if isinstance(reading, int) and reading not in readings:
            gone.add((tr("reading {id}", id=reading), reading))
        kept, said = open_ones.get(reading) if isinstance(reading, int) else None, detail.get("torque")
        if kept is not None and isinstance(said, int | float):
            value = kept.torque if kept.torque is not None else kept.tool_value
            if value is None or not math.isclose(value, said, rel_tol=1e-12, abs_tol=1e-12):
                yield CheckFinding(ProjectionFault.OTHERWISE, tr("reading {id}", id=kept.id))
    for words, _id in sorted(gone, key=lambda one: one[1]):
        yield CheckFinding(ProjectionFault.GONE, words)


def _contents(session: Session) -> Iterator[CheckFinding]:
    """Files whose content is not what its digest says."""
    for digest in session.scalars(select(Content.digest)).all():
        data = session.scalar(select(Content.data).where(Content.digest == digest))
        if hashlib.sha256(bytes(data or b"")).hexdigest() != digest:
            yield CheckFinding(ProjectionFault.OTHERWISE, tr("the file with the digest {digest}", digest=digest[:12]))


def _sealed(session: Session) -> Iterator[CheckFinding]:
    for checked in seals.check(session):
        if not checked.fits:
            wrong = ProjectionFault.SEAL if checked.sealed else ProjectionFault.UNSEALED
            yield CheckFinding(
                wrong,
                tr("run {run_id} of {tool}, signed by {by}", run_id=checked.run_id, tool=checked.tool, by=checked.by),
            )


def noted(session: Session, text: str) -> str:
    """Compare the chain with a link that was noted outside, such as "412 3f9a 27c1 88b0 e1d2": empty when it is still there,
    else a sentence. Raises ShopRefused for what is no such note."""
    place, figures = [*text.replace("·", " ").split(maxsplit=1), "", ""][:2]
    figures = figures.replace(" ", "").lower()
    if not place.isdecimal() or len(figures) < SHOWN or set(figures) - set("0123456789abcdef"):
        example = tr("a number and {shown} figures, such as 412 3f9a 27c1 88b0 e1d2", shown=SHOWN)
        raise ShopRefused(tr('"{text}" is no link: it was noted as {example}.', text=text[:60], example=example))
    found = chain.link_at(session.connection(), int(place))
    if found is None:
        return tr(
            "There is no link {place} any more: what was kept last has been cut off, or this is an older copy.",
            place=place,
        )
    if not found.digest.startswith(figures):
        return tr("Link {place} is not the one that was noted: the chain was made anew since.", place=place)
    return ""


def _named(session: Session, kind: LinkKind | None, row_id: int) -> str:
    """Words that name a record, as far as it is still there and can be read."""
    try:
        return _called(session, kind, row_id)
    except Refused:
        return f"{tr(kind)} {row_id}" if kind is not None else ""


def _called(session: Session, kind: LinkKind | None, row_id: int) -> str:
    match kind:
        case None:
            return ""
        case LinkKind.RUN:
            number = session.scalar(select(Tool.number).join(Run, Run.tool_id == Tool.id).where(Run.id == row_id))
            return tr("run {row_id}", row_id=row_id) + (tr(" of {number}", number=number) if number else "")
        case LinkKind.EVENT:
            row = session.execute(
                select(ToolEvent.kind, Tool.number)
                .join(Tool, Tool.id == ToolEvent.tool_id)
                .where(ToolEvent.id == row_id)
            ).first()
            return tr("event {row_id}", row_id=row_id) + (
                tr(" of {number}: {lower}", number=row.number, lower=EVENTS[row.kind].words.lower()) if row else ""
            )
        case LinkKind.AUDIT:
            line = session.execute(select(Audit.action, Audit.subject).where(Audit.id == row_id)).first()
            return tr("audit line {row_id}", row_id=row_id) + (f": {line.action}, {line.subject}" if line else "")
        case LinkKind.VERSION:
            version = session.get(RegisterVersion, row_id)
            return tr("version {row_id} of the register", row_id=row_id) + (
                f" ({version.kind} {version.row_id})" if version else ""
            )
        case LinkKind.CERTIFICATE:
            certificate = session.get(Certificate, row_id)
            return tr("certificate {number}", number=certificate.number if certificate else row_id)
        case LinkKind.WITHDRAWAL:
            return tr("withdrawal of a certificate {row_id}", row_id=row_id)
        case LinkKind.KEY:
            return tr("signing key {row_id}", row_id=row_id)
        case LinkKind.TRY:
            return tr("tried passphrase {row_id}", row_id=row_id)
        case LinkKind.SEAL:
            return tr("seal {row_id}", row_id=row_id)
        case LinkKind.CROSS_CHECK:
            return tr("cross-check {row_id}", row_id=row_id)
        case LinkKind.BEAM_SCALE:
            return tr("beam scale {row_id}", row_id=row_id)
        case LinkKind.BEAM_REPEAT:
            return tr("blind repeat {row_id}", row_id=row_id)
        case LinkKind.OUTSIDE_RESULT:
            return tr("outside result {row_id}", row_id=row_id)
        case LinkKind.REVIEW | LinkKind.REVIEW_MARK | LinkKind.REVIEW_CLOSE:
            return f"{tr(kind)} {row_id}"
        case LinkKind.WORK | LinkKind.ENTRY | LinkKind.JOB:
            return f"{tr(kind)} {row_id}"


def _standings(session: Session) -> Iterator[CheckFinding]:
    """Where a tool's projections are not what its events, its results and the register make of them."""
    for ids in listing.in_parts(session.scalars(select(Tool.id).order_by(Tool.id)).all()):
        records, kept = projection.records_of(session, ids), listing.standings_kept(session, ids)
        lent = projection.lent_of(session, ids)
        places, tools = projection.places_of(session, ids), select(Tool).where(Tool.id.in_(ids)).order_by(Tool.id)
        listed = listing.rows_of(session, ids)
        for tool in session.scalars(tools.options(selectinload(Tool.model))):
            now = standing.standing_of(records[tool.id])
            taken = {one.sequence for one in records[tool.id]}
            right = kept.get(tool.id) == now and places[tool.id] == taken
            if not right or (tool.id in lent) != (now.loan is not None):
                yield CheckFinding(ProjectionFault.STANDING, tool.number)
            if not listing.says(listed.get(tool.id), listing.entry_of(tool, kept.get(tool.id))):
                yield CheckFinding(ProjectionFault.LISTING, tool.number)
        session.expire_all()


def _open_runs(session: Session) -> Iterator[CheckFinding]:
    """Runs that are marked as open and are over, or the other way round."""
    rows = session.execute(
        select(Run.id, Tool.number, OpenRun.id, Signature.id, Abandonment.id)
        .join(Tool, Tool.id == Run.tool_id)
        .outerjoin(OpenRun, OpenRun.run_id == Run.id)
        .outerjoin(Signature, Signature.run_id == Run.id)
        .outerjoin(Abandonment, Abandonment.run_id == Run.id)
        .order_by(Run.id)
    )
    for run_id, number, marked, signed, given_up in rows:
        if (marked is not None) == (signed is not None or given_up is not None):
            yield CheckFinding(ProjectionFault.OPEN_RUN, tr("run {run_id} of {number}", run_id=run_id, number=number))


def _register(session: Session) -> Iterator[CheckFinding]:
    """Rows of the register that are not what their versions make of them, whole: what no version has said is empty; rows
    that are gone, and such as no version tells of."""
    for kind, facts in KINDS.items():
        here = session.scalars(select(facts.table.id).order_by(facts.table.id)).all()
        told = select(RegisterVersion.row_id).where(RegisterVersion.kind == kind).distinct()
        for row_id in sorted(set(session.scalars(told)) - set(here)):
            yield CheckFinding(ProjectionFault.GONE, f"{tr(kind)} {row_id}")
        for ids in listing.in_parts(here):
            newest, said = _versions(session, kind, ids)
            for row_id, row in _rows(session, facts.table, ids):
                if row is None:
                    yield CheckFinding(ProjectionFault.UNREADABLE, f"{tr(kind)} {row_id}")
                elif row_id not in newest and kind is not RegisterKind.SHOP:
                    yield CheckFinding(ProjectionFault.UNVERSIONED, f"{tr(kind)} {name_of(kind, row)}")
                elif row.version != newest.get(row_id, 1) or not _as_said(row, said.get(row_id, {})):
                    yield CheckFinding(ProjectionFault.REGISTER, f"{kind} {name_of(kind, row)}")


def _rows(session: Session, table: type[Any], ids: Sequence[int]) -> Iterator[tuple[int, Row | None]]:
    """Some rows with their ids; None for one that cannot be read."""
    try:
        found = {row.id: row for row in session.scalars(select(table).where(table.id.in_(ids)))}
        yield from ((row_id, found.get(row_id)) for row_id in ids)
    except Refused:
        for row_id in ids:
            try:
                yield row_id, session.scalar(select(table).where(table.id == row_id))
            except Refused:
                yield row_id, None


def _as_said(row: Row, said: Mapping[str, object]) -> bool:
    """Whether a row has what its versions said last, and where they said nothing, nothing, or what a new row has. The shop's
    own row is made when it is first asked for, and no version tells of that."""
    columns = type(row).__table__.c
    fresh = {c.key: c.default.arg for c in columns if c.default is not None and c.default.is_scalar}

    def as_new(name: str, value: object) -> bool:
        return value in (None, "", False) or value == fresh.get(name)

    return all(value == said[name] if name in said else as_new(name, value) for name, value in fields_of(row).items())


def _versions(
    session: Session, kind: RegisterKind, ids: Sequence[int]
) -> tuple[dict[int, int], dict[int, dict[str, object]]]:
    """Of each of some rows its newest version, and what all its versions have said last of each field."""
    newest: dict[int, int] = {}
    said: dict[int, dict[str, object]] = {}
    versions = (
        select(RegisterVersion.row_id, RegisterVersion.version, RegisterVersion.after)
        .where(RegisterVersion.kind == kind, RegisterVersion.row_id.in_(ids))
        .order_by(RegisterVersion.row_id, RegisterVersion.version)
    )
    for row_id, version, after in session.execute(versions):
        newest[row_id] = version
        said.setdefault(row_id, {}).update(unfolded(after))
    return newest, said
