"""How a tool is compared with a reference: one object for each kind of reference.

``usual``  what holds for any reference unless its own procedure says otherwise
``meter``  a torque meter
``weights`` known weights on the tool's own lever
``tries``  where a bracket of answers stands; ``bracketing``, ``walking``, ``matching``: what is varied to close it
``papers`` what certificates and derivations say of each
``gauge``  a force gauge or hanging scale that pulls on it
``inline`` a torque meter in line with a stub or a second meter

A run asks its procedure and does not know which it has. To add a kind of reference: a member of
``store.terms.ReferenceKind``, a module here with its procedure, and a row in ``PROCEDURES``; in the window its set-up panel.
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
