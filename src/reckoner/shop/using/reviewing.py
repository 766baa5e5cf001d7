"""What a bad tool may have spoiled: every loan since it was last known to be good, with the torque that its settings
probably delivered, against each joint's band. Each line is settled with a note, then the review is closed.

``judge`` is pure; ``begin`` keeps what it found as one document, so that nothing edited later changes a line.
"""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.quantities.days import day_words
from reckoner.core.tightening.choosing import ALLOWED
from reckoner.core.tightening.setting import Band, BandPlace, DeviationAtSetting, KnownPoint, at
from reckoner.core.translation import tr
from reckoner.shop.changes import ChangeKind, changed
from reckoner.shop.people.authorship import Act, ShopRefused, note
from reckoner.shop.people.rights import command
from reckoner.shop.runs.loading import load
from reckoner.shop.runs.records import SeriesState
from reckoner.shop.using.known import known_of
from reckoner.shop.using.reviewlines import Basis, ReviewLine, review_document
from reckoner.shop.using.setting import SettingUse
from reckoner.store.reader import Reader, contains, reader_of
from reckoner.store.schema import Review, ReviewClose, ReviewMark, Tool
from reckoner.store.schema.base import unfolded
from reckoner.store.times import day_at, day_of


def judge(basis: Basis, uses: Sequence[SettingUse], full_scale: float) -> tuple[ReviewLine, ...]:
    """Each use against its joint: X/(1 + a(X))·f ± W, nothing extrapolated; the worst first, then the newest.

    >>> found = judge(Basis((KnownPoint(40, 0.06, 0.01), KnownPoint(200, 0.06, 0.01)), "", None, date(2026, 1, 1)),
    ...     [SettingUse("crew", date(2026, 1, 1), None, set=120, band=Band(115, 125))], 200)
    >>> round(found[0].delivered, 2), str(found[0].falls)
    (113.21, 'outside')
    """
    lines = [_line(basis.points, use, full_scale) for use in uses]
    worst = {BandPlace.OUTSIDE: 0, BandPlace.CANNOT_TELL: 1, BandPlace.INSIDE: 2}
    return tuple(sorted(lines, key=lambda line: (worst[line.falls], -line.use.on.toordinal())))


def _line(points: Sequence[KnownPoint], use: SettingUse, full_scale: float) -> ReviewLine:
    if use.set is None:
        return ReviewLine(use, None, None, BandPlace.CANNOT_TELL, False)
    low = use.set < ALLOWED[0] * full_scale * (1 - 1e-9)
    there: DeviationAtSetting = at(points, use.set)
    delivered, worth = there.delivered(use.factor), there.expanded_uncertainty or 0.0
    if delivered is None:
        return ReviewLine(use, None, None, BandPlace.CANNOT_TELL, low)
    falls = use.band.falls(delivered, worth) if use.band is not None else BandPlace.CANNOT_TELL
    return ReviewLine(use, delivered, worth, falls, low)


# What is known, and what it was used for


def basis_of(session: Session, tool_id: int, run_id: int | None, today: date) -> Basis:
    """What is known of a tool: by a run as it was found, and as it came where that was pulled, else by its last results.
    Raises ShopRefused where nothing is known of it."""
    reader = reader_of(session)
    since = _last_good(reader, tool_id, run_id)
    if run_id is None:
        known = known_of(reader, tool_id)
        if known is None:
            number = session.get_one(Tool, tool_id).number
            raise ShopRefused(
                tr("Nothing is known of {number} yet: test it, then ask what it may have spoiled.", number=number)
            )
        return Basis(known.points, known.by, since, today)
    run = load(session, run_id)
    points = {p.setting: p for p in _found(reader, run_id)}
    came = [s for s in run.came if s.pairs]
    for series in came:
        points[series.target] = _as_it_came(series, tuple(points.values()))
    if not points:
        raise ShopRefused(tr("That run found nothing that could be held against a joint."))
    by = tr("as it came, and as found") if came else tr("as found")
    until = run.signature.on if run.signature is not None else today
    return Basis(
        tuple(sorted(points.values(), key=lambda p: p.setting)),
        tr("{by} on {until}", by=by, until=day_words(until)),
        since,
        until,
    )


def _as_it_came(series: SeriesState, found: Sequence[KnownPoint]) -> KnownPoint:
    """The pulls before any exercise; their W is taken to be that of the point as found, or the largest there is."""
    deviation = sum(p.deviation for p in series.pairs) / len(series.pairs)
    here = [p.expanded_uncertainty for p in found if p.setting == series.target]
    return KnownPoint(series.target, deviation, max(here or [p.expanded_uncertainty for p in found], default=0.0))


_FOUND = """
SELECT p.target, p.deviation, p.expanded_uncertainty FROM point_result p
JOIN series s ON s.id = p.series_id JOIN signature g ON g.id = p.signature_id
WHERE g.run_id = :run AND s.phase = 'found' ORDER BY p.target
"""


def _found(reader: Reader, run_id: int) -> list[KnownPoint]:
    rows = reader.rows(_FOUND, run=run_id)
    return [KnownPoint(r.target, r.deviation, r.expanded_uncertainty) for r in rows]


_GOOD = """
SELECT g.at FROM signature g JOIN run r ON r.id = g.run_id
WHERE r.tool_id = :tool AND r.kind IN ('full', 'check', 'event') AND g.state IN ('inside', 'inside-near')
  AND g.sequence < :before
ORDER BY g.sequence DESC LIMIT 1
"""


def _last_good(reader: Reader, tool_id: int, run_id: int | None) -> date | None:
    """The day of the last good result before a run; of the last one at all without one."""
    before = 10**9
    if run_id is not None:
        before = int(reader.value("SELECT sequence FROM signature WHERE run_id = :run", run=run_id) or before)
    outside = reader.row(
        "SELECT issued, sequence FROM outside_result WHERE tool_id = :tool AND state IN ('inside', 'inside-near') "
        "AND sequence < :before ORDER BY sequence DESC LIMIT 1",
        tool=tool_id,
        before=before,
    )
    good = reader.value(_GOOD, tool=tool_id, before=before)
    days = [day_at(good)] if good else []
    if outside is not None and (issued := day_of(outside.issued)) is not None:
        days.append(issued)
    return max(days, default=None)


_EVENTS = """
SELECT id, at, note, kind FROM tool_event WHERE tool_id = :tool
  AND kind IN ('lent', 'returned', 'recorded by mistake') ORDER BY sequence
"""

_SETTINGS = """
SELECT l.event_id, l.job, l.joint, l.torque_set, l.factor, l.adapter, l.low, l.high FROM loan_setting l
JOIN tool_event e ON e.id = l.event_id WHERE e.tool_id = :tool ORDER BY l.id
"""

_JOBS = f"""
SELECT w.at, w.title, w.number, w.document, c.at AS closed, p.initials FROM job_work w
JOIN person p ON p.id = w.person_id LEFT JOIN job_close c ON c.work_id = w.id
WHERE w.at <= :until AND {contains("w.document", "quoted")} ORDER BY w.id
"""


def uses_of(session: Session, tool_id: int, since: date | None, until: date) -> tuple[SettingUse, ...]:
    """What a tool was used for from the day it was last good to another: its loans with the settings that they were for,
    and the jobs that it was set for. A loan that was still out on the first day counts."""
    reader = reader_of(session)
    end = f"{until + timedelta(days=1)} 99"  # days are those of the place, times are kept in UTC
    found = _loans(reader, tool_id, until)
    number = session.get_one(Tool, tool_id).number
    for row in reader.rows(_JOBS, until=end, quoted=json.dumps(number)):
        found += [use for use in _of_job(number, row) if use.on <= until]
    return tuple(u for u in found if since is None or u.back is None or u.back >= since)


@dataclass
class _LoanRow:
    to: str
    on: date
    event: int
    back: date | None = None


def _loans(reader: Reader, tool_id: int, until: date) -> list[SettingUse]:
    """A use for each setting of each loan; one for a loan whose settings nobody kept."""
    loans: list[_LoanRow] = []
    before = ""
    for row in reader.rows(_EVENTS, tool=tool_id):
        on = day_at(row.at)
        match row.kind:
            case "lent":
                loans.append(_LoanRow(row.note, on, row.id))
            case "returned" if loans:
                loans[-1].back = on
            case "recorded by mistake" if loans and before == "lent":
                loans.pop()
        before = row.kind
    settings: dict[int, list[Any]] = {}
    for row in reader.rows(_SETTINGS, tool=tool_id):
        settings.setdefault(row.event_id, []).append(row)
    return [_use(loan, setting) for loan in loans if loan.on <= until for setting in settings.get(loan.event, [None])]


def _use(loan: _LoanRow, setting: Any | None) -> SettingUse:
    if setting is None:
        return SettingUse(loan.to, loan.on, loan.back)
    return SettingUse(
        to=loan.to,
        on=loan.on,
        back=loan.back,
        job=setting.job,
        joint=setting.joint,
        set=setting.torque_set,
        factor=setting.factor,
        adapter=setting.adapter,
        band=Band(setting.low, setting.high) if setting.low and setting.high else None,
    )


def _of_job(number: str, row: Any) -> list[SettingUse]:
    from reckoner.shop.using.works import uses_in  # the card's own format

    closed = day_at(row.closed) if row.closed else None
    on = day_at(row.at)
    return uses_in(number, unfolded(row.document), row.title or row.number, row.initials, on, closed)


_SIBLINGS = """
SELECT t.id, t.number, t.in_service, t.cycles_per_year FROM tool t JOIN tool_standing s ON s.tool_id = t.id
WHERE t.model_id = (SELECT model_id FROM tool WHERE id = :tool) AND NOT s.retired AND NOT t.removed ORDER BY t.number
"""
MOST_SIBLINGS = 20
ABOUT_AS_OLD = 366
"""Days apart within which two tools are of the same age."""


def siblings(reader: Reader, tool_id: int) -> tuple[str, ...]:
    """Tools of the same model, age and use, as far as those are known: what befell one may have befallen them."""
    rows = reader.rows(_SIBLINGS, tool=tool_id)
    own = next((row for row in rows if row.id == tool_id), None)
    if own is None:
        return ()
    return tuple(row.number for row in rows if row.id != tool_id and _alike(own, row))[:MOST_SIBLINGS]


def _alike(one: Any, other: Any) -> bool:
    first, second = day_of(one.in_service), day_of(other.in_service)
    if first is not None and second is not None and abs((first - second).days) > ABOUT_AS_OLD:
        return False
    fewer, more = sorted((one.cycles_per_year or 0, other.cycles_per_year or 0))
    return fewer == 0 or more <= 2 * fewer


# Keeping one


@command
def begin(session: Session, tool_id: int, act: Act, run_id: int | None = None) -> int:
    """Keep a review of what a tool may have spoiled; returns its id, or that of the one that there is already: of the same
    run, or still open where no run is named. Raises ShopRefused where nothing is known of the tool, or it was never lent.
    Changes: reviews."""
    if (there := _there(session, tool_id, run_id)) is not None:
        return there
    tool = session.get_one(Tool, tool_id)
    basis = basis_of(session, tool_id, run_id, act.at.date())
    uses = uses_of(session, tool_id, basis.since, basis.until)
    if not uses:
        since = tr(" since {since}", since=day_words(basis.since)) if basis.since is not None else ""
        raise ShopRefused(
            tr(
                "{number} was not lent{since}, nor set for a job: there is nothing to review.",
                number=tool.number,
                since=since,
            )
        )
    lines = judge(basis, uses, tool.model.maximum)
    row = Review(
        tool_id=tool_id,
        at=act.at,
        person_id=act.person_id,
        run_id=run_id,
        document=review_document(basis, lines, siblings(reader_of(session), tool_id)),
    )
    session.add(row)
    session.flush()
    note(session, act, tr("began a review"), tool.number, lines=len(lines), run=run_id or "")
    changed(session, ChangeKind.REVIEWS, row.id, act.person_id)
    return row.id


def _there(session: Session, tool_id: int, run_id: int | None) -> int | None:
    found = select(Review.id).where(Review.tool_id == tool_id).order_by(Review.id.desc()).limit(1)
    if run_id is not None:
        return session.scalar(found.where(Review.run_id == run_id))
    return session.scalar(found.where(~select(ReviewClose.id).where(ReviewClose.review_id == Review.id).exists()))


@command
def begin_after(session: Session, tool_id: int, run_id: int, act: Act) -> int | None:
    """The same after a run that found a tool outside, in the unit of work that signs it; None where there is nothing to
    review. Raises ShopRefused. Changes: reviews."""
    try:
        return begin(session, tool_id, act, run_id)
    except ShopRefused:
        return None


@command
def settle(session: Session, review_id: int, line: int, words: str, act: Act) -> None:
    """Settle a line with a note. Raises ShopRefused without one, and for a review that is closed. Changes: reviews."""
    review = _open(session, review_id)
    words = " ".join(words.split())
    if not words:
        raise ShopRefused(tr("Say in a few words how it was settled, such as “torqued again on 3 March”."))
    lines = len(unfolded(review.document)["lines"])
    if not 0 <= line < lines:
        raise ShopRefused(tr("This review has {lines} lines; there is no line {line}.", lines=lines, line=line + 1))
    session.add(ReviewMark(review_id=review_id, line=line, at=act.at, person_id=act.person_id, note=words))
    note(
        session,
        act,
        tr("settled a line of a review"),
        session.get_one(Tool, review.tool_id).number,
        line=line + 1,
        note=words,
    )
    changed(session, ChangeKind.REVIEWS, review_id, act.person_id)


@command
def close(session: Session, review_id: int, words: str, act: Act) -> None:
    """Close a review. Raises ShopRefused while a line is not settled, and for one that is closed. Changes: reviews."""
    review = _open(session, review_id)
    lines = len(unfolded(review.document)["lines"])
    settled = set(session.scalars(select(ReviewMark.line).where(ReviewMark.review_id == review_id)))
    if missing := [i + 1 for i in range(lines) if i not in settled]:
        told = ", ".join(str(i) for i in missing[:8]) + ("…" if len(missing) > 8 else "")
        raise ShopRefused(
            tr("It cannot be closed yet: {count} lines are not settled ({told}).", count=len(missing), told=told)
        )
    session.add(ReviewClose(review_id=review_id, at=act.at, person_id=act.person_id, note=" ".join(words.split())))
    note(session, act, tr("closed a review"), session.get_one(Tool, review.tool_id).number)
    changed(session, ChangeKind.REVIEWS, review_id, act.person_id)


def _open(session: Session, review_id: int) -> Review:
    review = session.get_one(Review, review_id)
    if session.scalar(select(ReviewClose.id).where(ReviewClose.review_id == review_id)) is not None:
        raise ShopRefused(tr("This review is closed; begin another one where more has come to light."))
    return review
