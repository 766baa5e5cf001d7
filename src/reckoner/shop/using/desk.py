"""What the desk reads: the loans and the trips that are open, late ones first.

What is brought to be lent: a tool that was scanned or named, or the tools of a job card, each with what stands against
it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.days import day_words
from reckoner.core.quantities.printing import quantity, span
from reckoner.core.quantities.units import Unit
from reckoner.core.tightening.setting import read_band
from reckoner.core.translation import tr, tr_count
from reckoner.shop.events.standing import Loan
from reckoner.shop.register.cards import ToolCard, cards_of
from reckoner.shop.using.cards import card_line
from reckoner.shop.using.choosing import stand_ins
from reckoner.shop.using.known import named_tool
from reckoner.shop.using.lending import WantedSetting, why_not_lent
from reckoner.shop.using.working import loans_of
from reckoner.store.reader import Reader

MOST = 500

_LENT = """
SELECT l.tool_id, l.number, l.back_by FROM tool_listing l WHERE l.lent = TRUE
ORDER BY l.back_by IS NULL, l.back_by, l.number LIMIT :count
"""

_AWAY = """
SELECT s.tool_id, l.number, s.away_until FROM tool_standing s JOIN tool_listing l ON l.tool_id = s.tool_id
WHERE s.away_since IS NOT NULL ORDER BY s.away_until IS NULL, s.away_until, l.number LIMIT :count
"""


@dataclass(frozen=True)
class ToolAway:
    """A tool that somebody else has: to whom or where, since when, expected ``by`` (None: nobody said), and ``days`` late
    (0: not late)."""

    card: ToolCard
    to: str
    since: date
    by: date | None
    days: int

    @property
    def words(self) -> str:
        """Such as "since 3 Mar, back on 6 Mar: 4 days late"."""
        until = tr(", back on {by}", by=day_words(self.by)) if self.by is not None else tr(", no day was said")
        late = tr_count(": {n} day late", ": {n} days late", self.days) if self.days else ""
        return tr("since {since}{until}{late}", since=day_words(self.since), until=until, late=late)


def out_of(card: ToolCard, loan: Loan, today: date) -> ToolAway:
    """A tool with who has it."""
    late = max(0, (today - loan.due_back).days) if loan.due_back is not None else 0
    return ToolAway(card, loan.to, loan.since, loan.due_back, late)


def lent(reader: Reader, today: date) -> tuple[ToolAway, ...]:
    """The tools that are lent, those past their date first."""
    found = cards_of(reader, _LENT, "p.back_by IS NULL, p.back_by, p.number", count=MOST)
    return tuple(out_of(c, c.loan, today) for c in found if c.loan is not None)


def away(reader: Reader, today: date) -> tuple[ToolAway, ...]:
    """The tools at laboratories, those that are late first."""
    found = cards_of(reader, _AWAY, "p.away_until IS NULL, p.away_until, p.number", count=MOST)
    return tuple(out_of(c, c.standing.away, today) for c in found if c.standing.away is not None)


_SETTINGS = """
SELECT l.job, l.joint, l.torque_set, l.factor, l.adapter, l.low, l.high FROM loan_setting l
WHERE l.event_id = (
  SELECT e.id FROM tool_event e WHERE e.tool_id = :tool AND e.kind = 'lent' ORDER BY e.sequence DESC LIMIT 1)
ORDER BY l.id
"""


def settings_words(reader: Reader, tool_id: int, unit: Unit) -> tuple[str, ...]:
    """What the newest loan of a tool is for, a line for each setting."""
    said = []
    for row in reader.rows(_SETTINGS, tool=tool_id):
        words = tr("set to {torque_set}", torque_set=quantity(row.torque_set, unit))
        if row.low and row.high:
            words += tr(" for {low}", low=span(row.low, row.high, unit))
        where = " · ".join(w for w in (row.job, row.joint, row.adapter) if w)
        said.append(f"{words}{f' ({where})' if where else ''}")
    return tuple(said)


def read_wanted(text: str, unit: Unit, field: str = "setting") -> WantedSetting:
    """What a person types for what a loan is for: "70 N.m", "70 N.m for 76 to 84", "70 for 80 +/- 5 %". Raises InputRefused.

    >>> from reckoner.core.quantities.units import N_M
    >>> read_wanted("70 N.m for 76 to 84", N_M).band
    Band(low=76.0, high=84.0)
    """
    first, divided, rest = text.partition(" for ")
    setting, said_in = read_band(first, unit, field)
    if not setting.is_one:
        raise InputRefused(
            field, text, tr('"{first}" is a band; write the setting first, such as 70 N.m for 76 to 84', first=first)
        )
    band = read_band(rest, said_in, field)[0] if divided and rest.strip() else None
    factor = 1.0
    if band is not None and not band.low <= setting.low <= band.high:
        factor = (band.low + band.high) / 2 / setting.low  # an adapter makes the difference
        if not 0.5 <= factor <= 2:
            raise InputRefused(
                field, text, tr("the setting and what the joint gets are more than twofold apart; look again")
            )
    return WantedSetting(setting.low, factor=factor, band=band, adapter=tr("an adapter") if factor != 1.0 else "")


def wanted_words(wanted: WantedSetting, unit: Unit) -> str:
    """A setting as it stands in the list of what a loan is for."""
    band = tr(" for {low}", low=span(wanted.band.low, wanted.band.high, unit)) if wanted.band is not None else ""
    return f"{quantity(wanted.set, unit)}{band}"


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
