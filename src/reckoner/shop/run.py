"""The state of a run: its steps in the technician's order, what each holds, and what it still wants.

A run's state is never stored: it follows from the records (look-over lines, set-up, exercise, readings, strikes,
adjustments, signature), so that a run opens where it stopped after whatever stopped it. ``runload`` builds it from them.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from datetime import date, datetime, timedelta
from enum import StrEnum

from reckoner.core.adjusting import Advice
from reckoner.core.budget import Effects, Observations
from reckoner.core.comparison import Comparison, compare
from reckoner.core.decision import state_of
from reckoner.core.deviation import deviation
from reckoner.core.kinds import MeterMode
from reckoner.core.rules import Decision, Rule, RuleSet
from reckoner.core.states import State
from reckoner.core.trend import FirstReleases, first_releases
from reckoner.core.verdict import PointInput, PointResult, Verdict, verdict
from reckoner.shop.facts import ReferenceFacts, ToolFacts

AS_FOUND = "as found"

ROOM_HOLDS = timedelta(minutes=30)
"""After this the room is looked at again before the run is decided."""


def newest_as_left(phases: Iterable[str]) -> str:
    """The newest of the as-left phases among ``phases``; empty when there is none."""
    return max((p for p in phases if p.startswith("as left")), key=lambda p: int(p.rsplit(" ", 1)[1]), default="")


class Step(StrEnum):
    """The steps, in order. ADJUST and AS_LEFT are there only once an adjustment was begun."""

    LOOK_OVER = "look over"
    SET_UP = "set up"
    EXERCISE = "exercise"
    AS_FOUND = "as found"
    ADJUST = "adjust"
    AS_LEFT = "as left"
    DECIDE = "decide"
    SIGNED = "signed"


class RunKind(StrEnum):
    """What a run is for."""

    FULL = "full"
    CHECK = "check"
    EVENT = "event"
    CHARACTERISE = "characterise"

    @property
    def words(self) -> str:
        return {
            RunKind.FULL: "Full run",
            RunKind.CHECK: "Quick check",
            RunKind.EVENT: "Check after an event",
            RunKind.CHARACTERISE: "Characterisation",
        }[self]


@dataclass(frozen=True)
class InspectedLine:
    line: str
    fine_means: str
    fine: bool | None
    note: str = ""

    @property
    def settled(self) -> bool:
        """Fine, or accepted with a reason."""
        return self.fine is True or (self.fine is False and bool(self.note))


@dataclass(frozen=True)
class RoomState:
    """°C and a fraction; ``fit`` under the rule set, or accepted for the reason in ``note``. ``drift`` in °C is the widest
    span of temperatures recorded in the run, ``at`` when the newest was."""

    temperature: float
    humidity: float
    fit: bool
    note: str
    drift: float = 0.0
    at: datetime | None = None


@dataclass(frozen=True)
class SetUpState:
    reference: ReferenceFacts
    mode: MeterMode
    override: str


@dataclass(frozen=True)
class ReadingState:
    """One reading in N·m. ``faults`` are those that its trace showed, in words; ``over_travel`` a fraction."""

    id: int
    torque: float
    at: datetime
    source: str
    struck: str
    faults: str = ""
    over_travel: float | None = None

    @property
    def counts(self) -> bool:
        return not self.struck


@dataclass(frozen=True)
class SeriesState:
    """The readings at one target in one direction; struck ones stay in the list. Zeros in N·m, None where not looked at."""

    id: int
    phase: str
    direction: str
    target: float
    wanted: int
    readings: tuple[ReadingState, ...]
    place: str = ""
    turn: float | None = None
    zero_before: float | None = None
    zero_after: float | None = None

    @property
    def counted(self) -> tuple[ReadingState, ...]:
        return tuple(r for r in self.readings if r.counts)

    @property
    def missing(self) -> int:
        return max(0, self.wanted - len(self.counted))

    @property
    def torques(self) -> tuple[float, ...]:
        return tuple(r.torque for r in self.counted)

    @property
    def mean(self) -> float:
        """Mean of the counted readings in N·m; 0 without any."""
        return sum(self.torques) / len(self.torques) if self.torques else 0.0

    @property
    def zero_moved_by(self) -> float:
        """How far the reference's zero moved over the series, in N·m; 0 where it was not looked at twice."""
        if self.zero_before is None or self.zero_after is None:
            return 0.0
        return self.zero_after - self.zero_before

    def first_releases(self) -> FirstReleases | None:
        """First releases that stand apart from the settled ones."""
        return first_releases(self.torques) if len(self.torques) >= 4 else None


@dataclass(frozen=True)
class ExerciseState:
    """Releases made and wanted, for one direction."""

    direction: str
    done: int
    wanted: int


@dataclass(frozen=True)
class AdjustingState:
    """An adjustment under way: at which target (N·m) and direction, its series so far (the first with the readings before
    any turn), and the advice they give; None with its reason in ``no_advice``."""

    number: int
    target: float
    direction: str
    steps: tuple[SeriesState, ...]
    advice: Advice | None
    no_advice: str = ""

    @property
    def turns(self) -> float:
        """Where the screw stands now, in signed turns clockwise from where it was found."""
        return sum(s.turn or 0.0 for s in self.steps)


@dataclass(frozen=True)
class EarlierSeries:
    """The readings (N·m) of the last signed run at one target in one direction: what an event's check compares with."""

    target: float
    direction: str
    on: date
    torques: tuple[float, ...]


@dataclass(frozen=True)
class RunState:
    """A whole run as it stands. ``all_series`` are those of every phase; ``series`` those of the phase that counts now."""

    id: int
    tool: ToolFacts
    kind: RunKind
    rules: RuleSet
    opened: datetime
    opened_by: str
    inspection: tuple[InspectedLine, ...]
    room: RoomState | None
    set_up: SetUpState | None
    exercise: tuple[ExerciseState, ...]
    zero_before: float | None
    zero_after: float | None
    all_series: tuple[SeriesState, ...]
    signed_on: date | None
    signed_by: str
    signed_due: date | None
    abandoned: bool
    signed_with: str = ""
    outcome: str = ""
    rule: str = ""
    mode: str = ""
    adapter: str = ""
    plan_note: str = ""
    pointer_before: float | None = None
    pointer_after: float | None = None
    adjusting: AdjustingState | None = None
    effects: Effects = field(default_factory=Effects)
    effects_from: str = ""
    earlier: tuple[EarlierSeries, ...] = ()
    event: str = ""
    amends: int | None = None
    amended: bool = False
    as_of: date | None = None

    @property
    def signed(self) -> bool:
        return self.signed_on is not None

    @property
    def limit(self) -> float:
        return self.rules.limit(self.tool.kind)

    @property
    def decision(self) -> Decision:
        """The rule set's decision, with the rule chosen for this run where one was."""
        return replace(self.rules.decision, rule=Rule(self.rule)) if self.rule else self.rules.decision

    @property
    def meter_mode(self) -> MeterMode:
        """What the meter is asked to catch: what was chosen, else what the mechanism implies."""
        return MeterMode(self.mode) if self.mode else self.tool.implies.mode

    @property
    def found(self) -> tuple[SeriesState, ...]:
        """The as-found series, or those of a characterisation."""
        return tuple(s for s in self.all_series if not s.phase.startswith(("adjust", "as left")))

    @property
    def left(self) -> tuple[SeriesState, ...]:
        """The newest as-left series; empty when nothing was adjusted."""
        phase = newest_as_left(s.phase for s in self.all_series)
        return tuple(s for s in self.all_series if s.phase == phase) if phase else ()

    @property
    def adjusted(self) -> int:
        """How often it was adjusted, up to now."""
        return len({s.phase for s in self.all_series if s.phase.startswith("as left")})

    @property
    def series(self) -> tuple[SeriesState, ...]:
        """The series of the phase that counts now."""
        return self.left or self.found

    @property
    def needs_pointer(self) -> bool:
        """The tool has a pointer whose zero is looked at before and after."""
        return not self.tool.kind.is_setting and self.kind is not RunKind.CHARACTERISE

    @property
    def step(self) -> Step:
        """Where the run stands: the first step that still wants something."""
        if self.signed or self.abandoned:
            return Step.SIGNED
        for step in Step:
            if self.wants(step):
                return step
        return Step.DECIDE

    def wants(self, step: Step) -> str:
        """What ``step`` still wants, in words; empty when it is complete."""
        match step:
            case Step.LOOK_OVER:
                left = sum(not line.settled for line in self.inspection)
                return f"{left} of {len(self.inspection)} to look at" if left else ""
            case Step.SET_UP:
                return ", ".join(words for words, there in self._set_up_items() if not there)
            case Step.EXERCISE:
                left = sum(max(0, e.wanted - e.done) for e in self.exercise)
                return f"{left} to go" if left else ""
            case Step.AS_FOUND:
                return self._series_want(self.found) if not self.left and not self.adjusting else ""
            case Step.ADJUST:
                return "turn, read, lock" if self.adjusting else ""
            case Step.AS_LEFT:
                return self._series_want(self.left) if self.left and not self.adjusting else ""
            case Step.DECIDE:
                return "" if self.signed else "signature"
            case Step.SIGNED:
                return ""

    def _set_up_items(self) -> tuple[tuple[str, bool], ...]:
        items = [
            ("room", self.room is not None),
            ("reference", self.set_up is not None),
            ("zero", self.zero_before is not None),
        ]
        if self.needs_pointer:
            items.append(("the tool's pointer", self.pointer_before is not None))
        return tuple(items)

    def _series_want(self, series: tuple[SeriesState, ...]) -> str:
        left = sum(s.missing for s in series)
        if left:
            return f"{left} readings to go"
        if self.zero_after is None:
            return "zero after the series"
        if self.needs_pointer and self.pointer_after is None:
            return "the pointer's zero"
        return "the room again" if self.room_is_old else ""

    @property
    def room_is_old(self) -> bool:
        """The room was looked at longer before the last reading than ``ROOM_HOLDS``: it may have drifted since."""
        last = max((r.at for s in self.series for r in s.readings), default=None)
        seen = self.room.at if self.room is not None and self.amends is None else None
        return last is not None and seen is not None and last - seen > ROOM_HOLDS

    @property
    def room_drifted(self) -> bool:
        """The room drifted further during the run than the rule set allows."""
        return self.room is not None and self.room.drift > self.rules.room.drift * (1 + 1e-9)

    @property
    def current(self) -> SeriesState | None:
        """The series that takes the next reading; None when all are complete."""
        if self.adjusting is not None:
            return self.adjusting.steps[-1] if len(self.adjusting.steps) > 1 else None
        return next((s for s in self.series if s.missing), None)

    @property
    def exercising(self) -> ExerciseState | None:
        return next((e for e in self.exercise if e.done < e.wanted), None)

    @property
    def direction(self) -> str:
        """The direction of the next pull."""
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
        return self.set_up is not None and not self.set_up.reference.bears(self.exercise_target)

    @property
    def zero_moved(self) -> bool:
        """The reference did not come back to its zero, over the run or over a series: the readings are suspect."""
        if self.set_up is None:
            return False
        tolerance = self.set_up.reference.zero_tolerance * (1 + 1e-12)
        whole = 0.0
        if self.zero_before is not None and self.zero_after is not None:
            whole = self.zero_after - self.zero_before
        return any(abs(moved) > tolerance for moved in (whole, *(s.zero_moved_by for s in self.series)))

    def trust_words(self, today: date) -> str:
        """Why the reference may not decide; empty when it may. An amendment is judged as of the day it amends."""
        today = self.as_of or today
        if self.set_up is None:
            return "no reference was chosen"
        due = self.set_up.reference.due
        if due is None or due < today:
            return f"the certificate of {self.set_up.reference.number} had ended"
        if self.zero_moved:
            return f"{self.set_up.reference.number} did not come back to its zero, so the series is suspect"
        return ""

    def verdict(self, today: date) -> Verdict | None:
        """The verdict on the counted readings of the phase that counts; None until every series has at least two."""
        return self._judge(self.series, today)

    def found_verdict(self, today: date) -> Verdict | None:
        """The verdict on the as-found readings."""
        return self._judge(self.found, today)

    def point_result(self, series: SeriesState, today: date) -> PointResult | None:
        """One series judged alone; None until it has two counted readings."""
        judged = self._judge((series,), today)
        return judged.points[0] if judged else None

    def reading_state(self, series: SeriesState, reading: ReadingState, today: date) -> State:
        """Where one reading lies, with the near zone that its series has so far."""
        point = self.point_result(series, today)
        near = point.decision.near_zone if point else 0.0
        return state_of(abs(deviation(series.target, reading.torque)), self.limit, near)

    def comparisons(self) -> tuple[tuple[SeriesState, EarlierSeries, Comparison], ...]:
        """Each series beside the last signed run's at the same target and direction, held against a quarter of the limit."""
        made = []
        for series in self.series:
            before = next(
                (e for e in self.earlier if e.target == series.target and e.direction == series.direction), None
            )
            if before is not None and len(series.counted) >= 2 and len(before.torques) >= 2:
                made.append((series, before, compare(before.torques, series.torques, self.limit / 4)))
        return tuple(made)

    def _judge(self, series: tuple[SeriesState, ...], today: date) -> Verdict | None:
        if self.set_up is None or not series or any(len(s.counted) < 2 for s in series):
            return None
        points = [
            PointInput(s.target, Observations.of_readings(s.target, s.torques), self.set_up.reference.at(s.target))
            for s in series
        ]
        return verdict(
            self.tool.kind,
            self.rules,
            points,
            effects=self.effects,
            decision=self.decision,
            reference_trusted=not self.trust_words(today),
        )
