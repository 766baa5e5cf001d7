"""Due dates: the earliest of the calendar, the cycles and an event (ISO 6789-1:2017, 5.3; ILAC-G24 / OIML D 10)."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum

from reckoner.core.quantities.checks import not_negative, whole


class DueReason(StrEnum):
    """What sets the date."""

    NEVER_TESTED = "never-tested"
    CALENDAR = "calendar"
    CYCLES = "cycles"
    EVENT = "event"
    BROUGHT_IN = "brought-in"
    BROUGHT_FORWARD = "brought-forward"


@dataclass(frozen=True)
class Due:
    """The date from which a tool may not decide a joint's torque, and why."""

    on: date
    reason: DueReason

    def days_left(self, today: date) -> int:
        """Days until the due date; negative when overdue."""
        return (self.on - today).days


def add_months(start: date, months: int) -> date:
    """The same day ``months`` later, or the month's last day where it is shorter. Refuses nothing.

    >>> add_months(date(2026, 1, 31), 1)
    datetime.date(2026, 2, 28)
    """
    import calendar  # brings the locale with it, which a start does not need

    index = start.month - 1 + months
    year, month = start.year + index // 12, index % 12 + 1
    return date(year, month, min(start.day, calendar.monthrange(year, month)[1]))


def due_date(
    last_full_run: date | None,
    *,
    today: date,
    months: int,
    cycles: int = 0,
    cycles_used: int = 0,
    cycles_per_day: float = 0.0,
    event_on: date | None = None,
    first_use: date | None = None,
    shelf_months: int = 0,
) -> Due:
    """The earliest of ``months`` from the last full run, the day the ``cycles`` run out, and an event.

    Where the owner lets a tool wait on the shelf, the months count from ``first_use`` after the run, or from the end of
    ``shelf_months`` when it was used later than that or not at all yet.

    The cycles are projected from ``cycles_used`` at ``cycles_per_day`` from ``today``; 0 means no such limit.
    A tool never tested is due today. Raises InputRefused for months outside 1 to 120 or negative cycles.
    Source: ISO 6789-1:2017, 5.3 (12 months or 5000 cycles, whichever comes first).

    >>> due_date(date(2026, 3, 9), today=date(2026, 11, 24), months=12).on
    datetime.date(2027, 3, 9)
    """
    whole("months", months, 1, 120)
    whole("cycles", cycles, 0, 10**9)
    whole("cycles_used", cycles_used, 0, 10**9)
    not_negative("cycles_per_day", cycles_per_day)
    if last_full_run is None:
        return Due(today, DueReason.NEVER_TESTED)
    starts = last_full_run
    if whole("shelf_months", shelf_months, 0, 60):
        starts = max(starts, min(first_use or date.max, add_months(last_full_run, shelf_months)))
    candidates = [Due(add_months(starts, months), DueReason.CALENDAR)]
    if cycles and cycles_used >= cycles:
        candidates.append(Due(today, DueReason.CYCLES))
    elif cycles and cycles_per_day > 0:
        days = min(int((cycles - cycles_used) / cycles_per_day), 36500)
        candidates.append(Due(today + timedelta(days=days), DueReason.CYCLES))
    if event_on is not None:
        candidates.append(Due(event_on, DueReason.EVENT))
    return min(candidates, key=lambda d: d.on)
