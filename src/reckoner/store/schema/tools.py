"""What happens to a tool, where it stands, and which run it is in."""

from __future__ import annotations

from datetime import date, datetime
from typing import TYPE_CHECKING

from sqlalchemy import ForeignKey, Index, Text, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column, relationship

from reckoner.core.decision.states import State
from reckoner.core.history.due import DueReason
from reckoner.store.schema.base import Base, Record, Term
from reckoner.store.terms import EventKind

if TYPE_CHECKING:
    from reckoner.store.schema.register import Tool


class ToolEvent(Record, Base):
    """Something that happened to a tool outside a run: a fall, a hold and its release, a loan and its return.

    ``sequence`` orders the events and signatures of one tool, whatever the clock said. ``low`` and ``high`` in N·m are the
    part of the range that a restriction leaves, ``cycles`` how often it was used since it was counted last.
    """

    __tablename__ = "tool_event"
    tool_id: Mapped[int] = mapped_column(ForeignKey("tool.id"), index=True)
    sequence: Mapped[int]
    at: Mapped[datetime]
    person_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    kind: Mapped[EventKind] = mapped_column(Term(EventKind))
    note: Mapped[str] = mapped_column(Text, default="")
    due_back: Mapped[date | None]
    low: Mapped[float | None]
    high: Mapped[float | None]
    cycles: Mapped[int | None]
    tool: Mapped[Tool] = relationship(back_populates="events")


class HistoryPlace(Base):
    """A place in a tool's own order that is taken, by an event, a signature or a result found elsewhere: each once, or the
    database refuses."""

    __tablename__ = "history_place"
    __table_args__ = (UniqueConstraint("tool_id", "sequence"),)
    tool_id: Mapped[int] = mapped_column(ForeignKey("tool.id"))
    sequence: Mapped[int]


class OpenLoan(Base):
    """A tool that is lent. Its row goes when it is back; one a tool, or the database refuses."""

    __tablename__ = "open_loan"
    tool_id: Mapped[int] = mapped_column(ForeignKey("tool.id"), unique=True)


class OpenRun(Base):
    """The run that a tool is in. Its row goes when the run is signed or given up; one a tool, or the database refuses."""

    __tablename__ = "open_run"
    tool_id: Mapped[int] = mapped_column(ForeignKey("tool.id"), unique=True)
    run_id: Mapped[int] = mapped_column(ForeignKey("run.id"), unique=True)


class ToolListing(Base):
    """What a tool is listed and found by: a projection of the register and of where it stands, never written by anything but
    ``shop.register.listing``. One row for each tool that is not removed; lists stand in the order of ``number``.

    ``plain_number`` and ``plain_serial`` are without what people vary; a typed word is looked for in ``words``. ``waits``:
    the bench may wait for it, from ``due_on``; ``held_back``: it is held, or kept as evidence; ``lent``, until ``back_by``.
    ``place`` and ``kind`` are as lists are sorted; it is used from ``smallest`` to ``full_scale`` (N·m).
    """

    __tablename__ = "tool_listing"
    __table_args__ = (
        Index("ix_tool_listing_order", "number", "words", "tool_id", "due_on", "held_back", "lent"),
        Index("ix_tool_listing_waits", "waits", "due_on", "number", "tool_id"),
        Index("ix_tool_listing_held_back", "held_back", "number", "tool_id"),
        Index("ix_tool_listing_back_by", "back_by", "number", "tool_id"),
        Index("ix_tool_listing_due", "due_on", "number", "tool_id"),
        Index("ix_tool_listing_place", "place", "number", "tool_id"),
        Index("ix_tool_listing_kind", "kind", "number", "tool_id"),
        Index("ix_tool_listing_full_scale", "full_scale", "number", "tool_id"),
    )
    tool_id: Mapped[int] = mapped_column(ForeignKey("tool.id"), unique=True)
    number: Mapped[str]
    plain_number: Mapped[str] = mapped_column(index=True)
    plain_serial: Mapped[str] = mapped_column(index=True)
    words: Mapped[str] = mapped_column(Text)
    waits: Mapped[bool] = mapped_column(default=True)
    due_on: Mapped[date | None]
    held_back: Mapped[bool] = mapped_column(default=False)
    lent: Mapped[bool] = mapped_column(default=False)
    back_by: Mapped[date | None]
    place: Mapped[str] = mapped_column(default="", server_default="")
    kind: Mapped[str] = mapped_column(default="", server_default="")
    smallest: Mapped[float] = mapped_column(default=0.0, server_default="0")
    full_scale: Mapped[float] = mapped_column(default=0.0, server_default="0")


class SavedFilter(Base):
    """Words that the list of tools is filtered by, kept to be chosen again."""

    __tablename__ = "saved_filter"
    words: Mapped[str] = mapped_column(unique=True)


class ToolStanding(Base):
    """What a tool is, as its events and results say: a projection, kept in the same unit of work as they are, never written
    by anything but ``shop.events.standing``, and rebuilt from them at any time. Torques in N·m; ``cycles`` are those
    counted since its last full run, ``interval_ends`` the due date apart from them; ``corrected_until``: its owner lets it
    be used with correction."""

    __tablename__ = "tool_standing"
    tool_id: Mapped[int] = mapped_column(ForeignKey("tool.id"), unique=True)
    state: Mapped[State | None] = mapped_column(Term(State))
    last_run: Mapped[date | None]
    due_on: Mapped[date | None]
    due_reason: Mapped[DueReason | None] = mapped_column(Term(DueReason))
    held: Mapped[str] = mapped_column(Text, default="")
    check_event_id: Mapped[int | None] = mapped_column(ForeignKey("tool_event.id"))
    restricted_low: Mapped[float | None]
    restricted_high: Mapped[float | None]
    lent_to: Mapped[str] = mapped_column(Text, default="")
    lent_on: Mapped[date | None]
    back_by: Mapped[date | None]
    away_at: Mapped[str] = mapped_column(Text, default="")
    away_since: Mapped[date | None]
    away_until: Mapped[date | None] = mapped_column(index=True)
    kept: Mapped[str] = mapped_column(Text, default="")
    retired: Mapped[bool] = mapped_column(default=False)
    cycles: Mapped[int] = mapped_column(default=0, server_default="0")
    interval_ends: Mapped[date | None]
    corrected_until: Mapped[date | None]
    tool: Mapped[Tool] = relationship(back_populates="standing")
