"""The state of a run: its steps in the technician's order, what each holds, and what it still wants.

A run's state is never stored: it follows from the records (look-over lines, set-up, exercise, readings, strikes,
signature), so that a run opens where it stopped after whatever stopped it.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime
from enum import StrEnum
from functools import cache

from sqlalchemy.orm import Session

from reckoner.core.budget import Observations
from reckoner.core.decision import state_of
from reckoner.core.deviation import deviation
from reckoner.core.errors import InputRefused
from reckoner.core.kinds import Mechanism, MeterMode
from reckoner.core.rules import RuleSet
from reckoner.core.states import State
from reckoner.core.verdict import PointInput, PointResult, Verdict, verdict
from reckoner.formats import rulesets
from reckoner.shop.acts import ShopRefused
from reckoner.shop.facts import ReferenceFacts, ToolFacts, reference_facts, tool_facts
from reckoner.store.schema import Reading, Run, Series


class Step(StrEnum):
    """The steps, in order."""

    LOOK_OVER = "look over"
    SET_UP = "set up"
    EXERCISE = "exercise"
    AS_FOUND = "as found"
    DECIDE = "decide"
    SIGNED = "signed"


INSPECTION = {
    "Drive and ratchet": "not worn, cracked or slipping",
    "Scale and lock": "legible, the lock holds",
    "Housing and handle": "nothing slack, bent or missing",
    "No sign of a fall": "no dents, no fresh marks",
}
"""Lines for setting tools. To add a line: a row here or in ``INSPECTION_INDICATING``."""

INSPECTION_INDICATING = {
    "Drive": "not worn or cracked",
    "Pointer or display": "at zero with nothing on it",
    "Bar, housing and handle": "nothing slack, bent or missing",
    "No sign of a fall": "no dents, no fresh marks",
}


def inspection_lines(mechanism: Mechanism) -> dict[str, str]:
    """The look-over list for a mechanism: line → what fine means."""
    if mechanism in (Mechanism.BEAM, Mechanism.DIAL, Mechanism.ELECTRONIC):
        return INSPECTION_INDICATING
    return INSPECTION


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
    """°C and a fraction; ``fit`` under the rule set, or accepted for the reason in ``note``."""

    temperature: float
    humidity: float
    fit: bool
    note: str


@dataclass(frozen=True)
class SetUpState:
    reference: ReferenceFacts
    mode: MeterMode
    override: str


@dataclass(frozen=True)
class ReadingState:
    id: int
    torque: float
    at: datetime
    source: str
    struck: str

    @property
    def counts(self) -> bool:
        return not self.struck


@dataclass(frozen=True)
class SeriesState:
    """The readings at one target in one direction; struck ones stay in the list."""

    id: int
    direction: str
    target: float
    wanted: int
    readings: tuple[ReadingState, ...]

    @property
    def counted(self) -> tuple[ReadingState, ...]:
        return tuple(r for r in self.readings if r.counts)

    @property
    def missing(self) -> int:
        return max(0, self.wanted - len(self.counted))


@dataclass(frozen=True)
class ExerciseState:
    """Releases made and wanted, for one direction."""

    direction: str
    done: int
    wanted: int


@dataclass(frozen=True)
class RunState:
    """A whole run as it stands."""

    id: int
    tool: ToolFacts
    kind: str
    rules: RuleSet
    opened: datetime
    opened_by: str
    inspection: tuple[InspectedLine, ...]
    room: RoomState | None
    set_up: SetUpState | None
    exercise: tuple[ExerciseState, ...]
    zero_before: float | None
    zero_after: float | None
    series: tuple[SeriesState, ...]
    signed_on: date | None
    signed_by: str
    signed_due: date | None
    abandoned: bool

    @property
    def signed(self) -> bool:
        return self.signed_on is not None

    @property
    def limit(self) -> float:
        return self.rules.limit(self.tool.kind)

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
                wants = [
                    words
                    for words, there in (
                        ("room", self.room is not None),
                        ("reference", self.set_up is not None),
                        ("zero", self.zero_before is not None),
                    )
                    if not there
                ]
                return ", ".join(wants)
            case Step.EXERCISE:
                left = sum(max(0, e.wanted - e.done) for e in self.exercise)
                return f"{left} to go" if left else ""
            case Step.AS_FOUND:
                left = sum(s.missing for s in self.series)
                if left:
                    return f"{left} readings to go"
                return "" if self.zero_after is not None else "zero after the series"
            case Step.DECIDE:
                return "" if self.signed else "signature"
            case Step.SIGNED:
                return ""

    @property
    def current(self) -> SeriesState | None:
        """The series that takes the next reading; None when all are complete."""
        return next((s for s in self.series if s.missing), None)

    @property
    def exercising(self) -> ExerciseState | None:
        return next((e for e in self.exercise if e.done < e.wanted), None)

    @property
    def exercise_target(self) -> float:
        """Full scale, in N·m."""
        return self.tool.kind.maximum

    @property
    def zero_moved(self) -> bool:
        """The reference did not come back to its zero: the series is suspect."""
        if self.set_up is None or self.zero_before is None or self.zero_after is None:
            return False
        return abs(self.zero_after - self.zero_before) > self.set_up.reference.zero_tolerance * (1 + 1e-12)

    def trust_words(self, today: date) -> str:
        """Why the reference may not decide; empty when it may."""
        if self.set_up is None:
            return "no reference was chosen"
        due = self.set_up.reference.due
        if due is None or due < today:
            return f"the certificate of {self.set_up.reference.number} had ended"
        if self.zero_moved:
            return f"{self.set_up.reference.number} did not come back to its zero, so the series is suspect"
        return ""

    def verdict(self, today: date) -> Verdict | None:
        """The verdict on the counted readings; None until every series has at least two."""
        return self._judge(self.series, today)

    def point_result(self, series: SeriesState, today: date) -> PointResult | None:
        """One series judged alone; None until it has two counted readings."""
        found = self._judge((series,), today)
        return found.points[0] if found else None

    def reading_state(self, series: SeriesState, reading: ReadingState, today: date) -> State:
        """Where one reading lies, with the near zone that its series has so far."""
        point = self.point_result(series, today)
        near = point.decision.near_zone if point else 0.0
        return state_of(abs(deviation(series.target, reading.torque)), self.limit, near)

    def _judge(self, series: tuple[SeriesState, ...], today: date) -> Verdict | None:
        if self.set_up is None or any(len(s.counted) < 2 for s in series):
            return None
        points = [
            PointInput(
                s.target,
                Observations.of_readings(s.target, [r.torque for r in s.counted]),
                self.set_up.reference.at(s.target),
            )
            for s in series
        ]
        return verdict(self.tool.kind, self.rules, points, reference_trusted=not self.trust_words(today))


@cache
def rules_from(text: str, name: str) -> RuleSet:
    """The rule set kept with a run, read once for each different text."""
    return rulesets.parse(text, name)


def load(session: Session, run_id: int) -> RunState:
    """The run as the records say it stands. Raises ShopRefused when there is no such run."""
    run = session.get(Run, run_id)
    if run is None:
        raise ShopRefused("There is no such run.")
    tool = tool_facts(run.tool)
    rules = rules_from(run.rule_set_text, run.rule_set)
    return RunState(
        id=run.id,
        tool=tool,
        kind=run.kind,
        rules=rules,
        opened=run.opened_at,
        opened_by=run.opened_by.initials,
        inspection=_inspection(run, tool),
        room=_room(run, rules),
        set_up=_set_up(run),
        exercise=_exercise(run, tool, rules),
        zero_before=_newest_zero(run, "before"),
        zero_after=_zero_after(run),
        series=tuple(_series(s) for s in run.series),
        signed_on=run.signature.at.date() if run.signature else None,
        signed_by=run.signature.person.initials if run.signature else "",
        signed_due=run.signature.due if run.signature else None,
        abandoned=run.abandoned is not None,
    )


def _inspection(run: Run, tool: ToolFacts) -> tuple[InspectedLine, ...]:
    newest = {line.line: line for line in run.inspections}
    lines = []
    for name, fine_means in inspection_lines(tool.mechanism).items():
        seen = newest.get(name)
        lines.append(InspectedLine(name, fine_means, seen.fine if seen else None, seen.note if seen else ""))
    return tuple(lines)


def _room(run: Run, rules: RuleSet) -> RoomState | None:
    if not run.room:
        return None
    newest = run.room[-1]
    return RoomState(
        newest.temperature,
        newest.humidity,
        room_fits(newest.temperature, newest.humidity, rules),
        newest.note,
    )


def room_fits(temperature: float, humidity: float, rules: RuleSet) -> bool:
    """Whether a room is inside the rule set's bounds (ISO 6789-1:2017, 6.1)."""
    return rules.room.coldest <= temperature <= rules.room.warmest and humidity <= rules.room.humidity


def _set_up(run: Run) -> SetUpState | None:
    if not run.set_ups:
        return None
    newest = run.set_ups[-1]
    return SetUpState(reference_facts(newest.reference, newest.certificate), MeterMode(newest.mode), newest.override)


def _exercise(run: Run, tool: ToolFacts, rules: RuleSet) -> tuple[ExerciseState, ...]:
    wanted = rules.exercise if tool.kind.is_setting else 1
    return tuple(ExerciseState(d, sum(pull.direction == d for pull in run.exercises), wanted) for d in tool.directions)


def _newest_zero(run: Run, when: str) -> float | None:
    found = [z.torque for z in run.zero_checks if z.when == when]
    return found[-1] if found else None


def _zero_after(run: Run) -> float | None:
    """The zero after the series counts only when it is newer than the last reading that was taken or struck."""
    checks = [z for z in run.zero_checks if z.when == "after"]
    last = max((r.at for s in run.series for r in s.readings), default=None)
    if not checks or (last is not None and checks[-1].at < last):
        return None
    return checks[-1].torque


def _series(series: Series) -> SeriesState:
    return SeriesState(
        series.id, series.direction, series.target, series.wanted, tuple(_reading(r) for r in series.readings)
    )


def _reading(reading: Reading) -> ReadingState:
    struck = reading.strike.reason if reading.strike else ""
    return ReadingState(reading.id, reading.torque, reading.at, reading.source, struck)


def rule_set_text(name: str) -> str:
    """The text of the rule set named on a tool. Raises ShopRefused when there is none."""
    try:
        return rulesets.shipped_text(name)
    except rulesets.RuleSetRefused as refusal:
        raise ShopRefused(str(refusal)) from None


def plan(tool: ToolFacts, rules: RuleSet) -> tuple[tuple[str, float, int], ...]:
    """(direction, target, readings) for each series. Raises ShopRefused when the rule set has no points for the tool."""
    try:
        points = rules.points(tool.kind)
        rules.limit(tool.kind)
    except InputRefused as refusal:
        raise ShopRefused(f"{tool.number} cannot be tested by {rules.title}: {refusal.reason}.") from None
    count = rules.readings_for(tool.kind)
    return tuple((direction, target, count) for direction in tool.directions for target in points)
