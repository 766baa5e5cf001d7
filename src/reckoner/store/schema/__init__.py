"""The tables. SI units, fractions, UTC times.

``base``      what all tables share; ``Record`` marks those that are append-only
``register``  people, models, tools, references: versioned rows, and their versions
``runs``      a run and everything taken on the bench
``tools``     what happens to a tool, where it stands, which run it is in

Classes that inherit ``Record`` are append-only: a row once written is never changed or removed; a correction is a new row
that names the old one. The database itself refuses otherwise (``store.guards``).
"""

from reckoner.store.schema.base import Audit, Base, Record
from reckoner.store.schema.register import (
    Certificate,
    CertificatePoint,
    Person,
    Reference,
    RegisterVersion,
    Tool,
    ToolModel,
)
from reckoner.store.schema.runs import (
    Abandonment,
    Adjustment,
    Characterisation,
    ExercisePull,
    FactsDocument,
    InspectionLine,
    Observation,
    PointResult,
    RoomReading,
    Run,
    Series,
    SetUp,
    Signature,
    Strike,
    Trace,
    ZeroCheck,
)
from reckoner.store.schema.tools import OpenRun, ToolEvent, ToolStanding

__all__ = [
    "Abandonment",
    "Adjustment",
    "Audit",
    "Base",
    "Certificate",
    "CertificatePoint",
    "Characterisation",
    "ExercisePull",
    "FactsDocument",
    "InspectionLine",
    "Observation",
    "OpenRun",
    "Person",
    "PointResult",
    "Record",
    "Reference",
    "RegisterVersion",
    "RoomReading",
    "Run",
    "Series",
    "SetUp",
    "Signature",
    "Strike",
    "Tool",
    "ToolEvent",
    "ToolModel",
    "ToolStanding",
    "Trace",
    "ZeroCheck",
]
