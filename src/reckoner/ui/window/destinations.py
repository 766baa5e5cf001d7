"""Where what was found at the top line is shown: pages of places, rows of the register, errands with a tool.

A page that is to be found by its words: a row of ``PAGES``.
"""

from __future__ import annotations

from reckoner.core.quantities.printing import quantity
from reckoner.core.quantities.units import N_M
from reckoner.core.translation import tr
from reckoner.shop.register.elsewhere import Errand, FoundKind, FoundRow, ToolErrand
from reckoner.shop.using.simplesum import HungSum
from reckoner.store.terms import RegisterKind, RunKind
from reckoner.ui.places import PLACES, PlaceId, Target


def pages_called(wanted: str) -> list[tuple[str, Target]]:
    """Places, and pages of them, whose name begins so."""
    if not wanted:
        return []
    places = [(place.name, Target(place.id)) for place in PLACES if place.name.casefold().startswith(wanted)]
    pages = [(words, Target(place, page=page)) for words, place, page in PAGES if words.casefold().startswith(wanted)]
    return places + pages


PAGES: tuple[tuple[str, PlaceId, str], ...] = (
    (tr("Backups"), PlaceId.RECORDS, "backups"),
    (tr("Labels"), PlaceId.RECORDS, "labels"),
    (tr("What was done"), PlaceId.RECORDS, "trail"),
    (tr("Exchange"), PlaceId.RECORDS, "exchange"),
    (tr("Room on the disk"), PlaceId.RECORDS, "room"),
    (tr("Job cards"), PlaceId.SETTING, "cards"),
    (tr("Lend and take back"), PlaceId.DESK, "lending"),
    (tr("Which tool for a torque"), PlaceId.DESK, "choosing"),
    (tr("Laboratories"), PlaceId.DESK, "away"),
    (tr("Reviews: what was spoiled"), PlaceId.DESK, "reviews"),
)
"""What is found by its words: a page of a place."""


def row_target(row: FoundRow) -> Target:
    """Where a row is shown."""
    match row.kind:
        case FoundKind.PERSON:
            return Target(PlaceId.TOOLS, register=RegisterKind.PERSON, row=row.id)
        case FoundKind.MODEL:
            return Target(PlaceId.TOOLS, register=RegisterKind.MODEL, row=row.id)
        case FoundKind.CARD:
            return Target(PlaceId.SETTING, card=row.id)
        case FoundKind.JOB:
            return Target(PlaceId.SETTING, work=row.id)
        case FoundKind.CERTIFICATE:
            return Target(PlaceId.RECORDS, number=row.name)
        case FoundKind.RUN:
            return Target(PlaceId.BENCH, run=row.id)
        case FoundKind.GEAR if row.register is RegisterKind.ADAPTER:
            return Target(PlaceId.TOOLS, register=row.register, row=row.id)
        case _:
            return Target(PlaceId.REFERENCES, register=row.register or RegisterKind.REFERENCE, row=row.id)


def errand_target(found: ToolErrand) -> Target:
    """Where an errand is done."""
    tool = found.card.tool
    match found.errand:
        case Errand.TEST:
            return Target(PlaceId.BENCH, tool=tool.id)
        case Errand.CHECK:
            return Target(PlaceId.BENCH, tool=tool.id, kind=RunKind.CHECK)
        case Errand.LABEL:
            return Target(PlaceId.RECORDS, labels=tool.number)
        case Errand.CERTIFICATE:
            return Target(PlaceId.RECORDS, tool=tool.id)
        case Errand.SHEET:
            return Target(PlaceId.TOOLS, tool=tool.id)


def hung_target(found: HungSum) -> Target:
    """A quick check of the tool at what hangs on it; without one, what to set for it."""
    if found.card is not None and found.wish is not None:
        return Target(PlaceId.BENCH, tool=found.card.tool.id, kind=RunKind.CHECK, at=found.setting, wish=found.wish)
    if found.unknown and found.wish is not None:
        return Target(PlaceId.BENCH, number=found.unknown, at=found.torque, wish=found.wish)
    number = found.card.tool.number if found.card is not None else ""
    return Target(PlaceId.SETTING, number=number, torque=quantity(found.torque, N_M))
