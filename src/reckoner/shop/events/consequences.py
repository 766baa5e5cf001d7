"""What can be said of a tool, and what would follow from it; light, for the top line says it while one types."""

from __future__ import annotations

import re
from datetime import date

from reckoner.core.quantities.days import day_words
from reckoner.core.translation import tr
from reckoner.shop.events.kinds import EVENTS
from reckoner.shop.events.standing import Standing, StandingEvent, standing_of_more
from reckoner.store.terms import EventKind

REPORTED: tuple[EventKind, ...] = tuple(kind for kind, facts in EVENTS.items() if facts.by_hand)
"""What can be reported by hand."""

HOW_MANY = tr("Say how many since it was counted last, a whole number, such as 120.")
MOST_CYCLES = 10**6


def cycles_in(text: str) -> int | None:
    """The number that a count begins with, such as "120" or "1 200 in the tower job"; None when there is none.

    >>> cycles_in("120"), cycles_in("1 200 in the tower job"), cycles_in("many"), cycles_in("0")
    (120, 1200, None, None)
    """
    match = re.match(r"(\d{1,3}(?:[ '\u202f\u00a0]\d{3})+|\d{1,7})(?![\d.,])", text.strip())
    found = int(re.sub(r"\D", "", match[1])) if match else 0
    return found if 0 < found <= MOST_CYCLES else None


def why_not(now: Standing, kind: EventKind) -> str:
    """Why an event cannot be reported of a tool that stands so; empty when it can."""
    match kind:
        case EventKind.RELEASED if not now.held:
            return tr("It is not held.")
        case EventKind.KEPT if now.kept:
            return tr("It is kept as evidence already.")
        case EventKind.KEPT_NO_MORE if not now.kept:
            return tr("It is not kept as evidence.")
        case EventKind.RETIRED if now.retired:
            return tr("It is retired already.")
        case EventKind.RETIRED if now.loan is not None:
            return tr("It is lent to {to}; take it back first.", to=now.loan.to)
        case EventKind.COUNTED if not now.last_run:
            return tr("It was never tested here; its cycles count from its first full run.")
        case EventKind.CORRECTED_NO_MORE if now.corrected_until is None:
            return tr("It is not used with correction.")
        case EventKind.BACK_IN_SERVICE if not now.retired:
            return tr("It is not retired.")
        case _:
            return ""


def offered(now: Standing) -> tuple[EventKind, ...]:
    """What can be reported of a tool that stands so."""
    return tuple(kind for kind in REPORTED if not why_not(now, kind))


def consequence(number: str, now: Standing, kind: EventKind, reason: str = "") -> str:
    """What follows for the tool, in a sentence, before it is done."""
    then = standing_of_more(now, StandingEvent(0, kind, reason, now.last_run or date.min))
    facts = EVENTS[kind]
    if facts.harms:
        held = tr("is held already; it stays so") if now.held else tr("will be held")
        return tr("{number} {held} until a check has answered it.", number=number, held=held)
    match kind:
        case EventKind.HELD:
            return tr("{number} will be held until somebody releases it or a run accepts it.", number=number)
        case EventKind.RELEASED:
            asked = tr(" The check after its event is still asked for.") if then.check_event_id is not None else ""
            return tr("{number} may be used again.{asked}", number=number, asked=asked)
        case EventKind.KEPT:
            return tr(
                "{number} will be kept as it is: no exercise, no test, no adjusting, until it is free.", number=number
            )
        case EventKind.KEPT_NO_MORE:
            return tr("{number} is no longer kept as evidence", number=number) + (
                tr("; it stays held.") if then.held else "."
            )
        case EventKind.RETIRED:
            return tr("{number} will leave service; its history stays.", number=number)
        case EventKind.BACK_IN_SERVICE:
            return tr("{number} comes back into service", number=number) + (
                "." if then.due is None else tr("; due {on}.", on=day_words(then.due.on))
            )
        case EventKind.CORRECTED_NO_MORE:
            return tr("{number} stays held, and may no longer be used with correction.", number=number)
        case EventKind.COUNTED:
            cycles = cycles_in(reason)
            if cycles is None:
                return tr(
                    "{cycles} cycles of {number} were counted since its last full run.",
                    cycles=now.cycles,
                    number=number,
                )
            return tr(
                "{number} was used {cycles} times since its last full run; it is due earlier where its cycles "
                "run out before.",
                number=number,
                cycles=now.cycles + cycles,
            )
        case _:
            return tr("A note in the history of {number}; nothing else changes.", number=number)
