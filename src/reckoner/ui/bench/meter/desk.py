"""The meter on the bench: its link, whether it is the right one, what it shows, and what it is told."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
from PyQt6.QtCore import QObject, pyqtBoundSignal, pyqtSignal

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.arrays import Values
from reckoner.core.quantities.printing import fixed, quantity
from reckoner.core.quantities.units import Kind, Unit
from reckoner.core.requirements.tooltypes import Approach
from reckoner.core.translation import tr
from reckoner.meters import replay
from reckoner.meters.protocol import Identity
from reckoner.meters.pull import PullAim, still
from reckoner.shop.facts.judged import ReferenceFacts
from reckoner.shop.runs.state import RunState
from reckoner.store.station import Station
from reckoner.ui.bench.meter.intake import target_of
from reckoner.ui.meterwatch import FLOODS, MeterWatch

TRACK = "track"
"""The mode of the protocol in which a meter sends its torque as it is."""

MODE_TRIES = 3
"""How often a meter in another mode is asked to go back."""

REST_SECONDS = 0.4
REST_SPREAD = 0.002
"""At rest: the last REST_SECONDS vary by less than this fraction of the reference's maximum, and do not creep by more than a
quarter of its zero tolerance."""

REST_LEVEL = 0.02
"""A steady torque above this fraction of the reference's maximum is a hand that holds on, not a zero."""


class MeterDesk(QObject):
    """One meter at a time, that of the run's reference.

    ``said(sentence, tone, may connect)`` for the column at the left · ``changed()`` when it came, went or is not the right
    one · ``samples(array, rate)`` · ``signalled(Signalled)`` · ``pulled(Pull)`` · ``valued(N·m)`` · ``shown(N·m)``, by the
    tool's display · ``roomed(RoomReport)``. The last five come only from the right meter.
    """

    said = pyqtSignal(str, str, bool)
    changed = pyqtSignal()
    samples = pyqtSignal(object, float)
    signalled = pyqtSignal(object)
    pulled = pyqtSignal(object)
    valued = pyqtSignal(float)
    shown = pyqtSignal(float)
    roomed = pyqtSignal(object)

    def __init__(
        self, url_of: Callable[[ReferenceFacts, str], str], station: Station, parent: QObject | None = None
    ) -> None:
        super().__init__(parent)
        self._url_of = url_of
        self._station = station
        self._link = ""
        self._asked_for_track = 0
        self._watch: MeterWatch | None = None
        self.identity: Identity | None = None
        self.wrong = ""
        self._unit: Unit | None = None
        self._checks = False
        self._reference: ReferenceFacts | None = None
        self.recent = np.empty(0)
        """The newest samples in N·m, as many as it takes to see whether it rests."""
        self._aimed: object = None
        self.pulling = False
        self._closed = False

    # The link

    def dial(self, run: RunState) -> None:
        """Link to the run's reference as soon as there is one; stay linked while it is the same."""
        reference = run.reference
        if reference is None or run.set_up is None or run.signed or self._closed:
            return
        link = self._station.link_of(reference.number, run.set_up.link)
        if self._watch is not None and self._reference is not None and self._link == link:
            self._reference = reference
            return
        if self._watch is not None:
            self.hang_up()
        self._reference, self._link = reference, link
        url = self._url_of(reference, link)
        if not url:
            by_hand = tr("Nothing is linked: what is seen is typed or answered.")
            words = by_hand if reference.by_hand else tr("Not linked; readings are typed.")
            self.said.emit(words, "quiet", False)
            return
        self.said.emit(tr("Connecting…"), "quiet", False)
        watch = MeterWatch(url, _aim_of(run), self)
        self._watch = watch
        watch.identified.connect(self._identified)
        watch.samples.connect(self._samples)
        watch.signalled.connect(self._passing(self.signalled))
        watch.pulled.connect(self._passing(self.pulled))
        watch.valued.connect(self._valued)
        watch.shown.connect(self._passing(self.shown))
        watch.roomed.connect(self._passing(self.roomed))
        watch.trouble.connect(self._trouble)
        watch.recovered.connect(self._recovered)
        watch.start()

    def hang_up(self) -> None:
        """Let the meter go."""
        if self._watch is not None:
            self._watch.stop()
            self._watch.deleteLater()
        self._watch, self.identity, self.recent, self.wrong = None, None, np.empty(0), ""
        self._reference, self._unit, self._aimed, self.pulling = None, None, None, False
        self._checks = False
        self.said.emit(tr("Chosen at set up."), "quiet", False)
        self.changed.emit()

    def shut(self) -> None:
        self._closed = True
        self.hang_up()

    @property
    def linked(self) -> bool:
        """A meter answers, and it is the right one."""
        return self.identity is not None and not self.wrong

    @property
    def streams(self) -> bool:
        return self.identity is not None and self.linked and self.identity.rate > 0

    @property
    def simulated(self) -> bool:
        return self.identity is not None and self.identity.simulated

    def _identified(self, identity: Identity) -> None:
        before = self.identity
        self.identity = identity
        self._aimed = None
        self.wrong = self._why_wrong(identity)
        if self.wrong:
            self.said.emit(self.wrong, "fault", True)
        elif before is not None and self._unit is not None and identity.unit is not self._unit:
            self.said.emit(
                tr(
                    "The meter now sends {symbol} instead of {symbol_2}. Values are converted; readings taken are "
                    "kept. Set it back if that was not meant.",
                    symbol=identity.unit.symbol,
                    symbol_2=self._unit.symbol,
                ),
                "fault",
                False,
            )
        elif self._checks and not identity.checked:
            self.said.emit(
                tr(
                    "The meter no longer checks its lines: what is damaged on the way could be taken for a value. Set it "
                    "to send its checksum again, or look at each value."
                ),
                "fault",
                False,
            )
        else:
            self.said.emit(self._linked_words(identity), "quiet", False)
        self._unit, self._checks = identity.unit, identity.checked
        self.changed.emit()

    def _why_wrong(self, identity: Identity) -> str:
        """What is wrong with the meter that says ``identity``; a meter in another mode is asked to go back to its torque."""
        expected = self._reference
        if expected is not None and (identity.unit.kind is Kind.TORQUE) is not (expected.sends is Kind.TORQUE):
            should = (
                tr("a force or a mass, and its link says so: …?unit=kg")
                if expected.sends is not Kind.TORQUE
                else tr("a torque")
            )
            return tr(
                "{number} should send {should}; this one sends {symbol}. Nothing of it is taken.",
                number=expected.number,
                should=should,
                symbol=identity.unit.symbol,
            )
        speaks = (
            bool(identity.number) and not self._replays
        )  # a meter of plain values has no serial to tell, nor a trace
        if expected is None or not expected.serial or identity.serial == expected.serial or not speaks:
            return self._why_mode(identity)
        if not identity.serial:
            return tr(
                "The meter does not say its serial, so it cannot be told whether it is {number}. Nothing of "
                "it is taken. Set its serial, or take the serial out of the register.",
                number=expected.number,
            )
        return tr(
            "This is another meter: serial {serial}, while {number} is serial {serial_2}. Nothing of it "
            "is taken. Connect {number}, or choose the meter that is here as the reference.",
            serial=identity.serial,
            number=expected.number,
            serial_2=expected.serial,
        )

    def _why_mode(self, identity: Identity) -> str:
        if not identity.mode or not identity.rate or identity.mode == TRACK:
            self._asked_for_track = 0
            return ""
        if self._asked_for_track >= MODE_TRIES:
            return tr(
                "The meter stays in its mode “{mode}”; set it to send its torque as it is. Nothing of it is taken.",
                mode=identity.mode,
            )
        self._asked_for_track += 1
        self.send(f"mode {TRACK}")
        self.send("hello")
        return ""

    @property
    def _replays(self) -> bool:
        """A kept trace stands in for the meter."""
        return self._link.startswith(replay.SCHEME)

    def _linked_words(self, identity: Identity, lead: str = tr("Linked")) -> str:
        words = self._what_it_sends(identity, lead)
        return tr("{words}, lines checked.", words=words) if identity.checked else f"{words}."

    def _what_it_sends(self, identity: Identity, lead: str) -> str:
        if identity.simulated:
            return tr("{lead}: the simulated tool and meter, {rate:g} samples a second", lead=lead, rate=identity.rate)
        if not identity.rate:
            return tr(
                "{lead}: sends values in {symbol}, one a line{steps}",
                lead=lead,
                symbol=identity.unit.symbol,
                steps=_steps(identity, self._reference),
            )
        if self._replays:
            return tr("Plays a trace, {rate:.0f} samples a second", rate=identity.rate)
        return tr(
            "{lead}: serial {serial}, {rate:g} samples a second, {symbol}",
            lead=lead,
            serial=identity.serial,
            rate=identity.rate,
            symbol=identity.unit.symbol,
        )

    def _trouble(self, sentence: str, over: bool) -> None:
        if over:
            self.identity, self.recent, self.pulling = None, np.empty(0), False
        if sentence != FLOODS or not self.wrong:  # of another meter nothing is taken, however fast it sends
            self.said.emit(sentence, "fault", over)
        self.changed.emit()

    def _recovered(self) -> None:
        if self.wrong:
            self.said.emit(self.wrong, "fault", True)
        elif self.identity is not None:
            self.said.emit(self._linked_words(self.identity, tr("Linked again")), "quiet", False)
        self.changed.emit()

    # What it shows

    def _samples(self, samples: Values, rate: float) -> None:
        if self.wrong:
            return
        self.recent = np.concatenate([self.recent, samples])[-max(2, int(REST_SECONDS * rate)) :]
        self.samples.emit(samples, rate)

    def _passing(self, signal: pyqtBoundSignal) -> Callable[[object], None]:
        """Passes on what comes, from the right meter alone."""

        def passed(news: object) -> None:
            if not self.wrong:
                signal.emit(news)

        return passed

    def _valued(self, value: float) -> None:
        """A value that it caught itself: a torque in N·m, or what a gauge shows, which the lever makes a torque."""
        reference = self._reference
        if self.wrong:
            return
        if reference is None or reference.sends is Kind.TORQUE or self.identity is None:
            self.valued.emit(value)
            return
        try:
            self.valued.emit(reference.torque_of(abs(value), self.identity.unit))
        except InputRefused as refusal:
            self.said.emit(
                tr("The gauge shows {value:g}: {reason}. Nothing is taken.", value=value, reason=refusal.reason),
                "fault",
                False,
            )

    def zero(self) -> float | None:
        """What a streaming meter shows at rest, in N·m; None while it moves or without one."""
        reference = self._reference
        if not self.streams or reference is None or len(self.recent) < 20:
            return None
        full = reference.maximum
        mean = float(self.recent.mean())
        if float(np.ptp(self.recent)) > REST_SPREAD * full or abs(mean) > REST_LEVEL * full:
            return None
        if not still(self.recent, reference.zero_tolerance / 4):
            return None
        return float(fixed(mean, 6).replace("−", "-"))

    # What it is told

    def send(self, command: str) -> None:
        if self._watch is not None:
            self._watch.send(command)

    def ask_room(self) -> None:
        """Ask what its own sensors say of the room; a meter without them says nothing."""
        self.send("room")

    def aim(self, run: RunState) -> None:
        """Tell the link, and the simulated tool, what comes next."""
        watch = self._watch
        if watch is None or self.pulling:
            return
        aim = _aim_of(run)
        wanted = (run.tool.number, aim, run.direction)
        if wanted == self._aimed:
            return
        watch.aim(aim)
        if self.simulated:
            if not isinstance(self._aimed, tuple) or self._aimed[0] != run.tool.number:
                watch.send(f"tool {run.tool.number}")
            below = " from below" if run.tool.approach is Approach.FROM_BELOW else ""
            watch.send(f"direction {run.direction}")
            watch.send(f"set {aim.target:.6g} N.m{below}")
        self._aimed = wanted

    def pull(self) -> None:
        """Begin to pull the simulated tool."""
        if not self.pulling and self.simulated and self.linked:
            self.pulling = True
            self.send("pull")

    def let_go(self) -> None:
        if self.pulling:
            self.pulling = False
            self.send("release")


def _aim_of(run: RunState) -> PullAim:
    """What the run's next pull goes for."""
    target = target_of(run)
    overload = run.reference.maximum if run.reference is not None else None
    return PullAim(
        target if math.isfinite(target) else 1.0, run.meter_mode, run.tool.mechanism, run.rules.pull, overload
    )


def _steps(identity: Identity, reference: ReferenceFacts | None) -> str:
    """The step of the values that a meter writes, where they have told it, and whether the register takes it for finer."""
    if not identity.step:
        return ""
    known = reference.resolution if reference is not None else 0.0
    shown = tr(", in steps of {to_si}", to_si=quantity(identity.unit.to_si(identity.step), identity.unit))
    of_torque = identity.unit.kind is Kind.TORQUE
    if of_torque and identity.unit.to_si(identity.step) > known * 1.001:
        return tr(
            "{shown}; the register says {known}: correct it there", shown=shown, known=quantity(known, identity.unit)
        )
    return shown
