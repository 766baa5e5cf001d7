"""A force gauge or hanging scale on the lever: each pull's force is a torque, as a meter's reading is."""

from __future__ import annotations

from datetime import date
from typing import TYPE_CHECKING

from reckoner.core.reference import ReferenceAtPoint
from reckoner.core.rules import RuleSet
from reckoner.shop.facts import ReferenceFacts
from reckoner.shop.procedures.base import Candidate, Caution, Distrust
from reckoner.shop.procedures.meter import MeterProcedure
from reckoner.shop.runs.needs import Need, Want
from reckoner.shop.toolfacts import ToolFacts
from reckoner.store.terms import ReferenceKind

if TYPE_CHECKING:
    from reckoner.shop.runs.state import RunState


class GaugeProcedure(MeterProcedure):
    """As a meter, but that nothing has to be zeroed on the bench, and that its worth follows from the set-up."""

    kind: ReferenceKind = ReferenceKind.GAUGE
    cautions: tuple[Caution, ...] = (
        Caution.CLAMP_THE_DRIVE,
        Caution.LOADED_LEVER,
        Caution.CAPACITY,
        Caution.MAKER_RULES,
    )

    def set_up_wants(self, run: RunState) -> tuple[Want, ...]:
        return tuple(want for want in super().set_up_wants(run) if want.need is not Need.ZERO)

    def closing_wants(self, run: RunState) -> tuple[Want, ...]:
        from reckoner.shop.runs.steps import needs_pointer

        wanted = needs_pointer(run) and run.zeros.pointer_after is None
        return (Want(Need.POINTER_AFTER),) if wanted else ()

    def at(self, reference: ReferenceFacts, torque: float, detail: str) -> ReferenceAtPoint:
        return reference.at(torque)

    def distrust(self, run: RunState, day: date) -> Distrust | None:
        if run.reference is None:
            return Distrust.NOT_CHOSEN
        return None if run.reference.proven else Distrust.UNPROVEN

    def weigh(
        self,
        reference: ReferenceFacts,
        tool: ToolFacts,
        rules: RuleSet,
        day: date,
        points: tuple[float, ...] | None = None,
    ) -> Candidate:
        """Raises InputRefused when neither ``points`` nor the rule set names any."""
        worst = max(reference.at(point).expanded_uncertainty for point in points or rules.points(tool.kind))
        return Candidate(reference, (), worst)
