"""Who works here, and when something was last written: what a window asks first."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from reckoner.store.reader import Reader
from reckoner.store.times import time_of


@dataclass(frozen=True)
class PersonFacts:
    id: int
    initials: str
    name: str
    may_adjust: bool


def people(reader: Reader) -> tuple[PersonFacts, ...]:
    """Everyone in the register, in the order they came."""
    rows = reader.rows("SELECT id, initials, name, may_adjust FROM person WHERE NOT removed ORDER BY id")
    return tuple(PersonFacts(p.id, p.initials, p.name, bool(p.may_adjust)) for p in rows)


def newest_time(reader: Reader) -> datetime | None:
    """When the newest line of the audit trail was written, by the clock it was written by; None before the first."""
    return time_of(reader.value("SELECT at FROM audit ORDER BY id DESC LIMIT 1"))
