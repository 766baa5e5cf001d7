"""What a procedure is: all that depends on the kind of reference."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from enum import Enum, auto
from typing import TYPE_CHECKING, Protocol

from reckoner.core.kinds import Direction
from reckoner.core.reference import ReferenceAtPoint
from reckoner.core.rules import RuleSet
from reckoner.shop.facts import ReferenceFacts
from reckoner.shop.toolfacts import ToolFacts
from reckoner.store.terms import ObservationKind, ReferenceKind, Source

if TYPE_CHECKING:
    from reckoner.shop.procedures.papers import Papers
    from reckoner.shop.runs.needs import Want
    from reckoner.shop.runs.records import ObservationState, Pair, SeriesState
    from reckoner.shop.runs.state import RunState


class Distrust(Enum):
    """Why a reference may not decide."""

    NOT_CHOSEN = auto()
    CERTIFICATE_ENDED = auto()
    ZERO_MOVED = auto()
    UNPROVEN = auto()


class Caution(Enum):
    """What could hurt a person or a thing while this reference is used; words in ``shop.wording``."""

    HANGING_WEIGHTS = auto()
    CLAMP_THE_DRIVE = auto()
    LOADED_LEVER = auto()
    CAPACITY = auto()
    MAKER_RULES = auto()
    NUT = auto()


@dataclass(frozen=True)
class ReferenceCandidate:
    """A reference weighed for a tool. ``against`` holds a sentence for each reason not to take it; empty: it suits. One that
    is not ``proven`` compares and decides nothing."""

    reference: ReferenceFacts
    against: tuple[str, ...]
    worst_uncertainty: float
    link: str = ""

    @property
    def proven(self) -> bool:
        return self.reference.proven

    @property
    def suits(self) -> bool:
        return not self.against


@dataclass(frozen=True)
class Seen:
    """An observation as it comes to be kept: torques in N·m, ``turned`` None where the reference does not tell."""

    kind: ObservationKind
    torque: float | None
    source: Source
    turned: Direction | None = None
    pull: str | None = None
    tool_value: float | None = None
    detail: str = "{}"


class Procedure(Protocol):
    """One kind of reference: what set-up must learn, what an observation is, and how it becomes a pair (X_a, X_r)."""

    kind: ReferenceKind
    cautions: tuple[Caution, ...]
    after_a_turn: int
    """Readings that are offered after each turn of an adjusting screw; one is enough to go on."""
    one_pull_tells: bool
    """Whether a single pull is a reading; of answers it takes several."""

    papers: Papers
    """What papers and the derivation say of the reference."""

    def set_up_wants(self, run: RunState) -> tuple[Want, ...]:
        """What set-up has still to learn, in order."""
        ...

    def closing_wants(self, run: RunState) -> tuple[Want, ...]:
        """What has to be looked at once all observations are taken."""
        ...

    def admit(self, run: RunState, series: SeriesState, seen: Seen) -> Seen:
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
