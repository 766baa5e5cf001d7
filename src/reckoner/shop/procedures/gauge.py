"""A force gauge or hanging scale on the lever: each pull's force is a torque, as a meter's reading is."""

from __future__ import annotations

from typing import TYPE_CHECKING

from reckoner.shop.procedures.base import Caution, Seen
from reckoner.shop.procedures.meter import admit_pull, pull_pairs
from reckoner.shop.procedures.usual import UsualProcedure
from reckoner.shop.runs.records import ObservationState, Pair
from reckoner.store.terms import ReferenceKind

if TYPE_CHECKING:
    from reckoner.shop.runs.records import SeriesState
    from reckoner.shop.runs.state import RunState


class GaugeProcedure(UsualProcedure):
    """Its worth follows from the set-up, and nothing has to be zeroed on the bench."""

    kind: ReferenceKind = ReferenceKind.GAUGE
    cautions: tuple[Caution, ...] = (
        Caution.CLAMP_THE_DRIVE,
        Caution.LOADED_LEVER,
        Caution.CAPACITY,
        Caution.MAKER_RULES,
    )

    def admit(self, run: RunState, series: SeriesState, seen: Seen) -> Seen:
        return admit_pull(run, series, seen)

    def pairs(
        self, target: float, observations: tuple[ObservationState, ...], detail: str, correction: float
    ) -> tuple[Pair, ...]:
        return pull_pairs(target, observations, correction)
