"""The units in which a shop works beside torques: what it says, else what goes with its tools."""

from __future__ import annotations

from reckoner.core.quantities.ownunits import OwnUnits, UnitSystem
from reckoner.core.quantities.units import N_M, Kind, Unit, unit_named
from reckoner.store.reader import Reader
from reckoner.store.terms import term

SAID = "SELECT units FROM shop ORDER BY id LIMIT 1"


def own_units(reader: Reader, torque: Unit | None = None) -> OwnUnits:
    """What goes with a unit of ``torque`` in this shop; without one, with most of its models. Raises TermUnknown."""
    said = reader.value(SAID)
    if said:
        return OwnUnits(torque or N_M, term(UnitSystem, said))
    if torque is not None:
        return OwnUnits(torque, UnitSystem.beside(torque))
    torques = [
        unit_named(row.unit, Kind.TORQUE) for row in reader.rows("SELECT unit FROM tool_model WHERE NOT removed")
    ]
    inch = sum(UnitSystem.beside(one) is UnitSystem.INCH for one in torques)
    return OwnUnits(N_M, UnitSystem.INCH if 2 * inch > len(torques) else UnitSystem.METRIC)
