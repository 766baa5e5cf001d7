"""What a shop hangs and measures with, as the register knows it now: weights, rules, and gravity where it stands."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from reckoner.core.weights import STANDARD_GRAVITY, local_gravity
from reckoner.shop.hanging import ANYWHERE, HungWeight
from reckoner.store.reader import Reader

AT_A_PLACE = 0.002
"""U of the normal gravity of a place: what rock and valleys make of it."""


@dataclass(frozen=True)
class BoxWeight:
    """A weight of the shop: its mass in kg as it counts, and what its stamp is off, where both are known."""

    number: str
    box: str
    mass: float
    uncertainty: float | None
    stamped: float | None

    @property
    def hung(self) -> HungWeight:
        return HungWeight(self.number, self.mass, self.uncertainty)


def box(reader: Reader) -> tuple[BoxWeight, ...]:
    """The shop's weights, the heaviest first; what was weighed counts, else its stamp."""
    rows = reader.rows(
        "SELECT number, COALESCE(box, '') AS box, stamped, weighed, mass_uncertainty FROM gear "
        "WHERE kind = 'weight' AND NOT removed AND COALESCE(weighed, stamped) > 0 "
        "ORDER BY COALESCE(weighed, stamped) DESC, number"
    )
    return tuple(_weight(row) for row in rows)


def _weight(row: Any) -> BoxWeight:
    known = row.weighed is not None and row.mass_uncertainty is not None
    mass = row.weighed if row.weighed is not None else row.stamped
    return BoxWeight(row.number, row.box, mass, row.mass_uncertainty if known else None, row.stamped)


@dataclass(frozen=True)
class WeighingScale:
    """A scale, and its expanded uncertainty in kg."""

    number: str
    uncertainty: float


def scales(reader: Reader) -> tuple[WeighingScale, ...]:
    """What things are weighed on, the best first."""
    rows = reader.rows(
        "SELECT number, scale_uncertainty FROM gear WHERE kind = 'scale' AND NOT removed AND scale_uncertainty > 0 "
        "ORDER BY scale_uncertainty"
    )
    return tuple(WeighingScale(r.number, r.scale_uncertainty) for r in rows)


@dataclass(frozen=True)
class Rule:
    """A rule or tape, and its expanded uncertainty in m."""

    number: str
    uncertainty: float


def rules(reader: Reader) -> tuple[Rule, ...]:
    """What lengths are measured with, the best first."""
    rows = reader.rows(
        "SELECT number, length_uncertainty FROM gear WHERE kind = 'length' AND NOT removed AND length_uncertainty > 0 "
        "ORDER BY length_uncertainty"
    )
    return tuple(Rule(r.number, r.length_uncertainty) for r in rows)


def gravity(reader: Reader) -> tuple[float, float]:
    """Gravity in m/s² where the shop stands, and its expanded uncertainty; standard gravity where nobody said."""
    row = reader.row("SELECT latitude, elevation FROM shop ORDER BY id LIMIT 1")
    if row is None or row.latitude is None:
        return STANDARD_GRAVITY, ANYWHERE
    return local_gravity(row.latitude, row.elevation or 0.0), AT_A_PLACE
