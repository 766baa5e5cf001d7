"""Tools as cards (for lists) and sheets (one tool's whole story), and finding one by what was typed or scanned."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from sqlalchemy import Select, func, select
from sqlalchemy.orm import Session, selectinload

from reckoner.core.due import Due, DueReason, due_date
from reckoner.core.printing import span
from reckoner.core.states import State
from reckoner.shop.facts import ToolFacts, tool_facts
from reckoner.shop.run import RunKind
from reckoner.store.database import Database
from reckoner.store.schema import Abandonment, Person, PointResult, Run, Signature, Tool, ToolEvent

HOLDS = ("held", "released")
LOANS = ("lent", "returned")


@dataclass(frozen=True)
class Loan:
    """Who or what place has the tool, since when, and when it is expected back."""

    to: str
    since: date
    due_back: date | None


@dataclass(frozen=True)
class ToolCard:
    """A tool as every list shows it. ``held`` is the reason, empty when it may be used."""

    tool: ToolFacts
    state: State | None
    due: Due
    held: str
    loan: Loan | None
    last_run: date | None
    restricted: tuple[float, float] | None = None
    retired: bool = False

    @property
    def range_words(self) -> str:
        """Its range, or the part to which it is restricted: "only 120–200 N·m"."""
        if self.restricted is None:
            return self.tool.range_text
        return f"only {span(*self.restricted, self.tool.unit)}"

    def days_left(self, today: date) -> int:
        return self.due.days_left(today)

    def due_words(self, today: date) -> str:
        """Such as "12 d", "overdue 6 d", "new"; "retired" and "held" win."""
        if self.retired:
            return "retired"
        if self.held:
            return "held"
        if self.due.reason is DueReason.NEVER_TESTED:
            return "new"
        left = self.days_left(today)
        return f"overdue {-left} d" if left < 0 else "today" if left == 0 else f"{left} d"


@dataclass(frozen=True)
class PointHistory:
    """One point of one signed run; fractions."""

    target: float
    direction: str
    deviation: float
    worst: float
    expanded_uncertainty: float
    reference_error: float
    state: State
    as_left: bool = False


@dataclass(frozen=True)
class RunHistory:
    """One signed run."""

    run_id: int
    on: date
    kind: str
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

    on: date
    what: str
    detail: str
    state: State | None
    order: tuple[date, int]
    run_id: int | None = None


@dataclass(frozen=True)
class ToolSheet:
    """One tool: its card, its judged runs (oldest first) and everything that happened to it, newest first."""

    card: ToolCard
    runs: tuple[RunHistory, ...]
    happenings: tuple[Happening, ...]
    open_run: int | None


EVENT_WORDS = {
    "held": "Held",
    "released": "Released",
    "fell": "Fell",
    "overloaded": "Overloaded",
    "lock loose": "Lock found loose",
    "repaired": "Repaired",
    "adjusted": "Adjusted",
    "lent": "Lent",
    "returned": "Came back",
    "noted": "Noted",
    "restricted": "Restricted",
    "unrestricted": "No longer restricted",
    "retired": "Retired",
    "seal broken": "Seal broken",
    "used to loosen": "Used to loosen",
    "stored wound up": "Stored wound up",
}
"""Words for a tool's events. To add a kind of event: a row here."""


def cards(session: Session, today: date) -> tuple[ToolCard, ...]:
    """Every tool, by number."""
    tools = session.scalars(select(Tool).options(selectinload(Tool.model)).order_by(Tool.number)).all()
    return _cards_of(session, tools, today)


def card(session: Session, tool_id: int, today: date) -> ToolCard:
    """One tool's card."""
    return _cards_of(session, [session.get_one(Tool, tool_id)], today)[0]


def _cards_of(session: Session, tools: Sequence[Tool], today: date) -> tuple[ToolCard, ...]:
    ids = [t.id for t in tools]
    last = _newest_signatures(session, ids, full_only=False)
    last_accepted = _newest_signatures(session, ids, full_only=True)
    holds = _newest_events(session, ids, HOLDS)
    loans = _newest_events(session, ids, LOANS)
    parts = _newest_events(session, ids, ("restricted", "unrestricted"))
    retired = _newest_events(session, ids, ("retired",))
    made = []
    for tool in tools:
        newest, accepted = last.get(tool.id), last_accepted.get(tool.id)
        hold, loan, part = holds.get(tool.id), loans.get(tool.id), parts.get(tool.id)
        made.append(
            ToolCard(
                tool=tool_facts(tool),
                state=State(newest.state) if newest else None,
                due=_due(accepted, today),
                held=(hold.note or "held") if hold and hold.kind == "held" else "",
                loan=Loan(loan.note, loan.at.date(), loan.due_back) if loan and loan.kind == "lent" else None,
                last_run=newest.at.date() if newest else None,
                restricted=(part.low, part.high) if part and part.low is not None and part.high is not None else None,
                retired=tool.id in retired,
            )
        )
    return tuple(made)


def _due(accepted: Signature | None, today: date) -> Due:
    if accepted is None or accepted.due is None:
        return due_date(None, today=today, months=12)
    return Due(accepted.due, DueReason(accepted.due_reason) if accepted.due_reason else DueReason.CALENDAR)


def _newest_signatures(session: Session, tool_ids: list[int], *, full_only: bool) -> dict[int, Signature]:
    """Each tool's newest signature; with ``full_only`` the newest that set a due date."""
    newest = select(Run.tool_id, func.max(Signature.id).label("id")).join(Signature, Signature.run_id == Run.id)
    judged = Run.kind != RunKind.CHARACTERISE.value
    newest = newest.where(Run.tool_id.in_(tool_ids), judged).group_by(Run.tool_id)
    if full_only:
        newest = newest.where(Signature.due.is_not(None))
    picked = newest.subquery()
    rows = session.execute(select(picked.c.tool_id, Signature).join(Signature, Signature.id == picked.c.id))
    return dict(rows.all())


def _newest_events(session: Session, tool_ids: list[int], kinds: tuple[str, ...]) -> dict[int, ToolEvent]:
    newest = (
        select(func.max(ToolEvent.id))
        .where(ToolEvent.tool_id.in_(tool_ids), ToolEvent.kind.in_(kinds))
        .group_by(ToolEvent.tool_id)
    )
    return {e.tool_id: e for e in session.scalars(select(ToolEvent).where(ToolEvent.id.in_(newest)))}


def is_empty(database: Database) -> bool:
    """Whether nothing was ever written into the register."""
    with database.session() as session:
        return session.scalar(select(Person.id).limit(1)) is None


def open_runs(session: Session) -> dict[int, int]:
    """Tool id → the id of its run that is neither signed nor given up."""
    rows = session.execute(
        select(Run.tool_id, Run.id)
        .outerjoin(Signature, Signature.run_id == Run.id)
        .outerjoin(Abandonment, Abandonment.run_id == Run.id)
        .where(Signature.id.is_(None), Abandonment.id.is_(None))
        .order_by(Run.id)
    )
    return dict(rows.all())


def sheet(session: Session, tool_id: int, today: date) -> ToolSheet:
    """One tool's sheet."""
    tool = session.get_one(Tool, tool_id)
    facts = tool_facts(tool)
    signed = session.scalars(
        select(Signature)
        .join(Run)
        .where(Run.tool_id == tool_id, Run.id.not_in(_replaced()))
        .options(
            selectinload(Signature.results).selectinload(PointResult.series),
            selectinload(Signature.run),
            selectinload(Signature.person),
        )
        .order_by(Signature.at)
    ).all()
    runs = tuple(_run_history(s) for s in signed)
    happenings = [
        Happening(
            r.on,
            RunKind(r.kind).words,
            r.sentence,
            r.state if r.points else None,
            (r.on, 2 * i + 1),
            r.run_id,
        )
        for i, r in enumerate(runs)
    ]
    happenings += [
        Happening(e.at.date(), EVENT_WORDS.get(e.kind, e.kind.capitalize()), e.note, None, (e.at.date(), 2 * i))
        for i, e in enumerate(tool.events)
    ]
    happenings.sort(key=lambda h: h.order, reverse=True)
    judged = tuple(r for r in runs if r.points)
    return ToolSheet(_cards_of(session, [tool], today)[0], judged, tuple(happenings), open_runs(session).get(facts.id))


def _replaced() -> Select[int | None]:
    """The runs that a signed amendment has replaced."""
    return select(Run.amends_id).join(Signature, Signature.run_id == Run.id).where(Run.amends_id.is_not(None))


def _run_history(signature: Signature) -> RunHistory:
    return RunHistory(
        run_id=signature.run_id,
        on=signature.at.date(),
        kind=signature.run.kind,
        state=State(signature.state),
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
                State(p.state),
                p.series.phase.startswith("as left"),
            )
            for p in signature.results
        ),
    )


def matching(all_cards: tuple[ToolCard, ...], text: str) -> tuple[ToolCard, ...]:
    """The cards that ``text`` means: an exact number or serial first, then every word found somewhere on the card."""
    wanted = _plain(text)
    if not wanted:
        return all_cards
    exact = [c for c in all_cards if wanted in (_plain(c.tool.number), _plain(c.tool.serial))]
    if exact:
        return tuple(exact)
    words = text.casefold().split()
    return tuple(c for c in all_cards if all(w in _haystack(c) or _plain(w) in _plain(c.tool.number) for w in words))


def _plain(text: str) -> str:
    return re.sub(r"[\s\-_.]", "", text).casefold()


def _haystack(found: ToolCard) -> str:
    tool = found.tool
    return " ".join(
        (
            tool.number, tool.serial, tool.maker, tool.model, tool.description, tool.range_text, tool.place,
            "held" if found.held else "", "lent" if found.loan else "",
        )
    ).casefold()  # fmt: skip
