"""The register: people, models, tools and references. A row is what is true now; its versions tell how it came to be."""

from __future__ import annotations

from datetime import date, datetime
from typing import TYPE_CHECKING

from sqlalchemy import ForeignKey, Text, UniqueConstraint, false, true
from sqlalchemy.orm import Mapped, mapped_column, relationship

from reckoner.core.requirements.tooltypes import Approach, Mechanism, ToolType
from reckoner.store.schema.base import Base, Record, Term
from reckoner.store.terms import ReferenceKind, RegisterKind

if TYPE_CHECKING:
    from reckoner.store.schema.runs import Run
    from reckoner.store.schema.tools import ToolEvent, ToolStanding


class Versioned:
    """``version`` counts the edits of the row; ``removed`` when its adding was taken back: it is shown nowhere, and what
    names it still finds it."""

    version: Mapped[int] = mapped_column(default=1)
    removed: Mapped[bool] = mapped_column(default=False)


class RegisterVersion(Record, Base):
    """One edit of a row: the fields it changed, ``before`` and ``after`` as JSON, who and when. Version 1 adds the row."""

    __tablename__ = "register_version"
    __table_args__ = (UniqueConstraint("kind", "row_id", "version"),)
    kind: Mapped[RegisterKind] = mapped_column(Term(RegisterKind))
    row_id: Mapped[int]
    version: Mapped[int]
    at: Mapped[datetime]
    person_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    before: Mapped[str] = mapped_column(Text)
    after: Mapped[str] = mapped_column(Text)


class Shop(Versioned, Base):
    """The shop itself: one row, made when it is first asked for. ``demands_passphrase``: whoever signs has one.
    ``interval_school`` is how intervals are found, ``interval_target`` the share that has to be inside still. ``numbering``
    is the scheme of its certificates' numbers, ``label_sizes`` those of its labels (both empty: as usual), ``language`` the
    code of the language that they are in. ``hour_cost`` is
    an hour at the bench in its ``currency``. ``trace_years`` is how long the traces of pulls stay before they are archived
    (None: always). ``latitude`` (rad) and ``elevation`` (m) say where it stands, and so what gravity is there. ``units``
    names the system in which lengths, masses, forces and temperatures are told (empty: what goes with each tool's torque)."""

    __tablename__ = "shop"
    name: Mapped[str] = mapped_column(default="")
    address: Mapped[str] = mapped_column(Text, default="")
    units: Mapped[str] = mapped_column(default="", server_default="")
    numbering: Mapped[str] = mapped_column(default="", server_default="")
    language: Mapped[str] = mapped_column(default="en", server_default="en")
    label_sizes: Mapped[str] = mapped_column(Text, default="", server_default="")
    trace_years: Mapped[int | None]
    currency: Mapped[str] = mapped_column(default="", server_default="")
    hour_cost: Mapped[float | None]
    demands_passphrase: Mapped[bool] = mapped_column(default=False)
    asks_at_sitting: Mapped[bool] = mapped_column(default=False, server_default=false())
    lock_minutes: Mapped[int | None]
    interval_school: Mapped[str] = mapped_column(default="fixed", server_default="fixed")
    latitude: Mapped[float | None]
    elevation: Mapped[float | None]
    interval_target: Mapped[float] = mapped_column(default=0.95, server_default="0.95")


class Person(Versioned, Base):
    """Someone who works here. ``may_sign`` a run, stand beside as the ``may_second``, ``may_edit`` the register,
    ``may_allow`` what departs from a rule, ``may_settle`` what a bad tool may have spoiled, ``may_keep`` the records (take
    in, archive, put backups back), ``may_grant`` rights. ``left_on``: the day from which the person works here no more."""

    __tablename__ = "person"
    initials: Mapped[str] = mapped_column(unique=True)
    name: Mapped[str]
    may_adjust: Mapped[bool] = mapped_column(default=False)
    may_sign: Mapped[bool] = mapped_column(default=True, server_default=true())
    may_second: Mapped[bool] = mapped_column(default=True, server_default=true())
    may_edit: Mapped[bool] = mapped_column(default=True, server_default=true())
    may_allow: Mapped[bool] = mapped_column(default=True, server_default=true())
    may_settle: Mapped[bool] = mapped_column(default=True, server_default=true())
    may_keep: Mapped[bool] = mapped_column(default=True, server_default=true())
    may_grant: Mapped[bool] = mapped_column(default=True, server_default=true())
    left_on: Mapped[date | None]


class ToolModel(Versioned, Base):
    """What all tools of one make have in common. Torques in N·m, lengths in m, masses in kg, ratios as fractions.

    ``storage`` is the maker's advice where it differs from the mechanism's; ``grip_matters`` whether it trips by where the
    hand pulls (None: not known); ``second_unit`` of a scale beside the main one; ``corrects_adapter``: it takes an adapter's
    length into account itself; ``head_length`` is the exchangeable head's that it was made for, drive centre to seat.

    ``adjust_where`` says where the screw is (empty: nobody here adjusts it), ``adjust_raises`` which way turned raises the
    torque ("cw", "ccw"), ``adjust_lock`` what locks it, ``adjust_rate`` what a turn that way usually adds in N·m.

    ``tolerance`` is the maker's limit as a part of the reading, ``zones`` (JSON) where it is stated otherwise.
    ``interval_school`` is how its interval is found (empty: as the shop does). ``main_graduation`` is between two marks of
    the main scale (N·m), where a fine one counts on from them. ``fee`` and ``freight`` of a test outside, the ``days_away``,
    the ``price`` of a new one and the ``bench_minutes`` of a test here are the owner's own figures.
    """

    __tablename__ = "tool_model"
    __table_args__ = (UniqueConstraint("maker", "name"),)
    maker: Mapped[str]
    name: Mapped[str]
    type: Mapped[ToolType] = mapped_column(Term(ToolType))
    class_: Mapped[str] = mapped_column("class")
    mechanism: Mapped[Mechanism] = mapped_column(Term(Mechanism))
    minimum: Mapped[float | None]
    maximum: Mapped[float]
    resolution: Mapped[float] = mapped_column(default=0.0)
    unit: Mapped[str] = mapped_column(default="N.m")
    drive: Mapped[str]
    directions: Mapped[str] = mapped_column(default="cw")
    lever_length: Mapped[float | None]
    pivot_offset: Mapped[float] = mapped_column(default=0.0)
    own_mass: Mapped[float | None]
    own_centre: Mapped[float | None]
    tolerance: Mapped[float | None]
    zones: Mapped[str] = mapped_column(Text, default="", server_default="")
    approach: Mapped[Approach] = mapped_column(Term(Approach), default=Approach.FROM_BELOW)
    adjust_where: Mapped[str] = mapped_column(Text, default="")
    adjust_raises: Mapped[str] = mapped_column(default="")
    adjust_lock: Mapped[str] = mapped_column(Text, default="")
    adjust_rate: Mapped[float | None]
    adjust_most_turns: Mapped[float | None]
    adjust_relieve: Mapped[bool] = mapped_column(default=False)
    adjust_changes: Mapped[str] = mapped_column(default="", server_default="")
    storage: Mapped[str] = mapped_column(Text, default="", server_default="")
    grip_matters: Mapped[bool | None]
    second_unit: Mapped[str] = mapped_column(default="", server_default="")
    second_resolution: Mapped[float | None]
    main_graduation: Mapped[float | None]
    corrects_adapter: Mapped[bool] = mapped_column(default=False, server_default=false())
    head_length: Mapped[float | None]
    interval_school: Mapped[str] = mapped_column(default="", server_default="")
    fee: Mapped[float | None]
    freight: Mapped[float | None]
    days_away: Mapped[float | None]
    price: Mapped[float | None]
    bench_minutes: Mapped[float | None]
    tools: Mapped[list[Tool]] = relationship(back_populates="model")


class Tool(Versioned, Base):
    """One tool. ``tolerance`` and ``zones`` are its owner's own limit, ``interval_school`` how its interval is found
    (empty: as its model), ``cycles_per_lent_day`` what a day at work is taken for; the limit, ``resolution``,
    ``lever_length``, ``pivot_offset``, ``own_mass`` and ``own_centre`` are None where it is as its model."""

    __tablename__ = "tool"
    number: Mapped[str] = mapped_column(unique=True)
    serial: Mapped[str] = mapped_column(default="", index=True)
    model_id: Mapped[int] = mapped_column(ForeignKey("tool_model.id"), index=True)
    place: Mapped[str] = mapped_column(default="")
    rule_set: Mapped[str] = mapped_column(default="iso-6789-2017")
    interval_months: Mapped[int | None]
    cycles_per_year: Mapped[int] = mapped_column(default=0)
    in_service: Mapped[date | None]
    owner: Mapped[str] = mapped_column(default="", server_default="")
    interval_school: Mapped[str] = mapped_column(default="", server_default="")
    cycles_per_lent_day: Mapped[int] = mapped_column(default=0, server_default="0")
    resolution: Mapped[float | None]
    tolerance: Mapped[float | None]
    zones: Mapped[str] = mapped_column(Text, default="", server_default="")
    lever_length: Mapped[float | None]
    pivot_offset: Mapped[float | None]
    own_mass: Mapped[float | None]
    own_centre: Mapped[float | None]
    model: Mapped[ToolModel] = relationship(back_populates="tools")
    events: Mapped[list[ToolEvent]] = relationship(back_populates="tool", order_by="ToolEvent.id")
    runs: Mapped[list[Run]] = relationship(back_populates="tool", order_by="Run.id")
    standing: Mapped[ToolStanding | None] = relationship(back_populates="tool")


class Reference(Versioned, Base):
    """What tools are compared with. ``corrected``: it applies its certificate itself; ``error_left`` is the reason why the
    known error is left in its readings, empty where they are corrected for it. ``link`` is how it is reached where a
    station does not say otherwise: a pyserial URL, a device path, ``stand-in``, or empty for typed readings only; ``unit`` is
    the one that it shows."""

    __tablename__ = "reference"
    number: Mapped[str] = mapped_column(unique=True)
    kind: Mapped[ReferenceKind] = mapped_column(Term(ReferenceKind), default=ReferenceKind.METER)
    serial: Mapped[str] = mapped_column(default="")
    maker: Mapped[str] = mapped_column(default="")
    model: Mapped[str] = mapped_column(default="")
    minimum: Mapped[float]
    maximum: Mapped[float]
    resolution: Mapped[float]
    zero_tolerance: Mapped[float]
    corrected: Mapped[bool] = mapped_column(default=False)
    error_left: Mapped[str] = mapped_column(Text, default="", server_default="")
    link: Mapped[str] = mapped_column(default="")
    unit: Mapped[str] = mapped_column(default="N.m", server_default="N.m")
    certificates: Mapped[list[Certificate]] = relationship(back_populates="reference", order_by="Certificate.id")


class Attachment(Versioned, Base):
    """A file of a row of the register: its ``name``, its ``size`` in bytes, and the SHA-256 of its content."""

    __tablename__ = "attachment"
    of_kind: Mapped[RegisterKind] = mapped_column(Term(RegisterKind))
    of_id: Mapped[int] = mapped_column(index=True)
    name: Mapped[str]
    digest: Mapped[str]
    size: Mapped[int]
    added_on: Mapped[date]


class Content(Record, Base):
    """What a file holds, kept once for each content."""

    __tablename__ = "content"
    digest: Mapped[str] = mapped_column(unique=True)
    data: Mapped[bytes]


class Certificate(Record, Base):
    """What a laboratory said of a reference; ``issued`` None where nobody wrote down when."""

    __tablename__ = "certificate"
    reference_id: Mapped[int] = mapped_column(ForeignKey("reference.id"), index=True)
    number: Mapped[str]
    laboratory: Mapped[str]
    issued: Mapped[date | None]
    due: Mapped[date]
    coverage_factor: Mapped[float] = mapped_column(default=2.0)
    reference: Mapped[Reference] = relationship(back_populates="certificates")
    points: Mapped[list[CertificatePointRow]] = relationship(order_by="CertificatePointRow.torque")
    withdrawal: Mapped[CertificateWithdrawal | None] = relationship(lazy="joined")


class CertificateWithdrawal(Record, Base):
    """A certificate that was kept by mistake, or is superseded: it counts for nothing that comes, and says why."""

    __tablename__ = "certificate_withdrawal"
    certificate_id: Mapped[int] = mapped_column(ForeignKey("certificate.id"), unique=True)
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    reason: Mapped[str] = mapped_column(Text)


class CertificatePointRow(Record, Base):
    __tablename__ = "certificate_point"
    certificate_id: Mapped[int] = mapped_column(ForeignKey("certificate.id"), index=True)
    torque: Mapped[float]
    error: Mapped[float]
    expanded_uncertainty: Mapped[float]
