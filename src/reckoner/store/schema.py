"""The tables. SI units, fractions, UTC times.

Classes that inherit ``Record`` are append-only: a row once written is never changed or removed; a correction is a
new row that names the old one. ``database`` holds to that at every flush.
"""

from __future__ import annotations

from datetime import UTC, date, datetime
from typing import Any

from sqlalchemy import (
    DateTime,
    Dialect,
    ForeignKey,
    LargeBinary,
    MetaData,
    String,
    Text,
    TypeDecorator,
    UniqueConstraint,
)
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column, relationship


class UtcTime(TypeDecorator[datetime]):
    """An aware time, kept as UTC."""

    impl = DateTime
    cache_ok = True

    def process_bind_param(self, value: datetime | None, dialect: Dialect) -> datetime | None:
        return None if value is None else value.astimezone(UTC).replace(tzinfo=None)

    def process_result_value(self, value: datetime | None, dialect: Dialect) -> datetime | None:
        return None if value is None else value.replace(tzinfo=UTC)


class Base(DeclarativeBase):
    metadata = MetaData(
        naming_convention={
            "ix": "ix_%(column_0_label)s",
            "uq": "uq_%(table_name)s_%(column_0_name)s",
            "ck": "ck_%(table_name)s_%(constraint_name)s",
            "fk": "fk_%(table_name)s_%(column_0_name)s_%(referred_table_name)s",
            "pk": "pk_%(table_name)s",
        }
    )
    type_annotation_map = {datetime: UtcTime(), str: String(200), bytes: LargeBinary(), Any: Text()}  # noqa: RUF012

    id: Mapped[int] = mapped_column(primary_key=True)


class Record:
    """Marks a table whose rows are never changed."""


class Person(Base):
    __tablename__ = "person"
    initials: Mapped[str] = mapped_column(unique=True)
    name: Mapped[str]
    may_adjust: Mapped[bool] = mapped_column(default=False)


class ToolModel(Base):
    """What all tools of one make have in common. Torques in N·m, lengths in m, masses in kg, ratios as fractions.

    ``adjust_where`` says where the screw is (empty: nobody here adjusts it), ``adjust_raises`` which way turned raises the
    torque ("cw", "ccw"), ``adjust_lock`` what locks it, ``adjust_rate`` what a turn that way usually adds in N·m.
    """

    __tablename__ = "tool_model"
    __table_args__ = (UniqueConstraint("maker", "name"),)
    maker: Mapped[str]
    name: Mapped[str]
    type: Mapped[str]
    class_: Mapped[str] = mapped_column("class")
    mechanism: Mapped[str]
    minimum: Mapped[float | None]
    maximum: Mapped[float]
    resolution: Mapped[float] = mapped_column(default=0.0)
    unit: Mapped[str]
    drive: Mapped[str]
    directions: Mapped[str] = mapped_column(default="cw")
    lever_length: Mapped[float | None]
    pivot_offset: Mapped[float] = mapped_column(default=0.0)
    own_mass: Mapped[float | None]
    own_centre: Mapped[float | None]
    tolerance: Mapped[float | None]
    approach: Mapped[str] = mapped_column(default="from below")
    adjust_where: Mapped[str] = mapped_column(Text, default="")
    adjust_raises: Mapped[str] = mapped_column(default="")
    adjust_lock: Mapped[str] = mapped_column(Text, default="")
    adjust_rate: Mapped[float | None]
    adjust_most_turns: Mapped[float | None]
    adjust_relieve: Mapped[bool] = mapped_column(default=False)
    tools: Mapped[list[Tool]] = relationship(back_populates="model")


class Tool(Base):
    __tablename__ = "tool"
    number: Mapped[str] = mapped_column(unique=True)
    serial: Mapped[str] = mapped_column(default="", index=True)
    model_id: Mapped[int] = mapped_column(ForeignKey("tool_model.id"), index=True)
    place: Mapped[str] = mapped_column(default="")
    rule_set: Mapped[str] = mapped_column(default="iso-6789-2017")
    interval_months: Mapped[int | None]
    cycles_per_year: Mapped[int] = mapped_column(default=0)
    in_service: Mapped[date | None]
    model: Mapped[ToolModel] = relationship(back_populates="tools")
    events: Mapped[list[ToolEvent]] = relationship(back_populates="tool", order_by="ToolEvent.at")
    runs: Mapped[list[Run]] = relationship(back_populates="tool", order_by="Run.opened_at")


class ToolEvent(Record, Base):
    """Something that happened to a tool outside a run: a fall, a hold and its release, a loan and its return.

    ``low`` and ``high`` in N·m are the part of the range that a restriction leaves.
    """

    __tablename__ = "tool_event"
    tool_id: Mapped[int] = mapped_column(ForeignKey("tool.id"), index=True)
    at: Mapped[datetime]
    person_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    kind: Mapped[str]
    note: Mapped[str] = mapped_column(Text, default="")
    due_back: Mapped[date | None]
    low: Mapped[float | None]
    high: Mapped[float | None]
    tool: Mapped[Tool] = relationship(back_populates="events")


class Reference(Base):
    """A torque meter. ``link`` is a pyserial URL, a device path, ``stand-in``, or empty for typed readings only."""

    __tablename__ = "reference"
    number: Mapped[str] = mapped_column(unique=True)
    serial: Mapped[str] = mapped_column(default="")
    maker: Mapped[str] = mapped_column(default="")
    model: Mapped[str] = mapped_column(default="")
    minimum: Mapped[float]
    maximum: Mapped[float]
    resolution: Mapped[float]
    zero_tolerance: Mapped[float]
    corrected: Mapped[bool] = mapped_column(default=False)
    link: Mapped[str] = mapped_column(default="")
    certificates: Mapped[list[Certificate]] = relationship(back_populates="reference", order_by="Certificate.issued")


class Certificate(Record, Base):
    __tablename__ = "certificate"
    reference_id: Mapped[int] = mapped_column(ForeignKey("reference.id"), index=True)
    number: Mapped[str]
    laboratory: Mapped[str]
    issued: Mapped[date]
    due: Mapped[date]
    coverage_factor: Mapped[float] = mapped_column(default=2.0)
    reference: Mapped[Reference] = relationship(back_populates="certificates")
    points: Mapped[list[CertificatePoint]] = relationship(order_by="CertificatePoint.torque")


class CertificatePoint(Record, Base):
    __tablename__ = "certificate_point"
    certificate_id: Mapped[int] = mapped_column(ForeignKey("certificate.id"), index=True)
    torque: Mapped[float]
    error: Mapped[float]
    expanded_uncertainty: Mapped[float]


class Run(Record, Base):
    """One tool on the bench once. The rule set's text is kept so that the run can always be recomputed.

    ``kind`` is "full", "check" (quick), "event" (after an event) or "characterise". ``rule`` and ``mode`` are what was
    chosen instead of the rule set's and the mechanism's own (empty: nothing), ``plan_note`` why. ``amends_id`` names the
    signed run that this one replaces.
    """

    __tablename__ = "run"
    tool_id: Mapped[int] = mapped_column(ForeignKey("tool.id"), index=True)
    kind: Mapped[str]
    rule_set: Mapped[str]
    rule_set_text: Mapped[str] = mapped_column(Text)
    opened_at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    rule: Mapped[str] = mapped_column(default="")
    mode: Mapped[str] = mapped_column(default="")
    adapter: Mapped[str] = mapped_column(Text, default="")
    plan_note: Mapped[str] = mapped_column(Text, default="")
    amends_id: Mapped[int | None] = mapped_column(ForeignKey("run.id"), index=True)
    event_id: Mapped[int | None] = mapped_column(ForeignKey("tool_event.id"))
    tool: Mapped[Tool] = relationship(back_populates="runs")
    opened_by: Mapped[Person] = relationship()
    inspections: Mapped[list[InspectionLine]] = relationship(order_by="InspectionLine.id")
    room: Mapped[list[RoomReading]] = relationship(order_by="RoomReading.id")
    set_ups: Mapped[list[SetUp]] = relationship(order_by="SetUp.id")
    exercises: Mapped[list[ExercisePull]] = relationship(order_by="ExercisePull.id")
    zero_checks: Mapped[list[ZeroCheck]] = relationship(order_by="ZeroCheck.id")
    series: Mapped[list[Series]] = relationship(back_populates="run", order_by="Series.position", lazy="selectin")
    signature: Mapped[Signature | None] = relationship(back_populates="run")
    abandoned: Mapped[Abandonment | None] = relationship()
    adjustments: Mapped[list[Adjustment]] = relationship(order_by="Adjustment.id")


class InspectionLine(Record, Base):
    """One line of the look-over: fine, or not fine and accepted for the reason in ``note``."""

    __tablename__ = "inspection_line"
    run_id: Mapped[int] = mapped_column(ForeignKey("run.id"), index=True)
    at: Mapped[datetime]
    line: Mapped[str]
    fine: Mapped[bool]
    note: Mapped[str] = mapped_column(Text, default="")


class RoomReading(Record, Base):
    """Temperature in °C and relative humidity as a fraction."""

    __tablename__ = "room_reading"
    run_id: Mapped[int] = mapped_column(ForeignKey("run.id"), index=True)
    at: Mapped[datetime]
    temperature: Mapped[float]
    humidity: Mapped[float]
    note: Mapped[str] = mapped_column(Text, default="")
    source: Mapped[str] = mapped_column(default="typed")


class SetUp(Record, Base):
    """The reference chosen for the run; the newest row counts. ``override`` is the reason where a rule was set aside."""

    __tablename__ = "set_up"
    run_id: Mapped[int] = mapped_column(ForeignKey("run.id"), index=True)
    at: Mapped[datetime]
    reference_id: Mapped[int] = mapped_column(ForeignKey("reference.id"))
    certificate_id: Mapped[int] = mapped_column(ForeignKey("certificate.id"))
    mode: Mapped[str]
    override: Mapped[str] = mapped_column(Text, default="")
    reference: Mapped[Reference] = relationship()
    certificate: Mapped[Certificate] = relationship()


class ExercisePull(Record, Base):
    __tablename__ = "exercise_pull"
    run_id: Mapped[int] = mapped_column(ForeignKey("run.id"), index=True)
    at: Mapped[datetime]
    direction: Mapped[str]
    torque: Mapped[float | None]


class ZeroCheck(Record, Base):
    """What the reference showed with nothing on it, in N·m, ``when`` "before" or "after" the readings; of one series where
    ``series_id`` names it. "pointer before" and "pointer after" are the tool's own pointer, in N·m."""

    __tablename__ = "zero_check"
    run_id: Mapped[int] = mapped_column(ForeignKey("run.id"), index=True)
    at: Mapped[datetime]
    when: Mapped[str]
    torque: Mapped[float]
    allowed: Mapped[float]
    series_id: Mapped[int | None] = mapped_column(ForeignKey("series.id"), index=True)


class Series(Record, Base):
    """The readings wanted at one target (N·m) in one direction.

    ``phase`` is "as found", "adjust N", "as left N", or for a characterisation the effect measured, with its ``place``
    ("remounted 2", "drive at 90°"). ``turn`` is the turn of the screw before an adjusting series.
    """

    __tablename__ = "series"
    __table_args__ = (UniqueConstraint("run_id", "phase", "position"),)
    run_id: Mapped[int] = mapped_column(ForeignKey("run.id"), index=True)
    phase: Mapped[str]
    direction: Mapped[str]
    position: Mapped[int]
    target: Mapped[float]
    wanted: Mapped[int]
    place: Mapped[str] = mapped_column(default="")
    turn: Mapped[float | None]
    run: Mapped[Run] = relationship(back_populates="series")
    readings: Mapped[list[Reading]] = relationship(back_populates="series", order_by="Reading.id", lazy="selectin")


class Reading(Record, Base):
    __tablename__ = "reading"
    series_id: Mapped[int] = mapped_column(ForeignKey("series.id"), index=True)
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    torque: Mapped[float]
    source: Mapped[str]
    series: Mapped[Series] = relationship(back_populates="readings")
    strike: Mapped[Strike | None] = relationship(lazy="selectin")
    trace: Mapped[Trace | None] = relationship(lazy="selectin")


class Strike(Record, Base):
    """A reading struck out, and why."""

    __tablename__ = "strike"
    reading_id: Mapped[int] = mapped_column(ForeignKey("reading.id"), unique=True)
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    reason: Mapped[str] = mapped_column(Text)


class Trace(Record, Base):
    """Torque in N·m as little-endian float32 at ``rate`` samples a second.

    ``faults`` are those found in the pull, in words; ``over_travel`` a fraction, ``time_80_to_100`` in s.
    """

    __tablename__ = "trace"
    reading_id: Mapped[int] = mapped_column(ForeignKey("reading.id"), unique=True)
    rate: Mapped[float]
    samples: Mapped[bytes] = mapped_column(deferred=True)
    faults: Mapped[str] = mapped_column(Text, default="")
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
    direction: Mapped[str]
    note: Mapped[str] = mapped_column(Text, default="")


class Characterisation(Record, Base):
    """The b values (N·m) that a signed characterisation found, of a tool or, marked as such, of its model."""

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


class Preference(Base):
    """A choice remembered for this shop, such as a muted sound, as text."""

    __tablename__ = "preference"
    key: Mapped[str] = mapped_column(unique=True)
    value: Mapped[str] = mapped_column(Text)


class Signature(Record, Base):
    """The run's end: who answers for it, what it concluded and what follows for the tool.

    ``outcome`` is "released", "held", "restricted", "retired", "keep holding", "full run" or "characterised".
    """

    __tablename__ = "signature"
    run_id: Mapped[int] = mapped_column(ForeignKey("run.id"), unique=True)
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    state: Mapped[str]
    accepted: Mapped[bool | None]
    sentence: Mapped[str] = mapped_column(Text)
    rule: Mapped[str]
    limit: Mapped[float]
    due: Mapped[date | None]
    due_reason: Mapped[str] = mapped_column(default="")
    outcome: Mapped[str] = mapped_column(default="")
    note: Mapped[str] = mapped_column(Text, default="")
    second_person_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    run: Mapped[Run] = relationship(back_populates="signature")
    person: Mapped[Person] = relationship(foreign_keys=[person_id])
    second_person: Mapped[Person | None] = relationship(foreign_keys=[second_person_id])
    results: Mapped[list[PointResult]] = relationship(order_by="PointResult.id")


class PointResult(Record, Base):
    """What a signed run found at one point; fractions. Recomputable from the readings, kept for the history."""

    __tablename__ = "point_result"
    signature_id: Mapped[int] = mapped_column(ForeignKey("signature.id"), index=True)
    series_id: Mapped[int] = mapped_column(ForeignKey("series.id"))
    target: Mapped[float]
    direction: Mapped[str]
    deviation: Mapped[float]
    worst: Mapped[float]
    expanded_uncertainty: Mapped[float]
    reference_error: Mapped[float]
    probability: Mapped[float]
    state: Mapped[str]
    series: Mapped[Series] = relationship()


class Abandonment(Record, Base):
    """A run given up before its signature, and why. Its readings stay."""

    __tablename__ = "abandonment"
    run_id: Mapped[int] = mapped_column(ForeignKey("run.id"), unique=True)
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    reason: Mapped[str] = mapped_column(Text)


class Audit(Record, Base):
    """Who did what when, in words and as JSON; every change of the shop writes one."""

    __tablename__ = "audit"
    at: Mapped[datetime] = mapped_column(index=True)
    person_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    action: Mapped[str]
    subject: Mapped[str] = mapped_column(index=True)
    detail: Mapped[str] = mapped_column(Text, default="{}")
