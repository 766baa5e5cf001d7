"""Adjusting on the bench: only with the right, only after a complete as-found series, every turn and reading kept."""

from __future__ import annotations

from dataclasses import replace

from sqlalchemy.orm import Session

from reckoner.core.adjusting.screw import RATE_VARIES, AdjustStep, Advice, advise, slope_uncertainty
from reckoner.core.errors import InputRefused
from reckoner.core.quantities.checks import finite
from reckoner.core.requirements.tooltypes import Direction
from reckoner.core.translation import tr
from reckoner.shop.facts.tool import AdjustmentFacts, tool_facts
from reckoner.shop.people.authorship import Act, ShopRefused, note
from reckoner.shop.people.present import PersonFacts
from reckoner.shop.people.rights import command, rights_of
from reckoner.shop.register import editing
from reckoner.shop.register.editing import Command
from reckoner.shop.register.fields import FIELDS
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.loading import keep_facts
from reckoner.shop.runs.opening import opened, reload
from reckoner.shop.runs.records import AdjustingState, SeriesState, Step
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.steps import wants
from reckoner.store.schema import Adjustment, Person, Series, Tool
from reckoner.store.terms import PhaseKind, RegisterKind, Right

LEAST_OF_SCALE = 0.2
"""Of the full scale: below it a tool is not adjusted."""

BEFORE_A_TURN = 3
"""Readings before the first turn."""

ANSWER_FIRST = tr("First answer what is asked about a reading: nothing is concluded from its series until then.")

MOST_TURNS = 2.0
"""A turn larger than this at once is a slip of the hand."""


def why_not(state: RunState, person: PersonFacts) -> str:
    """Why ``person`` may not adjust the run's tool now; empty when they may."""
    if not state.policy.adjusts:
        return tr("Only a full run can be adjusted, so that as found and as left are both covered.")
    if Right.ADJUST not in person.rights:
        return tr(
            "{initials} does not have the right to adjust. Hold the tool and send it to someone who has, "
            "or to a laboratory.",
            initials=person.initials,
        )
    if state.tool.adjustment is None:
        return tr(
            "How this model is adjusted is not in the register: say where its screw is, by its maker's instructions, or hold "
            "the tool and send it to a laboratory."
        )
    if comfortable(state):
        return tr("It is comfortably inside at every point, with more than half of its limit to spare: leave it alone.")
    if state.asked:
        return ANSWER_FIRST
    complete = not wants(state, Step.AS_FOUND) and not wants(state, Step.AS_LEFT)
    if judged(state).found is None or not complete:
        return tr("The as-found series comes first, complete, with its zero after.")
    return ""


def comfortable(state: RunState) -> bool:
    """Whether |ā| + W lies below half the limit at each point: then it is left alone."""
    found = judged(state).verdict
    return (
        found is not None
        and found.accepted is True
        and all(abs(p.budget.deviation) + p.budget.expanded_uncertainty < p.decision.limit / 2 for p in found.points)
    )


def advice(state: RunState) -> tuple[Advice | None, str]:
    """What to turn next, from the readings of the adjustment under way; or why nothing can be advised."""
    adjusting, facts = state.adjusting, state.tool.adjustment
    if adjusting is None:
        return None, tr("No adjustment is under way.")
    if state.asked:
        return None, ANSWER_FIRST
    if not adjusting.steps[-1].pairs:
        return None, tr("Read after the turn first.")
    read, turned = [], 0.0
    for step in adjusting.steps:
        turned += step.turn or 0.0
        if step.pairs:
            read.append(AdjustStep(turned, step.readings))
            turned = 0.0
    prior = facts.prior_rate if facts else None
    try:
        return advise(
            adjusting.target,
            read,
            prior,
            facts.most_turns if facts else None,
            rate_uncertainty=RATE_VARIES * abs(prior) if prior else slope_uncertainty(read),
        ), ""
    except InputRefused as refusal:
        if refusal.field == "prior_rate":
            return None, _first_turn(facts, adjusting)
        return None, f"{refusal.reason[0].upper()}{refusal.reason[1:]}."


def _first_turn(facts: AdjustmentFacts | None, adjusting: AdjustingState) -> str:
    """How to begin where it is not known what a turn changes."""
    read = adjusting.steps[-1].readings
    if facts is None or facts.raises is None:
        return tr(
            "Neither which way raises it nor how much a turn changes is in the register: turn an eighth "
            "either way, then read it several times. That shows both."
        )
    low = sum(read) / len(read) < adjusting.target
    way = facts.raises if low else facts.raises.other
    return tr(
        "How much a turn changes is not known for this model: turn an eighth {words}, which should "
        "{which} it, then read.",
        words=way.words,
        which=tr("raise") if low else tr("lower"),
    )


@command
def begin(session: Session, run_id: int, series_id: int, act: Act) -> RunState:
    """Begin to adjust at the target of one of the series that count now. Raises ShopRefused without the right, or before
    the series are complete. Changes: runs.
    Right beside: adjust."""
    state = opened(session, run_id)
    if state.adjusting is not None:
        raise ShopRefused(tr("An adjustment is under way already."))
    row = session.get_one(Person, act.person_id)
    refusal = why_not(state, PersonFacts(row.id, row.initials, row.name, rights_of(row)))
    if refusal:
        raise ShopRefused(refusal)
    at = next((s for s in state.series if s.id == series_id), None)
    if at is None:
        raise ShopRefused(tr("Choose one of the run's own points to adjust at."))
    if at.target < LEAST_OF_SCALE * state.tool.kind.maximum * (1 - 1e-9):
        raise ShopRefused(tr("Nothing is adjusted at a point below a fifth of its full scale; choose one further up."))
    if len(at.pairs) < BEFORE_A_TURN:
        raise ShopRefused(
            tr(
                "One pull is not chased: read it at least {before_a_turn} times before a turn.",
                before_a_turn=BEFORE_A_TURN,
            )
        )
    _mark(session, run_id, at.target, at.direction, act, begun=True)
    note(session, act, tr("began to adjust"), state.tool.number, target=at.target, direction=at.direction)
    return reload(session, run_id, act)


@command
def tell_where(session: Session, run_id: int, where: str, act: Act) -> Command | None:
    """Keep with the model ``where`` its screw is, by the maker's instructions, and let this run know it too; None where
    somebody else said it meanwhile. Raises ShopRefused, FieldRefused. Changes: runs, standings, the register.
    Right beside: edit."""
    state = opened(session, run_id)
    model = session.get_one(Tool, state.tool.id).model
    command = None
    if not model.adjust_where:
        field = next(field for field in FIELDS[RegisterKind.MODEL] if field.name == "adjust_where")
        command = editing.change(session, RegisterKind.MODEL, model.id, field, " ".join(where.split()), act)
    tool = replace(state.tool, adjustment=tool_facts(session.get_one(Tool, state.tool.id)).adjustment)
    keep_facts(session, run_id, replace(state.facts, tool=tool), act.at)
    return command


@command
def turn(session: Session, run_id: int, turns: float, act: Act) -> RunState:
    """Log a signed turn of the screw, clockwise positive; readings follow. Raises ShopRefused for no turn, for more than
    two at once, or while the last turn has not been read. Changes: runs."""
    state = opened(session, run_id)
    adjusting = state.adjusting
    if adjusting is None:
        raise ShopRefused(tr("Begin the adjustment first."))
    if state.asked:
        raise ShopRefused(ANSWER_FIRST)
    if not adjusting.steps[-1].pairs and not state.procedure.beyond(state):
        raise ShopRefused(tr("Read at least once after the last turn before turning on."))
    try:
        value = finite("turn", turns)
    except InputRefused as refusal:
        raise ShopRefused(tr("The turn {reason}.", reason=refusal.reason)) from None
    if value == 0 or abs(value) > MOST_TURNS:
        raise ShopRefused(
            tr(
                "A turn is signed and at most {most_turns:g} at once; small turns, each read, are safer.",
                most_turns=MOST_TURNS,
            )
        )
    most = state.tool.adjustment.most_turns if state.tool.adjustment else None
    made = sum(abs(s.turn or 0.0) for s in adjusting.steps) + abs(value)
    if most is not None and made > most * (1 + 1e-9):
        raise ShopRefused(
            tr(
                "That would be {made:g} turns in all; the maker allows {most:g}. Stop here, hold the tool and "
                "send it away.",
                made=made,
                most=most,
            )
        )
    session.add(
        Series(
            run_id=run_id,
            phase=PhaseKind.ADJUST,
            round=adjusting.number,
            direction=adjusting.direction,
            position=len(adjusting.steps) - 1,
            target=adjusting.target,
            wanted=state.procedure.after_a_turn,
            turn=value,
        )
    )
    note(session, act, tr("turned the screw"), state.tool.number, turn=value)
    return reload(session, run_id, act)


@command
def finish(session: Session, run_id: int, locked: bool, act: Act) -> RunState:
    """End the adjustment: the screw is locked and the tool exercised once; a whole as-left series follows.

    Raises ShopRefused before a turn was made and read, or while the lock is not confirmed. Changes: runs."""
    state = opened(session, run_id)
    adjusting = state.adjusting
    if adjusting is None:
        raise ShopRefused(tr("No adjustment is under way."))
    if len(adjusting.steps) < 2 or not adjusting.steps[-1].pairs:
        raise ShopRefused(tr("Turn and read at least once before ending the adjustment."))
    if state.asked:
        raise ShopRefused(ANSWER_FIRST)
    if not locked:
        lock = state.tool.adjustment.lock if state.tool.adjustment else ""
        raise ShopRefused(tr("Lock it first{also}, and say so.", also=f": {lock}" if lock else ""))
    _mark(session, run_id, adjusting.target, adjusting.direction, act, begun=False, words="locked")
    session.add_all(_as_left(run_id, found, adjusting.number, position) for position, found in enumerate(state.found))
    note(session, act, tr("ended the adjustment"), state.tool.number, turns=adjusting.turns)
    return reload(session, run_id, act)


@command
def give_up(session: Session, run_id: int, act: Act) -> RunState:
    """End an adjustment in which nothing was turned yet. Raises ShopRefused once something was: then as left must follow.
    Changes: runs."""
    state = opened(session, run_id)
    adjusting = state.adjusting
    if adjusting is None:
        raise ShopRefused(tr("No adjustment is under way."))
    if len(adjusting.steps) > 1:
        raise ShopRefused(tr("The screw was turned: lock it and take the as-left series."))
    _mark(session, run_id, adjusting.target, adjusting.direction, act, begun=False, words=tr("nothing turned"))
    note(session, act, tr("did not adjust"), state.tool.number)
    return reload(session, run_id, act)


def _mark(
    session: Session, run_id: int, target: float, direction: Direction, act: Act, *, begun: bool, words: str = ""
) -> None:
    """Record that an adjustment began or ended."""
    session.add(
        Adjustment(
            run_id=run_id,
            at=act.at,
            person_id=act.person_id,
            begun=begun,
            target=target,
            direction=direction,
            note=words,
        )
    )


def _as_left(run_id: int, found: SeriesState, number: int, position: int) -> Series:
    return Series(
        run_id=run_id,
        phase=PhaseKind.LEFT,
        round=number,
        direction=found.direction,
        position=position,
        target=found.target,
        wanted=found.wanted,
    )
