"""The signed runs, newest first, a page at a time: what the list of results is made of."""

from __future__ import annotations

import re
from dataclasses import dataclass
from datetime import date
from typing import Any, TypeAlias

from reckoner.core.decision.states import State
from reckoner.shop.numbering import own_number
from reckoner.shop.runs.kinds import POLICIES
from reckoner.store.reader import Reader, contains_any_case, pattern
from reckoner.store.terms import RunKind, term
from reckoner.store.times import day_at

PAGE = 100

Place: TypeAlias = tuple[str, int]
"""When, as the database keeps it, and the row's own number: by this the lists are ordered."""


def words_of(text: str) -> dict[str, str]:
    """Each word of ``text`` in small letters, by the name of its value in a statement."""
    return {f"word{i}": word for i, word in enumerate(text.lower().split())}


def in_day(word: str) -> bool:
    """Whether a word may be a part of a day and an hour as they are kept."""
    return not word.strip("0123456789-:.+t")


@dataclass(frozen=True)
class ResultLine:
    """One signed run. ``place`` orders them; ``certified``: it has a certificate; ``amended``: a later one replaces it."""

    place: Place
    run_id: int
    number: str
    on: date
    tool: str
    kind: str
    sentence: str
    state: State
    by: str
    certified: bool
    amended: bool


_RESULTS = """
SELECT s.id, s.run_id, s.at, s.state, s.sentence, c.number AS certificate, r.kind, t.number, p.initials,
  EXISTS (SELECT 1 FROM run a JOIN signature b ON b.run_id = a.id WHERE a.amends_id = r.id) AS amended
FROM signature s JOIN run r ON r.id = s.run_id JOIN tool t ON t.id = r.tool_id JOIN person p ON p.id = s.person_id
LEFT JOIN certificate_number c ON c.signature_id = s.id
WHERE (s.at, s.id) < (:at, :id) {conditions} ORDER BY s.at DESC, s.id DESC LIMIT :count
"""


_NAMES = {
    "SELECT s2.id FROM run r2 JOIN signature s2 ON s2.run_id = r2.id WHERE r2.tool_id IN (SELECT id FROM tool WHERE {})":
        ("tool", "number || ' ' || serial"),
    "SELECT id FROM signature WHERE person_id IN (SELECT id FROM person WHERE {})": ("person", "initials"),
    "SELECT signature_id FROM certificate_number WHERE {}": ("certificate_number", "number"),
}  # fmt: skip
"""Which signatures a word finds, by the table and the columns in which it is looked for."""

_BEGINS_A_DAY = re.compile(r"\d{4}-[\d-]*")


def _found_by(reader: Reader, word: str, name: str) -> str:
    """The statement of the signatures that a word finds; empty where it finds none. No word spans two columns, so each is
    looked for where it may stand, and a word of a tool among the tools, not among all that was ever done with them."""
    found = []
    for statement, (table, columns) in _NAMES.items():
        condition = contains_any_case(columns, name)
        if reader.value(f"SELECT 1 FROM {table} WHERE {condition} LIMIT 1", **{name: pattern(word)}) is not None:
            found.append(statement.format(condition))
    if _BEGINS_A_DAY.fullmatch(word):
        found.append(f"SELECT id FROM signature WHERE at >= :{name}_day AND at < :{name}_day || '~'")
    elif in_day(word):
        found.append(f"SELECT id FROM signature WHERE {contains_any_case('substr(at, 1, 10)', name)}")
    return " UNION ".join(found)


BEYOND: Place = ("9999-12-31", 0)
"""After every place."""


def results(
    reader: Reader, text: str = "", tool_id: int | None = None, before: Place = BEYOND, count: int = PAGE
) -> tuple[ResultLine, ...]:
    """The newest ``count`` results below the place ``before``: of a tool, or those in which every word of ``text`` is found
    (number, serial, initials, certificate, day as 2026-11-24). Raises TermUnknown."""
    conditions, words = "", words_of(text)
    for name, word in words.items():
        found_by = _found_by(reader, word, name)
        if not found_by:
            return ()
        conditions += f" AND s.id IN ({found_by})"
    if tool_id is not None:
        conditions += " AND r.tool_id = :tool"
    found = reader.rows(
        _RESULTS.format(conditions=conditions),
        at=before[0],
        id=before[1],
        count=count,
        tool=tool_id,
        **{name: pattern(word) for name, word in words.items()},
        **{f"{name}_day": word for name, word in words.items()},
    )
    return tuple(_line(row) for row in found)


def _line(row: Any) -> ResultLine:
    kind = term(RunKind, row.kind)
    on = day_at(row.at)
    return ResultLine(
        place=(row.at, row.id),
        run_id=row.run_id,
        number=row.certificate or own_number(row.run_id),
        on=on,
        tool=row.number,
        kind=POLICIES[kind].words,
        sentence=row.sentence,
        state=term(State, row.state),
        by=row.initials,
        certified=POLICIES[kind].judges,
        amended=bool(row.amended),
    )
