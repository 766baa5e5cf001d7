"""The core's records built from the store's rows."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import TYPE_CHECKING

from reckoner.core.kinds import MECHANISMS, Mechanism, MechanismFacts, ToolKind, ToolType
from reckoner.core.printing import span
from reckoner.core.reference import CertificatePoint, ReferenceAtPoint, at_torque
from reckoner.core.units import Kind, Unit, unit_named

if TYPE_CHECKING:
    from reckoner.store.schema import Certificate, Reference, Tool, ToolModel


@dataclass(frozen=True)
class AdjustmentFacts:
    """How a model is adjusted: ``where`` the screw is, which way ``raises`` ("cw", "ccw"), what ``lock`` holds it, ``rate``
    in N·m a turn that way, ``most_turns`` in all, whether the spring is to be relieved first."""

    where: str
    raises: str
    lock: str
    rate: float | None
    most_turns: float | None
    relieve: bool

    @property
    def prior_rate(self) -> float | None:
        """N·m a turn clockwise; signed turns count clockwise."""
        return None if self.rate is None else self.rate if self.raises == "cw" else -self.rate


@dataclass(frozen=True)
class ToolFacts:
    """What the bench and the lists need to know of a tool."""

    id: int
    number: str
    serial: str
    maker: str
    model: str
    kind: ToolKind
    mechanism: Mechanism
    unit: Unit
    drive: str
    directions: tuple[str, ...]
    approach: str
    place: str
    rule_set: str
    interval_months: int | None
    model_id: int = 0
    lever: float | None = None
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
        mechanism=Mechanism(model.mechanism),
        unit=unit_named(model.unit, Kind.TORQUE),
        drive=model.drive,
        directions=("cw", "ccw") if model.directions == "both" else (model.directions,),
        approach=model.approach,
        place=tool.place,
        rule_set=tool.rule_set,
        interval_months=tool.interval_months,
        model_id=model.id,
        lever=model.lever_length,
        adjustment=_adjustment(model),
    )


def _adjustment(model: ToolModel) -> AdjustmentFacts | None:
    if not model.adjust_where:
        return None
    return AdjustmentFacts(
        model.adjust_where,
        model.adjust_raises or "cw",
        model.adjust_lock,
        model.adjust_rate,
        model.adjust_most_turns,
        model.adjust_relieve,
    )


@dataclass(frozen=True)
class ReferenceFacts:
    """A torque meter with the certificate that counts. Torques in N·m, ratios as fractions."""

    id: int
    number: str
    serial: str
    minimum: float
    maximum: float
    resolution: float
    zero_tolerance: float
    corrected: bool
    link: str
    certificate_id: int | None
    certificate_number: str
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
        serial=reference.serial,
        minimum=reference.minimum,
        maximum=reference.maximum,
        resolution=reference.resolution,
        zero_tolerance=reference.zero_tolerance,
        corrected=reference.corrected,
        link=reference.link,
        certificate_id=certificate.id if certificate else None,
        certificate_number=certificate.number if certificate else "",
        due=certificate.due if certificate else None,
        coverage_factor=certificate.coverage_factor if certificate else 2.0,
        points=tuple(CertificatePoint(p.torque, p.error, p.expanded_uncertainty) for p in points),
    )


def newest_certificate(reference: Reference) -> Certificate | None:
    return reference.certificates[-1] if reference.certificates else None
