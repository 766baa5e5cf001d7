"""How far a shop of one's own has been set up: what its first opening still asks for."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum, auto

from reckoner.core.translation import tr_count
from reckoner.store.reader import Reader


class OpeningStage(Enum):
    """What is asked next."""

    WHO = auto()
    WITH_WHAT = auto()
    FIRST_TOOL = auto()
    READY = auto()


@dataclass(frozen=True)
class Beginning:
    """The stage, and what was given so far, in words."""

    stage: OpeningStage
    person: str = ""
    reference: str = ""


def beginning(reader: Reader) -> Beginning:
    """Where a shop stands, from what is in its register: an opening that was interrupted goes on there."""
    if reader.value("SELECT 1 FROM tool WHERE NOT removed LIMIT 1") is not None:
        return Beginning(OpeningStage.READY)
    person = reader.value("SELECT initials FROM person WHERE NOT removed AND left_on IS NULL ORDER BY id LIMIT 1")
    if person is None:
        return Beginning(OpeningStage.WHO)
    reference = reader.value("SELECT number FROM reference WHERE NOT removed ORDER BY id LIMIT 1")
    weights = reader.value("SELECT count(*) FROM gear WHERE kind = 'weight' AND NOT removed")
    if not reference and weights:
        reference = tr_count("1 weight", "{n} weights", weights)
    reference = reference or reader.value("SELECT number FROM gear WHERE kind = 'force gauge' AND NOT removed LIMIT 1")
    return Beginning(
        OpeningStage.FIRST_TOOL if reference else OpeningStage.WITH_WHAT, str(person), str(reference or "")
    )
