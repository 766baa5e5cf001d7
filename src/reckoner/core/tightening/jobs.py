"""A job: a set of fasteners, the passes over them in their order, and where the work on it stands.

``steps`` makes the passes of a plan; ``stand`` says, from what was entered, which fastener is next and what is open. Torques
in N·m, angles in rad.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.checks import at_least, at_most, positive, whole
from reckoner.core.tightening.sequence import MOST, circle, rows
from reckoner.core.tightening.setting import Band, BandAim
from reckoner.core.translation import mark, tr


class Layout(StrEnum):
    """How the fasteners stand."""

    CIRCLE = "circle"
    ROWS = "rows"
    LIST = "list"


class Pattern(StrEnum):
    """The order in which they are tightened."""

    CROSS = mark("cross pattern")
    OUTWARDS = mark("from the middle outwards")
    GIVEN = mark("as numbered")


class OverBandRule(StrEnum):
    """What the joint's maker asks of a fastener that went past its band."""

    ASK = mark("ask the maker")
    SLACKEN = mark("slacken it and do it again")
    REPLACE = mark("replace it")


class StepKind(StrEnum):
    """What is done at each fastener in a pass."""

    NEW_BOLT = mark("new bolt")
    RUNNING = mark("running torque")
    TIGHTEN = mark("tighten")
    ANGLE = mark("angle")
    LAST = mark("last pass")
    LOCK = mark("lock")
    MEASURE = mark("measure")


@dataclass(frozen=True)
class Fasteners:
    """The ``names`` of the fasteners in the order of their numbers, and how they stand: in a circle, in ``rows`` by
    ``columns``, or freely."""

    layout: Layout
    names: tuple[str, ...]
    rows: int = 1
    columns: int = 1

    @property
    def count(self) -> int:
        return len(self.names)


def in_a_circle(count: int) -> Fasteners:
    """Numbered round a circle, from 1. Raises InputRefused for fewer than two or more than 400. Source: as
    ``sequence.circle``."""
    if whole("fasteners", count, 0, 10**6) < 2:
        raise InputRefused(
            "fasteners", count, tr("one fastener has no pattern: set the tool for it, or name it in a list of its own")
        )
    whole("fasteners", count, 2, MOST)
    return Fasteners(Layout.CIRCLE, tuple(str(i + 1) for i in range(count)))


def in_rows(down: int, across: int) -> Fasteners:
    """Numbered along ``down`` rows of ``across``. Raises InputRefused for fewer than two or more than 400. Source: as
    ``sequence.rows``."""
    whole("rows", down, 1, MOST)
    whole("columns", across, 1, MOST)
    if down * across < 2:
        raise InputRefused(
            "fasteners",
            down * across,
            tr("one fastener has no pattern: set the tool for it, or name it in a list of its own"),
        )
    whole("fasteners", down * across, 2, MOST)
    return Fasteners(Layout.ROWS, tuple(str(i + 1) for i in range(down * across)), down, across)


def named(names: Sequence[str]) -> Fasteners:
    """By names of their own, in the order given. Raises InputRefused for none, too many, or one twice."""
    kept = tuple(" ".join(name.split()) for name in names if name.strip())
    if not kept:
        raise InputRefused("fasteners", (), tr("name at least one fastener"))
    whole("fasteners", len(kept), 1, MOST)
    twice = next((name for i, name in enumerate(kept) if name in kept[:i]), None)
    if twice is not None:
        raise InputRefused("fasteners", twice, tr('"{twice}" is named twice; give each its own name', twice=twice))
    return Fasteners(Layout.LIST, kept)


PATTERNS: dict[Layout, tuple[Pattern, ...]] = {
    Layout.CIRCLE: (Pattern.CROSS, Pattern.GIVEN),
    Layout.ROWS: (Pattern.OUTWARDS, Pattern.GIVEN),
    Layout.LIST: (Pattern.GIVEN,),
}
"""Layout → the orders that it can be tightened in, the usual one first."""


@dataclass(frozen=True)
class JobPlan:
    """What a job is. ``stages`` are fractions of the aim, rising to 1; after them an ``angle`` in rad (None: none).
    ``locks``: a second nut locks each, and it is measured before and after; ``running`` is the band of the running torque
    (None: it is not measured). ``over`` is what the maker asks of one that went past its band."""

    fasteners: Fasteners
    band: Band
    aim: BandAim = BandAim.MIDDLE
    pattern: Pattern = Pattern.GIVEN
    stages: tuple[float, ...] = (1.0,)
    last_pass: bool = True
    angle: float | None = None
    new_bolts: bool = False
    locks: bool = False
    running: Band | None = None
    measured: bool = False
    over: OverBandRule = OverBandRule.ASK

    def __post_init__(self) -> None:
        if self.pattern not in PATTERNS[self.fasteners.layout]:
            raise InputRefused(
                "pattern",
                self.pattern.value,
                tr("a {layout} is not tightened in this order", layout=self.fasteners.layout),
            )
        if not self.stages:
            raise InputRefused("stages", (), tr("give at least one stage, such as 100 %"))
        for i, stage in enumerate(self.stages):
            positive("stages", stage)
            if i and stage <= self.stages[i - 1]:
                raise InputRefused("stages", self.stages, tr("each stage must be higher than the one before it"))
        if not math.isclose(self.stages[-1], 1.0, rel_tol=1e-6):
            raise InputRefused("stages", self.stages, tr("the last stage must be the aim itself, 100 %"))
        if self.angle is not None and not 0 < self.angle <= 2 * math.pi:
            raise InputRefused(
                "angle", math.degrees(self.angle), tr("is more than nothing and at most a whole turn, 360°")
            )

    @property
    def wanted(self) -> float:
        """The torque that is aimed at."""
        return self.band.aimed(self.aim)

    @property
    def order(self) -> tuple[int, ...]:
        """The fasteners' numbers, from 1, in the order of tightening."""
        match self.pattern:
            case Pattern.CROSS:
                return circle(self.fasteners.count)
            case Pattern.OUTWARDS:
                return rows(self.fasteners.rows, self.fasteners.columns)
            case Pattern.GIVEN:
                return tuple(range(1, self.fasteners.count + 1))


@dataclass(frozen=True)
class JobStep:
    """A pass over all fasteners: what is done, at which ``torque`` (None: none), in which ``order``; ``stage`` counts the
    tightening passes from 0, and names whose tool is used."""

    kind: StepKind
    order: tuple[int, ...]
    torque: float | None = None
    stage: int | None = None
    share: float = 1.0


def steps(plan: JobPlan) -> tuple[JobStep, ...]:
    """The passes of a plan, in the order in which they are made. Refuses nothing. Source: the passes of flange makers'
    instructions.

    >>> plan = JobPlan(in_a_circle(4), Band(76, 84), pattern=Pattern.CROSS, stages=(0.5, 1.0))
    >>> [(s.kind.value, s.torque, s.order) for s in steps(plan)]
    [('tighten', 40.0, (1, 3, 2, 4)), ('tighten', 80.0, (1, 3, 2, 4)), ('last pass', 80.0, (1, 2, 3, 4))]
    """
    order, given = plan.order, tuple(range(1, plan.fasteners.count + 1))
    made = []
    if plan.new_bolts:
        made.append(JobStep(StepKind.NEW_BOLT, given))
    if plan.running is not None:
        made.append(JobStep(StepKind.RUNNING, given))
    last = len(plan.stages) - 1
    made += [JobStep(StepKind.TIGHTEN, order, plan.wanted * share, i, share) for i, share in enumerate(plan.stages)]
    if plan.angle is not None:
        made.append(JobStep(StepKind.ANGLE, order))
    elif plan.last_pass:  # an angle is never followed by a torque: it would be turned on
        made.append(JobStep(StepKind.LAST, given, plan.wanted, last))
    if plan.measured:
        made.append(JobStep(StepKind.MEASURE, given, plan.wanted))
    if plan.locks:
        made.append(JobStep(StepKind.LOCK, given, plan.wanted))
    return tuple(made)


class EntryKind(StrEnum):
    """What is entered at a fastener; the values stand in the database."""

    DONE = mark("done")
    MEASURED = mark("measured")
    BEFORE_LOCK = mark("before locking")
    AFTER_LOCK = mark("after locking")
    RUNNING_ON_LEAST = mark("running on, least")
    RUNNING_ON_MOST = mark("running on, greatest")
    RUNNING_OFF_LEAST = mark("running off, least")
    RUNNING_OFF_MOST = mark("running off, greatest")
    NEW_BOLT = mark("new bolt")
    SLACKENED = mark("slackened")
    REPLACED = mark("replaced")
    TIGHTENED_ON = mark("tightened on")
    KEPT = mark("kept as it is")
    STRUCK = mark("struck")


WANTED: dict[StepKind, tuple[EntryKind, ...]] = {
    StepKind.NEW_BOLT: (EntryKind.NEW_BOLT,),
    StepKind.RUNNING: (
        EntryKind.RUNNING_ON_LEAST,
        EntryKind.RUNNING_ON_MOST,
        EntryKind.RUNNING_OFF_LEAST,
        EntryKind.RUNNING_OFF_MOST,
    ),
    StepKind.TIGHTEN: (EntryKind.DONE,),
    StepKind.ANGLE: (EntryKind.DONE,),
    StepKind.LAST: (EntryKind.DONE,),
    StepKind.LOCK: (EntryKind.BEFORE_LOCK, EntryKind.AFTER_LOCK),
    StepKind.MEASURE: (EntryKind.MEASURED,),
}
"""Step → what is entered at each fastener, in this order."""

BEGINS_ANEW = (EntryKind.SLACKENED, EntryKind.REPLACED)
"""After these a fastener is done again from its first pass."""

VALUES = (EntryKind.MEASURED, EntryKind.BEFORE_LOCK, EntryKind.AFTER_LOCK)
"""Torques of a tightened fastener, held against its band."""


RUNNING_VALUES = WANTED[StepKind.RUNNING]
"""Running torques, held against their own band."""


class PastBand(StrEnum):
    """How a value lies past its band, and what may be answered: the joint's maker says what is done about one too high."""

    TOO_HIGH = mark("too high")
    TOO_LOW = mark("too low")
    RUNNING = mark("running torque outside its band")


ANSWERS: dict[PastBand, tuple[EntryKind, ...]] = {
    PastBand.TOO_HIGH: (EntryKind.SLACKENED, EntryKind.REPLACED),
    PastBand.TOO_LOW: (EntryKind.TIGHTENED_ON, EntryKind.KEPT),
    PastBand.RUNNING: (EntryKind.REPLACED, EntryKind.KEPT),
}
"""How a value lies past its band → what can be entered of it; to keep it wants a reason."""


@dataclass(frozen=True)
class JobQuestion:
    """A value past its band that nobody has seen to yet."""

    entry: Entry
    past: PastBand


@dataclass(frozen=True)
class Entry:
    """Something entered: ``step`` from 0, ``fastener`` from 1, a ``value`` in N·m (None: none, or below the first mark).
    ``strikes`` is the id of an entry that counts no more."""

    id: int
    kind: EntryKind
    step: int
    fastener: int
    value: float | None = None
    strikes: int | None = None


@dataclass(frozen=True)
class NextEntry:
    """What is to be entered next: at which step and fastener."""

    step: int
    fastener: int
    kind: EntryKind


@dataclass(frozen=True)
class WorkProgress:
    """Where the work stands. ``next`` is None when all is done; ``asked`` are the values past their band that nobody has seen
    to, in the order of entry; ``counted`` are the entries that count."""

    next: NextEntry | None
    asked: tuple[JobQuestion, ...]
    counted: tuple[Entry, ...]
    done: int
    of: int

    @property
    def complete(self) -> bool:
        return self.next is None and not self.asked

    @property
    def over(self) -> tuple[int, ...]:
        """The fasteners with a value past its band that nobody has seen to."""
        return tuple(sorted({question.entry.fastener for question in self.asked}))

    def of_fastener(self, number: int) -> tuple[Entry, ...]:
        """What counts of one fastener."""
        return tuple(entry for entry in self.counted if entry.fastener == number)


def stand(plan: JobPlan, entries: Sequence[Entry]) -> WorkProgress:
    """Where the work on a plan stands after what was entered: the first pass that is not whole, and in it the first
    fastener in its order. One that was slackened or replaced begins anew; one past its band waits for what is said of it.
    Refuses nothing."""
    made = steps(plan)
    counted = _counted(entries)
    there = {(e.step, e.fastener, e.kind) for e in counted}
    wanted = [(i, f, k) for i, step in enumerate(made) for f in step.order for k in WANTED[step.kind]]
    missing = [(i, f, k) for i, f, k in wanted if (i, f, k) not in there]
    first = NextEntry(*missing[0]) if missing else None
    return WorkProgress(first, _asked(plan, made, counted), tuple(counted), len(wanted) - len(missing), len(wanted))


def _asked(plan: JobPlan, made: tuple[JobStep, ...], counted: Sequence[Entry]) -> tuple[JobQuestion, ...]:
    """What lies past its band and was not answered since. Of what is too low only the newest value counts."""
    found = []
    for i, entry in enumerate(counted):
        past = past_of(plan, made[entry.step], entry)
        later = [e for e in counted[i + 1 :] if e.fastener == entry.fastener and e.step == entry.step]
        kept = any(e.kind is EntryKind.KEPT for e in later)
        again = any(e.kind is entry.kind and e.value is not None for e in later)
        if past is not None and not kept and not (again and past is PastBand.TOO_LOW):
            found.append(JobQuestion(entry, past))
    return tuple(found)


def past_of(plan: JobPlan, step: JobStep, entry: Entry) -> PastBand | None:
    """How an entry's value lies past its band; None where it does not, or there is none. Below the band is one that was to
    have its whole torque by then; before its nut is locked it may still lie there. Refuses nothing."""
    value = entry.value
    if value is None:
        return None
    if entry.kind in RUNNING_VALUES:
        band = plan.running
        inside = band is None or (at_least(value, band.low) and at_most(value, band.high))
        return None if inside else PastBand.RUNNING
    if entry.kind not in VALUES:
        return None
    if plan.band.is_one:  # a value without a band is aimed at, and nothing is past it
        return None
    if not at_most(value, plan.band.high):
        return PastBand.TOO_HIGH
    whole = step.kind in (StepKind.LAST, StepKind.MEASURE) or entry.kind is EntryKind.AFTER_LOCK
    return PastBand.TOO_LOW if whole and not at_least(value, plan.band.low) else None


def _counted(entries: Sequence[Entry]) -> list[Entry]:
    struck = {entry.strikes for entry in entries if entry.kind is EntryKind.STRUCK}
    kept: list[Entry] = []
    for entry in entries:
        if entry.id in struck or entry.kind is EntryKind.STRUCK:
            continue
        if entry.kind in BEGINS_ANEW:
            kept = [
                other
                for other in kept
                if other.fastener != entry.fastener
                or (other.kind is EntryKind.NEW_BOLT and entry.kind is EntryKind.SLACKENED)
            ]
        if entry.kind is EntryKind.TIGHTENED_ON:  # what was measured before is measured again
            kept = [o for o in kept if o.fastener != entry.fastener or o.step != entry.step or o.kind not in VALUES]
        kept.append(entry)
    return kept


def off_aim(plan: JobPlan, value: float) -> float:
    """How far a measured torque is from the aim, as a fraction of it. Refuses nothing."""
    return value / plan.wanted - 1
