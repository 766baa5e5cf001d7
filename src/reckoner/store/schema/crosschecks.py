"""References held against something else: a check as its chart shows it, and the readings of one over a whole range."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import ForeignKey, Text
from sqlalchemy.orm import Mapped, mapped_column

from reckoner.store.schema.base import Base, Record, Term
from reckoner.store.terms import CrossBy


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
