"""What comes next at a reference that is set up: tools that are due, are here, and fit it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from reckoner.core.errors import InputRefused
from reckoner.core.translation import tr, tr_count
from reckoner.shop.facts.judged import ReferenceFacts
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.planning.agenda import DayList, items
from reckoner.shop.procedures.meter import MeterProcedure
from reckoner.shop.register.cards import ToolCard
from reckoner.shop.runs.document import rules_from
from reckoner.shop.runs.loading import rule_set_text
from reckoner.store.reader import Reader

LOOKED_AT = 60
"""Due tools that are held against the reference, the longest overdue first."""


@dataclass(frozen=True)
class NextUp:
    """The tools that fit, the most urgent first, and the reference's number."""

    reference: str
    tools: tuple[ToolCard, ...] = ()

    @property
    def words(self) -> str:
        """Such as "PM-5 is set up; two more due tools fit it"."""
        count = len(self.tools)
        if not count:
            return ""
        many = tr_count(
            "{counted} more due tool fits it",
            "{counted} more due tools fit it",
            count,
            counted=COUNTED.get(count, count),
        )
        return tr(
            "{reference} is set up; {many}: {list}.",
            reference=self.reference,
            many=many,
            list=", ".join(card.tool.number for card in self.tools[:SHOWN]),
        )


COUNTED = {1: tr("one"), 2: tr("two"), 3: tr("three"), 4: tr("four"), 5: tr("five"), 6: tr("six")}
SHOWN = 4


def next_up(reader: Reader, reference: ReferenceFacts, tool_id: int, today: date) -> NextUp:
    """What is due and can be tested at a meter, beside the tool that was just tested there."""
    if reference.by_hand or not reference.proven:
        return NextUp(reference.number)
    fits = []
    for waiting in (DayList.OVERDUE, DayList.DUE_SOON):
        for item in items(reader, waiting, today, 0, LOOKED_AT):
            card = item.card
            if card.tool.id != tool_id and card.loan is None and _fits(reference, card, today):
                fits.append(card)
    return NextUp(reference.number, tuple(fits))


def _fits(reference: ReferenceFacts, card: ToolCard, today: date) -> bool:
    tool = card.tool
    try:
        rules = rules_from(rule_set_text(tool.rule_set, tool), tool.rule_set)
        return MeterProcedure().weigh(reference, tool, rules, today).suits
    except (InputRefused, ShopRefused):  # its rule set cannot test it, or names no point
        return False
