"""Over which part of its range a reference is good enough for tools of a limit (ISO 6789-2:2017, 5)."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

from reckoner.core.checks import SLACK, positive
from reckoner.core.reference import CertificatePoint

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
