"""The end of a run: who answers for it, its results kept, and what follows for its tool."""

from __future__ import annotations

from datetime import date

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.decision.states import State
from reckoner.core.decision.verdict import PointResult, Verdict
from reckoner.core.errors import UnreachableError
from reckoner.core.quantities.printing import span
from reckoner.core.translation import tr
from reckoner.shop.changes import ChangeKind, changed
from reckoner.shop.events.projection import update_projection
from reckoner.shop.events.recording import record_event, take_place
from reckoner.shop.events.standing import Standing, kept
from reckoner.shop.numbering import give_number
from reckoner.shop.people import seals
from reckoner.shop.people.authorship import Act, ShopRefused, note
from reckoner.shop.people.present import PersonFacts
from reckoner.shop.people.rights import command, refuse_without, require
from reckoner.shop.runs import characterising
from reckoner.shop.runs.judging import Judgement, judged
from reckoner.shop.runs.loading import as_signed
from reckoner.shop.runs.opening import leave, opened
from reckoner.shop.runs.outcomes import choices, good_part, next_due, next_interval
from reckoner.shop.runs.planning import as_known
from reckoner.shop.runs.records import SeriesState, Step
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.steps import wants
from reckoner.shop.words.comparisons import concluded_sentence
from reckoner.shop.words.results import want_words
from reckoner.store.chain import link_new
from reckoner.store.schema import Person, PointResultRow, Signature, ToolStanding
from reckoner.store.terms import EventKind, Outcome, Right, SealMeaning

RENEWING = (Outcome.RELEASED, Outcome.RESTRICTED)
"""The outcomes after which a tool has a new due date."""


@command
def sign(
    session: Session,
    run_id: int,
    act: Act,
    outcome: Outcome | None = None,
    remark: str = "",
    second_person_id: int | None = None,
    *,
    of_model: bool = False,
    passphrase: str | None = None,
    second_passphrase: str | None = None,
) -> RunState:
    """Sign the run: keep its results, and let ``outcome`` (the advised one by default) follow for the tool.

    ``of_model`` keeps a characterisation for all tools of the model. Raises ShopRefused while a step is open, for an
    outcome that this run cannot have, without the second person that the rule set asks for, without a reason where its owner
    releases it undecided, or without the passphrase of a person who has one, signing
    or beside. Changes: reviews, runs, standings.
    Right beside: allow, second."""
    run = opened(session, run_id)
    conclude(
        session,
        run,
        act,
        outcome,
        remark,
        second_person_id,
        of_model=of_model,
        passphrase=passphrase,
        second_passphrase=second_passphrase,
    )
    link_new(session)
    changed(session, ChangeKind.RUNS, run_id, act.person_id)
    return as_signed(session, run)


@command
def conclude(
    session: Session,
    run: RunState,
    act: Act,
    outcome: Outcome | None = None,
    remark: str = "",
    second_person_id: int | None = None,
    *,
    of_model: bool = False,
    passphrase: str | None = None,
    second_passphrase: str | None = None,
) -> None:
    """What ``sign`` writes, for a run that is loaded already. Raises ShopRefused as it does. Changes: reviews, standings.
    Right beside: allow, second."""
    _refuse_incomplete(run)
    today, judgement = act.at.date(), judged(run)
    found = judgement.verdict
    if found is None:
        raise ShopRefused(tr("It cannot be signed yet: there are too few readings."))
    chosen = _choice(run, today, outcome)
    _refuse_second(session, run, act, second_person_id)
    by_owner = chosen is Outcome.RELEASED and found.state is State.COMPARED
    if by_owner:
        require(session, act, Right.ALLOW)
        if not remark.strip():
            raise ShopRefused(tr("Say in the remark why its owner releases it: no run decided that."))
    sentence = concluded_sentence(run, found)
    renews = chosen in RENEWING and run.policy.renews and run.rules.renews_due_date and found.accepted is not None
    due = next_due(run, today) if renews else None
    if run.left:
        by = tr("by {opened_by}", opened_by=run.opened_by)
        record_event(session, run.tool.id, EventKind.ADJUSTED, by, act)
    signature = Signature(
        run_id=run.id,
        sequence=take_place(session, run.tool.id),
        at=act.at,
        person_id=act.person_id,
        state=found.state,
        accepted=found.accepted,
        sentence=sentence,
        rule=found.decision.rule,
        limit=found.worst.decision.limit,
        due=due.on if due else None,
        due_reason=due.reason if due else None,
        due_note=next_interval(run).why if due else "",
        outcome=chosen,
        note=remark.strip(),
        second_person_id=second_person_id,
        judged_on=run.day,
    )
    if run.policy.judges:
        signature.results = _results(judgement)
    session.add(signature)
    session.flush()
    if run.policy.judges:
        give_number(session, signature, today, run.tool.number)
    leave(session, run.id)
    if run.policy.measures:
        characterising.keep(session, run, act, of_model=of_model)
    _apply_outcome(session, run, found, chosen, sentence, act, remark.strip() if by_owner else "")
    update_projection(session, run.tool.id, act.person_id)
    given = {SealMeaning.TESTED: passphrase, SealMeaning.CHECKED: second_passphrase}
    seals.seal(session, signature, given, act)
    if judgement.found is not None and judgement.found.accepted is False and run.policy.judges and run.amends is None:
        from reckoner.shop.using.reviewing import begin_after  # most runs find nothing to review

        begin_after(session, run.tool.id, run.id, act)
    note(session, act, tr("signed the run"), run.tool.number, run=run.id, outcome=chosen, sentence=sentence)


def _results(judgement: Judgement) -> list[PointResultRow]:
    pairs = [pair for series, verdict in judgement.phases for pair in zip(series, verdict.points, strict=True)]
    return [_result(series, point) for series, point in pairs]


def _refuse_incomplete(run: RunState) -> None:
    for step in Step:
        if step not in (Step.DECIDE, Step.SIGNED) and (open_wants := wants(run, step)):
            words = want_words(open_wants)
            raise ShopRefused(
                tr("It cannot be signed yet: {value}, {want_words}.", value=tr(step.value), want_words=words)
            )


def _refuse_second(session: Session, run: RunState, act: Act, second_person_id: int | None) -> None:
    """Refuse a signature without the second person that its rule set asks for, or with one who may not be it."""
    if second_person_id is None:
        if run.rules.second_person:
            title = run.rules.title
            raise ShopRefused(
                tr("{title} asks for a second person: choose whose initials stand beside yours.", title=title)
            )
        return
    if second_person_id == act.person_id:
        raise ShopRefused(tr("The second person must be someone else."))
    refuse_without(session.get_one(Person, second_person_id), Right.SECOND)


def _choice(run: RunState, today: date, outcome: Outcome | None) -> Outcome:
    possible = choices(run, today)
    if outcome is None:
        return possible[0].outcome
    if outcome not in {c.outcome for c in possible}:
        words = ", ".join(c.words.lower() for c in possible)
        raise ShopRefused(
            tr(
                "After this result the tool cannot be {value}; what can be done: {words}.",
                value=tr(outcome),
                words=words,
            )
        )
    return outcome


def _result(series: SeriesState, point: PointResult) -> PointResultRow:
    return PointResultRow(
        series_id=series.id,
        target=point.target,
        direction=series.direction,
        deviation=point.budget.deviation,
        worst=point.budget.worst,
        expanded_uncertainty=point.budget.expanded_uncertainty,
        reference_error=point.budget.reference_error,
        near_zone=point.decision.near_zone,
        limit=point.decision.limit,
        probability=point.decision.probability,
        state=point.decision.state,
    )


def _standing(session: Session, tool_id: int) -> Standing:
    row = session.scalar(select(ToolStanding).where(ToolStanding.tool_id == tool_id))
    return kept(row) if row is not None else Standing()


def _apply_outcome(
    session: Session, run: RunState, found: Verdict, outcome: Outcome, sentence: str, act: Act, why: str
) -> None:
    """What the outcome does to the tool: hold, release, restrict, retire; ``why`` its owner releases it without a verdict."""
    before = _standing(session, run.tool.id)

    def event(kind: EventKind, words: str, part: tuple[float, float] | None = None) -> None:
        record_event(session, run.tool.id, kind, words, act, part=part)

    match outcome:
        case Outcome.HELD | Outcome.KEEP_HOLDING:
            undecided = (
                found.accepted is None and found.state is not State.COMPARED
            )  # what is far off is held, whoever says it
            if undecided and outcome is Outcome.HELD and not before.held:
                return
            event(
                EventKind.HELD,
                tr("{which}: {sentence}", which=tr("as left") if run.left else tr("as found"), sentence=sentence),
            )
        case Outcome.FULL_RUN:
            event(EventKind.HELD, tr("a full run is asked for: {sentence}", sentence=sentence))
        case Outcome.RELEASED:
            if before.restricted and run.policy.renews and found.accepted and _covers_its_points(run):
                event(EventKind.UNRESTRICTED, tr("a full run accepted its whole range"))
            if before.held:
                owner = tr("by its owner's decision, without a verdict: {why}", why=why)
                event(EventKind.RELEASED, owner if why else run.policy.released_by)
        case Outcome.RESTRICTED:
            part = good_part(found)
            if part is None:
                raise UnreachableError(outcome)
            event(
                EventKind.RESTRICTED,
                tr("to {part}: {sentence}", part=span(*part, run.tool.unit), sentence=sentence),
                part,
            )
            if before.held:
                event(EventKind.RELEASED, tr("restricted to the part that is good"))
        case Outcome.RETIRED:
            event(EventKind.RETIRED, sentence)
        case Outcome.CHARACTERISED | Outcome.COMPARED | Outcome.COMPARISON:
            pass
        case other:
            raise UnreachableError(other)


def _covers_its_points(run: RunState) -> bool:
    """Whether the run covers every point of its rule set."""
    points = run.rules.points(run.tool.kind)
    return set(as_known({s.target for s in run.series}, points)) >= set(points)


def second_people(everyone: tuple[PersonFacts, ...], signer: int) -> tuple[PersonFacts, ...]:
    """Who may stand beside the signer."""
    return tuple(p for p in everyone if p.id != signer and Right.SECOND in p.rights)
