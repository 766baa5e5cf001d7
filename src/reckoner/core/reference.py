"""The reference at a torque: its error and expanded uncertainty between the points of its certificate."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from reckoner.core.checks import between, finite, not_negative, positive
from reckoner.core.errors import InputRefused


@dataclass(frozen=True)
class CertificatePoint:
    """One line of a certificate: torque in N·m, error and expanded uncertainty W as fractions of it."""

    torque: float
    error: float
    expanded_uncertainty: float


@dataclass(frozen=True)
class ReferenceAtPoint:
    """What the reference is worth at one torque.

    ``expanded_uncertainty`` W and ``error`` b_ep as fractions, ``coverage_factor`` k, ``resolution`` in N·m.
    """

    expanded_uncertainty: float
    coverage_factor: float = 2.0
    error: float = 0.0
    resolution: float = 0.0

    def __post_init__(self) -> None:
        between("expanded_uncertainty", self.expanded_uncertainty, 0.0, 1.0)
        positive("coverage_factor", self.coverage_factor)
        between("coverage_factor", self.coverage_factor, 1.0, 20.0)
        between("error", self.error, -0.5, 0.5)
        not_negative("resolution", self.resolution)

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
        raise InputRefused("certificate", (), "the certificate has no points; enter at least one")
    ordered = sorted(points, key=lambda p: p.torque)
    torques = [p.torque for p in ordered]
    if len(set(torques)) < len(torques):
        raise InputRefused("certificate", torques, "the certificate has two points at the same torque")
    if not torques[0] <= torque <= torques[-1]:
        reason = f"the certificate covers {torques[0]:g} to {torques[-1]:g} N·m, not {torque:g} N·m"
        raise InputRefused("certificate", torque, reason)
    error = float(np.interp(torque, torques, [p.error for p in ordered]))
    below = max((p for p in ordered if p.torque <= torque), key=lambda p: p.torque)
    above = min((p for p in ordered if p.torque >= torque), key=lambda p: p.torque)
    worst = max(below.expanded_uncertainty, above.expanded_uncertainty)
    return ReferenceAtPoint(worst, coverage_factor, error, resolution)
