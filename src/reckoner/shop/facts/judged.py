"""What a run is judged by, built from the store's rows.

A tool as it is set and fitted for a run: by its second scale, with another of its exchangeable heads.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import date
from typing import TYPE_CHECKING, TypeAlias

from reckoner.core.errors import InputRefused
from reckoner.core.history.due import add_months
from reckoner.core.quantities.entry import read_torque
from reckoner.core.quantities.ownunits import OwnUnits
from reckoner.core.quantities.printing import fixed
from reckoner.core.quantities.units import Kind, Unit
from reckoner.core.reference.certificate import CertificatePoint, KnownError, ReferenceAtPoint, at_torque
from reckoner.core.requirements.rules import RuleSet
from reckoner.core.tightening.adapters import Adapter, Lever, factor
from reckoner.core.translation import tr
from reckoner.core.uncertainty.budget import Effects
from reckoner.formats.languages import say
from reckoner.shop.facts.tool import SecondScale, ToolFacts
from reckoner.shop.intervals import IntervalBasis
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.setups.gauging import PullFacts
from reckoner.shop.setups.hanging import LeverFacts
from reckoner.shop.setups.inline import InLineFacts
from reckoner.store.terms import ReferenceKind

if TYPE_CHECKING:
    from reckoner.store.schema import Certificate, Reference


def on_second_scale(tool: ToolFacts) -> ToolFacts:
    """The tool set by its other scale: its points are that one's, and so is what it shows. Raises ShopRefused without one
    whose graduation is known."""
    second = tool.second
    if second is None or second.resolution is None:
        raise ShopRefused(tr("The register does not know the graduation of its second scale."))
    first = SecondScale(tool.unit, tool.kind.resolution)
    return replace(tool, unit=second.unit, kind=replace(tool.kind, resolution=second.resolution), second=first)


def with_head(tool: ToolFacts, head: float) -> ToolFacts:
    """The tool with a head on it of so many m from drive centre to seat. Raises ShopRefused for one that cannot be."""
    if tool.made_for_head is None or tool.lever is None:
        raise ShopRefused(tr("The register does not know the head that it was made for, or its lever length."))
    if not 0 < head < tool.made_for_head + tool.lever:
        raise ShopRefused(tr("No head is as long as that; check the length and its unit."))
    return replace(tool, head=head)


def head_factor(tool: ToolFacts) -> float:
    """Torque at the fastener over what the scale says, with the head that is on it: only the difference of the heads'
    lengths counts. 1 with the head that it was made for, or where its lever is not known."""
    if tool.head is None or tool.made_for_head is None or tool.lever is None:
        return 1.0
    more = tool.head - tool.made_for_head
    return factor(Lever(tool.lever, tool.pivot), [Adapter(abs(more), 0.0 if more >= 0 else math.pi)])


def head_words(tool: ToolFacts) -> str:
    """Which head was on it, where it is another than the tool was made for; else empty."""
    factor_of_head = head_factor(tool)
    if factor_of_head == 1 or tool.head is None or tool.made_for_head is None:
        return ""
    on_it, made_for = (tool.own_units.length_words(length) for length in (tool.head, tool.made_for_head))
    return say("tool.head", on_it=on_it, made_for=made_for, factor=fixed(factor_of_head, 5))


def scale_words(tool: ToolFacts) -> str:
    """By which of its two scales it was set; empty where it has one."""
    return say("tool.scale", unit=tool.unit.symbol) if tool.second is not None else ""


SetUpFacts: TypeAlias = LeverFacts | PullFacts
"""How a reference without a torque of its own makes one. To add a kind: its record, which says what it is worth."""


@dataclass(frozen=True)
class ReferenceFacts:
    """What a tool is compared with, and the certificate that counts. Torques in N·m, ratios as fractions.

    ``corrected``: it applies its certificate itself; ``error_left`` is why its known error is left in the readings, empty
    where they are corrected for it. ``set_up``: how its torque is made on the tool's own lever, of one that makes it there.
    ``line``: how a meter stands in line with a stub or a second one. ``stopped``: what its cross-checks say against it,
    while it is chosen.
    """

    id: int
    number: str
    kind: ReferenceKind
    serial: str
    minimum: float
    maximum: float
    resolution: float
    zero_tolerance: float
    corrected: bool
    error_left: str
    certificate_id: int | None
    certificate_number: str
    laboratory: str
    issued: date | None
    due: date | None
    coverage_factor: float
    points: tuple[CertificatePoint, ...]
    stopped: str = ""
    set_up: SetUpFacts | None = None
    line: InLineFacts | None = None

    @property
    def proven(self) -> bool:
        """Whether a certificate says what it is worth; one that is not compares and decides nothing."""
        return self.set_up.proven if self.set_up is not None else bool(self.points)

    @property
    def by_hand(self) -> bool:
        """Whether there is no meter: its torque is made on the tool's own lever, and what it says is typed or answered."""
        return self.set_up is not None

    @property
    def sends(self) -> Kind:
        """What its link brings, and what is typed of it."""
        return self.set_up.sends if self.set_up is not None else Kind.TORQUE

    def torque_of(self, shown: float, unit: Unit) -> float:
        """The torque in N·m behind what it shows: N·m, N, or kg in a ``unit`` of mass. Raises InputRefused."""
        return self.set_up.torque_of(shown, unit) if self.set_up is not None else shown

    def read(self, text: str, own: OwnUnits) -> tuple[float, str]:
        """The torque in N·m behind what is typed of it, a bare value being in one's ``own`` unit, and the words for it.
        Raises InputRefused."""
        return self.set_up.read(text, own) if self.set_up is not None else read_torque(text, own.torque)

    @property
    def known(self) -> KnownError:
        """What is done about its known error."""
        return KnownError.COUNTED if self.error_left else KnownError.CORRECTED

    @property
    def worst_uncertainty(self) -> float:
        """The largest W on the certificate."""
        return max((p.expanded_uncertainty for p in self.points), default=0.0)

    def correction(self, torque: float, *, anyway: bool = False) -> float:
        """What every indication at ``torque`` is divided by: 1 + e where its known error is corrected, ``anyway`` also
        where it is left in, for a comparison with readings that are; 1 off its points."""
        if self.corrected or not (anyway or self.known is KnownError.CORRECTED):
            return 1.0
        try:
            return 1 + at_torque(self.points, torque).error
        except InputRefused:
            return 1.0

    def bears(self, torque: float) -> bool:
        """Whether ``torque`` is within its capacity, and that of what stands in line with it."""
        most = min(self.maximum, (self.line.ends if self.line is not None else None) or self.maximum)
        return torque <= most * (1 + 1e-9)

    def at(self, torque: float) -> ReferenceAtPoint:
        """What it is worth at ``torque``: of one that is not proven, its resolution is all that is known; one whose error is
        corrected, by itself or in the pairs of a run, has none. Raises InputRefused off its points."""
        if self.set_up is not None:
            return self.set_up.reference_at(torque)
        if not self.proven:
            return ReferenceAtPoint(0.0, resolution=self.resolution)
        found = at_torque(self.points, torque, coverage_factor=self.coverage_factor, resolution=self.resolution)
        known = self.known
        found = replace(
            found, error=0.0 if self.corrected or known is KnownError.CORRECTED else found.error, known=known
        )
        return found if self.line is None else self.line.widened(found)


def standing_in_line(reference: ReferenceFacts, line: InLineFacts) -> ReferenceFacts:
    """A meter as it stands in ``line`` with a stub or with a second one."""
    return replace(reference, kind=ReferenceKind.IN_LINE, line=line)


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
        error_left=reference.error_left,
        certificate_id=certificate.id if certificate else None,
        certificate_number=certificate.number if certificate else "",
        laboratory=certificate.laboratory if certificate else "",
        issued=certificate.issued if certificate else None,
        due=certificate.due if certificate else None,
        coverage_factor=certificate.coverage_factor if certificate else 2.0,
        points=tuple(CertificatePoint(p.torque, p.error, p.expanded_uncertainty) for p in points),
    )


def by_issue(certificates: Iterable[Certificate]) -> list[Certificate]:
    """Certificates, the oldest first; one without its day of issue counts as a year before it ends."""
    return sorted(certificates, key=lambda c: (c.issued or add_months(c.due, -12), c.id))


def newest_certificate(reference: Reference, day: date | None = None) -> Certificate | None:
    """The newest certificate that was not withdrawn, or that of a ``day``: one that is dated ahead waits for its date."""
    kept = (c for c in by_issue(reference.certificates) if c.withdrawal is None)
    found = [c for c in kept if day is None or c.issued is None or c.issued <= day]
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
    interval: IntervalBasis | None = None

    @property
    def kind(self) -> ReferenceKind:
        """The kind of reference: a torque meter until another is chosen."""
        return self.reference.kind if self.reference is not None else ReferenceKind.METER

    def correction(self, torque: float, *, anyway: bool = False) -> float:
        """What every indication at ``torque`` is divided by to be held against the tool's scale: the reference's known error,
        as its ``correction`` says, and another head than the tool was made for."""
        known = 1.0 if self.reference is None else self.reference.correction(torque, anyway=anyway)
        return known * head_factor(self.tool)
