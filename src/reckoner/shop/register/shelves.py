"""The people and models of the register as lists, and how what is added next may be called."""

from __future__ import annotations

from dataclasses import dataclass

from reckoner.core.quantities.printing import span
from reckoner.core.quantities.units import Kind, unit_named
from reckoner.core.requirements.tooltypes import Mechanism
from reckoner.core.translation import tr, tr_count
from reckoner.shop.people.rights import RIGHT_WORDS
from reckoner.store.reader import Reader
from reckoner.store.terms import RegisterKind, term


@dataclass(frozen=True)
class ShelfLine:
    """A row in a list: its id, name, what is said under it, and whether it is one of the past."""

    id: int
    name: str
    detail: str
    past: bool = False


def people_lines(reader: Reader) -> tuple[ShelfLine, ...]:
    """Everyone, who has left last."""
    rights = list(RIGHT_WORDS)
    rows = reader.rows(
        f"SELECT id, initials, name, left_on, {', '.join(rights)} FROM person WHERE NOT removed "
        "ORDER BY left_on IS NOT NULL, initials"
    )
    lines = []
    for row in rows:
        lacks = [RIGHT_WORDS[right] for right in rights if not getattr(row, right)]
        may = tr("may do everything") if not lacks else tr("may not {list}", list=", ".join(lacks))
        gone = tr("left on {left_on}", left_on=row.left_on) if row.left_on else ""
        lines.append(ShelfLine(row.id, f"{row.initials}  {row.name}", gone or may, bool(gone)))
    return tuple(lines)


def model_lines(reader: Reader) -> tuple[ShelfLine, ...]:
    """Every model with how many tools are of it, by name."""
    rows = reader.rows(
        "SELECT m.id, m.maker, m.name, m.mechanism, m.minimum, m.maximum, m.unit, m.drive, "
        "(SELECT count(*) FROM tool t WHERE t.model_id = m.id AND NOT t.removed) AS tools "
        "FROM tool_model m WHERE NOT m.removed ORDER BY m.maker, m.name, m.id"
    )
    lines = []
    for m in rows:
        reach = span(m.minimum or m.maximum, m.maximum, unit_named(m.unit, Kind.TORQUE))
        count = tr_count("1 tool", "{n} tools", m.tools)
        said = ", ".join(part for part in (tr(term(Mechanism, m.mechanism)), reach, m.drive, count) if part)
        lines.append(ShelfLine(m.id, f"{m.maker} {m.name}".strip(), said))
    return tuple(lines)


_NUMBERED = {RegisterKind.JOB_CARD: "job_card", RegisterKind.REFERENCE: "reference"}


def free_number(reader: Reader, kind: RegisterKind, wanted: str) -> str:
    """``wanted``, or the next number like it that no row of the ``kind`` has."""
    taken = {r.number.casefold() for r in reader.rows(f"SELECT number FROM {_NUMBERED[kind]}")}
    if wanted.casefold() not in taken:
        return wanted
    stem = wanted.rstrip("0123456789")
    begins = int(wanted[len(stem) :] or 1)
    return next(name for i in range(begins, begins + 10_000) if (name := f"{stem}{i}").casefold() not in taken)


def next_meter(reader: Reader) -> str:
    """A number for another meter, as the shop calls its own: after "PM-8" comes "PM-9"."""
    newest = reader.value("SELECT number FROM reference WHERE kind = 'meter' AND NOT removed ORDER BY id DESC LIMIT 1")
    numbered = newest is not None and newest[-1:].isdecimal()
    return free_number(reader, RegisterKind.REFERENCE, newest if numbered else "M-1")
