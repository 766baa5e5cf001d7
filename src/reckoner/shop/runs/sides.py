"""A comparison's two sides: what they are, what their ratio should be, and what was found. A, B, and A once more.

To add something to compare: a member of ``store.terms.Contrast`` and a row in ``CONTRASTS``.
"""

from __future__ import annotations

import json
from dataclasses import dataclass

from reckoner.core.errors import InputRefused
from reckoner.core.tightening.adapters import Adapter, Lever, factor
from reckoner.core.translation import tr
from reckoner.formats.documents import from_plain, to_plain
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.people.authorship import ShopRefused
from reckoner.store.terms import Contrast


@dataclass(frozen=True)
class ContrastFacts:
    """What is compared, in ``words``, and what the two sides are called unless they are named. ``again``: A is taken once
    more, to see that nothing else has moved. ``adapters`` says which sides have one, ``hands`` that it matters where the
    hand pulls."""

    words: str
    names: tuple[str, str]
    again: bool = True
    adapters: tuple[bool, bool] = (False, False)
    hands: bool = False


CONTRASTS: dict[Contrast, ContrastFacts] = {
    Contrast.ADAPTER: ContrastFacts(
        tr("with and without an adapter"), (tr("bare"), tr("with the adapter")), adapters=(False, True)
    ),
    Contrast.ADAPTERS: ContrastFacts(
        tr("two adapters"), (tr("the first adapter"), tr("the second")), adapters=(True, True)
    ),
    Contrast.PEOPLE: ContrastFacts(tr("two people"), (tr("one person"), tr("the other"))),
    Contrast.GRIPS: ContrastFacts(tr("two grips"), (tr("at the mark"), tr("elsewhere")), hands=True),
    Contrast.CHANGE: ContrastFacts(tr("before and after"), (tr("before"), tr("after")), again=False),
}

FURTHEST_HAND = 1.3
"""Of the lever to the grip mark: no handle goes on further."""

LONGEST_NAME = 40
"""Characters of a side's name."""


@dataclass(frozen=True)
class Side:
    """One side: its ``name``, and as far as known its adapter (m, and rad from the handle's axis) and where the hand pulls (m
    from the drive; None: at the grip mark)."""

    name: str
    adapter: float | None = None
    angle: float = 0.0
    hand: float | None = None


@dataclass(frozen=True)
class SidesPlan:
    """What a comparison holds against each other."""

    contrast: Contrast
    first: Side
    second: Side

    @classmethod
    def of(cls, contrast: Contrast) -> SidesPlan:
        """As it is proposed."""
        one, two = CONTRASTS[contrast].names
        return cls(contrast, Side(one), Side(two))

    @property
    def facts(self) -> ContrastFacts:
        return CONTRASTS[self.contrast]

    @property
    def places(self) -> tuple[Side, ...]:
        """The sides in the order in which they are pulled."""
        return (self.first, self.second, self.first) if self.facts.again else (self.first, self.second)

    def expected(self, tool: ToolFacts) -> float | None:
        """What the second side's torque over the first's should be, by the lever sum; None where too little is known.

        Raises InputRefused for a lever that cannot be.
        """
        facts = self.facts
        asked = ((self.first, facts.adapters[0]), (self.second, facts.adapters[1]))
        if not (facts.hands or any(facts.adapters)):
            return 1.0
        if tool.lever is None or any(of_adapter and side.adapter is None for side, of_adapter in asked):
            return None
        if facts.hands and self.first.hand is None and self.second.hand is None:
            return None
        one, two = (_factor(tool, side) for side in (self.first, self.second))
        return two / one

    def check(self, tool: ToolFacts) -> None:
        """Raises ShopRefused for sides that cannot be held against each other."""
        for side in (self.first, self.second):
            if not side.name.strip():
                raise ShopRefused(tr("Name both sides, so that the record says what was compared."))
            if len(side.name) > LONGEST_NAME:
                raise ShopRefused(
                    tr(
                        "“{name}…” is too long a name for a side; {longest_name} characters at most.",
                        name=side.name[:20],
                        longest_name=LONGEST_NAME,
                    )
                )
        if self.first.name.strip().lower() == self.second.name.strip().lower():
            raise ShopRefused(tr("The two sides have the same name; call them differently."))
        for side in (self.first, self.second):
            if tool.lever is not None and max(side.adapter or 0.0, (side.hand or 0.0) / FURTHEST_HAND) > tool.lever:
                raise ShopRefused(
                    tr(
                        "“{name}”: no adapter is longer than the wrench, and no hand pulls that far out; check the "
                        "length and its unit.",
                        name=side.name,
                    )
                )
        try:
            self.expected(tool)
        except InputRefused as refusal:
            raise ShopRefused(f"{refusal.reason[:1].upper()}{refusal.reason[1:]}.") from None


def _factor(tool: ToolFacts, side: Side) -> float:
    lever = Lever(tool.lever or 0.0, tool.pivot, side.hand)
    return factor(lever, [Adapter(side.adapter, side.angle)] if side.adapter is not None else ())


def written(plan: SidesPlan) -> str:
    """As it is kept with the run (JSON)."""
    return json.dumps(to_plain(plan))


def from_document(text: str) -> SidesPlan:
    """What ``written`` wrote. Raises DocumentUnreadable."""
    return from_plain(SidesPlan, json.loads(text))
