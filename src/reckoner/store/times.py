"""Times and days as the database keeps them: text that sorts as they do."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta, timezone
from typing import Any

from reckoner.store.errors import ValueUnreadable


def present() -> datetime:
    """The present moment by this machine's clock, with the offset of its zone. Nothing else reads the clock: whatever wants
    to know the time is given it, from here."""
    return datetime.now().astimezone()


def present_on(day: date) -> datetime:
    """The present time of day on ``day``, with the offset that this machine's zone has then."""
    return datetime.combine(day, present().time()).astimezone()


def of_file(stamp: float) -> datetime:
    """When a file was written, by the seconds that the disk keeps of it."""
    return datetime.fromtimestamp(stamp).astimezone()


def written(value: datetime) -> str:
    """A time with the offset of the clock that gave it: ``2026-11-25 02:30:00.000000 -0800`` is half past two in UTC, and
    still the 24th where it was written. One without an offset is taken to be of this machine's own zone."""
    aware = value if value.tzinfo is not None else value.astimezone()
    utc = aware.astimezone(UTC).replace(tzinfo=None)
    return f"{utc.isoformat(sep=' ', timespec='microseconds')} {aware:%z}"


def time_of(text: Any) -> datetime | None:
    """The aware time that was written; None for none. Raises ValueUnreadable."""
    if text is None:
        return None
    try:
        utc = datetime.fromisoformat(text[:26]).replace(tzinfo=UTC)
        offset = text[26:].strip()
        if not offset:  # kept before offsets were
            return utc.astimezone()
        east = timedelta(hours=int(offset[:3]), minutes=int(offset[0] + offset[3:5]))
        return utc.astimezone(timezone(east))
    except (ValueError, TypeError, OverflowError):
        raise ValueUnreadable("time", text) from None


def moment(text: Any) -> datetime:
    """The aware time that was written, of a column that is never empty. Raises ValueUnreadable, also for none."""
    found = time_of(text)
    if found is None:
        raise ValueUnreadable("time", text)
    return found


def day_at(text: Any) -> date:
    """The day of a time that was written, as it was where it was written. Raises ValueUnreadable, also for none."""
    return moment(text).date()


def day_of(text: Any) -> date | None:
    """The date that was written; None for none. Raises ValueUnreadable."""
    if text is None or isinstance(text, date):
        return text
    try:
        return date.fromisoformat(text)
    except (ValueError, TypeError):
        raise ValueUnreadable("date", text) from None
