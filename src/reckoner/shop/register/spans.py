"""What a filter says beyond words: when tools are due, and for which torque they serve.

"due this week", "due next month", "due December", "due 2027-01", "due by 9 Mar 2027", "for 80 N.m", "80 N.m".
"""

from __future__ import annotations

import calendar
import re
from dataclasses import dataclass
from datetime import date, timedelta

from reckoner.core.errors import InputRefused
from reckoner.core.history.due import add_months
from reckoner.core.quantities.days import MONTH_NAMES, read_day
from reckoner.core.quantities.entry import read
from reckoner.core.quantities.units import N_M, Kind, Unit


@dataclass(frozen=True)
class SpanMeaning:
    """A condition over a row ``l`` of tool_listing with its values, and what is ``left`` of the text."""

    where: str
    values: dict[str, object]
    left: str


_DUE = re.compile(
    r"\bdue\s+(?:(?P<when>today|tomorrow|(?:this|next)\s+(?:week|month|year))|(?P<month>\d{4}-\d{2})(?!-)"
    r"|(?:in\s+)?(?P<name>[a-z]{3,9})(?:\s+(?P<year>\d{4}))?|by\s+(?P<by>.+))\s*$",
    re.IGNORECASE,
)
_FOR = re.compile(r"\bfor\s+(?P<torque>\d.*)$", re.IGNORECASE)
_NUMBER_FIRST = re.compile(r"\s*\d")
_MONTHS = {name.casefold(): i for i, name in enumerate(MONTH_NAMES, start=1)}


def said_in(text: str, today: date) -> SpanMeaning | None:
    """What the end of ``text`` says of due dates or of a torque; None where it says nothing of the kind."""
    if match := _FOR.search(text):
        torque = _torque(match["torque"], N_M)
        return _serving(torque, text[: match.start()]) if torque is not None else None
    if _NUMBER_FIRST.match(text) and (torque := _torque(text, None)) is not None:  # "80 N·m" alone
        return _serving(torque, "")
    match = _DUE.search(text)
    span = _span(match, today) if match else None
    if match is None or span is None:
        return None
    return SpanMeaning(
        "l.due_on BETWEEN :begins AND :ends", {"begins": span[0], "ends": span[1]}, text[: match.start()]
    )


def _torque(text: str, default: Unit | None) -> float | None:
    """In N·m; None for what is no torque."""
    try:
        return read(text, Kind.TORQUE, default=default).si
    except InputRefused:
        return None


def _serving(torque: float, left: str) -> SpanMeaning:
    """Tools that can be set to ``torque``."""
    where = "l.smallest <= :serves * 1.000000001 AND l.full_scale >= :serves * 0.999999999"
    return SpanMeaning(where, {"serves": torque}, left)


def _span(match: re.Match[str], today: date) -> tuple[date, date] | None:
    """The first and the last day that are meant."""
    if match["when"]:
        return _near(" ".join(match["when"].casefold().split()), today)
    if match["by"]:
        try:
            return date.min, read_day(match["by"], "due")
        except InputRefused:
            return None
    if match["month"]:
        year, month = int(match["month"][:4]), int(match["month"][5:])
        return _month(year, month) if 1 <= month <= 12 and year >= 1 else None
    wanted = match["name"].casefold()
    found = [i for name, i in _MONTHS.items() if name.startswith(wanted)]
    if len(found) != 1:
        return None
    return _month(int(match["year"] or (today.year if found[0] >= today.month else today.year + 1)), found[0])


def _near(when: str, today: date) -> tuple[date, date]:
    monday = today - timedelta(days=today.weekday())
    match when:
        case "today":
            return today, today
        case "tomorrow":
            return today + timedelta(days=1), today + timedelta(days=1)
        case "this week":
            return monday, monday + timedelta(days=6)
        case "next week":
            return monday + timedelta(days=7), monday + timedelta(days=13)
        case "this month":
            return _month(today.year, today.month)
        case "next month":
            after = add_months(today.replace(day=1), 1)
            return _month(after.year, after.month)
        case _:
            year = today.year + (1 if when.startswith("next") else 0)
            return date(year, 1, 1), date(year, 12, 31)


def _month(year: int, month: int) -> tuple[date, date]:
    return date(year, month, 1), date(year, month, calendar.monthrange(year, month)[1])
