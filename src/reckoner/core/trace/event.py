"""What is found in a trace: events with their readings, and the faults of hands, tools and meters.

To add a fault: a member of ``Fault`` and the function that finds it, called from ``analysis._faults``.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from reckoner.core.translation import mark


class Fault(StrEnum):
    """What was wrong with a pull, in the words that are shown."""

    TOO_FAST = mark("too fast")
    TOO_SLOW = mark("too slow")
    JERK = mark("jerk")
    KNOCK = mark("knock")
    SECOND_PULL = mark("second pull")
    NO_SIGNAL = mark("no signal found")
    CLIPPED = mark("clipped")
    OFF_ZERO_BEFORE = mark("off zero before")
    OFF_ZERO_AFTER = mark("off zero after")
    SAMPLES_LOST = mark("samples lost")


@dataclass(frozen=True)
class TraceEvent:
    """One pull or slip: torques in N·m by magnitude, times in s on the trace's clock.

    ``first_peak`` is the reading: the torque at the signal, or the plateau's mean for a tool that is watched; None without
    one, and where the meter was clipped. ``slope`` in N·m/s is that at the signal, ``spread`` the plateau's standard
    deviation in N·m. ``zero_before`` and ``zero_after`` are what the meter showed at rest beside the pull (N·m, by the sign
    of the pull; None where it did not rest); ``zero`` is what was taken off the reading for it.
    """

    at: float
    first_peak: float | None
    peak: float
    time_80_to_100: float | None = None
    slope: float | None = None
    spread: float | None = None
    faults: tuple[Fault, ...] = ()
    zero: float = 0.0
    zero_before: float | None = None
    zero_after: float | None = None

    @property
    def over_travel(self) -> float | None:
        """Highest over first peak, less one, as a fraction."""
        return None if self.first_peak is None else self.peak / self.first_peak - 1


@dataclass(frozen=True)
class TraceAnalysis:
    """The events of a trace, the ``corner`` in Hz of the low-pass that found them, and the ``noise`` in N·m it left: of the
    pull that needed the lowest.

    ``smoothing_cost`` is the largest fraction by which the smoothed curve stays below a first peak; the readings do not
    suffer it, for they are taken from the raw samples.
    """

    events: tuple[TraceEvent, ...]
    corner: float
    noise: float
    smoothing_cost: float
