"""Scales made for beams: the marks they are drawn from, and the blind repeats that check them."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import ForeignKey, Text
from sqlalchemy.orm import Mapped, mapped_column

from reckoner.store.schema.base import Base, Record


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
