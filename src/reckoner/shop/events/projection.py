"""Each tool's standing, kept beside its records.

``update_projection``   a tool's projection brought up to date, in the unit of work that changed it
``rebuild``  every projection anew from the records
"""

from __future__ import annotations

from datetime import date, datetime

from sqlalchemy import delete, select
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from reckoner.core.decision.states import State
from reckoner.core.history.due import Due, DueReason
from reckoner.core.translation import tr
from reckoner.shop.changes import ChangeKind, changed
from reckoner.shop.events.standing import Loan, Result, Standing, StandingEvent, kept, standing_of
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.register import listing
from reckoner.shop.runs.kinds import POLICIES
from reckoner.store.schema import HistoryPlace, OpenLoan, OutsideResult, Run, Signature, Tool, ToolEvent, ToolStanding


def update_projection(session: Session, tool_id: int, who: int | None) -> Standing:
    """Bring a tool's projection up to date with its records, in the same unit of work."""
    session.flush()
    found = worked_out(session, tool_id)
    row = session.scalar(select(ToolStanding).where(ToolStanding.tool_id == tool_id))
    if row is None:
        row = ToolStanding(tool_id=tool_id)
        session.add(row)
    _write(row, found)
    _keep_loan(session, tool_id, lent=found.loan is not None)
    session.flush()
    listing.keep(session, session.get_one(Tool, tool_id))
    session.flush()
    changed(session, ChangeKind.STANDINGS, tool_id, who)
    return found


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
    return standing_of(_records(session, tool_id))


def rebuild(session: Session) -> int:
    """Every projection anew from the records; returns how many differed from what was kept."""
    differed = 0
    for tool_id in session.scalars(select(Tool.id).order_by(Tool.id)).all():
        row = session.scalar(select(ToolStanding).where(ToolStanding.tool_id == tool_id))
        before = kept(row) if row is not None else None
        places = _keep_places(session, tool_id)
        differed += (update_projection(session, tool_id, None) != before) | places
    return differed


def _keep_places(session: Session, tool_id: int) -> bool:
    """The places of a tool's history as its records take them; whether they stood otherwise."""
    taken = places_taken(session, tool_id)
    if taken == places_kept(session, tool_id):
        return False
    session.execute(delete(HistoryPlace).where(HistoryPlace.tool_id == tool_id))
    session.add_all(HistoryPlace(tool_id=tool_id, sequence=place) for place in taken)
    return True


def places_taken(session: Session, tool_id: int) -> set[int]:
    """The places in a tool's history that its records take."""
    return {one.sequence for one in _records(session, tool_id)}


def places_kept(session: Session, tool_id: int) -> set[int]:
    """Those that are marked as taken."""
    return set(session.scalars(select(HistoryPlace.sequence).where(HistoryPlace.tool_id == tool_id)))


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


def _records(session: Session, tool_id: int) -> list[StandingEvent | Result]:
    events = session.scalars(select(ToolEvent).where(ToolEvent.tool_id == tool_id))
    signed = session.execute(
        select(Signature, Run.kind).join(Run, Run.id == Signature.run_id).where(Run.tool_id == tool_id)
    )
    found: list[StandingEvent | Result] = [
        StandingEvent(e.sequence, e.kind, e.note, _day(e.at), e.id, e.due_back, _part(e), e.cycles or 0) for e in events
    ]
    found += [
        Result(
            s.sequence,
            _day(s.at),
            POLICIES[kind].judges,
            s.state,
            s.outcome,
            s.accepted,
            Due(s.due, s.due_reason or DueReason.CALENDAR) if s.due is not None else None,
        )
        for s, kind in signed
    ]
    found += [
        Result(
            r.sequence,
            r.issued,
            True,
            r.state,
            None,
            r.state in (State.INSIDE, State.INSIDE_NEAR),
            Due(r.due, DueReason.CALENDAR) if r.due is not None else None,
        )
        for r in session.scalars(select(OutsideResult).where(OutsideResult.tool_id == tool_id))
    ]
    return found


def _part(event: ToolEvent) -> tuple[float, float] | None:
    return (event.low, event.high) if event.low is not None and event.high is not None else None


def _day(at: datetime) -> date:
    return at.date()
