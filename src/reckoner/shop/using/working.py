"""Working through a job card, fastener by fastener: begun, resumed, signed or given up.

What was begun keeps the card as it was, with the tool and the setting of each stage; each key is one record. Where the work
stands is worked out from them (``core.tightening.jobs.stand``).

Stored values of a tool or a meter taken as the measured torques of a job: in their order, into the pass at hand.
"""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from sqlalchemy.orm import Session

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.printing import enumerated
from reckoner.core.tightening.jobcard import JobCard
from reckoner.core.tightening.jobs import VALUES, WANTED, EntryKind, JobStep, StepKind
from reckoner.core.tightening.setting import Band
from reckoner.core.translation import tr
from reckoner.shop.changes import ChangeKind, changed
from reckoner.shop.people.authorship import Act, ShopRefused, note
from reckoner.shop.people.rights import command
from reckoner.shop.register.cards import ToolCard
from reckoner.shop.using.fitness import can_be_tested, unfit
from reckoner.shop.using.fitting import Fitted, ShopAdapter, adapters, read_fitted
from reckoner.shop.using.known import KnownErrors, named_tool, not_one
from reckoner.shop.using.lending import WantedSetting
from reckoner.shop.using.setting import SettingAnswer, SettingQuestion, answer
from reckoner.shop.using.works import StageSetting, WorkState, question_words, read_work
from reckoner.store.reader import Reader, reader_of
from reckoner.store.schema import JobClose, JobEntry, JobWork


@dataclass(frozen=True)
class StageAnswer:
    """A stage of a card: its ``setting``, and the ``answer`` that says so; None where no single tool is named for it, or the
    sum cannot be made. ``testable``: its tool can be had for a test."""

    setting: StageSetting
    answer: SettingAnswer | None = None
    testable: bool = False

    @property
    def to_measure(self) -> SettingAnswer | None:
        """The answer where nobody measured its tool at that setting, and a test can."""
        found = self.answer
        return found if found is not None and found.wants_test and self.testable else None


def settings_of(reader: Reader, card: JobCard, today: date) -> tuple[StageSetting, ...]:
    """The setting of each stage with the tool that the card names for it."""
    return tuple(stage.setting for stage in stages_of(reader, card, today))


def stages_of(reader: Reader, card: JobCard, today: date) -> tuple[StageAnswer, ...]:
    """Each stage with the tool that the card names for it."""
    shelf = adapters(reader)
    named: dict[str, tuple[ToolCard | None, KnownErrors | None]] = {}
    made = []
    for stage, share in enumerate(card.plan.stages):
        chosen = card.tool_of(stage)
        if chosen is None or not chosen.number.strip():
            made.append(StageAnswer(StageSetting()))
            continue
        if chosen.number not in named:
            found, known, _many = named_tool(reader, chosen.number, today)
            named[chosen.number] = (found, known)
        made.append(_setting(card, share, chosen.number, chosen.adapters, *named[chosen.number], shelf, today))
    return tuple(made)


def _setting(
    card: JobCard,
    share: float,
    number: str,
    on: Sequence[str],
    found: ToolCard | None,
    known: KnownErrors | None,
    shelf: tuple[ShopAdapter, ...],
    today: date,
) -> StageAnswer:
    if found is None:
        return StageAnswer(StageSetting(number, why_not=tr("No single tool is called “{number}”.", number=number)))
    try:
        fitted = tuple(read_fitted(text, shelf) for text in on)
        got = _answer(card, share, found, known, fitted)
    except InputRefused as refusal:
        return StageAnswer(StageSetting(found.tool.number, why_not=f"{found.tool.number}: {refusal}"))
    from reckoner.shop.words.settings import sentence, set_words  # only when it is wanted

    adapter = enumerated([one.words for one in fitted])
    why = unfit(found, today) or (sentence(got) if got.out_of_range else "")
    words = set_words(found.tool, got.setting, card.unit) + ("" if got.promises else tr(", not measured there"))
    return StageAnswer(
        StageSetting(found.tool.number, got.setting, words, got.factor, adapter, why), got, can_be_tested(found, today)
    )


def _answer(
    card: JobCard, share: float, found: ToolCard, known: KnownErrors | None, fitted: tuple[Fitted, ...]
) -> SettingAnswer:
    """A stage below the last has no band: its torque alone is aimed at."""
    wanted = card.plan.wanted * share
    band, aim = (card.plan.band, card.plan.aim) if share >= 1 - 1e-9 else (Band(wanted, wanted), card.plan.aim)
    return answer(SettingQuestion(band, aim, card.unit, found.tool, known, fitted=fitted))


def loans_of(reader: Reader, card: JobCard, today: date) -> tuple[tuple[ToolCard, tuple[WantedSetting, ...]], ...]:
    """The tools that a card names, each with the settings that a loan for it is for."""
    found: dict[str, tuple[ToolCard, list[WantedSetting]]] = {}
    for stage, setting in enumerate(settings_of(reader, card, today)):
        if not setting.tool or setting.set is None:
            continue
        tool, _known, _many = named_tool(reader, setting.tool, today)
        if tool is None:
            continue
        last = stage == len(card.plan.stages) - 1
        wanted = WantedSetting(
            set=setting.set,
            job=card.title or card.number,
            joint=card.place,
            factor=setting.factor,
            adapter=setting.adapter,
            band=card.plan.band if last else None,
        )
        found.setdefault(setting.tool, (tool, []))[1].append(wanted)
    return tuple((tool, tuple(wanted)) for tool, wanted in found.values())


@command
def begin(session: Session, card: JobCard, act: Act, card_id: int | None = None) -> int:
    """Begin to work through a card; returns the work's id. Raises ShopRefused where a tool that it names may not be used.
    Changes: jobs."""
    from reckoner.formats.jobcard import written  # loads pydantic

    settings = settings_of(reader_of(session), card, act.at.date())
    bad = next((s.why_not for s in settings if s.why_not), "") or _running_tool(session, card, act.at.date())
    if bad:
        raise ShopRefused(tr("{bad} Choose another tool on the card.", bad=bad))
    document = {"card": json.loads(written(card)), "settings": [vars(s) for s in settings]}
    row = JobWork(
        card_id=card_id,
        number=card.number,
        title=card.title,
        at=act.at,
        person_id=act.person_id,
        document=json.dumps(document, ensure_ascii=False),
    )
    session.add(row)
    session.flush()
    note(session, act, tr("began a job"), card.number, work=row.id)
    changed(session, ChangeKind.JOBS, row.id, act.person_id)
    return row.id


def _running_tool(session: Session, card: JobCard, today: date) -> str:
    """Why the running torque cannot be measured with the tool that the card names; empty where it can, or none is named."""
    if card.plan.running is None or not card.running_tool:
        return ""
    found, _known, many = named_tool(reader_of(session), card.running_tool, today)
    if found is None:
        return not_one(card.running_tool, many)
    if found.tool.kind.is_setting:
        return tr("{number} shows nothing; a running torque is read off a tool that does.", number=found.tool.number)
    return unfit(found, today)


@command
def enter(
    session: Session,
    work_id: int,
    kind: EntryKind,
    step: int,
    fastener: int,
    act: Act,
    value: float | None = None,
    words: str = "",
) -> WorkState:
    """Enter something at a fastener. Raises ShopRefused for a work that is over, and for what cannot be entered there.
    Changes: jobs."""
    state = opened(session, work_id)
    if not (0 <= step < len(state.steps) and 1 <= fastener <= state.card.plan.fasteners.count):
        raise ShopRefused(tr("The card has no such fastener or pass; look at it again."))
    if value is not None and not 0 < value < 1e6:
        raise ShopRefused(tr("A torque has to be more than nothing; leave it empty where it is below the first mark."))
    if value is None and kind in VALUES:
        raise ShopRefused(tr("Type the torque that was measured."))
    if kind is EntryKind.KEPT and not words.strip():
        raise ShopRefused(tr("Say in a few words why it stays as it is; the record will say so."))
    session.add(
        JobEntry(
            work_id=work_id,
            at=act.at,
            person_id=act.person_id,
            kind=kind,
            step=step,
            fastener=fastener,
            value=value,
            note=" ".join(words.split()),
        )
    )
    session.flush()
    changed(session, ChangeKind.JOBS, work_id, act.person_id)
    return work(session, work_id)


@command
def enter_measured(
    session: Session, work_id: int, step: int, fastener: int, act: Act, value: float, words: str = ""
) -> WorkState:
    """Enter what was measured at a fastener in a pass over all, which is then done with it. Errors as ``enter``. Changes:
    jobs."""
    state = opened(session, work_id)
    kinds = {e.kind for e in state.stand.of_fastener(fastener) if e.step == step}
    wanted = WANTED[state.steps[step].kind] if 0 <= step < len(state.steps) else ()
    if EntryKind.DONE in wanted and EntryKind.DONE not in kinds:
        enter(session, work_id, EntryKind.DONE, step, fastener, act)
    return enter(session, work_id, EntryKind.MEASURED, step, fastener, act, value, words)


@command
def strike_last(session: Session, work_id: int, act: Act) -> WorkState:
    """The newest entry that counts was a mistake. Raises ShopRefused when there is none. Changes: jobs."""
    state = opened(session, work_id)
    if not state.stand.counted:
        raise ShopRefused(tr("Nothing was entered yet that could be struck."))
    last = max(state.stand.counted, key=lambda entry: entry.id)
    session.add(
        JobEntry(
            work_id=work_id,
            at=act.at,
            person_id=act.person_id,
            kind=EntryKind.STRUCK,
            step=last.step,
            fastener=last.fastener,
            value=None,
            strikes=last.id,
        )
    )
    session.flush()
    changed(session, ChangeKind.JOBS, work_id, act.person_id)
    return work(session, work_id)


@command
def sign(session: Session, work_id: int, act: Act, words: str = "") -> WorkState:
    """Sign the work. Raises ShopRefused while something is open, or one past its band was not seen to. Changes: jobs."""
    state = opened(session, work_id)
    if state.stand.asked:
        raise ShopRefused(
            tr("{question_words} It is signed after that.", question_words=question_words(state, state.stand.asked[0]))
        )
    if state.stand.next is not None:
        raise ShopRefused(tr("It cannot be signed yet: {of} entries are open.", of=state.stand.of - state.stand.done))
    return _close(session, work_id, act, words, done=True)


@command
def give_up(session: Session, work_id: int, act: Act, words: str) -> WorkState:
    """End a work that is not whole, with its reason. Raises ShopRefused without one. Changes: jobs."""
    opened(session, work_id)
    if not words.strip():
        raise ShopRefused(tr("Say in a few words why it ends here."))
    return _close(session, work_id, act, words, done=False)


def _close(session: Session, work_id: int, act: Act, words: str, *, done: bool) -> WorkState:
    session.add(JobClose(work_id=work_id, at=act.at, person_id=act.person_id, done=done, note=" ".join(words.split())))
    session.flush()
    state = work(session, work_id)
    note(session, act, tr("signed a job") if done else tr("gave a job up"), state.number, work=work_id, note=words)
    changed(session, ChangeKind.JOBS, work_id, act.person_id)
    return state


def opened(session: Session, work_id: int) -> WorkState:
    """An open work. Raises ShopRefused for one that is over."""
    state = work(session, work_id)
    if state.closed:
        raise ShopRefused(tr("This job is over: {closed}.", closed=state.closed))
    return state


def work(session: Session, work_id: int) -> WorkState:
    """A work as its records say. Raises ShopRefused when there is none."""
    return read_work(reader_of(session), work_id)


TAKES = (StepKind.TIGHTEN, StepKind.LAST, StepKind.MEASURE)
"""The passes in which each fastener has one torque."""


def open_ones(state: WorkState) -> tuple[int, ...]:
    """The fasteners that a file's values would go to, in the order of the pass at hand; empty where it takes none."""
    step = _step(state)
    if step is None or state.stand.next is None or state.closed or state.stand.over:
        return ()
    place, kind = state.stand.next.step, WANTED[step.kind][0]
    done = {e.fastener for e in state.stand.counted if e.step == place and e.kind is kind}
    return tuple(fastener for fastener in step.order if fastener not in done)


def _step(state: WorkState) -> JobStep | None:
    step = state.steps[state.stand.next.step] if state.stand.next is not None else None
    return step if step is not None and step.kind in TAKES else None


@command
def take(session: Session, looked_at: WorkState, values: Sequence[tuple[int, float]], act: Act) -> WorkState:
    """Enter (line in its file, N·m) of each as the measured torque of the next fastener, which is done with it.

    What is over once the pass is full is left. Raises ShopRefused for a pass that takes none and for a job that went on
    meanwhile; nothing of the file is kept then. Changes: jobs."""
    state = opened(session, looked_at.id)
    if len(state.entries) != len(looked_at.entries):
        raise ShopRefused(tr("The job went on meanwhile. Look at what is there now, and take the rest then."))
    fasteners, there = open_ones(state), state.stand.next
    if not fasteners or there is None:
        raise ShopRefused(tr("The pass at hand takes no torques from a file."))
    for (line, value), fastener in zip(values, fasteners, strict=False):
        try:
            state = enter_measured(
                session, state.id, there.step, fastener, act, value, tr("stored, line {line}", line=line)
            )
        except ShopRefused as refusal:
            raise ShopRefused(
                tr("Line {line}: {refusal} Nothing of the file was taken.", line=line, refusal=refusal)
            ) from None
    return state
