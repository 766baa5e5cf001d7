"""What keeping a kind of tool tested costs in a year: sent away, tested here, or a new one at each due date."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from reckoner.core.quantities.checks import between, not_negative, positive
from reckoner.core.translation import mark, tr


class UpkeepChoice(StrEnum):
    """How it is kept tested."""

    SEND = mark("send it to a laboratory")
    HERE = mark("test it here")
    REPLACE = mark("buy a new one when it is due")


HOURS_A_DAY = 8.0
"""Hours at the bench that a working day has."""


@dataclass(frozen=True)
class CostFigures:
    """The owner's own figures. Money in the shop's currency: the ``fee`` and ``freight`` of a test outside, the ``price`` of
    a new tool, an ``hour`` at the bench. ``days_away`` of a trip, ``minutes`` of a full run here; ``months`` from one test to
    the next, and the ``failing`` share of tests that find the tool outside. None: not said."""

    fee: float | None = None
    freight: float | None = None
    days_away: float | None = None
    price: float | None = None
    minutes: float | None = None
    hour: float | None = None
    months: float = 12.0
    failing: float = 0.0

    def __post_init__(self) -> None:
        for name in ("fee", "freight", "days_away", "price", "minutes", "hour"):
            if (value := getattr(self, name)) is not None:
                not_negative(name, value)
        positive("months", self.months)
        between("failing", self.failing, 0, 1)

    @property
    def a_year(self) -> float:
        """Tests a year."""
        return 12 / self.months


@dataclass(frozen=True)
class Yearly:
    """What a way costs in a year, and the days without the tool; ``assumes`` says what was reckoned with. ``lacks`` names the
    figures that are missing: then nothing is known."""

    way: UpkeepChoice
    cost: float | None
    days: float | None
    assumes: str
    lacks: tuple[str, ...] = ()


def yearly(figures: CostFigures) -> tuple[Yearly, ...]:
    """The three ways. A test that finds the tool outside is done twice here, as found and as left; outside it is adjusted
    within the fee. Refuses nothing. Source: the owner's own figures, multiplied and added.

    >>> ways = yearly(CostFigures(fee=90, freight=20, days_away=15, price=320, minutes=30, hour=60, failing=0.1))
    >>> [(w.way.name, round(w.cost, 2), round(w.days, 3)) for w in ways]
    [('SEND', 110.0, 15.0), ('HERE', 33.0, 0.069), ('REPLACE', 320.0, 0.0)]
    """
    return (_send(figures), _here(figures), _replace(figures))


def _lacking(figures: CostFigures, **names: str) -> tuple[str, ...]:
    return tuple(words for name, words in names.items() if getattr(figures, name) is None)


def _send(f: CostFigures) -> Yearly:
    said = tr("the laboratory adjusts within its fee")
    lacks = _lacking(f, fee=tr("the fee"), freight=tr("the freight"), days_away=tr("the days away"))
    if f.fee is None or f.freight is None or f.days_away is None:
        return Yearly(UpkeepChoice.SEND, None, None, said, lacks)
    return Yearly(UpkeepChoice.SEND, f.a_year * (f.fee + f.freight), f.a_year * f.days_away, said)


def _here(f: CostFigures) -> Yearly:
    said = tr("a tool found outside is tested again once it is adjusted; the meter's own certificate is not in it")
    lacks = _lacking(f, minutes=tr("the minutes at the bench"), hour=tr("an hour's cost"))
    if f.minutes is None or f.hour is None:
        return Yearly(UpkeepChoice.HERE, None, None, said, lacks)
    hours = f.a_year * (1 + f.failing) * f.minutes / 60
    return Yearly(UpkeepChoice.HERE, hours * f.hour, hours / HOURS_A_DAY, said)


def _replace(f: CostFigures) -> Yearly:
    said = tr("a new one comes with its maker's certificate, and waits in the crib")
    if f.price is None:
        return Yearly(UpkeepChoice.REPLACE, None, None, said, (tr("the price"),))
    return Yearly(UpkeepChoice.REPLACE, f.a_year * f.price, 0.0, said)
