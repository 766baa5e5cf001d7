"""Job cards: what is to be tightened and how, and the working through of one, fastener by fastener."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import ForeignKey, Text
from sqlalchemy.orm import Mapped, mapped_column

from reckoner.core.jobs import Entered
from reckoner.store.schema.base import Base, Record, Term
from reckoner.store.schema.register import Versioned


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
    kind: Mapped[Entered] = mapped_column(Term(Entered))
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
