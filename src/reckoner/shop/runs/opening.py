"""A run begins, is found again, and is given up."""

from __future__ import annotations

from sqlalchemy import delete, select
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from reckoner.core.translation import tr
from reckoner.shop.changes import ChangeKind, changed
from reckoner.shop.events.recording import record_event
from reckoner.shop.events.standing import kept
from reckoner.shop.facts.judged import RunFacts, with_head
from reckoner.shop.facts.tool import ToolFacts, tool_facts
from reckoner.shop.intervals import basis
from reckoner.shop.people.authorship import Act, ShopRefused, note
from reckoner.shop.people.rights import command, require
from reckoner.shop.runs.document import rules_from
from reckoner.shop.runs.loading import keep_facts, load, measured_effects, rule_set_text
from reckoner.shop.runs.planning import PlannedSeries, RunPlan, check, planned_series, propose, settled_points, warnings
from reckoner.shop.runs.rows import stamp_of
from reckoner.shop.runs.sides import written
from reckoner.shop.runs.state import RunState
from reckoner.store.reader import reader_of
from reckoner.store.schema import Abandonment, OpenRun, Run, RunSides, Series, Tool, ToolStanding
from reckoner.store.terms import EventKind, Right, RunKind


def open_run_of(session: Session, tool_id: int) -> int | None:
    """The run a tool is in; None when it is in none."""
    return session.scalar(select(OpenRun.run_id).where(OpenRun.tool_id == tool_id))


def enter(session: Session, run: Run, number: str) -> None:
    """Mark the tool as being in ``run``. Raises ShopRefused when it is in another by now."""
    session.add(run)
    session.flush()
    session.add(OpenRun(tool_id=run.tool_id, run_id=run.id))
    try:
        session.flush()
    except IntegrityError:
        raise ShopRefused(
            tr(
                "{number} was put on a bench at this very moment by someone else. Nothing was begun; look "
                "again and go on with that run.",
                number=number,
            )
        ) from None


def leave(session: Session, run_id: int) -> None:
    """The run is over: its tool is in none."""
    session.execute(delete(OpenRun).where(OpenRun.run_id == run_id))


@command
def open_run(session: Session, tool_id: int, act: Act, plan: RunPlan | None = None) -> RunState:
    """Put a tool on the bench, or go on with the run it is already in. Without a ``plan`` the proposal for a full run holds.

    Raises ShopRefused when the tool is retired or kept as evidence, its rule set cannot test it, or a changed plan lacks its
    reason. Changes: runs, standings.
    Right beside: allow."""
    begun = open_run_of(session, tool_id)
    if begun is not None:
        return load(session, begun)
    facts = tool_facts(session.get_one(Tool, tool_id))
    _refuse_barred(session, facts)
    on_second = plan is not None and plan.second_scale
    proposal = propose(session, tool_id, act.at.date(), None if plan else RunKind.FULL, second_scale=on_second)
    facts = proposal.tool
    if plan is not None and plan.head is not None:
        facts = with_head(facts, plan.head)
    plan = settled_points(session, plan or proposal.plan, facts, act)
    check(plan, facts)
    misleads = warnings(proposal, plan)
    if misleads and not plan.note.strip():
        raise ShopRefused(tr("{misleads} Give the reason, or keep what is proposed.", misleads=misleads[0]))
    if misleads:
        require(session, act, Right.ALLOW)
    text = rule_set_text(plan.rule_set, facts)
    rules = rules_from(text, plan.rule_set)
    run = Run(
        tool_id=tool_id,
        kind=plan.kind,
        rule_set=rules.name,
        opened_at=act.at,
        person_id=act.person_id,
        rule=plan.rule,
        mode=plan.mode,
        adapter=plan.adapter,
        plan_note=plan.note.strip(),
        event_id=plan.event_id,
    )
    if plan.sides is not None:
        run.sides = RunSides(document=written(plan.sides))
    run.series += [new_series(planned, position) for position, planned in enumerate(planned_series(plan))]
    enter(session, run, facts.number)
    ends = basis(reader_of(session), tool_id, facts.interval_months or rules.months)
    measured = measured_effects(session, facts)
    keep_facts(session, run.id, RunFacts(facts, rules, text, measured, interval=ends), act.at)
    changed(session, ChangeKind.STANDINGS, tool_id, act.person_id)
    note(
        session,
        act,
        tr("put on the bench"),
        facts.number,
        run=run.id,
        kind=run.kind,
        rule_set=rules.name,
        why=plan.note,
    )
    return reload(session, run.id, act)


def new_series(planned: PlannedSeries, position: int) -> Series:
    """The row of a planned series, the ``position``-th of its phase."""
    return Series(
        phase=planned.phase.kind,
        direction=planned.direction,
        position=position,
        target=planned.target,
        wanted=planned.wanted,
        effect=planned.effect,
        place=planned.place,
    )


def _refuse_barred(session: Session, facts: ToolFacts) -> None:
    row = session.scalar(select(ToolStanding).where(ToolStanding.tool_id == facts.id))
    now = kept(row) if row is not None else None
    if now is not None and now.retired:
        raise ShopRefused(tr("{number} is retired. It is not tested any more.", number=facts.number))
    if now is not None and now.kept:
        raise ShopRefused(
            tr(
                "{number} is kept as evidence ({kept}): nothing is done with it until it is free.",
                number=facts.number,
                kept=now.kept,
            )
        )


@command
def give_up(session: Session, run_id: int, reason: str, act: Act, *, hold: bool = False) -> RunState:
    """End a run without a result; its readings stay. ``hold`` the tool for the same reason. Raises ShopRefused without.
    Changes: runs, standings."""
    state = opened(session, run_id)
    if not reason.strip():
        raise ShopRefused(tr("Say why the run is given up."))
    session.add(Abandonment(run_id=run_id, at=act.at, person_id=act.person_id, reason=reason.strip()))
    leave(session, run_id)
    if hold:
        record_event(session, state.tool.id, EventKind.HELD, reason.strip(), act)
    changed(session, ChangeKind.STANDINGS, state.tool.id, act.person_id)
    note(session, act, tr("gave the run up"), state.tool.number, run=run_id, reason=reason.strip())
    return reload(session, run_id, act)


def opened(session: Session, run_id: int) -> RunState:
    """A run that can still be changed. Raises ShopRefused for one that is signed or given up."""
    state = load(session, run_id)
    if state.signed:
        raise ShopRefused(tr("This run is signed. What is signed is never changed."))
    if state.abandoned:
        raise ShopRefused(tr("This run was given up. Put the tool on the bench again."))
    return state


def is_current(session: Session, known: RunState, run_id: int) -> bool:
    """Whether the run as it is ``known`` still is what the database holds."""
    return known.id == run_id and known.stamp is not None and known.stamp == stamp_of(session, run_id)


def opened_as(session: Session, run_id: int, known: RunState | None) -> RunState:
    """The run as it is ``known`` where it still is so, as ``opened`` otherwise. Raises ShopRefused."""
    return known if known is not None and is_current(session, known, run_id) else opened(session, run_id)


def reload(session: Session, run_id: int, act: Act) -> RunState:
    """The run as its records now stand, read anew after a change by ``act``."""
    session.flush()
    session.expire_all()
    changed(session, ChangeKind.RUNS, run_id, act.person_id)
    return load(session, run_id)
