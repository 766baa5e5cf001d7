"""The people and models of the register as lists."""

from __future__ import annotations

from dataclasses import dataclass

from reckoner.core.quantities.printing import span
from reckoner.core.quantities.units import Kind, unit_named
from reckoner.core.requirements.tooltypes import Mechanism
from reckoner.core.translation import tr, tr_count
from reckoner.shop.people.rights import RIGHT_WORDS
from reckoner.store.reader import Reader
from reckoner.store.terms import term


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
