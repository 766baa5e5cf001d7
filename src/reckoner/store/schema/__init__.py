"""The tables. SI units, fractions, times with their offset.

``base``      what all tables share; ``Record`` marks those that are append-only
``links``     the chain of digests over the records, and what binds a signature to a passphrase
``register``  people, models, tools, references: versioned rows, and their versions
``gear``      weights, scales, force gauges, lengths and levels
``desk``      loans' settings, trips, results of other laboratories, reviews of what a tool may have spoiled
``jobs``      job cards, and the working through of one
``runs``      a run and everything taken on the bench
``tools``     what happens to a tool, where it stands, which run it is in

Classes that inherit ``Record`` are append-only: a row once written is never changed or removed; a correction is a new row
that names the old one. The database itself refuses otherwise (``store.guards``).
"""

from reckoner.store.schema.base import Audit, Base, Record
from reckoner.store.schema.beamscales import BeamRepeat, BeamScale
from reckoner.store.schema.crosschecks import CrossCheck, CrossReading, CrossRun, CrossStrike
from reckoner.store.schema.desk import (
    LoanSetting,
    OutsidePoint,
    OutsideResult,
    Review,
    ReviewClose,
    ReviewMark,
    Trip,
)
from reckoner.store.schema.gear import AdapterRow, ForceGauge, Gear, Length, Level, WeighingScale, Weight
from reckoner.store.schema.jobs import JobCardRow, JobClose, JobEntry, JobWork
from reckoner.store.schema.links import ChainLink, Seal, SigningKey
from reckoner.store.schema.register import (
    Attachment,
    Certificate,
    CertificatePointRow,
    CertificateWithdrawal,
    Content,
    Person,
    Reference,
    RegisterVersion,
    Shop,
    Tool,
    ToolModel,
)
from reckoner.store.schema.runs import (
    Abandonment,
    Adjustment,
    CertificateNumber,
    Characterisation,
    ExercisePull,
    FactsDocument,
    InspectionLine,
    Observation,
    PointResultRow,
    RoomReading,
    Run,
    RunSides,
    Series,
    SetUp,
    Signature,
    Strike,
    Trace,
    ZeroCheck,
)
from reckoner.store.schema.tools import (
    HistoryPlace,
    OpenLoan,
    OpenRun,
    SavedFilter,
    ToolEvent,
    ToolListing,
    ToolStanding,
)

__all__ = [
    "Abandonment",
    "AdapterRow",
    "Adjustment",
    "Attachment",
    "Audit",
    "Base",
    "BeamRepeat",
    "BeamScale",
    "Certificate",
    "CertificateNumber",
    "CertificatePointRow",
    "CertificateWithdrawal",
    "ChainLink",
    "Characterisation",
    "Content",
    "CrossCheck",
    "CrossReading",
    "CrossRun",
    "CrossStrike",
    "ExercisePull",
    "FactsDocument",
    "ForceGauge",
    "Gear",
    "HistoryPlace",
    "InspectionLine",
    "JobCardRow",
    "JobClose",
    "JobEntry",
    "JobWork",
    "Length",
    "Level",
    "LoanSetting",
    "Observation",
    "OpenLoan",
    "OpenRun",
    "OutsidePoint",
    "OutsideResult",
    "Person",
    "PointResultRow",
    "Record",
    "Reference",
    "RegisterVersion",
    "Review",
    "ReviewClose",
    "ReviewMark",
    "RoomReading",
    "Run",
    "RunSides",
    "SavedFilter",
    "Seal",
    "Series",
    "SetUp",
    "Shop",
    "Signature",
    "SigningKey",
    "Strike",
    "Tool",
    "ToolEvent",
    "ToolListing",
    "ToolModel",
    "ToolStanding",
    "Trace",
    "Trip",
    "WeighingScale",
    "Weight",
    "ZeroCheck",
]
