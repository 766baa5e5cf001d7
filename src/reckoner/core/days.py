"""What a person types or a spreadsheet holds for a day.

>>> read_day("9 Mar 2026"), read_day("2026-03-09"), read_day("9.3.2026")
(datetime.date(2026, 3, 9), datetime.date(2026, 3, 9), datetime.date(2026, 3, 9))
"""

from __future__ import annotations

import re
from datetime import date

from reckoner.core.errors import InputRefused

MONTHS = ("jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec")

EARLIEST, LATEST = 1950, 2100
"""Years that a tool's papers can bear."""


def read_day(text: str, field: str = "day") -> date:
    """The day that ``text`` says: year first, day first with dots, or with the month's name; with slashes only where the
    day is over 12, or is the month too. Raises InputRefused."""
    cleaned = " ".join(text.strip().replace(",", " ").split())
    found = _year_first(cleaned) or _named(cleaned) or _day_first(cleaned, text, field)
    if found is None:
        raise InputRefused(field, text, f'"{text}" is not a day; write it such as 2026-03-09 or 9 Mar 2026')
    year, month, day = found
    try:
        made = date(year, month, day)
    except ValueError:
        raise InputRefused(field, text, f'"{text}" is no day of the calendar') from None
    if not EARLIEST <= year <= LATEST:
        raise InputRefused(field, text, f"the year {year} cannot be right")
    return made


def _year_first(text: str) -> tuple[int, int, int] | None:
    match = re.fullmatch(r"(\d{4})[-/. ](\d{1,2})[-/. ](\d{1,2})(?:[T ]00:00(?::00(?:\.0+)?)?)?", text)
    return (int(match[1]), int(match[2]), int(match[3])) if match else None


def _named(text: str) -> tuple[int, int, int] | None:
    match = re.fullmatch(r"(\d{1,2})[-. ]+([A-Za-z]{3,9})\.?[-. ]+(\d{4})", text)
    day, name, year = (match[1], match[2], match[3]) if match else ("", "", "")
    if match is None:
        match = re.fullmatch(r"([A-Za-z]{3,9})\.? (\d{1,2})(?:st|nd|rd|th)? (\d{4})", text)
        if match is None:
            return None
        day, name, year = match[2], match[1], match[3]
    short = name.casefold()[:3]
    return (int(year), MONTHS.index(short) + 1, int(day)) if short in MONTHS else None


def _day_first(cleaned: str, text: str, field: str) -> tuple[int, int, int] | None:
    match = re.fullmatch(r"(\d{1,2})([./-])(\d{1,2})\2(\d{4})", cleaned)
    if match is None:
        return None
    first, second, year = int(match[1]), int(match[3]), int(match[4])
    if match[2] == ".":
        return year, second, first
    if first > 12:
        return year, second, first
    if second > 12:
        return year, first, second
    if first != second:
        raise InputRefused(field, text, f'"{text}" can be read two ways; write the month by its name or the year first')
    return year, first, second
