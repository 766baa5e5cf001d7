"""What waits while nothing is on the bench: what was begun, what is due and fits the reference used last, and what was given
up."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from sqlalchemy import select
from sqlalchemy.orm import Session, aliased

from reckoner.core.quantities.days import day_words
from reckoner.core.translation import tr
from reckoner.shop.planning.agenda import DayList, items
from reckoner.shop.planning.nextup import LOOKED_AT, NextUp, next_up
from reckoner.shop.references.crosschecks import facts_on
from reckoner.shop.register.cards import ToolCard, card
from reckoner.store.reader import reader_of
from reckoner.store.schema import Abandonment, Person, Reference, Run, SetUp

SHOWN = 6
"""Tools of each list; Today has them all."""


@dataclass(frozen=True)
class GivenUpRun:
    """The run that was given up last, whose tool was not put on since."""

    card: ToolCard
    why: str


@dataclass(frozen=True)
class IdleBench:
    """``fitting`` are due and can be tested at the ``reference`` used last, by its number; ``others`` are due as well."""

    begun: tuple[ToolCard, ...] = ()
    reference: str = ""
    fitting: tuple[ToolCard, ...] = ()
    others: tuple[ToolCard, ...] = ()
    given_up: GivenUpRun | None = None

    @property
    def first(self) -> ToolCard | None:
        """What to go on with."""
        return next(iter(self.begun or self.fitting or self.others), None)


def idle_bench(session: Session, today: date) -> IdleBench:
    """What waits on ``today``."""
    reader = reader_of(session)
    begun = tuple(item.card for item in items(reader, DayList.UNFINISHED, today, 0, SHOWN))
    reference = session.get(
        Reference, session.scalar(select(SetUp.reference_id).order_by(SetUp.id.desc()).limit(1)) or 0
    )
    fits = next_up(reader, facts_on(session, reference, today), 0, today) if reference is not None else NextUp("")
    due = [item for which in (DayList.OVERDUE, DayList.DUE_SOON) for item in items(reader, which, today, 0, LOOKED_AT)]
    known = {card.tool.id for card in fits.tools}
    others = tuple(item.card for item in due if item.card.loan is None and item.card.tool.id not in known)
    return IdleBench(begun, fits.reference, fits.tools[:SHOWN], others[:SHOWN], _given_up(session))


def _given_up(session: Session) -> GivenUpRun | None:
    became = aliased(Run)
    asked = (
        select(Run.id, Run.tool_id, Abandonment.at, Abandonment.reason, Person.initials)
        .join(Run, Run.id == Abandonment.run_id)
        .join(Person, Person.id == Abandonment.person_id)
        .where(~select(became.id).where(became.continues_id == Run.id).exists())
        .order_by(Abandonment.id.desc())
        .limit(1)
    )
    last = session.execute(asked).first()
    if last is None or session.scalar(select(Run.id).where(Run.tool_id == last.tool_id, Run.id > last.id).limit(1)):
        return None
    day = day_words(last.at.date())
    why = tr("on {day} by {initials}: {reason}", day=day, initials=last.initials, reason=last.reason)
    return GivenUpRun(card(reader_of(session), last.tool_id), why)
