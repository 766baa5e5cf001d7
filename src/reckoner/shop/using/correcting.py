"""A failed tool used with a correction: only as its owner allows, only inside the range that was measured, until a day."""

from __future__ import annotations

from datetime import date

from sqlalchemy.orm import Session

from reckoner.core.history.due import add_months
from reckoner.core.quantities.days import day_words
from reckoner.core.quantities.printing import span
from reckoner.core.translation import tr
from reckoner.shop.events.recording import record_event
from reckoner.shop.people.authorship import Act, ShopRefused, note
from reckoner.shop.people.rights import command
from reckoner.shop.register.cards import card
from reckoner.shop.using.known import first_direction, known_of
from reckoner.store.reader import reader_of
from reckoner.store.terms import EventKind

LONGEST_MONTHS = 12
"""No correction is allowed for longer: what it rests on ages."""


@command
def allow(session: Session, tool_id: int, until: date, why: str, act: Act) -> str:
    """Let a held tool be used with correction until a day; says so in words. Raises ShopRefused without the right to allow
    it, for a tool that is not held by what was measured, and for a day that has gone or is too far. Changes: standings."""
    found = card(reader_of(session), tool_id)
    number, standing = found.tool.number, found.standing
    if not standing.held:
        raise ShopRefused(tr("{number} is not held; set it by its results, as any other.", number=number))
    if standing.kept or standing.retired:
        raise ShopRefused(
            tr(
                "{number} is {which}; it is not used at all.",
                number=number,
                which=tr("retired") if standing.retired else tr("kept as evidence"),
            )
        )
    if standing.check_event_id is not None:
        raise ShopRefused(
            tr(
                "Something happened to {number} that no check has answered: what was measured before says nothing.",
                number=number,
            )
        )
    known = known_of(reader_of(session), tool_id, first_direction(found))
    if known is None or len(known.points) < 2:
        raise ShopRefused(
            tr("{number} was not measured at two points at least; there is nothing to correct it by.", number=number)
        )
    today = act.at.date()
    latest = add_months(known.on, LONGEST_MONTHS)
    if until < today:
        raise ShopRefused(tr("{until} has gone already.", until=day_words(until)))
    if until > latest:
        raise ShopRefused(
            tr(
                "Until {latest} at most: what it rests on was measured on {on}.",
                latest=day_words(latest),
                on=day_words(known.on),
            )
        )
    if not why.strip():
        raise ShopRefused(tr("Say why in a few words; whoever finds it later asks just that."))
    record_event(session, tool_id, EventKind.CORRECTED, " ".join(why.split()), act, due_back=until)
    note(session, act, tr("allowed with correction"), number, until=until, why=why)
    reach = span(known.points[0].setting, known.points[-1].setting, found.tool.unit)
    return tr(
        "{number} may be used with correction from {reach}, until {until}. Print its tag.",
        number=number,
        reach=reach,
        until=day_words(until),
    )
