"""Who works here, and when something was last written: what a window asks first."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from reckoner.store.reader import Reader
from reckoner.store.terms import Right
from reckoner.store.times import time_of


@dataclass(frozen=True)
class PersonFacts:
    """Someone who works here, with what that person may do; ``keyed``: signs with a passphrase."""

    id: int
    initials: str
    name: str
    rights: frozenset[Right] = frozenset()
    keyed: bool = False


def people(reader: Reader) -> tuple[PersonFacts, ...]:
    """Everyone who works here, in the order they came; who has left is not among them."""
    rows = reader.rows(
        f"SELECT id, initials, name, {', '.join(Right)}, "
        "EXISTS (SELECT 1 FROM signing_key k WHERE k.person_id = person.id) AS keyed "
        "FROM person WHERE NOT removed AND left_on IS NULL ORDER BY id"
    )
    return tuple(
        PersonFacts(p.id, p.initials, p.name, frozenset(r for r in Right if getattr(p, r)), bool(p.keyed)) for p in rows
    )


@dataclass(frozen=True)
class SittingRule:
    """Whether sitting down ``asks`` for the passphrase, and after how many ``minutes`` without a hand it does again (None:
    never)."""

    asks: bool = False
    minutes: int | None = None


def sitting(reader: Reader) -> SittingRule:
    """As the shop has chosen; it asks nobody while nobody who works here has a passphrase."""
    row = reader.row(
        "SELECT asks_at_sitting AND EXISTS (SELECT 1 FROM signing_key k JOIN person p ON p.id = k.person_id "
        "WHERE NOT p.removed AND p.left_on IS NULL) AS asks, lock_minutes FROM shop ORDER BY id LIMIT 1"
    )
    return SittingRule(bool(row.asks), row.lock_minutes) if row is not None else SittingRule()


def newest_time(reader: Reader) -> datetime | None:
    """When the newest line of the audit trail was written, by the clock it was written by; None before the first."""
    return time_of(reader.value("SELECT at FROM audit ORDER BY id DESC LIMIT 1"))
