"""What a shop hangs and measures with, as the register knows it now: weights, rules, and gravity where it stands."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from sqlalchemy.orm import Session

from reckoner.core.quantities.ownunits import INCH, OwnUnits
from reckoner.core.quantities.printing import quantity, uncertainty_decimals
from reckoner.core.reference.weights import STANDARD_GRAVITY, local_gravity
from reckoner.core.translation import tr
from reckoner.shop.setups.gauging import Gauge, gauges
from reckoner.shop.setups.hanging import ANYWHERE, NO_RULE, HungWeight
from reckoner.store.reader import Reader, reader_of

AT_A_PLACE = 0.002
"""U of the normal gravity of a place: what rock and valleys make of it."""


@dataclass(frozen=True)
class OwnedWeight:
    """A weight of the shop: its mass in kg as it counts, and what its stamp is off, where both are known."""

    number: str
    box: str
    mass: float
    uncertainty: float | None
    stamped: float | None

    @property
    def hung(self) -> HungWeight:
        return HungWeight(self.number, self.mass, self.uncertainty)


def weights(reader: Reader) -> tuple[OwnedWeight, ...]:
    """The shop's weights, the heaviest first; what was weighed counts, else its stamp."""
    rows = reader.rows(
        "SELECT number, COALESCE(box, '') AS box, stamped, weighed, mass_uncertainty FROM gear "
        "WHERE kind = 'weight' AND NOT removed AND COALESCE(weighed, stamped) > 0 "
        "ORDER BY COALESCE(weighed, stamped) DESC, number"
    )
    return tuple(_weight(row) for row in rows)


def _weight(row: Any) -> OwnedWeight:
    known = row.weighed is not None and row.mass_uncertainty is not None
    mass = row.weighed if row.weighed is not None else row.stamped
    return OwnedWeight(row.number, row.box, mass, row.mass_uncertainty if known else None, row.stamped)


@dataclass(frozen=True)
class Instrument:
    """What masses or lengths are measured with, and its expanded uncertainty in kg or m."""

    number: str
    uncertainty: float


def scales(reader: Reader) -> tuple[Instrument, ...]:
    """What things are weighed on, the best first."""
    return _instruments(reader, "scale", "scale_uncertainty")


def rules(reader: Reader) -> tuple[Instrument, ...]:
    """Rules and tapes, the best first."""
    return _instruments(reader, "length", "length_uncertainty")


def has_level(reader: Reader) -> bool:
    """Whether the shop has a level to set a lever by."""
    return bool(reader.value("SELECT count(*) FROM gear WHERE kind = 'level' AND NOT removed"))


def _instruments(reader: Reader, kind: str, column: str) -> tuple[Instrument, ...]:
    rows = reader.rows(
        f"SELECT number, {column} AS uncertainty FROM gear WHERE kind = :kind AND NOT removed AND {column} > 0 "
        f"ORDER BY {column}",
        kind=kind,
    )
    return tuple(Instrument(r.number, r.uncertainty) for r in rows)


def gravity(reader: Reader) -> tuple[float, float]:
    """Gravity in m/s² where the shop stands, and its expanded uncertainty; standard gravity where nobody said."""
    row = reader.row("SELECT latitude, elevation FROM shop ORDER BY id LIMIT 1")
    if row is None or row.latitude is None:
        return STANDARD_GRAVITY, ANYWHERE
    return local_gravity(row.latitude, row.elevation or 0.0), AT_A_PLACE


def fine_words(metres: float, own: OwnUnits) -> str:
    """How well a length is known: to two figures."""
    return quantity(
        metres, own.length, uncertainty_decimals(own.length.from_si(metres)) if own.length is INCH else None
    )


@dataclass(frozen=True)
class Equipment:
    """What the shop has to hang and measure with: its weights, gauges, rules and scales, gravity where it stands with its
    uncertainty, and whether it has a level."""

    weights: tuple[OwnedWeight, ...] = ()
    gauges: tuple[Gauge, ...] = ()
    rules: tuple[Instrument, ...] = ()
    scales: tuple[Instrument, ...] = ()
    gravity: tuple[float, float] = (STANDARD_GRAVITY, ANYWHERE)
    level: bool = False

    def rule_choices(self, own: OwnUnits) -> tuple[tuple[str, str], ...]:
        """What lengths can be measured with, the best first: a key, and how it is told. A tape is always there."""
        known = (
            (str(i), tr("{number}, ±{uncertainty}", number=r.number, uncertainty=fine_words(r.uncertainty, own)))
            for i, r in enumerate(self.rules)
        )
        return (*known, ("", tr("a tape, to {no_rule}", no_rule=fine_words(NO_RULE, own))))

    def rule_uncertainty(self, key: str) -> float:
        """U in m of a length that was measured with what ``rule_choices`` calls so."""
        return self.rules[int(key)].uncertainty if key else NO_RULE


def means(session: Session) -> Equipment:
    """Read at the register."""
    reader = reader_of(session)
    return Equipment(weights(reader), gauges(reader), rules(reader), scales(reader), gravity(reader), has_level(reader))
