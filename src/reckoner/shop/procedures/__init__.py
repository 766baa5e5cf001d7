"""How a tool is compared with a reference: one object for each kind of reference.

``usual``     what holds for any reference unless its own procedure says otherwise
``meter``     a torque meter, alone or in line with another, and a gauge that pulls on the tool's lever
``weights``   known weights on the tool's own lever
``tries``     where a bracket of answers stands; ``trips`` the three ways to close it
``papers``    what certificates and derivations say of each
``choosing``  which reference suits a tool

A run asks its procedure and does not know which it has. To add a kind of reference: a member of
``store.terms.ReferenceKind``, its set-up in ``shop.setups``, its procedure here with a row in ``PROCEDURES`` and one in
``PAPERS``; in the window its set-up panel.
"""

from reckoner.shop.procedures.meter import GaugeProcedure, InLineProcedure, MeterProcedure
from reckoner.shop.procedures.weights import WeightsProcedure
from reckoner.shop.runs.state import Procedure
from reckoner.store.terms import ReferenceKind

PROCEDURES: dict[ReferenceKind, Procedure] = {
    ReferenceKind.METER: MeterProcedure(),
    ReferenceKind.WEIGHTS: WeightsProcedure(),
    ReferenceKind.GAUGE: GaugeProcedure(),
    ReferenceKind.IN_LINE: InLineProcedure(),
}
