"""Due dates as an iCalendar file (RFC 5545), for any calendar program: a day a tool."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime, timedelta


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
