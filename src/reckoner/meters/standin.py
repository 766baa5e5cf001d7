"""The stand-in: a meter that is not there, with a simulated tool on it, behind a socket or a pseudo-terminal.

Beyond a meter's commands it takes ``tool NUMBER`` (mount a known tool, or any), ``set TORQUE [from below]``, ``turn TURNS``,
``direction cw`` or ``ccw``, ``unit UNIT``, ``pull`` and ``release``. ``speed`` lets its time run faster than the clock;
samples stay as dense in its own time.
"""

from __future__ import annotations

import os
import pty
import select
import socket
import threading
import time
import tty
from collections.abc import Callable, Mapping
from contextlib import suppress
from dataclasses import dataclass, field
from functools import partial

import numpy as np

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.entry import read
from reckoner.core.quantities.units import N_M, Kind, Unit, unit_named
from reckoner.meters.indicator import MeterFaults
from reckoner.meters.protocol import Identity, sample_line, with_checksum
from reckoner.meters.wrench import Hand, SimulatedBench, Truth

STEP = 0.01
"""Seconds between bursts of samples."""


@dataclass(frozen=True)
class StandInPlan:
    """What the stand-in pretends to be: its identity, the tools it knows, its seed, how fast its time runs, and whether its
    lines bear a checksum."""

    number: str = "PM-0"
    serial: str = "0000"
    rate: float = 1000.0
    meter: MeterFaults = field(default_factory=lambda: MeterFaults(noise=0.02))
    tools: Mapping[str, Truth] = field(default_factory=dict)
    hand: Hand = field(default_factory=Hand)
    seed: int = 1
    speed: float = 1.0
    unit: Unit = N_M
    temperature: float = 21.4
    humidity: float = 0.46
    checked: bool = True


class Conversation:
    """The protocol's meter side for one connection: commands in, lines out.

    ``turned`` holds how far the screw of each tool has been turned, from one connection to the next.
    """

    def __init__(self, plan: StandInPlan, turned: dict[str, float] | None = None) -> None:
        self.plan = plan
        self.turned = {} if turned is None else turned
        self.tool = ""
        self.bench = SimulatedBench(np.random.default_rng(plan.seed), rate=plan.rate, faults=plan.meter, hand=plan.hand)
        self.streaming = False
        self.index = 0
        self.mode = "track"
        self.unit = plan.unit

    def answer(self, command: str) -> str:
        """The line that answers ``command``."""
        return self._line(self._answer(command))

    def _line(self, text: str) -> str:
        return with_checksum(text) if self.plan.checked else text

    def _answer(self, command: str) -> str:
        match command.split():
            case ["hello"]:
                plan = self.plan
                known = Identity(
                    plan.number,
                    plan.serial,
                    self.unit,
                    plan.rate,
                    simulated=True,
                    mode=self.mode,
                    signed=True,
                    checked=plan.checked,
                )
                return known.line()
            case ["mode", "track" | "first-peak" | "peak" as mode]:
                self.mode = mode
                return f"ok mode {mode}"
            case ["unit", *words]:
                self.unit = unit_named(" ".join(words), Kind.TORQUE)
                return self._answer("hello")
            case ["room"]:
                return f"room {self.plan.temperature:.1f} {self.plan.humidity * 100:.0f}"
            case ["direction", "cw" | "ccw" as direction]:
                self.bench.sign = 1.0 if direction == "cw" else -1.0
                return f"ok direction {direction}"
            case ["stream", "on" | "off" as state]:
                self.streaming = state == "on"
                return f"ok stream {state}"
            case ["zero"]:
                self.bench.meter.take_zero()
                return "ok zero"
            case ["tool", number, *_]:
                self.tool = number
                self.bench.mount(self.plan.tools.get(number, Truth()))
                self.bench.turn_screw(self.turned.get(number, 0.0))
                return f"ok tool {number}"
            case ["set", *words, "from", "below"]:
                return self._number("set", " ".join(words), partial(self.bench.set_to, from_below=True))
            case ["set", *words]:
                return self._number("set", " ".join(words), self.bench.set_to)
            case ["turn", turns]:
                answer = self._number("turn", turns, self.bench.turn_screw)
                self.turned[self.tool] = self.bench.turns
                return answer
            case ["pull"]:
                self.bench.pull()
                return "ok pull"
            case ["release"]:
                self.bench.release()
                return "ok release"
        return "no such command"

    @staticmethod
    def _number(word: str, text: str, use: Callable[[float], None]) -> str:
        try:
            value = read(text, Kind.TORQUE, default=N_M).si
        except InputRefused as refusal:
            return f"no {refusal.reason}"
        use(value)
        return f"ok {word} {value:g}"

    def samples(self, seconds: float) -> str:
        """The lines for the next ``seconds`` of the stand-in's own time."""
        count = round(seconds * self.plan.rate)
        torque = self.bench.advance(count)
        torque = torque / self.unit.size
        shown, self.bench.shown = self.bench.shown, None
        lines = [self._line(sample_line(self.index + i, value)) for i, value in enumerate(torque.tolist())]
        if shown is not None:
            lines.append(self._line(f"shown {shown / self.unit.size:.5g}"))
        self.index += count
        return "\n".join(lines) + "\n" if lines and self.streaming else ""


class StandIn:
    """A stand-in running on a thread. ``url`` is what pyserial opens."""

    def __init__(self, plan: StandInPlan, *, use_pty: bool = False, port: int = 0) -> None:
        self.plan = plan
        self.mute = threading.Event()
        """Set: keeps the line but sends nothing, like a meter that fell asleep."""
        self._turned: dict[str, float] = {}
        self._stop = threading.Event()
        self._listener: socket.socket | None = None
        self._master: int | None = None
        self._slave: int | None = None
        if use_pty:
            self._master, self._slave = pty.openpty()
            tty.setraw(self._master)
            tty.setraw(self._slave)
            self.url = os.ttyname(self._slave)
        else:
            self._listener = socket.create_server(("127.0.0.1", port))
            self._listener.settimeout(0.1)
            self.url = f"socket://127.0.0.1:{self._listener.getsockname()[1]}"
        self._thread = threading.Thread(target=self._serve, name="meter stand-in", daemon=True)
        self._thread.start()

    def close(self) -> None:
        """Stop, dropping whoever is connected."""
        self._stop.set()
        self._thread.join()
        if self._listener:
            self._listener.close()
        for descriptor in (self._master, self._slave):
            if descriptor is not None:
                os.close(descriptor)
        self._master = self._slave = None

    def wait(self) -> None:
        """Block until closed."""
        while self._thread.is_alive():
            self._thread.join(0.5)

    def _serve(self) -> None:
        if self._master is not None:
            self._talk(self._master)
            return
        listener = self._listener
        while not self._stop.is_set() and listener is not None:
            try:
                peer, _ = listener.accept()
            except TimeoutError:
                continue
            with peer:
                self._talk(peer.fileno())

    def _talk(self, descriptor: int) -> None:
        conversation = Conversation(self.plan, self._turned)
        os.set_blocking(descriptor, False)
        rest = b""
        last = time.monotonic()
        owed = 0.0
        while not self._stop.is_set():
            try:
                readable, _, _ = select.select([descriptor], [], [], STEP)
                if readable:
                    data = os.read(descriptor, 4096)
                    if not data:
                        return
                    *commands, rest = (rest + data).split(b"\n")
                    for command in commands:
                        self._write(descriptor, conversation.answer(command.decode("ascii", "replace")) + "\n")
                now = time.monotonic()
                owed += (now - last) * self.plan.speed
                last = now
                burst = min(owed, 0.05 * max(1.0, self.plan.speed))
                if burst >= STEP:
                    self._write(descriptor, conversation.samples(burst))
                    owed = 0.0
            except OSError:
                return

    def _write(self, descriptor: int, text: str) -> None:
        """Write, as far as somebody reads: what nobody has room for waits until it is read, or the stand-in is closed."""
        data = b"" if self.mute.is_set() else text.encode("ascii")
        while data and not self._stop.is_set():
            _, writable, _ = select.select([], [descriptor], [], STEP)
            if writable:
                with suppress(BlockingIOError):  # less room than it looked
                    data = data[os.write(descriptor, data) :]
