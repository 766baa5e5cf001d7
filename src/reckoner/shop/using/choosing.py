"""Which tool for a torque: those that may be used, best first, and why each other one was passed over."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.printing import percent
from reckoner.core.requirements.tooltypes import Mechanism
from reckoner.core.tightening.choosing import ALLOWED, Demand, PassedOver, Ranked, ToolCandidate, rank
from reckoner.core.tightening.setting import Band
from reckoner.core.translation import tr
from reckoner.shop.register.cards import ToolCard, cards_of
from reckoner.shop.using.known import KnownErrors, first_direction, known_of
from reckoner.shop.using.setting import SettingAnswer, SettingQuestion, answer
from reckoner.shop.words.results import settable
from reckoner.store.reader import Reader

MOST = 60
"""Tools that are looked at: those whose range holds the torque, the smallest full scale first."""

NARROW = 0.05
"""A band whose half is no more than this part of its middle asks for a good tool."""


@dataclass(frozen=True)
class Criticality:
    """What a joint is critical in, as a person says: ``narrow`` as its band is, ``slip_first`` where over-torque is the
    danger or many hands share the tool."""

    narrow: bool = False
    over_torque: bool = False
    many_hands: bool = False


@dataclass(frozen=True)
class RankedTool:
    """A tool in the ranking, with what is known of it; ``setting`` is what it is set to with its own correction and with
    what is on it, N·m. ``why_not``: the sum cannot be made with it."""

    card: ToolCard
    known: KnownErrors | None
    ranked: Ranked
    setting: float
    why_not: str = ""

    @property
    def usable(self) -> bool:
        return self.ranked.passed is None and not self.why_not

    @property
    def setting_words(self) -> str:
        """What it is set to, or watched up to, as its scale can be read."""
        tool = self.card.tool
        return settable(tool.kind, self.setting, tool.unit)

    @property
    def words(self) -> str:
        """Why it stands where it does."""
        share = percent(self.ranked.of_full_scale, 0)
        if self.why_not:
            return tr("passed over: {why_not}", why_not=self.why_not)
        if self.ranked.passed is not None:
            return tr("passed over: {passed_words}", passed_words=_passed_words(self.card, self.ranked.passed))
        said = [tr("at {share} of its full scale", share=share)]
        if self.ranked.remark:
            said.append(tr("40 to 80 % would be better"))
        if self.ranked.expected_error is not None:
            said.append(tr("error and W up to {expected_error}", expected_error=percent(self.ranked.expected_error, 1)))
        if self.ranked.slips:
            said.append(tr("slips: it cannot be over-pulled"))
        return "; ".join(said)


def _passed_words(card: ToolCard, passed: PassedOver) -> str:
    standing = card.standing
    match passed:
        case PassedOver.HELD:
            return tr("it is retired") if standing.retired else tr("it is held: {held}", held=card.held)
        case PassedOver.AWAY if standing.loan is not None:
            return tr("it is lent to {to}", to=standing.loan.to)
        case PassedOver.AWAY if standing.away is not None:
            return tr("it is away{also}", also=tr(" at {to}", to=standing.away.to) if standing.away.to else "")
        case PassedOver.OVERDUE if standing.due is None:
            return tr("it was never tested")
        case _:
            return tr(passed)


def is_narrow(band: Band) -> bool:
    """Whether a band is so narrow that it asks for a good tool.

    >>> is_narrow(Band(76, 84)), is_narrow(Band(70, 90)), is_narrow(Band(80, 80))
    (True, False, False)
    """
    return not band.is_one and (band.high - band.low) / (band.high + band.low) <= NARROW


_FITS = """
SELECT l.tool_id, l.number, l.full_scale FROM tool_listing l
WHERE l.full_scale >= :low AND l.full_scale <= :most AND l.smallest <= :high
ORDER BY l.full_scale, l.number LIMIT :count
"""


def choose(
    reader: Reader, ask: SettingQuestion, today: date, critical: Criticality, leave: int = 0
) -> tuple[RankedTool, ...]:
    """The ranking for what is asked, whatever tool it names, with the adapters and the hand that it names; the tool
    ``leave`` is not among them. Those whose range does not hold the torque at all are not listed."""
    low, high = (ask.wanted / f for f in _widest(ask))
    most = high / ALLOWED[0] * 2  # those too large are passed over in words, the far too large are left out
    found = cards_of(reader, _FITS, "p.full_scale, p.number", low=low, high=high, most=most, count=MOST)
    tried = {}
    for card in found:
        if card.tool.id != leave:
            known = known_of(reader, card.tool.id, first_direction(card))
            own = replace(ask, tool=card.tool, known=known, as_tested=True)
            try:
                tried[str(card.tool.id)] = _Tried(card, known, answer(own), "")
            except InputRefused as refusal:
                tried[str(card.tool.id)] = _Tried(card, known, None, refusal.reason)
    demand = Demand(
        ask.band.high - ask.band.low if critical.narrow and not ask.band.is_one else None,
        critical.over_torque or critical.many_hands,
    )
    candidates = [_candidate(key, one, today) for key, one in tried.items()]
    return tuple(_suits(tried[r.id], r) for r in rank(candidates, ask.wanted, demand))


SHORTEST, LONGEST = 0.15, 1.5
"""Levers in m between which an adapter's factor is looked for before it is known whose lever it is."""


def _widest(ask: SettingQuestion) -> tuple[float, float]:
    """The largest and the smallest factor that the adapters and the hand can make, of whatever lever."""
    if not ask.fitted and ask.hand is None:
        return 1.0, 1.0
    found = [1.0]
    for lever in (ask.lever or SHORTEST, ask.lever or LONGEST):
        try:
            found.append(answer(replace(ask, tool=None, known=None, lever=lever)).factor)
        except InputRefused:
            continue
    return max(found), min(found)


@dataclass(frozen=True)
class _Tried:
    """A tool as it would be set; ``why_not`` where the sum cannot be made with it."""

    card: ToolCard
    known: KnownErrors | None
    answer: SettingAnswer | None
    why_not: str


def _suits(tried: _Tried, ranked: Ranked) -> RankedTool:
    if tried.answer is None:
        return RankedTool(tried.card, tried.known, ranked, ranked.setting, tried.why_not)
    return RankedTool(tried.card, tried.known, ranked, tried.answer.setting)


def _candidate(key: str, tried: _Tried, today: date) -> ToolCandidate:
    card, found = tried.card, tried.answer
    standing, kind = card.standing, card.tool.kind
    return ToolCandidate(
        id=key,
        minimum=kind.maximum if kind.is_fixed else kind.minimum or 0.0,
        maximum=kind.maximum,
        in_date=standing.due is not None and standing.due.days_left(today) >= 0,
        held=bool(card.held or card.retired) and not standing.corrected(today),
        expected_error=found.expected_error if found is not None else None,
        factor=found.factor if found is not None else 1.0,
        away=standing.loan is not None or standing.away is not None,
        slips=card.tool.mechanism is Mechanism.SLIP,
        part=card.restricted,
    )


def stand_ins(reader: Reader, card: ToolCard, torque: float, today: date, count: int = 3) -> tuple[RankedTool, ...]:
    """Tools that could stand in for one that is held, away or out of its range, for the torque it was to be set to."""
    found = choose(reader, SettingQuestion(Band(torque, torque)), today, Criticality(), leave=card.tool.id)
    return tuple(one for one in found if one.usable)[:count]
