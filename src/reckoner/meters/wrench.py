"""The physics of a simulated tool on a meter: trip by the moment about the pivot, hand, over-travel, noise.

Time advances by samples; randomness is the generator that is given. Torques in N·m, lengths in m, times in s.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from enum import Enum, auto

import numpy as np

from reckoner.core.arrays import Values


@dataclass(frozen=True)
class Truth:
    """What a simulated tool really is.

    It trips, with the hand at ``lever``, at gain·setting + offset. ``first_high`` is how much higher the first release
    is (it decays over about three), ``hysteresis`` what setting from above adds, ``scatter`` the relative standard
    deviation, ``loose_lock`` the loss with each release, ``screw_rate`` the N·m that a turn adds, ``bent`` an indicating
    tool's pointer offset, ``own_torque`` what the tool's weight adds lying flat.
    """

    gain: float = 1.0
    offset: float = 0.0
    scatter: float = 0.004
    first_high: float = 0.03
    hysteresis: float = 0.012
    loose_lock: float = 0.0
    screw_rate: float = 7.5
    bent: float = 0.0
    own_torque: float = 0.0
    lever: float = 0.4
    pivot: float = 0.03
    clicks: bool = True


@dataclass(frozen=True)
class Hand:
    """How the simulated person pulls: seconds to 75 % and from there to the setting, reaction, hand offset spread."""

    quick: float = 0.7
    careful: float = 1.1
    reaction: float = 0.12
    misplaced: float = 0.005


class Phase(Enum):
    REST = auto()
    PULL = auto()
    TRIPPED = auto()
    RELEASE = auto()


DIP = 0.09
"""How far the torque falls at the click, as a fraction."""

DIP_TIME = 0.018
RECOVERY = 0.05
RELEASE_TIME = 0.25
FIRST_DECAY = 1.3


@dataclass
class SimulatedBench:
    """A tool clamped on a meter, and a hand. ``noise`` is the meter's, in N·m; ``zero_drift`` in N·m a second."""

    rng: np.random.Generator
    rate: float = 1000.0
    truth: Truth = field(default_factory=Truth)
    hand: Hand = field(default_factory=Hand)
    setting: float = 100.0
    noise: float = 0.02
    zero: float = 0.0
    zero_drift: float = 0.0
    phase: Phase = Phase.REST
    releases: int = 0
    from_above: bool = False
    sign: float = 1.0
    turns: float = 0.0
    _again: bool = False
    _t: float = 0.0
    _torque: float = 0.0
    _trip: float = 0.0
    _from: float = 0.0

    def mount(self, truth: Truth) -> None:
        """Put another tool on the meter; it has rested."""
        self.truth = truth
        self.releases = 0
        self.turns = 0.0
        self._rest()

    def set_to(self, setting: float, *, from_below: bool = False) -> None:
        """Set the tool; from above when the new setting is lower, unless it was wound back first and set ``from_below``."""
        self.from_above = setting < self.setting and not from_below
        self.setting = setting

    def turn_screw(self, turns: float) -> None:
        self.turns += turns

    def pull(self) -> None:
        """Begin to pull; while the last pull is still easing off, begin as soon as it has."""
        self._again = self.phase is Phase.RELEASE
        if self.phase is Phase.REST:
            self._trip = self.trip_torque()
            self.phase, self._t = Phase.PULL, 0.0

    def release(self) -> None:
        """Let go."""
        self._again = False
        if self.phase in (Phase.PULL, Phase.TRIPPED):
            if self.phase is Phase.TRIPPED:
                self.releases += 1
            self.phase, self._t, self._from = Phase.RELEASE, 0.0, self._torque

    def trip_torque(self) -> float:
        """The torque at the drive at which this pull will trip: the moment about the pivot decides."""
        truth = self.truth
        setting = truth.gain * self.setting + truth.offset + truth.screw_rate * self.turns
        setting *= 1 + truth.first_high * math.exp(-self.releases / FIRST_DECAY)
        setting *= 1 - truth.loose_lock * self.releases
        if self.from_above:
            setting *= 1 + truth.hysteresis
        setting *= 1 + truth.scatter * float(self.rng.standard_normal())
        misplaced = float(np.clip(self.rng.normal(0.0, self.hand.misplaced), -0.015, 0.015))
        at = truth.lever + misplaced
        return setting * (truth.lever - truth.pivot) / truth.lever * at / (at - truth.pivot) + truth.bent

    def advance(self, samples: int) -> Values:
        """The next ``samples`` readings of the meter in N·m."""
        dt = 1 / self.rate
        torque = np.empty(samples)
        for i in range(samples):
            self._t += dt
            self._step()
            torque[i] = self._torque
        self.zero += self.zero_drift * samples * dt
        return self.sign * torque + self.truth.own_torque + self.zero + self.noise * self.rng.standard_normal(samples)

    def _step(self) -> None:
        if self.phase is Phase.PULL:
            quick, careful = self.hand.quick, self.hand.careful
            aim = self.setting
            if self._t < quick:
                self._torque = 0.75 * aim * self._t / quick
            else:
                self._torque = aim * (0.75 + 0.25 * (self._t - quick) / careful)
            if not self.truth.clicks:
                self._torque = min(self._torque, self._trip)
            elif self._torque >= self._trip:
                self._torque = self._trip
                self.phase, self._t = Phase.TRIPPED, 0.0
        elif self.phase is Phase.TRIPPED:
            self._torque = self._trip * self._after_trip(self._t)
        elif self.phase is Phase.RELEASE:
            left = 1 - self._t / RELEASE_TIME
            if left <= 0:
                self._rest()
            else:
                self._torque = self._from * left * left

    def _after_trip(self, t: float) -> float:
        """Torque over trip torque, ``t`` seconds after the click: a dip, then over-travel until the hand stops."""
        if t < DIP_TIME:
            return 1 - DIP * math.sin(math.pi / 2 * t / DIP_TIME)
        pushed = min(t, self.hand.reaction) / 0.15
        return (
            1 - DIP * math.exp(-(t - DIP_TIME) / RECOVERY) + 0.05 * pushed * (1 - math.exp(-(t - DIP_TIME) / RECOVERY))
        )

    def _rest(self) -> None:
        self.phase, self._torque = Phase.REST, 0.0
        if self._again:
            self.pull()
