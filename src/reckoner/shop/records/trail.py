"""The audit trail: who did what, when, to what; newest first, a page at a time."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import datetime
from functools import partial
from pathlib import Path
from typing import Any

from sqlalchemy.orm import Session

from reckoner.core.quantities.printing import THIN
from reckoner.shop.records.results import BEYOND, Place, in_day, words_of
from reckoner.store.reader import Reader, contains_any_case, pattern, reader_of
from reckoner.store.times import moment

PAGE = 200
COLUMNS = ("when", "who", "did", "to", "what", "at")

_TORQUES = ("torque", "target", "indicated", "shown", "true", "mark", "read")
_PRINTED_IN = {
    **dict.fromkeys(_TORQUES, (1, "N·m")),
    "mean": (100, "%"),
    "temperature": (1, "°C"),
    "humidity": (1, "%"),
    "minutes": (1, "min"),
}
"""By the name of a number that was kept beside a line: what it is printed in, and how many of that it is."""


@dataclass(frozen=True)
class TrailLine:
    """One line: ``who`` is empty where nobody who is registered did it; ``what`` tells the rest in words; ``station`` is
    where it was done, empty of what was kept before stations had names."""

    place: Place
    at: datetime
    who: str
    action: str
    subject: str
    what: str
    station: str = ""

    def cells(self) -> tuple[str, ...]:
        """As a row of a table."""
        return (f"{self.at:%Y-%m-%d %H:%M:%S}", self.who, self.action, self.subject, self.what, self.station)


_TRAIL = """
SELECT a.id, a.at, COALESCE(p.initials, '') AS who, a.action, a.subject, a.detail, a.station
FROM audit a LEFT JOIN person p ON p.id = a.person_id
WHERE (a.at, a.id) < (:at, :id) {conditions} ORDER BY a.at DESC, a.id DESC LIMIT :count
"""


def _finds(word: str, name: str) -> str:
    """The condition that a word is found; none spans two columns."""
    conditions = [
        f"person_id IN (SELECT id FROM person WHERE {contains_any_case('initials', name)})",
        *(contains_any_case(column, name) for column in ("action", "subject", "detail", "station")),
    ]
    if in_day(word):
        conditions.append(contains_any_case("substr(at, 1, 16)", name))
    return " OR ".join(conditions)


def trail(reader: Reader, text: str = "", before: Place = BEYOND, count: int = PAGE) -> tuple[TrailLine, ...]:
    """The newest ``count`` lines below the place ``before`` in which every word of ``text`` is found: day, initials, what was
    done, to what, at which station."""
    words = words_of(text)
    found_by = " AND ".join(f"({_finds(word, name)})" for name, word in words.items())
    conditions = (
        f" AND a.id IN (SELECT id FROM audit WHERE {found_by})" if words else ""
    )  # in one go, then in their order
    found = reader.rows(
        _TRAIL.format(conditions=conditions),
        at=before[0],
        id=before[1],
        count=count,
        **{name: pattern(word) for name, word in words.items()},
    )
    return tuple(
        TrailLine(
            (row.at, row.id),
            moment(row.at),
            row.who,
            row.action,
            row.subject,
            _words(row.detail),
            row.station,
        )
        for row in found
    )


def whole_trail(reader: Reader, text: str = "") -> Iterator[TrailLine]:
    """Every line that ``text`` finds, newest first."""
    before = BEYOND
    while page := trail(reader, text, before, 5000):
        yield from page
        before = page[-1].place


def trail_table(session: Session, text: str, path: Path) -> Callable[[], int]:
    """Gathers every line that ``text`` finds, to be written as a table; how many comes of it. What is returned raises
    TableRefused."""
    from reckoner.formats.tables import write_table  # loads pydantic

    return partial(write_table, path, COLUMNS, [line.cells() for line in whole_trail(reader_of(session), text)])


def _words(detail: str) -> str:
    """What was kept beside a line, in words; as it stands where it is none of ours."""
    try:
        told = json.loads(detail)
    except (ValueError, RecursionError):
        return detail
    if not isinstance(told, dict):
        return detail
    return "; ".join(
        f"{name.replace('_', ' ')}: {_plain(name, value)}" for name, value in told.items() if value not in ("", None)
    )


def _plain(name: str, value: Any) -> str:
    if isinstance(value, list | dict):
        return json.dumps(value, ensure_ascii=False)
    if not isinstance(value, int | float) or isinstance(value, bool):
        return str(value)
    times, unit = _PRINTED_IN.get(name, (1, ""))
    return f"{value * times:.6g}{THIN}{unit}" if unit else f"{value:.6g}" if isinstance(value, float) else str(value)
