"""Every tool's due date as a day of a calendar.

Due dates as an iCalendar file (RFC 5545), for any calendar program: a day a tool.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from pathlib import Path

from sqlalchemy.orm import Session

from reckoner.core.translation import tr
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


@dataclass(frozen=True)
class DueDay:
    """One entry: a ``key`` that stays the same while the date moves, the day, what is said, and more about it."""

    key: str
    on: date
    words: str
    detail: str = ""
    place: str = ""


def written(days: Iterable[DueDay], name: str, now: datetime) -> bytes:
    """The calendar of the ``days``, called ``name``, as of ``now``."""
    from icalendar import Calendar, Event  # loads slowly

    calendar = Calendar()
    calendar.add("prodid", "-//Reckoner//due dates//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", name)
    for day in days:
        event = Event()
        event.add("uid", f"{day.key}@reckoner")
        event.add("dtstamp", now)
        event.add("dtstart", day.on)
        event.add("dtend", day.on + timedelta(days=1))
        event.add("summary", day.words)
        event.add("transp", "TRANSPARENT")
        if day.detail:
            event.add("description", day.detail)
        if day.place:
            event.add("location", day.place)
        calendar.add_component(event)
    return bytes(calendar.to_ical())
