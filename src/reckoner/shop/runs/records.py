"""A run's records as they were loaded: what was looked at, taken and struck. Frozen; torques in N·m."""

from __future__ import annotations

import json
from dataclasses import dataclass
from datetime import date, datetime
from enum import Enum
from typing import NamedTuple

from reckoner.core.decision.conformity import OneSidedProof
from reckoner.core.decision.suspect import FirstReleases, Suspicion, first_releases
from reckoner.core.requirements.rules import Rule
from reckoner.core.requirements.tooltypes import Direction, MeterMode
from reckoner.core.trace.event import Fault
from reckoner.core.translation import mark
from reckoner.core.uncertainty.budget import Effect
from reckoner.store.terms import Abuse, ObservationKind, Outcome, PhaseKind, ReadingOwner, Source

NOTHING = "{}"
"""The detail of what has none."""


BOUND = "bound"
"""In the detail of an observation that says something of one side only: what it proves
(``core.decision.conformity.OneSidedProof``)."""

HALF = "half"
"""In the detail of a value that is half of a pair: what the tool's own display showed is an observation of its own."""

OF = "of"
"""In the detail of what the tool's display showed: the id of the observation that it belongs to."""

ONE_SIDED = 2
"""Observations that prove a point outside from one side, as many as make its series complete."""


def proves_outside(detail: str) -> bool:
    """Whether an observation alone proves its tool outside: it was silent too far up, or signalled too early."""
    return BOUND in detail and json.loads(detail).get(BOUND) == OneSidedProof.OUTSIDE


def is_half(detail: str) -> bool:
    """Whether an observation is the reference's half of a pair."""
    return HALF in detail and bool(json.loads(detail).get(HALF))


def shown_of(detail: str) -> int | None:
    """Of which observation the tool's display showed it; None for what is not from a display."""
    of = json.loads(detail).get(OF)
    return of if isinstance(of, int) else None


class Phase(NamedTuple):
    """What a series is taken for; ``round`` counts the adjustments and what is left after each."""

    kind: PhaseKind
    round: int = 0


CAME = Phase(PhaseKind.CAME)
FOUND = Phase(PhaseKind.FOUND)
MEASURE = Phase(PhaseKind.MEASURE)


@dataclass(frozen=True)
class InspectedLine:
    """One line of the look-over; ``fine`` None while it was not looked at."""

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
class Zeros:
    """What the reference and the tool's pointer showed with nothing on them, before and after; None: not looked at."""

    before: float | None = None
    after: float | None = None
    pointer_before: float | None = None
    pointer_after: float | None = None


@dataclass(frozen=True)
class SetUpState:
    """``override`` is the reason where a rule was set aside; ``link`` how the shop reaches the reference; ``detail`` (JSON)
    what its procedure has learnt beyond it."""

    mode: MeterMode
    override: str
    link: str = ""
    detail: str = NOTHING


@dataclass(frozen=True)
class ExerciseState:
    """Releases made and wanted, for one direction."""

    direction: Direction
    done: int
    wanted: int


@dataclass(frozen=True)
class KeptAnswer:
    """What a person said of a reading that was asked about: it counts."""

    why: Suspicion
    whose: ReadingOwner


@dataclass(frozen=True)
class ObservationState:
    """One observation. ``torque`` is what the reference said, ``tool_value`` what the tool was set to or showed where that
    is not its series' target; ``detail`` (JSON) what else its procedure keeps; ``over_travel`` a fraction; ``kept`` where
    it was asked about."""

    id: int
    at: datetime
    kind: ObservationKind
    torque: float | None
    source: Source
    struck: str = ""
    tool_value: float | None = None
    pull: str | None = None
    faults: tuple[Fault, ...] = ()
    over_travel: float | None = None
    detail: str = NOTHING
    kept: KeptAnswer | None = None

    @property
    def counts(self) -> bool:
        return not self.struck


class Pair(NamedTuple):
    """What an observation, or several, says: the tool's value X_a and the reference's X_r, and the observation's id."""

    tool: float
    reference: float
    observation_id: int

    @property
    def deviation(self) -> float:
        """a = (X_a − X_r)/X_r (ISO 6789-1:2017, 6.2.5)."""
        return self.tool / self.reference - 1


@dataclass(frozen=True)
class SeriesState:
    """The observations at one target in one direction, struck ones among them, and the ``pairs`` that those which count
    make by the reference's procedure. Zeros None where not looked at."""

    id: int
    phase: Phase
    direction: Direction
    target: float
    wanted: int
    observations: tuple[ObservationState, ...]
    pairs: tuple[Pair, ...]
    struck_pairs: tuple[Pair, ...] = ()
    effect: Effect | None = None
    place: int | None = None
    turn: float | None = None
    zero_before: float | None = None
    zero_after: float | None = None
    abuse: Abuse | None = None
    abuse_note: str = ""

    @property
    def counted(self) -> tuple[ObservationState, ...]:
        """The observations that are not struck."""
        return tuple(o for o in self.observations if o.counts)

    @property
    def one_sided(self) -> bool:
        """Whether it is proven outside from one side: what it is off by is that or more."""
        return any(proves_outside(o.detail) for o in self.counted)

    @property
    def missing(self) -> int:
        wanted = min(self.wanted, ONE_SIDED) if self.one_sided else self.wanted
        return max(0, wanted - len(self.pairs))

    @property
    def torques(self) -> tuple[float, ...]:
        """The reference's side of the pairs."""
        return tuple(p.reference for p in self.pairs)

    @property
    def readings(self) -> tuple[float, ...]:
        """The pairs as readings of the target: where the torque is fixed and the tool's value varies, what a meter would have
        shown. They are held beside those of other runs."""
        return tuple(self.target * p.reference / p.tool for p in self.pairs)

    @property
    def mean(self) -> float:
        """Mean of the readings that count; 0 without any."""
        return sum(self.readings) / len(self.readings) if self.pairs else 0.0

    @property
    def zero_moved_by(self) -> float:
        """How far the reference's zero moved over the series; 0 where it was not looked at twice."""
        if self.zero_before is None or self.zero_after is None:
            return 0.0
        return self.zero_after - self.zero_before

    @property
    def awaiting(self) -> ObservationState | None:
        """The pull of which it is not known yet what the tool's display showed; None where nothing is missing."""
        paired = {p.observation_id for p in self.pairs}
        return next((o for o in self.counted if is_half(o.detail) and o.id not in paired), None)

    def pull_of(self, shown: ObservationState) -> ObservationState:
        """The observation that ``shown`` belongs to: the pull of what a display showed, else itself."""
        of = shown_of(shown.detail) if shown.kind is ObservationKind.SHOWN else None
        return next((o for o in self.observations if o.id == of), shown)

    def ends_pair(self, observation: ObservationState) -> bool:
        """Whether an observation is the one by which a pair goes."""
        return any(p.observation_id == observation.id for p in self.pairs)

    def behind(self, observation: ObservationState) -> tuple[int, ...]:
        """The ids of what made the pair of an observation: itself, or where several answers make one, those since the pair
        before."""
        if observation.kind not in (ObservationKind.CLICKED, ObservationKind.SILENT):
            return (observation.id,)
        pairs = [p.observation_id for p in self.pairs]
        end = next((i for i in pairs if i >= observation.id), None)
        if end is None:
            return (observation.id,)
        before = max((i for i in pairs if i < end), default=0)
        return tuple(o.id for o in self.counted if before < o.id <= end)

    def pair_of(self, observation: ObservationState) -> Pair | None:
        """What one observation says, struck or not; None for one that says nothing alone."""
        return next((p for p in (*self.pairs, *self.struck_pairs) if p.observation_id == observation.id), None)

    def first_releases(self) -> FirstReleases | None:
        """First releases that stand apart from the settled ones."""
        return first_releases(self.torques) if len(self.torques) >= 4 else None


@dataclass(frozen=True)
class AdjustingState:
    """An adjustment under way: at which target and direction, and its series so far, the first with the readings before
    any turn."""

    number: int
    target: float
    direction: Direction
    steps: tuple[SeriesState, ...]

    @property
    def turns(self) -> float:
        """Where the screw stands now, in signed turns clockwise from where it was found."""
        return sum(s.turn or 0.0 for s in self.steps)


@dataclass(frozen=True)
class EarlierSeries:
    """The readings of the last signed run at one target in one direction: what an event's check compares with."""

    target: float
    direction: Direction
    on: date
    torques: tuple[float, ...]


@dataclass(frozen=True)
class PlanRecord:
    """How the run was planned: what was chosen instead of the rule set's rule and the mechanism's mode, and why."""

    rule: Rule | None = None
    mode: MeterMode | None = None
    adapter: str = ""
    note: str = ""


@dataclass(frozen=True)
class SignedState:
    """Who signed, when, what followed, and the ``note`` to it; ``link`` is the run's link in the chain of digests, as it is
    noted down."""

    on: date
    by: str
    beside: str
    due: date | None
    outcome: Outcome | None
    link: str = ""
    certificate: str = ""
    note: str = ""


@dataclass(frozen=True)
class ReadingQuestion:
    """Something to be said about ``readings`` of a ``series``, one of them or several alike, before they count: ``of`` is the
    target (N·m) at which they would lie, ``first`` says by how much first releases stand apart."""

    series: SeriesState
    readings: tuple[ObservationState, ...]
    why: Suspicion
    of: float | None = None
    first: FirstReleases | None = None

    @property
    def ids(self) -> tuple[int, ...]:
        return tuple(o.id for o in self.readings)

    @property
    def struck(self) -> tuple[int, ...]:
        """The ids of what is struck with them."""
        return tuple(i for o in self.readings for i in self.series.behind(o))


class Step(Enum):
    """The steps, in order. AS_IT_CAME is there only where it was planned, ADJUST and AS_LEFT once an adjustment was begun."""

    LOOK_OVER = mark("look over")
    SET_UP = mark("set up")
    AS_IT_CAME = mark("as it came")
    EXERCISE = mark("exercise")
    AS_FOUND = mark("as found")
    ADJUST = mark("adjust")
    AS_LEFT = mark("as left")
    DECIDE = mark("decide")
    SIGNED = mark("signed")


READING_STEPS = (Step.AS_IT_CAME, Step.AS_FOUND, Step.AS_LEFT)
"""The steps in which whole series are taken."""
