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
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import date, datetime
from enum import Enum, auto
from typing import Any

from sqlalchemy import Connection, text
from sqlalchemy.orm import Session

from reckoner.store.chainlink import WrittenLink
from reckoner.store.terms import LinkKind

BEGINNING = "0" * 64
"""What the first link stands on."""


@dataclass(frozen=True)
class ChainPart:
    """One table's share of a record's content: its rows ``where`` (SQL over ``:id``), in the order of their ids."""

    table: str
    columns: str
    where: str = "id = :id"

    @property
    def select(self) -> str:
        """The statement that reads it."""
        names = ", ".join(f'"{name}"' for name in self.names)
        return f"SELECT {names} FROM {self.table} WHERE {self.where} ORDER BY id"

    @property
    def names(self) -> tuple[str, ...]:
        """The columns, by name."""
        return tuple(self.columns.split(", "))


_OF_RUN = "run_id = :id"
_OF_SERIES = "series_id IN (SELECT id FROM series WHERE run_id = :id)"
_OF_OBSERVATION = f"observation_id IN (SELECT id FROM observation WHERE {_OF_SERIES})"
_OF_SIGNATURE = "signature_id IN (SELECT id FROM signature WHERE run_id = :id)"

_OF_CROSS = "cross_run_id = (SELECT cross_run_id FROM cross_check WHERE id = :id)"
_OF_WORK = "work_id = :id"

FORMS: dict[int, dict[LinkKind, tuple[ChainPart, ...]]] = {
    1: {
        LinkKind.RUN: (
            ChainPart(
                "run",
                "id, tool_id, kind, rule_set, opened_at, person_id, rule, mode, adapter, plan_note, amends_id, "
                "event_id",
            ),
            ChainPart("run_facts", "id, at, document", _OF_RUN),
            ChainPart("inspection_line", "id, at, line, fine, note", _OF_RUN),
            ChainPart("room_reading", "id, at, temperature, humidity, note, source", _OF_RUN),
            ChainPart("set_up", "id, at, reference_id, certificate_id, mode, override, detail", _OF_RUN),
            ChainPart("exercise_pull", "id, at, direction, torque", _OF_RUN),
            ChainPart("zero_check", "id, at, moment, of, torque, allowed, series_id, observed", _OF_RUN),
            ChainPart("series", "id, phase, round, direction, position, target, wanted, effect, place, turn", _OF_RUN),
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
            ChainPart("loan_setting", "id, job, joint, torque_set, factor, adapter, low, high", "event_id = :id"),
            ChainPart("trip", "id, fee, freight, check_run_id", "event_id = :id"),
        ),
        LinkKind.AUDIT: (ChainPart("audit", "id, at, person_id, action, subject, detail, station"),),
        LinkKind.VERSION: (ChainPart("register_version", "id, kind, row_id, version, at, person_id, before, after"),),
        LinkKind.CERTIFICATE: (
            ChainPart("certificate", "id, reference_id, number, laboratory, issued, due, coverage_factor"),
            ChainPart("certificate_point", "id, torque, error, expanded_uncertainty", "certificate_id = :id"),
        ),
        LinkKind.WITHDRAWAL: (ChainPart("certificate_withdrawal", "id, certificate_id, at, person_id, reason"),),
        LinkKind.KEY: (ChainPart("signing_key", "id, person_id, at, salt, cost, public"),),
        LinkKind.SEAL: (ChainPart("seal", "id, signature_id, key_id, mark"),),
        LinkKind.CROSS_CHECK: (
            ChainPart("cross_check", "id, reference_id, at, person_id, against, indicated, actual, note, cross_run_id"),
            ChainPart(
                "cross_run",
                "id, reference_id, at, person_id, by, against, detail",
                _OF_CROSS.removeprefix("cross_run_"),
            ),
            ChainPart("cross_reading", "id, at, person_id, target, indicated, actual, uncertainty", _OF_CROSS),
            ChainPart(
                "cross_strike",
                "id, cross_reading_id, at, person_id, reason",
                f"cross_reading_id IN (SELECT id FROM cross_reading WHERE {_OF_CROSS})",
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
                "outside_result_id = :id",
            ),
        ),
        LinkKind.REVIEW: (ChainPart("review", "id, tool_id, at, person_id, run_id, document"),),
        LinkKind.REVIEW_MARK: (ChainPart("review_mark", "id, review_id, line, at, person_id, note"),),
        LinkKind.REVIEW_CLOSE: (ChainPart("review_close", "id, review_id, at, person_id, note"),),
        LinkKind.JOB: (
            ChainPart("job_work", "id, card_id, number, title, at, person_id, document"),
            ChainPart("job_entry", "id, at, person_id, kind, step, fastener, value, note, strikes", _OF_WORK),
            ChainPart("job_close", "id, at, person_id, done, note", _OF_WORK),
        ),
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
    "seal": (LinkKind.SEAL, "id"),
    "cross_check": (LinkKind.CROSS_CHECK, "id"),
    "beam_scale": (LinkKind.BEAM_SCALE, "id"),
    "beam_repeat": (LinkKind.BEAM_REPEAT, "id"),
    "outside_result": (LinkKind.OUTSIDE_RESULT, "id"),
    "review": (LinkKind.REVIEW, "id"),
    "review_mark": (LinkKind.REVIEW_MARK, "id"),
    "review_close": (LinkKind.REVIEW_CLOSE, "id"),
    "job_close": (LinkKind.JOB, "work_id"),
    "audit": (LinkKind.AUDIT, "id"),
}
"""Table → the kind of link that a new row of it asks for, and the column that names the record linked. A run, and a
job, is linked when it is over."""


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
    found: list[list[Any]] = []
    for part in FORMS[form][kind]:
        rows = connection.execute(text(part.select), {"id": row_id}).all()
        if not found and not rows:
            return None
        written = [[_plain(value) for value in row] for row in rows]
        if part.table == "trace":
            _stand_in(connection, part, written)
        found.append([part.table, written])
    return content_from(form, kind, found)


def content_from(form: int, kind: LinkKind, found: list[list[Any]]) -> str:
    """The digest of what was found of a record: for each part its table and its rows, values as SQLite keeps them."""
    written = json.dumps([form, kind.value, found], ensure_ascii=False, separators=(",", ":"))
    return hashlib.sha256(written.encode()).hexdigest()


def _stand_in(connection: Connection, part: ChainPart, rows: list[list[Any]]) -> None:
    """Of samples that went to an archive the digest stands here: what is said of bytes anyway."""
    at = part.names.index("samples")
    for row in rows:
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
    for kind, row_id in dict.fromkeys(records):
        content = content_of(connection, kind, row_id, form)
        if content is None:
            continue
        place += 1
        before = digest_of(before, place, kind.value, row_id, form, content)
        values = {"place": place, "kind": kind.value, "row_id": row_id, "form": form}
        connection.execute(insert, values | {"content": content, "digest": before})


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
    expected, before = 1, BEGINNING
    known = {kind.value for kind in LinkKind}
    for link in connection.execute(text(f"SELECT {_LINK} FROM chain_link ORDER BY place")):
        found = []
        readable = link.kind in known and link.form in FORMS and LinkKind(link.kind) in FORMS[link.form]
        if readable:
            kind = LinkKind(link.kind)
            content = content_of(connection, kind, link.row_id, link.form)
            if content != link.content:
                breach = Breach.MISSING if content is None else Breach.CHANGED
                found.append(ChainFinding(breach, link.place, kind, link.row_id))
        digest = digest_of(before, expected, link.kind, link.row_id, link.form, link.content)
        if link.place != expected or digest != link.digest or not readable:
            found.append(ChainFinding(Breach.LINK, expected))
        expected = (link.place if isinstance(link.place, int) else expected) + 1
        before = link.digest
        yield (_link(link) if link.kind in known else None), tuple(found)
    for kind, row_id in unlinked(connection):
        yield None, (ChainFinding(Breach.INSERTED, 0, kind, row_id),)


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
