"""The core's records built from the store's rows."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import TYPE_CHECKING

from reckoner.core.budget import Effects
from reckoner.core.kinds import MECHANISMS, Approach, Direction, Mechanism, MechanismFacts, ToolKind, ToolType
from reckoner.core.printing import span
from reckoner.core.reference import CertificatePoint, ReferenceAtPoint, at_torque
from reckoner.core.rules import RuleSet
from reckoner.core.units import Kind, Unit, unit_named
from reckoner.store.terms import ReferenceKind

if TYPE_CHECKING:
    from reckoner.store.schema import Certificate, Reference, Tool, ToolModel


BOTH = "both"
"""What a model's directions say of a tool that is used both ways."""


@dataclass(frozen=True)
class AdjustmentFacts:
    """How a model is adjusted: ``where`` the screw is, which way ``raises`` the torque, what ``lock`` holds it, ``rate`` in
    N·m a turn that way, ``most_turns`` in all, whether the spring is to be relieved first."""

    where: str
    raises: Direction
    lock: str
    rate: float | None
    most_turns: float | None
    relieve: bool

    @property
    def prior_rate(self) -> float | None:
        """N·m a turn clockwise; signed turns count clockwise."""
        return None if self.rate is None else self.rate if self.raises is Direction.CW else -self.rate


@dataclass(frozen=True)
class ToolFacts:
    """What the bench and the lists need to know of a tool. Lengths in m, mass in kg."""

    id: int
    number: str
    serial: str
    maker: str
    model: str
    kind: ToolKind
    mechanism: Mechanism
    unit: Unit
    drive: str
    directions: tuple[Direction, ...]
    approach: Approach
    place: str
    rule_set: str
    interval_months: int | None
    model_id: int = 0
    lever: float | None = None
    pivot: float = 0.0
    own_mass: float | None = None
    own_centre: float | None = None
    adjustment: AdjustmentFacts | None = None

    @property
    def implies(self) -> MechanismFacts:
        return MECHANISMS[self.mechanism]

    @property
    def description(self) -> str:
        """Such as "click wrench, ½ in"."""
        body = "screwdriver" if self.kind.is_screwdriver else "wrench"
        words = f"{self.mechanism} {body}"
        return f"{words}, {self.drive}" if self.drive else words

    @property
    def range_text(self) -> str:
        low = self.kind.maximum if self.kind.is_fixed else self.kind.minimum or 0.0
        return span(low, self.kind.maximum, self.unit)


def kind_of(model: ToolModel) -> ToolKind:
    return ToolKind(ToolType(model.type), model.class_, model.maximum, model.minimum, model.resolution, model.tolerance)


def tool_facts(tool: Tool) -> ToolFacts:
    model = tool.model
    return ToolFacts(
        id=tool.id,
        number=tool.number,
        serial=tool.serial,
        maker=model.maker,
        model=model.name,
        kind=kind_of(model),
        mechanism=model.mechanism,
        unit=unit_named(model.unit, Kind.TORQUE),
        drive=model.drive,
        directions=tuple(Direction) if model.directions == BOTH else (Direction(model.directions),),
        approach=model.approach,
        place=tool.place,
        rule_set=tool.rule_set,
        interval_months=tool.interval_months,
        model_id=model.id,
        lever=model.lever_length,
        pivot=model.pivot_offset,
        own_mass=model.own_mass,
        own_centre=model.own_centre,
        adjustment=_adjustment(model),
    )


def _adjustment(model: ToolModel) -> AdjustmentFacts | None:
    if not model.adjust_where:
        return None
    return AdjustmentFacts(
        model.adjust_where,
        Direction(model.adjust_raises or Direction.CW),
        model.adjust_lock,
        model.adjust_rate,
        model.adjust_most_turns,
        model.adjust_relieve,
    )


@dataclass(frozen=True)
class ReferenceFacts:
    """What a tool is compared with, and the certificate that counts. Torques in N·m, ratios as fractions."""

    id: int
    number: str
    kind: ReferenceKind
    serial: str
    minimum: float
    maximum: float
    resolution: float
    zero_tolerance: float
    corrected: bool
    certificate_id: int | None
    certificate_number: str
    laboratory: str
    issued: date | None
    due: date | None
    coverage_factor: float
    points: tuple[CertificatePoint, ...]

    @property
    def worst_uncertainty(self) -> float:
        """The largest W on the certificate."""
        return max((p.expanded_uncertainty for p in self.points), default=0.0)

    def bears(self, torque: float) -> bool:
        """Whether ``torque`` is within its capacity."""
        return torque <= self.maximum * (1 + 1e-9)

    def at(self, torque: float) -> ReferenceAtPoint:
        """What it is worth at ``torque``; a corrected meter has no error left. Raises InputRefused off its points."""
        found = at_torque(self.points, torque, coverage_factor=self.coverage_factor, resolution=self.resolution)
        if self.corrected:
            return ReferenceAtPoint(found.expanded_uncertainty, found.coverage_factor, 0.0, found.resolution)
        return found


def reference_facts(reference: Reference, certificate: Certificate | None) -> ReferenceFacts:
    points = certificate.points if certificate else []
    return ReferenceFacts(
        id=reference.id,
        number=reference.number,
        kind=reference.kind,
        serial=reference.serial,
        minimum=reference.minimum,
        maximum=reference.maximum,
        resolution=reference.resolution,
        zero_tolerance=reference.zero_tolerance,
        corrected=reference.corrected,
        certificate_id=certificate.id if certificate else None,
        certificate_number=certificate.number if certificate else "",
        laboratory=certificate.laboratory if certificate else "",
        issued=certificate.issued if certificate else None,
        due=certificate.due if certificate else None,
        coverage_factor=certificate.coverage_factor if certificate else 2.0,
        points=tuple(CertificatePoint(p.torque, p.error, p.expanded_uncertainty) for p in points),
    )


def newest_certificate(reference: Reference, day: date | None = None) -> Certificate | None:
    """The newest certificate, or that of a ``day``: one that is dated ahead waits for its date."""
    found = [c for c in reference.certificates if day is None or c.issued <= day]
    return found[-1] if found else None


@dataclass(frozen=True)
class MeasuredEffects:
    """The b values that count for a tool, and the characterisation they come from: ``of_model`` when it was another tool of
    the model that was characterised, ``on`` None when nothing was."""

    effects: Effects
    of_model: bool = False
    on: date | None = None


@dataclass(frozen=True)
class RunFacts:
    """Everything that a run is judged by, as it was: nothing edited later in the register reaches it."""

    tool: ToolFacts
    rules: RuleSet
    rules_text: str
    measured: MeasuredEffects
    reference: ReferenceFacts | None = None
