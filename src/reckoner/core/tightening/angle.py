"""Torque then angle: what is wrong with the torque that the angle starts from stays in the final clamp."""

from __future__ import annotations

from reckoner.core.quantities.checks import between, not_negative

PARTS = (0.25, 0.5)
"""Of the final clamp, what the torque makes before the angle in joints of the usual makes; the joint's maker knows."""


def carried(error: float, part: float) -> float:
    """The relative error of the final clamp that an ``error`` (fraction) of the torque before the angle makes, where that
    torque makes the ``part`` (0 to 1) of it. The angle adds the same, whatever the torque was.

    Raises InputRefused unless the error is not negative and the part within its bounds. Source: F = F_T + k·φ, so that
    dF/F = (F_T/F)·(dT/T), in the joint's elastic range.

    >>> carried(0.06, 0.25)
    0.015
    """
    return not_negative("error", error) * between("part", part, 0, 1, "")
