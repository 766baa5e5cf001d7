"""The reference at a torque: its error and expanded uncertainty between the points of its certificate.

Over which part of its range a reference is good enough for tools of a limit (ISO 6789-2:2017, 5).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from enum import Enum, auto
from itertools import pairwise

import numpy as np

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.checks import SLACK, between, finite, not_negative, positive
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


QUARTER = 0.25
"""What a reference's uncertainty may be of the tool's limit (ISO 6789-2:2017, 5.2)."""


def adequate_spans(
    points: Sequence[CertificatePoint], limit: float, *, left: bool = False, least: float = 0.0, part: float = QUARTER
) -> tuple[tuple[float, float], ...]:
    """The stretches of torque (N·m) in which W, and |e| where the error is ``left`` in the readings, is at most ``part`` of
    the ``limit`` (fraction), from the torque ``least`` on. Between two points the error is linear and W the larger one's.

    Raises InputRefused for a limit not above zero.

    >>> points = [CertificatePoint(20, 0, 0.012), CertificatePoint(40, 0, 0.006), CertificatePoint(200, 0, 0.006)]
    >>> adequate_spans(points, 0.04)
    ((40.0, 200.0),)
    """
    positive("limit", limit)
    ordered = sorted(points, key=lambda p: p.torque)
    spans: list[tuple[float, float]] = []
    for low, high in pairwise(ordered):
        worst = max(low.expanded_uncertainty, high.expanded_uncertainty)
        room = part * limit * (1 + SLACK) - worst
        ends = _within(low.error, high.error, room) if left else (0.0, 1.0) if room >= 0 else None
        if ends is None:
            continue
        begin, end = (low.torque + share * (high.torque - low.torque) for share in ends)
        begin = max(begin, least)
        if begin >= end:
            continue
        if spans and abs(spans[-1][1] - begin) <= SLACK * begin:
            spans[-1] = (spans[-1][0], end)
        else:
            spans.append((begin, end))
    return tuple(spans)


def _within(first: float, last: float, room: float) -> tuple[float, float] | None:
    """Which share of the way from ``first`` to ``last`` lies within ±``room``; None for no part of it."""
    if room < 0:
        return None
    if first == last:
        return (0.0, 1.0) if abs(first) <= room else None
    crossings = sorted(((-room - first) / (last - first), (room - first) / (last - first)))
    begin, end = max(0.0, crossings[0]), min(1.0, crossings[1])
    return (begin, end) if begin <= end else None
