"""One-sided evidence: silent up to a torque, or a signal at one. It can prove a tool outside, never inside."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from reckoner.core.checks import at_least, at_most, between, positive


class Proof(StrEnum):
    OUTSIDE = "outside"
    OPEN = "open"


@dataclass(frozen=True)
class Evidence:
    """What one observation proves; ``bound`` on the deviation, a fraction: it lies below it for a silent tool, at it or
    above for one that signalled."""

    proof: Proof
    bound: float


def silent_at(setting: float, torque: float, limit: float) -> Evidence:
    """A tool set to ``setting`` that did not signal at ``torque`` (N·m): it trips at more, so a < X_a/T − 1.

    Outside ±``limit`` (a fraction below 1) when T > X_a/(1 − limit); just there it is open. Raises InputRefused. Source:
    the definition of the deviation, ISO 6789-1:2017, 6.2.5.

    >>> found = silent_at(120, 126, 0.04)
    >>> str(found.proof), round(found.bound, 5)
    ('outside', -0.04762)
    """
    bound = _bound(setting, torque, limit)
    return Evidence(Proof.OPEN if at_least(bound, -limit) else Proof.OUTSIDE, bound)


def signal_at(setting: float, torque: float, limit: float) -> Evidence:
    """A tool set to ``setting`` that signalled at ``torque`` (N·m), who knows how far below: it trips at no more, so a ≥
    X_a/T − 1.

    Outside when T < X_a/(1 + limit). Errors and source as ``silent_at``.

    >>> found = signal_at(60, 9, 0.04)
    >>> str(found.proof), round(found.bound, 3)
    ('outside', 5.667)
    """
    bound = _bound(setting, torque, limit)
    return Evidence(Proof.OPEN if at_most(bound, limit) else Proof.OUTSIDE, bound)


def _bound(setting: float, torque: float, limit: float) -> float:
    between("limit_percent", limit * 100, 0.01, 99, "%")
    return positive("set", setting) / positive("torque", torque) - 1
