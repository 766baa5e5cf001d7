"""What the desk keeps beside a tool's events: the settings a loan was for, what a trip cost, results of other laboratories,
and the reviews of what a tool may have spoiled.

Job cards: what is to be tightened and how, and the working through of one, fastener by fastener.
"""

from __future__ import annotations

from datetime import date, datetime

from sqlalchemy import ForeignKey, Text, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column, relationship

from reckoner.core.decision.states import State
from reckoner.core.requirements.tooltypes import Direction
from reckoner.core.tightening.jobs import EntryKind
from reckoner.store.schema.base import Base, Record, Term
from reckoner.store.schema.register import Versioned


class LoanSetting(Record, Base):
    """A setting that a loan was for: the ``job`` and its ``joint``, the torque ``set`` on the tool (N·m), the ``factor`` of
    the adapter with its ``words``, and the joint's band ``low`` to ``high`` at the fastener (None: not known)."""

    __tablename__ = "loan_setting"
    event_id: Mapped[int] = mapped_column(ForeignKey("tool_event.id"), index=True)
    job: Mapped[str] = mapped_column(default="")
    joint: Mapped[str] = mapped_column(default="")
    torque_set: Mapped[float]
    factor: Mapped[float] = mapped_column(default=1.0)
    adapter: Mapped[str] = mapped_column(default="")
    low: Mapped[float | None]
    high: Mapped[float | None]


class Trip(Record, Base):
    """What a trip to a laboratory cost, told when the tool was sent or came back (``event_id``): its ``fee`` and
    ``freight`` in the shop's currency, and the run before it left (``check_run_id``) that its state then is known by."""

    __tablename__ = "trip"
    event_id: Mapped[int] = mapped_column(ForeignKey("tool_event.id"), unique=True)
    fee: Mapped[float | None]
    freight: Mapped[float | None]
    check_run_id: Mapped[int | None] = mapped_column(ForeignKey("run.id"))


class OutsideResult(Record, Base):
    """A result that was found elsewhere: by a ``laboratory`` under a ``number``, or by another shop. ``sequence`` is its
    place in the tool's own order, ``digest`` names its file where there is one."""

    __tablename__ = "outside_result"
    tool_id: Mapped[int] = mapped_column(ForeignKey("tool.id"), index=True)
    sequence: Mapped[int]
    at: Mapped[datetime]
    person_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    number: Mapped[str]
    laboratory: Mapped[str]
    issued: Mapped[date]
    due: Mapped[date | None]
    state: Mapped[State] = mapped_column(Term(State))
    coverage_factor: Mapped[float] = mapped_column(default=2.0)
    note: Mapped[str] = mapped_column(Text, default="")
    digest: Mapped[str] = mapped_column(default="")
    points: Mapped[list[OutsidePoint]] = relationship(order_by="OutsidePoint.id")


class OutsidePoint(Record, Base):
    """One of its points: the ``target`` in N·m, the ``deviation``, its W and the limit that it is held against, fractions.
    ``as_left``: after the laboratory had adjusted it."""

    __tablename__ = "outside_point"
    outside_result_id: Mapped[int] = mapped_column(ForeignKey("outside_result.id"), index=True)
    as_left: Mapped[bool] = mapped_column(default=False)
    direction: Mapped[Direction] = mapped_column(Term(Direction))
    target: Mapped[float]
    deviation: Mapped[float]
    expanded_uncertainty: Mapped[float]
    limit: Mapped[float]


class Review(Record, Base):
    """What a tool may have spoiled, begun: ``document`` (JSON) holds what was known of it and the lines as they were judged,
    so that nothing edited later changes them. ``run_id`` is the run that asked for it (None: somebody did)."""

    __tablename__ = "review"
    tool_id: Mapped[int] = mapped_column(ForeignKey("tool.id"), index=True)
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    run_id: Mapped[int | None] = mapped_column(ForeignKey("run.id"))
    document: Mapped[str] = mapped_column(Text)


class ReviewMark(Record, Base):
    """A ``line`` of a review settled, by whom and how; of several the last counts."""

    __tablename__ = "review_mark"
    review_id: Mapped[int] = mapped_column(ForeignKey("review.id"), index=True)
    line: Mapped[int]
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    note: Mapped[str] = mapped_column(Text)


class ReviewClose(Record, Base):
    """A review closed; once."""

    __tablename__ = "review_close"
    __table_args__ = (UniqueConstraint("review_id"),)
    review_id: Mapped[int] = mapped_column(ForeignKey("review.id"))
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    note: Mapped[str] = mapped_column(Text, default="")


class JobCardRow(Versioned, Base):
    """A card kept to be worked from again and again: its ``number`` names it, ``document`` (JSON) is the card as its open
    file holds it (``formats.jobcard``)."""

    __tablename__ = "job_card"
    number: Mapped[str] = mapped_column(unique=True)
    title: Mapped[str] = mapped_column(default="")
    place: Mapped[str] = mapped_column(default="")
    document: Mapped[str] = mapped_column(Text)


class JobWork(Record, Base):
    """A card being worked through: ``document`` is the card as it was when it began, with the tools and settings chosen then,
    so that nothing edited later changes it. ``card_id`` is the card that it came from (None: its file's alone)."""

    __tablename__ = "job_work"
    card_id: Mapped[int | None] = mapped_column(ForeignKey("job_card.id"), index=True)
    number: Mapped[str]
    title: Mapped[str] = mapped_column(default="")
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    document: Mapped[str] = mapped_column(Text)


class JobEntry(Record, Base):
    """Something done or measured at a ``fastener`` (from 1) in a ``step`` of the work (from 0): the ``value`` in N·m, rad for
    an angle. ``strikes`` names an entry of this work that counts no more."""

    __tablename__ = "job_entry"
    work_id: Mapped[int] = mapped_column(ForeignKey("job_work.id"), index=True)
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    kind: Mapped[EntryKind] = mapped_column(Term(EntryKind))
    step: Mapped[int]
    fastener: Mapped[int]
    value: Mapped[float | None]
    note: Mapped[str] = mapped_column(Text, default="")
    strikes: Mapped[int | None] = mapped_column(ForeignKey("job_entry.id"))


class JobClose(Record, Base):
    """The work over: signed, or given up with its reason."""

    __tablename__ = "job_close"
    work_id: Mapped[int] = mapped_column(ForeignKey("job_work.id"), unique=True)
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    done: Mapped[bool]
    note: Mapped[str] = mapped_column(Text, default="")
