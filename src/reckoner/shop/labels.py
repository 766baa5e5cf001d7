"""What stands on a tool's label, and on a reference's."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date

from reckoner.core.printing import span
from reckoner.core.units import Kind, unit_named
from reckoner.formats.labels import Label, LabelSize, read_sizes
from reckoner.shop.register.cards import ToolCard, cards, cards_at
from reckoner.shop.register.finding import question
from reckoner.store.reader import Reader

MOST = 500
"""Labels that are made at once."""


def tool_label(card: ToolCard, today: date) -> Label:
    """A tool's: its number, range and due date; what holds or restricts it in a strip of its own."""
    tool, due = card.tool, card.standing.due
    lines = [tool.range_text]
    if card.retired or card.held:
        pass
    elif due is not None:
        lines.append(f"due {due.on:%-d %b %Y}")
    else:
        lines.append("not tested yet")
    if tool.place:
        lines.append(tool.place)
    return Label(tool.number, tuple(lines), tool.number, card.state, marked=True, banner=_banner(card, today))


def _banner(card: ToolCard, today: date) -> str:
    if card.retired:
        return "RETIRED: DO NOT USE"
    if card.standing.kept:
        return "EVIDENCE: DO NOT TOUCH"
    until = card.standing.corrected_until
    if card.held and card.standing.corrected(today) and until is not None:
        return f"ONLY WITH CORRECTION TO {until:%-d %b %Y}".upper()
    if card.held:
        return "HELD: DO NOT USE"
    if card.restricted is not None:
        return f"ONLY {span(*card.restricted, card.tool.unit)}"
    due = card.standing.due
    return "OVERDUE" if due is not None and due.on < today else ""


def tool_labels(reader: Reader, text: str, today: date) -> tuple[Label, ...]:
    """Those of the tools that ``text`` finds, by number; MOST of them at most."""
    found = cards(reader, 0, MOST, question(reader, text, today))
    return tuple(tool_label(card, today) for card in found if not card.retired)


def labels_of(reader: Reader, tool_ids: Sequence[int], today: date) -> tuple[Label, ...]:
    """Those of some tools, by number; MOST of them at most."""
    return tuple(tool_label(card, today) for card in cards_at(reader, tool_ids[:MOST]) if not card.retired)


def reference_labels(reader: Reader, text: str) -> tuple[Label, ...]:
    """Those of the meters whose number has ``text`` in it: until when each decides, or that it compares only."""
    rows = reader.rows(
        "SELECT r.number, r.minimum, r.maximum, r.unit, "
        "(SELECT max(c.due) FROM certificate c WHERE c.reference_id = r.id) AS due "
        "FROM reference r WHERE NOT r.removed AND r.kind = 'meter' ORDER BY r.number"
    )
    made = []
    for row in rows:
        if text.strip().lower() not in row.number.lower():
            continue
        reach = span(row.minimum, row.maximum, unit_named(row.unit, Kind.TORQUE))
        due = date.fromisoformat(row.due[:10]) if row.due else None
        until = f"certificate to {due:%-d %b %Y}" if due is not None else "no certificate"
        banner = "" if due is not None else "COMPARES ONLY"
        made.append(Label(row.number, (reach, until), row.number, banner=banner))
    return tuple(made)


def sizes(reader: Reader) -> tuple[LabelSize, ...]:
    """The sizes that the shop has. Raises InputRefused."""
    return read_sizes(str(reader.value("SELECT label_sizes FROM shop ORDER BY id LIMIT 1") or ""))
