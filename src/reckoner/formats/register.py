"""A shop's register as a TOML file: people, tool models, tools, references with their certificates.

Quantities are text with a unit. `reckoner import FILE` reads it; docs/file-formats.md describes it with an example.
"""

from __future__ import annotations

from datetime import date
from pathlib import Path
from typing import Annotated, Any

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, ValidationError

from reckoner.core.errors import InputRefused
from reckoner.core.kinds import Mechanism, ToolType
from reckoner.core.limits import StatedLimit, read_limit
from reckoner.core.units import Kind, unit_named
from reckoner.formats.fields import FileRefused, quantity, sentences
from reckoner.formats.reading import TextRefused, read_text, read_toml


class RegisterRefused(FileRefused):
    """A register file cannot be used."""


def _unit(value: Any) -> str:
    try:
        return unit_named(str(value), Kind.TORQUE).name
    except InputRefused as refusal:
        raise ValueError(refusal.reason) from None


Torque = Annotated[float, quantity(Kind.TORQUE), Field(gt=0)]
Length = Annotated[float, quantity(Kind.LENGTH), Field(ge=0)]
Mass = Annotated[float, quantity(Kind.MASS), Field(gt=0)]
Force = Annotated[float, quantity(Kind.FORCE), Field(gt=0)]
Angle = Annotated[float, quantity(Kind.ANGLE), Field(gt=0, lt=0.8)]
Ratio = Annotated[float, quantity(Kind.RATIO)]
TorqueUnit = Annotated[str, BeforeValidator(_unit)]
Name = Annotated[str, Field(min_length=1, max_length=80)]


def _limit(value: Any) -> StatedLimit | None:
    if value is None or isinstance(value, StatedLimit):
        return value
    try:
        return read_limit(str(value), "tolerance")
    except InputRefused as refusal:
        raise ValueError(refusal.reason) from None


Limit = Annotated[StatedLimit | None, BeforeValidator(_limit)]
School = Annotated[str, Field(pattern="^(fixed|staircase|reliability|)$")]


Money = Annotated[float, Field(ge=0, le=10**7)] | None


class _Row(BaseModel):
    model_config = ConfigDict(extra="forbid")


class PersonRow(_Row):
    initials: Name
    name: Name
    may_adjust: bool = False
    may_sign: bool = True
    may_second: bool = True
    may_edit: bool = True
    may_allow: bool = True


class ModelRow(_Row):
    maker: Name
    name: Name
    type: ToolType
    class_: str = Field(alias="class")
    mechanism: Mechanism
    minimum: Torque | None = None
    maximum: Torque
    resolution: Torque | None = None
    unit: TorqueUnit = "N.m"
    drive: str = ""
    directions: Annotated[str, Field(pattern="^(cw|ccw|both)$")] = "cw"
    lever_length: Length | None = None
    pivot_offset: Length = 0.0
    own_mass: Mass | None = None
    own_centre: Length | None = None
    tolerance: Limit = None
    interval_school: School = ""
    approach: Annotated[str, Field(pattern="^from (below|above)$")] = "from below"
    adjust_where: str = ""
    adjust_raises: Annotated[str, Field(pattern="^(cw|ccw|)$")] = ""
    adjust_lock: str = ""
    adjust_rate: Torque | None = None
    adjust_most_turns: Annotated[float, Field(gt=0, le=50)] | None = None
    adjust_relieve: bool = False
    adjust_changes: Annotated[str, Field(pattern="^(offset|gain|)$")] = ""
    storage: str = ""
    grip_matters: bool | None = None
    second_unit: Annotated[str, BeforeValidator(lambda v: _unit(v) if v else "")] = ""
    second_resolution: Torque | None = None
    corrects_adapter: bool = False
    head_length: Length | None = None
    main_graduation: Torque | None = None
    fee: Money = None
    freight: Money = None
    days_away: Money = None
    price: Money = None
    bench_minutes: Money = None


class ToolRow(_Row):
    number: Name
    serial: str = ""
    model: Name
    place: str = ""
    rule_set: str = "iso-6789-2017"
    interval_months: Annotated[int, Field(ge=1, le=120)] | None = None
    cycles_per_year: Annotated[int, Field(ge=0, le=10**7)] = 0
    cycles_per_lent_day: Annotated[int, Field(ge=0, le=10**5)] = 0
    in_service: date | None = None
    owner: str = ""
    resolution: Torque | None = None
    tolerance: Limit = None
    interval_school: School = ""
    lever_length: Length | None = None
    pivot_offset: Length | None = None
    own_mass: Mass | None = None
    own_centre: Length | None = None


class CertificatePointRow(_Row):
    torque: Torque
    error: Ratio = 0.0
    uncertainty: Annotated[Ratio, Field(gt=0, lt=0.5)]


class CertificateRow(_Row):
    number: str = ""
    laboratory: str = ""
    issued: date | None = None
    due: date
    coverage_factor: Annotated[float, Field(ge=1, le=4)] = 2.0
    points: Annotated[list[CertificatePointRow], Field(min_length=1)]


class ReferenceRow(_Row):
    number: Name
    serial: str = ""
    maker: str = ""
    model: str = ""
    minimum: Torque
    maximum: Torque
    resolution: Torque
    zero_tolerance: Torque
    corrected: bool = False
    error_left: str = ""
    link: str = ""
    unit: TorqueUnit = "N.m"
    certificates: list[CertificateRow] = Field(default_factory=list)


class _GearRow(_Row):
    number: Name
    serial: str = ""
    due: date | None = None


class WeightRow(_GearRow):
    box: Annotated[str, Field(max_length=40)] | None = None
    stamped: Mass | None = None
    weighed: Mass | None = None
    mass_uncertainty: Mass | None = None
    weighed_on: date | None = None
    weighed_with: Annotated[str, Field(max_length=80)] | None = None


class ScaleRow(_GearRow):
    bears: Mass | None = None
    scale_step: Mass | None = None
    scale_uncertainty: Mass | None = None


class ForceGaugeRow(_GearRow):
    reaches: Force | None = None
    gauge_step: Force | None = None
    force_uncertainty: Annotated[Ratio, Field(gt=0, lt=0.5)] | None = None
    shows_mass: bool | None = None


class LengthRow(_GearRow):
    graduation: Length | None = None
    length_uncertainty: Length | None = None


class LevelRow(_GearRow):
    angle_uncertainty: Angle | None = None


class AdapterRow(_GearRow):
    shape: Annotated[str, Field(max_length=60)] | None = None
    adapter_length: Length | None = None
    adapter_rating: Torque | None = None
    adapter_gives: bool | None = None


class Register(_Row):
    """The whole file. Tools name their model as "Maker Name"."""

    people: list[PersonRow] = Field(default_factory=list)
    models: list[ModelRow] = Field(default_factory=list)
    tools: list[ToolRow] = Field(default_factory=list)
    references: list[ReferenceRow] = Field(default_factory=list)
    weights: list[WeightRow] = Field(default_factory=list)
    scales: list[ScaleRow] = Field(default_factory=list)
    force_gauges: list[ForceGaugeRow] = Field(default_factory=list)
    lengths: list[LengthRow] = Field(default_factory=list)
    levels: list[LevelRow] = Field(default_factory=list)
    adapters: list[AdapterRow] = Field(default_factory=list)


def parse(text: str, source: str = "register") -> Register:
    """The register that a TOML ``text`` says. Raises RegisterRefused with a sentence for each mistake."""
    try:
        raw = read_toml(text)
    except TextRefused as refusal:
        raise RegisterRefused(source, (refusal.why,)) from None
    return validate(raw, source)


def validate(raw: Any, source: str = "register") -> Register:
    """The same for a table already read."""
    try:
        return Register.model_validate(raw)
    except ValidationError as fault:
        raise RegisterRefused(source, sentences(fault)) from None


def load(path: Path) -> Register:
    """The register in the file at ``path``. Raises RegisterRefused."""
    try:
        text = read_text(path)
    except TextRefused as refusal:
        raise RegisterRefused(str(path), (refusal.why,)) from None
    return parse(text, path.name)
