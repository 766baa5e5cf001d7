"""The kinds of run: one policy record each. The bench asks the policy, never the kind.

To add a kind: a member of ``store.terms.RunKind`` and a row in ``POLICIES``; what it concludes stands in ``outcomes``.
"""

from __future__ import annotations

from dataclasses import dataclass

from reckoner.core.translation import tr
from reckoner.store.terms import RunKind


@dataclass(frozen=True)
class KindPolicy:
    """What a kind of run is like.

    ``judges`` its tool's deviation; ``renews`` the due date; ``adjusts``: the tool may be adjusted in it; ``binds``: what
    departs from the rule set wants a reason; ``compares`` with the tool's last results; ``measures`` effects place by
    place; ``contrasts`` two sides; ``diary``: it takes the same readings after each
    thing that is done to the tool; ``rule_set`` it goes by unless another is chosen (empty: the tool's own); ``readings`` at
    each point (None: the rule set's); ``one_point`` only; ``step`` names the step of its readings; ``released_by`` why it
    ends a hold; ``glance``: it is looked over in one glance, and what is known of the room and the zero is not asked for.
    """

    words: str
    judges: bool = True
    renews: bool = False
    adjusts: bool = False
    binds: bool = False
    compares: bool = False
    measures: bool = False
    contrasts: bool = False
    diary: bool = False
    rule_set: str = ""
    readings: int | None = None
    one_point: bool = False
    step: str = tr("As found")
    glance: bool = False
    released_by: str = ""

    @property
    def beside_first(self) -> bool:
        """Whether its readings are held against its own first series, and not against a limit."""
        return self.contrasts or self.diary


POLICIES: dict[RunKind, KindPolicy] = {
    RunKind.FULL: KindPolicy(
        tr("Full run"), renews=True, adjusts=True, binds=True, released_by=tr("a full run accepted it")
    ),
    RunKind.CHECK: KindPolicy(
        tr("Quick check"), rule_set="quick-check", glance=True, released_by=tr("a quick check released it")
    ),
    RunKind.EVENT: KindPolicy(
        tr("Check for a change"),
        compares=True,
        rule_set="quick-check",
        readings=5,
        glance=True,
        released_by=tr("the check after the event released it"),
    ),
    RunKind.CHARACTERISE: KindPolicy(
        tr("Characterisation"), judges=False, measures=True, readings=5, one_point=True, step=tr("Measure")
    ),
    RunKind.COMPARE: KindPolicy(
        tr("Comparison"), judges=False, contrasts=True, readings=5, one_point=True, step=tr("Compare"), glance=True
    ),
    RunKind.DIARY: KindPolicy(
        tr("Diary of abuse"), judges=False, diary=True, readings=8, one_point=True, step=tr("Read"), glance=True
    ),
}
