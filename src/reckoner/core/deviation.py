"""Deviation of a reading (ISO 6789-1:2017, 6.2.5; domain term: positive means the tool under-delivers)."""

from __future__ import annotations

from reckoner.core.checks import positive


def deviation(target: float, reading: float) -> float:
    """a = (X_a − X_r)/X_r, a fraction; both torques in N·m and above zero.

    Positive: the tool delivers less than it says. Raises InputRefused for a value that is not above zero.
    Source: ISO 6789-1:2017, 6.2.5.

    >>> f"{deviation(60, 57.5):+.5f} {deviation(60, 62.5):+.5f}"
    '+0.04348 -0.04000'
    """
    positive("target", target)
    positive("reading", reading)
    return (target - reading) / reading


def shown_error(target: float, reading: float) -> float:
    """(X_r − X_a)/X_a, the fraction for the plain sentence "4.2 % below its setting". Same errors as ``deviation``.

    >>> round(shown_error(60, 57.5), 5)
    -0.04167
    """
    positive("target", target)
    positive("reading", reading)
    return (reading - target) / target
