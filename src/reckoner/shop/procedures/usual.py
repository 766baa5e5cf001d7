"""What holds for any reference unless its own procedure says otherwise."""

from __future__ import annotations

from datetime import date

from reckoner.core.errors import InputRefused
from reckoner.core.reference.certificate import ReferenceAtPoint
from reckoner.core.requirements.rules import RuleSet
from reckoner.core.translation import tr
from reckoner.shop.facts.judged import ReferenceFacts
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.procedure import Distrust, ReferenceCandidate
from reckoner.shop.runs.needs import Need, Want
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.steps import needs_pointer
from reckoner.store.reader import Reader


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

    def extended(
        self, reader: Reader, run: RunState, rules: RuleSet, more: tuple[float, ...], day: date
    ) -> tuple[ReferenceFacts, tuple[float, ...]]:
        reference = chosen(run)
        if run.set_up is not None and run.set_up.override:
            return reference, more  # it was taken although it does not suit, for a reason that is kept

        def reaches(point: float) -> bool:
            try:
                return self.weigh(reference, run.tool, rules, day, (point,)).suits
            except InputRefused:
                return False

        return reference, tuple(point for point in more if reaches(point))


def chosen(run: RunState) -> ReferenceFacts:
    """The run's reference. Raises ShopRefused where none was chosen."""
    if run.reference is None:
        raise ShopRefused(tr("Choose the reference first."))
    return run.reference
