"""What stands beside meters and tools: weights, scales, force gauges, lengths and levels, each with its uncertainty, and
adapters.

Uncertainties are expanded, k = 2. One table: a row's ``kind`` says what it is and which of its columns mean something.

References held against something else: a check as its chart shows it, and the readings of one over a whole range.

Scales made for beams: the marks they are drawn from, and the blind repeats that check them.
"""

from __future__ import annotations

from datetime import date, datetime

from sqlalchemy import ForeignKey, Text
from sqlalchemy.orm import Mapped, mapped_column

from reckoner.store.schema.base import Base, Record, Term
from reckoner.store.schema.register import Versioned
from reckoner.store.terms import CrossBy, GearKind


class Gear(Versioned, Base):
    """Something that weighs, pulls or measures lengths and angles."""

    __tablename__ = "gear"
    kind: Mapped[GearKind] = mapped_column(Term(GearKind))
    number: Mapped[str] = mapped_column(unique=True)
    serial: Mapped[str] = mapped_column(default="")
    due: Mapped[date | None]
    __mapper_args__ = {"polymorphic_on": "kind", "polymorphic_abstract": True}  # noqa: RUF012


class Weight(Gear):
    """A weight of a box: what is ``stamped`` on it and what it ``weighed``, in kg, on what and when."""

    box: Mapped[str | None]
    stamped: Mapped[float | None]
    weighed: Mapped[float | None]
    mass_uncertainty: Mapped[float | None]
    weighed_on: Mapped[date | None]
    weighed_with: Mapped[str | None]
    __mapper_args__ = {"polymorphic_identity": GearKind.WEIGHT}  # noqa: RUF012


class WeighingScale(Gear):
    """A scale: what it ``bears`` and its ``step``, in kg."""

    bears: Mapped[float | None]
    scale_step: Mapped[float | None]
    scale_uncertainty: Mapped[float | None]
    __mapper_args__ = {"polymorphic_identity": GearKind.SCALE}  # noqa: RUF012


class ForceGauge(Gear):
    """A force gauge or a hanging scale: what it reaches and its step in N, its uncertainty as a fraction. ``shows_mass``: it
    reads kg, and was set with a mass here."""

    reaches: Mapped[float | None]
    gauge_step: Mapped[float | None]
    force_uncertainty: Mapped[float | None]
    shows_mass: Mapped[bool | None]
    __mapper_args__ = {"polymorphic_identity": GearKind.FORCE_GAUGE}  # noqa: RUF012


class Length(Gear):
    """A rule or a tape: its ``graduation`` and its uncertainty in m."""

    graduation: Mapped[float | None]
    length_uncertainty: Mapped[float | None]
    __mapper_args__ = {"polymorphic_identity": GearKind.LENGTH}  # noqa: RUF012


class Level(Gear):
    """A level: its uncertainty in rad."""

    angle_uncertainty: Mapped[float | None]
    __mapper_args__ = {"polymorphic_identity": GearKind.LEVEL}  # noqa: RUF012


class AdapterRow(Gear):
    """An adapter: its ``adapter_length`` in m between the centres of drive and fastener, what it may bear
    (``adapter_rating``, N·m), its ``shape`` in words. ``adapter_gives``: it has a joint with give, and passes no set torque
    on."""

    adapter_length: Mapped[float | None]
    adapter_rating: Mapped[float | None]
    shape: Mapped[str | None]
    adapter_gives: Mapped[bool | None]
    __mapper_args__ = {"polymorphic_identity": GearKind.ADAPTER}  # noqa: RUF012


class CrossCheck(Record, Base):
    """A reference held against another one, or against weights: what it ``indicated`` and what was ``actual``, N·m. One that
    was taken over its range, ``cross_run_id``, holds the mean of its torques here."""

    __tablename__ = "cross_check"
    reference_id: Mapped[int] = mapped_column(ForeignKey("reference.id"), index=True)
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    against: Mapped[str]
    indicated: Mapped[float]
    actual: Mapped[float]
    note: Mapped[str] = mapped_column(Text, default="")
    cross_run_id: Mapped[int | None] = mapped_column(ForeignKey("cross_run.id"))


class CrossRun(Record, Base):
    """A reference held against something else over its range, begun: ``by`` says against what kind of thing, ``against``
    which, ``detail`` (JSON) what it was worth as it was, and at which torques."""

    __tablename__ = "cross_run"
    reference_id: Mapped[int] = mapped_column(ForeignKey("reference.id"), index=True)
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    by: Mapped[CrossBy] = mapped_column(Term(CrossBy))
    against: Mapped[str]
    detail: Mapped[str] = mapped_column(Text)


class CrossReading(Record, Base):
    """What it ``indicated`` while the other said ``actual``, N·m, at a ``target``; ``uncertainty`` is W of the actual torque,
    a fraction, k = 2."""

    __tablename__ = "cross_reading"
    cross_run_id: Mapped[int] = mapped_column(ForeignKey("cross_run.id"), index=True)
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    target: Mapped[float]
    indicated: Mapped[float]
    actual: Mapped[float]
    uncertainty: Mapped[float]


class CrossStrike(Record, Base):
    """A reading of a cross-check that counts no more, and why."""

    __tablename__ = "cross_strike"
    cross_reading_id: Mapped[int] = mapped_column(ForeignKey("cross_reading.id"), unique=True)
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    reason: Mapped[str] = mapped_column(Text)


class BeamScale(Record, Base):
    """A scale as it was made for a tool; ``document`` (JSON) holds its marks and how it is drawn."""

    __tablename__ = "beam_scale"
    tool_id: Mapped[int] = mapped_column(ForeignKey("tool.id"), index=True)
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    document: Mapped[str] = mapped_column(Text)


class BeamRepeat(Record, Base):
    """It was pulled to a ``mark`` while nobody looked at the reference, which had ``read`` so much then; N·m."""

    __tablename__ = "beam_repeat"
    beam_scale_id: Mapped[int] = mapped_column(ForeignKey("beam_scale.id"), index=True)
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    mark: Mapped[float]
    read: Mapped[float]
