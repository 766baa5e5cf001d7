"""Pulls made from formulas, with the faults of hands, tools and meters: what the detector is measured on.

A ``Pull`` is a hand that brings up torque, a tool that gives way where the torque reaches its trip, and an ``Indicator``
that shows it. What is true of it (at which torque the tool gave way, what the hand did wrong) is known because it was made
so. Everything that is not said is drawn at random: the speed, the shape of the dip, the over-travel, the way of letting go.

To add a condition: a row in ``CONDITIONS`` and the function that makes it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt

from reckoner.core.quantities.arrays import Values
from reckoner.core.requirements.tooltypes import Mechanism, MeterMode
from reckoner.core.trace.event import Fault
from reckoner.meters.indicator import Indicator, MeterFaults
from reckoner.meters.movements import (
    Rng,
    Tremor,
    between,
    gives_way,
    let_go,
    ramp,
    sample_count,
    smooth_step,
    until_trip,
)


@dataclass(frozen=True)
class MadePull:
    """A pull: ``samples`` in N·m at ``rate`` a second, the ``readings`` that are true of it (N·m, in order), a ``fault``
    that must be said of it and those that must not; ``lost`` are the stretches (first, past the last) that never arrive."""

    samples: Values
    rate: float
    target: float
    readings: tuple[float, ...]
    fault: Fault | None = None
    no_faults: tuple[Fault, ...] = ()
    lost: tuple[tuple[int, int], ...] = ()

    @property
    def arrived(self) -> npt.NDArray[np.bool_]:
        """Whether each of the samples arrives."""
        there = np.ones(len(self.samples), dtype=np.bool_)
        for first, past in self.lost:
            there[first:past] = False
        return there


@dataclass(frozen=True)
class PullCondition:
    """What pulls have in common, and what a detector must reach on them: the share ``found`` (right events and no others),
    and the relative ``error`` within which 95 % of the readings lie, or all, where none may be worse (``never_worse``; no
    reading at all is as good then). ``wrong``: the share that may give a reading which is none."""

    name: str
    make: Callable[[Rng], MadePull]
    found: float
    error: float | None = None
    mechanism: Mechanism = Mechanism.CLICK
    mode: MeterMode = MeterMode.FIRST_PEAK
    wrong: float | None = None
    never_worse: bool = False


def pull(
    rng: Rng,
    *,
    rate: float = 1000.0,
    target: float = 120.0,
    dip: float | None = None,
    fall: float | None = None,
    careful: float | None = None,
    tremor: float = 0.0,
    eased: float = 0.0,
    noise: float = 0.001,
    knock: str = "",
    lost: str = "",
    clips_at: float = 0.0,
    fault: Fault | None = None,
    **meter: float,
) -> MadePull:
    """A pull to the signal of a tool that is set to ``target``. Shares of the target: ``noise``, ``clips_at`` (of the
    trip), and of ``meter`` (see ``MeterFaults``) zero, drift, ripple and resolution; ``knock`` on the "ramp" or at
    "rest"; samples ``lost`` over the "signal" or "elsewhere"."""
    trip = target * between(rng, 0.95, 1.05)
    dip = between(rng, 0.03, 0.15) if dip is None else dip
    fall = between(rng, 0.008, 0.025) if fall is None else fall
    shaking = Tremor.of(rng, tremor)
    rising = ramp(rng, trip * (1 + 2 * tremor), rate, careful)
    seconds = np.arange(len(rising)) / rate
    slope = float(rising[-1] - rising[-2]) * rate
    if eased:
        rising = _eased_off(rng, rising, rate, eased)
        seconds = np.arange(len(rising)) / rate
    rising = until_trip(rising * shaking.at(seconds), trip)
    after = gives_way(rng, trip, rate, dip=dip, fall=fall, slope=slope)
    after = after * (1 + (shaking.at(seconds[-1] + np.arange(len(after)) / rate) - 1) * np.linspace(0, 1, len(after)))
    still = np.zeros(sample_count(between(rng, 0.5, 0.9), rate))
    torque = np.concatenate(
        [still, rising, after, let_go(rng, float(after[-1]), rate), np.zeros(sample_count(0.6, rate))]
    )
    if knock:
        torque = _knocked(rng, torque, rate, target, (len(still), len(still) + len(rising)), knock)
    shares = {name: value * (target if name not in ("mains", "filter_hz") else 1) for name, value in meter.items()}
    faults = MeterFaults(noise=noise * target, clips_at=clips_at * trip, **shares)
    readings = () if clips_at or lost == "signal" else (trip,)
    shown = Indicator(rng, rate, faults).shows(torque)
    gaps = _gaps(rng, torque, rate, len(still) + len(rising) - 1, lost) if lost else ()
    return MadePull(shown, rate, target, readings, fault, lost=gaps)


def _gaps(rng: Rng, torque: Values, rate: float, trip: int, where: str) -> tuple[tuple[int, int], ...]:
    """What never arrives: 50 to 200 ms over the ``trip``, or a hundredth of all in gaps of 1 to 20 ms below 70 % of it, and
    single samples anywhere."""
    if where == "signal":
        length = sample_count(between(rng, 0.05, 0.2), rate)
        first = max(1, trip - round(between(rng, 0.1, 0.9) * length))
        return ((first, first + length),)
    away = np.flatnonzero(torque < 0.7 * torque[trip])
    found: list[tuple[int, int]] = []
    left = len(torque) // 100
    while left > 0:
        single = rng.random() < 0.5
        length = 1 if single else min(left, sample_count(between(rng, 0.001, 0.02), rate))
        at = int(rng.integers(1, len(torque) - 1)) if single else int(rng.choice(away[1:-1]))
        if single or torque[min(at + length, len(torque) - 1)] < 0.75 * torque[trip]:
            found.append((at, at + length))
            left -= length
    return tuple(found)


def _eased_off(rng: Rng, rising: Values, rate: float, share: float) -> Values:
    """The same rise by a hand that eases off by ``share`` on the way, between 60 and 95 %, and pulls on."""
    at = int(np.searchsorted(rising, between(rng, 0.6, 0.95) * float(rising[-1])))
    down = smooth_step(np.linspace(0, 1, sample_count(between(rng, 0.12, 0.4), rate)))
    up = smooth_step(np.linspace(1, 0, sample_count(between(rng, 0.15, 0.5), rate)))
    low = np.ones(sample_count(between(rng, 0.005, 0.2), rate))
    eased = rising[at] * (1 - share * np.concatenate([down, low, up]))
    return np.concatenate([rising[:at], eased, rising[at:]])


def _knocked(rng: Rng, torque: Values, rate: float, target: float, rise: tuple[int, int], where: str) -> Values:
    """A knock on the bench: a fifth of the target, up or down, for 2 to 6 ms."""
    length = max(2, round(between(rng, 0.002, 0.006) * rate))
    if where == "rest":
        at = int(rng.integers(rise[0] // 2, rise[0] - 2 * length))
    else:
        at = int(rng.integers(rise[0] + (rise[1] - rise[0]) // 3, rise[1] - round(0.05 * rate)))
    share = (np.arange(length) + 0.5) / length
    shape = (np.sin(np.pi * share), np.ones(length), 1 - np.abs(2 * share - 1))[int(rng.integers(3))]
    knocked = torque.copy()
    knocked[at : at + length] += 0.2 * target * shape * (1 if rng.random() < 0.5 else -1)
    return knocked


def gave_up(rng: Rng, *, rate: float = 1000.0, target: float = 120.0, noise: float = 0.001) -> MadePull:
    """A hand that lets go within 40 to 600 ms before the tool has signalled."""
    reached = target * between(rng, 0.6, 0.99)
    rising = ramp(rng, reached, rate)
    rising = np.append(rising, np.full(sample_count(between(rng, 0.0, 0.3), rate), reached))
    rising = rising * Tremor.of(rng, between(rng, 0.002, 0.006)).at(np.arange(len(rising)) / rate)
    seconds = between(rng, 0.04, 0.6)
    still = np.zeros(sample_count(0.6, rate))
    torque = np.concatenate([still, rising, let_go(rng, float(rising[-1]), rate, seconds), still])
    shown = Indicator(rng, rate, MeterFaults(noise=noise * target)).shows(torque)
    return MadePull(shown, rate, target, (), Fault.NO_SIGNAL)


def bumped(rng: Rng) -> MadePull:
    """A bump of 25 to 45 % of the target for 0.4 s before a pull, which ends with a signal or with a hand that lets go."""
    made = pull(rng) if rng.random() < 0.5 else gave_up(rng)
    height, rate = made.target * between(rng, 0.25, 0.45), made.rate
    share = np.clip(np.arange(sample_count(0.4, rate)) / sample_count(0.4, rate), 0, 1)
    bump = height * smooth_step(share * between(rng, 2, 8)) * smooth_step((1 - share) * between(rng, 2, 8))
    still = np.zeros(sample_count(between(rng, 0.02, 0.5), rate))
    lead = Indicator(rng, rate, MeterFaults(noise=0.001 * made.target)).shows(
        np.concatenate([np.zeros(600), bump, still])
    )
    return replace(made, samples=np.concatenate([lead, made.samples[500:]]), fault=None, no_faults=(Fault.CLIPPED,))


def slips(rng: Rng, *, rate: float = 1000.0, target: float = 20.0, times: int = 3) -> MadePull:
    """A slip tool turned on through ``times`` slips."""
    parts = [np.zeros(sample_count(0.6, rate))]
    truths: list[float] = []
    depth = between(rng, 0.05, 0.6)
    trip = target * between(rng, 0.95, 1.05)
    begin = 0.0
    for _ in range(times):
        trips = trip * (1 + between(rng, -0.01, 0.01))
        if not truths:
            parts.append(ramp(rng, trips, rate))
        else:
            parts.append(np.linspace(begin, trips, sample_count(max(between(rng, 0.15, 0.6), depth), rate)))
        begin = trips * (1 - min(depth * between(rng, 1.0, 1.2), 0.6))
        share = np.linspace(0, 1, sample_count(between(rng, 0.01, 0.04), rate) + 1)[1:]
        parts.append(
            trips + (begin - trips) * (share, smooth_step(share), np.sin(np.pi / 2 * share))[int(rng.integers(3))]
        )
        truths.append(trips)
    up = begin + (trip - begin) * between(rng, 0.1, 0.6)
    parts.append(np.linspace(begin, up, sample_count(between(rng, 0.05, 0.2), rate)))
    parts += [let_go(rng, up, rate), np.zeros(sample_count(0.6, rate))]
    shown = Indicator(rng, rate, MeterFaults(noise=0.002 * target)).shows(np.concatenate(parts))
    return MadePull(shown, rate, target, tuple(truths))


def hold(rng: Rng, *, rate: float = 1000.0, target: float = 60.0, tremor: float = 0.003) -> MadePull:
    """A tool brought to a mark and held there, with a rest on the way that may be longer."""
    level = target * between(rng, 0.95, 1.05)
    rest = level * between(rng, 0.4, 0.85)
    parts = [
        ramp(rng, rest, rate),
        np.full(sample_count(between(rng, 0.6, 2.5), rate), rest),
        rest + (level - rest) * smooth_step(np.linspace(0, 1, sample_count(between(rng, 0.5, 1.5), rate))),
        np.full(sample_count(between(rng, 0.8, 2.0), rate), level),
    ]
    torque = np.concatenate(parts)
    torque = torque * Tremor.of(rng, tremor).at(np.arange(len(torque)) / rate)
    still = np.zeros(sample_count(0.6, rate))
    torque = np.concatenate([still, torque, let_go(rng, float(torque[-1]), rate), still])
    shown = Indicator(rng, rate, MeterFaults(noise=0.001 * target)).shows(torque)
    return MadePull(shown, rate, target, (level,))


def swinging(rng: Rng, *, rate: float = 1000.0, target: float = 60.0) -> MadePull:
    """A beam that is brought to a mark and swings about it, two to four times, by 0.5 to 1 % at 0.8 to 1.6 Hz."""
    level = target * between(rng, 0.95, 1.05)
    hertz = between(rng, 0.8, 1.6)
    seconds = np.arange(sample_count(between(rng, 2, 4) / hertz, rate)) / rate
    swing = between(rng, 0.005, 0.01) * np.sin(2 * np.pi * hertz * seconds + between(rng, 0, 2 * np.pi))
    still = np.zeros(sample_count(0.6, rate))
    rising = ramp(rng, level * (1 + float(swing[0])), rate)
    held = level * (1 + swing)
    torque = np.concatenate([still, rising, held, let_go(rng, float(held[-1]), rate), still])
    torque = torque * Tremor.of(rng, 0.001).at(np.arange(len(torque)) / rate)
    shown = Indicator(rng, rate, MeterFaults(noise=0.001 * target)).shows(torque)
    return MadePull(shown, rate, target, (level,))


def _signed(rng: Rng, size: float) -> float:
    return size if rng.random() < 0.5 else -size


def _noisy_or_shallow(rng: Rng) -> MadePull:
    return pull(rng, noise=0.01) if rng.random() < 0.5 else pull(rng, noise=0.003, dip=0.02)


def _ripple(rng: Rng) -> MadePull:
    mains = float(rng.choice([50.0, 60.0])) + between(rng, -0.2, 0.2)
    return pull(rng, ripple=between(rng, 0.0, 0.02), mains=mains)


def _deep(rng: Rng) -> MadePull:
    never = (Fault.SECOND_PULL, Fault.CLIPPED, Fault.JERK)
    return replace(pull(rng, dip=between(rng, 0.3, 0.7)), no_faults=never)


def _slow_meter(rng: Rng) -> MadePull:
    if rng.random() < 1 / 3:
        return gave_up(rng, rate=100.0, noise=0.003)
    return pull(rng, rate=100.0, noise=0.003)


def _zero(rng: Rng) -> MadePull:
    if rng.random() < 0.5:
        return pull(rng, zero=_signed(rng, between(rng, 0.01, 0.02)), fault=Fault.OFF_ZERO_BEFORE)
    return pull(rng, drift=_signed(rng, 0.005), fault=Fault.OFF_ZERO_AFTER)


def _filtered(rng: Rng) -> MadePull:
    if rng.random() < 0.5:
        return pull(rng, filter_hz=between(rng, 20, 200))
    return pull(rng, resolution=0.005, tremor=0.006)


CONDITIONS = (
    PullCondition("dip 3 to 15 %, noise to 0.5 %", lambda rng: pull(rng, noise=between(rng, 0, 0.005)), 0.995, 0.002),
    PullCondition("noise 1 %, or dip 2 % with noise 0.3 %", _noisy_or_shallow, 0.97, 0.0035),
    PullCondition(
        "100 and 200 samples a second, noise 0.3 %",
        lambda rng: pull(rng, rate=float(rng.choice([100.0, 200.0])), noise=0.003), 0.99, 0.004,
    ),
    PullCondition("5000 samples a second, noise 0.5 %", lambda rng: pull(rng, rate=5000.0, noise=0.005), 0.995, 0.0015),
    PullCondition("ripple to 2 %, 50 or 60 Hz", _ripple, 0.995, 0.002),
    PullCondition("tremor 0.6 % at 4 to 12 Hz", lambda rng: pull(rng, tremor=0.006), 0.995, 0.0025),
    PullCondition(
        "hand eases by 5 to 40 % and pulls on",
        lambda rng: pull(rng, eased=between(rng, 0.05, 0.4), fault=Fault.JERK), 0.99, 0.0025,
    ),
    PullCondition("let-go in 40 to 600 ms without a click", gave_up, 0.99),
    PullCondition(
        "knock of 20 % for 2 to 6 ms, on the ramp or at rest",
        lambda rng: pull(rng, knock=str(rng.choice(["ramp", "rest"])), fault=Fault.KNOCK), 0.99, 0.005,
    ),
    PullCondition("steep pull, 80 to 100 % in 0.1 s", lambda rng: pull(rng, careful=0.1, fault=Fault.TOO_FAST), 0.95, 0.01),
    PullCondition("zero off by 2 %, or drifting 0.5 %/s", _zero, 0.99, 0.003),
    PullCondition(
        "clipped at 90 to 98 %",
        lambda rng: pull(rng, noise=0.002, clips_at=between(rng, 0.9, 0.98), fault=Fault.CLIPPED), 0.98,
    ),
    PullCondition("meter filter 20 to 200 Hz; resolution 0.5 % with tremor", _filtered, 0.99, 0.004),
    PullCondition(
        "slow break-over, 50 to 120 ms",
        lambda rng: pull(rng, fall=between(rng, 0.05, 0.12), dip=between(rng, 0.05, 0.3)), 0.98, 0.004,
        Mechanism.BREAK_OVER,
    ),
    PullCondition("slip 5 to 60 %, three a pull", slips, 0.98, 0.004, Mechanism.SLIP),
    PullCondition("hold with a pause on the way, tremor 0.3 %", hold, 0.99, 0.001, Mechanism.DIAL, MeterMode.HOLD),
    PullCondition(
        "click falling 30 to 70 %, bearing again within 0.1 s",
        _deep, 0.98, 0.0025,
    ),
    PullCondition(
        "50 to 200 ms of samples lost over the signal",
        lambda rng: pull(rng, noise=between(rng, 0, 0.005), lost="signal", fault=Fault.SAMPLES_LOST), 0.99,
    ),
    PullCondition(
        "samples lost elsewhere, 1 % of them",
        lambda rng: pull(rng, noise=between(rng, 0, 0.005), lost="elsewhere", fault=Fault.SAMPLES_LOST), 0.99, 0.0025,
    ),
    PullCondition(
        "100 samples a second, noise 0.3 %; one in three lets go", _slow_meter, 0.99, 0.004, wrong=0.005
    ),
    PullCondition(
        "beam swinging 0.5 to 1 % at 0.8 to 1.6 Hz", swinging, 0.99, 0.0015, Mechanism.BEAM, MeterMode.HOLD,
    ),
    PullCondition("bump of 25 to 45 % for 0.4 s before the pull; let-go", bumped, 0.98),
    PullCondition(
        "mains at 49.5 to 60.5 Hz, 1.5 %",
        lambda rng: pull(rng, ripple=0.015, mains=between(rng, 49.5, 60.5)), 0.995, 0.002,
    ),
    PullCondition(
        "snatched: 80 to 100 % in 50 ms, dip 3 % over 14 ms",
        lambda rng: pull(rng, careful=0.05, dip=0.03, fall=0.014, fault=Fault.TOO_FAST), 0.95, 0.03, never_worse=True,
    ),
)  # fmt: skip
