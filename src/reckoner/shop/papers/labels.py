"""What stands on a tool's label, and on a reference's."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from typing import Any

from reckoner.core.quantities.printing import span
from reckoner.core.quantities.units import Kind, unit_named
from reckoner.core.translation import ENGLISH
from reckoner.formats.languages import in_language, say, written
from reckoner.formats.papers.contents import Label, LabelSize, read_sizes
from reckoner.shop.references.register import CERTIFIED_UNTIL
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
        lines.append(say("label.due", date=written(due.on)))
    else:
        lines.append(say("label.untested"))
    if tool.place:
        lines.append(tool.place)
    return Label(tool.number, tuple(lines), tool.number, card.state, marked=True, banner=_banner(card, today))


def _banner(card: ToolCard, today: date) -> str:
    if card.retired:
        return say("label.retired")
    if card.standing.kept:
        return say("label.evidence")
    until = card.standing.corrected_until
    if card.held and card.standing.corrected(today) and until is not None:
        return say("label.corrected", date=written(until)).upper()
    if card.held:
        return say("label.held")
    if card.restricted is not None:
        return say("label.only", span=span(*card.restricted, card.tool.unit))
    due = card.standing.due
    return say("label.overdue") if due is not None and due.on < today else ""


def tool_labels(reader: Reader, text: str, today: date) -> tuple[Label, ...]:
    """Those of the tools that ``text`` finds, by number; MOST of them at most."""
    found = cards(reader, 0, MOST, question(reader, text, today))
    with in_language(language(reader)):
        return tuple(tool_label(card, today) for card in found if not card.retired)


def labels_of(reader: Reader, tool_ids: Sequence[int], today: date) -> tuple[Label, ...]:
    """Those of some tools, by number; MOST of them at most."""
    found = cards_at(reader, tool_ids[:MOST])
    with in_language(language(reader)):
        return tuple(tool_label(card, today) for card in found if not card.retired)


def reference_labels(reader: Reader, text: str) -> tuple[Label, ...]:
    """Those of the meters whose number has ``text`` in it: until when each decides, or that it compares only."""
    rows = reader.rows(
        "SELECT r.number, r.minimum, r.maximum, r.unit, "
        f"{CERTIFIED_UNTIL} AS due "
        "FROM reference r WHERE NOT r.removed AND r.kind = 'meter' ORDER BY r.number"
    )
    found = [row for row in rows if text.strip().lower() in row.number.lower()]
    with in_language(language(reader)):
        return tuple(_reference_label(row) for row in found)


def _reference_label(row: Any) -> Label:
    reach = span(row.minimum, row.maximum, unit_named(row.unit, Kind.TORQUE))
    due = date.fromisoformat(row.due[:10]) if row.due else None
    until = say("label.certificate", date=written(due)) if due is not None else say("label.no_certificate")
    banner = "" if due is not None else say("label.compares")
    return Label(row.number, (reach, until), row.number, banner=banner)


def language(reader: Reader) -> str:
    """The code of the language that the shop's papers are in."""
    return str(reader.value("SELECT language FROM shop ORDER BY id LIMIT 1") or ENGLISH)


def sizes(reader: Reader) -> tuple[LabelSize, ...]:
    """The sizes that the shop has. Raises InputRefused."""
    return read_sizes(str(reader.value("SELECT label_sizes FROM shop ORDER BY id LIMIT 1") or ""))
