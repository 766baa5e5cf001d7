"""A run as it stands: its records, the facts it is judged by, and its reference's procedure, as one frozen value.

Nothing of it is stored: ``loading`` builds it from the records, so that a run opens where it stopped after whatever
stopped it. ``steps`` says where it stands, ``judging`` what it found.
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from datetime import date, datetime
from functools import cached_property
from typing import TYPE_CHECKING, Protocol

from reckoner.core.quantities.checks import at_most
from reckoner.core.reference.certificate import ReferenceAtPoint
from reckoner.core.requirements.rules import Decision, RuleSet
from reckoner.core.requirements.tooltypes import Direction, MeterMode
from reckoner.shop.facts.judged import ReferenceFacts, RunFacts
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.procedure import Caution, Distrust, NewObservation, ReferenceCandidate
from reckoner.shop.runs.kinds import POLICIES, KindPolicy
from reckoner.shop.runs.needs import Want
from reckoner.shop.runs.records import (
    AdjustingState,
    EarlierSeries,
    ExerciseState,
    InspectedLine,
    ObservationState,
    Pair,
    PlanRecord,
    ReadingQuestion,
    RoomState,
    SeriesState,
    SetUpState,
    SignedState,
    Step,
    Zeros,
)
from reckoner.shop.runs.rows import Stamp
from reckoner.shop.runs.sides import SidesPlan
from reckoner.store.reader import Reader
from reckoner.store.terms import PhaseKind, ReferenceKind, RunKind

if TYPE_CHECKING:
    from reckoner.shop.runs.judging import Judgement


class Procedure(Protocol):
    """How a tool is compared with one kind of reference (``shop.procedures``): what set-up must learn, what an observation
    is, and how it becomes a pair (X_a, X_r)."""

    kind: ReferenceKind
    cautions: tuple[Caution, ...]
    after_a_turn: int
    """Readings that are offered after each turn of an adjusting screw; one is enough to go on."""
    one_pull_tells: bool
    """Whether a single pull is a reading; of answers it takes several."""

    def set_up_wants(self, run: RunState) -> tuple[Want, ...]:
        """What set-up has still to learn, in order."""
        ...

    def closing_wants(self, run: RunState) -> tuple[Want, ...]:
        """What has to be looked at once all observations are taken."""
        ...

    def admit(self, run: RunState, series: SeriesState, seen: NewObservation) -> NewObservation:
        """An observation that may be kept at ``series``. Raises ShopRefused with what is wrong."""
        ...

    def beyond(self, run: RunState) -> bool:
        """Whether what is looked for lies beyond what can be asked: no observation will find it as things stand."""
        ...

    def pairs(
        self, target: float, observations: tuple[ObservationState, ...], detail: str, correction: float
    ) -> tuple[Pair, ...]:
        """What ``observations`` at ``target`` say: the tool's value and the reference's, in the order they were taken.
        ``detail`` (JSON) is what the procedure has learnt at set up; ``correction`` is what the reference's indications are
        divided by for its known error."""
        ...

    def at(self, reference: ReferenceFacts, torque: float, detail: str) -> ReferenceAtPoint:
        """The reference's error and uncertainty at a torque in N·m, as it is set up. Raises InputRefused off its points."""
        ...

    def distrust(self, run: RunState, day: date) -> Distrust | None:
        """Why the reference may not decide on ``day``; None when it may."""
        ...

    def weigh(
        self,
        reference: ReferenceFacts,
        tool: ToolFacts,
        rules: RuleSet,
        day: date,
        points: tuple[float, ...] | None = None,
    ) -> ReferenceCandidate:
        """Hold a reference against a tool's ``points``, or those of the rule set."""
        ...

    def extended(
        self, reader: Reader, run: RunState, rules: RuleSet, more: tuple[float, ...], day: date
    ) -> tuple[ReferenceFacts, tuple[float, ...]]:
        """A run's reference, set up as it is for ``more`` points (N·m) that ``rules`` ask for, and those that it reaches.
        Raises ShopRefused without one."""
        ...


@dataclass(frozen=True)
class RunState:
    """A whole run. ``all_series`` are those of every phase; ``series`` those of the phase that counts now.

    ``day`` is the day whose certificates count: that on which the reference was chosen, whatever the clock says later;
    an amendment has the day of the run it amends. ``as_of`` is when that one was signed. By its ``stamp``
    an open run is known to be still what the database holds. ``step``: where it stands, the first that still wants something;
    ``asked``: the readings that are asked about, unanswered yet: nothing is concluded from their series. ``room_said``: the
    room was measured, or it was said that it was not.
    """

    id: int
    kind: RunKind
    facts: RunFacts
    procedure: Procedure
    plan: PlanRecord
    opened: datetime
    opened_by: str
    inspection: tuple[InspectedLine, ...]
    room: RoomState | None
    set_up: SetUpState | None
    exercise: tuple[ExerciseState, ...]
    zeros: Zeros
    all_series: tuple[SeriesState, ...]
    adjusting: AdjustingState | None = None
    signature: SignedState | None = None
    abandoned: bool = False
    earlier: tuple[EarlierSeries, ...] = ()
    event: str = ""
    amends: int | None = None
    amended: bool = False
    as_of: date | None = None
    day: date = date.min
    stamp: Stamp | None = None
    sides: SidesPlan | None = None
    room_said: bool = False
    step: Step = Step.LOOK_OVER
    asked: tuple[ReadingQuestion, ...] = ()
    judgements: list[Judgement] = field(default_factory=list, init=False, compare=False, repr=False)
    """The one of this state, once ``judging`` has worked it out."""

    @property
    def tool(self) -> ToolFacts:
        return self.facts.tool

    @property
    def rules(self) -> RuleSet:
        return self.facts.rules

    @property
    def reference(self) -> ReferenceFacts | None:
        """The reference chosen at set up."""
        return self.facts.reference

    @property
    def policy(self) -> KindPolicy:
        return POLICIES[self.kind]

    @property
    def signed(self) -> bool:
        return self.signature is not None

    def correction(self, target: float) -> float:
        """What every indication at a target (N·m) is divided by to be held against the tool's scale."""
        return self.facts.correction(target)

    def limit(self, target: float) -> float:
        """The permissible deviation at a target (N·m), a fraction."""
        return self.rules.limit(self.tool.kind, target)

    def suffices(self, uncertainty: float, target: float) -> bool:
        """Whether a reference whose W (a fraction) is ``uncertainty`` may decide at a target (N·m)."""
        return at_most(uncertainty, self.rules.reference_limit(self.limit(target)))

    @cached_property
    def limits(self) -> tuple[tuple[float, float], ...]:
        """The permissible deviation at each of the run's targets."""
        return tuple((t, self.limit(t)) for t in sorted({s.target for s in self.all_series}))

    @property
    def decision(self) -> Decision:
        """The rule set's decision, with the rule chosen for this run where one was."""
        chosen = self.plan.rule
        return replace(self.rules.decision, rule=chosen) if chosen else self.rules.decision

    @property
    def meter_mode(self) -> MeterMode:
        """What the meter is asked to catch: what set up says, else what was chosen, else what the mechanism implies."""
        return self.set_up.mode if self.set_up else self.plan.mode or self.tool.implies.mode

    @property
    def paired(self) -> bool:
        """Whether each pull is two numbers: the tool's display keeps its own, and the reference catches the peak."""
        return self.tool.implies.keeps_value and self.meter_mode is MeterMode.PEAK and self.procedure.one_pull_tells

    @cached_property
    def found(self) -> tuple[SeriesState, ...]:
        """The as-found series, or those of a characterisation."""
        return tuple(s for s in self.all_series if s.phase.kind in (PhaseKind.FOUND, PhaseKind.MEASURE))

    @cached_property
    def came(self) -> tuple[SeriesState, ...]:
        """What is pulled as it came, before any exercise. With weights there is none: to find a trip takes many releases."""
        if not self.procedure.one_pull_tells:
            return ()
        return tuple(s for s in self.all_series if s.phase.kind is PhaseKind.CAME)

    @cached_property
    def left(self) -> tuple[SeriesState, ...]:
        """The newest as-left series; empty when nothing was adjusted."""
        left = [s for s in self.all_series if s.phase.kind is PhaseKind.LEFT]
        newest = max((s.phase for s in left), default=None)
        return tuple(s for s in left if s.phase == newest)

    @property
    def adjusted(self) -> int:
        """How often it was adjusted, up to now."""
        return len({s.phase for s in self.all_series if s.phase.kind is PhaseKind.LEFT})

    @property
    def series(self) -> tuple[SeriesState, ...]:
        """The series of the phase that counts now."""
        return self.left or self.found

    def asks_about(self, series: SeriesState) -> bool:
        """Whether a reading of a series is asked about."""
        return any(one.series.id == series.id for one in self.asked)

    @property
    def current(self) -> SeriesState | None:
        """The series that takes the next observation; None when all are complete."""
        if self.adjusting is not None:
            return self.adjusting.steps[-1] if len(self.adjusting.steps) > 1 else None
        return next((s for s in (*self.came, *self.series) if s.missing), None)

    @property
    def awaiting(self) -> ObservationState | None:
        """The pull that waits for what the tool's display showed of it."""
        series = self.current
        return series.awaiting if series is not None and self.paired else None

    @property
    def exercising(self) -> ExerciseState | None:
        return next((e for e in self.exercise if e.done < e.wanted), None)

    @property
    def direction(self) -> Direction:
        """The direction of the next pull."""
        pulled = next((s for s in self.came if s.missing), None)
        if pulled is not None:
            return pulled.direction
        if self.exercising is not None:
            return self.exercising.direction
        if self.adjusting is not None:
            return self.adjusting.direction
        return (self.current or self.series[-1]).direction

    @property
    def exercise_target(self) -> float:
        """Full scale, in N·m."""
        return self.tool.kind.maximum

    @property
    def exercise_apart(self) -> bool:
        """Full scale would overload the reference: the tool is exercised on something else."""
        if self.reference is None:
            return False
        return self.reference.by_hand or not self.reference.bears(self.exercise_target)
