"""A trace kept as CSV, played as if a meter sent it: ``replay:/path/to/pull.csv``, or ``replay:PATH?speed=4``."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from pathlib import Path

import numpy as np

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.units import N_M
from reckoner.core.trace.text import parse
from reckoner.core.translation import tr
from reckoner.meters.link import Event, MeterRefused, Samples, Trouble
from reckoner.meters.protocol import Identity

SCHEME = "replay:"
BLOCK_SECONDS = 0.02


class ReplayOver(MeterRefused):
    def __str__(self) -> str:
        return tr("The trace {url} is at its end. Connect to play it again.", url=self.url)


class ReplayUnreadable(MeterRefused):
    def __str__(self) -> str:
        return tr("The trace {url} cannot be played: {why}.", url=self.url, why=self.why)


class ReplayLink:
    """Plays a trace in its own time, once; like ``link.Link``."""

    def __init__(self, link: str) -> None:
        """Read the file. Raises ReplayUnreadable."""
        path, _, option = link.removeprefix(SCHEME).partition("?speed=")
        self.heard = ""
        self.url = path
        self._stopping = threading.Event()
        try:
            self._speed = float(option or 1)
            trace = parse(Path(path).read_text(encoding="utf-8-sig"), "trace")
        except OSError as fault:
            raise ReplayUnreadable(path, fault.strerror or str(fault)) from None
        except (ValueError, InputRefused) as fault:
            raise ReplayUnreadable(path, str(fault)) from None
        if len(trace.times) < 2 or trace.times[-1] <= trace.times[0] or not 0.01 <= self._speed <= 1000:
            raise ReplayUnreadable(path, tr("it needs at least two samples, one after the other"))
        self._rate = (len(trace.times) - 1) / (trace.times[-1] - trace.times[0])
        even = trace.times[0] + np.arange(len(trace.times)) / self._rate
        self._torque = np.interp(even, trace.times, trace.torques)

    def send(self, command: str) -> None:
        """A trace takes no commands."""

    def close(self) -> None:
        self._stopping.set()

    def events(self) -> Iterator[Event]:
        """Who it is, the samples in their own time, and at the end a trouble that is over."""
        signed = bool((self._torque < -0.1 * np.abs(self._torque).max()).any())
        yield Identity("replay", "", N_M, self._rate, simulated=False, mode="track", signed=signed)
        block = max(1, round(BLOCK_SECONDS * self._rate))
        for start in range(0, len(self._torque), block):
            if self._stopping.wait(block / self._rate / self._speed):
                return
            yield Samples(start, self._torque[start : start + block])
        yield Trouble(ReplayOver(self.url), over=True)
