"""What a unit of work has changed, said as values once it is committed, so that each view refreshes only itself.

A function that changes something calls ``changed``; whoever commits asks ``of`` and passes the values on. To add a kind: a
member of ``ChangeKind``, and the views that care name it.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from sqlalchemy.orm import Session

KEY = "reckoner.changes"


class ChangeKind(StrEnum):
    """What ids a change names: rows of the register by theirs, standings by their tool's, jobs by their card's, reviews by
    their own, the rest by their run's."""

    PEOPLE = "people"
    MODELS = "models"
    TOOLS = "tools"
    REFERENCES = "references"
    ATTACHMENTS = "attachments"
    SHOP = "shop"
    GEAR = "gear"
    FILTERS = "filters"
    JOBS = "jobs"
    REVIEWS = "reviews"
    STANDINGS = "standings"
    RUNS = "runs"


@dataclass(frozen=True)
class Change:
    """One kind of thing changed: which, and by whom (a person's id; None for nobody, as at a first import)."""

    kind: ChangeKind
    ids: frozenset[int]
    who: int | None


def changed(session: Session, kind: ChangeKind, row_id: int, who: int | None) -> None:
    """Note that ``row_id`` changes with this unit of work."""
    kept: dict[tuple[ChangeKind, int | None], set[int]] = session.info.setdefault(KEY, {})
    kept.setdefault((kind, who), set()).add(row_id)


def of(session: Session) -> tuple[Change, ...]:
    """What the unit of work has changed; to be told only after its commit."""
    kept: dict[tuple[ChangeKind, int | None], set[int]] = session.info.get(KEY, {})
    return tuple(Change(kind, frozenset(ids), who) for (kind, who), ids in kept.items())
