"""What stands beside meters and tools: weights, scales, force gauges, lengths and levels, each with its uncertainty, and
adapters.

Uncertainties are expanded, k = 2. One table: a row's ``kind`` says what it is and which of its columns mean something.
"""

from __future__ import annotations

from datetime import date

from sqlalchemy.orm import Mapped, mapped_column

from reckoner.store.schema.base import Base, Term
from reckoner.store.schema.register import Versioned
from reckoner.store.terms import GearKind


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
