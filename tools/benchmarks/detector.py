"""What the detector reaches on pulls that it has not seen: `make detector`, or `make detector PULLS=1000 SEED=3`.

Each pull goes through the whole-trace analysis, and sample by sample over a socket through the real link and watch. A line
of the table is a condition: the share of pulls with the right readings and no others, and with the right fault said, and
the relative error that 95 % of the readings stay within. *Told* is what was shown while the pull still went on. The same
seed gives the same table, whatever the machine.
"""

from __future__ import annotations

import os
import socket
import threading
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from multiprocessing import Pool

import numpy as np

from benchmarks.row import Row
from reckoner.core.quantities.units import N_M
from reckoner.core.requirements.tooltypes import MeterMode
from reckoner.core.trace.analysis import analyse
from reckoner.core.trace.event import Fault
from reckoner.meters.link import MeterLink, Samples
from reckoner.meters.made import CONDITIONS, MadePull, PullCondition
from reckoner.meters.protocol import Identity, sample_line
from reckoner.meters.pull import Pull, PullAim, Signalled, Watch

PULLS = int(os.environ.get("PULLS") or 200)
SEED = int(os.environ.get("SEED") or 1)
SAME = 0.05
"""A reading further than this from every truth is another event."""


@dataclass
class Read:
    """What one pull gave."""

    readings: list[float] = field(default_factory=list)
    told: list[float] = field(default_factory=list)
    faults: set[Fault] = field(default_factory=set)


def whole(condition: PullCondition, pulls: list[MadePull]) -> Iterator[Read]:
    """By the analysis of whole traces."""
    for made in pulls:
        there = made.arrived
        times = np.arange(len(made.samples)) / made.rate
        events = analyse(times[there], made.samples[there], target=made.target, mechanism=condition.mechanism).events
        readings = [event.first_peak for event in events if event.first_peak is not None]
        yield Read(readings, readings, {fault for event in events for fault in event.faults})


def live(condition: PullCondition, pulls: list[MadePull]) -> Iterator[Read]:
    """Over a socket, through the link and the watch; a meter says who it is before each pull, so that none knows the last."""
    listening = socket.create_server(("127.0.0.1", 0))
    link = MeterLink(f"socket://127.0.0.1:{listening.getsockname()[1]}")
    connection, _ = listening.accept()
    sender = threading.Thread(target=_send, args=(connection, pulls))
    sender.start()
    found: list[Read] = []
    watch: Watch | None = None
    arrived = 0
    for event in link.events():
        if isinstance(event, Identity):
            if watch is not None:
                _note(found[-1], watch.flush())
            made = pulls[len(found)]
            found.append(Read())
            arrived = 0
            watch = Watch(PullAim(made.target, condition.mode, condition.mechanism), event.rate, signed=event.signed)
        elif isinstance(event, Samples) and watch is not None:
            _note(found[-1], watch.feed(event.torque, event.missed))
            arrived += len(event.torque)
            if len(found) == len(pulls) and arrived == int(pulls[-1].arrived.sum()):
                _note(found[-1], watch.flush())
                link.close()
    sender.join()
    connection.close()
    listening.close()
    yield from found


def _send(connection: socket.socket, pulls: list[MadePull]) -> None:
    for made in pulls:
        identity = Identity("B", "1", N_M, made.rate, simulated=False, signed=True)
        numbered = np.flatnonzero(made.arrived).tolist()
        lines = "".join(sample_line(i, float(made.samples[i])) + "\n" for i in numbered)
        connection.sendall(f"{identity.line()}\n{lines}".encode())


def _note(read: Read, news: list[Signalled | Pull]) -> None:
    for item in news:
        if isinstance(item, Signalled):
            read.told.append(item.torque)
        else:
            read.readings += item.readings
            read.faults |= set(item.faults)


@dataclass(frozen=True)
class Score:
    """Shares of the pulls (``wrong``: those with a reading that is none), and the relative errors of the readings: bias and
    what 95 % stay within."""

    found: float
    told: float
    said: float
    wrong: float
    bias: float
    error: float


def score(way: Callable[[PullCondition, list[MadePull]], Iterator[Read]], condition: PullCondition) -> Score:
    place = CONDITIONS.index(condition)
    pulls = [condition.make(np.random.default_rng([SEED, place, number])) for number in range(PULLS)]
    right = told = said = wrong = 0
    errors: list[float] = []
    for made, read in zip(pulls, way(condition, pulls), strict=True):
        off = _errors(read.readings, made.readings)
        right += off is not None or (condition.never_worse and not read.readings)
        wrong += off is None and bool(read.readings)
        errors += off or []
        told += condition.mode is not MeterMode.FIRST_PEAK or _errors(read.told, made.readings) is not None
        said += (made.fault is None or made.fault in read.faults) and not set(made.no_faults) & read.faults
    sizes = np.abs(errors) if errors else np.zeros(1)
    bias = float(np.mean(errors)) if errors else 0.0
    share = 1.0 if condition.never_worse else 0.95
    return Score(right / PULLS, told / PULLS, said / PULLS, wrong / PULLS, bias, float(np.quantile(sizes, share)))


def _errors(readings: list[float], truths: tuple[float, ...]) -> list[float] | None:
    """The relative errors; None where there is a reading too many, too few, or of something else."""
    if len(readings) != len(truths):
        return None
    errors = [reading / truth - 1 for reading, truth in zip(readings, truths, strict=True)]
    return errors if all(abs(error) <= SAME for error in errors) else None


def _both(place: int) -> tuple[Score, Score]:
    condition = CONDITIONS[place]
    return score(whole, condition), score(live, condition)


def rows() -> list[Row]:
    print(f"{PULLS} pulls a line, seed {SEED}; whole trace, and live over a socket (told: while the pull went on)")
    print(f"{'':<58}{'must':>13}{'whole trace':>30}{'live':>37}")
    print(f"{'':<58}{'found  error':>13}{'found   said   bias  error':>30}{'told  found   said   bias  error':>37}")
    found = []
    with Pool(os.cpu_count()) as processes:
        for condition, scores in zip(CONDITIONS, processes.imap(_both, range(len(CONDITIONS))), strict=True):
            print(_line(condition, *scores), flush=True)
            for words, one in zip(("whole trace", "live"), scores, strict=True):
                least = min(one.found, one.said) - condition.found
                wide = 0.0 if condition.error is None else one.error / condition.error
                name = f"{condition.name}, {words}"
                found += [
                    Row(f"found: {name}", least * 100, at_least=0.0, unit="%"),
                    Row(f"error: {name}", wide, at_most=1.0),
                ]
                if condition.wrong is not None:
                    found.append(Row(f"wrong: {name}", (condition.wrong - one.wrong) * 100, at_least=0.0, unit="%"))
    return [row for row in found if not row.kept]


def _line(condition: PullCondition, whole: Score, live: Score) -> str:
    must = f"{condition.found * 100:5.1f} {'' if condition.error is None else format(condition.error * 100, '.2f'):>6}"

    def shown(one: Score) -> str:
        error = "     –      –" if condition.error is None else f"{one.bias * 100:+6.3f} {one.error * 100:6.3f}"
        return f"{one.found * 100:6.1f} {one.said * 100:6.1f} {error}"

    return f"{condition.name:<58}{must:>13}{shown(whole):>30}{live.told * 100:>10.1f} {shown(live)}"
