"""The physics of a simulated tool on a meter: trip by the moment about the pivot, the hand with its faults, over-travel.
What the meter makes of the torque stands in ``indicator``.

Time advances by samples; randomness is the generator that is given. Torques in N·m, lengths in m, times in s.

A simulated tool under known weights: it clicks or is silent as its truth says, and shows what it shows.

``Truth`` trips, as hung at the grip mark, at gain·setting + offset, with its scatter and its first releases high. Randomness
is the generator that is given. Torques in N·m.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from enum import Enum, auto

import numpy as np

from reckoner.core.quantities.arrays import Values
from reckoner.meters.indicator import Indicator, MeterFaults


@dataclass(frozen=True)
class Truth:
    """What a simulated tool really is.

    It trips, with the hand at ``lever``, at gain·setting + offset. ``first_high`` is how much higher the first release
    is (it decays over about three), ``hysteresis`` what setting from above adds, ``scatter`` the relative standard
    deviation, ``loose_lock`` the loss with each release, ``screw_rate`` the N·m that a turn adds, ``bent`` an indicating
    tool's pointer offset, ``own_torque`` what the tool's weight adds lying flat. One that ``slips`` gives way again and
    again while it is turned on; one that does not click is brought to its mark and held. One that ``shows`` keeps on its
    display how far it was pulled.
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
    slips: bool = False
    shows: bool = False


@dataclass(frozen=True)
class Hand:
    """How the simulated person pulls: seconds to 75 % and from there to the setting, reaction, hand offset spread; and what
    the hand does wrong: ``tremor`` as a fraction of the torque at ``tremor_hz``, how often (a probability) it eases off by
    ``eases`` on the way and pulls on, lets go before the signal, snatches, or knocks against the bench."""

    quick: float = 0.7
    careful: float = 1.1
    reaction: float = 0.12
    misplaced: float = 0.005
    tremor: float = 0.0
    tremor_hz: float = 8.0
    eases: float = 0.15
    easing: float = 0.0
    letting_go: float = 0.0
    snatching: float = 0.0
    knocking: float = 0.0


@dataclass(frozen=True)
class HandFaults:
    """What the hand does wrong in one pull."""

    eases: bool = False
    lets_go: bool = False
    snatches: bool = False
    knocks: bool = False

    @classmethod
    def of(cls, hand: Hand, rng: np.random.Generator) -> HandFaults:
        """Drawn by how often the hand does each; a hand without faults draws nothing."""
        odds = (hand.easing, hand.letting_go, hand.snatching, hand.knocking)
        return cls(*(odd > 0 and float(rng.random()) < odd for odd in odds))


class PullPhase(Enum):
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
EASE_AT, EASE_TIME = 0.85, 0.5
LETS_GO_AT = 0.9
SNATCHES_IN = 0.1
"""Seconds from 80 % to the signal for a hand that snatches."""

OFF_THE_MARK = 0.01
"""How far from the mark a hand stops that watches a display, as a standard deviation."""

KNOCK, KNOCK_TIME, KNOCK_AT = 0.2, 0.004, 0.7
SLIP, SLIP_TIME, SLIP_AGAIN = 0.4, 0.02, 0.35
"""How far a slip tool falls back, within which time, and after which it slips again while it is turned on."""


@dataclass
class SimulatedBench:
    """A tool clamped on a meter with its ``faults``, and a hand."""

    rng: np.random.Generator
    rate: float = 1000.0
    truth: Truth = field(default_factory=Truth)
    hand: Hand = field(default_factory=Hand)
    setting: float = 100.0
    faults: MeterFaults = field(default_factory=lambda: MeterFaults(noise=0.02))
    phase: PullPhase = PullPhase.REST
    releases: int = 0
    from_above: bool = False
    sign: float = 1.0
    turns: float = 0.0
    shown: float | None = None
    """What the tool's display shows of the pull that is over, in N·m; None before one, and for a tool without a display."""
    _again: bool = False
    _t: float = 0.0
    _torque: float = 0.0
    _trip: float = 0.0
    _stops_at: float = 0.0
    _from: float = 0.0
    _seconds: float = 0.0
    _wrongs: HandFaults = field(default_factory=lambda: HandFaults())

    def __post_init__(self) -> None:
        (noise,) = self.rng.spawn(1)  # how long the meter has been on changes nothing of the next pull
        self.meter = Indicator(noise, self.rate, self.faults)

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
        self._again = self.phase is PullPhase.RELEASE
        if self.phase is PullPhase.REST:
            self._trip = self.trip_torque()
            self._stops_at = self._trip * (
                1 + (OFF_THE_MARK * float(self.rng.standard_normal()) if self.truth.shows else 0.0)
            )
            self.shown = None
            self._wrongs = HandFaults.of(self.hand, self.rng)
            self.phase, self._t = PullPhase.PULL, 0.0

    def release(self) -> None:
        """Let go."""
        self._again = False
        if self.phase in (PullPhase.PULL, PullPhase.TRIPPED):
            if self.phase is PullPhase.TRIPPED:
                self.releases += 1
            if self.truth.shows:
                self.shown = self.setting * self._torque / self._trip
            self.phase, self._t, self._from = PullPhase.RELEASE, 0.0, self._torque

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
            self._seconds += dt
            self._step()
            torque[i] = self._torque + self._knock()
        return self.meter.shows(self.sign * torque + self.truth.own_torque)

    def _step(self) -> None:
        if self.phase is PullPhase.PULL:
            self._torque = self._brought_up() * self._shaking()
            if self._wrongs.lets_go and self._torque >= LETS_GO_AT * self.setting:
                self.release()
            elif not self.truth.clicks:
                self._torque = min(self._torque, self._stops_at)
            elif self._torque >= self._trip:
                self._torque = self._trip
                self.phase, self._t = PullPhase.TRIPPED, 0.0
        elif self.phase is PullPhase.TRIPPED:
            after = self._slipping(self._t) if self.truth.slips else self._after_trip(self._t)
            self._torque = self._trip * after * self._shaking()
        elif self.phase is PullPhase.RELEASE:
            left = 1 - self._t / RELEASE_TIME
            if left <= 0:
                self._rest()
            else:
                self._torque = self._from * left * left

    def _brought_up(self) -> float:
        """The torque of a hand that trembles not, ``_t`` seconds after it began."""
        quick, careful, t = self.hand.quick, self.hand.careful, self._t
        if self._wrongs.snatches:
            careful = SNATCHES_IN / 0.8
        if self._wrongs.eases:
            begins = quick + (EASE_AT - 0.75) / 0.25 * careful
            eased = min(max(0.0, t - begins), EASE_TIME)
            t = min(t, begins) if t < begins + EASE_TIME else t - EASE_TIME
            dip = self.hand.eases * (1 - math.cos(2 * math.pi * eased / EASE_TIME)) / 2
        else:
            dip = 0.0
        share = 0.75 * t / quick if t < quick else 0.75 + 0.25 * (t - quick) / careful
        return self.setting * share * (1 - dip)

    def _shaking(self) -> float:
        if not self.hand.tremor:
            return 1.0
        return 1 + self.hand.tremor * math.sin(2 * math.pi * self.hand.tremor_hz * self._seconds)

    def _knock(self) -> float:
        """What a knock on the bench adds to the torque now."""
        at = KNOCK_AT * self.hand.quick
        if not (self._wrongs.knocks and self.phase is PullPhase.PULL and at <= self._t < at + KNOCK_TIME):
            return 0.0
        return KNOCK * self.setting * math.sin(math.pi * (self._t - at) / KNOCK_TIME)

    @staticmethod
    def _slipping(t: float) -> float:
        """Torque over trip torque of a tool that slips again and again while it is turned on."""
        t %= SLIP_AGAIN
        if t < SLIP_TIME:
            return 1 - SLIP * t / SLIP_TIME
        return 1 - SLIP + SLIP * (t - SLIP_TIME) / (SLIP_AGAIN - SLIP_TIME)

    def _after_trip(self, t: float) -> float:
        """Torque over trip torque, ``t`` seconds after the click: a dip, then over-travel until the hand stops."""
        if t < DIP_TIME:
            return 1 - DIP * math.sin(math.pi / 2 * t / DIP_TIME)
        pushed = min(t, self.hand.reaction) / 0.15
        return (
            1 - DIP * math.exp(-(t - DIP_TIME) / RECOVERY) + 0.05 * pushed * (1 - math.exp(-(t - DIP_TIME) / RECOVERY))
        )

    def _rest(self) -> None:
        self.phase, self._torque = PullPhase.REST, 0.0
        if self._again:
            self.pull()


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
