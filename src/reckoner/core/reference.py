"""The reference at a torque: its error and expanded uncertainty between the points of its certificate."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from enum import Enum, auto

import numpy as np

from reckoner.core.checks import between, finite, not_negative, positive
from reckoner.core.errors import InputRefused
from reckoner.core.translation import tr


class KnownError(Enum):
    """What is done about the error that a certificate tells.

    CORRECTED: every indication is divided by 1 + e. COUNTED: it stays in the readings, and |e| counts wherever W does.
    """

    CORRECTED = auto()
    COUNTED = auto()


@dataclass(frozen=True)
class CertificatePoint:
    """One line of a certificate: torque in N·m, error and expanded uncertainty W as fractions of it."""

    torque: float
    error: float
    expanded_uncertainty: float


@dataclass(frozen=True)
class ReferenceAtPoint:
    """What the reference is worth at one torque.

    ``expanded_uncertainty`` W and ``error`` e = (indication − torque)/torque as fractions, ``coverage_factor`` k,
    ``resolution`` in N·m; ``known`` is what is done about the error.
    """

    expanded_uncertainty: float
    coverage_factor: float = 2.0
    error: float = 0.0
    resolution: float = 0.0
    known: KnownError = KnownError.CORRECTED
    left: float = field(init=False, repr=False, compare=False)
    """b_ep, the error that is left in the readings: none where it is corrected."""
    doubt: float = field(init=False, repr=False, compare=False)
    """What has to be small beside the tool's limit: W, and |e| where it is left and counted."""

    def __post_init__(self) -> None:
        between("expanded_uncertainty", self.expanded_uncertainty, 0.0, 1.0)
        positive("coverage_factor", self.coverage_factor)
        between("coverage_factor", self.coverage_factor, 1.0, 20.0)
        between("error", self.error, -0.5, 0.5)
        not_negative("resolution", self.resolution)
        counted = abs(self.error) if self.known is KnownError.COUNTED else 0.0
        object.__setattr__(self, "left", 0.0 if self.known is KnownError.CORRECTED else self.error)
        object.__setattr__(self, "doubt", self.expanded_uncertainty + counted)

    @property
    def standard_uncertainty(self) -> float:
        """w_ref = W/k, a fraction."""
        return self.expanded_uncertainty / self.coverage_factor


def at_torque(
    points: Sequence[CertificatePoint],
    torque: float,
    *,
    coverage_factor: float = 2.0,
    resolution: float = 0.0,
) -> ReferenceAtPoint:
    """The certificate read at ``torque`` (N·m): error linear between neighbours, W the larger neighbour's.

    Raises InputRefused when the certificate has no points, two on the same torque, or does not cover ``torque``.
    Source: the usual reading of a certificate; ISO 6789-2:2017, C.1 takes W at the point.

    >>> points = [CertificatePoint(40, 0.001, 0.004), CertificatePoint(200, 0.003, 0.006)]
    >>> round(at_torque(points, 120).error, 6), at_torque(points, 120).expanded_uncertainty
    (0.002, 0.006)
    """
    finite("torque", torque)
    if not points:
        raise InputRefused("certificate", (), tr("the certificate has no points; enter at least one"))
    ordered = sorted(points, key=lambda p: p.torque)
    torques = [p.torque for p in ordered]
    if len(set(torques)) < len(torques):
        raise InputRefused("certificate", torques, tr("the certificate has two points at the same torque"))
    if not torques[0] <= torque <= torques[-1]:
        reason = tr(
            "the certificate covers {torques:g} to {torques_2:g} N·m, not {torque:g} N·m",
            torques=torques[0],
            torques_2=torques[-1],
            torque=torque,
        )
        raise InputRefused("certificate", torque, reason)
    error = float(np.interp(torque, torques, [p.error for p in ordered]))
    below = max((p for p in ordered if p.torque <= torque), key=lambda p: p.torque)
    above = min((p for p in ordered if p.torque >= torque), key=lambda p: p.torque)
    worst = max(below.expanded_uncertainty, above.expanded_uncertainty)
    return ReferenceAtPoint(worst, coverage_factor, error, resolution)
