"""What is brought to be lent: a tool that was scanned or named, or the tools of a job card, each with what stands against
it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from reckoner.core.translation import tr
from reckoner.shop.register.cards import ToolCard
from reckoner.shop.using.cards import card_line
from reckoner.shop.using.choosing import stand_ins
from reckoner.shop.using.known import named_tool
from reckoner.shop.using.lending import WantedSetting, why_not_lent
from reckoner.shop.using.working import loans_of
from reckoner.store.reader import Reader

USUAL_SHARE = 0.6
"""Of full scale: what a tool is taken to be wanted for where nobody said."""


@dataclass(frozen=True)
class ScannedTool:
    """What was named: the one tool (None where there is none, or ``many``), ``why`` it does not go, empty when it does or is
    lent already, and what could go ``instead``."""

    card: ToolCard | None
    many: int
    why: str = ""
    instead: tuple[ToolCard, ...] = ()


def scanned(reader: Reader, text: str, today: date, wanted: Sequence[WantedSetting]) -> ScannedTool:
    """The tool that a scan or typed words name."""
    card, _known, many = named_tool(reader, text, today)
    if card is None or card.loan is not None or not (why := why_not_lent(reader, card, today, wanted)):
        return ScannedTool(card, many)
    torque = wanted[0].set if wanted else card.tool.kind.maximum * USUAL_SHARE
    return ScannedTool(card, many, why, tuple(one.card for one in stand_ins(reader, card, torque, today)))


@dataclass(frozen=True)
class ForCard:
    """A tool that a job card names, with what it is for; ``why`` it does not go, empty when it does."""

    card: ToolCard
    wanted: tuple[WantedSetting, ...]
    why: str = ""


@dataclass(frozen=True)
class CardLoan:
    """A job, and the tools that its card names."""

    job: str = ""
    tools: tuple[ForCard, ...] = ()


def loan_for(reader: Reader, card_id: int, today: date) -> CardLoan:
    """What a job card wants lent, one tool after the other."""
    line = card_line(reader, card_id)
    if line is None or line.card is None:
        return CardLoan()
    tools = []
    for card, wanted in loans_of(reader, line.card, today):
        why = why_not_lent(reader, card, today, wanted)
        if why:
            others = [one.card.tool.number for one in stand_ins(reader, card, wanted[0].set, today)]
            instead = tr("{list} or another one", list=", ".join(others)) if others else tr("another one")
            why = tr("{why} Put {instead} on the card.", why=why, instead=instead)
        tools.append(ForCard(card, wanted, why))
    return CardLoan(line.card.title or line.number, tuple(tools))
