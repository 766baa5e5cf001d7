"""What holds for any reference unless its own procedure says otherwise."""

from __future__ import annotations

from datetime import date

from reckoner.core.reference.certificate import ReferenceAtPoint
from reckoner.core.requirements.rules import RuleSet
from reckoner.shop.facts.judged import ReferenceFacts
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.procedure import Distrust, ReferenceCandidate
from reckoner.shop.runs.needs import Need, Want
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.steps import needs_pointer


class UsualProcedure:
    """``zeroed``: the reference has a zero of its own, which frames the readings."""

    zeroed = False
    after_a_turn = 3
    one_pull_tells = True

    def set_up_wants(self, run: RunState) -> tuple[Want, ...]:
        there = {
            Need.REFERENCE: run.reference is not None,
            Need.ROOM: run.room_said,
            Need.ZERO: not self.zeroed or run.zeros.before is not None,
            Need.POINTER: not needs_pointer(run) or run.zeros.pointer_before is not None,
        }
        return tuple(Want(need) for need, met in there.items() if not met)

    def closing_wants(self, run: RunState) -> tuple[Want, ...]:
        if self.zeroed and run.zeros.after is None:
            return (Want(Need.ZERO_AFTER),)
        if needs_pointer(run) and run.zeros.pointer_after is None:
            return (Want(Need.POINTER_AFTER),)
        return ()

    def beyond(self, run: RunState) -> bool:
        return False

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
    ) -> ReferenceCandidate:
        """Raises InputRefused when neither ``points`` nor the rule set names any."""
        worst = max(reference.at(point).expanded_uncertainty for point in points or rules.points(tool.kind))
        return ReferenceCandidate(reference, (), worst)
