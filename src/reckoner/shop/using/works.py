"""Works on job cards as they are read: one with where it stands, those that are open, and how it is told."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from reckoner.core.quantities.days import day_words
from reckoner.core.quantities.printing import percent, quantity, span
from reckoner.core.quantities.units import DEGREE
from reckoner.core.tightening.jobcard import JobCard
from reckoner.core.tightening.jobs import (
    ANSWERS,
    RUNNING_VALUES,
    Entry,
    EntryKind,
    JobQuestion,
    JobStep,
    NextEntry,
    OverBandRule,
    PastBand,
    StepKind,
    WorkProgress,
    off_aim,
    past_of,
    stand,
    steps,
)
from reckoner.core.tightening.setting import Band
from reckoner.core.translation import tr
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.using.setting import SettingUse
from reckoner.store.reader import Reader
from reckoner.store.schema.base import unfolded
from reckoner.store.times import day_at, moment


@dataclass(frozen=True)
class StageSetting:
    """What a stage is set to: on which ``tool`` (empty: none was named), the torque ``set`` in N·m and as it is told
    (``words``), the ``factor`` of its adapters. ``why_not`` says why it cannot be set so; empty when it can."""

    tool: str = ""
    set: float | None = None
    words: str = ""
    factor: float = 1.0
    adapter: str = ""
    why_not: str = ""


@dataclass(frozen=True)
class WorkState:
    """A card being worked through, or worked through: the ``card`` as it was when it began, its ``settings``, where it
    stands. ``closed`` tells how it ended; empty while it is open."""

    id: int
    number: str
    title: str
    begun: datetime
    by: str
    card: JobCard
    settings: tuple[StageSetting, ...]
    steps: tuple[JobStep, ...]
    entries: tuple[JobEntryFacts, ...]
    stand: WorkProgress
    closed: str = ""
    signed: bool = False

    @property
    def step(self) -> JobStep | None:
        """The pass that is made now."""
        return self.steps[self.stand.next.step] if self.stand.next is not None else None

    def setting_at(self, step: JobStep) -> StageSetting | None:
        """What the tool is set to in a pass."""
        return self.settings[step.stage] if step.stage is not None and step.stage < len(self.settings) else None

    def name(self, fastener: int) -> str:
        """What a fastener is called."""
        return self.card.plan.fasteners.names[fastener - 1]

    def value(self, fastener: int, kind: EntryKind) -> float | None:
        """The newest value of a kind that counts at a fastener."""
        found = [e.value for e in self.stand.of_fastener(fastener) if e.kind is kind]
        return found[-1] if found else None


@dataclass(frozen=True)
class JobEntryFacts:
    """An entry with who made it when, and its note."""

    entry: Entry
    at: datetime
    by: str
    note: str


def over_words(state: WorkState) -> str:
    """What is to be done with one past its band, as its maker says."""
    match state.card.plan.over:
        case OverBandRule.SLACKEN:
            return tr("slacken it and tighten it again, as its maker says")
        case OverBandRule.REPLACE:
            return tr("replace it, as its maker says")
        case OverBandRule.ASK:
            return tr("slacken it or replace it, as the joint's maker says")


def question_words(state: WorkState, question: JobQuestion) -> str:
    """What is asked of a value past its band."""
    entry, name = question.entry, state.name(question.entry.fastener)
    lead = f"{name}, {tr(entry.kind)}: {entry_words(state, entry)}."
    match question.past:
        case PastBand.TOO_HIGH:
            return tr("{lead} It went past the band: {over_words}.", lead=lead, over_words=over_words(state))
        case PastBand.TOO_LOW:
            return tr("{lead} Tighten it on and measure it again, or say why it stays.", lead=lead)
        case PastBand.RUNNING:
            allowed = running_band(state.card)
            return tr(
                "{lead} It allows {allowed}. Strike it if misread; replace what is worn, or say why it stays.",
                lead=lead,
                allowed=allowed,
            )


def answers(state: WorkState, past: PastBand) -> tuple[EntryKind, ...]:
    """What can be entered of a value past its band; the joint's maker may leave one way only."""
    given = ANSWERS[past]
    if past is PastBand.TOO_HIGH and state.card.plan.over is not OverBandRule.ASK:
        return (EntryKind.SLACKENED,) if state.card.plan.over is OverBandRule.SLACKEN else (EntryKind.REPLACED,)
    return given


_WORK = """
SELECT w.id, w.number, w.title, w.at, w.document, p.initials, c.at AS closed_at, c.done, c.note, q.initials AS closer
FROM job_work w JOIN person p ON p.id = w.person_id
LEFT JOIN job_close c ON c.work_id = w.id LEFT JOIN person q ON q.id = c.person_id
"""

_ENTRIES = """
SELECT e.id, e.kind, e.step, e.fastener, e.value, e.strikes, e.at, e.note, p.initials FROM job_entry e
JOIN person p ON p.id = e.person_id WHERE e.work_id = :work ORDER BY e.id
"""


def read_work(reader: Reader, work_id: int) -> WorkState:
    """The same, from a reader. Raises ShopRefused."""
    row = reader.row(f"{_WORK} WHERE w.id = :work", work=work_id)
    if row is None:
        raise ShopRefused(tr("There is no such job."))
    card, settings = _document(unfolded(row.document))
    entries = tuple(
        JobEntryFacts(
            Entry(e.id, EntryKind(e.kind), e.step, e.fastener, e.value, e.strikes),
            moment(e.at),
            e.initials,
            e.note,
        )
        for e in reader.rows(_ENTRIES, work=work_id)
    )
    closed = ""
    if row.closed_at:
        how = tr("signed") if row.done else tr("given up")
        closed = tr(
            "{how} on {day_at} by {closer}", how=how, day_at=day_words(day_at(row.closed_at)), closer=row.closer
        )
        closed += f": {row.note}" if row.note else ""
    return WorkState(
        id=row.id,
        number=row.number,
        title=row.title,
        begun=moment(row.at),
        by=row.initials,
        card=card,
        settings=settings,
        steps=steps(card.plan),
        entries=entries,
        stand=stand(card.plan, [one.entry for one in entries]),
        closed=closed,
        signed=bool(row.done),
    )


def _document(raw: Mapping[str, Any]) -> tuple[JobCard, tuple[StageSetting, ...]]:
    from reckoner.formats.jobcard import parse  # loads pydantic

    card = parse(json.dumps(raw["card"], ensure_ascii=False))
    return card, tuple(StageSetting(**one) for one in raw["settings"])


@dataclass(frozen=True)
class WorkLine:
    """A work in a list."""

    id: int
    number: str
    title: str
    begun: date
    by: str
    closed: bool
    signed: bool


def work_lines(reader: Reader, *, closed: bool = False) -> tuple[WorkLine, ...]:
    """The works that are open, or over; the newest first, two hundred at most."""
    where = "c.id IS NOT NULL" if closed else "c.id IS NULL"
    rows = reader.rows(
        f"SELECT w.id, w.number, w.title, w.at, p.initials, c.id AS closed, c.done FROM job_work w "
        f"JOIN person p ON p.id = w.person_id LEFT JOIN job_close c ON c.work_id = w.id WHERE {where} "
        "ORDER BY w.id DESC LIMIT 200"
    )
    return tuple(
        WorkLine(r.id, r.number, r.title, day_at(r.at), r.initials, r.closed is not None, bool(r.done)) for r in rows
    )


def entry_words(state: WorkState, entry: Entry) -> str:
    """The value of an entry, held against the band that is its own: a running torque against that of running torques, in its
    own unit; a tightened one with its deviation from the aim. "Below the first mark" where it has none."""
    card, value = state.card, entry.value
    if value is None:
        return tr("below the first mark")
    past = past_of(card.plan, state.steps[entry.step], entry)
    where = "" if past is None else f", {tr(past)}" if past is not PastBand.RUNNING else tr(", outside its band")
    if entry.kind in RUNNING_VALUES:
        return f"{quantity(value, card.running_unit)}{where}"
    return f"{quantity(value, card.unit)} ({percent(off_aim(card.plan, value), 1, sign=True)}{where})"


def running_band(card: JobCard) -> str:
    """The band of the running torque in its own unit, and what it is measured with."""
    band = card.plan.running
    if band is None:
        return ""
    with_ = tr(", with {running_tool}", running_tool=card.running_tool) if card.running_tool else ""
    return f"{span(band.low, band.high, card.running_unit)}{with_}"


def next_words(state: WorkState, there: NextEntry) -> str:
    """The one thing to do now."""
    step, name = state.steps[there.step], state.name(there.fastener)
    setting = state.setting_at(step)
    on = (
        tr(" with {tool} set to {words}", tool=setting.tool, words=setting.words)
        if setting is not None and setting.tool
        else ""
    )
    unit = state.card.unit
    match step.kind:
        case StepKind.NEW_BOLT:
            return tr("Put a new bolt in at {name}.", name=name)
        case StepKind.RUNNING:
            return tr(
                "Measure the running torque at {name}: {value}. Its band: {running_band}.",
                name=name,
                value=tr(there.kind),
                running_band=running_band(state.card),
            )
        case StepKind.TIGHTEN:
            torque = quantity(step.torque or 0.0, unit)
            return tr(
                "Tighten {name}{on}: {torque} ({share}).", name=name, on=on, torque=torque, share=percent(step.share, 0)
            )
        case StepKind.LAST:
            return tr(
                "Go over {name} once more{on}: {torque}.", name=name, on=on, torque=quantity(step.torque or 0.0, unit)
            )
        case StepKind.ANGLE:
            marks = f": {state.card.marks}" if state.card.marks else tr(" by its marks")
            turned = quantity(state.card.plan.angle or 0.0, DEGREE)
            return tr("Turn {name} on by {turned}{marks}.", name=name, turned=turned, marks=marks)
        case StepKind.LOCK:
            before = there.kind is EntryKind.BEFORE_LOCK
            when = tr("before its nut is locked") if before else tr("again, now that it is locked")
            return tr(
                "Measure {name} {when}. Its band: {ends}.",
                name=name,
                when=when,
                ends=span(*_ends(state.card.plan.band), unit),
            )
        case StepKind.MEASURE:
            return tr("Measure {name}. Its band: {ends}.", name=name, ends=span(*_ends(state.card.plan.band), unit))


def _ends(band: Band) -> tuple[float, float]:
    return band.low, band.high


def uses_in(
    number: str, document: Mapping[str, Any], title: str, by: str, on: date, closed: date | None
) -> list[SettingUse]:
    """The settings that a tool was used with in a job."""
    card, settings = _document(document)
    found = []
    for stage, setting in enumerate(settings):
        if setting.tool != number or setting.set is None:
            continue
        last = stage == len(settings) - 1
        found.append(
            SettingUse(
                to=by,
                on=on,
                back=closed,
                job=title,
                joint=tr("stage {stage} of {count}", stage=stage + 1, count=len(settings)) if len(settings) > 1 else "",
                set=setting.set,
                factor=setting.factor,
                adapter=setting.adapter,
                band=card.plan.band if last else None,
                measured=card.plan.measured or card.plan.locks,
            )
        )
    return found
