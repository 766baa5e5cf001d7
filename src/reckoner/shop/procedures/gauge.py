"""A force gauge or hanging scale on the lever: each pull's force is a torque, as a meter's reading is."""

from __future__ import annotations

from reckoner.shop.procedures.meter import PulledProcedure
from reckoner.store.terms import ReferenceKind


class GaugeProcedure(PulledProcedure):
    """Its worth follows from the set-up, and nothing has to be zeroed on the bench."""

    kind: ReferenceKind = ReferenceKind.GAUGE
