"""One tool's sheet: its card, its judged runs, and everything that happened to it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from sqlalchemy import Select, select
from sqlalchemy.orm import Session, selectinload

from reckoner.core.kinds import Direction
from reckoner.core.states import State
from reckoner.shop.events import EVENTS
from reckoner.shop.register.cards import ToolCard, card
from reckoner.shop.runs.kinds import POLICIES
from reckoner.store.reader import reader_of
from reckoner.store.schema import PointResult, Run, Signature, ToolEvent
from reckoner.store.terms import PhaseKind, RunKind


@dataclass(frozen=True)
class PointHistory:
    """One point of one signed run; fractions."""

    target: float
    direction: Direction
    deviation: float
    worst: float
    expanded_uncertainty: float
    reference_error: float
    near_zone: float
    state: State
    as_left: bool = False


@dataclass(frozen=True)
class RunHistory:
    """One signed run."""

    run_id: int
    sequence: int
    on: date
    kind: RunKind
    state: State
    accepted: bool | None
    sentence: str
    by: str
    limit: float
    due: date | None
    points: tuple[PointHistory, ...]


@dataclass(frozen=True)
class Happening:
    """One line of "What happened to it"; ``run_id`` where a run can be opened."""

    sequence: int
    on: date
    what: str
    detail: str
    state: State | None = None
    run_id: int | None = None


@dataclass(frozen=True)
class ToolSheet:
    """One tool: its card, its judged runs (oldest first) and everything that happened to it, newest first."""

    card: ToolCard
    runs: tuple[RunHistory, ...]
    happenings: tuple[Happening, ...]


def sheet(session: Session, tool_id: int) -> ToolSheet:
    """One tool's sheet."""
    signed = session.scalars(
        select(Signature)
        .join(Run)
        .where(Run.tool_id == tool_id, Run.id.not_in(_replaced(tool_id)))
        .options(
            selectinload(Signature.results).selectinload(PointResult.series),
            selectinload(Signature.run),
            selectinload(Signature.person),
        )
        .order_by(Signature.sequence)
    ).all()
    runs = tuple(_run_history(s) for s in signed)
    events = session.scalars(select(ToolEvent).where(ToolEvent.tool_id == tool_id))
    happenings = [
        Happening(r.sequence, r.on, POLICIES[r.kind].words, r.sentence, r.state if r.points else None, r.run_id)
        for r in runs
    ]
    happenings += [Happening(e.sequence, e.at.date(), EVENTS[e.kind].words, e.note) for e in events]
    happenings.sort(key=lambda h: h.sequence, reverse=True)
    judged = tuple(r for r in runs if r.points)
    return ToolSheet(card(reader_of(session), tool_id), judged, tuple(happenings))


def _replaced(tool_id: int) -> Select[int | None]:
    """The runs of a tool that a signed amendment has replaced."""
    return (
        select(Run.amends_id)
        .join(Signature, Signature.run_id == Run.id)
        .where(Run.tool_id == tool_id, Run.amends_id.is_not(None))
    )


def _run_history(signature: Signature) -> RunHistory:
    return RunHistory(
        run_id=signature.run_id,
        sequence=signature.sequence,
        on=signature.at.date(),
        kind=signature.run.kind,
        state=signature.state,
        accepted=signature.accepted,
        sentence=signature.sentence,
        by=signature.person.initials,
        limit=signature.limit,
        due=signature.due,
        points=tuple(
            PointHistory(
                p.target,
                p.direction,
                p.deviation,
                p.worst,
                p.expanded_uncertainty,
                p.reference_error,
                p.near_zone,
                p.state,
                p.series.phase is PhaseKind.LEFT,
            )
            for p in signature.results
        ),
    )
