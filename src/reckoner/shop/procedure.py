"""What procedures tell a run: why a reference may not decide, what could hurt, what one is worth for a tool, and an
observation as it comes to be kept. What a procedure is stands beside the run that asks it (``runs.state.Procedure``)."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum, auto

from reckoner.core.requirements.tooltypes import Direction
from reckoner.shop.facts.judged import ReferenceFacts
from reckoner.store.terms import ObservationKind, Source


class Distrust(Enum):
    """Why nothing may be decided: mostly for what the reference is."""

    NOT_CHOSEN = auto()
    CERTIFICATE_ENDED = auto()
    ZERO_MOVED = auto()
    UNPROVEN = auto()
    ROOM_NOT_MEASURED = auto()


class Caution(Enum):
    """What could hurt a person or a thing while this reference is used; words in ``shop.words.results``."""

    HANGING_WEIGHTS = auto()
    CLAMP_THE_DRIVE = auto()
    LOADED_LEVER = auto()
    CAPACITY = auto()
    MAKER_RULES = auto()
    NUT = auto()
    IN_PARTS = auto()
    IN_LINE = auto()


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
class NewObservation:
    """An observation as it comes to be kept: torques in N·m, ``turned`` None where the reference does not tell."""

    kind: ObservationKind
    torque: float | None
    source: Source
    turned: Direction | None = None
    pull: str | None = None
    tool_value: float | None = None
    detail: str = "{}"
