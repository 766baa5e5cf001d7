"""A signed run as a result file, and a result file judged anew: every number from its readings and facts alone."""

from __future__ import annotations

import json
import math
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.decision.suspect import Suspicion
from reckoner.core.decision.verdict import PointResult, Verdict
from reckoner.core.errors import Refused
from reckoner.core.requirements.rules import Rule
from reckoner.core.requirements.tooltypes import Direction, MeterMode
from reckoner.core.trace.event import Fault
from reckoner.core.translation import ENGLISH, tr
from reckoner.core.uncertainty.budget import Effect
from reckoner.formats.languages import in_language
from reckoner.formats.resultfile import (
    ExerciseEntry,
    LookEntry,
    ObservationEntry,
    ResultFile,
    ResultPoint,
    ResultRecord,
    ResultRefused,
    RoomEntry,
    SeriesEntry,
    SetUpEntry,
    SignatureEntry,
    ZerosEntry,
    packed,
)
from reckoner.shop.facts.judged import RunFacts
from reckoner.shop.numbering import certificate_number
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.procedures import PROCEDURES
from reckoner.shop.runs import document
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.loading import at_its_step, load
from reckoner.shop.runs.outcomes import by_owner, next_due
from reckoner.shop.runs.records import (
    ExerciseState,
    InspectedLine,
    KeptAnswer,
    ObservationState,
    Phase,
    PlanRecord,
    RoomState,
    SeriesState,
    SetUpState,
    SignedState,
    Zeros,
)
from reckoner.shop.runs.signing import RENEWING
from reckoner.shop.runs.state import RunState
from reckoner.shop.words.results import formal, run_sentence
from reckoner.store.schema import Shop
from reckoner.store.terms import ObservationKind, Outcome, PhaseKind, ReadingOwner, RunKind, Source, term

WRONG = (ValueError, TypeError, KeyError, AttributeError, ArithmeticError)
"""What facts of the wrong kind, written by another hand, lead to: a word for a number, a list for a name, a zero to divide
by. The file is outside text, and none of it is a fault of ours."""

SLACK = 1e-9
"""Numbers are the same within this part of them."""


def result_file(session: Session, run: RunState) -> ResultFile:
    """The file of a signed run that judged something. Raises ShopRefused for any other."""
    shop = session.scalar(select(Shop).order_by(Shop.id).limit(1))
    amends = certificate_number(load(session, run.amends)) if run.amends is not None else ""
    return packed(record_of(run, amends), shop.name if shop is not None else "")


def record_of(run: RunState, amends: str = "") -> ResultRecord:
    """All that stands behind a signed run; ``amends`` is the number of the certificate that it replaces.

    Raises ShopRefused for a run that is not signed or judged nothing."""
    signature, found = run.signature, judged(run).verdict
    if signature is None or found is None or not run.policy.judges:
        raise ShopRefused(tr("A result file is of a signed run that judged its tool."))
    statement, formally = statements(run, found)
    return ResultRecord(
        certificate=certificate_number(run),
        kind=run.kind.value,
        opened=run.opened,
        opened_by=run.opened_by,
        day=run.day,
        rule=run.plan.rule.value if run.plan.rule else None,
        mode=run.plan.mode.value if run.plan.mode else None,
        fitting=run.plan.adapter,
        note=run.plan.note,
        amends=amends,
        facts=json.loads(document.write(run.facts)),
        look_over=tuple(LookEntry(line=i.line, fine=i.fine, note=i.note) for i in run.inspection),
        room=None
        if run.room is None
        else RoomEntry(
            temperature=run.room.temperature, humidity=run.room.humidity, drift=run.room.drift, note=run.room.note
        ),
        set_up=None
        if run.set_up is None
        else SetUpEntry(mode=run.set_up.mode.value, override=run.set_up.override, detail=run.set_up.detail),
        exercise=tuple(ExerciseEntry(direction=e.direction.value, done=e.done, wanted=e.wanted) for e in run.exercise),
        zeros=ZerosEntry(
            before=run.zeros.before,
            after=run.zeros.after,
            pointer_before=run.zeros.pointer_before,
            pointer_after=run.zeros.pointer_after,
        ),
        series=tuple(_series(s) for s in run.all_series),
        points=tuple(
            _point(s, p) for series, verdict in judged(run).phases for s, p in zip(series, verdict.points, strict=True)
        ),
        state=found.state.value,
        accepted=found.accepted,
        statement=statement,
        formal=formally,
        signature=SignatureEntry(
            on=signature.on,
            by=signature.by,
            beside=signature.beside,
            due=signature.due,
            outcome=signature.outcome.value if signature.outcome else None,
            link=signature.link,
            note=signature.note if by_owner(run, found) else "",
        ),
    )


def statements(run: RunState, found: Verdict) -> tuple[str, str]:
    """What a verdict says, plainly and formally: in English, so that a digest does not hang on who prints it."""
    with in_language(ENGLISH):
        return run_sentence(run.tool, found), formal(found, run.rules.title, run.tool.unit)


def _series(series: SeriesState) -> SeriesEntry:
    return SeriesEntry(
        id=series.id,
        phase=series.phase.kind.value,
        round=series.phase.round,
        direction=series.direction.value,
        target=series.target,
        wanted=series.wanted,
        effect=series.effect.value if series.effect else None,
        place=series.place,
        turn=series.turn,
        zero_before=series.zero_before,
        zero_after=series.zero_after,
        observations=tuple(
            ObservationEntry(
                id=o.id,
                at=o.at,
                kind=o.kind.value,
                torque=o.torque,
                tool_value=o.tool_value,
                source=o.source.value,
                struck=o.struck,
                asked=o.kept.why.value if o.kept else "",
                whose=o.kept.whose.value if o.kept else "",
                detail=o.detail,
                faults=tuple(f.value for f in o.faults),
                over_travel=o.over_travel,
            )
            for o in series.observations
        ),
    )


def _point(series: SeriesState, point: PointResult) -> ResultPoint:
    return ResultPoint(
        series=series.id,
        deviation=point.budget.deviation,
        worst=point.budget.worst,
        expanded_uncertainty=point.budget.expanded_uncertainty,
        near_zone=point.decision.near_zone,
        limit=point.decision.limit,
        probability=point.decision.probability,
        state=point.decision.state.value,
    )


def run_of(file: ResultFile) -> RunState:
    """The run in a file, as it stood. Raises ResultRefused for words of no vocabulary and facts that cannot be read."""
    try:
        return _run(file.record)
    except Refused as refusal:
        raise ResultRefused(file.record.certificate, str(refusal).rstrip(".")) from None
    except WRONG as fault:
        raise ResultRefused(file.record.certificate, tr("it says what no run can say ({fault})", fault=fault)) from None


def _run(record: ResultRecord) -> RunState:
    facts = document.read(json.dumps(record.facts))
    kind = facts.kind
    set_up = record.set_up
    detail = set_up.detail if set_up is not None else "{}"
    signature = record.signature
    return at_its_step(
        RunState(
            id=0,
            kind=term(RunKind, record.kind),
            facts=facts,
            procedure=PROCEDURES[kind],
            plan=PlanRecord(
                Rule(record.rule) if record.rule else None,
                MeterMode(record.mode) if record.mode else None,
                record.fitting,
                record.note,
            ),
            opened=record.opened,
            opened_by=record.opened_by,
            inspection=tuple(InspectedLine(i.line, "", i.fine, i.note) for i in record.look_over),
            room=_room(record),
            room_said=True,
            set_up=None
            if set_up is None
            else SetUpState(MeterMode(set_up.mode), set_up.override, detail=set_up.detail),
            exercise=tuple(ExerciseState(Direction(e.direction), e.done, e.wanted) for e in record.exercise),
            zeros=Zeros(**record.zeros.model_dump()),
            all_series=tuple(_series_of(s, facts, detail) for s in record.series),
            signature=SignedState(
                signature.on,
                signature.by,
                signature.beside,
                signature.due,
                term(Outcome, signature.outcome) if signature.outcome else None,
                signature.link,
                note=signature.note,
            ),
            day=record.day,
            as_of=record.day if record.amends else None,
        )
    )


def _room(record: ResultRecord) -> RoomState | None:
    room = record.room
    return None if room is None else RoomState(room.temperature, room.humidity, True, room.note, room.drift)


def _series_of(entry: SeriesEntry, facts: RunFacts, detail: str) -> SeriesState:
    observations = tuple(
        ObservationState(
            o.id,
            _at(o.at),
            term(ObservationKind, o.kind),
            o.torque,
            term(Source, o.source),
            o.struck,
            o.tool_value,
            None,
            tuple(Fault(f) for f in o.faults),
            o.over_travel,
            o.detail,
            KeptAnswer(term(Suspicion, o.asked), term(ReadingOwner, o.whose)) if o.asked else None,
        )
        for o in entry.observations
    )
    procedure = PROCEDURES[facts.kind]
    correction = facts.correction(entry.target)

    def pairs(counts: bool) -> tuple[ObservationState, ...]:
        return tuple(o for o in observations if o.counts is counts)

    return SeriesState(
        id=entry.id,
        phase=Phase(term(PhaseKind, entry.phase), entry.round),
        direction=Direction(entry.direction),
        target=entry.target,
        wanted=entry.wanted,
        observations=observations,
        pairs=procedure.pairs(entry.target, pairs(True), detail, correction),
        struck_pairs=procedure.pairs(entry.target, pairs(False), detail, correction),
        effect=Effect(entry.effect) if entry.effect else None,
        place=entry.place,
        turn=entry.turn,
        zero_before=entry.zero_before,
        zero_after=entry.zero_after,
    )


def _at(moment: datetime) -> datetime:
    return moment.replace(tzinfo=None) if moment.tzinfo is not None else moment


def recomputed(file: ResultFile) -> tuple[int, tuple[str, ...]]:
    """How many of a file's numbers were computed anew from its readings and facts, and a sentence for each that came out
    otherwise. Raises ResultRefused."""
    run = run_of(file)
    try:
        return _held(run, file)
    except Refused as refusal:
        raise ResultRefused(file.record.certificate, str(refusal).rstrip(".")) from None
    except WRONG as fault:
        raise ResultRefused(
            file.record.certificate, tr("nothing can be computed from what it says ({fault})", fault=fault)
        ) from None


def _held(run: RunState, file: ResultFile) -> tuple[int, tuple[str, ...]]:
    """The run's numbers, computed anew, beside those in the file."""
    said: list[str] = []
    numbers = 0
    found = judged(run).verdict
    kept = {p.series: p for p in file.record.points}
    for series, verdict in judged(run).phases:
        for one, point in zip(series, verdict.points, strict=True):
            where = tr(
                "{value} at {target:g} N·m {direction}",
                value=one.phase.kind.value,
                target=one.target,
                direction=one.direction,
            )
            stored, fresh = kept.pop(one.id, None), _point(one, point)
            if stored is None:
                said.append(tr("{where}: no result is in the file", where=where))
                continue
            for name, value in fresh.model_dump(exclude={"series"}).items():
                numbers += 1
                then = getattr(stored, name)
                same = (
                    value == then if isinstance(value, str) else math.isclose(value, then, rel_tol=SLACK, abs_tol=SLACK)
                )
                if not same:
                    said.append(
                        tr(
                            "{where}: {replace} {shown}, the file says {shown_2}",
                            where=where,
                            replace=name.replace("_", " "),
                            shown=_shown(value),
                            shown_2=_shown(then),
                        )
                    )
    said += [tr("a result of a series that is not in the file (number {number})", number=number) for number in kept]
    for name, now, then in _concluded(run, found, file.record):
        numbers += 1
        if now != then:
            said.append(tr("{name} would be “{now}”, the file says “{then}”", name=name, now=now, then=then))
    return numbers, tuple(said)


NOT_DERIVED = tr(
    "the tool, its serial and its owner; the reference and its certificate; the room; the "
    "readings as they were taken; who signed, when, and the certificate's number"
)
"""What no sum can check: it stands by the file's digest, and that by the paper it is printed on."""


def _concluded(run: RunState, found: Verdict | None, record: ResultRecord) -> tuple[tuple[str, object, object], ...]:
    """(what, computed anew, as the file says) of what follows from the numbers: the state, the sentences, the due date."""
    signature = record.signature
    renews = signature.outcome is not None and term(Outcome, signature.outcome) in RENEWING and run.policy.renews
    due = None
    if renews and run.rules.renews_due_date and found is not None and found.accepted is not None:
        due = next_due(run, signature.on).on
    statement, formally = statements(run, found) if found is not None else ("", "")
    with_reason = found is not None and by_owner(run, found) and bool(signature.note)
    return (
        (tr("the state"), found.state.value if found is not None else None, record.state),
        (tr("accepted"), found.accepted if found is not None else None, record.accepted),
        (tr("the statement"), statement, record.statement),
        (tr("the formal statement"), formally, record.formal),
        (tr("due again"), due, signature.due),
        (tr("released"), found is None or found.accepted is True or not renews or with_reason, True),
    )


def _shown(value: float | str) -> str:
    return value if isinstance(value, str) else f"{value:.9g}"
