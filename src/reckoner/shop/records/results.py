"""The signed runs, newest first, a page at a time: what the list of results is made of."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date
from typing import Any, TypeAlias

from reckoner.core.decision.states import State
from reckoner.shop.numbering import own_number
from reckoner.shop.runs.kinds import POLICIES
from reckoner.store.reader import Reader, contains
from reckoner.store.terms import RunKind, term
from reckoner.store.times import day_at

PAGE = 100

Place: TypeAlias = tuple[str, int]
"""When, as the database keeps it, and the row's own number: by this the lists are ordered."""


def every_word(found_where: Callable[[str, str], str], text: str) -> tuple[str, dict[str, str]]:
    """The conditions that every word of ``text`` is found, and their values: ``found_where`` tells the condition (SQL) of a
    word in small letters and of its value's name. No word spans two columns, so each is looked for where it may stand, and
    a word of a tool is looked for among the tools and not among all that was ever done with them."""
    words = {f"word{i}": word for i, word in enumerate(text.lower().split())}
    return "".join(f" AND ({found_where(word, name)})" for name, word in words.items()), words


def stands_in(columns: str, name: str) -> str:
    """The condition that the word called ``name`` stands in what ``columns`` hold, whatever its case."""
    return contains(f"lower({columns})", name)


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


def _found_where(word: str, name: str) -> str:
    called = stands_in("number || ' ' || serial", name)
    conditions = [
        f"r.tool_id IN (SELECT id FROM tool WHERE {called})",
        f"s.person_id IN (SELECT id FROM person WHERE {stands_in('initials', name)})",
        f"s.id IN (SELECT signature_id FROM certificate_number WHERE {stands_in('number', name)})",
    ]
    if in_day(word):
        conditions.append(stands_in("substr(s.at, 1, 10)", name))
    return " OR ".join(conditions)


BEYOND: Place = ("9999-12-31", 0)
"""After every place."""


def results(
    reader: Reader, text: str = "", tool_id: int | None = None, before: Place = BEYOND, count: int = PAGE
) -> tuple[ResultLine, ...]:
    """The newest ``count`` results below the place ``before``: of a tool, or those in which every word of ``text`` is found
    (number, serial, initials, certificate, day as 2026-11-24). Raises TermUnknown."""
    conditions, words = every_word(_found_where, text)
    if tool_id is not None:
        conditions += " AND r.tool_id = :tool"
    found = reader.rows(
        _RESULTS.format(conditions=conditions),
        at=before[0],
        id=before[1],
        count=count,
        tool=tool_id,
        **words,
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
