"""The chain of digests: what was signed, what happened and who did what, each linked to all that came before it.

A link holds the SHA-256 of a record's content, and a digest over that and the link before. So a record that is changed,
removed or put in afterwards is found by walking the chain, and whoever noted the newest link outside finds a chain that was
cut short or written anew. Who can write the file and has this program can make another chain: docs/security.md says what that
means.

What a record's content is stands in ``FORMS``, and a form never changes, or old links would no longer fit. To let the chain
cover a new column or table: a new form beside the old ones, named in ``NEWEST``.
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from enum import Enum, auto
from itertools import islice
from typing import Any

from sqlalchemy import Connection, text
from sqlalchemy.orm import Session

from reckoner.store.chainlink import WrittenLink
from reckoner.store.terms import LinkKind

BEGINNING = "0" * 64
"""What the first link stands on."""


@dataclass(frozen=True)
class Belonging:
    """How a table's rows, called ``t``, belong to a record: ``owner`` gives its id, over what is joined."""

    owner: str
    joined: str = ""


@dataclass(frozen=True)
class ChainPart:
    """One table's share of a record's content: the rows that belong to it, in the order of their ids."""

    table: str
    columns: str
    of: Belonging = Belonging("t.id")

    @property
    def names(self) -> tuple[str, ...]:
        """The columns, by name."""
        return tuple(self.columns.split(", "))

    def select(self, records: Sequence[int]) -> str:
        """The statement that reads it of some records: whose each row is, then its columns."""
        names = ", ".join(f't."{name}"' for name in self.names)
        listed = ", ".join(str(int(record)) for record in records)
        return (
            f"SELECT {self.of.owner}, {names} FROM {self.table} t {self.of.joined} "
            f"WHERE {self.of.owner} IN ({listed}) ORDER BY t.id"
        )


_OF_RUN = Belonging("t.run_id")
_OF_SERIES = Belonging("s.run_id", "JOIN series s ON s.id = t.series_id")
_OF_OBSERVATION = Belonging(
    "s.run_id", "JOIN observation o ON o.id = t.observation_id JOIN series s ON s.id = o.series_id"
)
_OF_SIGNATURE = Belonging("g.run_id", "JOIN signature g ON g.id = t.signature_id")
_OF_EVENT = Belonging("t.event_id")
_OF_CROSS = Belonging("k.id", "JOIN cross_check k ON k.cross_run_id = t.cross_run_id")

FORMS: dict[int, dict[LinkKind, tuple[ChainPart, ...]]] = {
    1: {
        LinkKind.RUN: (
            ChainPart(
                "run",
                "id, tool_id, kind, rule_set, opened_at, person_id, rule, mode, adapter, plan_note, amends_id, "
                "continues_id, event_id",
            ),
            ChainPart("run_facts", "id, at, document", _OF_RUN),
            ChainPart("inspection_line", "id, at, line, fine, note", _OF_RUN),
            ChainPart("room_reading", "id, at, temperature, humidity, note, source", _OF_RUN),
            ChainPart("set_up", "id, at, reference_id, certificate_id, mode, override, detail", _OF_RUN),
            ChainPart("exercise_pull", "id, at, direction, torque", _OF_RUN),
            ChainPart("zero_check", "id, at, moment, of, torque, allowed, series_id, observed", _OF_RUN),
            ChainPart(
                "series",
                "id, phase, round, direction, position, target, wanted, effect, place, turn, abuse, abuse_note",
                _OF_RUN,
            ),
            ChainPart(
                "observation",
                "id, series_id, at, person_id, kind, torque, tool_value, source, pull, detail",
                _OF_SERIES,
            ),
            ChainPart("strike", "id, observation_id, at, person_id, reason", _OF_OBSERVATION),
            ChainPart("kept_reading", "id, observation_id, at, person_id, why, whose", _OF_OBSERVATION),
            ChainPart(
                "trace", "id, observation_id, rate, samples, faults, over_travel, time_80_to_100", _OF_OBSERVATION
            ),
            ChainPart("adjustment", "id, at, person_id, begun, target, direction, note", _OF_RUN),
            ChainPart(
                "characterisation",
                "id, tool_id, model_id, at, target, reproducibility, output_drive, interface, loading_point, "
                "reproducibility_freedom, output_drive_freedom, interface_freedom, loading_point_freedom",
                _OF_RUN,
            ),
            ChainPart(
                "signature",
                "id, sequence, at, person_id, state, accepted, sentence, rule, limit, due, due_reason, outcome, note, "
                "second_person_id, judged_on, due_note",
                _OF_RUN,
            ),
            ChainPart("certificate_number", "id, year, n, number", _OF_SIGNATURE),
            ChainPart(
                "point_result",
                "id, series_id, target, direction, deviation, worst, expanded_uncertainty, reference_error, "
                "near_zone, probability, state, limit",
                _OF_SIGNATURE,
            ),
            ChainPart("abandonment", "id, at, person_id, reason", _OF_RUN),
            ChainPart("run_sides", "id, document", _OF_RUN),
        ),
        LinkKind.EVENT: (
            ChainPart("tool_event", "id, tool_id, sequence, at, person_id, kind, note, due_back, low, high, cycles"),
            ChainPart("loan_setting", "id, job, joint, torque_set, factor, adapter, low, high", _OF_EVENT),
            ChainPart("trip", "id, fee, freight, check_run_id", _OF_EVENT),
        ),
        LinkKind.AUDIT: (ChainPart("audit", "id, at, person_id, action, subject, detail, station"),),
        LinkKind.VERSION: (ChainPart("register_version", "id, kind, row_id, version, at, person_id, before, after"),),
        LinkKind.CERTIFICATE: (
            ChainPart("certificate", "id, reference_id, number, laboratory, issued, due, coverage_factor"),
            ChainPart("certificate_point", "id, torque, error, expanded_uncertainty", Belonging("t.certificate_id")),
        ),
        LinkKind.WITHDRAWAL: (ChainPart("certificate_withdrawal", "id, certificate_id, at, person_id, reason"),),
        LinkKind.KEY: (ChainPart("signing_key", "id, person_id, at, salt, cost, public, set_by_id, beside_id"),),
        LinkKind.TRY: (ChainPart("passphrase_try", "id, audit_id, person_id, at, was_right"),),
        LinkKind.SEAL: (ChainPart("seal", "id, signature_id, meaning, key_id, mark"),),
        LinkKind.CROSS_CHECK: (
            ChainPart("cross_check", "id, reference_id, at, person_id, against, indicated, actual, note, cross_run_id"),
            ChainPart(
                "cross_run",
                "id, reference_id, at, person_id, by, against, detail",
                Belonging("k.id", "JOIN cross_check k ON k.cross_run_id = t.id"),
            ),
            ChainPart("cross_reading", "id, at, person_id, target, indicated, actual, uncertainty", _OF_CROSS),
            ChainPart(
                "cross_strike",
                "id, cross_reading_id, at, person_id, reason",
                Belonging(
                    "k.id",
                    "JOIN cross_reading r ON r.id = t.cross_reading_id "
                    "JOIN cross_check k ON k.cross_run_id = r.cross_run_id",
                ),
            ),
        ),
        LinkKind.BEAM_SCALE: (ChainPart("beam_scale", "id, tool_id, at, person_id, document"),),
        LinkKind.BEAM_REPEAT: (ChainPart("beam_repeat", "id, beam_scale_id, at, person_id, mark, read"),),
        LinkKind.OUTSIDE_RESULT: (
            ChainPart(
                "outside_result",
                "id, tool_id, sequence, at, person_id, number, laboratory, issued, due, state, coverage_factor, note, "
                "digest",
            ),
            ChainPart(
                "outside_point",
                "id, as_left, direction, target, deviation, expanded_uncertainty, limit",
                Belonging("t.outside_result_id"),
            ),
        ),
        LinkKind.REVIEW: (ChainPart("review", "id, tool_id, at, person_id, run_id, document"),),
        LinkKind.REVIEW_MARK: (ChainPart("review_mark", "id, review_id, line, at, person_id, note"),),
        LinkKind.REVIEW_CLOSE: (ChainPart("review_close", "id, review_id, at, person_id, note"),),
        LinkKind.WORK: (ChainPart("job_work", "id, card_id, number, title, at, person_id, document"),),
        LinkKind.ENTRY: (
            ChainPart("job_entry", "id, work_id, at, person_id, kind, step, fastener, value, note, strikes"),
        ),
        LinkKind.JOB: (ChainPart("job_close", "id, work_id, at, person_id, done, note"),),
    }
}
"""Form → kind of link → what its content is made of; the first part is the record itself."""

NEWEST = 1

COMES_WITH: dict[str, tuple[LinkKind, str]] = {
    "certificate": (LinkKind.CERTIFICATE, "id"),
    "certificate_withdrawal": (LinkKind.WITHDRAWAL, "id"),
    "register_version": (LinkKind.VERSION, "id"),
    "tool_event": (LinkKind.EVENT, "id"),
    "signature": (LinkKind.RUN, "run_id"),
    "abandonment": (LinkKind.RUN, "run_id"),
    "signing_key": (LinkKind.KEY, "id"),
    "passphrase_try": (LinkKind.TRY, "id"),
    "seal": (LinkKind.SEAL, "id"),
    "cross_check": (LinkKind.CROSS_CHECK, "id"),
    "beam_scale": (LinkKind.BEAM_SCALE, "id"),
    "beam_repeat": (LinkKind.BEAM_REPEAT, "id"),
    "outside_result": (LinkKind.OUTSIDE_RESULT, "id"),
    "review": (LinkKind.REVIEW, "id"),
    "review_mark": (LinkKind.REVIEW_MARK, "id"),
    "review_close": (LinkKind.REVIEW_CLOSE, "id"),
    "job_work": (LinkKind.WORK, "id"),
    "job_entry": (LinkKind.ENTRY, "id"),
    "job_close": (LinkKind.JOB, "id"),
    "audit": (LinkKind.AUDIT, "id"),
}
"""Table → the kind of link that a new row of it asks for, and the column that names the record linked. A run is
linked when it is over."""


class Breach(Enum):
    """What can be wrong: with a record, or between two links."""

    CHANGED = auto()
    MISSING = auto()
    INSERTED = auto()
    LINK = auto()


@dataclass(frozen=True)
class ChainFinding:
    """A breach at the link of a ``place`` (0: a record without one), of the record ``row_id``; or between that link and the
    one before it (``kind`` None)."""

    breach: Breach
    place: int
    kind: LinkKind | None = None
    row_id: int = 0


def content_of(connection: Connection, kind: LinkKind, row_id: int, form: int = NEWEST) -> str | None:
    """The SHA-256 of a record's content, in hexadecimal; None when the record is not there."""
    return contents_of(connection, kind, (row_id,), form).get(row_id)


def contents_of(connection: Connection, kind: LinkKind, row_ids: Sequence[int], form: int = NEWEST) -> dict[int, str]:
    """The same of many records, of those that are there: a statement for each part, however many they are."""
    first, *others = FORMS[form][kind]
    kept = {record: [[first.table, rows]] for record, rows in _rows_of(connection, first, row_ids).items()}
    for part in others:
        rows = _rows_of(connection, part, row_ids)
        for record, found in kept.items():
            found.append([part.table, rows.get(record, [])])
    return {record: content_from(form, kind, found) for record, found in kept.items()}


def _rows_of(connection: Connection, part: ChainPart, row_ids: Sequence[int]) -> dict[int, list[Any]]:
    found = connection.exec_driver_sql(part.select(row_ids))
    rows: dict[int, list[Any]] = {}
    if part.table == "trace":
        for record, *row in found:  # one after the other: samples are many
            _stand_in(connection, part, row)
            rows.setdefault(record, []).append(row)
        return rows
    for whole in found.cursor.fetchall() if found.cursor is not None else ():
        rows.setdefault(whole[0], []).append(whole[1:])
    if connection.dialect.supports_native_boolean:
        rows = {record: [[_plain(value) for value in row] for row in some] for record, some in rows.items()}
    return rows


_ENCODER = json.JSONEncoder(ensure_ascii=False, separators=(",", ":"), default=lambda value: _plain(value))


def content_from(form: int, kind: LinkKind, found: Sequence[Any]) -> str:
    """The digest of what was found of a record: for each part its table and its rows, values as SQLite keeps them."""
    return hashlib.sha256(_ENCODER.encode([form, kind.value, found]).encode()).hexdigest()


def _stand_in(connection: Connection, part: ChainPart, row: list[Any]) -> None:
    """Samples are said by their digest, at once, for they are many; that of those which went to an archive stands here."""
    at = part.names.index("samples")
    row[at] = _plain(row[at])
    if row[at] == NO_BYTES:
        kept = connection.execute(text("SELECT archived FROM trace WHERE id = :id"), {"id": row[0]}).scalar()
        row[at] = kept or NO_BYTES


NO_BYTES = hashlib.sha256(b"").hexdigest()


def _plain(value: Any) -> Any:
    """A value as every engine is made to say it."""
    match value:
        case bool():
            return int(value)
        case bytes() | memoryview():
            return hashlib.sha256(value).hexdigest()
        case datetime():
            return f"{value:%Y-%m-%d %H:%M:%S.%f}"
        case date():
            return value.isoformat()
        case _:
            return value


def digest_of(before: str, place: int, kind: str, row_id: int, form: int, content: str) -> str:
    """What a link says of itself and of the link ``before`` it."""
    return hashlib.sha256(f"{before} {place} {kind} {row_id} {form} {content}".encode()).hexdigest()


def newest(connection: Connection) -> WrittenLink | None:
    """The newest link; None before the first."""
    row = connection.execute(text(f"SELECT {_LINK} FROM chain_link ORDER BY place DESC LIMIT 1")).first()
    return None if row is None else _link(row)


def link_at(connection: Connection, place: int) -> WrittenLink | None:
    """The link of a place; None beyond the newest."""
    row = connection.execute(
        text(f"SELECT {_LINK} FROM chain_link WHERE place = :place"),
        {"place": place},
    ).first()
    return None if row is None else _link(row)


def link_of(connection: Connection, kind: LinkKind, row_id: int) -> WrittenLink | None:
    """The link over a record; None when there is none."""
    where = {"kind": kind.value, "row": row_id}
    row = connection.execute(
        text(f"SELECT {_LINK} FROM chain_link WHERE kind = :kind AND row_id = :row"),
        where,
    ).first()
    return None if row is None else _link(row)


_LINK = "place, kind, row_id, form, content, digest"


def _link(row: Any) -> WrittenLink:
    return WrittenLink(row.place, LinkKind(row.kind), row.row_id, row.form, row.content, row.digest)


def extend(connection: Connection, records: Iterable[tuple[LinkKind, int]], form: int = NEWEST) -> None:
    """Link each of the ``records`` that is there, in their order, their contents written in ``form``."""
    last = newest(connection)
    place, before = (last.place, last.digest) if last is not None else (0, BEGINNING)
    insert = text(
        "INSERT INTO chain_link (place, kind, row_id, form, content, digest) "
        "VALUES (:place, :kind, :row_id, :form, :content, :digest)"
    )
    noted = iter(dict.fromkeys(records))
    while some := list(islice(noted, AT_ONCE)):
        by_kind: dict[LinkKind, list[int]] = {}
        for kind, row_id in some:
            by_kind.setdefault(kind, []).append(row_id)
        contents = {kind: contents_of(connection, kind, ids, form) for kind, ids in by_kind.items()}
        links = []
        for kind, row_id in some:
            content = contents[kind].get(row_id)
            if content is None:
                continue
            place += 1
            before = digest_of(before, place, kind.value, row_id, form, content)
            values = {"place": place, "kind": kind.value, "row_id": row_id, "form": form}
            links.append(values | {"content": content, "digest": before})
        if links:
            connection.execute(insert, links)


def unlinked(connection: Connection, form: int = NEWEST) -> list[tuple[LinkKind, int]]:
    """The records that no link names, of the kinds that ``form`` knows: kept before the chain was, or put in beside it."""
    found = []
    for table, (kind, column) in COMES_WITH.items():
        if kind not in FORMS[form]:
            continue
        rows = connection.execute(
            text(
                f"SELECT DISTINCT t.{column} FROM {table} t LEFT JOIN chain_link c "
                f"ON c.kind = :kind AND c.row_id = t.{column} WHERE c.id IS NULL ORDER BY t.{column}"
            ),
            {"kind": kind.value},
        )
        found += [(kind, row_id) for row_id in rows.scalars()]
    return found


def walk(connection: Connection) -> Iterator[tuple[WrittenLink | None, tuple[ChainFinding, ...]]]:
    """Every link with what is wrong there, then the records without one."""
    yield from walk_links(connection)
    yield from ((None, (finding,)) for finding in inserted(connection))


def walk_links(
    connection: Connection, after: int = 0, until: int | None = None
) -> Iterator[tuple[WrittenLink | None, tuple[ChainFinding, ...]]]:
    """The links ``after`` a place and ``until`` another (None: to the end) with what is wrong there: each is held against the
    record behind it and the link before it, so that parts of the chain can be walked apart."""
    before = connection.execute(text(_BEFORE), {"place": after}).scalar() or BEGINNING
    expected = after + 1
    which = "place > :after" if until is None else "place > :after AND place <= :until"
    links = iter(
        connection.execute(
            text(f"SELECT {_LINK} FROM chain_link WHERE {which} ORDER BY place"), {"after": after, "until": until}
        )
    )
    while some := list(islice(links, AT_ONCE)):
        kinds = [_readable_kind(link) for link in some]
        contents = _contents(connection, some, kinds)
        for (place, named, row_id, form, kept, kept_digest), kind in zip(some, kinds, strict=True):
            found = []
            if kind is not None:
                content = contents[kind, form].get(row_id)
                if content != kept:
                    breach = Breach.MISSING if content is None else Breach.CHANGED
                    found.append(ChainFinding(breach, place, kind, row_id))
            digest = digest_of(before, expected, named, row_id, form, kept)
            if place != expected or digest != kept_digest or kind is None:
                found.append(ChainFinding(Breach.LINK, expected))
            expected = (place if isinstance(place, int) else expected) + 1
            before = kept_digest
            known = _KINDS.get(named)
            link = None if known is None else WrittenLink(place, known, row_id, form, kept, kept_digest)
            yield link, tuple(found)


_BEFORE = "SELECT digest FROM chain_link WHERE place <= :place ORDER BY place DESC LIMIT 1"


def inserted(connection: Connection) -> Iterator[ChainFinding]:
    """The records without a link."""
    return (ChainFinding(Breach.INSERTED, 0, kind, row_id) for kind, row_id in unlinked(connection))


AT_ONCE = 400
"""Links whose contents are read at a time: few statements, and little memory."""

_KINDS = {kind.value: kind for kind in LinkKind}


def _readable_kind(link: Any) -> LinkKind | None:
    """The kind of a link whose record can be asked for; None where it says what there is not."""
    _place, named, row_id, form, _content, _digest = link
    kind = _KINDS.get(named)
    return kind if kind in FORMS.get(form, ()) and isinstance(row_id, int) else None


def _contents(
    connection: Connection, links: Sequence[Any], kinds: Sequence[LinkKind | None]
) -> dict[tuple[LinkKind, int], dict[int, str]]:
    """The contents of the records behind some links, by their kind and form."""
    asked: dict[tuple[LinkKind, int], list[int]] = {}
    for link, kind in zip(links, kinds, strict=True):
        if kind is not None:
            asked.setdefault((kind, link.form), []).append(link.row_id)
    return {(kind, form): contents_of(connection, kind, ids, form) for (kind, form), ids in asked.items()}


KEY = "reckoner.to link"


def gather(session: Session, _context: object) -> None:
    """After a flush: note which of the new rows ask for a link."""
    noted: list[tuple[LinkKind, int]] = session.info.setdefault(KEY, [])
    for row in session.new:
        asked = COMES_WITH.get(getattr(row, "__tablename__", ""))
        if asked is not None:
            noted.append((asked[0], getattr(row, asked[1])))


def forget(session: Session) -> None:
    """After a rollback: nothing was added."""
    session.info.pop(KEY, None)


def link_new(session: Session) -> None:
    """Link what the unit of work has added, as the last thing before its commit."""
    session.flush()
    noted = session.info.pop(KEY, [])
    if noted:
        extend(session.connection(), noted)
