"""A torque meter in line with a stub or with a second meter: a meter in all, that what it stands with can spoil."""

from __future__ import annotations

from reckoner.shop.procedure import Caution
from reckoner.shop.procedures.meter import MeterProcedure
from reckoner.store.terms import ReferenceKind


class InLineProcedure(MeterProcedure):
    """Its worth is that of its certificate, widened by what coupling it anew moves."""

    kind: ReferenceKind = ReferenceKind.IN_LINE
    cautions: tuple[Caution, ...] = (Caution.IN_LINE, Caution.CLAMP_THE_DRIVE, Caution.CAPACITY, Caution.MAKER_RULES)
