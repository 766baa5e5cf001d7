"""Each tool's standing, kept beside its records.

``update_projection``   a tool's projection brought up to date, in the unit of work that changed it
``rebuild``  every projection anew from the records
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from datetime import date

from sqlalchemy import delete, select
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session, selectinload

from reckoner.core.decision.states import State
from reckoner.core.history.due import Due, DueReason
from reckoner.core.translation import tr
from reckoner.shop.changes import ChangeKind, changed
from reckoner.shop.events.standing import Loan, Result, Standing, StandingEvent, standing_of
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.register import listing
from reckoner.shop.runs.kinds import POLICIES
from reckoner.store.schema import HistoryPlace, OpenLoan, OutsideResult, Run, Signature, Tool, ToolEvent, ToolStanding


def update_projection(session: Session, tool_id: int, who: int | None) -> None:
    """Bring a tool's projection up to date with its records, in the same unit of work; within ``together`` at its end."""
    if not listing.put_off(session, tool_id, who):
        _update(session, {tool_id: who})


@contextmanager
def together(session: Session) -> Iterator[None]:
    """Bring the projections of all tools that are changed within it up to date once, at its end: many by few statements. One
    within another ends with that."""
    if listing.PUT_OFF in session.info:
        yield
        return
    noted: dict[int, int | None] = {}
    session.info[listing.PUT_OFF] = noted
    try:
        yield
    finally:
        del session.info[listing.PUT_OFF]
    _update(session, noted)


def _update(session: Session, changed_by: Mapping[int, int | None]) -> None:
    session.flush()
    for ids in listing.in_parts(list(changed_by)):
        records, lent = records_of(session, ids), lent_of(session, ids)
        stood = {row.tool_id: row for row in session.scalars(select(ToolStanding).where(ToolStanding.tool_id.in_(ids)))}
        listed = listing.rows_of(session, ids)
        for tool in session.scalars(select(Tool).where(Tool.id.in_(ids)).options(selectinload(Tool.model))):
            now = standing_of(records[tool.id])
            row = stood.get(tool.id)
            if row is None:
                row = ToolStanding(tool_id=tool.id)
                session.add(row)
            _write(row, now)
            if (tool.id in lent) != (now.loan is not None):
                _keep_loan(session, tool.id, lent=now.loan is not None)
            listing.keep_as(session, tool, listed.get(tool.id), now)
        session.flush()
    for tool_id, who in changed_by.items():
        changed(session, ChangeKind.STANDINGS, tool_id, who)


def open_loan_of(session: Session, tool_id: int) -> OpenLoan | None:
    """That a tool is lent; None where it is not."""
    return session.scalar(select(OpenLoan).where(OpenLoan.tool_id == tool_id))


def _keep_loan(session: Session, tool_id: int, *, lent: bool) -> None:
    """Hold to one open loan a tool. Raises ShopRefused where somebody else lent it at this very moment."""
    row = open_loan_of(session, tool_id)
    if row is not None and not lent:
        session.delete(row)
    elif row is None and lent:
        session.add(OpenLoan(tool_id=tool_id))
        try:
            session.flush()
        except IntegrityError:
            raise ShopRefused(
                tr("It was lent at this very moment by someone else. Nothing was kept; look again.")
            ) from None


def worked_out(session: Session, tool_id: int) -> Standing:
    """A tool's standing from its records; the projection is not looked at."""
    return standing_of(records_of(session, (tool_id,))[tool_id])


def rebuild(session: Session) -> int:
    """Every projection anew from the records; returns how many differed from what was kept."""
    differed = 0
    for tools in listing.in_parts(session.scalars(select(Tool.id).order_by(Tool.id)).all()):
        lent = lent_of(session, tools)
        records, stood, places = (
            records_of(session, tools),
            listing.standings_kept(session, tools),
            places_of(session, tools),
        )
        for tool_id in tools:
            taken = {one.sequence for one in records[tool_id]}
            if taken != places[tool_id]:
                session.execute(delete(HistoryPlace).where(HistoryPlace.tool_id == tool_id))
                session.add_all(HistoryPlace(tool_id=tool_id, sequence=place) for place in taken)
            now = standing_of(records[tool_id])
            if now != stood.get(tool_id) or (tool_id in lent) != (now.loan is not None):
                update_projection(session, tool_id, None)
            elif taken == places[tool_id]:
                continue
            differed += 1
        session.flush()
    return differed


def lent_of(session: Session, tools: Sequence[int]) -> set[int]:
    """Those of some tools that are marked as lent."""
    return set(session.scalars(select(OpenLoan.tool_id).where(OpenLoan.tool_id.in_(tools))))


def places_of(session: Session, tools: Sequence[int]) -> dict[int, set[int]]:
    """The places in the history of each of some tools that are marked as taken."""
    found: dict[int, set[int]] = {tool_id: set() for tool_id in tools}
    rows = select(HistoryPlace.tool_id, HistoryPlace.sequence).where(HistoryPlace.tool_id.in_(tools))
    for tool_id, place in session.execute(rows):
        found[tool_id].add(place)
    return found


def _write(row: ToolStanding, now: Standing) -> None:
    row.state, row.last_run = now.state, now.last_run
    row.due_on, row.due_reason = (now.due.on, now.due.reason) if now.due else (None, None)
    row.held, row.kept, row.retired = now.held, now.kept, now.retired
    row.cycles, row.interval_ends, row.corrected_until = now.cycles, now.interval_ends, now.corrected_until
    row.check_event_id = now.check_event_id
    row.restricted_low, row.restricted_high = now.restricted or (None, None)
    row.lent_to, row.lent_on, row.back_by = _loan(now.loan)
    row.away_at, row.away_since, row.away_until = _loan(now.away)


def _loan(loan: Loan | None) -> tuple[str, date | None, date | None]:
    return (loan.to, loan.since, loan.due_back) if loan else ("", None, None)


def records_of(session: Session, tools: Sequence[int]) -> dict[int, list[StandingEvent | Result]]:
    """What happened to each of some tools, as their standing sees it; in no order."""
    found: dict[int, list[StandingEvent | Result]] = {tool_id: [] for tool_id in tools}
    for e in session.execute(select(*_EVENT).where(ToolEvent.tool_id.in_(tools))):
        part = (e.low, e.high) if e.low is not None and e.high is not None else None
        found[e.tool_id].append(
            StandingEvent(e.sequence, e.kind, e.note, e.at.date(), e.id, e.due_back, part, e.cycles or 0)
        )
    signed = select(*_SIGNED).join(Run, Run.id == Signature.run_id).where(Run.tool_id.in_(tools))
    for s in session.execute(signed):
        due = Due(s.due, s.due_reason or DueReason.CALENDAR) if s.due is not None else None
        judges = POLICIES[s.kind].judges
        found[s.tool_id].append(Result(s.sequence, s.at.date(), judges, s.state, s.outcome, s.accepted, due))
    for r in session.execute(select(*_OUTSIDE).where(OutsideResult.tool_id.in_(tools))):
        due = Due(r.due, DueReason.CALENDAR) if r.due is not None else None
        accepted = r.state in (State.INSIDE, State.INSIDE_NEAR)
        found[r.tool_id].append(Result(r.sequence, r.issued, True, r.state, None, accepted, due))
    return found


_EVENT = (
    ToolEvent.tool_id, ToolEvent.sequence, ToolEvent.kind, ToolEvent.note, ToolEvent.at, ToolEvent.id, ToolEvent.due_back,
    ToolEvent.low, ToolEvent.high, ToolEvent.cycles,
)  # fmt: skip
_SIGNED = (
    Run.tool_id, Run.kind, Signature.sequence, Signature.at, Signature.state, Signature.outcome, Signature.accepted,
    Signature.due, Signature.due_reason,
)  # fmt: skip
_OUTSIDE = (OutsideResult.tool_id, OutsideResult.sequence, OutsideResult.issued, OutsideResult.state, OutsideResult.due)
