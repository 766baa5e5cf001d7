"""The pulls of a run as they were kept: their traces, read when somebody looks at them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from reckoner.core.arrays import Values
from reckoner.core.trace import Fault
from reckoner.store.archive import ArchiveRefused, samples_of
from reckoner.store.reader import Reader
from reckoner.store.schema.base import unfolded
from reckoner.store.terms import term

NEAR = 0.999
"""The signal is drawn where the curve first comes as near as this to the reading."""


@dataclass(frozen=True)
class KeptPull:
    """One pull: torques in N·m at ``rate`` samples a second, the ``reading`` that was taken from it, and ``at``, the sample
    where it stands. ``gone`` says where a trace went that is not here any more. ``struck`` is why it does not count;
    ``over_travel`` a fraction, ``time_80_to_100`` in s."""

    observation: int
    samples: Values
    rate: float
    reading: float
    at: int
    struck: str
    faults: tuple[Fault, ...]
    over_travel: float | None
    time_80_to_100: float | None
    by: str
    gone: str = ""


_PULLS = """
SELECT o.id, o.torque, t.id AS trace, t.rate, t.samples, t.archived, t.faults, t.over_travel, t.time_80_to_100, p.initials,
  COALESCE(k.reason, '') AS struck
FROM observation o JOIN trace t ON t.observation_id = o.id JOIN person p ON p.id = o.person_id
  LEFT JOIN strike k ON k.observation_id = o.id
WHERE o.series_id = :series AND o.torque IS NOT NULL ORDER BY o.id
"""


def kept_pulls(reader: Reader, series_id: int) -> tuple[KeptPull, ...]:
    """The pulls of a series that have a trace, in their order. Raises ValueUnreadable, TermUnknown."""
    return tuple(_pull(reader, row) for row in reader.rows(_PULLS, series=series_id))


def with_pulls(reader: Reader, series_ids: Sequence[int]) -> tuple[int, ...]:
    """Which of some series have pulls with a trace."""
    return tuple(
        series
        for series in series_ids
        if reader.value(
            "SELECT 1 FROM observation o JOIN trace t ON t.observation_id = o.id WHERE o.series_id = :series LIMIT 1",
            series=series,
        )
    )


def _pull(reader: Reader, row: Any) -> KeptPull:
    kept, gone = row.samples, ""
    if row.archived:
        try:
            kept = samples_of(reader.folder, row.trace, row.archived)
        except ArchiveRefused as refusal:
            gone = str(refusal)
    samples = np.abs(np.frombuffer(kept, dtype="<f4").astype(np.float64))
    reached = np.flatnonzero(samples >= NEAR * abs(row.torque))
    return KeptPull(
        observation=row.id,
        samples=samples,
        rate=row.rate,
        reading=abs(row.torque),
        at=int(reached[0]) if len(reached) else int(np.argmax(samples)) if len(samples) else 0,
        struck=row.struck,
        faults=tuple(term(Fault, word) for word in unfolded(row.faults)),
        over_travel=row.over_travel,
        time_80_to_100=row.time_80_to_100,
        by=row.initials,
        gone=gone,
    )
