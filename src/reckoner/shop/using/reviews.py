"""Reviews as they are read: one with its lines and what became of them, the open ones, and results that ask for one."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import Any

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.days import day_words
from reckoner.core.quantities.printing import percent, quantity, span
from reckoner.core.quantities.units import Kind, Unit, unit_named
from reckoner.core.tightening.setting import BandPlace, KnownPoint
from reckoner.core.translation import tr, tr_count
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.using.reviewlines import ReviewLine, read_line
from reckoner.store.reader import Reader
from reckoner.store.schema.base import unfolded
from reckoner.store.times import day_at


@dataclass(frozen=True)
class ReviewSettlement:
    """How a line was settled, by whom and when."""

    note: str
    by: str
    on: date


@dataclass(frozen=True)
class ReviewFacts:
    """A review: of which tool, by what (``basis``), its lines with how each was settled (None: not yet). ``closed`` tells
    when and by whom; empty while it is open."""

    id: int
    tool_id: int
    tool: str
    unit: Unit
    begun: date
    by: str
    basis: str
    since: date | None
    points: tuple[KnownPoint, ...]
    lines: tuple[ReviewLine, ...]
    settled: tuple[ReviewSettlement | None, ...]
    siblings: tuple[str, ...]
    closed: str = ""

    @property
    def left(self) -> int:
        """Lines that are not settled yet."""
        return sum(one is None for one in self.settled)

    @property
    def sentence(self) -> str:
        """What it found, in a sentence."""
        counts = {f: sum(line.falls is f for line in self.lines) for f in BandPlace}
        said = [f"{counts[f]} {words}" for f, words in _COUNTED.items() if counts[f]]
        since = tr(" since {since}", since=day_words(self.since)) if self.since is not None else ""
        uses = tr_count(
            "{tool}: {n} use{since}", "{tool}: {n} uses{since}", len(self.lines), tool=self.tool, since=since
        )
        return f"{uses}; {', '.join(said)}."


_COUNTED = {
    BandPlace.OUTSIDE: tr("probably outside the joint's band"),
    BandPlace.CANNOT_TELL: tr("that cannot be told"),
    BandPlace.INSIDE: tr("probably inside"),
}

_REVIEW = """
SELECT r.id, r.tool_id, r.at, r.document, t.number, m.unit, p.initials, c.at AS closed, q.initials AS closer, c.note
FROM review r JOIN tool t ON t.id = r.tool_id JOIN tool_model m ON m.id = t.model_id JOIN person p ON p.id = r.person_id
LEFT JOIN review_close c ON c.review_id = r.id LEFT JOIN person q ON q.id = c.person_id
"""

_MARKS = """
SELECT k.line, k.note, k.at, p.initials FROM review_mark k JOIN person p ON p.id = k.person_id
WHERE k.review_id = :review ORDER BY k.id
"""


def review(reader: Reader, review_id: int) -> ReviewFacts:
    """One review. Raises ShopRefused when there is none, or it cannot be read."""
    row = reader.row(f"{_REVIEW} WHERE r.id = :review", review=review_id)
    if row is None:
        raise ShopRefused(tr("There is no such review."))
    return _facts(reader, row)


def _facts(reader: Reader, row: Any) -> ReviewFacts:
    raw = unfolded(row.document)
    try:
        lines = tuple(read_line(one) for one in raw["lines"])
        points = tuple(KnownPoint(*one) for one in raw["points"])
    except (KeyError, TypeError, ValueError, InputRefused):
        raise ShopRefused(
            tr("The review of {number} cannot be read: it is damaged. Put back a backup.", number=row.number)
        ) from None
    settled: list[ReviewSettlement | None] = [None] * len(lines)
    for mark in reader.rows(_MARKS, review=row.id):
        if 0 <= mark.line < len(lines):
            settled[mark.line] = ReviewSettlement(mark.note, mark.initials, day_at(mark.at))
    closed = (
        tr("closed on {day_at} by {closer}", day_at=day_words(day_at(row.closed)), closer=row.closer)
        if row.closed
        else ""
    )
    return ReviewFacts(
        id=row.id,
        tool_id=row.tool_id,
        tool=row.number,
        unit=unit_named(row.unit, Kind.TORQUE),
        begun=day_at(row.at),
        by=row.initials,
        basis=raw["by"],
        since=date.fromisoformat(raw["since"]) if raw["since"] else None,
        points=points,
        lines=lines,
        settled=tuple(settled),
        siblings=tuple(raw["siblings"]),
        closed=f"{closed}{f': {row.note}' if row.note else ''}" if closed else "",
    )


def reviews(reader: Reader, *, closed: bool = False) -> tuple[ReviewFacts, ...]:
    """The open ones, or those that are closed; the newest first, two hundred at most."""
    where = "c.id IS NOT NULL" if closed else "c.id IS NULL"
    rows = reader.rows(f"{_REVIEW} WHERE {where} ORDER BY r.id DESC LIMIT 200")
    return tuple(_facts(reader, row) for row in rows)


@dataclass(frozen=True)
class ReviewRequest:
    """A result that asks for a review: the tool was outside as it was found, and had been lent."""

    run_id: int
    tool_id: int
    tool: str
    on: date
    sentence: str


_ASKS = """
SELECT DISTINCT r.id AS run_id, r.tool_id, t.number, g.at, g.sentence FROM point_result p
JOIN series s ON s.id = p.series_id JOIN signature g ON g.id = p.signature_id JOIN run r ON r.id = g.run_id
JOIN tool t ON t.id = r.tool_id
WHERE p.state IN ('outside', 'outside-near') AND s.phase = 'found' AND r.kind IN ('full', 'check', 'event')
  AND NOT EXISTS (SELECT 1 FROM review v WHERE v.tool_id = r.tool_id AND (v.run_id = r.id OR v.at > g.at))
  AND NOT EXISTS (SELECT 1 FROM run a JOIN signature b ON b.run_id = a.id WHERE a.amends_id = r.id)
  AND EXISTS (SELECT 1 FROM tool_event e WHERE e.tool_id = r.tool_id AND e.kind = 'lent' AND e.sequence < g.sequence
    AND e.sequence > COALESCE((SELECT max(h.sequence) FROM signature h JOIN run o ON o.id = h.run_id
      WHERE o.tool_id = r.tool_id AND h.sequence < g.sequence AND h.state IN ('inside', 'inside-near')), 0))
ORDER BY g.at DESC LIMIT 50
"""


def asking(reader: Reader) -> tuple[ReviewRequest, ...]:
    """Results that ask for a review and have none, the newest first."""
    return tuple(ReviewRequest(r.run_id, r.tool_id, r.number, day_at(r.at), r.sentence) for r in reader.rows(_ASKS))


def reviews_and_asks(
    reader: Reader, *, closed: bool = False
) -> tuple[tuple[ReviewRequest, ...], tuple[ReviewFacts, ...]]:
    """The open reviews with the results that ask for one, or the ``closed`` ones."""
    return () if closed else asking(reader), reviews(reader, closed=closed)


def line_words(line: ReviewLine, unit: Unit) -> str:
    """What a line probably got, in words."""
    use = line.use
    if use.set is None:
        return tr("no setting was kept: it cannot be told what it got")
    said = [tr("set to {set}", set=quantity(use.set, unit))]
    if use.adapter:
        said.append(tr("with the {adapter}", adapter=use.adapter))
    if line.delivered is None:
        said.append(tr("outside the tested settings: it cannot be told what it got"))
    else:
        worth = f" ±{percent(line.uncertainty, 1)}" if line.uncertainty else ""
        said.append(tr("probably got {delivered}{worth}", delivered=quantity(line.delivered, unit, 1), worth=worth))
    if use.band is not None:
        said.append(tr("wants {low}", low=span(use.band.low, use.band.high, unit)))
    elif line.delivered is not None:
        said.append(tr("its band is not known"))
    if line.low:
        said.append(tr("below 20 % of the tool's scale, where nothing is promised"))
    return ", ".join(said)
