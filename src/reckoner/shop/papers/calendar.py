"""Every tool's due date as a day of a calendar."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from pathlib import Path

from sqlalchemy.orm import Session

from reckoner.core.translation import tr
from reckoner.formats.duecalendar import DueDay, written
from reckoner.formats.files import write_whole
from reckoner.shop.register.cards import cards_of
from reckoner.store.reader import Reader, reader_of

_DUE = "SELECT l.tool_id, l.number, l.due_on FROM tool_listing l WHERE l.waits AND l.due_on IS NOT NULL"


def due_days(reader: Reader) -> tuple[DueDay, ...]:
    """The days of the tools that wait for the bench; what is held, away or retired is not among them."""
    days = []
    for card in cards_of(reader, _DUE, "p.due_on, p.number"):
        tool, due = card.tool, card.standing.due
        if due is not None:
            detail = f"{tool.description}, {tool.range_text}" + (
                tr(", serial {serial}", serial=tool.serial) if tool.serial else ""
            )
            days.append(
                DueDay(
                    f"tool-{tool.id}",
                    due.on,
                    tr("{number} is due to be tested", number=tool.number),
                    detail,
                    tool.place,
                )
            )
    return tuple(days)


def calendar_file(session: Session, now: datetime, path: Path) -> Callable[[], None]:
    """Gathers the due dates, to be written as a calendar. What is returned raises FileNotWritten."""
    days = due_days(reader_of(session))
    return lambda: write_whole(path, written(days, tr("Torque tools due"), now))
