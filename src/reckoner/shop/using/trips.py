"""Laboratory trips: sent, expected, back; what they cost; the certificate that came with a tool as a result of its own
kind; and the evidence that it came back as it left, or otherwise."""

from __future__ import annotations

import hashlib
import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.decision.conformity import state_of, worst_state
from reckoner.core.decision.states import State
from reckoner.core.history.due import add_months
from reckoner.core.quantities.days import day_words, short_day
from reckoner.core.quantities.printing import number, percent, quantity
from reckoner.core.requirements.tooltypes import Direction
from reckoner.core.translation import tr
from reckoner.formats.attachedfile import LARGEST
from reckoner.shop.events.projection import update_projection
from reckoner.shop.events.recording import record_event, take_place
from reckoner.shop.facts.tool import tool_facts
from reckoner.shop.people.authorship import Act, FieldRefused, ShopRefused, note
from reckoner.shop.people.rights import command
from reckoner.shop.register.cards import ToolCard, card
from reckoner.shop.using.lending import on_the_bench
from reckoner.store.reader import Reader, reader_of
from reckoner.store.schema import Content, OutsidePoint, OutsideResult, Tool, Trip
from reckoner.store.terms import EventKind, term
from reckoner.store.times import day_at

RECENT = 60
"""Days within which a run before a trip says how the tool left."""


@command
def send(
    session: Session,
    tool_ids: Sequence[int],
    laboratory: str,
    expected: date | None,
    act: Act,
    fee: float | None = None,
    freight: float | None = None,
) -> str:
    """Send tools to a laboratory; says so in words. Raises ShopRefused for a tool that is lent, away or on the bench, and for
    a day that has gone. Changes: standings."""
    laboratory = " ".join(laboratory.split())
    if not laboratory:
        raise ShopRefused(tr("Say to which laboratory."))
    if not tool_ids:
        raise ShopRefused(tr("Scan or choose a tool first."))
    if expected is not None and expected < act.at.date():
        raise ShopRefused(
            tr("{expected} has gone already; it is expected today or later.", expected=day_words(expected))
        )
    numbers = []
    for tool_id in dict.fromkeys(tool_ids):
        found = card(reader_of(session), tool_id)
        if why := _why_not_sent(session, found):
            raise ShopRefused(why)
        event = record_event(session, tool_id, EventKind.SENT_AWAY, laboratory, act, due_back=expected)
        session.flush()
        session.add(
            Trip(
                event_id=event.id, fee=fee, freight=freight, check_run_id=_check_before(session, tool_id, act.at.date())
            )
        )
        note(session, act, tr("sent to a laboratory"), found.tool.number, to=laboratory, expected=expected or "")
        numbers.append(found.tool.number)
    until = tr(", expected on {expected}", expected=short_day(expected)) if expected is not None else ""
    return tr("{list} sent to {laboratory}{until}.", list=", ".join(numbers), laboratory=laboratory, until=until)


def _why_not_sent(session: Session, found: ToolCard) -> str:
    number, standing = found.tool.number, found.standing
    if standing.retired:
        return tr("{number} is retired.", number=number)
    if standing.kept:
        return tr("{number} is kept as evidence: {kept}. It stays as it is.", number=number, kept=standing.kept)
    if standing.away is not None:
        return tr("{number} is away already, at {to}.", number=number, to=standing.away.to)
    if standing.loan is not None:
        return tr("{number} is lent to {to}; take it back first.", number=number, to=standing.loan.to)
    return on_the_bench(reader_of(session), found)


_CHECK = """
SELECT g.run_id, g.at FROM signature g JOIN run r ON r.id = g.run_id
WHERE r.tool_id = :tool AND r.kind IN ('full', 'check', 'event') ORDER BY g.sequence DESC LIMIT 1
"""


def _check_before(session: Session, tool_id: int, today: date) -> int | None:
    row = reader_of(session).row(_CHECK, tool=tool_id)
    if row is None or (today - day_at(row.at)).days > RECENT:
        return None
    return int(row.run_id)


@command
def come_back(session: Session, tool_id: int, act: Act, words: str = "") -> str:
    """A tool is back from its laboratory; says so in words. Raises ShopRefused for one that is not away. Changes:
    standings."""
    found = card(reader_of(session), tool_id)
    away = found.standing.away
    if away is None:
        raise ShopRefused(tr("{number} is not away; there is nothing to take back.", number=found.tool.number))
    record_event(session, tool_id, EventKind.CAME_BACK, " ".join(words.split()) or tr("from {to}", to=away.to), act)
    note(session, act, tr("back from a laboratory"), found.tool.number, **{"from": away.to})
    number = found.tool.number
    return tr(
        "{number} is back from {to}. Enter its certificate, or check it here: how it came back is not known.",
        number=number,
        to=away.to,
    )


# Its certificate


@dataclass(frozen=True)
class OutsidePointDraft:
    """A point as a certificate says it: torque in N·m, deviation and W as fractions."""

    target: float
    deviation: float
    expanded_uncertainty: float
    direction: Direction = Direction.CW
    as_left: bool = False


@dataclass(frozen=True)
class OutsideDraft:
    """A certificate as it is entered. ``due`` None: by the tool's own interval; ``file`` is the certificate itself."""

    number: str
    laboratory: str
    issued: date
    points: tuple[OutsidePointDraft, ...]
    due: date | None = None
    coverage_factor: float = 2.0
    note: str = ""
    file: bytes = b""


@dataclass(frozen=True)
class CertificateEntered:
    """What came of it: the tool's ``state`` by that certificate, and words for the foot of the window."""

    result_id: int
    state: State
    words: str


@command
def enter_certificate(session: Session, tool_id: int, draft: OutsideDraft, act: Act) -> CertificateEntered:
    """Keep an outside certificate as a result. One whose last points are outside their limit holds the tool. Raises
    FieldRefused, ShopRefused. Changes: standings."""
    tool = session.get_one(Tool, tool_id)
    _refuse_draft(session, tool, draft, act.at.date())
    from reckoner.formats.rulesets import shipped  # loads pydantic

    facts = tool_facts(tool)
    rules = shipped(tool.rule_set)
    limits = {p.target: rules.limit(facts.kind, p.target) for p in draft.points}
    left = [p for p in draft.points if p.as_left] or list(draft.points)
    state = worst_state(tuple(state_of(abs(p.deviation), limits[p.target], p.expanded_uncertainty) for p in left))
    due = draft.due or add_months(draft.issued, tool.interval_months or rules.months)
    row = OutsideResult(
        tool_id=tool_id,
        sequence=take_place(session, tool_id),
        at=act.at,
        person_id=act.person_id,
        number=draft.number.strip(),
        laboratory=draft.laboratory.strip(),
        issued=draft.issued,
        due=due if state in ACCEPTED else None,
        state=state,
        coverage_factor=draft.coverage_factor,
        note=draft.note.strip(),
        digest=_kept(session, draft.file),
        points=[_outside_point(p, limits[p.target]) for p in draft.points],
    )
    session.add(row)
    session.flush()
    update_projection(session, tool_id, act.person_id)
    worst = max(left, key=lambda p: abs(p.deviation) / limits[p.target])
    told = tr(
        "{deviation} at {target}, {words}",
        deviation=percent(worst.deviation, 1, sign=True),
        target=quantity(worst.target, facts.unit),
        words=state.words,
    )
    if state not in ACCEPTED:
        record_event(session, tool_id, EventKind.HELD, f"{draft.laboratory} {draft.number}: {told}", act)
    note(
        session,
        act,
        tr("entered a certificate"),
        tool.number,
        number=draft.number,
        laboratory=draft.laboratory,
        state=state,
    )
    until = tr("; due again on {due}", due=day_words(due)) if state in ACCEPTED else tr("; it is held")
    return CertificateEntered(row.id, state, f"{tool.number}: {told}{until}.")


def _outside_point(point: OutsidePointDraft, limit: float) -> OutsidePoint:
    return OutsidePoint(
        as_left=point.as_left,
        direction=point.direction,
        target=point.target,
        deviation=point.deviation,
        expanded_uncertainty=point.expanded_uncertainty,
        limit=limit,
    )


ACCEPTED = (State.INSIDE, State.INSIDE_NEAR)


def _refuse_draft(session: Session, tool: Tool, draft: OutsideDraft, today: date) -> None:
    if not draft.number.strip():
        raise FieldRefused("number", tr("Give the certificate's number; it is asked for later."))
    if not draft.laboratory.strip():
        raise FieldRefused("laboratory", tr("Say which laboratory gave it."))
    if draft.issued > today:
        raise FieldRefused(
            "issued",
            tr("{issued} is yet to come; a certificate is of today or before.", issued=day_words(draft.issued)),
        )
    if draft.due is not None and draft.due <= draft.issued:
        raise FieldRefused("due", tr("It would be due before it was issued."))
    if not draft.points:
        raise FieldRefused("points", tr("Give its points, a line each: torque, error, W."))
    for p in draft.points:
        if not 0 < p.target <= tool.model.maximum * 1.3:
            raise FieldRefused(
                "points",
                tr("{target} is beyond what this tool does.", target=quantity(p.target, tool_facts(tool).unit)),
            )
        if abs(p.deviation) >= 1 or not 0 <= p.expanded_uncertainty < 1:
            raise FieldRefused("points", tr("A deviation and its W are parts of the torque: write them in percent."))
    if len(draft.file) > LARGEST:
        raise FieldRefused("file", tr("The file is larger than {largest} MB.", largest=LARGEST // 1000000))
    same = select(OutsideResult.id).where(
        OutsideResult.tool_id == tool.id,
        OutsideResult.number == draft.number.strip(),
        OutsideResult.laboratory == draft.laboratory.strip(),
    )
    if session.scalar(same) is not None:
        raise FieldRefused(
            "number",
            tr("{laboratory} {number} is in its history already.", laboratory=draft.laboratory, number=draft.number),
        )


def _kept(session: Session, data: bytes) -> str:
    """Keep a file by its content; its digest, empty for none."""
    if not data:
        return ""
    digest = hashlib.sha256(data).hexdigest()
    if session.scalar(select(Content.id).where(Content.digest == digest)) is None:
        session.add(Content(digest=digest, data=data))
    return digest


# How it came back


_TRIP = """
SELECT e.sequence, e.at, e.note, t.check_run_id, t.fee, t.freight FROM tool_event e LEFT JOIN trip t ON t.event_id = e.id
WHERE e.tool_id = :tool AND e.kind = 'sent away' ORDER BY e.sequence DESC LIMIT 1
"""

_AFTER = """
SELECT g.run_id FROM signature g JOIN run r ON r.id = g.run_id
WHERE r.tool_id = :tool AND r.kind IN ('full', 'check', 'event') AND g.sequence > :after ORDER BY g.sequence LIMIT 1
"""

_POINTS = """
SELECT p.target, p.direction, p.deviation, p.expanded_uncertainty, s.phase FROM point_result p
JOIN series s ON s.id = p.series_id JOIN signature g ON g.id = p.signature_id WHERE g.run_id = :run ORDER BY p.id
"""


def came_back_as(reader: Reader, tool_id: int) -> str:
    """Whether a tool came back from its last trip as it left, by the runs before and after; empty where there was none.

    At each point of both: the difference of the deviations against √(W₁² + W₂²)."""
    trip = reader.row(_TRIP, tool=tool_id)
    if trip is None:
        return ""
    if trip.check_run_id is None:
        return tr(
            "How it left for {note} is not known: it was not checked in the {recent} days before.",
            note=trip.note,
            recent=RECENT,
        )
    after = reader.value(_AFTER, tool=tool_id, after=trip.sequence)
    if after is None:
        return tr("How it came back is not known yet: check it here.")
    left, back = _points(reader, trip.check_run_id, last=True), _points(reader, int(after), last=False)
    both = sorted(set(left) & set(back))
    if not both:
        return tr("The checks before and after have no point in common; nothing can be said.")
    worst = max(both, key=lambda p: abs(back[p][0] - left[p][0]) / _worth(left[p][1], back[p][1]))
    difference, worth = back[worst][0] - left[worst][0], _worth(left[worst][1], back[worst][1])
    words = tr(
        "{difference} at {worst}\u202fN·m, ±{worth}",
        difference=percent(difference, 2, sign=True),
        worst=number(worst[1]),
        worth=percent(worth, 2),
    )
    if abs(difference) > worth:
        return tr("It came back different from how it left: {words}.", words=words)
    return tr("It came back as it left, as far as can be told: {words}.", words=words)


def _worth(one: float, other: float) -> float:
    return max(1e-9, math.hypot(one, other))


def _points(reader: Reader, run_id: int, *, last: bool) -> dict[tuple[Direction, float], tuple[float, float]]:
    """The points of a run: as it was left, or as it was found."""
    rows = reader.rows(_POINTS, run=run_id)
    phases = [row.phase for row in rows]
    wanted = "left" if last and "left" in phases else "found"
    return {
        (term(Direction, row.direction), row.target): (row.deviation, row.expanded_uncertainty)
        for row in rows
        if row.phase == wanted
    }
