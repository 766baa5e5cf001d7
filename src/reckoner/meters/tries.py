"""A simulated tool under known weights: it clicks or is silent as its truth says, and shows what it shows.

``Truth`` trips, as hung at the grip mark, at gain·setting + offset, with its scatter and its first releases high. Randomness
is the generator that is given. Torques in N·m.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping

import numpy as np

from reckoner.meters.wrench import Truth

DECAY = 3.0
"""Releases over which a first one that is high settles."""


class SimulatedTries:
    """Tools by number; each remembers how often it has been tried."""

    def __init__(self, tools: Callable[[], Mapping[str, Truth]], rng: np.random.Generator) -> None:
        self._tools, self._rng = tools, rng
        self._tried: dict[str, int] = {}
        self._turned: dict[str, float] = {}

    def knows(self, number: str) -> bool:
        """Whether there is such a tool."""
        return number in self._tools()

    def turn(self, number: str, turns: float) -> None:
        """Its adjusting screw is turned so far, clockwise positive."""
        self._turned[number] = self._turned.get(number, 0.0) + turns

    def _screwed(self, number: str, truth: Truth) -> float:
        return self._turned.get(number, 0.0) * truth.screw_rate

    def clicks(self, number: str, setting: float, torque: float) -> bool:
        """Whether it clicks at a ``setting`` with ``torque`` hung at the grip mark."""
        truth, count = self._tools()[number], self._tried.get(number, 0)
        self._tried[number] = count + 1
        settled = 1 + truth.first_high * math.exp(-(count + 5) / DECAY)  # it was exercised first
        trip = (
            (truth.gain * setting + truth.offset + self._screwed(number, truth))
            * settled
            * (1 + truth.scatter * float(self._rng.normal()))
        )
        return torque >= trip

    def shows(self, number: str, torque: float, step: float) -> float:
        """What an indicating tool shows with ``torque`` hung, to its readable ``step``."""
        truth = self._tools()[number]
        shown = (torque - truth.offset - self._screwed(number, truth)) / truth.gain * (
            1 + truth.scatter * float(self._rng.normal())
        ) + truth.bent
        return round(shown / step) * step if step else shown
