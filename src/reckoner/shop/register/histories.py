"""Results of a tool as its history holds them: a run, or a certificate from elsewhere, with its points."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from reckoner.core.decision.states import State
from reckoner.core.requirements.tooltypes import Direction
from reckoner.store.terms import RunKind


@dataclass(frozen=True)
class PointHistory:
    """One point of one signed run; fractions."""

    target: float
    direction: Direction
    deviation: float
    worst: float
    expanded_uncertainty: float
    reference_error: float
    near_zone: float
    limit: float
    state: State
    as_left: bool = False


@dataclass(frozen=True)
class RunHistory:
    """One signed run."""

    run_id: int
    sequence: int
    on: date
    kind: RunKind
    state: State
    accepted: bool | None
    sentence: str
    by: str
    due: date | None
    due_note: str
    reference: str
    points: tuple[PointHistory, ...]
    note: str = ""
