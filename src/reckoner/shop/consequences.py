"""What can be said of a tool, and what would follow from it; light, for the top line says it while one types."""

from __future__ import annotations

import re
from datetime import date

from reckoner.core.days import day_words
from reckoner.shop.events import EVENTS
from reckoner.shop.standing import Happened, Standing, standing_of_more
from reckoner.store.terms import EventKind

REPORTED: tuple[EventKind, ...] = tuple(kind for kind, facts in EVENTS.items() if facts.by_hand)
"""What can be reported by hand."""

HOW_MANY = "Say how many since it was counted last, a whole number, such as 120."
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
            return "It is not held."
        case EventKind.KEPT if now.kept:
            return "It is kept as evidence already."
        case EventKind.KEPT_NO_MORE if not now.kept:
            return "It is not kept as evidence."
        case EventKind.RETIRED if now.retired:
            return "It is retired already."
        case EventKind.RETIRED if now.loan is not None:
            return f"It is lent to {now.loan.to}; take it back first."
        case EventKind.COUNTED if not now.last_run:
            return "It was never tested here; its cycles count from its first full run."
        case EventKind.CORRECTED_NO_MORE if now.corrected_until is None:
            return "It is not used with correction."
        case EventKind.BACK_IN_SERVICE if not now.retired:
            return "It is not retired."
        case _:
            return ""


def offered(now: Standing) -> tuple[EventKind, ...]:
    """What can be reported of a tool that stands so."""
    return tuple(kind for kind in REPORTED if not why_not(now, kind))


def consequence(number: str, now: Standing, kind: EventKind, reason: str = "") -> str:
    """What follows for the tool, in a sentence, before it is done."""
    then = standing_of_more(now, Happened(0, kind, reason, now.last_run or date.min))
    facts = EVENTS[kind]
    if facts.harms:
        held = "is held already; it stays so" if now.held else "will be held"
        return f"{number} {held} until a check has answered it."
    match kind:
        case EventKind.HELD:
            return f"{number} will be held until somebody releases it or a run accepts it."
        case EventKind.RELEASED:
            asked = " The check after its event is still asked for." if then.check_event_id is not None else ""
            return f"{number} may be used again.{asked}"
        case EventKind.KEPT:
            return f"{number} will be kept as it is: no exercise, no test, no adjusting, until it is free."
        case EventKind.KEPT_NO_MORE:
            return f"{number} is no longer kept as evidence" + ("; it stays held." if then.held else ".")
        case EventKind.RETIRED:
            return f"{number} will leave service; its history stays."
        case EventKind.BACK_IN_SERVICE:
            return f"{number} comes back into service" + (
                "." if then.due is None else f"; due {day_words(then.due.on)}."
            )
        case EventKind.CORRECTED_NO_MORE:
            return f"{number} stays held, and may no longer be used with correction."
        case EventKind.COUNTED:
            cycles = cycles_in(reason)
            if cycles is None:
                return f"{now.cycles} cycles of {number} were counted since its last full run."
            return (
                f"{number} was used {now.cycles + cycles} times since its last full run; it is due earlier where its cycles "
                "run out before."
            )
        case _:
            return f"A note in the history of {number}; nothing else changes."
