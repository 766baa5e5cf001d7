"""What a tool's last results say of its settings: the points of its last full run as it was left, or of a laboratory's
certificate where that is newer.

The one tool that somebody names at the joint or at the desk, with what is known of it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import Any

from reckoner.core.decision.states import State
from reckoner.core.errors import InputRefused
from reckoner.core.quantities.days import day_words
from reckoner.core.quantities.printing import enumerated
from reckoner.core.requirements.tooltypes import Direction
from reckoner.core.tightening.setting import KnownPoint
from reckoner.core.translation import tr
from reckoner.shop.register.cards import ToolCard, cards, count, tool_called
from reckoner.shop.register.finding import question
from reckoner.store.reader import Reader
from reckoner.store.terms import PhaseKind, term
from reckoner.store.times import day_at, day_of


@dataclass(frozen=True)
class KnownErrors:
    """The ``points`` in one direction, when they were found, and ``by`` what: such as "full run of 3 Mar 2026". ``as_left``:
    it was adjusted before them."""

    points: tuple[KnownPoint, ...]
    on: date
    by: str
    as_left: bool = False
    state: State | None = None


_NEWEST = """
SELECT g.id, g.run_id, g.sequence, g.at, g.state, r.kind FROM signature g JOIN run r ON r.id = g.run_id
WHERE r.tool_id = :tool AND r.kind IN ('full', 'check', 'event') AND g.state NOT IN ('compared')
ORDER BY r.kind = 'full' DESC, g.sequence DESC LIMIT 1
"""
"""The run that counts: the last full one, else the last of all."""

_SINCE = """
SELECT g.id, g.run_id, g.sequence, g.at, g.state, r.kind FROM signature g JOIN run r ON r.id = g.run_id
WHERE r.tool_id = :tool AND r.kind IN ('check', 'event') AND g.state NOT IN ('compared') AND g.sequence > :sequence
ORDER BY g.sequence
"""
"""What was checked since: it answers for the settings that it tested."""

_POINTS = """
SELECT p.target, p.deviation, p.expanded_uncertainty, p.state, s.phase, s.round FROM point_result p
JOIN series s ON s.id = p.series_id WHERE p.signature_id = :signature AND p.direction = :direction
ORDER BY s.round, p.id
"""

_OUTSIDE = """
SELECT id, sequence, number, laboratory, issued, state FROM outside_result WHERE tool_id = :tool
ORDER BY sequence DESC LIMIT 1
"""

_OUTSIDE_POINTS = """
SELECT target, deviation, expanded_uncertainty, as_left FROM outside_point
WHERE outside_result_id = :result AND direction = :direction ORDER BY as_left, id
"""

KIND_WORDS = {"full": tr("full run"), "check": tr("quick check"), "event": tr("check")}


def known_of(reader: Reader, tool_id: int, direction: Direction = Direction.CW) -> KnownErrors | None:
    """What is known of a tool in a direction: its last full run, or a laboratory's certificate where that is newer, and what
    checks since then found at their own points; None where nothing is, or nothing that can be used."""
    run = reader.row(_NEWEST, tool=tool_id)
    outside = reader.row(_OUTSIDE, tool=tool_id)
    known = None
    if outside is not None and (run is None or outside.sequence > run.sequence):
        known, since = _of_certificate(reader, outside, direction), int(outside.sequence)
    elif run is not None:
        known, since = _of_run(reader, run, direction), int(run.sequence)
    else:
        return None
    whole = known
    for row in reader.rows(_SINCE, tool=tool_id, sequence=since):
        newer = _of_run(reader, row, direction)
        if newer is None:
            continue
        if known is None or whole is None or newer.as_left:
            known = whole = newer
        else:
            known = _together(known, newer, whole.by)
    return known


def _of_certificate(reader: Reader, outside: Any, direction: Direction) -> KnownErrors | None:
    rows = reader.rows(_OUTSIDE_POINTS, result=outside.id, direction=direction.value)
    left = any(r.as_left for r in rows)
    found = [_point(r) for r in rows if bool(r.as_left) == left]
    issued = day_of(outside.issued)
    if not found or issued is None:
        return None
    by = tr(
        "{laboratory} {number} of {issued}",
        laboratory=outside.laboratory,
        number=outside.number,
        issued=day_words(issued),
    )
    return KnownErrors(_merged(found), issued, by, left, term(State, outside.state))


def _of_run(reader: Reader, run: Any, direction: Direction) -> KnownErrors | None:
    rows = reader.rows(_POINTS, signature=run.id, direction=direction.value)
    last = max((r.round for r in rows), default=0)
    left = any(term(PhaseKind, r.phase) is PhaseKind.LEFT for r in rows)
    phase = PhaseKind.LEFT if left else PhaseKind.FOUND
    found = [_point(r) for r in rows if term(PhaseKind, r.phase) is phase and (not left or r.round == last)]
    on = day_at(run.at)
    if not found:
        return None
    return KnownErrors(
        _merged(found),
        on,
        tr("{kind_words} of {on}", kind_words=KIND_WORDS[run.kind], on=day_words(on)),
        left,
        term(State, run.state),
    )


def _together(known: KnownErrors, newer: KnownErrors, first: str) -> KnownErrors:
    """With what a later check found at its own points: it was not adjusted between them. ``first`` names what came before
    every check."""
    by = enumerated([first, newer.by])
    return replace(known, points=_merged([*known.points, *newer.points]), on=newer.on, by=by, state=newer.state)


def _point(row: object) -> KnownPoint | None:
    try:
        return KnownPoint(row.target, row.deviation, row.expanded_uncertainty)  # type: ignore[attr-defined]
    except InputRefused:  # what a signature of old may hold
        return None


def _merged(points: Sequence[KnownPoint | None]) -> tuple[KnownPoint, ...]:
    """One for each setting, the last counts."""
    return tuple(sorted({p.setting: p for p in points if p is not None}.values(), key=lambda p: p.setting))


def named_tool(reader: Reader, text: str, today: date) -> tuple[ToolCard | None, KnownErrors | None, int]:
    """The tool that a text fits alone, what is known of it in the first direction that it turns, and how many tools the text
    fits."""
    card = tool_called(reader, text)
    if card is None:
        asked = question(reader, text, today)
        many = count(reader, asked)
        if many != 1:
            return None, None, many
        card = cards(reader, 0, 1, asked)[0]
    return card, known_of(reader, card.tool.id, first_direction(card)), 1


def not_one(text: str, many: int) -> str:
    """Why a text names no tool, as a sentence: it fits ``many``, or none."""
    return (
        tr("“{text}” fits {many} tools; type more.", text=text, many=many)
        if many
        else tr("No tool is called “{text}”.", text=text)
    )


def first_direction(card: ToolCard) -> Direction:
    """Clockwise where it turns so."""
    return Direction.CW if Direction.CW in card.tool.directions else Direction.CCW
