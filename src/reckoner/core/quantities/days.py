"""Days and times of day: what a person types or a spreadsheet holds for one, and how each is printed, here and nowhere
else. What prints refuses nothing.

>>> read_day("9 Mar 2026"), read_day("2026-03-09"), read_day("9.3.2026")
(datetime.date(2026, 3, 9), datetime.date(2026, 3, 9), datetime.date(2026, 3, 9))
>>> day_words(date(2026, 3, 9)), short_day(date(2026, 3, 9)), weekday_words(date(2026, 3, 9))
('9 Mar 2026', '9 Mar', 'Mon 9 Mar')
>>> long_day(date(2026, 3, 9)), month_words(date(2026, 3, 9)), month_words(date(2026, 3, 9), year=False)
('Monday 9 March 2026', 'Mar 2026', 'Mar')
>>> clock_words(datetime(2026, 3, 9, 8, 5)), moment_words(datetime(2026, 3, 9, 8, 5))
('08:05', '9 Mar 2026, 08:05')
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from datetime import date, datetime, timedelta
from enum import Enum

from reckoner.core.errors import InputRefused
from reckoner.core.translation import tr, tr_count

MONTH_NAMES = (
    tr("January"),
    tr("February"),
    tr("March"),
    tr("April"),
    tr("May"),
    tr("June"),
    tr("July"),
    tr("August"),
    tr("September"),
    tr("October"),
    tr("November"),
    tr("December"),
)
_SHORT_MONTHS = tuple(name[:3].casefold() for name in MONTH_NAMES)
_WEEKDAY_NAMES = (
    tr("Monday"),
    tr("Tuesday"),
    tr("Wednesday"),
    tr("Thursday"),
    tr("Friday"),
    tr("Saturday"),
    tr("Sunday"),
)

EARLIEST, LATEST = 1950, 2100
"""Years that a tool's papers can bear."""


class DayOrder(Enum):
    """Which of two figures before the year is the day."""

    DAY_FIRST = "day first"
    MONTH_FIRST = "month first"


def day_orders(texts: Iterable[str]) -> frozenset[DayOrder]:
    """The orders in which every one of a column's days with slashes or hyphens can be read; both where none of them tells."""
    left = set(DayOrder)
    for text in texts:
        match = re.match(r"\s*(\d{1,2})[/-](\d{1,2})[/-]\d{4}", text)
        if match is not None and int(match[1]) > 12:
            left.discard(DayOrder.MONTH_FIRST)
        if match is not None and int(match[2]) > 12:
            left.discard(DayOrder.DAY_FIRST)
    return frozenset(left)


def read_day(text: str, field: str = "day", order: DayOrder | None = None) -> date:
    """The day that ``text`` says: year first, day first with dots, or with the month's name; with slashes by ``order``, or
    only where the day is over 12, or is the month too. Raises InputRefused."""
    cleaned = " ".join(text.strip().replace(",", " ").split())
    found = _year_first(cleaned) or _named(cleaned) or _day_first(cleaned, text, field, order)
    if found is None:
        raise InputRefused(
            field, text, tr('"{text}" is not a day; write it such as 2026-03-09 or 9 Mar 2026', text=text)
        )
    year, month, day = found
    try:
        made = date(year, month, day)
    except ValueError:
        raise InputRefused(field, text, tr('"{text}" is no day of the calendar', text=text)) from None
    if not EARLIEST <= year <= LATEST:
        raise InputRefused(field, text, tr("the year {year} cannot be right", year=year))
    return made


def month_said(text: str) -> date | None:
    """The first day of the month that a ``text`` says and no more, as on a label; None where it says another thing. Refuses
    nothing.

    >>> month_said("2027-03"), month_said("03/2027"), month_said("Mar-27"), month_said("March 2027"), month_said("9 Mar")
    (datetime.date(2027, 3, 1), datetime.date(2027, 3, 1), datetime.date(2027, 3, 1), datetime.date(2027, 3, 1), None)
    """
    cleaned = " ".join(text.split())
    if match := re.fullmatch(r"(\d{4})[-/.](\d{1,2})", cleaned):
        year, month = int(match[1]), int(match[2])
    elif match := re.fullmatch(r"(\d{1,2})[-/.](\d{4})", cleaned):
        year, month = int(match[2]), int(match[1])
    elif match := re.fullmatch(r"([A-Za-z]{3,9})\.?(?:[-' ](\d{4})|[-'](\d{2}))", cleaned):
        short = match[1].casefold()[:3]
        year, month = int(match[2] or f"20{match[3]}"), _SHORT_MONTHS.index(short) + 1 if short in _SHORT_MONTHS else 0
    else:
        return None
    return date(year, month, 1) if 1 <= month <= 12 and EARLIEST <= year <= LATEST else None


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
    return (int(year), _SHORT_MONTHS.index(short) + 1, int(day)) if short in _SHORT_MONTHS else None


def _day_first(cleaned: str, text: str, field: str, order: DayOrder | None) -> tuple[int, int, int] | None:
    match = re.fullmatch(r"(\d{1,2})([./-])(\d{1,2})\2(\d{4})", cleaned)
    if match is None:
        return None
    first, second, year = int(match[1]), int(match[3]), int(match[4])
    if match[2] == ".":
        return year, second, first
    if order is DayOrder.DAY_FIRST:
        return year, second, first
    if order is DayOrder.MONTH_FIRST:
        return year, first, second
    if first > 12:
        return year, second, first
    if second > 12:
        return year, first, second
    if first != second:
        raise InputRefused(
            field, text, tr('"{text}" can be read two ways; write the month by its name or the year first', text=text)
        )
    return year, first, second


_DAYS = {"today": 0, "tonight": 0, "tomorrow": 1}
_IN = re.compile(r"(?:in\s+)?\+?(\d{1,3})\s*(d|days?|w|weeks?)", re.IGNORECASE)
_NO_YEAR = re.compile(r"(\d{1,2})[-. ]+([A-Za-z]{3,9})\.?|([A-Za-z]{3,9})\.? (\d{1,2})", re.IGNORECASE)


def read_coming(text: str, today: date, field: str = "day") -> date:
    """A day to come, as people say it: a weekday, tomorrow, in 3 days, 9 Mar, or any day in full. Raises InputRefused.

    >>> [str(read_coming(t, date(2026, 11, 24))) for t in ("Friday", "tue", "tomorrow", "in 2 weeks", "3 Mar")]
    ['2026-11-27', '2026-12-01', '2026-11-25', '2026-12-08', '2027-03-03']
    """
    words = " ".join(text.strip().casefold().split()).removeprefix("until ").removeprefix("on ")
    if words in _DAYS:
        return today + timedelta(days=_DAYS[words])
    weekday = next(
        (i for i, name in enumerate(_WEEKDAY_NAMES) if len(words) >= 3 and name.casefold().startswith(words)), None
    )
    if weekday is not None:
        return today + timedelta(days=(weekday - today.weekday() - 1) % 7 + 1)
    if (match := _IN.fullmatch(words)) is not None:
        return today + timedelta(days=int(match[1]) * (7 if match[2].startswith("w") else 1))
    if (match := _NO_YEAR.fullmatch(words)) is not None:
        number, name = match[1] or match[4], (match[2] or match[3])[:3]
        if name in _SHORT_MONTHS:
            found = read_day(f"{number} {name} {today.year}", field)
            return found if found >= today else read_day(f"{number} {name} {today.year + 1}", field)
    return read_day(text, field)


def day_words(day: date) -> str:
    """A day as it stands in a sentence or a cell: ``9 Mar 2026``."""
    return f"{short_day(day)} {day.year}"


def short_day(day: date) -> str:
    """The same where the year is plain: ``9 Mar``."""
    return f"{day.day} {MONTH_NAMES[day.month - 1][:3]}"


def weekday_words(day: date) -> str:
    """A day of the weeks around now: ``Mon 9 Mar``."""
    return f"{_WEEKDAY_NAMES[day.weekday()][:3]} {short_day(day)}"


def long_day(day: date) -> str:
    """A day where its weekday helps to see whether it is meant: ``Monday 9 March 2026``."""
    return f"{_WEEKDAY_NAMES[day.weekday()]} {day.day} {MONTH_NAMES[day.month - 1]} {day.year}"


def month_words(day: date, *, year: bool = True) -> str:
    """The month of a day on an axis: ``Mar 2026``, or ``Mar``."""
    month = MONTH_NAMES[day.month - 1][:3]
    return f"{month} {day.year}" if year else month


def clock_words(at: datetime) -> str:
    """The time of a day: ``08:05``."""
    return f"{at.hour:02}:{at.minute:02}"


def days_from_now(left: int) -> str:
    """In how many days something is, or how many ago it was.

    >>> [days_from_now(left) for left in (12, 1, 0, -1, -3)]
    ['in 12 days', 'in 1 day', 'today', '1 day ago', '3 days ago']
    """
    if left == 0:
        return tr("today")
    return tr_count("in {n} day", "in {n} days", left) if left > 0 else tr_count("{n} day ago", "{n} days ago", -left)


def moment_words(at: datetime) -> str:
    """A day with its time: ``9 Mar 2026, 08:05``."""
    return f"{day_words(at)}, {clock_words(at)}"
