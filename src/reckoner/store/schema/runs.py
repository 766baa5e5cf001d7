"""A run and everything taken on the bench. Torques in N·m, temperatures in °C, ratios as fractions."""

from __future__ import annotations

from datetime import date, datetime
from typing import TYPE_CHECKING

from sqlalchemy import ForeignKey, Text, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column, relationship

from reckoner.core.decision.states import State
from reckoner.core.decision.suspect import Suspicion
from reckoner.core.history.due import DueReason
from reckoner.core.requirements.rules import Rule
from reckoner.core.requirements.tooltypes import Direction, MeterMode
from reckoner.core.uncertainty.budget import Effect
from reckoner.store.schema.base import Base, Record, Term
from reckoner.store.schema.register import Person, Reference, Tool
from reckoner.store.terms import (
    Abuse,
    ObservationKind,
    Outcome,
    PhaseKind,
    ReadingOwner,
    RoomSource,
    RunKind,
    Source,
    ZeroMoment,
    ZeroOf,
)

if TYPE_CHECKING:
    from reckoner.store.schema.register import Certificate


class Run(Record, Base):
    """One tool on the bench once.

    ``rule`` and ``mode`` are what was chosen instead of the rule set's and the mechanism's own (None: nothing),
    ``plan_note`` why. ``amends_id`` names the signed run that this one replaces, ``continues_id`` the short run that became
    this one.
    """

    __tablename__ = "run"
    tool_id: Mapped[int] = mapped_column(ForeignKey("tool.id"), index=True)
    kind: Mapped[RunKind] = mapped_column(Term(RunKind))
    rule_set: Mapped[str]
    opened_at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    rule: Mapped[Rule | None] = mapped_column(Term(Rule))
    mode: Mapped[MeterMode | None] = mapped_column(Term(MeterMode))
    adapter: Mapped[str] = mapped_column(Text, default="")
    plan_note: Mapped[str] = mapped_column(Text, default="")
    amends_id: Mapped[int | None] = mapped_column(ForeignKey("run.id"), index=True)
    continues_id: Mapped[int | None] = mapped_column(ForeignKey("run.id"), index=True)
    event_id: Mapped[int | None] = mapped_column(ForeignKey("tool_event.id"))
    tool: Mapped[Tool] = relationship(back_populates="runs")
    opened_by: Mapped[Person] = relationship(lazy="joined", innerjoin=True)
    facts: Mapped[list[FactsDocument]] = relationship(order_by="FactsDocument.id")
    inspections: Mapped[list[InspectionLine]] = relationship(order_by="InspectionLine.id")
    room: Mapped[list[RoomReading]] = relationship(order_by="RoomReading.id")
    set_ups: Mapped[list[SetUp]] = relationship(order_by="SetUp.id")
    exercises: Mapped[list[ExercisePull]] = relationship(order_by="ExercisePull.id")
    zero_checks: Mapped[list[ZeroCheck]] = relationship(order_by="ZeroCheck.id")
    series: Mapped[list[Series]] = relationship(back_populates="run", order_by="Series.id")
    signature: Mapped[Signature | None] = relationship(back_populates="run")
    abandoned: Mapped[Abandonment | None] = relationship()
    adjustments: Mapped[list[Adjustment]] = relationship(order_by="Adjustment.id")
    sides: Mapped[RunSides | None] = relationship()


class RunSides(Record, Base):
    """What a comparison holds against each other (JSON, written and read by ``shop.runs.sides``)."""

    __tablename__ = "run_sides"
    run_id: Mapped[int] = mapped_column(ForeignKey("run.id"), unique=True)
    document: Mapped[str] = mapped_column(Text)


class FactsDocument(Record, Base):
    """What the run is judged by, as it was: tool, model, reference with its certificate, effects, rule set (JSON, written
    and read by ``formats.facts``). The newest counts; a new one comes only while the run is set up."""

    __tablename__ = "run_facts"
    run_id: Mapped[int] = mapped_column(ForeignKey("run.id"), index=True)
    at: Mapped[datetime]
    document: Mapped[str] = mapped_column(Text)


class InspectionLine(Record, Base):
    """One line of the look-over: fine, or not fine and accepted for the reason in ``note``."""

    __tablename__ = "inspection_line"
    run_id: Mapped[int] = mapped_column(ForeignKey("run.id"), index=True)
    at: Mapped[datetime]
    line: Mapped[str]
    fine: Mapped[bool]
    note: Mapped[str] = mapped_column(Text, default="")


class RoomReading(Record, Base):
    """Temperature in °C and relative humidity as a fraction; both None where it was said that they were not measured."""

    __tablename__ = "room_reading"
    run_id: Mapped[int] = mapped_column(ForeignKey("run.id"), index=True)
    at: Mapped[datetime]
    temperature: Mapped[float | None]
    humidity: Mapped[float | None]
    note: Mapped[str] = mapped_column(Text, default="")
    source: Mapped[RoomSource] = mapped_column(Term(RoomSource), default=RoomSource.TYPED)


class SetUp(Record, Base):
    """The reference chosen for the run; the newest row counts. ``override`` is the reason where a rule was set aside,
    ``detail`` (JSON) what the reference's procedure has learnt beyond it."""

    __tablename__ = "set_up"
    run_id: Mapped[int] = mapped_column(ForeignKey("run.id"), index=True)
    at: Mapped[datetime]
    reference_id: Mapped[int] = mapped_column(ForeignKey("reference.id"))
    certificate_id: Mapped[int | None] = mapped_column(ForeignKey("certificate.id"))
    mode: Mapped[MeterMode] = mapped_column(Term(MeterMode))
    override: Mapped[str] = mapped_column(Text, default="")
    detail: Mapped[str] = mapped_column(Text, default="{}")
    reference: Mapped[Reference] = relationship(lazy="joined", innerjoin=True)
    certificate: Mapped[Certificate | None] = relationship()


class ExercisePull(Record, Base):
    __tablename__ = "exercise_pull"
    run_id: Mapped[int] = mapped_column(ForeignKey("run.id"), index=True)
    at: Mapped[datetime]
    direction: Mapped[Direction] = mapped_column(Term(Direction))
    torque: Mapped[float | None]


class ZeroCheck(Record, Base):
    """What the reference, or the tool's own pointer, showed with nothing on it (N·m); of one series where ``series_id``
    names it. ``observed`` is how many observations the run had by then (None: kept before that was)."""

    __tablename__ = "zero_check"
    run_id: Mapped[int] = mapped_column(ForeignKey("run.id"), index=True)
    at: Mapped[datetime]
    moment: Mapped[ZeroMoment] = mapped_column(Term(ZeroMoment))
    of: Mapped[ZeroOf] = mapped_column(Term(ZeroOf), default=ZeroOf.REFERENCE)
    torque: Mapped[float]
    allowed: Mapped[float]
    series_id: Mapped[int | None] = mapped_column(ForeignKey("series.id"), index=True)
    observed: Mapped[int | None]


class Series(Record, Base):
    """The observations wanted at one target (N·m) in one direction, in a phase of the run.

    ``round`` counts the adjustments and what is left after each. A characterisation's series has the ``effect`` it measures
    and the number of its ``place`` from 0; a comparison's has the place alone. ``turn`` is the turn of the screw before an
    adjusting series; ``abuse`` what was done to the tool before a diary's, with ``abuse_note`` in words.
    """

    __tablename__ = "series"
    __table_args__ = (UniqueConstraint("run_id", "phase", "round", "position"),)
    run_id: Mapped[int] = mapped_column(ForeignKey("run.id"), index=True)
    phase: Mapped[PhaseKind] = mapped_column(Term(PhaseKind))
    round: Mapped[int] = mapped_column(default=0)
    direction: Mapped[Direction] = mapped_column(Term(Direction))
    position: Mapped[int]
    target: Mapped[float]
    wanted: Mapped[int]
    effect: Mapped[Effect | None] = mapped_column(Term(Effect))
    place: Mapped[int | None]
    turn: Mapped[float | None]
    abuse: Mapped[Abuse | None] = mapped_column(Term(Abuse))
    abuse_note: Mapped[str] = mapped_column(Text, default="")
    run: Mapped[Run] = relationship(back_populates="series")
    observations: Mapped[list[Observation]] = relationship(back_populates="series", order_by="Observation.id")


class Observation(Record, Base):
    """One thing seen at a series: a value, clicked, silent, or no signal up to ``torque``.

    ``torque`` in N·m is what the reference said, ``tool_value`` what the tool was set to or showed where that is not the
    series' target, ``detail`` (JSON) what else the reference's procedure needs, ``pull`` the id of the pull it came from.
    """

    __tablename__ = "observation"
    series_id: Mapped[int] = mapped_column(ForeignKey("series.id"), index=True)
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    kind: Mapped[ObservationKind] = mapped_column(Term(ObservationKind), default=ObservationKind.VALUE)
    torque: Mapped[float | None]
    tool_value: Mapped[float | None]
    source: Mapped[Source] = mapped_column(Term(Source))
    pull: Mapped[str | None] = mapped_column(index=True)
    detail: Mapped[str] = mapped_column(Text, default="{}")
    series: Mapped[Series] = relationship(back_populates="observations")
    strike: Mapped[Strike | None] = relationship()
    kept: Mapped[KeptReading | None] = relationship()
    trace: Mapped[Trace | None] = relationship()


class Strike(Record, Base):
    """An observation struck out, and why."""

    __tablename__ = "strike"
    observation_id: Mapped[int] = mapped_column(ForeignKey("observation.id"), unique=True)
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    reason: Mapped[str] = mapped_column(Text)


class KeptReading(Record, Base):
    """An observation that was asked about, and counts: ``why`` it was asked about, and ``whose`` it was said to be."""

    __tablename__ = "kept_reading"
    observation_id: Mapped[int] = mapped_column(ForeignKey("observation.id"), unique=True)
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    why: Mapped[Suspicion] = mapped_column(Term(Suspicion))
    whose: Mapped[ReadingOwner] = mapped_column(Term(ReadingOwner))


class Trace(Record, Base):
    """Torque in N·m as little-endian float32 at ``rate`` samples a second. Where they went to an archive (``store.archive``)
    there are none here, and ``archived`` is their SHA-256; that is the one thing that may ever change of it.

    ``faults`` (JSON, a list) are those found in the pull; ``over_travel`` a fraction, ``time_80_to_100`` in s.
    """

    __tablename__ = "trace"
    observation_id: Mapped[int] = mapped_column(ForeignKey("observation.id"), unique=True)
    rate: Mapped[float]
    samples: Mapped[bytes] = mapped_column(deferred=True)
    archived: Mapped[str] = mapped_column(default="", server_default="", index=True)
    faults: Mapped[str] = mapped_column(Text, default="[]")
    over_travel: Mapped[float | None]
    time_80_to_100: Mapped[float | None]


class Adjustment(Record, Base):
    """An adjustment of the run's tool ``begun`` at a target (N·m) in a direction, or finished: locked and checked."""

    __tablename__ = "adjustment"
    run_id: Mapped[int] = mapped_column(ForeignKey("run.id"), index=True)
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    begun: Mapped[bool]
    target: Mapped[float]
    direction: Mapped[Direction] = mapped_column(Term(Direction))
    note: Mapped[str] = mapped_column(Text, default="")


class Characterisation(Record, Base):
    """The b values (N·m) that a signed characterisation found, of a tool or, marked as such, of its model; and the degrees of
    freedom with which each is known (None: as good as infinite)."""

    __tablename__ = "characterisation"
    run_id: Mapped[int] = mapped_column(ForeignKey("run.id"), index=True)
    tool_id: Mapped[int | None] = mapped_column(ForeignKey("tool.id"), index=True)
    model_id: Mapped[int | None] = mapped_column(ForeignKey("tool_model.id"), index=True)
    at: Mapped[datetime]
    target: Mapped[float]
    reproducibility: Mapped[float | None]
    output_drive: Mapped[float | None]
    interface: Mapped[float | None]
    loading_point: Mapped[float | None]
    reproducibility_freedom: Mapped[float | None]
    output_drive_freedom: Mapped[float | None]
    interface_freedom: Mapped[float | None]
    loading_point_freedom: Mapped[float | None]


class Signature(Record, Base):
    """The run's end: who answers for it, what it concluded and what follows for the tool.

    ``sequence`` orders the events and signatures of one tool. ``outcome`` is None for a run signed before outcomes were
    told apart. ``limit`` is that of its worst point, ``due_note`` how the due date was found. ``judged_on`` is the day
    whose certificate counted (None: the day of the signature). ``numbered``: its certificate's number, where it judged."""

    __tablename__ = "signature"
    run_id: Mapped[int] = mapped_column(ForeignKey("run.id"), unique=True)
    sequence: Mapped[int]
    at: Mapped[datetime] = mapped_column(index=True)
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    state: Mapped[State] = mapped_column(Term(State))
    accepted: Mapped[bool | None]
    sentence: Mapped[str] = mapped_column(Text)
    rule: Mapped[Rule] = mapped_column(Term(Rule))
    limit: Mapped[float]
    due: Mapped[date | None]
    due_reason: Mapped[DueReason | None] = mapped_column(Term(DueReason))
    outcome: Mapped[Outcome | None] = mapped_column(Term(Outcome))
    note: Mapped[str] = mapped_column(Text, default="")
    second_person_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    judged_on: Mapped[date | None]
    due_note: Mapped[str] = mapped_column(Text, default="", server_default="")
    run: Mapped[Run] = relationship(back_populates="signature")
    numbered: Mapped[CertificateNumber | None] = relationship()
    person: Mapped[Person] = relationship(foreign_keys=[person_id])
    second_person: Mapped[Person | None] = relationship(foreign_keys=[second_person_id])
    results: Mapped[list[PointResultRow]] = relationship(order_by="PointResultRow.id")


class CertificateNumber(Record, Base):
    """The number of a signed run's certificate, given once: the ``n``-th of the ``year`` as it was at the place (None by a
    scheme that does not count), and the ``number`` that the shop's scheme makes of it, which is printed."""

    __tablename__ = "certificate_number"
    __table_args__ = (UniqueConstraint("year", "n"),)
    signature_id: Mapped[int] = mapped_column(ForeignKey("signature.id"), unique=True)
    year: Mapped[int]
    n: Mapped[int | None]
    number: Mapped[str] = mapped_column(unique=True)


class PointResultRow(Record, Base):
    """What a signed run found at one point; fractions. ``limit`` None: that of the signature. Recomputable from the
    observations, kept for the history."""

    __tablename__ = "point_result"
    signature_id: Mapped[int] = mapped_column(ForeignKey("signature.id"), index=True)
    series_id: Mapped[int] = mapped_column(ForeignKey("series.id"))
    target: Mapped[float]
    direction: Mapped[Direction] = mapped_column(Term(Direction))
    deviation: Mapped[float]
    worst: Mapped[float]
    expanded_uncertainty: Mapped[float]
    reference_error: Mapped[float]
    near_zone: Mapped[float]
    limit: Mapped[float | None]
    probability: Mapped[float]
    state: Mapped[State] = mapped_column(Term(State), index=True)
    series: Mapped[Series] = relationship()


class Abandonment(Record, Base):
    """A run given up before its signature, and why. Its readings stay."""

    __tablename__ = "abandonment"
    run_id: Mapped[int] = mapped_column(ForeignKey("run.id"), unique=True)
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    reason: Mapped[str] = mapped_column(Text)
